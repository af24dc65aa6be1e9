"""Everything that can be done, declared as data: for the menu, the shortcuts and go-to."""

from collections.abc import Callable, Iterator
from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QWidget


class Action(NamedTuple):
    """Something to do: its name, what runs it, its shortcut, where it stands in the menu.

    A ``late`` key belongs to the window only where no widget wants it.  ``within`` is the view that
    must be shown for the key to count, and have the focus where it ``removes`` something.
    """

    ident: str
    label: str
    run: Callable[[], object]
    keys: str = ""
    group: str = ""
    icon: str = ""
    late: bool = False
    within: QWidget | None = None
    removes: bool = False


class Actions:
    """The table of actions."""

    def __init__(self) -> None:
        self._table: dict[str, Action] = {}

    def add(self, *actions: Action) -> None:
        """Put actions into the table."""
        for action in actions:
            self._table[action.ident] = action

    def run(self, ident: str) -> None:
        """Do one."""
        self._table[ident].run()

    def run_keys(self, keys: str) -> bool:
        """Do what has a shortcut, told as «Ctrl+Shift+Z»; whether anything has it here."""
        wanted = QKeySequence(keys)
        for action in self:
            is_here = action.within is None or action.within.isVisible()
            if action.keys and is_here and QKeySequence(action.keys) == wanted:
                action.run()
                return True
        return False

    def __iter__(self) -> Iterator[Action]:
        return iter(self._table.values())

    def bind(self, window: QWidget) -> None:
        """Make the shortcuts work in a window."""
        for action in self:
            if action.keys and not action.late:
                shortcut = QShortcut(QKeySequence(action.keys), action.within or window)
                if action.removes:
                    shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
                shortcut.activated.connect(action.run)
