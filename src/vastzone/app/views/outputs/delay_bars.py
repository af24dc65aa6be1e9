"""Delays as bars: pieces that add up, the longest ringed, with lines at 5 and 10 ms."""

from functools import partial

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)

from vastzone.app.drawn import DrawnArea, with_words
from vastzone.app.reader import Element, Role
from vastzone.app.theme.colours import readable_on
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.delay.bars import DelayBar
from vastzone.core.delay.paths import Kind, Piece, verdict_of
from vastzone.core.say import say
from vastzone.core.timing.hops import GOOD_MS, PLAYABLE_MS

SHADES: dict[Kind, int] = {
    "sensing": 3,
    "cable": 0,
    "device": 7,
    "queue": 7,
    "sounding": 2,
    "buffer": 1,
    "converter": 4,
    "to the desk": 5,
    "ears": 6,
}
"""The part colour of each kind of piece; where there is room its name stands on it too."""
LEAST_MS = 12.0
LIMITS_HIGH = 24


def _limits() -> tuple[tuple[float, str, str], ...]:
    """The lines across all bars: where, what they say, in which colour."""
    colours = THEME.colours
    return (
        (GOOD_MS, say("5 ms, good"), colours.good),
        (PLAYABLE_MS, say("10 ms, playable"), colours.caution),
    )


NO_WORD = 20
"""Pixels in which no word has room."""


class DelayBars(DrawnArea):
    """A bar for each way; ``chosen`` tells that another is chosen."""

    chosen = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.bars: tuple[DelayBar, ...] = ()
        self.at = -1
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(say("Delays"))

    @property
    def high(self) -> int:
        """The height of a bar with its name."""
        return int(50 + 3 * (THEME.colours.text_px - 14))

    @property
    def current(self) -> DelayBar | None:
        """The chosen bar."""
        return self.bars[self.at] if 0 <= self.at < len(self.bars) else None

    def show_bars(self, bars: tuple[DelayBar, ...]) -> None:
        """Show other bars."""
        self.bars = bars
        self.at = min(self.at, len(bars) - 1)
        self._measure()
        self.viewport().update()

    @property
    def _room(self) -> int:
        """The height above the names of the limits."""
        return self.viewport().height() - LIMITS_HIGH

    def _measure(self) -> None:
        down, room = self.verticalScrollBar(), self.viewport().height()
        down.setRange(0, max(0, len(self.bars) * self.high + 26 - room))
        down.setPageStep(max(1, room))
        down.setSingleStep(self.high)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self._measure()

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Paint anew."""
        self.viewport().update()

    def _scale(self) -> float:
        """Pixels a millisecond: the longest bar just fits."""
        longest = max((bar.worst_ms for bar in self.bars), default=0.0)
        return (self.viewport().width() - 120) / max(LEAST_MS, longest)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The lines of 5 and 10 ms, and the bars that can be seen."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        first = self.verticalScrollBar().value() // self.high
        count = self.viewport().height() // self.high + 2
        for number in range(first, min(len(self.bars), first + count)):
            if number > first and self._row(number).bottom() > self._room:
                break  # the names of the limits stand there
            if number == self.at:
                painter.fillRect(self._row(number), QColor(THEME.colours.action_soft))
            self._paint_limits(painter, self._row(number))
            self._paint_bar(painter, number, self.bars[number])
        self._name_limits(painter)
        painter.end()

    def elements(self) -> list[Element]:
        """Every way, with its delay and the pieces of that."""
        told = []
        for number, bar in enumerate(self.bars):
            pieces = ", ".join(
                say("{kind} {worst_ms:.1f} ms", kind=say(piece.kind), worst_ms=piece.worst_ms)
                for piece in bar.pieces
            )
            told.append(
                Element(
                    f"way {number}",
                    say("{begins} to {ends}", begins=bar.begins, ends=bar.ends),
                    self._row(number),
                    Role.ListItem,
                    say(
                        "{worst_ms:.1f} ms {verdict_of}",
                        worst_ms=bar.worst_ms,
                        verdict_of=say(verdict_of(bar.worst_ms)),
                    ),
                    pieces,
                    number == self.at,
                    press=partial(self._choose, number),
                )
            )
        return with_words(told, self.said)

    def _paint_limits(self, painter: QPainter, row: QRectF) -> None:
        """The limits beside one bar, clear of its title."""
        scale = self._scale()
        for ms, _, shade in _limits():
            x = round(12 + ms * scale)
            painter.setPen(QPen(QColor(shade), 1.4, Qt.PenStyle.DashLine))
            painter.drawLine(x, round(row.top()) + 23, x, round(row.bottom()) - 3)

    def _name_limits(self, painter: QPainter) -> None:
        colours, scale = THEME.colours, self._scale()
        bottom = self.viewport().height()
        painter.fillRect(QRectF(0, bottom - 24, self.viewport().width(), 24), colours.paper)
        face, left = bold(colours.text_px - 2), 4.0
        for ms, words, shade in _limits():
            half = QFontMetricsF(face).horizontalAdvance(words) / 2 + 2
            left = max(left, 12 + ms * scale - half)
            room = QRectF(left, bottom - 23, 2 * half, 20)
            text(painter, room, words, shade, face, Qt.AlignmentFlag.AlignHCenter)
            left = room.right() + 8

    def _row(self, number: int) -> QRectF:
        top = number * self.high - self.verticalScrollBar().value()
        return QRectF(0, top, self.viewport().width(), self.high)

    def _paint_bar(self, painter: QPainter, number: int, bar: DelayBar) -> None:
        colours, row, scale = THEME.colours, self._row(number), self._scale()
        name = QRectF(12, row.top() + 3, row.width() - 24, 19)
        used = text(painter, name, bar.begins, colours.ink, bold(colours.text_px - 1))
        rest = name.adjusted(used + 8, 0, 0, 0)
        text(
            painter, rest, say("to {ends}", ends=bar.ends), colours.muted, font(colours.text_px - 1)
        )
        x, y = 12.0, row.top() + 23
        high = row.height() - 28
        longest = max(bar.pieces, key=lambda piece: piece.worst_ms, default=None)
        for piece in bar.pieces:
            block = QRectF(x, y, piece.worst_ms * scale, high)
            self._paint_piece(painter, block, piece, piece is longest)
            x = block.right()
        shade = {"good": colours.good, "playable": colours.caution, "late": colours.fault}
        word = verdict_of(bar.worst_ms)
        said = say("{worst_ms:.1f} ms {word}", worst_ms=bar.worst_ms, word=say(word))
        face = bold(colours.text_px - 1)
        total = QRectF(x + 6, y, QFontMetricsF(face).horizontalAdvance(said) + 4, high)
        behind = colours.action_soft if number == self.at else colours.raised
        painter.fillRect(total.adjusted(-3, 0, 0, 0), QColor(behind))
        text(painter, total, said, shade[word], face)

    def _paint_piece(self, painter: QPainter, block: QRectF, piece: Piece, longest: bool) -> None:
        colours = THEME.colours
        shade = colours.part(SHADES[piece.kind])
        painter.setPen(QPen(QColor(colours.ink if longest else colours.paper), 1.6))
        painter.setBrush(shade)
        if piece.kind == "queue":
            shade = QColor(colours.raised)
            painter.setBrush(QBrush(QColor(colours.muted), Qt.BrushStyle.BDiagPattern))
        painter.drawRect(block.adjusted(0.8, 0.8, -0.8, -0.8))
        if block.width() < NO_WORD:
            return
        word, face = say(piece.kind), font(colours.text_px - 3)
        wide = QFontMetricsF(face).horizontalAdvance(word) + 11
        if wide <= block.width():
            inside = block.adjusted(4, 0, -3, 0)
            ink = QColor(colours.ink) if piece.kind == "queue" else readable_on(shade)
            if piece.kind == "queue":
                painter.fillRect(block.adjusted(1.5, 1.5, wide - block.width(), -1.5), shade)
            text(painter, inside, word, ink, face)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose a bar."""
        at = (round(event.position().y()) + self.verticalScrollBar().value()) // self.high
        self._choose(at)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down go from bar to bar."""
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()), 0)
        if step:
            self._choose(max(0, min(len(self.bars) - 1, self.at + step)))
        else:
            super().keyPressEvent(event)

    def _choose(self, at: int) -> None:
        if not 0 <= at < len(self.bars):
            return
        self.at = at
        row, down = self._row(at), self.verticalScrollBar()
        if row.top() < 0:
            down.setValue(down.value() + round(row.top()))
        elif row.bottom() > self.viewport().height() - 26:
            down.setValue(down.value() + round(row.bottom() - self.viewport().height() + 26))
        self.chosen.emit()
        self.viewport().update()
