"""Strikes as a stranger's kit would send them, made apart from the analysis and its own drummer.

Pads ring as damped oscillators whose echoes pass a detector; the stand couples every pad to every
other by distance; hands drift, flam, play ghost notes, feet play doubles at speed.
"""

import math
import random
from typing import NamedTuple

from vastzone.core.response.strikes import Hit

PLACES = {
    "bass": (0.0, -0.4),
    "snare": (-0.3, 0.0),
    "rack": (0.1, 0.3),
    "floor": (0.6, 0.0),
    "hat": (-0.7, 0.2),
    "ride": (0.7, 0.5),
}
"""Where pads hang on the stand, in metres."""


class Session(NamedTuple):
    """Hits as they came, and whether somebody struck for each of them."""

    hits: tuple[Hit, ...]
    true: tuple[bool, ...]


def session(
    seed: int,
    minutes: float = 1.0,
    bpm: float = 118.0,
    bass_ms: float = 95.0,
    ringing: float = 0.5,
    coupling: float = 0.16,
    noise: float = 0.0,
) -> Session:
    """A song's worth of playing: a groove with swing, fills, flams, ghosts, runs of double bass."""
    dice = random.Random(seed)
    struck = sorted(_played(dice, minutes, bpm, bass_ms))
    heard: list[tuple[float, str, float, bool]] = []
    for at, pad, force in struck:
        heard.append((at, pad, force, True))
        heard += [(at + after, pad, level, False) for after, level in _echoes(dice, force, ringing)]
        for other, level in _shaken(dice, pad, force, coupling):
            heard.append((at + dice.uniform(0.3, 5.5), other, level, False))
    for _ in range(int(noise * minutes)):
        at = dice.uniform(0, minutes * 60_000)
        heard.append((at, dice.choice(list(PLACES)), dice.uniform(1, 7), False))
    detected = [one for one in sorted(heard) if one[2] >= 2.0]
    hits = tuple(
        Hit(round(at, 1), pad, round(min(127.0, level), 1)) for at, pad, level, _ in detected
    )
    return Session(hits, tuple(meant for *_, meant in detected))


def _played(dice, minutes, bpm, bass_ms):
    sixteenth = 60_000 / bpm / 4
    lean, at, strength = 0.0, 0.0, 88.0
    bar = 0
    while at < minutes * 60_000:
        strength = min(112.0, max(60.0, strength + dice.gauss(0, 4)))
        for step in range(16):
            lean = 0.9 * lean + dice.gauss(0, 1.6)
            here = at + step * sixteenth + (0.12 * sixteenth if step % 2 else 0) + lean
            yield from _step(dice, bar, step, here, strength)
        if bar % 4 == 2:
            for n in range(12):
                yield (
                    at + 8 * sixteenth + n * bass_ms + dice.gauss(0, 2.5),
                    "bass",
                    _hit(dice, strength - 12),
                )
        at += 16 * sixteenth
        bar += 1


def _step(dice, bar, step, here, strength):
    if step % 2 == 0:
        yield here, "hat", _hit(dice, strength * (0.8 if step % 4 else 0.62))
    if step in (0, 7, 10) and bar % 4 != 2:
        yield here, "bass", _hit(dice, strength)
    if step in (4, 12):
        yield here, "snare", _hit(dice, strength * 1.12)
        if dice.random() < 0.15:
            yield here - dice.uniform(18, 32), "snare", _hit(dice, strength * 0.35)
    elif step in (3, 9, 14) and dice.random() < 0.45:
        yield here, "snare", _hit(dice, strength * 0.24)
    if bar % 4 == 3 and step >= 10:
        yield here, ("rack", "floor")[step % 2], _hit(dice, strength * 0.95)
    if bar % 8 == 0 and step == 0:
        yield here, "ride", _hit(dice, strength * 1.05)


def _hit(dice, middle):
    return min(127.0, max(9.0, dice.gauss(middle, 0.11 * middle)))


def _echoes(dice, force, ringing):
    """A damped swing of the head passes the detector again once or twice."""
    level, after = force, 0.0
    while dice.random() < ringing * force / 127:
        after += dice.uniform(9, 30)
        level = force * math.exp(-after / dice.uniform(14, 30))
        yield after, level


def _shaken(dice, pad, force, coupling):
    x, y = PLACES[pad]
    for other, (a, b) in PLACES.items():
        if other == pad:
            continue
        away = math.hypot(x - a, y - b)
        level = force * coupling * math.exp(-away) * dice.lognormvariate(0, 0.45)
        if dice.random() < 0.8:
            yield other, level
