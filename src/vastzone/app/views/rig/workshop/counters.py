"""What a device has, chosen with counters: they write the line that a person could have typed."""

from collections.abc import Callable

from PySide6.QtWidgets import (
    QCheckBox,
    QFormLayout,
    QHBoxLayout,
    QLineEdit,
    QSpinBox,
    QWidget,
)

from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import add_steps
from vastzone.app.frame.text import Button, Label
from vastzone.core.describe.line import read_line
from vastzone.core.describe.phrase import MOST
from vastzone.core.errors import PlanError
from vastzone.core.say import say, typed

COUNTED: tuple[tuple[str, str], ...] = (
    ("pads", "pads"),
    ("faders", "faders"),
    ("knobs", "knobs"),
    ("endless knobs", "endless knobs"),
    ("buttons", "buttons"),
    ("foot switches", "foot switches"),
    ("stops", "stops"),
    ("keys", "keys"),
    ("layers", "layers"),
    ("one-shot cells", "one-shot cells"),
    ("parts", "parts"),
    ("sounds of a kit", "sounds"),
    ("targets", "targets"),
    ("loops on/off", "loops on/off"),
    ("dual inputs", "dual inputs"),
    ("piezo-switch inputs", "piezo-switch inputs"),
    ("three-way inputs", "three-way inputs"),
    ("expression jacks", "expression jacks"),
    ("sustain jacks", "sustain jacks"),
    ("outputs", "outputs"),
    ("memory slots", "memory slots"),
    ("programs", "programs"),
)
"""What is counted most, and its words in the line."""
SENT = (("not said", ""), ("notes", say("notes from")), ("controllers", say("controllers from")))


class Counters(Dialog):
    """How many of what, how they lie, what they send, what they are called."""

    def __init__(
        self, parent: QWidget, device: str, octaves: int, add: Callable[[str], object]
    ) -> None:
        super().__init__(parent)
        self._octaves, self._add = octaves, add
        box = self.begin(say("By the dozen"), say("What {device} has", device=device), 440, 460)
        self.count = Counter(say("How many"), 1, MOST, 8)
        self.what = CalmCombo()
        self.what.setAccessibleName(say("Of what"))
        for words, text in COUNTED:
            self.what.addItem(words, text)
        self.rows, self.columns = Counter(say("Rows"), 0, 64, 0), Counter(say("Columns"), 0, 64, 0)
        self.banks = Counter(say("Banks"), 1, 64, 1)
        self.sent = CalmCombo()
        self.sent.setAccessibleName(say("What they send"))
        for words, text in SENT:
            self.sent.addItem(words, text)
        self.first, self.names = QLineEdit("36"), QLineEdit()
        self.first.setAccessibleName(say("First number or note"))
        self.names.setAccessibleName(say("Names"))
        self.names.setPlaceholderText("Layer {n} volume, or Kick/Snare/Hat")
        self.channel = Counter(say("Channel"), 0, 16, 0)
        self.own = QCheckBox(say("each its own, from there"))
        form = QFormLayout()
        form.setHorizontalSpacing(14)
        form.addRow(Label(say("How many")), _beside(self.count, self.what))
        form.addRow(Label(say("Rows × columns")), _beside(self.rows, self.columns))
        form.addRow(Label(say("Banks")), self.banks)
        form.addRow(Label(say("Send")), _beside(self.sent, self.first))
        form.addRow(Label(say("Channel")), _beside(self.channel, self.own))
        form.addRow(Label(say("Called")), self.names)
        box.addLayout(form)
        self.said = quiet("")
        box.addStretch()
        box.addWidget(self.said)
        self.take = Button(say("Add"))
        self.take.clicked.connect(self._take)
        self.answers(box, say("Close"), self.take)
        for counter in (self.count, self.rows, self.columns, self.banks, self.channel):
            counter.spin.valueChanged.connect(lambda _: self._tell())
        for combo in (self.what, self.sent):
            combo.activated.connect(lambda _: self._tell())
        for field in (self.first, self.names):
            field.textChanged.connect(lambda _: self._tell())
        self.own.toggled.connect(lambda _: self._tell())
        self._tell()

    @property
    def line(self) -> str:
        """What the counters say, as a line."""
        words = [f"{self.count.value()} {self.what.currentData()}"]
        if self.rows.value() and self.columns.value():
            words.append(f"as {self.rows.value()} × {self.columns.value()}")
        if self.banks.value() > 1:
            words.append(f"in {self.banks.value()} banks")
        if self.sent.currentData():
            words.append(f"{self.sent.currentData()} {self.first.text().strip()}")
        if self.own.isChecked():
            words.append(typed(f"own channels from {max(1, self.channel.value())}"))
        elif self.channel.value():
            words.append(f"channel {self.channel.value()}")
        names = self.names.text().replace('"', "").strip()
        if names:
            words.append(f'called "{names}"')
        return " ".join(words)

    def _tell(self) -> None:
        try:
            read_line(self.line, self._octaves)
        except PlanError as error:
            self.said.setText(str(error))
            self.take.setEnabled(False)
            return
        self.said.setText(say("As a line: {line}", line=self.line))
        self.take.setEnabled(True)

    def _take(self) -> None:
        line = self.line
        self.accept()
        self._add(line)


class Counter(QWidget):
    """A number that is typed, or counted with two large buttons; 0 where nothing is said."""

    def __init__(self, name: str, low: int, high: int, value: int) -> None:
        super().__init__()
        self.spin = QSpinBox()
        self.spin.setRange(low, high)
        self.spin.setValue(value)
        self.spin.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.spin.setAccessibleName(name)
        if not low:
            self.spin.setSpecialValueText("not said")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        row.addWidget(self.spin, 1)
        add_steps(row, name, self.spin.stepBy)
        self.setFocusProxy(self.spin)

    def value(self) -> int:
        """The number."""
        return self.spin.value()

    def setValue(self, value: int) -> None:
        """Another number."""
        self.spin.setValue(value)


def _beside(*widgets: QWidget) -> QHBoxLayout:
    row = QHBoxLayout()
    row.setSpacing(8)
    for widget in widgets:
        row.addWidget(widget, 1)
    return row
