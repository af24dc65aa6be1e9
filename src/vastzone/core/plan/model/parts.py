"""What sounds and what moves: parts, kits and targets."""

from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.midi.turns import Turning
from vastzone.core.midi.wide import UNNUMBERED, Moving
from vastzone.core.plan.model.audio import OutputChoice, Pan
from vastzone.core.plan.model.values import (
    Bend,
    Byte,
    Channel,
    Colour,
    Id,
    Mode,
    Name,
    Receiving,
    Repitch,
    Semitones,
    Slew,
    Tag,
    Value,
    Velocity,
)

Trigger = Literal["gate", "one-shot", "toggle"]


class Part(Value, frozen=True, kw_only=True):
    """A listener in a device; ``channel`` None is omni.

    It answers notes ``low``–``high`` at velocities ``vel_low``–``vel_high`` and sounds them
    ``transpose`` semitones away.  With a ``kit`` it answers only the notes that the kit holds.
    ``ports`` names the inputs it listens to, all of them when empty.  ``layer`` says that it is
    meant to sound together with other parts on its channel.  Pitch bend moves it ``bend``
    semitones at most.  Where it is one sample, played faster or slower from its ``root``, it may
    be played ``repitch`` semitones from there.  It leaves its device at ``output``, as loud as
    ``level`` says, ``pan`` to the left (−64) or the right.
    """

    id: Id
    name: Name
    tag: Tag
    colour: Colour = 0
    channel: Channel | None = 1
    low: Byte = 0
    high: Byte = 127
    vel_low: Velocity = 1
    vel_high: Velocity = 127
    transpose: Semitones = 0
    root: Byte = 60
    repitch: Repitch | None = None
    mono: bool = False
    trigger: Trigger = "gate"
    sustains: bool = True
    mute_group: Id | None = None
    rhythm: bool = False
    output: OutputChoice = ""
    level: Byte = 100
    pan: Pan = 0
    kit: Id | None = None
    layer: bool = False
    ports: tuple[Id, ...] = ()
    loud: bool = False
    bend: Bend = 2
    receives: Receiving = "set"


class Sound(Value, frozen=True, kw_only=True):
    """One sound of a kit and the note 0–127 that calls it; a ``loud`` one must not be hit by
    accident."""

    id: Id
    name: Name
    note: Byte
    loud: bool = False


class Kit(Value, frozen=True, kw_only=True):
    """Which sound is on which note; a ``fixed`` kit cannot be rearranged."""

    id: Id
    name: Name
    sounds: tuple[Sound, ...]
    fixed: bool = True


class Target(Value, frozen=True, kw_only=True):
    """A parameter that a controller moves from ``low`` to ``high`` in its own ``unit``.

    It follows with a rise and a fall time of its own: milliseconds to 63 % of a jump.

    It listens on the channel of ``part``, or on ``channel`` where it belongs to no part (None is
    then any channel).  ``controller`` None means that nothing is assigned.  ``role`` is the
    controller number that the MIDI standard gives to such a parameter.

    What ``answers`` a «pair» takes 14 bits from ``controller`` and ``controller`` + 32; «rpn» and
    «nrpn» are the parameter ``page``/``controller``, a «program» is selected by the program
    ``controller``; «bend» and «pressure» have no number.  With pick-up it waits until a control
    meets the value that stands.  Where its assign has limits of its own, all of a controller moves
    it from ``least`` to ``most`` only, in its unit.  It should not go above ``ceiling``.
    It reads a controller as the value to go to, or as turns by steps, as ``turning`` says.
    ``together`` says that several controls are meant to move it.  ``louder`` is how many dB louder
    its part is at values 0–127, measured or typed.
    """

    id: Id
    name: Name
    part: Id | None = None
    channel: Channel | None = None
    controller: Byte | None = None
    role: Byte | None = None
    unit: str = ""
    low: float = 0.0
    high: float = 127.0
    mode: Mode | Literal["continuous"] = "continuous"
    rise_ms: Slew = 0.0
    fall_ms: Slew = 0.0
    answers: Moving = "controller"
    page: Byte = 0
    takeover: Literal["jump", "pick-up"] = "jump"
    ceiling: float | None = None
    least: float | None = None
    most: float | None = None
    together: bool = False
    louder: Annotated[tuple[tuple[Byte, float], ...], Meta(max_length=12)] = ()
    receives: Receiving = "set"
    turning: Turning = "absolute"

    @property
    def wide(self) -> int | None:
        """The number that it listens for: of a parameter 0–16383, else ``controller``.

        0 where messages have none.
        """
        if self.answers in UNNUMBERED:
            return 0
        if self.controller is None or self.answers not in ("rpn", "nrpn"):
            return self.controller
        return self.page << 7 | self.controller

    @property
    def reach(self) -> tuple[float, float]:
        """Where the lowest and the highest value put it, in its unit."""
        least = self.low if self.least is None else self.least
        return least, self.high if self.most is None else self.most

    @property
    def sweeps(self) -> bool:
        """Whether it follows a travel, and is not just switched or selected."""
        return self.mode == "continuous" and self.answers != "program"
