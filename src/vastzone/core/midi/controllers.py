"""The controller numbers 0–127 as data.

Source: the published MIDI 1.0 specification's table of controller numbers.
"""

from collections.abc import Collection
from typing import Literal, NamedTuple

from vastzone.core.say import say

Class = Literal["reserved", "standard", "in use", "free"]


class Controller(NamedTuple):
    """One row of the table: number 0–127, its meaning, and what sort of number it is."""

    number: int
    meaning: str
    sort: Literal["standard", "undefined", "low bits", "channel mode"]


_NAMED = {
    0: say("bank select"),
    1: say("modulation"),
    2: say("breath"),
    4: say("foot"),
    5: say("portamento time"),
    6: say("data entry"),
    7: say("channel volume"),
    8: say("balance"),
    10: say("pan"),
    11: say("expression"),
    12: say("effect control 1"),
    13: say("effect control 2"),
    16: say("general purpose 1"),
    17: say("general purpose 2"),
    18: say("general purpose 3"),
    19: say("general purpose 4"),
    64: say("sustain"),
    65: say("portamento on/off"),
    66: say("sostenuto"),
    67: say("soft"),
    68: say("legato"),
    69: say("hold 2"),
    70: say("sound variation"),
    71: say("timbre"),
    72: say("release time"),
    73: say("attack time"),
    74: say("brightness"),
    75: say("decay time"),
    76: say("vibrato rate"),
    77: say("vibrato depth"),
    78: say("vibrato delay"),
    79: say("sound controller 10"),
    80: say("general purpose switch 5"),
    81: say("general purpose switch 6"),
    82: say("general purpose switch 7"),
    83: say("general purpose switch 8"),
    84: say("portamento control"),
    88: say("high-resolution velocity prefix"),
    91: say("reverb depth"),
    92: say("tremolo depth"),
    93: say("chorus depth"),
    94: say("detune depth"),
    95: say("phaser depth"),
    96: say("increment"),
    97: say("decrement"),
    98: say("NRPN low"),
    99: say("NRPN high"),
    100: say("RPN low"),
    101: say("RPN high"),
}
_MODES = {
    120: say("all sound off"),
    121: say("reset all controllers"),
    122: say("local control"),
    123: say("all notes off"),
    124: say("omni off"),
    125: say("omni on"),
    126: say("mono on"),
    127: say("poly on"),
}

SUSTAIN, SOSTENUTO, SOFT, VOLUME, EXPRESSION = 64, 66, 67, 7, 11
MODULATION, BREATH = 1, 2
ALL_SOUND_OFF, ALL_NOTES_OFF, FIRST_MODE = 120, 123, 120
BOUND_NUMBERS = frozenset((0, 6, 32, 38, *range(96, 102)))
"""Controllers that are halves of other messages: bank select, data entry, (N)RPN."""
HEARD_BY_PARTS = frozenset(
    (
        MODULATION,
        VOLUME,
        EXPRESSION,
        SUSTAIN,
        SOSTENUTO,
        ALL_SOUND_OFF,
        ALL_NOTES_OFF,
    )
)
"""Controllers that parts answer by themselves."""
LOUD = (VOLUME, EXPRESSION)


def _row(number: int) -> Controller:
    if number in _NAMED:
        return Controller(number, _NAMED[number], "standard")
    if number in _MODES:
        return Controller(number, _MODES[number], "channel mode")
    if 32 <= number <= 63:
        coarse = _NAMED.get(number - 32, say("controller {number}", number=number - 32))
        return Controller(number, say("{coarse}, low 7 bits", coarse=coarse), "low bits")
    return Controller(number, say("undefined"), "undefined")


CONTROLLERS: tuple[Controller, ...] = tuple(_row(n) for n in range(128))
UNDEFINED: tuple[int, ...] = tuple(c.number for c in CONTROLLERS if c.sort == "undefined")


def classify(number: int, reserved: Collection[int] = (), in_use: Collection[int] = ()) -> Class:
    """The class of a controller number for one receiver and channel.

    *reserved* by the receiver or by the standard's channel-mode messages; *in use* by this plan;
    *standard*, with a meaning of its own; or *free*.
    """
    if number in reserved or CONTROLLERS[number].sort == "channel mode":
        return "reserved"
    if number in in_use:
        return "in use"
    return "free" if CONTROLLERS[number].sort == "undefined" else "standard"


LAST_CONTROLLER = 127


def label(number: int) -> str:
    """A controller with number and meaning: ``64 sustain``, ``28 (free by the standard)``."""
    controller = CONTROLLERS[number]
    if controller.sort == "undefined":
        return say("{number} (free by the standard)", number=number)
    return f"{number} {controller.meaning}"
