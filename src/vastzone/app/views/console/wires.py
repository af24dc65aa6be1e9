"""The page Wires: every wire in the order of work, to tick; materials, work; saved and printed."""

from datetime import date
from functools import cache
from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QIcon, QPainter, QPixmap, QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QVBoxLayout,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label
from vastzone.app.views.console.matrix import paint_swatch
from vastzone.app.views.console.shared import Bench
from vastzone.core.console.wires import WireRow, labour, materials, wire_list
from vastzone.core.errors import WriteError
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.queries import lookup
from vastzone.core.say import number, say, say_many
from vastzone.files.tables import write_table
from vastzone.files.whole import write_whole
from vastzone.files.wires import CAUTIONS, to_csv, to_pdf

COLUMNS = (say("Group"), say("From"), say("To"), say("Colour"), "m", say("Soldered"), say("Tested"))
SOLDERED = 5
NARROW = 760


class WiresPage(QWidget):
    """The list with its ticks, what it takes, and the cautions where the work is."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.shown: tuple[WireRow, ...] = ()
        self.rows = reading_table(COLUMNS, say("Wires in the order of work"))
        header = self.rows.horizontalHeader()
        for column, wide in enumerate((140, 120, 200, 136, 58, 76, 66)):
            self.rows.setColumnWidth(column, wide)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.rows.held.ticked.connect(self._ticked)
        self.rows.chosen.connect(self._choose)
        self.words, self.caution = Label(), quiet(f"⚠ {CAUTIONS}")
        self.words.setWordWrap(True)
        self.words.setProperty("role", "small")
        self.save_csv, self.save_pdf = Button(say("Save as CSV…")), Button(say("Save as PDF…"))
        self.save_csv.clicked.connect(lambda: self._ask("csv"))
        self.save_pdf.clicked.connect(lambda: self._ask("pdf"))
        row, box = QHBoxLayout(), QVBoxLayout(self)
        row.addWidget(self.words, 1)
        row.addWidget(self.save_csv)
        row.addWidget(self.save_pdf)
        box.setContentsMargins(14, 0, 14, 8)
        box.setSpacing(7)
        box.addLayout(row)
        box.addWidget(self.rows, 1)
        box.addWidget(self.caution)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """In a narrow window the group gives way: the wire's own ends say it too."""
        super().resizeEvent(event)
        self.rows.setColumnHidden(0, self.width() < NARROW)

    def refresh(self) -> None:
        """Show the wires as they are now."""
        owner, console = self._bench.owner, self._bench.console
        if owner is None:
            return
        self.shown = wire_list(owner, console)
        soldered, tested = set(console.soldered), set(console.tested)
        rows = []
        for wire in self.shown:
            colour = Cell(f"{wire.number} {say(wire.colour)}", icon=_icon(wire.colour))
            ticks = (Cell("", ticked=wire.id in soldered), Cell("", ticked=wire.id in tested))
            metres = number(wire.metres, ".2f")
            rows.append(row_of((wire.group, wire.source, wire.dest, colour, metres, *ticks)))
        self.rows.show_rows(rows)
        self._say()

    def _say(self) -> None:
        owner, console = self._bench.owner, self._bench.console
        assert owner is not None
        known = lookup.ids_of(self.shown)
        needed = materials(owner, console)
        work = labour(owner, console)
        diodes = next(int(item.amount) for item in needed if item.name == "diodes")
        plugs = next(int(item.amount) for item in needed if item.name == "connectors")
        metres = sum(item.amount for item in needed if item.unit == "m")
        price = sum(item.price for item in needed)
        self.words.setText(
            say(
                "{wires}: {count} soldered, {known_set} tested. {diodes}, {connectors}, "
                "{metres:.0f} "
                "m of wire: {price:.2f} with the encoder. {joints} joints, about {hours:.0f} hours "
                "at your pace.",
                wires=say_many("{count} wire", "{count} wires", len(self.shown)),
                count=len(known & set(console.soldered)),
                known_set=len(known & set(console.tested)),
                diodes=say_many("{count} diode", "{count} diodes", diodes),
                connectors=say_many("{count} connector", "{count} connectors", plugs),
                metres=metres,
                price=price,
                joints=work.joints,
                hours=work.hours,
            )
        )

    def _ticked(self, row: int, column: int, on: bool) -> None:
        owner = self._bench.owner
        if owner is not None:
            field = "soldered" if column == SOLDERED else "tested"
            self._perform(consoles.tick(owner.id, self.shown[row].id, field, on))

    def _choose(self) -> None:
        """Point at the contact of the chosen wire."""
        row = self.rows.chosen_row
        if 0 <= row < len(self.shown) and self.shown[row].key >= 0:
            circuit = self._bench.circuit
            block = circuit.block(self.shown[row].block)
            self._bench.point(circuit.contact(block, self.shown[row].key))

    def _ask(self, kind: str) -> None:
        path = dialogs.ask_save_table(self, say("Save wire list"), f"wires.{kind}")
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Save the list as CSV or PDF, by the name’s ending; what went wrong is said."""
        owner, console = self._bench.owner, self._bench.console
        if owner is None:
            return
        try:
            if path.suffix.lower() == ".pdf":
                desk = self._bench.desk
                number = lookup.program_number(desk.scene, owner)
                today = date.today().isoformat()
                sheet = to_pdf(desk.plan.name, owner, console, number, today)
                write_whole(sheet, path, say("The wire list"))
            else:
                write_table(to_csv(owner, console), path, say("The wire list"))
        except WriteError as error:
            self.words.setText(str(error))
        else:
            self.words.setText(say("Saved: {path}", path=path.name))


@cache
def _icon(colour: str) -> QIcon:
    """A swatch of a wire's colour; the same one each time, so that rows compare as equal."""
    image = QPixmap(16, 16)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    paint_swatch(painter, QRectF(2, 2, 12, 12), colour)
    painter.end()
    return QIcon(image)
