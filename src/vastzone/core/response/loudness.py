"""Even loudness, and ceilings that keep parts in their order when every control is full up."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.say import say

LAW = 40.0
"""Level of a channel volume v is 40·log10(v / 127) dB (MIDI 1.0 recommended practice, General MIDI
Level 2 developer guidelines)."""


class Evened(NamedTuple):
    """Volume values 0–127 at each point of travel that keep loudness level, and what remains.

    ``left_db`` is the largest distance from the level aimed at; ``reaches`` says whether that is
    within what was asked.
    """

    volumes: tuple[int, ...]
    left_db: tuple[float, ...]
    reaches: bool

    @property
    def worst_db(self) -> float:
        """The largest distance from level."""
        return max(map(abs, self.left_db), default=0.0)


def volume_db(value: int) -> float:
    """The level of a channel volume 0–127 in dB, 0 at 127; −∞ at 0."""
    return LAW * math.log10(value / 127) if value > 0 else -math.inf


def volume_for(db: float) -> int:
    """The channel volume whose level is nearest to so many dB below full."""
    return max(1, min(127, round(127 * 10 ** (db / LAW))))


STANDARD = tuple(volume_db(value) for value in range(128))
"""The level in dB of each channel volume 0–127."""


def even(
    points: Sequence[tuple[float, float]],
    within_db: float,
    count: int = 17,
    scale: Sequence[float] = STANDARD,
) -> Evened:
    """The opposite volume for a target that gets louder along a control's travel.

    ``points`` are travel 0–1 with loudness in dB, measured or typed; between them it is
    interpolated.  The volume is taken down from its loudest wherever it is louder than at its
    softest, in whole steps; ``scale`` is the level in dB of each of its values 0–127.  Raises
    EditError for fewer than two points.
    """
    if len({x for x, _ in points}) < 2:
        raise EditError(
            say("Loudness is known at fewer than two places: measure both ends at least.")
        )
    measured = sorted(points)
    places = []
    for n in range(count):
        places.append(n / (count - 1))
    rise = []
    for place in places:
        rise.append(between(measured, place))
    quiet = min(rise)
    top = max(scale)
    volumes = tuple(_nearest(scale, top + quiet - db) for db in rise)
    left = tuple(db + scale[v] - top - quiet for db, v in zip(rise, volumes, strict=True))
    return Evened(volumes, left, max(map(abs, left)) <= within_db)


def _nearest(scale: Sequence[float], db: float) -> int:
    """The value whose level is nearest."""
    return min(range(len(scale)), key=lambda value: abs(scale[value] - db))


def between(points: Sequence[tuple[float, float]], x: float) -> float:
    """A value at ``x`` on straight lines through points in order; held beyond both ends."""
    before = max((point for point in points if point[0] <= x), default=points[0])
    after = min((point for point in points if point[0] >= x), default=points[-1])
    if after[0] == before[0]:
        return before[1]
    return before[1] + (after[1] - before[1]) * (x - before[0]) / (after[0] - before[0])


class Capped(NamedTuple):
    """A part's highest volume, what that is in dB, and how receivers show it."""

    name: str
    top: int
    db: float
    percent: int
    tenths: float


def ceilings(order: Sequence[tuple[str, float]]) -> tuple[Capped, ...]:
    """Caps that keep an order of parts when every control is full up.

    ``order`` are parts from the loudest with how many dB each must stay below the one before it
    (the first one’s number is below full).  Whole steps are rounded down, so that no gap is ever
    smaller than asked.  Raises EditError where no whole step is left.
    """
    capped: list[Capped] = []
    above = 0.0
    for name, gap in order:
        top = math.floor(127 * 10 ** ((above - gap) / LAW) + 1e-9)
        if top < 1:
            raise EditError(
                say("{name} would have to be silent: ask for smaller gaps above it.", name=name)
            )
        above = volume_db(top)
        capped.append(Capped(name, top, above, round(top / 127 * 100), round(top / 12.7, 1)))
    return tuple(capped)
