"""Adding a device: the library by what it is for, one's own files, a line to type in."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.rows import Cell
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.app.views.rig.faces import summary
from vastzone.core.errors import PlanError
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.files.devices import read_device, shipped

GROUPS = (
    ("What hands and feet play", "play"),
    ("What sounds", "sound"),
    ("What joins them", "join"),
)


def grouped(devices: list[Device]) -> list[tuple[str, list[Device]]]:
    """Devices by what they are for."""
    by_purpose: dict[str, list[Device]] = {purpose: [] for _, purpose in GROUPS}
    only_played = []
    for device in devices:
        if _only_played(device):
            only_played.append(device)
        else:
            by_purpose[device_ability(device).purpose].append(device)
    by_purpose["play"] += only_played
    return [(name, by_purpose[purpose]) for name, purpose in GROUPS]


def _only_played(device: Device) -> bool:
    """Whether a module is there for its controls: it has nothing that sounds."""
    return device.kind == "module" and bool(device.controls) and not device.parts


class AddDevice(Dialog):
    """Choose a device to add; Enter or a double click adds it."""

    def __init__(self, parent: QWidget, add: Callable[[Device], object]) -> None:
        super().__init__(parent)
        self._add = add
        self._devices = grouped(list(shipped().values()))
        set_title(self, "Add a device")
        self.resize(560, 520)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        title = Label("Add a device")
        title.setProperty("role", "title")
        box.addWidget(title)
        self.line = QLineEdit()
        self.line.setPlaceholderText("Type to narrow the list: keys, pads, merger …")
        self.line.setAccessibleName("Narrow the list")
        self.line.textChanged.connect(self._fill)
        self.line.installEventFilter(self)
        box.addWidget(self.line)
        self.list = RowList("Devices of the library")
        self.list.activated.connect(lambda _: self._take())
        box.addWidget(self.list, 1)
        row = QHBoxLayout()
        file = Button("From a file…")
        file.clicked.connect(self._from_file)
        row.addWidget(file)
        row.addStretch()
        cancel = Button("Cancel")
        cancel.clicked.connect(self.reject)
        row.addWidget(cancel)
        self.take = Button("Add")
        self.take.setProperty("role", "primary")
        self.take.clicked.connect(self._take)
        row.addWidget(self.take)
        box.addLayout(row)
        self._message = Label()
        self._message.setProperty("role", "fault")
        self._message.setWordWrap(True)
        self._message.hide()
        box.insertWidget(2, self._message)
        self._fill("")

    def _fill(self, text: str) -> None:
        words = text.lower().split()
        lines: list[tuple[Cell, Device | None]] = []
        face, shade = bold(THEME.colours.text_px - 1), THEME.colours.muted
        for name, devices in self._devices:
            fitting = []
            for device in devices:
                if all(word in f"{device.name} {device.kind}".lower() for word in words):
                    fitting.append(device)
            if not fitting:
                continue
            lines.append((Cell(name, face=face, colour=shade, heading=True), None))
            lines.extend((Cell(f"    {d.name}    ({summary(d)})"), d) for d in fitting)
        self.list.show_lines(lines, at=1)

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
            self._message.setText(str(error))
            self._message.show()
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
