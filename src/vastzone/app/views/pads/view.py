"""The Pads view: pads to strike and fill, and the inputs that trigger pads are plugged into."""

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QMenu,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.fields import choose, offer
from vastzone.app.frame.pages import page_buttons
from vastzone.app.frame.sized import bound
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.text import Button, Label, add_action, set_tip
from vastzone.app.views.base import View
from vastzone.app.views.pads.canvas import PadsCanvas
from vastzone.app.views.pads.fill import FillBar
from vastzone.app.views.pads.fit import FitBar
from vastzone.app.views.pads.hat_bar import HatBar
from vastzone.app.views.pads.inputs import InputsCanvas
from vastzone.app.views.pads.minis import Mini
from vastzone.app.views.pads.strikes import StrikesPage
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.core.cards.tracks import own_channels
from vastzone.core.engine.report import Report
from vastzone.core.errors import EditError, PlanError
from vastzone.core.plan.edits import copies, fills
from vastzone.core.plan.edits.copies import PadSpot
from vastzone.core.plan.edits.edit import Edit, set_plan
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.edits.scenes import choose_program
from vastzone.core.plan.edits.setlists import set_scene
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.say import say
from vastzone.core.timing.repeat import tapped_bpm
from vastzone.desk.pad_faces import program_of
from vastzone.desk.session import Desk

WHAT = (
    (say("sound and message"), "both"),
    (say("only the sound"), "sound"),
    (say("only the message"), "message"),
)
WHOLE = ((say("one zone"), "zone"), (say("whole pad"), "pad"), (say("whole bank"), "bank"))


class PadsView(View):
    """Three pages: the pads of one device, the back of the modules, recorded strikes."""

    page_names = PAGE_NAMES["pads"]

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self._source: PadSpot | None = None
        self._taps: list[float] = []
        self.canvas, self.fill = PadsCanvas(desk), FillBar()
        self.hat = HatBar(desk)
        self.inputs, self.fit = InputsCanvas(desk, perform), FitBar(desk, perform)
        self._empty = EmptyState(
            say("No pads yet"),
            say(
                "Add a pad controller or a drum module in Rig: its pads stand here, to "
                "strike, to fill and to copy."
            ),
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(self._bar())
        box.addWidget(self._copy_bar())
        self._stack = Stack()
        self.strikes = StrikesPage(desk, perform)
        drawn = (
            self._page(self.canvas, self.hat, self.fill),
            self._page(_scrolled(self.inputs), self.fit),
        )
        for page in (*drawn, self.strikes, self._empty):
            self._stack.add(page)
        box.addWidget(self._stack, 1)
        self.line = Elided("muted", self.canvas)
        self.line.setContentsMargins(16, 3, 16, 7)
        bound(self.line, "MinimumHeight", 28)
        box.addWidget(self.line)
        self.canvas.struck.connect(self._struck)
        self.canvas.mini_wanted.connect(self._show_mini)
        self.canvas.pads_chosen.connect(self._choose_pads)
        self.fill.changed.connect(self._preview)
        self.fill.applied.connect(self._fill)
        self.inputs.told.connect(lambda words, bad: self.line.show_text(words))
        desk.stage.struck.connect(self._follow_strike)
        self.lead = self.canvas

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 14, 8)
        bar.setSpacing(7)
        self._pages = page_buttons(self, self.page_names, bar, self.refresh)
        bar.addSpacing(8)
        self.device, self.program, self.bank = (
            self._combo(name) for name in (say("Device"), say("Program"), say("Bank"))
        )
        self.device.currentIndexChanged.connect(lambda _: self.refresh())
        self.program.currentIndexChanged.connect(self._choose_program)
        self.bank.currentIndexChanged.connect(lambda n: self.show_bank(n + 1))
        for combo in (self.device, self.program, self.bank):
            bar.addWidget(combo)
        self.tap = Button()
        set_tip(self.tap, say("Tap the tempo that note repeat follows"))
        self.tap.clicked.connect(self.tap_tempo)
        bar.addWidget(self.tap)
        bar.addStretch()
        self.copy = Button(say("Copy"))
        self.copy.setAccessibleName(say("Copy by strike"))
        self.copy.setCheckable(True)
        set_tip(self.copy, say("Strike the pad to copy, then the pad to copy it to"))
        self.copy.toggled.connect(self._begin_copy)
        self.what = self._combo(say("What to copy"))
        self.whole = self._combo(say("How much to copy"))
        for combo, choices in ((self.what, WHAT), (self.whole, WHOLE)):
            for words, value in choices:
                combo.addItem(words, value)
        bar.addWidget(self.copy)
        self.more = Button(say("More"))
        self.more.setMenu(self._menu())
        bar.addWidget(self.more)
        return bar

    def _copy_bar(self) -> QWidget:
        """How much to copy, and what of it, while copying."""
        self._copying = QWidget()
        row = QHBoxLayout(self._copying)
        row.setContentsMargins(14, 0, 14, 8)
        row.addWidget(Label(say("Copy")))
        row.addWidget(self.whole)
        row.addWidget(self.what)
        row.addStretch()
        self._copying.hide()
        return self._copying

    def _menu(self) -> QMenu:
        """What is done now and then."""
        menu = QMenu(self)
        for words, slot in (
            (say("Show banks beside"), partial(self.show_beside, "banks")),
            (say("Show programs beside"), partial(self.show_beside, "programs")),
            (None, None),
            (say("Learn by striking …"), self.show_learning),
            (say("Programs needed …"), self.show_kits),
            (say("Spread this bank over programs …"), self.show_spread),
            (say("A channel for each drum"), self.own_channels),
            (say("Track list for a recorder …"), self.show_tracks),
            (say("Sheet of pads to print …"), self.show_sheet),
        ):
            if words is None or slot is None:
                menu.addSeparator()
            else:
                add_action(menu, words, slot)
        return menu

    def _combo(self, name: str) -> QComboBox:
        combo = CalmCombo()
        combo.setAccessibleName(name)
        combo.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        bound(combo, "MaximumWidth", 200)
        return combo

    @staticmethod
    def _page(canvas: QWidget, *below: QWidget) -> QWidget:
        """A page: something drawn, and cards below it."""
        page = QWidget()
        box = QVBoxLayout(page)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(4)
        box.addWidget(canvas, 1)
        column = QVBoxLayout()
        column.setContentsMargins(14, 0, 14, 0)
        column.setSpacing(4)
        for card in below:
            column.addWidget(card)
        box.addLayout(column)
        return page

    @property
    def owner(self) -> Device | None:
        """The device whose pads are shown."""
        return lookup.find(self.desk.plan.devices, self.device.currentData())

    def refresh(self) -> None:
        """Show the plan as it is now."""
        self._fill_devices()
        owner, page = self.owner, self._pages.checkedId()
        self._show_bar(owner, page)
        if page == 2:
            self._stack.show_at(2)
        elif page == 1:
            self._show_inputs()
        elif owner is None:
            self._stack.show_at(3)
        else:
            self._stack.show_at(0)
            self._fill_programs(owner)
            bank = min(self.canvas.bank, max(fills.banks_of(owner), default=1))
            self._fill_banks(owner, bank)
            self.canvas.show_bank(owner.id, bank)
            self.hat.show_device(owner)
            self._tell_fill()

    def _show_bar(self, owner: Device | None, page: int) -> None:
        """Show the buttons that this page has."""
        for widget in (self.device, self.program, self.bank, self.copy, self.more):
            widget.setVisible(not page and owner is not None)
        self._show_copy(not page and self.copy.isChecked())
        program = program_of(self.desk, owner) if owner else None
        repeats = any(send.repeat for send in program.sends) if program else False
        self.tap.setText(say("{tempo:g} bpm", tempo=self.desk.tempo))
        self.tap.setAccessibleName(say("Tap tempo"))
        self.tap.setVisible(not page and repeats)

    def _show_inputs(self) -> None:
        self.inputs.rebuild()
        self.fit.refresh()
        self._stack.show_at(1 if self.inputs.sockets else 3)
        if self.inputs.sockets and self.isVisible():
            self.inputs.setFocus()

    def _fill_devices(self) -> None:
        wanted: list[tuple[str, object]] = []
        for device in self.desk.plan.devices:
            if fills.pads_of(device):
                wanted.append((device.name, device.id))
        offer(self.device, wanted)
        choose(self.device, device_of(self.desk.selection))

    def _fill_programs(self, owner: Device) -> None:
        here = program_of(self.desk, owner)
        items: list[tuple[str, object]] = []
        for program in owner.programs:
            items.append((f"{program_words(owner, program.number)} {program.name}", program.number))
        offer(self.program, items)
        choose(self.program, here.number if here else None)
        self.program.setVisible(len(items) > 1)

    def _fill_banks(self, owner: Device, bank: int) -> None:
        items: list[tuple[str, object]] = [(say("Bank {n}", n=n), n) for n in fills.banks_of(owner)]
        offer(self.bank, items)
        choose(self.bank, bank)
        self.bank.setVisible(len(items) > 1)

    def _choose_program(self, index: int) -> None:
        owner, scene = self.owner, self.desk.scene
        number = self.program.itemData(index)
        if owner is not None and scene is not None and number is not None:
            self._perform(choose_program(scene.id, owner.id, number))

    def show_bank(self, bank: int) -> None:
        """Show another bank."""
        owner = self.owner
        if owner is not None and bank >= 1:
            self._fill_banks(owner, bank)
            self.canvas.show_bank(owner.id, bank)
            self.desk.show_bank(bank)
            self._tell_fill()

    def _show_mini(self, mini: Mini) -> None:
        """Show the bank or program of a miniature large."""
        if mini.bank != self.canvas.bank:
            self.show_bank(mini.bank)
        index = self.program.findData(mini.program)
        if index >= 0 and index != self.program.currentIndex():
            self.program.setCurrentIndex(index)

    def show_beside(self, what: str) -> None:
        """Show the banks of this program, or all programs, as miniatures."""
        self.canvas.beside = what
        self.canvas.rebuild()

    def tap_tempo(self) -> None:
        """Each tap counts; from the second on they set the tempo of the song, or of the plan."""
        self._taps.append(now_ms())
        bpm = tapped_bpm(self._taps[-8:])
        if bpm is not None:
            scene = self.desk.scene
            if scene is not None and scene.tempo is not None:
                self._perform(set_scene(scene.id, say("Tap tempo"), tempo=round(bpm, 1)))
            else:
                self._perform(set_plan(say("Tap tempo"), tempo=round(bpm, 1)))

    def own_channels(self) -> None:
        owner = self.owner
        program = program_of(self.desk, owner) if owner else None
        if owner is None or program is None:
            return
        try:
            self._perform(own_channels(self.desk.plan, owner.id, program.number))
        except EditError as error:
            self.line.show_text(str(error))

    def show_tracks(self) -> None:
        """The track list for a recorder."""
        from vastzone.app.views.pads.tracks import TrackList

        owner = self.owner
        if owner is not None:
            TrackList(self, self.desk.plan, owner).open()

    def show_sheet(self) -> None:
        """Every pad where it lies, with what it sends and sounds, on paper."""
        from vastzone.app.views.pads.tracks import show_sheet

        owner = self.owner
        if owner is not None:
            show_sheet(self, self.desk.plan, owner)

    def show_learning(self) -> None:
        """What the pads send, learned from strikes that come in by MIDI."""
        from vastzone.app.frame.learn import LearnDevice

        owner = self.owner
        if owner is not None:
            self.desk.show_bank(self.canvas.bank)
            LearnDevice(self, self.desk, owner, self._describe, say("Pads")).open()

    def _describe(self, edit: Edit) -> None:
        """What was learned is how the device is."""
        try:
            self.desk.describe(edit)
        except PlanError as error:
            self.line.show_text(str(error))

    def wish_places(self) -> tuple[WishPlace, ...]:
        """The pads that are chosen with Ctrl, in their order, in the bank that is shown."""
        owner = self.owner
        if owner is None or not self.canvas.chosen:
            return ()
        refs = [ref_to(owner.id, pad.id) for pad in pads_of(owner)]
        bank = self.canvas.bank
        return tuple(WishPlace(ref, bank) for ref in refs if ref in self.canvas.chosen)

    def show_spread(self) -> None:
        """One kit over many programs, with its exceptions."""
        from vastzone.app.views.pads.spread import SpreadKit

        owner = self.owner
        program = program_of(self.desk, owner) if owner else None
        if owner is not None and program is not None:
            SpreadKit(self, self._perform, owner, program.number, self.canvas.bank).open()

    def _tell_fill(self) -> None:
        owner = self.owner
        program = program_of(self.desk, owner) if owner else None
        if owner is None or program is None:
            return
        self.fill.show_device(
            self.desk.plan, self.desk.scene, owner, self.canvas.bank, self.canvas.chosen
        )
        if not self.fill.isHidden():
            self._preview()

    def _choose_pads(self) -> None:
        """Other pads are chosen with Ctrl: they are what is filled, and shown at once."""
        self.fill.choose_pads(self.canvas.chosen)
        self.canvas.preview = self.fill.preview() if self.canvas.chosen else {}
        self.canvas.update()

    def _preview(self) -> None:
        """Show on the pads what the fill would give, once somebody works at it."""
        worked = self.fill.isAncestorOf(self.focusWidget() or self)
        self.canvas.preview = self.fill.preview() if worked else {}
        self.canvas.update()

    def _fill(self, edit: Edit) -> None:
        self.canvas.preview = {}
        self._perform(edit)
        self.canvas.setFocus()

    def _begin_copy(self, on: bool) -> None:
        self._source = None
        self._show_copy(on)
        self.line.show_text(say("Strike the pad to copy.") if on else "")

    def _show_copy(self, on: bool) -> None:
        """How much and what to copy, while that matters."""
        self._copying.setVisible(on)

    def _struck(self, ref: str, bank: int) -> None:
        """While copying by strike: the source, then the destination."""
        owner = self.owner
        program = program_of(self.desk, owner) if owner else None
        if not self.copy.isChecked() or owner is None or program is None:
            return
        pad = PadSpot(program.number, thing_of(ref), bank)
        if self._source is None:
            self._source = pad
            self.line.show_text(say("Now strike the pad to copy it to."))
            return
        source, self._source = self._source, None
        self.copy.setChecked(False)
        if source != pad:
            what, whole = self.what.currentData(), self.whole.currentData()
            self._perform(copies.copy(self.desk.plan, owner.id, source, pad, what, whole))
            self.line.show_text(say("Copied."))

    def _follow_strike(self, report: Report) -> None:
        """A pad struck elsewhere, by MIDI say, is shown in its bank."""
        owner = self.owner
        if owner is None or not self.isVisible() or report.velocity < 64:
            return
        device = device_of(report.subject)
        if device == owner.id and report.key is None and report.bank != self.canvas.bank:
            self.show_bank(report.bank)

    def show_kits(self) -> None:
        """How many kits the wished sounds need, and which goes where."""
        from vastzone.app.views.pads.kits import KitsNeeded

        if self.owner is not None:
            chosen = {thing_of(ref) for ref in self.desk.chosen}
            KitsNeeded(self, self.desk.plan, self.owner, self._perform, chosen).open()

    def show_page(self, page: int) -> None:
        """Show a page by its place among ``page_names``."""
        self._pages.button(page).setChecked(True)
        self.refresh()


def _scrolled(page: QWidget) -> QScrollArea:
    """A page that can be scrolled where it is higher than there is room."""
    area = QScrollArea()
    area.setFrameShape(QScrollArea.Shape.NoFrame)
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(page)
    return area
