"""The console as it stands, to play: manuals, pedalboard, stops, pistons, shoes."""

from functools import partial

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.clock import now_ms
from vastzone.app.drawn import grown_size, with_words
from vastzone.app.holding import Holding
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element
from vastzone.app.theme.colours import legible, mixed, readable_on
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.console.elements import contact, shoe
from vastzone.app.views.console.layout import ConsolePicture, KeyShape, lay_out
from vastzone.app.views.console.shared import Bench
from vastzone.app.views.drawing import text
from vastzone.core.console.shoes import shoe_value, volts_at
from vastzone.core.engine.console_contacts import reports
from vastzone.core.plan.fields.values import volts_words
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say

STEP = 4
STRUCK = 96
"""The velocity of a press that has no depth."""


class ConsoleCanvas(Holding):
    """Press to play, Shift holds for chords, stops stay drawn; drag a shoe; Space presses."""

    def __init__(self, bench: Bench) -> None:
        super().__init__()
        self._bench = bench
        self.picture = ConsolePicture((), (), ())
        self.values: dict[str, int] = {}
        self._down = -1
        self._shoe: tuple[str, float, int] | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("The console"))
        bench.pointed.connect(lambda _: self.update())
        bench.held_changed.connect(self.update)

    def sizeHint(self) -> QSize:
        """As high as a console with four keyboards needs."""
        return grown_size(820, 320)

    def minimumSizeHint(self) -> QSize:
        """Keys can still be told apart."""
        return grown_size(420, 210)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Lay out anew."""
        self.rebuild()

    def rebuild(self) -> None:
        """Lay the console out as the plan has it now."""
        bench = self._bench
        owner = bench.owner
        self.picture = (
            lay_out(owner, bench.circuit, self.width(), self.height(), bench.only)
            if owner is not None
            else ConsolePicture((), (), ())
        )
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Everything."""
        painter, colours, bench = self.painter(), THEME.colours, self._bench
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(colours.paper))
        owner = bench.owner
        if owner is None:
            return
        heard = self._heard_contacts() if bench.held else set()
        spoilt = reports(owner)
        small = bold(colours.text_px - 2)
        for name, rect in self.picture.captions:
            text(painter, rect, name, colours.muted, small)
        for shape in self.picture.shapes:
            ref, note = bench.key(shape.contact)
            bad = (ref, note if note is not None else 0) in spoilt
            self._paint(painter, shape, shape.contact in heard, bad)
        names = lookup.names_of(owner.controls)
        for control, rect in self.picture.shoes:
            words = self._shoe_words(control)
            self._paint_shoe(painter, names[control], rect, self.values.get(control, 0), words)
        painter.end()

    def elements(self) -> list[Element]:
        """Keys, stops and pistons, then shoes."""
        owner = self._bench.owner
        if owner is None:
            return []
        heard = self._heard_contacts() if self._bench.held else set()
        spoilt = reports(owner)
        told = []
        for shape in self.picture.shapes:
            ref, note = self._bench.key(shape.contact)
            bad = (ref, note if note is not None else 0) in spoilt
            is_heard = shape.contact in heard
            told.append(contact(self._bench, shape.contact, shape.rect, is_heard, bad))
        names = lookup.names_of(owner.controls)
        for control, rect in self.picture.shoes:
            own = ref_to(owner.id, control)
            press = partial(self._bench.desk.select, own)
            chosen = self._bench.desk.selection == own
            told.append(shoe(names[control], rect, self._shoe_words(control), chosen, press))
        return with_words(told, self.said)

    def _shoe_words(self, control: str) -> str:
        shoe_of = {one.control: one for one in self._bench.console.shoes}
        share = self.values.get(control, 0) / 127
        volts = volts_words(volts_at(shoe_of[control], share))
        return say("{share} %, {volts} V", share=round(100 * share), volts=volts)

    def _heard_contacts(self) -> set[int]:
        """The contacts that the encoder reports."""
        circuit, heard = self._bench.circuit, set()
        for block, number in self._bench.reported():
            if 0 <= number < circuit.parts[block].size:
                heard.add(circuit.contact(block, number))
        return heard

    def _paint(self, painter: QPainter, shape: KeyShape, heard: bool, bad: bool) -> None:
        colours, here = THEME.colours, shape.contact == self._bench.at
        painter.setPen(
            QPen(QColor(colours.action if here else colours.key_line), 2.4 if here else 0.9)
        )
        painter.setBrush(self._fill_of(shape, heard, bad))
        curve = 2.0 if shape.kind == "key" else 5.0
        painter.drawRoundedRect(shape.rect.adjusted(0.5, 0, -0.5, 0), curve, curve)
        self._sign(painter, shape, heard)
        if shape.kind != "key":
            ink = legible(colours.ink, self._fill_of(shape, heard, bad))
            size = max(9, min(colours.text_px - 3, int(shape.rect.height() * 0.62)))
            name = self._name_of(shape)
            text(painter, shape.rect.adjusted(7, 0, -5, 0), name, ink, font(size))

    def _sign(self, painter: QPainter, shape: KeyShape, heard: bool) -> None:
        """A dot where one is held and heard, a ring where only held, a cross where only heard.

        Keys have it at their fronts, stops at their right ends.
        """
        held = shape.contact in self._bench.held
        if not (held or heard):
            return
        rect, size = shape.rect, min(3.2, shape.rect.width() / 3)
        at = QPointF(rect.right() - 8, rect.center().y())
        if shape.kind == "key":
            at = QPointF(rect.center().x(), rect.bottom() - size - 3)
        ink = readable_on(self._fill_of(shape, heard, False))
        painter.setPen(QPen(ink, 1.6))
        painter.setBrush(ink if held and heard else Qt.BrushStyle.NoBrush)
        if held:
            painter.drawEllipse(at, size, size)
        else:
            painter.drawLine(at - QPointF(size, size), at + QPointF(size, size))
            painter.drawLine(at - QPointF(size, -size), at + QPointF(size, -size))

    def _fill_of(self, shape: KeyShape, heard: bool, bad: bool) -> QColor:
        """What a contact is filled with: held, heard, spoilt, or as it is."""
        colours = THEME.colours
        if heard:
            ghost = shape.contact not in self._bench.held
            return QColor(colours.fault if ghost else colours.action)
        if shape.contact in self._bench.held:
            return QColor(colours.caution)
        plain = colours.black_key if shape.black else colours.white_key
        fill = QColor(plain if shape.kind == "key" else colours.raised)
        return mixed(colours.fault, fill, 0.55 if shape.black else 0.28) if bad else fill

    def _name_of(self, shape: KeyShape) -> str:
        """The name of a stop or piston."""
        circuit, owner = self._bench.circuit, self._bench.owner
        contact = circuit.contacts[shape.contact]
        ident = circuit.parts[contact.block].block.controls[contact.number]
        control = lookup.find(owner.controls, ident) if owner is not None else None
        return control.name if control else ident

    @staticmethod
    def _paint_shoe(painter: QPainter, name: str, rect: QRectF, value: int, words: str) -> None:
        colours = THEME.colours
        body = rect.adjusted(0, 0, 0, -16 if rect.height() > 38 else 0)
        painter.setPen(QPen(QColor(colours.key_line), 1))
        painter.setBrush(QColor(colours.sunken))
        painter.drawRoundedRect(body, 6, 6)
        full = QRectF(
            body.left(),
            body.bottom() - body.height() * value / 127,
            body.width(),
            body.height() * value / 127,
        )
        painter.setBrush(QColor(colours.action))
        painter.drawRoundedRect(full, 6, 6)
        face = bold(colours.text_px - 3)
        plate = QRectF(0, 0, body.width() - 4, 17)
        plate.moveCenter(body.center())
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.raised))
        painter.drawRoundedRect(plate, 4, 4)
        text(painter, plate, words, colours.ink, face, Qt.AlignmentFlag.AlignHCenter)
        if body.height() == rect.height():
            return
        below = QRectF(rect.left() - 4, rect.bottom() - 15, rect.width() + 8, 15)
        text(
            painter,
            below,
            name.removesuffix(" shoe"),
            colours.muted,
            font(colours.text_px - 3),
            Qt.AlignmentFlag.AlignHCenter,
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Strike a key, draw a stop, take hold of a shoe."""
        x, y = event.position().x(), event.position().y()
        for control, rect in self.picture.shoes:
            if rect.contains(x, y):
                self._shoe = (control, y, self.values.get(control, 0))
                owner = self._bench.owner
                if owner is not None:
                    self._bench.desk.select(ref_to(owner.id, control))
                return
        index = self.picture.at(x, y)
        if index < 0 or event.button() is not Qt.MouseButton.LeftButton:
            self._bench.release_all()
            return
        if index in self._bench.held:
            self._bench.release(index)
            return
        shape = next(s for s in reversed(self.picture.shapes) if s.contact == index)
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier or shape.kind == "stop":
            self._bench.press(index)
            return
        depth = (y - shape.rect.top()) / max(1.0, shape.rect.height())
        self._press(index, max(1, min(127, round(40 + 87 * depth))))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Point at what is under the mouse; drag a shoe."""
        if self._shoe is not None:
            control, y, value = self._shoe
            self.set_shoe(control, value + round(y - event.position().y()))
            return
        self._bench.point(self.picture.at(event.position().x(), event.position().y()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go what is not held by Shift."""
        self._shoe = None
        self.let_go()

    def _press(self, index: int, velocity: int = STRUCK) -> None:
        """Hold a contact down; the same one is let go, whatever is pointed at by then."""
        self.let_go()
        self._down = index
        self._bench.press(index, velocity)

    def let_go(self) -> None:
        """Let go the contact that mouse or Space hold down."""
        if self._down >= 0:
            self._bench.release(self._down)
            self._down = -1

    def set_shoe(self, control: str, value: int) -> None:
        """Move a shoe to 0–127: it sends."""
        owner, value = self._bench.owner, max(0, min(127, value))
        if owner is not None and self.values.get(control, 0) != value:
            self.values[control] = value
            shoe = next(s for s in self._bench.console.shoes if s.control == control)
            sent = shoe_value(shoe, volts_at(shoe, value / 127))
            self._bench.desk.stage.move((ref_to(owner.id, control), 1), sent, now_ms())
            self.update()

    def heard(self, event: QEvent) -> bool:
        """Keep Space from the window’s shortcuts: it presses here."""
        return keeps(event, (Qt.Key.Key_Space,)) or super().heard(event)

    def _at_shoe(self) -> int:
        """The place of the shoe that is selected; −1 where none is."""
        owner = self._bench.owner
        refs = [ref_to(owner.id, control) for control, _ in self.picture.shoes] if owner else []
        chosen = self._bench.desk.selection
        return refs.index(chosen) if chosen in refs else -1

    def _select_shoe(self, number: int) -> None:
        owner = self._bench.owner
        if owner is not None:
            number = max(0, min(len(self.picture.shoes) - 1, number))
            self._bench.desk.select(ref_to(owner.id, self.picture.shoes[number][0]))

    def _tread(self, key: Qt.Key) -> bool:
        """What keys do with the shoe that is selected; whether they do anything."""
        at = self._at_shoe()
        if at < 0 or self._bench.owner is None:
            return False
        control = self.picture.shoes[at][0]
        steps = {
            Qt.Key.Key_Plus: STEP,
            Qt.Key.Key_Equal: STEP,
            Qt.Key.Key_Minus: -STEP,
            Qt.Key.Key_Home: -127,
            Qt.Key.Key_End: 127,
        }
        if key in steps:
            self.set_shoe(control, self.values.get(control, 0) + steps[key])
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self._select_shoe(at + (1 if key is Qt.Key.Key_Right else -1))
        elif key is Qt.Key.Key_Up:
            self._bench.desk.select(self._bench.owner.id)
        else:
            return False
        self.update()
        return True

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right along a block, up and down between blocks and down to the shoes.

        Space presses; Enter, or Shift with Space, holds, so that chords and drawn stops stay.
        Plus and minus tread the shoe that is selected, Home and End heel and toe it.
        """
        key, bench = Qt.Key(event.key()), self._bench
        if bench.owner is None or self._tread(key):
            return
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        along = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(key, 0)
        across = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(key, 0)
        circuit = bench.circuit
        at = max(0, bench.at)
        if along:
            bench.point(max(0, min(len(circuit.contacts) - 1, at + along)))
        elif across:
            contact = circuit.contacts[at]
            if across > 0 and contact.block == len(circuit.parts) - 1 and self.picture.shoes:
                self._select_shoe(0)
                return
            block = max(0, min(len(circuit.parts) - 1, contact.block + across))
            bench.point(circuit.contact(block, min(contact.number, circuit.parts[block].size - 1)))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) or (shift and key == Qt.Key.Key_Space):
            if not event.isAutoRepeat():
                (bench.release if at in bench.held else bench.press)(at)
        elif key == Qt.Key.Key_Space:
            if not event.isAutoRepeat():
                self._press(at)
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        """Let it go."""
        if event.key() != Qt.Key.Key_Space:
            super().keyReleaseEvent(event)
        elif not event.isAutoRepeat():
            self.let_go()
