"""The drawn rig: devices with their jacks, and cables that are pulled from jack to jack."""

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPainterPathStroker,
    QPaintEvent,
    QResizeEvent,
)
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.applying import Performer
from vastzone.app.drawn import Drawn, with_words
from vastzone.app.frame.sized import bound
from vastzone.app.key_filter import keeps
from vastzone.app.reader import Element
from vastzone.app.theme.current import THEME
from vastzone.app.views.rig import joining, paint
from vastzone.app.views.rig.elements import elements as rig_elements
from vastzone.app.views.rig.geometry import (
    JACK,
    Box,
    BundleShape,
    CableShape,
    JackShape,
    RigPicture,
    lay_out,
)
from vastzone.app.views.rig.joining import bundle_ref, cable_ref
from vastzone.core.engine.usage import Use, usage
from vastzone.core.plan.edits.audio import remove_audio_cables
from vastzone.core.plan.edits.cables import remove_cable
from vastzone.core.plan.edits.devices import remove_device
from vastzone.core.plan.model.plan import Cable
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say
from vastzone.core.text import ALL, listed
from vastzone.desk.session import Desk

REACH = 15.0
AUDIO_FAULTS = frozenset(("sound nowhere", "sound at the desk twice", "not on its channel"))
ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


class RigCanvas(Drawn):
    """Paints the rig; drag from jack to jack to connect, or work the jacks with the keyboard."""

    told = Signal(str, bool)
    laid_open = Signal()

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.picture = RigPicture((), (), 0.0)
        self._held: JackShape | None = None
        self._from = QPointF()
        self._pointer = QPointF()
        self.focused = ""
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("Devices and cables"))

    def rebuild(self) -> None:
        """Lay out anew."""
        room = max(260.0, float(self.room()))
        self.picture = lay_out(self._desk.plan, self.width(), room)
        bound(self, "MinimumHeight", round(self.picture.height))
        if self._held is not None:
            self._held = self.picture.jack(self._held.ref)
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self.rebuild()

    def use_of(self, cable: Cable) -> Use:
        """What goes over a cable in this scene, both ways together."""
        used = usage(self._desk.compiled)
        there = used.get((cable.source, cable.dest), Use((), {}))
        back = used.get((cable.dest, cable.source), Use((), {}))
        channels = tuple(sorted({*there.channels, *back.channels}))
        senders = {}
        for channel in channels:
            senders[channel] = tuple(
                dict.fromkeys((*there.senders.get(channel, ()), *back.senders.get(channel, ())))
            )
        return Use(channels, senders)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Cables below, devices over them, the jacks and labels on top."""
        with self._desk.patience():
            self._paint()

    def _paint(self) -> None:
        desk, painter = self._desk, self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        faulty = self._faulty_cables()
        for wire in self.picture.wires:
            link = self.picture.jack(wire.cable.source)
            chosen = desk.selection == cable_ref(wire.cable)
            colour = paint.wire_colour(chosen, wire.cable in faulty)
            paint.paint_wire(painter, wire.path, link.port.link if link else "din", colour)
        for bundle in self.picture.bundles:
            chosen = desk.selection == bundle_ref(bundle)
            colour = paint.wire_colour(chosen, self._is_wrong(bundle))
            paint.paint_wire(painter, bundle.shape.path, "audio", colour)
        sounding = desk.stage.sounding_parts()
        for box in self.picture.boxes:
            device = box.device.id
            chosen = device_of(desk.selection) == device
            unseen = any(device_of(r) == device for r in desk.unseen)
            paint.paint_box(painter, box, chosen, self._faults(device), unseen, sounding)
            for jack in box.jacks:
                paint.paint_jack(painter, box, jack, self._state(jack))
        for wire in self.picture.wires:
            chosen = desk.selection == cable_ref(wire.cable)
            paint.paint_label(painter, wire, self.use_of(wire.cable).channels, chosen)
        for bundle in self.picture.bundles:
            paint.paint_bundle_label(painter, bundle, desk.selection == bundle_ref(bundle))
        if self._held is not None:
            self._paint_loose(painter, self._held)
        painter.end()

    def elements(self) -> list[Element]:
        """Devices, jacks and cables."""
        told = rig_elements(self._desk, self.picture, self.press_jack, self.use_of)
        return with_words(told, self.said)

    def press_jack(self, jack: JackShape) -> None:
        """Take the plug out of a jack, or put the one in the hand into it."""
        self.focused = jack.ref
        self._press_focused()

    def _is_wrong(self, bundle: BundleShape) -> bool:
        """Whether a fault is about sound that goes from one of two devices to the other."""
        for finding in self._desk.findings:
            devices = {device_of(ref) for ref in finding.subjects}
            if finding.rule in AUDIO_FAULTS and bundle.source in devices:
                return True
        return False

    def _paint_loose(self, painter: QPainter, shape: JackShape) -> None:
        path = QPainterPath(shape.at)
        side = -1.0 if shape.left else 1.0
        c = QPointF(shape.at.x() + side * 60, shape.at.y())
        path.cubicTo(c, QPointF(self._pointer.x() - side * 40, self._pointer.y()), self._pointer)
        paint.paint_wire(painter, path, shape.port.link, QColor(THEME.colours.action))

    def _faults(self, device: str) -> int:
        findings = self._desk.findings_here()
        return sum(
            finding.severity == "fault"
            and any(device_of(s) == device for s in finding.subjects[:1])
            for finding in findings
        )

    def _faulty_cables(self) -> set[Cable]:
        """Cables that a fix of a finding would pull out."""
        labels = set()
        for finding in self._desk.findings:
            if finding.severity == "fault":
                for fix in finding.fixes:
                    labels.add(fix.label)
        cables = set()
        for cable in self._desk.plan.cables:
            if self._pulling(cable) in labels:
                cables.add(cable)
        return cables

    def _pulling(self, cable: Cable) -> str:
        names = []
        for ref in (cable.source, cable.dest):
            jack, box = self.picture.jack(ref), self.picture.box(device_of(ref))
            names.append(f"{box.device.name} {jack.port.name}" if jack and box else "")
        return say("Remove the cable from {names}", names=" to ".join(names))

    def _state(self, jack: JackShape) -> str:
        if self._held is not None:
            if jack.ref == self._held.ref:
                return "held"
            return "refused" if self._refusal(jack) else "allowed"
        return "focus" if jack.ref == self.focused and self.hasFocus() else ""

    def _refusal(self, jack: JackShape) -> str:
        assert self._held is not None
        return joining.refusal(self._desk.plan, self._held, jack)

    def jack_at(self, point: QPointF) -> JackShape | None:
        """The jack under a point."""
        jacks: list[JackShape] = []
        for box in self.picture.boxes:
            jacks.extend(box.jacks)
        near = [(jack.at - point).manhattanLength() for jack in jacks]
        best = min(near, default=REACH + 1)
        return jacks[near.index(best)] if best <= REACH else None

    def box_at(self, point: QPointF) -> Box | None:
        """The device under a point."""
        return next((box for box in self.picture.boxes if box.rect.contains(point)), None)

    def wire_at(self, point: QPointF) -> CableShape | None:
        """The cable under a point."""
        stroker = QPainterPathStroker()
        stroker.setWidth(12)
        for wire in reversed(self.picture.wires):
            chip = QRectF(wire.label.x() - 26, wire.label.y() - 10, 52, 20)
            if chip.contains(point) or stroker.createStroke(wire.path).contains(point):
                return wire
        return None

    def bundle_at(self, point: QPointF) -> BundleShape | None:
        """The audio cables under a point."""
        stroker = QPainterPathStroker()
        stroker.setWidth(12)
        for bundle in reversed(self.picture.bundles):
            at = bundle.shape.label
            chip = QRectF(at.x() - 26, at.y() - 10, 52, 20)
            if chip.contains(point) or stroker.createStroke(bundle.shape.path).contains(point):
                return bundle
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a plug, or choose a device or cable."""
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        point = event.position()
        jack = self.jack_at(point)
        if jack is not None:
            self._take(jack, point)
            return
        box = self.box_at(point)
        wire = None if box else self.wire_at(point)
        bundle = None if box or wire else self.bundle_at(point)
        ref = box.device.id if box else cable_ref(wire.cable) if wire else ""
        self._desk.select(bundle_ref(bundle) if bundle else ref)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """A device that is pressed twice is laid open."""
        box = self.box_at(event.position())
        if box is not None and self.jack_at(event.position()) is None:
            self._desk.select(box.device.id)
            self.laid_open.emit()

    def _take(self, jack: JackShape, point: QPointF) -> None:
        self._held, self._pointer, self._from = jack, point, point
        self.focused = jack.ref
        self._desk.select(jack.ref)
        self.told.emit(say("Drag to the jack at the other end."), False)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Pull the plug along, or tell what is pointed at."""
        self._pointer = event.position()
        if self._held is not None:
            over = self.jack_at(self._pointer)
            if over is not None and over.ref != self._held.ref:
                why = self._refusal(over)
                self.told.emit(
                    why or say("Let go to connect {names}.", names=self._names(over)), bool(why)
                )
            self.update()
            return
        self.told.emit(self._words(self._pointer), False)
        hand = self.jack_at(self._pointer) or self.box_at(self._pointer)
        self.setCursor(
            Qt.CursorShape.PointingHandCursor
            if hand or self.wire_at(self._pointer) or self.bundle_at(self._pointer)
            else Qt.CursorShape.ArrowCursor
        )

    def _names(self, jack: JackShape) -> str:
        assert self._held is not None
        return listed((self._name(j) for j in (self._held, jack)), ALL)

    def _name(self, jack: JackShape) -> str:
        box = self.picture.box(device_of(jack.ref))
        return f"{box.device.name} {jack.port.name}" if box else jack.port.name

    def _words(self, point: QPointF) -> str:
        jack, box = self.jack_at(point), self.box_at(point)
        if jack is not None:
            return say(
                "{name}: {jack}. Drag to connect.",
                name=self._name(jack),
                jack=joining.jack_words(jack.port),
            )
        if box is not None:
            return ""
        bundle = self.bundle_at(point)
        if bundle is not None:
            return joining.bundle_words(self._desk.plan, bundle)
        wire = self.wire_at(point)
        if wire is None:
            return ""
        use = self.use_of(wire.cable)
        names = lookup.names_of(self._desk.plan.devices)
        told = []
        for channel in use.channels:
            told.append(
                say(
                    "{channel} from {names}",
                    channel=channel,
                    names=", ".join(names[send] for send in use.senders[channel]),
                )
            )
        return (
            "Channels " + "; ".join(told) if told else say("Nothing is sent over this cable here.")
        )

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Plug in where the plug is let go."""
        jack, point = self._held, event.position()
        if jack is None or event.button() is not Qt.MouseButton.LeftButton:
            return
        over = self.jack_at(point)
        if over is not None and over.ref == jack.ref and (point - self._from).manhattanLength() < 6:
            self.told.emit(say("Now press the jack at the other end, or Esc."), False)
            return
        self._plug(over)

    def _plug(self, over: JackShape | None) -> None:
        jack_held = self._held
        if jack_held is None:
            return
        if over is None or over.ref == jack_held.ref:
            self.drop()
            return
        why = self._refusal(over)
        self.drop()
        if why:
            self.told.emit(why, True)
            return
        self._perform(joining.joined(self._desk.plan, jack_held, over))
        self.told.emit("Connected.", False)

    def drop(self) -> None:
        """Give the plug up."""
        self._held = None
        self.told.emit("", False)
        self.update()

    @property
    def holding(self) -> bool:
        """Whether a plug is in the hand."""
        return self._held is not None

    def heard(self, event: QEvent) -> bool:
        """Keep Escape and Delete from the window's shortcuts while they mean something here."""
        mine = [Qt.Key.Key_Delete, Qt.Key.Key_Backspace]
        mine += [Qt.Key.Key_Escape] if self.holding else []
        return keeps(event, mine) or super().heard(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows go from jack to jack, Enter takes the plug and puts it in, Delete removes."""
        key = Qt.Key(event.key())
        if key in ARROWS:
            self._step(*ARROWS[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._press_focused()
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove_selected()
        elif key is Qt.Key.Key_Escape and self.holding:
            self.drop()
        else:
            super().keyPressEvent(event)

    def _step(self, dx: int, dy: int) -> None:
        jacks: list[JackShape] = []
        for box in self.picture.boxes:
            jacks.extend(box.jacks)
        if self._held is not None:
            jacks = [
                jack for jack in jacks if jack.ref == self._held.ref or not self._refusal(jack)
            ]
        here = self.picture.jack(self.focused)
        if here is None or here.ref not in {jack.ref for jack in jacks}:
            chosen = jacks[0] if jacks else None
        else:
            chosen = _nearest(here, jacks, dx, dy)
        if chosen is not None:
            self.focused, self._pointer = chosen.ref, chosen.at
            self._desk.select(chosen.ref)
            self.told.emit(self._words(chosen.at), False)
        self.update()

    def attend(self) -> None:
        """Bring the cursor to the selected jack, or to one of the selected device.

        That is the first which something can be plugged into.
        """
        selection = self._desk.selection
        for box in self.picture.boxes:
            refs = [jack.ref for jack in box.jacks]
            if selection in refs:
                self.focused = selection
            elif device_of(selection) == box.device.id and self.focused not in refs and refs:
                free = [jack.ref for jack in box.jacks if self._has_partner(jack)]
                self.focused = (free or refs)[0]

    def _has_partner(self, jack: JackShape) -> bool:
        for box in self.picture.boxes:
            for other in box.jacks:
                apart = device_of(other.ref) != device_of(jack.ref)
                if apart and not joining.refusal(self._desk.plan, jack, other):
                    return True
        return False

    def _press_focused(self) -> None:
        if self.picture.jack(self.focused) is None:
            self.attend()
        jack = self.picture.jack(self.focused)
        if jack is None:
            return
        if self._held is None:
            self._take(jack, jack.at)
        else:
            self._plug(jack)

    def remove_selected(self) -> None:
        """Take the selected cable or device out, or the cable in the jack that has the focus."""
        desk = self._desk
        for bundle in self.picture.bundles:
            if desk.selection == bundle_ref(bundle):
                self._perform(remove_audio_cables(bundle.cables))
                return
        for cable in desk.plan.cables:
            if desk.selection in (cable_ref(cable), cable.source, cable.dest):
                self._perform(remove_cable(cable))
                return
        if any(device.id == desk.selection for device in desk.plan.devices):
            self._perform(remove_device(desk.selection))


def _nearest(here: JackShape, jacks: list[JackShape], dx: int, dy: int) -> JackShape | None:
    """The next jack in a direction."""

    def cost(jack: JackShape) -> float:
        along = (jack.at.x() - here.at.x()) * dx + (jack.at.y() - here.at.y()) * dy
        across = abs((jack.at.x() - here.at.x()) * dy) + abs((jack.at.y() - here.at.y()) * dx)
        return along + 2.2 * across if along > JACK else float("inf")

    best = min(jacks, key=cost, default=None)
    return best if best is not None and cost(best) < float("inf") else here
