"""Sheets of paper: titles, ticks, rows of text that wrap where they are long, label strips.

Laid out by reportlab's platypus; all measures are in points.  The same pages become PDF or SVG.
"""

import io
import threading
from collections.abc import Callable, Sequence
from functools import cache, partial
from pathlib import Path
from typing import Any, Literal, NamedTuple
from xml.sax.saxutils import escape

from vastzone.core.cache import no_collecting
from vastzone.core.say import say
from vastzone.core.sheets.layout import WIDTH, Cell, Label, Strip, Text, Tick
from vastzone.core.text import printable
from vastzone.files.measures import GAP, LEADING, SMALL

FONTS = Path(__file__).parents[1] / "fonts"
FACES = ("Regular", "SemiBold", "Bold")
LEFT, BOTTOM, ABOVE = 48.0, 60.0, 40.0
"""Margins: at both sides, at the foot with its two lines, and over the title."""
HEAD = 56.0
"""What the title of a sheet takes."""
WIDEST = 2.2
"""The widest letter, for its size."""
TOGETHER = 110.0
"""A heading and the first rows below it."""
MM = 72.0 / 25.4
SMALLEST = 5.0
"""The smallest letters on a label."""
PageSize = Literal["A4", "Letter"]
SIZES: dict[PageSize, tuple[float, float]] = {"A4": (595.28, 841.89), "Letter": (612.0, 792.0)}
_ONE_AT_A_TIME = threading.Lock()
"""Fonts and drawings are shared by all papers, and keep what is being drawn in themselves."""


class Form(NamedTuple):
    """The paper that is printed on, and whether in large print."""

    page: PageSize = "A4"
    large: bool = False

    @property
    def size(self) -> tuple[float, float]:
        """How wide and high a page is."""
        return SIZES[self.page]

    @property
    def width(self) -> float:
        """How wide the text is."""
        return self.size[0] - 2 * LEFT

    @property
    def top(self) -> float:
        """Where the title begins."""
        return self.size[1] - ABOVE

    @property
    def scale(self) -> float:
        """How much larger letters are than usual."""
        return 1.4 if self.large else 1.0


class Contents(NamedTuple):
    """A line of the contents: a title, and the page that it begins on."""

    title: str
    page: int


class Paper:
    """Sheets filled from the top; each title begins a page, and rows stay whole.

    When it is built, ``count`` is how many pages there are, ``begun`` what begins on which, and
    ``before`` how many of the last are to stand in front.
    """

    def __init__(
        self, title: str, plan: str, today: str, caution: str, form: Form | None = None
    ) -> None:
        from reportlab import rl_config
        from reportlab.pdfbase import pdfmetrics
        from reportlab.pdfbase.ttfonts import TTFont

        rl_config.useA85 = 0  # plain bytes: a fifth smaller than as letters, and sooner written
        for name in FACES:
            pdfmetrics.registerFont(TTFont(f"VZ-{name}", FONTS / f"VastZoneSans-{name}.ttf"))
        self.form = form or Form()
        self._title = printable(title)
        self._foot = (f"{plan} · {today}", caution)
        self._flow: list[Any] = []
        self._templates: list[Any] = []
        self._front: Callable[[], None] | None = None
        self.before, self._body, self.count = 0, 0, 0
        self.begun: list[Contents] = []

    def begin(self, title: str, below: str, caution: str = "") -> None:
        """A new page with a title; pages that it runs over to say so."""
        from reportlab.platypus import NextPageTemplate, PageBreak

        number = len(self._templates)
        head = partial(self._head, caution)
        first = self._template(f"{number}", partial(head, title, below, True))
        later = self._template(
            say("{number}, later", number=number), partial(head, title, say("continued"), False)
        )
        self._templates += [first, later]
        if self._flow:
            self._flow += [NextPageTemplate(first.id), PageBreak()]
        self._flow.append(NextPageTemplate(later.id))

    def heading(self, words: str, size: float = 16) -> None:
        """A heading, with room below it for the first rows of what follows."""
        from reportlab.platypus import CondPageBreak

        self._flow.append(CondPageBreak(TOGETHER))
        text = Text(words, "SemiBold", size * self.form.scale)
        self._flow.append(_paragraph(text, before=12, after=8))

    def text(self, words: str, face: str = "SemiBold", size: float = 11) -> None:
        """A paragraph."""
        self._flow.append(_paragraph(Text(words, face, size * self.form.scale), after=6))

    def rows(
        self, rows: Sequence[Sequence[Cell]], widths: Sequence[float], ruled: bool = True
    ) -> None:
        """Rows of cells under each other, each with a thin line below where ``ruled``."""
        from vastzone.files.flowables import Row

        stretched = [width * self.form.width / WIDTH for width in widths]
        for row in rows:
            pairs = zip(row, stretched, strict=True)
            cells = [_cell(self._sized(cell), wide) for cell, wide in pairs]
            self._flow.append(Row(cells, stretched, ruled))

    def _sized(self, cell: Cell) -> Cell:
        if isinstance(cell, Tick):
            return cell
        return cell._replace(size=cell.size * self.form.scale)

    def strip(self, strip: Strip) -> None:
        """A strip of labels to scale; one that is too long goes on below."""
        from reportlab.platypus import Spacer

        self.text(strip.name, "Regular", 10)
        for piece in _pieces(strip.labels, self.form.width):
            self._flow.append(_strip(piece, strip.high))
            self._flow.append(Spacer(1, 10))

    def put_in_front(self, pages: int, fill: Callable[[], None]) -> None:
        """Let so many pages stand before all others, filled when it is known where those begin."""
        self.before, self._front = pages, fill

    def finished(self) -> bytes:
        """The sheets as a PDF, the same bytes for the same content."""
        from reportlab.pdfgen.canvas import Canvas

        before = self.before

        class InOrder(Canvas):  # type: ignore[misc]
            def save(self) -> None:
                if self._code:
                    self.showPage()
                pages = self._doc.Pages.pages
                pages[:] = last_first(pages, before)
                super().save()

        return self.built(InOrder)

    def built(self, canvas: Callable[..., Any]) -> bytes:
        """The sheets as they come out of a canvas; pages for the front are drawn last."""
        from reportlab.platypus import BaseDocTemplate

        self.begun = []
        out = io.BytesIO()
        document = BaseDocTemplate(out, pagesize=self.form.size, title=self._title, invariant=1)
        document.addPageTemplates(self._templates)
        flow = list(self._flow)
        if self._front is not None:
            flow.append(_then(partial(self._go_to_front, document, flow)))
        with _ONE_AT_A_TIME, no_collecting():
            document.build(flow, canvasmaker=canvas)
        self.count = document.page
        return out.getvalue()

    def _go_to_front(self, document: Any, flow: list[Any]) -> None:
        """All other pages are laid out: fill those that stand before them."""
        if self._front is None:
            return
        self._body, known, there = document.page, len(self._templates), len(self._flow)
        self._front()
        document.addPageTemplates(self._templates[known:])
        flow.extend(self._flow[there:])

    def _number(self, document: Any) -> int:
        """The number of the page that is laid out, as they will lie."""
        page = int(document.page)
        return page - self._body if self._body else page + self.before

    def _template(self, ident: str, head: Any) -> Any:
        from reportlab.platypus import Frame, PageTemplate

        form = self.form
        high = form.top - HEAD - BOTTOM
        room = Frame(LEFT, BOTTOM, form.width, high, 0, 0, 0, 0)
        return PageTemplate(ident, [room], onPage=head)

    def _head(
        self, caution: str, title: str, below: str, first: bool, canvas: Any, document: Any
    ) -> None:
        """What stands at the top and at the foot of a page."""
        form = self.form
        if first:
            self.begun.append(Contents(title, self._number(document)))
        for words, face, size, y in (
            (title, "Bold", 22, form.top),
            (below, "Regular", 11, form.top - 30),
        ):
            self._draw_line(canvas, Text(words, face, size), y - size)
        canvas.setLineWidth(1.2)
        canvas.line(LEFT, form.top - 46, LEFT + form.width, form.top - 46)
        told, usual = self._foot
        self._draw_line(
            canvas,
            Text(say("{told} · page {number}", told=told, number=self._number(document)), size=9),
            38,
        )
        self._draw_line(canvas, Text(caution or usual, size=9), 26)

    def _draw_line(self, canvas: Any, text: Text, y: float) -> None:
        """One line across the page, smaller where it is too long."""
        from reportlab.pdfbase.pdfmetrics import stringWidth

        words, name, size = printable(text.words), f"VZ-{text.face}", text.size
        wide = stringWidth(words, name, size)
        canvas.setFont(name, size * min(1.0, self.form.width / wide) if wide else size)
        canvas.drawString(LEFT, y, words)


def last_first(pages: Sequence[Any], count: int) -> list[Any]:
    """Pages with so many of the last put before the others."""
    place = len(pages) - count
    return [*pages[place:], *pages[:place]]


def _then(run: Callable[[], None]) -> Any:
    """Something in a flow that takes no room, and is done when the flow comes to it."""
    from reportlab.platypus.doctemplate import ActionFlowable

    class Then(ActionFlowable):  # type: ignore[misc]
        def apply(self, _document: Any) -> None:
            run()

    return Then()


def _cell(cell: Cell, width: float) -> Any:
    """A tick, one or two lines that fit as they are, or a paragraph that wraps."""
    from vastzone.files.flowables import Box, Lines

    if isinstance(cell, Tick):
        return Box(cell.ticked)
    words, small = printable(cell.words), printable(cell.small)
    room = width - GAP
    if _fits(words, cell.face, cell.size, room) and _fits(small, "Regular", SMALL, room):
        return Lines(cell._replace(words=words, small=small))
    return _paragraph(cell)


def _fits(words: str, face: str, size: float, room: float) -> bool:
    """Whether words fit on a line; few need no measuring, whichever they are."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    if len(words) * size * WIDEST < room:
        return True
    return bool(stringWidth(words, f"VZ-{face}", size) < room)


def _paragraph(text: Text, before: float = 0, after: float = 0) -> Any:
    from reportlab.platypus import Paragraph

    words = escape(printable(text.words))
    if text.small:
        words += (
            f'<br/><font name="VZ-Regular" size="{SMALL:g}">{escape(printable(text.small))}</font>'
        )
    return Paragraph(words, _style(text.face, text.size, before, after))


@cache
def _style(face: str, size: float, before: float, after: float) -> Any:
    from reportlab.lib.styles import ParagraphStyle

    return ParagraphStyle(
        "plain",
        fontName=f"VZ-{face}",
        fontSize=size,
        leading=size * LEADING,
        spaceBefore=before,
        spaceAfter=after,
        splitLongWords=1,
    )


def _pieces(labels: Sequence[Label], width: float) -> list[list[Label]]:
    """Labels in strips that fit beside each other on the page; a wider one is cut to it."""
    pieces: list[list[Label]] = [[]]
    taken = 0.0
    for label in labels:
        wide = min(label.wide * MM, width)
        if pieces[-1] and taken + wide > width:
            pieces.append([])
            taken = 0.0
        pieces[-1].append(label._replace(wide=wide / MM))
        taken += wide
    return [piece for piece in pieces if piece]


def _strip(labels: Sequence[Label], high_mm: float) -> Any:
    """Labels to scale: a thin frame to cut along, marks outside its corners."""
    from reportlab.graphics.shapes import Drawing, Line, Rect
    from reportlab.lib.colors import black

    high = high_mm * MM
    wide = sum(label.wide for label in labels) * MM
    drawing = Drawing(wide, high + 8)
    x = 0.0
    for label in labels:
        own = label.wide * MM
        drawing.add(Rect(x, 4, own, high, strokeWidth=0.4, strokeColor=black, fillColor=None))
        for piece in _label_words(label, own, high):
            drawing.add(piece(x))
        x += own
    for edge in (0.0, wide):
        drawing.add(Line(edge, 0, edge, 3, strokeWidth=0.4, strokeColor=black))
        drawing.add(Line(edge, high + 5, edge, high + 8, strokeWidth=0.4, strokeColor=black))
    return drawing


def _label_words(label: Label, wide: float, high: float) -> list[Callable[[float], Any]]:
    """What stands on a label: its words in one or two lines, the control's name small below."""
    from reportlab.graphics.shapes import String

    def line(words: str, face: str, size: float, y: float) -> Callable[[float], Any]:
        def at(x: float) -> Any:
            return String(
                x + wide / 2, y, words, fontName=f"VZ-{face}", fontSize=size, textAnchor="middle"
            )

        return at

    lines, size = fitted(printable(label.words), wide - 3, high - 8)
    told = []
    top = 4 + high - 1.5
    for words in lines:
        top -= size
        told.append(line(words, "Bold", size, top + size * 0.2))
    below, small = fitted(printable(label.below), wide - 3, 6.0)
    if below:
        told.append(line(below[0], "Regular", min(small, 5.5), 4 + 2))
    return told


def fitted(words: str, wide: float, high: float) -> tuple[list[str], float]:
    """Words in one line or two, as large as they fit; the very long ones are shortened."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    if not words:
        return [], SMALLEST
    best: tuple[list[str], float] = ([], 0.0)
    for lines in _broken(words):
        longest = max(stringWidth(line, "VZ-Bold", 1.0) for line in lines)
        size = min(11.0, wide / longest if longest else 11.0, high / len(lines))
        if size > best[1] + 0.2:
            best = (lines, size)
    if best[1] >= SMALLEST:
        return best
    kept = words
    while len(kept) > 2 and stringWidth(f"{kept}…", "VZ-Bold", SMALLEST) > wide:
        kept = kept[:-1]
    return [f"{kept}…"], SMALLEST


def _broken(words: str) -> list[list[str]]:
    """Words in one line, and in two at every space."""
    pieces = words.split(" ")
    ways = [[words]]
    for place in range(1, len(pieces)):
        ways.append([" ".join(pieces[:place]), " ".join(pieces[place:])])
    return ways
