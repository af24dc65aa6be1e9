"""Widgets that paint by themselves: they think in pixels of 100 % and grow with the text."""

from typing import NamedTuple, cast

from PySide6.QtCore import QEvent, QPoint, QPointF, QRect, QRectF, QSize, Qt
from PySide6.QtGui import (
    QContextMenuEvent,
    QHelpEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
)
from PySide6.QtWidgets import QAbstractScrollArea, QToolTip, QWidget

from vastzone.app.frame.text import safe_tip
from vastzone.app.reader import Element, Role
from vastzone.app.theme.current import THEME

Place = tuple[float, float, float, float]
"""Left, top, width and height."""


class Drawn(QWidget):
    """A picture laid out and painted in pixels of 100 % text, whatever size the text has.

    Words that are cut show whole in a tip.  Its own width and height and the places of the
    pointer, tips and paint events are in those pixels.  ``heard`` takes the place of ``event``.
    """

    stamp = 0
    """How often it was painted."""

    def __init__(
        self, parent: QWidget | None = None, flags: Qt.WindowType = Qt.WindowType.Widget
    ) -> None:
        super().__init__(parent, flags)
        self.cut: dict[Place, str] = {}
        self.said: list[tuple[Place, str]] = []

    def painter(self) -> QPainter:
        """A painter on it, in its own pixels."""
        self.cut.clear()
        self.said.clear()
        self.stamp += 1
        painter = QPainter(self)
        # Pianos begin with their lowest key at the left wherever one reads from the right.
        painter.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
        if THEME.zoom != 1:
            painter.scale(THEME.zoom, THEME.zoom)
        return painter

    def width(self) -> int:
        """How wide it is."""
        return int(super().width() / THEME.zoom)

    def height(self) -> int:
        """How high it is."""
        return int(super().height() / THEME.zoom)

    def room(self) -> int:
        """How high what it lies in is: what it may be without scrolling."""
        around = self.parentWidget()
        return self.height() if around is None else int(around.height() / THEME.zoom)

    def rect(self) -> QRect:
        """All of it."""
        return QRect(0, 0, self.width(), self.height())

    def update_area(self, area: QRect) -> None:
        """Paint a part of it anew soon."""
        self.update(_grown_rect(area))

    def mapToGlobal(self, point: QPoint | QPointF) -> QPoint:  # type: ignore[override]
        """Where a point of it is on the screen."""
        place = QPointF(point) * THEME.zoom
        return super().mapToGlobal(place.toPoint())

    def whole(self, point: QPointF) -> str:
        """The whole of the words that are cut at a point; empty where none are."""
        for place, words in self.cut.items():
            if QRectF(*place).contains(point):
                return words
        return ""

    def elements(self) -> list[Element]:
        """What is drawn, for those who are read to: its words, unless a subclass knows more."""
        return with_words([], self.said)

    def event(self, event: QEvent) -> bool:
        """Hear what happens, in its own pixels."""
        own = at_scale(event)
        if isinstance(own, QHelpEvent) and self.cut and own.type() is QEvent.Type.ToolTip:
            words = self.whole(QPointF(own.pos()))
            if words:
                QToolTip.showText(own.globalPos(), safe_tip(words), self)
                return True
        if own is event:
            return self.heard(event)
        heard = self.heard(own)
        event.setAccepted(own.isAccepted())
        return heard

    def heard(self, event: QEvent) -> bool:
        """Take an event whose places are in its own pixels."""
        return super().event(event)


class DrawnArea(QAbstractScrollArea):
    """A picture that scrolls, in pixels of 100 % text as ``Drawn``; its scroll bars too."""

    def __init__(self) -> None:
        super().__init__()
        self._view = Drawn()
        self.setViewport(self._view)
        self.setFrameShape(QAbstractScrollArea.Shape.NoFrame)

    def viewport(self) -> Drawn:
        """What is seen."""
        return self._view

    @property
    def stamp(self) -> int:
        """How often it was painted."""
        return self._view.stamp

    @property
    def said(self) -> list[tuple[Place, str]]:
        """The words that were painted, with their places."""
        return self._view.said

    def elements(self) -> list[Element]:
        """What is drawn, for those who are read to: its words, unless a subclass knows more."""
        return with_words([], self.said)

    def painter(self) -> QPainter:
        """A painter on what is seen."""
        return self._view.painter()

    def viewportEvent(self, event: QEvent) -> bool:
        """Hear what happens there, in its own pixels."""
        own = at_scale(event)
        if own is event:
            return super().viewportEvent(event)
        heard = super().viewportEvent(own)
        event.setAccepted(own.isAccepted())
        return heard


class Words(NamedTuple):
    """Words that were painted into a pixmap, which knows no widget."""

    place: Place
    said: str
    is_cut: bool


_IN_PIXMAPS: list[Words] = []


def note_words(painter: QPainter, room: QRectF, words: str, is_cut: bool = False) -> None:
    """Keep words that are painted in a room: to be read out, and for a tip where they are cut."""
    picture, place = painter.device(), _place_of(painter, room)
    if isinstance(picture, Drawn):
        zoom = THEME.zoom
        left, top, wide, high = place
        own = place if zoom == 1 else (left / zoom, top / zoom, wide / zoom, high / zoom)
        picture.said.append((own, words))
        if is_cut:
            picture.cut[own] = words
    elif isinstance(picture, QPixmap):
        _IN_PIXMAPS.append(Words(place, words, is_cut))


def _place_of(painter: QPainter, room: QRectF) -> Place:
    """Where a room is on what a painter paints on."""
    moved = painter.transform()
    place = room if moved.isIdentity() else moved.mapRect(room)
    return cast(Place, place.getRect())


def words_in_pixmaps() -> list[Words]:
    """What was painted into pixmaps since this was asked last."""
    found = list(_IN_PIXMAPS)
    _IN_PIXMAPS.clear()
    return found


def with_words(elements: list[Element], said: list[tuple[Place, str]]) -> list[Element]:
    """Elements, and after them every painted word that none of them says."""
    told = " ".join(" ".join((one.name, one.value, one.about)) for one in elements)
    found = list(elements)
    for number, (place, words) in enumerate(said):
        if words.strip() and words not in told:
            element = Element(f"words {number}", words, QRectF(*place), Role.StaticText)
            found.append(element)
    return found


def grown(pixels: float) -> int:
    """So many pixels at 100 % in pixels of the screen."""
    return round(pixels * THEME.zoom)


def grown_size(wide: float, high: float) -> QSize:
    """A size at 100 % in pixels of the screen."""
    return QSize(grown(wide), grown(high))


def _grown_rect(area: QRect) -> QRect:
    zoom = THEME.zoom
    left, top = int(area.left() * zoom), int(area.top() * zoom)
    return QRect(left, top, grown(area.width()) + 2, grown(area.height()) + 2)


def at_scale(event: QEvent) -> QEvent:
    """An event with its places in pixels of 100 % text: itself at 100 %, or without places."""
    zoom = THEME.zoom
    if zoom == 1:
        return event
    if isinstance(event, QMouseEvent):
        return QMouseEvent(
            event.type(),
            event.position() / zoom,
            event.scenePosition(),
            event.globalPosition(),
            event.button(),
            event.buttons(),
            event.modifiers(),
            event.pointingDevice(),
        )
    if isinstance(event, QHelpEvent):
        return QHelpEvent(event.type(), _shrunk(event.pos()), event.globalPos())
    if isinstance(event, QContextMenuEvent):
        place = _shrunk(event.pos())
        return QContextMenuEvent(event.reason(), place, event.globalPos(), event.modifiers())
    if isinstance(event, QResizeEvent):
        return QResizeEvent(event.size() / zoom, event.oldSize() / zoom)
    if isinstance(event, QPaintEvent):
        area = event.rect()
        corner = _shrunk(area.topLeft())
        size = area.size() / zoom
        return QPaintEvent(QRect(corner, size + QSize(2, 2)))
    return event


def _shrunk(place: QPoint) -> QPoint:
    return (QPointF(place) / THEME.zoom).toPoint()
