"""What every dialog of the window is: gone once it is closed; and how most of them begin."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from vastzone.app.frame.text import Button, Label, set_title


class Dialog(QDialog):
    """A dialog that Qt deletes as it is closed; those left behind would all be styled again."""

    def __init__(
        self, parent: QWidget, kind: Qt.WindowType = Qt.WindowType.Dialog, *, kept: bool = False
    ) -> None:
        super().__init__(parent, kind)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose, not kept)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter presses the button that has the focus, else the one that goes on; never Cancel.

        Qt would press whichever comes first, so that an early Enter gave work up.
        """
        if event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            super().keyPressEvent(event)
            return
        focus = self.focusWidget()
        if isinstance(focus, QPushButton):
            focus.click()
            return
        for button in self.findChildren(QPushButton):
            if button.property("role") == "primary" and button.isVisible():
                button.click()
                return

    def begin(self, title: str, heading: str, wide: int, high: int) -> QVBoxLayout:
        """A title for the window, a heading inside it, and the column that the rest goes into."""
        set_title(self, title)
        self.resize(wide, high)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        self.heading = Label(heading)
        self.heading.setProperty("role", "title")
        self.heading.setWordWrap(True)
        box.addWidget(self.heading)
        return box

    def answers(self, box: QVBoxLayout, back: str, go: Button, *before: QWidget) -> Button:
        """A row below with what leaves all as it is, and what goes on; the first of these two."""
        row = QHBoxLayout()
        for widget in before:
            row.addWidget(widget)
        row.addStretch()
        leave = Button(back)
        leave.clicked.connect(self.reject)
        go.setProperty("role", "primary")
        for button in (leave, go):
            button.setAutoDefault(False)
            row.addWidget(button)
        box.addLayout(row)
        return leave
