"""What every view of the frame shares: it follows the desk while it is seen."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QWidget

from vastzone.app.frame.first_stop import first_stop
from vastzone.app.theme.current import THEME
from vastzone.desk.session import Desk


class View(QWidget):
    """A view that shows the plan anew after changes, and only while it can be seen.

    ``lead`` is what the focus goes to when the view is shown.  No focus proxy is set: Qt would
    leave everything else in the view out of the order of Tab.
    """

    lead: QWidget | None = None

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self._stale = True
        for signal in (
            desk.plan_changed,
            desk.memory_changed,
            desk.scene_changed,
            desk.selected,
            desk.proved,
            THEME.changed,
        ):
            signal.connect(self._follow)

    def _follow(self) -> None:
        if self.isVisible():
            self._stale = False
            self.refresh()
        else:
            self._stale = True

    def setFocus(self, reason: Qt.FocusReason = Qt.FocusReason.OtherFocusReason) -> None:
        """Give the focus to what leads, or on a page without it to what comes first."""
        self.attend()
        lead = self.lead
        if lead is None or not lead.isVisible():
            lead = first_stop(self)
        QWidget.setFocus(lead, reason)

    def attend(self) -> None:
        """Bring the cursor of the picture to what is selected, where it has one."""

    def showEvent(self, event: QShowEvent) -> None:
        """Catch up with what changed meanwhile."""
        super().showEvent(event)
        if self._stale:
            self._stale = False
            self.refresh()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        raise NotImplementedError
