"""What stands where nothing is yet: what to do first, and the button that does it."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from vastzone.app.drawn import grown
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, Label

WIDE = 440


class EmptyState(QWidget):
    """A title, a sentence and one button."""

    def __init__(
        self, title: str, sentence: str, press: str = "", run: Callable[[], object] | None = None
    ) -> None:
        super().__init__()
        box = QVBoxLayout(self)
        box.setSpacing(10)
        box.addStretch(2)
        self._title, self._sentence = Label(title), Label(sentence)
        self._title.setProperty("role", "title")
        self._sentence.setProperty("role", "muted")
        self._sentence.setWordWrap(True)
        for label in (self._title, self._sentence):
            label.setAlignment(Qt.AlignmentFlag.AlignCenter)
            box.addWidget(label, 0, Qt.AlignmentFlag.AlignHCenter)
        bound(self._sentence, "FixedWidth", WIDE)
        self.button = Button(press)
        self.button.setProperty("role", "primary")
        if run is None:
            self.button.hide()
        if run is not None:
            self.button.clicked.connect(run)
        box.addSpacing(6)
        box.addWidget(self.button, 0, Qt.AlignmentFlag.AlignHCenter)
        box.addStretch(3)

    def showEvent(self, event: QShowEvent) -> None:
        """Give the sentence the height that it needs in the type that is used now."""
        super().showEvent(event)
        self._sentence.setMinimumHeight(max(0, self._sentence.heightForWidth(grown(WIDE))))

    def tell(self, title: str, sentence: str) -> None:
        """Other words."""
        self._title.setText(title)
        self._sentence.setText(sentence)
        self._sentence.setMinimumHeight(max(0, self._sentence.heightForWidth(grown(WIDE))))
