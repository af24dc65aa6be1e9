"""The matrix: rows are touched, columns sound; only what can be seen is painted."""

from functools import partial

from PySide6.QtCore import QEvent, QPoint, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent

from vastzone.app.drawn import DrawnArea, with_words
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element, Role
from vastzone.app.theme.current import THEME
from vastzone.app.views.plays.painting import TOP, WIDE, Cell, MatrixPicture, paint_matrix
from vastzone.core.pictures.grid_lines import Column, GridLine
from vastzone.core.proof.grid import Grid
from vastzone.core.say import say
from vastzone.desk.session import Desk

MOVES = {
    Qt.Key.Key_Up: (-1, 0),
    Qt.Key.Key_Down: (1, 0),
    Qt.Key.Key_Left: (0, -1),
    Qt.Key.Key_Right: (0, 1),
    Qt.Key.Key_PageUp: (-12, 0),
    Qt.Key.Key_PageDown: (12, 0),
}


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
        room = view.height() - TOP
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

    @property
    def picture(self) -> MatrixPicture:
        """What is seen of it now."""
        return MatrixPicture(
            self.grid,
            self.lines,
            self.columns,
            self.viewport().rect().size(),
            self.left,
            self.high,
            (self.horizontalScrollBar().value(), self.verticalScrollBar().value()),
            self.at,
            self._over,
            self._in_span,
            self.hasFocus(),
            self._desk.selection,
            self._desk.unseen,
        )

    def cell_rect(self, line: int, column: int) -> QRect:
        """Where a cell lies in the viewport."""
        return self.picture.cell_rect(line, column)

    def cell_at(self, point: QPoint) -> tuple[int, int]:
        """The line and column under a point of the viewport, −1 where there is none."""
        line = (point.y() - TOP + self.verticalScrollBar().value()) // self.high
        column = (point.x() - self.left + self.horizontalScrollBar().value()) // WIDE
        inside = point.y() >= TOP and 0 <= line < len(self.lines)
        across = point.x() >= self.left and 0 <= column < len(self.columns)
        return (line if inside else -1), (column if across else -1)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The cells that can be seen, then names and heads over them."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_matrix(painter, self.picture)
        painter.end()

    def elements(self) -> list[Element]:
        """The crossings that are seen: what plays what, with the verdict."""
        seen, told = self.picture, []
        view = QRect(self.viewport().rect())
        for n, line in enumerate(self.lines):
            across = QRect(0, seen.y(n), view.width(), self.high)
            if line.row < 0 or not view.intersects(across):
                continue
            for m, column in enumerate(self.columns):
                rect = seen.cell_rect(n, m)
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
        elif column >= 0 and event.position().y() < TOP:
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
