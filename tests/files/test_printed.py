"""Every sheet on paper: nothing cut, strips to scale, the same words as PDF and as SVG."""

import re
from concurrent.futures import ThreadPoolExecutor
from xml.etree import ElementTree

import pypdfium2
import pytest

from tests.plan_of_names import renamed
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.sheets.book import NAMES, book, sheets
from vastzone.core.sheets.layout import Heading, Page, Paragraph, Rows, Sheet, Strip, Text
from vastzone.core.solve.clash import work_out
from vastzone.core.text import printable
from vastzone.files import native
from vastzone.files.paper import BOTTOM, LEFT, MM, Form
from vastzone.files.sheet_files import every_kind, write_sheets
from vastzone.files.sheet_paper import to_pdf, to_svg

DAY = "2026-11-27"
FORMS = (Form(), Form("Letter", True))


@pytest.fixture(scope="module")
def ready():
    return native.read(demo.READY)


@pytest.fixture(scope="module")
def every(ready):
    return book(ready, of_plan(ready))


def words_on(pdf):
    """All text of a PDF, without spaces: a wrapped word is still one."""
    document = pypdfium2.PdfDocument(pdf)
    try:
        told = [document[n].get_textpage().get_text_range() for n in range(len(document))]
    finally:
        document.close()
    return re.sub(r"\s|\ufffe|\x02|-", "", "".join(told))


def texts_of(some):
    for sheet in some:
        for page in sheet.pages:
            yield page.title
            for block in page.blocks:
                if isinstance(block, Heading | Paragraph):
                    yield block.words
                elif isinstance(block, Rows):
                    for row in block.rows:
                        yield from (cell.words for cell in row if isinstance(cell, Text))


@pytest.mark.parametrize("form", FORMS)
def test_nothing_is_left_out_or_runs_off_the_page(every, ready, form):
    pdf = to_pdf(every, ready.name, DAY, form)
    printed = words_on(pdf)
    for words in texts_of(every):
        assert re.sub(r"\s|-", "", printable(words)) in printed, words
    document = pypdfium2.PdfDocument(pdf)
    wide, high = form.size
    for number in range(len(document)):
        page = document[number].get_textpage()
        for place in range(page.count_rects()):
            left, bottom, right, top = page.get_rect(place)
            assert left >= LEFT - 1 and right <= wide - LEFT + 1.5
            assert top <= high and bottom > 20
            assert bottom > BOTTOM - 6 or top < 50, "text runs into the foot"
    document.close()


def test_the_contents_of_the_book_lead_to_the_right_pages(every, ready):
    pdf = to_pdf(every, ready.name, DAY, book=True, by="AB", title="Book")
    assert pdf == to_pdf(every, ready.name, DAY, book=True, by="AB", title="Book")
    document = pypdfium2.PdfDocument(pdf)
    first = document[0].get_textpage().get_text_range()
    assert "AB" in first and DAY in first
    titles = [page.title for sheet in every for page in sheet.pages]
    numbers = {}
    for number in range(4):
        for line in document[number].get_textpage().get_text_range().splitlines():
            found = re.fullmatch(r"(.+?) ?(\d+)\s*", line)
            if found and found[1].strip() in titles:
                numbers.setdefault(found[1].strip(), int(found[2]))
    assert len(numbers) > len(set(titles)) * 0.9
    for title, number in numbers.items():
        assert title in document[number - 1].get_textpage().get_text_range()
    document.close()


def test_a_picture_says_what_the_page_says(ready):
    some = sheets(ready, of_plan(ready), "desk")
    pages = to_svg(some, ready.name, DAY)
    (page,) = pages
    tree = ElementTree.fromstring(page)
    spelled = "".join(node.get("aria-label", "") for node in tree.iter())
    for words in texts_of(some):
        for word in printable(words).split():
            assert word in spelled, word
    defined = {node.get("id") for node in tree.iter() if node.get("id")}
    used = {
        node.get("{http://www.w3.org/1999/xlink}href")[1:]
        for node in tree.iter()
        if node.tag.endswith("use")
    }
    assert used and used <= defined


def test_a_strip_is_to_scale_and_goes_on_below_where_it_is_too_long():
    rig = work_out(RIGS["a"]()).plan
    (sheet,) = sheets(rig, of_plan(rig), "labels")
    strips = [block for page in sheet.pages for block in page.blocks if isinstance(block, Strip)]
    faders = next(strip for strip in strips if strip.name.startswith("Fader"))
    assert [label.below for label in faders.labels] == [f"Fader {n}" for n in range(1, 9)]
    pitches = {label.wide for label in faders.labels}
    assert len(pitches) == 1
    svg = to_svg((sheet,), rig.name, DAY)[0]
    frames = re.findall(r'd="M (\S+) \S+ L (\S+) \S+ L', svg)
    widths = {round(float(right) - float(left), 1) for left, right in frames}
    assert round(pitches.pop() * MM, 1) in widths


def test_a_device_s_map_says_number_and_what_it_does():
    rig = work_out(RIGS["a"]()).plan
    (sheet,) = sheets(rig, of_plan(rig), "map")
    rows = [
        row
        for page in sheet.pages
        for block in page.blocks
        if isinstance(block, Rows)
        for row in block.rows
    ]
    told = {row[0].words: (row[1].words, row[2].words) for row in rows}
    assert any(name.startswith("Fader 3") for name in told)
    assert all(does or sends for sends, does in told.values())


def test_nasty_names_stay_on_their_pages():
    plan = renamed(native.read(demo.READY))
    for kind in every_kind():
        some = sheets(plan, of_plan(plan), kind)
        pdf = to_pdf(some, plan.name, DAY)
        assert pdf.startswith(b"%PDF")
        for page in to_svg(some, plan.name, DAY):
            ElementTree.fromstring(page)


def test_sheets_are_written_each_kind_that_has_something_to_say(ready, tmp_path):
    written = write_sheets(ready, of_plan(ready), tmp_path / "out", (*NAMES, "book"), Form(), DAY)
    names = {path.name for path in written}
    assert {"desk.pdf", "labels.pdf", "book.pdf"} <= names and "learn.pdf" not in names
    pictures = write_sheets(
        ready, of_plan(ready), tmp_path / "svg", ("setlist",), Form(), DAY, file="svg"
    )
    assert len(pictures) >= 7


def test_an_empty_sheet_is_a_page_all_the_same():
    assert to_pdf((), "Tour", DAY).startswith(b"%PDF")
    lone = Sheet("desk", "Desk", (Page("Desk", "", ()),))
    assert len(to_svg((lone,), "Tour", DAY)) == 1


def test_sheets_laid_out_at_the_same_time_are_the_same_sheets(ready):
    """As in the window, where one is previewed while all are saved."""
    some = sheets(ready, of_plan(ready), "packing")

    def laid_out(_number):
        return to_pdf(some, ready.name, DAY, Form(), title="Packing")

    alone = laid_out(0)
    with ThreadPoolExecutor(4) as pool:
        assert all(pdf == alone for pdf in pool.map(laid_out, range(12)))
