"""The menu behind the first button of the header: built once, only what it says changes."""

from functools import partial
from pathlib import Path

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu, QWidget

from vastzone.app.actions import Actions
from vastzone.app.documents import Documents
from vastzone.app.frame.text import add_action, safe_tip, unmarked
from vastzone.core.say import noted, say
from vastzone.desk.preferences import LONGEST

ALONE = ""
"""The group of what stands in no menu of its own."""
HIDDEN = "Zone"
"""The group of actions that only keys and go-to offer."""


ORDER = (noted("Plan"), noted("Edit"), noted("View"), noted("Play"), noted("Tools"), noted("Help"))
"""The groups, each a menu of its own; what belongs to none stands below them."""


class MainMenu(QMenu):
    """Every action in the menu of its group, and the plans that were open lately."""

    def __init__(self, parent: QWidget, actions: Actions, documents: Documents) -> None:
        super().__init__(parent)
        self._documents = documents
        self._recent = QMenu(say("Open recent"), self)
        self._recent.setToolTipsVisible(True)
        self._places = [self._place(number) for number in range(LONGEST)]
        self._groups = {name: QMenu(say(name), self) for name in ORDER}
        for name in ORDER:
            self.addMenu(self._groups[name])
        self.addSeparator()
        for action in actions:
            if action.group == HIDDEN:
                continue
            menu = self._groups.get(action.group, self)
            item = add_action(menu, action.label, action.run)
            # Only told: a second shortcut of the same keys would make both ambiguous.
            keys = QKeySequence(action.keys).toString(QKeySequence.SequenceFormat.NativeText)
            item.setText(f"{unmarked(action.label)}\t{keys}" if keys else unmarked(action.label))
            if action.ident == "open":
                menu.addMenu(self._recent)
        self._groups["Plan"].aboutToShow.connect(self._show_recent)

    def _place(self, number: int) -> QAction:
        return add_action(self._recent, "", partial(self._open, number))

    def _show_recent(self) -> None:
        names = self._documents.preferences.recent
        for place, name in zip(self._places, names, strict=False):
            place.setText(unmarked(Path(name).name))
            place.setToolTip(safe_tip(name))
        for number, place in enumerate(self._places):
            place.setVisible(number < len(names))
        self._recent.setEnabled(bool(names))

    def _open(self, number: int) -> None:
        self._documents.open_recent(Path(self._documents.preferences.recent[number]))
