"""The Prove view: what falls short by cause, the walk-through, and the log."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QVBoxLayout,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.pages import page_buttons
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.table import Table, reading_table
from vastzone.app.theme.current import THEME
from vastzone.app.views.base import View
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.app.views.prove.causes import CauseList
from vastzone.app.views.prove.walk import WalkPage
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.proof.finding import Finding
from vastzone.core.proof.verdict import VERDICTS
from vastzone.core.proof.words import place_words
from vastzone.core.say import say
from vastzone.desk.session import Desk

PAGES = PAGE_NAMES["prove"]
COLUMNS = (say("When"), say("Scene"), say("Struck"), say("Meant"), say("Got"), say("Result"))


class ProveView(View):
    """Three pages under one bar."""

    page_names = PAGES

    def __init__(self, desk: Desk, perform: Performer, go: Callable[[Finding], object]) -> None:
        super().__init__(desk)
        self._theme = THEME.name
        self.causes = CauseList(desk, perform, go)
        self.walk = WalkPage(desk, perform, self._recorded)
        self.log = _log_table()
        self._good = EmptyState("", "")
        self._no_log = EmptyState(
            say("Nothing recorded yet"),
            say("What a walk-through finds stands here, with its date."),
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(self._bar())
        self._stack = Stack()
        for page in (self.causes, self._good, self.walk, self.log, self._no_log):
            self._stack.add(page)
        box.addWidget(self._stack, 1)

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(16, 10, 16, 8)
        bar.setSpacing(6)
        self._group = page_buttons(self, PAGES, bar, self.refresh)
        self.pages = self._group.buttons()
        self._count = Elided("muted")
        self._count.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        bar.addWidget(self._count, 1)
        return bar

    def show_page(self, page: int) -> None:
        """Show a page by its place among ``page_names``."""
        self._group.button(page).setChecked(True)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        self._count.show_text(self._words())
        page = self._group.checkedId()
        self.lead = (self.causes, self.walk, self.log)[page]
        if page == 0:
            self._show_causes()
        elif page == 1:
            self._stack.show_page(self.walk)
            self.walk.begin_button.setEnabled(self.desk.proof is not None)
            self.walk.setFocus()
        else:
            self._show_log()
            self._stack.show_page(self.log if self.desk.plan.log else self._no_log)

    def _words(self) -> str:
        desk = self.desk
        if desk.derivation.pending:
            return say("Proving … {share:.0%}", share=desk.derivation.share)
        proof = desk.proof
        if proof is None:
            return say("No wishes to prove yet")
        if proof.good:
            return say("All {count} as meant", count=proof.count("as meant"))
        return " · ".join(
            f"{proof.count(verdict)} {say(verdict)}" for verdict in VERDICTS if proof.count(verdict)
        )

    def _show_causes(self) -> None:
        causes = self.desk.causes
        anew = self._theme != THEME.name
        self._theme = THEME.name
        if causes:
            self.causes.show_causes(causes, anew)
            self._stack.show_page(self.causes)
            return
        if self.desk.proof is None:
            self._good.tell(
                say("Nothing to prove yet"),
                say("Say in Plays what should play what: then every strike is simulated here."),
            )
        else:
            self._good.tell(
                say("All as meant"),
                say(
                    "Every key and control of every scene was simulated and plays what you wished."
                ),
            )
        self._stack.show_page(self._good)

    def _recorded(self) -> None:
        self.pages[2].setChecked(True)
        self.refresh()

    def _show_log(self) -> None:
        plan = self.desk.plan
        names = lookup.names_of(plan.scenes)
        devices = lookup.ids_of(plan.devices)
        entries = list(reversed(plan.log))
        rows = []
        for entry in entries:
            known = device_of(entry.source) in devices
            place = WishPlace(entry.source, entry.bank, entry.low, entry.high)
            struck = place_words(plan, place) if known else entry.source
            told = (
                entry.on,
                names.get(entry.scene, entry.scene),
                struck,
                entry.expected,
                entry.got,
                entry.result,
            )
            rows.append(row_of(told))
        self.log.show_rows(rows)


def _log_table() -> Table:
    table = reading_table(COLUMNS, say("The plan’s log"))
    header = table.horizontalHeader()
    header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
    for column, wide in enumerate((130, 130, 190, 150, 190, 70)):
        table.setColumnWidth(column, wide)
    header.setStretchLastSection(True)
    return table
