"""Strikes over time, and what each value of a setting keeps."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, grown_size
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.response.strikes import Analysis, Settings, StrikesKept, sweep
from vastzone.core.say import number, say

SHOWN_MS = 6000.0


class TimePlot(Drawn):
    """A row a pad; strokes as bars, double triggers and crosstalk marked by shape and colour."""

    def __init__(self) -> None:
        super().__init__()
        self.found: Analysis | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("Strikes over time"))

    def sizeHint(self) -> QSize:
        """Wide."""
        return grown_size(600, 200)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The first seconds of the recording."""
        painter, colours = self.painter(), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        analysis = self.found
        if analysis is None or not analysis.hits:
            painter.end()
            return
        pads = list(dict.fromkeys(h.pad for h in analysis.hits))
        left, top = 74.0, 20.0
        high = (self.height() - top - 20) / len(pads)
        start = analysis.hits[0].at_ms
        span = min(SHOWN_MS, max(1.0, analysis.hits[-1].at_ms - start) * 1.02)
        self._legend(painter, left)
        for n, pad in enumerate(pads):
            base = top + (n + 1) * high - 3
            text(
                painter,
                QRectF(4, base - high, left - 10, high),
                pad,
                colours.ink,
                font(colours.text_px - 1),
            )
            painter.setPen(QPen(QColor(colours.line), 1))
            painter.drawLine(QPointF(left, base), QPointF(self.width() - 8, base))
        for hit, kind in zip(analysis.hits, analysis.kinds, strict=True):
            if hit.at_ms - start > span:
                break
            x = left + (hit.at_ms - start) / span * (self.width() - left - 12)
            base = top + (pads.index(hit.pad) + 1) * high - 3
            _stroke(painter, QPointF(x, base), hit.peak / 127 * (high - 8), kind)
        seconds = say(
            "{span:.1f} s of {at_ms:.1f} s",
            span=span / 1000,
            at_ms=(analysis.hits[-1].at_ms - start) / 1000,
        )
        area = QRectF(left, self.height() - 18, self.width() - left - 10, 16)
        text(
            painter,
            area,
            seconds,
            colours.muted,
            font(colours.text_px - 3),
            Qt.AlignmentFlag.AlignRight,
        )
        painter.end()

    def _legend(self, painter: QPainter, left: float) -> None:
        colours, x = THEME.colours, left
        for kind, words in (
            ("true", say("stroke")),
            ("double", say("double trigger")),
            ("crosstalk", say("crosstalk")),
        ):
            _stroke(painter, QPointF(x + 4, 17), 11, kind)
            text(
                painter, QRectF(x + 12, 4, 120, 16), words, colours.muted, font(colours.text_px - 3)
            )
            x += 118


def _stroke(painter: QPainter, foot: QPointF, tall: float, kind: str) -> None:
    colours = THEME.colours
    colour = QColor({"true": colours.action, "double": colours.fault}.get(kind, colours.caution))
    painter.setPen(QPen(colour, 2.4 if kind == "true" else 1.6))
    painter.drawLine(foot, foot - QPointF(0, tall))
    head = foot - QPointF(0, tall)
    if kind == "double":
        painter.drawLine(head + QPointF(-3, -3), head + QPointF(3, 3))
        painter.drawLine(head + QPointF(-3, 3), head + QPointF(3, -3))
    elif kind == "crosstalk":
        painter.setBrush(QColor(colours.paper))
        painter.drawEllipse(head, 2.8, 2.8)


class SweepPlot(Drawn):
    """How many true and false hits each value of one setting keeps; the proposed value marked."""

    def __init__(
        self,
        title: str,
        unit: str,
        values: tuple[float, ...],
        change: Callable[[Settings, float], Settings],
        read: Callable[[Settings], float],
    ) -> None:
        super().__init__()
        self._title, self._unit, self._values = title, unit, values
        self._change, self._read = change, read
        self._rows: list[tuple[float, StrikesKept]] = []
        self._at = 0.0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(title)

    def sizeHint(self) -> QSize:
        """Half as wide as the time plot."""
        return grown_size(300, 150)

    def show_found(self, analysis: Analysis) -> None:
        """Work the values out for a recording."""
        self._at = self._read(analysis.proposed)
        self._rows = sweep(analysis, self._values, self._change)
        best = min(self._rows, key=lambda r: abs(r[0] - self._at))[1]
        self.setAccessibleDescription(
            say(
                "{title} {at:g} {unit} keeps {true} of {all_true} strokes and {false} of "
                "{all_false} "
                "false hits.",
                title=self._title,
                at=self._at,
                unit=self._unit,
                true=best.true,
                all_true=best.all_true,
                false=best.false,
                all_false=best.all_false,
            )
        )
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Two curves from 0 to all, and the proposed value."""
        painter, colours = self.painter(), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(42, 26, self.width() - 54, self.height() - 48)
        head = say(
            "{title}: {at:g} {unit}", title=self._title, at=self._at, unit=self._unit
        ).strip()
        text(
            painter,
            QRectF(8, 2, self.width() - 12, 20),
            head,
            colours.ink,
            bold(colours.text_px - 1),
        )
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(QColor(colours.raised))
        painter.drawRect(area)
        for share, words in ((0.0, "0 %"), (1.0, "100 %")):
            y = area.bottom() - share * area.height()
            text(
                painter,
                QRectF(2, y - 8, 38, 16),
                words,
                colours.muted,
                font(colours.text_px - 4),
                Qt.AlignmentFlag.AlignRight,
            )
        if not self._rows:
            painter.end()
            return
        low, high = self._values[0], self._values[-1]

        def x(value: float) -> float:
            return area.left() + (value - low) / (high - low) * area.width()

        painter.setPen(QPen(mixed(colours.action, colours.paper, 0.6), 1.6, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(x(self._at), area.top()), QPointF(x(self._at), area.bottom()))
        self._curve(painter, area, x, colours.good, lambda k: k.true / max(1, k.all_true))
        self._curve(painter, area, x, colours.fault, lambda k: k.false / max(1, k.all_false), True)
        foot = QRectF(area.left(), area.bottom() + 2, area.width(), 18)
        text(painter, foot, number(low, "g"), colours.muted, font(colours.text_px - 4))
        text(
            painter,
            foot,
            say("{high:g} {unit}", high=high, unit=self._unit),
            colours.muted,
            font(colours.text_px - 4),
            Qt.AlignmentFlag.AlignRight,
        )
        middle = Qt.AlignmentFlag.AlignHCenter
        text(
            painter,
            foot,
            say("— strokes  - - false"),
            colours.muted,
            font(colours.text_px - 4),
            middle,
        )
        painter.end()

    def _curve(
        self,
        painter: QPainter,
        area: QRectF,
        x: Callable[[float], float],
        colour: str,
        share: Callable[[StrikesKept], float],
        dashed: bool = False,
    ) -> None:
        path = QPainterPath()
        for n, (value, kept) in enumerate(self._rows):
            point = QPointF(x(value), area.bottom() - share(kept) * area.height())
            path.lineTo(point) if n else path.moveTo(point)
        pen = QPen(QColor(colour), 2.2)
        if dashed:
            pen.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
