"""A sheet of paper that is filled from the top: titles, ticks, lines of text."""

from pathlib import Path
from typing import Any

from vastzone.core.text import printable

FONTS = Path(__file__).parents[1] / "app" / "assets" / "fonts"


def new_sheet(out: Any, title: str) -> Any:
    """A canvas that writes A4 pages into a stream, with the program’s own fonts."""
    from reportlab.lib.pagesizes import A4
    from reportlab.pdfgen.canvas import Canvas

    _fonts()
    canvas = Canvas(out, pagesize=A4, invariant=1)
    canvas.setTitle(printable(title))
    return canvas


def _fonts() -> None:
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    for name in ("Regular", "SemiBold", "Bold"):
        pdfmetrics.registerFont(TTFont(f"VZ-{name}", FONTS / f"VastZoneSans-{name}.ttf"))


class Page:
    """Fills pages from the top; all measures in points."""

    LEFT, RIGHT, TOP, BOTTOM, ROW = 48.0, 548.0, 790.0, 64.0, 34.0

    def __init__(self, canvas: Any, plan: str, today: str, caution: str) -> None:
        self._canvas, self._caution = canvas, caution
        self._plan, self._today = plan, today
        self._y = self.TOP
        self._title, self._number, self._open = "", 0, False

    def begin(self, title: str, below: str) -> None:
        """A new page with a title."""
        if self._open:
            self._canvas.showPage()
        self._open, self._number, self._y = True, self._number + 1, self.TOP
        self._title = title
        self._at(self.LEFT, self._y, title, "Bold", 24)
        self._at(self.LEFT, self._y - 20, below, "Regular", 11)
        self._canvas.setLineWidth(1.2)
        self._canvas.line(self.LEFT, self._y - 30, self.RIGHT, self._y - 30)
        self._at(self.LEFT, 40, f"{self._plan} · {self._today} · page {self._number}", "Regular", 9)
        self._at(self.LEFT, 28, self._caution, "Regular", 9)
        self._y -= 56

    def text(self, x: float, text: str, face: str, size: float, width: float = 0.0) -> None:
        """A line of text where the page is filled to; cut where it is wider than ``width``."""
        self._at(x, self._y, text, face, size, width)

    def _at(
        self, x: float, y: float, text: str, face: str, size: float, width: float = 0.0
    ) -> None:
        from reportlab.pdfbase.pdfmetrics import stringWidth

        name, text = f"VZ-{face}", printable(text)
        while width and len(text) > 2 and stringWidth(text, name, size) > width:
            text = text[:-2].rstrip() + "…"
        self._canvas.setFont(name, size)
        self._canvas.drawString(x, y, text)

    def room(self, height: float) -> None:
        """Begin a new page where there is not so much room left."""
        if self._y - height < self.BOTTOM:
            self.begin(self._title, "continued")

    def down(self, height: float) -> None:
        """Go down the page."""
        self._y -= height

    def box(self, ticked: bool = False, x: float = LEFT) -> None:
        """A tick large enough to find."""
        y = self._y
        self._canvas.setLineWidth(1.6)
        self._canvas.rect(x, y - 4, 20, 20)
        if ticked:
            self._canvas.lines([(x + 4, y + 6, x + 9, y), (x + 9, y, x + 17, y + 13)])

    def rule(self) -> None:
        """A thin line under a row."""
        self._canvas.setLineWidth(0.4)
        self._canvas.line(self.LEFT, self._y - 11, self.RIGHT, self._y - 11)
