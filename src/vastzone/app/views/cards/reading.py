"""Read back: what the display of a device shows, typed in, or taken from its list."""

from csv import reader as csv_rows
from functools import partial

from PySide6.QtWidgets import QApplication, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button, Label, set_tip, set_title
from vastzone.app.theme.current import THEME
from vastzone.core.cards.csv_text import csv_text
from vastzone.core.engine.report import Report
from vastzone.core.errors import PlanError
from vastzone.core.memory.checks import checked
from vastzone.core.memory.display import Shown, listing, read_listing, read_words, readable
from vastzone.core.memory.model import DeviceMemory, Known
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.readings import read_back
from vastzone.core.memory.rig import memory_of
from vastzone.core.memory.struck import told_by_strike
from vastzone.core.plan.fields.dials import dials_named
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.fields.words import value_words
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import slot_words
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say, say_many
from vastzone.core.text import quoted
from vastzone.desk.session import Desk
from vastzone.files.reading import MEGA, read_whole, text_of

COLUMNS = (
    say("Whose"),
    say("What"),
    say("Planned"),
    say("Thought to be"),
    say("The display shows"),
)
TYPED = 4


class ReadBack(Dialog):
    """A row a setting; what is typed is known then, and what is as planned is checked."""

    def __init__(self, parent: QWidget, desk: Desk, device: str) -> None:
        super().__init__(parent)
        self._desk, self._ident = desk, device
        self.typed: dict[str, str] = {}
        set_title(self, say("What {device} shows", device=self.device.name))
        self.resize(900, 640)
        box = QVBoxLayout(self)
        box.setContentsMargins(16, 14, 16, 14)
        box.setSpacing(10)
        box.addLayout(self._bar())
        self.table = typing_table(COLUMNS, say("Settings to read"))
        self.table.held.typed.connect(self._enter)
        self.table.horizontalHeader().setStretchLastSection(True)
        for column, wide in enumerate((190, 150, 190, 190)):
            self.table.setColumnWidth(column, wide)
        box.addWidget(self.table, 1)
        self.said = Label("")
        self.said.setProperty("role", "muted")
        box.addWidget(self.said)
        box.addLayout(self._buttons())
        self.show_rows()
        desk.stage.struck.connect(self._struck)
        self.search.setFocus()

    @property
    def device(self) -> Device:
        """The device that is read."""
        return lookup.device(self._desk.planned, self._ident)

    @property
    def memory(self) -> DeviceMemory:
        """What it is thought to hold."""
        return memory_of(self._desk.memory, self.device)

    @property
    def program(self) -> Program | None:
        """The program that is read."""
        number = self.programs.currentData()
        return None if number is None else lookup.program(self.device, number)

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setSpacing(8)
        self.programs = CalmCombo()
        self.programs.setAccessibleName(say("Program that the device shows"))
        for program in self.device.programs:
            shown = slot_words(self.device, slots_of(program)[0])
            self.programs.addItem(
                say("Program {shown}, {program}", shown=shown, program=program.name), program.number
            )
        on = self.memory.selected
        if on is not None:
            self.programs.setCurrentIndex(max(0, self.programs.findData(on.number)))
        self.programs.setVisible(bool(self.device.programs))
        self.programs.currentIndexChanged.connect(lambda _: self.show_rows())
        self.search = QLineEdit()
        self.search.setPlaceholderText(say("Find a control, zone, part or setting"))
        self.search.setAccessibleName(say("Find a setting"))
        self.search.textChanged.connect(lambda _: self.show_rows())
        paste = Button(say("Paste a list"))
        set_tip(paste, say("Rows of whose, what and value, as CSV"))
        paste.clicked.connect(lambda: self.take(QApplication.clipboard().text()))
        file = Button(say("Open a list…"))
        file.clicked.connect(self._open)
        copy = Button(say("Copy the list"))
        copy.clicked.connect(self._copy)
        for widget in (self.programs, self.search, paste, file, copy):
            bar.addWidget(widget, 1 if widget is self.search else 0)
        return bar

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addStretch(1)
        close = Button(say("Cancel"))
        close.clicked.connect(self.reject)
        self.apply = Button(say("That is what it shows"))
        self.apply.setProperty("role", "primary")
        self.apply.setDefault(False)
        self.apply.setAutoDefault(False)
        self.apply.clicked.connect(self.read)
        row.addWidget(close)
        row.addWidget(self.apply)
        return row

    def _struck(self, report: Report) -> None:
        """A real strike is a reading: what arrived tells message, channel and number."""
        message, program = self._desk.stage.real, self.program
        device, thing = read_ref(report.subject)
        if message is None or program is None or device != self._ident:
            return
        place = thing, report.bank, report.key
        self.take_values(told_by_strike(self.device, program, *place, message))

    def take_values(self, told: dict[str, Stored]) -> None:
        """Take values that came from the device for typed, as the device names them."""
        for dial in dials_named(self.device, frozenset(told)):
            self.typed[dial.ref] = value_words(dial, told[dial.ref])
        self.show_rows()

    def done(self, result: int) -> None:
        """Strikes are not heard here any more."""
        self._desk.stage.struck.disconnect(self._struck)
        super().done(result)

    def _matches(self) -> list[Shown]:
        wanted = self.search.text().lower().split()
        rows = []
        for one in readable(self.device, self.memory, self.program):
            words = f"{one.thing} {one.name}".lower()
            if all(piece in words for piece in wanted):
                rows.append(one)
        return rows

    def show_rows(self) -> None:
        """Show the settings that match."""
        colours = THEME.colours
        rows = []
        for one in self._matches():
            differs = one.held != one.planned
            held = Cell(one.held, colour=colours.caution if differs else "")
            typed = Cell(
                self.typed.get(one.ref, ""), typed=True, tip=say("Type what the display shows")
            )
            rows.append(row_of([one.thing, one.name, one.planned, held, typed], one.ref))
        self.table.show_rows(rows)
        count = (
            say(
                "{values} so far. ",
                values=say_many("{count} value", "{count} values", len(self.typed)),
            )
            if self.typed
            else ""
        )
        self.said.setText(
            say(
                "{count}Choose a row and type what the display shows; what you strike on the "
                "device "
                "itself fills in by itself.",
                count=count,
            )
        )

    def _enter(self, row: int, column: int, words: str) -> None:
        ref = self.table.held.rows[row].ref
        if column == TYPED:
            self.typed[ref] = words
            if not words.strip():
                self.typed.pop(ref)
            self.show_rows()

    def _open(self) -> None:
        path = dialogs.ask_table(self)
        if path is None:
            return
        try:
            self.take(text_of(read_whole(path, MEGA), quoted(path.name)))
        except PlanError as error:
            dialogs.tell(self, str(error))

    def _copy(self) -> None:
        rows = listing(self.device, self.memory, self.program)
        QApplication.clipboard().setText(csv_text(("Whose", "What", "Value"), rows))

    def take(self, text: str) -> None:
        """Take a list of whose, what and value for typed."""
        dialect = "\t" if "\t" in text else ","
        rows = list(csv_rows(text.splitlines(), delimiter=dialect))
        typed, problems = read_listing(self.device, self.memory, self.program, rows)
        self.typed |= typed
        self.show_rows()
        if problems:
            self.said.setText(" ".join(problems[:4]))

    def read(self) -> None:
        """What was typed is what the device shows."""
        device, program = self.device, self.program
        try:
            values = read_words(device, self.memory, program, self.typed)
        except PlanError as error:
            self.said.setText(str(error))
            return
        if values:
            doing = partial(_read, device, program, values)
            self._desk.operate(
                device.id, say("Read {device} back", device=device.name), "read back", doing
            )
        self.accept()


def _read(
    device: Device,
    program: Program | None,
    values: dict[str, int | str],
    memory: DeviceMemory,
    known: Known,
) -> DeviceMemory:
    """What is shown is known; the program that shows it is on; what is as planned is checked."""
    slot = None if program is None else Slot(number=program.number)
    inside = any(ref.count("/") == 3 for ref in values)
    if inside and slot is not None and memory.selected != slot:
        memory = perform(memory, device, Operation("select", slot=slot), known)
    after = read_back(memory, device, values, known)
    right = []
    for dial in dials_named(device, frozenset(values)):
        if values[dial.ref] == dial.value:
            right.append(dial.ref)
    return checked(after, device, right, slot, known)
