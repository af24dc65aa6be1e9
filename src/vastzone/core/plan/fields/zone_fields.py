"""Fields of programs, of their zones, and of the kits that parts are on in them."""

from collections.abc import Callable
from typing import Any, Final

from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.fields.field import Field, ports_field
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.part_fields import kit_choices
from vastzone.core.plan.fields.values import (
    Listed,
    Note,
    OnOff,
    Ports,
    Stored,
    Typed,
    Whole,
    as_number,
    signed,
)
from vastzone.core.plan.model.setlists import ProgramSent
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability, device_ability, has_field
from vastzone.core.say import say
from vastzone.core.text import quoted, whole_number

Z: Final = "zone-range"


def _keys(owner: Owner) -> tuple[int, int]:
    bed = lookup.keybed(owner.device, owner.thing.keybed)
    return bed.low, bed.high


class ZoneShift(Whole):
    """A shift in semitones; the lowest note of the keyboard where an encoder asks for that.

    That may be said in two pieces, as the encoder wants them: the octave in its own naming, and an
    index within it.
    """

    def __init__(self) -> None:
        super().__init__(-60, 60, say=signed)

    def stored(self, _owner: Owner, value: Any) -> int:
        """Its semitones."""
        return int(value)

    def words(self, owner: Owner, stored: Stored) -> str:
        """The shift, or the lowest note that it makes."""
        device, shift = owner.device, as_number(stored)
        if device.console is None:
            return signed(owner, shift)
        lowest = lookup.keybed(device, owner.thing.keybed).low + shift
        if not 0 <= lowest <= 127:
            return f"{shift:+}".replace("-", "−")
        encoder = device.console.encoder
        if encoder.asks == "note number":
            return pitch.label(lowest, device.octaves)
        octave, index = pitch.octave_and_index(lowest, device.octaves, encoder.first_index)
        told = say(
            "{pitch}: octave {octave}", pitch=pitch.name(lowest, device.octaves), octave=octave
        )
        return (
            told
            if encoder.school == "note names"
            else say("{told}, index {index}", told=told, index=index)
        )


def _there_or(field: str, usual: int) -> Callable[[Owner], bool]:
    """Whether a device has a field of zones, or something is set in it all the same."""

    def has(owner: Owner) -> bool:
        return has_field(owner.device, f"zone/{field}") or getattr(owner.thing, field) != usual

    return has


def _scanned(owner: Owner) -> bool:
    """Whether the zone is a whole keyboard of an encoder, which knows no parts of it."""
    if owner.device.console is None or not device_ability(owner.device).scans:
        return False
    whole = (owner.thing.low, owner.thing.high) == _keys(owner)
    return owner.device.kind == "encoder" and whole


def _parted(owner: Owner) -> bool:
    """Whether a zone has ends to be told."""
    return not _scanned(owner)


def _told_shift(owner: Owner) -> int:
    """The transposition; of an encoder’s keyboard all that is in the lowest note it is told."""
    shift = owner.thing.shift if owner.device.console is not None else owner.thing.transpose
    return int(shift)


def _put_shift(owner: Owner, shift: int) -> dict[str, Any]:
    return {"transpose": shift, "octave": 0} if owner.device.console else {"transpose": shift}


_soft, _loud = _there_or("vel_low", 1), _there_or("vel_high", 127)
_has_octave = _there_or("octave", 0)


def _octave(owner: Owner) -> bool:
    """Whether octaves are set apart from semitones: an encoder is told both in one note."""
    return owner.device.console is None and _has_octave(owner)


def _stops(owner: Owner) -> tuple[tuple[str, Any], ...]:
    """What can draw a coupler: everything that is pressed or pulled."""
    stops = []
    for control in owner.device.controls:
        if control_ability(control).pressed:
            stops.append((control.name, control.id))
    return tuple(stops)


def _drawn(owner: Owner) -> bool:
    """Whether a zone can be a coupler: behind a console, or where it is one already."""
    can = owner.device.console is not None and has_field(owner.device, "zone/drawn_by")
    return can or owner.thing.drawn_by is not None


class SentPrograms(Typed):
    """Program changes that a program sends: channel and number as they are counted, «3: 12»."""

    def stored(self, _owner: Owner, value: Any) -> str:
        """Channel and number on the wire."""
        return ", ".join(_sent_text(sent) for sent in value)

    def held(self, _owner: Owner, stored: Stored) -> tuple[ProgramSent, ...]:
        """The program changes.  Raises EditError for what is none."""
        return tuple(_read_sent(piece) for piece in str(stored).split(",") if piece.strip())

    def words(self, _owner: Owner, stored: Stored) -> str:
        """In words."""
        told = []
        for sent in self.held(_owner, stored):
            places = {"channel": sent.channel, "number": sent.number, "bank": sent.bank}
            if sent.bank is None:
                told.append(say("channel {channel}: {number}", **places))
            else:
                told.append(say("channel {channel}: bank {bank} {number}", **places))
        return ", ".join(told) or say("nothing")

    def shown(self, owner: Owner, value: Any) -> str:
        """As it is typed."""
        return self.stored(owner, value)

    def entered(self, owner: Owner, shown: Any) -> tuple[ProgramSent, ...]:
        """As it stands in the plan."""
        return self.held(owner, shown)


def _sent_text(sent: ProgramSent) -> str:
    bank = "" if sent.bank is None else f"bank {sent.bank} "
    return f"channel {sent.channel}: {bank}{sent.number}"


def _read_sent(words: str) -> ProgramSent:
    channel, _, rest = words.replace("channel", "").partition(":")
    bank, _, number = rest.replace("bank", "").strip().rpartition(" ")
    numbers = (whole_number(channel), whole_number(number), whole_number(bank) if bank else None)
    first, second, third = numbers
    wrong = first is None or second is None or (bool(bank) and third is None)
    if wrong or not (1 <= (first or 0) <= 16 and 0 <= (second or 0) <= 127):
        raise EditError(
            say(
                "“{words}” is no program change: write channel and number, “3: 12”.",
                words=quoted(words.strip()),
            )
        )
    return ProgramSent(channel=first or 1, number=second or 0, bank=third)


def _selects(owner: Owner) -> bool:
    """Whether a program selects others, or its device leads any."""
    return bool(owner.thing.selects)


ZONE_FIELDS: tuple[Field, ...] = (
    Field("program", "name", say("Name"), "program", Typed()),
    Field("program", "selects", say("Selects"), "program", SentPrograms(), _selects, ()),
    Field("zone", "name", say("Name"), Z, Typed(), kept="nowhere"),
    Field("zone", "channel", say("Channel"), "zone-channel", Whole(1, 16), solved=True),
    Field(
        "zone", "low", say("Lowest"), Z, Note(_keys), _parted, solved=True, asked=say("Lowest key")
    ),
    Field(
        "zone",
        "high",
        say("Highest"),
        Z,
        Note(_keys),
        _parted,
        solved=True,
        asked=say("Highest key"),
    ),
    Field(
        "zone",
        "vel_low",
        say("Softest velocity"),
        Z,
        Whole(1),
        _soft,
        solved=True,
        asked=say("Softest"),
    ),
    Field(
        "zone",
        "vel_high",
        say("Loudest velocity"),
        Z,
        Whole(1),
        _loud,
        solved=True,
        asked=say("Loudest"),
    ),
    Field(
        "zone",
        "transpose",
        say("Transpose"),
        "zone-shift",
        ZoneShift(),
        solved=True,
        console_name=say("Lowest note"),
        get=_told_shift,
        put=_put_shift,
    ),
    Field(
        "zone",
        "octave",
        say("Octave shift"),
        "zone-shift",
        Whole(-5, 5, say=signed),
        _octave,
        solved=True,
    ),
    Field("zone", "on", say("Zone"), Z, OnOff(), solved=True, asked=say("On")),
    Field(
        "zone",
        "drawn_by",
        say("While drawn"),
        Z,
        Listed(_stops, say("always")),
        _drawn,
        None,
        asked=say("Sounds while"),
    ),
    ports_field("zone", "outputs", say("Outputs"), "outputs", Ports("out")),
    Field("zone", "layer", say("Part of a layer"), Z, OnOff(), kept="nowhere"),
    Field("kit choice", "kit", say("Kit"), "program", Listed(kit_choices)),
)
