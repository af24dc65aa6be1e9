"""Pedals, knobs, levers and switches as they stand, device by device, to be worked."""

from collections.abc import Iterator
from typing import NamedTuple

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QToolTip

from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.drawn import with_words
from vastzone.app.frame.sheets_pedals import PEDAL
from vastzone.app.frame.sized import bound
from vastzone.app.holding import ONCE_MS, Holding
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.app.views.pedals.elements import control, loose
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.pedals import plug_in
from vastzone.core.plan.model.pedals import Pedal, served
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.core.text import listed
from vastzone.desk.moved_controls import Worked, worked
from vastzone.desk.session import Desk

WIDE, HIGH, GAP, HEAD = 161.0, 66.0, 4.0, 20.0
STEP = 4
MEETS = {"works": "●", "half": "◐", "not": "–", "never": "✕"}
WORKS = {
    "works": say("Works as wanted"),
    "half": say("Half"),
    "not": say("Not at all"),
    "never": say("Never"),
}


class ControlTile(NamedTuple):
    """A control and where it stands."""

    held: Worked
    rect: QRectF


class PedalsCanvas(Holding):
    """Drag up and down, turn the wheel or use the arrow keys to move; press a switch."""

    moved = Signal(str, int)

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._carried: Pedal | None = None
        self._at = QPointF()
        self.tiles: list[ControlTile] = []
        self.loose: list[tuple[Pedal, QRectF]] = []
        self.heads: list[tuple[str, QRectF]] = []
        self.values: dict[str, int] = {}
        self._drag: tuple[str, float, int] | None = None
        self._pressed: Worked | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(say("Pedals, knobs and levers"))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self.rebuild()

    def rebuild(self) -> None:
        """Lay out anew: one device after the other in rows, each under its heading."""
        self.tiles, self.heads, self.loose = [], [], []
        places = _places(max(WIDE + 16, self.width() - 32))
        device = ""
        y = 0.0
        for worked_control in worked(self._desk):
            x, y = next(places)
            if worked_control.owner.id != device:
                device = worked_control.owner.id
                self.heads.append((worked_control.owner.name, QRectF(18 + x, y, WIDE, HEAD)))
            self.tiles.append(ControlTile(worked_control, QRectF(16 + x, y + HEAD, WIDE, HIGH)))
        plugged = {plug.pedal for plug in self._desk.plan.pedal_plugs}
        for pedal in self._desk.plan.pedals:
            if pedal.id not in plugged:
                x, y = next(places)
                if not self.loose:
                    self.heads.append((say("In no jack"), QRectF(18 + x, y, WIDE, HEAD)))
                self.loose.append((pedal, QRectF(16 + x, y + HEAD, WIDE, HIGH)))
        tall = round(y + HEAD + HIGH + 8) if self.tiles or self.loose else 40
        if self.height() != tall:
            bound(self, "FixedHeight", tall)
        self.update()

    @property
    def chosen(self) -> Worked | None:
        """The control that is selected."""
        here = (tile.held for tile in self.tiles if tile.held.ref == self._desk.selection)
        return next(here, None)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Every tile."""
        painter, colours = self.painter(), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(colours.paper))
        for name, rect in self.heads:
            text(painter, rect, name, colours.muted, bold(colours.text_px - 1))
        for tile in self.tiles:
            self._paint(painter, tile)
        for pedal, rect in self.loose:
            here = self._desk.selection == f"{PEDAL}{pedal.id}"
            style = Qt.PenStyle.SolidLine if here else Qt.PenStyle.DashLine
            painter.setPen(QPen(QColor(colours.action if here else colours.muted), 1.4, style))
            painter.setBrush(QColor(colours.panel))
            painter.drawRoundedRect(rect, 10, 10)
            inner = QRectF(rect.left() + 12, rect.top() + 9, rect.width() - 20, 19)
            text(painter, inner, pedal.name, colours.ink, bold(colours.text_px - 2))
            small = font(colours.text_px - 2)
            text(painter, inner.translated(0, 19), say(pedal.kind), colours.muted, small)
            wanted = listed(say(wish.function) for wish in pedal.wishes)
            text(
                painter,
                inner.translated(0, 37),
                say("for {wanted}", wanted=say(wanted)),
                colours.muted,
                small,
            )
        if self._carried is not None:
            self._paint_carried(painter, self._carried)
        painter.end()

    def elements(self) -> list[Element]:
        """Controls, and pedals that are in no jack."""
        told = []
        for tile in self.tiles:
            value = self.value_of(tile.held)
            told.append(control(self._desk, tile.held, tile.rect, value, self._once))
        return with_words([*told, *loose(self._desk, self.loose, PEDAL)], self.said)

    def _once(self, held: Worked) -> None:
        """Choose a control; press a switch for a moment."""
        self._desk.select(held.ref)
        if held.is_switch:
            self._press(held)
            QTimer.singleShot(ONCE_MS, self.let_go)

    def _paint_carried(self, painter: QPainter, pedal: Pedal) -> None:
        """What a carried pedal would do in each jack, and the pedal under the pointer."""
        colours = THEME.colours
        shades = {"works": colours.good, "half": colours.caution}
        over = self.tile_at(self._at)
        for tile in self.tiles:
            if tile.held.jack is not None:
                met = served(pedal, tile.held.jack)
                painter.setPen(QPen(QColor(shades.get(met.works, colours.fault)), 3))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRoundedRect(tile.rect, 10, 10)
        words = pedal.name
        if over is not None and over.held.jack is not None:
            met = served(pedal, over.held.jack)
            words = (
                say("{works}: {feel}", works=WORKS[met.works], feel=met.feel)
                if met.feel
                else say("{works}{feel}", works=WORKS[met.works], feel=met.feel)
            )
        wide = max(150.0, min(self.width() - 20.0, 7.2 * len(words) + 20))
        left = min(self._at.x() + 8, self.width() - wide - 8)
        box = QRectF(max(4.0, left), max(0.0, self._at.y() - 30), wide, 26)
        painter.setPen(QPen(QColor(colours.action), 1.6))
        painter.setBrush(QColor(colours.panel))
        painter.drawRoundedRect(box, 6, 6)
        text(painter, box.adjusted(8, 3, -8, -3), words, colours.ink, font(colours.text_px - 2))

    def _paint(self, painter: QPainter, tile: ControlTile) -> None:
        colours, worked_control, rect = THEME.colours, tile.held, tile.rect
        here = worked_control.ref == self._desk.selection
        painter.setPen(QPen(QColor(colours.action if here else colours.line), 2.4 if here else 1.2))
        painter.setBrush(QColor(colours.raised))
        painter.drawRoundedRect(rect, 10, 10)
        value = self.value_of(worked_control)
        face = QRectF(rect.left() + 9, rect.top() + 13, 32, 44)
        colour = (
            QColor(colours.action)
            if worked_control.moves
            else mixed(colours.muted, colours.raised, 0.6)
        )
        _paint_face(painter, face, worked_control, value, colour)
        inner = QRectF(face.right() + 8, rect.top() + 7, rect.right() - face.right() - 16, 19)
        shown = (
            (say("on") if value >= 64 else say("off")) if worked_control.is_switch else str(value)
        )
        name = inner.adjusted(0, 0, -28, 0)
        text(painter, name, worked_control.name, colours.ink, bold(colours.text_px - 2))
        text(
            painter,
            inner,
            shown,
            colours.ink,
            bold(colours.text_px - 1),
            Qt.AlignmentFlag.AlignRight,
        )
        self._words(painter, worked_control, inner.translated(0, 19))

    @staticmethod
    def _words(painter: QPainter, worked_control: Worked, line: QRectF) -> None:
        """What it moves, the pedal that hangs on it."""
        colours, small = THEME.colours, font(THEME.colours.text_px - 2)
        names = ", ".join(move.target.name for move in worked_control.moves)
        text(painter, line, names or say("moves nothing"), colours.muted, small)
        if worked_control.jack is None:
            return
        met = worked_control.meets
        shade = (
            {"works": colours.good, "half": colours.caution}.get(met.works, colours.fault)
            if met
            else colours.muted
        )
        name = worked_control.pedal.name if worked_control.pedal else say("no pedal")
        words = f"{MEETS[met.works]} {name}" if met else name
        text(painter, line.translated(0, 18), words, shade, small)

    def tile_at(self, point: QPointF) -> ControlTile | None:
        """The tile under a point."""
        return next((tile for tile in self.tiles if tile.rect.contains(point)), None)

    def value_of(self, worked_control: Worked) -> int:
        """Where a control stands, 0–127."""
        return self.values.get(worked_control.ref, worked_control.rest)

    def set_value(self, worked_control: Worked, value: int) -> None:
        """Move a control to a value 0–127: it sends, and is selected everywhere."""
        value = max(0, min(127, value))
        if self.value_of(worked_control) != value:
            self.values[worked_control.ref] = value
            key = (worked_control.ref, worked_control.bank)
            self._desk.stage.move(key, value, now_ms())
            self.moved.emit(worked_control.ref, value)
            self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose, press a switch, take hold of the rest."""
        for pedal, rect in self.loose:
            if rect.contains(event.position()):
                self._desk.select(f"{PEDAL}{pedal.id}")
                self._carried, self._at = pedal, event.position()
        tile = self.tile_at(event.position())
        if tile is None or event.button() is not Qt.MouseButton.LeftButton:
            return
        self._desk.select(tile.held.ref)
        value = self.value_of(tile.held)
        self._drag = (tile.held.ref, event.position().y(), value)
        if tile.held.is_switch:
            self._press(tile.held)
        self.update()

    def _press(self, worked_control: Worked) -> None:
        """Press a switch down; it comes up again whatever is chosen by then."""
        self.let_go()
        self._pressed = worked_control
        self.set_value(worked_control, 127)

    def let_go(self) -> None:
        """Let the switch that is down come up."""
        pressed, self._pressed = self._pressed, None
        if pressed is not None:
            self.set_value(pressed, 0)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag up for more; a pedal that is in no jack is carried along."""
        chosen = self.chosen
        if self._carried is not None:
            self._at = event.position()
            self.update()
            return
        if self._drag is not None and chosen is not None and not chosen.is_switch:
            _, y, value = self._drag
            self.set_value(chosen, value + round(y - event.position().y()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let a switch or a sprung wheel go, a carried pedal into the jack below it."""
        chosen = self.chosen
        if self._drag is not None and chosen is not None and chosen.springs:
            self.set_value(chosen, chosen.rest)
        self._drag = None
        pedal, self._carried = self._carried, None
        if pedal is not None:
            tile = self.tile_at(event.position())
            if tile is not None and tile.held.jack is not None:
                self._plug(pedal, tile.held)
            self.update()
        self.let_go()

    def _plug(self, pedal: Pedal, worked_control: Worked) -> None:
        if worked_control.jack is None:
            return
        try:
            self._perform(
                plug_in(
                    self._desk.plan,
                    pedal.id,
                    ref_to(worked_control.owner.id, worked_control.jack.id),
                )
            )
        except EditError as error:
            QToolTip.showText(self.mapToGlobal(self._at.toPoint()), str(error), self)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Turn the control under the pointer; elsewhere the page scrolls."""
        tile = self.tile_at(event.position())
        if tile is None or tile.held.is_switch or tile.held.ref != self._desk.selection:
            event.ignore()
            return
        turn = event.angleDelta().y() / 120
        self.set_value(tile.held, self.value_of(tile.held) + round(STEP * turn))

    def heard(self, event: QEvent) -> bool:
        """Keep Space from the window's shortcuts, and Escape while a pedal is carried."""
        mine = [Qt.Key.Key_Space]
        mine += [Qt.Key.Key_Escape] if self._carried is not None else []
        return keeps(event, mine) or super().heard(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right choose, up and down move, Space presses.

        Enter takes a pedal that is in no jack, and puts it into the jack of what is chosen then.
        """
        key, chosen = Qt.Key(event.key()), self.chosen
        along = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(key)
        up = {
            Qt.Key.Key_Up: STEP,
            Qt.Key.Key_Down: -STEP,
            Qt.Key.Key_PageUp: 16,
            Qt.Key.Key_PageDown: -16,
            Qt.Key.Key_Home: -127,
            Qt.Key.Key_End: 127,
        }.get(key)
        if along and self.tiles:
            self._go(along)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._take_or_plug()
        elif key is Qt.Key.Key_Escape and self._carried is not None:
            self._carried = None
            self.update()
        elif up and chosen is not None:
            self.set_value(chosen, self.value_of(chosen) + up)
        elif key == Qt.Key.Key_Space and chosen is not None:
            if not event.isAutoRepeat():
                self._press(chosen)
        else:
            super().keyPressEvent(event)

    def _go(self, along: int) -> None:
        """The next control, or after them the next pedal that is in no jack."""
        refs = [tile.held.ref for tile in self.tiles]
        refs += [f"{PEDAL}{pedal.id}" for pedal, _ in self.loose]
        here = self._desk.selection
        at = refs.index(here) if here in refs else -1
        self._desk.select(refs[max(0, min(len(refs) - 1, at + along))])

    def _take_or_plug(self) -> None:
        """Take a pedal that is in no jack into the hand, or put it into the chosen jack."""
        for pedal, rect in self.loose:
            if self._desk.selection == f"{PEDAL}{pedal.id}":
                self._carried, self._at = pedal, rect.center()
        chosen, carried = self.chosen, self._carried
        if chosen is not None and carried is not None and chosen.jack is not None:
            self._carried = None
            self._plug(carried, chosen)
        self.update()

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        """Let a switch go."""
        if event.key() != Qt.Key.Key_Space:
            super().keyReleaseEvent(event)
        elif not event.isAutoRepeat():
            self.let_go()


def _paint_face(
    painter: QPainter, face: QRectF, worked_control: Worked, value: int, colour: QColor
) -> None:
    """A knob with its pointer, a pedal that tilts, a fader with its cap, a switch."""
    colours, share = THEME.colours, value / 127
    painter.setPen(QPen(QColor(colours.ink), 1.4))
    painter.setBrush(QColor(colours.sunken))
    if worked_control.control.kind == "knob":
        disc = QRectF(face.left(), face.center().y() - 17, 34, 34)
        painter.drawEllipse(disc)
        painter.setPen(QPen(colour, 4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawArc(disc.adjusted(4, 4, -4, -4), 225 * 16, round(-270 * 16 * share))
    elif worked_control.is_switch:
        cap = QRectF(face.left() + 3, face.center().y() - 14, 28, 28)
        painter.setBrush(colour if value >= 64 else QColor(colours.sunken))
        painter.drawRoundedRect(cap, 6, 6)
    elif worked_control.control.kind in ("pedal", "shoe"):
        toe = face.bottom() - 16 - 18 * (1 - share)
        plate = QPolygonF(
            [
                QPointF(face.left(), face.bottom() - 4),
                QPointF(face.right(), toe),
                QPointF(face.right(), toe + 6),
                QPointF(face.left(), face.bottom() + 1),
            ]
        )
        painter.setBrush(colour)
        painter.drawPolygon(plate)
        painter.drawLine(face.bottomLeft() + QPointF(-1, 2), face.bottomRight() + QPointF(1, 2))
    else:
        slot = QRectF(face.center().x() - 4, face.top(), 8, face.height())
        painter.drawRoundedRect(slot, 4, 4)
        y = slot.bottom() - 5 - share * (slot.height() - 10)
        painter.setBrush(colour)
        painter.drawRoundedRect(QRectF(face.center().x() - 13, y - 5, 26, 10), 4, 4)


def _places(room: float) -> Iterator[tuple[float, float]]:
    """Where tiles lie one after the other, in rows of a width."""
    x = y = 0.0
    while True:
        if x + WIDE > room:
            x, y = 0.0, y + HEAD + HIGH + GAP
        yield x, y
        x += WIDE + GAP
