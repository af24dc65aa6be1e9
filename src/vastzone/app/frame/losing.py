"""What would be lost is listed before a device in use is changed."""

from PySide6.QtWidgets import QWidget

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button
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
        heading = f"{label}: {many(len(lost), 'thing')} of the plan would go"
        box = self.begin(label, heading, 520, 320)
        self.list = RowList("What would be lost")
        self.list.show_lines([(sentence, sentence) for sentence in lost])
        box.addWidget(self.list, 1)
        self.go = Button("Go on")
        self.go.clicked.connect(self.accept)
        self.answers(box, "Leave it as it is", self.go)
