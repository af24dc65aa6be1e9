"""The view Outputs: pages about what leaves the rig, and what it needs on the evening."""

from datetime import date
from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QToolButton, QVBoxLayout

from vastzone.app.applying import Performer
from vastzone.app.frame.pages import RefreshedPage, page_buttons
from vastzone.app.frame.preparing import Preparing
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.text import set_tip
from vastzone.app.jobs import BackgroundJob
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.app.views.base import View
from vastzone.app.views.outputs.delay import DelayPage
from vastzone.app.views.outputs.desk import DeskPage
from vastzone.app.views.outputs.packing import PackingPage
from vastzone.app.views.outputs.power import PowerPage
from vastzone.app.views.outputs.sounds import SoundsPage
from vastzone.app.views.outputs.stage_page import StagePage
from vastzone.app.views.outputs.without import WithoutPage
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.core.say import say
from vastzone.desk.session import Desk
from vastzone.files.paper import Form
from vastzone.files.sheet_files import Print, as_pdf, title_of

PRINTED = {
    "Sounds": "desk",
    "Desk": "desk",
    "Delay": "delay",
    "Power": "power",
    "Packing": "packing",
}
"""Which sheet tells on paper what a page shows."""
PAGES = PAGE_NAMES["outputs"]


class OutputsView(View):
    """A page for each thing that is settled before the stage."""

    page_names = PAGES

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self.sounds = SoundsPage(desk, perform)
        self.desk_page = DeskPage(desk, perform)
        self.delay = DelayPage(desk, perform)
        self.power = PowerPage(desk, perform)
        self.stage_page = StagePage(desk, perform)
        self.packing = PackingPage(desk, perform)
        self.without = WithoutPage(desk)
        self._every: tuple[RefreshedPage, ...] = (
            self.sounds,
            self.desk_page,
            self.delay,
            self.power,
            self.stage_page,
            self.packing,
            self.without,
        )
        outer, bar = QVBoxLayout(self), QHBoxLayout()
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        bar.setContentsMargins(14, 10, 14, 8)
        bar.setSpacing(7)
        self._pages = page_buttons(self, PAGES, bar, self.refresh)
        bar.addStretch()
        self._aside = BackgroundJob(self)
        self.paper = QToolButton()
        self.paper.setAccessibleName(say("On paper"))
        set_tip(self.paper, say("On paper: what this page tells, to print or to save"))
        self.paper.clicked.connect(self._lay_out)
        bar.addWidget(self.paper)
        outer.addLayout(bar)
        self._stack = Stack()
        for widget in (
            self.sounds,
            self.desk_page,
            self.delay,
            self.power,
            self.stage_page,
            self.packing,
            self.without,
        ):
            self._stack.add(widget)
        outer.addWidget(self._stack, 1)
        self.lead = self.sounds.grid
        Preparing(self, self._every)

    def show_page(self, page: int) -> None:
        """Show a page by its place among ``page_names``."""
        self._pages.button(page).setChecked(True)
        self.refresh()

    def attend(self) -> None:
        """Bring the cursor to the line of what is selected."""
        self.sounds.grid.attend(self.desk.selection)

    def refresh(self) -> None:
        """Show the plan as it is now."""
        page = self._pages.checkedId()
        self.paper.setVisible(PAGES[page] in PRINTED)
        self.paper.setIcon(icon("printer", THEME.colours.ink, 18))
        self._stack.show_at(page)
        self._every[page].refresh()

    def _lay_out(self) -> None:
        """The sheet of the page that is shown, laid out beside the window."""
        plan, memory = self.desk.planned, self.desk.memory
        kind = PRINTED[PAGES[self._pages.checkedId()]]
        today, by = date.today().isoformat(), self.desk.held.initials
        wanted = Print(kind, Form(), today, by)
        self._aside.start(lambda _: as_pdf(plan, memory, wanted), partial(self._preview, kind))

    def _preview(self, kind: str, sheet: bytes) -> None:
        from vastzone.app.views.cards.preview import Preview

        Preview(
            self,
            say("{title_of} of {planned}", title_of=title_of(kind), planned=self.desk.planned.name),
            sheet,
        ).open()
