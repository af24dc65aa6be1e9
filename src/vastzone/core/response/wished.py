"""The range over which a wish moves a target, and what a control reaches of it."""

import math

from vastzone.core.midi.wide import TOP, fine_of, value_of
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.response.sweep import bits_of, exact_value, sent_value, target_value

Ends = tuple[float, float]
"""Where a travel begins and ends."""
HAIR = 1e-9
"""What rounding may take away, as a share of the range."""


def wished_ends(wish: Wish, target: Target) -> Ends:
    """Where a wish wants a target at rest and at full travel, in its unit.

    An end that is not said is that of the target; where only the other one is said, the end that
    lies away from it: a wish from 100 to nowhere in particular of 0–100 goes to 0.
    """
    begins, ends = wish.from_value, wish.to_value
    if begins is None:
        begins = target.low if ends is None or ends != target.low else target.high
    if ends is None:
        ends = target.high if begins != target.high else target.low
    return begins, ends


def reached(send: Send, target: Target) -> Ends:
    """Where a control puts a target at rest and at full travel, in its unit."""
    if bits_of(send) == 7:
        values: Ends = (sent_value(send, 0.0), sent_value(send, 1.0))
    else:
        values = (exact_value(send, 0.0), exact_value(send, 1.0))
    return target_value(target, values[0]), target_value(target, values[1])


def step_of(send: Send, target: Target) -> float:
    """How far one value moves a target, in its unit: its range / 127, or / 16383 in 14 bits."""
    steps = 127 if bits_of(send) == 7 else 16383
    return abs(target.high - target.low) / steps


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
    span = target.high - target.low
    if not span:
        return (0, 127)
    begins, ends = (127 * (end - target.low) / span for end in wanted)
    least, most = _inwards(min(begins, ends), max(begins, ends), fine)
    return (least, most) if begins <= ends else (most, least)


def _inwards(least: float, most: float, fine: bool) -> Ends:
    """The first and the last value that can be sent within two."""
    hair = HAIR * 127
    if not fine:
        return max(0, math.ceil(least - hair)), min(127, math.floor(most + hair))
    first, last = fine_of(least), fine_of(most)
    first += value_of(first) < least - hair
    last -= value_of(last) > most + hair
    return value_of(min(first, TOP)), value_of(max(last, 0))
