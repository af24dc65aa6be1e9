"""What replaces everything that a device holds: a reset, a backup, another beginning.

What was held before is always kept, and can be brought back.
"""

import hashlib
from typing import Literal

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.memory.beginnings import as_it_stands
from vastzone.core.memory.checks import still_true
from vastzone.core.memory.dialled import dialled_device
from vastzone.core.memory.keys import slot_key
from vastzone.core.memory.model import Backup, DeviceMemory, Known
from vastzone.core.memory.past import bare, factory, kept_for_good
from vastzone.core.memory.provenance import noted
from vastzone.core.memory.sharing import shared_memory
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say

Begin = Literal["out of the box", "as planned", "not known"]


def reset(memory: DeviceMemory, device: Device, known: Known) -> DeviceMemory:
    """A device as it leaves the factory; nothing is known where nobody knows what that is."""
    first = factory(memory)
    after = DeviceMemory(device=device.id) if first is None else first
    how = Known(on=known.on, by=known.by, how="out of the box")
    return _replaced(memory, after, device, how, say("before the reset"))


def begun_anew(memory: DeviceMemory, device: Device, begin: Begin, known: Known) -> DeviceMemory:
    """A device that is said to be as it left its box, as it is planned, or not known."""
    if begin == "out of the box":
        return reset(memory, device, known)
    after = DeviceMemory(device=device.id)
    if begin == "as planned":
        after = as_it_stands(device, known.on, "typed in", known.by)
        after = msgspec.structs.replace(after, selected=memory.selected or after.selected)
    how = Known(on=known.on, by=known.by, how="typed in")
    return _replaced(memory, after, device, how, say("before it was {begin}", begin=begin))


def set_up_anew(memory: DeviceMemory, device: Device, known: Known) -> DeviceMemory:
    """An encoder that is told everything anew: that erases all that it held before."""
    after = DeviceMemory(device=device.id)
    return _replaced(memory, after, device, known, say("before it was set up anew"))


def restored(
    memory: DeviceMemory, device: Device, backup: DeviceMemory, known: Known
) -> DeviceMemory:
    """A device that took its whole memory back from a file.  Raises EditError where it cannot."""
    if not device.storage.restores:
        raise EditError(
            say(
                "{device} cannot take its memory back from a file: follow the card that "
                "brings it back.",
                device=device.name,
            )
        )
    how = Known(on=known.on, by=known.by, how="from a file")
    after = msgspec.structs.replace(shared_memory(bare(backup), device), device=device.id)
    return _replaced(memory, after, device, how, say("before it was restored"))


def taken_from_file(
    memory: DeviceMemory, device: Device, told: DeviceMemory, known: Known
) -> DeviceMemory:
    """What a file of its own tells of a device that stands in several plans."""
    mine = msgspec.structs.replace(told, device=device.id)
    how = Known(on=known.on, by=known.by, how="from a file")
    return _replaced(
        memory, shared_memory(mine, device), device, how, say("before a file was read")
    )


def _replaced(
    memory: DeviceMemory, after: DeviceMemory, device: Device, known: Known, label: str
) -> DeviceMemory:
    """Everything that a device held is replaced at once."""
    whole = msgspec.structs.replace(
        memory,
        values=after.values,
        unwritten={},
        slots=after.slots,
        buffer=after.buffer,
        selected=after.selected,
        since={},
    )
    places = ("values", *(slot_key(held.slot) for held in after.slots))
    told = still_true(noted(whole, places, known), device)
    return kept_for_good(memory, told, known.on, label)


def digest(memory: DeviceMemory) -> str:
    """What is held, as a short text that changes with it; of the buffer nothing is backed up."""
    held = msgspec.structs.replace(bare(memory), buffer=None, selected=None)
    plain = msgspec.json.encode(held, order="sorted")
    return hashlib.sha256(plain).hexdigest()[:16]


def backed_up(memory: DeviceMemory, known: Known) -> DeviceMemory:
    """A memory that was just written to a file."""
    mark = Backup(on=known.on, by=known.by, digest=digest(memory))
    return msgspec.structs.replace(memory, backup=mark)


def is_backed_up(memory: DeviceMemory) -> bool:
    """Whether what is stored now is what was backed up last."""
    return memory.backup is not None and memory.backup.digest == digest(memory)


def brought_back(device: Device, past: DeviceMemory) -> Device:
    """A device as it was held before: what a card leads back to."""
    return dialled_device(device, past)
