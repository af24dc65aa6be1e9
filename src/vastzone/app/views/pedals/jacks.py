"""The page Jacks: every pedal with the jack it is in, how it works there, and the best plugging."""

from functools import partial

from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.sheets_pedals import PEDAL
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, add_action
from vastzone.app.views.pedals.sockets import SocketGrid
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.pedals import add_pedal, pedal_jack, plug_in, pull_out, take_over
from vastzone.core.plan.model.pedals import Function, Pedal, PedalKind, served
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.solve.pedals import PedalFit, by_floorboard, fit_pedals, next_best, sockets_of
from vastzone.core.text import listed, many
from vastzone.desk.session import Desk

COLUMNS = ("Pedal", "Wanted for", "Jack", "Works", "How it feels")
NARROW = 700
WORKS = {"works": "as wanted", "half": "half", "not": "not at all", "never": "never: pull it out"}
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


class JacksPage(QWidget):
    """The pedals as a table; below it which pedal works in which jack, and the best fit."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.found: PedalFit | None = None
        self.table = reading_table(COLUMNS, "Pedals and their jacks")
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(4, QHeaderView.ResizeMode.Stretch)
        self.table.chosen.connect(self._choose)
        self.grid = SocketGrid()
        self.grid.pressed.connect(self._plug)
        self.grid.chosen.connect(lambda ident: self._desk.select(f"{PEDAL}{ident}"))
        self.words = Label()
        self.words.setWordWrap(True)
        self.words.setProperty("role", "small")
        self.add, self.take = Button("Add a pedal"), Button("Fit pedals to jacks")
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
        box.addWidget(self.grid)
        box.addWidget(self.words)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """How a pedal feels stands in its facts where there is no room here."""
        super().resizeEvent(event)
        narrow, modes = self.width() < NARROW, QHeaderView.ResizeMode
        self.table.setColumnHidden(4, narrow)
        mode = modes.Stretch if narrow else modes.Fixed
        self.table.horizontalHeader().setSectionResizeMode(0, mode)
        if not narrow:
            self.table.setColumnWidth(0, 150)

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        for kind, function in NEW_PEDALS:
            words = f"{kind.capitalize()}, for {function}"
            add_action(menu, words, partial(self._add, kind, function))
        return menu

    def _add(self, kind: PedalKind, function: Function) -> None:
        ident = lookup.free_id(lookup.ids_of(self._desk.plan.pedals), f"{kind}-{function}")
        name = f"{kind} for {function}".capitalize()
        self._perform(add_pedal(Pedal(id=ident, name=name, kind=kind, function=function)))
        self._desk.select(f"{PEDAL}{ident}")

    def refresh(self) -> None:
        """Show the plan as it is now, and work the fit out: a small problem, at once."""
        plan = self._desk.plan
        self._fill(plan)
        sockets = sockets_of(plan)
        if not plan.pedals or not sockets:
            self.found = None
            self.grid.show_plan(plan, ())
            self.take.setEnabled(False)
            missing = "No pedal is planned yet: add those that you have."
            self.words.setText(missing if sockets else "No device here has jacks for pedals.")
            return
        self.found = fit_pedals(plan.pedals, sockets, plan.pedal_plugs)
        self.grid.show_plan(plan, self.found.plugs)
        other = next_best(plan.pedals, sockets, self.found, plan.pedal_plugs)
        said = [f"Best: {fit_words(plan, self.found)}"]
        if other is not None:
            said.append(f"Next best: {fit_words(plan, other)}")
        board = by_floorboard(plan.pedals)
        said.append(
            f"All {board.jacks} by a MIDI floorboard: no jack needed, {board.numbers} numbers to "
            f"program with about {board.presses} presses, {board.delay_ms:.1f} ms later."
        )
        self.words.setText("\n".join(said))
        self.take.setEnabled(take_over(self.found.plugs).change(plan) != plan)

    def _fill(self, plan: Plan) -> None:
        where = {plug.pedal: plug.jack for plug in plan.pedal_plugs}
        rows = []
        for pedal in plan.pedals:
            line = [pedal.name, pedal.function, "no jack", "", ""]
            if pedal.id in where:
                owner, jack = pedal_jack(plan, where[pedal.id])
                met = served(pedal, jack)
                line[2:] = [f"{jack.name} of {owner.name}", WORKS[met.works], met.feel]
            rows.append(row_of(line, f"{PEDAL}{pedal.id}"))
        self.table.show_rows(rows)

    def _choose(self) -> None:
        ref = self.table.chosen_ref
        if ref:
            self._desk.select(ref)

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
            self._perform(take_over(self.found.plugs))


def fit_words(plan: Plan, solved: PedalFit) -> str:
    """A plugging in a sentence: how many work, what half works and how that feels, who is out."""
    names = lookup.names_of(plan.pedals)
    full = sum(m.works == "works" for m in solved.meetings.values())
    said = [f"{full} of {many(len(plan.pedals), 'pedal')} work as wanted"]
    half = []
    for i, m in solved.meetings.items():
        if m.works == "half":
            half.append(f"{names[i]} ({m.feel})")
    if half:
        said.append(f"half: {listed(half)}")
    if solved.left_out:
        said.append(f"in no jack: {listed(names[i] for i in solved.left_out)}")
    said.append(f"{many(solved.moves, 'plug')} to move" if solved.moves else "no plug moves")
    return "; ".join(said) + "."
