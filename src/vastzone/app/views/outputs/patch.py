"""The picture of outputs: a line for what sounds, a column for each output; press to put it."""

from functools import partial

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent

from vastzone.app.drawn import DrawnArea, with_words
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element, Role
from vastzone.app.stamps import Stamps
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import paint_tag, text
from vastzone.core.pictures.patch_lines import PatchLine
from vastzone.core.say import say

WIDE = 58
MOVES = {
    Qt.Key.Key_Up: (-1, 0),
    Qt.Key.Key_Down: (1, 0),
    Qt.Key.Key_Left: (0, -1),
    Qt.Key.Key_Right: (0, 1),
    Qt.Key.Key_PageUp: (-10, 0),
    Qt.Key.Key_PageDown: (10, 0),
}


class PatchGrid(DrawnArea):
    """Paints lines and outputs; tells where something is put, and which lines are chosen."""

    put = Signal(object, str)
    chosen_changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.lines: tuple[PatchLine, ...] = ()
        self.chosen: frozenset[str] = frozenset()
        self.at = (0, 0)
        self._anchor = 0
        self._crossings = Stamps()
        self._over = (-1, -1)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.viewport().setMouseTracking(True)
        self.setAccessibleName(say("What goes to which output"))

    @property
    def high(self) -> int:
        """The height of a line."""
        return int(24 + 2 * (THEME.colours.text_px - 14))

    @property
    def left(self) -> int:
        """The width of the names."""
        return int(min(230, max(150, self.viewport().width() // 4)))

    @property
    def columns(self) -> int:
        """The most outputs that a device has."""
        return max((len(line.choices) for line in self.lines), default=0)

    def show_lines(self, lines: tuple[PatchLine, ...]) -> None:
        """Show other lines; what is chosen stays where it is still there."""
        self.lines = lines
        known = {line.ref for line in lines}
        self.chosen = frozenset(ref for ref in self.chosen if ref in known)
        self.at = (min(self.at[0], max(0, len(lines) - 1)), self.at[1])
        self._measure()
        self.viewport().update()

    def _measure(self) -> None:
        view = self.viewport()
        down, across = self.verticalScrollBar(), self.horizontalScrollBar()
        down.setRange(0, max(0, len(self.lines) * self.high + 8 - view.height()))
        down.setPageStep(max(1, view.height()))
        down.setSingleStep(self.high)
        room = view.width() - self.left - self._last
        across.setRange(0, max(0, self.columns * WIDE - room))
        across.setPageStep(max(1, room))
        across.setSingleStep(WIDE)

    @property
    def _last(self) -> int:
        """The width of where things arrive."""
        return int(min(240, max(120, self.viewport().width() // 4)))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self._measure()

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Paint anew."""
        self.viewport().update()

    def cell_rect(self, line: int, column: int) -> QRectF:
        """Where a cell lies in the viewport."""
        x = self.left + column * WIDE - self.horizontalScrollBar().value()
        return QRectF(x, self._y(line), WIDE, self.high)

    def _y(self, line: int) -> int:
        return line * self.high - self.verticalScrollBar().value()

    def cell_at(self, point: QPoint) -> tuple[int, int]:
        """The line and the output under a point; −1 where there is none."""
        line = (point.y() + self.verticalScrollBar().value()) // self.high
        if not 0 <= line < len(self.lines):
            return -1, -1
        column = (point.x() - self.left + self.horizontalScrollBar().value()) // WIDE
        here = self.lines[line]
        end = self.viewport().width() - self._last
        inside = self.left <= point.x() < end and 0 <= column < len(here.choices)
        return line, column if inside else -1

    def paintEvent(self, event: QPaintEvent) -> None:
        """Only the lines that can be seen."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        first = self.verticalScrollBar().value() // self.high
        count = self.viewport().height() // self.high + 2
        for number in range(first, min(len(self.lines), first + count)):
            line = self.lines[number]
            if line.is_heading:
                self._paint_heading(painter, number, line)
            else:
                self._paint_line(painter, number, line)
        painter.end()

    def elements(self) -> list[Element]:
        """What is seen: each line, with a crossing for each of its outputs."""
        told = []
        for number, line in enumerate(self.lines):
            row = self._row(number)
            if not row.intersects(QRectF(self.viewport().rect())):
                continue
            role = Role.Heading if line.is_heading else Role.ListItem
            name = f"{line.tag.upper()} {line.name}" if line.tag and not line.deep else line.name
            arrives = "" if line.is_heading else line.arrives or say("not played")
            chosen = line.ref in self.chosen
            press = partial(self._choose, number, False, False)
            key = line.ref or line.device.id
            told.append(Element(key, name, row, role, arrives, "", chosen, None, press))
            for column, (choice, words) in enumerate(line.choices if line.ref else ()):
                told.append(
                    Element(
                        f"{line.ref} {choice}",
                        say("{line} to output {words}", line=line.name, words=words),
                        self.cell_rect(number, column),
                        Role.CheckBox,
                        chosen=self.at == (number, column),
                        checked=choice in line.on,
                        press=partial(self._put, number, column),
                    )
                )
        return with_words(told, self.said)

    def _row(self, number: int) -> QRectF:
        return QRectF(0, self._y(number), self.viewport().width(), self.high)

    def _paint_heading(self, painter: QPainter, number: int, line: PatchLine) -> None:
        colours, row = THEME.colours, self._row(number)
        painter.fillRect(row, QColor(colours.sunken))
        name = QRectF(12, row.top(), self.left - 16, row.height())
        text(painter, name, line.name, colours.ink, bold(colours.text_px))
        painter.save()
        painter.setClipRect(self._middle(row))
        for column, (_, words) in enumerate(line.choices):
            cell = self.cell_rect(number, column).adjusted(3, 0, -3, 0)
            face = bold(colours.text_px - 2)
            text(painter, cell, words, colours.ink, face, Qt.AlignmentFlag.AlignHCenter)
        painter.restore()
        if not line.choices:
            said = self._middle(row).adjusted(6, 0, 0, 0)
            text(
                painter,
                said,
                say("no outputs described"),
                colours.caution,
                font(colours.text_px - 1),
            )

    def _middle(self, row: QRectF) -> QRectF:
        wide = self.viewport().width() - self.left - self._last
        return QRectF(self.left, row.top(), wide, row.height())

    def _paint_line(self, painter: QPainter, number: int, line: PatchLine) -> None:
        colours, row = THEME.colours, self._row(number)
        if line.ref in self.chosen:
            painter.fillRect(row, QColor(colours.action_soft))
        below = QRectF(row.left(), row.bottom() - 1, row.width(), 1)
        painter.fillRect(below, mixed(colours.line, colours.panel, 0.4))
        indent = 46 if line.deep else 12
        if not line.deep:
            chip = QRectF(12, row.center().y() - 8.5, 27, 17)
            paint_tag(painter, chip, line.tag.upper(), line.colour)
            indent = 46
        else:
            indent = 56
        face = font(colours.text_px - 1) if line.deep else font(colours.text_px)
        name = QRectF(indent, row.top(), self.left - indent - 4, row.height())
        text(painter, name, line.name, colours.ink, face)
        painter.save()
        painter.setClipRect(self._middle(row))
        for column, (choice, _) in enumerate(line.choices):
            self._paint_cell(painter, number, column, line, choice)
        painter.restore()
        self._paint_arrival(painter, row, line)

    def _paint_cell(
        self, painter: QPainter, number: int, column: int, line: PatchLine, choice: str
    ) -> None:
        colours, cell = THEME.colours, self.cell_rect(number, column)
        on, several = choice in line.on, len(line.on) > 1
        focus = self.hasFocus() and self.at == (number, column)
        over = self._over == (number, column)
        if focus or over:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(colours.action), 2.2 if focus else 1.2))
            painter.drawRoundedRect(cell.adjusted(4, 2.5, -4, -2.5), 5, 5)
        holes = self._holes(choice, line)
        look = (on, several, len(holes))
        self._crossings.put(painter, cell, look, partial(_paint_holes, on, several, holes))

    def _holes(self, choice: str, line: PatchLine) -> tuple[float, ...]:
        """One hole for a mono output, two for a pair."""
        kinds = {output.id: output.kind for output in line.device.outputs}
        two = "+" in choice or kinds.get(choice) in ("pair", "headphones", "usb")
        return (-6.0, 6.0) if two else (0.0,)

    def _paint_arrival(self, painter: QPainter, row: QRectF, line: PatchLine) -> None:
        colours = THEME.colours
        place = QRectF(row.right() - self._last + 8, row.top(), self._last - 16, row.height())
        shade = colours.muted
        words = line.arrives or say("not played")
        if line.right is False:
            shade = colours.fault
        elif line.right:
            shade = colours.ink
        text(painter, place, words, shade, font(colours.text_px - 1))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Ring what is pointed at."""
        over = self.cell_at(event.position().toPoint())
        if over[0] >= 0 and self.lines[over[0]].is_heading:
            over = (-1, -1)
        if over != self._over:
            self._over = over
            self.viewport().update()

    def leaveEvent(self, event: QEvent) -> None:
        """Nothing is pointed at any more."""
        self._over = (-1, -1)
        self.viewport().update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Put a sound on an output, or choose its line."""
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        line, column = self.cell_at(event.position().toPoint())
        if line < 0:
            return
        held = event.modifiers()
        if column >= 0 and not self.lines[line].is_heading:
            self.at = (line, column)
            self._put(line, column)
            return
        self._choose(
            line,
            bool(held & Qt.KeyboardModifier.ShiftModifier),
            bool(held & Qt.KeyboardModifier.ControlModifier),
        )

    def _put(self, line: int, column: int) -> None:
        """This line, with all that are chosen beside it in the same device."""
        here = self.lines[line]
        choice = here.choices[column][0]
        refs = list(here.sets)
        if here.ref in self.chosen:
            for other in self.lines:
                if other.ref in self.chosen and other.device is here.device:
                    refs += [ref for ref in other.sets if ref not in refs]
        self.put.emit(refs, choice)

    def _choose(self, line: int, to_here: bool, also: bool) -> None:
        """Choose a line, all lines from the last one to here, or this one too."""
        here = self.lines[line]
        if here.is_heading:
            wanted = [ln.ref for ln in self.lines if ln.device is here.device and ln.ref]
            self.chosen = frozenset(wanted) | (self.chosen if also else frozenset())
        elif to_here:
            low, high = sorted((self._anchor, line))
            between = [ln.ref for ln in self.lines[low : high + 1] if ln.ref]
            self.chosen = frozenset(between) | (self.chosen if also else frozenset())
        elif also:
            self.chosen = self.chosen ^ {here.ref}
        else:
            self.chosen = frozenset((here.ref,))
        if not to_here:
            self._anchor = line
        self.at = (line, self.at[1])
        self.chosen_changed.emit()
        self.viewport().update()

    def event(self, event: QEvent) -> bool:
        """Keep Space from the window's shortcuts."""
        return keeps(event, [Qt.Key.Key_Space]) or super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move, with Shift they choose; Enter or Space puts the sound there."""
        key = Qt.Key(event.key())
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in MOVES:
            self._move(*MOVES[key], shift)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            line, column = self.at
            there = 0 <= line < len(self.lines) and column < len(self.lines[line].choices)
            if there and not self.lines[line].is_heading:
                self._put(line, column)
        else:
            super().keyPressEvent(event)

    def attend(self, ref: str) -> None:
        """Bring the cursor to the line of a part or sound."""
        for number, line in enumerate(self.lines):
            if ref and line.ref == ref:
                self.at = (number, self.at[1])
                self._reveal(*self.at)
                self.viewport().update()

    def _move(self, down: int, across: int, choosing: bool) -> None:
        if not self.lines:
            return
        line = max(0, min(len(self.lines) - 1, self.at[0] + down))
        if self.lines[line].is_heading and down:
            step = 1 if down > 0 else -1
            line = line + step if 0 <= line + step < len(self.lines) else self.at[0]
        last = max(0, len(self.lines[line].choices) - 1)
        column = max(0, min(last, self.at[1] + across))
        if down:
            self._choose(line, choosing, False)
        self.at = (line, column)
        self._reveal(line, column)
        self.viewport().update()

    def _reveal(self, line: int, column: int) -> None:
        cell, view = self.cell_rect(line, column), self.viewport()
        down, across = self.verticalScrollBar(), self.horizontalScrollBar()
        if cell.top() < 0:
            down.setValue(down.value() + round(cell.top()))
        elif cell.bottom() > view.height():
            down.setValue(down.value() + round(cell.bottom() - view.height()))
        right = view.width() - self._last
        if cell.left() < self.left:
            across.setValue(across.value() + round(cell.left() - self.left))
        elif cell.right() > right:
            across.setValue(across.value() + round(cell.right() - right))


def _paint_holes(
    on: bool, several: bool, holes: tuple[float, ...], painter: QPainter, cell: QRectF
) -> None:
    """The holes of a crossing: full where a plug is in, with a dot in each where it is halved."""
    colours = THEME.colours
    ring = mixed(colours.ink, colours.panel, 0.35)
    painter.setPen(QPen(QColor(colours.action) if on else ring, 1.6))
    full = QColor(colours.action) if on and not several else QColor(colours.panel)
    painter.setBrush(full)
    for place in holes:
        middle = cell.center() + QPointF(place, 0)
        painter.drawEllipse(middle, 5.0, 5.0)
        if on and several:
            painter.setBrush(QColor(colours.action))
            painter.drawEllipse(middle, 2.0, 2.0)
            painter.setBrush(full)
