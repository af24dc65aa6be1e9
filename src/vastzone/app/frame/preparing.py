"""Pages are prepared while hands rest, so that the first turn is as quick as the next."""

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject, QTimer
from PySide6.QtWidgets import QWidget

from vastzone.app.frame.pages import RefreshedPage

REST_MS = 90
"""Hands rest for so long before a page, and between two."""


class Preparing(QObject):
    """Prepares the pages of a view one by one, once it is shown for the first time.

    A page is dressed by the style and filled; both take long when a page is first turned to.
    """

    def __init__(self, view: QWidget, pages: Sequence[RefreshedPage]) -> None:
        super().__init__(view)
        self._waiting = list(pages)
        self._timer = QTimer(self)
        self._timer.setInterval(REST_MS)
        self._timer.timeout.connect(self._next)
        view.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Begin when the view is shown, wait while it is hidden."""
        if event.type() is QEvent.Type.Show and self._waiting:
            self._timer.start()
        elif event.type() is QEvent.Type.Hide:
            self._timer.stop()
        return False

    def _next(self) -> None:
        page = self._waiting.pop(0)
        if not self._waiting:
            self._timer.stop()
        if isinstance(page, QWidget) and not page.isVisible():
            for widget in (page, *page.findChildren(QWidget)):
                widget.ensurePolished()
            page.refresh()
