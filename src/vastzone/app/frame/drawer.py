"""Where facts find room: beside the view, or over it as a drawer where the window is narrow."""

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtWidgets import QHBoxLayout, QToolButton, QWidget

from vastzone.app.frame.facts import Facts
from vastzone.app.frame.text import set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.core.say import say


class Drawer(QWidget):
    """Holds the facts beside ``view``; shut, it is a handle, and pulled they lie over the view."""

    def __init__(self, facts: Facts, view: QWidget) -> None:
        super().__init__()
        self._facts, self._view = facts, view
        self.is_shut = self.is_out = False
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(0)
        self.handle = QToolButton()
        self.handle.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.handle.setProperty("role", "handle")
        self.handle.hide()
        self._row.addWidget(self.handle, 0, Qt.AlignmentFlag.AlignVCenter)
        self._row.addWidget(facts)
        THEME.changed.connect(self._restyle)
        self._restyle()

    def shut(self, on: bool) -> None:
        """Make a drawer of it, or put the facts beside the view again."""
        if on == self.is_shut:
            return
        self.is_shut, self.is_out = on, False
        self.handle.setVisible(on)
        self._facts.in_drawer = on
        if on:
            self._row.removeWidget(self._facts)
            self._facts.setParent(self.window())
            self.window().installEventFilter(self)
        else:
            self.window().removeEventFilter(self)
            self._row.addWidget(self._facts)
        self._facts.appear(not on)
        self._restyle()

    def pull(self, out: bool) -> None:
        """Pull the drawer out or push it in."""
        self.is_out = out
        self._facts.appear(out)
        self._lay()
        self._restyle()
        (self._facts if out else self._view).setFocus()

    def _lay(self) -> None:
        if not (self.is_shut and self.is_out):
            return
        corner = self.mapTo(self.window(), self.rect().topLeft())
        wide = min(self._facts.minimumWidth(), corner.x())
        self._facts.setGeometry(corner.x() - wide, corner.y(), wide, self.height())
        self._facts.raise_()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Follow the window."""
        if event.type() in (QEvent.Type.Resize, QEvent.Type.LayoutRequest):
            self._lay()
        return super().eventFilter(watched, event)

    def _restyle(self) -> None:
        words = say("Hide the facts (F8)") if self.is_out else say("Show the facts (F8)")
        set_tip(self.handle, words)
        self.handle.setAccessibleName(words)
        name = "chevron-right" if self.is_out else "chevron-left"
        self.handle.setIcon(icon(name, THEME.colours.ink, 14))
