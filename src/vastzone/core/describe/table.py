"""A device's things as a table: pasted or read, each row put in or brought up to date by its name.

Columns are known by their names in any order; what is wrong is told by row.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from vastzone.core.describe.fitting import fitted
from vastzone.core.describe.table_columns import COLUMNS, SENT, WHATS, Column, What
from vastzone.core.describe.table_putting import PUT
from vastzone.core.errors import EditError, PlanError
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say, say_many

MOST = 1_000
"""Rows that are read at once."""


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
            say(
                "No column is called name: begin with a line of headings, such as {known}.",
                known=known,
            )
        )
    if len(rows) - 1 > MOST:
        raise EditError(
            say(
                "{count:,} rows are too many: read {most:,} at most at once.",
                count=len(rows) - 1,
                most=MOST,
            )
        )
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
        raise EditError(say("A name has from 1 to 80 letters: correct it."))
    return values


def put_in(device: str, reading: Reading) -> Edit:
    """Put the rows of a table into a device: new things, or those of the same name changed."""

    def change(owner: Device) -> Device:
        before = owner
        for values in reading.rows:
            owner = PUT[reading.what](owner, values)
        return fitted(before, owner)

    return edit_device(
        device,
        say_many(
            "Read {count} row of {what}",
            "Read {count} rows of {what}",
            len(reading.rows),
            what=reading.what,
        ),
        change,
    )


def written(device: Device, what: What) -> tuple[tuple[str, ...], ...]:
    """A device's things as such a table, the names of the columns first."""
    columns = COLUMNS[what]
    rows = [tuple(column.id for column in columns)]
    for row in _rows(device, what):
        rows.append(tuple(_cell(device, row, column) for column in columns))
    return tuple(rows)


class _Row(NamedTuple):
    """What stands in a row, what it sends, if anything, and where: the program, bank or kit."""

    item: Any
    send: Send | None
    places: Mapping[str, str]


def _cell(device: Device, row: _Row, column: Column) -> str:
    if column.id in row.places:
        return row.places[column.id]
    if column in SENT:
        return "" if row.send is None else column.write(device, row.send)
    if column.trait is not None and not column.trait.belongs_to(row.item):
        return ""
    return column.write(device, row.item)


def _rows(device: Device, what: What) -> Iterator[_Row]:
    if what == "sounds":
        for kit in device.kits:
            name = kit.name if len(device.kits) > 1 else ""
            for sound in kit.sounds:
                yield _Row(sound, None, {"kit": name})
    elif what in ("controls", "stops"):
        for program in device.programs or (Program(number=0, name=""),):
            yield from _control_rows(device, what, program)
    else:
        for item in getattr(device, what):
            yield _Row(item, None, {})


def _control_rows(device: Device, what: What, program: Program) -> Iterator[_Row]:
    """The controls once for each bank, with what they send in a program."""
    shown = str(program.number + device.first_program) if len(device.programs) > 1 else ""
    sends = {}
    for send in program.sends:
        if not send.layer:
            sends[send.control, send.bank] = send
    for control in device.controls:
        if what == "controls" or control.kind == "stop":
            for bank in range(1, control.banks + 1):
                places = {"program": shown, "bank": str(bank)}
                yield _Row(control, sends.get((control.id, bank)), places)
