"""A choice in a closed list, calm under the wheel and honest about what it cuts."""

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QHelpEvent, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QComboBox, QStyle, QStyleOptionComboBox, QStylePainter, QToolTip

from vastzone.app.frame.text import safe_tip


class CalmCombo(QComboBox):
    """A choice that the wheel changes only while it has the focus.

    What is too long for it ends in an ellipsis, and shows whole as a tip.
    """

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Let the wheel scroll the facts."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()

    def paintEvent(self, event: QPaintEvent) -> None:
        """As any choice, with its words cut to their room."""
        painter = QStylePainter(self)
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        painter.drawComplexControl(QStyle.ComplexControl.CC_ComboBox, option)
        option.currentText = self._cut(option)
        painter.drawControl(QStyle.ControlElement.CE_ComboBoxLabel, option)
        painter.end()

    def event(self, event: QEvent) -> bool:
        """Tell the whole of what is cut, in place of the tip that it has."""
        if isinstance(event, QHelpEvent) and event.type() is QEvent.Type.ToolTip:
            words = self.whole()
            if words:
                QToolTip.showText(event.globalPos(), safe_tip(words), self)
                return True
        return super().event(event)

    def whole(self) -> str:
        """The words that are chosen, where there is no room for all of them."""
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        return "" if self._cut(option) == option.currentText else self.currentText()

    def _cut(self, option: QStyleOptionComboBox) -> str:
        """The words, as far as there is room."""
        end = Qt.TextElideMode.ElideRight
        return self.fontMetrics().elidedText(option.currentText, end, self._room(option))

    def _room(self, option: QStyleOptionComboBox) -> int:
        """How wide the words may be."""
        box, edit = QStyle.ComplexControl.CC_ComboBox, QStyle.SubControl.SC_ComboBoxEditField
        room = self.style().subControlRect(box, option, edit, self).width() - 1
        return room if option.currentIcon.isNull() else room - option.iconSize.width() - 4
