"""What is done at a device, as pure functions from memory to memory.

What is done in a wrong order does here what it does in the device: what was not sent is not stored.
"""

from collections.abc import Callable, Iterable, Mapping
from typing import Literal, NamedTuple

import msgspec

from vastzone.core.memory.checks import still_true
from vastzone.core.memory.contents import (
    NOTHING_KNOWN,
    in_slot,
    playing,
    same_slot,
    settled,
    shared,
    unknown_at,
    with_playing,
    with_slot,
    with_things,
    with_values,
    without_unknown,
)
from vastzone.core.memory.keys import PROGRAM, Thing, is_once, key_of, slot_key, spot, things
from vastzone.core.memory.model import Content, DeviceMemory, Known
from vastzone.core.memory.past import with_past
from vastzone.core.memory.provenance import noted
from vastzone.core.plan.fields.dials import Dial, dials_named, owner_dials
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.refs import place_of_setting, spot_in

OperationKind = Literal["dial", "clear the rest", "select", "store", "write", "power", "none"]


class Operation(NamedTuple):
    """Something done at a device: settings dialled (by reference), a slot selected or stored to.

    An editor that writes slots dials ``into`` a slot.
    """

    kind: OperationKind
    refs: tuple[str, ...] = ()
    slot: Slot | None = None


def perform(
    memory: DeviceMemory, device: Device, operation: Operation, known: Known
) -> DeviceMemory:
    """The memory after an operation at a device, whose plan says what is dialled."""
    after = _DOES[operation.kind](memory, device, operation)
    if after is memory:
        return memory
    touched = _touched(operation)
    return with_past(memory, still_true(noted(after, touched, known), device), known.on)


def _nothing(memory: DeviceMemory, _device: Device, _operation: Operation) -> DeviceMemory:
    return memory


def _dial(memory: DeviceMemory, device: Device, operation: Operation) -> DeviceMemory:
    """Settings take the plan's values; in the buffer, or in a slot that an editor writes."""
    whole: list[Dial] = []
    inside: list[Dial] = []
    planned = dials_named(device, frozenset(operation.refs))
    for dial in planned:
        outside = dial.program is None or is_once(dial)
        (whole if outside else inside).append(dial)
    gone = frozenset(operation.refs) - {dial.ref for dial in planned}
    memory = _with_values(memory, whole)
    if not inside and not gone:
        return memory
    content = _target(memory, operation) or NOTHING_KNOWN
    changed = _dialled(content, inside, gone)
    if operation.slot is not None:
        return with_slot(memory, operation.slot, changed)
    return with_playing(memory, device, changed)


def _target(memory: DeviceMemory, operation: Operation) -> Content | None:
    return playing(memory) if operation.slot is None else in_slot(memory, operation.slot)


def _with_values(memory: DeviceMemory, dials: Iterable[Dial]) -> DeviceMemory:
    values, unwritten = dict(memory.values), dict(memory.unwritten)
    for dial in dials:
        key = key_of(dial)
        if dial.field.where_kept(dial.owner) == "on write":
            unwritten.setdefault(key, values.get(key))
        values[key] = dial.value
    if values == memory.values:
        return memory
    return msgspec.structs.replace(memory, values=values, unwritten=unwritten)


def _dialled(content: Content, dials: Iterable[Dial], gone: Iterable[str]) -> Content:
    """A content in which some settings are as planned and some things are taken away."""
    by_spot: dict[str, list[Dial]] = {}
    for dial in dials:
        by_spot.setdefault(spot(dial.owner), []).append(dial)
    changes: dict[str, Thing | None] = dict.fromkeys(spot_in(place_of_setting(ref)) for ref in gone)
    known: list[str] = []
    unknown = list(content.unknown)
    program = content.program
    there = things(program)
    for where, wanted in by_spot.items():
        known += [key_of(dial) for dial in wanted]
        if where == PROGRAM:
            program = msgspec.structs.replace(program, name=str(wanted[0].value))
            continue
        changes[where] = _with_fields(there.get(where), wanted)
        if where not in there:
            unknown += _other_keys(wanted)
    new = msgspec.structs.replace(
        content, program=with_things(program, changes), unknown=tuple(unknown)
    )
    return _as_planned(without_unknown(new, known), by_spot, changes)


def _with_fields(before: Thing | None, dials: list[Dial]) -> Thing:
    """A thing in which some settings are as planned; all of it where nothing was there."""
    planned: Thing = dials[0].owner.thing
    if before is None:
        return planned
    fields: dict[str, object] = {}
    for dial in dials:
        fields |= dial.field.changes(dial.owner, dial.field.held(dial.owner))
    return msgspec.structs.replace(before, **fields)


def _other_keys(dials: list[Dial]) -> list[str]:
    """The settings of a thing that was not there before and that were not dialled with it."""
    told = {dial.ref for dial in dials}
    keys = []
    for dial in owner_dials(dials[0].owner):
        if dial.ref not in told and not is_once(dial):
            keys.append(key_of(dial))
    return keys


def _as_planned(
    content: Content,
    by_spot: Mapping[str, list[Dial]],
    changes: Mapping[str, Thing | None],
) -> Content:
    """The same content in the plan's own values, where all of a thing, or all of it, is so."""
    exact: dict[str, Thing | None] = {}
    programs: dict[str, Program] = {}
    for where, dials in by_spot.items():
        owner = dials[0].owner
        if owner.program is not None:
            programs[owner.program.id] = owner.program
        thing = changes.get(where)
        if thing is not None and not unknown_at(content, where) and _says_the_same(owner, thing):
            exact[where] = owner.thing
    new = msgspec.structs.replace(content, program=with_things(content.program, exact))
    for program in programs.values():
        new = shared(new, program)
    return new


def _says_the_same(owner: Owner, thing: Thing) -> bool:
    held = owner._replace(thing=thing)
    return _stored(owner) == _stored(held)


def _stored(owner: Owner) -> dict[str, object]:
    values: dict[str, object] = {}
    for dial in owner_dials(owner):
        values[dial.ref] = dial.value
    return values


def _clear_rest(memory: DeviceMemory, device: Device, operation: Operation) -> DeviceMemory:
    """Whatever else may be in the program is switched off."""
    content = _target(memory, operation)
    if content is None or content.whole:
        return memory
    cleared = msgspec.structs.replace(content, whole=True)
    for program in device.programs:
        cleared = shared(cleared, program)
    if operation.slot is not None:
        return with_slot(memory, operation.slot, cleared)
    return with_playing(memory, device, cleared)


def _select(memory: DeviceMemory, _device: Device, operation: Operation) -> DeviceMemory:
    """Another slot is on: what the buffer held and was not stored is lost."""
    if same_slot(memory.selected, operation.slot) and memory.buffer is None:
        return memory
    return msgspec.structs.replace(memory, selected=operation.slot, buffer=None)


def _store(memory: DeviceMemory, _device: Device, operation: Operation) -> DeviceMemory:
    """What is played is stored in a slot, which is then the selected one."""
    if operation.slot is None:
        return memory
    content = playing(memory)
    stored = with_slot(memory, operation.slot, content)
    after = msgspec.structs.replace(stored, selected=operation.slot, buffer=None)
    unchanged = content is in_slot(memory, operation.slot)
    if unchanged and same_slot(memory.selected, operation.slot) and memory.buffer is None:
        return memory
    return settled(after)


def _write(memory: DeviceMemory, _device: Device, _operation: Operation) -> DeviceMemory:
    """What was set for the whole device outlasts switching it off."""
    return msgspec.structs.replace(memory, unwritten={}) if memory.unwritten else memory


def _power(memory: DeviceMemory, _device: Device, _operation: Operation) -> DeviceMemory:
    """Switched off and on: what was not stored or written is lost."""
    if memory.buffer is None and not memory.unwritten:
        return memory
    values = with_values(memory.values, memory.unwritten)
    return msgspec.structs.replace(memory, values=values, unwritten={}, buffer=None)


_DOES: Mapping[str, Callable[[DeviceMemory, Device, Operation], DeviceMemory]] = {
    "dial": _dial,
    "clear the rest": _clear_rest,
    "select": _select,
    "store": _store,
    "write": _write,
    "power": _power,
    "none": _nothing,
}


def _touched(operation: Operation) -> tuple[str, ...]:
    """What an operation tells of, as provenance names it."""
    if operation.kind == "store" and operation.slot is not None:
        return (slot_key(operation.slot),)
    if operation.kind != "dial":
        return ("buffer",) if operation.kind == "clear the rest" else ()
    here = "buffer" if operation.slot is None else slot_key(operation.slot)
    places = []
    for ref in operation.refs:
        rest = ref.split("/")[1:]
        outside = len(rest) == 2
        owner = rest[-2]
        places.append(owner if outside else f"{here}/{owner}")
    return tuple(dict.fromkeys(places))
