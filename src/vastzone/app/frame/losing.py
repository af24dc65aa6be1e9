"""What would be lost is listed before a device in use is changed."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.core.describe.removing import losses
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.text import many
from vastzone.desk.session import Desk


def may_lose(parent: QWidget, desk: Desk, edit: Edit) -> bool:
    """Whether an edit loses nothing, or the person lets go what it loses.  Raises EditError."""
    before = desk.planned
    lost = losses(before, edit(before))
    return not lost or AskLoss(parent, edit.label, lost).exec() == Dialog.DialogCode.Accepted


class AskLoss(Dialog):
    """A list of what goes, and the two answers."""

    def __init__(self, parent: QWidget, label: str, lost: list[str]) -> None:
        super().__init__(parent)
        set_title(self, label)
        self.resize(520, 320)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        title = Label(f"{label}: {many(len(lost), 'thing')} of the plan would go")
        title.setProperty("role", "title")
        title.setWordWrap(True)
        box.addWidget(title)
        self.list = RowList("What would be lost")
        self.list.show_lines([(sentence, sentence) for sentence in lost])
        box.addWidget(self.list, 1)
        row = QHBoxLayout()
        row.addStretch()
        self.keep, self.go = Button("Leave it as it is"), Button("Go on")
        self.go.setProperty("role", "primary")
        self.keep.clicked.connect(self.reject)
        self.go.clicked.connect(self.accept)
        row.addWidget(self.keep)
        row.addWidget(self.go)
        box.addLayout(row)
