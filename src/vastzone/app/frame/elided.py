"""Labels that give way to long names."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSizePolicy, QWidget

from vastzone.app.frame.text import Label, set_tip
from vastzone.core.text import one_line


class Elided(Label):
    """A label that gives way: long names end in an ellipsis and show whole as a tool tip.

    What it says is also what a drawn widget tells to those who cannot see it, if one is given.
    """

    def __init__(self, role: str, speaks_for: QWidget | None = None) -> None:
        super().__init__()
        self._speaks_for = speaks_for
        self._whole = ""
        self.setProperty("role", role)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def show_text(self, text: str) -> None:
        """Show a text as far as there is room."""
        self._whole = text
        set_tip(self, text)
        self.setAccessibleName(text)
        if self._speaks_for is not None:
            self._speaks_for.setAccessibleDescription(text)
        self._cut()

    def resizeEvent(self, event: object) -> None:
        """Cut anew."""
        self._cut()

    def _cut(self) -> None:
        metrics = self.fontMetrics()
        self.setText(
            metrics.elidedText(one_line(self._whole), Qt.TextElideMode.ElideRight, self.width())
        )


def quiet(text: str) -> Label:
    """A quiet, wrapped line of text."""
    label = Label(text)
    label.setWordWrap(True)
    label.setProperty("role", "muted")
    return label
