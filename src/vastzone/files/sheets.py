"""Cards on paper and in spreadsheets: PDF to stand on a music stand, and CSV."""

import io
from pathlib import Path

from vastzone.core.cards.card import Card, Step
from vastzone.core.cards.csv_text import csv_text
from vastzone.core.errors import WriteError
from vastzone.core.text import quoted
from vastzone.files.page import Page, new_sheet
from vastzone.files.whole import write_whole

COLUMNS = ("Device", "Part of the device", "Where", "What", "From", "To", "State", "Why")
CAUTION = (
    "Turn down before the first test. Nothing on this sheet has been sent to a device: "
    "each tick is yours."
)


def to_csv(cards: tuple[Card, ...]) -> str:
    """All cards as comma-separated values, a step a line."""
    return csv_text(
        COLUMNS,
        (
            (card.name, section.title, s.thing, s.field, s.before, s.after, s.state, s.why)
            for card in cards
            for section in card.sections
            for s in section.steps
        ),
    )


def to_pdf(plan_name: str, cards: tuple[Card, ...], today: str) -> bytes:
    """All cards as a PDF, each device from a new page, with ticks large enough to find."""
    out = io.BytesIO()
    canvas = new_sheet(out, f"{plan_name}: cards")
    page = Page(canvas, plan_name, today, CAUTION)
    for card in cards:
        _card(page, card)
    if not cards:
        page.begin("Nothing to dial", "Every device holds the numbers that stand in the plan.")
    canvas.save()
    return out.getvalue()


def _card(page: Page, card: Card) -> None:
    """One device."""
    steps = len(card.steps)
    page.begin(card.name, f"{steps} step{'s' if steps != 1 else ''}, about {card.presses} presses")
    for line in card.preparation:
        page.room(26)
        page.box()
        page.text(page.LEFT + 34, line, "Regular", 13, 460)
        page.down(28)
    for section in card.sections:
        page.room(30 + 2 * page.ROW)
        page.down(10)
        page.text(page.LEFT, section.title, "SemiBold", 16)
        page.down(30)
        for step in section.steps:
            _step(page, step)
        page.room(len(section.closing) * page.ROW)
        done = all(s.state in ("stored", "checked") for s in section.steps)
        for n, line in enumerate(section.closing):
            page.room(page.ROW)
            page.box(ticked=done and n == 0)
            page.text(page.LEFT + 34, line, "SemiBold", 14)
            page.down(page.ROW)


def _step(page: Page, step: Step) -> None:
    page.room(page.ROW)
    page.box(ticked=step.state in ("stored", "checked"))
    page.text(page.LEFT + 34, f"{step.thing} · {step.field}", "Regular", 13, 228)
    page.text(page.LEFT + 270, step.before, "Regular", 13, 84)
    page.text(page.LEFT + 358, "→", "Regular", 13)
    page.text(page.LEFT + 378, step.after, "Bold", 16, 122)
    page.rule()
    page.down(page.ROW)


def card_files(folder: Path) -> tuple[Path, Path]:
    """Where the cards are written in a folder: the table and the sheet."""
    return folder / "cards.csv", folder / "cards.pdf"


def write_cards(
    plan_name: str, cards: tuple[Card, ...], folder: Path, today: str, *, replace: bool = True
) -> tuple[Path, Path]:
    """Write ``cards.csv`` and ``cards.pdf`` into a folder.  Raises WriteError."""
    table, sheet = card_files(folder)
    data = to_csv(cards).encode(), to_pdf(plan_name, cards, today)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or "no such name can be given"
        raise WriteError(
            f"The folder {quoted(folder)} cannot be made ({why}): choose another folder."
        ) from None
    write_whole(data[0], table, "The cards", replace=replace)
    write_whole(data[1], sheet, "The cards", replace=replace)
    return table, sheet
