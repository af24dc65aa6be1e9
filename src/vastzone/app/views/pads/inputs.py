"""The back of a drum module: a row of jacks, and the pads that are plugged into them."""

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.applying import Performer
from vastzone.app.drawn import Drawn, with_words
from vastzone.app.frame.sheets_pads import PAD
from vastzone.app.frame.sized import bound
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element
from vastzone.app.theme.colours import legible, mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.app.views.pads.elements import inputs
from vastzone.app.views.pads.inputs_layout import Heading, InputSocket, PadTile, lay_out
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits import plugs
from vastzone.core.plan.model.triggers import TriggerInput, TriggerPad, surviving
from vastzone.core.plan.queries.plugged import in_input
from vastzone.core.say import say, say_each
from vastzone.core.text import listed
from vastzone.desk.session import Desk

SHADE = {"must": 0.3, "wanted": 0.16, "spare": 0.07}


class InputsCanvas(Drawn):
    """Jacks above, pads below, plugs between: drag a pad to a jack, or to nothing."""

    told = Signal(str, bool)

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.sockets: list[InputSocket] = []
        self.tiles: list[PadTile] = []
        self.headings: list[Heading] = []
        self._held: PadTile | None = None
        self._pointer = QPointF()
        self.at = 0
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("Inputs and pads"))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self.rebuild()

    def rebuild(self) -> None:
        """Lay out anew: as high as it takes, in what is scrolled where that is more than fits."""
        laid = lay_out(self._desk.plan, self.width(), self.room())
        self.sockets, self.tiles, self.headings = laid.sockets, laid.tiles, laid.headings
        bound(self, "MinimumHeight", int(laid.high))
        chosen = self._desk.selection.removeprefix(PAD)
        for number, tile in enumerate(self.tiles):
            if tile.pad.id == chosen:
                self.at = number
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Wires first, then jacks and pads."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(THEME.colours.paper))
        sockets = {s.ref: s for s in self.sockets}
        for plug in self._desk.plan.plugs:
            tile = next((t for t in self.tiles if t.pad.id == plug.pad), None)
            if tile is not None and plug.input in sockets:
                socket = sockets[plug.input]
                split = in_input(self._desk.plan, plug.input).is_split
                lost = set(tile.pad.zones) - set(surviving(tile.pad, socket.input.type, split))
                self._wire(painter, tile, socket, bool(lost), split)
        for heading in self.headings:
            colours = THEME.colours
            text(painter, heading.rect, heading.words, colours.muted, bold(colours.text_px - 1))
        for socket in self.sockets:
            self._socket(painter, socket)
        for n, tile in enumerate(self.tiles):
            self._tile(painter, tile, n == self.at and self.hasFocus())
        if self._held is not None:
            self._loose(painter, self._held)
        painter.end()

    def elements(self) -> list[Element]:
        """Jacks and pads."""
        told = inputs(
            self._desk.plan,
            self._desk.selection,
            self.sockets,
            self.tiles,
            self.headings,
            lambda tile: self._zones_words(tile.pad)[0],
            self.step_type,
            lambda tile: self._desk.select(f"{PAD}{tile.pad.id}"),
        )
        return with_words(told, self.said)

    def step_type(self, socket: InputSocket) -> None:
        """Select a jack, and set it to the next of its types."""
        self._desk.select(socket.ref)
        types = socket.input.types
        if len(types) > 1:
            following = types[(types.index(socket.input.type) + 1) % len(types)]
            self._perform(plugs.set_input(socket.ref, following))

    def _wire(
        self, painter: QPainter, tile: PadTile, socket: InputSocket, lossy: bool, split: bool
    ) -> None:
        colours = THEME.colours
        a, b = QPointF(tile.rect.center().x(), tile.rect.top()), socket.hole
        path = QPainterPath(a)
        bend = (a.y() - b.y()) * 0.5
        path.cubicTo(QPointF(a.x(), a.y() - bend), QPointF(b.x(), b.y() + bend), b)
        pen = QPen(QColor(colours.caution if lossy else colours.good), 2.6)
        if split:
            pen.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
        if lossy:  # a cross on it: told by shape as well as by colour
            middle = path.pointAtPercent(0.5)
            painter.drawLine(middle - QPointF(6, 4), middle + QPointF(6, 4))
            painter.drawLine(middle - QPointF(6, -4), middle + QPointF(6, -4))

    def _socket(self, painter: QPainter, socket: InputSocket) -> None:
        colours, rect = THEME.colours, socket.rect
        chosen = self._desk.selection == socket.ref
        state = ""
        if self._held is not None:
            state = (
                say("no")
                if plugs.refusal(self._desk.plan, self._held.pad, socket.ref)
                else say("yes")
            )
        painter.setPen(
            QPen(
                QColor(colours.action if chosen or state == "yes" else colours.line),
                2.2 if chosen or state == "yes" else 1.2,
            )
        )
        painter.setBrush(QColor(colours.sunken if state == "no" else colours.raised))
        painter.drawRoundedRect(rect, 7, 7)
        inner = rect.adjusted(5, 5, -5, -5)
        align = Qt.AlignmentFlag.AlignHCenter
        line = QRectF(inner.left(), inner.top(), inner.width(), 18)
        text(painter, line, socket.input.name, colours.ink, bold(colours.text_px - 2), align)
        text(
            painter,
            line.translated(0, 18),
            say(socket.input.type),
            colours.muted,
            font(colours.text_px - 2),
            align,
        )
        if len(socket.input.types) > 1:
            types = [each for each in socket.input.types if each != socket.input.type]
            others = say("or {others}", others=", ".join(say_each(types)))
            text(
                painter,
                line.translated(0, 34),
                others,
                colours.action,
                font(colours.text_px - 3),
                align,
            )
        painter.setPen(QPen(QColor(colours.ink), 2))
        painter.setBrush(QColor(colours.paper))
        painter.drawEllipse(socket.hole, 9, 9)
        painter.setBrush(QColor(colours.ink))
        painter.drawEllipse(socket.hole, 3.4, 3.4)

    def _tile(self, painter: QPainter, tile: PadTile, focused: bool) -> None:
        colours, rect, pad = THEME.colours, tile.rect, tile.pad
        marked = focused or (self._held is not None and self._held.pad.id == pad.id)
        painter.setPen(
            QPen(QColor(colours.action if marked else colours.line), 2.2 if marked else 1.2)
        )
        shade = mixed(colours.action, colours.raised, SHADE[pad.importance])
        painter.setBrush(shade)
        painter.drawRoundedRect(rect, 10, 10)
        inner = rect.adjusted(9, 4, -9, -4)
        line = QRectF(inner.left(), inner.top(), inner.width(), 19)
        text(painter, line, pad.name, legible(colours.ink, shade), bold(colours.text_px - 1))
        if rect.height() > 57:
            what, tiny = f"{say(pad.sensor)} · {say(pad.importance)}", font(colours.text_px - 3)
            text(painter, line.translated(0, 18), what, legible(colours.muted, shade), tiny)
        words, ink = self._zones_words(pad)
        last = QRectF(inner.left(), inner.bottom() - 19, inner.width(), 18)
        text(painter, last, words, legible(ink, shade), bold(colours.text_px - 2))

    def _zones_words(self, pad: TriggerPad) -> tuple[str, str]:
        """The zones of a pad that are heard and lost, and the colour that says so."""
        colours = THEME.colours
        kept, lost = self._zones(pad)
        if not kept:
            return say("in no input"), colours.fault
        side = next((plug.side for plug in self._desk.plan.plugs if plug.pad == pad.id), "")
        if side:
            kept = (say("{kept} by the {side}", kept=" ".join(kept), side=say(side)),)
        if not lost:
            return " ".join(kept), colours.good
        return f"{' '.join(kept)}  − {' '.join(lost)}", colours.caution

    def _zones(self, pad: TriggerPad) -> tuple[tuple[str, ...], tuple[str, ...]]:
        plan = self._desk.plan
        plug = next((g for g in plan.plugs if g.pad == pad.id), None)
        if plug is None:
            return (), tuple(say_each(pad.zones))
        split = in_input(plan, plug.input).is_split
        kept = surviving(pad, plugs.trigger_input(plan, plug.input)[1].type, split)
        lost = [zone for zone in pad.zones if zone not in kept]
        return tuple(say_each(kept)), tuple(say_each(lost))

    def _loose(self, painter: QPainter, tile: PadTile) -> None:
        colours = THEME.colours
        painter.setPen(QPen(QColor(colours.action), 3))
        painter.drawLine(QPointF(tile.rect.center().x(), tile.rect.top()), self._pointer)
        painter.setBrush(QColor(colours.action))
        painter.drawEllipse(self._pointer, 6, 6)

    def tile_at(self, point: QPointF) -> PadTile | None:
        """The pad under a point."""
        return next((tile for tile in self.tiles if tile.rect.contains(point)), None)

    def socket_at(self, point: QPointF) -> InputSocket | None:
        """The jack under a point."""
        return next((socket for socket in self.sockets if socket.rect.contains(point)), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a pad's plug, or step an input through its types."""
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        tile, socket = self.tile_at(event.position()), self.socket_at(event.position())
        if tile is not None:
            self._held, self._pointer = tile, event.position()
            self.at = self.tiles.index(tile)
            self._desk.select(f"{PAD}{tile.pad.id}")
        elif socket is not None:
            self.step_type(socket)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Pull the plug, and say at once what would work and what be lost."""
        self._pointer = event.position()
        if self._held is not None:
            socket = self.socket_at(self._pointer)
            self._tell(self._held.pad, socket)
            self.update()

    def _tell(self, pad: TriggerPad, socket: InputSocket | None) -> None:
        if socket is None:
            self.told.emit(say("Let go over a jack, or beside them to pull the plug out."), False)
            return
        why = plugs.refusal(self._desk.plan, pad, socket.ref)
        self.told.emit(why or fate(pad, socket.input), bool(why))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Plug in, or pull out where there is no jack."""
        tile, self._held = self._held, None
        if tile is None:
            return
        socket = self.socket_at(event.position())
        if socket is not None:
            self.plug(tile.pad, socket)
        elif self.tile_at(event.position()) is None:
            if any(plug.pad == tile.pad.id for plug in self._desk.plan.plugs):
                self._perform(plugs.pull_out(tile.pad.id))
            self.told.emit("", False)
        self.update()

    def plug(self, pad: TriggerPad, socket: InputSocket) -> None:
        """Put a pad into a jack; say why not when it cannot be."""
        try:
            self._perform(plugs.plug_in(self._desk.plan, pad.id, socket.ref))
        except PlanError as error:
            self.told.emit(str(error), True)
            return
        self.told.emit(fate(pad, socket.input), False)

    def heard(self, event: QEvent) -> bool:
        """Keep Delete and Space from the window's shortcuts: they pull a plug and set a type."""
        mine = (Qt.Key.Key_Delete, Qt.Key.Key_Backspace, Qt.Key.Key_Space)
        return keeps(event, mine) or super().heard(event)

    def _chosen_socket(self) -> int:
        """The place of the jack that is selected; −1 where none is."""
        refs = [socket.ref for socket in self.sockets]
        return refs.index(self._desk.selection) if self._desk.selection in refs else -1

    def _at_jacks(self, key: Qt.Key, ctrl: bool) -> bool:
        """What keys do with jacks: Ctrl with up goes to them, Enter sets the next type."""
        at = self._chosen_socket()
        if ctrl and key is Qt.Key.Key_Up and self.sockets:
            plugged = {plug.pad: plug.input for plug in self._desk.plan.plugs}
            pad = self.tiles[self.at].pad.id if self.tiles else ""
            self._desk.select(plugged.get(pad, self.sockets[0].ref))
        elif at < 0:
            return False
        elif ctrl and key is Qt.Key.Key_Down and self.tiles:
            self._desk.select(f"{PAD}{self.tiles[self.at].pad.id}")
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            step = 1 if key is Qt.Key.Key_Right else -1
            self._desk.select(self.sockets[max(0, min(len(self.sockets) - 1, at + step))].ref)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.step_type(self.sockets[at])
        else:
            return False
        self.update()
        return True

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right choose a pad, up and down move its plug, Delete pulls it out.

        Ctrl with up goes to the jacks, where Enter sets the next type; Ctrl with down back.
        """
        key = Qt.Key(event.key())
        if self._at_jacks(key, bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)):
            return
        if not self.tiles:
            super().keyPressEvent(event)
            return
        pad = self.tiles[min(self.at, len(self.tiles) - 1)].pad
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            step = 1 if key is Qt.Key.Key_Right else -1
            self.at = max(0, min(len(self.tiles) - 1, self.at + step))
            self._desk.select(f"{PAD}{self.tiles[self.at].pad.id}")
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._next_jack(pad, 1 if key is Qt.Key.Key_Down else -1)
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self._perform(plugs.pull_out(pad.id))
        else:
            super().keyPressEvent(event)
        self.update()

    def _next_jack(self, pad: TriggerPad, step: int) -> None:
        """The next jack that takes a pad."""
        plan = self._desk.plan
        refs = [socket.ref for socket in self.sockets]
        here = next((plug.input for plug in plan.plugs if plug.pad == pad.id), None)
        start = refs.index(here) if here in refs else (-1 if step > 0 else 0)
        for number in range(1, len(refs) + 1):
            place = (start + number * step) % len(refs)
            if refs[place] != here and not plugs.refusal(plan, pad, refs[place]):
                self.plug(pad, self.sockets[place])
                self.at = [tile.pad.id for tile in self.tiles].index(pad.id)
                return


def fate(pad: TriggerPad, socket: TriggerInput) -> str:
    """What works and what is lost when a pad is in an input."""
    kept = surviving(pad, socket.type)
    lost = []
    for zone in pad.zones:
        if zone not in kept:
            lost.append(zone)
    works = (
        say("{pad} in {socket}: {kept} works", pad=pad.name, socket=socket.name, kept=listed(kept))
        if len(kept) == 1
        else say(
            "{pad} in {socket}: {kept} work", pad=pad.name, socket=socket.name, kept=listed(kept)
        )
    )
    return (
        (
            say("{works}, {lost} is lost.", works=works, lost=listed(lost))
            if len(lost) == 1
            else say("{works}, {lost} are lost.", works=works, lost=listed(lost))
        )
        if lost
        else (f"{works}.")
    )
