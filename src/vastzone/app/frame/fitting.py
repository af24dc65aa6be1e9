"""What folds by itself where the window is small: facts become a drawer, the strip one line."""

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from vastzone.app.frame.drawer import Drawer
from vastzone.app.frame.header import Header
from vastzone.app.frame.strip import Strip
from vastzone.app.theme.current import THEME

NARROW, LOW = 1000, 660
"""Pixels at 100 % text below which facts and strip fold by themselves."""


class Fitting:
    """Follows the size of a window; what hands folded otherwise stays until it is crossed again."""

    def __init__(self, window: QWidget, drawer: Drawer, header: Header, strip: Strip) -> None:
        self._window, self._drawer = window, drawer
        self._header, self._strip = header, strip
        self.is_low = False
        self.wants_strip: Callable[[], bool] = lambda: True

    def fit(self) -> None:
        """Fold and unfold as the window is now."""
        narrow = self._window.width() < NARROW * THEME.zoom
        low = self._window.height() < LOW * THEME.zoom
        if narrow != self._drawer.is_shut:
            self._drawer.shut(narrow)
            self._header.shorten(narrow)
        if low != self.is_low:
            self.is_low = low
            self._strip.fold(low or not self.wants_strip())
