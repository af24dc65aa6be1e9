"""What is under the pointer, in words: each device's name for the note, the wire, what sounds."""

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Label
from vastzone.app.theme.current import THEME
from vastzone.app.views.keys.canvas import Pointed
from vastzone.core.engine.tables import Emission
from vastzone.core.engine.why import why_silent
from vastzone.core.midi import pitch
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, read_ref
from vastzone.core.say import say
from vastzone.desk.session import Desk

IDLE = say("Point at a key to read it; strike it to hear where it goes. Drag the ends of a zone.")
TYPICAL = 84


class PointerLine(Label):
    """Two lines of text about the key, zone or part under the pointer."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(IDLE)
        self._desk = desk
        self.setTextFormat(Qt.TextFormat.RichText)
        bound(self, "FixedHeight", 46)
        self.setContentsMargins(16, 0, 16, 0)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(say("Under the pointer"))

    def show_hit(self, hit: Pointed | None) -> None:
        """Say what lies there."""
        if hit is None:
            self.setText(_muted(IDLE))
        elif hit.kind == "key":
            self.setText(self._key(hit))
        elif hit.kind in ("zone", "low", "high") and hit.bar is not None:
            zone, owner = hit.bar.zone, hit.picture.owner
            keys = pitch.span(zone.low, zone.high, owner.octaves)
            how = (
                say("Drag to move this end.")
                if hit.kind != "zone"
                else say("Drag its ends to move them.")
            )
            self.setText(
                say(
                    "<b>{escape}</b> {keys}, channel {channel}. {muted}",
                    escape=escape(zone.name),
                    keys=keys,
                    channel=zone.channel,
                    muted=_muted(how),
                )
            )
        elif hit.kind == "part":
            device, ident = read_ref(hit.ref)
            owner = lookup.device(self._desk.plan, device)
            part = lookup.part(owner, ident)
            keys = pitch.span(part.low, part.high, owner.octaves)
            channel = (
                say("any channel")
                if part.channel is None
                else say("channel {channel}", channel=part.channel)
            )
            self.setText(
                say(
                    "<b>{escape}</b> in {escape_owner} answers {keys} on {channel}.",
                    escape=escape(part.name),
                    escape_owner=escape(owner.name),
                    keys=keys,
                    channel=channel,
                )
            )
        else:
            self.setText(
                say(
                    "<b>{escape}</b> {muted}",
                    escape=escape(hit.picture.owner.name),
                    muted=_muted(say("Select to edit it.")),
                )
            )

    def _key(self, hit: Pointed) -> str:
        owner = hit.picture.owner
        compiled = self._desk.compiled
        emissions = compiled.keys.get((hit.ref, hit.key), ())
        head = say(
            "<b>{pitch}</b> on {escape}",
            pitch=pitch.label(hit.key, owner.octaves),
            escape=escape(owner.name),
        )
        sent = "  ·  ".join(_sent(emission) for emission in emissions)
        sounds = "  ·  ".join(filter(None, (self._sounds(emission) for emission in emissions)))
        if not sounds:
            device, keybed = read_ref(hit.ref)
            reasons = why_silent(compiled, device, keybed, hit.key, TYPICAL)
            words = escape(reasons[0].sentence) if reasons else say("Nothing sounds.")
            sounds = say(
                '<span style="color:{fault}">{words}</span>', fault=THEME.colours.fault, words=words
            )
        return say(
            "{head}  →  {sent}<br>{sounds}",
            head=head,
            sent=sent or say("nothing sent"),
            sounds=sounds,
        )

    def _sounds(self, emission: Emission) -> str:
        told = []
        for landing in emission.landings:
            owner = lookup.device(self._desk.plan, device_of(landing.ref))
            note = pitch.label(landing.note, owner.octaves)
            told.append(
                say(
                    "<b>{escape}</b> {note} in {escape_owner}",
                    escape=escape(landing.part.name),
                    note=note,
                    escape_owner=escape(owner.name),
                )
            )
        return "  ·  ".join(dict.fromkeys(told))


def _muted(text: str) -> str:
    return say(
        '<span style="color:{muted}">{escape}</span>',
        muted=THEME.colours.muted,
        escape=escape(text),
    )


def _sent(emission: Emission) -> str:
    message = emission.message(TYPICAL).hex()
    return say(
        "ch {channel} note {note} <b>{message}</b>",
        channel=emission.channel + 1,
        note=emission.note,
        message=message,
    )
