"""Rows of text for lists and tables, as a model: nothing that Qt owns is held or refilled."""

from collections.abc import Sequence
from typing import Any, NamedTuple

from PySide6.QtCore import (
    QAbstractTableModel,
    QModelIndex,
    QObject,
    QPersistentModelIndex,
    Qt,
    Signal,
)
from PySide6.QtGui import QColor, QFont, QIcon

from vastzone.app.frame.text import safe_tip
from vastzone.core.text import printable

Index = QModelIndex | QPersistentModelIndex
Role = Qt.ItemDataRole
RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


class Cell(NamedTuple):
    """One cell: what it says and how.

    What it says whole is its tool tip too unless ``tip`` says something else.  ``ticked`` is None
    for a cell that cannot be ticked; ``typed`` cells can be typed over; a ``heading`` stands over
    a group and cannot be chosen.
    """

    text: str
    tip: str = ""
    icon: QIcon | None = None
    colour: str = ""
    face: QFont | None = None
    right: bool = False
    ticked: bool | None = None
    typed: bool = False
    heading: bool = False


class Row(NamedTuple):
    """A row: its cells, and what it stands for."""

    cells: tuple[Cell, ...]
    ref: Any = ""


def row_of(words: Sequence[str | Cell], ref: Any = "") -> Row:
    """A row of plain words and cells."""
    return Row(tuple(word if isinstance(word, Cell) else Cell(word) for word in words), ref)


class Rows(QAbstractTableModel):
    """Rows to show.  ``typed`` and ``ticked`` carry row, column and what was entered there."""

    typed = Signal(int, int, str)
    ticked = Signal(int, int, bool)

    def __init__(self, columns: Sequence[str] = ("",), parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._columns = tuple(columns)
        self._rows: tuple[Row, ...] = ()
        self._right: frozenset[int] = frozenset()

    @property
    def rows(self) -> tuple[Row, ...]:
        """What is shown."""
        return self._rows

    def show_rows(self, rows: Sequence[Row]) -> None:
        """Show other rows; places that stay keep what is chosen in them."""
        new = tuple(rows)
        if new == self._rows:
            return
        if len(new) == len(self._rows):
            self._rows = new
            if new:
                last = self.index(len(new) - 1, len(self._columns) - 1)
                self.dataChanged.emit(self.index(0, 0), last)
            return
        self.beginResetModel()
        self._rows = new
        self.endResetModel()

    def show_columns(self, columns: Sequence[str]) -> None:
        """Name other columns; the rows go until they are shown anew."""
        if tuple(columns) == self._columns:
            return
        self.beginResetModel()
        self._columns, self._rows = tuple(columns), ()
        self.endResetModel()

    def set_right(self, *columns: int) -> None:
        """Set the titles of some columns to the right."""
        self._right = frozenset(columns)

    def rowCount(self, parent: Index = QModelIndex()) -> int:
        """How many rows there are."""
        return 0 if parent.isValid() else len(self._rows)

    def columnCount(self, parent: Index = QModelIndex()) -> int:
        """How many columns there are."""
        return 0 if parent.isValid() else len(self._columns)

    def cell(self, index: Index) -> Cell | None:
        """What stands at an index; None beyond the rows."""
        if not index.isValid() or index.row() >= len(self._rows):
            return None
        cells = self._rows[index.row()].cells
        return cells[index.column()] if index.column() < len(cells) else None

    def data(self, index: Index, role: int = Role.DisplayRole) -> Any:
        """What a view asks of a cell."""
        cell = self.cell(index)
        if cell is None:
            return None
        if role in (Role.DisplayRole, Role.EditRole):
            return cell.text if role == Role.EditRole else printable(cell.text, keep="\n")
        if role == Role.ToolTipRole:
            return safe_tip(cell.tip or cell.text)
        if role == Role.UserRole:
            return self._rows[index.row()].ref
        if role == Role.CheckStateRole and cell.ticked is not None:
            return Qt.CheckState.Checked if cell.ticked else Qt.CheckState.Unchecked
        return _look(cell, role)

    def flags(self, index: Index) -> Qt.ItemFlag:
        """What can be done with a cell."""
        cell = self.cell(index)
        if cell is None or cell.heading:
            return Qt.ItemFlag.NoItemFlags
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        if cell.typed:
            flags |= Qt.ItemFlag.ItemIsEditable
        if cell.ticked is not None:
            flags |= Qt.ItemFlag.ItemIsUserCheckable
        return flags

    def setData(self, index: Index, value: Any, role: int = Role.EditRole) -> bool:
        """Tell what was typed or ticked; the rows change when the plan does."""
        cell = self.cell(index)
        if cell is None:
            return False
        if role == Role.EditRole and cell.typed and str(value) != cell.text:
            self.typed.emit(index.row(), index.column(), str(value))
            return True
        if role == Role.CheckStateRole and cell.ticked is not None:
            on = Qt.CheckState(value) is Qt.CheckState.Checked
            self.ticked.emit(index.row(), index.column(), on)
            return True
        return False

    def headerData(
        self, section: int, orientation: Qt.Orientation, role: int = Role.DisplayRole
    ) -> Any:
        """The titles of the columns."""
        if orientation is Qt.Orientation.Vertical or not 0 <= section < len(self._columns):
            return None
        if role == Role.DisplayRole:
            return self._columns[section]
        if role == Role.TextAlignmentRole and section in self._right:
            return RIGHT
        return None


def _look(cell: Cell, role: int) -> Any:
    if role == Role.DecorationRole:
        return cell.icon
    if role == Role.FontRole:
        return cell.face
    if role == Role.ForegroundRole and cell.colour:
        return QColor(cell.colour)
    if role == Role.TextAlignmentRole and cell.right:
        return RIGHT
    return None
