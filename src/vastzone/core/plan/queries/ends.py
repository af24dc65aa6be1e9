"""Everything that a wish can end at, by plain words: parts and what moves, device by device."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to


class End(NamedTuple):
    """A part or target, ``device:thing``, by its name and that of its device."""

    ref: str
    name: str
    device: str
    moves: bool


def all_ends(plan: Plan) -> Iterator[End]:
    """Every part and target of a plan, in its order."""
    for device in plan.devices:
        yield from ends_of(device)


def ends_of(device: Device) -> Iterator[End]:
    """Every part and target of a device: what sounds, then what moves."""
    for part in device.parts:
        yield End(ref_to(device.id, part.id), part.name, device.name, False)
    for target in device.targets:
        yield End(ref_to(device.id, target.id), target.name, device.name, True)


def ends_named(plan: Plan, text: str, plays: bool = True, moves: bool = True) -> tuple[End, ...]:
    """The ends in whose names, or their devices', all words of a text occur.

    Only what sounds, or only what moves, where the other is not wanted.
    """
    wanted = text.lower().split()
    found = []
    for end in all_ends(plan):
        if not (moves if end.moves else plays):
            continue
        words = f"{end.name} {end.device}".lower()
        if all(word in words for word in wanted):
            found.append(end)
    return tuple(found)


def source_name(plan: Plan, ref: str) -> str:
    """The name of a keybed or control ``device:thing``."""
    owner, _, thing = ref.partition(":")
    device = lookup.device(plan, owner)
    known = lookup.names_of(device.keybeds) | lookup.names_of(device.controls)
    return known.get(thing, ref)


def free_sounds(plan: Plan, ref: str) -> int | None:
    """How many sounds of a part's kit nobody plays yet; None where it has no kit.

    Of a kit that is played whole already, any number may be played once more.
    """
    owner, _, thing = ref.partition(":")
    device = lookup.device(plan, owner)
    part = lookup.find(device.parts, thing)
    kit = None if part is None else lookup.find(device.kits, part.kit)
    if kit is None:
        return None
    used: set[str] = set()
    for wish in plan.wishes:
        if wish.plays == ref:
            used.update(wish.sounds)
    return sum(sound.id not in used for sound in kit.sounds) or None
