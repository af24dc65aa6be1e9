"""Work out numbers: beside the window, with progress and cancel; previewed before it is applied."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QMenu,
    QProgressBar,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.numbers_menu import add_locks, add_schools
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.table import Table, reading_table
from vastzone.app.frame.text import Button, Label, set_tip, set_title
from vastzone.app.jobs import BackgroundJob
from vastzone.core.cards.card import cards, effort
from vastzone.core.memory.model import Memory
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.locks import lock_all
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.fields.words import number_words
from vastzone.core.plan.model.plan import Plan
from vastzone.core.progress import Progress
from vastzone.core.say import say, say_many
from vastzone.core.solve.clash import Refusal, work_out
from vastzone.core.solve.numbers import Number, Solution
from vastzone.desk.session import Desk

WIDE, TALL = 0.92, 0.8
COLUMNS = (say("Device"), say("Where"), say("What"), say("From"), say("To"), say("Why"))
FROM, TO = 3, 4
Perform = Callable[[Edit], None]


def _worked_out(plan: Plan, memory: Memory, tell: Progress) -> Solution | Refusal:
    """The numbers of a plan, or why there are none."""
    return work_out(plan, tell, memory)


class WorkOut(Dialog):
    """The preview of what would change, or why it cannot be done."""

    def __init__(self, parent: QWidget, desk: Desk, perform: Perform) -> None:
        super().__init__(parent)
        self._desk, self._perform = desk, perform
        self._plan = desk.planned
        set_title(self, say("Work out numbers"))
        room = parent.size()
        self.resize(round(WIDE * room.width()), round(TALL * room.height()))
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(18, 16, 18, 14)
        self._box.setSpacing(10)
        self._body = QWidget()
        self._box.addWidget(self._body)
        self.work = BackgroundJob(self)
        self.work.progressed.connect(self._tell)
        self._begin()

    def _begin(self) -> None:
        self._show_progress()
        self.work.start(partial(_worked_out, self._plan, self._desk.memory), self._show)

    def _fresh(self) -> QVBoxLayout:
        new = QWidget()
        self._box.insertWidget(0, new)
        self._box.removeWidget(self._body)
        self._body.hide()
        self._body.deleteLater()
        self._body = new
        box = QVBoxLayout(new)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(10)
        return box

    def _title(self, box: QVBoxLayout, text: str) -> None:
        title = Label(text)
        title.setProperty("role", "title")
        title.setWordWrap(True)
        box.addWidget(title)

    def _buttons(self, box: QVBoxLayout, *buttons: Button) -> None:
        row = QHBoxLayout()
        row.addStretch()
        for button in buttons:
            row.addWidget(button)
        box.addLayout(row)

    def _button(self, text: str, run: Callable[[], object], role: str = "") -> Button:
        button = Button(text)
        button.setProperty("role", role)
        button.clicked.connect(run)
        return button

    def _show_progress(self) -> None:
        box = self._fresh()
        self._title(box, say("Working out every channel, note and controller …"))
        self._step = quiet("")
        self._bar = QProgressBar()
        self._bar.setRange(0, 100)
        self._bar.setTextVisible(False)
        box.addWidget(self._step)
        box.addWidget(self._bar)
        box.addStretch()
        self._buttons(box, self._button(say("Cancel"), self.reject))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFocus()  # not Cancel: an early Enter waits

    def _tell(self, what: str, share: float) -> None:
        self._step.setText(what)
        self._bar.setValue(round(100 * share))

    def _show(self, solved: Solution | Refusal) -> None:
        if isinstance(solved, Solution):
            self._show_solution(solved)
        else:
            self._show_refusal(solved)

    def _show_solution(self, solution: Solution) -> None:
        box = self._fresh()
        self.solution = solution
        count = len(solution.numbers)
        if not count and not solution.others:
            self._title(box, say("Every number is right already: nothing has to change."))
            box.addStretch()
            close = self._button(say("Close"), self.reject, "primary")
            self._buttons(box, close)
            close.setFocus()
            return
        best = (
            say("proved to be the fewest")
            if not solution.gap
            else say("within {gap:.1%} of the best", gap=solution.gap)
        )
        self._warn(box, solution)
        self._title(
            box,
            say_many(
                "{count} number changes, {best}.",
                "{count} numbers change, {best}.",
                count,
                best=best,
            ),
        )
        steps, presses = effort(cards(solution.plan, self._desk.memory))
        dialled = say(
            "{steps} to dial, about {presses}.",
            steps=say_many("{count} step", "{count} steps", steps),
            presses=say_many("{count} press", "{count} presses", presses),
        )
        box.addWidget(quiet(" ".join((dialled, *solution.others))))
        self.table = _table(solution)
        box.addWidget(self.table, 1)
        silences = bool(solution.silences)
        label = say("Apply, and let them fall silent") if silences else say("Apply")
        self.apply_button = self._button(label, partial(self._apply, solution), "primary")
        self.keep_button = self._button(say("Lock the chosen"), partial(self._keep, solution))
        set_tip(self.keep_button, say("Leave them as they are now, and work out the others anew"))
        self.other_button = self._button(say("Choose otherwise …"), partial(self._choose, solution))
        set_tip(self.other_button, say("Lock more, or number the chosen controls in another way"))
        self._offer_to_keep(solution)
        self.table.chosen.connect(partial(self._offer_to_keep, solution))
        leave = self._button(say("Keep all as it is"), self.reject)
        self._buttons(box, self.keep_button, self.other_button, leave, self.apply_button)
        if not silences:
            self.apply_button.setFocus()

    def _offer_to_keep(self, solution: Solution) -> None:
        self.keep_button.setEnabled(bool(self._kept(solution)))
        self.other_button.setEnabled(bool(self._chosen(solution)))

    def _chosen(self, solution: Solution) -> list[Number]:
        """The numbers of the chosen rows."""
        return [solution.numbers[row] for row in self.table.chosen_rows]

    def _kept(self, solution: Solution) -> list[str]:
        """Those of them that stand in the plan already."""
        return [number.ref for number in self._chosen(solution) if number.before is not None]

    def _keep(self, solution: Solution) -> None:
        """Lock the chosen numbers as they are now, and work out the rest anew."""
        self._anew(lock_all(self._kept(solution), by=self._desk.held.initials))

    def _anew(self, edit: Edit) -> None:
        """Work out once more what was found already."""
        del self.apply_button
        self._mend(edit)

    def _choose(self, solution: Solution) -> None:
        """Offer to lock more, or to number the chosen controls in another way."""
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        kept = self._kept(solution)
        if kept:
            add_locks(menu, self._plan, kept, self._desk.held.initials, self._anew)
        refs = [number.ref for number in self._chosen(solution)]
        add_schools(menu, self, solution.plan, refs, self._anew)
        menu.popup(self.other_button.mapToGlobal(self.other_button.rect().topLeft()))

    def _warn(self, box: QVBoxLayout, solution: Solution) -> None:
        """What would fall silent comes first, in words that nobody overlooks."""
        for sentence in solution.warnings:
            warning = Label(sentence)
            warning.setProperty("role", "warning")
            warning.setWordWrap(True)
            box.addWidget(warning)

    def _apply(self, solution: Solution) -> None:
        self.accept()
        if self._desk.planned is self._plan:
            self._perform(solution.edit())
            self._desk.mark_unseen(number.ref for number in solution.numbers)

    def _show_refusal(self, refused: Refusal) -> None:
        box = self._fresh()
        own = say("The numbers found are not as meant: a mistake of the program.")
        self._title(box, own if refused.defects else say("These wishes cannot all hold."))
        sentence = Label(refused.sentence)
        sentence.setWordWrap(True)
        box.addWidget(sentence)
        if refused.mends:
            box.addWidget(quiet(say("Any one of these would mend it:")))
        for mend in refused.mends[:8]:
            row = QHBoxLayout()
            button = self._button(mend.label, partial(self._mend, mend.edit), "fix")
            button.setEnabled(mend.edit is not None)
            row.addWidget(button, 1)
            row.addWidget(quiet(mend.cost), 1)
            box.addLayout(row)
        box.addStretch()
        self._buttons(box, self._button(say("Close"), self.reject))

    def _mend(self, edit: Edit | None) -> None:
        if edit is None:
            return
        self._perform(edit)
        self._plan = self._desk.planned
        self._begin()

    def reject(self) -> None:
        """Give up: nothing has been changed."""
        self.work.cancel()
        super().reject()

    def closeEvent(self, event: QCloseEvent) -> None:
        """The same as giving up."""
        self.work.cancel()
        super().closeEvent(event)


def _table(solution: Solution) -> Table:
    table = reading_table(COLUMNS, say("What would change"))
    table.held.set_right(FROM, TO)
    table.choose_many()
    table.show_rows(row_of(preview_row(solution.plan, number)) for number in solution.numbers)
    header = table.horizontalHeader()
    header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    header.setSectionResizeMode(5, QHeaderView.ResizeMode.Stretch)
    return table


def preview_row(plan: Plan, number: Number) -> tuple[str | Cell, ...]:
    dial = dials(plan)[number.ref]
    program, where, what, before, after = number_words(dial, number.before, number.after)
    place = say("Program {program} · {where}", program=program, where=where) if program else where
    sides = Cell(before, right=True), Cell(after, right=True)
    return dial.owner.device.name, place, what, *sides, number.reason
