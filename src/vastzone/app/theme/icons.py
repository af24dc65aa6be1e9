"""Icons from the shipped set, in any colour."""

from functools import cache
from pathlib import Path

from PySide6.QtCore import QByteArray, QRectF, Qt
from PySide6.QtGui import QGuiApplication, QIcon, QPainter, QPixmap, QTransform
from PySide6.QtSvg import QSvgRenderer

_FOLDER = Path(__file__).parents[1] / "assets" / "icons"

SIDEWAYS = frozenset(("arrow-right", "chevron-left", "chevron-right", "redo-2", "undo-2"))


@cache
def pixmap(name: str, colour: str, size: int = 20, scale: int = 2) -> QPixmap:
    """An icon drawn ``size`` pixels square, sharp on a display of ``scale``."""
    svg = (_FOLDER / f"{name}.svg").read_text().replace("currentColor", colour)
    image = QPixmap(size * scale, size * scale)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    QSvgRenderer(QByteArray(svg.encode())).render(painter, QRectF(image.rect()))
    painter.end()
    image.setDevicePixelRatio(scale)
    return image


def icon(name: str, colour: str, size: int = 20) -> QIcon:
    """An icon for a button or menu; one that points sideways goes by the way that is read."""
    picture = pixmap(name, colour, size)
    is_turned = QGuiApplication.layoutDirection() == Qt.LayoutDirection.RightToLeft
    if name in SIDEWAYS and is_turned:
        picture = picture.transformed(QTransform.fromScale(-1, 1))
    return QIcon(picture)
