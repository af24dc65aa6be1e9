"""The matrix: rows are touched, columns sound; only what can be seen is painted."""

from functools import partial

from PySide6.QtCore import QEvent, QPoint, QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent

from vastzone.app.drawn import DrawnArea, with_words
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element, Role
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import paint_tag, text
from vastzone.app.views.plays.marks import paint_mark
from vastzone.core.pictures.grid_lines import Column, GridLine
from vastzone.core.proof.grid import Grid
from vastzone.core.say import say
from vastzone.desk.session import Desk

WIDE, GROUP = 30, 24
MOVES = {
    Qt.Key.Key_Up: (-1, 0),
    Qt.Key.Key_Down: (1, 0),
    Qt.Key.Key_Left: (0, -1),
    Qt.Key.Key_Right: (0, 1),
    Qt.Key.Key_PageUp: (-12, 0),
    Qt.Key.Key_PageDown: (12, 0),
}


Cell = tuple[int, int]
"""A line and a column."""


def in_order(lines: list[int], columns: list[int]) -> list[Cell]:
    """The first line with the first column, the second with the second; one with all others."""
    if len(lines) == 1:
        return [(lines[0], column) for column in columns]
    if len(columns) == 1:
        return [(line, columns[0]) for line in lines]
    return list(zip(lines, columns, strict=False))


class Matrix(DrawnArea):
    """Paints lines and columns; tells which cell is pressed, or which are spanned, and how."""

    pressed = Signal(int, int, bool)
    spanned = Signal(object, bool)
    spanning = Signal(object)
    taken_back = Signal(int, int)
    pointed = Signal(int, int)

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.grid = Grid((), (), {})
        self.lines: list[GridLine] = []
        self.columns: list[Column] = []
        self.at = (0, 0)
        self._over = (-1, -1)
        self._from: Cell | None = None
        self._in_span: frozenset[Cell] = frozenset()
        self._painted = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.viewport().setMouseTracking(True)
        self.setAccessibleName(say("What plays what"))

    @property
    def high(self) -> int:
        """The height of a line."""
        return int(20 + 3 * (THEME.colours.text_px - 14))

    @property
    def left(self) -> int:
        """The width of the names."""
        return int(min(270, max(190, self.viewport().width() // 4)))

    @property
    def top(self) -> int:
        """The height of the heads."""
        return GROUP + 104

    def show_grid(self, grid: Grid, lines: list[GridLine], columns: list[Column]) -> None:
        """Show another grid; the place in it stays where it can."""
        place = self._place()
        self.grid, self.lines, self.columns = grid, lines, columns
        row = next((n for n, ln in enumerate(lines) if ln.place == place and place), self.at[0])
        column = min(self.at[1], max(0, len(columns) - 1))
        self.at = (self._row(min(row, len(lines) - 1)), column)
        self._measure()
        self.viewport().update()

    def _place(self) -> object:
        row = self.at[0]
        return self.lines[row].place if 0 <= row < len(self.lines) else None

    def _row(self, row: int) -> int:
        """The nearest line from here on that is a row of the grid."""
        for n in (
            *range(max(0, row), len(self.lines)),
            *range(min(row, len(self.lines) - 1), -1, -1),
        ):
            if self.lines[n].row >= 0:
                return int(n)
        return -1

    def _measure(self) -> None:
        view = self.viewport()
        down, across = self.verticalScrollBar(), self.horizontalScrollBar()
        room = view.height() - self.top
        down.setRange(0, max(0, len(self.lines) * self.high - room))
        down.setPageStep(max(1, room))
        down.setSingleStep(self.high)
        room = view.width() - self.left
        across.setRange(0, max(0, len(self.columns) * WIDE + 10 - room))
        across.setPageStep(max(1, room))
        across.setSingleStep(WIDE)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self._measure()

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Paint anew."""
        self.viewport().update()

    def _x(self, column: int) -> int:
        return self.left + column * WIDE - self.horizontalScrollBar().value()

    def _y(self, line: int) -> int:
        return self.top + line * self.high - self.verticalScrollBar().value()

    def cell_rect(self, line: int, column: int) -> QRect:
        """Where a cell lies in the viewport."""
        return QRect(self._x(column), self._y(line), WIDE, self.high)

    def cell_at(self, point: QPoint) -> tuple[int, int]:
        """The line and column under a point of the viewport, −1 where there is none."""
        line = (point.y() - self.top + self.verticalScrollBar().value()) // self.high
        column = (point.x() - self.left + self.horizontalScrollBar().value()) // WIDE
        inside = point.y() >= self.top and 0 <= line < len(self.lines)
        across = point.x() >= self.left and 0 <= column < len(self.columns)
        return (line if inside else -1), (column if across else -1)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The cells that can be seen, then names and heads over them."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        colours, view = THEME.colours, self.viewport()
        painter.fillRect(view.rect(), QColor(colours.paper))
        first = max(0, self.verticalScrollBar().value() // self.high)
        last = min(len(self.lines), first + (view.height() - self.top) // self.high + 2)
        start = max(0, self.horizontalScrollBar().value() // WIDE)
        end = min(len(self.columns), start + (view.width() - self.left) // WIDE + 2)
        painter.setClipRect(QRect(0, self.top, view.width(), view.height()))
        for n in range(first, last):
            self._paint_line(painter, n, start, end)
        self._paint_groups(painter, start, end)
        painter.setClipRect(QRect(self.left, 0, view.width(), view.height()))
        self._paint_heads(painter, start, end)
        painter.setClipping(False)
        painter.fillRect(QRect(0, 0, self.left, self.top), QColor(colours.paper))
        self._paint_corner(painter)
        painter.end()

    def elements(self) -> list[Element]:
        """The crossings that are seen: what plays what, with the verdict."""
        view, told = QRect(self.viewport().rect()), []
        for n, line in enumerate(self.lines):
            if line.row < 0 or not view.intersects(QRect(0, self._y(n), view.width(), self.high)):
                continue
            for m, column in enumerate(self.columns):
                rect = self.cell_rect(n, m)
                if view.intersects(rect):
                    told.append(self._crossing(n, m, line, column, QRectF(rect)))
        return with_words(told, self.said)

    def _crossing(self, n: int, m: int, line: GridLine, column: Column, rect: QRectF) -> Element:
        cell = self.grid.cells.get((line.row, column.at))
        return Element(
            f"{line.row} {column.at}",
            say("{line} plays {column}", line=line.words, column=column.name),
            rect,
            Role.Cell,
            say(cell.verdict) if cell is not None else say("nothing"),
            say("{tag} in {device}", tag=column.tag, device=column.device.name),
            (n, m) == self.at,
            press=partial(self.pressed.emit, n, m, False),
        )

    def _paint_line(self, painter: QPainter, n: int, start: int, end: int) -> None:
        colours, line, y = THEME.colours, self.lines[n], self._y(n)
        wide = self.viewport().width()
        if line.row < 0:
            painter.fillRect(QRect(0, y, wide, self.high), QColor(colours.sunken))
            head = QRectF(14, y, self.left - 20, self.high)
            text(painter, head, line.words, colours.ink, bold(colours.text_px))
            return
        source = line.place.source if line.place is not None else ""
        struck = bool(source) and self._desk.selection == source
        if struck or self._over[0] == n or (self.hasFocus() and self.at[0] == n):
            shade = mixed(colours.action, colours.paper, 0.16 if struck else 0.07)
            painter.fillRect(QRect(0, y, wide, self.high), shade)
        painter.setPen(QPen(mixed(colours.line, colours.paper, 0.6), 1))
        painter.drawLine(0, y + self.high - 1, wide, y + self.high - 1)
        painter.setClipRect(QRect(self.left, self.top, wide, self.viewport().height()))
        for column in range(start, end):
            self._paint_crossing(painter, n, column)
        painter.setClipRect(QRect(0, self.top, wide, self.viewport().height()))
        if source in self._desk.unseen:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(colours.action))
            painter.drawEllipse(QPointF(11, y + self.high / 2), 4, 4)
        face = bold(colours.text_px - 1) if struck else font(colours.text_px - 1)
        text(painter, QRectF(24, y, self.left - 32, self.high), line.words, colours.ink, face)

    def _paint_crossing(self, painter: QPainter, n: int, column: int) -> None:
        """One crossing: its edge, the mark in it, the focus around it."""
        colours, rect = THEME.colours, QRectF(self.cell_rect(n, column))
        cell = self.grid.cells.get((self.lines[n].row, self.columns[column].at))
        painter.setPen(QPen(mixed(colours.line, colours.paper, 0.45), 1))
        painter.drawLine(rect.topRight(), rect.bottomRight())
        if cell is not None:
            paint_mark(painter, rect, cell.verdict, cell.partly)
        if (n, column) in self._in_span:
            painter.setPen(QPen(QColor(colours.action), 2))
            painter.setBrush(mixed(colours.action, colours.paper, 0.25))
            painter.drawEllipse(rect.center(), 6, 6)
        if (n, column) == self.at and self.hasFocus():
            painter.setPen(QPen(QColor(colours.action), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(rect.adjusted(1, 1, -2, -2), 5, 5)

    def _paint_groups(self, painter: QPainter, start: int, end: int) -> None:
        """A stronger line where another device begins."""
        colours = THEME.colours
        painter.setPen(QPen(QColor(colours.line), 1.6))
        for column in range(start, end + 1):
            begins = (
                column == 0
                or column == len(self.columns)
                or (
                    column < len(self.columns)
                    and self.columns[column].device is not self.columns[column - 1].device
                )
            )
            x = self._x(column)
            if begins and x >= self.left:
                bottom = min(self.viewport().height(), self._y(len(self.lines)))
                painter.drawLine(x, self.top, x, bottom)

    def _paint_heads(self, painter: QPainter, start: int, end: int) -> None:
        colours = THEME.colours
        painter.fillRect(
            QRect(self.left, 0, self.viewport().width(), self.top), QColor(colours.paper)
        )
        for column in range(start, end):
            head, x = self.columns[column], self._x(column)
            if column == self._over[1] or (self.hasFocus() and column == self.at[1]):
                painter.fillRect(
                    QRect(x, GROUP, WIDE, self.top - GROUP),
                    mixed(colours.action, colours.paper, 0.1),
                )
            chosen = self._desk.selection == head.ref
            painter.save()
            painter.translate(x + WIDE / 2, self.top - 27)
            painter.rotate(-90)
            face = bold(colours.text_px - 1) if chosen else font(colours.text_px - 1)
            text(
                painter,
                QRectF(0, -10, self.top - GROUP - 32, 20),
                head.name,
                colours.action if chosen else colours.ink,
                face,
            )
            painter.restore()
            chip = QRectF(x + 3, self.top - 23, WIDE - 6, 17)
            paint_tag(painter, chip, head.tag, head.colour)
            if head.ref in self._desk.unseen:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(QColor(colours.action))
                painter.drawEllipse(QPointF(x + WIDE - 3, self.top - 24), 3.6, 3.6)
        self._paint_devices(painter)
        painter.setPen(QPen(QColor(colours.line), 1.4))
        painter.drawLine(self.left, self.top - 1, self.viewport().width(), self.top - 1)

    def _paint_devices(self, painter: QPainter) -> None:
        """The names of the devices over their columns."""
        colours = THEME.colours
        begin = 0
        for column in range(1, len(self.columns) + 1):
            ends = column == len(self.columns)
            if not ends and self.columns[column].device is self.columns[begin].device:
                continue
            left, right = max(self.left, self._x(begin)), self._x(column)
            if right > self.left:
                name = QRectF(left + 5, 2, right - left - 8, GROUP - 4)
                text(
                    painter,
                    name,
                    self.columns[begin].device.name,
                    colours.muted,
                    bold(colours.text_px - 1),
                )
                painter.setPen(QPen(QColor(colours.line), 1.6))
                if self._x(begin) >= self.left:
                    painter.drawLine(self._x(begin), 2, self._x(begin), self.top)
            begin = column

    def _paint_corner(self, painter: QPainter) -> None:
        """What the marks mean."""
        colours = THEME.colours
        told = ["as meant", "silent", "wrong", "double", "extra"]
        if any(cell.verdict == "not known" for cell in self.grid.cells.values()):
            told.append("not known")
        for n, verdict in enumerate(told):
            y = self.top - 8 - (len(told) - n) * 22
            paint_mark(painter, QRectF(12, y, 26, 22), verdict, False)
            words = {"extra": say("extra, not wished")}.get(verdict) or say(verdict)
            text(
                painter,
                QRectF(46, y, self.left - 52, 22),
                words,
                colours.muted,
                font(colours.text_px - 2),
            )
        painter.setPen(QPen(QColor(colours.line), 1.4))
        painter.drawLine(0, self.top - 1, self.left, self.top - 1)

    def viewportEvent(self, event: QEvent) -> bool:
        """Follow the pointer, also when it leaves."""
        if event.type() is QEvent.Type.Leave:
            self._over = (-1, -1)
            self.pointed.emit(-1, -1)
            self.viewport().update()
        return super().viewportEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Light the row and column pointed at; with the button down, span from where it went."""
        over = self.cell_at(event.position().toPoint())
        if over == self._over:
            return
        self._over = over
        if self._from is not None and min(over) >= 0:
            self._span_to(over)
        elif self._from is None:
            self.pointed.emit(*over)
        self.viewport().update()

    def _span_to(self, cell: Cell) -> None:
        """What is spanned from where it began."""
        self.at = cell
        self._in_span = frozenset(self.span())
        self.spanning.emit(self.span())

    def span(self) -> list[Cell]:
        """The cells from where it began to here: lines and columns in order."""
        if self._from is None:
            return [self.at]
        lines = [n for n in _from_to(self._from[0], self.at[0]) if self.lines[n].row >= 0]
        return in_order(lines, list(_from_to(self._from[1], self.at[1])))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Press a cell, choose a row by its name or a column by its head."""
        line, column = self.cell_at(event.position().toPoint())
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        if line >= 0 and column >= 0 and self.lines[line].row >= 0:
            self.at = self._from = (line, column)
        elif line >= 0 and column < 0:
            place = self.lines[line].place
            self._desk.select(place.source if place else self.lines[line].device)
        elif column >= 0 and event.position().y() < self.top:
            self._desk.select(self.columns[column].ref)
        self.viewport().update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """A cell is pressed, or many were spanned."""
        if event.button() is Qt.MouseButton.LeftButton and self._from is not None:
            shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._finish(shift)

    def _finish(self, everywhere: bool) -> None:
        cells, begun = self.span(), self._from
        self._forget_span()
        if begun is None or begun == self.at:
            self.pressed.emit(*self.at, everywhere)
        else:
            self.spanned.emit(cells, everywhere)
        self.viewport().update()

    def _forget_span(self) -> None:
        self._from, self._in_span = None, frozenset()
        self.viewport().update()

    def event(self, event: QEvent) -> bool:
        """Keep Space and Delete from the window's shortcuts: they wish and take back here."""
        mine = (Qt.Key.Key_Space, Qt.Key.Key_Delete, Qt.Key.Key_Backspace)
        return keeps(event, mine) or super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move, Enter or Space wishes (with Shift for all scenes), Delete takes back.

        With Shift, arrows span from here on; Escape leaves the span.
        """
        key = Qt.Key(event.key())
        line, column = self.at
        if key in MOVES:
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                self._from = self._from or self.at
            else:
                self._forget_span()
            self._move(*MOVES[key])
            if self._from is not None:
                self._span_to(self.at)
        elif key is Qt.Key.Key_Escape and self._from is not None:
            self._forget_span()
        elif line < 0 or not self.columns:
            super().keyPressEvent(event)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self._finish(bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.taken_back.emit(line, column)
        else:
            super().keyPressEvent(event)

    def _move(self, down: int, across: int) -> None:
        line, column = self.at
        target = line + down
        while 0 <= target < len(self.lines) and self.lines[target].row < 0:
            target += 1 if down > 0 else -1
        if 0 <= target < len(self.lines):
            line = target
        elif abs(down) > 1:
            line = self._row(0 if down < 0 else len(self.lines) - 1)
        column = max(0, min(len(self.columns) - 1, column + across))
        self.go(line, column)
        self.pointed.emit(line, column)

    def attend(self, ref: str) -> None:
        """Bring the cursor to the row or column of a thing, the other coordinate staying."""
        line, column = self.at
        for n, row in enumerate(self.lines):
            if ref and row.place is not None and row.place.source == ref:
                line = n
                break
        for m, head in enumerate(self.columns):
            if head.ref == ref:
                column = m
        if (line, column) != self.at:
            self.go(line, column)

    def go(self, line: int, column: int) -> None:
        """Put the cursor somewhere and bring it into sight."""
        self.at = (line, column)
        down, across = self.verticalScrollBar(), self.horizontalScrollBar()
        y, x = line * self.high, column * WIDE
        down.setValue(
            max(y + self.high - down.pageStep(), min(down.value(), max(0, y - self.high)))
        )
        across.setValue(max(x + WIDE - across.pageStep(), min(across.value(), x)))
        self.viewport().update()


def _from_to(one: int, other: int) -> range:
    """From one number to another, both in, whichever is larger."""
    return range(one, other + 1) if one <= other else range(one, other - 1, -1)
