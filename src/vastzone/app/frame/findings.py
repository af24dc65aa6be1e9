"""Findings as cards with their fixes to press."""

from collections.abc import Callable, Mapping, Sequence
from functools import partial
from typing import Any, TypeVar

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout

from vastzone.app.frame.dressed import dress
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import pixmap
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Plan
from vastzone.core.proof.finding import Finding
from vastzone.core.proof.rules import BY_ID
from vastzone.core.say import say

ICONS = {"fault": "octagon-alert", "caution": "triangle-alert", "hint": "info"}
WORDS = {"fault": say("Fault"), "caution": say("Caution"), "hint": say("Hint")}


class KeyedCard(QFrame):
    """A card that knows what it shows; its key is None for nothing that stays."""

    def __init__(self) -> None:
        super().__init__()
        self.key: object = None


Card = TypeVar("Card", bound=KeyedCard)
Shown = TypeVar("Shown")


class FindingCard(KeyedCard):
    """One finding: severity, sentence, scenes, fixes.  It can show another one later."""

    def __init__(self, fix: Callable[[Edit], None], go: Callable[[Finding], None]) -> None:
        super().__init__()
        self.finding = Finding("", "hint", (), "")
        self._fix, self._go = fix, go
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(10, 8, 8, 8)
        self._box.setSpacing(5)
        self._mark, self._title, self._where = Label(), Label(), Elided("muted")
        self._title.setProperty("role", "heading")
        self._where.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(self._mark)
        head.addWidget(self._title)
        head.addWidget(self._where, 1)
        self._box.addLayout(head)
        self._sentence = Label()
        self._sentence.setWordWrap(True)
        self._box.addWidget(self._sentence)
        self._buttons: list[FixButton] = []
        self._more = FixButton("", "link")
        self._more.clicked.connect(self._unfold)
        self._box.addWidget(self._more)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_finding(self, plan: Plan, finding: Finding) -> None:
        """Show a finding in place of the one before."""
        self.finding = finding
        colour = THEME.colours.severity(finding.severity)
        self._mark.setPixmap(pixmap(ICONS[finding.severity], colour, 17))
        self._title.setText(BY_ID[finding.rule].title)
        dress(self._title, "severity", finding.severity)
        dress(self, "role", finding.severity)
        self.setAccessibleName(f"{WORDS[finding.severity]}: {finding.sentence}")
        self._sentence.setText(finding.sentence)
        self._show_where(plan, finding)
        for index, edit in enumerate(finding.fixes):
            if index == len(self._buttons):
                button = FixButton("")
                button.clicked.connect(partial(self._press, index))
                self._buttons.append(button)
                self._box.insertWidget(2 + index, button)
            self._buttons[index].tell(edit.label)
        for index, button in enumerate(self._buttons):
            button.setVisible(index == 0 and bool(finding.fixes))
        others = len(finding.fixes) - 1
        self._more.tell(
            say("{others} other ways to mend it", others=others)
            if others > 1
            else say("{others} other way to mend it", others=others)
        )
        self._more.setVisible(others > 0)

    def _show_where(self, plan: Plan, finding: Finding) -> None:
        names = []
        for scene in plan.scenes:
            if scene.id in finding.scenes:
                names.append(scene.name)
        some = 0 < len(finding.scenes) < len(plan.scenes)
        said = names[0] if len(names) == 1 else say("{count} scenes", count=len(finding.scenes))
        self._where.show_text(said if some else "")
        set_tip(self._where, ", ".join(names) if some else "")

    def _press(self, index: int) -> None:
        self._fix(self.finding.fixes[index])

    def _unfold(self) -> None:
        self._more.hide()
        for button in self._buttons[: len(self.finding.fixes)]:
            button.show()

    def mouseReleaseEvent(self, event: object) -> None:
        """Go to what it is about."""
        self._go(self.finding)


def matched(cards: list[Card], wanted: Sequence[object], make: Callable[[], Card]) -> list[Card]:
    """A card for each key: the one that shows it already, else any that is free, else a new one.

    Cards are never destroyed one by one: those left over stay hidden at the end of ``cards``.
    """
    by_key = {card.key: card for card in cards if card.key is not None}
    kept = {id(by_key[key]) for key in wanted if key in by_key}
    free = [card for card in cards if id(card) not in kept]
    matching = []
    for key in wanted:
        card = by_key.get(key)
        if card is None:
            card = free.pop() if free else make()
            card.key = None
        matching.append(card)
    for card in free:
        card.key = None
        card.hide()
    cards[:] = [*matching, *free]
    return matching


def lay_cards(
    box: QVBoxLayout,
    first: int,
    cards: list[Card],
    wanted: Mapping[Any, Shown],
    make: Callable[[], Card],
    fill: Callable[[Card, Shown], object],
) -> list[Card]:
    """Lay a card for each key into a box, from place ``first`` on; only others are filled anew."""
    laid = matched(cards, tuple(wanted), make)
    box.setEnabled(False)  # or everything would be laid out anew with each card
    for place, (card, key) in enumerate(zip(laid, wanted, strict=True), first):
        if card.key is None:
            fill(card, wanted[key])
            card.key = key
        if box.indexOf(card) != place:
            box.insertWidget(place, card)
        card.show()
    box.setEnabled(True)
    return laid


def like(finding: Finding) -> tuple[object, ...]:
    """All that a card shows of a finding: a card serves any that is like its own."""
    return (*finding[:4], finding.scenes, tuple(edit.label for edit in finding.fixes))


class FixButton(Button):
    """A fix; a long label gives way and shows whole as a tool tip."""

    def __init__(self, label: str, role: str = "fix") -> None:
        super().__init__()
        self._label = ""
        self.setProperty("role", role)
        bound(self, "MinimumWidth", 60)
        self.tell(label)

    def tell(self, label: str) -> None:
        """Take another label."""
        self._label = label
        set_tip(self, label)
        fix = self.property("role") != "link"
        self.setAccessibleName(say("Fix: {label}", label=label) if fix else label)
        self._cut()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Cut the label to the width there is."""
        super().resizeEvent(event)
        self._cut()

    def _cut(self) -> None:
        room = self.width() - 24
        self.setText(self.fontMetrics().elidedText(self._label, Qt.TextElideMode.ElideRight, room))
