"""Small pictures that are painted once and set down wherever they are wanted again."""

import math
from collections.abc import Callable, Hashable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPaintEngine, QPainter, QPixmap

from vastzone.app.theme.current import THEME

MOST = 256
"""So many are kept; when there are more, all are painted anew as they are wanted."""


class Stamps:
    """The pictures of one canvas.

    A picture is known by its look, its size and the theme; in an SVG it is painted each time, so
    that it is sharp at any size.
    """

    def __init__(self) -> None:
        self._made: dict[Hashable, QPixmap] = {}

    def put(
        self,
        painter: QPainter,
        place: QRectF,
        look: Hashable,
        paint: Callable[[QPainter, QRectF], None],
    ) -> None:
        """Set the picture of a look down in a place; ``paint`` paints it there where it is new."""
        if painter.paintEngine().type() is QPaintEngine.Type.SVG:
            paint(painter, place)
            return
        scale = painter.device().devicePixelRatioF() * painter.transform().m11()
        # Whole pixels of the screen, or the picture would be blurred.
        left = math.floor(place.left() * scale) / scale
        top = math.floor(place.top() * scale) / scale
        local = place.translated(-left, -top)
        size = (round(local.left(), 3), round(local.top(), 3), place.width(), place.height())
        key = (look, size, scale, THEME.name)
        made = self._made.get(key)
        if made is None:
            if len(self._made) >= MOST:
                self._made.clear()
            made = self._made[key] = _painted(local, scale, paint)
        painter.drawPixmap(QPointF(left, top), made)


def _painted(place: QRectF, scale: float, paint: Callable[[QPainter, QRectF], None]) -> QPixmap:
    made = QPixmap(math.ceil(place.right() * scale), math.ceil(place.bottom() * scale))
    made.setDevicePixelRatio(scale)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paint(painter, place)
    painter.end()
    return made
