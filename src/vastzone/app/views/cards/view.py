"""The Cards view: what is left to dial into each device, as cards, one line at a time, compared."""

from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.drawn import grown
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.pages import page_buttons
from vastzone.app.frame.rows import Cell
from vastzone.app.frame.sized import bound
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.app.views.base import View
from vastzone.app.views.cards.changes import ChangesPage
from vastzone.app.views.cards.dial import DialPage
from vastzone.app.views.cards.memory_menu import MemoryMenu
from vastzone.app.views.cards.page import CardPage
from vastzone.app.views.cards.printing import Printing
from vastzone.app.views.cards.sheets_page import SheetsPage
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.core.cards.card import Card, CardLine, Count, card, count, in_order
from vastzone.core.cards.cautions import cautions
from vastzone.core.errors import PlanError
from vastzone.core.memory.operations import Operation
from vastzone.core.memory.past import Snapshot
from vastzone.core.memory.restoring import brought_back, is_backed_up
from vastzone.core.memory.rig import memory_of
from vastzone.core.plan.edits.edit import with_device
from vastzone.core.plan.fields.dials import whole_dials
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say, say_many
from vastzone.core.text import one_line
from vastzone.desk.session import Desk

PAGES = PAGE_NAMES["cards"]
EMPTY = len(PAGES)


class CardsView(View):
    """Devices at the left, the card of one of them at the right."""

    page_names = PAGES

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self._device = ""
        self._kept: dict[str, frozenset[str]] = {}
        self._was: dict[str, str] = {}
        desk.opened.connect(self._forget)
        self._goal: Device | None = None
        self._goal_name = ""
        self.printing = Printing(self, desk, self._say)
        self.page = CardPage()
        self.page.ticked.connect(self.tick)
        self.page.taken_back.connect(desk.take_back)
        self.dial = DialPage(desk, self.tick, self.dial_device)
        self.changes = ChangesPage(desk)
        self._empty = EmptyState("", "")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(self._pages_bar())
        self._tools = QWidget()
        self._tools.setLayout(self._bar())
        box.addWidget(self._tools)
        box.addLayout(self._body(), 1)
        self.lead = self.page

    def _body(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(14, 0, 0, 0)
        row.setSpacing(0)
        self.list = RowList(say("Devices with something to dial"))
        bound(self.list, "FixedWidth", 196)
        self.list.chosen.connect(self._choose)
        self._left = QWidget()
        side = QVBoxLayout(self._left)
        side.setContentsMargins(0, 4, 0, 12)
        side.addWidget(self.list)
        self._stack = Stack()
        self.sheets = SheetsPage(self.desk)
        for page in (self.page, self.dial, self.changes, self.sheets, self._empty):
            self._stack.add(page)
        row.addWidget(self._left)
        row.addWidget(self._stack, 1)
        return row

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Leave more of a small window to the card."""
        super().resizeEvent(event)
        bound(self.list, "FixedWidth", 150 if self.width() < grown(700) else 196)

    def _pages_bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 14, 6)
        bar.setSpacing(8)
        self.pages = page_buttons(self, PAGES, bar, self.refresh)
        self._words = Elided("muted")
        bar.addWidget(self._words, 1)
        self.back = Button(say("Take back"))
        self.back.clicked.connect(self.desk.take_back)
        bar.addWidget(self.back)
        return bar

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 2, 14, 8)
        bar.setSpacing(6)
        self.scope = CalmCombo()
        self.scope.setAccessibleName(say("What the cards hold"))
        self.scope.addItem(say("Left to dial"), "left")
        self.scope.addItem(say("Every setting"), "all")
        self.scope.currentIndexChanged.connect(self._anew)
        self.read = Button(say("Read back…"))
        set_tip(self.read, say("Type what the display of the device shows"))
        self.read.clicked.connect(self.read_back)
        self.holds = Button(say("Device…"))
        set_tip(self.holds, say("Power, reset, backup, what is known of the device"))
        self.holds.setMenu(MemoryMenu(self, self.desk, lambda: self._device, self.bring_back))
        self.reasons = Button(say("Why"))
        self.reasons.setCheckable(True)
        set_tip(self.reasons, say("Why each number is what it is stands on the printed card"))
        self.preview = Button(say("Print…"))
        self.preview.clicked.connect(self.show_preview)
        self.export = Button(say("Export…"))
        set_tip(self.export, say("cards.pdf and cards.csv into a folder"))
        self.export.clicked.connect(self.write)
        bar.addWidget(self.scope)
        bar.addWidget(self.read)
        bar.addWidget(self.holds)
        self.end = Button(say("Back to the plan"))
        self.end.clicked.connect(self.end_goal)
        bar.addWidget(self.end)
        bar.addStretch(1)
        for button in (self.reasons, self.preview, self.export):
            bar.addWidget(button)
        return bar

    def menu(self) -> QMenu:
        """What can be done with the chosen device."""
        return self.holds.menu()

    def show_page(self, page: int) -> None:
        """Show the card, one line at a time, or what differs."""
        self.pages.button(page).setChecked(True)
        self.refresh()

    def _anew(self) -> None:
        self._kept = {}
        self.refresh()

    @property
    def _everything(self) -> bool:
        return bool(self.scope.currentData() == "all")

    def _also(self, device: str) -> frozenset[str]:
        """The settings of a device that stay on its card though they are done."""
        return self._kept.get(device, frozenset())

    def counts(self) -> dict[str, Count]:
        """What each device has left, and what was ticked while one looked on."""
        plan, memory = self.desk.planned, self.desk.memory
        shown: dict[str, Count] = {}
        for device in in_order(plan):
            also = self._also(device.id)
            goal, wanted = self._wanted(device)
            told = count(goal, memory, wanted, self._everything, also)
            if told.steps or told.done or _is_set(device):
                shown[device.id] = told
        return shown

    def cards(self) -> tuple[Card, ...]:
        """All cards, as they are printed."""
        filled = []
        for device in in_order(self.desk.planned):
            one = self._card_of(device)
            if one.lines:
                filled.append(one)
        return tuple(filled)

    def _forget(self) -> None:
        """Another plan is open: nothing of the one before stays in sight."""
        self._kept, self._was, self._goal = {}, {}, None
        self.page.prepared.clear()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        self.preview.setIcon(icon("printer", THEME.colours.ink, 18))
        label = self.desk.held.label
        self.back.setEnabled(bool(label))
        set_tip(
            self.back,
            say("Take back: {label}", label=label) if label else say("Nothing was ticked yet"),
        )
        counts = self.counts()
        self._fill(counts)
        self._show(bool(counts))
        self._say_effort()

    def _say(self, words: str) -> None:
        """Say something beside the pages; nothing says how much is left again."""
        if words:
            self._words.show_text(words)
        else:
            self._say_effort()

    def _say_effort(self) -> None:
        """How much is left, for all devices."""
        counts = self.counts().values()
        steps = sum(one.steps for one in counts)
        presses = sum(one.presses for one in counts)
        done = sum(one.done for one in counts)
        words = say(
            "{lines} left, about {presses} · {done} done",
            lines=say_many("{count} line", "{count} lines", steps),
            presses=say_many("{count} press", "{count} presses", presses),
            done=done,
        )
        self._words.show_text(words if counts else "")

    def _fill(self, counts: dict[str, Count]) -> None:
        """The list of devices; the same one stays chosen."""
        if self._device not in counts:
            waiting = [ident for ident, one in counts.items() if one.steps]
            self._device = next(iter(waiting or counts), "")
        colours = THEME.colours
        lines = []
        for ident, one in counts.items():
            name = one_line(lookup.device(self.desk.planned, ident).name)
            words = (
                say(
                    "{name}\n{lines} left",
                    name=name,
                    lines=say_many("{count} line", "{count} lines", one.steps),
                )
                if one.steps
                else say("{name}\nall dialled", name=name)
            )
            sign, shade = ("square", colours.muted) if one.steps else ("circle-check", colours.good)
            fresh = any(device_of(r) == ident for r in self.desk.unseen)
            picture = icon(sign, colours.action if fresh else shade, 18)
            lines.append((Cell(words, tip=name, icon=picture), ident))
        at = list(counts).index(self._device) if self._device in counts else -1
        self.list.show_lines(lines, at)

    def _show(self, shown: bool) -> None:
        page = self.pages.checkedId()
        self._left.setVisible(shown and page == 0)
        self._tools.setVisible(page == 0)
        for button in (self.preview, self.export, self.reasons, self.read):
            button.setEnabled(shown)
        self.holds.setEnabled(bool(self._device))
        self.end.setVisible(self._goal is not None)
        one = self._card() if shown else None
        if one is None or not one.lines:
            self._say_empty()
        cautions = self._cautions(one) if one is not None else {}
        self.page.show_card(one, cautions, self._backup() if shown else "")
        waiting = {ident: told.steps for ident, told in self.counts().items()}
        self.dial.show_card(one, cautions, waiting)
        if page == 2:
            self.changes.refresh()
        elif page == 3:
            self.sheets.refresh()
        nothing = page == 0 and (one is None or not one.lines)
        self._stack.show_at(EMPTY if nothing or (page == 1 and not shown) else page)

    def _say_empty(self) -> None:
        if not self.desk.planned.devices:
            self._empty.tell(
                say("No cards yet"),
                say(
                    "Add devices in Rig, say in Plays what plays what, and "
                    "work the numbers out: what to dial then stands here."
                ),
            )
        elif self.desk.proof is not None and not self.desk.proof.good:
            why = say("The numbers of this plan do not do what is wished. Work the numbers out: ")
            self._empty.tell(
                say("Nothing to dial yet"), why + say("what to dial then stands here.")
            )
        elif any(one.steps for one in self.counts().values()):
            name = lookup.device(self.desk.planned, self._device).name
            words = say("It holds what the plan wants. Choose “Every setting” to see all of it.")
            self._empty.tell(say("Nothing left to dial into {name}", name=name), words)
        else:
            self._empty.tell(
                say("Nothing to dial"),
                say(
                    "Every device holds what the plan wants. Choose “Every setting” to see all "
                    "of it."
                ),
            )

    def bring_back(self, device: Device, past: Snapshot) -> None:
        """Show the card that leads a device back to an earlier state: only its ticks do."""
        self._goal = brought_back(device, past.memory)
        self._goal_name = say("back to {on} {past}", on=past.on, past=past.label).strip()
        self._kept.pop(device.id, None)
        self.refresh()

    def end_goal(self) -> None:
        """The card of the plan again."""
        self._goal = None
        self.refresh()

    def _wanted(self, device: Device) -> tuple[Plan, Device]:
        """What a card leads to: the plan, or a device as it was held before."""
        plan = self.desk.planned
        if self._goal is None or self._goal.id != device.id:
            return plan, device
        return with_device(plan, device, self._goal), self._goal

    def _card(self) -> Card:
        """The card of the chosen device."""
        return self._card_of(lookup.device(self.desk.planned, self._device))

    def _card_of(self, device: Device) -> Card:
        """A card on which what was ticked stays, with what it was before."""
        plan, wanted = self._wanted(device)
        one = card(plan, self.desk.memory, wanted, self._everything, self._also(device.id))
        if wanted is not device:
            one = one._replace(name=f"{one.name}, {self._goal_name}")
        sections = []
        for section in one.sections:
            lines = tuple(self._with_before(line) for line in section.lines)
            sections.append(section._replace(lines=lines))
        return one._replace(sections=tuple(sections))

    def _with_before(self, line: CardLine) -> CardLine:
        if not line.operation.refs:
            return line
        key = line.operation.refs[0]
        if line.waits:
            self._was[key] = line.before
            return line
        return line._replace(before=self._was.get(key, line.before))

    def _backup(self) -> str:
        """When the chosen device was backed up, and whether that is still all of it."""
        held = memory_of(self.desk.memory, lookup.device(self.desk.planned, self._device))
        if held.backup is None:
            return ""
        since = "" if is_backed_up(held) else say(", changed since")
        return say("backed up {on} {by}", on=held.backup.on, by=held.backup.by).strip() + since

    def _cautions(self, one: Card) -> dict[Operation, str]:
        device = lookup.device(self.desk.planned, one.device)
        return cautions(device, memory_of(self.desk.memory, device), one)

    def _choose(self, row: int) -> None:
        if row >= 0:
            self._device = self.list.ref
            self._show(True)
            self.desk.look_at(self._device)

    def dial_device(self, device: str) -> None:
        """Go on with the card of another device."""
        self.show_device(device)
        self.desk.look_at(device)

    def tick(self, line: CardLine) -> None:
        """Do what a line says: what the device holds changes."""
        device = self._device
        self._kept[device] = self._also(device) | frozenset(line.operation.refs)
        try:
            self.desk.tick(device, line.operation, line.words, self._goal)
        except PlanError as error:
            dialogs.tell(self, str(error))
        self.desk.look_at(device)

    def read_back(self) -> None:
        """Type what the device shows."""
        from vastzone.app.views.cards.reading import ReadBack

        ReadBack(self, self.desk, self._device).open()

    def show_preview(self) -> None:
        """Look at the pages, and print them."""
        self.printing.show_preview(self.cards(), self.reasons.isChecked())

    def write(self) -> None:
        """Write PDF and CSV into a folder."""
        self.printing.write(self.cards(), self.reasons.isChecked())

    def show_device(self, device: str) -> None:
        """Show the card of a device."""
        if any(d.id == device for d in self.desk.planned.devices):
            self._device = lookup.device(self.desk.planned, device).id
            self.refresh()


def _is_set(device: Device) -> bool:
    """Whether anything is set in a device."""
    return bool(device.programs or whole_dials(device))
