"""Adding a device: told in a line, found in the library by plain words, or read from a file."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QEvent, QObject, QRectF, QSize, Qt
from PySide6.QtGui import QIcon, QKeyEvent, QPainter, QPixmap
from PySide6.QtWidgets import (
    QLineEdit,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.rows import Cell
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.app.views.rig.faces import paint_face, summary
from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import new_device
from vastzone.core.describe.search import found
from vastzone.core.errors import PlanError
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say, typed
from vastzone.files.devices import own_devices, read_device, shipped

PICTURE = QSize(92, 40)
EXAMPLE = say(
    "{line} …  or search: {words}",
    line=typed("Plover 61: 61 keys from C2, 8 pads, 9 faders, sustain jack"),
    words=typed("organ, looper"),
)


def picture_of(device: Device) -> QIcon:
    """A device's face, small."""
    ratio = 2
    pixmap = QPixmap(PICTURE * ratio)
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paint_face(painter, QRectF(2, 2, PICTURE.width() - 4, PICTURE.height() - 4), device, set())
    painter.end()
    return QIcon(pixmap)


class AddDevice(Dialog):
    """Say in a line what it has, or choose one; Enter or a double click adds it."""

    def __init__(
        self,
        parent: QWidget,
        add: Callable[[Device], object],
        own: Path | None,
        press: str = "Add",
    ) -> None:
        super().__init__(parent)
        self._add = add
        self._shipped = tuple(shipped().values())
        self._own = own_devices(own) if own is not None else ()
        self._pictures: dict[str, QIcon] = {}
        box = self.begin(say("Add a device"), say("Say what it has, or find one like it"), 680, 600)
        self.line = QLineEdit()
        self.line.setPlaceholderText(EXAMPLE)
        self.line.setMaxLength(4000)
        self.line.setAccessibleName(say("What the device has, or words to find one by"))
        self.line.textChanged.connect(self._fill)
        self.line.installEventFilter(self)
        box.addWidget(self.line)
        self._message = Elided("muted")
        box.addWidget(self._message)
        self.list = RowList("Devices")
        self.list.setIconSize(PICTURE)
        self.list.setSpacing(1)
        self.list.activated.connect(lambda _: self._take())
        box.addWidget(self.list, 1)
        file = Button(say("From a file…"))
        file.setAutoDefault(False)
        file.clicked.connect(self._from_file)
        self.take = Button(press)
        self.take.clicked.connect(self._take)
        self.answers(box, say("Cancel"), self.take, file)
        self._fill("")

    def _fill(self, text: str) -> None:
        told, refusal = _told(text)
        lines: list[tuple[Cell, Device | None]] = []
        described = told is not None and _is_description(text)
        for name, devices in () if described else self._groups(text):
            lines.append((self._heading(name), None))
            lines.extend((self._cell(device), device) for device in devices)
        if told is not None:
            mine = [(self._heading(say("As you said it")), None), (self._cell(told), told)]
            lines += mine
        at = next((place for place, (_, device) in enumerate(lines) if device is not None), -1)
        self.list.show_lines(lines, at=at)
        self.take.setEnabled(at >= 0)
        self._say(refusal if refusal and (not lines or _is_description(text)) else "")

    def _groups(self, words: str) -> list[tuple[str, tuple[Device, ...]]]:
        """The shelves of the library, one's own devices first."""
        shelves = [(say("Your own"), shelf.devices) for shelf in found(self._own, words)]
        return [*shelves, *found(self._shipped, words)]

    def _heading(self, name: str) -> Cell:
        face = bold(THEME.colours.text_px - 1)
        return Cell(name, face=face, colour=THEME.colours.muted, heading=True)

    def _cell(self, device: Device) -> Cell:
        picture = self._pictures.get(device.id)
        if picture is None or device not in (*self._shipped, *self._own):
            picture = self._pictures[device.id] = picture_of(device)
        tip = device.notes or summary(device)
        return Cell(f"{device.name}\n{device.notes or summary(device)}", tip, picture)

    def _say(self, sentence: str) -> None:
        self._message.show_text(sentence)

    def _take(self) -> None:
        device = self.list.ref
        if isinstance(device, Device):
            self.accept()
            self._add(device)

    def _from_file(self) -> None:
        path = dialogs.ask_device(self)
        if path is None:
            return
        try:
            device = read_device(path)
        except PlanError as error:
            self._say(str(error))
            return
        self.accept()
        self._add(device)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Up and down in the line move in the list."""
        if event.type() is QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
                self.list.event(QKeyEvent(event))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take()
                return True
        return False


def _is_description(text: str) -> bool:
    """Whether a line tells of a device and does not just look for one."""
    return any(letter.isdigit() for letter in text) or ":" in text or "," in text


def _told(text: str) -> tuple[Device | None, str]:
    """The device that a line tells of; none, and why, where it is not understood."""
    if not text.strip():
        return None, ""
    try:
        return new_device(read_line(text)), ""
    except PlanError as error:
        return None, str(error)
