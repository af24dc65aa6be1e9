"""A table to read: nothing in it can be typed over."""

from collections.abc import Sequence

from PySide6.QtWidgets import QTableWidget


def reading_table(rows: int, columns: Sequence[str], name: str) -> QTableWidget:
    """An empty table with named columns, chosen by whole rows, and its name for screen readers."""
    table = QTableWidget(rows, len(columns))
    table.setHorizontalHeaderLabels(columns)
    table.verticalHeader().hide()
    table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
    table.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
    table.setShowGrid(False)
    table.setAccessibleName(name)
    return table
