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
from vastzone.desk.session import Desk

IDLE = "Point at a key to read it; strike it to hear where it goes. Drag the ends of a zone."
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
        self.setAccessibleName("Under the pointer")

    def show_hit(self, hit: Pointed | None) -> None:
        """Say what lies there."""
        if hit is None:
            self.setText(_muted(IDLE))
        elif hit.kind == "key":
            self.setText(self._key(hit))
        elif hit.kind in ("zone", "low", "high") and hit.bar is not None:
            zone, owner = hit.bar.zone, hit.picture.owner
            keys = pitch.span(zone.low, zone.high, owner.octaves)
            how = "Drag to move this end." if hit.kind != "zone" else "Drag its ends to move them."
            self.setText(
                f"<b>{escape(zone.name)}</b> {keys}, channel {zone.channel}. {_muted(how)}"
            )
        elif hit.kind == "part":
            device, ident = read_ref(hit.ref)
            owner = lookup.device(self._desk.plan, device)
            part = lookup.part(owner, ident)
            keys = pitch.span(part.low, part.high, owner.octaves)
            channel = "any channel" if part.channel is None else f"channel {part.channel}"
            self.setText(
                f"<b>{escape(part.name)}</b> in {escape(owner.name)} answers {keys} on {channel}."
            )
        else:
            self.setText(f"<b>{escape(hit.picture.owner.name)}</b> {_muted('Select to edit it.')}")

    def _key(self, hit: Pointed) -> str:
        owner = hit.picture.owner
        compiled = self._desk.compiled
        emissions = compiled.keys.get((hit.ref, hit.key), ())
        head = f"<b>{pitch.label(hit.key, owner.octaves)}</b> on {escape(owner.name)}"
        sent = "  ·  ".join(_sent(emission) for emission in emissions)
        sounds = "  ·  ".join(filter(None, (self._sounds(emission) for emission in emissions)))
        if not sounds:
            device, keybed = read_ref(hit.ref)
            reasons = why_silent(compiled, device, keybed, hit.key, TYPICAL)
            words = escape(reasons[0].sentence) if reasons else "Nothing sounds."
            sounds = f'<span style="color:{THEME.colours.fault}">{words}</span>'
        return f"{head}  →  {sent or 'nothing sent'}<br>{sounds}"

    def _sounds(self, emission: Emission) -> str:
        told = []
        for landing in emission.landings:
            owner = lookup.device(self._desk.plan, device_of(landing.ref))
            note = pitch.label(landing.note, owner.octaves)
            told.append(f"<b>{escape(landing.part.name)}</b> {note} in {escape(owner.name)}")
        return "  ·  ".join(dict.fromkeys(told))


def _muted(text: str) -> str:
    return f'<span style="color:{THEME.colours.muted}">{escape(text)}</span>'


def _sent(emission: Emission) -> str:
    message = emission.message(TYPICAL).hex()
    return f"ch {emission.channel + 1} note {emission.note} <b>{message}</b>"
