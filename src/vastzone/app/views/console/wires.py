"""The page Wires: every wire in the order of work, to tick; materials, work; saved and printed."""

from html import escape
from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPixmap, QTextDocument
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.frame.elided import quiet
from vastzone.app.frame.table import reading_table
from vastzone.app.perform import Performer
from vastzone.app.views.console.matrix import paint_swatch
from vastzone.app.views.console.shared import Bench
from vastzone.core.console.wires import WireRow, labour, materials, setup, wire_list
from vastzone.core.errors import WriteError
from vastzone.core.plan import consoles, lookup
from vastzone.core.proof.words import many
from vastzone.files.tables import write_table

COLUMNS = ("Group", "From", "To", "Colour", "m", "Soldered", "Tested")
SOLDERED, TESTED = 5, 6
CAUTIONS = (
    "Unplug the console, wait and measure before touching it: mains and charged capacitors kill. "
    "Mains work is for a licensed electrician under the local code. Never join old magnets "
    "(12–28 V) to logic inputs, and fuse them. Mind solder fumes, old lead and dust; two people "
    "for the weight."
)


class WiresPage(QWidget):
    """The list with its ticks, what it takes, and the cautions where the work is."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.shown: tuple[WireRow, ...] = ()
        self.rows = reading_table(0, COLUMNS, "Wires in the order of work")
        header = self.rows.horizontalHeader()
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        for column, wide in enumerate((140, 120, 200, 136, 58, 76, 66)):
            self.rows.setColumnWidth(column, wide)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.rows.itemChanged.connect(self._ticked)
        self.rows.itemSelectionChanged.connect(self._choose)
        self.words, self.caution = QLabel(), quiet(f"⚠ {CAUTIONS}")
        self.words.setWordWrap(True)
        self.words.setProperty("role", "small")
        self.save_csv, self.save_pdf = QPushButton("Save as CSV…"), QPushButton("Save as PDF…")
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

    def refresh(self) -> None:
        """Show the wires as they are now."""
        owner, console = self._bench.owner, self._bench.console
        if owner is None:
            return
        self.shown = wire_list(owner, console)
        self.rows.blockSignals(True)
        self.rows.setRowCount(len(self.shown))
        soldered, tested = set(console.soldered), set(console.tested)
        for n, wire in enumerate(self.shown):
            line = (wire.group, wire.source, wire.dest, f"{wire.number} {wire.colour}",
                    f"{wire.metres:.2f}")  # fmt: skip
            for column, words in enumerate(line):
                item = QTableWidgetItem(words)
                if column == 3:
                    item.setIcon(_icon(wire.colour))
                self.rows.setItem(n, column, item)
            for column, held in ((SOLDERED, soldered), (TESTED, tested)):
                tick = QTableWidgetItem()
                tick.setFlags(tick.flags() | Qt.ItemFlag.ItemIsUserCheckable)
                on = wire.id in held
                tick.setCheckState(Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)
                self.rows.setItem(n, column, tick)
        self.rows.blockSignals(False)
        self._say()

    def _say(self) -> None:
        owner, console = self._bench.owner, self._bench.console
        assert owner is not None
        known = {w.id for w in self.shown}
        held = materials(owner, console)
        work = labour(owner, console)
        diodes = next(int(m.amount) for m in held if m.name == "diodes")
        plugs = next(int(m.amount) for m in held if m.name.startswith("connectors"))
        metres = sum(m.amount for m in held if m.unit == "m")
        price = sum(m.price for m in held)
        self.words.setText(
            f"{many(len(self.shown), 'wire')}: {len(known & set(console.soldered))} soldered, "
            f"{len(known & set(console.tested))} tested. {many(diodes, 'diode')}, "
            f"{many(plugs, 'connector')}, {metres:.0f} m of wire: {price:.2f} with the encoder. "
            f"{work.joints} joints, about {work.hours:.0f} hours at your pace."
        )

    def _ticked(self, item: QTableWidgetItem) -> None:
        owner = self._bench.owner
        if owner is None or item.column() not in (SOLDERED, TESTED):
            return
        field = "soldered" if item.column() == SOLDERED else "tested"
        on = item.checkState() is Qt.CheckState.Checked
        self._perform(consoles.tick(owner.id, self.shown[item.row()].id, field, on))

    def _choose(self) -> None:
        """Point at the contact of the chosen wire."""
        row = self.rows.currentRow()
        if 0 <= row < len(self.shown) and self.shown[row].key >= 0:
            made = self._bench.circuit
            block = made.block(self.shown[row].block)
            self._bench.point(made.contact(block, self.shown[row].key))

    def _ask(self, kind: str) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "Save wire list", f"wires.{kind}", f"{kind.upper()} (*.{kind})"
        )
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Save the list as CSV or PDF, by the name’s ending; what went wrong is said."""
        try:
            if path.suffix.lower() == ".pdf":
                self._print(path)
            else:
                write_table(self.as_csv(), path, "The wire list")
        except WriteError as error:
            self.words.setText(str(error))
        else:
            self.words.setText(f"Saved: {path.name}")

    def as_csv(self) -> str:
        """The list with named columns."""
        console = self._bench.console
        lines = ["wire,group,from,to,colour,number,metres,soldered,tested"]
        for w in self.shown:
            ticks = (w.id in console.soldered, w.id in console.tested)
            fields = (w.id, w.group, w.source, w.dest, w.colour, str(w.number),
                      f"{w.metres:.2f}", *("yes" if t else "" for t in ticks))  # fmt: skip
            lines.append(",".join(f'"{f}"' if "," in f else f for f in fields))
        return "\n".join(lines) + "\n"

    def _print(self, path: Path) -> None:
        write_table("", path, "The wire list")
        document = QTextDocument()
        document.setHtml(self.as_html())
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(path))
        document.print_(printer)

    def as_html(self) -> str:
        """The list for print: the number beside each colour, large ticks, cautions on top."""
        owner, console = self._bench.owner, self._bench.console
        name = owner.name if owner is not None else ""
        body, group = [], ""
        for w in self.shown:
            if w.group != group:
                group = w.group
                body.append(f"<tr><td colspan=6><h3>{escape(group)}</h3></td></tr>")
            ticks = "".join(
                f"<td>{'☑' if w.id in held else '☐'}</td>"
                for held in (console.soldered, console.tested)
            )
            body.append(
                f"<tr><td>{escape(w.source)}</td><td>{escape(w.dest)}</td><td><b>{w.number}</b> "
                f"{escape(w.colour)}</td><td>{w.metres:.2f} m</td>{ticks}</tr>"
            )
        return (
            f"<h1>{escape(name)}: wires</h1><p><b>{escape(CAUTIONS)}</b></p>"
            "<table cellpadding=3 width='100%'><tr><th align=left>From</th><th align=left>To</th>"
            "<th align=left>Wire</th><th align=left>Length</th><th>Soldered</th><th>Tested</th>"
            f"</tr>{''.join(body)}</table>{self._settings()}"
        )

    def _settings(self) -> str:
        """The settings as the encoder asks for them, for print."""
        owner, console = self._bench.owner, self._bench.console
        number = lookup.program_number(self._bench.desk.scene, owner) if owner else None
        if owner is None or number is None:
            return ""
        rows = "".join(
            f"<tr><td>{escape(s.block)}</td><td>{s.channel}</td><td>{s.octave}</td>"
            f"<td>{s.note_index}</td><td>{escape(s.name)}</td><td>{s.sense}</td>"
            f"<td>{s.commons}</td></tr>"
            for s in setup(owner, console, number)
        )
        warn = "Setting up erases what the encoder holds: keep it first." if (
            console.encoder.erases) else ""  # fmt: skip
        return (
            f"<h2>Settings of the encoder</h2><p>{warn}</p><table cellpadding=4 width='100%'>"
            "<tr><th align=left>Keyboard</th><th>Channel</th><th>Octave</th><th>Note index</th>"
            f"<th>Lowest note</th><th>Diodes lead</th><th>Commons</th></tr>{rows}</table>"
        )


def _icon(colour: str) -> QPixmap:
    image = QPixmap(16, 16)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    paint_swatch(painter, QRectF(2, 2, 12, 12), colour)
    painter.end()
    return image
