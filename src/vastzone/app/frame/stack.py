"""Pages one over the other, of which only the one that is shown needs room."""

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QStackedWidget


class Stack(QStackedWidget):
    """Asks for the room of the page that is shown, where Qt would ask for that of the largest."""

    def __init__(self) -> None:
        super().__init__()
        self.currentChanged.connect(lambda _: self.updateGeometry())

    def minimumSizeHint(self) -> QSize:
        """The least room of the page that is shown."""
        page = self.currentWidget()
        if page is None:
            return QSize(0, 0)
        least = page.minimumSizeHint().expandedTo(page.minimumSize())
        return least.boundedTo(page.maximumSize())

    def sizeHint(self) -> QSize:
        """The room of the page that is shown."""
        page = self.currentWidget()
        return page.sizeHint() if page is not None else QSize(0, 0)

    def hasHeightForWidth(self) -> bool:
        """Whether the page that is shown is higher when it is narrower."""
        page = self.currentWidget()
        return page is not None and page.hasHeightForWidth()

    def heightForWidth(self, wide: int) -> int:
        """The least height of the page that is shown at a width."""
        page, least = self.currentWidget(), self.minimumSizeHint().height()
        layout = page.layout() if page is not None else None
        if layout is None or not layout.hasHeightForWidth():
            return least
        return max(least, layout.minimumHeightForWidth(wide))
