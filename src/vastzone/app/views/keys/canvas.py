"""The picture of the keybeds, worked with the mouse and the keyboard."""

from typing import NamedTuple

from PySide6.QtCore import QEvent, QPointF, QRect, QRectF, Qt
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
)
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.clock import now_ms
from vastzone.app.holding import Holding
from vastzone.app.theme.current import THEME
from vastzone.app.views.keys import paint
from vastzone.app.views.keys.geometry import (
    BedPicture,
    Picture,
    ZoneBar,
    key_at,
    key_rect,
    lay_out,
    velocity_at,
)
from vastzone.core.errors import EditError
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.rules import BY_ID
from vastzone.desk.session import Desk
from vastzone.desk.signal import Signal

GRIP, MARGIN = 7.0, 8.0


class Hit(NamedTuple):
    """What lies under a point: a key, a zone or one of its ends, a part, a caption."""

    kind: str
    picture: BedPicture
    ref: str = ""
    key: int = -1
    bar: ZoneBar | None = None


class KeysCanvas(Holding):
    """Keybeds with zones and parts; what it shows comes from the desk alone."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.pointed, self.menu_wanted = Signal("pointed"), Signal("menu wanted")
        self.paged = Signal("octave wanted")
        self._desk = desk
        self._picture = Picture(lay_out(desk.compiled, 800, 400).axis, (), 0)
        self._still = QPixmap()
        self._painted: set[str] = set()
        self._drag: Hit | None = None
        self._struck: tuple[str, int] | None = None
        self.room = 400.0
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Keybeds with zones and parts")

    @property
    def picture(self) -> Picture:
        """Where everything lies now."""
        return self._picture

    def rebuild(self) -> None:
        """Lay out and paint anew after the plan, scene, selection or size changed."""
        self._picture = lay_out(self._desk.compiled, self.width(), self.room)
        self.setMinimumHeight(round(self._picture.height))
        self._still = QPixmap()
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        if event.oldSize().width() != event.size().width():
            self.rebuild()

    def paintEvent(self, event: QPaintEvent) -> None:
        """The still picture, and over it what is sounding."""
        self._paint_still(event.rect())
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawPixmap(0, 0, self._still)
        brush = paint.Brush(painter, THEME.colours)
        lit = self._lit()
        sounding = self._desk.stage.sounding_parts()
        for picture in self._picture.beds:
            keys = {key: colour for (ref, key), colour in lit.items() if ref == picture.ref}
            if keys:
                paint.paint_lit(brush, self._picture.axis, picture, keys)
            for bar in picture.parts:
                if bar.ref in sounding:
                    chosen = self._desk.selection == bar.ref
                    paint.paint_part(brush, bar, picture.owner.octaves, chosen, True)
        painter.end()

    def _lit(self) -> dict[tuple[str, int], list[QColor]]:
        """The keys that are down with the colours of what they sound (none: the fault's)."""
        indices: dict[tuple[str, int], set[int]] = {k: set() for k in self._desk.stage.lit_keys()}
        for voice in list(self._desk.stage.performance.sounding):
            if voice.key in indices:
                indices[voice.key].add(voice.landing.part.colour)
        colours = THEME.colours
        return {
            key: [colours.part(i) for i in sorted(held)] or [QColor(colours.fault)]
            for key, held in indices.items()
        }

    def _paint_still(self, seen: QRect) -> None:
        """Paint the beds that can be seen into the still picture, where they are not yet."""
        if self._still.isNull():
            ratio = self.devicePixelRatioF()
            self._still = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
            self._still.setDevicePixelRatio(ratio)
            self._still.fill(QColor(THEME.colours.paper))
            self._painted = set()
        wanted = [
            p
            for p in self._picture.beds
            if p.ref not in self._painted
            and p.caption.top() - MARGIN <= seen.bottom()
            and p.bottom + MARGIN >= seen.top()
        ]
        if not wanted:
            return
        painter = QPainter(self._still)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        brush = paint.Brush(painter, THEME.colours)
        for picture in wanted:
            self._paint_bed(brush, picture)
            self._painted.add(picture.ref)
        painter.end()

    def _paint_bed(self, brush: paint.Brush, picture: BedPicture) -> None:
        desk = self._desk
        program = lookup.program_in(desk.scene, picture.owner)
        shown = ""
        if program is not None:
            shown = f"program {program.number + picture.owner.first_program} {program.name}"
        paint.paint_caption(
            brush, picture, shown, desk.selection in (picture.ref, picture.owner.id)
        )
        compiled, found = desk.compiled, desk.findings_here()
        spans = [(f.rule, s) for f in found for s in f.spans if s.bed == picture.ref]
        dead = {
            key
            for key in range(picture.bed.low, picture.bed.high + 1)
            if not any(e.landings for e in compiled.keys.get((picture.ref, key), ()))
        }
        twice = {k for rule, s in spans if BY_ID[rule].doubles for k in range(s.low, s.high + 1)}
        paint.paint_keys(brush, self._picture.axis, picture, dead, twice)
        paint.paint_verdicts(brush, self._picture.axis, picture, desk.marks(picture.ref))
        troubled = {r for f in found if f.severity == "fault" for r in f.subjects}
        for bar in picture.zones:
            ref = ref_to(picture.owner.id, bar.zone.id)
            paint.paint_zone(brush, bar, desk.selection == ref, ref in troubled)
            if ref in desk.unseen:
                paint.paint_unseen(brush, bar.rect)
        for part in picture.parts:
            chosen = desk.selection == part.ref
            paint.paint_part(brush, part, picture.owner.octaves, chosen, False)
            if part.ref in desk.unseen:
                paint.paint_unseen(brush, part.rect)

    def hit(self, point: QPointF) -> Hit | None:
        """What lies under a point."""
        for picture in self._picture.beds:
            key = key_at(self._picture.axis, picture, point)
            if key is not None:
                return Hit("key", picture, picture.ref, key)
            for bar in reversed(picture.zones):
                if bar.rect.adjusted(-GRIP / 2, 0, GRIP / 2, 0).contains(point):
                    return self._zone_hit(picture, bar, point)
            for part in picture.parts:
                if part.rect.contains(point):
                    return Hit("part", picture, part.ref)
            if picture.caption.contains(point):
                return Hit("caption", picture, picture.ref)
        return None

    def _zone_hit(self, picture: BedPicture, bar: ZoneBar, point: QPointF) -> Hit:
        ref = ref_to(picture.owner.id, bar.zone.id)
        grip = min(GRIP, bar.rect.width() / 4)
        if abs(point.x() - bar.rect.left()) <= grip:
            return Hit("low", picture, ref, bar.zone.low, bar)
        if abs(point.x() - bar.rect.right()) <= grip:
            return Hit("high", picture, ref, bar.zone.high, bar)
        return Hit("zone", picture, ref, self._picture.axis.note(point.x()), bar)

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

    def _strike(self, hit: Hit, point: QPointF) -> None:
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

    def _shape(self, hit: Hit | None) -> None:
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
                edits.move_edge(
                    hit.picture.owner.id, program.number, hit.bar.zone.id, hit.kind, key
                ),
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
            self.update(QRectF(area).toAlignedRect())
