"""What several targets of one control come to together: the level along its travel."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import LOUD
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.response.loudness import STANDARD, between, even, volume_db
from vastzone.core.response.sweep import exact_value, sent_value, target_value
from vastzone.core.say import say

LOWEST_DB = -60.0
PLACES = 33


class Together(NamedTuple):
    """Level in dB at travel 0–1, and how far apart its loudest and softest place are."""

    places: tuple[float, ...]
    levels: tuple[float, ...]

    @property
    def spread_db(self) -> float:
        """From the softest to the loudest place."""
        return max(self.levels) - min(self.levels)


def adds_db(send: Send, target: Target, x: float) -> float | None:
    """How much level a target adds at travel 0–1; None where nothing of it is known.

    Measured points come first, then a unit of dB, then the law of the standard volumes.
    """
    if target.louder:
        return between(sorted(target.louder), exact_value(send, x))
    if target.unit == "dB":
        return max(LOWEST_DB, target_value(target, sent_value(send, x)))
    if is_level(target):
        return max(LOWEST_DB, volume_db(sent_value(send, x)))
    return None


def together(moves: Sequence[tuple[Send, Target]], count: int = PLACES) -> Together | None:
    """The level of everything that one control moves; None where no level is known of any."""
    places = tuple(n / (count - 1) for n in range(count))
    rows = []
    for send, target in moves:
        if adds_db(send, target, 0.0) is not None:
            rows.append([adds_db(send, target, place) or 0.0 for place in places])
    if not rows:
        return None
    return Together(places, tuple(math.fsum(at) for at in zip(*rows, strict=True)))


def is_level(target: Target) -> bool:
    """Whether a target is a level: a standard volume, or one that is said in dB."""
    return target.unit == "dB" or target.role in LOUD or target.controller in LOUD


def scale_of(level: Target) -> tuple[float, ...]:
    """The level in dB of each value 0–127 of a target that is one."""
    if level.unit == "dB":
        return tuple(target_value(level, value) for value in range(128))
    return STANDARD


def evening(send: Send, target: Target, volume: Target, within_db: float) -> Send:
    """What the same control has to send to a volume so that a target’s loudness stays even.

    Raises EditError where the target’s loudness is not known, or the volume has no controller.
    """
    if not target.louder:
        raise EditError(
            say(
                "How loud {target} makes it is not known: type it in its facts.", target=target.name
            )
        )
    if volume.controller is None:
        raise EditError(
            say("{volume} listens to no controller yet: give it one.", volume=volume.name)
        )
    count = 17
    rises = []
    for n in range(count):
        rises.append((n / (count - 1), adds_db(send, target, n / (count - 1)) or 0.0))
    evened = even(rises, within_db, count, scale_of(volume))
    low, high = evened.volumes[0], evened.volumes[-1]
    return Send(
        control=send.control,
        bank=send.bank,
        message=volume.answers,
        number=volume.controller,
        page=volume.page,
        channel=send.channel,
        low=low,
        high=high,
        points=_drawn(evened.volumes, low, high),
    )


def _drawn(volumes: tuple[int, ...], low: int, high: int) -> tuple[tuple[int, int], ...]:
    """The curve between the ends as at most twelve points that rise."""
    if low == high:
        return ()
    points: dict[int, int] = {}
    top, last = len(volumes) - 1, 0
    for n in range(0, top + 1, 2):
        share = (volumes[n] - low) / (high - low)
        last = max(last, min(127, round(127 * share)))
        points[round(127 * n / top)] = last
    return tuple(sorted(points.items()))
