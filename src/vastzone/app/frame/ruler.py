"""The thin ruler of all 128 notes, lit by what is sounding."""

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QColor, QPaintEvent
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, grown_size, with_words
from vastzone.app.reader import Element, Role
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import font
from vastzone.app.views.drawing import text
from vastzone.core.midi import pitch
from vastzone.core.midi.pitch import is_black
from vastzone.core.say import say
from vastzone.desk.stage import Stage


class Ruler(Drawn):
    """Notes 0–127 from left to right; octaves are numbered by note, which no maker disputes."""

    def __init__(self, stage: Stage) -> None:
        super().__init__()
        self._stage = stage
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(say("All 128 notes"))

    def sizeHint(self) -> QSize:
        """Thin and as wide as may be."""
        return grown_size(600, 30)

    def elements(self) -> list[Element]:
        """What sounds now, and the numbers of the octaves."""
        notes = ", ".join(pitch.label(note) for note in sorted(self._stage.lit_notes()))
        told = say("{notes} sound", notes=notes) if notes else say("nothing sounds")
        every = Element("notes", say("All 128 notes"), QRectF(self.rect()), Role.Indicator, told)
        return with_words([every], self.said)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Faint keys, octave marks, and the notes that sound in their parts' colours."""
        colours, painter = THEME.colours, self.painter()
        step, high = self.width() / 128, self.height() - 13.0
        lit = self._stage.lit_notes()
        for note in range(128):
            cell = QRectF(note * step, 0, step + 0.5, high)
            shade = (
                mixed(colours.ink, colours.panel, 0.16)
                if is_black(note)
                else mixed(colours.ink, colours.panel, 0.05)
            )
            painter.fillRect(cell, shade)
            for index, colour in enumerate(lit.get(note, ())[:4]):
                rows = min(4, len(lit[note]))
                top = index * high / rows
                painter.fillRect(
                    QRectF(cell.left(), top, cell.width(), high / rows), colours.part(colour)
                )
        for note in range(0, 128, 12):
            painter.setPen(QColor(colours.line))
            painter.drawLine(round(note * step), 0, round(note * step), self.height())
            room = QRectF(note * step + 3, self.height() - 14, 12 * step - 3, 14)
            text(painter, room, str(note), colours.muted, font(11))
        painter.end()
