"""Reading and changing what the slots and the buffer of a device are known to hold."""

from collections.abc import Iterable, Mapping

import msgspec

from vastzone.core.memory.keys import Thing, things, with_only
from vastzone.core.memory.model import Content, DeviceMemory, HeldSlot, HeldValue
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.plan import Device

NOTHING_KNOWN = Content(program=Program(number=0, name="?"), whole=False, unknown=("program/name",))
"""What is known of a slot that nothing is known of."""


def same_slot(one: Slot | None, other: Slot | None) -> bool:
    """Whether both are one slot."""
    if one is None or other is None:
        return False
    return (one.bank, one.number) == (other.bank, other.number)


def has_buffer(device: Device) -> bool:
    """Whether what is dialled into a device is lost until it is stored."""
    return device.storage.buffer and device.storage.slots > 0


def in_slot(memory: DeviceMemory, slot: Slot | None) -> Content | None:
    """What a slot is known to hold; None where nothing is known of it."""
    for held in memory.slots:
        if slot is not None and held.number == slot.number and held.bank == slot.bank:
            return held.content
    return None


def playing(memory: DeviceMemory) -> Content | None:
    """What the device plays now: its buffer, or the selected slot as it is stored."""
    return memory.buffer if memory.buffer is not None else in_slot(memory, memory.selected)


def played_on(memory: DeviceMemory, slot: Slot) -> Content | None:
    """What a device plays in a scene on a slot: its buffer where that is the selected one."""
    return playing(memory) if same_slot(slot, memory.selected) else in_slot(memory, slot)


def with_slot(memory: DeviceMemory, slot: Slot, content: Content | None) -> DeviceMemory:
    """A memory in which a slot holds something else; None where nothing is known of it."""
    kept = []
    for held in memory.slots:
        if not same_slot(held.slot, slot):
            kept.append(held)
    if content is not None:
        kept.append(HeldSlot(number=slot.number, bank=slot.bank, content=content))
    kept.sort(key=lambda held: (held.bank, held.number))
    return settled(msgspec.structs.replace(memory, slots=tuple(kept)))


def with_playing(memory: DeviceMemory, device: Device, content: Content) -> DeviceMemory:
    """A memory in which the device plays something else: from its buffer, where it has one."""
    if has_buffer(device) or memory.selected is None:
        return settled(msgspec.structs.replace(memory, buffer=content))
    return with_slot(memory, memory.selected, content)


def settled(memory: DeviceMemory) -> DeviceMemory:
    """A buffer that holds what the selected slot does is not told twice."""
    stored = in_slot(memory, memory.selected)
    if memory.buffer is not None and stored is not None and alike(memory.buffer, stored):
        return msgspec.structs.replace(memory, buffer=None)
    return memory


def alike(one: Content, other: Content) -> bool:
    """Whether two contents say the same, whatever their programs' numbers and order."""
    if one is other:
        return True
    if (one.whole, set(one.unknown)) != (other.whole, set(other.unknown)):
        return False
    return same_program(one.program, other.program)


def same_program(one: Program, other: Program) -> bool:
    """Whether two programs hold the same things under the same name."""
    if one is other:
        return True
    return one.name == other.name and things(one) == things(other)


def with_things(program: Program, changes: Mapping[str, Thing | None]) -> Program:
    """A program with things put in place of those they are known by; None takes one away."""
    kept: dict[str, Thing | None] = {**things(program), **changes}
    return with_only(program, (thing for thing in kept.values() if thing is not None))


def with_values(
    values: Mapping[str, HeldValue], before: Mapping[str, HeldValue | None]
) -> dict[str, HeldValue]:
    """Settings with some as they were before, None where that was not known."""
    changed = dict(values)
    for key, value in before.items():
        if value is None:
            changed.pop(key, None)
        else:
            changed[key] = value
    return changed


def shared(content: Content, planned: Program) -> Content:
    """A content as the very values of the plan, where it is just that."""
    if not same_program(content.program, planned):
        return content
    return msgspec.structs.replace(content, program=planned)


def without_unknown(content: Content, keys: Iterable[str]) -> Content:
    """A content of which more is known."""
    told = set(keys)
    unknown = tuple(key for key in content.unknown if key not in told)
    return msgspec.structs.replace(content, unknown=unknown)


def unknown_at(content: Content, where: str) -> frozenset[str]:
    """The fields of one thing that are not known."""
    fields = set()
    for key in content.unknown:
        place, _, field = key.rpartition("/")
        if place == where:
            fields.add(field)
    return frozenset(fields)


def contents_of(device: Device) -> tuple[tuple[Slot, Content], ...]:
    """What every slot holds that a program of the plan stands in, just as planned."""
    stored: list[tuple[Slot, Content]] = []
    for program in device.programs:
        content = Content(program=program)
        for slot in slots_of(program):
            stored.append((slot, content))
    return tuple(stored)


def first_slot(device: Device) -> Slot | None:
    """The slot of the first program; None where there is none."""
    return Slot(number=device.programs[0].number) if device.programs else None
