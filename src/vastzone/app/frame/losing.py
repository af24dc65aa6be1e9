"""What would be lost is listed before a device in use is changed."""

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button
from vastzone.core.describe.removing import losses
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk


def with_consent(parent: QWidget, desk: Desk, edit: Edit, go: Callable[[Edit], object]) -> None:
    """Go on at once where an edit loses nothing, else when the person lets go what it loses.

    Raises EditError where it cannot be made.
    """
    before = desk.planned
    lost = losses(before, edit(before))
    if lost:
        AskLoss(parent, edit, lost, go).open()
    else:
        go(edit)


class AskLoss(Dialog):
    """A list of what goes, and the two answers."""

    def __init__(
        self, parent: QWidget, edit: Edit, lost: list[str], go: Callable[[Edit], object]
    ) -> None:
        super().__init__(parent)
        self._edit, self._go = edit, go
        heading = say(
            "{edit}: {things} of the plan would go",
            edit=edit.label,
            things=say_many("{count} thing", "{count} things", len(lost)),
        )
        box = self.begin(edit.label, heading, 520, 320)
        self.list = RowList(say("What would be lost"))
        self.list.wrap()
        self.list.show_lines([(sentence, sentence) for sentence in lost])
        box.addWidget(self.list, 1)
        self.take = Button(say("Go on"))
        self.take.clicked.connect(self._take)
        self.keep = self.answers(box, say("Leave it as it is"), self.take)

    def _take(self) -> None:
        self.accept()
        self._go(self._edit)
