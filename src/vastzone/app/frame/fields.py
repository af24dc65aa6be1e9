"""The widgets that rows of facts are entered with."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QCompleter,
    QHBoxLayout,
    QLineEdit,
    QToolButton,
    QWidget,
)

from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.dressed import dress
from vastzone.app.frame.sheet import FactRow
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Label
from vastzone.core.errors import PitchError
from vastzone.core.midi import pitch
from vastzone.core.say import say
from vastzone.core.text import quoted, whole_number

Changed = Callable[[Any], None]
Complain = Callable[[str], None]


def mark_bad(field: QLineEdit, bad: bool) -> None:
    """Mark a field whose text cannot be taken."""
    if bool(field.property("bad")) != bad:
        dress(field, "bad", bad)


class NoteField(QLineEdit):
    """A note by name or number, in a device's naming; arrow keys go by semitones."""

    def __init__(self, row: FactRow, changed: Changed, complain: Complain) -> None:
        super().__init__()
        self._row, self._changed, self._complain = row, changed, complain
        self.editingFinished.connect(self._read)
        self.show_row(row)

    def show_row(self, row: FactRow) -> None:
        """Show a value, unless the person is typing one."""
        self._row = row
        if not (self.hasFocus() and self.isModified()):
            self.setText(pitch.label(row.value, row.naming))
            mark_bad(self, False)

    def _read(self) -> None:
        if not self.isModified():
            return
        self.setModified(False)
        text = self.text().partition("(")[0]
        try:
            note = pitch.parse(text, self._row.naming)
        except PitchError as error:
            mark_bad(self, True)
            self._complain(str(error))
            return
        self._give(note)

    def _give(self, note: int) -> None:
        low, high = self._row.low, self._row.high
        if low <= note <= high:
            mark_bad(self, False)
            self._changed(note)
        else:
            mark_bad(self, True)
            self._complain(
                say(
                    "{pitch} is outside {span}: choose a note inside.",
                    pitch=pitch.label(note, self._row.naming),
                    span=pitch.span(low, high, self._row.naming),
                )
            )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down go by semitones."""
        step = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
        if step:
            self._give(self._row.value + step)
        else:
            super().keyPressEvent(event)


class NumberField(QLineEdit):
    """A whole number; arrow keys and two large buttons beside it go by ones."""

    def __init__(self, row: FactRow, changed: Changed, complain: Complain) -> None:
        super().__init__()
        self._row, self._changed, self._complain = row, changed, complain
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.editingFinished.connect(self._read)
        self.show_row(row)

    def show_row(self, row: FactRow) -> None:
        """Show a value, unless the person is typing one."""
        self._row = row
        if not (self.hasFocus() and self.isModified()):
            self.setText(str(row.value).replace("-", "−"))
            mark_bad(self, False)

    def _read(self) -> None:
        if not self.isModified():
            return
        self.setModified(False)
        number = whole_number(self.text())
        if number is not None:
            self._give(number)
        else:
            mark_bad(self, True)
            self._complain(
                say("“{self}” is not a whole number: write one.", self=quoted(self.text()))
            )

    def _give(self, value: int) -> None:
        row = self._row
        if row.low <= value <= row.high:
            mark_bad(self, False)
            self._changed(value)
        else:
            mark_bad(self, True)
            self._complain(
                say(
                    "{row} goes from {low} to {high}: choose one of these.",
                    row=row.label,
                    low=row.low,
                    high=row.high,
                )
            )

    def step(self, by: int) -> None:
        """One more or one less, up to the ends."""
        self._give(max(self._row.low, min(self._row.high, self._row.value + by)))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down go by ones."""
        by = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
        if by:
            self.step(by)
        else:
            super().keyPressEvent(event)


def add_steps(box: QHBoxLayout, name: str, step: Callable[[int], object]) -> None:
    """Put large buttons for one less and one more beside a number."""
    less, more = say("{name}: one less", name=name), say("{name}: one more", name=name)
    for sign, words, by in (("−", less, -1), ("+", more, 1)):
        button = QToolButton()
        button.setText(sign)
        button.setProperty("role", "step")
        button.setAutoRepeat(True)
        button.setAccessibleName(words)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.clicked.connect(partial(step, by))
        box.addWidget(button)


class Stepper(QWidget):
    """A number with large buttons for one less and one more."""

    def __init__(self, row: FactRow, changed: Changed, complain: Complain) -> None:
        super().__init__()
        self.field = NumberField(row, changed, complain)
        bound(self.field, "MinimumWidth", 50)
        box = QHBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(4)
        box.addWidget(self.field, 1)
        add_steps(box, row.label, self.field.step)
        self.setFocusProxy(self.field)

    def setAccessibleName(self, name: str) -> None:
        """The number carries the name."""
        self.field.setAccessibleName(name)


FEW = 16
"""Choices up to which they are only listed, and not typed."""


class TypedCombo(CalmCombo):
    """A long choice that is made by typing too: a number that it begins with, or a word in it."""

    def __init__(self, complain: Complain) -> None:
        super().__init__()
        self._complain = complain
        self.setEditable(True)
        self.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        line = QLineEdit()
        self.setLineEdit(line)
        completer = QCompleter(self.model(), self)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        completer.setCompletionMode(QCompleter.CompletionMode.PopupCompletion)
        completer.setFilterMode(Qt.MatchFlag.MatchContains)
        self.setCompleter(completer)
        line.editingFinished.connect(self._read)

    def setAccessibleName(self, name: str) -> None:
        """The line that is typed into is called so too."""
        super().setAccessibleName(name)
        line = self.lineEdit()
        if line is not None:
            line.setAccessibleName(name)

    def _read(self) -> None:
        """Choose what was typed; what is not there leaves the choice as it was."""
        typed = self.currentText().strip()
        at = self._found(typed)
        if at < 0:
            self._complain(
                say("“{typed}” is not offered here: type a number or a word.", typed=quoted(typed))
            )
            at = self.currentIndex()
        self.setEditText(self.itemText(at) if at >= 0 else "")
        if at != self.currentIndex():
            self.setCurrentIndex(at)

    def _found(self, typed: str) -> int:
        words = [self.itemText(at).lower() for at in range(self.count())]
        wanted = typed.lower()
        if not wanted or wanted in words:
            return words.index(wanted) if wanted else self.currentIndex()
        for at, text in enumerate(words):
            if text.split(" ")[0] == wanted:
                return at
        for at, text in enumerate(words):
            if wanted in text:
                return at
        return -1


def offer(combo: QComboBox, items: Sequence[tuple[str, object]], chosen: object = None) -> bool:
    """Let a choice offer just these, words and what they stand for; whether that was new.

    What was chosen stays so while it is among them, else ``chosen`` is.  Nobody is told.
    """
    shown = [(combo.itemText(n), combo.itemData(n)) for n in range(combo.count())]
    if shown == list(items):
        return False
    before = combo.currentData() if combo.count() else chosen
    combo.blockSignals(True)
    combo.clear()
    for words, value in items:
        combo.addItem(words, value)
    combo.setCurrentIndex(max(0, combo.findData(before)))
    combo.blockSignals(False)
    return True


def choose(combo: QComboBox, value: object) -> bool:
    """Choose what stands for a value, if it is offered, without telling; whether it is."""
    at = combo.findData(value)
    if at >= 0:
        combo.blockSignals(True)
        combo.setCurrentIndex(at)
        combo.blockSignals(False)
    return at >= 0


def make_field(row: FactRow, changed: Changed, complain: Complain) -> QWidget:
    """A widget for a row; ``changed`` gets the new value."""
    field = _FIELDS[row.kind](row, changed, complain)
    field.setAccessibleName(_spoken(row))
    bound(field, "MinimumWidth", 60)
    return field


def _spoken(row: FactRow) -> str:
    """What a row is called; one that is only told says its value with it."""
    return f"{row.label}: {row.value}" if row.kind == "fixed" else row.label


def show_value(field: QWidget, row: FactRow) -> None:
    """Put a row's value into its widget without telling anyone."""
    field.blockSignals(True)
    if isinstance(field, NoteField):
        field.show_row(row)
    elif isinstance(field, Stepper):
        field.field.show_row(row)
    elif isinstance(field, QComboBox):
        _fill(field, row)
    elif isinstance(field, QCheckBox):
        field.setChecked(row.value)
    elif isinstance(field, QLineEdit):
        if not (field.hasFocus() and field.isModified()):
            field.setText(row.value)
            field.setCursorPosition(0)
    elif isinstance(field, Label):
        field.setText(row.value)
        field.setAccessibleName(_spoken(row))
    field.blockSignals(False)


def _fill(field: QComboBox, row: FactRow) -> None:
    shown = [field.itemText(i) for i in range(field.count())]
    if shown != [text for text, _ in row.choices]:
        field.clear()
        for text, value in row.choices:
            field.addItem(text, value)
    values = [value for _, value in row.choices]
    field.setCurrentIndex(values.index(row.value) if row.value in values else -1)
    line = field.lineEdit()
    if line is not None and not line.hasFocus():
        line.setCursorPosition(0)


def _text(row: FactRow, changed: Changed, complain: Complain) -> QWidget:
    field = QLineEdit(row.value)
    field.setCursorPosition(0)

    def read() -> None:
        if field.isModified():
            field.setModified(False)
            changed(field.text().strip())

    field.editingFinished.connect(read)
    return field


def _number(row: FactRow, changed: Changed, complain: Complain) -> QWidget:
    return Stepper(row, changed, complain)


def _choice(row: FactRow, changed: Changed, complain: Complain) -> QWidget:
    field = TypedCombo(complain) if len(row.choices) > FEW else CalmCombo()
    field.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    _fill(field, row)
    field.currentIndexChanged.connect(lambda i: changed(field.itemData(i)) if i >= 0 else None)
    return field


def _check(row: FactRow, changed: Changed, complain: Complain) -> QWidget:
    field = QCheckBox()
    field.setChecked(row.value)
    field.toggled.connect(changed)
    return field


def _fixed(row: FactRow, changed: Changed, complain: Complain) -> QWidget:
    field = Label(row.value)
    field.setWordWrap(True)
    return field


_FIELDS: dict[str, Callable[[FactRow, Changed, Complain], QWidget]] = {
    "text": _text,
    "number": _number,
    "choice": _choice,
    "check": _check,
    "fixed": _fixed,
    "note": NoteField,
}
