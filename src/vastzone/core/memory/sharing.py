"""What devices hold just as planned is the same value as in the plan: it is compared at once."""

from collections.abc import Mapping

import msgspec

from vastzone.core.memory.contents import same_program, with_things
from vastzone.core.memory.keys import Thing, spot_of, things
from vastzone.core.memory.model import Content, DeviceMemory, HeldSlot, Memory
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan


def in_common(memory: Memory, plan: Plan) -> Memory:
    """A memory that was read from a file, in the plan's own values where it holds those."""
    devices = {device.id: device for device in plan.devices}
    shared = []
    for held in memory.devices:
        device = devices.get(held.device)
        shared.append(held if device is None else shared_memory(held, device))
    return Memory(devices=tuple(shared))


def shared_memory(held: DeviceMemory, device: Device) -> DeviceMemory:
    """The memory of one device in the plan's own values."""
    planned: dict[tuple[int, int], Program] = {}
    for program in device.programs:
        for slot in slots_of(program):
            planned[slot.bank, slot.number] = program
    slots: list[HeldSlot] = []
    for each in held.slots:
        content = _shared(each.content, planned.get((each.bank, each.number)))
        slots.append(msgspec.structs.replace(each, content=content))
    buffer = held.buffer
    if buffer is not None and held.selected is not None:
        buffer = _shared(buffer, planned.get((held.selected.bank, held.selected.number)))
    return msgspec.structs.replace(held, slots=tuple(slots), buffer=buffer)


def _shared(content: Content, planned: Program | None) -> Content:
    if planned is None:
        return content
    if same_program(content.program, planned):
        return msgspec.structs.replace(content, program=planned)
    wanted: Mapping[str, Thing] = things(planned)
    exact: dict[str, Thing | None] = {}
    for thing in things(content.program).values():
        where = spot_of(thing)
        if wanted.get(where) == thing:
            exact[where] = wanted[where]
    return msgspec.structs.replace(content, program=with_things(content.program, exact))
