"""Stage: the song that is played, large and dark, what to press now, and what comes next."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QKeyEvent, QPainter, QPaintEvent

from vastzone.app.drawn import Drawn
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import set_title
from vastzone.app.key_filter import keeps
from vastzone.app.theme.colours import STAGE
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.cards.setlist import SongRow, click_words, step_words
from vastzone.core.engine.report import Report
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.core.text import one_line
from vastzone.desk.session import Desk

Evening = Callable[[], tuple[SongRow, ...]]
"""Tells the evening as the plan is now."""
FORWARD = (Qt.Key.Key_Space, Qt.Key.Key_Right, Qt.Key.Key_PageDown, Qt.Key.Key_Down)
BACK = (Qt.Key.Key_Left, Qt.Key.Key_PageUp, Qt.Key.Key_Up, Qt.Key.Key_Backspace)
MARGIN = 0.05
"""Free edge, as a share of the width."""


class Stage(Drawn):
    """A window of its own over everything; Space, arrows, a pedal or MIDI step through the songs.

    ``evening`` tells the songs as they are now.  ``stepper`` is a control ``device:control`` whose
    press goes on; none where it is empty.
    """

    left = Signal()

    def __init__(self, desk: Desk, evening: Evening, stepper: str = "") -> None:
        super().__init__(None, Qt.WindowType.Window)
        self._desk, self._evening = desk, evening
        self.rows = _played(evening())
        self.stepper = stepper
        self.at = self._now()
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        set_title(self, say("Stage"))
        self.setAccessibleName(say("Stage: the song that is played"))
        bound(self, "MinimumWidth", 480)
        bound(self, "MinimumHeight", 320)
        desk.scene_changed.connect(self._follow)
        desk.plan_changed.connect(self._renew)
        desk.opened.connect(self.close)
        desk.stage.struck.connect(self._struck)
        self._tell()

    def closeEvent(self, event: QEvent) -> None:
        """Follow nothing any longer."""
        self._desk.scene_changed.disconnect(self._follow)
        self._desk.plan_changed.disconnect(self._renew)
        self._desk.opened.disconnect(self.close)
        self._desk.stage.struck.disconnect(self._struck)
        self.left.emit()
        super().closeEvent(event)  # type: ignore[arg-type]

    def _now(self) -> int:
        """The place of the song that is played: the first where it is none of these."""
        scene = self._desk.scene
        for place, row in enumerate(self.rows):
            if scene is not None and row.scene is not None and row.scene.id == scene.id:
                return place
        return 0

    def _renew(self) -> None:
        """The plan was changed: the songs are told anew."""
        self.rows = _played(self._evening())
        self.at = max(0, min(self.at, len(self.rows) - 1))
        self._follow()

    def _follow(self) -> None:
        row = self.rows[self.at] if self.rows else None
        scene = self._desk.scene
        stays = row is not None and row.scene is not None and scene is not None
        if not (stays and row is not None and row.scene is scene):
            self.at = self._now()
        self._tell()
        self.update()

    def _struck(self, report: Report) -> None:
        """The control that steps was pressed."""
        if self.stepper and report.subject == self.stepper and report.velocity > 0:
            self.step(1)

    def step(self, steps: int) -> None:
        """Go some songs on or back; stays at the ends."""
        if not self.rows:
            return
        self.at = max(0, min(len(self.rows) - 1, self.at + steps))
        scene = self.rows[self.at].scene
        if scene is not None:
            self._desk.go_to_scene(scene.id)
        self._tell()
        self.update()

    def _tell(self) -> None:
        if self.rows:
            row = self.rows[self.at]
            said = "; ".join((row.title, *self.to_press(self._desk.plan, row)))
            self.setAccessibleDescription(said)

    @staticmethod
    def to_press(plan: Plan, row: SongRow) -> tuple[str, ...]:
        """What hands do to get to a song: nothing that comes by a message."""
        steps = row.change.steps if row.change is not None else ()
        return tuple(step_words(plan, step) for step in steps if step.presses or step.dives)

    def heard(self, event: QEvent) -> bool:
        """Keep the keys that step from the window’s shortcuts."""
        return keeps(event, (*FORWARD, *BACK)) or super().heard(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """On, back, or away."""
        key = Qt.Key(event.key())
        if key in FORWARD:
            self.step(1)
        elif key in BACK:
            self.step(-1)
        elif key == Qt.Key.Key_Escape:
            self.close()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The song, what to press, the notes, and the next song."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(STAGE.paper))
        if self.rows:
            self._paint(painter)
        painter.end()

    def _paint(self, painter: QPainter) -> None:
        wide, tall = float(self.width()), float(self.height())
        left = wide * MARGIN
        room = wide - 2 * left
        row = self.rows[self.at]
        place = say("{at} of {count}", at=self.at + 1, count=len(self.rows))
        top = QRectF(left, tall * 0.04, room, tall * 0.07)
        _line(painter, top, place, STAGE.muted, tall * 0.04)
        title = QRectF(left, tall * 0.1, room, tall * 0.22)
        _line(painter, title, row.title, STAGE.ink, tall * 0.17, heavy=True)
        if row.scene is not None:
            _line(
                painter,
                QRectF(left, tall * 0.32, room, tall * 0.07),
                _key(row),
                STAGE.muted,
                tall * 0.05,
            )
        self._paint_presses(painter, QRectF(left, tall * 0.42, room, tall * 0.4), row)
        following = self.rows[self.at + 1].title if self.at + 1 < len(self.rows) else say("the end")
        below = QRectF(left, tall * 0.86, room, tall * 0.1)
        _line(
            painter,
            below,
            say("Next: {following}", following=following),
            STAGE.action,
            tall * 0.07,
            heavy=True,
        )

    def _paint_presses(self, painter: QPainter, area: QRectF, row: SongRow) -> None:
        """What to press now, then the notes, as large as they fit."""
        lines = [(words, STAGE.caution, True) for words in self.to_press(self._desk.plan, row)]
        if not lines:
            lines.append((say("Nothing to press"), STAGE.good, True))
        scene = row.scene
        for note in scene.players if scene is not None else ():
            if note.notes:
                lines.append((f"{note.player}: {note.notes}", STAGE.ink, False))
        if scene is not None and (click := click_words(self._desk.plan, scene)):
            lines.append((click, STAGE.muted, False))
        if scene is not None and scene.notes:
            lines += [(part, STAGE.ink, False) for part in scene.notes.splitlines() if part]
        each = min(area.height() / max(1, len(lines)), area.height() * 0.3)
        line = QRectF(area.left(), area.top(), area.width(), each)
        for words, colour, heavy in lines:
            _line(painter, line, words, colour, each * 0.62, heavy)
            line.translate(0, each)


def _played(rows: tuple[SongRow, ...]) -> tuple[SongRow, ...]:
    """The songs of an evening without breaks and spare ones."""
    return tuple(row for row in rows if row.scene is not None and not row.spare)


def _key(row: SongRow) -> str:
    scene = row.scene
    if scene is None:
        return ""
    said = [scene.key, say("{tempo:g} bpm", tempo=scene.tempo) if scene.tempo else ""]
    return "   ".join(filter(None, said))


def _line(
    painter: QPainter, rect: QRectF, words: str, colour: str, size: float, heavy: bool = False
) -> None:
    """One line as large as it fits: a long one gets smaller before it is cut."""
    face: QFont = bold(size) if heavy else font(size)
    wide = QFontMetricsF(face).horizontalAdvance(one_line(words))
    if wide > rect.width() > 0:
        smaller = max(size * 0.45, 0.97 * size * rect.width() / wide)
        face = bold(smaller) if heavy else font(smaller)
    text(painter, rect, words, colour, face)
