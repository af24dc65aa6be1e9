"""Cards on paper and in spreadsheets: PDF to stand on a music stand, and CSV."""

from pathlib import Path

from vastzone.core.cards.card import Card, CardLine
from vastzone.core.cards.csv_text import csv_text
from vastzone.core.errors import WriteError
from vastzone.core.text import many, quoted
from vastzone.files.paper import WIDTH, Cell, Paper, Text, Tick
from vastzone.files.whole import write_whole

COLUMNS = (
    "Device",
    "Part of the device",
    "Do",
    "Thing",
    "From",
    "To",
    "State",
    "On",
    "By",
    "Why",
)
CAUTION = (
    "Turn down before the first test. Nothing on this sheet has been sent to a device: "
    "each tick is yours."
)


TICKED = (34, WIDTH - 34)
STEP = (34, 150, 220, WIDTH - 404)
"""How wide the columns of a sheet are, in points."""


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
    paper = Paper(f"{plan_name}: cards", plan_name, today, CAUTION)
    for card in cards:
        _card(paper, card, reasons)
    if not cards:
        paper.begin("Nothing to dial", "Every device holds the numbers that stand in the plan.")
    return paper.finished()


def _card(paper: Paper, card: Card, reasons: bool) -> None:
    """One device."""
    paper.begin(card.name, f"{many(len(card.lines), 'line')}, about {card.presses} presses")
    before = [(Tick(), Text(line, size=13)) for line in card.preparation]
    paper.rows(before, TICKED, ruled=False)
    if card.plugging:
        paper.heading("What goes into its jacks, as one stands behind it")
        jacks = [(Tick(), Text(line, size=13)) for line in card.plugging]
        paper.rows(jacks, TICKED, ruled=False)
    for section in card.sections:
        paper.heading(section.title)
        for line in section.lines:
            if line.kind == "dial":
                paper.rows([_dial(line, reasons)], STEP)
            else:
                paper.rows([_plain(line)], TICKED, ruled=False)


def _plain(line: CardLine) -> tuple[Cell, ...]:
    return Tick(line.done), Text(line.words, "SemiBold", 14)


def _dial(line: CardLine, reasons: bool) -> tuple[Cell, ...]:
    small = [line.path]
    if line.known is not None:
        small.append(f"{line.state} {line.known.on} {line.known.by}".strip())
    if reasons:
        small.extend(line.why)
    below = " · ".join(filter(None, small))
    was = Text(f"was {line.before}" if line.before else "", size=11)
    return (
        Tick(line.done),
        Text(line.thing, size=13, small=below),
        Text(line.after, "Bold", 14),
        was,
    )


def card_files(folder: Path) -> tuple[Path, Path]:
    """Where the cards are written in a folder: the table and the sheet."""
    return folder / "cards.csv", folder / "cards.pdf"


def write_cards(
    cards: tuple[Card, ...], sheet: bytes, folder: Path, *, replace: bool = True
) -> tuple[Path, Path]:
    """Write ``cards.csv`` and their sheet ``cards.pdf`` into a folder.  Raises WriteError."""
    table, paper = card_files(folder)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or "no such name can be given"
        raise WriteError(
            f"The folder {quoted(folder)} cannot be made ({why}): choose another folder."
        ) from None
    write_whole(to_csv(cards).encode(), table, "The cards", replace=replace)
    write_whole(sheet, paper, "The cards", replace=replace)
    return table, paper
