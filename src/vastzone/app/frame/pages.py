"""The buttons that choose a page of a view."""

from collections.abc import Callable
from typing import Protocol, runtime_checkable

from PySide6.QtCore import QSize, Qt
from PySide6.QtWidgets import QAbstractButton, QButtonGroup, QHBoxLayout, QWidget

from vastzone.app.frame.text import Button
from vastzone.app.theme.current import THEME
from vastzone.core.say import say

PAGES = "pages"
"""What the group of a view's page buttons is called."""
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


class PageButton(Button):
    """A button that chooses a page: a tab, to those who are read to.

    It measures itself once for each look: the style takes long, and a bar is laid out several
    times as a page is turned.
    """

    is_tab = True

    def __init__(self, words: str) -> None:
        super().__init__(words)
        self._measured: tuple[tuple[str, bool, str, float], QSize] | None = None

    def sizeHint(self) -> QSize:
        """The room that its words take in the present theme and size of text."""
        look = (self.text(), self.isChecked(), THEME.name, THEME.zoom)
        if self._measured is None or self._measured[0] != look:
            self._measured = look, super().sizeHint()
        return self._measured[1]

    def minimumSizeHint(self) -> QSize:
        """The same: words of pages are not cut."""
        return self.sizeHint()


def page_buttons(
    view: QWidget, names: tuple[str, ...], bar: QHBoxLayout, chosen: Callable[[], object]
) -> QButtonGroup:
    """A button a page in a bar, the first one down; ``chosen`` is told when another is."""
    group = QButtonGroup(view)
    group.setObjectName(PAGES)
    for n, name in enumerate(names):
        button = PageButton(say(name))
        button.setCheckable(True)
        button.setChecked(not n)
        button.setProperty("role", "page")
        button.setProperty("narrow", len(names) > MANY)
        group.addButton(button, n)
        bar.addWidget(button)
    keep_one_stop(group)
    group.idClicked.connect(lambda _: chosen())
    return group


def keep_one_stop(group: QButtonGroup) -> None:
    """Tab stops at the chosen button of a row, whoever chose it; arrows go on to the others.

    Qt looks after that by itself only when a button was pressed.  A focus on another of them goes
    along.
    """

    def follow(button: QAbstractButton, on: bool) -> None:
        policy = Qt.FocusPolicy.TabFocus if on else Qt.FocusPolicy.NoFocus
        button.setFocusPolicy(policy)
        if on and any(other.hasFocus() for other in group.buttons()):
            button.setFocus()

    group.buttonToggled.connect(follow)
    for button in group.buttons():
        follow(button, button.isChecked())


def turn_page(view: QWidget, steps: int) -> None:
    """Go so many pages on or back, round at the ends; nothing where there are none."""
    pages = view.findChild(QButtonGroup, PAGES, Qt.FindChildOption.FindDirectChildrenOnly)
    if isinstance(view, Paged) and pages is not None:
        view.show_page((pages.checkedId() + steps) % len(view.page_names))
