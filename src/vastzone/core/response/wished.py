"""The range over which a wish moves a target, and what a control reaches of it."""

import math

from vastzone.core.midi.wide import TOP, bend_of, fine_of, value_of
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.response.sweep import bits_of, exact_value, sent_value, share_of, target_value

Ends = tuple[float, float]
"""Where a travel begins and ends."""
HAIR = 1e-9
"""What rounding may take away, as a share of the range."""


def wished_ends(wish: Wish, target: Target) -> Ends:
    """Where a wish wants a target at rest and at full travel, in its unit.

    An end that is not said is that of the target, or its ceiling; where only the other one is said,
    the end that lies away from it: a wish from 100 to nowhere in particular of 0–100 goes to 0.
    """
    low, high = _below_its_ceiling(target)
    begins, ends = wish.from_value, wish.to_value
    if begins is None:
        begins = low if ends is None or ends != low else high
    if ends is None:
        ends = high if begins != high else low
    return begins, ends


def is_whole(wish: Wish) -> bool:
    """Whether a wish is for the whole range, whichever way round."""
    return wish.from_value is None and wish.to_value is None


def _below_its_ceiling(target: Target) -> Ends:
    """The ends of a target, none of them above its ceiling."""
    if target.ceiling is None:
        return target.low, target.high
    return min(target.low, target.ceiling), min(target.high, target.ceiling)


def reached(send: Send, target: Target) -> Ends:
    """Where a control puts a target at rest and at full travel, in its unit."""
    first, last = _sent(send)
    return target_value(target, first), target_value(target, last)


def _sent(send: Send) -> Ends:
    """The values 0–127 that a control sends at rest and at full travel."""
    if bits_of(send) == 7:
        return sent_value(send, 0.0), sent_value(send, 1.0)
    return exact_value(send, 0.0), exact_value(send, 1.0)


def step_of(send: Send, target: Target) -> float:
    """How far one value moves a target, in its unit: its reach / 127, or / 16383 in 14 bits."""
    least, most = target.reach
    return abs(most - least) / (127 if bits_of(send) == 7 else 16383)


def limits_for(wanted: Ends, send: Send, target: Target) -> Ends | None:
    """The limits of a target in its receiver with which a control moves it as far as wanted.

    None where the control does not move it, or where they would lie beyond its own ends.
    """
    first, last = (share_of(target, value) for value in _sent(send))
    if first == last:
        return None
    slope = (wanted[1] - wanted[0]) / (last - first)
    least = wanted[0] - slope * first
    limits = (least, least + slope)
    hair = HAIR * max(1.0, abs(target.low), abs(target.high))
    if min(limits) < min(target.low, target.high) - hair:
        return None
    return None if max(limits) > max(target.low, target.high) + hair else limits


def covers(travel: Ends, wanted: Ends, step: float) -> bool:
    """Whether a travel is the wanted one: never beyond either end, and less than a step short."""
    hair = HAIR * max(1.0, abs(wanted[0]), abs(wanted[1]))
    least, most = min(wanted) - hair, max(wanted) + hair
    for there, end in zip(travel, wanted, strict=True):
        if not least <= there <= most:
            return False
        if abs(there - end) > max(hair, step - hair):
            return False
    return True


def ends_for(wanted: Ends, target: Target, fine: bool) -> Ends:
    """The values 0–127 to send at rest and at full travel, never beyond what is wanted.

    They are whole, or in steps of 14 bits where they are ``fine``.
    """
    least, most = target.reach
    span = most - least
    if not span:
        return (0, 127)
    begins, ends = ((end - least) / span for end in wanted)
    low, high = _inwards(target, min(begins, ends), max(begins, ends), fine)
    return (low, high) if begins <= ends else (high, low)


def _inwards(target: Target, least: float, most: float, fine: bool) -> Ends:
    """The first and the last value that can be sent within two shares 0–1 of a target's reach."""
    if not fine:
        return max(0, math.ceil(127 * (least - HAIR))), min(127, math.floor(127 * (most + HAIR)))
    if target.answers == "bend":
        first, last = math.ceil(bend_of(least) - HAIR), math.floor(bend_of(most) + HAIR)
    else:
        first, last = _fine_inwards(127 * least, 127 * most)
    return value_of(max(0, min(first, TOP))), value_of(max(0, min(last, TOP)))


def _fine_inwards(least: float, most: float) -> tuple[int, int]:
    """The first and the last number of 14 bits within two values 0–127."""
    hair = HAIR * 127
    first, last = fine_of(least), fine_of(most)
    first += value_of(first) < least - hair
    last -= value_of(last) > most + hair
    return first, last
