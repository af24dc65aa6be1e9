"""What moves a target: controllers, 14-bit pairs, parameters, and messages without any of these.

Source: MIDI 1.0 specification: controllers 32–63 are the low 7 bits of 0–31; a parameter is chosen
by its number (controllers 101 and 100 when registered, 99 and 98 when not, high bits first) and
set by data entry (controllers 6 and 38).  Pitch bend has 14 bits in one message, its centre 8192.
"""

from typing import Literal

from vastzone.core.midi.messages import BEND_CENTRE, Message
from vastzone.core.say import say

Wide = Literal["controller", "pair", "rpn", "nrpn"]
Moving = Literal["controller", "pair", "rpn", "nrpn", "bend", "pressure", "program"]
Reading = Literal["whole", "coarse", "fine"]
WIDE: tuple[Wide, ...] = ("controller", "pair", "rpn", "nrpn")
MOVING: frozenset[str] = frozenset(("bend", "pressure", "program", *WIDE))
"""The kinds of message that move or switch a target."""
UNNUMBERED: frozenset[str] = frozenset(("bend", "pressure"))
"""Those of them that have no number."""
FINE_KINDS: frozenset[str] = frozenset(WIDE) - {"controller"}
"""Kinds whose values have 14 bits, in several messages."""
FINE_SENT = FINE_KINDS | {"bend"}
"""What is sent with 14 bits: those kinds, and pitch bend in one message."""
SHARED: frozenset[str] = frozenset(("controller", "pair"))
"""Kinds whose numbers come from the controllers that everyone shares."""
TOP = 16383
COARSE, LAST_STEP = 128, 126
STRETCHED = TOP - COARSE * LAST_STEP
ENTRY, FINE = 6, 32
SELECT: dict[str, tuple[int, int]] = {"rpn": (101, 100), "nrpn": (99, 98)}
PIECES: dict[str, tuple[int, int]] = {
    "note": (1, 3),
    "controller": (1, 3),
    "bend": (1, 3),
    "program": (1, 2),
    "pressure": (1, 2),
    "pair": (2, 3),
    "rpn": (4, 3),
    "nrpn": (4, 3),
}
"""How many messages one movement sends, and the bytes of each without running status."""


def fine_of(value: float) -> int:
    """A value 0–127 in 14 bits: 128 times as much, so that 64 is the centre 8192, and 127 is 16383.

    Between 126 and 127 it runs up to the top; a value out of range goes to its end.
    """
    if value <= LAST_STEP:
        return max(0, round(COARSE * value))
    return min(TOP, round(COARSE * LAST_STEP + (value - LAST_STEP) * STRETCHED))


def value_of(fine: int) -> float:
    """The value 0–127 that a number of 14 bits stands for: what ``fine_of`` takes back to it."""
    if fine <= COARSE * LAST_STEP:
        return fine / COARSE
    return LAST_STEP + (fine - COARSE * LAST_STEP) / STRETCHED


def bent_share(fine: int) -> float:
    """Where a bend 0–16383 is between its ends, 0–1: exactly ½ at its centre.

    Below the centre there are 8192 steps and above it 8191 (MIDI 1.0).
    """
    off = fine - BEND_CENTRE
    return 0.5 + off / (2 * (TOP - BEND_CENTRE)) if off > 0 else 0.5 + off / (2 * BEND_CENTRE)


def bend_of(share: float) -> float:
    """The bend, not rounded, that is a share 0–1 of the way: what ``bent_share`` takes back."""
    off = 2 * share - 1
    return BEND_CENTRE + off * (TOP - BEND_CENTRE if off > 0 else BEND_CENTRE)


def sent_numbers(kind: str, number: int) -> tuple[tuple[int, Reading], ...]:
    """The controllers that carry the value of a movement, and which bits each carries.

    ``number`` is a controller 0–127, of a pair its coarse one 0–31, of a parameter 0–16383.
    """
    if kind == "controller":
        return ((number, "whole"),)
    if kind == "pair":
        return ((number, "coarse"), (number + FINE, "fine"))
    if kind in SELECT:
        return ((ENTRY, "coarse"), (ENTRY + FINE, "fine"))
    return ()


def heard_as(kind: str, number: int, listens: Moving, to: int) -> Reading | None:
    """What a listener to ``listens`` number ``to`` makes of a movement; None when it is not for it.

    A pair that hears one controller only gets half of its bits; a plain controller that hears one
    half of a pair takes that half for the whole.
    """
    if listens in UNNUMBERED:
        return "whole" if kind == listens else None
    if listens in SELECT or listens == "program":
        return "whole" if (kind, number) == (listens, to) else None
    if kind == listens == "pair":
        return "whole" if number == to else None
    for sent, reading in sent_numbers(kind, number):
        if listens == "controller" and sent == to:
            return reading
        if listens == "pair" and sent in (to, to + FINE):
            return "coarse" if sent == to else "fine"
    return None


def messages_of(kind: str, channel: int, number: int, value: int) -> tuple[Message, ...]:
    """The controllers that a pair or parameter sends on channel 0–15 for a value 0–16383."""
    coarse, fine = value >> 7, value & 0x7F
    if kind == "pair":
        halves: tuple[tuple[int, int], ...] = ((number, coarse), (number + FINE, fine))
    else:
        high, low = SELECT[kind]
        halves = ((high, number >> 7), (low, number & 0x7F), (ENTRY, coarse), (ENTRY + FINE, fine))
    messages = []
    for n, v in halves:
        messages.append(Message("controller", channel, n, v))
    return tuple(messages)


def name(kind: str, number: int) -> str:
    """A number in words: ``pair 1/33``, ``RPN 0/2`` (high and low part)."""
    if kind == "pair":
        return say("pair {number}/{number_fine}", number=number, number_fine=number + FINE)
    if kind in UNNUMBERED:
        return kind
    if kind in SELECT:
        return f"{kind.upper()} {number >> 7}/{number & 0x7F}"
    return f"{kind} {number}"
