"""Earlier states of a memory: at most twelve days, each as a difference from the one after it."""

from typing import NamedTuple

import msgspec

from vastzone.core.memory.contents import alike, with_values
from vastzone.core.memory.keys import Thing, spot_of, things, with_only
from vastzone.core.memory.model import (
    Content,
    ContentChange,
    DeviceMemory,
    HeldSlot,
    HeldValue,
    PastState,
)
from vastzone.core.memory.provenance import last_day
from vastzone.core.plan.model.controls import Program

LONGEST = 12
FACTORY = "out of the box"
"""The label of the state that a device began in: it is never dropped."""


class Snapshot(NamedTuple):
    """What a device held at one time, by itself."""

    on: str
    label: str
    memory: DeviceMemory


def with_past(before: DeviceMemory, after: DeviceMemory, day: str) -> DeviceMemory:
    """What is held after an operation of a day; the last state of an earlier day is kept."""
    if not before.past or last_day(before) < day:
        label = FACTORY if not before.past and _is_factory(before) else ""
        return kept_for_good(before, after, day, label)
    # Only the newest is a difference from the state that has just changed.
    newest = before.past[0]
    state = Snapshot(newest.on, newest.label, _before(bare(before), newest))
    return msgspec.structs.replace(after, past=(_change(state, after), *before.past[1:]))


def kept_for_good(before: DeviceMemory, after: DeviceMemory, day: str, label: str) -> DeviceMemory:
    """What is held after an operation, with the state before it kept under a label."""
    now = Snapshot(last_day(before) or day, label, bare(before))
    if len(before.past) == LONGEST:
        return _shortened(after, (now, *snapshots(before)))
    return msgspec.structs.replace(after, past=(_change(now, after), *before.past))


def _is_factory(memory: DeviceMemory) -> bool:
    return bool(memory.known) and all(known.how == "out of the box" for known in memory.known)


def is_untouched(memory: DeviceMemory) -> bool:
    """Whether it holds what it left its box with, and nothing was ever done to it."""
    return not memory.past and _is_factory(memory)


def snapshots(memory: DeviceMemory) -> tuple[Snapshot, ...]:
    """The earlier states, the newest first."""
    states = []
    current = bare(memory)
    for past in memory.past:
        current = _before(current, past)
        states.append(Snapshot(past.on, past.label, current))
    return tuple(states)


def held_on(memory: DeviceMemory, day: str) -> DeviceMemory:
    """What a device held at the end of a day; the oldest that is known where that is later."""
    then = bare(memory)
    if last_day(memory) <= day:
        return then
    for state in snapshots(memory):
        then = state.memory
        if state.on <= day:
            break
    return then


def factory(memory: DeviceMemory) -> DeviceMemory | None:
    """What the device held out of its box; None where that is not known."""
    if is_untouched(memory):
        return bare(memory)
    for state in snapshots(memory):
        if state.label == FACTORY:
            return state.memory
    return None


def bare(memory: DeviceMemory) -> DeviceMemory:
    """What is held, without how that is known and what was before."""
    return DeviceMemory(
        device=memory.device,
        values=memory.values,
        slots=memory.slots,
        buffer=memory.buffer,
        selected=memory.selected,
    )


def _shortened(memory: DeviceMemory, states: tuple[Snapshot, ...]) -> DeviceMemory:
    """A memory with the newest of too many states, and the one out of the box."""
    first = states[-1:] if states[-1].label == FACTORY else ()
    states = (*states[: LONGEST - len(first)], *first)
    past = []
    newer = memory
    for state in states:
        past.append(_change(state, newer))
        newer = state.memory
    return msgspec.structs.replace(memory, past=tuple(past))


def _change(older: Snapshot, newer: DeviceMemory) -> PastState:
    values: dict[str, HeldValue | None] = {}
    before = older.memory.values
    for key in sorted(before.keys() | newer.values.keys()):
        if before.get(key) != newer.values.get(key):
            values[key] = before.get(key)
    return PastState(
        on=older.on,
        label=older.label,
        values=values,
        contents=tuple(_content_changes(older.memory, newer)),
        selected=older.memory.selected,
    )


Place = tuple[int, int]
BUFFER: Place = (-1, 0)


def _contents(memory: DeviceMemory) -> dict[Place, Content]:
    contents: dict[Place, Content] = {}
    for held in memory.slots:
        contents[held.number, held.bank] = held.content
    if memory.buffer is not None:
        contents[BUFFER] = memory.buffer
    return contents


def _content_changes(older: DeviceMemory, newer: DeviceMemory) -> list[ContentChange]:
    changes = []
    before, after = _contents(older), _contents(newer)
    for place in sorted(before.keys() | after.keys()):
        old, new = before.get(place), after.get(place)
        if old is new or (old is not None and new is not None and alike(old, new)):
            continue
        changes.append(_content_change(place, old, new))
    return changes


def _content_change(place: Place, old: Content | None, new: Content | None) -> ContentChange:
    number, bank = place
    if old is None:
        return ContentChange(number=number, bank=bank, blank=True)
    was, now = things(old.program), {} if new is None else things(new.program)
    otherwise = (thing for where, thing in was.items() if now.get(where) != thing)
    changed = with_only(old.program, otherwise)
    return ContentChange(
        number=number,
        bank=bank,
        program=with_only(changed, ()),
        whole=old.whole,
        unknown=old.unknown,
        zones=changed.zones,
        sends=changed.sends,
        kits=changed.kits,
        without=tuple(where for where in now if where not in was),
    )


def _before(newer: DeviceMemory, past: PastState) -> DeviceMemory:
    """The state before, from the one after it."""
    contents = _contents(newer)
    for change in past.contents:
        place = change.number, change.bank
        if change.blank:
            contents.pop(place, None)
        else:
            contents[place] = _content_before(contents.get(place), change)
    buffer = contents.pop(BUFFER, None)
    slots = []
    for (number, bank), content in sorted(contents.items(), key=lambda each: each[0][::-1]):
        slots.append(HeldSlot(number=number, bank=bank, content=content))
    return DeviceMemory(
        device=newer.device,
        values=with_values(newer.values, past.values),
        slots=tuple(slots),
        buffer=buffer,
        selected=past.selected,
    )


def _content_before(newer: Content | None, change: ContentChange) -> Content:
    head = change.program or Program(number=max(0, change.number), name="?")
    kept: dict[str, Thing] = {} if newer is None else dict(things(newer.program))
    for where in change.without:
        kept.pop(where, None)
    before: list[Thing] = [*change.zones, *change.sends, *change.kits]
    for thing in before:
        kept[spot_of(thing)] = thing
    program = with_only(head, kept.values())
    return Content(program=program, whole=change.whole, unknown=change.unknown)
