"""Views are loaded and built while nobody does anything, so that a first visit is a quick one."""

import pkgutil
import sys
from collections.abc import Callable, Iterator
from importlib import import_module

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QWidget

from vastzone.app import views
from vastzone.app.views.places import PLACES

STEP_MS = 150
"""Between two steps: hands that come back meanwhile wait for one at most."""


class Readying(QObject):
    """Takes a step at a time while it is calm: loads a module, or builds a view; then it is gone.

    All of it at once would hold the window for a second or two.
    """

    def __init__(
        self, window: QObject, build: Callable[[str], QWidget], is_calm: Callable[[], bool]
    ) -> None:
        super().__init__(window)
        self._steps, self._is_calm = _steps(build), is_calm
        self._timer = QTimer(self)
        self._timer.setInterval(STEP_MS)
        self._timer.timeout.connect(self._step)
        self._timer.start()

    def _step(self) -> None:
        if not self._is_calm():
            return
        try:
            next(self._steps)
        except StopIteration:
            self._timer.stop()
            self.deleteLater()


def _steps(build: Callable[[str], QWidget]) -> Iterator[None]:
    for module in pkgutil.walk_packages(views.__path__, f"{views.__name__}."):
        if module.name not in sys.modules:
            import_module(module.name)
            yield
    for place in PLACES:
        build(place.place.ident)
        yield
