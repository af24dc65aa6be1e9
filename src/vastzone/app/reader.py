"""What screen readers are told of pictures: each thing drawn is a child of its picture.

Qt asks a factory for the interface of each widget.  Pictures (``Drawn``, ``DrawnArea``) answer with
their elements; entries of the rail and page buttons are tabs; all other widgets keep Qt's own.
"""

from collections.abc import Callable
from typing import Any, NamedTuple, Protocol, runtime_checkable

import shiboken6
from PySide6.QtCore import QObject, QPoint, QRect, QRectF
from PySide6.QtGui import (
    QAccessible,
    QAccessibleActionInterface,
    QAccessibleInterface,
)
from PySide6.QtWidgets import QAbstractButton, QAbstractScrollArea, QAccessibleWidget, QWidget

Role = QAccessible.Role
PRESS = QAccessibleActionInterface.pressAction
NOTHING = shiboken6.VoidPtr(0)
"""No interface: what Qt takes for a null pointer where an address is wanted; None crashes it."""


class Element(NamedTuple):
    """A thing in a picture, as one who cannot see it is told of it.

    ``key`` stays the same while the thing does.  ``place`` is in the picture's pixels; ``value``
    is what it stands at, ``about`` what else is to be said.  ``checked`` is None for what is not
    switched; ``press`` does what a press of a hand does.
    """

    key: str
    name: str
    place: QRectF
    role: QAccessible.Role = Role.Button
    value: str = ""
    about: str = ""
    chosen: bool = False
    checked: bool | None = None
    press: Callable[[], object] | None = None


@runtime_checkable
class Telling(Protocol):
    """A picture that tells its elements, in reading order."""

    @property
    def stamp(self) -> int:
        """Another number each time the picture is painted."""

    def elements(self) -> list[Element]:
        """What is drawn."""


class _Press(QAccessibleActionInterface):
    """The one thing that can be done with an element: pressing it."""

    def __init__(self, press: Callable[[], object]) -> None:
        super().__init__()
        self._press = press

    def actionNames(self) -> list[str]:
        """What can be done."""
        return [PRESS()]

    def doAction(self, name: str) -> None:
        """Do it."""
        if name == PRESS():
            self._press()

    def keyBindingsForAction(self, _name: str) -> list[str]:
        """Keys of its own: none."""
        return []


class ElementReading(QAccessibleInterface):
    """One element of a picture."""

    def __init__(self, picture: "PictureReading", key: str) -> None:
        super().__init__()
        self._picture, self.key = picture, key
        self._action = _Press(self._do)

    @property
    def element(self) -> Element | None:
        """What it is now; None once it is gone."""
        return self._picture.by_key.get(self.key) if self._picture.is_there else None

    def _do(self) -> None:
        element = self.element
        if element is not None and element.press is not None:
            element.press()

    def isValid(self) -> bool:
        """Whether it is still drawn."""
        return self.element is not None

    def object(self) -> QObject | None:  # type: ignore[override]
        """It has no object of its own."""
        return None

    def parent(self) -> QAccessibleInterface | None:  # type: ignore[override]
        """The picture."""
        return self._picture

    def child(self, _index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        """It has no parts."""
        return None

    def childCount(self) -> int:
        """It has no parts."""
        return 0

    def indexOfChild(self, _child: QAccessibleInterface) -> int:
        """It has no parts."""
        return -1

    def childAt(self, _x: int, _y: int) -> QAccessibleInterface | None:  # type: ignore[override]
        """It has no parts."""
        return None

    def rect(self) -> QRect:
        """Where it is on the screen."""
        element = self.element
        return QRect() if element is None else self._picture.on_screen(element.place)

    def text(self, kind: QAccessible.Text) -> str:
        """Its name, value or description."""
        element = self.element
        if element is None:
            return ""
        told = {
            QAccessible.Text.Name: element.name,
            QAccessible.Text.Value: element.value,
            QAccessible.Text.Description: element.about,
        }
        return told.get(kind, "")

    def setText(self, kind: QAccessible.Text, text: str) -> None:
        """Nothing of it is typed."""

    def role(self) -> QAccessible.Role:
        """What kind of thing it is."""
        element = self.element
        return Role.NoRole if element is None else element.role

    def state(self) -> QAccessible.State:
        """Whether it is chosen and checked."""
        state, element = QAccessible.State(), self.element
        if element is None:
            state.invalid = True
            return state
        state.selectable = state.focusable = True
        state.selected = element.chosen
        state.focused = element.chosen and self._picture.has_focus
        state.checkable = element.checked is not None
        state.checked = bool(element.checked)
        return state

    def interface_cast(self, kind: QAccessible.InterfaceType) -> Any:
        """What can be done with it."""
        element = self.element
        wanted = kind is QAccessible.InterfaceType.ActionInterface
        return self._action if wanted and element is not None and element.press else NOTHING


class PictureReading(QAccessibleWidget):
    """A picture with its elements as children."""

    def __init__(self, picture: QWidget, telling: Telling) -> None:
        super().__init__(picture, Role.Grouping)
        self._picture, self._telling = picture, telling
        self._readings: dict[str, ElementReading] = {}
        self.by_key: dict[str, Element] = {}
        self._stamp = -1

    @property
    def is_there(self) -> bool:
        """Whether the picture still exists."""
        return shiboken6.isValid(self._picture)

    @property
    def has_focus(self) -> bool:
        """Whether the picture has the focus."""
        return self._picture.hasFocus()

    def _elements(self) -> list[Element]:
        if not self.is_there:
            self.by_key = {}
        elif self._stamp != self._telling.stamp:
            self._stamp = self._telling.stamp
            self.by_key = {element.key: element for element in self._telling.elements()}
        return list(self.by_key.values())

    def _reading(self, key: str) -> ElementReading:
        # Kept for good: Qt keeps no object alive by itself, and readers come back for them.
        if key not in self._readings:
            self._readings[key] = ElementReading(self, key)
        return self._readings[key]

    def childCount(self) -> int:
        """How many elements are drawn."""
        return len(self._elements())

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        """An element by its place in reading order."""
        elements = self._elements()
        return self._reading(elements[index].key) if 0 <= index < len(elements) else None

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        """The place of an element; −1 where it is none of these."""
        keys = [element.key for element in self._elements()]
        if not isinstance(child, ElementReading) or child.key not in keys:
            return -1
        return keys.index(child.key)

    def childAt(self, x: int, y: int) -> QAccessibleInterface | None:  # type: ignore[override]
        """The element under a point of the screen; what is drawn last lies above."""
        for element in reversed(self._elements()):
            if self.on_screen(element.place).contains(x, y):
                return self._reading(element.key)
        return None

    def focusChild(self) -> QAccessibleInterface | None:  # type: ignore[override]
        """The chosen element, while the picture has the focus."""
        if self.has_focus:
            for element in self._elements():
                if element.chosen:
                    return self._reading(element.key)
        return super().focusChild()

    def on_screen(self, place: QRectF) -> QRect:
        """Where a place of the picture is on the screen, in its pixels."""
        from vastzone.app.theme.current import THEME

        picture = self._picture
        if isinstance(picture, QAbstractScrollArea):
            picture = picture.viewport()
        zoom = THEME.zoom
        left, top = round(place.x() * zoom), round(place.y() * zoom)
        corner = QWidget.mapToGlobal(picture, QPoint(left, top))
        return QRect(corner, (place.size() * zoom).toSize())


class TabReading(QAccessibleWidget):
    """An entry of the rail, or a button that chooses a page."""

    def __init__(self, button: QAbstractButton) -> None:
        super().__init__(button, Role.PageTab)
        self._button = button
        self._action = _Press(button.click)

    def text(self, kind: QAccessible.Text) -> str:
        """What the button says."""
        said = super().text(kind)
        if kind is QAccessible.Text.Name and not said:
            return self._button.text()
        return said

    def state(self) -> QAccessible.State:
        """Whether its page is the one that is shown."""
        state = super().state()
        state.selectable = True
        state.selected = self._button.isChecked()
        return state

    def interface_cast(self, kind: QAccessible.InterfaceType) -> Any:
        """It can be pressed."""
        wanted = kind is QAccessible.InterfaceType.ActionInterface
        return self._action if wanted else NOTHING


_KEPT: dict[int, QAccessibleInterface] = {}
"""Interfaces by the address of their widgets: Qt frees them with these, Python must not."""


def _make(_key: str, thing: QObject) -> QAccessibleInterface | None:
    """The interface of a widget of ours; None for Qt's own."""
    made: QAccessibleInterface | None = None
    if isinstance(thing, QWidget) and isinstance(thing, Telling):
        made = PictureReading(thing, thing)
    elif isinstance(thing, QAbstractButton) and getattr(thing, "is_tab", False):
        made = TabReading(thing)
    elif isinstance(thing, QWidget) and getattr(thing, "holds_tabs", False):
        made = QAccessibleWidget(thing, Role.PageTabList)
    if made is not None:
        address = shiboken6.getCppPointer(thing)[0]
        _KEPT[address] = made
        thing.destroyed.connect(lambda: _forget(address))
    return made


def _forget(address: int) -> None:
    """Qt has freed the interface with its widget."""
    kept = _KEPT.pop(address, None)
    if kept is not None:
        shiboken6.invalidate(kept)


def install() -> None:
    """Tell screen readers of pictures from now on; once a process is enough."""
    if not _INSTALLED:
        QAccessible.installFactory(_make)
        _INSTALLED.append(True)


_INSTALLED: list[bool] = []
