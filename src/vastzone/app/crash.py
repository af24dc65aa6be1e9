"""What the window does about a defect of the program: it keeps the plan and says so, once."""

from collections import Counter
from types import TracebackType

from PySide6.QtCore import QObject
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QHBoxLayout, QPlainTextEdit, QVBoxLayout, QWidget

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.app.window import Window
from vastzone.files.state import details, write_report

SAID = (
    "Something went wrong in the program itself. Your plan is kept, and you can go on; save it "
    "under another name to be sure."
)
MOST = 20
"""Different defects told of; one that comes with every frame has only one place."""


class CrashDialog(Dialog):
    """One sentence, and the details to copy."""

    def __init__(self, parent: QWidget, place: str) -> None:
        super().__init__(parent, kept=True)
        set_title(self, "A defect of the program")
        self.resize(620, 420)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        said = Label(SAID)
        said.setWordWrap(True)
        where = Label(f"The details are in {place}." if place else "")
        where.setWordWrap(True)
        where.setProperty("role", "muted")
        self.text = QPlainTextEdit()
        self.text.setReadOnly(True)
        self.text.setAccessibleName("Details")
        box.addWidget(said)
        box.addWidget(where)
        box.addWidget(self.text, 1)
        row = QHBoxLayout()
        self.copy, close = Button("Copy details"), Button("Close")
        self.copy.clicked.connect(self._copy)
        close.setProperty("role", "primary")
        close.clicked.connect(self.accept)
        row.addWidget(self.copy)
        row.addStretch()
        row.addWidget(close)
        box.addLayout(row)

    def _copy(self) -> None:
        QGuiApplication.clipboard().setText(self.text.toPlainText())


class CrashHook(QObject):
    """Takes every error that nobody caught; the window stays open."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self._window = window
        self.seen: Counter[tuple[str, str]] = Counter()
        self.dialog: CrashDialog | None = None
        self._busy = False

    def take(
        self, kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        """Keep the plan, write the report, show the dialog where this is a new defect."""
        if issubclass(kind, KeyboardInterrupt):
            self._window.close()
            return
        where = _place(kind, trace)
        self.seen[where] += 1
        if self.seen[where] > 1 or len(self.seen) > MOST or self._busy:
            return
        self._busy = True
        try:
            self._tell(error)
        finally:
            self._busy = False

    def _tell(self, error: BaseException) -> None:
        if self._window.filled:
            self._window.desk.autosave()
        place = write_report(error)
        if self.dialog is None or not self.dialog.isVisible():
            self.dialog = CrashDialog(self._window, str(place or ""))
            self.dialog.open()
        self.dialog.text.appendPlainText(details(error))


def _place(kind: type[BaseException], trace: TracebackType | None) -> tuple[str, str]:
    """What tells one defect from another: the kind of error and the line that raised it."""
    while trace is not None and trace.tb_next is not None:
        trace = trace.tb_next
    line = f"{trace.tb_frame.f_code.co_filename}:{trace.tb_lineno}" if trace else ""
    return kind.__name__, line
