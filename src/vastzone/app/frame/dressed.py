"""What the style sheet asks of a widget: properties that it follows when they change."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget


def dress(widget: QWidget, name: str, value: object) -> None:
    """Set a property that the style asks for, and follow it where it changed."""
    if widget.property(name) == value:
        return
    widget.setProperty(name, value)
    # What was never shown is dressed when it is.
    if widget.testAttribute(Qt.WidgetAttribute.WA_WState_Polished):
        widget.style().unpolish(widget)
        widget.style().polish(widget)
