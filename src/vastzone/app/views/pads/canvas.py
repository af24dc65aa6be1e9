"""Pad controllers as they lie: large faces to strike, the other banks beside as miniatures."""

from typing import NamedTuple

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.clock import now_ms
from vastzone.app.drawn import with_words
from vastzone.app.frame.sized import bound
from vastzone.app.holding import ONCE_MS, Holding
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element
from vastzone.app.theme.colours import legible, mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import paint_tag, text
from vastzone.app.views.pads.elements import bank_element, pad_element
from vastzone.app.views.pads.minis import Mini, grid_of, minis, paint_mini, place_minis, where
from vastzone.app.views.plays.marks import paint_mark
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.say import say
from vastzone.core.timing.repeat import gap_ms
from vastzone.desk.pad_faces import Face, channel_words, faces, number_words, others
from vastzone.desk.session import Desk

GAP, SIDE, FOOT, LEAST = 8.0, 128.0, 62.0, 98.0
LOWEST, NARROWEST, THREE_LINES = 54.0, 62.0, 56.0
"""How low and narrow a pad may be; below the last its words are one line, under its head."""
SOFT = 48
"""The velocity of a soft strike: with Shift, or at the edge of a pad."""
ARROWS = {
    Qt.Key.Key_Left: (0, -1),
    Qt.Key.Key_Right: (0, 1),
    Qt.Key.Key_Up: (-1, 0),
    Qt.Key.Key_Down: (1, 0),
}


class PlacedFace(NamedTuple):
    """A face and where it is drawn; ``small`` ones are those of another bank."""

    face: Face
    rect: QRectF


class PadsCanvas(Holding):
    """Paints the pads of one device in one bank; a press strikes."""

    struck = Signal(str, int)
    mini_wanted = Signal(object)
    pads_chosen = Signal()

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.device, self.bank = "", 1
        self.places: list[PlacedFace] = []
        self.small: list[tuple[Mini, QRectF]] = []
        self.beside = "banks"
        self._hard, self._count = 127, 0
        self._repeating = QTimer(self)
        self._repeating.setSingleShot(True)
        self._repeating.setTimerType(Qt.TimerType.PreciseTimer)
        self._repeating.timeout.connect(self._again)
        self.preview: dict[tuple[str, int], int] = {}
        self._down: tuple[str, int] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("Pads"))
        desk.stage.sounding.connect(self._light)

    @property
    def owner(self) -> Device | None:
        """The device whose pads are shown."""
        return lookup.find(self._desk.plan.devices, self.device)

    @property
    def chosen(self) -> set[str]:
        """The pads that are chosen with Ctrl, ``device:control``."""
        return self._desk.chosen

    def show_bank(self, device: str, bank: int) -> None:
        """Show a bank of a device; pads chosen on another one are chosen no longer."""
        if device != self.device:
            self._desk.chosen.clear()
        self.device, self.bank = device, bank
        self.rebuild()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self.rebuild()

    def rebuild(self) -> None:
        """Lay out anew."""
        owner = self.owner
        self.places, self.small = [], []
        if owner is not None and pads_of(owner):
            self._lay_out(owner)
        self.update()

    def _lay_out(self, owner: Device) -> None:
        pads, rest = pads_of(owner), others(self._desk, owner, self.bank)
        rows, columns = grid_of(owner)
        controls = -(-len(rest) * LEAST // max(1, self.width() - 32))
        bound(self, "MinimumHeight", round(18 + rows * (LOWEST + GAP) + FOOT * controls))
        bound(self, "MinimumWidth", round(32 + columns * (NARROWEST + GAP)))
        beside = minis(self._desk, owner, self.bank, self.beside)
        side = SIDE + 14 if len(beside) > 1 else 0.0
        across = max(1, int((self.width() - 32 - side) / LEAST))
        foot = 6 + (FOOT - 8) * -(-len(rest) // across) if rest else 0.0
        wide = (self.width() - 32 - side - GAP * (columns - 1)) / columns
        high = (self.height() - 12 - foot - GAP * (rows - 1)) / rows
        wide, high = min(wide, 200.0), min(high, 150.0, max(76.0, wide * 0.86))
        faces_by_pad = {face.control.id: face for face in faces(self._desk, owner, self.bank)}
        for n, pad in enumerate(pads):
            row, column = where(owner, n)
            span = pad.span * (wide + GAP) - GAP
            rect = QRectF(16 + column * (wide + GAP), 4 + row * (high + GAP), span, high)
            if pad.shape == "round":
                size = min(wide, high)
                rect = QRectF(rect.center().x() - size / 2, rect.top(), size, size)
            elif pad.shape == "bar":
                rect = rect.adjusted(0, high * 0.18, 0, -high * 0.18)
            if pad.id in faces_by_pad:
                self.places.append(PlacedFace(faces_by_pad[pad.id], rect))
        room = columns * (wide + GAP) - GAP
        self._lay_rest(rest, 4 + rows * (high + GAP) + 4, room, across)
        if side:
            x = 16 + columns * (wide + GAP) + 8
            self.small = list(place_minis(beside, x, SIDE - 8, rows / columns, self.height()))

    def _lay_rest(self, rest: list[Face], top: float, room: float, across: int) -> None:
        """Knobs and buttons in a row below, in more rows where they would be too narrow."""
        if not rest:
            return
        wide = min(120.0, (room + GAP) / min(len(rest), across) - GAP)
        for n, face in enumerate(rest):
            row, column = divmod(n, across)
            at = QRectF(16 + column * (wide + GAP), top + row * (FOOT - 8), wide, FOOT - 12)
            self.places.append(PlacedFace(face, at))

    def paintEvent(self, event: QPaintEvent) -> None:
        """The faces, then the miniatures."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(THEME.colours.paper))
        owner = self.owner
        if owner is not None:
            for place in self.places:
                if control_ability(place.face.control).laid:
                    self._paint_pad(painter, owner, place)
                else:
                    self._paint_control(painter, owner, place)
            for mini, rect in self.small:
                paint_mini(painter, self._desk, owner, mini, rect)
        painter.end()

    def _shade(self, face: Face) -> QColor:
        colours = THEME.colours
        colour = (
            mixed(colours.muted, colours.raised, 0.2)
            if face.colour is None
            else colours.part(face.colour)
        )
        lit = (face.ref, face.bank) == self._down
        return colour if lit else mixed(colour, colours.raised, 0.22 if face.sound else 0.06)

    def _ink(self, face: Face, wished: str) -> QColor:
        return legible(wished, self._shade(face))

    def _edge(self, face: Face) -> QPen:
        colours = THEME.colours
        chosen = self._desk.selection == face.ref or face.ref in self.chosen
        return QPen(QColor(colours.action if chosen else colours.line), 2.6 if chosen else 1.3)

    def _paint_pad(self, painter: QPainter, owner: Device, place: PlacedFace) -> None:
        colours, face, rect = THEME.colours, place.face, place.rect
        painter.setPen(self._edge(face))
        painter.setBrush(self._shade(face))
        is_round = face.control.shape == "round"
        painter.drawEllipse(rect) if is_round else painter.drawRoundedRect(rect, 12, 12)
        if face.ref in self._desk.unseen:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(colours.action))
            painter.drawEllipse(rect.topLeft() + QPointF(3, 3), 5, 5)
        inset = rect.width() * 0.13 if is_round else 0.0
        inner = rect.adjusted(11 + inset, 8 + inset, -11 - inset, -8 - inset)
        self._paint_head(painter, face, inner)
        self._paint_words(painter, owner, face, inner)
        self._paint_preview(painter, owner, place)

    def _paint_head(self, painter: QPainter, face: Face, inner: QRectF) -> None:
        """Tag, name and verdict."""
        colours, x = THEME.colours, inner.left()
        if face.tag:
            paint_tag(painter, QRectF(x, inner.top(), 28, 17), face.tag, face.colour)
            x += 35
        head = QRectF(x, inner.top() - 1, inner.right() - x - 18, 19)
        small = font(colours.text_px - 2)
        text(painter, head, face.control.name, self._ink(face, colours.muted), small)
        if face.verdict:
            mark = QRectF(inner.right() - 16, inner.top() - 2, 20, 20)
            paint_mark(painter, mark, face.verdict, False)

    def _paint_words(self, painter: QPainter, owner: Device, face: Face, inner: QRectF) -> None:
        """Sound, number and channel; on two lines where a pad is low, on one where it is lower."""
        if inner.height() < THREE_LINES:
            self._paint_one_line(painter, owner, face, inner)
            return
        colours, line = THEME.colours, min(20.0, (inner.height() - 18) / 2)
        middle = QRectF(inner.left(), inner.top() + 18, inner.width(), line + 3)
        words = face.sound or (say("no sound") if face.send else "")
        text(
            painter,
            middle,
            words,
            self._ink(face, colours.ink if face.sound else colours.muted),
            bold(colours.text_px + 1),
        )
        number, last = number_words(owner, face), _channel_and_group(face)
        below = QRectF(inner.left(), inner.bottom() - line + 3, inner.width(), line)
        if inner.height() < 18 + 3 * 17:
            both = f"{number} · {last}" if last else number
            text(painter, below, both, self._ink(face, colours.ink), font(colours.text_px - 2))
        else:
            text(painter, below, last, self._ink(face, colours.muted), font(colours.text_px - 2))
            below.translate(0, 2 - line)
            text(painter, below, number, self._ink(face, colours.ink), font(colours.text_px - 1))
        if face.feel and below.top() - middle.bottom() > 0.8 * line:
            feel = QRectF(inner.left(), middle.bottom() - 2, inner.width(), line)
            text(painter, feel, face.feel, self._ink(face, colours.ink), font(colours.text_px - 2))

    def _paint_one_line(self, painter: QPainter, owner: Device, face: Face, inner: QRectF) -> None:
        colours = THEME.colours
        said = [face.sound or say("no sound"), number_words(owner, face), _channel_and_group(face)]
        words = " · ".join(word for word in said if word) if face.send else ""
        line = QRectF(inner.left(), inner.top() + 18, inner.width(), inner.height() - 16)
        text(painter, line, words, self._ink(face, colours.ink), font(colours.text_px - 1))

    def _paint_preview(self, painter: QPainter, owner: Device, place: PlacedFace) -> None:
        """The note that a fill would give, on a chip of the action's colour."""
        note = self.preview.get((place.face.control.id, place.face.bank))
        if note is None:
            return
        colours, rect = THEME.colours, place.rect
        chip = QRectF(rect.right() - 84, rect.bottom() - 30, 76, 22)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.action))
        painter.drawRoundedRect(chip, 11, 11)
        text(
            painter,
            chip,
            f"→ {pitch.label(note, owner.octaves)}",
            colours.on_action,
            bold(colours.text_px - 2),
            Qt.AlignmentFlag.AlignHCenter,
        )

    def _paint_control(self, painter: QPainter, owner: Device, place: PlacedFace) -> None:
        colours, face, rect = THEME.colours, place.face, place.rect
        round_ = face.control.kind in ("knob", "wheel")
        size = 26.0
        hole = QRectF(rect.left(), rect.top() + 6, size, size)
        painter.setPen(self._edge(face))
        painter.setBrush(self._shade(face))
        painter.drawEllipse(hole) if round_ else painter.drawRoundedRect(hole, 5, 5)
        room = rect.adjusted(size + 7, 0, 0, 0)
        text(
            painter,
            QRectF(room.left(), room.top() + 2, room.width(), 18),
            face.control.name,
            colours.ink,
            font(colours.text_px - 1),
        )
        said = face.sound or (number_words(owner, face) if face.send else say("nothing"))
        text(
            painter,
            QRectF(room.left(), room.top() + 19, room.width(), 17),
            said,
            colours.muted,
            font(colours.text_px - 2),
        )

    def elements(self) -> list[Element]:
        """Pads, the rest of the controls, banks."""
        owner = self.owner
        if owner is None:
            return []
        told = [pad_element(self._desk, owner, p.face, p.rect, self._once) for p in self.places]
        told += [bank_element(mini, place, self.mini_wanted.emit) for mini, place in self.small]
        return with_words(told, self.said)

    def _once(self, face: Face) -> None:
        """Strike a pad for a moment."""
        self.strike(face)
        QTimer.singleShot(ONCE_MS, self.let_go)

    def place_at(self, point: QPointF) -> PlacedFace | None:
        """The face under a point."""
        return next((place for place in self.places if place.rect.contains(point)), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Strike a pad, or go to another bank."""
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        place = self.place_at(event.position())
        if place is not None:
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                self._desk.chosen ^= {place.face.ref}
                self.pads_chosen.emit()
                self.update()
                return
            self.strike(place.face, _velocity(place.rect, event.position()))
            return
        for mini, rect in self.small:
            if rect.adjusted(-5, -5, 5, 23).contains(event.position()):
                self.mini_wanted.emit(mini)

    def strike(self, face: Face, velocity: int = 127) -> None:
        """Strike a pad: it sounds, and it is selected everywhere; held, it may repeat."""
        self._down, self._hard, self._count = (face.ref, face.bank), velocity, 0
        self._desk.stage.hit(self._down, velocity, now_ms())
        self._desk.select(face.ref)
        self._wait(face)
        self.struck.emit(face.ref, face.bank)
        self.update()

    def let_go(self) -> None:
        """Release what was struck."""
        self._repeating.stop()
        if self._down is not None:
            self._desk.stage.hit(self._down, 0, now_ms())
            self._down = None
            self.update()

    def _wait(self, face: Face) -> None:
        """Wait for the next strike of a pad that repeats while it is held."""
        repeat = face.send.repeat if face.send else None
        if repeat is not None:
            gap = gap_ms(repeat, self._desk.tempo, self._count)
            self._repeating.start(max(1, round(gap)))

    def _again(self) -> None:
        place = next((p for p in self.places if (p.face.ref, p.face.bank) == self._down), None)
        if place is not None and self._down is not None:
            self._count += 1
            self._desk.stage.hit(self._down, 0, now_ms())
            self._desk.stage.hit(self._down, self._hard, now_ms())
            self._wait(place.face)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        self.let_go()

    def heard(self, event: QEvent) -> bool:
        """Keep Space from the window's shortcuts: it strikes here."""
        return keeps(event, (Qt.Key.Key_Space,)) or super().heard(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows go from pad to pad, Space or Enter strikes."""
        key = Qt.Key(event.key())
        if key in ARROWS:
            self._step(*ARROWS[key])
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            place = self._focused()
            if place is not None and not event.isAutoRepeat():
                soft = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
                self.strike(place.face, SOFT if soft else 127)
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        """Let go."""
        keys = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if event.key() not in keys:
            super().keyReleaseEvent(event)
        elif not event.isAutoRepeat():
            self.let_go()

    def _focused(self) -> PlacedFace | None:
        here = []
        for place in self.places:
            if place.face.ref == self._desk.selection:
                here.append(place)
        return here[0] if here else (self.places[0] if self.places else None)

    def _step(self, down: int, across: int) -> None:
        here = self._focused()
        if here is None:
            return

        def cost(place: PlacedFace) -> float:
            d = place.rect.center() - here.rect.center()
            along = d.x() * across + d.y() * down
            aside = abs(d.x() * down) + abs(d.y() * across)
            return along + 2.5 * aside if along > 4 else float("inf")

        best = min(self.places, key=cost)
        if cost(best) < float("inf"):
            self._desk.select(best.face.ref)

    def _light(self) -> None:
        if self.isVisible():
            self.update()


def _velocity(rect: QRectF, point: QPointF) -> int:
    """How hard a press strikes: hardest in the middle of the pad, soft at its edge."""
    off = point - rect.center()
    away = max(abs(off.x()) / rect.width(), abs(off.y()) / rect.height()) * 2
    return round(127 - (127 - SOFT) * max(0.0, min(1.0, (away - 0.5) / 0.5)))


def _channel_and_group(face: Face) -> str:
    """The channel of a pad, and its mute group where it has one."""
    said = [channel_words(face), say("group {mute}", mute=face.mute) if face.mute else ""]
    return " · ".join(filter(None, said))
