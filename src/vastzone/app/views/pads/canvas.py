"""Pad controllers as they lie: large faces to strike, the other banks beside as miniatures."""

from typing import NamedTuple

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from vastzone.app.clock import now_ms
from vastzone.app.keys import keeps
from vastzone.app.theme.colours import mixed, readable_on
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import paint_tag, text
from vastzone.app.views.pads.faces import Face, channel_words, faces, number_words, others
from vastzone.app.views.plays.marks import paint_mark
from vastzone.core.midi import pitch
from vastzone.core.plan.fills import banks_of, pads_of
from vastzone.core.plan.model import Device
from vastzone.desk.session import Desk

GAP, SIDE, FOOT = 8.0, 128.0, 62.0
ARROWS = {Qt.Key.Key_Left: (0, -1), Qt.Key.Key_Right: (0, 1), Qt.Key.Key_Up: (-1, 0),
          Qt.Key.Key_Down: (1, 0)}  # fmt: skip


class Place(NamedTuple):
    """A face and where it is drawn; ``small`` ones are those of another bank."""

    face: Face
    rect: QRectF


class PadsCanvas(QWidget):
    """Paints the pads of one device in one bank; a press strikes."""

    struck = Signal(str, int)
    bank_wanted = Signal(int)

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.device, self.bank = "", 1
        self.places: list[Place] = []
        self.small: list[tuple[int, QRectF]] = []
        self.preview: dict[tuple[str, int], int] = {}
        self.copying = ""
        self.chosen: set[str] = set()
        self._down: tuple[str, int] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Pads")
        desk.stage.sounding.connect(self._light)

    @property
    def owner(self) -> Device | None:
        """The device whose pads are shown."""
        return next((d for d in self._desk.plan.devices if d.id == self.device), None)

    def show_bank(self, device: str, bank: int) -> None:
        """Show a bank of a device."""
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
        rows, columns = _grid(owner)
        banks = list(banks_of(owner))
        side = SIDE + 14 if len(banks) > 1 else 0.0
        foot = FOOT if rest else 0.0
        wide = (self.width() - 32 - side - GAP * (columns - 1)) / columns
        high = (self.height() - 12 - foot - GAP * (rows - 1)) / rows
        wide, high = min(wide, 200.0), min(high, 150.0, max(76.0, wide * 0.86))
        held = {f.control.id: f for f in faces(self._desk, owner, self.bank)}
        for n, pad in enumerate(pads):
            row, column = _where(owner, n)
            rect = QRectF(16 + column * (wide + GAP), 4 + row * (high + GAP), wide, high)
            if pad.id in held:
                self.places.append(Place(held[pad.id], rect))
        self._lay_rest(rest, 4 + rows * (high + GAP) + 4, columns * (wide + GAP) - GAP)
        if side:
            x = 16 + columns * (wide + GAP) + 12
            tall = SIDE * rows / columns * 0.8
            for n, bank in enumerate(banks):
                self.small.append((bank, QRectF(x, 8 + n * (tall + 34), SIDE, tall)))

    def _lay_rest(self, rest: list[Face], top: float, room: float) -> None:
        if not rest:
            return
        wide = min(120.0, (room + GAP) / len(rest) - GAP)
        for n, held in enumerate(rest):
            self.places.append(Place(held, QRectF(16 + n * (wide + GAP), top, wide, FOOT - 12)))

    def paintEvent(self, event: QPaintEvent) -> None:
        """The faces, then the miniatures."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(THEME.colours.paper))
        owner = self.owner
        if owner is not None:
            for place in self.places:
                if place.face.control.kind == "pad":
                    self._paint_pad(painter, owner, place)
                else:
                    self._paint_control(painter, owner, place)
            for bank, rect in self.small:
                self._paint_small(painter, owner, bank, rect)
        painter.end()

    def _shade(self, face: Face) -> QColor:
        c = THEME.colours
        colour = mixed(c.muted, c.raised, 0.2) if face.colour is None else c.part(face.colour)
        lit = (face.ref, face.bank) == self._down
        return colour if lit else mixed(colour, c.raised, 0.22 if face.sound else 0.06)

    def _edge(self, face: Face) -> QPen:
        c = THEME.colours
        chosen = self._desk.selection == face.ref or face.ref in self.chosen
        return QPen(QColor(c.action if chosen else c.line), 2.6 if chosen else 1.3)

    def _paint_pad(self, painter: QPainter, owner: Device, place: Place) -> None:
        c, face, rect = THEME.colours, place.face, place.rect
        painter.setPen(self._edge(face))
        painter.setBrush(self._shade(face))
        painter.drawRoundedRect(rect, 12, 12)
        if face.ref in self._desk.unseen:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(c.action))
            painter.drawEllipse(rect.topLeft() + QPointF(3, 3), 5, 5)
        inner = rect.adjusted(11, 8, -11, -8)
        line = min(20.0, inner.height() / 4)
        x = inner.left()
        if face.tag:
            paint_tag(painter, QRectF(x, inner.top(), 28, 17), face.tag, face.colour)
            x += 35
        head = QRectF(x, inner.top() - 1, inner.right() - x - 18, 19)
        text(painter, head, face.control.name, c.muted, font(c.text_px - 2))
        if face.verdict:
            mark = QRectF(inner.right() - 16, inner.top() - 2, 20, 20)
            paint_mark(painter, mark, face.verdict, True, False)
        middle = QRectF(inner.left(), inner.top() + line + 2, inner.width(), line + 3)
        words = face.sound or ("no sound" if face.send else "")
        text(painter, middle, words, c.ink if face.sound else c.muted, bold(c.text_px + 1))
        below = QRectF(inner.left(), inner.bottom() - 2 * line + 2, inner.width(), line)
        text(painter, below, self._number(owner, face), c.ink, font(c.text_px - 1))
        last = QRectF(inner.left(), inner.bottom() - line + 3, inner.width(), line)
        mute = f" · mutes {face.mute}" if face.mute else ""
        text(painter, last, channel_words(face) + mute, c.muted, font(c.text_px - 2))
        self._paint_preview(painter, owner, place)

    def _number(self, owner: Device, face: Face) -> str:
        return number_words(owner, face)

    def _paint_preview(self, painter: QPainter, owner: Device, place: Place) -> None:
        """The note that a fill would give, on a chip of the action's colour."""
        note = self.preview.get((place.face.control.id, place.face.bank))
        if note is None:
            return
        c, rect = THEME.colours, place.rect
        chip = QRectF(rect.right() - 84, rect.bottom() - 30, 76, 22)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(c.action))
        painter.drawRoundedRect(chip, 11, 11)
        text(painter, chip, f"→ {pitch.label(note, owner.octaves)}", c.on_action,
             bold(c.text_px - 2), Qt.AlignmentFlag.AlignHCenter)  # fmt: skip

    def _paint_control(self, painter: QPainter, owner: Device, place: Place) -> None:
        c, face, rect = THEME.colours, place.face, place.rect
        round_ = face.control.kind in ("knob", "wheel")
        size = 26.0
        hole = QRectF(rect.left(), rect.top() + 6, size, size)
        painter.setPen(self._edge(face))
        painter.setBrush(self._shade(face))
        painter.drawEllipse(hole) if round_ else painter.drawRoundedRect(hole, 5, 5)
        room = rect.adjusted(size + 7, 0, 0, 0)
        text(painter, QRectF(room.left(), room.top() + 2, room.width(), 18), face.control.name,
             c.ink, font(c.text_px - 1))  # fmt: skip
        said = face.sound or (number_words(owner, face) if face.send else "nothing")
        text(painter, QRectF(room.left(), room.top() + 19, room.width(), 17), said, c.muted,
             font(c.text_px - 2))  # fmt: skip

    def _paint_small(self, painter: QPainter, owner: Device, bank: int, rect: QRectF) -> None:
        c = THEME.colours
        here = bank == self.bank
        rows, columns = _grid(owner)
        wide, high = rect.width() / columns, rect.height() / rows
        painter.setPen(QPen(QColor(c.action if here else c.line), 2 if here else 1))
        painter.setBrush(QColor(c.panel))
        painter.drawRoundedRect(rect.adjusted(-5, -5, 5, 23), 8, 8)
        for n, held in enumerate(faces(self._desk, owner, bank)):
            row, column = _where(owner, n)
            cell = QRectF(rect.left() + column * wide + 1.5, rect.top() + row * high + 1.5,
                          wide - 3, high - 3)  # fmt: skip
            painter.setPen(Qt.PenStyle.NoPen)
            colour = c.part(held.colour) if held.colour is not None else None
            painter.setBrush(colour or mixed(c.ink, c.panel, 0.12 if held.send else 0.04))
            painter.drawRoundedRect(cell, 3, 3)
            if held.tag and high > 12:
                shade = readable_on(colour) if colour is not None else c.ink
                text(painter, cell, held.tag, shade, bold(10), Qt.AlignmentFlag.AlignHCenter)
        label = QRectF(rect.left(), rect.bottom() + 1, rect.width(), 20)
        text(painter, label, f"Bank {bank}", c.ink if here else c.muted, font(c.text_px - 2))

    def place_at(self, point: QPointF) -> Place | None:
        """The face under a point."""
        return next((p for p in self.places if p.rect.contains(point)), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Strike a pad, or go to another bank."""
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        place = self.place_at(event.position())
        if place is not None:
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
                self.chosen ^= {place.face.ref}
                self.update()
                return
            self.strike(place.face)
            return
        for bank, rect in self.small:
            if rect.adjusted(-5, -5, 5, 23).contains(event.position()):
                self.bank_wanted.emit(bank)

    def strike(self, face: Face) -> None:
        """Strike a pad: it sounds, and it is selected everywhere."""
        self._down = (face.ref, face.bank)
        self._desk.stage.move(self._down, 127, now_ms())
        self._desk.select(face.ref)
        self.struck.emit(face.ref, face.bank)
        self.update()

    def let_go(self) -> None:
        """Release what was struck."""
        if self._down is not None:
            self._desk.stage.move(self._down, 0, now_ms())
            self._down = None
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        self.let_go()

    def event(self, event: QEvent) -> bool:
        """Keep Space from the window's shortcuts: it strikes here."""
        return keeps(event, (Qt.Key.Key_Space,)) or super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows go from pad to pad, Space or Enter strikes."""
        key = Qt.Key(event.key())
        if key in ARROWS:
            self._step(*ARROWS[key])
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            place = self._focused()
            if place is not None and not event.isAutoRepeat():
                self.strike(place.face)
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        """Let go."""
        if not event.isAutoRepeat():
            self.let_go()

    def _focused(self) -> Place | None:
        here = [p for p in self.places if p.face.ref == self._desk.selection]
        return here[0] if here else (self.places[0] if self.places else None)

    def _step(self, down: int, across: int) -> None:
        here = self._focused()
        if here is None:
            return

        def cost(place: Place) -> float:
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


def _grid(owner: Device) -> tuple[int, int]:
    """Rows and columns of the pads; a square where the device does not say how they lie."""
    pads = pads_of(owner)
    if _spread(owner):
        return max(p.row for p in pads) + 1, max(p.column for p in pads) + 1
    columns = 4 if len(pads) > 4 else max(1, len(pads))
    return -(-len(pads) // columns), columns


def _spread(owner: Device) -> bool:
    pads = pads_of(owner)
    return len({(p.row, p.column) for p in pads}) == len(pads)


def _where(owner: Device, n: int) -> tuple[int, int]:
    pad = pads_of(owner)[n]
    return (pad.row, pad.column) if _spread(owner) else divmod(n, _grid(owner)[1])
