"""A ring round a picture that has the focus: pictures have no border of their own to light."""

from PySide6.QtCore import QEvent, QObject, QRect, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QRegion
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSlider,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QPlainTextEdit,
    QTabBar,
    QWidget,
)
from shiboken6 import isValid

from vastzone.app.theme.current import THEME

THICK = 2
DIRECT = Qt.FindChildOption.FindDirectChildrenOnly
STYLED = (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSlider,
    QAbstractSpinBox,
    QComboBox,
    QLineEdit,
    QPlainTextEdit,
    QTabBar,
)
"""What the style sheet lights by itself."""
MOVED = (QEvent.Type.Resize, QEvent.Type.Move, QEvent.Type.Show, QEvent.Type.Hide)


class FocusRing(QWidget):
    """Lies over a window, round what is seen of the picture in it that has the focus."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._round: QWidget | None = None
        self._watched: list[QWidget] = []
        self.hide()
        application = QApplication.instance()
        if isinstance(application, QApplication):
            application.focusChanged.connect(self._follow)

    def _follow(self, _: QWidget | None, now: QWidget | None) -> None:
        for watched in self._watched:
            if isValid(watched):
                watched.removeEventFilter(self)
        self._watched, self._round = [], None
        if now is not None and now.window() is self.window() and _is_picture(now):
            self._round = now
            holder: QWidget | None = now
            while holder is not None and not holder.isWindow():
                self._watched.append(holder)
                holder.installEventFilter(self)
                holder = holder.parentWidget()
        self._lie()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Follow the picture when it is moved."""
        if event.type() in MOVED:
            self._lie()
        return super().eventFilter(watched, event)

    def _lie(self) -> None:
        area = self._seen()
        self.setVisible(not area.isEmpty())
        if not area.isEmpty():
            self.setGeometry(area)
            inner = QRect(THICK, THICK, area.width() - 2 * THICK, area.height() - 2 * THICK)
            self.setMask(QRegion(0, 0, area.width(), area.height()).subtracted(QRegion(inner)))
            self.raise_()

    def _seen(self) -> QRect:
        """What is seen of the picture, in the window's pixels."""
        picture = self._round
        if picture is None or not isValid(picture) or not picture.isVisible():
            return QRect()
        seen = picture.visibleRegion().boundingRect()
        for child in picture.findChildren(QWidget, options=DIRECT):
            if child.isVisible() and not child.isWindow():
                inner = child.visibleRegion().boundingRect().translated(child.pos())
                seen = seen.united(inner)  # what children cover is not counted as seen
        return QRect(picture.mapTo(self.window(), seen.topLeft()), seen.size())

    def paintEvent(self, event: QPaintEvent) -> None:
        """The ring is all that its mask leaves."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(THEME.colours.action))
        painter.end()


def _is_picture(widget: QWidget) -> bool:
    """Whether the style draws no focus for it."""
    return not isinstance(widget, STYLED)
