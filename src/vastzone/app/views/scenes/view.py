"""The view Scenes: the evening, the programs of every song, how they are stored, rehearsing."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from vastzone.app.applying import Performer
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.pages import page_buttons
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.views.base import View
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.app.views.scenes.costs import CostsPage
from vastzone.app.views.scenes.evening import EveningPage
from vastzone.app.views.scenes.programs import ProgramsPage
from vastzone.app.views.scenes.rehearse import RehearsePage
from vastzone.app.views.scenes.stage import Stage
from vastzone.app.views.scenes.storing import StoringPage
from vastzone.core.cards.setlist import SongRow, rows_of
from vastzone.core.plan.edits.scenes import add_scene
from vastzone.core.say import say
from vastzone.desk.session import Desk

PAGES = PAGE_NAMES["scenes"]


class ScenesView(View):
    """Pages about the songs of a plan and the order in which they are played."""

    page_names = PAGES

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self.evening = EveningPage(desk, perform)
        self.programs = ProgramsPage(desk, perform)
        self.costs = CostsPage(desk)
        self.storing = StoringPage(desk, perform)
        self.rehearse = RehearsePage(desk)
        self.empty = EmptyState(
            say("No songs yet"),
            say(
                "A scene is a song, a cue or a registration: each says which program every "
                "device is "
                "on. Add the first one, or read a set list from a file."
            ),
            say("Add a song"),
            self._begin,
        )
        self.stage: Stage | None = None
        self.show_stage = Button(say("Stage"))
        set_tip(
            self.show_stage, say("The song that is played, in large letters over everything (F11)")
        )
        self.show_stage.clicked.connect(self.open_stage)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 14, 8)
        bar.setSpacing(7)
        self._pages = page_buttons(self, PAGES, bar, self.refresh)
        bar.addStretch()
        bar.addWidget(self.show_stage)
        outer.addLayout(bar)
        self._stack = Stack()
        for page in (
            self.evening,
            self.programs,
            self.costs,
            self.storing,
            self.rehearse,
            self.empty,
        ):
            self._stack.add(page)
        outer.addWidget(self._stack, 1)
        self.lead = self.evening.ribbon

    def _begin(self) -> None:
        self._perform(add_scene(say("Song 1")))

    def show_page(self, page: int) -> None:
        """Show a page by its place among ``page_names``."""
        self._pages.button(page).setChecked(True)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        self.show_stage.setEnabled(bool(self.desk.plan.scenes))
        if not self.desk.plan.scenes:
            self._stack.show_page(self.empty)
            return
        page = self._pages.checkedId()
        self._stack.show_at(page)
        one = self.evening.setlist
        if PAGES[page] == "Evening":
            self.evening.refresh()
        elif PAGES[page] == "Programs":
            self.programs.refresh()
        elif PAGES[page] == "Changes":
            self.costs.refresh()
        elif PAGES[page] == "Storing":
            self.storing.refresh_for(one)
        elif one is not None:
            self.rehearse.show_songs(rows_of(self.desk.plan, one))

    def open_stage(self) -> None:
        """The song in large letters over the whole screen."""
        if self.evening.setlist is None:
            return
        self.stage = Stage(self.desk, self._songs, self.rehearse.chosen_stepper)
        self.stage.left.connect(self._closed)
        self.stage.showFullScreen()
        self.stage.activateWindow()

    def _songs(self) -> tuple[SongRow, ...]:
        """The evening as it is now; nothing in a plan without songs."""
        one = self.evening.setlist
        return rows_of(self.desk.plan, one) if one is not None else ()

    def _closed(self) -> None:
        self.stage = None
