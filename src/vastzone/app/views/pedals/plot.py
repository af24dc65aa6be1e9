"""The response of one control: its targets against travel, with the live value as a dot."""

from collections import deque

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, grown_size
from vastzone.app.frame.sized import bound
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import paint_tag, text
from vastzone.core.plan.model.pedals import Pedal, PedalJack
from vastzone.core.response.sweep import (
    bits_of,
    end_values,
    exact_value,
    sent_value,
    slewed,
    steps,
    target_value,
)
from vastzone.core.response.together import together
from vastzone.core.say import say
from vastzone.desk.moved_controls import MovedTarget, Worked

LEFT, RIGHT, TOP, BOTTOM = 17.0, 156.0, 26.0, 20.0
SHOWN_MS, GRAIN_MS = 5000.0, 10.0
COLOURS = (3, 0, 6, 4, 1)
POINTS = 127
LEVEL_DB = 24.0


def _shade(n: int) -> QColor:
    return THEME.colours.part(COLOURS[n % len(COLOURS)])


class ResponsePlot(Drawn):
    """Curves of every target that a control moves, in the order in which they are moved."""

    def __init__(self) -> None:
        super().__init__()
        self.shown: Worked | None = None
        self.value = 0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("Response: travel against what is moved"))

    def sizeHint(self) -> QSize:
        """Wide."""
        return grown_size(460, 150)

    def show_control(self, shown: Worked | None, value: int) -> None:
        """Plot another control, or the same at another value."""
        self.shown, self.value = shown, value
        self.update()

    @property
    def area(self) -> QRectF:
        """Where the curves are drawn."""
        return QRectF(self.rect()).adjusted(LEFT, TOP, -RIGHT, -BOTTOM)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Axes, curves, dots, legend."""
        painter, colours = self.painter(), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area, shown = self.area, self.shown
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(QColor(colours.raised))
        painter.drawRoundedRect(area, 4, 4)
        if shown is None:
            text(
                painter,
                area,
                say("Choose a control"),
                colours.muted,
                font(colours.text_px),
                Qt.AlignmentFlag.AlignHCenter,
            )
            return
        head = QRectF(area.left(), 4, area.width() + RIGHT, 22)
        text(
            painter,
            head,
            say("{control} of {owner}", control=shown.control.name, owner=shown.owner.name),
            colours.ink,
            bold(colours.text_px),
        )
        below = QRectF(area.left(), area.bottom() + 4, area.width(), 18)
        small = font(colours.text_px - 3)
        text(painter, below, say("at rest"), colours.muted, small)
        text(painter, below, say("full"), colours.muted, small, Qt.AlignmentFlag.AlignRight)
        if not shown.moves:
            text(
                painter,
                area,
                say("It moves no target here."),
                colours.muted,
                font(colours.text_px - 1),
                Qt.AlignmentFlag.AlignHCenter,
            )
        for n, moved in enumerate(shown.moves):
            self._curve(painter, area, moved, n)
            self._told(painter, area, moved, n)
        self._together(painter, area, shown)
        if shown.jack is not None and area.height() > 110:
            paint_plug(painter, QRectF(area.right() + 12, area.bottom() - 34, 140, 40), shown)
        painter.end()

    def _together(self, painter: QPainter, area: QRectF, worked_control: Worked) -> None:
        """The level that everything moved comes to, over 24 dB, dotted."""
        found = together([(move.send, move.target) for move in worked_control.moves])
        if found is None or len(worked_control.moves) < 2:
            return
        colours, top = THEME.colours, max(found.levels)
        line = QPolygonF()
        for x, level in zip(found.places, found.levels, strict=True):
            share = max(0.0, 1 - (top - level) / LEVEL_DB)
            line.append(
                QPointF(
                    area.left() + x * area.width(),
                    area.bottom() - (0.04 + 0.92 * share) * area.height(),
                )
            )
        painter.setPen(QPen(QColor(colours.ink), 2, Qt.PenStyle.DotLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(line)
        words = say("··· level together, {spread_db:.1f} dB apart", spread_db=found.spread_db)
        above = QRectF(area.left() + 8, area.top() + 4, area.width() - 16, 16)
        text(
            painter,
            above,
            words,
            colours.ink,
            font(colours.text_px - 3),
            Qt.AlignmentFlag.AlignHCenter,
        )

    def _curve(self, painter: QPainter, area: QRectF, moved: MovedTarget, n: int) -> None:
        target, colour = moved.target, _shade(n)
        line = QPolygonF()
        for k in range(POINTS + 1):
            line.append(self._point(area, moved, k / POINTS))
        style = Qt.PenStyle.SolidLine if not n % 2 else Qt.PenStyle.DashLine
        painter.setPen(QPen(colour, 2.4, style))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(line)
        painter.setPen(QPen(QColor(THEME.colours.raised), 2))
        painter.setBrush(colour)
        painter.drawEllipse(self._point(area, moved, self.value / 127), 6.5, 6.5)
        if not target.sweeps:
            painter.setPen(QPen(QColor(THEME.colours.muted), 1, Qt.PenStyle.DotLine))
            half = area.left() + area.width() * 64 / 127
            painter.drawLine(QPointF(half, area.top()), QPointF(half, area.bottom()))

    @staticmethod
    def _point(area: QRectF, moved: MovedTarget, x: float) -> QPointF:
        wide = bits_of(moved.send) == 14
        share = (exact_value if wide else sent_value)(moved.send, x) / 127
        if not moved.target.sweeps:
            share = float(share >= 0.5)
        return QPointF(area.left() + x * area.width(), area.bottom() - share * area.height())

    def _told(self, painter: QPainter, area: QRectF, moved: MovedTarget, n: int) -> None:
        """The target’s tag, its ends and its value now, in its own unit."""
        colours, target = THEME.colours, moved.target
        close = self.shown is not None and len(self.shown.moves) * 66 > area.height() + BOTTOM
        x, y = area.right() + 12, area.top() + 4 + n * (42 if close else 66)
        paint_tag(painter, QRectF(x, y, 26, 17), target.name[:2].upper(), COLOURS[n % len(COLOURS)])
        room = self.width() - x - 4
        text(
            painter,
            QRectF(x + 32, y, room - 32, 18),
            target.name,
            colours.ink,
            bold(colours.text_px - 1),
        )
        low, high = end_values(moved.send, target)
        now = target_value(target, sent_value(moved.send, self.value / 127))
        unit = f" {target.unit}" if target.unit else ""
        small = font(colours.text_px - 2)
        text(
            painter,
            QRectF(x, y + 19, room, 17),
            say("{now:.4g}{unit} now", now=now, unit=unit),
            colours.ink,
            small,
        )
        ends = say("{low:.4g} to {high:.4g}{unit}", low=low, high=high, unit=unit)
        if target.sweeps:
            ends += say(
                ", {values} steps", values=steps(moved.send, target, bits_of(moved.send)).values
            )
        if not close:
            text(painter, QRectF(x, y + 36, room, 17), ends, colours.muted, small)


class MotionStrip(Drawn):
    """The last five seconds of the chosen control, step by step."""

    def __init__(self) -> None:
        super().__init__()
        self.samples: deque[tuple[float, int]] = deque(maxlen=4000)
        self.slew: tuple[float, float] | None = None
        self.now = 0.0
        bound(self, "FixedHeight", 62)
        self.setAccessibleName(say("Motion over the last five seconds"))

    def clear(self) -> None:
        """Another control."""
        self.samples.clear()
        self.update()

    def add(self, at_ms: float, value: int) -> None:
        """A new value."""
        self.samples.append((at_ms, value))
        self.advance(at_ms)

    def advance(self, now_ms: float) -> None:
        """Let time go on."""
        self.now = now_ms
        self.update()

    @property
    def moving(self) -> bool:
        """Whether something of it still shows."""
        return bool(self.samples) and self.now - self.samples[-1][0] < SHOWN_MS

    def paintEvent(self, event: QPaintEvent) -> None:
        """Steps from left to right, now at the right end."""
        painter, colours = self.painter(), THEME.colours
        area = QRectF(self.rect()).adjusted(LEFT, 4, -RIGHT, -16)
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(QColor(colours.raised))
        painter.drawRoundedRect(area, 4, 4)
        small = font(colours.text_px - 3)
        below = QRectF(area.left(), area.bottom() + 1, area.width(), 14)
        text(painter, below, say("5 s ago"), colours.muted, small)
        text(painter, below, say("now"), colours.muted, small, Qt.AlignmentFlag.AlignRight)
        line = QPolygonF()
        last: float | None = None
        for at, value in self.samples:
            share = 1 - (self.now - at) / SHOWN_MS
            y = area.bottom() - value / 127 * area.height()
            x = area.left() + max(0.0, share) * area.width()
            if last is not None:
                line.append(QPointF(x, last))
            line.append(QPointF(x, y))
            last = y
        if last is not None:
            line.append(QPointF(area.right(), last))
        painter.setPen(QPen(QColor(colours.action), 1.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(line)
        self._followed(painter, area)
        painter.end()

    def _followed(self, painter: QPainter, area: QRectF) -> None:
        """What a target with rise and fall times makes of it, dashed."""
        if self.slew is None or not self.samples:
            return
        start, times, values = self.samples[0][0], [], []
        samples = list(self.samples)
        at, n = start, 0
        while at <= self.now:
            while n + 1 < len(samples) and samples[n + 1][0] <= at:
                n += 1
            times.append(at)
            values.append(float(samples[n][1]))
            at += GRAIN_MS
        line = QPolygonF()
        for when, value in zip(times, slewed(times, values, *self.slew), strict=True):
            share = 1 - (self.now - when) / SHOWN_MS
            if share >= 0:
                line.append(
                    QPointF(
                        area.left() + share * area.width(),
                        area.bottom() - value / 127 * area.height(),
                    )
                )
        painter.setPen(QPen(QColor(THEME.colours.caution), 2, Qt.PenStyle.DashLine))
        painter.drawPolyline(line)


def paint_plug(painter: QPainter, rect: QRectF, worked_control: Worked) -> None:
    """The plug in the jack: tip, ring and sleeve, the wiper or the contact told below."""
    colours, pedal, jack = THEME.colours, worked_control.pedal, worked_control.jack
    if jack is None:
        return
    three = pedal is None or pedal.kind in ("continuous", "dual switch", "triple", "voltage")
    swept = pedal is not None and pedal.kind == "continuous"
    x = rect.left()
    for name, wide in THREE_POLES if three else TWO_POLES:
        pole = QRectF(x, rect.top(), wide - 2, 12)
        marked = swept and pedal is not None and name == pedal.wiper
        painter.setPen(QPen(QColor(colours.ink if pedal else colours.muted), 1.2))
        painter.setBrush(QColor(colours.action if marked else colours.sunken))
        curve = 6 if name == "tip" else 3
        painter.drawRoundedRect(pole, curve, curve)
        x += wide
    small, met = font(colours.text_px - 3), worked_control.meets
    shade = (
        colours.muted
        if met is None
        else {"works": colours.good, "half": colours.caution}.get(met.works, colours.fault)
    )
    line = QRectF(rect.left(), rect.top() + 13, rect.width(), 14)
    text(painter, line, _plug_words(pedal), shade, small)
    text(painter, line.translated(0, 13), _jack_words(jack), colours.muted, small)


THREE_POLES = (("sleeve", 34.0), ("ring", 16.0), ("tip", 18.0))
TWO_POLES = (("sleeve", 50.0), ("tip", 18.0))
"""The poles of a plug with their lengths in pixels."""


def _plug_words(pedal: Pedal | None) -> str:
    """What is in a jack."""
    if pedal is None:
        return say("no plug")
    if pedal.kind == "continuous":
        return say("wiper on {wiper}", wiper=pedal.wiper)
    return say("{contact} at rest", contact=pedal.contact)


def _jack_words(jack: PedalJack) -> str:
    """What a jack expects."""
    if "continuous" in jack.accepts:
        return say("wants wiper on {wiper}", wiper=jack.wiper)
    return say("expects {sense}", sense=jack.sense)
