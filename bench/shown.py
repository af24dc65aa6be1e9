"""The window with a demo plan, for what is measured in it."""

import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from PySide6.QtCore import QCoreApplication

    from vastzone.app.window import Window


@contextmanager
def demo_window(plan: Path) -> Iterator[tuple["QCoreApplication", "Window"]]:
    """The application and its window with a plan open."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from PySide6.QtWidgets import QApplication

    from vastzone.app.window import Window

    app = QApplication.instance() or QApplication([])
    QApplication.setStyle("Fusion")
    with tempfile.TemporaryDirectory() as folder:
        window = Window(Path(folder))
        window.fill()
        window.show()
        window.documents.open_path(plan, untitled=True)
        window.desk.wake()
        yield app, window
        window.desk.load(window.desk.plan, None)
        window.close()
