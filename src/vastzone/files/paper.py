"""Sheets of paper: titles, ticks and rows of text that wrap where they are long.

Laid out by reportlab's platypus; all measures are in points.
"""

import io
from collections.abc import Sequence
from functools import cache, partial
from pathlib import Path
from typing import Any, NamedTuple
from xml.sax.saxutils import escape

from vastzone.core.text import printable

FONTS = Path(__file__).parents[1] / "fonts"
LEFT, RIGHT, TOP, BOTTOM = 48.0, 547.0, 802.0, 60.0
WIDTH = RIGHT - LEFT
HEAD = 56.0
"""What the title of a sheet takes."""
TICK, GAP = 20.0, 6.0
TOGETHER = 110.0
"""A heading and the first rows below it."""


class Text(NamedTuple):
    """A piece of text with its face and size; ``small`` stands below it."""

    words: str
    face: str = "Regular"
    size: float = 12
    small: str = ""


class Tick(NamedTuple):
    """A box large enough to find, with a tick in it or not."""

    ticked: bool = False


Cell = Text | Tick


class Paper:
    """Sheets filled from the top; each title begins a page, and rows stay whole."""

    def __init__(self, title: str, plan: str, today: str, caution: str) -> None:
        from reportlab.pdfbase import pdfmetrics
        from reportlab.pdfbase.ttfonts import TTFont

        for name in ("Regular", "SemiBold", "Bold"):
            pdfmetrics.registerFont(TTFont(f"VZ-{name}", FONTS / f"VastZoneSans-{name}.ttf"))
        self._title = printable(title)
        self._foot = (f"{plan} · {today}", caution)
        self._flow: list[Any] = []
        self._templates: list[Any] = []

    def begin(self, title: str, below: str) -> None:
        """A new page with a title; pages that it runs over to say so."""
        from reportlab.platypus import NextPageTemplate, PageBreak

        number = len(self._templates)
        first = self._template(f"{number}", partial(self._head, title, below))
        later = self._template(f"{number}, later", partial(self._head, title, "continued"))
        self._templates += [first, later]
        if self._flow:
            self._flow += [NextPageTemplate(first.id), PageBreak()]
        self._flow.append(NextPageTemplate(later.id))

    def heading(self, words: str, size: float = 16) -> None:
        """A heading, with room below it for the first rows of what follows."""
        from reportlab.platypus import CondPageBreak

        self._flow.append(CondPageBreak(TOGETHER))
        self._flow.append(_paragraph(Text(words, "SemiBold", size), before=12, after=8))

    def text(self, words: str, face: str = "SemiBold", size: float = 11) -> None:
        """A paragraph."""
        self._flow.append(_paragraph(Text(words, face, size), after=6))

    def rows(
        self, rows: Sequence[Sequence[Cell]], widths: Sequence[float], ruled: bool = True
    ) -> None:
        """Rows of cells under each other, each with a thin line below where ``ruled``."""
        from reportlab.platypus import Table, TableStyle

        if not rows:
            return
        style: list[tuple[Any, ...]] = [
            ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
            ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ("TOPPADDING", (0, 0), (-1, -1), 4),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 5),
            *_faces(rows),
        ]
        if ruled:
            style.append(("LINEBELOW", (0, 0), (-1, -1), 0.4, "black"))
        cells = []
        for row in rows:
            cells.append([_cell(cell, width) for cell, width in zip(row, widths, strict=True)])
        table = Table(cells, colWidths=list(widths), hAlign="LEFT", splitInRow=0)
        table.setStyle(TableStyle(style))
        self._flow.append(table)

    def finished(self) -> bytes:
        """The sheets as a PDF, the same bytes for the same content."""
        from reportlab.lib.pagesizes import A4
        from reportlab.platypus import BaseDocTemplate

        out = io.BytesIO()
        document = BaseDocTemplate(out, pagesize=A4, title=self._title, invariant=1)
        document.addPageTemplates(self._templates)
        document.build(self._flow)
        return out.getvalue()

    def _template(self, ident: str, head: Any) -> Any:
        from reportlab.platypus import Frame, PageTemplate

        room = Frame(LEFT, BOTTOM, WIDTH, TOP - HEAD - BOTTOM, 0, 0, 0, 0)
        return PageTemplate(ident, [room], onPage=head)

    def _head(self, title: str, below: str, canvas: Any, document: Any) -> None:
        """What stands at the top and at the foot of a page."""
        for words, face, size, y in ((title, "Bold", 22, TOP), (below, "Regular", 11, TOP - 30)):
            _draw_line(canvas, Text(words, face, size), y - size)
        canvas.setLineWidth(1.2)
        canvas.line(LEFT, TOP - 46, RIGHT, TOP - 46)
        told, caution = self._foot
        _draw_line(canvas, Text(f"{told} · page {document.page}", size=9), 38)
        _draw_line(canvas, Text(caution, size=9), 26)


def _draw_line(canvas: Any, text: Text, y: float) -> None:
    """One line across the page, smaller where it is too long."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    words, name, size = printable(text.words), f"VZ-{text.face}", text.size
    wide = stringWidth(words, name, size)
    canvas.setFont(name, size * min(1.0, WIDTH / wide) if wide else size)
    canvas.drawString(LEFT, y, words)


def _faces(rows: Sequence[Sequence[Cell]]) -> list[tuple[Any, ...]]:
    """The face of each column, as its first row has it: what differs is laid out by itself."""
    faces = []
    for column, cell in enumerate(rows[0]):
        if isinstance(cell, Text):
            name = f"VZ-{cell.face}"
            faces.append(("FONT", (column, 0), (column, -1), name, cell.size, cell.size * 1.2))
    return faces


def _cell(cell: Cell, width: float) -> Any:
    """A tick, text that fits as it is, or a paragraph that wraps."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    if isinstance(cell, Tick):
        return _tick(cell.ticked)
    words = printable(cell.words)
    fits = stringWidth(words, f"VZ-{cell.face}", cell.size) < width - GAP
    return words if fits and not cell.small else _paragraph(cell)


def _paragraph(text: Text, before: float = 0, after: float = 0) -> Any:
    from reportlab.platypus import Paragraph

    words = escape(printable(text.words))
    if text.small:
        words += f'<br/><font name="VZ-Regular" size="9">{escape(printable(text.small))}</font>'
    return Paragraph(words, _style(text.face, text.size, before, after))


@cache
def _style(face: str, size: float, before: float, after: float) -> Any:
    from reportlab.lib.styles import ParagraphStyle

    return ParagraphStyle(
        "plain",
        fontName=f"VZ-{face}",
        fontSize=size,
        leading=size * 1.2,
        spaceBefore=before,
        spaceAfter=after,
        splitLongWords=1,
    )


@cache
def _tick(ticked: bool) -> Any:
    """A box that is drawn wherever it is wanted."""
    from reportlab.graphics.shapes import Drawing, PolyLine, Rect
    from reportlab.lib.colors import black

    drawing = Drawing(TICK + 2, TICK + 2)
    drawing.add(Rect(1, 1, TICK, TICK, strokeWidth=1.6, strokeColor=black, fillColor=None))
    if ticked:
        drawing.add(PolyLine([5, 11, 10, 5, 18, 18], strokeWidth=1.6, strokeColor=black))
    return drawing
