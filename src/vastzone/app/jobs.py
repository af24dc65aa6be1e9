"""Long work while the window goes on answering: in slices, or in a thread beside it."""

from collections.abc import Callable, Generator
from functools import cache
from time import perf_counter
from typing import Any

from PySide6.QtCore import QObject, QThreadPool, QTimer, Signal

from vastzone.core.courtesy import beside_the_window
from vastzone.core.progress import Cancelled, Progress
from vastzone.core.say import say

SLICE = 0.02
"""Seconds of work between two looks at mouse and keys."""
POLL_MS, LATER_POLL_MS = 15, 60
SOON = 20
"""So many times one looks often; what takes longer is looked at less, for every look costs it."""


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


MOST_THREADS = 16
"""Work that was given up may take a while to notice: what is wanted now does not wait for it."""


@cache
def _pool() -> QThreadPool:
    """The threads in which work is done beside the window."""
    pool = QThreadPool()
    pool.setMaxThreadCount(MOST_THREADS)
    pool.setExpiryTimeout(2_000)
    return pool


def wind_up(seconds: float) -> bool:
    """Wait so long at most for work that was given up; whether all of it has ended.

    For the very end of the program, when there is no window left that could be held up.
    """
    return _pool().waitForDone(round(seconds * 1000))


class _Running:
    """One piece of work in a thread of the pool."""

    def __init__(self, work: Callable[[Progress], Any]) -> None:
        self.what, self.share, self.stopped = say("Beginning"), 0.0, False
        self.result: Any = None
        self.error: Exception | None = None
        self.ended = False
        self._work = work
        _pool().start(self._run)

    def _run(self) -> None:
        try:
            with beside_the_window():
                self.result = self._work(self._tell)
        except Exception as error:  # handed to the window’s own thread, which raises it
            self.error = error
        finally:
            self.ended = True

    def _tell(self, what: str, share: float) -> bool:
        self.what, self.share = what, share
        return not self.stopped


class BackgroundJob(QObject):
    """Work beside the window; what comes of it is handed on in the window’s own thread.

    Another ``start`` gives the work before up: it raises Cancelled when it next tells how far it
    is, and nothing comes of it.  Any other error in the work is raised here.
    """

    progressed = Signal(str, float)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._run: _Running | None = None
        self._done: Callable[[Any], object] = lambda _: None
        self._looks = 0
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._look)

    def start(self, work: Callable[[Progress], Any], done: Callable[[Any], object]) -> None:
        """Begin; ``done`` gets what ``work`` returns."""
        self.cancel()
        self._run, self._done = _Running(work), done
        self._looks = 0
        self._timer.start(POLL_MS)

    def cancel(self) -> None:
        """Give the work up; it stops when it next tells how far it is, and nobody waits for it."""
        self._timer.stop()
        run, self._run = self._run, None
        if run is not None:
            run.stopped = True

    @property
    def busy(self) -> bool:
        """Whether it still works."""
        return self._run is not None

    def _look(self) -> None:
        run = self._run
        if run is None:
            return
        self._looks += 1
        if self._looks == SOON:
            self._timer.setInterval(LATER_POLL_MS)
        if not run.ended:
            self.progressed.emit(run.what, run.share)
            return
        self.cancel()
        if isinstance(run.error, Cancelled):
            return
        if run.error is not None:
            raise run.error
        self._done(run.result)
