"""A table to read: nothing in it can be typed over."""

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QTableWidget, QTableWidgetItem

REF = Qt.ItemDataRole.UserRole
"""Where a row keeps what it stands for."""


def reading_table(rows: int, columns: Sequence[str], name: str) -> QTableWidget:
    """An empty table with named columns, chosen by whole rows, and its name for screen readers."""
    table = QTableWidget(rows, len(columns))
    table.setHorizontalHeaderLabels(columns)
    table.horizontalHeader().setDefaultAlignment(
        Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
    )
    table.verticalHeader().hide()
    table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
    table.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
    table.setShowGrid(False)
    table.setAccessibleName(name)
    return table


def typing_table(rows: int, columns: Sequence[str], name: str) -> QTableWidget:
    """The same with cells that can be typed over; those that cannot say so themselves."""
    table = reading_table(rows, columns, name)
    triggers = QTableWidget.EditTrigger
    table.setEditTriggers(triggers.DoubleClicked | triggers.EditKeyPressed | triggers.AnyKeyPressed)
    return table


def set_row(
    table: QTableWidget, row: int, words: Sequence[str], ref: str = ""
) -> list[QTableWidgetItem]:
    """Fill a row; what is cut shows whole as a tool tip.  ``ref`` is what the row stands for."""
    items = []
    for column, said in enumerate(words):
        item = QTableWidgetItem(said)
        item.setToolTip(said)
        item.setData(REF, ref)
        table.setItem(row, column, item)
        items.append(item)
    return items


def chosen_ref(table: QTableWidget) -> str:
    """What the chosen row stands for; nothing where none is chosen."""
    item = table.item(table.currentRow(), 0)
    return item.data(REF) if item is not None else ""
