"""The Pedals view: feet and hands, the response of the chosen one, its motion, the fit of jacks."""

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.fields import choose, offer
from vastzone.app.frame.pages import RefreshedPage, page_buttons
from vastzone.app.frame.stack import Stack
from vastzone.app.views.base import View
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.app.views.pedals.canvas import PedalsCanvas
from vastzone.app.views.pedals.compare import ComparePage
from vastzone.app.views.pedals.jacks import JacksPage
from vastzone.app.views.pedals.levels import LevelsPage
from vastzone.app.views.pedals.motion import MotionPage
from vastzone.app.views.pedals.moves import MovesTable
from vastzone.app.views.pedals.numbers import NumbersPage
from vastzone.app.views.pedals.plot import MotionStrip, ResponsePlot
from vastzone.app.views.pedals.travel import TravelPage
from vastzone.app.views.pedals.velocity import VelocityPage
from vastzone.core.engine.report import Report
from vastzone.core.say import say
from vastzone.desk.session import Desk

FRAME_MS = 16
PAGES = PAGE_NAMES["pedals"]


class PedalsView(View):
    """Pages: controls with the response and motion of the chosen one, jacks, what is measured."""

    page_names = PAGES

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self.canvas = PedalsCanvas(desk, perform)
        self.plot, self.strip = ResponsePlot(), MotionStrip()
        self.jacks = JacksPage(desk, perform)
        self._ref = ""
        self.travel, self.velocity = TravelPage(desk, perform), VelocityPage(desk, perform)
        self.levels, self.table = LevelsPage(desk, perform), MovesTable(desk, perform)
        self.compare = ComparePage(desk)
        self.motion, self.numbers = MotionPage(desk, perform), NumbersPage(desk, perform)
        body = QWidget()
        box = QVBoxLayout(body)
        box.setContentsMargins(0, 0, 0, 8)
        box.setSpacing(6)
        self._scroll = QScrollArea()
        self._scroll.setObjectName("canvasScroll")
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._scroll.setWidgetResizable(True)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setWidget(self.canvas)
        box.addWidget(self._scroll, 6)
        box.addWidget(self.plot, 4)
        box.addWidget(self.strip, 1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addLayout(self._bar())
        self._stack = Stack()
        empty = EmptyState(
            say("No pedals or knobs yet"),
            say(
                "Add a keyboard, a pad controller or a floorboard in Rig: "
                "what feet and hands move stands here, to work and to hear."
            ),
        )
        for page in (
            body,
            self.jacks,
            self.travel,
            self.motion,
            self.velocity,
            self.levels,
            self.table,
            self.compare,
            self.numbers,
            empty,
        ):
            self._stack.add(page)
        outer.addWidget(self._stack, 1)
        self._frame = QTimer(self)
        self._frame.setInterval(FRAME_MS)
        self._frame.timeout.connect(self._advance)
        self.canvas.moved.connect(self._moved)
        desk.stage.struck.connect(self._follow_strike)
        self.lead = self.canvas

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 10, 8)
        bar.setSpacing(2)
        names = PAGES
        self._pages = page_buttons(self, names, bar, self.refresh)
        bar.addStretch()
        self.bank: QComboBox = CalmCombo()
        self.bank.setAccessibleName(say("Bank of knobs and faders"))
        self.bank.activated.connect(lambda _: self._desk_bank())
        bar.addWidget(self.bank)
        return bar

    def _desk_bank(self) -> None:
        self.desk.show_bank(int(self.bank.currentData()))

    def _offer_banks(self) -> None:
        """The banks in which anything but pads exists; nothing to choose where there is one."""
        most = max((tile.held.control.banks for tile in self.canvas.tiles), default=1)
        offer(
            self.bank,
            [(say("Bank {number}", number=number + 1), number + 1) for number in range(most)],
        )
        choose(self.bank, min(self.desk.bank, most))
        self.bank.setVisible(most > 1)

    def show_page(self, page: int) -> None:
        """Show a page by its place among ``page_names``."""
        self._pages.button(page).setChecked(True)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        self.canvas.rebuild()
        self._offer_banks()
        page = self._pages.checkedId()
        self._stack.show_at(page if page or self.canvas.tiles else len(PAGES))
        pages: dict[str, RefreshedPage] = {
            "Jacks": self.jacks,
            "Motion": self.motion,
            "Velocity": self.velocity,
            "Levels": self.levels,
            "Table": self.table,
            "Compare": self.compare,
            "Numbers": self.numbers,
        }
        if PAGES[page] in pages:
            pages[PAGES[page]].refresh()
        self._show_chosen()

    def _show_chosen(self) -> None:
        chosen = self.canvas.chosen
        ref = chosen.ref if chosen else ""
        if ref != self._ref:
            self._ref = ref
            self.strip.clear()
            tile = next((t for t in self.canvas.tiles if t.held.ref == ref), None)
            if tile is not None:
                at = tile.rect.center().toPoint()
                self._scroll.ensureVisible(at.x(), at.y(), 0, round(tile.rect.height()))
        self.plot.show_control(chosen, self.canvas.value_of(chosen) if chosen else 0)
        slow = (
            [move.target for move in chosen.moves if move.target.rise_ms or move.target.fall_ms]
            if chosen
            else []
        )
        self.strip.slew = (slow[0].rise_ms, slow[0].fall_ms) if slow else None

    def _moved(self, ref: str, value: int) -> None:
        self._show_chosen()
        if ref == self._ref:
            self.strip.add(now_ms(), value)
            self._frame.start()

    def _follow_strike(self, report: Report) -> None:
        """A control moved elsewhere, by MIDI say."""
        known = {tile.held.ref for tile in self.canvas.tiles}
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
