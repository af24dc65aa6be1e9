"""Tables and lists of rows: to read, to choose from, to type into."""

from collections.abc import Iterable, Sequence
from typing import Any

from PySide6.QtCore import QItemSelectionModel, QSignalBlocker, Qt, QTimer, Signal
from PySide6.QtGui import QResizeEvent, QShowEvent
from PySide6.QtWidgets import QHeaderView, QListView, QTableView

from vastzone.app.drawn import grown
from vastzone.app.frame.plain_cells import PlainCells
from vastzone.app.frame.rows import Cell, Row, Rows, row_of
from vastzone.app.theme.current import THEME

REF = Qt.ItemDataRole.UserRole
"""Where a row keeps what it stands for."""
MEASURED = 60
FEW_WORDS = 110
"""Pixels at 100 % text that a column has at least where its words want them."""


class Table(QTableView):
    """A table of named columns, chosen by whole rows.  ``chosen`` tells of another row."""

    chosen = Signal()

    def __init__(self, columns: Sequence[str], name: str) -> None:
        super().__init__()
        self.held = Rows(columns, self)
        self.setModel(self.held)
        self.setItemDelegate(PlainCells(self))
        self.horizontalHeader().setDefaultAlignment(
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        )
        # A column fits the rows that are seen and some more: all of a long list would be felt.
        self.horizontalHeader().setResizeContentsPrecision(MEASURED)
        self.verticalHeader().hide()
        self.setEditTriggers(QTableView.EditTrigger.NoEditTriggers)
        self.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        self.setShowGrid(False)
        self.setWordWrap(False)  # a second line would stand in the row below
        self.setTabKeyNavigation(False)
        self.setAccessibleName(name)
        self.selectionModel().selectionChanged.connect(lambda *_: self.chosen.emit())
        self._widths: dict[int, int] = {}
        self._squeezed: set[int] = set()
        self._measuring = False
        self._stale = True
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(0)
        self._soon.timeout.connect(self._give_room)
        self.horizontalHeader().sectionResized.connect(self._follow_widths)
        self.held.modelReset.connect(self._give_room)
        self.held.dataChanged.connect(self._give_room)
        THEME.changed.connect(self._grow)

    def setColumnWidth(self, column: int, wide: int) -> None:
        """Give a column so many pixels at 100 % text."""
        self._widths[column] = wide
        super().setColumnWidth(column, grown(wide))

    def _grow(self) -> None:
        for column, wide in self._widths.items():
            super().setColumnWidth(column, grown(wide))
        self._give_room()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Share the room among the columns; where it is too little, the table scrolls."""
        super().resizeEvent(event)
        self._give_room()

    def showEvent(self, event: QShowEvent) -> None:
        """Share the room that what came meanwhile wants."""
        super().showEvent(event)
        if self._stale:
            self._give_room()

    def _follow_widths(self, column: int, before: int, now: int) -> None:
        """The header fits the other columns when it likes: one that gives way may suffer."""
        mode = self.horizontalHeader().sectionResizeMode(column)
        gives_way = mode is QHeaderView.ResizeMode.Stretch
        if gives_way and not self._measuring and now < min(before, grown(FEW_WORDS)):
            self._soon.start()

    def _give_room(self) -> None:
        """No column is narrower than its title, nor one that gives way than a few words.

        Nothing can be measured while it is hidden: that waits until it is shown.
        """
        if self._measuring:
            return
        self._stale = not self.isVisible()
        if self._stale:
            return
        self._measuring = True
        header = self.horizontalHeader()
        for column in self._squeezed:
            if column < header.count():
                header.setSectionResizeMode(column, QHeaderView.ResizeMode.Stretch)
        self._squeezed.clear()
        for column in range(header.count()):
            least = header.sectionSizeHint(column)
            gives_way = header.sectionResizeMode(column) is QHeaderView.ResizeMode.Stretch
            if gives_way and header.sectionSize(column) < grown(FEW_WORDS):
                least = max(least, min(grown(FEW_WORDS), self.sizeHintForColumn(column)))
            if header.sectionSize(column) < least:
                if gives_way:
                    header.setSectionResizeMode(column, QHeaderView.ResizeMode.Interactive)
                    self._squeezed.add(column)
                header.resizeSection(column, least)
        self._measuring = False

    def show_rows(self, rows: Iterable[Row]) -> None:
        """Show other rows, without telling of it as a choice."""
        with QSignalBlocker(self):
            self.held.show_rows(tuple(rows))

    @property
    def chosen_row(self) -> int:
        """The number of the chosen row; −1 where none is."""
        return self.currentIndex().row()

    @property
    def chosen_ref(self) -> Any:
        """What the chosen row stands for; nothing where none is chosen."""
        return self.currentIndex().data(REF) or ""

    @property
    def chosen_rows(self) -> list[int]:
        """The numbers of all chosen rows, in their order."""
        return sorted(index.row() for index in self.selectionModel().selectedRows())

    def choose_many(self) -> None:
        """Let many rows be chosen, by Shift, Ctrl or dragging."""
        self.setSelectionMode(QTableView.SelectionMode.ExtendedSelection)

    def words(self, row: int, column: int) -> str:
        """What a cell says."""
        return str(self.held.index(row, column).data() or "")


class RowList(QListView):
    """Lines to choose from.  ``chosen`` carries the row when another becomes current."""

    chosen = Signal(int)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.held = Rows(parent=self)
        self.setModel(self.held)
        self.setAccessibleName(name)
        self.setEditTriggers(QListView.EditTrigger.NoEditTriggers)
        self.selectionModel().currentChanged.connect(lambda now, _: self.chosen.emit(now.row()))

    def show_lines(self, lines: Iterable[tuple[str | Cell, Any]], at: int = -1) -> None:
        """Show lines, each with what it stands for, line ``at`` current; not told as a choice."""
        with QSignalBlocker(self):
            self.held.show_rows([row_of([words], ref) for words, ref in lines])
            self.go_to(at)

    def wrap(self) -> None:
        """Let long lines take several."""
        self.setWordWrap(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setResizeMode(QListView.ResizeMode.Adjust)

    def go_to(self, row: int) -> None:
        """Make a line current and bring it into sight; none where there is no such line."""
        index = self.held.index(row, 0)
        mode = QItemSelectionModel.SelectionFlag.ClearAndSelect
        self.selectionModel().setCurrentIndex(index, mode)
        if index.isValid():
            self.scrollTo(index)

    @property
    def count(self) -> int:
        """How many lines there are."""
        return self.held.rowCount()

    @property
    def row(self) -> int:
        """The current line; −1 where none is."""
        return self.currentIndex().row()

    @property
    def ref(self) -> Any:
        """What the current line stands for; None where none is."""
        return self.currentIndex().data(REF)

    def words(self, row: int) -> str:
        """What a line says."""
        return str(self.held.index(row, 0).data() or "")


def reading_table(columns: Sequence[str], name: str) -> Table:
    """A table to read: nothing in it can be typed over."""
    return Table(columns, name)


def typing_table(columns: Sequence[str], name: str) -> Table:
    """A table with cells that can be typed over; which, the cells say."""
    table = Table(columns, name)
    triggers = QTableView.EditTrigger
    table.setEditTriggers(triggers.DoubleClicked | triggers.EditKeyPressed | triggers.AnyKeyPressed)
    return table
