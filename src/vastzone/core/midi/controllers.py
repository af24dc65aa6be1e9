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
    0: "bank select",
    1: "modulation",
    2: "breath",
    4: "foot",
    5: "portamento time",
    6: "data entry",
    7: "channel volume",
    8: "balance",
    10: "pan",
    11: "expression",
    12: "effect control 1",
    13: "effect control 2",
    16: "general purpose 1",
    17: "general purpose 2",
    18: "general purpose 3",
    19: "general purpose 4",
    64: "sustain",
    65: "portamento on/off",
    66: "sostenuto",
    67: "soft",
    68: "legato",
    69: "hold 2",
    70: "sound variation",
    71: "timbre",
    72: "release time",
    73: "attack time",
    74: "brightness",
    75: "decay time",
    76: "vibrato rate",
    77: "vibrato depth",
    78: "vibrato delay",
    79: "sound controller 10",
    80: "general purpose switch 5",
    81: "general purpose switch 6",
    82: "general purpose switch 7",
    83: "general purpose switch 8",
    84: "portamento control",
    88: "high-resolution velocity prefix",
    91: "reverb depth",
    92: "tremolo depth",
    93: "chorus depth",
    94: "detune depth",
    95: "phaser depth",
    96: "increment",
    97: "decrement",
    98: "NRPN low",
    99: "NRPN high",
    100: "RPN low",
    101: "RPN high",
}
_MODES = {
    120: "all sound off",
    121: "reset all controllers",
    122: "local control",
    123: "all notes off",
    124: "omni off",
    125: "omni on",
    126: "mono on",
    127: "poly on",
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
    return Controller(number, "undefined", "undefined")


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
