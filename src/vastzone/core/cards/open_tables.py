"""A plan as tables that can be edited elsewhere and read back: what differs becomes one edit.

Each row is known by its first cell; what is missing from a table stays as it is.  Columns that only
explain a row are written and not read.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Literal, NamedTuple

from vastzone.core.cards.csv_text import csv_text
from vastzone.core.cards.desk_list import desk_lines
from vastzone.core.cards.table_values import read, written, yes_or_no
from vastzone.core.console.wires import wire_list
from vastzone.core.describe.things import Thing
from vastzone.core.describe.traits import set_trait, traits_of
from vastzone.core.errors import EditError, PlanError
from vastzone.core.plan.edits import audio, consoles, setlists
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.edits.together import together
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import Owner, owners
from vastzone.core.plan.fields.table import dialled_fields
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.fields.words import SAID
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.setlists import SetList, SetStep
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.queries.sounds import output_choices, output_words, sounds_of
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say, say_many
from vastzone.core.text import decimal, quoted, whole_number

TableKind = Literal["controls", "mappings", "wires", "outputs", "desk", "setlists"]
KINDS: tuple[TableKind, ...] = ("controls", "mappings", "wires", "outputs", "desk", "setlists")
MOST = 200_000
FORMULA = frozenset("=+-@")
DRAWING = frozenset(("coupler", "combination", "crescendo", "passed on"))
"""What is worked on pages of its own, and not in a table of settings."""
READ_TRAITS = ("name", "banks", "row", "column")
"""What of a control is read back."""


class OpenTable(NamedTuple):
    """A table: its columns, the first of which names each row, and the rows."""

    kind: TableKind
    columns: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]

    def text(self) -> str:
        """As comma-separated values."""
        return csv_text(self.columns, self.rows)


class ReadBack(NamedTuple):
    """What a table that was read differs in: one edit, what it changes, and what is no good.

    The edit is None where nothing differs.
    """

    kind: TableKind
    edit: Edit | None
    changes: tuple[str, ...]
    mistakes: tuple[str, ...]


class _Change(NamedTuple):
    """What a row changes: in words, as an edit, and as a setting where it is one."""

    words: str
    edit: Edit
    setting: tuple[str, Stored] | None = None


FIRST: Mapping[str, TableKind] = {
    "control": "controls",
    "setting": "mappings",
    "wire": "wires",
    "sound": "outputs",
    "desk channel": "desk",
    "set list": "setlists",
}
"""What the first column of each kind is called."""


def kind_of(columns: Sequence[str]) -> TableKind | None:
    """Which table has such columns; None for none of them."""
    first = columns[0].strip().lower() if columns else ""
    return FIRST.get(first)


def table_of(plan: Plan, kind: TableKind) -> OpenTable:
    """One of the tables of a plan."""
    columns, rows = TABLES[kind](plan)
    return OpenTable(kind, columns, tuple(tuple(row) for row in rows))


def read_back(plan: Plan, columns: Sequence[str], rows: Sequence[Sequence[str]]) -> ReadBack:
    """What a table says otherwise than the plan.  Raises EditError for a table of another kind."""
    kind = kind_of(columns)
    if kind is None:
        known = ", ".join(FIRST)
        raise EditError(
            say("The first column is none of {known}: read a table written here.", known=known)
        )
    if len(rows) > MOST:
        raise EditError(
            say("{count:,} rows are too many: read {most:,} at most.", count=len(rows), most=MOST)
        )
    heads = [column.strip().lower() for column in columns]
    if kind == "setlists":
        return _read_setlists(plan, heads, rows)
    changes: list[_Change] = []
    mistakes: list[str] = []
    reading = READERS[kind](plan)
    for number, row in enumerate(rows, 2):
        cells = dict(zip(heads, map(_plain, row), strict=False))
        try:
            changes += reading(cells)
        except PlanError as error:
            mistakes.append(say("Line {number}: {error}", number=number, error=error))
    edit = None
    if changes:
        label = say(
            "Read {changes} of {kind}",
            changes=say_many("{count} change", "{count} changes", len(changes)),
            kind=kind,
        )
        edit = _edit_of(label, changes)
    return ReadBack(kind, edit, tuple(change.words for change in changes), tuple(mistakes))


def _edit_of(label: str, changes: Sequence[_Change]) -> Edit:
    """All changes as one step; settings are put in place together, which is quicker."""
    settings = dict(change.setting for change in changes if change.setting is not None)
    edits = [change.edit for change in changes if change.setting is None]
    if settings:
        edits.append(set_numbers(settings, ""))
    return together(label, edits)


def _plain(cell: str) -> str:
    """A cell without the mark that keeps a spreadsheet from reading it as a formula."""
    bare = cell.strip()
    return bare[1:] if bare[:1] == "'" and bare[1:2] in FORMULA else bare


Rows = Iterator[Sequence[str]]
Made = tuple[tuple[str, ...], Rows]


def _controls(plan: Plan) -> Made:
    traits = [trait for trait in traits_of("controls") if trait.id in READ_TRAITS]
    columns = ("control", "device", *(trait.id for trait in traits), "kind")

    def rows() -> Rows:
        for device in plan.devices:
            for control in device.controls:
                told = [trait.words(device, trait.held(control)) for trait in traits]
                yield (ref_to(device.id, control.id), device.name, *told, control.kind)

    return columns, rows()


Reader = Callable[[Mapping[str, str]], list[_Change]]


def _read_controls(plan: Plan) -> Reader:
    traits = [trait for trait in traits_of("controls") if trait.id in READ_TRAITS]

    def reader(cells: Mapping[str, str]) -> list[_Change]:
        ident, thing = read_ref(cells["control"])
        device = lookup.device(plan, ident)
        control = lookup.by_id(
            device.controls, thing, say("control of {device} called", device=device.name)
        )
        changes = []
        for trait in traits:
            now = trait.words(device, trait.held(control))
            words = cells.get(trait.id, now)
            if words == now:
                continue
            value = trait.read(device, words)
            edit = set_trait(device.id, (Thing("controls", control.id),), trait, value)
            said = say(
                "{device}, {control}: {trait} {now} to {words}",
                device=device.name,
                control=control.name,
                trait=trait.label.lower(),
                now=now,
                words=words,
            )
            changes.append(_Change(said, edit))
        return changes

    return reader


def _mappings(plan: Plan) -> Made:
    columns = ("setting", "device", "program", "thing", "field", "value")

    def rows() -> Rows:
        for device in plan.devices:
            for owner in owners(device):
                for field in _fields(owner):
                    if field.belongs_to(owner):
                        yield (
                            owner.ref(field.id),
                            device.name,
                            _program(owner),
                            SAID[owner.kind](owner),
                            field.name_on(owner),
                            written(field, owner),
                        )

    return columns, rows()


def _fields(owner: Owner) -> tuple[Field, ...]:
    """What of an owner stands in the table of settings."""
    return () if owner.kind in DRAWING else dialled_fields(owner.kind)


def _program(owner: Owner) -> str:
    if owner.program is None:
        return ""
    return f"{program_words(owner.device, owner.program.number)} {owner.program.name}"


def _read_mappings(plan: Plan) -> Reader:
    known = {}
    for device in plan.devices:
        for owner in owners(device):
            for field in _fields(owner):
                if field.belongs_to(owner):
                    known[owner.ref(field.id)] = (owner, field)

    def reader(cells: Mapping[str, str]) -> list[_Change]:
        ref = cells["setting"]
        if ref not in known:
            raise EditError(say("There is no setting “{ref}” in this plan.", ref=quoted(ref)))
        owner, field = known[ref]
        now = written(field, owner)
        words = cells.get("value", now)
        if words == now.strip():
            return []
        value = read(field, owner, words)
        if value == field.held(owner):
            return []
        said = f"{owner.device.name}, {SAID[owner.kind](owner)}: {field.name_on(owner)}"
        stored = field.values.stored(owner, value)
        edit = set_numbers({ref: stored}, "")
        return [
            _Change(
                say("{said} {now} to {words}", said=said, now=now or "nothing", words=words),
                edit,
                (ref, stored),
            )
        ]

    return reader


def _wires(plan: Plan) -> Made:
    columns = ("wire", "device", "group", "from", "to", "colour", "metres", "soldered", "tested")

    def rows() -> Rows:
        for device in plan.devices:
            console = device.console
            for wire in wire_list(device, console) if console is not None else ():
                yield (
                    ref_to(device.id, wire.id),
                    device.name,
                    wire.group,
                    wire.source,
                    wire.dest,
                    f"{wire.number} {wire.colour}",
                    f"{wire.metres:.2f}",
                    "yes" if console and wire.id in console.soldered else "no",
                    "yes" if console and wire.id in console.tested else "no",
                )

    return columns, rows()


def _read_wires(plan: Plan) -> Reader:
    def reader(cells: Mapping[str, str]) -> list[_Change]:
        ident, _, wire = cells["wire"].partition(":")
        device = lookup.device(plan, ident)
        console = device.console
        if console is None or wire not in {row.id for row in wire_list(device, console)}:
            raise EditError(
                say("There is no wire “{cells}” in this plan.", cells=quoted(cells["wire"]))
            )
        changes = []
        for column, done in (("soldered", console.soldered), ("tested", console.tested)):
            if column not in cells or yes_or_no(cells[column]) is (wire in done):
                continue
            edit = _wire_edit(device, wire, column, yes_or_no(cells[column]))
            said = say(
                "{device}, wire {wire}: {column} {cells}",
                device=device.name,
                wire=wire,
                column=column,
                cells=cells[column],
            )
            changes.append(_Change(said, edit))
        return changes

    return reader


def _wire_edit(device: Device, wire: str, column: str, on: bool) -> Edit:
    """Tick one wire, or take its tick back, whatever was ticked before."""

    def apply(plan: Plan) -> Plan:
        console = lookup.device(plan, device.id).console
        if console is None:
            return plan
        done = tuple(one for one in getattr(console, column) if one != wire)
        new = (*done, wire) if on else done
        return consoles.set_console(device.id, "", **{column: new}).change(plan)

    return Edit("", apply)


def _outputs(plan: Plan) -> Made:
    columns = ("sound", "device", "part", "name", "output", "level", "pan")

    def rows() -> Rows:
        for device in plan.devices:
            for unit in sounds_of(device) if device.outputs else ():
                where = output_words(device, unit.output)
                told = (device.name, unit.part.name, unit.name, where)
                yield (unit.ref, *told, str(unit.level), str(unit.pan))

    return columns, rows()


def _read_outputs(plan: Plan) -> Reader:
    known = {unit.ref: (device, unit) for device in plan.devices for unit in sounds_of(device)}

    def reader(cells: Mapping[str, str]) -> list[_Change]:
        ref = cells["sound"]
        if ref not in known:
            raise EditError(say("There is no sound “{ref}” in this plan.", ref=quoted(ref)))
        device, unit = known[ref]
        changes = []
        now = output_words(device, unit.output)
        words = cells.get("output", now)
        if words.lower() != now.lower():
            choice = _output_named(device, words)
            edit = audio.set_outputs({ref: choice}, "")
            changes.append(
                _Change(
                    say(
                        "{device}, {unit}: {now} to {words}",
                        device=device.name,
                        unit=unit.name,
                        now=now,
                        words=words,
                    ),
                    edit,
                )
            )
        for column, held in (("level", unit.level), ("pan", unit.pan)):
            value = whole_number(cells.get(column, str(held)))
            if value is None:
                raise EditError(
                    say(
                        "“{cells}” is no {column}: write a number.",
                        cells=quoted(cells[column]),
                        column=column,
                    )
                )
            if value != held:
                said = say(
                    "{device}, {unit}: {column} {held} to {value}",
                    device=device.name,
                    unit=unit.name,
                    column=column,
                    held=held,
                    value=value,
                )
                changes.append(_Change(said, audio.set_mix(ref, **{column: value})))
        return changes

    return reader


def _output_named(device: Device, words: str) -> str:
    """An output, or two as a pair, by what it is called.  Raises EditError."""
    for choice in output_choices(device):
        if words.lower() in (choice.lower(), output_words(device, choice).lower()):
            return choice
    known = ", ".join(output_words(device, choice) for choice in output_choices(device))
    raise EditError(
        say(
            "{device} has no output “{words}”: it has {known}.",
            device=device.name,
            words=quoted(words),
            known=known,
        )
    )


def _desk(plan: Plan) -> Made:
    columns = ("desk channel", "desk", "name", "what", "source", "jack", "DI", "phantom", "metres")

    def rows() -> Rows:
        for line in desk_lines(plan):
            cable = line.cable
            metres = cable.metres if cable is not None else None
            side = f" {cable.leg}" if cable is not None and cable.leg != "both" else ""
            yield (
                f"{ref_to(line.desk.id, line.channel.id)}{side}",
                line.desk.name,
                line.channel.name,
                line.name,
                line.source,
                line.jack,
                "yes" if line.di else "no",
                "yes" if line.channel.phantom else "no",
                "" if metres is None else f"{metres:g}",
            )

    return columns, rows()


def _read_desk(plan: Plan) -> Reader:
    def reader(cells: Mapping[str, str]) -> list[_Change]:
        ref, _, side = cells["desk channel"].partition(" ")
        ident, channel = read_ref(ref)
        desk = lookup.device(plan, ident)
        jack = lookup.by_id(
            desk.audio_inputs, channel, say("channel of {desk} called", desk=desk.name)
        )
        changes = []
        name = cells.get("name", jack.name)
        if name != jack.name.strip():
            edit = set_thing(ident, "audio_inputs", channel, "channel", "", name=name)
            changes.append(_Change(say("{jack} is called {name}", jack=jack.name, name=name), edit))
        phantom = yes_or_no(cells.get("phantom", "yes" if jack.phantom else "no"))
        if phantom is not jack.phantom:
            said = (
                say("{jack}: phantom power on", jack=jack.name)
                if phantom
                else say("{jack}: phantom power off", jack=jack.name)
            )
            changes.append(_Change(said, audio.set_phantom(ident, channel, phantom)))
        return changes + _of_cable(plan, cells, ref, side, jack.name)

    return reader


def _of_cable(
    plan: Plan, cells: Mapping[str, str], ref: str, side: str, name: str
) -> list[_Change]:
    """What a line says of the cable into its channel."""
    changes: list[_Change] = []
    for cable in plan.audio_cables:
        if cable.dest != ref or (side and cable.leg != side):
            continue
        di = yes_or_no(cells.get("di", "yes" if cable.di else "no"))
        words = cells.get("metres", "" if cable.metres is None else f"{cable.metres:g}")
        metres = decimal(words) if words else None
        if words and metres is None:
            raise EditError(say("“{words}” is no length: write metres.", words=quoted(words)))
        if (di, metres) != (cable.di, cable.metres):
            edit = audio.set_audio_cable(cable, "", di=di, metres=metres)
            length = say("no length told") if metres is None else say("{metres:g} m", metres=metres)
            if di:
                told = say("{name}: with a DI box, {length}", name=name, length=length)
            else:
                told = say("{name}: without a DI box, {length}", name=name, length=length)
            changes.append(_Change(told, edit))
    return changes


SETLIST_COLUMNS = ("set list", "place", "song", "spare", "minutes")


def _setlists(plan: Plan) -> Made:
    def rows() -> Rows:
        names = lookup.names_of(plan.scenes)
        for one in plan.setlists:
            for place, step in enumerate(one.steps, 1):
                song = names.get(step.scene or "", "")
                spare = "yes" if step.spare else "no"
                minutes = str(step.minutes) if step.minutes else ""
                yield (one.name, str(place), song, spare, minutes)

    return SETLIST_COLUMNS, rows()


def _read_setlists(plan: Plan, heads: Sequence[str], rows: Sequence[Sequence[str]]) -> ReadBack:
    """Every set list that the table names, in the order of its lines."""
    songs = {scene.name.strip().lower(): scene.id for scene in plan.scenes}
    lists = {one.name.strip().lower(): one for one in plan.setlists}
    steps: dict[str, list[SetStep]] = {}
    mistakes = []
    for number, row in enumerate(rows, 2):
        cells = dict(zip(heads, map(_plain, row), strict=False))
        name = cells.get("set list", "").lower()
        song = cells.get("song", "")
        if name not in lists:
            mistakes.append(
                say(
                    "Line {number}: there is no set list “{name}”.",
                    number=number,
                    name=quoted(name),
                )
            )
        elif song and song.lower() not in songs:
            mistakes.append(
                say("Line {number}: there is no song “{song}”.", number=number, song=quoted(song))
            )
        else:
            steps.setdefault(name, []).append(_step(songs.get(song.lower()), cells))
    changes = []
    edits = []
    for name, told in steps.items():
        one = lists[name]
        if tuple(told) != one.steps and not mistakes:
            changes.append(_setlist_words(plan, one, told))
            edits.append(setlists.set_steps(one.id, say("Read {one}", one=one.name), told))
    edit = together(say("Read set lists"), edits) if edits else None
    return ReadBack("setlists", edit, tuple(changes), tuple(mistakes))


def _step(song: str | None, cells: Mapping[str, str]) -> SetStep:
    minutes = whole_number(cells.get("minutes", "")) or 0
    spare = yes_or_no(cells.get("spare", "no"))
    if song is None:
        return SetStep(minutes=max(0, min(600, minutes)) or 15)
    return SetStep(scene=song, spare=spare)


def _setlist_words(plan: Plan, one: SetList, told: Sequence[SetStep]) -> str:
    names = lookup.names_of(plan.scenes)
    songs = [names.get(step.scene or "", "break") for step in told]
    return f"{one.name}: {', '.join(songs)}"


TABLES: Mapping[TableKind, Callable[[Plan], Made]] = {
    "controls": _controls,
    "mappings": _mappings,
    "wires": _wires,
    "outputs": _outputs,
    "desk": _desk,
    "setlists": _setlists,
}
READERS: Mapping[TableKind, Callable[[Plan], Reader]] = {
    "controls": _read_controls,
    "mappings": _read_mappings,
    "wires": _read_wires,
    "outputs": _read_outputs,
    "desk": _read_desk,
}
