"""What is shown of a defect of the program: one sentence, and the details to copy."""

from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QHBoxLayout, QPlainTextEdit, QVBoxLayout, QWidget

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.core.say import say

SAID = say(
    "Something went wrong in the program itself. Your plan is kept, and you can go on; save it "
    "under another name to be sure."
)


class CrashDialog(Dialog):
    """One sentence, and the details to copy."""

    def __init__(self, parent: QWidget, place: str) -> None:
        super().__init__(parent, kept=True)
        set_title(self, say("A defect of the program"))
        self.resize(620, 420)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        said = Label(SAID)
        said.setWordWrap(True)
        where = Label(say("The details are in {place}.", place=place) if place else "")
        where.setWordWrap(True)
        where.setProperty("role", "muted")
        self.text = QPlainTextEdit()
        self.text.setReadOnly(True)
        self.text.setAccessibleName(say("Details"))
        box.addWidget(said)
        box.addWidget(where)
        box.addWidget(self.text, 1)
        row = QHBoxLayout()
        self.copy, close = Button(say("Copy details")), Button(say("Close"))
        self.copy.clicked.connect(self._copy)
        close.setProperty("role", "primary")
        close.clicked.connect(self.accept)
        row.addWidget(self.copy)
        row.addStretch()
        row.addWidget(close)
        box.addLayout(row)

    def _copy(self) -> None:
        QGuiApplication.clipboard().setText(self.text.toPlainText())
