"""Wishes, and who decides the numbers that make them true."""

from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.plan.model.values import (
    Byte,
    Id,
    Name,
    Positive,
    Ref,
    Semitones,
    Text,
    Value,
    Velocity,
)

Hold = Literal["free", "worked out", "locked", "followed"]
ControllerSchool = Literal["standard", "undefined", "run"]
SettingName = Annotated[str, Meta(pattern=r"^[a-z0-9-]+(/[a-z0-9._-]+){2,4}$", max_length=200)]


class Wish(Value, frozen=True, kw_only=True, cache_hash=True):
    """In these scenes (all when empty) these controls or keys play a part, or move a target.

    ``sources`` are keybeds or controls, each ``device:thing``; keys ``low``–``high`` of a keybed
    (all of them when None), controls in ``bank``.  A key sounds ``shift`` semitones from itself;
    a control plays ``sounds`` of the part's kit, in the order of the sources, or the pitch
    ``note``.  It holds at velocities ``vel_low``–``vel_high``.  ``alone`` wants a channel that no
    other part on that port shares.  A target moves between ``from_value`` and ``to_value`` in its
    own unit (its whole range when None).  ``matters`` says how much, 5 most, where not all can be
    kept.
    """

    id: Id
    name: Name
    sources: Annotated[tuple[Ref, ...], Meta(min_length=1)]
    scenes: tuple[Id, ...] = ()
    plays: Ref | None = None
    moves: Ref | None = None
    low: Byte | None = None
    high: Byte | None = None
    bank: Positive = 1
    shift: Semitones = 0
    sounds: tuple[Id, ...] = ()
    note: Byte | None = None
    vel_low: Velocity = 1
    vel_high: Velocity = 127
    alone: bool = False
    from_value: float | None = None
    to_value: float | None = None
    matters: Annotated[int, Meta(ge=1, le=5)] = 3

    @property
    def lowest(self) -> int:
        """The lowest key that it holds for: of all keys where none is said."""
        return 0 if self.low is None else self.low

    @property
    def highest(self) -> int:
        """The highest key that it holds for: of all keys where none is said."""
        return 127 if self.high is None else self.high

    def sound(self, place: int) -> str:
        """The sound that its source at ``place`` plays, the last one standing for all after it.

        Nothing where the wish is for a pitch or a whole part.
        """
        return self.sounds[min(place, len(self.sounds) - 1)] if self.sounds else ""


class SettingRecord(Value, frozen=True, kw_only=True):
    """Who decides one number, and the reason of its value.  One without a record is free.

    ``by`` are the initials of who locked it.  One that has «followed» is somebody's own, and only
    went along with what was worked out.
    """

    ref: SettingName
    hold: Hold = "free"
    why: Text = ""
    by: Text = ""


class OwnSchool(Value, frozen=True, kw_only=True):
    """How the numbers of some controls (``device:control``) are to be chosen, whatever they are."""

    of: Annotated[tuple[Ref, ...], Meta(min_length=1)]
    controllers: ControllerSchool = "run"
    run_from: Byte = 20


class Schools(Value, frozen=True, kw_only=True):
    """How the person likes numbers to be chosen; those of some controls in a way of their ``own``.

    Where numbers are chosen so for some controls, what they send now counts nothing.
    """

    channels: Literal["device", "sound", "program", "shared"] = "sound"
    controllers: ControllerSchool = "standard"
    run_from: Byte = 20
    rhythm_on_10: bool = True
    own: tuple[OwnSchool, ...] = ()


class LogEntry(Value, frozen=True, kw_only=True):
    """One thing tried in a walk-through: when, what was asked, what was expected and got.

    ``low``–``high`` are the keys asked of a keybed, 0 for a control in ``bank``.  It is ``real``
    where a message truly came from the device; else it was simulated.
    """

    on: Name
    scene: str = ""
    source: Ref
    bank: Positive = 1
    low: Byte = 0
    high: Byte = 0
    result: Literal["pass", "fail", "untested"] = "untested"
    expected: Text = ""
    got: Text = ""
    real: bool = False
