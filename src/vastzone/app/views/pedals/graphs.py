"""Small plots of the pages Travel and Velocity."""

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, grown_size, note_words
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.say import say

BINS = 32


class Graph(Drawn):
    """A framed plot with a title, the words at both ends, and what a subclass draws."""

    aside = 0.0
    """How much of its head is left for what a subclass tells there, at the right."""

    def __init__(self, title: str, ends: tuple[str, str], hint: str = "") -> None:
        super().__init__()
        self.title, self.ends, self.hint = title, ends, hint
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(title)

    def sizeHint(self) -> QSize:
        """Wide."""
        return grown_size(380, 240)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The frame, then what is in it."""
        colours, painter = THEME.colours, self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(self.rect()).adjusted(2, 26, -6, -22)
        head = QRectF(area.left(), 2, area.width() - self.aside, 22)
        text(painter, head, self.title, colours.ink, bold(colours.text_px - 1))
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(QColor(colours.raised))
        painter.drawRoundedRect(area, 4, 4)
        below, small = (
            QRectF(area.left(), area.bottom() + 2, area.width(), 18),
            font(colours.text_px - 3),
        )
        text(painter, below, self.ends[0], colours.muted, small)
        text(painter, below, self.ends[1], colours.muted, small, Qt.AlignmentFlag.AlignRight)
        if self.is_empty() and self.hint:
            room = area.adjusted(18, 0, -18, 0)
            painter.setFont(font(colours.text_px))
            painter.setPen(QColor(colours.muted))
            middle = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            note_words(painter, room, self.hint)
            painter.drawText(room, middle, self.hint)
        else:
            self._paint_quarters(painter, area)
            self.draw(painter, area)
        painter.end()

    def _paint_quarters(self, painter: QPainter, area: QRectF) -> None:
        """Thin lines at each quarter, so that values can be read off."""
        painter.setPen(QPen(QColor(THEME.colours.sunken), 1))
        for share in (0.25, 0.5, 0.75):
            x, y = area.left() + share * area.width(), area.top() + share * area.height()
            painter.drawLine(QPointF(x, area.top() + 1), QPointF(x, area.bottom() - 1))
            painter.drawLine(QPointF(area.left() + 1, y), QPointF(area.right() - 1, y))

    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return False

    def draw(self, painter: QPainter, area: QRectF) -> None:
        """What stands in the frame."""


class TravelGraph(Graph):
    """Values received along the travel as dots, and what they become as a line."""

    def __init__(self) -> None:
        super().__init__(
            say("Travel against value"),
            (say("heel"), say("toe")),
            say(
                "Choose a pedal in Controls, press Record a sweep, move it slowly from heel to "
                "toe and "
                "back, and press again. Dots are what is received; the line is what it becomes."
            ),
        )
        self.before: Sequence[tuple[float, int]] = ()
        self.after: Sequence[tuple[float, int]] = ()

    def is_empty(self) -> bool:
        """Whether nothing was swept."""
        return not self.before and not self.after

    def show_points(
        self, before: Sequence[tuple[float, int]], after: Sequence[tuple[float, int]]
    ) -> None:
        """Show these: travel 0–1 with value 0–127."""
        self.before, self.after = before, sorted(after)
        self.update()

    def draw(self, painter: QPainter, area: QRectF) -> None:
        """Dots, then the line."""
        colours = THEME.colours

        def place(x: float, value: float) -> QPointF:
            return QPointF(
                area.left() + x * area.width(), area.bottom() - value / 127 * area.height()
            )

        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.caution))
        for x, value in self.before:
            painter.drawEllipse(place(x, value), 2.2, 2.2)
        painter.setPen(QPen(QColor(colours.action), 2.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF([place(x, v) for x, v in self.after]))
        small, right = font(colours.text_px - 3), Qt.AlignmentFlag.AlignRight
        above = QRectF(area.right() - 260, area.top() - 20, 260, 16)
        if self.before:
            text(painter, above, say("— after calibration"), colours.action, small, right)
            text(
                painter,
                above.adjusted(0, 0, -125, 0),
                say("● received"),
                colours.caution,
                small,
                right,
            )


class Histogram(Graph):
    """How often each velocity comes, in 32 bins."""

    def __init__(self, title: str) -> None:
        super().__init__(title, ("1", "127"), say("How often each velocity comes"))
        self.values: Sequence[int] = ()

    def is_empty(self) -> bool:
        """Whether nothing was struck."""
        return not self.values

    def show_values(self, values: Sequence[int]) -> None:
        """Count these."""
        self.values = values
        self.update()

    def draw(self, painter: QPainter, area: QRectF) -> None:
        """A bar a bin."""
        counts = [0] * BINS
        for value in self.values:
            counts[min(BINS - 1, value * BINS // 128)] += 1
        top, wide = max(counts, default=0) or 1, area.width() / BINS
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(THEME.colours.action))
        for n, count in enumerate(counts):
            high = count / top * (area.height() - 8)
            left, upper = area.left() + n * wide + 1, area.bottom() - high
            painter.drawRect(QRectF(left, upper, wide - 2, high))


class CurveGraph(Graph):
    """A table of 128 velocities, and the named curve that is nearest to it, dashed."""

    def __init__(self) -> None:
        super().__init__(
            say("Struck against sent"),
            (say("struck 1"), say("struck 127")),
            say("The curve that suits this hand, and the nearest one with a name"),
        )
        self.table: bytes = b""
        self.nearest: Sequence[int] = ()

    def is_empty(self) -> bool:
        """Whether no curve was worked out."""
        return not self.table

    def show_table(self, table: bytes, nearest: Sequence[int]) -> None:
        """Show these."""
        self.table, self.nearest = table, nearest
        self.update()

    def draw(self, painter: QPainter, area: QRectF) -> None:
        """Both lines."""
        colours = THEME.colours
        for values, colour, style in (
            (self.nearest, colours.muted, Qt.PenStyle.DashLine),
            (self.table, colours.action, Qt.PenStyle.SolidLine),
        ):
            line = QPolygonF(
                [
                    QPointF(
                        area.left() + n / 127 * area.width(),
                        area.bottom() - v / 127 * area.height(),
                    )
                    for n, v in enumerate(values)
                ]
            )
            painter.setPen(QPen(QColor(colour), 2.2, style))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(line)
