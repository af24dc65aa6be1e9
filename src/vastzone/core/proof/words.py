"""Places and sounds in words, in each device's own naming."""

from collections.abc import Iterable

from vastzone.core.midi import pitch
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, read_ref
from vastzone.core.proof.verdict import Effect, Mark
from vastzone.core.say import say


def thing_words(plan: Plan, place: WishPlace) -> str:
    """A place without its device: ``E1–B2 (28–47)``, ``Pad 3, bank 2``."""
    device, thing = read_ref(place.source)
    owner = lookup.device(plan, device)
    for control in owner.controls:
        if control.id == thing:
            return (
                say("{control}, bank {bank}", control=control.name, bank=place.bank)
                if control.banks > 1
                else control.name
            )
    named = f"{lookup.keybed(owner, thing).name} " if len(owner.keybeds) > 1 else ""
    if place.low == place.high:
        return named + pitch.label(place.low, owner.octaves)
    return named + pitch.span(place.low, place.high, owner.octaves)


def place_words(plan: Plan, place: WishPlace) -> str:
    """A place with its device: ``Heron 73 E1–B2 (28–47)``."""
    owner = lookup.device(plan, device_of(place.source))
    return f"{owner.name} {thing_words(plan, place)}"


def place_of(mark: Mark) -> WishPlace:
    """The place that a mark is about."""
    return WishPlace(mark.source, mark.bank, mark.low, mark.high)


def mark_words(plan: Plan, mark: Mark) -> str:
    """What a mark is about, with its velocities where it does not hold at all of them."""
    window = (mark.vel_low, mark.vel_high)
    at = (
        ""
        if window == (1, 127)
        else say(" at {vel_low}–{vel_high}", vel_low=mark.vel_low, vel_high=mark.vel_high)
    )
    return place_words(plan, place_of(mark)) + at


def marks_words(plan: Plan, marks: Iterable[Mark]) -> tuple[str, ...]:
    """What marks are about, each place once, whatever scenes it is in."""
    different: dict[tuple[WishPlace, int, int], Mark] = {}
    for mark in marks:
        different.setdefault((place_of(mark), mark.vel_low, mark.vel_high), mark)
    return tuple(dict.fromkeys(mark_words(plan, mark) for mark in different.values()))


def end_name(plan: Plan, ref: str) -> str:
    """The name of a part or target ``device:thing``."""
    device, thing = read_ref(ref)
    owner = lookup.device(plan, device)
    return next((end.name for end in lookup.ends(owner) if end.id == thing), thing)


def hits_words(plan: Plan, hits: Iterable[Effect]) -> str:
    """The names of what is hit."""
    return ", ".join(dict.fromkeys(end_name(plan, hit.ref) for hit in hits))


def owner_of(plan: Plan, ref: str) -> Device:
    """The device of a ``device:thing``."""
    return lookup.device(plan, device_of(ref))
