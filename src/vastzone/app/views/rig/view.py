"""The Rig view: what there is and how it is connected."""

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.dressed import dress
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.pages import page_buttons
from vastzone.app.frame.sized import bound
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.app.views.base import View
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.app.views.rig.add import AddDevice
from vastzone.app.views.rig.canvas import RigCanvas
from vastzone.app.views.rig.workshop.page import DevicePage
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits.devices import add_device as edit_add_device
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk


class RigView(View):
    """The rig as a whole, or one device laid open."""

    page_names = PAGE_NAMES["rig"]

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
        self.add = Button(say("Add device"))
        set_tip(self.add, say("A device of the library, or one of your own (Ctrl+D)"))
        self.add.clicked.connect(self.add_device)
        self._what = Elided("muted")
        self.device_page = DevicePage(desk, self.add_device)
        bar = QHBoxLayout()
        bar.setContentsMargins(16, 10, 16, 4)
        bar.setSpacing(12)
        self._pages = page_buttons(self, self.page_names, bar, self._turn)
        bar.addWidget(self._what, 1)
        bar.addWidget(self.device_page.bar, 1)
        bar.addWidget(self.add)
        self.device_page.bar.hide()
        self.line = Elided("muted", self.canvas)
        self.line.setContentsMargins(16, 4, 16, 8)
        bound(self.line, "MinimumHeight", 30)
        self._empty = EmptyState(
            say("Begin with what you play"),
            say(
                "Add the keyboards, pads and pedals of your rig, then what sounds, then the cables "
                "between them."
            ),
            say("Add device"),
            self.add_device,
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        whole = QWidget()
        rig = QVBoxLayout(whole)
        rig.setContentsMargins(0, 0, 0, 0)
        rig.setSpacing(0)
        rig.addWidget(self._scroll, 1)
        rig.addWidget(self._empty, 1)
        rig.addWidget(self.line)
        self._stack = Stack()
        self._stack.add(whole)
        self._stack.add(self.device_page)
        box.addLayout(bar)
        box.addWidget(self._stack, 1)
        self.canvas.told.connect(self._tell)
        self.canvas.laid_open.connect(lambda: self.show_page(1))
        desk.stage.sounding.connect(self._light)
        self.lead = self.canvas

    def show_page(self, page: int) -> None:
        """Show the rig, or a device."""
        self._pages.button(page).setChecked(True)
        self._turn()

    def _turn(self) -> None:
        page = self._pages.checkedId()
        self._stack.show_at(page)
        self.device_page.bar.setVisible(bool(page))
        self._what.setVisible(not page)
        self.add.setVisible(not page)
        self.lead = self.device_page.canvas if page else self.canvas

    def _tell(self, sentence: str, bad: bool) -> None:
        dress(self.line, "role", "fault" if bad else "muted")
        self.line.show_text(sentence)

    def _light(self) -> None:
        if self.isVisible():
            self.canvas.update()

    def attend(self) -> None:
        """Bring the cursor to the selected jack, or to the first of the selected device."""
        self.canvas.attend()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        plan, scene = self.desk.plan, self.desk.scene
        self._empty.setVisible(not plan.devices)
        self._scroll.setVisible(bool(plan.devices))
        self.add.setIcon(icon("plus", THEME.colours.ink, 18))
        count = say(
            "{devices}, {cables}",
            devices=say_many("{count} device", "{count} devices", len(plan.devices)),
            cables=say_many("{count} cable", "{count} cables", len(plan.cables)),
        )
        when = (
            say(" · on each cable the channels it carries in {scene}", scene=scene.name)
            if scene
            else ""
        )
        self._what.show_text(count + when if plan.devices else "")
        self.canvas.rebuild()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Let the rig fill the height."""
        super().resizeEvent(event)
        QTimer.singleShot(0, self.canvas.rebuild)

    def add_device(self) -> None:
        """Choose a device and add it."""
        AddDevice(self, self._added, self.desk.own_folder).open()

    def _added(self, device: Device) -> None:
        before = lookup.ids_of(self.desk.plan.devices)
        try:
            self.desk.describe(edit_add_device(device))
        except PlanError as error:
            self._tell(str(error), True)
            return
        new = next((d for d in self.desk.plan.devices if d.id not in before), None)
        if new is not None:
            self.desk.select(new.id)
            self._tell(
                say("{new} is added. Drag from its jacks to connect it.", new=new.name), False
            )
        self.setFocus()
