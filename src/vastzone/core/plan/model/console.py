"""A console as it is wired to a scanning encoder: blocks of contacts on lines and commons, shoes.

Note lines, usually twelve, are shared by everything; each keyboard, and the stops, have commons of
their own.  A contact joins one common to one line through a diode.
"""

from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.plan.model.values import Byte, Id, Name, Text, Value, Volts
from vastzone.core.say import noted

Reading = Literal["open", "closed", "one way", "other way", "both ways"]
School = Literal["lowest key", "note names"]
EncoderSchool = Literal["lowest key", "note names", "either"]
Facing = Literal["common to line", "line to common"]
FaultKind = Literal[
    "open wire",
    "open pin",
    "short",
    "open contact",
    "reversed diode",
    "shorted diode",
    "stuck contact",
    "swapped wires",
    "wrong sense",
    "wrong lowest note",
    "wrong school",
]
Pin = Annotated[int, Meta(ge=1, le=256)]
Metres = Annotated[float, Meta(ge=0, le=100)]
Count = Annotated[int, Meta(ge=0, le=256)]
Amount = Annotated[float, Meta(ge=0, le=1_000_000)]

COMMON = 1000
"""Places from here on are commons, those below are lines (``Fault.at``)."""
CONTACTS: frozenset[FaultKind] = frozenset(
    (
        "open contact",
        "reversed diode",
        "shorted diode",
        "stuck contact",
    )
)
"""Faults of a single contact."""
COLOURS = (
    noted("black"),
    noted("brown"),
    noted("red"),
    noted("orange"),
    noted("yellow"),
    noted("green"),
    noted("blue"),
    noted("violet"),
    noted("grey"),
    noted("white"),
    noted("pink"),
    noted("turquoise"),
)
"""The ten colours of IEC 60062 in their order, and two more of IEC 60757, for twelve lines."""


class Encoder(Value, frozen=True, kw_only=True):
    """What scans: its pins, how many keyboards it knows, how long a scan takes, its inputs’ rating.

    ``settle_us`` is how long a line needs after a common is driven, ``debounce_ms`` how long a
    contact has to stand.  One that ``erases`` forgets everything when it is set up again.  It
    ``asks`` for the lowest note of a keyboard by number, or by octave (in its device’s naming) and
    an index that is ``first_index`` for C.  Its lines count from the lowest key of a keyboard,
    whatever key that is, or carry fixed note names, as its ``school`` says; some are told which.
    """

    lines: Annotated[int, Meta(ge=1, le=64)] = 12
    commons: Pin = 24
    analogue: Count = 4
    keyboards: Annotated[int, Meta(ge=1, le=32)] = 5
    settle_us: Annotated[float, Meta(ge=0, le=10_000)] = 60.0
    debounce_ms: Annotated[float, Meta(ge=0, le=100)] = 2.0
    low: Volts = 0.0
    high: Volts = 5.0
    erases: bool = True
    asks: Literal["octave and index", "note number"] = "octave and index"
    first_index: Literal[0, 1] = 0
    school: EncoderSchool = "either"


class Block(Value, frozen=True, kw_only=True):
    """A keyboard, or stops and pistons, as they are wired.

    Lines count from its lowest key, or carry fixed note names, as its ``school`` says.  Its diodes
    face as ``facing`` says, the encoder is told ``declared``; without ``diodes`` there are none.
    ``commons`` are the encoder’s pins in order, empty while they are open; what is ``soldered``
    keeps them.  It is ``distance`` metres from the encoder, its contacts ``pitch`` metres apart.
    """

    id: Id
    name: Name
    keybed: Id | None = None
    controls: tuple[Id, ...] = ()
    school: School = "lowest key"
    facing: Facing = "common to line"
    declared: Facing = "common to line"
    diodes: bool = True
    commons: tuple[Pin, ...] = ()
    soldered: bool = False
    distance: Metres = 1.5
    pitch: Metres = 0.014

    @property
    def counts(self) -> School:
        """How its lines count: stops have no note names."""
        return self.school if self.keybed else "lowest key"


class Shoe(Value, frozen=True, kw_only=True):
    """A swell or crescendo shoe: the control, its analogue input, volts at heel and toe.

    ``noise`` is its jitter in steps of 0–127; less than ``hysteresis`` steps are ignored.  Its
    ``track`` may be connected the wrong way round, or be worn where it is used most.
    """

    control: Id
    input: Annotated[int, Meta(ge=1, le=64)] | None = None
    heel: Volts = 0.0
    toe: Volts = 5.0
    noise: Annotated[float, Meta(ge=0, le=64)] = 0.0
    track: Literal["whole", "reversed", "worn"] = "whole"
    hysteresis: Byte = 1


class Fault(Value, frozen=True, kw_only=True):
    """What is wrong in a console.

    ``at`` and ``to`` are places: of a contact its number from 0; of a wire of a block its line
    from 0, or 1000 and its common from 0; of a pin likewise; of a wrong lowest note or school the
    semitones.
    """

    kind: FaultKind
    block: Id | None = None
    at: int = 0
    to: int = 0


class Rates(Value, frozen=True, kw_only=True):
    """A person’s own pace and prices; the currency is theirs."""

    joint_minutes: Amount = 1.5
    test_minutes: Amount = 0.5
    hour: Amount = 0.0
    diode: Amount = 0.05
    connector: Amount = 2.5
    metre: Amount = 0.4
    encoder: Amount = 180.0


class Item(Value, frozen=True, kw_only=True):
    """Something that a way to a console still needs, and its price."""

    name: Name
    price: Amount = 0.0


class Way(Value, frozen=True, kw_only=True):
    """A way to a console: what it costs at once, the hours of work, the floor it takes (m²)."""

    name: Name
    price: Amount = 0.0
    hours: Amount = 0.0
    floor: Amount = 0.0
    skill: Text = ""
    missing: tuple[Item, ...] = ()
    wired: bool = False


class Seen(Value, frozen=True, kw_only=True):
    """What was observed while a fault is sought.

    A «strike» of the contacts ``at``, by their place in the circuit, and what was ``heard``, each
    a block and a number from 0; a meter put at ``at`` and its ``reading``; or the encoder’s own
    «pin test» and the pins that were ``heard`` to be joined, in pairs of places.
    """

    kind: Literal["strike", "wire", "pins", "diode", "rest", "pin test"]
    at: tuple[int, ...] = ()
    heard: tuple[tuple[int, int], ...] = ()
    reading: Reading | None = None


class FailedWire(Value, frozen=True, kw_only=True):
    """A wire that did not conduct as it should when it was tested, and how."""

    wire: Text
    how: Text = "open"


class Console(Value, frozen=True, kw_only=True):
    """Everything behind one encoder.

    ``room`` commons are kept free after each block.  ``faults`` are those that it is known to
    have; ``hidden`` are those that nobody has found yet: only the simulated console has them, for
    practice, and the proof, which proves what is known, has not.  ``soldered`` and ``tested`` are
    wires by id, ``failed`` those that are still to be mended; ``seen`` is the log of the fault
    finder.  Prices are in a ``currency`` of the person’s own.
    """

    encoder: Encoder = Encoder()
    blocks: tuple[Block, ...] = ()
    shoes: tuple[Shoe, ...] = ()
    room: Annotated[int, Meta(ge=0, le=8)] = 0
    colours: Annotated[tuple[Name, ...], Meta(max_length=64)] = COLOURS
    rates: Rates = Rates()
    currency: Annotated[str, Meta(max_length=12)] = ""
    ways: tuple[Way, ...] = ()
    faults: tuple[Fault, ...] = ()
    hidden: tuple[Fault, ...] = ()
    soldered: tuple[Text, ...] = ()
    tested: tuple[Text, ...] = ()
    failed: tuple[FailedWire, ...] = ()
    seen: tuple[Seen, ...] = ()
