"""What was checked: struck and heard as meant, or read on the display and typed in.

A check holds for the value that was met, for as long as the device holds that value.
"""

from collections.abc import Iterable, Mapping

import msgspec

from vastzone.core.cache import derived
from vastzone.core.memory.contents import has_buffer, same_slot
from vastzone.core.memory.keys import is_once, key_of, program_values, slot_key
from vastzone.core.memory.model import Check, Content, DeviceMemory, HeldValue, Known
from vastzone.core.memory.past import with_past
from vastzone.core.memory.provenance import noted
from vastzone.core.plan.fields.dials import Dial, dials_named
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device


def place_in_slot(slot: Slot, key: str) -> str:
    """A setting in a slot: «0-4/zone.viol/channel»."""
    return f"{slot_key(slot)}/{key}"


@derived(512)
def content_values(device: Device, content: Content) -> Mapping[str, Stored]:
    """Every setting that a content is known to hold."""
    values = program_values(device, content.program)
    for key in content.unknown:
        values.pop(key, None)
    return values


def held_value(memory: DeviceMemory, device: Device, place: str) -> HeldValue | None:
    """What stands at a place that was checked; None where it is not known."""
    if not place[:1].isdigit():
        return memory.values.get(place)
    where, _, key = place.partition("/")
    for held in memory.slots:
        if slot_key(held.slot) == where:
            return content_values(device, held.content).get(key)
    return None


def still_true(memory: DeviceMemory, device: Device) -> DeviceMemory:
    """A memory without the checks of what it holds otherwise now."""
    if not memory.checks:
        return memory
    kept = []
    for check in memory.checks:
        values = {}
        for place, value in check.values.items():
            if held_value(memory, device, place) == value:
                values[place] = value
        if values == check.values:
            kept.append(check)
        elif values:
            kept.append(msgspec.structs.replace(check, values=values))
    if kept == list(memory.checks):
        return memory
    return msgspec.structs.replace(memory, checks=tuple(kept))


def checked(
    memory: DeviceMemory, device: Device, refs: Iterable[str], slot: Slot | None, known: Known
) -> DeviceMemory:
    """The memory once some settings were met as planned, in a slot where they are in a program.

    What is not stored, or differs from the plan, stays what it was.
    """
    values: dict[str, HeldValue] = {}
    for dial in dials_named(device, frozenset(refs)):
        for place in places_of(dial, slot):
            if _plays_unstored(memory, device, slot, place):
                continue
            if held_value(memory, device, place) == dial.value:
                values[place] = dial.value
    already = checked_places(memory)
    fresh = {place: value for place, value in values.items() if place not in already}
    if not fresh:
        return memory
    told = noted(memory, (), known)
    entries = told.known if known in told.known else (*told.known, known)
    check = Check(known=entries.index(known), values=fresh)
    after = msgspec.structs.replace(told, known=entries, checks=(*told.checks, check))
    return with_past(memory, after, known.on)


def _plays_unstored(memory: DeviceMemory, device: Device, slot: Slot | None, place: str) -> bool:
    """Whether a strike was played from a buffer that is not stored."""
    in_program = place[:1].isdigit()
    return (
        in_program
        and has_buffer(device)
        and memory.buffer is not None
        and same_slot(slot, memory.selected)
    )


def places_of(dial: Dial, slot: Slot | None = None) -> tuple[str, ...]:
    """Where a setting is in the memory: in each of its slots, or in one of them."""
    program = dial.owner.program
    if program is None or is_once(dial):
        return (key_of(dial),)
    places = []
    for own in slots_of(program):
        if slot is None or same_slot(own, slot):
            places.append(place_in_slot(own, key_of(dial)))
    return tuple(places)


@derived(256)
def checked_places(memory: DeviceMemory) -> Mapping[str, int]:
    """Where things were checked, and the place among what is known of when and by whom."""
    by_place = {}
    for check in memory.checks:
        for place in check.values:
            by_place[place] = check.known
    return by_place
