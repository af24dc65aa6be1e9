"""A card as a sheet of paper: what to dial, a box to tick for each step."""

from bisect import bisect_right
from typing import NamedTuple

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QAbstractScrollArea

from vastzone.app.frame.text import set_tip
from vastzone.app.key_filter import keeps
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.cards.card import Card, CardStep
from vastzone.core.plan.model.wishes import STATES, State

HEIGHTS = {"title": 66, "prepare": 34, "section": 50, "step": 40, "closing": 38, "gap": 18}
NARROW, TALL = 620, 62
"""Below this width a step takes two lines, and so much height."""
BOX, EDGE, DOTS = 24.0, 30.0, 96.0


class CardRow(NamedTuple):
    """A line of the sheet; ``steps`` are those that a tick on it concerns."""

    kind: str
    words: str
    steps: tuple[CardStep, ...] = ()
    state: State | None = None


def rows_of(card: Card) -> list[CardRow]:
    """The lines of a card in the order in which they are done."""
    count = f"{len(card.steps)} step{'s' if len(card.steps) != 1 else ''}"
    rows = [CardRow("title", f"{card.name}\n{count}, about {card.presses} presses")]
    rows += [CardRow("prepare", line) for line in card.preparation]
    for section in card.sections:
        rows.append(CardRow("section", section.title, section.steps))
        rows += [CardRow("step", "", (step,)) for step in section.steps]
        for n, line in enumerate(section.closing):
            rows.append(CardRow("closing", line, section.steps, "checked" if n else "stored"))
    return [*rows, CardRow("gap", "")]


def least(steps: tuple[CardStep, ...]) -> State:
    """The state that all of some steps have reached."""
    return STATES[min((STATES.index(step.state) for step in steps), default=0)]


class CardPage(QAbstractScrollArea):
    """Paints the lines that can be seen; a press or Space ticks, Backspace takes back."""

    ticked = Signal(object, str)

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[CardRow] = []
        self.prepared: set[str] = set()
        self.at = 0
        self._tops: list[int] = [0]
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFrameShape(QAbstractScrollArea.Shape.NoFrame)
        self.setAccessibleName("Card")
        self.viewport().setMouseTracking(True)

    def show_card(self, card: Card | None) -> None:
        """Show a card, or nothing."""
        name = self.rows[0].words.partition("\n")[0] if self.rows else ""
        self.rows = rows_of(card) if card else []
        if card is None or card.name != name:
            self.at = next((n for n, row in enumerate(self.rows) if self._tickable(row)), 0)
            self.verticalScrollBar().setValue(0)
        self.at = min(self.at, max(0, len(self.rows) - 1))
        self._measure()
        self._tell()
        self.viewport().update()

    @staticmethod
    def _tickable(row: CardRow) -> bool:
        return row.kind in ("prepare", "step", "closing", "section")

    def _tell(self) -> None:
        """Say the line that the cursor is on to those who cannot see it."""
        if 0 <= self.at < len(self.rows):
            row = self.rows[self.at]
            words = row.words
            if row.kind == "step":
                s = row.steps[0]
                words = f"{s.thing}, {s.field}, from {s.before} to {s.after}: {s.state}"
            self.setAccessibleDescription(words)

    @property
    def _narrow(self) -> bool:
        return bool(self.viewport().width() < NARROW)

    def _height(self, row: CardRow) -> int:
        return TALL if row.kind == "step" and self._narrow else HEIGHTS[row.kind]

    def _measure(self) -> None:
        tops = [0]
        for row in self.rows:
            tops.append(tops[-1] + self._height(row))
        self._tops = tops
        room = self.viewport().height()
        bar = self.verticalScrollBar()
        bar.setRange(0, max(0, self._tops[-1] + 24 - room))
        bar.setPageStep(max(1, room))
        bar.setSingleStep(HEIGHTS["step"])

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self._measure()

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Paint anew."""
        self.viewport().update()

    def _sheet(self) -> QRectF:
        wide = min(860.0, self.viewport().width() - 28.0)
        left = (self.viewport().width() - wide) / 2
        return QRectF(left, 10.0 - self.verticalScrollBar().value(), wide, self._tops[-1] + 4)

    def row_rect(self, row: int) -> QRectF:
        """Where a line lies in the viewport."""
        sheet = self._sheet()
        return QRectF(
            sheet.left(), sheet.top() + self._tops[row], sheet.width(), self._height(self.rows[row])
        )

    def paintEvent(self, event: QPaintEvent) -> None:
        """The sheet and the lines that can be seen."""
        painter, colours = QPainter(self.viewport()), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.viewport().rect(), QColor(colours.paper))
        if self.rows:
            painter.setPen(QPen(QColor(colours.line), 1))
            painter.setBrush(QColor(colours.raised))
            painter.drawRoundedRect(self._sheet(), 6, 6)
        offset = self.verticalScrollBar().value() - 10
        first = max(0, bisect_right(self._tops, offset) - 1)
        for n in range(first, len(self.rows)):
            rect = self.row_rect(n)
            if rect.top() > self.viewport().height():
                break
            self._paint_row(painter, n, rect)
        painter.end()

    def _paint_row(self, painter: QPainter, n: int, rect: QRectF) -> None:
        row = self.rows[n]
        if n == self.at and self.hasFocus() and self._tickable(row):
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(mixed(THEME.colours.action, THEME.colours.raised, 0.11))
            painter.drawRoundedRect(rect.adjusted(8, 1, -8, -1), 6, 6)
        {
            "title": self._title,
            "prepare": self._line,
            "closing": self._line,
            "section": self._section,
            "step": self._step,
            "gap": lambda *_: None,
        }[row.kind](painter, row, rect)

    def _title(self, painter: QPainter, row: CardRow, rect: QRectF) -> None:
        colours = THEME.colours
        name, _, below = row.words.partition("\n")
        x, wide = rect.left() + EDGE, rect.width() - 2 * EDGE
        text(
            painter,
            QRectF(x, rect.top() + 10, wide, 30),
            name,
            colours.ink,
            bold(colours.text_px + 8),
        )
        text(
            painter,
            QRectF(x, rect.top() + 40, wide, 20),
            below,
            colours.muted,
            font(colours.text_px - 1),
        )

    def _section(self, painter: QPainter, row: CardRow, rect: QRectF) -> None:
        colours = THEME.colours
        line = QRectF(rect.left() + EDGE, rect.top() + 18, rect.width() - 2 * EDGE, 26)
        text(painter, line, row.words, colours.ink, bold(colours.text_px + 2))
        painter.setPen(QPen(QColor(colours.line), 1.2))
        y = rect.bottom() - 2
        painter.drawLine(QPointF(rect.left() + EDGE, y), QPointF(rect.right() - EDGE, y))
        right = QRectF(rect.right() - EDGE - DOTS - 130, rect.top() + 18, DOTS + 130, 26)
        text(
            painter,
            right,
            f"all {least(row.steps)}",
            colours.muted,
            font(colours.text_px - 2),
            Qt.AlignmentFlag.AlignRight,
        )

    def _line(self, painter: QPainter, row: CardRow, rect: QRectF) -> None:
        colours = THEME.colours
        done = row.words in self.prepared if row.kind == "prepare" else self._reached(row)
        self._box(painter, rect, 0.67 if done else 0.0)
        room = QRectF(
            rect.left() + EDGE + 38, rect.top(), rect.width() - 2 * EDGE - 38, rect.height()
        )
        face = bold(colours.text_px) if row.kind == "closing" else font(colours.text_px)
        text(painter, room, row.words, colours.ink, face)

    @staticmethod
    def _reached(row: CardRow) -> bool:
        return STATES.index(least(row.steps)) >= STATES.index(row.state or "stored")

    def _step(self, painter: QPainter, row: CardRow, rect: QRectF) -> None:
        colours, step = THEME.colours, row.steps[0]
        reached = STATES.index(step.state)
        self._box(painter, rect, reached / 3)
        self._numbers(painter, step, rect)
        self._dots(painter, rect, reached, step.on)
        painter.setPen(QPen(mixed(colours.line, colours.raised, 0.6), 1))
        y = rect.bottom()
        painter.drawLine(QPointF(rect.left() + EDGE, y), QPointF(rect.right() - EDGE, y))

    def _numbers(self, painter: QPainter, step: CardStep, rect: QRectF) -> None:
        """What and where, from and to: in one line, or in two where there is little room."""
        colours = THEME.colours
        x, wide = rect.left() + EDGE + 38, rect.width() - 2 * EDGE - 38 - DOTS
        y, high = rect.top(), rect.height()
        end = x + wide
        if self._narrow:
            high /= 2
            end += DOTS
            name = QRectF(x, y + 3, wide, high - 2)
            room = QFontMetricsF(font(colours.text_px)).horizontalAdvance(step.before) + 4
            before = QRectF(x, y + high, min(room, (end - x) * 0.45), high - 4)
            align = Qt.AlignmentFlag.AlignLeft
        else:
            name = QRectF(x, y, wide * 0.42, high)
            before = QRectF(x + wide * 0.42, y, wide * 0.23, high)
            align = Qt.AlignmentFlag.AlignRight
        arrow = QRectF(before.right(), before.top(), 30, before.height())
        after = QRectF(arrow.right(), before.top(), end - arrow.right() - 4, before.height())
        where = f" ({step.path})" if step.path else ""
        text(
            painter, name, f"{step.thing} · {step.field}{where}", colours.ink, font(colours.text_px)
        )
        text(painter, before, step.before, colours.muted, font(colours.text_px), align)
        text(
            painter, arrow, "→", colours.muted, font(colours.text_px), Qt.AlignmentFlag.AlignHCenter
        )
        text(painter, after, step.after, colours.ink, bold(colours.text_px + 2))

    def _box(self, painter: QPainter, rect: QRectF, share: float) -> None:
        """A box to tick: empty, half while sent, ticked when stored, filled when checked."""
        colours = THEME.colours
        box = QRectF(rect.left() + EDGE, rect.center().y() - BOX / 2, BOX, BOX)
        painter.setPen(QPen(QColor(colours.good if share > 0.5 else colours.ink), 1.8))
        painter.setBrush(QColor(colours.good) if share >= 1 else QColor(colours.raised))
        painter.drawRoundedRect(box, 5, 5)
        at = box.center()
        pen = QPen(QColor(colours.raised if share >= 1 else colours.good), 2.6)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        if share > 0.5:
            painter.drawLine(at + QPointF(-6, 0), at + QPointF(-2, 5))
            painter.drawLine(at + QPointF(-2, 5), at + QPointF(6, -5))
        elif share > 0:
            painter.drawLine(at + QPointF(-5, 0), at + QPointF(5, 0))

    def _dots(self, painter: QPainter, rect: QRectF, reached: int, on: str) -> None:
        """The state in a word, with its date."""
        colours = THEME.colours
        high = rect.height() / (2 if self._narrow else 1)
        room = QRectF(
            rect.right() - EDGE - DOTS, rect.top() + (3 if self._narrow else 0), DOTS, high
        )
        words = STATES[reached] if not on or not reached else f"{STATES[reached]} {on[5:10]}"
        shade = colours.good if reached >= 2 else colours.caution if reached else colours.muted
        text(painter, room, words, shade, font(colours.text_px - 2), Qt.AlignmentFlag.AlignRight)

    def row_at(self, point: QPoint) -> int:
        """The line under a point of the viewport; −1 where there is none."""
        sheet = self._sheet()
        if not sheet.contains(QPointF(point)):
            return -1
        return min(len(self.rows) - 1, bisect_right(self._tops, point.y() - sheet.top()) - 1)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Tick a line; with Shift, take a tick back."""
        row = self.row_at(event.position().toPoint())
        if row < 0 or event.button() is not Qt.MouseButton.LeftButton:
            return
        self.at = row
        self.tick(row, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        self.viewport().update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Show what can be ticked, and why a number is what it is."""
        row = self.row_at(event.position().toPoint())
        can = row >= 0 and self._tickable(self.rows[row])
        self.viewport().setCursor(
            Qt.CursorShape.PointingHandCursor if can else Qt.CursorShape.ArrowCursor
        )
        why = self.rows[row].steps[0].why if can and self.rows[row].kind == "step" else ""
        set_tip(self.viewport(), why)

    def tick(self, row: int, back: bool = False) -> None:
        """Move a line on by one state, or back."""
        line = self.rows[row]
        if line.kind == "prepare":
            self.prepared ^= {line.words}
        elif line.kind in ("step", "section"):
            at = STATES.index(least(line.steps)) + (-1 if back else 1)
            if 0 <= at < len(STATES):
                self.ticked.emit(line.steps, STATES[at])
        elif line.kind == "closing" and line.state:
            self.ticked.emit(line.steps, "planned" if back else line.state)
        self.viewport().update()

    def event(self, event: QEvent) -> bool:
        """Keep Space and Delete from the window's shortcuts: they tick here."""
        mine = (Qt.Key.Key_Space, Qt.Key.Key_Backspace, Qt.Key.Key_Delete)
        return keeps(event, mine) or super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move, Space ticks and goes on, Backspace takes a tick back."""
        key = Qt.Key(event.key())
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(key)
        if not self.rows:
            super().keyPressEvent(event)
        elif step:
            self._go(step)
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.tick(self.at)
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete):
            self.tick(self.at, back=True)
        else:
            super().keyPressEvent(event)

    def _go(self, step: int) -> None:
        row = self.at + step
        while 0 <= row < len(self.rows) and not self._tickable(self.rows[row]):
            row += step
        if 0 <= row < len(self.rows):
            self.at = row
            self._tell()
            rect, bar = self.row_rect(row), self.verticalScrollBar()
            if rect.top() < 0:
                bar.setValue(bar.value() + round(rect.top()) - 20)
            elif rect.bottom() > self.viewport().height():
                bar.setValue(bar.value() + round(rect.bottom()) - self.viewport().height() + 20)
        self.viewport().update()
