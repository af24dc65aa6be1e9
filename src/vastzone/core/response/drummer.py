"""A simulated drummer: true strokes with what pads and stands make of them.

A groove with rolls and ghost notes; each stroke may retrigger its own pad and shake neighbours,
more so the harder it is.
"""

from typing import NamedTuple

import numpy as np

from vastzone.core.response.strikes import Hit

PADS = ("kick", "snare", "tom", "hat")
STEP_MS = 125.0
PATTERN = {"kick": (0, 6, 8, 14), "snare": (4, 12), "hat": tuple(range(0, 16, 2)), "tom": (15,)}


class Take(NamedTuple):
    """A recording with the truth: whether each hit is a stroke."""

    hits: tuple[Hit, ...]
    true: tuple[bool, ...]


def play(
    seed: int,
    bars: int = 8,
    retrigger: float = 0.25,
    crosstalk: float = 0.35,
    hardness: float = 80.0,
) -> Take:
    """A take of so many bars; ``retrigger`` and ``crosstalk`` are chances for a hard stroke."""
    rng = np.random.default_rng(seed)
    events: list[tuple[Hit, bool]] = []
    for at, pad, force in _strokes(rng, bars, hardness):
        events.append((Hit(at, pad, force), True))
        for hit in _retriggers(rng, at, pad, force, retrigger):
            events.append((hit, False))
        for hit in _crosstalk(rng, at, pad, force, crosstalk):
            events.append((hit, False))
    events.sort(key=lambda e: e[0])
    return Take(tuple(h for h, _ in events), tuple(t for _, t in events))


def _strokes(
    rng: np.random.Generator, bars: int, hardness: float
) -> list[tuple[float, str, float]]:
    strokes = []
    for bar in range(bars):
        for pad, steps in PATTERN.items():
            for step in steps:
                at = (bar * 16 + step) * STEP_MS + rng.normal(0, 4)
                accent = 1.15 if step % 8 == 0 else 0.9
                strokes.append((at, pad, _force(rng, hardness * accent)))
        if bar % 4 == 3:
            start = (bar * 16 + 13) * STEP_MS
            for n in range(5):
                strokes.append(
                    (start + n * 78 + rng.normal(0, 3), "snare", _force(rng, hardness * 0.75))
                )
    return [(round(max(0.0, at), 2), pad, force) for at, pad, force in strokes]


def _force(rng: np.random.Generator, mean: float) -> float:
    return float(np.clip(rng.normal(mean, mean * 0.14), 28, 127))


def _retriggers(
    rng: np.random.Generator, at: float, pad: str, force: float, chance: float
) -> list[Hit]:
    if rng.random() > chance * force / 100:
        return []
    delay = float(rng.uniform(12, 42))
    return [Hit(round(at + delay, 2), pad, force * float(rng.uniform(0.2, 0.55)))]


def _crosstalk(
    rng: np.random.Generator, at: float, pad: str, force: float, chance: float
) -> list[Hit]:
    ghosts = []
    for other in PADS:
        if other != pad and rng.random() < chance * force / 100:
            delay = float(rng.uniform(0.5, 4.5))
            ghosts.append(Hit(round(at + delay, 2), other, force * float(rng.uniform(0.05, 0.22))))
    return ghosts
