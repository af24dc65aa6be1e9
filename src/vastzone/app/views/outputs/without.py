"""The page Without: what works when something dies, and the best plan that stands in."""

from collections.abc import Iterator
from datetime import date
from functools import partial

from PySide6.QtCore import QTimer
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.table import RowList, reading_table
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.jobs import BackgroundJob
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.core.cards.card import Card, cards
from vastzone.core.errors import PlanError
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.progress import Progress
from vastzone.core.say import number, say, say_many
from vastzone.core.solve.losing import Loss, losses
from vastzone.core.solve.without import Without, as_a_plan, without, worst_first
from vastzone.core.text import listed
from vastzone.desk.session import Desk
from vastzone.files import native

COLUMNS = (
    say("Without"),
    say("As it is"),
    say("Scenes"),
    say("Stand-in"),
    say("Scenes"),
    say("Changes"),
)
STAYS_MS = 250
"""Who looks at the page for so long stays there, and does not only turn past it."""
HELP = say("Choose what dies: below stands what is lost, and what can stand in. Worst comes first.")
KINDS = (
    (say("every device"), "device"),
    (say("every MIDI cable"), "cable"),
    (say("every audio cable"), "audio cable"),
    (say("every pedal"), "pedal"),
)


class WithoutPage(QWidget):
    """A row for each thing that may die; what that means below it.

    It takes seconds to work out, so it begins when one stays here, and goes on while one does.
    """

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._aside, self._paper = BackgroundJob(self), BackgroundJob(self)
        self._plan: Plan | None = None
        self._waiting: Iterator[Loss] = iter(())
        self._staying = QTimer(self)
        self._staying.setSingleShot(True)
        self._staying.setInterval(STAYS_MS)
        self._staying.timeout.connect(self._go_on)
        self.told: list[Without] = []
        self.kind = CalmCombo()
        self.kind.setAccessibleName(say("What may die"))
        offer(self.kind, KINDS)
        self.kind.activated.connect(lambda _: self._begin())
        self.table = reading_table(COLUMNS, say("What works without each thing"))
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.table.chosen.connect(self._tell)
        self.lines = RowList(say("What is lost and what stands in"))
        self.lines.wrap()
        self.cards, self.keep = (
            Button(say("Cards of the stand-in…")),
            Button(say("Save as a plan…")),
        )
        set_tip(self.cards, say("What to dial for it, as a PDF to print before the gig"))
        set_tip(self.keep, say("The stand-in as a plan of its own"))
        self.cards.clicked.connect(self._print)
        self.keep.clicked.connect(self._save)
        self.words = quiet(HELP)
        self.words.setWordWrap(True)
        box, line = QVBoxLayout(self), QHBoxLayout()
        box.setContentsMargins(14, 2, 14, 8)
        box.setSpacing(7)
        line.addWidget(self.kind)
        line.addStretch()
        line.addWidget(self.cards)
        line.addWidget(self.keep)
        box.addLayout(line)
        box.addWidget(self.words)
        box.addWidget(self.table, 1)
        box.addWidget(self.lines, 1)

    def refresh(self) -> None:
        """Show what was worked out before, and go on with it where one stays."""
        if self._desk.planned is not self._plan:
            self._empty()
        self._staying.start()
        self._tell()

    def showEvent(self, event: QShowEvent) -> None:
        """Go on where one stays."""
        super().showEvent(event)
        self._staying.start()

    def _go_on(self) -> None:
        if self.isVisible() and not self._aside.busy:
            self._next()

    def _begin(self) -> None:
        self._empty()
        self._next()

    def _empty(self) -> None:
        """Nothing is worked out yet for the plan and the kind that are chosen."""
        self._aside.cancel()
        self._plan = self._desk.planned
        self.told = []
        kind = self.kind.currentData()
        wanted = [loss for loss in losses(self._plan) if loss.kind == kind]
        self._count = len(wanted)
        self._waiting = iter(wanted)
        self._fill()

    def _next(self) -> None:
        """One after the other, so that each is shown as soon as it is known."""
        if not self.isVisible():
            return
        plan, loss = self._plan, next(self._waiting, None)
        if plan is None or loss is None:
            self.words.setText(HELP)
            return
        done = say("{count} of {total}", count=len(self.told), total=self._count)
        self.words.setText(
            say("Working out what stands in for {loss} … {done}", loss=loss.name, done=done)
        )
        self._aside.start(partial(_one, plan, loss), partial(self._take, plan))

    def _take(self, plan: Plan, told: Without) -> None:
        if plan is self._plan and plan is self._desk.planned:
            self.told = worst_first([*self.told, told])
            self._fill()
            self._next()

    def _fill(self) -> None:
        self.table.show_rows([_row(one) for one in self.told])
        self._tell()

    def _chosen(self) -> Without | None:
        row = self.table.chosen_row
        return self.told[row] if 0 <= row < len(self.told) else None

    def _tell(self) -> None:
        one = self._chosen()
        self.cards.setEnabled(one is not None)
        self.keep.setEnabled(one is not None)
        if one is None or self._plan is None:
            self.lines.show_lines([])
            return
        face = bold(THEME.colours.text_px)
        said: list[tuple[str | Cell, object]] = []
        said.append(
            (Cell(say("The best that can stand in for {loss}", loss=one.loss.name), face=face), "")
        )
        said += [(words, "") for words in stand_in_words(self._plan, one)]
        said.append((Cell(say("If nothing is done"), face=face), ""))
        said += [(words, "") for words in scene_words(self._plan, one)]
        self.lines.show_lines(said)

    def _print(self) -> None:
        """The cards of the stand-in from what the devices hold now, in a file."""
        one = self._chosen()
        if one is None:
            return
        plan = as_a_plan(one)
        held = self._desk.memory
        every = cards(plan, held)
        today = date.today().isoformat()
        self._paper.start(lambda _: _pages(plan.name, every, today), self._show)

    def _show(self, sheet: bytes) -> None:
        from vastzone.app.views.cards.preview import Preview

        one = self._chosen()
        name = one.loss.name if one is not None else say("it")
        Preview(self, say("Cards without {name}", name=name), sheet).open()

    def _save(self) -> None:
        one = self._chosen()
        if one is None:
            return
        plan = as_a_plan(one)
        path = dialogs.ask_save(self, plan.name)
        if path is None:
            return
        try:
            native.write(plan, path)
        except PlanError as error:
            self.words.setText(str(error))
        else:
            self.words.setText(say("Written: {path}", path=path.name))


def _one(plan: Plan, loss: Loss, tell: Progress) -> Without:
    return without(plan, loss, tell)


def _pages(name: str, every: tuple[Card, ...], today: str) -> bytes:
    from vastzone.files.sheets import to_pdf

    return to_pdf(name, every, today)


def _row(one: Without) -> Row:
    colours = THEME.colours
    shade = colours.good
    if one.weight < 0.75:
        shade = colours.fault
    elif one.weight < 1.0 - 1e-9:
        shade = colours.caution
    count = len(one.scenes)
    better = one.weight > one.bare_weight + 1e-9
    cells = (
        one.loss.name,
        number(one.bare_weight, ".0%"),
        say("{whole} of {count}", whole=one.whole, count=count),
        Cell(number(one.weight, ".0%") if better else say("no better"), colour=shade),
        say("{rescued_whole} of {count}", rescued_whole=one.rescued_whole, count=count),
        str(one.changes) if better else "",
    )
    return row_of(cells, one.loss.ident)


def scene_words(plan: Plan, one: Without) -> list[str]:
    """What is left of each scene; scenes that lose the same are told together."""
    names = lookup.names_of(plan.scenes)
    together: dict[tuple[str, tuple[str, ...]], list[str]] = {}
    for scene in one.scenes:
        key = (scene.verdict, scene.lost)
        together.setdefault(key, []).append(names.get(scene.scene, say("Everything")))
    told = []
    for (verdict, lost), where in together.items():
        missing = say(", without {lost}", lost=listed(lost, 6)) if lost else ""
        word = {"as meant": say("as meant"), "partly": say("in part"), "not": say("nothing of it")}[
            verdict
        ]
        told.append(f"{listed(where, 6)}: {word}{missing}")
    return told


def stand_in_words(plan: Plan, one: Without) -> list[str]:
    """What is moved where, what is lost all the same, and what it takes."""
    names = lookup.names_of(plan.wishes)
    told = [
        say(
            "Keeps {weight:.0%} of what matters, with {changes}",
            weight=one.weight,
            changes=say_many("{count} change", "{count} changes", one.changes),
        )
    ]
    for moved in one.moved:
        part = say(" ({share:.0%} of it)", share=moved.share) if moved.share < 1 else ""
        told.append(f"{moved.words}{part}")
    if one.dropped:
        told.append(say("Lost: {names}", names=listed((names[ident] for ident in one.dropped), 10)))
    return told
