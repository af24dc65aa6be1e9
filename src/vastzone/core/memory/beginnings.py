"""How the memory of a device begins: out of its box, as planned, or with nothing known."""

from collections.abc import Mapping

from vastzone.core.memory.contents import contents_of, first_slot
from vastzone.core.memory.keys import keeps, key_of, once_dials, slot_key
from vastzone.core.memory.model import DeviceMemory, HeldSlot, HeldValue, How, Known, Memory
from vastzone.core.plan.fields.dials import whole_dials
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup


def as_it_stands(
    device: Device, on: str, how: How, by: str = "", selected: int | None = None
) -> DeviceMemory:
    """A device that holds just what stands in the plan.

    It is on the program with the number ``selected``, on its first one where none is said.
    """
    slots = []
    for slot, content in contents_of(device):
        slots.append(HeldSlot(number=slot.number, bank=slot.bank, content=content))
    slots.sort(key=lambda held: (held.bank, held.number))
    since = dict.fromkeys(("values", *(slot_key(held.slot) for held in slots)), 0)
    return DeviceMemory(
        device=device.id,
        values=values_of(device),
        slots=tuple(slots),
        selected=first_slot(device) if selected is None else Slot(number=selected),
        known=(Known(on=on, how=how, by=by),),
        since=since,
    )


def out_of_the_box(device: Device, on: str) -> DeviceMemory:
    """A device that was just added: it holds what it leaves the factory with.

    An encoder leaves it without any configuration: nothing of a console is in it.
    """
    if device.kind == "encoder":
        return not_known(device)
    return as_it_stands(device, on, "out of the box")


def not_known(device: Device) -> DeviceMemory:
    """A device of which nothing is known."""
    return DeviceMemory(device=device.id)


def values_of(device: Device) -> Mapping[str, HeldValue]:
    """The settings of a device outside its programs, as they stand in the plan."""
    values: dict[str, HeldValue] = {}
    for dial in (*whole_dials(device), *once_dials(device)):
        if keeps(dial):
            values[key_of(dial)] = dial.value
    return values


def of_plan(plan: Plan) -> Memory:
    """Every device holds what stands in the plan, and is on the program of the first scene."""
    memories = []
    for device in plan.devices:
        memories.append(as_it_stands(device, "", "typed in", "", wanted_program(plan, device)))
    return Memory(devices=tuple(memories))


def wanted_program(plan: Plan, device: Device) -> int | None:
    """The program that the first scene wants a device to be on."""
    return lookup.program_number(plan.scenes[0] if plan.scenes else None, device)
