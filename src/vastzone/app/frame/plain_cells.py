"""Cells of plain words, painted without the style sheet: it takes a tenth of a millisecond each."""

from typing import cast

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QSize, Qt
from PySide6.QtGui import QColor, QFont, QFontMetrics, QPainter
from PySide6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem

from vastzone.app.drawn import grown
from vastzone.app.frame.rows import Cell, Rows
from vastzone.app.theme.current import THEME
from vastzone.core.text import printable

PADDING, MARGIN = 9, 3
"""Pixels beside the words of a cell: what the style sheet gives at 100 % text, and Qt's own."""
ABOVE_AND_BELOW = 4
"""Pixels above and below the words together."""
LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


class PlainCells(QStyledItemDelegate):
    """Paints cells that hold words only; what has an icon or a tick is left to the style."""

    def paint(
        self,
        painter: QPainter,
        option: QStyleOptionViewItem,
        index: QModelIndex | QPersistentModelIndex,
    ) -> None:
        """Paint one cell."""
        cell = _plain_cell(option, index)
        if cell is None:
            super().paint(painter, option, index)
            return
        rect, colours = option.rect, THEME.colours
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(rect, QColor(colours.action_soft))
        face = cell.face or option.font
        room = rect.adjusted(_beside(), 0, -_beside(), 0)
        painter.setFont(face)
        painter.setPen(QColor(cell.colour or colours.ink))
        painter.drawText(room, RIGHT if cell.right else LEFT, _cut(cell.text, face, room.width()))

    def sizeHint(
        self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> QSize:
        """The room of one cell: the style would ask the model for a dozen things of each."""
        cell = _plain_cell(option, index)
        if cell is None:
            return super().sizeHint(option, index)
        metrics = QFontMetrics(cell.face or option.font)
        wide = metrics.horizontalAdvance(printable(cell.text)) + 1
        return QSize(wide + 2 * _beside(), metrics.height() + grown(ABOVE_AND_BELOW))


def _plain_cell(
    option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
) -> Cell | None:
    """The cell at an index, where it holds words only, in one line."""
    cell = cast("Rows", index.model()).cell(index)
    wraps = option.features & QStyleOptionViewItem.ViewItemFeature.WrapText
    return None if cell is None or wraps or not _is_plain(cell) else cell


def _beside() -> int:
    """Pixels of the screen on each side of the words."""
    return grown(PADDING) + MARGIN


def _is_plain(cell: Cell) -> bool:
    return cell.icon is None and cell.ticked is None and not cell.heading and "\n" not in cell.text


def _cut(words: str, face: QFont, wide: int) -> str:
    """Words that fit, cut at their end where they do not."""
    words, metrics = printable(words), QFontMetrics(face)
    if metrics.horizontalAdvance(words) <= wide:
        return words
    return metrics.elidedText(words, Qt.TextElideMode.ElideRight, wide)
