"""In which order controllers are liked, and in which order controls are given theirs.

A run goes over faders, knobs, pads and buttons, each as they lie.  Begun on an undefined number it
goes over undefined ones only; begun on one with a meaning it goes over meanings too.
"""

from vastzone.core.cache import derived
from vastzone.core.midi.controllers import BOUND_NUMBERS, CONTROLLERS, FIRST_MODE, UNDEFINED
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.values import ControlKind
from vastzone.core.plan.model.wishes import Schools

LOW_BITS = frozenset(range(32, 64))
"""Controllers 32–63: the low 7 bits of 0–31."""
PREFIX = 88
"""The high-resolution velocity prefix."""
NEVER = BOUND_NUMBERS | LOW_BITS | {PREFIX, *range(FIRST_MODE, 128)}
"""Controllers that are never chosen: halves of other messages, and channel modes."""
FREE: tuple[int, ...] = tuple(number for number in UNDEFINED if number not in NEVER)
MILD = (*range(16, 20), *range(80, 84), *range(70, 80), *range(91, 96), 12, 13)
"""Controllers with a meaning that is taken last by what sounds: general purpose, sound, effects."""
KINDS: tuple[ControlKind, ...] = ("fader", "knob", "pad", "button", "stop", "shoe", "pedal")
Lie = tuple[int, ...]


def _turned(numbers: tuple[int, ...], first: int) -> tuple[int, ...]:
    """Ascending numbers from the first on, then those below it."""
    from_there = [number for number in numbers if number >= first]
    below = [number for number in numbers if number < first]
    return (*from_there, *below)


@derived(64)
def liked(schools: Schools) -> tuple[int, ...]:
    """All controllers that may be chosen, those first that are liked most."""
    start = schools.run_from
    every = tuple(number for number in range(FIRST_MODE) if number not in NEVER)
    mild = tuple(dict.fromkeys((*MILD, *every)))
    free = _turned(FREE, start)
    if schools.controllers == "run" and start not in FREE:
        run = [number for number in every if number >= start]
        rest = [number for number in (*free, *every) if number < start]
        return tuple(dict.fromkeys((*run, *rest)))
    return tuple(dict.fromkeys((*free, *mild)))


def is_liked(schools: Schools, number: int) -> bool:
    """Whether a controller is of the kind that the school likes."""
    start = schools.run_from
    if schools.controllers == "run" and start not in FREE:
        return number >= start and number not in NEVER
    return CONTROLLERS[number].sort == "undefined"


def lie_of(plan: Plan, device: Device, control: Control, bank: int) -> Lie:
    """Where a control lies among all others: by device, kind, bank, row and column."""
    kind = KINDS.index(control.kind) if control.kind in KINDS else len(KINDS)
    place = plan.devices.index(device)
    listed = device.controls.index(control)
    return place, kind, bank, control.row, control.column, listed
