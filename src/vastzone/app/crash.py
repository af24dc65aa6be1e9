"""What the window does about a defect of the program: it keeps the plan and says so, once."""

from collections import Counter
from types import TracebackType
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject

from vastzone.app.window import Window

if TYPE_CHECKING:
    from vastzone.app.crash_dialog import CrashDialog

MOST = 20
"""Different defects told of; one that comes with every frame has only one place."""


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
        from vastzone.app.crash_dialog import CrashDialog
        from vastzone.files.state import details, write_report

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
