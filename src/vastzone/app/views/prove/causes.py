"""What falls short, a card for each cause; the chosen one shows its fixes, weighed by the proof."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.dressed import dress
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.findings import ICONS, WORDS, FixButton, KeyedCard, lay_cards, like
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.jobs import Job
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import pixmap
from vastzone.core.plan.model.plan import Plan
from vastzone.core.proof.causes import Cause
from vastzone.core.proof.finding import Finding
from vastzone.core.proof.rules import BY_ID
from vastzone.core.proof.slices import Weighed, weigh
from vastzone.core.proof.words import marks_words
from vastzone.core.say import say, say_many
from vastzone.core.text import listed
from vastzone.desk.session import Desk

MOST = 60


class CauseCard(KeyedCard):
    """One cause: how much it spoils, why, and when it is chosen what would mend it."""

    chosen = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.cause = Cause(Finding("", "hint", (), ""), 0, 0, ())
        self.setProperty("role", "card")
        self.setProperty("chosen", False)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Preferred)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(14, 9, 12, 10)
        self._box.setSpacing(4)
        self._mark, self._title, self._spoils = Label(), Label(), Label()
        self._title.setProperty("role", "heading")
        head = QHBoxLayout()
        head.setSpacing(7)
        head.addWidget(self._mark)
        head.addWidget(self._title)
        head.addStretch()
        head.addWidget(self._spoils)
        self._box.addLayout(head)
        self.sentence = Label()
        self.sentence.setWordWrap(True)
        self._box.addWidget(self.sentence)
        self._more: QWidget | None = None

    def show_cause(self, plan: Plan, cause: Cause) -> None:
        """Show a cause in place of the one before."""
        finding = cause.finding
        self.close_()
        self.setAccessibleName(f"{WORDS[finding.severity]}: {finding.sentence}")
        colour = THEME.colours.severity(finding.severity)
        self._mark.setPixmap(pixmap(ICONS[finding.severity], colour, 17))
        self._title.setText(BY_ID[finding.rule].title)
        dress(self._title, "severity", finding.severity)
        self._spoils.setText(spoils_words(plan, cause))
        dress(self._spoils, "role", "heading" if cause.weight else "muted")
        scenes = frozenset(finding.scenes)
        names = [scene.name for scene in plan.scenes if scene.id in scenes]
        set_tip(self._spoils, ", ".join(names))
        self.sentence.setText(finding.sentence)

    def open(self, more: QWidget) -> None:
        """Show what would mend it."""
        self._drop()
        self._more = more
        self._box.addWidget(more)
        dress(self, "chosen", True)

    def close_(self) -> None:
        """Show the sentence alone."""
        self._drop()
        dress(self, "chosen", False)

    def _drop(self) -> None:
        if self._more is not None:
            self._more.hide()
            self._more.deleteLater()
            self._more = None

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Choose it."""
        self.chosen.emit(self.cause)


def spoils_words(plan: Plan, cause: Cause) -> str:
    """How much a cause spoils: keys, controls, scenes."""
    said = []
    if cause.keys:
        said.append(say_many("{count} key", "{count} keys", cause.keys))
    if cause.controls:
        said.append(say_many("{count} control", "{count} controls", cause.controls))
    scenes = cause.finding.scenes
    if not scenes and len(plan.scenes) > 1:
        said.append(say("all scenes"))
    elif len(scenes) == 1:
        for scene in plan.scenes:
            if scene.id in scenes:
                said.append(scene.name)
    elif scenes:
        said.append(say_many("{count} scene", "{count} scenes", len(scenes)))
    return " · ".join(said)


def effect_words(weighed: Weighed) -> str:
    """What the proof says of a fix."""
    mended, spoilt = say_many("{count} strike", "{count} strikes", weighed.mended), weighed.spoilt
    closer = say(
        "brings {strikes} closer",
        strikes=say_many("{count} strike", "{count} strikes", weighed.closer),
    )
    mends = (
        say("mends {mended}", mended=mended)
        if weighed.mended
        else closer
        if weighed.closer
        else (say("mends nothing by itself"))
    )
    return say("{mends}, spoils {spoilt}", mends=mends, spoilt=spoilt) if spoilt else mends


class CauseList(QScrollArea):
    """All causes below each other."""

    def __init__(self, desk: Desk, perform: Performer, go: Callable[[Finding], object]) -> None:
        super().__init__()
        self._desk, self._perform, self._go = desk, perform, go
        self._job = Job(self)
        self._shown: tuple[Cause, ...] | None = None
        self.cards: list[CauseCard] = []
        self._held: list[CauseCard] = []
        self._rest = quiet("")
        self._body = body = QWidget()  # kept: what Qt alone holds, Python may forget and free
        body.setObjectName("viewBody")
        self._box = QVBoxLayout(body)
        self._box.setContentsMargins(16, 4, 16, 14)
        self._box.setSpacing(8)
        self._box.addWidget(self._rest)
        self._box.addStretch()
        self.setWidget(body)
        self.at = 0
        self.best: Button | None = None
        self.setObjectName("canvasScroll")
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(say("What falls short"))

    def show_causes(self, causes: tuple[Cause, ...], anew: bool = False) -> None:
        """Show these, the first chosen; nothing is built when they are the same."""
        if causes is self._shown and not anew:
            return
        self._shown = causes
        self._job.stop()
        self.best = None
        self._lay_cards(causes[:MOST], anew)
        hidden = len(causes) - MOST
        self._rest.setText(say("and {hidden} more, shown when these are mended", hidden=hidden))
        self._rest.setVisible(hidden > 0)
        self.at = min(self.at, max(0, len(self.cards) - 1))
        if self.cards and self.cards[self.at].cause.finding.severity != "hint":
            self.open_at(self.at)

    def _lay_cards(self, causes: tuple[Cause, ...], anew: bool) -> None:
        """A card for each cause; cards stay while they say the same."""
        plan = self._desk.plan
        wanted = {(like(c.finding), spoils_words(plan, c)): c for c in causes}
        for card in self._held if anew else ():
            card.key = None
        self.cards = lay_cards(
            self._box,
            0,
            self._held,
            wanted,
            self._new_card,
            lambda card, cause: card.show_cause(plan, cause),
        )
        for card, cause in zip(self.cards, wanted.values(), strict=True):
            card.cause = cause

    def _new_card(self) -> CauseCard:
        card = CauseCard()
        card.chosen.connect(self._choose)
        return card

    def _choose(self, cause: Cause) -> None:
        self.open_at(next(n for n, card in enumerate(self.cards) if card.cause is cause))

    def open_at(self, at: int) -> None:
        """Choose a cause: show its fixes, and weigh them by proving each."""
        for card in self.cards:
            card.close_()
        self.at, self.best = at, None
        card = self.cards[at]
        card.open(self._details(card.cause, ()))
        self._job.start(
            weigh(self._desk.plan, card.cause.finding.fixes, self._desk.memory),
            partial(self._weighed, self._desk.plan, card),
        )

    def _weighed(self, plan: Plan, card: CauseCard, weighed: tuple[Weighed, ...]) -> None:
        if plan is not self._desk.plan:
            return
        card.open(self._details(card.cause, weighed))
        self.ensureWidgetVisible(card, 0, 20)

    def _details(self, cause: Cause, weighed: tuple[Weighed, ...]) -> QWidget:
        details = QWidget()
        box = QVBoxLayout(details)
        box.setContentsMargins(0, 4, 0, 0)
        box.setSpacing(6)
        where = listed(marks_words(self._desk.plan, (mark for _, mark in cause.marks)), 4)
        if where:
            box.addWidget(quiet(say("Spoilt: {where}", where=where)))
        for n, one in enumerate(weighed[:5]):
            row = QHBoxLayout()
            row.setSpacing(10)
            button = FixButton(one.edit.label, "fix" if n else "bestfix")
            button.setAccessibleName(
                say("Fix: {edit}, {effect}", edit=one.edit.label, effect=effect_words(one))
            )
            button.clicked.connect(partial(self._perform, one.edit))
            if n == 0:
                self.best = button
            row.addWidget(button, 3)
            effect = Label(effect_words(one))
            effect.setProperty("role", "good" if one.gain > 0 or one.closer else "muted")
            row.addWidget(effect, 2)
            box.addLayout(row)
        if not weighed and cause.finding.fixes:
            box.addWidget(quiet(say("Proving what each fix would mend …")))
        go = Button(say("Go there"))
        go.clicked.connect(lambda: self._go(cause.finding))
        box.addWidget(go, 0, Qt.AlignmentFlag.AlignLeft)
        return details

    @property
    def weighing(self) -> bool:
        """Whether fixes are still being proved."""
        return self._job.running

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down choose, Enter presses the best fix."""
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if step and self.cards:
            self.open_at(max(0, min(len(self.cards) - 1, self.at + step)))
            self.ensureWidgetVisible(self.cards[self.at], 0, 20)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.best is not None:
            if not self._desk.pending:  # it may be of the plan before
                self.best.click()
        else:
            super().keyPressEvent(event)
