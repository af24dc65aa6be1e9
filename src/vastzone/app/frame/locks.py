"""Locks beside numbers: this is how it is, leave it."""

from collections.abc import Callable

from PySide6.QtCore import QPoint, QSize, Qt
from PySide6.QtWidgets import QHBoxLayout, QToolButton, QWidget

from vastzone.app.frame.sheet import FactRow
from vastzone.app.frame.text import set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.core.say import say

SIZE = 15


class LockButton(QToolButton):
    """A number is locked, or free to be worked out; a press changes that.

    Its menu (the right button, the menu key) offers to lock what belongs with it.
    """

    def __init__(
        self, row: FactRow, turn: Callable[[str, bool], None], offer: Callable[[str, QPoint], None]
    ) -> None:
        super().__init__()
        self.ref, self._label = row.ref, row.label
        self.setCheckable(True)
        self.setProperty("role", "lock")
        self.setIconSize(QSize(SIZE, SIZE))
        self._turn, self._offer = turn, offer
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.customContextMenuRequested.connect(self._menu)
        self.clicked.connect(self._pressed)
        self.show_locked(False)

    def _pressed(self) -> None:
        self._turn(self.ref, self.isChecked())

    def _menu(self, at: QPoint) -> None:
        self._offer(self.ref, self.mapToGlobal(at))

    def show_locked(self, locked: bool, by: str = "") -> None:
        """Show whether it is locked, and by whom."""
        self.setChecked(locked)
        colours = THEME.colours
        picture = (
            icon("lock", colours.ink, SIZE) if locked else icon("lock-open", colours.muted, SIZE)
        )
        self.setIcon(picture)
        self.setAccessibleName(
            say("{label} is locked", label=self._label)
            if locked
            else say("{label} is free", label=self._label)
        )
        whose = say(" by {by}", by=by) if by else ""
        said = (
            say("Locked{whose}: it is left as it is", whose=whose)
            if locked
            else say("Free: it may be worked out")
        )
        press = say("Press to free it") if locked else say("Press to lock it")
        set_tip(self, say("{said}. {press}, the right button for more.", said=said, press=press))


def with_lock(field: QWidget, lock: LockButton) -> QWidget:
    """A field with the lock of its number beside it."""
    both = QWidget()
    box = QHBoxLayout(both)
    box.setContentsMargins(0, 0, 0, 0)
    box.setSpacing(3)
    box.addWidget(field, 1)
    box.addWidget(lock)
    return both
