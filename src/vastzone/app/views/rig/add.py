"""Adding a device: the library by what it is for, one's own files, a line to type in."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QColor, QKeyEvent
from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.app.views.rig.faces import summary
from vastzone.core.errors import PlanError
from vastzone.core.plan.model import Device
from vastzone.files.devices import SUFFIX, read_device, shipped

GROUPS = (
    ("What hands and feet play", ("keyboard", "pads", "floorboard", "encoder")),
    ("What sounds", ("module", "sampler", "looper")),
    ("What joins them", ("merger", "computer", "interface")),
)


def ask_device_file(parent: QWidget) -> Path | None:
    """Which device file to read; None when given up."""
    name, _ = QFileDialog.getOpenFileName(
        parent, "Device from a file", "", f"Devices (*{SUFFIX});;All files (*)"
    )
    return Path(name) if name else None


def grouped(devices: list[Device]) -> list[tuple[str, list[Device]]]:
    """Devices by what they are for."""
    held = []
    for name, kinds in GROUPS:
        inside = [d for d in devices if d.kind in kinds]
        if name == GROUPS[0][0]:
            inside += [d for d in devices if d.kind == "module" and d.controls and not d.parts]
        elif name == GROUPS[1][0]:
            inside = [d for d in inside if d.parts or d.targets]
        held.append((name, inside))
    return held


class AddDevice(QDialog):
    """Choose a device to add; Enter or a double click adds it."""

    def __init__(self, parent: QWidget, add: Callable[[Device], object]) -> None:
        super().__init__(parent)
        self._add = add
        self._devices = grouped(list(shipped().values()))
        self.setWindowTitle("Add a device")
        self.resize(560, 520)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        title = QLabel("Add a device")
        title.setProperty("role", "title")
        box.addWidget(title)
        self.line = QLineEdit()
        self.line.setPlaceholderText("Type to narrow the list: keys, pads, merger …")
        self.line.setAccessibleName("Narrow the list")
        self.line.textChanged.connect(self._fill)
        self.line.installEventFilter(self)
        box.addWidget(self.line)
        self.list = QListWidget()
        self.list.setAccessibleName("Devices of the library")
        self.list.itemActivated.connect(lambda _: self._take())
        box.addWidget(self.list, 1)
        row = QHBoxLayout()
        file = QPushButton("From a file…")
        file.clicked.connect(self._from_file)
        row.addWidget(file)
        row.addStretch()
        cancel = QPushButton("Cancel")
        cancel.clicked.connect(self.reject)
        row.addWidget(cancel)
        self.take = QPushButton("Add")
        self.take.setProperty("role", "primary")
        self.take.clicked.connect(self._take)
        row.addWidget(self.take)
        box.addLayout(row)
        self._message = QLabel()
        self._message.setProperty("role", "fault")
        self._message.setWordWrap(True)
        self._message.hide()
        box.insertWidget(2, self._message)
        self._fill("")

    def _fill(self, text: str) -> None:
        words = text.lower().split()
        self.list.clear()
        for name, devices in self._devices:
            fitting = [d for d in devices if all(w in f"{d.name} {d.kind}".lower() for w in words)]
            if not fitting:
                continue
            head = QListWidgetItem(name, self.list)
            head.setFlags(Qt.ItemFlag.NoItemFlags)
            head.setFont(bold(THEME.colours.text_px - 1))
            head.setForeground(QColor(THEME.colours.muted))
            for device in fitting:
                item = QListWidgetItem(f"    {device.name}    ({summary(device)})", self.list)
                item.setData(Qt.ItemDataRole.UserRole, device)
                if self.list.currentItem() is None:
                    self.list.setCurrentItem(item)

    def _take(self) -> None:
        item = self.list.currentItem()
        device = item.data(Qt.ItemDataRole.UserRole) if item else None
        if device is not None:
            self.accept()
            self._add(device)

    def _from_file(self) -> None:
        path = ask_device_file(self)
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
                self.list.event(event)
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take()
                return True
        return False
