"""A box for a decimal number, which takes point and comma alike."""

from PySide6.QtGui import QValidator
from PySide6.QtWidgets import QDoubleSpinBox

from vastzone.core.say import number
from vastzone.core.text import decimal


class DecimalSpin(QDoubleSpinBox):
    """A spin box without its small buttons: «2,5» is two and a half, as «2.5» is."""

    def __init__(self) -> None:
        super().__init__()
        self.setKeyboardTracking(False)
        self.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)

    def validate(self, text: str, pos: int) -> tuple[QValidator.State, str, int]:
        """What is typed, as it stands: a number, the beginning of one, or neither."""
        value = decimal(text)
        if value is not None and self.minimum() <= value <= self.maximum():
            return QValidator.State.Acceptable, text, pos
        begun = not text.strip("+-−.,0123456789")
        state = QValidator.State.Intermediate if begun else QValidator.State.Invalid
        return state, text, pos

    def textFromValue(self, value: float) -> str:
        """The number as it is written everywhere here."""
        return number(value, f".{self.decimals()}f")

    def valueFromText(self, text: str) -> float:
        """The number that is typed."""
        value = decimal(text)
        return self.value() if value is None else value
