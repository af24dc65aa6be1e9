"""The picture of the keybeds, worked with the mouse and the keyboard."""

from collections.abc import Callable, Iterable
from typing import NamedTuple

from PySide6.QtCore import QEvent, QPointF, QRect, QRectF, Qt, QTimer
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPaintEngine,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
)
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.clock import now_ms
from vastzone.app.drawn import Words, with_words, words_in_pixmaps
from vastzone.app.frame.sized import bound
from vastzone.app.holding import ONCE_MS, Holding
from vastzone.app.reader import Element
from vastzone.app.stamps import Stamps
from vastzone.app.theme.current import THEME
from vastzone.app.views.keys import paint
from vastzone.app.views.keys.elements import elements as keys_elements
from vastzone.app.views.keys.geometry import (
    BedPicture,
    KeysPicture,
    ZoneBar,
    key_at,
    key_rect,
    lay_out,
    velocity_at,
)
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.zones import move_edge
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.finding import Finding
from vastzone.core.proof.rules import BY_ID
from vastzone.core.proof.verdict import Mark
from vastzone.core.say import say
from vastzone.desk.session import Desk
from vastzone.desk.signal import Signal

GRIP, MARGIN, GAP = 7.0, 8.0, 14.0


STRUCK = 84
"""The velocity of a key that is struck by its name."""


class Pointed(NamedTuple):
    """What lies under a point: a key, a zone or one of its ends, a part, a caption."""

    kind: str
    picture: BedPicture
    ref: str = ""
    key: int = -1
    bar: ZoneBar | None = None


class BedLook(NamedTuple):
    """All that decides how a keybed is painted at rest; ``chosen`` is what of it is selected."""

    picture: BedPicture
    program: str
    chosen: str
    dead: frozenset[int]
    doubled: frozenset[int]
    marks: tuple[Mark, ...]
    troubled: frozenset[str]
    unseen: frozenset[str]


class PaintedBed(NamedTuple):
    """How a keybed was painted last, and the words in it."""

    look: BedLook
    words: list[Words]


class KeysCanvas(Holding):
    """Keybeds with zones and parts; what it shows comes from the desk alone."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.pointed, self.menu_wanted = Signal("pointed"), Signal("menu wanted")
        self.paged = Signal("octave wanted")
        self._desk = desk
        self._picture = KeysPicture(lay_out(desk.compiled, 800, 400).axis, (), 0)
        self._still = QPixmap()
        self._bare = Stamps()
        self._painted: dict[str, PaintedBed] = {}
        self._looked_at: set[str] = set()
        self._frame: object = None
        self.labels: Callable[[], tuple[str, dict[int, str]]] = lambda: ("", {})
        self._drag: Pointed | None = None
        self._struck: tuple[str, int] | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("Keybeds with zones and parts"))

    @property
    def picture(self) -> KeysPicture:
        """Where everything lies now."""
        return self._picture

    def rebuild(self) -> None:
        """Lay out and paint anew after the plan, scene, selection or size changed."""
        room = max(300.0, float(self.room()))
        self._picture = lay_out(self._desk.compiled, self.width(), room)
        bound(self, "MinimumHeight", round(self._picture.height))
        self._looked_at.clear()
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        if event.oldSize().width() != event.size().width():
            self.rebuild()

    def paintEvent(self, event: QPaintEvent) -> None:
        """The still picture, and over it what is sounding."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_at_rest(painter, event.rect())
        brush = paint.Brush(painter, THEME.colours)
        lit = self._lit()
        labelled, letters = self.labels()
        sounding = self._desk.stage.sounding_parts()
        for picture in self._picture.beds:
            keys = {}
            for (ref, key), colour in lit.items():
                if ref == picture.ref:
                    keys[key] = colour
            if keys:
                paint.paint_lit(brush, self._picture.axis, picture, keys)
            if picture.ref == labelled:
                paint.paint_letters(brush, self._picture.axis, picture, letters)
            for bar in picture.parts:
                if bar.ref in sounding:
                    chosen = self._desk.selection == bar.ref
                    paint.paint_part(brush, bar, picture.owner.octaves, chosen, True)
        painter.end()

    def elements(self) -> list[Element]:
        """Keybeds, zones, keys and parts."""
        told = keys_elements(self._desk, self._picture, self._program_words, self.strike_once)
        return with_words(told, self.said)

    def strike_once(self, ref: str, key: int) -> None:
        """Strike a key for a moment, as a hand does that cannot hold it."""
        self.let_go()
        self._struck = (ref, key)
        self._desk.stage.press(ref, key, STRUCK, now_ms())
        QTimer.singleShot(ONCE_MS, self.let_go)

    def _paint_at_rest(self, painter: QPainter, seen: QRect) -> None:
        """Everything but what sounds: from the still picture, or sharp at any size in an SVG."""
        if painter.paintEngine().type() is QPaintEngine.Type.SVG:
            for bed in self._picture.beds:
                self._paint_bed(paint.Brush(painter, THEME.colours), self._look(bed))
            return
        with self._desk.patience():
            self._paint_still(seen)
        painter.drawPixmap(0, 0, self._still)
        for painted in self._painted.values():
            for words in painted.words:
                self.said.append((words.place, words.said))
                if words.is_cut:
                    self.cut[words.place] = words.said

    def _lit(self) -> dict[tuple[str, int], list[QColor]]:
        """The keys that are down with the colours of what they sound (none: the fault's)."""
        indices: dict[tuple[str, int], set[int]] = {
            key: set() for key in self._desk.stage.lit_keys()
        }
        for voice in list(self._desk.stage.performance.sounding):
            if voice.key in indices:
                indices[voice.key].add(voice.landing.part.colour)
        colours = THEME.colours
        colours_of = {}
        for key, parts in indices.items():
            colours_of[key] = [colours.part(item) for item in sorted(parts)] or [
                QColor(colours.fault)
            ]
        return colours_of

    def _paint_still(self, seen: QRect) -> None:
        """Paint the beds that can be seen into the still picture, where they look otherwise."""
        self._begin_still()
        painter: QPainter | None = None
        for bed in self._picture.beds:
            if bed.caption.top() - MARGIN > seen.bottom() or bed.bottom + MARGIN < seen.top():
                continue
            if bed.ref in self._looked_at:
                continue
            self._looked_at.add(bed.ref)
            look, painted = self._look(bed), self._painted.get(bed.ref)
            if painted is not None and painted.look == look:
                continue
            if painter is None:
                painter = QPainter(self._still)
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            high = bed.bottom - bed.caption.top() + GAP
            area = QRectF(0, bed.caption.top() - GAP / 2, self.width(), high)
            painter.fillRect(area, QColor(THEME.colours.paper))
            words_in_pixmaps()
            self._paint_bed(paint.Brush(painter, THEME.colours), look)
            self._painted[bed.ref] = PaintedBed(look, words_in_pixmaps())
        if painter is not None:
            painter.end()

    def _begin_still(self) -> None:
        """Begin anew where the picture has another size, theme or order of beds."""
        ratio = self.devicePixelRatioF() * THEME.zoom
        places = tuple((bed.ref, bed.caption.top(), bed.bottom) for bed in self._picture.beds)
        frame = (self.width(), self.height(), ratio, THEME.name, self._picture.axis, places)
        if frame == self._frame:
            return
        self._frame = frame
        self._still = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
        self._still.setDevicePixelRatio(ratio)
        self._still.fill(QColor(THEME.colours.paper))
        self._painted = {}
        self._looked_at.clear()

    def _look(self, picture: BedPicture) -> BedLook:
        desk, owner = self._desk, picture.owner
        findings = desk.findings_here()
        troubled: set[str] = set()
        for finding in findings:
            if finding.severity == "fault":
                troubled.update(finding.subjects)
        refs = {ref_to(owner.id, bar.zone.id) for bar in picture.zones}
        refs |= {part.ref for part in picture.parts}
        return BedLook(
            picture,
            self._program_words(owner),
            desk.selection if desk.selection in refs | {picture.ref, owner.id} else "",
            frozenset(self._dead(picture)),
            frozenset(_doubled(findings, picture.ref)),
            desk.marks(picture.ref),
            frozenset(refs & troubled),
            frozenset(refs & desk.unseen),
        )

    def _paint_bed(self, brush: paint.Brush, look: BedLook) -> None:
        picture, axis, chosen = look.picture, self._picture.axis, look.chosen
        naming = picture.owner.octaves
        whole = chosen in (picture.ref, picture.owner.id)
        paint.paint_caption(brush, picture, look.program, whole)
        dead, doubled = set(look.dead), set(look.doubled)
        paint.paint_keys(brush, self._bare, axis, picture, dead, doubled)
        paint.paint_verdicts(brush, axis, picture, look.marks)
        for bar in picture.zones:
            ref = ref_to(picture.owner.id, bar.zone.id)
            paint.paint_zone(brush, bar, chosen == ref, ref in look.troubled)
            if ref in look.unseen:
                paint.paint_unseen(brush, bar.rect)
        for part in picture.parts:
            paint.paint_part(brush, part, naming, chosen == part.ref, False)
            if part.ref in look.unseen:
                paint.paint_unseen(brush, part.rect)

    def _program_words(self, owner: Device) -> str:
        """The program that a device is on here."""
        program = lookup.program_in(self._desk.scene, owner)
        if program is None:
            return ""
        return say(
            "program {program} {name}",
            program=program_words(owner, program.number),
            name=program.name,
        )

    def _dead(self, picture: BedPicture) -> set[int]:
        """The keys that sound nothing."""
        does = self._desk.compiled.keys
        dead = set(range(picture.bed.low, picture.bed.high + 1))
        for key in tuple(dead):
            if any(emission.landings for emission in does.get((picture.ref, key), ())):
                dead.discard(key)
        return dead

    def hit(self, point: QPointF) -> Pointed | None:
        """What lies under a point."""
        for picture in self._picture.beds:
            key = key_at(self._picture.axis, picture, point)
            if key is not None:
                return Pointed("key", picture, picture.ref, key)
            for bar in reversed(picture.zones):
                if bar.rect.adjusted(-GRIP / 2, 0, GRIP / 2, 0).contains(point):
                    return self._zone_hit(picture, bar, point)
            for part in picture.parts:
                if part.rect.contains(point):
                    return Pointed("part", picture, part.ref)
            if picture.caption.contains(point):
                return Pointed("caption", picture, picture.ref)
        return None

    def _zone_hit(self, picture: BedPicture, bar: ZoneBar, point: QPointF) -> Pointed:
        ref = ref_to(picture.owner.id, bar.zone.id)
        grip = min(GRIP, bar.rect.width() / 4)
        if abs(point.x() - bar.rect.left()) <= grip:
            return Pointed("low", picture, ref, bar.zone.low, bar)
        if abs(point.x() - bar.rect.right()) <= grip:
            return Pointed("high", picture, ref, bar.zone.high, bar)
        return Pointed("zone", picture, ref, self._picture.axis.note(point.x()), bar)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Strike a key, take a zone or its end, choose a part or keybed."""
        hit = self.hit(event.position())
        if event.button() is not Qt.MouseButton.LeftButton or hit is None:
            return
        if hit.kind == "key":
            self._strike(hit, event.position())
        else:
            self._drag = hit if hit.kind in ("low", "high") else None
            self._desk.select(hit.ref)

    def _strike(self, hit: Pointed, point: QPointF) -> None:
        rect = key_rect(self._picture.axis, hit.picture.keys, hit.key)
        velocity = velocity_at(rect, point.y())
        self._struck = (hit.ref, hit.key)
        self._desk.stage.press(hit.ref, hit.key, velocity, now_ms())

    def let_go(self) -> None:
        """Release the key that is held."""
        if self._struck is not None:
            self._desk.stage.release(*self._struck, now_ms())
            self._struck = None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag an end, slide over keys, or point."""
        point = event.position()
        if self._drag is not None:
            self._drag_to(point.x())
            return
        hit = self.hit(point)
        if self._struck is not None:
            if hit is not None and hit.kind == "key" and (hit.ref, hit.key) != self._struck:
                self.let_go()
                self._strike(hit, point)
            return
        self._shape(hit)
        self.pointed.emit(hit)

    def _shape(self, hit: Pointed | None) -> None:
        kind = hit.kind if hit else ""
        if kind in ("low", "high"):
            self.setCursor(Qt.CursorShape.SizeHorCursor)
        elif kind in ("key", "zone", "part", "caption"):
            self.setCursor(Qt.CursorShape.PointingHandCursor)
        else:
            self.unsetCursor()

    def _drag_to(self, x: float) -> None:
        hit = self._drag
        if hit is None or hit.bar is None:
            return
        program = lookup.program_in(self._desk.scene, hit.picture.owner)
        if program is None:
            return
        edge = self._picture.axis.edge(x)
        key = edge if hit.kind == "low" else edge - 1
        try:
            self._desk.perform(
                move_edge(hit.picture.owner.id, program.number, hit.bar.zone.id, hit.kind, key),
                join=True,
            )
        except EditError:
            return

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go of what was held."""
        if self._drag is not None:
            self._desk.end_gesture()
        self._drag = None
        self.let_go()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Page Up and Page Down shift the computer keyboard's piano by an octave."""
        step = {Qt.Key.Key_PageUp: 1, Qt.Key.Key_PageDown: -1}.get(Qt.Key(event.key()))
        if step:
            self.paged.emit(step)
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Ask for the menu of what lies under the pointer."""
        hit = self.hit(QPointF(event.pos()))
        if hit is not None:
            self.menu_wanted.emit(hit, event.globalPos())

    def leaveEvent(self, event: QEvent) -> None:
        """Nothing is pointed at any more."""
        self.pointed.emit(None)

    def refresh_lit(self) -> None:
        """Paint again what can light up: keys and parts, nothing else."""
        for picture in self._picture.beds:
            rows = [bar.rect for bar in picture.parts]
            area = picture.keys
            for row in rows:
                area = area.united(row)
            self.update_area(QRectF(area).toAlignedRect())


def _doubled(findings: Iterable[Finding], bed: str) -> set[int]:
    """The keys of a keybed that some finding says sound twice."""
    twice: set[int] = set()
    for finding in findings:
        for span in finding.spans if BY_ID[finding.rule].doubles else ():
            if span.bed == bed:
                twice.update(range(span.low, span.high + 1))
    return twice
