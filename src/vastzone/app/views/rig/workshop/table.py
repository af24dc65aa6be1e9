"""Things of a device from a table: pasted or opened, shown as it is understood, put in at once."""

from pathlib import Path

from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QPlainTextEdit, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import choose
from vastzone.app.frame.rows import Cell, Row
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import Table, reading_table
from vastzone.app.frame.text import Button, Label
from vastzone.app.theme.current import THEME
from vastzone.core.cards.csv_text import csv_text
from vastzone.core.describe.table import Reading, guessed, put_in, read_table, written
from vastzone.core.describe.table_columns import WHATS, What
from vastzone.core.errors import PlanError
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say, say_many
from vastzone.core.text import capital, quoted
from vastzone.files.columns import cells_of, read_cells
from vastzone.files.tables import write_table

EXAMPLE = "name, kind, message, number, channel\nFader 1, fader, controller, 20, 1\n…"
SHOWN = 60
LONGEST = 400_000


class ReadTable(Dialog):
    """A place to paste into, what it says below, and what is wrong in it by row."""

    def __init__(self, parent: QWidget, device: Device, describe: Performer) -> None:
        super().__init__(parent)
        self._device, self._describe = device, describe
        self.reading: Reading | None = None
        self._chosen = False
        box = self.begin(
            say("From a table"), say("Paste a table into {device}", device=device.name), 860, 620
        )
        self.pasted = QPlainTextEdit()
        self.pasted.setPlaceholderText(EXAMPLE)
        self.pasted.setAccessibleName(say("Table to read"))
        self.pasted.setTabChangesFocus(True)
        bound(self.pasted, "MaximumHeight", 150)
        self.pasted.textChanged.connect(self._read)
        box.addWidget(self.pasted)
        row = QHBoxLayout()
        self.what = CalmCombo()
        self.what.setAccessibleName(say("What the rows are"))
        for what in WHATS:
            self.what.addItem(capital(say(what)), what)
        self.what.activated.connect(self._choose)
        open_file = Button(say("Open a file…"))
        open_file.clicked.connect(self._open)
        row.addWidget(Label(say("Rows are")))
        row.addWidget(self.what)
        row.addStretch()
        row.addWidget(open_file)
        box.addLayout(row)
        self.said = quiet("")
        box.addWidget(self.said)
        self._holder = QVBoxLayout()
        self.table: Table = reading_table(("",), say("The table as it is understood"))
        self._holder.addWidget(self.table)
        box.addLayout(self._holder, 1)
        self.mistakes = reading_table((say("Row"), say("What is wrong")), say("Mistakes by row"))
        self.mistakes.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        bound(self.mistakes, "MaximumHeight", 110)
        box.addWidget(self.mistakes)
        self.use = Button(say("Put in"))
        self.use.clicked.connect(self._use)
        self.answers(box, say("Close"), self.use)
        self._read()

    def _choose(self, _at: int) -> None:
        self._chosen = True
        self._read()

    def _open(self) -> None:
        path = dialogs.ask_table(self)
        if path is None:
            return
        try:
            rows = read_cells(path)
        except PlanError as error:
            self._refuse(str(error))
            return
        self.pasted.setPlainText(csv_text(rows[0] if rows else (), rows[1:]))

    def _read(self) -> None:
        """Understand what stands there now."""
        text = self.pasted.toPlainText()
        if not text.strip():
            self._refuse(say("The first line names the columns, in any order; the rest are rows."))
            return
        if len(text) > LONGEST:
            self._refuse(
                say(
                    "That is longer than {longest:,} letters: read it in several pieces.",
                    longest=LONGEST,
                )
            )
            return
        try:
            rows = cells_of(text)
            if not self._chosen:
                choose(self.what, guessed(rows[0] if rows else ()))
            what: What = self.what.currentData()
            self.reading = read_table(self._device, what, rows)
        except PlanError as error:
            self._refuse(str(error))
            return
        self._show(self.reading)

    def _refuse(self, sentence: str) -> None:
        self.reading = None
        self.said.setText(sentence)
        self._show_table(("",), ())
        self.mistakes.hide()
        self.use.setEnabled(False)

    def _show(self, reading: Reading) -> None:
        known = [head for head, c in zip(reading.heads, reading.columns, strict=True) if c]
        unknown = [head for head, c in zip(reading.heads, reading.columns, strict=True) if not c]
        said = say(
            "{rows} with {known}.",
            rows=say_many("{count} row", "{count} rows", len(reading.rows)),
            known=", ".join(known),
        )
        if unknown:
            said += say(" Not known and left out: {unknown}.", unknown=quoted(", ".join(unknown)))
        self.said.setText(said)
        columns = [column for column in reading.columns if column is not None]
        rows = []
        for values in reading.rows[:SHOWN]:
            cells = [Cell(_shown(values.get(column.id))) for column in columns]
            rows.append(Row(tuple(cells)))
        self._show_table(tuple(column.id for column in columns), tuple(rows))
        faults = []
        for mistake in reading.mistakes:
            told = Cell(mistake.sentence, colour=THEME.colours.fault)
            faults.append(Row((Cell(str(mistake.row)), told)))
        self.mistakes.show_rows(faults)
        self.mistakes.setVisible(bool(faults))
        self.use.setEnabled(bool(reading.rows))
        left = len(reading.mistakes)
        self.use.setText(
            say("Put in without {rows}", rows=say_many("{count} row", "{count} rows", left))
            if left
            else say("Put in")
        )

    def _show_table(self, columns: tuple[str, ...], rows: tuple[Row, ...]) -> None:
        """A table with other columns is another table."""
        old = self.table
        self.table = reading_table(columns, say("The table as it is understood"))
        self.table.show_rows(rows)
        self.table.horizontalHeader().setStretchLastSection(True)
        self._holder.addWidget(self.table)
        self._holder.removeWidget(old)
        old.hide()
        old.deleteLater()

    def _use(self) -> None:
        if self.reading is not None:
            self._describe(put_in(self._device.id, self.reading))
            self.accept()


def _shown(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return " or ".join(map(str, value)) if isinstance(value, tuple) else str(value)


def write_out(parent: QWidget, device: Device, what: What) -> None:
    """Write a device's things as a table.  Raises WriteError."""
    path: Path | None = dialogs.ask_save_table(parent, say("Save table"), f"{device.id}-{what}.csv")
    if path is not None:
        heads, *rows = written(device, what)
        write_table(csv_text(heads, rows), path, say("The table"))
