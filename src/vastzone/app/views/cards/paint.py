"""Painting the rows of a card."""

from collections.abc import Iterable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPen

from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.cards.rows import CAUTION, TALL, WHY
from vastzone.app.views.drawing import text
from vastzone.core.cards.card import CardLine
from vastzone.core.memory.states import STATES
from vastzone.core.say import say

BOX, EDGE, STATE, SIGN = 24.0, 30.0, 132.0, 26.0
AGAIN = say(" Press again to do it all the same.")


class RowPainter:
    """Paints rows one after the other."""

    def __init__(self, painter: QPainter, lines: int) -> None:
        self._painter, self._lines = painter, lines

    def head(self, kind: str, rect: QRectF, words: str) -> None:
        """The name of the device, or of a section."""
        if kind == "title":
            self._title(rect, words)
        elif kind == "section":
            self._section(rect, words)

    def _title(self, rect: QRectF, words: str) -> None:
        colours = THEME.colours
        name, _, below = words.partition("\n")
        x, wide = rect.left() + EDGE, rect.width() - 2 * EDGE
        head = QRectF(x, rect.top() + 10, wide, 30)
        text(self._painter, head, name, colours.ink, bold(colours.text_px + 8))
        under = QRectF(x, rect.top() + 40, wide, 20)
        text(self._painter, under, below, colours.muted, font(colours.text_px - 1))

    def _section(self, rect: QRectF, words: str) -> None:
        colours = THEME.colours
        line = QRectF(rect.left() + EDGE, rect.top() + 16, rect.width() - 2 * EDGE, 26)
        text(self._painter, line, words, colours.ink, bold(colours.text_px + 2))
        self._painter.setPen(QPen(QColor(colours.line), 1.2))
        y = rect.bottom() - 2
        self._painter.drawLine(QPointF(rect.left() + EDGE, y), QPointF(rect.right() - EDGE, y))

    def plain(self, rect: QRectF, words: str, share: float, strong: bool = False) -> None:
        """A row that is only words with a box."""
        colours = THEME.colours
        self.box(rect, share)
        x = rect.left() + EDGE + 38
        kept = STATE if strong else 0.0
        room = QRectF(x, rect.top(), rect.right() - EDGE - kept - x, rect.height())
        face = bold(colours.text_px) if strong else font(colours.text_px)
        text(self._painter, room, words, colours.ink, face)

    def line(self, rect: QRectF, line: CardLine) -> None:
        """A line of the card."""
        share = STATES.index(line.state) / 3
        if line.kind != "dial":
            self.plain(rect, line.words, share, strong=True)
        else:
            self.box(rect, share)
            self._told(rect, line)
        self._state(rect, line)
        colours = THEME.colours
        self._painter.setPen(QPen(mixed(colours.line, colours.raised, 0.6), 1))
        y = rect.bottom()
        self._painter.drawLine(QPointF(rect.left() + EDGE, y), QPointF(rect.right() - EDGE, y))

    def _told(self, rect: QRectF, line: CardLine) -> None:
        """The thing, what it is to be, what it was: in one line, or in two with little room."""
        colours = THEME.colours
        left, right = rect.left() + EDGE + 38, rect.right() - EDGE - STATE
        high = rect.height()
        name = QRectF(left, rect.top(), (right - left) * 0.26, high)
        if self._lines > 1:
            name = QRectF(left, rect.top() + 4, right - left, 30)
        text(self._painter, name, line.thing, colours.ink, font(colours.text_px))
        x, y = name.right() + 8, rect.top()
        if self._lines > 1:
            x, y, right = left, rect.top() + 30, rect.right() - EDGE
            high = 26
        face = bold(colours.text_px)
        was = (
            say("was {before}", before=line.before)
            if line.before and line.before != line.after
            else ""
        )
        small = font(colours.text_px - 2)
        wanted = QFontMetricsF(face).horizontalAdvance(line.after) + 6
        if self._lines > 2:
            below = QRectF(x, y + TALL, right - x, high)
            text(self._painter, QRectF(x, y, right - x, high), line.after, colours.ink, face)
            text(self._painter, below, was, colours.muted, small)
            return
        least = min(QFontMetricsF(small).horizontalAdvance(was) + 10, (right - x) * 0.4)
        first = min(wanted, right - x - (least if was else 0))
        after = QRectF(x, y, first, high)
        text(self._painter, after, line.after, colours.ink, face)
        if was:
            rest = QRectF(after.right() + 8, y, right - after.right() - 8, high)
            text(self._painter, rest, was, colours.muted, small)

    def _state(self, rect: QRectF, line: CardLine) -> None:
        """How far it is, since when and by whom."""
        colours = THEME.colours
        reached = STATES.index(line.state)
        high = rect.height()
        if line.kind == "dial":
            high -= TALL * (self._lines - 1)
        sign = SIGN if line.kind in ("dial", "learn") else 0.0
        room = QRectF(rect.right() - EDGE - STATE, rect.top(), STATE - sign - 4, high)
        words: str = say(line.state)
        if line.kind not in ("dial", "learn"):
            words = say("done") if line.done else ""
        if line.known is not None and line.known.on and words:
            words += f" {line.known.on[5:10]} {line.known.by}".rstrip()
        shade = colours.good if reached >= 2 else colours.caution if reached else colours.muted
        right = Qt.AlignmentFlag.AlignRight
        text(self._painter, room, words, shade, font(colours.text_px - 2), right)

    def sign(self, rect: QRectF, is_open: bool) -> None:
        """Where a press says why."""
        colours = THEME.colours
        shade = colours.action if is_open else colours.muted
        self._painter.setPen(QPen(QColor(shade), 1.3))
        self._painter.setBrush(Qt.BrushStyle.NoBrush)
        self._painter.drawEllipse(rect.adjusted(4, 4, -4, -4))
        centre = Qt.AlignmentFlag.AlignHCenter
        text(self._painter, rect, "?", shade, bold(colours.text_px - 2), centre)

    def below(self, rect: QRectF, top: float, reasons: Iterable[str], warning: str) -> None:
        """The reasons under a line, and what it would spoil."""
        colours = THEME.colours
        x = rect.left() + EDGE + 38
        wide = rect.right() - EDGE - x
        for reason in reasons:
            room = QRectF(x, top, wide, WHY)
            text(self._painter, room, reason, colours.muted, font(colours.text_px - 1))
            top += WHY
        if warning:
            room = QRectF(x - 8, top + 1, wide + 8, CAUTION - 3)
            self._painter.setPen(Qt.PenStyle.NoPen)
            self._painter.setBrush(mixed(colours.caution, colours.raised, 0.16))
            self._painter.drawRoundedRect(room, 5, 5)
            said = QRectF(x, top, wide, CAUTION - 1)
            text(self._painter, said, warning + AGAIN, colours.ink, font(colours.text_px - 1))

    def box(self, rect: QRectF, share: float) -> None:
        """A box to tick: empty, half while sent, ticked when stored, filled when checked."""
        painter, colours = self._painter, THEME.colours
        box = QRectF(rect.left() + EDGE, rect.top() + (38 - BOX) / 2, BOX, BOX)
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
            painter.setPen(QPen(QColor(colours.caution), 2.6))
            painter.drawLine(at + QPointF(-5, 0), at + QPointF(5, 0))
