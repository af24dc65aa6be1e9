"""The theme in use, for everything that paints by itself."""

from PySide6.QtGui import QColor, QPalette
from PySide6.QtWidgets import QApplication, QWidget

from vastzone.app.theme.colours import DAY, STAGE, Colours
from vastzone.app.theme.fonts import font
from vastzone.app.theme.style import sheet
from vastzone.desk.signal import Signal


class Theme:
    """Holds the colours and tells when they change."""

    def __init__(self) -> None:
        self.changed = Signal("theme changed")
        self.name = "day"
        self.colours: Colours = DAY
        self.text = 100

    @property
    def zoom(self) -> float:
        """How much larger text and all that holds it are than at 100 %."""
        return self.text / 100

    def use(self, name: str, text: int = 0) -> None:
        """Take up the theme ``day`` or ``stage``, and text of another size in per cent if given.

        Windows dress themselves when it changes.
        """
        self.name, self.colours = name, STAGE if name == "stage" else DAY
        self.text = text or self.text
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.setPalette(_palette(self.colours))
            app.setFont(font(self.colours.text_px * self.zoom))
        self.changed.emit()

    def dress(self, window: QWidget) -> None:
        """Give a window and all that belongs to it the style of the theme.

        A sheet for the whole application would look the same and take several times as long.
        """
        wanted = sheet(self.colours, self.name, self.zoom)
        if window.styleSheet() != wanted:
            window.setStyleSheet(wanted)


def _palette(colours: Colours) -> QPalette:
    palette = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, colours.paper),
        (QPalette.ColorRole.WindowText, colours.ink),
        (QPalette.ColorRole.Base, colours.raised),
        (QPalette.ColorRole.AlternateBase, colours.panel),
        (QPalette.ColorRole.Text, colours.ink),
        (QPalette.ColorRole.Button, colours.raised),
        (QPalette.ColorRole.ButtonText, colours.ink),
        (QPalette.ColorRole.Highlight, colours.action),
        (QPalette.ColorRole.HighlightedText, colours.on_action),
        (QPalette.ColorRole.PlaceholderText, colours.muted),
    ):
        palette.setColor(role, QColor(colour))
    return palette


THEME = Theme()
