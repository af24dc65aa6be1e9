"""Fixed and least sizes of widgets that grow with the text."""

from typing import Literal

from PySide6.QtWidgets import QWidget

from vastzone.app.drawn import grown

Bound = Literal[
    "FixedWidth", "FixedHeight", "MinimumWidth", "MinimumHeight", "MaximumWidth", "MaximumHeight"
]
_MARK = "at 100 % "


def bound(widget: QWidget, which: Bound, pixels: int) -> None:
    """Bound a widget's size by so many pixels at 100 % text, now and when the text grows."""
    widget.setProperty(_MARK + which, pixels)
    getattr(widget, f"set{which}")(grown(pixels))


def bound_anew(window: QWidget) -> None:
    """Bound everything in a window anew after the size of text changed."""
    for widget in window.findChildren(QWidget):
        for name in widget.dynamicPropertyNames():
            mark = bytes(name.data()).decode()
            if mark.startswith(_MARK):
                pixels = int(widget.property(mark))
                getattr(widget, f"set{mark.removeprefix(_MARK)}")(grown(pixels))
