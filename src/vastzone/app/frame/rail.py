"""The left rail: the views in working order, each with its findings counted."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QAbstractButton, QButtonGroup, QFrame, QVBoxLayout

from vastzone.app.frame.pages import keep_one_stop
from vastzone.app.frame.text import set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.theme.icons import pixmap
from vastzone.core.text import many

ICON_AND_NAME = 46.0
"""The height in which icon and name find room."""


class RailPlace(NamedTuple):
    """A view as the rail shows it."""

    ident: str
    name: str
    icon: str


class RailButton(QAbstractButton):
    """An entry of the rail: icon, name, count of findings."""

    def __init__(self, place: RailPlace, number: int) -> None:
        super().__init__()
        self._place, self.count, self.faulty = place, 0, False
        self.setCheckable(True)
        self.setText(place.name)
        set_tip(self, f"{place.name} (Alt+{number % 10})")
        self.setAccessibleName(place.name)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def sizeHint(self) -> QSize:
        """As wide as the rail."""
        return QSize(88, 66)

    def show_count(self, count: int, faulty: bool) -> None:
        """Show how many findings are left."""
        self.count, self.faulty = count, faulty
        self.setAccessibleDescription(many(count, "finding"))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Icon above name; the chosen one on the action's soft colour."""
        colours, painter = THEME.colours, QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(self.rect()).adjusted(6, 3, -6, -3)
        painter.setPen(QColor(colours.action) if self.hasFocus() else Qt.PenStyle.NoPen)
        fill = (
            colours.action_soft
            if self.isChecked()
            else colours.sunken
            if self.underMouse()
            else colours.panel
        )
        painter.setBrush(QColor(fill))
        painter.drawRoundedRect(area, 9, 9)
        colour = colours.action if self.isChecked() else colours.muted
        image = pixmap(self._place.icon, colour, 24)
        # In a short window the entries are lower: icon and name move together.
        spare = max(0.0, area.height() - ICON_AND_NAME)
        top = area.top() + 2 + min(7.0, spare / 2)
        painter.drawPixmap(round(area.center().x() - 12), round(top), image)
        painter.setPen(QColor(colours.ink if self.isChecked() else colours.muted))
        painter.setFont(
            bold(colours.text_px - 1) if self.isChecked() else font(colours.text_px - 1)
        )
        words = QRectF(area.left(), top + 24, area.width(), 20)
        painter.drawText(words, Qt.AlignmentFlag.AlignCenter, self._place.name)
        if self.count:
            self._badge(painter, area)
        painter.end()

    def _badge(self, painter: QPainter, area: QRectF) -> None:
        colours = THEME.colours
        badge = QRectF(area.right() - 27, area.top() + 3, 24, 17)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.fault if self.faulty else colours.muted))
        painter.drawRoundedRect(badge, 8.5, 8.5)
        painter.setPen(QColor(colours.paper))
        painter.setFont(bold(11.5))
        painter.drawText(badge, Qt.AlignmentFlag.AlignCenter, str(min(self.count, 999)))


class Rail(QFrame):
    """The entries below each other."""

    def __init__(self, places: tuple[RailPlace, ...], go: Callable[[str], None]) -> None:
        super().__init__()
        self.setObjectName("rail")
        self.setFixedWidth(89)
        self.setAccessibleName("Views")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 8, 0, 8)
        box.setSpacing(2)
        self._group = QButtonGroup(self)
        self.buttons: dict[str, RailButton] = {}
        for number, place in enumerate(places, 1):
            button = RailButton(place, number)
            button.clicked.connect(lambda _=False, ident=place.ident: go(ident))
            self._group.addButton(button)
            self.buttons[place.ident] = button
            box.addWidget(button)
        keep_one_stop(self._group)
        box.addStretch()

    def show_place(self, ident: str) -> None:
        """Mark the view that is shown."""
        self.buttons[ident].setChecked(True)
