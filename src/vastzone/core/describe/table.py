"""A device's things as a table: pasted or read, each row put in or brought up to date by its name.

Columns are known by their names in any order; what is wrong is told by row.
"""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, Literal, NamedTuple

from vastzone.core.describe.fitting import fitted
from vastzone.core.describe.making_sounds import COLOURS, tag_of
from vastzone.core.describe.traits import NO, Trait, traits_of
from vastzone.core.errors import EditError, PlanError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Part, Sound, Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.triggers import TriggerInput
from vastzone.core.plan.model.values import ControlKind
from vastzone.core.plan.queries import lookup
from vastzone.core.text import many, quoted, whole_number

What = Literal["controls", "stops", "parts", "targets", "sounds", "inputs"]
WHATS: tuple[What, ...] = ("controls", "stops", "parts", "targets", "sounds", "inputs")
MOST = 1_000
"""Rows that are read at once."""
Read = Callable[[Device, str], Any]


class Column(NamedTuple):
    """A column: what it is called, how it is read and written; ``sent`` ones are what is sent."""

    id: str
    also: tuple[str, ...]
    read: Read
    write: Callable[[Device, Any], str]
    trait: Trait | None = None


class Mistake(NamedTuple):
    """A row that cannot be taken, counted from 1 below the names of the columns, and why."""

    row: int
    sentence: str


class Reading(NamedTuple):
    """A table as it was understood: its columns (None for unknown ones), rows, mistakes."""

    what: What
    columns: tuple[Column | None, ...]
    heads: tuple[str, ...]
    rows: tuple[Mapping[str, Any], ...]
    mistakes: tuple[Mistake, ...]


def _number(low: int, high: int, name: str) -> Read:
    def read(_device: Device, text: str) -> int:
        number = whole_number(text)
        if number is None or not low <= number <= high:
            raise EditError(f"“{quoted(text)}” is no {name}: write one from {low} to {high}.")
        return number

    return read


def _channel(_device: Device, text: str) -> int | None:
    if text.lower() in ("all", "omni", "zones"):
        return None
    number = whole_number(text)
    if number is None or not 1 <= number <= 16:
        raise EditError(f"“{quoted(text)}” is no channel: write one from 1 to 16, or all.")
    return number


def _note(device: Device, text: str) -> int:
    number = whole_number(text)
    if number is not None and not 0 <= number <= 127:
        raise EditError(f"{number} is outside 0–127: write a number inside, or a note’s name.")
    return pitch.parse(text, device.octaves)


MESSAGES = {"note": "note", "cc": "controller", "controller": "controller", "program": "program"}
MESSAGES |= {"bend": "bend", "pressure": "pressure", "nothing": "none", "none": "none", "": "none"}


def _message(_device: Device, text: str) -> str:
    found = MESSAGES.get(text.lower().removesuffix(" change").removesuffix("control "))
    if found is None:
        raise EditError(f"“{quoted(text)}” is no message: write note, controller, program or bend.")
    return found


def _mode(_device: Device, text: str) -> str:
    if text.lower() not in ("momentary", "toggle", "trigger"):
        raise EditError(f"“{quoted(text)}” is no mode: write momentary, toggle or trigger.")
    return text.lower()


def _of(trait: Trait) -> Column:
    return Column(
        trait.id,
        (trait.label.lower(), *trait.also),
        trait.read,
        lambda device, item: trait.words(device, trait.held(item)),
        trait,
    )


def _plain(ident: str, also: tuple[str, ...], read: Read, attribute: str = "") -> Column:
    def write(_device: Device, item: Any) -> str:
        value = getattr(item, attribute or ident, None)
        return "" if value is None else str(value)

    return Column(ident, also, read, write)


def _note_column(ident: str, also: tuple[str, ...]) -> Column:
    def write(device: Device, item: Any) -> str:
        value = getattr(item, ident, None)
        return "" if value is None else pitch.name(value, device.octaves)

    return Column(ident, also, _note, write)


SENT: tuple[Column, ...] = (
    _plain("bank", (), _number(1, 64, "bank")),
    _plain("message", ("sends",), _message),
    _plain("number", ("cc", "controller", "note", "no", "#"), _note),
    _plain("channel", ("ch", "midi channel"), _channel),
    _plain("low", ("least", "min", "from"), _number(0, 127, "value")),
    _plain("high", ("most", "max", "to"), _number(0, 127, "value")),
    _plain("mode", (), _mode),
)
"""What controls send: columns that belong to a send, not to the control."""
_CONTROLS = tuple(_of(trait) for trait in traits_of("controls"))
COLUMNS: dict[What, tuple[Column, ...]] = {
    "controls": (*_CONTROLS, *SENT),
    "stops": (*_CONTROLS, *SENT),
    "parts": (
        *(_of(trait) for trait in traits_of("parts")),
        _plain("channel", ("ch", "midi channel"), _channel),
        _note_column("low", ("lowest", "lowest note", "from")),
        _note_column("high", ("highest", "highest note", "to")),
    ),
    "targets": (
        *(_of(trait) for trait in traits_of("targets")),
        _plain("controller", ("cc", "number", "no", "#"), _number(0, 127, "controller")),
        _plain("channel", ("ch", "midi channel"), _channel),
    ),
    "sounds": (
        Column("name", ("sound",), lambda _, text: text, lambda _, item: str(item.name)),
        _note_column("note", ("number", "no", "#", "key")),
        Column(
            "loud",
            (),
            lambda _, text: text.lower() not in NO,
            lambda _, item: "yes" if item.loud else "",
        ),
    ),
    "inputs": tuple(_of(trait) for trait in traits_of("inputs")),
}
"""The columns that a table of each kind can have."""


def columns_of(what: What, heads: Sequence[str]) -> tuple[Column | None, ...]:
    """Which column each heading means; None for one that is not known."""
    columns: list[Column | None] = []
    used: set[str] = set()
    for head in heads:
        name = head.strip().lower().replace("_", " ")
        found = None
        for column in COLUMNS[what]:
            if column.id not in used and name in (column.id, *column.also):
                found = column
                break
        if found is not None:
            used.add(found.id)
        columns.append(found)
    return tuple(columns)


def guessed(heads: Sequence[str]) -> What:
    """What a table is probably of: where most of its columns are known, the first of several."""
    return max(WHATS, key=lambda what: sum(bool(c) for c in columns_of(what, heads)))


def read_table(device: Device, what: What, rows: Sequence[Sequence[str]]) -> Reading:
    """Read a table whose first row names its columns.  Raises EditError where none is known."""
    heads = tuple(rows[0]) if rows else ()
    columns = columns_of(what, heads)
    if not any(column is not None and column.id == "name" for column in columns):
        known = ", ".join(column.id for column in COLUMNS[what][:6])
        raise EditError(
            f"No column is called name: begin with a line of headings, such as {known}."
        )
    if len(rows) - 1 > MOST:
        raise EditError(f"{len(rows) - 1:,} rows are too many: read {MOST:,} at most at once.")
    read: list[Mapping[str, Any]] = []
    mistakes: list[Mistake] = []
    for number, row in enumerate(rows[1:], 1):
        if not any(cell.strip() for cell in row):
            continue
        try:
            read.append(_row(device, columns, row))
        except PlanError as error:
            mistakes.append(Mistake(number, str(error)))
    return Reading(what, columns, heads, tuple(read), tuple(mistakes))


def _row(device: Device, columns: Sequence[Column | None], row: Sequence[str]) -> Mapping[str, Any]:
    values: dict[str, Any] = {}
    for column, cell in zip(columns, row, strict=False):
        text = cell.strip()
        if column is not None and text:
            values[column.id] = column.read(device, text)
    name = str(values.get("name", ""))
    if not 1 <= len(name) <= 80:
        raise EditError("A name has from 1 to 80 letters: correct it.")
    return values


def put_in(device: str, reading: Reading) -> Edit:
    """Put the rows of a table into a device: new things, or those of the same name changed."""
    word = "row"

    def change(owner: Device) -> Device:
        before = owner
        for values in reading.rows:
            owner = PUT[reading.what](owner, values)
        return fitted(before, owner)

    return edit_device(device, f"Read {many(len(reading.rows), word)} of {reading.what}", change)


def _same(items: Sequence[Any], name: str) -> Any:
    for item in items:
        if item.name.lower() == name.lower():
            return item
    return None


def _traits(what: What, item: Any, values: Mapping[str, Any]) -> Any:
    """A thing with all that its row says of it."""
    for column in COLUMNS[what]:
        if column.trait is not None and column.id in values and column.trait.belongs_to(item):
            item = changed(item, **column.trait.changes(item, values[column.id]))
    return item


def _put(owner: Device, group: str, old: Any, new: Any) -> Device:
    items = getattr(owner, group)
    if old is None:
        return changed(owner, **{group: (*items, new)})
    swapped = tuple(new if item is old else item for item in items)
    return changed(owner, **{group: swapped})


def _put_control(owner: Device, values: Mapping[str, Any], kind: ControlKind = "knob") -> Device:
    old = _same(owner.controls, values["name"])
    taken = lookup.ids_of(owner.controls) | lookup.ids_of(owner.keybeds)
    fresh = old
    if fresh is None:
        alike = sum(c.kind == values.get("kind", kind) for c in owner.controls)
        ident = lookup.free_id(taken, values["name"])
        row, column = divmod(alike, 10)
        fresh = Control(id=ident, name=values["name"], kind=kind, row=row, column=column)
    bank = values.get("bank", 1)
    new = _traits("controls", fresh, values)
    new = changed(new, banks=max(new.banks, bank))
    owner = _put(owner, "controls", old, new)
    sent = {column.id for column in SENT} & set(values) - {"bank"}
    return _with_send(owner, new, bank, values) if sent else owner


def _with_send(owner: Device, control: Control, bank: int, values: Mapping[str, Any]) -> Device:
    changes = {}
    for field in ("message", "number", "channel", "low", "high", "mode"):
        if field in values:
            changes[field] = values[field]
    if "number" in changes and "message" not in changes:
        changes["message"] = "note" if control.kind == "pad" else "controller"
    programs = []
    for program in owner.programs or (Program(number=0, name="First"),):
        sends = list(program.sends)
        place = -1
        for at, send in enumerate(sends):
            if (send.control, send.bank, send.layer) == (control.id, bank, 0):
                place = at
        if place < 0:
            sends.append(Send(control=control.id, bank=bank, message="none"))
        sends[place] = changed(sends[place], **changes)
        programs.append(changed(program, sends=tuple(sends)))
    return changed(owner, programs=tuple(programs))


def _put_stop(owner: Device, values: Mapping[str, Any]) -> Device:
    return _put_control(owner, values, "stop")


def _ends(owner: Device) -> set[str]:
    return lookup.ids_of(owner.parts) | lookup.ids_of(owner.targets)


def _put_part(owner: Device, values: Mapping[str, Any]) -> Device:
    old = _same(owner.parts, values["name"])
    fresh = old or Part(
        id=lookup.free_id(_ends(owner), values["name"]),
        name=values["name"],
        tag=tag_of(values["name"], owner),
        colour=len(owner.parts) % COLOURS,
    )
    plain = {field: values[field] for field in ("channel", "low", "high") if field in values}
    return _put(owner, "parts", old, changed(_traits("parts", fresh, values), **plain))


def _put_target(owner: Device, values: Mapping[str, Any]) -> Device:
    old = _same(owner.targets, values["name"])
    ident = lookup.free_id(_ends(owner), values["name"])
    fresh = old or Target(id=ident, name=values["name"])
    plain = {field: values[field] for field in ("controller", "channel") if field in values}
    return _put(owner, "targets", old, changed(_traits("targets", fresh, values), **plain))


def _put_sound(owner: Device, values: Mapping[str, Any]) -> Device:
    """A sound of the first kit; of a new one on a new part where there is none."""
    if not owner.kits:
        kit = Kit(id="kit", name="Kit 1", sounds=())
        rhythm = Part(
            id=lookup.free_id(_ends(owner), "Rhythm"),
            name="Rhythm",
            tag=tag_of("Rhythm", owner),
            channel=10,
            rhythm=True,
            kit="kit",
            trigger="one-shot",
        )
        owner = changed(owner, kits=(kit,), parts=(*owner.parts, rhythm))
    kit = owner.kits[0]
    old = _same(kit.sounds, values["name"])
    after = max((sound.note + 1 for sound in kit.sounds), default=36)
    ident = lookup.free_id(lookup.ids_of(kit.sounds), values["name"])
    fresh = old or Sound(id=ident, name=values["name"], note=min(127, after))
    plain = {field: values[field] for field in ("note", "loud") if field in values}
    new = changed(fresh, **plain)
    kept = tuple(new if sound is old else sound for sound in kit.sounds)
    sounds = kept if old is not None else (*kept, new)
    return _put(owner, "kits", kit, changed(kit, sounds=sounds))


def _put_input(owner: Device, values: Mapping[str, Any]) -> Device:
    old = _same(owner.inputs, values["name"])
    ident = lookup.free_id(lookup.ids_of(owner.inputs), values["name"])
    fresh = old or TriggerInput(id=ident, name=values["name"], types=("dual",), type="dual")
    return _put(owner, "inputs", old, _traits("inputs", fresh, values))


PUT: dict[What, Callable[[Device, Mapping[str, Any]], Device]] = {
    "controls": _put_control,
    "stops": _put_stop,
    "parts": _put_part,
    "targets": _put_target,
    "sounds": _put_sound,
    "inputs": _put_input,
}
"""How a row of each kind is put into a device."""


def written(device: Device, what: What) -> tuple[tuple[str, ...], ...]:
    """A device's things as such a table, the names of the columns first."""
    columns = COLUMNS[what]
    rows = [tuple(column.id for column in columns)]
    for item, bank, send in _items(device, what):
        cells = []
        for column in columns:
            if column in SENT and send is None:
                cells.append(str(bank) if column.id == "bank" else "")
                continue
            source = send if column in SENT else item
            known = column.trait is None or column.trait.belongs_to(item)
            cells.append(column.write(device, source) if known else "")
        rows.append(tuple(cells))
    return tuple(rows)


def _items(device: Device, what: What) -> list[tuple[Any, int, Send | None]]:
    """What stands in each row: controls once for each bank, with what they send, if anything."""
    if what == "sounds":
        return [(sound, 1, None) for kit in device.kits[:1] for sound in kit.sounds]
    if what not in ("controls", "stops"):
        return [(item, 1, None) for item in getattr(device, what)]
    sends = {}
    for send in device.programs[0].sends if device.programs else ():
        if not send.layer:
            sends[send.control, send.bank] = send
    items: list[tuple[Any, int, Send | None]] = []
    for control in device.controls:
        if what == "controls" or control.kind == "stop":
            for bank in range(1, control.banks + 1):
                items.append((control, bank, sends.get((control.id, bank))))
    return items
