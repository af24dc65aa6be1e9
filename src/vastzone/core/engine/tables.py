"""The flat tables that one strike is looked up in."""

from collections.abc import Mapping
from typing import NamedTuple

from vastzone.core.engine.network import Tree
from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import Reading
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.parts import Part, Target

KeyId = tuple[str, int]
"""A key as («device:keybed», note) or a control as («device:control», bank)."""


class Landing(NamedTuple):
    """A part that sounds ``note`` when struck within a window of velocities.

    ``step`` is the last step of its way through the emission's tree; −1 is the device's own
    keys.  ``after_ms`` is the device's own time from hearing to sounding.  ``plain`` parts are
    gated, polyphonic and in no mute group.
    """

    ref: str
    part: Part
    note: int
    low: int
    high: int
    step: int
    after_ms: float
    plain: bool


class TimedStep(NamedTuple):
    """One step of a way as the clock needs it; ``line`` is −1 where nothing can queue."""

    line: int
    parent: int
    before_ms: float
    ms: float
    short_ms: float


class Timing(NamedTuple):
    """The steps of a tree as the clock needs them, and what they come to on idle cables.

    ``children`` are the steps that follow each, ``times`` when each is reached, counted from the
    strike, and ``busy_ms`` until when a DIN line is taken.  A ``calm`` course depends on
    nothing that was sent before.
    """

    lines: tuple[TimedStep, ...]
    children: tuple[tuple[int, ...], ...]
    times: tuple[float, ...]
    busy_ms: float
    calm: bool


class Emission(NamedTuple):
    """A note that a zone or control sends, everywhere it goes, and everything it sounds.

    ``simple`` ones sound all their landings at every velocity of theirs, with no part that is
    mono, muting or toggling among them.  ``sent`` is the velocity sent for each strike, empty
    where it is the same; all windows are of strikes.
    """

    origin: str
    low: int
    high: int
    channel: int
    note: int
    tree: Tree
    course: Timing
    landings: tuple[Landing, ...]
    simple: bool
    sent: bytes = b""

    def message(self, velocity: int) -> Message:
        """The note-on as it goes over the wire."""
        sent = self.sent[velocity] if self.sent else velocity
        return Message("note_on", self.channel, self.note, sent)


class Run(NamedTuple):
    """Neighbouring keys of a zone that do the same, from ``low`` to ``high``.

    ``emission`` is told for key 0: its note and the notes of its landings count from the key.
    """

    low: int
    high: int
    emission: Emission

    def at(self, key: int) -> Emission:
        """What one key of it sends and sounds."""
        emission = self.emission
        landings = tuple(
            [
                Landing(
                    landing.ref,
                    landing.part,
                    key + landing.note,
                    landing.low,
                    landing.high,
                    landing.step,
                    landing.after_ms,
                    landing.plain,
                )
                for landing in emission.landings
            ]
        )
        return Emission(
            emission.origin,
            emission.low,
            emission.high,
            emission.channel,
            key + emission.note,
            emission.tree,
            emission.course,
            landings,
            emission.simple,
            emission.sent,
        )

    def moved(self, key: int, source: int) -> "Run":
        """What ``source``, a key of it, does, done by another key."""
        one, by = self.emission, source - key
        landings = tuple(landing._replace(note=landing.note + by) for landing in one.landings)
        return Run(key, key, one._replace(note=one.note + by, landings=landings))


class Hearing(NamedTuple):
    """A part or target that hears a movement after step ``step``, and which of its bits.

    ``target`` is None for a part.
    """

    ref: str
    step: int
    reads: Reading = "whole"
    target: Target | None = None

    @property
    def is_part(self) -> bool:
        """Whether a part hears it, not a target."""
        return self.target is None


class Motion(NamedTuple):
    """A movement that a control sends on one channel, and who hears it.

    ``number`` is that of the controller, of a parameter 0–16383.
    """

    message: str
    channel: int
    number: int
    tree: Tree
    course: Timing
    hearings: tuple[Hearing, ...]


class Sending(NamedTuple):
    """What a control sends in one bank: notes, or motions, under one setting.

    A ``struck`` control is pressed by any strike; one that travels when it passes its middle.  One
    that ``latches`` stays down until it is pressed again.  Its device ``does`` something besides.
    """

    send: Send
    notes: tuple[Emission, ...]
    motions: tuple[Motion, ...]
    struck: bool = False
    does: Function | None = None
    latches: bool = False


Keys = Mapping[KeyId, tuple[Emission, ...]]
Controls = Mapping[KeyId, tuple[Sending, ...]]
