"""Starting the window."""

import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from vastzone.core.say import language, say

if TYPE_CHECKING:
    from PySide6.QtWidgets import QApplication

    from vastzone.app.window import Window

NO_DISPLAY = say(
    "vastzone: there is no display for the window: set DISPLAY or WAYLAND_DISPLAY, run it under "
    "“xvfb-run -a”, or use “vastzone check FILE”, which needs none."
)
DEFECT = 3
WIND_UP_S = 5.0


def has_display() -> bool:
    """Whether a window can be shown at all."""
    wanted = os.environ.get("QT_QPA_PLATFORM", "")
    if wanted.partition(":")[0] in ("offscreen", "minimal", "vnc", "linuxfb", "eglfs"):
        return True
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def run(path: Path | None, untitled: bool) -> int:
    """Open the window and stay until it is closed; the exit status, 3 after a defect."""
    if not has_display():
        print(NO_DISPLAY, file=sys.stderr)
        return 2
    import gc

    gc.disable()  # the window collects by itself, and starting makes no garbage
    from PySide6.QtWidgets import QApplication

    from vastzone.app.crash import CrashHook
    from vastzone.app.jobs import wind_up
    from vastzone.app.window import Window
    from vastzone.files.folders import data_folder

    QApplication.setStyle("Fusion")
    app = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(app, QApplication)
    app.setApplicationName("Vast Zone")
    _translate(app)
    window = Window(data_folder())
    hook = CrashHook(window)
    sys.excepthook = hook.take
    window.once_painted = lambda: _fill(window, path, untitled)
    if window.begins_large:
        window.showMaximized()
    else:
        window.show()
    status = app.exec()
    if hook.seen:
        status = DEFECT
    if not wind_up(WIND_UP_S):
        sys.stdout.flush()
        os._exit(status)  # work in native code that does not stop must not outlive the program
    return status


def _translate(app: "QApplication") -> None:
    """What Qt says by itself, in the language of the rest; it also says which way that is read."""
    if not language():
        return
    from PySide6.QtCore import QLibraryInfo, QLocale, QTranslator

    translator = QTranslator(app)
    folder = QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)
    if translator.load(QLocale(language()), "qtbase", "_", folder):
        app.installTranslator(translator)


def _fill(window: "Window", path: Path | None, untitled: bool) -> None:
    """Fill the window that is on the screen already."""
    window.fill()
    window.desk.watch_for_crashes()
    if path is not None:
        window.documents.open_path(path, untitled)
    if not window.desk.plan.devices:
        window.begin()
    window.documents.recover()
    window.make_ready()
