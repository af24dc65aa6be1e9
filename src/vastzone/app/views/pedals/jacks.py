"""The page Jacks: every pedal with the jack it is in, how it works there, and the best plugging."""

from functools import partial
from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QMenu,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.sheets_pedals import PEDAL
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, add_action
from vastzone.app.jobs import BackgroundJob
from vastzone.app.views.pedals.jack_words import (
    fit_words,
    floorboard_words,
    hopeless_words,
    other_words,
    swap_words,
    wish_words,
)
from vastzone.app.views.pedals.sockets import SocketGrid
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.pedals import add_pedal, pedal_jack, plug_in, pull_out, take_over
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.pedals import Pedal, PedalKind, served
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.progress import Progress
from vastzone.core.say import say
from vastzone.core.solve.pedal_fit import PedalFit
from vastzone.core.solve.pedals import (
    fit_pedals,
    next_best,
    open_pedals,
    open_sockets,
    sockets_of,
)
from vastzone.core.text import capital, listed
from vastzone.desk.session import Desk

COLUMNS = (say("Pedal"), say("Wanted for"), say("Jack"), say("Works"), say("How it feels"))
NARROW = 700
WORKS = {
    "works": say("as wanted"),
    "half": say("half"),
    "not": say("not at all"),
    "never": say("never: pull it out"),
}
NEW_PEDALS: tuple[tuple[PedalKind, Function], ...] = (
    ("switch", "sustain"),
    ("switch", "program up"),
    ("switch", "tap tempo"),
    ("latching switch", "hold"),
    ("continuous", "swell"),
    ("continuous", "morph"),
    ("dual switch", "any"),
    ("triple", "any"),
    ("hi-hat", "hi-hat"),
    ("voltage", "swell"),
)


class _Fits(NamedTuple):
    """The best plugging, and the next best that does something else."""

    best: PedalFit
    other: PedalFit | None


def _fitted(plan: Plan, tell: Progress) -> _Fits:
    pedals, sockets = open_pedals(plan), open_sockets(plan)
    fitted = {pedal.id for pedal in pedals}
    now = tuple(plug for plug in plan.pedal_plugs if plug.pedal in fitted)
    best = fit_pedals(pedals, sockets, now, tell)
    other = next_best(pedals, sockets, best, now, tell)
    return _Fits(best, other)


class JacksPage(QWidget):
    """The pedals as a table; below it which pedal works in which jack, and the best fit."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.found: PedalFit | None = None
        self._aside = BackgroundJob(self)
        self._plan: Plan | None = None
        self._about_fit: list[str] = []
        self.table = reading_table(COLUMNS, say("Pedals and their jacks"))
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(4, QHeaderView.ResizeMode.Stretch)
        self.table.choose_many()
        self.table.chosen.connect(self._choose)
        self.grid = SocketGrid()
        self.grid.pressed.connect(self._plug)
        self.grid.chosen.connect(lambda ident: self._desk.select(f"{PEDAL}{ident}"))
        self._room = QScrollArea()
        self._room.setObjectName("canvasScroll")
        self._room.setWidgetResizable(True)
        self._room.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._room.setFrameShape(QFrame.Shape.NoFrame)
        self._room.setWidget(self.grid)
        self.grid.reached.connect(self._show_cell)
        self.words = Label()
        self.words.setWordWrap(True)
        self.words.setProperty("role", "small")
        self.add, self.take = Button(say("Add a pedal")), Button(say("Fit pedals to jacks"))
        self.add.setMenu(self._menu())
        self.take.setProperty("role", "primary")
        self.take.clicked.connect(self._take)
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 0, 14, 10)
        box.setSpacing(8)
        row = QHBoxLayout()
        row.addWidget(self.take)
        row.addWidget(self.add)
        row.addStretch()
        box.addLayout(row)
        box.addWidget(self.table, 1)
        box.addWidget(self._room, 2)
        box.addWidget(self.words)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """How a pedal feels stands in its facts where there is no room here."""
        super().resizeEvent(event)
        narrow, modes = self.width() < NARROW, QHeaderView.ResizeMode
        self.table.setColumnHidden(2, narrow)
        self.table.setColumnHidden(4, narrow)
        mode = modes.Stretch if narrow else modes.Fixed
        self.table.horizontalHeader().setSectionResizeMode(0, mode)
        if not narrow:
            self.table.setColumnWidth(0, 150)

    def _show_cell(self, row: int, column: int) -> None:
        """Bring a crossing into sight, its head with the first row."""
        cell = self.grid.cell(row, column).toRect()
        self._room.ensureVisible(cell.center().x(), cell.center().y(), 40, cell.height())

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        for kind, function in NEW_PEDALS:
            words = say("{kind}, for {function}", kind=capital(say(kind)), function=say(function))
            add_action(menu, words, partial(self._add, kind, function))
        return menu

    def _add(self, kind: PedalKind, function: Function) -> None:
        ident = lookup.free_id(lookup.ids_of(self._desk.plan.pedals), f"{kind}-{function}")
        name = capital(say("{kind} for {function}", kind=say(kind), function=say(function)))
        self._perform(add_pedal(Pedal(id=ident, name=name, kind=kind, function=function)))
        self._desk.select(f"{PEDAL}{ident}")

    def refresh(self) -> None:
        """Show the plan as it is now, and work the fit out beside."""
        plan = self._desk.plan
        self._fill(plan)
        sockets = sockets_of(plan)
        if not plan.pedals or not sockets:
            self._plan, self.found = None, None
            self.grid.show_plan(plan, ())
            self.take.setEnabled(False)
            missing = say("No pedal is planned yet: add those that you have.")
            self.words.setText(missing if sockets else say("No device here has jacks for pedals."))
            return
        if plan is self._plan:
            return
        self.found = None
        self.grid.show_plan(plan, ())
        self.take.setEnabled(False)
        self._plan = plan
        self._aside.start(partial(_fitted, plan), self._keep)

    def _keep(self, fits: _Fits) -> None:
        """Show what was found for the plan as it is."""
        plan = self._plan
        if plan is None or plan is not self._desk.plan:
            return
        self.found = fits.best
        self.grid.show_plan(plan, fits.best.plugs)
        best = say("Best") if fits.best.proved else say("Best found in time")
        said = [f"{best}: {fit_words(plan, fits.best)}", swap_words(plan, fits.best)]
        if fits.other is not None:
            said.append(say("Next best: {other}", other=other_words(plan, fits.best, fits.other)))
        said.extend(hopeless_words(plan))
        self._about_fit = [line for line in said if line]
        self._tell()
        self.take.setEnabled(self._edit(fits.best).change(plan) != plan)

    def _tell(self) -> None:
        """The fit, then what the chosen pedals, or all of them, would cost by a floorboard."""
        plan = self._desk.plan
        rows = [row for row in self.table.chosen_rows if row < len(plan.pedals)]
        pedals = tuple(plan.pedals[row] for row in rows)
        priced = pedals if len(pedals) > 1 else plan.pedals
        lines = [*self._about_fit, *floorboard_words(plan, priced)]
        self.words.setText("\n".join(lines))

    @staticmethod
    def _edit(found: PedalFit) -> Edit:
        return take_over(found.plugs, found.given)

    def _fill(self, plan: Plan) -> None:
        where = {plug.pedal: plug.jack for plug in plan.pedal_plugs}
        rows = []
        for pedal in plan.pedals:
            wanted = listed(wish_words(plan, wish) for wish in pedal.wishes)
            line = [pedal.name, wanted, say("no jack"), "", ""]
            if pedal.id in where:
                owner, jack = pedal_jack(plan, where[pedal.id])
                met = served(pedal, jack, owner.id)
                line[2:] = [
                    say("{jack} of {owner}", jack=jack.name, owner=owner.name),
                    WORKS[met.works],
                    met.feel,
                ]
            rows.append(row_of(line, f"{PEDAL}{pedal.id}"))
        self.table.show_rows(rows)

    def _choose(self) -> None:
        ref = self.table.chosen_ref
        if ref:
            self._desk.select(ref)
        if self._desk.plan.pedals and self.found is not None:
            self._tell()

    def _plug(self, pedal: str, jack: str) -> None:
        """Plug a pedal in, or pull it out of where it is."""
        plan = self._desk.plan
        if any((plug.pedal, plug.jack) == (pedal, jack) for plug in plan.pedal_plugs):
            self._perform(pull_out(pedal))
            return
        try:
            self._perform(plug_in(plan, pedal, jack))
        except EditError as error:
            self.words.setText(str(error))

    def _take(self) -> None:
        if self.found is not None:
            self._perform(self._edit(self.found))
