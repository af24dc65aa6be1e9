"""Cards on paper and in spreadsheets: PDF to stand on a music stand, and CSV."""

from pathlib import Path

from vastzone.core.cards.card import Card, CardLine
from vastzone.core.cards.csv_text import csv_text
from vastzone.core.say import typed
from vastzone.core.sheets.book import cards_sheet
from vastzone.files.sheet_paper import to_pdf as sheets_to_pdf
from vastzone.files.whole import make_folder, write_whole

COLUMNS = (
    "Device",
    typed("Part of the device"),
    "Do",
    "Thing",
    "From",
    "To",
    "State",
    "On",
    "By",
    "Why",
)


def to_csv(cards: tuple[Card, ...]) -> str:
    """All cards as comma-separated values, a step a line."""
    rows = []
    for card in cards:
        for section in card.sections:
            for line in section.lines:
                rows.append((card.name, section.title, *_cells(line)))
    return csv_text(COLUMNS, rows)


def _cells(line: CardLine) -> tuple[str, ...]:
    """A line for a table: what to do, what it concerns, how far it is, who says so and why."""
    on, by = (line.known.on, line.known.by) if line.known is not None else ("", "")
    reasons = " ".join(line.why)
    what = line.thing or line.words
    return line.kind, what, line.before, line.after, line.state, on, by, reasons


def to_pdf(plan_name: str, cards: tuple[Card, ...], today: str, reasons: bool = False) -> bytes:
    """All cards as a PDF, each device from a new page, with ticks large enough to find.

    With ``reasons``, why each number is what it is stands below it.
    """
    return sheets_to_pdf((cards_sheet(cards, reasons),), plan_name, today)


def card_files(folder: Path) -> tuple[Path, Path]:
    """Where the cards are written in a folder: the table and the sheet."""
    return folder / "cards.csv", folder / "cards.pdf"


def write_cards(
    cards: tuple[Card, ...], sheet: bytes, folder: Path, *, replace: bool = True
) -> tuple[Path, Path]:
    """Write ``cards.csv`` and their sheet ``cards.pdf`` into a folder.  Raises WriteError."""
    table, paper = card_files(folder)
    make_folder(folder)
    write_whole(to_csv(cards).encode(), table, "The cards", replace=replace)
    write_whole(sheet, paper, "The cards", replace=replace)
    return table, paper
