"""Reading a device back: what its display shows, what its list says, what a strike tells.

What differs from the plan is known then, not planned.
"""

from collections.abc import Mapping

import msgspec

from vastzone.core.memory.checks import still_true
from vastzone.core.memory.contents import (
    NOTHING_KNOWN,
    in_slot,
    playing,
    settled,
    shared,
    with_playing,
    with_slot,
    with_things,
    without_unknown,
)
from vastzone.core.memory.keys import (
    PROGRAM,
    Thing,
    is_once,
    keeps,
    key_of,
    once_dials,
    program_values,
    slot_key,
    spot,
    things,
)
from vastzone.core.memory.model import Content, DeviceMemory, Known
from vastzone.core.memory.past import with_past
from vastzone.core.memory.provenance import noted
from vastzone.core.plan.fields.dials import Dial, dials_named, owner_dials, whole_dials
from vastzone.core.plan.fields.owners import Owner, owners_in
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.table import field_of
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import (
    field_of_setting,
    place_of_setting,
    read_setting_ref,
    setting_in,
    spot_in,
)

IN_PROGRAM = 3
"""Strokes in the reference of a setting of a program."""


def read_back(
    memory: DeviceMemory, device: Device, shown: Mapping[str, Stored], known: Known
) -> DeviceMemory:
    """The memory once it is known what a device shows for some settings, by their references.

    A reading is of what the device plays now, and of the selected slot too where nothing was
    changed since that was selected.  Raises EditError for what the settings cannot be.
    """
    whole: dict[str, Stored] = {}
    inside: dict[str, Stored] = {}
    places: list[str] = []
    program = None
    planned = {dial.ref: dial for dial in dials_named(device, frozenset(shown))}
    for ref, value in shown.items():
        dial = planned.get(ref)
        if dial is not None and (dial.program is None or is_once(dial)):
            whole[key_of(dial)] = value
            places.append(key_of(dial).rpartition("/")[0])
        elif ref.count("/") == IN_PROGRAM:
            read = read_setting_ref(ref)
            program = lookup.by_id(device.programs, read.program or "", "program")
            where = spot_in(place_of_setting(ref))
            where = PROGRAM if read.owner == PROGRAM else where
            inside[setting_in(where, read.field)] = value
            places.append(f"buffer/{where}")
            if memory.buffer is None and memory.selected is not None:
                places.append(f"{slot_key(memory.selected)}/{where}")
    after = msgspec.structs.replace(memory, values={**memory.values, **whole})
    if program is not None:
        after = _with_reading(after, device, program, inside)
    return with_past(memory, still_true(noted(after, places, known), device), known.on)


def _with_reading(
    memory: DeviceMemory, device: Device, program: Program, values: Mapping[str, Stored]
) -> DeviceMemory:
    content = contents_read(device, playing(memory) or NOTHING_KNOWN, program, values)
    if memory.buffer is None and memory.selected is not None:
        return with_slot(memory, memory.selected, content)
    return with_playing(memory, device, content)


def contents_read(
    device: Device, content: Content, program: Program, values: Mapping[str, object]
) -> Content:
    """A content in which some settings, by key, are as they were read."""
    changes: dict[str, Thing | None] = {}
    unknown = list(content.unknown)
    there = things(content.program)
    name = content.program.name
    planned: dict[str, Owner] = {spot(owner): owner for owner in owners_in(device, program)}
    for key, value in values.items():
        where, _, field_id = key.rpartition("/")
        owner = planned[where]
        if where == PROGRAM:
            name = str(value)
            continue
        before = changes.get(where) or there.get(where)
        if before is None:
            before = owner.thing
            for dial in owner_dials(owner):
                unknown.append(setting_in(where, field_of_setting(dial.ref)))
        changes[where] = _with_value(owner._replace(thing=before), field_id, value)
    named = msgspec.structs.replace(content.program, name=name)
    new = msgspec.structs.replace(
        content, program=with_things(named, changes), unknown=tuple(dict.fromkeys(unknown))
    )
    return shared(without_unknown(new, values), program)


def _with_value(owner: Owner, field_id: str, value: object) -> Thing:
    field = field_of(owner.kind, field_id)
    stored = field.values.held(owner, value)  # type: ignore[arg-type]
    thing: Thing = msgspec.structs.replace(owner.thing, **field.changes(owner, stored))
    return thing


def seen_otherwise(
    memory: DeviceMemory, before: Device, after: Device, known: Known
) -> DeviceMemory:
    """The memory once it is known that a device holds ``after`` where it was thought ``before``.

    Both are devices as dialled: what differs between them is what was seen.
    """
    return with_past(memory, told_otherwise(memory, before, after, known), known.on)


def told_otherwise(
    memory: DeviceMemory, before: Device, after: Device, known: Known
) -> DeviceMemory:
    """The memory as if it had always been known that a device holds ``after``, not ``before``."""
    values = dict(memory.values)
    places = []
    earlier: dict[str, Stored] = {}
    for dial in _outside_slots(before):
        earlier[key_of(dial)] = dial.value
    for dial in _outside_slots(after):
        if earlier.get(key_of(dial)) != dial.value and keeps(dial):
            values[key_of(dial)] = dial.value
            places.append(key_of(dial).rpartition("/")[0])
    seen = msgspec.structs.replace(memory, values=values)
    # Where limits changed, what was one for the whole device may be of each program now.
    changed_limits = before.limits != after.limits
    programs = {program.number: program for program in before.programs}
    for program in after.programs:
        old = programs.get(program.number)
        if old is not program or changed_limits:
            seen = _seen_program(seen, device=after, old=old, new=program)
            places.append(slot_key(Slot(number=program.number)))
    return still_true(noted(seen, places, known), after)


def _outside_slots(device: Device) -> tuple[Dial, ...]:
    return (*whole_dials(device), *once_dials(device))


def _seen_program(
    memory: DeviceMemory, device: Device, old: Program | None, new: Program
) -> DeviceMemory:
    for slot in slots_of(new):
        is_on = memory.selected is not None and slot.number == memory.selected.number
        before = playing(memory) if is_on else in_slot(memory, slot)
        content = before or NOTHING_KNOWN
        told = _keys_that_differ(device, old, new)
        unknown = tuple(key for key in content.unknown if key not in told)
        # A program that nobody knew of is known whole once it is told.
        whole = content.whole or (before is None and old is None)
        content = Content(program=new, whole=whole, unknown=unknown)
        if is_on and memory.buffer is not None:
            memory = settled(msgspec.structs.replace(memory, buffer=content))
        else:
            memory = with_slot(memory, slot, content)
    return memory


def _keys_that_differ(device: Device, old: Program | None, new: Program) -> frozenset[str]:
    before = {} if old is None else program_values(device, old)
    keys = set()
    for key, value in program_values(device, new).items():
        if before.get(key) != value:
            keys.add(key)
    return frozenset(keys)
