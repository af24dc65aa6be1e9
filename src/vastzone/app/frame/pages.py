"""The buttons that choose a page of a view."""

from collections.abc import Callable
from typing import Protocol

from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QWidget

from vastzone.app.frame.text import Button


class Page(Protocol):
    """A page that shows the plan anew when it is told to."""

    def refresh(self) -> None:
        """Show the plan as it is now."""


def page_buttons(
    view: QWidget, names: tuple[str, ...], bar: QHBoxLayout, chosen: Callable[[], object]
) -> QButtonGroup:
    """A button a page in a bar, the first one down; ``chosen`` is told when another is."""
    group = QButtonGroup(view)
    for n, name in enumerate(names):
        button = Button(name)
        button.setCheckable(True)
        button.setChecked(not n)
        button.setProperty("role", "page")
        group.addButton(button, n)
        bar.addWidget(button)
    group.idClicked.connect(lambda _: chosen())
    return group
