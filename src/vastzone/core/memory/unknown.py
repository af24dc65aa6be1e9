"""What nobody knows of a rig: keys, controls, parts and targets that are set to who knows what."""

from collections.abc import Iterator

from vastzone.core.cache import derived
from vastzone.core.memory.contents import played_on
from vastzone.core.memory.differences import whole_differences
from vastzone.core.memory.keys import spot_of, things
from vastzone.core.memory.model import Content, DeviceMemory, Memory
from vastzone.core.memory.rig import memory_of
from vastzone.core.plan.model.controls import Send, Slot, Zone
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to


@derived(256)
def unknown_things(plan: Plan, memory: Memory, scene: Scene | None) -> frozenset[str]:
    """What is played or sounds, ``device:thing``, of which something is not known in a scene."""
    refs: set[str] = set()
    for device in plan.devices:
        held = memory_of(memory, device)
        refs.update(_outside_programs(device, held))
        number = lookup.program_number(scene, device)
        if number is not None:
            refs |= unknown_in_program(device, held, number)
    return frozenset(refs)


def _outside_programs(device: Device, held: DeviceMemory) -> Iterator[str]:
    """Parts and targets that are not known; all that is played where a switch of it is not."""
    for difference in whole_differences(device, held):
        if difference.known:
            continue
        owner = difference.dial.owner
        if owner.kind in ("part", "target"):
            yield ref_to(device.id, owner.thing.id)
        elif owner.kind == "sound" and owner.kit is not None:
            for part in device.parts:
                if part.kit == owner.kit.id:
                    yield ref_to(device.id, part.id)
        elif owner.kind in ("device", "switch") or difference.dial.program is not None:
            yield from _everything_played(device)


def _everything_played(device: Device) -> Iterator[str]:
    for bed in device.keybeds:
        yield ref_to(device.id, bed.id)
    for control in device.controls:
        yield ref_to(device.id, control.id)


@derived(512)
def unknown_in_program(device: Device, held: DeviceMemory, number: int) -> frozenset[str]:
    """Keys, controls and parts of a device that are not known on a program."""
    content = played_on(held, Slot(number=number))
    if content is None:
        return frozenset(_everything_played(device))
    return frozenset(_in_content(device, content))


def _in_content(device: Device, content: Content) -> Iterator[str]:
    spots = {key.rpartition("/")[0] for key in content.unknown}
    there = things(content.program)
    known: set[str] = set()
    for thing in there.values():
        ref = ""
        if isinstance(thing, Zone):
            ref = ref_to(device.id, thing.keybed)
        elif isinstance(thing, Send):
            ref = ref_to(device.id, thing.control)
            known.add(ref)
        else:
            ref = ref_to(device.id, thing.part)
        if spot_of(thing) in spots:
            yield ref
    if not content.whole:
        for ref in _everything_played(device):
            if ref not in known:
                yield ref
