"""Keys that mean something where the focus is, kept from the shortcuts of the window."""

from collections.abc import Callable, Iterable

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


Taker = Callable[[QObject, QEvent], bool]


class Hands(QObject):
    """The one filter of the application: what hands do goes to whoever asked for its kind.

    Every event of every widget passes here, so all others are let go at once.
    """

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._takers: dict[QEvent.Type, list[Taker]] = {}
        self.take(buttons_keep_space, QEvent.Type.ShortcutOverride)

    def take(self, taker: Taker, *kinds: QEvent.Type) -> None:
        """Let ``taker`` see these kinds; what it returns True for goes no further."""
        for kind in kinds:
            self._takers.setdefault(kind, []).append(taker)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Hand on what somebody asked for."""
        takers = self._takers.get(event.type())
        return takers is not None and any(taker(watched, event) for taker in takers)


def buttons_keep_space(watched: QObject, event: QEvent) -> bool:
    """Let Space press the button that has the focus, whatever else Space does in the window."""
    return isinstance(watched, QAbstractButton | QComboBox) and keeps(event, (Qt.Key.Key_Space,))
