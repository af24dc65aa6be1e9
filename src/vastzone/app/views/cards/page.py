"""A card as a sheet of paper: what to dial, a box to tick for each line."""

from bisect import bisect_right
from collections.abc import Mapping
from functools import partial

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)

from vastzone.app.drawn import DrawnArea, with_words
from vastzone.app.frame.text import set_tip
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element, Role
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.views.cards.paint import EDGE, RowPainter
from vastzone.app.views.cards.rows import CAUTION, HEIGHTS, TALL, WHY, CardRow, rows_of
from vastzone.core.cards.card import Card, CardLine
from vastzone.core.memory.operations import Operation
from vastzone.core.say import say

NARROW, SMALL = 780, 500
"""Below these widths a row takes two lines, and three."""
Cautions = Mapping[Operation, str]
"""What the lines of a card would spoil, by what they do."""


class CardPage(DrawnArea):
    """Paints the rows that can be seen; a press or Space ticks, Backspace takes the last back.

    A line that would spoil something says so first; pressed again, it is done all the same.
    """

    ticked = Signal(object)
    taken_back = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[CardRow] = []
        self.prepared: set[str] = set()
        self.open: set[str] = set()
        self.cautions: Cautions = {}
        self.warned: Operation | None = None
        self.at = 0
        self._tops: list[int] = [0]
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(say("Card"))
        self.viewport().setMouseTracking(True)

    def show_card(
        self, card: Card | None, cautions: Cautions | None = None, remark: str = ""
    ) -> None:
        """Show a card with what its lines would spoil and a remark in its head, or nothing."""
        name = self.rows[0].words.partition("\n")[0] if self.rows else ""
        self.rows = rows_of(card, remark) if card else []
        self.cautions = cautions or {}
        if self.warned not in self.cautions:
            self.warned = None
        if card is None or card.name != name:
            self.at = next((n for n, row in enumerate(self.rows) if row.can_tick), 0)
            self.verticalScrollBar().setValue(0)
            self.warned = None
        self.at = min(self.at, max(0, len(self.rows) - 1))
        self._measure()
        self._tell()
        self.viewport().update()

    def _tell(self) -> None:
        """Say the row that the cursor is on to those who cannot see it."""
        if 0 <= self.at < len(self.rows):
            row = self.rows[self.at]
            state = f": {say(row.line.state)}" if row.line is not None else ""
            self.setAccessibleDescription(row.words + state)

    @property
    def _lines(self) -> int:
        """How many lines of text a row takes."""
        wide = self.viewport().width()
        if wide >= NARROW:
            return 1
        return 2 if wide >= SMALL else 3

    def _height(self, row: CardRow) -> int:
        high = HEIGHTS[row.kind]
        if row.kind == "line":
            high += TALL * (self._lines - 1)
        if row.line is not None:
            high += WHY * len(self._reasons(row))
            high += CAUTION if self._warning(row) else 0
        return high

    def _reasons(self, row: CardRow) -> tuple[str, ...]:
        """The reasons of a row that is open."""
        if row.line is None or row.words not in self.open:
            return ()
        return row.line.why or (say("Nobody said why: it stands so in the plan."),)

    def _warning(self, row: CardRow) -> str:
        if row.line is None or row.line.operation != self.warned:
            return ""
        return self.cautions.get(row.line.operation, "")

    def _measure(self) -> None:
        tops = [0]
        for row in self.rows:
            tops.append(tops[-1] + self._height(row))
        self._tops = tops
        room = self.viewport().height()
        bar = self.verticalScrollBar()
        bar.setRange(0, max(0, self._tops[-1] + 24 - room))
        bar.setPageStep(max(1, room))
        bar.setSingleStep(HEIGHTS["line"])

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self._measure()

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Paint anew."""
        self.viewport().update()

    def _sheet(self) -> QRectF:
        wide = min(900.0, self.viewport().width() - 28.0)
        left = (self.viewport().width() - wide) / 2
        return QRectF(left, 10.0 - self.verticalScrollBar().value(), wide, self._tops[-1] + 4)

    def row_rect(self, row: int) -> QRectF:
        """Where a row lies in the viewport."""
        sheet = self._sheet()
        high = self._tops[row + 1] - self._tops[row]
        return QRectF(sheet.left(), sheet.top() + self._tops[row], sheet.width(), high)

    def why_rect(self, row: int) -> QRectF:
        """Where a press shows the reasons of a row."""
        rect = self.row_rect(row)
        return QRectF(rect.right() - EDGE - 20, rect.top() + 8, 26, 26)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The sheet and the rows that can be seen."""
        painter, colours = self.painter(), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.viewport().rect(), QColor(colours.paper))
        if self.rows:
            painter.setPen(QPen(QColor(colours.line), 1))
            painter.setBrush(QColor(colours.raised))
            painter.drawRoundedRect(self._sheet(), 6, 6)
        offset = self.verticalScrollBar().value() - 10
        first = max(0, bisect_right(self._tops, offset) - 1)
        rows = RowPainter(painter, self._lines)
        for n in range(first, len(self.rows)):
            rect = self.row_rect(n)
            if rect.top() > self.viewport().height():
                break
            self._paint_row(rows, painter, n, rect)
        painter.end()

    def elements(self) -> list[Element]:
        """Every row: what it says, whether it is done, why it is so."""
        told = []
        for number, row in enumerate(self.rows):
            if row.kind == "gap":
                continue
            done = row.words in self.prepared
            if row.line is not None:
                done = not row.line.waits
            about = "; ".join((*self._reasons(row), self._warning(row)))
            told.append(
                Element(
                    f"row {number}",
                    row.words.replace("\n", ", "),
                    self.row_rect(number),
                    Role.CheckBox if row.can_tick else Role.Heading,
                    _value(row.line),
                    about,
                    number == self.at,
                    done if row.can_tick else None,
                    partial(self.tick, number) if row.can_tick else None,
                )
            )
        return with_words(told, self.said)

    def _paint_row(self, rows: RowPainter, painter: QPainter, n: int, rect: QRectF) -> None:
        row = self.rows[n]
        if n == self.at and self.hasFocus() and row.can_tick:
            painter.setPen(QPen(QColor(THEME.colours.action), 1.6))
            painter.setBrush(mixed(THEME.colours.action, THEME.colours.raised, 0.11))
            painter.drawRoundedRect(rect.adjusted(8, 1, -8, -1), 6, 6)
        if row.kind == "prepare":
            rows.plain(rect, row.words, 0.67 if row.words in self.prepared else 0.0)
        elif row.line is None:
            rows.head(row.kind, rect, row.words)
        else:
            base = HEIGHTS[row.kind]
            if row.kind == "line":
                base += TALL * (self._lines - 1)
            top = QRectF(rect.left(), rect.top(), rect.width(), base)
            rows.line(top, row.line)
            if row.line.kind in ("dial", "learn"):
                rows.sign(self.why_rect(n), row.words in self.open)
            below = [*self._reasons(row)]
            warning = self._warning(row)
            rows.below(rect, top.bottom(), below, warning)

    def row_at(self, point: QPoint) -> int:
        """The row under a point of the viewport; −1 where there is none."""
        sheet = self._sheet()
        if not sheet.contains(QPointF(point)):
            return -1
        return min(len(self.rows) - 1, bisect_right(self._tops, point.y() - sheet.top()) - 1)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Tick a row, or show why its numbers are what they are."""
        place = event.position().toPoint()
        row = self.row_at(place)
        if row < 0 or event.button() is not Qt.MouseButton.LeftButton:
            return
        self.at = row
        if self.why_rect(row).contains(QPointF(place)) and self.rows[row].line is not None:
            self.explain(row)
        else:
            self.tick(row)
        self._tell()
        self.viewport().update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Show what can be ticked, and who did what is done."""
        row = self.row_at(event.position().toPoint())
        can = row >= 0 and self.rows[row].can_tick
        self.viewport().setCursor(
            Qt.CursorShape.PointingHandCursor if can else Qt.CursorShape.ArrowCursor
        )
        line = self.rows[row].line if can else None
        set_tip(self.viewport(), "" if line is None else _tip(line))

    def explain(self, row: int) -> None:
        """Show or hide the reasons of a row."""
        words = self.rows[row].words
        self.open ^= {words}
        self._measure()
        self.viewport().update()

    def tick(self, row: int) -> None:
        """Do what a row says: said first where it would spoil something."""
        at = self.rows[row]
        if at.kind == "prepare":
            self.prepared ^= {at.words}
        elif at.line is not None and (at.line.waits or at.line.kind == "select"):
            operation = at.line.operation
            if operation in self.cautions and self.warned != operation:
                self.warned = operation
                self._measure()
            else:
                self.warned = None
                self.ticked.emit(at.line)
        self.viewport().update()

    def event(self, event: QEvent) -> bool:
        """Keep Space and Delete from the window's shortcuts: they tick here."""
        mine = (Qt.Key.Key_Space, Qt.Key.Key_Backspace, Qt.Key.Key_Delete)
        return keeps(event, mine) or super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move, Space ticks, Backspace takes the last tick back, Right says why."""
        key = Qt.Key(event.key())
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(key)
        if not self.rows:
            super().keyPressEvent(event)
        elif step:
            self._go(step)
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.tick(self.at)
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete):
            self.taken_back.emit()
        elif key in (Qt.Key.Key_Right, Qt.Key.Key_Left):
            if self.rows[self.at].line is not None:
                self.explain(self.at)
        else:
            super().keyPressEvent(event)

    def _go(self, step: int) -> None:
        row = self.at + step
        while 0 <= row < len(self.rows) and not self.rows[row].can_tick:
            row += step
        if 0 <= row < len(self.rows):
            self.at = row
            rect, room = self.row_rect(row), self.viewport().height()
            bar = self.verticalScrollBar()
            if rect.top() < 0:
                bar.setValue(bar.value() + int(rect.top()) - 8)
            elif rect.bottom() > room:
                bar.setValue(bar.value() + int(rect.bottom() - room) + 8)
            self._tell()
            self.viewport().update()


def _tip(line: CardLine) -> str:
    """Who did it and when, and where it is on the panel."""
    pieces = [line.path]
    if line.known is not None:
        told = line.known
        who = say(" by {by}", by=told.by) if told.by else ""
        pieces.append(f"{say(told.how)} {told.on}{who}".strip())
    return ". ".join(filter(None, pieces))


def _value(line: CardLine | None) -> str:
    """What a line is to be, what it was, whether it is done."""
    if line is None:
        return ""
    was = (
        say("was {before}", before=line.before) if line.before and line.before != line.after else ""
    )
    return ", ".join(filter(None, (line.after, was, say(line.state))))
