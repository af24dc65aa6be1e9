"""What a display shows, as it is typed: in the device's own naming, by name or by number."""

from collections.abc import Mapping
from typing import Any, NamedTuple

import msgspec

from vastzone.core.errors import EditError, PlanError
from vastzone.core.memory.contents import NOTHING_KNOWN, playing
from vastzone.core.memory.keys import PROGRAM, is_once, keeps, key_of, spot, things
from vastzone.core.memory.model import DeviceMemory
from vastzone.core.midi import pitch
from vastzone.core.plan.fields.dials import outside_programs, owner_dials
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import Owner, owners, owners_in
from vastzone.core.plan.fields.table import fields_for
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.fields.words import SAID
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say
from vastzone.core.text import quoted, whole_number

ON, OFF = ("on", "yes", "1"), ("off", "no", "0")
NOT_KNOWN, NOTHING = "not known", "nothing"


class Shown(NamedTuple):
    """One setting to read: by reference, whose it is and what it is called, as planned and held."""

    ref: str
    thing: str
    name: str
    planned: str
    held: str


def entered(owner: Owner, field: Field, words: str) -> Any:
    """A value of the plan from what a display shows.  Raises EditError where it is none."""
    form = field.values.form(owner)
    said = words.strip()
    if form.kind == "check":
        return _on_or_off(said)
    if form.kind == "choice":
        return _chosen(form.choices, said)
    if form.kind == "note":
        said = said.partition(" (")[0]
        return field.values.entered(owner, pitch.parse(said, owner.device.octaves))
    if form.kind == "number":
        counted = whole_number(said)
        if counted is None or not form.low <= counted <= form.high:
            raise EditError(
                say(
                    "“{said}” is no number from {low} to {high}.",
                    said=quoted(said),
                    low=form.low,
                    high=form.high,
                )
            )
        return field.values.entered(owner, counted)
    return field.values.entered(owner, said)


def _on_or_off(said: str) -> bool:
    if said.lower() in ON:
        return True
    if said.lower() in OFF:
        return False
    raise EditError(say("“{said}” is neither on nor off.", said=quoted(said)))


def _chosen(choices: tuple[tuple[str, Any], ...], said: str) -> Any:
    """One of several by its name, by the beginning of it, or by its number."""
    wanted = said.lower()
    for words, value in choices:
        if words.lower() == wanted or str(value) == said:
            return value
    near = [value for words, value in choices if words.lower().startswith(wanted)]
    if len(near) == 1:
        return near[0]
    raise EditError(say("There is no “{said}” to choose there.", said=quoted(said)))


def readable(device: Device, memory: DeviceMemory, program: Program | None) -> tuple[Shown, ...]:
    """Every setting that a display can show: of the whole device, and of one program."""
    shown = []
    for owner in owners(outside_programs(device)):
        shown.extend(_of_owner(owner, owner, memory))
    if program is None:
        return tuple(shown)
    content = playing(memory) or NOTHING_KNOWN
    there: dict[str, Any] = {PROGRAM: content.program, **things(content.program)}
    for owner in owners_in(device, program):
        where = spot(owner)
        held = owner._replace(thing=there[where]) if where in there else None
        absent = NOTHING if content.whole else NOT_KNOWN
        for one in _of_owner(owner, held or owner, memory, inside=True):
            words = absent if held is None else one.held
            key = f"{where}/{one.ref.rpartition('/')[2]}"
            shown.append(one._replace(held=NOT_KNOWN if key in content.unknown else words))
    return tuple(shown)


def _of_owner(owner: Owner, held: Owner, memory: DeviceMemory, inside: bool = False) -> list[Shown]:
    """The settings of a thing as planned and as held; outside programs as the memory says."""
    now = {dial.ref: dial for dial in owner_dials(held)}
    planned = {dial.ref: dial for dial in owner_dials(owner)}
    told = []
    for ref, dial in (now | planned).items():
        if not keeps(dial) or is_once(dial):
            continue
        value = memory.values.get(key_of(dial))
        if inside:
            value = now[ref].value if ref in now else None
        missing = NOTHING if inside else NOT_KNOWN
        words = missing if value is None else dial.field.values.words(held, value)
        after = ""
        if ref in planned:
            after = planned[ref].field.values.words(owner, planned[ref].value)
        told.append(Shown(ref, SAID[owner.kind](owner), dial.field.name_on(owner), after, words))
    return told


def read_words(
    device: Device, memory: DeviceMemory, program: Program | None, typed: Mapping[str, str]
) -> dict[str, Stored]:
    """What was typed for some settings, by reference, as it is kept.

    A number is read as one of the message that is shown with it.  Raises EditError with the thing
    that cannot be read.
    """
    content = playing(memory)
    there = {} if content is None else things(content.program)
    values: dict[str, Stored] = {}
    every = list(owners(outside_programs(device)))
    if program is not None:
        every.extend(owners_in(device, program))
    for owner in every:
        inside = owner.program is not None
        thing = there.get(spot(owner), owner.thing) if inside else owner.thing
        now = owner._replace(thing=thing)
        for field in fields_for(owner.kind):
            words = typed.get(owner.ref(field.id), "")
            if not words.strip():
                continue
            try:
                value = entered(now, field, words)
                values[owner.ref(field.id)] = field.values.stored(now, value)
                changes = field.changes(now, value)
            except PlanError as error:
                raise EditError(f"{SAID[owner.kind](owner)}: {error}") from None
            if owner.kind != "passed on":
                now = now._replace(thing=msgspec.structs.replace(now.thing, **changes))
    return values


def listing(device: Device, memory: DeviceMemory, program: Program | None) -> list[tuple[str, ...]]:
    """What a device is known to hold as rows: whose, what, value."""
    return [(one.thing, one.name, one.held) for one in readable(device, memory, program)]


def read_listing(
    device: Device, memory: DeviceMemory, program: Program | None, rows: list[list[str]]
) -> tuple[dict[str, str], list[str]]:
    """Rows of whose, what and value as words by reference; and what could not be found, by row."""
    by_name: dict[tuple[str, str], str] = {}
    for one in readable(device, memory, program):
        by_name[one.thing.lower(), one.name.lower()] = one.ref
    typed: dict[str, str] = {}
    problems = []
    for number, row in enumerate(rows, 1):
        if len(row) < 3 or not any(cell.strip() for cell in row):
            continue
        ref = by_name.get((row[0].strip().lower(), row[1].strip().lower()))
        if ref is not None:
            typed[ref] = row[2].strip()
        elif number > 1:
            problems.append(
                say(
                    "Row {number}: {device} has no “{row}” of “{other}”.",
                    number=number,
                    device=device.name,
                    row=quoted(row[1]),
                    other=quoted(row[0]),
                )
            )
    return typed, problems
