"""Long work in the window's own thread, a slice at a time, so that the window goes on answering."""

from collections.abc import Callable, Generator
from time import perf_counter
from typing import Any

from PySide6.QtCore import QObject, QTimer

SLICE = 0.02
"""Seconds of work between two looks at mouse and keys."""


class Job(QObject):
    """Runs a generator to its end; another ``start`` gives the one before up."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._steps: Generator[float, None, Any] | None = None
        self._done: Callable[[Any], object] = lambda _: None
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._slice)

    def start(self, steps: Generator[float, None, Any], done: Callable[[Any], object]) -> None:
        """Work through ``steps`` and hand on what they return."""
        self._steps, self._done = steps, done
        self._timer.start()

    def stop(self) -> None:
        """Give it up."""
        self._steps = None
        self._timer.stop()

    @property
    def running(self) -> bool:
        """Whether there is work left."""
        return self._steps is not None

    def _slice(self) -> None:
        steps, until = self._steps, perf_counter() + SLICE
        if steps is None:
            self._timer.stop()
            return
        try:
            while perf_counter() < until:
                next(steps)
        except StopIteration as stop:
            self.stop()
            self._done(stop.value)
