"""What sounds without a wish: as meant where a kit answers it, or where somebody set it so."""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from vastzone.core.cache import derived, interned
from vastzone.core.engine.receivers import Receivers
from vastzone.core.engine.tables import Landing
from vastzone.core.memory.touched import Names, TouchedDevice
from vastzone.core.midi.controllers import BREATH, MODULATION, SUSTAIN
from vastzone.core.midi.wide import UNNUMBERED
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.parts import Target
from vastzone.core.proof.verdict import Effect

WHEELS = (MODULATION, BREATH, SUSTAIN)
"""Controllers that a keyboard's own wheel, breath jack and pedal send."""


class Unwished(NamedTuple):
    """What is meant of one device though nobody wished it.

    ``spots`` are the zones and sends that somebody set; ``welcome`` the parts and targets that are
    meant to answer whatever calls them: on a kit, or told by somebody what to listen to.
    """

    spots: Names
    welcome: Names


@derived(4096, whole=True)
def spots_of(programs: tuple[Program, ...], program: Program | None, known: TouchedDevice) -> Names:
    """What somebody set in a program."""
    for there, spots in zip(programs, known.programs, strict=False):
        if there is program:
            return spots
    return ()


@derived(256, whole=True)
def welcome_in(world: Receivers, ends: frozenset[str]) -> Names:
    """The parts and targets that are meant to answer whatever calls them."""
    welcome = set(ends)
    for heard in world.by_device.values():
        for channel in heard.by_channel:
            welcome.update(listener.ref for listener in channel if listener.kit is not None)
        welcome.update(mover.ref for mover in heard.movers if _is_by_standard(mover.target))
    return interned(tuple(sorted(welcome)))


def _is_by_standard(target: Target) -> bool:
    """Whether a target is what every part answers from wheels, keys and pedals as they are."""
    if target.receives != "fixed" or target.part is None:
        return False
    if target.answers in UNNUMBERED:
        return True
    return target.controller == target.role and target.role in WHEELS


@derived(8192)
def spots_by_control(spots: Names) -> Mapping[tuple[str, int], Names]:
    """The layers that somebody set, by control and bank."""
    by_control: dict[tuple[str, int], list[str]] = {}
    for spot in spots:
        control, *numbers = spot.split(".")
        if control != "zone":
            by_control.setdefault((control, int(numbers[0])), []).append(spot)
    return {key: interned(tuple(layers)) for key, layers in by_control.items()}


def is_heard(landing: Landing, wished: Iterable[str]) -> bool:
    """Whether something that sounds counts: what takes all only where it is wished."""
    return landing.part.receives != "takes all" or landing.ref in wished


def meant_without_a_wish(
    found: Iterable[tuple[str, Effect]], spots: Names, welcome: Names
) -> list[Effect]:
    """The effects that are meant, each once; of each is said which zone or send has it."""
    meant: dict[Effect, None] = {}
    for spot, effect in found:
        if spot in spots or effect.ref in welcome:
            meant[effect] = None
    return list(meant)
