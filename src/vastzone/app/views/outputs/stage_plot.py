"""The stage from above: devices that are dragged to where they stand, with their cables."""

from functools import partial

from PySide6.QtCore import QEvent, QPointF, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, with_words
from vastzone.app.frame.sized import bound
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element, Role
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.pictures.stage_plot import STEP, size_of, snapped
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say
from vastzone.desk.session import Desk

TRAY, FRONT = 44, 24
PULLED = 3.0
"""Pixels after which a device that is held is moved."""
ARROWS = {
    Qt.Key.Key_Left: (-STEP, 0.0),
    Qt.Key.Key_Right: (STEP, 0.0),
    Qt.Key.Key_Up: (0.0, STEP),
    Qt.Key.Key_Down: (0.0, -STEP),
}


class StagePlot(Drawn):
    """Metres from the front left; ``moved`` tells where a device was put."""

    moved = Signal(str, float, float)

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._held: Device | None = None
        self._point, self._grip, self._pressed = QPointF(), QPointF(), QPointF()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        bound(self, "MinimumHeight", 220)
        self.setAccessibleName(say("Stage plot"))

    @property
    def _plan(self) -> Plan:
        return self._desk.plan

    @property
    def _unplaced(self) -> list[Device]:
        return [device for device in self._plan.devices if device.place is None]

    def _stage(self) -> QRectF:
        """The stage, as large as it fits."""
        top = self._top
        scale = self._scale()
        wide, deep = size_of(self._plan)
        return QRectF(8, top, wide * scale, deep * scale)

    @property
    def _top(self) -> int:
        return TRAY if self._unplaced else 6

    def _scale(self) -> float:
        wide, deep = size_of(self._plan)
        room = self.height() - self._top - FRONT
        return max(8.0, min((self.width() - 16) / wide, room / deep))

    def _at(self, x: float, y: float) -> QPointF:
        stage, scale = self._stage(), self._scale()
        return QPointF(stage.left() + x * scale, stage.bottom() - y * scale)

    def rect_of(self, device: Device) -> QRectF:
        """Where a device is drawn: on the stage, or in the tray above it."""
        if self._held is not None and self._held.id == device.id:
            return QRectF(self._point - self._grip, self._size(device))
        if device.place is not None:
            rect = QRectF(QPointF(), self._size(device))
            rect.moveBottomLeft(self._at(device.place.x, device.place.y))
            # A name may need more room than there is up to the edge.
            rect.moveRight(min(rect.right(), self.width() - 2.0))
            return rect
        place = [one.id for one in self._unplaced].index(device.id)
        wide = min(120.0, (self.width() - 16) / max(1, len(self._unplaced)))
        return QRectF(8 + place * wide, 6, wide - 6, TRAY - 14)

    def _size(self, device: Device) -> QSizeF:
        scale = self._scale()
        wide = device.size.wide / 1000 if device.size is not None else 0.9
        deep = device.size.deep / 1000 if device.size is not None else 0.35
        metrics = QFontMetricsF(bold(THEME.colours.text_px - 2))
        named = min(self.width() / 5, 120.0, metrics.horizontalAdvance(device.name) + 12)
        return QSizeF(max(named, wide * scale), max(24.0, deep * scale))

    def paintEvent(self, event: QPaintEvent) -> None:
        """A grid of metres, the cables along the floor, the devices over them."""
        colours, painter = THEME.colours, self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        stage = self._stage()
        painter.setPen(QPen(QColor(colours.line), 1.2))
        painter.setBrush(QColor(colours.raised))
        painter.drawRect(stage)
        self._paint_grid(painter, stage)
        self._paint_cables(painter)
        for device in self._plan.devices:
            self._paint_device(painter, device)
        self._paint_names(painter)
        face = font(colours.text_px - 2)
        middle = Qt.AlignmentFlag.AlignHCenter
        text(painter, self._front(), say("front"), colours.muted, face, middle)
        painter.end()

    def _front(self) -> QRectF:
        """The line below the stage that says where its front is."""
        stage = self._stage()
        return QRectF(stage.left(), stage.bottom() + 3, stage.width(), FRONT - 4)

    def elements(self) -> list[Element]:
        """Every device with its place on the stage."""
        told = []
        for device in self._plan.devices:
            place = device.place
            where = (
                say("{x:.1f} m across, {y:.1f} m deep", x=place.x, y=place.y)
                if place
                else say("not placed")
            )
            chosen = device_of(self._desk.selection) == device.id
            press = partial(self._desk.select, device.id)
            name, rect = device.name, self.rect_of(device)
            told.append(
                Element(device.id, name, rect, Role.ListItem, where, chosen=chosen, press=press)
            )
        return with_words(told, self.said)

    def _paint_grid(self, painter: QPainter, stage: QRectF) -> None:
        scale = self._scale()
        painter.setPen(QPen(mixed(THEME.colours.line, THEME.colours.raised, 0.5), 0.8))
        x = stage.left() + scale
        while x < stage.right():
            painter.drawLine(QPointF(x, stage.top()), QPointF(x, stage.bottom()))
            x += scale
        y = stage.bottom() - scale
        while y > stage.top():
            painter.drawLine(QPointF(stage.left(), y), QPointF(stage.right(), y))
            y -= scale

    def _paint_cables(self, painter: QPainter) -> None:
        """Cables at right angles along the floor; those for sound with dots."""
        colours, plan = THEME.colours, self._plan
        painter.setBrush(Qt.BrushStyle.NoBrush)
        pairs = dict.fromkeys((device_of(c.source), device_of(c.dest)) for c in plan.cables)
        sounds = dict.fromkeys((device_of(c.source), device_of(c.dest)) for c in plan.audio_cables)
        for ends, dotted in ((pairs, False), (sounds, True)):
            pen = QPen(mixed(colours.ink, colours.raised, 0.55), 1.6)
            if dotted:
                pen.setStyle(Qt.PenStyle.DashDotLine)
            painter.setPen(pen)
            for one, other in ends:
                a = self.rect_of(lookup.device(plan, one)).center()
                b = self.rect_of(lookup.device(plan, other)).center()
                corner = QPointF(b.x(), a.y())
                painter.drawLine(a, corner)
                painter.drawLine(corner, b)

    def _paint_device(self, painter: QPainter, device: Device) -> None:
        colours, rect = THEME.colours, self.rect_of(device)
        chosen = device_of(self._desk.selection) == device.id
        painter.setPen(
            QPen(QColor(colours.action if chosen else colours.ink), 2.4 if chosen else 1)
        )
        painter.setBrush(QColor(colours.panel))
        painter.drawRoundedRect(rect, 4, 4)

    def _paint_names(self, painter: QPainter) -> None:
        """Each name in its device, or where others lie over it as near as there is room."""
        colours, taken = THEME.colours, [self._front()]
        face = bold(colours.text_px - 2)
        metrics = QFontMetricsF(face)
        for device in self._plan.devices:
            inside = self.rect_of(device).adjusted(5, 1, -5, -1)
            wide = min(inside.width(), metrics.horizontalAdvance(device.name) + 2)
            place = QRectF(0, 0, wide, metrics.height())
            place.moveCenter(inside.center())
            place = free_place(place, taken, QRectF(self.rect()))
            taken.append(place)
            if not inside.contains(place.center()):
                painter.fillRect(place, QColor(colours.raised))
            text(painter, place, device.name, colours.ink, face, Qt.AlignmentFlag.AlignHCenter)

    def _under(self, point: QPointF) -> Device | None:
        for device in reversed(self._plan.devices):
            if self.rect_of(device).contains(point):
                return device
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a device."""
        device = self._under(event.position())
        self._desk.select(device.id if device is not None else "")
        if device is not None:
            self._grip = event.position() - self.rect_of(device).topLeft()
            self._point = self._pressed = event.position()
            self._held = device
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Pull it along."""
        self._point = event.position()
        if self._held is not None:
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Put it down."""
        held, self._held = self._held, None
        moved = (event.position() - self._pressed).manhattanLength()
        if held is None or moved < PULLED:
            self.update()
            return
        stage, scale = self._stage(), self._scale()
        corner = event.position() - self._grip + QPointF(0, self._size(held).height())
        x = snapped((corner.x() - stage.left()) / scale)
        y = snapped((stage.bottom() - corner.y()) / scale)
        place = held.place
        if place is None or (place.x, place.y) != (x, y):
            self.moved.emit(held.id, x, y)
        self.update()

    def heard(self, event: QEvent) -> bool:
        """Keep the arrows from the window's shortcuts."""
        return keeps(event, list(ARROWS)) or super().heard(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move the selected device by a quarter of a metre."""
        step = ARROWS.get(Qt.Key(event.key()))
        device = lookup.find(self._plan.devices, device_of(self._desk.selection))
        if step is None or device is None:
            super().keyPressEvent(event)
            return
        at = (device.place.x, device.place.y) if device.place is not None else (0.5, 0.5)
        self.moved.emit(device.id, max(0.0, at[0] + step[0]), max(0.0, at[1] + step[1]))


def free_place(wished: QRectF, taken: list[QRectF], room: QRectF) -> QRectF:
    """The place nearest to the wished one, line by line, that nothing taken lies over."""
    left = max(room.left(), min(wished.left(), room.right() - wished.width()))
    wished = QRectF(left, wished.top(), wished.width(), wished.height())
    steps = round(room.height() / wished.height()) + 1
    for step in range(steps):
        for sign in (1, -1):
            place = wished.translated(0, sign * step * wished.height() / 2)
            if room.contains(place) and not any(place.intersects(other) for other in taken):
                return place
    return wished
