"""The Cards view: the devices with their steps, one card to tick, preview and export."""

from collections.abc import Callable
from datetime import date
from functools import partial
from pathlib import Path

from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QVBoxLayout,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.fields import CalmCombo
from vastzone.app.frame.rows import Cell
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.jobs import BackgroundJob
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.app.views.base import View
from vastzone.app.views.cards.page import CardPage
from vastzone.core.cards.card import PENDING, Card, CardStep, Left, by_device, card, left, tick
from vastzone.core.errors import PlanError
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.text import many, one_line
from vastzone.desk.session import Desk
from vastzone.files.reading import is_there


class CardsView(View):
    """Devices at the left, the card of one of them at the right."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self._device = ""
        self._kept: dict[str, frozenset[str]] = {}
        self._plan_name = ""
        self._paper = BackgroundJob(self)
        self.page = CardPage()
        self.page.ticked.connect(self._tick)
        self._empty = EmptyState("", "")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(self._bar())
        row = QHBoxLayout()
        row.setContentsMargins(14, 0, 0, 0)
        row.setSpacing(0)
        self.list = RowList("Devices with something to dial")
        self.list.setFixedWidth(196)
        self.list.chosen.connect(self._choose)
        self._left = QWidget()
        side = QVBoxLayout(self._left)
        side.setContentsMargins(0, 4, 0, 12)
        side.addWidget(self.list)
        row.addWidget(self._left)
        row.addWidget(self.page, 1)
        row.addWidget(self._empty, 1)
        box.addLayout(row, 1)
        self.setFocusProxy(self.page)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Leave more of a small window to the card."""
        super().resizeEvent(event)
        self.list.setFixedWidth(150 if self.width() < 700 else 196)

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 14, 8)
        bar.setSpacing(8)
        self.scope = CalmCombo()
        self.scope.setAccessibleName("What the cards hold")
        self.scope.addItem("Only what is left to dial", "left")
        self.scope.addItem("Every setting", "all")
        self.scope.currentIndexChanged.connect(self._anew)
        self._words = Elided("muted")
        self.preview = Button("Print preview")
        self.preview.clicked.connect(self.show_preview)
        self.export = Button("Export…")
        set_tip(self.export, "cards.pdf and cards.csv into a folder")
        self.export.clicked.connect(self.write)
        bar.addWidget(self.scope)
        bar.addWidget(self._words, 1)
        bar.addWidget(self.preview)
        bar.addWidget(self.export)
        return bar

    def _anew(self) -> None:
        self._kept = {}
        self.refresh()

    @property
    def _everything(self) -> bool:
        return bool(self.scope.currentData() == "all")

    def _also(self, device: str) -> frozenset[str]:
        """The settings of a device that stay on its card though they are done."""
        return self._kept.get(device, frozenset())

    def _keep(self, wanted_refs: dict[str, frozenset[str]]) -> None:
        for device, refs in wanted_refs.items():
            if not refs <= self._also(device):
                self._kept[device] = self._also(device) | refs

    def counts(self) -> dict[str, Left]:
        """What each device has left, and what was ticked while one looked on."""
        plan = self.desk.plan
        counts = {}
        for device in plan.devices:
            counts[device.id] = left(plan, device, self._everything, self._also(device.id))
        shown = {}
        for ident, one in counts.items():
            if one.steps or one.done:
                shown[ident] = one
        return shown

    def cards(self) -> tuple[Card, ...]:
        """All cards, as they are printed."""
        plan = self.desk.plan
        cards = (
            card(plan, device, self._everything, self._also(device.id)) for device in plan.devices
        )
        filled = []
        for c in cards:
            if c.steps:
                filled.append(c)
        return tuple(filled)

    def refresh(self) -> None:
        """Show the plan as it is now."""
        plan = self.desk.plan
        if plan.name != self._plan_name:
            self._plan_name, self._kept = plan.name, {}
            self.page.prepared.clear()
        self._keep(by_device(setting.ref for setting in plan.settings if setting.state in PENDING))
        self.preview.setIcon(icon("printer", THEME.colours.ink, 18))
        counts = self.counts()
        self._fill(counts)
        self._show(bool(counts))
        self._say_effort()

    def _say_effort(self) -> None:
        """How much is left, for all devices."""
        counts = self.counts().values()
        steps = sum(one.steps for one in counts)
        presses = sum(one.presses for one in counts)
        done = sum(one.done for one in counts)
        words = f"{many(steps, 'step')} left, about {presses} presses · {done} done"
        self._words.show_text(words if counts else "")

    def _fill(self, counts: dict[str, Left]) -> None:
        """The list of devices; the same one stays chosen."""
        self._device = self._device if self._device in counts else next(iter(counts), "")
        colours = THEME.colours
        lines = []
        for ident, one in counts.items():
            name = one_line(lookup.device(self.desk.plan, ident).name)
            words = (
                f"{name}\n{many(one.steps, 'step')} left" if one.steps else f"{name}\nall dialled"
            )
            sign, shade = ("square", colours.muted) if one.steps else ("circle-check", colours.good)
            fresh = any(device_of(r) == ident for r in self.desk.unseen)
            picture = icon(sign, colours.action if fresh else shade, 18)
            lines.append((Cell(words, tip=name, icon=picture), ident))
        at = list(counts).index(self._device) if self._device in counts else -1
        self.list.show_lines(lines, at)

    def _show(self, shown: bool) -> None:
        self._left.setVisible(shown)
        self.page.setVisible(shown)
        self._empty.setVisible(not shown)
        for button in (self.preview, self.export):
            button.setEnabled(shown)
        if not self.desk.plan.devices:
            self._empty.say(
                "No cards yet",
                "Add devices in Rig, say in Plays what plays what, and "
                "work the numbers out: what to dial then stands here.",
            )
        elif self.desk.proof is not None and not self.desk.proof.good:
            why = "The numbers of this plan do not do what is wished. Work the numbers out: "
            self._empty.say("Nothing to dial yet", why + "what to dial then stands here.")
        else:
            self._empty.say(
                "Nothing to dial",
                "Every device holds what the plan wants. Choose “Every setting” to see all of it.",
            )
        self.page.show_card(self._card() if shown else None)

    def _card(self) -> Card:
        """The card of the chosen device."""
        device = lookup.device(self.desk.plan, self._device)
        return card(self.desk.plan, device, self._everything, self._also(self._device))

    def _choose(self, row: int) -> None:
        if row >= 0:
            self._device = self.list.ref
            self.page.show_card(self._card())
            self.desk.look_at(self._device)

    def _tick(self, steps: tuple[CardStep, ...], state: str) -> None:
        refs = tuple(ref for step in steps for ref in step.refs)
        self._keep(by_device(refs))
        self._perform(tick(refs, state, date.today().isoformat()))  # type: ignore[arg-type]
        self.desk.look_at(self._device)

    def _lay_out(self, done: Callable[[bytes], None]) -> None:
        """Lay the cards out on paper beside the window."""
        from vastzone.files.sheets import to_pdf

        name, cards, today = self.desk.plan.name, self.cards(), date.today().isoformat()
        self._words.show_text("Laying the pages out …")
        self._paper.start(lambda _: to_pdf(name, cards, today), done)

    def show_preview(self) -> None:
        """Look at the pages, and print them."""
        self._lay_out(self._preview)

    def _preview(self, sheet: bytes) -> None:
        from vastzone.app.views.cards.preview import Preview

        self._say_effort()
        Preview(self, f"Cards of {self.desk.plan.name}", sheet).open()

    def write(self) -> None:
        """Write PDF and CSV into a folder."""
        folder = dialogs.ask_folder(self, "Export the cards into a folder")
        if folder is not None and self._may_replace(folder):
            self._lay_out(partial(self._write, folder, self.cards()))

    def _write(self, folder: Path, cards: tuple[Card, ...], sheet: bytes) -> None:
        from vastzone.files.sheets import write_cards

        self._say_effort()
        try:
            written = write_cards(cards, sheet, folder)
        except PlanError as error:
            dialogs.say(self, str(error))
            return
        self._words.show_text(f"Written: {' and '.join(str(p) for p in written)}")

    def _may_replace(self, folder: Path) -> bool:
        """Whether cards that were written there before may be replaced."""
        from vastzone.files.sheets import card_files

        names = []
        for path in card_files(folder):
            if is_there(path):
                names.append(path.name)
        return not names or dialogs.ask_replace(self, f"{' and '.join(names)} are")

    def show_device(self, device: str) -> None:
        """Show the card of a device."""
        if any(d.id == device for d in self.desk.plan.devices):
            self._device = lookup.device(self.desk.plan, device).id
            self.refresh()
