"""Sheets put on paper: PDF and SVG, A4 and Letter, usual and large print; the book of a plan."""

from collections.abc import Iterable, Sequence

from vastzone import __version__
from vastzone.core.cards.dangers import cautions_for
from vastzone.core.say import say
from vastzone.core.sheets.layout import Block, Heading, Paragraph, Rows, Sheet, Strip, Text
from vastzone.files.paper import Contents, Form, Paper, last_first
from vastzone.files.svg_pages import svg_canvas

CONTENTS = say("Contents")


def to_pdf(
    sheets: Iterable[Sheet],
    plan: str,
    today: str,
    form: Form | None = None,
    *,
    title: str = "",
    book: bool = False,
    by: str = "",
) -> bytes:
    """Sheets as a PDF, the same bytes for the same content; a ``book`` begins with its contents."""
    return _paper(sheets, plan, today, form, title, book, by).finished()


def to_svg(
    sheets: Iterable[Sheet],
    plan: str,
    today: str,
    form: Form | None = None,
    *,
    title: str = "",
    book: bool = False,
    by: str = "",
) -> tuple[str, ...]:
    """Sheets as SVG pictures, a page each."""
    pages: list[str] = []
    paper = _paper(sheets, plan, today, form, title, book, by)
    paper.built(svg_canvas(pages))
    return tuple(last_first(pages, paper.before))


def _paper(
    sheets: Iterable[Sheet],
    plan: str,
    today: str,
    form: Form | None,
    title: str,
    book: bool,
    by: str,
) -> Paper:
    every = tuple(sheets)
    called = title or (every[0].title if every else plan)
    paper = _filled(every, plan, today, form, called, book)
    if book:
        who = f", {by}" if by else ""
        below = say(
            "{plan}, {today}{who}, Vast Zone {version}",
            plan=plan,
            today=today,
            who=who,
            version=__version__,
        )
        guess = [Contents(page.title, 0) for sheet in every for page in sheet.pages]
        alone = Paper(called, plan, today, "", form)
        _list(alone, below, guess)
        alone.finished()
        paper.put_in_front(alone.count, lambda: _list(paper, below, paper.begun))
    return paper


def _list(paper: Paper, below: str, begun: Sequence[Contents]) -> None:
    """The contents: as many pages whatever the numbers are."""
    paper.begin(CONTENTS, below)
    _put(paper, _rows_of(begun))


def _rows_of(begun: Sequence[Contents]) -> Rows:
    rows = []
    for one in begun:
        rows.append((Text(one.title, size=12), Text(str(one.page or ""), "Bold", 12)))
    return Rows(tuple(rows), (450.0, 49.0))


def _filled(
    sheets: Sequence[Sheet], plan: str, today: str, form: Form | None, title: str, book: bool
) -> Paper:
    usual = cautions_for(sheets[0].kind if sheets else "")[0]
    paper = Paper(f"{plan}: {title}", plan, today, usual, form)
    for sheet in sheets:
        caution = " ".join(cautions_for(sheet.kind)[:2])
        for page in sheet.pages:
            paper.begin(page.title, page.below, caution)
            for block in page.blocks:
                _put(paper, block)
    if not sheets and not book:
        paper.begin(say("Nothing to print"), plan)
    return paper


def _put(paper: Paper, block: Block) -> None:
    if isinstance(block, Heading):
        paper.heading(block.words, block.size)
    elif isinstance(block, Paragraph):
        paper.text(block.words, block.face, block.size)
    elif isinstance(block, Strip):
        paper.strip(block)
    elif isinstance(block, Rows):
        paper.rows(block.rows, block.widths, block.ruled)
