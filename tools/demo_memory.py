"""What the devices of the demo hold: out of their boxes, with what goes wrong by the third day."""

from vastzone.core.memory.beginnings import as_it_stands, out_of_the_box
from vastzone.core.memory.model import DeviceMemory, Known, Memory
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.readings import read_back
from vastzone.core.memory.rig import memory_of, with_memory
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup

BOXED = "2026-11-18"
DIALLED = Known(on="2026-11-20", how="dialled", by="ro")
READ = Known(on="2026-11-21", how="read back", by="ro")


def memory(plan: Plan) -> Memory:
    """Two mistakes of the first evening: a slot stored wrongly, and a buffer that was lost.

    The keyboard's first program was stored over its third, and one more change waits in its
    buffer; the pad controller was switched off before a button was stored.
    """
    devices = tuple(_begun(device) for device in plan.devices)
    held = Memory(devices=devices)
    heron, dipper = lookup.device(plan, "heron"), lookup.device(plan, "dipper")
    held = with_memory(held, _stored_wrongly(memory_of(held, heron), heron))
    return with_memory(held, _lost(memory_of(held, dipper), dipper))


def _begun(device: Device) -> DeviceMemory:
    """A device as it came; the encoder was configured when the console was wired."""
    if device.console is not None:
        return as_it_stands(device, BOXED, "out of the box")
    return out_of_the_box(device, BOXED)


def _stored_wrongly(held: DeviceMemory, heron: Device) -> DeviceMemory:
    first, third = Slot(number=0), Slot(number=2)
    held = perform(held, heron, Operation("select", slot=first), DIALLED)
    held = perform(held, heron, Operation("store", slot=third), DIALLED)
    return perform(held, heron, Operation("select", slot=first), DIALLED)


def _lost(held: DeviceMemory, dipper: Device) -> DeviceMemory:
    program = dipper.programs[0]
    ref = f"dipper/{program.id}/button-1.1/mode"
    momentary = read_back(held, dipper, {ref: 0}, READ)
    sent = perform(momentary, dipper, Operation("dial", (ref,)), READ)
    return perform(sent, dipper, Operation("power"), READ)
