"""What every view of the frame shares: it follows the desk while it is seen."""

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QWidget

from vastzone.app.theme.current import THEME
from vastzone.desk.session import Desk


class View(QWidget):
    """A view that shows the plan anew after changes, and only while it can be seen."""

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

    def showEvent(self, event: QShowEvent) -> None:
        """Catch up with what changed meanwhile."""
        super().showEvent(event)
        if self._stale:
            self._stale = False
            self.refresh()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        raise NotImplementedError
