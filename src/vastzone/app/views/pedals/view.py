"""The Pedals view: feet and hands, the response of the chosen one, its motion, the fit of jacks."""

from functools import partial

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QScrollArea,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.clock import now_ms
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.sheets_pedals import PEDAL
from vastzone.app.perform import Performer
from vastzone.app.views.base import View
from vastzone.app.views.pedals.canvas import PedalsCanvas
from vastzone.app.views.pedals.levels import LevelsPage
from vastzone.app.views.pedals.moves import MovesTable
from vastzone.app.views.pedals.plot import MotionStrip, ResponsePlot
from vastzone.app.views.pedals.travel import TravelPage
from vastzone.app.views.pedals.velocity import VelocityPage
from vastzone.core.engine.report import Report
from vastzone.core.plan import lookup
from vastzone.core.plan.model import Plan
from vastzone.core.plan.pedal import Function, Pedal, PedalKind
from vastzone.core.plan.pedals import add_pedal, take_over
from vastzone.core.proof.words import listed, many
from vastzone.core.solve.pedals import (
    PedalFit,
    by_floorboard,
    fit_pedals,
    next_best,
    sockets_of,
)
from vastzone.desk.session import Desk

FRAME_MS = 16
NEW_PEDALS: tuple[tuple[PedalKind, Function], ...] = (
    ("switch", "sustain"), ("switch", "program up"), ("switch", "tap tempo"),
    ("latching switch", "hold"), ("continuous", "swell"), ("continuous", "morph"),
    ("dual switch", "any"), ("triple", "any"), ("hi-hat", "hi-hat"), ("voltage", "swell"),
)  # fmt: skip


class PedalsView(View):
    """Controls above; below them the response and motion of the chosen one, then the fit."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self.canvas, self.plot, self.strip = PedalsCanvas(desk), ResponsePlot(), MotionStrip()
        self.fit = FitCard(desk, perform)
        self._ref = ""
        self.travel, self.velocity = TravelPage(desk, perform), VelocityPage(desk, perform)
        self.levels, self.table = LevelsPage(), MovesTable(desk)
        body = QWidget()
        box = QVBoxLayout(body)
        box.setContentsMargins(0, 0, 0, 8)
        box.setSpacing(6)
        self._scroll = QScrollArea()
        self._scroll.setObjectName("canvasScroll")
        self._scroll.setWidgetResizable(True)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setWidget(self.canvas)
        box.addWidget(self._scroll, 6)
        box.addWidget(self.plot, 4)
        box.addWidget(self.strip, 1)
        row = QHBoxLayout()
        row.setContentsMargins(14, 0, 14, 0)
        row.addWidget(self.fit)
        box.addLayout(row)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addLayout(self._bar())
        middle = QWidget()
        self._stack = QStackedLayout(middle)
        empty = EmptyState(
            "No pedals or knobs yet", "Add a keyboard, a pad controller or a floorboard in Rig: "
            "what feet and hands move stands here, to work and to hear.",
        )  # fmt: skip
        for page in (body, self.travel, self.velocity, self.levels, self.table, empty):
            self._stack.addWidget(page)
        outer.addWidget(middle, 1)
        self._frame = QTimer(self)
        self._frame.setInterval(FRAME_MS)
        self._frame.timeout.connect(self._advance)
        self.canvas.moved.connect(self._moved)
        desk.stage.struck.connect(self._follow_strike)
        self.setFocusProxy(self.canvas)

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 14, 8)
        bar.setSpacing(7)
        self._pages = QButtonGroup(self)
        for n, name in enumerate(("Controls", "Travel", "Velocity", "Levels", "Table")):
            button = QPushButton(name)
            button.setCheckable(True)
            button.setChecked(not n)
            button.setProperty("role", "page")
            self._pages.addButton(button, n)
            bar.addWidget(button)
        bar.addStretch()
        self._pages.idClicked.connect(lambda _: self.refresh())
        return bar

    def show_page(self, page: int) -> None:
        """Show the controls (0), travel (1), velocity (2), levels (3) or the table (4)."""
        self._pages.button(page).setChecked(True)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        self.canvas.rebuild()
        page = self._pages.checkedId()
        self._stack.setCurrentIndex(page if page or self.canvas.tiles else 5)
        if page == 4:
            self.table.refresh()
        self._show_chosen()
        self.fit.refresh()

    def _show_chosen(self) -> None:
        held = self.canvas.chosen
        ref = held.ref if held else ""
        if ref != self._ref:
            self._ref = ref
            self.strip.clear()
            tile = next((t for t in self.canvas.tiles if t.held.ref == ref), None)
            if tile is not None:
                at = tile.rect.center().toPoint()
                self._scroll.ensureVisible(at.x(), at.y(), 0, round(tile.rect.height()))
        self.plot.show_control(held, self.canvas.values.get(ref, 0))
        slow = (
            [m.target for m in held.moves if m.target.rise_ms or m.target.fall_ms] if held else []
        )
        self.strip.slew = (slow[0].rise_ms, slow[0].fall_ms) if slow else None

    def _moved(self, ref: str, value: int) -> None:
        self._show_chosen()
        if ref == self._ref:
            self.strip.add(now_ms(), value)
            self._frame.start()

    def _follow_strike(self, report: Report) -> None:
        """A control moved elsewhere, by MIDI say."""
        known = {t.held.ref for t in self.canvas.tiles}
        if report.key is None and report.subject in known:
            value = report.velocity
            if self.canvas.values.get(report.subject, 0) != value:
                self.canvas.values[report.subject] = value
                self.canvas.update()
                self._moved(report.subject, value)

    def _advance(self) -> None:
        self.strip.advance(now_ms())
        if not self.strip.moving or not self.isVisible():
            self._frame.stop()


class FitCard(QFrame):
    """Which pedal into which jack: what it comes to, the next best, and what a floorboard costs."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.found: PedalFit | None = None
        self.setProperty("role", "card")
        box = QHBoxLayout(self)
        box.setContentsMargins(12, 9, 12, 9)
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setProperty("role", "small")
        self.add = QPushButton("Add a pedal")
        self.add.setMenu(self._menu())
        self.take = QPushButton("Fit pedals to jacks")
        self.take.setProperty("role", "primary")
        self.take.clicked.connect(self._take)
        box.addWidget(self.words, 1)
        column = QVBoxLayout()
        column.addWidget(self.take)
        column.addWidget(self.add)
        box.addLayout(column)

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        for kind, function in NEW_PEDALS:
            menu.addAction(
                f"{kind.capitalize()}, for {function}", partial(self._add, kind, function)
            )
        return menu

    def _add(self, kind: PedalKind, function: Function) -> None:
        ident = lookup.free_id((p.id for p in self._desk.plan.pedals), f"{kind}-{function}")
        name = f"{kind} for {function}".capitalize()
        self._perform(add_pedal(Pedal(id=ident, name=name, kind=kind, function=function)))
        self._desk.select(f"{PEDAL}{ident}")

    def refresh(self) -> None:
        """Work it out for the plan as it is: a small problem, at once."""
        plan = self._desk.plan
        sockets = sockets_of(plan)
        if not plan.pedals or not sockets:
            self.found = None
            self.take.setEnabled(False)
            self.words.setText(
                "No pedal is planned yet: add those that you have." if sockets
                else "No device here has jacks for pedals."
            )  # fmt: skip
            return
        self.found = fit_pedals(plan.pedals, sockets, plan.pedal_plugs)
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
        edit = take_over(self.found.plugs)
        self.take.setEnabled(edit.change(plan) != plan)

    def _take(self) -> None:
        if self.found is not None:
            self._perform(take_over(self.found.plugs))


def fit_words(plan: Plan, found: PedalFit) -> str:
    """A plugging in a sentence: how many work, what half works and how that feels, who is out."""
    names = {p.id: p.name for p in plan.pedals}
    full = sum(m.works == "works" for m in found.meetings.values())
    said = [f"{full} of {many(len(plan.pedals), 'pedal')} work as wanted"]
    half = [f"{names[i]} ({m.feel})" for i, m in found.meetings.items() if m.works == "half"]
    if half:
        said.append(f"half: {listed(half)}")
    if found.left_out:
        said.append(f"in no jack: {listed(names[i] for i in found.left_out)}")
    said.append(f"{many(found.moves, 'plug')} to move" if found.moves else "no plug moves")
    return "; ".join(said) + "."
