"""Cards on paper and in spreadsheets: PDF to stand on a music stand, and CSV."""

import csv
import io
from pathlib import Path
from typing import Any

from vastzone.core.cards.card import Card, Step
from vastzone.core.errors import WriteError

FONTS = Path(__file__).parents[1] / "app" / "assets" / "fonts"
COLUMNS = ("Device", "Part of the device", "Where", "What", "From", "To", "State", "Why")
CAUTION = (
    "Turn down before the first test. Nothing on this sheet has been sent to a device: "
    "each tick is yours."
)


def to_csv(cards: tuple[Card, ...]) -> str:
    """All cards as comma-separated values, a step a line."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for card in cards:
        for section in card.sections:
            for s in section.steps:
                rows.writerow(
                    (card.name, section.title, s.thing, s.field, s.before, s.after, s.state, s.why)
                )
    return out.getvalue()


def to_pdf(plan_name: str, cards: tuple[Card, ...], today: str) -> bytes:
    """All cards as a PDF, each device from a new page, with ticks large enough to find."""
    from reportlab.lib.pagesizes import A4
    from reportlab.pdfgen.canvas import Canvas

    _fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, invariant=1)
    canvas.setTitle(f"{plan_name}: cards")
    page = _Page(canvas, plan_name, today)
    for card in cards:
        page.card(card)
    if not cards:
        page.begin("Nothing to dial", "Every device holds the numbers that stand in the plan.")
    canvas.save()
    return out.getvalue()


def _fonts() -> None:
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    for name in ("Regular", "SemiBold", "Bold"):
        pdfmetrics.registerFont(TTFont(f"VZ-{name}", FONTS / f"VastZoneSans-{name}.ttf"))


class _Page:
    """Fills pages from the top; all measures in points."""

    LEFT, RIGHT, TOP, BOTTOM, ROW = 48.0, 548.0, 790.0, 64.0, 34.0

    def __init__(self, canvas: Any, plan: str, today: str) -> None:
        self._canvas, self._plan, self._today = canvas, plan, today
        self._y = self.TOP
        self._title, self._number, self._open = "", 0, False

    def begin(self, title: str, below: str) -> None:
        """A new page with a title."""
        if self._open:
            self._canvas.showPage()
        self._open, self._number, self._y = True, self._number + 1, self.TOP
        self._title = title
        self._text(self.LEFT, self._y, title, "Bold", 24)
        self._text(self.LEFT, self._y - 20, below, "Regular", 11)
        self._canvas.setLineWidth(1.2)
        self._canvas.line(self.LEFT, self._y - 30, self.RIGHT, self._y - 30)
        self._text(
            self.LEFT, 40, f"{self._plan} · {self._today} · page {self._number}", "Regular", 9
        )
        self._text(self.LEFT, 28, CAUTION, "Regular", 9)
        self._y -= 56

    def _text(
        self, x: float, y: float, text: str, face: str, size: float, width: float = 0.0
    ) -> None:
        from reportlab.pdfbase.pdfmetrics import stringWidth

        name = f"VZ-{face}"
        while width and len(text) > 2 and stringWidth(text, name, size) > width:
            text = text[:-2].rstrip() + "…"
        self._canvas.setFont(name, size)
        self._canvas.drawString(x, y, text)

    def _room(self, height: float) -> None:
        if self._y - height < self.BOTTOM:
            self.begin(self._title, "continued")

    def card(self, card: Card) -> None:
        """One device."""
        steps = len(card.steps)
        self.begin(
            card.name, f"{steps} step{'s' if steps != 1 else ''}, about {card.presses} presses"
        )
        for line in card.preparation:
            self._room(26)
            self._box(self._y)
            self._text(self.LEFT + 34, self._y, line, "Regular", 13, 460)
            self._y -= 28
        for section in card.sections:
            self._room(30 + 2 * self.ROW)
            self._y -= 10
            self._text(self.LEFT, self._y, section.title, "SemiBold", 16)
            self._y -= 30
            for step in section.steps:
                self._step(step)
            self._room(len(section.closing) * self.ROW)
            done = all(s.state in ("stored", "checked") for s in section.steps)
            for n, line in enumerate(section.closing):
                self._room(self.ROW)
                self._box(self._y, ticked=done and n == 0)
                self._text(self.LEFT + 34, self._y, line, "SemiBold", 14)
                self._y -= self.ROW

    def _box(self, y: float, ticked: bool = False) -> None:
        self._canvas.setLineWidth(1.6)
        self._canvas.rect(self.LEFT, y - 4, 20, 20)
        if ticked:
            self._canvas.lines(
                [
                    (self.LEFT + 4, y + 6, self.LEFT + 9, y),
                    (self.LEFT + 9, y, self.LEFT + 17, y + 13),
                ]
            )

    def _step(self, step: Step) -> None:
        self._room(self.ROW)
        self._box(self._y, ticked=step.state in ("stored", "checked"))
        self._text(self.LEFT + 34, self._y, f"{step.thing} · {step.field}", "Regular", 13, 228)
        self._text(self.LEFT + 270, self._y, step.before, "Regular", 13, 84)
        self._text(self.LEFT + 358, self._y, "→", "Regular", 13)
        self._text(self.LEFT + 378, self._y, step.after, "Bold", 16, 122)
        self._canvas.setLineWidth(0.4)
        self._canvas.line(self.LEFT, self._y - 11, self.RIGHT, self._y - 11)
        self._y -= self.ROW


def write_cards(
    plan_name: str, cards: tuple[Card, ...], folder: Path, today: str
) -> tuple[Path, Path]:
    """Write ``cards.csv`` and ``cards.pdf`` into a folder.  Raises WriteError."""
    table, sheet = folder / "cards.csv", folder / "cards.pdf"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        table.write_text(to_csv(cards), encoding="utf-8")
        sheet.write_bytes(to_pdf(plan_name, cards, today))
    except OSError as error:
        raise WriteError(
            f"The cards cannot be written to {folder} ({error.strerror}): choose another folder."
        ) from None
    return table, sheet
