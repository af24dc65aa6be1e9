"""How hard a pad was struck against the velocity that it sends."""

from collections.abc import Sequence

from vastzone.core.cache import derived
from vastzone.core.plan.model.controls import Curve, Send

POWERS: dict[Curve, float] = {"linear": 1.0, "easy": 0.6, "hard": 1.7}
"""Exponents of v′ = v^p: below 1 soft strikes already sound loud, above 1 loud ones take force."""


def shaped(curve: Curve, x: float) -> float:
    """A curve at 0–1, 0–1; monotone, with both ends kept.  «s-shaped» is 3x² − 2x³."""
    return x * x * (3 - 2 * x) if curve == "s-shaped" else x ** POWERS[curve]


def curved(send: Send, x: float) -> float:
    """Where a send’s own curve puts 0–1: through its points where it has some."""
    if send.points:
        return drawn(send.points)[round(127 * min(1.0, max(0.0, x)))] / 127
    return shaped(send.curve, x)


@derived(256)
def drawn(points: tuple[tuple[int, int], ...]) -> tuple[float, ...]:
    """A curve of 128 values through a few points, always monotone.

    Between points it is a monotone cubic (Fritsch and Carlson, 1980); before the first and after
    the last it runs straight to 0 and to 127.
    """
    import numpy as np
    from scipy.interpolate import PchipInterpolator

    knots = dict(points)
    knots.setdefault(0, 0)
    knots.setdefault(127, 127)
    xs = sorted(knots)
    ys = np.maximum.accumulate([knots[x] for x in xs])
    values = PchipInterpolator(xs, ys)(np.arange(128))
    return tuple(float(v) for v in np.clip(values, 0, 127))


@derived(4096)
def sent_velocities(send: Send) -> bytes:
    """The velocity 1–127 that a pad sends for each strike 0–127; empty where it is the same.

    A fixed velocity is always the same; else the curve runs from ``low`` to ``high``.
    """
    if send.fixed is not None:
        return bytes([send.fixed] * 128)
    if send.curve == "linear" and not send.points and (send.low, send.high) == (0, 127):
        return b""
    span = send.high - send.low
    return bytes(max(1, round(send.low + span * curved(send, value / 127))) for value in range(128))


def strikes_for(
    sent: Sequence[int], window: tuple[int, int], wanted: tuple[int, int]
) -> tuple[int, int]:
    """The strikes within ``window`` that send a velocity within ``wanted``, first and last.

    The first is above the last when there are none.  ``sent`` is monotone, empty for «the same».
    """
    if not sent:
        return max(window[0], wanted[0]), min(window[1], wanted[1])
    fitting = []
    for v in range(window[0], window[1] + 1):
        if wanted[0] <= sent[v] <= wanted[1]:
            fitting.append(v)
    return (fitting[0], fitting[-1]) if fitting else (1, 0)


def sent_window(send: Send) -> tuple[int, int]:
    """The lowest and highest velocity that a pad sends within its own window of strikes."""
    sent = sent_velocities(send)
    if not sent:
        return send.vel_low, send.vel_high
    ends = (sent[send.vel_low], sent[send.vel_high])
    return min(ends), max(ends)
