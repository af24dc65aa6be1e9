"""Files before version 3 said beside each number how far it had got: that becomes memory."""

from typing import Literal

import msgspec

from vastzone.core.memory.beginnings import as_it_stands, wanted_program
from vastzone.core.memory.checks import places_of
from vastzone.core.memory.contents import in_slot, settled, with_slot
from vastzone.core.memory.keys import is_once, key_of
from vastzone.core.memory.model import Check, Content, DeviceMemory, HeldValue, Known, Memory
from vastzone.core.memory.readings import contents_read
from vastzone.core.plan.fields.dials import Dial, dials_named
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.refs import device_of_setting


class OldRecord(msgspec.Struct, frozen=True):
    """What was told of one number."""

    ref: str
    state: Literal["planned", "sent", "stored", "checked"] = "stored"
    held: int | str | None = None
    on: str = ""

    @property
    def is_stored(self) -> bool:
        """Whether the device holds what stands in the plan."""
        return self.state in ("stored", "checked")


def memory_from(plan: Plan, records: list[OldRecord]) -> Memory:
    """What devices hold by the records; numbers without one count as held."""
    by_device: dict[str, dict[str, OldRecord]] = {}
    for record in records:
        by_device.setdefault(device_of_setting(record.ref), {})[record.ref] = record
    memories = []
    for device in plan.devices:
        told = by_device.get(device.id, {})
        day = max((record.on for record in told.values()), default="")
        begun = as_it_stands(device, day, "typed in", "", wanted_program(plan, device))
        memories.append(_with_records(begun, device, told) if told else begun)
    return Memory(devices=tuple(memories))


def _with_records(
    memory: DeviceMemory, device: Device, records: dict[str, OldRecord]
) -> DeviceMemory:
    whole: dict[str, HeldValue] = dict(memory.values)
    slots: dict[str, dict[str, Stored | None]] = {}
    sent: dict[str, dict[str, Stored]] = {}
    programs: dict[str, Program] = {}
    checks: list[Check] = []
    for dial in dials_named(device, frozenset(records)):
        record = records[dial.ref]
        if record.state == "checked":
            checks.append(Check(known=0, values=dict.fromkeys(places_of(dial), dial.value)))
        if record.is_stored:
            continue
        program = dial.owner.program
        if program is None or is_once(dial):
            _put(whole, dial, record.held if record.state == "planned" else dial.value)
            continue
        programs[program.id] = program
        slots.setdefault(program.id, {})[key_of(dial)] = record.held
        if record.state == "sent":
            sent.setdefault(program.id, {})[key_of(dial)] = dial.value
    after = msgspec.structs.replace(memory, values=whole)
    for ident, values in slots.items():
        after = _with_program(after, device, programs[ident], values, sent.get(ident, {}))
    known = memory.known[0]
    day = Known(on=known.on, how="dialled")
    return msgspec.structs.replace(after, known=(day,), checks=tuple(checks))


def _put(whole: dict[str, HeldValue], dial: Dial, value: Stored | None) -> None:
    if value is None:
        whole.pop(key_of(dial), None)
    else:
        whole[key_of(dial)] = value


def _with_program(
    memory: DeviceMemory,
    device: Device,
    program: Program,
    values: dict[str, Stored | None],
    sent: dict[str, Stored],
) -> DeviceMemory:
    """A program as it was held; what was sent and not stored is in the buffer."""
    known = {key: value for key, value in values.items() if value is not None}
    unknown = tuple(key for key, value in values.items() if value is None)
    for slot in slots_of(program):
        before = in_slot(memory, slot) or Content(program=program)
        content = contents_read(device, before, program, known)
        content = msgspec.structs.replace(content, unknown=(*content.unknown, *unknown))
        memory = with_slot(memory, slot, content)
    slot = slots_of(program)[0]
    stored = in_slot(memory, slot)
    if sent and stored is not None:
        buffer = contents_read(device, stored, program, sent)
        memory = settled(msgspec.structs.replace(memory, selected=slot, buffer=buffer))
    return memory
