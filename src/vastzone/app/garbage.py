"""Python's cyclic garbage, collected by the window's own thread alone.

Qt objects must be destroyed in the thread they live in.  Python collects cycles in whichever
thread happens to allocate, so a worker would now and then destroy a widget, and crash.

What lives long is set aside (frozen): in a plan of 64 parts and 128 scenes a collection of
everything takes 170 ms, which a person would notice, and one without what is set aside none.
What was derived from a plan that was left is freed here too, little by little.
"""

import gc
from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer
from PySide6.QtGui import QCursor

from vastzone.app.clock import now_ms
from vastzone.app.jobs import wind_up
from vastzone.core import cache

EVERY_MS = 120
FREE_S = 0.004
CALM_MS = 1500.0
OLD = 10
"""Collections of the middle generation before the old one is full; Python 3.13 itself says 0."""
WHOLE = 20
"""Every so many deep collections everything is looked at, also what had been set aside."""


class Collector(QObject):
    """Collects while it lives; automatic collection is off meanwhile."""

    def __init__(self, parent: QObject, busy: Callable[[], bool] = lambda: False) -> None:
        super().__init__(parent)
        gc.disable()
        self._busy, self._touched, self._deep = busy, now_ms(), 0
        self._pointer = QCursor.pos()
        self._timer = QTimer(self)
        self._timer.setInterval(EVERY_MS)
        self._timer.timeout.connect(self.collect)
        self._timer.start()

    def note(self, *_: object) -> None:
        """Note that hands are at work; connected to what they bring about."""
        self._touched = now_ms()

    def collect(self) -> None:
        """Collect the generations that have filled up, the older ones while nobody works."""
        cache.free(FREE_S)
        pointer = QCursor.pos()
        if pointer != self._pointer:
            self._pointer = pointer
            self.note()
        counts, limits = gc.get_count(), gc.get_threshold()
        full = counts[1] > limits[1] or counts[2] > max(limits[2], OLD)
        if full and self.is_calm():
            self._collect_deep()
        elif counts[0] > limits[0]:
            gc.collect(0)

    def set_aside(self) -> None:
        """Much was made that will live: deep collections need not look at it for a good while."""
        gc.freeze()

    def is_calm(self) -> bool:
        """Whether nobody works and nothing is worked out: a deep collection takes its time."""
        return now_ms() - self._touched > CALM_MS and not self._busy()

    def _collect_deep(self) -> None:
        """Everything that is new; what is still used then is set aside for a good while."""
        self._deep += 1
        if self._deep % WHOLE == 0:
            gc.unfreeze()
        gc.collect()
        gc.freeze()

    def close(self) -> None:
        """Leave it to Python again, unless a worker still runs in which it would collect."""
        self._timer.stop()
        gc.unfreeze()
        gc.collect()
        if wind_up(0.0):
            gc.enable()
