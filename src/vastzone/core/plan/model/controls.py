"""What is touched: keybeds with their zones, and controls with what they send."""

from typing import Annotated, Literal

from msgspec import Meta
from msgspec.structs import force_setattr

from vastzone.core.midi.turns import Turning
from vastzone.core.plan.model.bodies import Spot
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.setlists import ProgramSent
from vastzone.core.plan.model.values import (
    Byte,
    Channel,
    ControlKind,
    Id,
    Level,
    Mode,
    Name,
    Octaves,
    Positive,
    Rate,
    Semitones,
    Sending,
    Slew,
    Value,
    Velocity,
)

Curve = Literal["linear", "easy", "hard", "s-shaped"]
Point = tuple[Byte, Byte]
Division = Literal["1/4", "1/4t", "1/8", "1/8t", "1/16", "1/16t", "1/32", "1/32t"]
Zoned = Literal[
    "head",
    "rim",
    "bow",
    "edge",
    "bell",
    "cross-stick",
    "brush",
    "open",
    "half",
    "closed",
    "open edge",
    "half edge",
    "closed edge",
    "pedal",
    "foot chick",
    "foot splash",
]


class Keybed(Value, frozen=True, kw_only=True):
    """A row of ``keys`` keys whose lowest sends note ``low`` when nothing is shifted.

    It lies ``at`` a place of the device's face, where nobody said at the usual one.
    """

    id: Id
    name: Name
    low: Byte
    keys: Positive
    at: Spot | None = None

    @property
    def high(self) -> int:
        """The note of the highest key."""
        return self.low + self.keys - 1


class Zone(Value, frozen=True, kw_only=True):
    """Keys ``low``–``high`` of a keybed, struck at ``vel_low``–``vel_high``, sent on ``channel``.

    The note sent is the key's own, ``octave`` octaves and ``transpose`` semitones away.
    ``ports`` names the outputs used, all of them when empty.  ``layer`` says that the zone is
    meant to sound together with the zones it overlaps.  One that is ``drawn_by`` a stop or a button
    of its device couples: it sends only while that is drawn.
    """

    id: Id
    name: Name
    keybed: Id
    low: Byte
    high: Byte
    channel: Channel = 1
    vel_low: Velocity = 1
    vel_high: Velocity = 127
    transpose: Semitones = 0
    octave: Octaves = 0
    on: bool = True
    layer: bool = False
    ports: tuple[Id, ...] = ()
    drawn_by: Id | None = None

    @property
    def sends(self) -> bool:
        """Whether it sends with nothing drawn."""
        return self.on and self.drawn_by is None

    @property
    def shift(self) -> int:
        """Semitones from the key to the note sent."""
        return self.octave * 12 + self.transpose


class Drive(Value, frozen=True, kw_only=True):
    """What moves by itself: with the speed of playing, at random, or through a row of values.

    The speed of playing is in strikes a second, ``slow``–``fast`` from end to end, smoothed over
    ``smooth_ms`` with nothing below ``slow``.  A random value or the next of ``values`` comes with
    each strike; ``seed`` makes the random ones the same again.
    """

    kind: Literal["speed", "random", "steps"] = "speed"
    slow: Rate = 1.0
    fast: Rate = 12.0
    smooth_ms: Slew = 400.0
    values: Annotated[tuple[Byte, ...], Meta(max_length=32)] = (0, 42, 85, 127)
    seed: int = 1


class Control(Value, frozen=True, kw_only=True):
    """Something other than a key that a hand or foot moves; it exists once in each bank.

    A pad is square, round, or a bar over ``span`` columns.  One of a drum module is the ``zone``
    of whatever is plugged into ``input``.  A «source» moves by itself, as its ``drive`` says.
    ``sends`` are the messages that it can send, those of its kind where none are named.  An
    ``endless`` one turns on without ends, and a switch that ``latches`` stays down until it is
    pressed again.  It ``can`` be told to do these things in its own device; a tempo takes so many
    ``taps``.  It lies ``at`` a place of the device's face, where nobody said at the usual one.
    """

    id: Id
    name: Name
    kind: ControlKind
    banks: Positive = 1
    row: int = 0
    column: int = 0
    shape: Literal["square", "round", "bar"] = "square"
    span: Annotated[int, Meta(ge=1, le=16)] = 1
    input: Id | None = None
    zone: Zoned | None = None
    drive: Drive | None = None
    sends: tuple[Sending, ...] = ()
    endless: bool = False
    latches: bool = False
    can: tuple[Function, ...] = ()
    taps: Annotated[int, Meta(ge=2, le=8)] = 4
    at: Spot | None = None


class VelocityCurve(Value, frozen=True, kw_only=True):
    """A velocity curve that a device offers by name, through a few points struck against sent."""

    name: Name
    points: Annotated[tuple[Point, ...], Meta(max_length=12)]


class Repeat(Value, frozen=True, kw_only=True):
    """A pad that strikes again while it is held: how often, and where the off-beat lies (in %)."""

    division: Division = "1/8"
    swing: Annotated[int, Meta(ge=50, le=80)] = 50


class Send(Value, frozen=True, kw_only=True):
    """What a control sends in one bank of one program.

    ``number`` is the note, controller or program; ``low`` and ``high`` are the values sent at
    rest and when pressed, or at both ends of the travel; of a note, the velocities that the
    softest and the hardest strike send along ``curve``, unless it is ``fixed``.  ``channel`` None
    follows the zones that are on.  ``points`` draw a curve of one's own, struck or moved against
    sent before the limits are put on it, and take the place of ``curve``.  Only travel from
    ``starts`` to ``ends`` counts, and below ``threshold`` it stays at rest.  What is sent by a
    stroke may come from a ``drive`` of its own, a row of values or chance, and only so many strokes
    in a hundred, its ``chance``, send at all.  An endless control sends where it stands, or how far
    it was turned, as its ``turning`` says.

    Whatever is sent, its device ``does`` something itself.

    A «pair» sends 14 bits on controllers ``number`` and ``number`` + 32; «rpn» and «nrpn» set the
    parameter ``page``/``number``.

    Sends of one control in one bank are told apart by ``layer``: each is for strikes
    ``vel_low``–``vel_high``; ``fade`` says that it is meant to blend into those it overlaps.
    Striking a pad that ``mutes`` a group stops every pad of the device that is ``muted_by`` it.
    """

    control: Id
    message: Sending
    bank: Positive = 1
    channel: Channel | None = None
    number: Byte = 0
    low: Level = 0
    high: Level = 127
    mode: Mode = "momentary"
    ports: tuple[Id, ...] = ()
    layer: Annotated[int, Meta(ge=0, le=7)] = 0
    vel_low: Velocity = 1
    vel_high: Velocity = 127
    fade: bool = False
    fixed: Velocity | None = None
    curve: Curve = "linear"
    points: Annotated[tuple[Point, ...], Meta(max_length=12)] = ()
    mutes: Id | None = None
    muted_by: Id | None = None
    repeat: Repeat | None = None
    page: Byte = 0
    starts: Byte = 0
    ends: Byte = 127
    threshold: Byte = 0
    does: Function | None = None
    drive: Drive | None = None
    chance: Annotated[int, Meta(ge=1, le=100)] = 100
    turning: Turning = "absolute"

    @property
    def wide(self) -> int:
        """The number on the wire: of a parameter 0–16383, else ``number``."""
        return self.page << 7 | self.number if self.message in ("rpn", "nrpn") else self.number

    @property
    def thing(self) -> str:
        """How settings name it inside a program: control, bank, and the layer above the first."""
        return f"{self.control}.{self.bank}" + (f".{self.layer}" if self.layer else "")


class KitChoice(Value, frozen=True, kw_only=True):
    """The kit that a part is on while a program is selected."""

    part: Id
    kit: Id


class Slot(Value, frozen=True, kw_only=True):
    """A place in a device's memory: a program number 0–127 in a bank 0–16383, as on the wire."""

    number: Byte
    bank: Annotated[int, Meta(ge=0, le=16383)] = 0


class Program(Value, frozen=True, kw_only=True):
    """What a device holds in slot ``number``, 0–127 as on the wire, and in those ``also`` named.

    Its ``id`` stays the same wherever it is stored; one that is not named is called by its number.
    As it is selected it ``selects`` programs of other devices, by what it sends.
    """

    id: Id = ""
    number: Byte
    name: Name
    zones: tuple[Zone, ...] = ()
    sends: tuple[Send, ...] = ()
    kits: tuple[KitChoice, ...] = ()
    also: tuple[Slot, ...] = ()
    selects: tuple[ProgramSent, ...] = ()

    def __post_init__(self) -> None:
        """Call it by its number where it has no name of its own."""
        if not self.id:
            force_setattr(self, "id", str(self.number))
