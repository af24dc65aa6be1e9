"""Python's cyclic garbage, collected by the window's own thread alone.

Qt objects must be destroyed in the thread they live in.  Python collects cycles in whichever
thread happens to allocate, so a worker would now and then destroy a widget, and crash.
"""

import gc

from PySide6.QtCore import QObject, QTimer

EVERY_MS = 500


class Collector(QObject):
    """Collects while it lives; automatic collection is off meanwhile."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._timer = QTimer(self)
        self._timer.setInterval(EVERY_MS)
        self._timer.timeout.connect(self.collect)
        self._timer.start()

    def collect(self) -> None:
        """Collect the generations that have filled up."""
        counts, limits = gc.get_count(), gc.get_threshold()
        for generation in (2, 1, 0):
            if counts[generation] > limits[generation]:
                gc.collect(generation)
                return

    def close(self) -> None:
        """Leave it to Python again."""
        self._timer.stop()
        gc.collect()
        gc.enable()
