"""What drawn views share: a line of text cut to its room, and the tag of a part or target."""

from functools import lru_cache

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
    painter.setFont(face)
    painter.setPen(QColor(colour))
    whole = one_line(words)
    shown, wide = _fitted(whole, face, max(0.0, rect.width()))
    note_words(painter, rect, whole, shown != whole)
    painter.drawText(rect, align | Qt.AlignmentFlag.AlignVCenter, shown)
    return wide


@lru_cache(maxsize=4096)
def _fitted(words: str, face: QFont, room: float) -> tuple[str, float]:
    """Words cut to a room, and the width that they take."""
    metrics = QFontMetricsF(face)
    wide = metrics.horizontalAdvance(words)
    if wide <= room:
        return words, wide
    shown = metrics.elidedText(words, Qt.TextElideMode.ElideRight, room)
    return shown, metrics.horizontalAdvance(shown)


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
