"""From a control's travel to a target's value: steps, ends, and how it moves in time."""

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple

from vastzone.core.midi.wide import FINE_SENT, bent_share, fine_of
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.response.velocity import curved

AUDIBLE: dict[str, float] = {"dB": 1.0, "st": 0.06, "ct": 6.0, "%": 3.0, "ms": 10.0}
"""The smallest jump that is plainly heard, by unit: about 1 dB of level and 6 cents of pitch
(Zwicker and Fastl, «Psychoacoustics», just noticeable differences, rounded up)."""
SETTLED = 0.01
CENTRE = 64
"""Where a wheel rests, of 0–127: exactly 8192 in 14 bits."""


class Steps(NamedTuple):
    """How many values a target can take, how far apart in its unit, and whether that is heard."""

    values: int
    size: float
    heard: bool


def worked(send: Send, x: float) -> float:
    """Where travel 0–1 is within a send’s input range, 0–1; 0 below its threshold."""
    place = 127 * min(1.0, max(0.0, x))
    if place < send.threshold:
        return 0.0
    wide = max(1, send.ends - send.starts)
    return min(1.0, max(0.0, (place - send.starts) / wide))


def exact_value(send: Send, x: float) -> float:
    """The value 0–127 that a control is at for travel 0–1, along its curve, low to high.

    A bend runs from its centre to both ends: a wheel at rest is at the centre, whatever its ends.
    """
    if send.message == "bend" and min(send.low, send.high) < CENTRE < max(send.low, send.high):
        return _bent(send, x)
    return send.low + (send.high - send.low) * curved(send, worked(send, x))


def _bent(send: Send, x: float) -> float:
    """A bend at travel 0–1: the curve begins at the wheel's rest and runs to each side."""
    rest, place = worked(send, CENTRE / 127), worked(send, x)
    off = place - rest
    if abs(off) < 1e-9:
        return CENTRE
    end, whole = (send.high, 1 - rest) if off > 0 else (send.low, rest)
    return CENTRE + (end - CENTRE) * curved(send, min(1.0, abs(off) / whole))


def sent_value(send: Send, x: float) -> int:
    """The value 0–127 that a control sends at travel 0–1."""
    return round(exact_value(send, x))


def share_of(target: Target, value: float) -> float:
    """How far between a target's ends a value 0–127 is, 0–1; a bend is in the middle at 64."""
    return bent_share(fine_of(value)) if target.answers == "bend" else value / 127


def value_at(target: Target, share: float) -> float:
    """Where a share 0–1 of what a controller can say puts a target, in its own unit."""
    least, most = target.reach
    return least + (most - least) * share


def share_at(target: Target, value: float) -> float:
    """The share 0–1 of its reach at which a target stands that is put to a value in its unit."""
    least, most = target.reach
    if least == most:
        return 0.0
    return min(1.0, max(0.0, (value - least) / (most - least)))


def target_value(target: Target, value: float) -> float:
    """Where a value 0–127 puts a target, in its own unit."""
    return value_at(target, share_of(target, value))


def end_values(send: Send, target: Target) -> tuple[float, float]:
    """The target at rest and at full travel: sender limits and receiver limits multiply."""
    return target_value(target, send.low), target_value(target, send.high)


def bits_of(send: Send) -> Literal[7, 14]:
    """How many bits a movement is sent with."""
    return 14 if send.message in FINE_SENT else 7


def steps(send: Send, target: Target, bits: Literal[7, 14] = 7) -> Steps:
    """The steps of a sweep: one for each value sent, ``bits`` wide."""
    top = (1 << bits) - 1
    scale = top / 127
    count = round(abs(send.high - send.low) * scale) + 1
    size = abs(target.reach[1] - target.reach[0]) / top
    limit = AUDIBLE.get(target.unit)
    return Steps(count, size, limit is not None and count > 1 and size > limit)


def slewed(
    times_ms: Sequence[float], values: Sequence[float], rise_ms: float, fall_ms: float
) -> list[float]:
    """What follows a control with separate rise and fall times, at the same moments.

    Each time is that to 63 % of a jump (one pole, y += (x − y)(1 − e^(−Δt/τ))); it is settled, to
    one per cent, after ``settle_ms``.
    """
    if not values:
        return []
    out = [float(values[0])]
    for before, now, wanted in zip(times_ms, times_ms[1:], values[1:], strict=False):
        tau = rise_ms if wanted > out[-1] else fall_ms
        share = 1.0 if tau <= 0 else 1.0 - math.exp(-(now - before) / tau)
        out.append(out[-1] + (wanted - out[-1]) * share)
    return out


def settle_ms(tau_ms: float) -> float:
    """How long a jump takes until only one per cent of it is left: τ · ln 100."""
    return tau_ms * math.log(1 / SETTLED)


def fight(one: Sequence[int | None], other: Sequence[int | None]) -> list[int]:
    """Two controls on one target, moment by moment (None: not moved): the last one wins.

    Returned are the jumps: how far the target leaps whenever the other one takes over.
    """
    jumps: list[int] = []
    at: int | None = None
    mover = -1
    for values in zip(one, other, strict=True):
        for who, value in enumerate(values):
            if value is None:
                continue
            if at is not None and who != mover and mover >= 0:
                jumps.append(abs(value - at))
            at, mover = value, who
    return jumps
