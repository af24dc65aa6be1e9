"""Pedals against jacks: how each works in each, where it is, where the best fit puts it."""

from functools import partial

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolTip

from vastzone.app.drawn import Drawn, grown_size, with_words
from vastzone.app.frame.sized import bound
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element, Role
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.plan.model.pedals import Meeting, Pedal, PedalPlug, served
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.solve.pedal_fit import DeviceJack
from vastzone.core.solve.pedals import sockets_of

NAMES, HEAD, FOOT, TALL, WIDE = 150.0, 44.0, 24.0, 34.0, 150.0
SAID = {
    "works": say("as wanted"),
    "half": say("half"),
    "not": say("not at all"),
    "never": say("must not go in"),
}
STEPS = {
    Qt.Key.Key_Left: (0, -1),
    Qt.Key.Key_Right: (0, 1),
    Qt.Key.Key_Up: (-1, 0),
    Qt.Key.Key_Down: (1, 0),
}


class SocketGrid(Drawn):
    """A row for each pedal, a column for each jack; press a crossing to plug in, or pull out."""

    pressed = Signal(str, str)
    chosen = Signal(str)
    reached = Signal(int, int)

    def __init__(self) -> None:
        super().__init__()
        self.pedals: tuple[Pedal, ...] = ()
        self.sockets: tuple[DeviceJack, ...] = ()
        self._owners: tuple[str, ...] = ()
        self._now: set[tuple[str, str]] = set()
        self._best: set[tuple[str, str]] = set()
        self.at = (0, 0)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(say("Pedals against jacks"))

    def show_plan(self, plan: Plan, best: tuple[PedalPlug, ...]) -> None:
        """Show what is plugged, and what the best fit would plug."""
        self.pedals, self.sockets = plan.pedals, sockets_of(plan)
        self._owners = tuple(lookup.device(plan, socket.device).name for socket in self.sockets)
        self._now = {(plug.pedal, plug.jack) for plug in plan.pedal_plugs}
        self._best = {(g.pedal, g.jack) for g in best}
        self.at = (
            min(self.at[0], max(0, len(self.pedals) - 1)),
            min(self.at[1], max(0, len(self.sockets) - 1)),
        )
        self.setVisible(bool(self.pedals and self.sockets))
        bound(self, "FixedHeight", round(HEAD + TALL * len(self.pedals) + FOOT))
        self._tell()
        self.update()

    def sizeHint(self) -> QSize:
        """As wide as there is room."""
        return grown_size(640, 240)

    def meets(self, row: int, column: int) -> Meeting:
        """How a pedal would work in a jack as both are set now."""
        socket = self.sockets[column]
        return served(self.pedals[row], socket.jack, socket.device)

    def cell(self, row: int, column: int) -> QRectF:
        """The crossing of a pedal and a jack."""
        wide = min(WIDE, (self.width() - NAMES) / max(1, len(self.sockets)))
        return QRectF(NAMES + column * wide, HEAD + row * TALL, wide, TALL)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Heads, then the crossings, then what the signs mean."""
        colours, painter = THEME.colours, self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        small, plain = font(colours.text_px - 3), font(colours.text_px - 1)
        for column, socket in enumerate(self.sockets):
            head = self.cell(0, column).translated(6, -HEAD)
            line = QRectF(head.left(), 2, head.width() - 10, 20)
            text(painter, line, socket.jack.name, colours.ink, bold(colours.text_px - 2))
            text(painter, line.translated(0, 18), self._owners[column], colours.muted, small)
        for row, pedal in enumerate(self.pedals):
            side = QRectF(4, HEAD + row * TALL, NAMES - 12, TALL)
            text(painter, side, pedal.name, colours.ink, plain)
            for column in range(len(self.sockets)):
                self._paint_cell(painter, row, column)
        key = QRectF(4, HEAD + TALL * len(self.pedals), self.width() - 8, FOOT)
        text(
            painter,
            key,
            say(
                "● as wanted   ◐ half   – not at all   ✕ never   ▢ plugged now   ▢ dashed: best fit"
            ),
            colours.muted,
            small,
        )
        painter.end()

    def elements(self) -> list[Element]:
        """Every crossing of a pedal and a jack."""
        told = []
        for row, pedal in enumerate(self.pedals):
            for column, socket in enumerate(self.sockets):
                plugged = (pedal.id, socket.ref) in self._now
                best = say("the best fit") if (pedal.id, socket.ref) in self._best else ""
                told.append(
                    Element(
                        f"{pedal.id} {socket.ref}",
                        self._words(row, column),
                        self.cell(row, column),
                        Role.CheckBox,
                        say("plugged") if plugged else say("not plugged"),
                        best,
                        (row, column) == self.at,
                        plugged,
                        partial(self.pressed.emit, pedal.id, socket.ref),
                    )
                )
        return with_words(told, self.said)

    def _paint_cell(self, painter: QPainter, row: int, column: int) -> None:
        colours, box = THEME.colours, self.cell(row, column).adjusted(3, 2, -3, -2)
        place = (self.pedals[row].id, self.sockets[column].ref)
        works = self.meets(row, column).works
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(QColor(colours.action_soft if place in self._now else colours.raised))
        painter.drawRoundedRect(box, 5, 5)
        _paint_sign(painter, box.center(), works)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if place in self._now:
            painter.setPen(QPen(QColor(colours.action), 2))
            painter.drawRoundedRect(box, 5, 5)
        elif place in self._best:
            painter.setPen(QPen(QColor(colours.action), 2, Qt.PenStyle.DashLine))
            painter.drawRoundedRect(box, 5, 5)
        if self.hasFocus() and (row, column) == self.at:
            painter.setPen(QPen(QColor(colours.ink), 1.5, Qt.PenStyle.DotLine))
            painter.drawRoundedRect(box.adjusted(3, 3, -3, -3), 4, 4)

    def _place(self, point: QPoint) -> tuple[int, int] | None:
        for row in range(len(self.pedals)):
            for column in range(len(self.sockets)):
                if self.cell(row, column).contains(QPointF(point)):
                    return row, column
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Plug in, or pull out what is plugged there."""
        place = self._place(event.position().toPoint())
        if place is not None:
            self._go(place)
            self._press()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows go about, Space and Return press."""
        step = STEPS.get(Qt.Key(event.key()))
        if step is not None:
            self._go(
                (
                    max(0, min(len(self.pedals) - 1, self.at[0] + step[0])),
                    max(0, min(len(self.sockets) - 1, self.at[1] + step[1])),
                )
            )
        elif event.key() in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._press()
        else:
            super().keyPressEvent(event)

    def _go(self, place: tuple[int, int]) -> None:
        self.at = place
        self._tell()
        self.reached.emit(*place)
        self.chosen.emit(self.pedals[place[0]].id)
        self.update()

    def _press(self) -> None:
        row, column = self.at
        if self.pedals and self.sockets:
            self.pressed.emit(self.pedals[row].id, self.sockets[column].ref)

    def _words(self, row: int, column: int) -> str:
        met, socket = self.meets(row, column), self.sockets[column]
        feel = f": {met.feel}" if met.feel else ""
        return say(
            "{pedals} in {jack} of {owners}: {said}{feel}.",
            pedals=self.pedals[row].name,
            jack=socket.jack.name,
            owners=self._owners[column],
            said=SAID[met.works],
            feel=feel,
        )

    def _tell(self) -> None:
        told = self._words(*self.at) if self.pedals and self.sockets else ""
        self.setAccessibleDescription(told)

    def heard(self, event: QEvent) -> bool:
        """Say in a tool tip how a crossing works; keep Space from the window."""
        if keeps(event, (Qt.Key.Key_Space,)):
            return True
        if isinstance(event, QHelpEvent):
            place = self._place(event.pos())
            if place is not None:
                QToolTip.showText(event.globalPos(), self._words(*place), self)
            return True
        return super().heard(event)


def _paint_sign(painter: QPainter, point: QPointF, works: str) -> None:
    """A dot, a half dot, a dash or a cross: told by shape as well as by colour."""
    colours, size = THEME.colours, 6.5
    round_ = QRectF(point.x() - size, point.y() - size, 2 * size, 2 * size)
    if works == "works":
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.good))
        painter.drawEllipse(round_)
    elif works == "half":
        painter.setPen(QPen(QColor(colours.caution), 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(round_)
        painter.setBrush(QColor(colours.caution))
        painter.drawPie(round_, 90 * 16, 180 * 16)
    elif works == "not":
        painter.setPen(QPen(QColor(colours.muted), 1.6))
        painter.drawLine(QPointF(point.x() - 5, point.y()), QPointF(point.x() + 5, point.y()))
    else:
        painter.setPen(QPen(QColor(colours.fault), 2.2))
        painter.drawLine(round_.topLeft(), round_.bottomRight())
        painter.drawLine(round_.topRight(), round_.bottomLeft())
