"""A person's words in widgets: they are shown as they are, never read as markup or shortcuts."""

from collections.abc import Callable
from html import escape
from typing import Any

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QLabel, QMenu, QPushButton, QWidget

from vastzone.core.text import breakable, printable

MOST_WIDTHS = 8
"""A label keeps its heights at so many widths: a window that is dragged goes through many."""


class Label(QLabel):
    """A label of plain text.

    It knows its heights at the widths it was asked for: a page asks several times while it is
    laid out, and breaking words into lines takes long.
    """

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._said = ""
        self._heights: dict[int, int] = {}
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)

    def setText(self, text: str) -> None:
        """Say it as it is; words too long for the column are broken."""
        self._said = text
        if self.textFormat() is Qt.TextFormat.PlainText:
            text = breakable(printable(text, keep="\n"))
        self._heights.clear()
        super().setText(text)

    def text(self) -> str:
        """What it says."""
        return self._said

    def setWordWrap(self, on: bool) -> None:
        """Break what is longer than a line."""
        self._heights.clear()
        super().setWordWrap(on)

    def heightForWidth(self, wide: int) -> int:
        """How high it is at a width."""
        if wide not in self._heights:
            if len(self._heights) >= MOST_WIDTHS:
                self._heights.clear()
            self._heights[wide] = super().heightForWidth(wide)
        return self._heights[wide]

    def changeEvent(self, event: QEvent) -> None:
        """Measure anew with other letters or margins."""
        self._heights.clear()
        super().changeEvent(event)


class Button(QPushButton):
    """A button whose «&» is an ampersand, not a shortcut."""

    def __init__(self, *given: Any) -> None:
        super().__init__()
        for one in given:
            if isinstance(one, str):
                self.setText(one)
            else:
                self.setIcon(one)

    def setText(self, text: str) -> None:
        """Say it as it is."""
        super().setText(unmarked(text))

    def text(self) -> str:
        """What it says."""
        return super().text().replace("&&", "&")


def unmarked(text: str) -> str:
    """Words for a button or menu, where a lone «&» would mark a shortcut."""
    return printable(text).replace("&", "&&")


def safe_tip(text: str) -> str:
    """Words for a tool tip, which would read what looks like HTML as such."""
    clean = printable(text, keep="\n")
    if "<" not in clean and "&" not in clean:
        return clean
    return f"<qt>{escape(clean).replace(chr(10), '<br>')}</qt>"


def set_tip(widget: QWidget, text: str) -> None:
    """Give a widget a tool tip of plain text."""
    widget.setToolTip(safe_tip(text))


def set_title(window: QWidget, text: str) -> None:
    """Give a window a title; «[*]» is no mark of changes in it."""
    window.setWindowTitle(printable(text).replace("[*]", "[*][*]"))


def add_action(menu: QMenu, text: str, run: Callable[[], object] | None = None) -> QAction:
    """Put plain words into a menu."""
    action = menu.addAction(unmarked(text))
    if run is not None:
        action.triggered.connect(lambda _=False: run())
    return action
