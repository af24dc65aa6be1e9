"""The Rig view: what there is and how it is connected."""

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QScrollArea, QVBoxLayout

from vastzone.app.applying import Performer
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.app.views.base import View
from vastzone.app.views.rig.add import AddDevice
from vastzone.app.views.rig.canvas import RigCanvas
from vastzone.core.plan.edits.devices import add_device as edit_add_device
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.desk.session import Desk


class RigView(View):
    """The canvas with a bar above and a line about what is pointed at below."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self.canvas = RigCanvas(desk, perform)
        self._scroll = QScrollArea()
        self._scroll.setObjectName("canvasScroll")
        self._scroll.setWidgetResizable(True)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._scroll.setWidget(self.canvas)
        self.add = Button("Add device")
        set_tip(self.add, "A device of the library, or one of your own (Ctrl+D)")
        self.add.clicked.connect(self.add_device)
        self._what = Elided("muted")
        bar = QHBoxLayout()
        bar.setContentsMargins(16, 10, 16, 4)
        bar.setSpacing(12)
        bar.addWidget(self._what, 1)
        bar.addWidget(self.add)
        self.line = Elided("muted", self.canvas)
        self.line.setContentsMargins(16, 4, 16, 8)
        self.line.setMinimumHeight(30)
        self._empty = EmptyState(
            "Begin with what you play",
            "Add the keyboards, pads and pedals of your rig, then what sounds, then the cables "
            "between them.",
            "Add device",
            self.add_device,
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(bar)
        box.addWidget(self._scroll, 1)
        box.addWidget(self._empty, 1)
        box.addWidget(self.line)
        self.canvas.told.connect(self._tell)
        desk.stage.sounding.connect(self._light)
        self.setFocusProxy(self.canvas)

    def _tell(self, sentence: str, bad: bool) -> None:
        role = "fault" if bad else "muted"
        if self.line.property("role") != role:
            self.line.setProperty("role", role)
            self.line.style().unpolish(self.line)
            self.line.style().polish(self.line)
        self.line.show_text(sentence)

    def _light(self) -> None:
        if self.isVisible():
            self.canvas.update()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        plan, scene = self.desk.plan, self.desk.scene
        self._empty.setVisible(not plan.devices)
        self._scroll.setVisible(bool(plan.devices))
        self.add.setIcon(icon("plus", THEME.colours.ink, 18))
        count = f"{len(plan.devices)} devices, {len(plan.cables)} cables"
        when = f" · on each cable the channels it carries in {scene.name}" if scene else ""
        self._what.show_text(count + when if plan.devices else "")
        self.canvas.rebuild()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Let the rig fill the height."""
        super().resizeEvent(event)
        QTimer.singleShot(0, self.canvas.rebuild)

    def add_device(self) -> None:
        """Choose a device and add it."""
        AddDevice(self, self._added).open()

    def _added(self, device: Device) -> None:
        before = lookup.ids_of(self.desk.plan.devices)
        self._perform(edit_add_device(device))
        new = next((d for d in self.desk.plan.devices if d.id not in before), None)
        if new is not None:
            self.desk.select(new.id)
            self._tell(f"{new.name} is added. Drag from its jacks to connect it.", False)
        self.canvas.setFocus()
