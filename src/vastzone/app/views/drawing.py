"""What drawn views share: a line of text cut to its room, and the tag of a part or target."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QPainter

from vastzone.app.drawn import note_words
from vastzone.app.theme.colours import mixed, readable_on
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.core.text import one_line


def text(
    painter: QPainter,
    rect: QRectF,
    words: str,
    colour: str | QColor,
    face: QFont,
    align: Qt.AlignmentFlag = Qt.AlignmentFlag.AlignLeft,
) -> float:
    """One line, cut to its room; the width that it takes."""
    metrics = QFontMetricsF(face)
    painter.setFont(face)
    painter.setPen(QColor(colour))
    whole = one_line(words)
    wide, room = metrics.horizontalAdvance(whole), max(0.0, rect.width())
    shown = whole
    if wide > room:
        shown = metrics.elidedText(whole, Qt.TextElideMode.ElideRight, room)
        wide = metrics.horizontalAdvance(shown)
    note_words(painter, rect, whole, shown != whole)
    painter.drawText(rect, align | Qt.AlignmentFlag.AlignVCenter, shown)
    return wide


def tag_colour(index: int | None) -> QColor:
    """The colour of a part; a quiet one for a target, which has none."""
    colours = THEME.colours
    return mixed(colours.ink, colours.panel, 0.32) if index is None else colours.part(index)


def paint_tag(painter: QPainter, chip: QRectF, tag: str, colour: int | None) -> None:
    """The two letters of a part or target on its colour."""
    shade = tag_colour(colour)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(shade)
    painter.drawRoundedRect(chip, 4, 4)
    text(painter, chip, tag, readable_on(shade), bold(11), Qt.AlignmentFlag.AlignHCenter)
