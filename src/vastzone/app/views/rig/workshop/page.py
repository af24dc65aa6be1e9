"""The page *Device* of Rig: one device described where it lies, by hand or in a line."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QHideEvent, QShowEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.dressed import dress
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.fields import choose, mark_bad, offer
from vastzone.app.frame.losing import with_consent
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, add_action, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.app.views.base import View
from vastzone.app.views.rig.workshop.canvas import WorkshopCanvas
from vastzone.app.views.rig.workshop.commands import DeviceCommands
from vastzone.core.describe.arranging import line_up
from vastzone.core.describe.counted import counted_nouns
from vastzone.core.describe.line import Line, read_line
from vastzone.core.describe.making import add_line
from vastzone.core.describe.table_columns import WHATS
from vastzone.core.describe.things import Thing
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say, typed
from vastzone.desk.session import Desk

EXAMPLE = say(
    "Add what it has: {line} …",
    line=typed("9 faders, 8 pads notes from C2 channel 1, sustain jack"),
)


class DevicePage(View):
    """A device laid open, with a line to add to it and what else can be done with it.

    Its ``bar`` stands in the bar of the view.
    """

    def __init__(self, desk: Desk, add: Callable[[], None]) -> None:
        super().__init__(desk)
        self._shown = ""
        self.canvas = WorkshopCanvas(desk, self.describe)
        self.commands = DeviceCommands(self, desk, lambda: self.device, self.describe, self._tell)
        self.canvas.told.connect(self._tell)
        self.devices, self.banks = CalmCombo(), CalmCombo()
        self.devices.setAccessibleName(say("Device"))
        self.devices.setSizeAdjustPolicy(CalmCombo.SizeAdjustPolicy.AdjustToContents)
        bound(self.devices, "MaximumWidth", 260)
        bound(self.devices, "MinimumWidth", 110)
        self.banks.setAccessibleName(say("Bank that is shown"))
        self.devices.activated.connect(self._choose_device)
        self.banks.activated.connect(lambda _: desk.show_bank(self.banks.currentData()))
        self.line = QLineEdit()
        self.line.setPlaceholderText(EXAMPLE)
        self.line.setAccessibleName(say("Add to the device, in words"))
        self.line.setMaxLength(4000)
        self.line.textChanged.connect(self._read)
        self.line.returnPressed.connect(self._add_line)
        self.add_button = Button(say("Add"))
        self.add_button.setProperty("role", "primary")
        self.add_button.clicked.connect(self._add_line)
        self.said = Elided("muted")
        self.said.setContentsMargins(16, 2, 16, 8)
        self.more = QToolButton()
        self.more.setText(say("More"))
        self.more.setAccessibleName(say("More to do with the device"))
        self.more.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.more.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.more.setMenu(self._menu())
        self._empty = EmptyState(
            say("No device yet"),
            say("Say in a line what you have, or choose one of the library."),
            say("Add device"),
            add,
        )
        self._lay_out()

    def _lay_out(self) -> None:
        self._area = QScrollArea()
        self._area.setObjectName("canvasScroll")
        self._area.setWidgetResizable(True)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._area.setFrameShape(QFrame.Shape.NoFrame)
        self._area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._area.setWidget(self.canvas)
        self.bar = QWidget()
        bar = QHBoxLayout(self.bar)
        bar.setContentsMargins(0, 0, 0, 0)
        bar.setSpacing(8)
        for widget in (self.devices, self.banks):
            bar.addWidget(widget)
        bar.addStretch()
        self.learn = Button(say("Learn…"))
        set_tip(self.learn, say("Touch everything once in order, on the device or a simulated one"))
        self.learn.clicked.connect(self.commands.learn_device)
        self.can = Button(say("Abilities…"))
        set_tip(self.can, say("How far its settings reach, how many there are, what it keeps"))
        self.can.clicked.connect(self.commands.say_abilities)
        bar.addWidget(self.learn)
        bar.addWidget(self.can)
        bar.addWidget(self.more)
        self.entry = QWidget()
        entry = QHBoxLayout(self.entry)
        entry.setContentsMargins(16, 6, 16, 0)
        entry.setSpacing(8)
        self.dozen = Button(say("By the dozen…"))
        set_tip(self.dozen, say("Choose how many of what with counters"))
        self.dozen.clicked.connect(lambda: self.commands.count(self._add_words))
        entry.addWidget(self.line, 1)
        entry.addWidget(self.dozen)
        entry.addWidget(self.add_button)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self._area, 1)
        box.addWidget(self._empty, 1)
        box.addWidget(self.entry)
        box.addWidget(self.said)

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        canvas = self.canvas
        add_action(menu, say("Name what is chosen\tF2"), canvas.begin_to_name)
        add_action(menu, say("Choose all of this kind\tCtrl+A"), canvas.choose_alike)
        add_action(menu, say("Duplicate") + "\tCtrl+J", canvas.duplicate)
        add_action(menu, say("Copy") + "\tCtrl+C", canvas.copy)
        add_action(menu, say("Paste") + "\tCtrl+V", canvas.paste)
        add_action(menu, say("Line up in a row"), lambda: self._line_up("row"))
        add_action(menu, say("Line up in a column"), lambda: self._line_up("column"))
        add_action(menu, say("Remove") + "\tDel", canvas.remove)
        menu.addSeparator()
        add_action(menu, say("From a table…"), self.commands.read_table)
        for what in WHATS:
            add_action(
                menu,
                say("Write {what} as a table…", what=say(what)),
                partial(self.commands.write_table, what),
            )
        add_action(menu, say("Names from XML…"), self.commands.read_names)
        add_action(menu, say("Write names as XML…"), self.commands.write_names)
        menu.addSeparator()
        add_action(menu, say("Replace by another…"), self.commands.replace_device)
        add_action(menu, say("Update from a file…"), self.commands.update_device)
        add_action(menu, say("Keep for reuse"), self.commands.keep_device)
        add_action(menu, say("Share as a file…"), self.commands.share_device)
        return menu

    @property
    def device(self) -> Device | None:
        """The device that is laid open, as it is: the one that was selected last."""
        devices = self.desk.dialled_plan.devices
        wanted = device_of(self.desk.selection.removeprefix("things of ").split(" ")[0])
        ids = [device.id for device in devices]
        if wanted in ids:
            self._shown = wanted
        for device in devices:
            if device.id == self._shown:
                return device
        return devices[0] if devices else None

    def showEvent(self, event: QShowEvent) -> None:
        """Facts say how the device is, as long as it is laid open."""
        super().showEvent(event)
        self.desk.describe_now(True)

    def hideEvent(self, event: QHideEvent) -> None:
        """Everywhere else they are of the plan."""
        super().hideEvent(event)
        self.desk.describe_now(False)

    def refresh(self) -> None:
        """Show the device as it is now."""
        device = self.device
        in_bar = (self.devices, self.more, self.learn, self.can)
        for widget in (*in_bar, self._area, self.entry, self.said):
            widget.setVisible(device is not None)
        self._empty.setVisible(device is None)
        self.canvas.show_device(device)
        self.more.setIcon(icon("settings-2", THEME.colours.ink, 16))
        if device is None:
            return
        offer(self.devices, [(other.name, other.id) for other in self.desk.planned.devices])
        choose(self.devices, device.id)
        most = max((control.banks for control in device.controls), default=1)
        self.banks.setVisible(most > 1)
        offer(
            self.banks,
            [(say("Bank {number}", number=number), number) for number in range(1, most + 1)],
        )
        choose(self.banks, min(self.desk.bank, most))

    def _add_words(self, words: str) -> None:
        self.line.setText(words)
        self._add_line()

    def _choose_device(self, _at: int) -> None:
        self.desk.select(self.devices.currentData())

    def _tell(self, sentence: str, bad: bool = False) -> None:
        dress(self.said, "role", "fault" if bad else "muted")
        self.said.show_text(sentence)

    def describe(self, edit: Edit) -> None:
        """Say how the device is; what would be lost is asked first."""
        try:
            with_consent(self, self.desk, edit, self._describe)
        except PlanError as error:
            self._tell(str(error), bad=True)

    def _describe(self, edit: Edit) -> None:
        try:
            self.desk.describe(edit)
            self._tell("")
        except PlanError as error:
            self._tell(str(error), bad=True)

    def _line_up(self, line: str) -> None:
        if self.device is not None:
            edit = line_up(self.device.id, self.canvas.chosen, line)  # type: ignore[arg-type]
            self.describe(edit)

    def _line(self) -> Line:
        device = self.device
        return read_line(self.line.text(), 4 if device is None else device.octaves)

    def _read(self, text: str) -> None:
        """Say what is understood of the line so far."""
        mark_bad(self.line, False)
        if not text.strip():
            self._tell("")
            return
        try:
            line = self._line()
        except PlanError as error:
            self._tell(str(error))
            return
        self._tell(say("Enter adds {understood}.", understood=understood(line)))

    def _add_line(self) -> None:
        device = self.device
        if device is None or not self.line.text().strip():
            return
        try:
            line = self._line()
            before = set(self.canvas_things())
            self.desk.describe(add_line(device.id, line))
        except PlanError as error:
            mark_bad(self.line, True)
            self._tell(str(error), bad=True)
            return
        self.line.clear()
        new = [thing for thing in self.canvas_things() if thing not in before]
        self.canvas.choose(new)
        self._tell(say("Added: {understood}.", understood=understood(line)))

    def canvas_things(self) -> list[Thing]:
        """Everything that is laid open."""
        things: list[Thing] = []
        for section in self.canvas.bench.sections:
            things.extend(tile.thing for tile in section.tiles)
        return things


def understood(line: Line) -> str:
    """What a line says, in short: «9 faders, 8 pads, 1 jack and the device as a whole»."""
    words = []
    for phrase in line.phrases:
        words.append(counted_nouns(phrase.how_many, phrase.noun))
    if line.wholes or line.kind is not None:
        words.append(say("what is said of it as a whole"))
    return ", ".join(words) or say("nothing")
