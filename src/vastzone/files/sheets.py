"""Cards on paper and in spreadsheets: PDF to stand on a music stand, and CSV."""

from pathlib import Path

from vastzone.core.cards.card import Card, CardStep
from vastzone.core.cards.csv_text import csv_text
from vastzone.core.errors import WriteError
from vastzone.core.text import many, quoted
from vastzone.files.paper import WIDTH, Cell, Paper, Text, Tick
from vastzone.files.whole import write_whole

COLUMNS = ("Device", "Part of the device", "Where", "What", "From", "To", "State", "Why")
CAUTION = (
    "Turn down before the first test. Nothing on this sheet has been sent to a device: "
    "each tick is yours."
)


TICKED = (34, WIDTH - 34)
STEP = (34, 232, 92, 22, WIDTH - 380)
"""How wide the columns of a sheet are, in points."""


def to_csv(cards: tuple[Card, ...]) -> str:
    """All cards as comma-separated values, a step a line."""
    return csv_text(
        COLUMNS,
        (
            (
                card.name,
                section.title,
                step.thing,
                step.field,
                step.before,
                step.after,
                step.state,
                step.why,
            )
            for card in cards
            for section in card.sections
            for step in section.steps
        ),
    )


def to_pdf(plan_name: str, cards: tuple[Card, ...], today: str) -> bytes:
    """All cards as a PDF, each device from a new page, with ticks large enough to find."""
    paper = Paper(f"{plan_name}: cards", plan_name, today, CAUTION)
    for card in cards:
        _card(paper, card)
    if not cards:
        paper.begin("Nothing to dial", "Every device holds the numbers that stand in the plan.")
    return paper.finished()


def _card(paper: Paper, card: Card) -> None:
    """One device."""
    paper.begin(card.name, f"{many(len(card.steps), 'step')}, about {card.presses} presses")
    before = [(Tick(), Text(line, size=13)) for line in card.preparation]
    paper.rows(before, TICKED, ruled=False)
    for section in card.sections:
        paper.heading(section.title)
        paper.rows([_step(step) for step in section.steps], STEP)
        done = all(step.state in ("stored", "checked") for step in section.steps)
        closing = []
        for place, line in enumerate(section.closing):
            closing.append((Tick(done and not place), Text(line, "SemiBold", 14)))
        paper.rows(closing, TICKED, ruled=False)


def _step(step: CardStep) -> tuple[Cell, ...]:
    what = Text(f"{step.thing} · {step.field}", size=13, small=step.path)
    done = Tick(step.state in ("stored", "checked"))
    return done, what, Text(step.before, size=13), Text("→", size=13), Text(step.after, "Bold", 15)


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
