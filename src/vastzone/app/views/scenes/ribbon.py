"""The evening as a ribbon: songs in order, what changes between them, to be dragged about."""

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, grown_size, with_words
from vastzone.app.frame.sized import bound
from vastzone.app.reader import Element, Role
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.cards.setlist import SongRow, by_player
from vastzone.core.say import say
from vastzone.core.setlist.changes import NOBODY, DeviceChange

HEAD, LINE, GAP, SIDE, TITLE = 52.0, 19.0, 8.0, 14.0, 28.0
NARROW = 700
"""Narrower than this what changes stands below the title."""
NUMBER, TITLES, COSTS = 40.0, 230.0, 132.0
HOLD = 6.0
"""Pixels that a mouse moves before it drags."""
FATES = {"cut": say("cut"), "runs on": say("runs on"), "jumps": say("jumps")}
StepWords = Callable[[DeviceChange], str]
Begins = Callable[[SongRow], str]


class RibbonRow(NamedTuple):
    """A song as it is drawn: what is told of it, and where."""

    row: SongRow
    steps: tuple[str, ...]
    dives: tuple[bool, ...]
    heard: tuple[str, ...]
    rect: QRectF


class Ribbon(Drawn):
    """Rows of songs.  ``chosen``, ``moved`` and ``removed`` carry places in the set list."""

    chosen = Signal(int)
    moved = Signal(int, int)
    removed = Signal(int)

    def __init__(self, cost_of: Callable[[int, int], str]) -> None:
        super().__init__()
        self._cost_of = cost_of
        self.rows: tuple[RibbonRow, ...] = ()
        self.current = ""
        self.at = 0
        self._down = -1
        self._begin = QPointF()
        self._to = -1
        self._said = ""
        self._pointer = QPointF()
        self._narrow = False
        self._shown: tuple[tuple[SongRow, ...], StepWords, Begins] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(say("The evening, song by song"))

    def sizeHint(self) -> QSize:
        """As tall as all songs are."""
        last = self.rows[-1].rect.bottom() if self.rows else 80.0
        return grown_size(640, round(last + GAP))

    def show_rows(
        self, rows: tuple[SongRow, ...], words: StepWords, current: str, begins: Begins
    ) -> None:
        """Show an evening; ``current`` is the song that is played."""
        if current != self.current:
            self.at = _place_of(rows, current, self.at)
        self.current = current
        self._narrow = self.width() < NARROW
        drawn, top = [], GAP
        for row in rows:
            steps = row.change.steps if row.change is not None else ()
            told = [words(step) for step in steps]
            dives = [step.dives > 0 for step in steps]
            if begins(row):
                told.append(begins(row))
                dives.append(False)
            heard = tuple(f"{FATES[g.fate]}: {g.why}" for g in row.heard if g.is_heard)
            lines = max(1, len(told)) + len(heard)
            under = TITLE if self._narrow else 0.0
            tall = max(HEAD, under + lines * LINE + 14) if row.scene is not None else 30.0
            rect = QRectF(SIDE, top, max(200.0, self.width() - 2 * SIDE), tall)
            drawn.append(RibbonRow(row, tuple(told), tuple(dives), heard, rect))
            top += tall + GAP
        self.rows = tuple(drawn)
        self._shown = (rows, words, begins)
        self.at = max(0, min(self.at, len(self.rows) - 1))
        bound(self, "FixedHeight", round(top))
        self._tell()
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Lay the songs anew where there is much more or less room."""
        super().resizeEvent(event)
        if self._shown is not None and self._narrow != (self.width() < NARROW):
            rows, words, begins = self._shown
            self.show_rows(rows, words, self.current, begins)

    def _tell(self) -> None:
        if self.rows:
            row = self.rows[self.at]
            said = "; ".join((row.row.title, *row.steps, *row.heard))
            self.setAccessibleDescription(said)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Every song with its changes; what is dragged above the others."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for place, row in enumerate(self.rows):
            rect = QRectF(row.rect)
            rect.setWidth(max(200.0, self.width() - 2 * SIDE))
            if event.rect().intersects(rect.toAlignedRect()):
                self._paint_row(painter, place, row._replace(rect=rect))
        if self._to >= 0:
            self._paint_drag(painter)
        painter.end()

    def elements(self) -> list[Element]:
        """Song by song: what changes, what is heard of it, what it costs."""
        told = []
        for number, row in enumerate(self.rows):
            song = row.row
            name = f"{song.number} {song.title}" if song.number else song.title
            playing = song.scene is not None and song.scene.id == self.current
            about = "; ".join((*row.steps, *row.heard))
            told.append(
                Element(
                    f"song {number}",
                    name,
                    row.rect,
                    Role.ListItem,
                    ", ".join(
                        filter(None, (say("playing") if playing else "", *_cost_words(song)))
                    ),
                    about,
                    number == self.at,
                    press=partial(self.go, number),
                )
            )
        return with_words(told, self.said)

    def _paint_row(self, painter: QPainter, place: int, row: RibbonRow) -> None:
        colours, rect = THEME.colours, row.rect
        scene = row.row.scene
        playing = scene is not None and scene.id == self.current
        fill = colours.action_soft if playing else colours.raised
        chosen = place == self.at
        line = QPen(QColor(colours.action if chosen else colours.line), 2 if chosen else 1)
        painter.setPen(line)
        painter.setBrush(QColor(colours.sunken if scene is None else fill))
        painter.drawRoundedRect(rect, 7, 7)
        size = colours.text_px
        if scene is None:
            inner = rect.adjusted(NUMBER + 14, 0, -10, 0)
            text(painter, inner, row.row.title, colours.muted, font(size - 1))
            return
        number = str(row.row.number) if row.row.number else "–"
        head = QRectF(rect.left() + 12, rect.top() + 5, NUMBER - 8, 28)
        text(painter, head, number, colours.muted, bold(size + 3))
        wide = rect.width() - NUMBER - COSTS - 16 if self._narrow else TITLES
        title = QRectF(rect.left() + NUMBER + 8, rect.top() + 5, wide, 26)
        text(painter, title, row.row.title, colours.ink, bold(size + (6 if playing else 2)))
        if not self._narrow:
            below = title.translated(0, 24)
            text(painter, below, _sounding(row.row), colours.muted, font(size - 2))
        self._paint_steps(painter, row)
        self._paint_cost(painter, row)

    def _paint_steps(self, painter: QPainter, row: RibbonRow) -> None:
        colours = THEME.colours
        left = row.rect.left() + NUMBER + (8 if self._narrow else TITLES + 22)
        wide = row.rect.right() - (12 if self._narrow else COSTS + 8) - left
        top = row.rect.top() + (TITLE + 4 if self._narrow else 7)
        line = QRectF(left, top, wide, LINE)
        size = colours.text_px - 1
        if not row.steps:
            first = say("from switching on") if row.row.number == 1 else say("nothing changes")
            text(painter, line, first, colours.muted, font(size))
            line = line.translated(0, LINE)
        for words, dives in zip(row.steps, row.dives, strict=True):
            shade = colours.caution if dives else colours.ink
            text(painter, line, words, shade, font(size))
            line = line.translated(0, LINE)
        for words in row.heard:
            text(painter, line, words, colours.fault, font(size))
            line = line.translated(0, LINE)

    def _paint_cost(self, painter: QPainter, row: RibbonRow) -> None:
        colours, change = THEME.colours, row.row.change
        right = Qt.AlignmentFlag.AlignRight
        line = QRectF(row.rect.right() - COSTS, row.rect.top() + 7, COSTS - 12, LINE)
        if row.row.spare:
            text(painter, line, say("spare"), colours.muted, font(colours.text_px - 1), right)
            return
        if change is None or not change.steps:
            return
        words, took = _cost_words(row.row)
        if self._narrow:  # what it takes stands where there is no second line
            words = f"{words} · {took}"
        text(painter, line, words, colours.ink, bold(colours.text_px - 1), right)
        if self._narrow:
            return
        below = line.translated(0, LINE)
        text(painter, below, took, colours.muted, font(colours.text_px - 2), right)

    def _paint_drag(self, painter: QPainter) -> None:
        """A line where the song would go, and what that would cost beside the finger."""
        colours = THEME.colours
        y = self._edge(self._to)
        painter.setPen(QPen(QColor(colours.action), 3))
        painter.drawLine(QPointF(SIDE, y), QPointF(self.width() - SIDE, y))
        bubble = QRectF(self._pointer.x() + 14, self._pointer.y() - 14, 216, 28)
        bubble.moveRight(min(bubble.right(), self.width() - 4.0))
        painter.setBrush(QColor(colours.action))
        painter.drawRoundedRect(bubble, 6, 6)
        inner = bubble.adjusted(10, 0, -8, 0)
        text(painter, inner, self._said, colours.paper, bold(colours.text_px - 1))

    def _edge(self, to: int) -> float:
        """Where a song comes to lie that is put at a place."""
        place = to + 1 if to > self._down else to
        if place >= len(self.rows):
            return self.rows[-1].rect.bottom() + GAP / 2
        return self.rows[place].rect.top() - GAP / 2

    def place_at(self, y: float) -> int:
        """The place of the song at a height; −1 where none is."""
        for place, row in enumerate(self.rows):
            if row.rect.top() <= y <= row.rect.bottom():
                return place
        return -1

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose a song, and take hold of it."""
        place = self.place_at(event.position().y())
        if place >= 0 and event.button() is Qt.MouseButton.LeftButton:
            self._down, self._begin = place, event.position()
            self.go(place)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag a song to another place."""
        if self._down < 0 or (event.position() - self._begin).manhattanLength() < HOLD:
            return
        place = self.place_at(event.position().y())
        self._pointer = event.position()
        if place >= 0 and place != self._to:
            self._to = place
            self._said = self._cost_of(self._down, place)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Put the song down."""
        down, to = self._down, self._to
        self._down, self._to = -1, -1
        self.update()
        if down >= 0 and to >= 0 and to != down:
            self.at = to
            self.moved.emit(down, to)

    def go(self, place: int) -> None:
        """Choose a song by its place."""
        self.at = place
        self._tell()
        self.update()
        self.chosen.emit(place)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and Down choose, with Alt they move; Delete takes out."""
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()), 0)
        to = self.at + step
        if step and 0 <= to < len(self.rows):
            if event.modifiers() & Qt.KeyboardModifier.AltModifier:
                before, self.at = self.at, to
                self.moved.emit(before, to)
            else:
                self.go(to)
        elif event.key() == Qt.Key.Key_Delete and self.rows:
            self.removed.emit(self.at)
        elif not step:
            super().keyPressEvent(event)


def _place_of(rows: tuple[SongRow, ...], scene: str, otherwise: int) -> int:
    """Where a song stands first."""
    for place, row in enumerate(rows):
        if row.scene is not None and row.scene.id == scene:
            return place
    return otherwise


def _sounding(row: SongRow) -> str:
    """Key, tempo and transposition of a song."""
    scene = row.scene
    if scene is None:
        return ""
    said = [scene.key, say("{tempo:g} bpm", tempo=scene.tempo) if scene.tempo else ""]
    said.append(
        say("transposed {transpose:+}", transpose=scene.transpose) if scene.transpose else ""
    )
    return " · ".join(filter(None, said))


def _cost_words(row: SongRow) -> tuple[str, str]:
    """Who presses how often to get to a song, and how long it takes; nothing where nothing does."""
    change = row.change
    if change is None or not change.steps:
        return "", ""
    pressed = ", ".join(by_player(row)).replace(f"{NOBODY} ", "")
    took = (
        say("{seconds:.1f} s", seconds=change.seconds)
        if change.presses
        else say("{ms:.1f} ms", ms=change.ms)
    )
    return pressed or say("no press"), took
