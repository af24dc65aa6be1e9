"""Keys that mean something where the focus is, kept from the shortcuts of the window."""

from collections.abc import Iterable

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent

from vastzone.app.piano_places import latin_of


def keeps(event: QEvent, mine: Iterable[Qt.Key]) -> bool:
    """Whether an event asks if one of these keys is to be kept; it is then kept."""
    if event.type() is not QEvent.Type.ShortcutOverride or not isinstance(event, QKeyEvent):
        return False
    if Qt.Key(event.key()) not in tuple(mine):
        return False
    event.accept()
    return True


def key_of(event: QKeyEvent) -> Qt.Key:
    """The key that was struck: with Ctrl by its place, where a layout writes no Latin."""
    is_shortcut = event.modifiers() & Qt.KeyboardModifier.ControlModifier
    latin = latin_of(event.nativeScanCode(), event.key()) if is_shortcut else ""
    return Qt.Key(ord(latin)) if latin else Qt.Key(event.key())
