"""The shipped type family."""

from functools import cache
from pathlib import Path

from PySide6.QtGui import QFont, QFontDatabase

FAMILY = "Vast Zone Sans"
_FOLDER = Path(__file__).parents[2] / "fonts"


@cache
def load() -> None:
    """Make the family known to Qt; once an application."""
    for file in sorted(_FOLDER.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(file))


def font(pixels: float, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
    """The family at a size in pixels; it is shared, and must not be changed."""
    return _made(max(8, round(pixels)), weight)


def bold(pixels: float) -> QFont:
    """The family's semi-bold cut."""
    return font(pixels, QFont.Weight.DemiBold)


@cache
def _made(pixels: int, weight: QFont.Weight) -> QFont:
    qfont = QFont(FAMILY)
    qfont.setPixelSize(pixels)
    qfont.setWeight(weight)
    return qfont
