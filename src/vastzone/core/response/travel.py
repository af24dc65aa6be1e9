"""What a recorded sweep tells of a pedal: its sense, its ends, its wiper, jumps and noise.

A sweep is recorded from heel to toe and back, slowly.  With the wiper on the wrong contact of the
plug a pedal moves over a stub of its range, or leaps; the other way round it runs backwards.
"""

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Any, Literal, NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.say import say

FEWEST, STUB, LEAP, QUIET = 20, 32, 40, 0.5
"""Samples needed; a range shorter than ``STUB`` is a stub; a change above ``LEAP`` is a leap;
jitter below ``QUIET`` steps is only rounding."""


class Sweep(NamedTuple):
    """Samples: travel 0–1 from heel to toe where it is known, and the value 0–127 received."""

    travel: float
    value: int


class Travel(NamedTuple):
    """What was found, and the calibration proposed.

    ``heel`` and ``toe`` are the values at both ends; ``dead_heel`` and ``dead_toe`` the share of
    travel near each end where nothing changes; ``noise`` the jitter in steps; ``leaps`` where the
    value jumps.  ``low`` and ``high`` are the input range to set, and ``hysteresis`` how far it
    must move before it counts.
    """

    sense: Literal["forward", "reversed"]
    wiper: Literal["right", "mismatched"]
    heel: int
    toe: int
    dead_heel: float
    dead_toe: float
    noise: float
    leaps: tuple[float, ...]
    low: int
    high: int
    hysteresis: int


def _leaps(travel: Any, values: Any, most: float) -> tuple[float, ...]:
    """Where a value leaps by more than ``most`` from one sample to the next."""
    samples = list(zip(travel, values, strict=True))
    leaps = []
    for (a, low), (b, high) in pairwise(samples):
        if abs(high - low) > most:
            leaps.append((a, b))
    middles = []
    for a, b in leaps:
        middles.append(round(float((a + b) / 2), 3))
    return tuple(middles)


def examine(samples: Sequence[Sweep]) -> Travel:
    """Look at a recorded sweep.  Raises EditError for too few samples, or none at both ends."""
    import numpy as np

    swept = sorted(samples)
    if len(swept) < FEWEST or swept[0].travel > 0.1 or swept[-1].travel < 0.9:
        raise EditError(
            say(
                "The sweep has {count} samples: move the pedal slowly from heel to toe, at least "
                "{fewest} of them and both ends.",
                count=len(swept),
                fewest=FEWEST,
            )
        )
    x = np.array([item.travel for item in swept])
    v = np.array([float(item.value) for item in swept])
    heel, toe, begin, end = _clamped_line(x, v)
    rest = v - _line(x, heel, toe, begin, end)
    noise = float(np.std(rest))
    usual = 1.4826 * float(np.median(np.abs(rest)))  # a gap in the track is no noise
    leaps = _leaps(x, v, LEAP + 4 * min(noise, usual))
    span = abs(toe - heel)
    low, high = sorted((round(heel), round(toe)))
    quiet = noise < QUIET
    edge, hysteresis = (0, 0) if quiet else (math.ceil(noise), math.ceil(2 * noise))
    return Travel(
        "forward" if toe >= heel else "reversed",
        "mismatched" if span < STUB or leaps else "right",
        round(heel),
        round(toe),
        round(begin, 3),
        round(1 - end, 3),
        noise,
        leaps,
        min(127, low + edge),
        max(0, high - edge),
        hysteresis,
    )


def _line(x: Any, heel: float, toe: float, begin: float, end: float) -> Any:
    """A straight sweep between two dead ends."""
    import numpy as np

    return heel + (toe - heel) * np.clip((x - begin) / max(1e-6, end - begin), 0.0, 1.0)


def _clamped_line(x: Any, v: Any) -> tuple[float, float, float, float]:
    """The sweep that fits best: values at both ends and where it begins and ends to move.

    Least squares with a soft loss (Huber, 1964), so that single wild samples do not count.
    """
    import numpy as np
    from scipy.optimize import least_squares

    ends = max(3, len(v) // 25)
    first = (float(np.median(v[:ends])), float(np.median(v[-ends:])), 0.02, 0.98)
    fit = least_squares(
        lambda p: _line(x, *p) - v,
        first,
        loss="huber",
        f_scale=4.0,
        x_scale=(10, 10, 0.1, 0.1),
        bounds=((-20, -20, -0.05, 0.3), (147, 147, 0.7, 1.05)),
    )
    heel, toe, begin, end = (float(p) for p in fit.x)
    slope = (toe - heel) / max(1e-6, end - begin)
    if begin < 0:
        heel, begin = heel - slope * begin, 0.0
    if end > 1:
        toe, end = toe - slope * (end - 1), 1.0
    return min(127.0, max(0.0, heel)), min(127.0, max(0.0, toe)), begin, end


def calibrated(travel: Travel, value: int) -> int:
    """A value 0–127 after the proposed calibration: its range spread out, its sense put right."""
    if travel.high <= travel.low:
        return value
    share = min(1.0, max(0.0, (value - travel.low) / (travel.high - travel.low)))
    return round(127 * (1 - share if travel.sense == "reversed" else share))


def steadied(values: Sequence[int], hysteresis: int) -> list[int]:
    """Values that follow only when they have moved further than the hysteresis."""
    out: list[int] = []
    for value in values:
        if not out or abs(value - out[-1]) > hysteresis or value in (0, 127):
            out.append(value)
        else:
            out.append(out[-1])
    return out


def simulated_pedal(
    seed: int, heel: int, toe: int, dead: float = 0.0, noise: float = 0.0, count: int = 200
) -> list[Sweep]:
    """A slow sweep there and back of a pedal with these ends, dead travel and noise in steps."""
    import numpy as np

    draw = np.random.default_rng(seed)
    samples = []
    for n in range(count):
        x = 1 - abs(1 - 2 * n / (count - 1))
        share = min(1.0, max(0.0, (x - dead) / max(1e-9, 1 - 2 * dead)))
        value = heel + (toe - heel) * share + draw.normal(0, noise)
        samples.append(Sweep(float(x), int(np.clip(round(value), 0, 127))))
    return samples
