"""Starting the window."""

import os
import sys
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from vastzone.app.window import Window

NO_DISPLAY = (
    "vastzone: there is no display for the window: set DISPLAY or WAYLAND_DISPLAY, run it under "
    "“xvfb-run -a”, or use “vastzone check FILE”, which needs none."
)


def has_display() -> bool:
    """Whether a window can be shown at all."""
    wanted = os.environ.get("QT_QPA_PLATFORM", "")
    if wanted.partition(":")[0] in ("offscreen", "minimal", "vnc", "linuxfb", "eglfs"):
        return True
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def data_folder() -> Path:
    """Where the program keeps its preferences and recovery copies."""
    from platformdirs import user_state_path

    return user_state_path("vastzone")


def run(path: Path | None, untitled: bool) -> int:
    """Open the window and stay until it is closed."""
    if not has_display():
        print(NO_DISPLAY, file=sys.stderr)
        return 2
    import gc

    gc.disable()  # the window collects by itself, and starting makes no garbage
    from PySide6.QtWidgets import QApplication

    from vastzone.app.window import Window

    QApplication.setStyle("Fusion")
    app = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(app, QApplication)
    app.setApplicationName("Vast Zone")
    window = Window(data_folder())
    sys.excepthook = _crash_hook(window)
    window.once_painted = lambda: _fill(window, path, untitled)
    window.show()
    return app.exec()


def _fill(window: "Window", path: Path | None, untitled: bool) -> None:
    """Fill the window that is on the screen already."""
    window.fill()
    if path is not None:
        window.documents.open_path(path, untitled)
    if not window.desk.plan.devices:
        window.begin()
    window.documents.recover()


def _crash_hook(window: "Window"):  # type: ignore[no-untyped-def]
    """Keep the plan, write down what happened, and say so; the window stays open."""

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.exit(130)
        import traceback

        from vastzone.app.dialogs import tell

        if window.filled:
            window.desk.autosave()
        log = data_folder() / "crash.txt"
        log.parent.mkdir(parents=True, exist_ok=True)
        log.write_text("".join(traceback.format_exception(kind, error, trace)))
        tell(
            window,
            f"Something went wrong in the program itself ({kind.__name__}). Your plan is kept; "
            f"save it under another name and restart. The details are in {log}.",
        )

    return hook
