"""Icons from the shipped set, in any colour."""

from functools import cache
from pathlib import Path

from PySide6.QtCore import QByteArray, QRectF, Qt
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtSvg import QSvgRenderer

_FOLDER = Path(__file__).parents[1] / "assets" / "icons"


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
    """An icon for a button or menu."""
    return QIcon(pixmap(name, colour, size))
