"""What moves by itself, over time: the speed of playing, random values, rows of values."""

import math
import random
from collections.abc import Sequence

from vastzone.core.plan.model.controls import Drive

GRAIN_MS = 10.0


def driven(drive: Drive, strikes_ms: Sequence[float], times_ms: Sequence[float]) -> list[int]:
    """The value 0–127 at each of ``times_ms``, for strikes at these milliseconds, both rising."""
    if drive.kind == "speed":
        return [speed_value(drive, speed_at(drive, strikes_ms, at)) for at in times_ms]
    row = row_of(drive, len(strikes_ms))
    values, struck = [], 0
    for now in times_ms:
        while struck < len(strikes_ms) and strikes_ms[struck] <= now:
            struck += 1
        values.append(row[struck - 1] if struck else 0)
    return values


def row_of(drive: Drive, count: int) -> list[int]:
    """The values that so many strikes bring, one after the other."""
    if drive.kind == "random":
        import numpy as np

        return [int(value) for value in np.random.default_rng(drive.seed).integers(0, 128, count)]
    values = drive.values or (0,)
    return [values[n % len(values)] for n in range(count)]


def speed_at(drive: Drive, strikes_ms: Sequence[float], now_ms: float) -> float:
    """Strikes a second, smoothed: Σ e^(−(t − tᵢ)/τ) / τ, which for an even beat is its rate."""
    tau = max(1.0, drive.smooth_ms)
    past = (now_ms - strike_ms for strike_ms in strikes_ms if strike_ms <= now_ms)
    return math.fsum(math.exp(-gone / tau) for gone in past) * 1000 / tau


def speed_value(drive: Drive, rate: float) -> int:
    """The value 0–127 of a rate: 0 below ``slow``, 127 from ``fast`` on."""
    if rate < drive.slow or drive.fast <= drive.slow:
        return 0 if rate < drive.slow else 127
    return round(127 * min(1.0, (rate - drive.slow) / (drive.fast - drive.slow)))


def practice(seconds: float = 8.0) -> list[float]:
    """Strikes that try a source out: slow, quicker, a run, a rest, one last stroke (ms)."""
    strikes, now = [], 200.0
    for gap, until in ((500.0, 0.25), (250.0, 0.5), (90.0, 0.7)):
        while now < until * seconds * 1000:
            strikes.append(now)
            now += gap
    return [*strikes, 0.9 * seconds * 1000]


def falls(chance: int, stroke: int, seed: int = 1) -> bool:
    """Whether the stroke of this number sends, of those that do so ``chance`` times in a hundred.

    The same strokes do every time that it is played.
    """
    return random.Random(f"{seed}.{stroke}").random() * 100 < chance
