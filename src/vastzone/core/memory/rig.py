"""The memory of a whole rig: which device it is of, devices that come and go, the lens."""

from collections.abc import Mapping

import msgspec

from vastzone.core.cache import derived
from vastzone.core.memory.beginnings import not_known, out_of_the_box
from vastzone.core.memory.dialled import dialled_device
from vastzone.core.memory.model import DeviceMemory, Memory
from vastzone.core.plan.model.plan import Device, Plan


@derived(64)
def _by_device(memory: Memory) -> Mapping[str, DeviceMemory]:
    by_device = {}
    for held in memory.devices:
        by_device[held.device] = held
    return by_device


def memory_of(memory: Memory, device: Device) -> DeviceMemory:
    """What a device is known to hold; nothing where nobody said."""
    return _by_device(memory).get(device.id) or _nothing(device.id)


@derived(256)
def _nothing(device: str) -> DeviceMemory:
    return DeviceMemory(device=device)


def with_memory(memory: Memory, held: DeviceMemory) -> Memory:
    """A memory in which one device holds something else."""
    devices = []
    fresh = True
    for other in memory.devices:
        if other.device == held.device:
            fresh = False
            devices.append(held)
        else:
            devices.append(other)
    if fresh:
        devices.append(held)
    return msgspec.structs.replace(memory, devices=tuple(devices))


def met(memory: Memory, before: Plan, after: Plan, boxed: bool, today: str) -> Memory:
    """The memory with the devices that an edit adds: out of their boxes, or not known."""
    known = {device.id for device in before.devices}
    for device in after.devices:
        if device.id not in known:
            begun = out_of_the_box(device, today) if boxed else not_known(device)
            memory = with_memory(memory, begun)
    return memory


def without_strangers(memory: Memory, plan: Plan) -> Memory:
    """The memory without devices that the plan does not have."""
    ids = {device.id for device in plan.devices}
    kept = tuple(held for held in memory.devices if held.device in ids)
    return memory if len(kept) == len(memory.devices) else Memory(devices=kept)


@derived(16)
def as_dialled(plan: Plan, memory: Memory) -> Plan:
    """The plan with what the devices hold in place of what is planned for them.

    What is not known stands as it is planned.
    """
    devices = []
    for device in plan.devices:
        devices.append(dialled_device(device, memory_of(memory, device)))
    if all(new is old for new, old in zip(devices, plan.devices, strict=True)):
        return plan
    return msgspec.structs.replace(plan, devices=tuple(devices))
