"""A simulated panel: it stands in for a device, its display, slots and power switch."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, grown_size, with_words
from vastzone.app.frame.sized import bound
from vastzone.app.reader import Element, Role
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.memory.contents import has_buffer, in_slot, same_slot
from vastzone.core.memory.display import Shown
from vastzone.core.memory.operations import Operation
from vastzone.core.memory.practice import SimulatedPanel
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.queries.slots import slot_words
from vastzone.core.say import say

HIGH, PAD, ROUND = 186, 14.0, 10.0
SLOTS_SHOWN = 12


class PanelFace(Drawn):
    """Paints a device as it is; a press on a slot selects it, on a button does what it says."""

    def __init__(self, pressed: Callable[[Operation], object]) -> None:
        super().__init__()
        self._pressed = pressed
        self.panel: SimulatedPanel | None = None
        self.shown: tuple[Shown, ...] = ()
        bound(self, "MinimumHeight", HIGH)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(say("Simulated panel"))

    def sizeHint(self) -> QSize:
        """Wide and low."""
        return grown_size(640, HIGH)

    def show_panel(self, panel: SimulatedPanel | None, shown: tuple[Shown, ...]) -> None:
        """Show a device, and what its display says of what is being dialled."""
        self.panel, self.shown = panel, shown
        if panel is not None:
            on = panel.shows
            slot = (
                say("no slot")
                if on is None
                else say("slot {slot}", slot=slot_words(panel.device, on))
            )
            values = ", ".join(f"{one.name} {one.held}" for one in shown)
            self.setAccessibleDescription(f"{panel.device.name}: {slot}. {values}")
        self.update()

    def slots(self) -> list[Slot]:
        """The slots that are shown: those that are planned, and their neighbours."""
        if self.panel is None or not self.panel.device.storage.slots:
            return []
        device = self.panel.device
        most = min(device.storage.slots, 128)
        wanted = {program.number for program in device.programs}
        wanted |= {held.number for held in self.panel.truth.slots if not held.bank}
        if self.panel.truth.selected is not None:
            wanted.add(self.panel.truth.selected.number)
        last = max(wanted, default=0) + 1
        return [Slot(number=n) for n in range(min(most, last + 1))][:SLOTS_SHOWN]

    def slot_rect(self, number: int) -> QRectF:
        """Where the key of a slot lies."""
        slots = max(1, len(self.slots()))
        wide = min(84.0, (self.width() - 2 * PAD - 96) / slots)
        return QRectF(PAD + number * wide, self.height() - 74.0, wide - 6, 56)

    def power_rect(self) -> QRectF:
        """Where the power switch lies."""
        return QRectF(self.width() - PAD - 78, self.height() - 74.0, 78, 56)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The face of the device."""
        painter, colours = self.painter(), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.panel is None:
            painter.end()
            return
        body = QRectF(1, 1, self.width() - 2, self.height() - 2)
        painter.setPen(QPen(QColor(colours.line), 1.2))
        painter.setBrush(mixed(colours.ink, colours.panel, 0.06))
        painter.drawRoundedRect(body, ROUND, ROUND)
        self._display(painter)
        for number, slot in enumerate(self.slots()):
            self._slot(painter, self.slot_rect(number), slot)
        self._key(painter, self.power_rect(), say("Power"), say("off and on"), False)
        painter.end()

    def elements(self) -> list[Element]:
        """The keys of the panel; what its display says comes with the painted words."""
        if self.panel is None:
            return []
        told = []
        for number, slot in enumerate(self.slots()):
            on = same_slot(slot, self.panel.truth.selected)
            name = say("Slot {slot}", slot=slot_words(self.panel.device, slot))
            press = partial(self._pressed, Operation("select", slot=slot))
            place = self.slot_rect(number)
            key = f"slot {number}"
            told.append(Element(key, name, place, Role.RadioButton, checked=on, press=press))
        power = partial(self._pressed, Operation("power"))
        told.append(Element("power", say("Power, off and on"), self.power_rect(), press=power))
        return with_words(told, self.said)

    def _display(self, painter: QPainter) -> None:
        panel, colours = self.panel, THEME.colours
        assert panel is not None
        glass = QRectF(PAD, PAD, self.width() - 2 * PAD, self.height() - 74 - PAD - 12)
        painter.setPen(QPen(QColor(colours.ink), 1.2))
        painter.setBrush(mixed(colours.action, colours.paper, 0.08))
        painter.drawRoundedRect(glass, 6, 6)
        inside = glass.adjusted(14, 8, -14, -8)
        slot = panel.shows
        number = "– –" if slot is None else slot_words(panel.device, slot)
        head = QRectF(inside.left(), inside.top(), 110, inside.height())
        text(painter, head, number, colours.ink, bold(colours.text_px + 22))
        right = QRectF(inside.left() + 120, inside.top(), inside.width() - 120, inside.height())
        self._words(painter, right)

    def _words(self, painter: QPainter, room: QRectF) -> None:
        panel, colours = self.panel, THEME.colours
        assert panel is not None
        content = panel.truth.buffer or in_slot(panel.truth, panel.truth.selected)
        name = panel.device.name if content is None else content.program.name
        edited = panel.truth.buffer is not None and has_buffer(panel.device)
        line = QRectF(room.left(), room.top(), room.width(), 26)
        text(painter, line, name, colours.ink, bold(colours.text_px + 3))
        if edited:
            right = Qt.AlignmentFlag.AlignRight
            told = say("changed, not stored")
            text(painter, line, told, colours.caution, bold(colours.text_px - 1), right)
        top = line.bottom() + 2
        for one in self.shown:
            row = QRectF(room.left(), top, room.width(), 20)
            words = f"{one.thing} · {one.name}: {one.held}"
            text(painter, row, words, colours.ink, font(colours.text_px))
            top += 20
            if top > room.bottom() - 16:
                break

    def _slot(self, painter: QPainter, rect: QRectF, slot: Slot) -> None:
        panel = self.panel
        assert panel is not None
        content = in_slot(panel.truth, slot)
        name = "?" if content is None else content.program.name
        on = same_slot(slot, panel.truth.selected)
        self._key(painter, rect, slot_words(panel.device, slot), name, on)

    def _key(self, painter: QPainter, rect: QRectF, head: str, below: str, on: bool) -> None:
        colours = THEME.colours
        painter.setPen(QPen(QColor(colours.action if on else colours.line), 2.0 if on else 1.2))
        painter.setBrush(QColor(colours.raised))
        painter.drawRoundedRect(rect, 6, 6)
        if on:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(colours.action))
            painter.drawEllipse(QPointF(rect.right() - 10, rect.top() + 10), 4, 4)
        centre = Qt.AlignmentFlag.AlignHCenter
        top = QRectF(rect.left() + 2, rect.top() + 6, rect.width() - 4, 24)
        text(painter, top, head, colours.ink, bold(colours.text_px + 2), centre)
        low = QRectF(rect.left() + 4, rect.top() + 30, rect.width() - 8, 20)
        text(painter, low, below, colours.muted, font(colours.text_px - 3), centre)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Press a key of the panel."""
        at = event.position()
        for number, slot in enumerate(self.slots()):
            if self.slot_rect(number).contains(at):
                self._pressed(Operation("select", slot=slot))
                return
        if self.power_rect().contains(at):
            self._pressed(Operation("power"))
