"""The left rail: the views in working order, each with its findings counted."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QButtonGroup, QFrame, QVBoxLayout

from vastzone.app.drawn import grown_size
from vastzone.app.frame.pages import keep_one_stop
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.theme.icons import pixmap
from vastzone.core.say import say, say_many

ICON_AND_NAME = 46.0
"""The height in which icon and name find room."""
ABOVE_AND_BELOW = 4.0
"""Pixels between two entries that are not painted."""
SMALLEST = 10.0
"""Letters in the rail are not smaller than so many pixels."""


class RailPlace(NamedTuple):
    """A view as the rail shows it."""

    ident: str
    name: str
    icon: str


class RailButton(QAbstractButton):
    """An entry of the rail: icon, name, count of findings.

    ``is_low`` tells whether the entries are too low for icons.
    """

    is_tab = True

    def __init__(self, place: RailPlace, number: int) -> None:
        super().__init__()
        self._place, self.count, self.faulty = place, 0, False
        self.is_low: Callable[[], bool] = lambda: False
        self.setCheckable(True)
        self.setText(place.name)
        set_tip(self, say("{place} (Alt+{number})", place=place.name, number=number % 10))
        self.setAccessibleName(place.name)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._describe()

    def sizeHint(self) -> QSize:
        """As wide as the rail."""
        return grown_size(88, 66)

    def minimumSizeHint(self) -> QSize:
        """A line with the name."""
        return grown_size(88, 26)

    def show_count(self, count: int, faulty: bool) -> None:
        """Show how many findings are left."""
        if (count, faulty) == (self.count, self.faulty):
            return
        self.count, self.faulty = count, faulty
        self._describe()
        self.update()

    def _describe(self) -> None:
        left = say_many("{count} finding", "{count} findings", self.count)
        if self.faulty:
            left = say("{left}, at least one a fault", left=left)
        self.setAccessibleDescription(left)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Icon above name, or only the name where the window is low; a badge."""
        colours, painter = THEME.colours, QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.scale(THEME.zoom, THEME.zoom)
        area = QRectF(0, 0, self.width() / THEME.zoom, self.height() / THEME.zoom)
        area.adjust(4, 2, -4, -2)
        painter.setPen(QPen(QColor(colours.action), 2) if self.hasFocus() else Qt.PenStyle.NoPen)
        painter.setBrush(QColor(self._fill()))
        painter.drawRoundedRect(area, 9, 9)
        if self.is_low():
            self._paint_low(painter, area)
        else:
            self._paint_tall(painter, area)
        painter.end()

    def _fill(self) -> str:
        colours = THEME.colours
        if self.isChecked():
            return colours.action_soft
        return colours.sunken if self.underMouse() else colours.panel

    def _paint_tall(self, painter: QPainter, area: QRectF) -> None:
        # In a short window the entries are lower: icon and name move together.
        spare = max(0.0, area.height() - ICON_AND_NAME)
        top = area.top() + 2 + min(7.0, spare / 2)
        self._paint_icon(painter, QRectF(area.center().x() - 12, top, 24, 24))
        words = QRectF(area.left(), top + 24, area.width(), 20)
        self._paint_name(painter, words, Qt.AlignmentFlag.AlignHCenter)
        if self.count:
            self._badge(painter, QRectF(area.right() - 27, area.top() + 3, 24, 17))

    def _paint_low(self, painter: QPainter, area: QRectF) -> None:
        middle = area.center().y()
        words = QRectF(area.left() + 4, area.top(), area.width() - 4, area.height())
        if self.count:
            words.setRight(area.right() - 27)
            self._badge(painter, QRectF(area.right() - 26, middle - 8, 24, 16))
        self._paint_name(painter, words, Qt.AlignmentFlag.AlignLeft)

    def _paint_icon(self, painter: QPainter, place: QRectF) -> None:
        colours = THEME.colours
        colour = colours.action if self.isChecked() else colours.muted
        image = pixmap(self._place.icon, colour, round(place.width()))
        painter.drawPixmap(place.topLeft(), image)

    def _paint_name(self, painter: QPainter, room: QRectF, align: Qt.AlignmentFlag) -> None:
        colours, pixels = THEME.colours, self._letters(room.width())
        painter.setPen(QColor(colours.ink if self.isChecked() else colours.muted))
        painter.setFont(bold(pixels) if self.isChecked() else font(pixels))
        painter.drawText(room, align | Qt.AlignmentFlag.AlignVCenter, self._place.name)

    def _letters(self, room: float) -> float:
        """The size of letters in which the name has room."""
        pixels = THEME.colours.text_px - 1.0
        while pixels > SMALLEST:
            if QFontMetricsF(bold(pixels)).horizontalAdvance(self._place.name) <= room:
                break
            pixels -= 1
        return pixels

    def _badge(self, painter: QPainter, badge: QRectF) -> None:
        """How many are left: a fault is a filled badge with corners, less is an outline."""
        colours, count = THEME.colours, str(min(self.count, 999))
        painter.setPen(QPen(QColor(colours.fault if self.faulty else colours.muted), 1.4))
        painter.setBrush(QColor(colours.fault if self.faulty else colours.panel))
        round_ = 2.0 if self.faulty else badge.height() / 2
        painter.drawRoundedRect(badge, round_, round_)
        painter.setPen(QColor(colours.paper if self.faulty else colours.ink))
        painter.setFont(bold(11.5))
        painter.drawText(badge, Qt.AlignmentFlag.AlignCenter, count)


class Rail(QFrame):
    """The entries below each other."""

    holds_tabs = True

    def __init__(self, places: tuple[RailPlace, ...], go: Callable[[str], None]) -> None:
        super().__init__()
        self.setObjectName("rail")
        bound(self, "FixedWidth", 89)
        self.setAccessibleName(say("Views"))
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 8, 0, 8)
        box.setSpacing(2)
        self._group = QButtonGroup(self)
        self.buttons: dict[str, RailButton] = {}
        for number, place in enumerate(places, 1):
            button = RailButton(place, number)
            button.clicked.connect(lambda _=False, ident=place.ident: go(ident))
            self._group.addButton(button)
            button.is_low = self._is_low
            self.buttons[place.ident] = button
            box.addWidget(button)
        keep_one_stop(self._group)
        box.addStretch()

    def _is_low(self) -> bool:
        """Whether the lowest entry has no room for its icon: all look alike."""
        lowest = min(button.height() for button in self.buttons.values())
        return lowest / THEME.zoom - ABOVE_AND_BELOW < ICON_AND_NAME

    def show_place(self, ident: str) -> None:
        """Mark the view that is shown."""
        self.buttons[ident].setChecked(True)
