"""Where the focus goes when it comes into a part of the window."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget


def first_stop(within: QWidget) -> QWidget:
    """A widget that takes the focus by Tab now, or the first in it that does, or else itself."""
    if _takes(within):
        return within
    return next((child for child in within.findChildren(QWidget) if _takes(child)), within)


def _takes(widget: QWidget) -> bool:
    takes = bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus)
    return takes and widget.isVisible() and widget.isEnabled()
