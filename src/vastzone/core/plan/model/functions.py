"""What a pedal, a foot switch or a pad can be told to do in its own device."""

from typing import Literal, get_args

Function = Literal[
    "sustain",
    "sostenuto",
    "soft",
    "hold",
    "latch",
    "gate",
    "tap tempo",
    "step",
    "program up",
    "program down",
    "speed",
    "start or stop",
    "stop loops",
    "swell",
    "morph",
    "hi-hat",
    "any",
]

SWEPT: frozenset[Function] = frozenset(("swell", "morph", "hi-hat", "any"))
"""Functions for which a place between both ends means something."""
SPRUNG_ONLY: frozenset[Function] = frozenset(
    (
        "sustain",
        "sostenuto",
        "soft",
        "latch",
        "tap tempo",
        "step",
        "program up",
        "program down",
        "start or stop",
        "stop loops",
    )
)
"""Functions that need a pedal which comes back by itself."""
PRESSED: frozenset[Function] = SPRUNG_ONLY | {"hold", "gate", "speed", "any"}
"""Functions that a switch serves."""
TOLD: tuple[Function, ...] = tuple([each for each in get_args(Function) if each not in SWEPT])
"""Functions that happen in the device itself when a switch is pressed."""
