"""The strike strip: what was struck, what it sent, each hop, what sounded, after how long."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
)

from vastzone.app.drawn import Drawn, grown_size
from vastzone.app.frame.ruler import Ruler
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.theme.colours import readable_on
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.theme.icons import icon
from vastzone.app.views.drawing import paint_tag, text
from vastzone.core.engine.report import Hop, Reached, Report, strike_words
from vastzone.core.say import number, say
from vastzone.core.timing.hops import GOOD_MS, PLAYABLE_MS
from vastzone.desk.session import Desk

LINKS = {"din": "DIN", "usb": "USB", "bluetooth": "Bluetooth", "internal": "inside"}
EMPTY = say(
    "Strike something: a key with the mouse, the computer’s own keys, a MIDI input or a file."
)
LEFT, ROWS, LEAST_WAY, MORE = 296.0, 3, 40.0, 62.0
WHOLE, FOLDED = 132, 40


class Told(Drawn):
    """The last strike, told in one line a landing."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.verdict = ""
        self.rows = ROWS
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("The last strike"))

    @property
    def _left(self) -> float:
        """Where what sounded begins: right of what was struck."""
        return min(LEFT, 0.42 * self.width())

    def sizeHint(self) -> QSize:
        """Room for three landings, or for one."""
        return grown_size(600, 28 * self.rows)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Struck and sent on the left, landings or reasons on the right."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        report, colours = self._desk.stage.last, THEME.colours
        if report is None:
            room = QRectF(14, 0, self.width() - 28, self.height())
            said = self._desk.stage.remark or EMPTY
            text(painter, room, said, colours.muted, font(colours.text_px))
        else:
            self._sent(painter, report)
            self._landings(painter, report)
        self._unshown(painter)
        painter.end()

    def _unshown(self, painter: QPainter) -> None:
        """How much of a flood was played without being shown."""
        count, colours = self._desk.stage.unshown, THEME.colours
        if count:
            room = QRectF(self.width() - 300, 0, 290, self.height() / self.rows)
            said = say("a flood: {count:,} messages played unseen", count=count)
            painter.fillRect(room, QColor(colours.panel))
            text(
                painter,
                room,
                said,
                colours.caution,
                bold(colours.text_px - 1),
                Qt.AlignmentFlag.AlignRight,
            )

    def _sent(self, painter: QPainter, report: Report) -> None:
        colours = THEME.colours
        line = self.height() / self.rows
        wide = self._verdict(painter, self.verdict, line) if self.verdict else 0.0
        head = QRectF(14, 0, self._left - 24 - wide, line)
        text(painter, head, report.struck, colours.ink, bold(colours.text_px))
        for index, message in enumerate(report.messages[: self.rows - 1]):
            row = QRectF(14, line * (index + 1), self._left - 20, line)
            more = len(report.messages) - 2 if index == 1 else 0
            said = f"{message.text()}   {message.hex()}" + (f"  +{more}" if more > 0 else "")
            text(painter, row, said, colours.muted, font(colours.text_px - 2))
        painter.setPen(QColor(colours.line))
        painter.drawLine(round(self._left), 4, round(self._left), self.height() - 4)

    def _verdict(self, painter: QPainter, verdict: str, line: float) -> float:
        """The proof's word on the strike, as a chip; the width that it takes."""
        face, words = bold(THEME.colours.text_px - 2), say(verdict)
        wide = QFontMetricsF(face).horizontalAdvance(words) + 16
        chip = QRectF(self._left - wide - 10, line / 2 - 10, wide, 20)
        colour = QColor(THEME.colours.verdict(verdict))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        painter.drawRoundedRect(chip, 5, 5)
        text(painter, chip, words, readable_on(colour), face, Qt.AlignmentFlag.AlignHCenter)
        return wide + 8

    def _landings(self, painter: QPainter, report: Report) -> None:
        colours = THEME.colours
        rows: list[Reached | str] = [
            *report.reached,
            *(reason.sentence for reason in report.silent),
        ]
        line = self.height() / self.rows
        hidden = len(rows) - self.rows
        beside = MORE if hidden > 0 else 0.0
        for index, row in enumerate(rows[: self.rows]):
            wide = self.width() - self._left - 24
            if index == self.rows - 1:
                wide -= beside
            rect = QRectF(self._left + 14, index * line, wide, line)
            if isinstance(row, str):
                used = text(painter, rect, say("Silent"), colours.fault, bold(colours.text_px))
                text(
                    painter,
                    rect.adjusted(used + 10, 0, 0, 0),
                    row,
                    colours.ink,
                    font(colours.text_px),
                )
            else:
                self._landing(painter, rect, row)
        if hidden > 0:
            rect = QRectF(self.width() - MORE - 6, self.height() - line, MORE, line)
            text(
                painter,
                rect,
                say("+{hidden} more", hidden=hidden),
                colours.muted,
                font(colours.text_px - 2),
                Qt.AlignmentFlag.AlignRight,
            )

    def _landing(self, painter: QPainter, rect: QRectF, reached: Reached) -> None:
        colours = THEME.colours
        chip = QRectF(rect.left(), rect.center().y() - 9, 28, 18)
        paint_tag(painter, chip, reached.tag.upper(), reached.colour)
        x = rect.left() + 38
        total = QRectF(rect.right() - 70, rect.top(), 70, rect.height())
        wide = max(0.0, total.left() - x)  # name and note share it; the way has what is left
        room = QRectF(x, rect.top(), min(190.0, 0.55 * wide), rect.height())
        x += text(painter, room, reached.name, colours.ink, bold(colours.text_px)) + 10
        room = QRectF(x, rect.top(), min(120.0, max(0.0, total.left() - x - 6)), rect.height())
        x += text(painter, room, reached.what, colours.ink, font(colours.text_px)) + 16
        shade, right = delay_colour(reached.delay_ms), Qt.AlignmentFlag.AlignRight
        text(
            painter,
            total,
            say("{delay_ms:.1f} ms", delay_ms=reached.delay_ms),
            shade,
            bold(colours.text_px),
            right,
        )
        way = QRectF(x, rect.top(), total.left() - x - 10, rect.height())
        if way.width() < LEAST_WAY:
            return
        face = font(colours.text_px - 1)
        said = way_text(reached.hops)
        if reached.channel:
            said = (
                say("{said}  ·  desk: {channel}", said=said, channel=reached.channel)
                if said
                else say("desk: {channel}", channel=reached.channel)
            )
        text(painter, way, said, colours.muted, face)


def delay_colour(ms: float) -> str:
    """Good, playable, or too late for hands."""
    colours = THEME.colours
    return (
        colours.good if ms <= GOOD_MS else colours.caution if ms <= PLAYABLE_MS else colours.fault
    )


def ms_words(ms: float) -> str:
    """Milliseconds with two digits, more where they are many."""
    return number(ms, ".2g") if ms < 99.5 else number(ms, ".0f")


def way_text(hops: tuple[Hop, ...]) -> str:
    """The hops in words with their milliseconds."""
    if not hops:
        return say("inside the device")
    words = [hops[0].source]
    for hop in hops:
        waited = say(" + {ms} queued", ms=ms_words(hop.waited_ms)) if hop.waited_ms > 0.005 else ""
        if hop.link == "internal":
            words.append(f"  +{ms_words(hop.ms)}")
        else:
            words.append(f"  →  {LINKS[hop.link]} {ms_words(hop.ms)}{waited}  →  {hop.dest}")
    return "".join(words)


class Strip(QFrame):
    """The strip with ruler and panic; always there, whole or folded to one line."""

    fold_wanted = Signal()

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.setObjectName("strip")
        self._desk = desk
        self._ruler, self._told = Ruler(desk.stage), Told(desk)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 6)
        box.setSpacing(2)
        box.addWidget(self._ruler)
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 14, 0)
        row.addWidget(self._told)
        self.panic = Button(say("Panic"))
        self.panic.setProperty("role", "panic")
        set_tip(self.panic, say("Stop all notes (Esc)"))
        self.panic.setAccessibleName(say("Panic: stop all notes"))
        self.panic.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.panic.clicked.connect(desk.stage.panic)
        row.addWidget(self.panic, 0, Qt.AlignmentFlag.AlignVCenter)
        self.folder = QToolButton()
        self.folder.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.folder.clicked.connect(self.fold_wanted)
        row.addWidget(self.folder, 0, Qt.AlignmentFlag.AlignVCenter)
        box.addLayout(row)
        self.folded = False
        self.fold(False)
        THEME.changed.connect(self._restyle)
        desk.stage.struck.connect(self._show)
        desk.stage.sounding.connect(self._light)

    def _restyle(self) -> None:
        self.fold(self.folded)

    def fold(self, on: bool) -> None:
        """One line, or the ruler and three."""
        self.folded = on
        self._ruler.setVisible(not on)
        self._told.rows = 1 if on else ROWS
        self._told.updateGeometry()
        self._told.update()
        bound(self, "FixedHeight", FOLDED if on else WHOLE)
        words = say("Unfold the strike strip (F9)") if on else say("Fold the strike strip (F9)")
        set_tip(self.folder, words)
        self.folder.setAccessibleName(words)
        name = "chevron-up" if on else "chevron-down"
        self.folder.setIcon(icon(name, THEME.colours.ink, 14))

    def _light(self) -> None:
        self._ruler.update()
        if self._desk.stage.last is None or self._desk.stage.unshown:
            self._told.update()

    def _show(self, report: Report) -> None:
        self._told.verdict = self._desk.verdict(report)
        told = strike_words(report, self._told.verdict, with_delays=True)
        self._told.setAccessibleDescription(told)
        self._told.update()
