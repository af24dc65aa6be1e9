"""The Pads view: pads to strike and fill, and the inputs that trigger pads are plugged into."""

from PySide6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QHBoxLayout,
    QPushButton,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.fields import CalmCombo
from vastzone.app.perform import Performer
from vastzone.app.views.base import View
from vastzone.app.views.pads.canvas import PadsCanvas
from vastzone.app.views.pads.faces import program_of
from vastzone.app.views.pads.fill import FillBar
from vastzone.app.views.pads.fit import FitBar
from vastzone.app.views.pads.inputs import InputsCanvas
from vastzone.app.views.pads.strikes import StrikesPage
from vastzone.core.engine.report import Report
from vastzone.core.plan import edits, fills
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device
from vastzone.desk.session import Desk

WHAT = (("sound and message", "both"), ("only the sound", "sound"), ("only the message", "message"))


class PadsView(View):
    """Three pages: the pads of one device, the back of the modules, recorded strikes."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self._source: tuple[str, int] | None = None
        self.canvas, self.fill = PadsCanvas(desk), FillBar()
        self.inputs, self.fit = InputsCanvas(desk, perform), FitBar(desk, perform)
        self._empty = EmptyState(
            "No pads yet", "Add a pad controller or a drum module in Rig: its pads stand here, to "
            "strike, to fill and to copy.",
        )  # fmt: skip
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(self._bar())
        middle = QWidget()
        self._stack = QStackedLayout(middle)
        self.strikes = StrikesPage(desk)
        drawn = (self._page(self.canvas, self.fill), self._page(self.inputs, self.fit))
        for page in (*drawn, self.strikes, self._empty):
            self._stack.addWidget(page)
        box.addWidget(middle, 1)
        self.line = Elided("muted", self.canvas)
        self.line.setContentsMargins(16, 3, 16, 7)
        self.line.setMinimumHeight(28)
        box.addWidget(self.line)
        self.canvas.struck.connect(self._struck)
        self.canvas.bank_wanted.connect(self.show_bank)
        self.fill.changed.connect(self._preview)
        self.fill.applied.connect(self._fill)
        self.inputs.told.connect(lambda words, bad: self.line.show_text(words))
        desk.stage.struck.connect(self._follow_strike)
        self.setFocusProxy(self.canvas)

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 14, 8)
        bar.setSpacing(7)
        self._pages = QButtonGroup(self)
        for n, name in enumerate(("Pads", "Inputs", "Strikes")):
            button = QPushButton(name)
            button.setCheckable(True)
            button.setChecked(not n)
            button.setProperty("role", "page")
            self._pages.addButton(button, n)
            bar.addWidget(button)
        self._pages.idClicked.connect(lambda _: self.refresh())
        bar.addSpacing(8)
        self.device, self.program, self.bank = (self._combo(name) for name in
                                                ("Device", "Program", "Bank"))  # fmt: skip
        self.device.currentIndexChanged.connect(lambda _: self.refresh())
        self.program.currentIndexChanged.connect(self._choose_program)
        self.bank.currentIndexChanged.connect(lambda n: self.show_bank(n + 1))
        for combo in (self.device, self.program, self.bank):
            bar.addWidget(combo)
        bar.addStretch()
        self.kits = QPushButton("Kits")
        self.kits.setToolTip("How many kits the wished sounds need, and which goes where")
        self.kits.clicked.connect(self.show_kits)
        bar.addWidget(self.kits)
        self.copy = QPushButton("Copy by strike")
        self.copy.setCheckable(True)
        self.copy.setToolTip("Strike the pad to copy, then the pad to copy it to")
        self.copy.toggled.connect(self._begin_copy)
        self.what = self._combo("What to copy")
        for words, value in WHAT:
            self.what.addItem(words, value)
        bar.addWidget(self.copy)
        bar.addWidget(self.what)
        return bar

    def _combo(self, name: str) -> QComboBox:
        combo = CalmCombo()
        combo.setAccessibleName(name)
        combo.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        combo.setMaximumWidth(200)
        return combo

    @staticmethod
    def _page(canvas: QWidget, below: QWidget) -> QWidget:
        """A page: something drawn, and a card below it."""
        page = QWidget()
        box = QVBoxLayout(page)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(4)
        box.addWidget(canvas, 1)
        row = QHBoxLayout()
        row.setContentsMargins(14, 0, 14, 0)
        row.addWidget(below)
        box.addLayout(row)
        return page

    @property
    def owner(self) -> Device | None:
        """The device whose pads are shown."""
        return next((d for d in self.desk.plan.devices if d.id == self.device.currentData()), None)

    def refresh(self) -> None:
        """Show the plan as it is now."""
        self._fill_devices()
        owner = self.owner
        page = self._pages.checkedId()
        shown = (self.device, self.program, self.bank, self.kits, self.copy, self.what)
        for widget in shown:
            widget.setVisible(not page and owner is not None)
        if page == 2:
            self._stack.setCurrentIndex(2)
            return
        if page == 1:
            self.inputs.rebuild()
            self.fit.refresh()
            self._stack.setCurrentIndex(1 if self.inputs.sockets else 3)
            if self.inputs.sockets and self.isVisible():
                self.inputs.setFocus()
            return
        self._stack.setCurrentIndex(3 if owner is None else 0)
        if owner is None:
            return
        self._fill_programs(owner)
        bank = min(self.canvas.bank, max(fills.banks_of(owner), default=1))
        self._fill_banks(owner, bank)
        self.canvas.show_bank(owner.id, bank)
        self._tell_fill()

    def _fill_devices(self) -> None:
        wanted: list[tuple[str, object]] = [
            (d.name, d.id) for d in self.desk.plan.devices if fills.pads_of(d)
        ]
        held = [(self.device.itemText(n), self.device.itemData(n))
                for n in range(self.device.count())]  # fmt: skip
        chosen = self.device.currentData()
        selected = self.desk.selection.partition(":")[0]
        if held != wanted:
            self._put(self.device, wanted, chosen)
        if selected in {ident for _, ident in wanted} and selected != self.device.currentData():
            self._put(self.device, wanted, selected)

    @staticmethod
    def _put(combo: QComboBox, items: list[tuple[str, object]], chosen: object) -> None:
        combo.blockSignals(True)
        combo.clear()
        for words, value in items:
            combo.addItem(words, value)
        combo.setCurrentIndex(max(0, combo.findData(chosen)))
        combo.blockSignals(False)

    def _fill_programs(self, owner: Device) -> None:
        here = program_of(self.desk, owner)
        items: list[tuple[str, object]] = [
            (f"{p.number + owner.first_program} {p.name}", p.number) for p in owner.programs
        ]
        self._put(self.program, items, here.number if here else None)
        self.program.setVisible(len(items) > 1)

    def _fill_banks(self, owner: Device, bank: int) -> None:
        items: list[tuple[str, object]] = [(f"Bank {n}", n) for n in fills.banks_of(owner)]
        self._put(self.bank, items, bank)
        self.bank.setVisible(len(items) > 1)

    def _choose_program(self, index: int) -> None:
        owner, scene = self.owner, self.desk.scene
        number = self.program.itemData(index)
        if owner is not None and scene is not None and number is not None:
            self._perform(edits.choose_program(scene.id, owner.id, number))

    def show_bank(self, bank: int) -> None:
        """Show another bank."""
        owner = self.owner
        if owner is not None and bank >= 1:
            self._fill_banks(owner, bank)
            self.canvas.show_bank(owner.id, bank)
            self._tell_fill()

    def _tell_fill(self) -> None:
        owner = self.owner
        program = program_of(self.desk, owner) if owner else None
        if owner is None or program is None:
            return
        self.fill.show_device(self.desk.plan, owner, program.number, self.canvas.bank,
                              self.canvas.chosen)  # fmt: skip
        if not self.fill.isHidden():
            self._preview()

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
        self.line.show_text("Strike the pad to copy." if on else "")

    def _struck(self, ref: str, bank: int) -> None:
        """While copying by strike: the source, then the destination."""
        owner = self.owner
        program = program_of(self.desk, owner) if owner else None
        if not self.copy.isChecked() or owner is None or program is None:
            return
        pad = (ref.partition(":")[2], bank)
        if self._source is None:
            self._source = pad
            self.line.show_text("Now strike the pad to copy it to.")
            return
        source, self._source = self._source, None
        self.copy.setChecked(False)
        if source != pad:
            what = self.what.currentData()
            self._perform(
                fills.copy_pad(self.desk.plan, owner.id, program.number, source, pad, what)
            )
            self.line.show_text("Copied.")

    def _follow_strike(self, report: Report) -> None:
        """A pad struck elsewhere, by MIDI say, is shown in its bank."""
        owner = self.owner
        if owner is None or not self.isVisible() or report.velocity < 64:
            return
        device = report.subject.partition(":")[0]
        if device == owner.id and report.key is None and report.bank != self.canvas.bank:
            self.show_bank(report.bank)

    def show_kits(self) -> None:
        """How many kits the wished sounds need, and which goes where."""
        from vastzone.app.views.pads.kits import KitsNeeded

        if self.owner is not None:
            KitsNeeded(self, self.desk.plan, self.owner).open()

    def show_page(self, page: int) -> None:
        """Show the pads (0), the inputs (1) or the strikes (2)."""
        self._pages.button(page).setChecked(True)
        self.refresh()
