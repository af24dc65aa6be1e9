"""A device as dialled: what it holds put in place of what is planned for it.

Its structure (controls, ports, keys, what parts there are) is the plan's; only what is set in it is
the memory's.  A program on the selected slot is what the buffer holds, any other what its slot
does.  What is not known stands as planned.
"""

from typing import Any

import msgspec

from vastzone.core.cache import derived
from vastzone.core.memory.contents import played_on, same_program
from vastzone.core.memory.differences import program_differences
from vastzone.core.memory.keys import (
    Thing,
    is_once,
    keeps,
    key_of,
    once_dials,
    places_in,
    spot_of,
    things,
    with_only,
)
from vastzone.core.memory.model import Content, DeviceMemory
from vastzone.core.plan.edits.settings import with_settings
from vastzone.core.plan.fields.dials import device_dials, whole_dials
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.controls import Program, Slot, Zone
from vastzone.core.plan.model.plan import Device


@derived(1024)
def dialled_device(device: Device, memory: DeviceMemory) -> Device:
    """A device with what it holds in place of what is planned; itself where that is the same."""
    programs: list[Program] = []
    for program in device.programs:
        programs.extend(_dialled_programs(device, program, memory))
    changed = device
    if len(programs) != len(device.programs) or any(
        new is not old for new, old in zip(programs, device.programs, strict=True)
    ):
        changed = msgspec.structs.replace(device, programs=tuple(programs))
    return _with_values(changed, device, memory)


def _dialled_programs(device: Device, program: Program, memory: DeviceMemory) -> list[Program]:
    """A program as it is in its slots: one where they all hold the same, else one for each."""
    there: list[tuple[Slot, Program]] = []
    for slot in slots_of(program):
        content = played_on(memory, slot)
        held = program if content is None else _held_program(device, program, content)
        there.append((slot, held))
    first = there[0][1]
    if all(same_program(held, first) for _, held in there):
        return [first]
    programs: list[Program] = []
    for slot, held in there:
        if slot.bank:
            continue
        alone = held.id if not programs else f"{program.id}-in-{slot.number}"
        programs.append(msgspec.structs.replace(held, id=alone, number=slot.number, also=()))
    return programs


@derived(4096)
def _held_program(device: Device, program: Program, content: Content) -> Program:
    """What a content plays as the program that is planned there."""
    if content.program is program:
        return program
    planned = things(program)
    held: dict[str, Thing] = dict(things(content.program))
    _put_in_what_is_not_known(device, program, content, held)
    places = places_in(device)
    kept: list[Thing] = []
    for where in (*(spot for spot in planned if spot in held), *held):
        thing = held.pop(where, None)
        if thing is not None and places.has(thing):
            kept.append(_as_described(thing, planned.get(where)))
    played = msgspec.structs.replace(
        program,
        name=content.program.name if content.program.name != "?" else program.name,
    )
    played = with_only(played, kept)
    return program if same_program(played, program) else played


def _put_in_what_is_not_known(
    device: Device, program: Program, content: Content, held: dict[str, Thing]
) -> None:
    """Settings that nobody knows are taken to be as planned; they are told apart elsewhere."""
    for difference in program_differences(device, program, content):
        if difference.known or difference.gone or difference.dial.owner.kind == "program":
            continue
        dial = difference.dial
        planned: Thing = dial.owner.thing
        where = spot_of(planned)
        before = held.get(where)
        if before is None:
            held[where] = planned
        elif before is not planned:
            changes: dict[str, Any] = dial.field.changes(dial.owner, dial.field.held(dial.owner))
            held[where] = msgspec.structs.replace(before, **changes)


def _as_described(thing: Thing, planned: Thing | None) -> Thing:
    """A thing with what is not set in the device, such as its name, from the plan."""
    if planned is None or planned == thing:
        return planned or thing
    if isinstance(thing, Zone) and isinstance(planned, Zone):
        return msgspec.structs.replace(
            thing, name=planned.name, layer=planned.layer, keybed=planned.keybed
        )
    return thing


def _with_values(dialled: Device, planned: Device, memory: DeviceMemory) -> Device:
    """A device with its settings outside programs as they are held, where that is known."""
    values: dict[str, Stored] = {}
    for dial in whole_dials(planned):
        held = memory.values.get(key_of(dial))
        if held is not None and held != dial.value and keeps(dial):
            values[dial.ref] = held
    once = {}
    for dial in once_dials(planned):
        held = memory.values.get(key_of(dial))
        if held is not None:
            once[key_of(dial)] = held
    if once:
        values |= _everywhere(dialled, once)
    return with_settings(dialled, values) if values else dialled


def _everywhere(device: Device, once: dict[str, Stored]) -> dict[str, Stored]:
    """What a device has once, in every program where it stands."""
    values = {}
    for dial in device_dials(device):
        if is_once(dial):
            held = once.get(key_of(dial))
            if held is not None and held != dial.value:
                values[dial.ref] = held
    return values
