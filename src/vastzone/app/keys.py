"""Keys that mean something where the focus is, kept from the shortcuts of the window."""

from collections.abc import Iterable

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QComboBox


def keeps(event: QEvent, mine: Iterable[Qt.Key]) -> bool:
    """Whether an event asks if one of these keys is to be kept; it is then kept."""
    if event.type() is not QEvent.Type.ShortcutOverride or not isinstance(event, QKeyEvent):
        return False
    if Qt.Key(event.key()) not in tuple(mine):
        return False
    event.accept()
    return True


class ButtonKeys(QObject):
    """Lets Space press the button that has the focus, whatever else Space does in the window."""

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Keep Space for buttons and choices."""
        pressed = isinstance(watched, QAbstractButton | QComboBox)
        return pressed and keeps(event, (Qt.Key.Key_Space,))
