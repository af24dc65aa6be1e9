"""One line of a card in letters that can be read from where one stands."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, note_words
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.cards.card import CardLine
from vastzone.core.say import say
from vastzone.core.text import printable

LOW = 150
"""Below this height there is no room to say what comes next."""


class BigLine(Drawn):
    """One line of a card, to be read from where one stands."""

    def __init__(self) -> None:
        super().__init__()
        self.head = self.foot = self.warning = ""
        self.line: CardLine | None = None
        self.share = 0.0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("What to dial now"))

    def show_line(self, head: str, line: CardLine | None, foot: str, share: float) -> None:
        """Show a line under a heading, with what comes next below; ``share`` of them are done."""
        self.head, self.line, self.foot, self.share = head, line, foot, share
        self.setAccessibleDescription(line.words if line is not None else foot)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Large words."""
        painter, colours = self.painter(), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(QColor(colours.raised))
        sheet = QRectF(0.5, 0.5, self.width() - 1, self.height() - 1)
        painter.drawRoundedRect(sheet, 10, 10)
        self._bar(painter, sheet)
        room = sheet.adjusted(34, 26, -34, -22)
        top = QRectF(room.left(), room.top(), room.width(), 26)
        text(painter, top, self.head, colours.muted, font(colours.text_px + 2))
        roomy = room.height() >= LOW
        below = 66 if roomy else 30
        middle = QRectF(room.left(), top.bottom() + 4, room.width(), room.height() - below)
        if self.line is None:
            text(painter, middle, self.foot, colours.ink, bold(colours.text_px + 20))
        else:
            self._line(painter, middle, self.line)
            low = QRectF(room.left(), room.bottom() - 24, room.width(), 24 if roomy else 0)
            text(painter, low, self.foot, colours.muted, font(colours.text_px))
        painter.end()

    def _bar(self, painter: QPainter, sheet: QRectF) -> None:
        """How much is done, as a bar along the top."""
        colours = THEME.colours
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(mixed(colours.line, colours.raised, 0.6))
        painter.drawRoundedRect(QRectF(sheet.left() + 34, 12, sheet.width() - 68, 6), 3, 3)
        painter.setBrush(QColor(colours.good))
        wide = (sheet.width() - 68) * self.share
        painter.drawRoundedRect(QRectF(sheet.left() + 34, 12, wide, 6), 3, 3)

    def _line(self, painter: QPainter, room: QRectF, line: CardLine) -> None:
        """The thing, what it is to be in the largest letters that fit, what it was."""
        colours = THEME.colours
        if line.kind != "dial":
            self._large(painter, room, line.words)
        else:
            high = min(34.0, room.height() * 0.28)
            name = QRectF(room.left(), room.top(), room.width(), high)
            size = min(colours.text_px + 8, round(high * 0.72))
            text(painter, name, line.thing, colours.ink, font(size))
            low = min(28.0, room.height() * 0.26)
            after = QRectF(room.left(), name.bottom(), room.width(), room.height() - high - low)
            self._large(painter, after, line.after)
            was = QRectF(room.left(), after.bottom(), room.width(), low)
            before = (
                say("was {before}", before=line.before)
                if line.before and line.before != line.after
                else ""
            )
            words = "   ".join(filter(None, (before, line.path)))
            text(
                painter, was, words, colours.muted, font(min(colours.text_px + 2, round(low * 0.7)))
            )
        if self.warning:
            self._warn(painter, room)

    def _large(self, painter: QPainter, room: QRectF, words: str) -> None:
        """Words as large as they fit, in two lines where one would make them small."""
        colours = THEME.colours
        size = colours.text_px + 24
        while size > colours.text_px + 2:
            wide = QFontMetricsF(bold(size)).horizontalAdvance(words)
            lines = 1 if room.height() < 2.6 * size else 2
            if wide <= room.width() * (lines - 0.15 * (lines - 1)) and size * 1.3 <= room.height():
                break
            size -= 1
        painter.setPen(QColor(colours.ink))
        painter.setFont(bold(size))
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        note_words(painter, room, words)
        painter.drawText(room, flags | Qt.TextFlag.TextWordWrap, printable(words))

    def _warn(self, painter: QPainter, room: QRectF) -> None:
        colours = THEME.colours
        band = QRectF(room.left() - 10, room.bottom() - 2, room.width() + 20, 30)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(mixed(colours.caution, colours.raised, 0.18))
        painter.drawRoundedRect(band, 6, 6)
        said = QRectF(room.left(), band.top(), room.width(), band.height())
        text(painter, said, self.warning, colours.ink, bold(colours.text_px))
