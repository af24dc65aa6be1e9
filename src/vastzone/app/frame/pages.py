"""The buttons that choose a page of a view."""

from collections.abc import Callable
from typing import Protocol, runtime_checkable

from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QWidget

from vastzone.app.frame.text import Button

MANY = 7
"""More pages than this stand closer together, so that a narrow window holds them."""


class RefreshedPage(Protocol):
    """A page that shows the plan anew when it is told to."""

    def refresh(self) -> None:
        """Show the plan as it is now."""


@runtime_checkable
class Paged(Protocol):
    """A view with pages."""

    page_names: tuple[str, ...]

    def show_page(self, page: int) -> None:
        """Show a page by its place among their names."""


def show_page_of(view: QWidget, name: str) -> None:
    """Show a page of a view by its name, the first when empty; nothing where there are none."""
    if isinstance(view, Paged):
        view.show_page(view.page_names.index(name) if name else 0)


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
        button.setProperty("narrow", len(names) > MANY)
        group.addButton(button, n)
        bar.addWidget(button)
    group.idClicked.connect(lambda _: chosen())
    return group
