"""How large text is: as it was chosen, or at first as the desktop has it."""

from collections.abc import Callable

from PySide6.QtWidgets import QApplication, QWidget

from vastzone.app.frame.placing import text_of_desktop
from vastzone.app.theme.current import THEME
from vastzone.desk.preferences import SIZES

USUAL_POINTS = 10.0


def first_text(window: QWidget, kept: int) -> int:
    """The size that was chosen, in per cent, or that of the desktop where none was."""
    if kept in SIZES:
        return kept
    points = QApplication.font().pointSizeF()
    dots = window.screen().logicalDotsPerInchY()
    return text_of_desktop(dots, points if points > 0 else USUAL_POINTS, SIZES)


def resize_text(steps: int, remember: Callable[[int], object]) -> None:
    """Text so many sizes larger or smaller; with 0 steps as it is at first."""
    at = SIZES.index(THEME.text) + steps if steps else 0
    if 0 <= at < len(SIZES):
        THEME.use(THEME.name, SIZES[at])
        remember(SIZES[at])
