"""Keys that mean something where the focus is, kept from the shortcuts of the window."""

from collections.abc import Iterable

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent


def keeps(event: QEvent, mine: Iterable[Qt.Key]) -> bool:
    """Whether an event asks if one of these keys is to be kept; it is then kept."""
    if event.type() is not QEvent.Type.ShortcutOverride or not isinstance(event, QKeyEvent):
        return False
    if Qt.Key(event.key()) not in tuple(mine):
        return False
    event.accept()
    return True
