"""What a device can and cannot: how far each setting reaches, how many there are, what is kept."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFormLayout,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPlainTextEdit,
    QScrollArea,
    QSlider,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import mark_bad
from vastzone.app.frame.rows import Cell, Row
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button, Label
from vastzone.core.describe.abilities import (
    COUNTED,
    SCOPES,
    add_switch,
    answers_of,
    panel_rows,
    reserved_of,
    scope_of_setting,
    scoped_in,
    set_answers,
    set_count,
    set_panel,
    set_reserved,
    set_scope,
    set_sources,
)
from vastzone.core.errors import PlanError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.limits import Count, LimitedSetting
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.limits import most
from vastzone.core.say import say
from vastzone.core.text import whole_number
from vastzone.desk.session import Desk

UNSAID = "not said"


class Abilities(Dialog):
    """Pages of what is said of a device; each change counts at once and can be undone."""

    def __init__(self, parent: QWidget, desk: Desk, device: str, describe: Performer) -> None:
        super().__init__(parent)
        self._desk, self._ident, self._describe = desk, device, describe
        heading = say("What {device} can and cannot", device=self.device.name)
        box = self.begin(say("What it can and cannot"), heading, 760, 620)
        self.said = quiet("")
        self.tabs = QTabWidget()
        for name, build in (
            (say("How far settings reach"), self._scopes),
            (say("How many there are"), self._counts),
            (say("What it keeps"), self._kept),
            (say("On its panel"), self._panel),
            (say("To do first"), self._first),
        ):
            self.tabs.addTab(_scrolled(build()), name)
        box.addWidget(self.tabs, 1)
        box.addWidget(self.said)
        row = QHBoxLayout()
        row.addStretch()
        close = Button(say("Close"))
        close.setProperty("role", "primary")
        close.clicked.connect(self.accept)
        close.setAutoDefault(False)
        row.addWidget(close)
        box.addLayout(row)

    @property
    def device(self) -> Device:
        """The device as it is now."""
        devices = self._desk.dialled_plan.devices
        return next(device for device in devices if device.id == self._ident)

    def _make(self, edit: Callable[[], Edit], field: QLineEdit | None = None) -> None:
        """Work an edit out and say it of the device; say why not where it cannot be."""
        try:
            self._describe(edit())
        except PlanError as error:
            self.said.setText(str(error))
            if field is not None:
                mark_bad(field, True)
            return
        self.said.setText("")
        if field is not None:
            mark_bad(field, False)

    def _scopes(self) -> QWidget:
        page = QWidget()
        grid = QGridLayout(page)
        grid.setHorizontalSpacing(14)
        grid.setVerticalSpacing(10)
        grid.setColumnStretch(1, 1)
        for place, (setting, words) in enumerate(scoped_in(self.device)):
            slider = QSlider(Qt.Orientation.Horizontal)
            slider.setRange(0, len(SCOPES))
            slider.setPageStep(1)
            slider.setTickPosition(QSlider.TickPosition.TicksBelow)
            slider.setAccessibleName(words)
            told = Label()
            bound(told, "MinimumWidth", 150)
            scope = scope_of_setting(self.device, setting)
            names = [UNSAID, *(word for _, word in SCOPES)]
            at = 0 if scope is None else [known for known, _ in SCOPES].index(scope) + 1
            slider.setValue(at)
            told.setText(names[at])
            slider.valueChanged.connect(partial(self._slide, setting, told))
            grid.addWidget(Label(words), place, 0)
            grid.addWidget(slider, place, 1)
            grid.addWidget(told, place, 2)
        grid.setRowStretch(len(scoped_in(self.device)), 1)
        return page

    def _slide(self, setting: LimitedSetting, told: Label, at: int) -> None:
        scope = None if at == 0 else SCOPES[at - 1][0]
        told.setText(UNSAID if at == 0 else SCOPES[at - 1][1])
        self._make(lambda: set_scope(self.device, setting, scope))

    def _counts(self) -> QWidget:
        page = QWidget()
        form = QFormLayout(page)
        self._fields: dict[str, QLineEdit] = {}
        for what, words in COUNTED:
            limit = most(self.device, what)
            field = QLineEdit("" if limit is None else str(limit.most))
            field.setPlaceholderText(UNSAID)
            field.setAccessibleName(words)
            self._fields[what] = field
            field.editingFinished.connect(partial(self._count, what))
            form.addRow(Label(words), field)
            if what == "assign-slots":
                taken = "" if limit is None else " ".join(map(str, limit.taken))
                self.taken = QLineEdit(taken)
                self.taken.setPlaceholderText(say("none: 1 2 5–8"))
                self.taken.setAccessibleName(say("Assign slots taken"))
                self.taken.editingFinished.connect(partial(self._count, what))
                form.addRow(Label(say("of these taken")), self.taken)
        return page

    def _count(self, what: Count) -> None:
        field = self._fields[what]
        text = field.text().strip()
        number = whole_number(text)
        if text and (number is None or not 0 <= number <= 16384):
            mark_bad(field, True)
            self.said.setText(say("Write how many there are, or nothing where it is not known."))
            return
        taken = self.taken.text() if what == "assign-slots" else ""
        self._make(lambda: set_count(self.device, what, number, taken), field)

    def _kept(self) -> QWidget:
        page = QWidget()
        form = QFormLayout(page)
        self._purposes: list[QLineEdit] = []
        self._channels: list[QLineEdit] = []
        self._numbers: list[QLineEdit] = []
        for place, kept in enumerate((*reserved_of(self.device), None, None)):
            numbers = QLineEdit("" if kept is None else " ".join(map(str, kept.controllers)))
            purpose = QLineEdit("" if kept is None else kept.purpose)
            channels = QLineEdit("" if kept is None else " ".join(map(str, kept.channels)))
            channels.setPlaceholderText("channels")
            bound(channels, "MaximumWidth", 90)
            channels.setAccessibleName(say("Channels kept, {place}", place=place + 1))
            self._channels.append(channels)
            numbers.setPlaceholderText(say("controllers: 80 81"))
            purpose.setPlaceholderText(say("for what"))
            numbers.setAccessibleName(say("Controllers kept, {place}", place=place + 1))
            purpose.setAccessibleName(say("For what, {place}", place=place + 1))
            self._numbers.append(numbers)
            self._purposes.append(purpose)
            line = QHBoxLayout()
            line.addWidget(numbers)
            line.addWidget(channels)
            line.addWidget(purpose, 1)
            for field in (numbers, channels, purpose):
                field.editingFinished.connect(partial(self._keep, place))
            form.addRow(Label(say("Keeps")), line)
        limit = answers_of(self.device)
        low, high = (0, 127) if limit is None else (limit.low, limit.high)
        naming = self.device.octaves
        self.low, self.high = (
            QLineEdit(pitch.name(low, naming)),
            QLineEdit(pitch.name(high, naming)),
        )
        line = QHBoxLayout()
        for field, name in ((self.low, say("Lowest note answered")), (self.high, say("Highest"))):
            field.setAccessibleName(name)
            field.editingFinished.connect(self._answer)
            line.addWidget(field)
        form.addRow(Label(say("Answers notes")), line)
        self.source = QLineEdit(next((x.source for x in self.device.limits if x.source), ""))
        self.verified = QLineEdit(next((x.verified for x in self.device.limits if x.verified), ""))
        for field, name in ((self.source, say("Read in")), (self.verified, say("Verified by"))):
            field.setAccessibleName(name)
            field.editingFinished.connect(self._sources)
            form.addRow(Label(name), field)
        self.switch, self.choices = QLineEdit(), QLineEdit()
        self.switch.setPlaceholderText(say("Clock"))
        self.choices.setPlaceholderText(say("own/from MIDI/from USB"))
        self.switch.setAccessibleName(say("New switch"))
        self.choices.setAccessibleName(say("Choices of the new switch"))
        add = Button(say("Add switch"))
        add.setAutoDefault(False)
        add.clicked.connect(self._switch)
        line = QHBoxLayout()
        for widget in (self.switch, self.choices, add):
            line.addWidget(widget)
        form.addRow(Label(say("Set by choosing")), line)
        return page

    def _keep(self, place: int) -> None:
        numbers, channels = self._numbers[place], self._channels[place]
        purpose = self._purposes[place].text()
        known = reserved_of(self.device)
        said = numbers.text().strip() or channels.text().strip()
        if place >= len(known) and not said:
            return
        at = min(place, len(known))

        def edit() -> Edit:
            return set_reserved(self.device, at, purpose, numbers.text(), channels.text())

        self._make(edit, numbers)

    def _answer(self) -> None:
        naming = self.device.octaves

        def edit() -> Edit:
            low = pitch.parse(self.low.text(), naming)
            return set_answers(self.device, low, pitch.parse(self.high.text(), naming))

        self._make(edit, self.low)

    def _sources(self) -> None:
        source, verified = self.source.text().strip(), self.verified.text().strip()
        self._make(lambda: set_sources(self.device, source, verified))

    def _switch(self) -> None:
        name, choices = self.switch.text(), self.choices.text()
        self._make(lambda: add_switch(self._ident, name, choices), self.switch)
        if not self.said.text():
            self.switch.clear()
            self.choices.clear()

    def _panel(self) -> QWidget:
        page = QWidget()
        box = QVBoxLayout(page)
        box.addWidget(
            quiet(say("Menus on the way to each setting, and the presses that it takes."))
        )
        self.table = typing_table(
            (say("Setting"), say("Way there"), say("Presses")), say("How settings are reached")
        )
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self.table.setColumnWidth(0, 220)
        self.table.setColumnWidth(2, 80)
        self.table.held.typed.connect(self._reach)
        box.addWidget(self.table, 1)
        self._show_panel()
        return page

    def _show_panel(self) -> None:
        rows = []
        for row in panel_rows(self.device):
            presses = Cell(str(row.presses), typed=True, right=True)
            rows.append(Row((Cell(row.words), Cell(row.path, typed=True), presses), row.field))
        self.table.show_rows(rows)

    def _reach(self, at: int, column: int, words: str) -> None:
        row = panel_rows(self.device)[at]
        presses = whole_number(words) if column == 2 else row.presses
        if presses is None:
            self.said.setText(say("Write how many presses it takes, 0 to 40."))
            return
        path = words if column == 1 else row.path
        self._make(lambda: set_panel(self._ident, row.field, path, presses))
        self._show_panel()

    def _first(self) -> QWidget:
        page = QWidget()
        box = QVBoxLayout(page)
        box.addWidget(quiet(say("What is done before it is dialled or played, a step to a line.")))
        self.lines = QPlainTextEdit("\n".join(self.device.preparation))
        self.lines.setTabChangesFocus(True)
        self.lines.setAccessibleName(say("To do first, a step to a line"))
        self.lines.textChanged.connect(self._prepare)
        box.addWidget(self.lines, 1)
        return page

    def _prepare(self) -> None:
        lines = []
        for line in self.lines.toPlainText().splitlines():
            if line.strip():
                lines.append(line.strip())
        edit = set_device(self._ident, say("Change what is done first"), preparation=tuple(lines))
        self._make(lambda: edit)


def _scrolled(page: QWidget) -> QScrollArea:
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(page)
    return area
