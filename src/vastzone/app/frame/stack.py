"""Pages one over the other, of which only the one that is shown needs room."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QVBoxLayout, QWidget

from vastzone.app.frame.first_stop import first_stop


class Stack(QWidget):
    """Shows one page; those that wait are hidden, and are not asked for their room.

    Qt's own stack asks every page for its height at a width each time anything is laid out.
    """

    def __init__(self) -> None:
        super().__init__()
        self._pages: list[QWidget] = []
        self._current: QWidget | None = None
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._box.setSpacing(0)

    @property
    def current(self) -> QWidget | None:
        """The page that is shown; ``None`` while there are none."""
        return self._current

    def holds(self, page: QWidget) -> bool:
        """Whether a page is one of these."""
        return page in self._pages

    def add(self, page: QWidget) -> None:
        """One more page; the first is shown."""
        self._pages.append(page)
        if self._current is None:
            self._current = page
        else:
            page.hide()
        self._box.addWidget(page)

    def remove(self, page: QWidget) -> None:
        """Let go of a page that is not shown; it keeps its parent until it is given another."""
        self._pages.remove(page)
        self._box.removeWidget(page)

    def show_at(self, index: int) -> None:
        """Show a page by its place; raises ``IndexError`` where there is none."""
        self.show_page(self._pages[index])

    def show_page(self, page: QWidget) -> None:
        """Show one of the pages; a focus in the one that goes is handed on to it."""
        gone = self._current
        if page is gone or gone is None:
            return
        self._current = page
        # Both are there for a moment: that is not laid out, and the focus has somewhere to go.
        self._box.setEnabled(False)
        page.setGeometry(self.rect())
        page.show()
        focus = self.window().focusWidget()
        if focus is not None and gone.isAncestorOf(focus):
            (page.focusWidget() or first_stop(page)).setFocus(Qt.FocusReason.OtherFocusReason)
        gone.hide()
        self._box.setEnabled(True)
        self.updateGeometry()
