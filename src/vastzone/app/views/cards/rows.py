"""The rows of a card: what each shows, and how high it is."""

from typing import NamedTuple

from vastzone.core.cards.card import Card, CardLine
from vastzone.core.say import say, say_many

HEIGHTS = {"title": 66, "prepare": 34, "section": 48, "line": 40, "plain": 38, "gap": 18}
WHY, CAUTION, TALL = 22, 26, 22
"""What a row grows by: for a reason, for a caution, for two lines in a narrow window."""


class CardRow(NamedTuple):
    """A row of the sheet: a title, a thing to prepare, or a line of the card."""

    kind: str
    words: str
    line: CardLine | None = None

    @property
    def can_tick(self) -> bool:
        """Whether a press on it does something."""
        return self.kind in ("prepare", "line", "plain")


def rows_of(card: Card, remark: str = "") -> list[CardRow]:
    """The rows of a card in the order in which they are done; ``remark`` stands in its head."""
    left = sum(line.waits for line in card.lines)
    below = (
        say(
            "{lines} left, about {presses} presses",
            lines=say_many("{count} line", "{count} lines", left),
            presses=card.presses,
        )
        if left
        else say("all dialled")
    )
    head = " · ".join(filter(None, (below, remark)))
    rows = [CardRow("title", f"{card.name}\n{head}")]
    rows += [CardRow("prepare", line) for line in card.preparation]
    if card.plugging:
        rows.append(CardRow("section", say("What goes into its jacks, as one stands behind it")))
        rows += [CardRow("prepare", line) for line in card.plugging]
    for section in card.sections:
        rows.append(CardRow("section", section.title))
        for line in section.lines:
            kind = "line" if line.kind == "dial" else "plain"
            rows.append(CardRow(kind, line.words, line))
    return [*rows, CardRow("gap", "")]
