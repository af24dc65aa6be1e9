"""The facts on the right: exact values of what is selected, and its findings."""

from collections.abc import Callable
from itertools import islice
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QFormLayout,
    QFrame,
    QHBoxLayout,
    QMenu,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.frame.elided import Elided, quiet
from vastzone.app.frame.fields import make_field, show_value
from vastzone.app.frame.locks import LockButton, with_lock
from vastzone.app.frame.losing import with_consent
from vastzone.app.frame.sheet import FactRow, Sheet
from vastzone.app.frame.sheets import sheet_for
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.frame.wishing import places_of
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.locks import Held, lock, lock_all
from vastzone.core.plan.fields.dials import records
from vastzone.core.say import say, say_many
from vastzone.core.solve.holds import locked
from vastzone.desk.session import Desk

if TYPE_CHECKING:
    from vastzone.app.frame.findings import FindingCard
    from vastzone.core.proof.finding import Finding

WIDTH = 312


FEW = 9
"""Rows up to which nothing is folded away."""
FIRST = 12
"""Findings that are shown until the rest is asked for."""


class Facts(QFrame):
    """Shows one sheet and the findings that go with it.

    Folded, it is seen only while something is selected.
    """

    fold_wanted = Signal()

    def __init__(self, desk: Desk, wish: Callable[[], object]) -> None:
        super().__init__()
        self._desk = desk
        self._wish = wish
        self._sheet: Sheet | None = None
        self._shape: object = None
        self._whole: str | None = None
        self._cards: list[FindingCard] = []
        self._scenes: object = None
        self._fields: list[QWidget] = []
        self._locks: list[LockButton] = []
        self.folded = self.in_drawer = self._out = False
        self._all = False
        self.setObjectName("facts")
        self.setAccessibleName(say("Facts of the selected thing"))
        self._build()
        for signal in (
            desk.plan_changed,
            desk.memory_changed,
            desk.scene_changed,
            desk.selected,
            desk.proved,
        ):
            signal.connect(self.refresh)
        THEME.changed.connect(self._restyle)

    def fold(self, on: bool) -> None:
        """Be seen only while something is selected, or always."""
        self.folded = on
        words = say("Unfold the facts (F8)") if on else say("Fold the facts away (F8)")
        set_tip(self.folder, words)
        self.folder.setAccessibleName(words)
        self._appear()

    def appear(self, out: bool) -> None:
        """Be seen, or not, where they lie in a drawer."""
        self._out = out
        self._appear()

    def _appear(self) -> None:
        if self.in_drawer:
            self.setVisible(self._out)
        else:
            self.setVisible(bool(self._desk.selection) or not self.folded)

    def showEvent(self, event: QShowEvent) -> None:
        """Fill it with what is selected."""
        super().showEvent(event)
        self._restyle()

    def _build(self) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        scroll = QScrollArea()
        scroll.setObjectName("factsScroll")
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._body = body = QWidget()  # kept: what Qt alone holds, Python may forget and free
        body.setObjectName("factsBody")
        self._box = QVBoxLayout(body)
        self._box.setContentsMargins(14, 12, 12, 12)
        self._box.setSpacing(8)
        self.folder = QToolButton()
        self.folder.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.folder.clicked.connect(self.fold_wanted)
        self._top, self._below = QWidget(), QWidget()
        self._findings = QVBoxLayout(self._below)
        self._findings.setContentsMargins(0, 6, 0, 0)
        self._findings.setSpacing(8)
        self._count, self._nothing = Label(), quiet("")
        self._count.setProperty("role", "heading")
        self._findings.addWidget(self._count)
        self._findings.addWidget(self._nothing)
        self._message = Label()
        self._message.setProperty("role", "fault")
        self._message.setWordWrap(True)
        self._message.hide()
        self.rest = Button()
        self.rest.setProperty("role", "link")
        self.rest.clicked.connect(self._show_rest)
        for widget in (self._top, self._message, self._below, self.rest):
            self._box.addWidget(widget)
        self._box.addStretch()
        scroll.setWidget(body)
        outer.addWidget(scroll)
        self.more = Button()
        self.more.setProperty("role", "link")
        self.more.clicked.connect(self._show_all)
        row = QHBoxLayout()
        row.setContentsMargins(14, 2, 8, 6)
        row.addWidget(self.more, 1)
        row.addWidget(self.folder, 0, Qt.AlignmentFlag.AlignRight)
        outer.addLayout(row)
        self._desk.selected.connect(self._appear)

    def _restyle(self) -> None:
        self._shape = None
        self._forget_cards()
        bound(self, "FixedWidth", WIDTH + 12 * (THEME.colours.text_px - 14))
        self.folder.setIcon(icon("chevron-right", THEME.colours.ink, 14))
        self.refresh()

    def refresh(self) -> None:
        """Show what is selected now; widgets stay while they show the same things."""
        if not self.isVisible():
            return
        whole = sheet_for(self._desk, self._desk.selection)
        sheet = self._folded_sheet(whole)
        shape = (
            sheet.ref,
            sheet.kind,
            [r.label for r in sheet.rows],
            [press.label for press in sheet.presses],
        )
        self._sheet = sheet
        self._complain("")
        if sheet.ref != self._whole:
            self._whole = None
        if shape != self._shape:
            self._shape = shape
            self._show_sheet(sheet)
        else:
            self._title.setText(sheet.title)
            self._say(sheet.remark)
            for field, row in zip(self._fields, sheet.rows, strict=True):
                show_value(field, row)
        self._show_locks()
        self._show_findings()

    def _folded_sheet(self, sheet: Sheet) -> Sheet:
        """A sheet without what is seldom touched, unless that was asked for."""
        rare = [row for row in sheet.rows if row.rare]
        folds = len(rare) > 1 and len(sheet.rows) > FEW
        self.more.setVisible(folds)
        if not folds:
            return sheet
        self.more.setText(
            say("Show less") if self._all else say("Show {count} more", count=len(rare))
        )
        if self._all:
            return sheet
        return sheet._replace(rows=tuple(row for row in sheet.rows if not row.rare))

    def _show_all(self) -> None:
        self._all = not self._all
        self.refresh()

    def _show_locks(self) -> None:
        known = records(self._desk.planned)
        for button in self._locks:
            record = known.get(button.ref)
            held = record is not None and record.hold == "locked"
            button.show_locked(held, record.by if record is not None else "")

    def _lock(self, ref: str, hold: bool) -> None:
        """A lock is of the plan, whatever lens one looks through."""
        self._mend(lock(ref, "locked" if hold else "free", self._desk.held.initials))

    def lock_shown(self) -> None:
        """Lock every number that is shown, or free them where all are locked."""
        refs = [button.ref for button in self._locks]
        held = locked(self._desk.planned).issuperset(refs)
        if refs:
            hold: Held = "free" if held else "locked"
            self._mend(lock_all(refs, hold, self._desk.held.initials))

    def _offer_locks(self, ref: str, at: QPoint) -> None:
        """What can be locked together with a number, or freed."""
        from vastzone.app.frame.numbers_menu import add_locks

        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        add_locks(menu, self._desk.planned, (ref,), self._desk.held.initials, self._mend)
        menu.popup(at)

    def _show_sheet(self, sheet: Sheet) -> None:
        self._top = self._replace(self._top)
        box = QVBoxLayout(self._top)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(6)
        kind = Elided("heading")
        kind.show_text(sheet.kind)
        self._title = Label(sheet.title)
        self._title.setProperty("role", "title")
        self._title.setWordWrap(True)
        box.addWidget(kind)
        box.addWidget(self._title)
        form = QFormLayout()
        form.setHorizontalSpacing(12)
        form.setVerticalSpacing(4)
        form.setLabelAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self._fields, self._locks = [], []
        for index, row in enumerate(sheet.rows):
            field = make_field(row, self._changer(index), self._complain)
            self._fields.append(field)
            if row.ref:
                button = LockButton(row, self._lock, self._offer_locks)
                self._locks.append(button)
                form.addRow(Label(row.label), with_lock(field, button))
            else:
                form.addRow(Label(row.label), field)
        box.addLayout(form)
        if sheet.presses or places_of(self._desk):
            box.addLayout(self._presses(sheet))
        self._remark = quiet("")
        box.addWidget(self._remark)
        self._say(sheet.remark)

    def _say(self, remark: str) -> None:
        """What is remarked on the thing; nothing takes no room."""
        self._remark.setText(remark)
        self._remark.setVisible(bool(remark))

    def _presses(self, sheet: Sheet) -> QVBoxLayout:
        """Buttons beside each other as long as there is room, then below."""
        rows = QVBoxLayout()
        rows.setSpacing(6)
        left = 0
        buttons = []
        if places_of(self._desk):
            wish = Button(icon("lightbulb", THEME.colours.ink, 16), say("Wish…"))
            set_tip(wish, say("What it shall play or move (Ctrl+Shift+W)"))
            wish.clicked.connect(lambda _=False: self._wish())
            buttons.append(wish)
        for press in sheet.presses:
            button = Button(icon(press.icon, THEME.colours.ink, 16), press.label)
            button.clicked.connect(lambda _=False, p=press.label: self._press(p))
            buttons.append(button)
        for button in buttons:
            wide = button.sizeHint().width() + 6
            if wide > left:
                row = QHBoxLayout()
                row.setSpacing(6)
                row.setAlignment(Qt.AlignmentFlag.AlignLeft)
                rows.addLayout(row)
                left = self.width() - 44
            row.addWidget(button)
            left -= wide
        return rows

    def _replace(self, old: QWidget) -> QWidget:
        new = QWidget()
        self._box.insertWidget(self._box.indexOf(old), new)
        self._box.removeWidget(old)
        old.hide()
        old.deleteLater()
        return new

    def _changer(self, index: int):  # type: ignore[no-untyped-def]
        top = self._top

        def change(value: object) -> None:
            if top is not self._top:  # a button of a sheet that is gone repeats once more
                return
            row: FactRow | None = self._sheet.rows[index] if self._sheet else None
            make = row.make if row is not None and value != row.value else None
            if make is not None:
                self._make(lambda: make(value))

        return change

    def _press(self, label: str) -> None:
        press = (
            next((p for p in self._sheet.presses if p.label == label), None)
            if self._sheet
            else None
        )
        if press is not None:
            self._make(press.make)

    def _make(self, edit: Callable[[], Edit]) -> None:
        """Work an edit out and apply it; say why not when it cannot be."""
        try:
            self._perform(edit())
        except PlanError as error:
            self._complain(str(error))

    def _perform(self, edit: Edit) -> None:
        try:
            if self._desk.describing:
                with_consent(self, self._desk, edit, self._describe)
            else:
                self._desk.perform(edit)
        except PlanError as error:
            self.refresh()
            self._complain(str(error))

    def _describe(self, edit: Edit) -> None:
        """In the workshop facts say how a device is."""
        try:
            self._desk.describe(edit)
        except PlanError as error:
            self.refresh()
            self._complain(str(error))

    def _mend(self, edit: Edit) -> None:
        """A fix is of the plan, whatever lens one looks through."""
        self._desk.look("planned")
        self._perform(edit)

    def _complain(self, sentence: str) -> None:
        self._message.setText(sentence)
        self._message.setVisible(bool(sentence))

    def _show_findings(self) -> None:
        """A card for each finding; cards stay while they say the same."""
        from vastzone.app.frame.findings import FindingCard, lay_cards, like

        desk = self._desk
        ref = self._sheet.ref if self._sheet else ""
        chosen = desk.findings_of(ref) if ref else desk.findings
        alike = {like(f): f for f in chosen}
        count = len(alike)
        wanted = alike if ref == self._whole else dict(islice(alike.items(), FIRST))
        self.rest.setVisible(len(wanted) < count)
        self.rest.setText(
            say(
                "Show {findings}",
                findings=say_many(
                    "{count} more finding", "{count} more findings", count - len(wanted)
                ),
            )
        )
        if self._scenes is not desk.plan.scenes:
            self._scenes = desk.plan.scenes
            self._forget_cards()
        self._count.setText(say("Findings ({count})", count=count) if count else say("Findings"))
        self._nothing.setText(
            say("Nothing is wrong here.") if desk.plan.devices else say("No devices yet.")
        )
        self._nothing.setVisible(not count)
        cards = lay_cards(
            self._findings,
            2,
            self._cards,
            wanted,
            lambda: FindingCard(self._mend, self.go_to),
            lambda card, finding: card.show_finding(desk.plan, finding),
        )
        for card, finding in zip(cards, wanted.values(), strict=True):
            card.finding = finding

    def _show_rest(self) -> None:
        """Every finding of what is shown, until something else is."""
        self._whole = self._sheet.ref if self._sheet else ""
        self._show_findings()

    def _forget_cards(self) -> None:
        """Every card is to be filled anew."""
        for card in self._cards:
            card.key = None

    def go_to(self, finding: "Finding") -> None:
        """Go to the scene and the thing that a finding is about."""
        desk = self._desk
        if finding.scenes and (desk.scene is None or desk.scene.id not in finding.scenes):
            desk.go_to_scene(finding.scenes[0])
        desk.select(finding.subjects[0])
