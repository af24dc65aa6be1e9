"""Paints the matrix of Plays: cells under their heads, beside the names of their lines."""

from collections.abc import Container, Sequence
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import paint_tag, text
from vastzone.app.views.plays.marks import paint_mark
from vastzone.core.pictures.grid_lines import Column, GridLine
from vastzone.core.proof.grid import Grid
from vastzone.core.say import say

WIDE, GROUP = 30, 24
"""How wide a column is, and how high the names of devices over them."""
TOP = GROUP + 104
"""The height of the heads."""

Cell = tuple[int, int]
"""A line and a column."""


class MatrixPicture(NamedTuple):
    """What is seen of a matrix, all lengths in pixels.

    ``left`` is the width of the names, ``high`` the height of a line, ``scrolled`` how far it is
    scrolled across and down; ``over`` is pointed at and ``at`` has the cursor.
    """

    grid: Grid
    lines: Sequence[GridLine]
    columns: Sequence[Column]
    size: QSize
    left: int
    high: int
    scrolled: tuple[int, int]
    at: Cell
    over: Cell
    in_span: frozenset[Cell]
    has_focus: bool
    selection: str
    unseen: Container[str]

    def x(self, column: int) -> int:
        """Where a column begins."""
        return self.left + column * WIDE - self.scrolled[0]

    def y(self, line: int) -> int:
        """Where a line begins."""
        return TOP + line * self.high - self.scrolled[1]

    def cell_rect(self, line: int, column: int) -> QRect:
        """Where a cell lies."""
        return QRect(self.x(column), self.y(line), WIDE, self.high)

    def lines_seen(self) -> range:
        """The lines that are seen."""
        first = max(0, self.scrolled[1] // self.high)
        return range(
            first, min(len(self.lines), first + (self.size.height() - TOP) // self.high + 2)
        )

    def columns_seen(self) -> range:
        """The columns that are seen."""
        first = max(0, self.scrolled[0] // WIDE)
        room = self.size.width() - self.left
        return range(first, min(len(self.columns), first + room // WIDE + 2))


def paint_matrix(painter: QPainter, seen: MatrixPicture) -> None:
    """The cells that can be seen, then names and heads over them."""
    paper = QColor(THEME.colours.paper)
    wide, high = seen.size.width(), seen.size.height()
    painter.fillRect(QRect(0, 0, wide, high), paper)
    painter.setClipRect(QRect(0, TOP, wide, high))
    for line in seen.lines_seen():
        _paint_line(painter, seen, line)
    _paint_groups(painter, seen)
    painter.setClipRect(QRect(seen.left, 0, wide, high))
    _paint_heads(painter, seen)
    painter.setClipping(False)
    painter.fillRect(QRect(0, 0, seen.left, TOP), paper)
    _paint_corner(painter, seen)


def _paint_line(painter: QPainter, seen: MatrixPicture, number: int) -> None:
    colours, line, y = THEME.colours, seen.lines[number], seen.y(number)
    wide = seen.size.width()
    if line.row < 0:
        painter.fillRect(QRect(0, y, wide, seen.high), QColor(colours.sunken))
        head = QRectF(14, y, seen.left - 20, seen.high)
        text(painter, head, line.words, colours.ink, bold(colours.text_px))
        return
    source = line.place.source if line.place is not None else ""
    struck = bool(source) and seen.selection == source
    if struck or seen.over[0] == number or (seen.has_focus and seen.at[0] == number):
        shade = mixed(colours.action, colours.paper, 0.16 if struck else 0.07)
        painter.fillRect(QRect(0, y, wide, seen.high), shade)
    painter.setPen(QPen(mixed(colours.line, colours.paper, 0.6), 1))
    painter.drawLine(0, y + seen.high - 1, wide, y + seen.high - 1)
    painter.setClipRect(QRect(seen.left, TOP, wide, seen.size.height()))
    _paint_crossings(painter, seen, number)
    painter.setClipRect(QRect(0, TOP, wide, seen.size.height()))
    if source in seen.unseen:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.action))
        painter.drawEllipse(QPointF(11, y + seen.high / 2), 4, 4)
    face = bold(colours.text_px - 1) if struck else font(colours.text_px - 1)
    text(painter, QRectF(24, y, seen.left - 32, seen.high), line.words, colours.ink, face)


def _paint_crossings(painter: QPainter, seen: MatrixPicture, number: int) -> None:
    """The crossings of a line: their edges, the marks in them, the focus around one."""
    colours, row = THEME.colours, seen.lines[number].row
    edge = QPen(mixed(colours.line, colours.paper, 0.45), 1)
    for column in seen.columns_seen():
        rect = QRectF(seen.cell_rect(number, column))
        cell = seen.grid.cells.get((row, seen.columns[column].at))
        painter.setPen(edge)
        painter.drawLine(rect.topRight(), rect.bottomRight())
        if cell is not None:
            paint_mark(painter, rect, cell.verdict, cell.partly)
        if (number, column) in seen.in_span:
            painter.setPen(QPen(QColor(colours.action), 2))
            painter.setBrush(mixed(colours.action, colours.paper, 0.25))
            painter.drawEllipse(rect.center(), 6, 6)
        if (number, column) == seen.at and seen.has_focus:
            painter.setPen(QPen(QColor(colours.action), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(rect.adjusted(1, 1, -2, -2), 5, 5)


def _paint_groups(painter: QPainter, seen: MatrixPicture) -> None:
    """A stronger line where another device begins."""
    painter.setPen(QPen(QColor(THEME.colours.line), 1.6))
    bottom = min(seen.size.height(), seen.y(len(seen.lines)))
    columns = seen.columns_seen()
    for column in range(columns.start, columns.stop + 1):
        x = seen.x(column)
        if x >= seen.left and _begins_device(seen.columns, column):
            painter.drawLine(x, TOP, x, bottom)


def _begins_device(columns: Sequence[Column], column: int) -> bool:
    """Whether another device begins at a column; the edges of all of them count."""
    if column in (0, len(columns)):
        return True
    return column < len(columns) and columns[column].device is not columns[column - 1].device


def _paint_heads(painter: QPainter, seen: MatrixPicture) -> None:
    colours, wide = THEME.colours, seen.size.width()
    painter.fillRect(QRect(seen.left, 0, wide, TOP), QColor(colours.paper))
    for column in seen.columns_seen():
        x = seen.x(column)
        if column == seen.over[1] or (seen.has_focus and column == seen.at[1]):
            shade = mixed(colours.action, colours.paper, 0.1)
            painter.fillRect(QRect(x, GROUP, WIDE, TOP - GROUP), shade)
        _paint_head(painter, seen, seen.columns[column], x)
    _paint_devices(painter, seen)
    painter.setPen(QPen(QColor(colours.line), 1.4))
    painter.drawLine(seen.left, TOP - 1, wide, TOP - 1)


def _paint_head(painter: QPainter, seen: MatrixPicture, head: Column, x: int) -> None:
    """The name of a part or target, upright, over its tag."""
    colours = THEME.colours
    chosen = seen.selection == head.ref
    face = bold(colours.text_px - 1) if chosen else font(colours.text_px - 1)
    painter.save()
    painter.translate(x + WIDE / 2, TOP - 27)
    painter.rotate(-90)
    room = QRectF(0, -10, TOP - GROUP - 32, 20)
    text(painter, room, head.name, colours.action if chosen else colours.ink, face)
    painter.restore()
    paint_tag(painter, QRectF(x + 3, TOP - 23, WIDE - 6, 17), head.tag, head.colour)
    if head.ref in seen.unseen:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.action))
        painter.drawEllipse(QPointF(x + WIDE - 3, TOP - 24), 3.6, 3.6)


def _paint_devices(painter: QPainter, seen: MatrixPicture) -> None:
    """The names of the devices over their columns."""
    colours, begin = THEME.colours, 0
    for column in range(1, len(seen.columns) + 1):
        if not _begins_device(seen.columns, column):
            continue
        left, right = max(seen.left, seen.x(begin)), seen.x(column)
        if right > seen.left:
            name = QRectF(left + 5, 2, right - left - 8, GROUP - 4)
            device = seen.columns[begin].device
            text(painter, name, device.name, colours.muted, bold(colours.text_px - 1))
            painter.setPen(QPen(QColor(colours.line), 1.6))
            if seen.x(begin) >= seen.left:
                painter.drawLine(seen.x(begin), 2, seen.x(begin), TOP)
        begin = column


def _paint_corner(painter: QPainter, seen: MatrixPicture) -> None:
    """What the marks mean."""
    colours = THEME.colours
    told = ["as meant", "silent", "wrong", "double", "extra"]
    if any(cell.verdict == "not known" for cell in seen.grid.cells.values()):
        told.append("not known")
    for place, verdict in enumerate(told):
        y = TOP - 8 - (len(told) - place) * 22
        paint_mark(painter, QRectF(12, y, 26, 22), verdict, False)
        words = {"extra": say("extra, not wished")}.get(verdict) or say(verdict)
        room = QRectF(46, y, seen.left - 52, 22)
        text(painter, room, words, colours.muted, font(colours.text_px - 2))
    painter.setPen(QPen(QColor(colours.line), 1.4))
    painter.drawLine(0, TOP - 1, seen.left, TOP - 1)
