"""Describing a device: how it *is*, not how it shall be.

What an edit says of a device goes into its memory, as something that it has always held; and into
the plan where both were equal before.  A number that the plan wants otherwise stays wanted.
"""

from collections.abc import Iterable
from typing import NamedTuple

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.memory.contents import in_slot
from vastzone.core.memory.dialled import dialled_device
from vastzone.core.memory.keys import with_only
from vastzone.core.memory.model import DeviceMemory, Known, Memory
from vastzone.core.memory.past import factory, is_untouched
from vastzone.core.memory.readings import told_otherwise
from vastzone.core.memory.rig import as_dialled, memory_of, with_memory
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.settings import with_settings
from vastzone.core.plan.fields.dials import device_dials
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup


class Telling(NamedTuple):
    """What is told of one device: what it was taken to hold, and what it holds."""

    before: Device
    after: Device

    @property
    def backwards(self) -> "Telling":
        """What takes it back."""
        return Telling(self.after, self.before)


class Described(NamedTuple):
    """A plan once devices were described, and what their memories are to be told."""

    plan: Plan
    tellings: tuple[Telling, ...] = ()


def described(plan: Plan, memory: Memory, edit: Edit) -> Described:
    """What an edit says is how its devices are.  Raises EditError and changes nothing."""
    after = edit(plan)
    if after is plan:
        return Described(plan)
    before = lookup.by_ids(plan.devices)
    shown = _shown(plan, memory, edit)
    devices = []
    tellings = []
    for device in after.devices:
        old = before.get(device.id)
        if old is not None and old is not device:
            dialled = dialled_device(old, memory_of(memory, old))
            tellings.append(Telling(dialled, shown.get(device.id, device)))
            device = _with_what_is_wanted(old, dialled, device)
        devices.append(device)
    return Described(msgspec.structs.replace(after, devices=tuple(devices)), tuple(tellings))


def _shown(plan: Plan, memory: Memory, edit: Edit) -> dict[str, Device]:
    """The devices as they are known to be, after the edit; none where it cannot be made there."""
    try:
        seen = edit.change(as_dialled(plan, memory))
    except EditError:
        return {}
    return lookup.by_ids(seen.devices)


def _with_what_is_wanted(before: Device, dialled: Device, after: Device) -> Device:
    """A described device with the settings that the plan wanted otherwise than they were."""
    held = _values(dialled)
    now = _values(after)
    wanted = {}
    for ref, value in _values(before).items():
        if ref in held and held[ref] != value and ref in now and now[ref] != value:
            wanted[ref] = value
    return with_settings(after, wanted) if wanted else after


def _values(device: Device) -> dict[str, Stored]:
    values = {}
    for dial in device_dials(device):
        values[dial.ref] = dial.value
    return values


def with_tellings(memory: Memory, tellings: Iterable[Telling], known: Known) -> Memory:
    """A memory that was told how devices are.

    A device that stands as it left its box is told what it left it with.
    """
    for telling in tellings:
        held: DeviceMemory = memory_of(memory, telling.after)
        if telling.after.kind == "encoder" and not held.known:
            continue  # How a console is wired is not what its encoder was told.
        how = msgspec.structs.replace(known, how="out of the box") if is_untouched(held) else known
        told = told_otherwise(held, telling.before, telling.after, how)
        memory = with_memory(memory, told)
    return memory


def out_of_its_box(device: Device, memory: DeviceMemory) -> Device:
    """A device as it left its box, as far as that is known: no number of a plan is in it.

    Of what its box held nothing may be known; then it is as it is known to be now, and where
    nothing is known at all, its controls send nothing.
    """
    first = factory(memory)
    known = memory if first is None else first
    if not known.slots and not known.values and known.buffer is None:
        bare = tuple(with_only(program, program.zones) for program in device.programs[:1])
        return msgspec.structs.replace(device, programs=bare)
    programs = []
    for program in device.programs:
        if any(in_slot(known, slot) is not None for slot in slots_of(program)):
            programs.append(program)
    kept = msgspec.structs.replace(device, programs=tuple(programs))
    return dialled_device(kept, known)
