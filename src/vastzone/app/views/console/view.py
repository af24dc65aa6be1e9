"""The view Console: the console drawn beside its matrix, pins, wires, faults, continuity, ways."""

from functools import partial

from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.fields import choose, offer
from vastzone.app.frame.pages import RefreshedPage, page_buttons
from vastzone.app.frame.sheets_console import BLOCK, begin_press
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.text import Button, add_action, set_tip
from vastzone.app.views.base import View
from vastzone.app.views.console.canvas import ConsoleCanvas
from vastzone.app.views.console.continuity import ContinuityPage
from vastzone.app.views.console.costs import WaysPage
from vastzone.app.views.console.couplers import CouplersPage
from vastzone.app.views.console.faults import FaultsPage
from vastzone.app.views.console.matrix import MatrixCanvas
from vastzone.app.views.console.pins import PinsPage
from vastzone.app.views.console.pistons import PistonsPage
from vastzone.app.views.console.shared import Bench
from vastzone.app.views.console.wires import WiresPage
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.core.console.scan import worst_delay_ms
from vastzone.core.console.trial_words import heard_words
from vastzone.core.console.wires import colour_of, contact_name
from vastzone.core.midi import pitch
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say
from vastzone.desk.session import Desk

PAGES = PAGE_NAMES["console"]


class ConsoleView(View):
    """Pages about one console; where there are several, one is chosen."""

    page_names = PAGES

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self.bench = Bench(desk)
        self.canvas, self.matrix = ConsoleCanvas(self.bench), MatrixCanvas(self.bench)
        self.pins, self.wires = PinsPage(self.bench, perform), WiresPage(self.bench, perform)
        self.faults = FaultsPage(self.bench, perform)
        self.continuity = ContinuityPage(self.bench, perform)
        self.couplers = CouplersPage(self.bench, perform)
        self.pistons = PistonsPage(self.bench, perform)
        self.ways = WaysPage(self.bench, perform)
        self.line = Elided("small", self.matrix)
        self.zoom: QComboBox = CalmCombo()
        self.device: QComboBox = CalmCombo()
        self.zoom.setAccessibleName(say("Zoom to"))
        self.device.setAccessibleName(say("Console"))
        self.zoom.currentIndexChanged.connect(self._zoom)
        self.device.currentIndexChanged.connect(self._choose)
        self.scan = Button(say("Show a scan"))
        set_tip(self.scan, say("Drive by drive, slowly; hold keys with Shift to see them read"))
        self.scan.clicked.connect(self.matrix.play_scan)
        self.let_go = Button(say("Let go"))
        self.let_go.clicked.connect(self.bench.release_all)
        self.empty = EmptyState(
            say("No console yet"),
            say(
                "Add an encoder or a keyboard in Rig, and wire a console behind it: "
                "its keys, stops and shoes are laid on lines and commons."
            ),
            say("Wire a console"),
            self._begin,
        )
        body = self._body()
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addLayout(self._bar())
        self._stack = Stack()
        for page in (
            body,
            self.pins,
            self.wires,
            self.faults,
            self.continuity,
            self.ways,
            self.couplers,
            self.pistons,
            self.empty,
        ):
            self._stack.add(page)
        outer.addWidget(self._stack, 1)
        self.bench.pointed.connect(lambda _: self._tell())
        self.bench.held_changed.connect(self._tell)
        self.matrix.stepped.connect(self._tell)
        self.lead = self.canvas

    def _body(self) -> QWidget:
        body = QWidget()
        box = QVBoxLayout(body)
        box.setContentsMargins(0, 0, 0, 6)
        box.setSpacing(2)
        box.addWidget(self.canvas, 11)
        box.addWidget(self.matrix, 9)
        row = QHBoxLayout()
        row.setContentsMargins(14, 2, 14, 0)
        row.addWidget(self.line, 1)
        row.addWidget(self.let_go)
        row.addWidget(self.scan)
        box.addLayout(row)
        return body

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 14, 8)
        bar.setSpacing(7)
        self._pages = page_buttons(self, PAGES, bar, self.refresh)
        bar.addStretch()
        bar.addWidget(self.device)
        bar.addWidget(self.zoom)
        self.another = Button(say("Wire another"))
        set_tip(self.another, say("A console behind another keyboard or encoder of this plan"))
        self.another.setMenu(QMenu(self))
        bar.addWidget(self.another)
        return bar

    def show_page(self, page: int) -> None:
        """Show a page by its place among ``page_names``."""
        self._pages.button(page).setChecked(True)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        owner = self.bench.owner
        if owner is None:
            self._stack.show_page(self.empty)
            self.empty.button.setVisible(self._first() is not None)
            return
        self._follow_selection()
        circuit = self.bench.circuit
        if self.bench.at >= len(circuit.contacts):
            self.bench.point(-1)
        self.bench.held = {item for item in self.bench.held if item < len(circuit.contacts)}
        self._offer()
        page = self._pages.checkedId()
        self._stack.show_at(page)
        pages: dict[str, RefreshedPage] = {
            "Couplers": self.couplers,
            "Pistons": self.pistons,
            "Pins": self.pins,
            "Wires": self.wires,
            "Faults": self.faults,
            "Continuity": self.continuity,
            "Ways": self.ways,
        }
        if PAGES[page] in pages:
            pages[PAGES[page]].refresh()
        else:
            self.canvas.rebuild()
            self.matrix.update()
            self._tell()

    def _offer(self) -> None:
        """What there is to choose from."""
        owners = self.bench.owners
        offer(self.device, [(device.name, device.id) for device in owners])
        choose(self.device, self.bench.owner.id if self.bench.owner is not None else "")
        self.device.setVisible(len(owners) > 1)
        menu = self.another.menu()
        menu.clear()
        for device in self.desk.plan.devices:
            if begin_press(device) is not None:
                add_action(menu, device.name, partial(self._wire, device.id))
        self.another.setVisible(not menu.isEmpty() and self._pages.checkedId() == 0)
        names = [(p.block.name, n) for n, p in enumerate(self.bench.circuit.parts)]
        offer(self.zoom, [(say("All of it"), -1), *names])
        self.zoom.setVisible(self._pages.checkedId() == 0)

    def _follow_selection(self) -> None:
        ref = self.desk.selection
        device = device_of(ref.removeprefix(BLOCK))
        owners = lookup.ids_of(self.bench.owners)
        if device in owners and self.bench.owner and device != self.bench.owner.id:
            self.bench.chosen = device
        index = self.bench.index_of(ref, None)
        if index >= 0:
            self.bench.point(index)

    def _zoom(self) -> None:
        data = self.zoom.currentData()
        self.bench.only = data if isinstance(data, int) else -1
        self.canvas.rebuild()
        self.matrix.update()

    def _choose(self) -> None:
        self.bench.release_all()
        self.bench.chosen = self.device.currentData() or ""
        self.bench.only, self.bench.at = -1, -1
        self.zoom.setCurrentIndex(0)
        # What is selected elsewhere would take the view back to its own console.
        if self.bench.chosen and device_of(self.desk.selection) not in ("", self.bench.chosen):
            self.desk.select(self.bench.chosen)
        self.refresh()

    def _first(self) -> object:
        return next((device for device in self.desk.plan.devices if begin_press(device)), None)

    def _begin(self) -> None:
        owner = next((device for device in self.desk.plan.devices if begin_press(device)), None)
        if owner is not None:
            self._wire(owner.id)

    def _wire(self, device: str) -> None:
        """Wire a console behind a device, and look at it."""
        owner = lookup.find(self.desk.plan.devices, device)
        press = begin_press(owner) if owner is not None else None
        if press is not None:
            self.bench.chosen = device
            self._perform(press.make())

    def _tell(self) -> None:
        """What is pointed at: its pins, its wire colours, its note; what is reported."""
        owner, bench = self.bench.owner, self.bench
        if owner is None:
            return
        circuit, console = bench.circuit, bench.console
        scanning = self.matrix.words()
        if scanning:
            self.line.show_text(scanning)
            return
        said = []
        if 0 <= bench.at < len(circuit.contacts):
            contact = circuit.contacts[bench.at]
            part = circuit.parts[contact.block]
            line, common = circuit.place(bench.at)
            wire, other = colour_of(console, line), colour_of(console, common, ringed=True)
            pin = f"C{part.commons[common] + 1}" if common < len(part.commons) else say("no pin")
            name = contact_name(owner, console, part.block.id, contact.number)
            said.append(
                say(
                    "{name}: line {line} ({wire}) on L{line}, common {common} ({other}) on {pin}",
                    name=name,
                    line=line + 1,
                    wire=wire,
                    common=common + 1,
                    other=other,
                    pin=pin,
                )
            )
            note = bench.key(bench.at)[1]
            if note is not None:
                said.append(say("note {pitch}", pitch=pitch.label(note, owner.octaves)))
        if bench.held:
            said.append(
                say(
                    "reported: {heard}",
                    heard=heard_words(owner, console, circuit, bench.reported()),
                )
            )
        elif not said:
            said.append(
                say(
                    "Point at a key or a crossing; Shift holds keys for a chord; a scan takes "
                    "{worst_delay_ms:.1f} ms at worst",
                    worst_delay_ms=worst_delay_ms(circuit, console.encoder),
                )
            )
        self.line.show_text("  ·  ".join(said))
