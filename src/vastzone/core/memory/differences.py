"""What is left to dial: the plan of a device compared with what it holds, field by field."""

from collections.abc import Iterator
from typing import NamedTuple

import msgspec

from vastzone.core.cache import derived
from vastzone.core.memory.contents import (
    NOTHING_KNOWN,
    has_buffer,
    in_slot,
    playing,
    same_slot,
    unknown_at,
)
from vastzone.core.memory.keys import PROGRAM, is_once, keeps, key_of, once_dials, places_in, spot
from vastzone.core.memory.model import Content, DeviceMemory, Values
from vastzone.core.memory.states import State
from vastzone.core.plan.fields.dials import (
    Dial,
    dial_of,
    outside_programs,
    owner_dials,
    whole_dials,
)
from vastzone.core.plan.fields.owners import Owner, owners_in
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.table import dialled_fields
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.controls import Program, Send, Slot, Zone
from vastzone.core.plan.model.plan import Device


class Difference(NamedTuple):
    """A setting that a device does not hold as planned.

    ``held`` is what it holds, None where that is not ``known`` or there is nothing of the kind.
    Of something that the plan has no more, ``gone``, the dial is that of what the device holds.
    ``before`` is what is there now, of a program.
    """

    dial: Dial
    held: Stored | None
    known: bool = True
    gone: bool = False
    before: Owner | None = None

    @property
    def key(self) -> str:
        """What the setting is known by in its device or program."""
        return key_of(self.dial)


class ProgramLeft(NamedTuple):
    """What is left of one program: in each of its slots, and in the buffer where it is on one.

    ``rest`` are its slots of which it is not known what else they hold.
    """

    program: Program
    in_slots: tuple[tuple[Slot, tuple[Difference, ...]], ...]
    in_buffer: tuple[Difference, ...] | None
    rest: tuple[Slot, ...]

    @property
    def is_stored(self) -> bool:
        """Whether every slot holds it as planned."""
        return not self.rest and not any(differences for _, differences in self.in_slots)


class Left(NamedTuple):
    """All that is left to dial into a device; ``select`` is a slot that is wanted and not on."""

    whole: tuple[Difference, ...]
    unwritten: frozenset[str]
    programs: tuple[ProgramLeft, ...]
    select: Slot | None

    @property
    def nothing(self) -> bool:
        """Whether the device holds the plan, and plays it."""
        if self.whole or self.unwritten or self.select is not None:
            return False
        return all(program.is_stored and not program.in_buffer for program in self.programs)


@derived(256)
def left_to_dial(device: Device, memory: DeviceMemory, wanted: int | None) -> Left:
    """Compare; ``wanted`` is the number of the program that the device should be on, if any."""
    programs = []
    for program in device.programs:
        programs.append(_of_program(device, program, memory))
    selects = wanted is not None and device.storage.slots > 0
    slot = Slot(number=wanted) if selects and wanted is not None else None
    on = same_slot(slot, memory.selected) or slot is None
    return Left(
        whole_differences(device, memory),
        frozenset(memory.unwritten),
        tuple(programs),
        None if on else slot,
    )


@derived(256)
def whole_differences(device: Device, memory: DeviceMemory) -> tuple[Difference, ...]:
    """What differs outside programs, with what the device has once for all of them."""
    return _whole(whole_dials(device), once_dials(device), memory.values)


@derived(256, whole=True)
def _whole(
    dials: tuple[Dial, ...], once: tuple[Dial, ...], values: Values
) -> tuple[Difference, ...]:
    differences = []
    for dial in (*dials, *once):
        key = key_of(dial)
        held = values.get(key)
        if keeps(dial) and held != dial.value:
            differences.append(Difference(dial, held, key in values))
    return tuple(differences)


def _of_program(device: Device, program: Program, memory: DeviceMemory) -> ProgramLeft:
    in_slots = []
    rest = []
    in_buffer = None
    for slot in slots_of(program):
        content = in_slot(memory, slot)
        in_slots.append((slot, program_differences(device, program, content)))
        if content is None or not content.whole:
            rest.append(slot)
        if has_buffer(device) and same_slot(slot, memory.selected):
            in_buffer = program_differences(device, program, playing(memory))
    return ProgramLeft(program, tuple(in_slots), in_buffer, tuple(rest))


def program_differences(
    device: Device, program: Program, content: Content | None
) -> tuple[Difference, ...]:
    """What a content lacks to be a program as planned, in the order of the plan."""
    if content is None:
        content = NOTHING_KNOWN
    if content.whole and not content.unknown and content.program is program:
        return ()
    return _all_differences(outside_programs(device), program, content)


@derived(4096)
def _all_differences(device: Device, program: Program, content: Content) -> tuple[Difference, ...]:
    return tuple(_differences(device, program, content))


def _differences(device: Device, program: Program, content: Content) -> Iterator[Difference]:
    held = {}
    # Named as in the planned program: what is gone from it is taken out of it.
    there = msgspec.structs.replace(content.program, id=program.id, number=program.number)
    for owner in owners_in(device, there):
        held[spot(owner)] = owner
    for owner in owners_in(device, program):
        where = spot(owner)
        before = held.pop(where, None)
        unknown = unknown_at(content, where) if content.unknown else frozenset()
        if before is None or unknown or not _same_thing(before, owner):
            yield from _of_thing(owner, before, unknown, content.whole)
    places = places_in(device)
    for where, owner in held.items():
        if where != PROGRAM and not _is_mute(owner) and places.has(owner.thing):
            yield from _gone(owner)


def _same_thing(one: Owner, other: Owner) -> bool:
    if one.kind == "program":
        return bool(one.thing.name == other.thing.name)
    return one.thing is other.thing or bool(one.thing == other.thing)


def _of_thing(
    owner: Owner, before: Owner | None, unknown: frozenset[str], whole: bool
) -> Iterator[Difference]:
    """The settings of one thing that are not held as planned."""
    if before is None and whole and _is_mute(owner):
        return
    for field in dialled_fields(owner.kind):
        held = None if before is None else field.read(before)
        known = field.id not in unknown and (before is not None or whole)
        if known and held == field.read(owner):
            continue
        dial = dial_of(owner, field)
        if dial is None or not keeps(dial) or is_once(dial):
            continue
        yield Difference(dial, held if known else None, known, before=before)


def _is_mute(owner: Owner) -> bool:
    """Whether something does nothing, so that being there is as good as not."""
    thing = owner.thing
    if isinstance(thing, Zone):
        return not thing.on
    return isinstance(thing, Send) and thing.message == "none"


def _gone(owner: Owner) -> Iterator[Difference]:
    """Something that the plan has no more, by its first setting."""
    for dial in owner_dials(owner):
        yield Difference(dial, dial.value, gone=True, before=owner)
        return


def pending(left: ProgramLeft) -> dict[str, State]:
    """The settings of a program that are not stored everywhere, and how far each has come."""
    in_buffer = None if left.in_buffer is None else {each.key for each in left.in_buffer}
    states: dict[str, State] = {}
    for _, differences in left.in_slots:
        for difference in differences:
            key = difference.key
            lost = in_buffer is None or key in in_buffer
            states[key] = "planned" if lost else "sent"
    return states
