"""The page Pistons: what each piston sets and each shoe adds, stop by stop, ticked in a table."""

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

from PySide6.QtCore import QModelIndex
from PySide6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.sheets_organ import PISTON
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button, add_action, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.views.console.shared import Bench
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import couplers
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.organ import Combination, Crescendo
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.say import say
from vastzone.core.text import whole_number


class Drawer(NamedTuple):
    """A piston or a shoe that draws, in the device that holds it."""

    owner: Device
    thing: Combination | Crescendo

    @property
    def ref(self) -> str:
        """How the facts know it."""
        return f"{PISTON}{self.owner.id}:{self.thing.id}"


class PistonsPage(QWidget):
    """A row for each stop, a column for each piston and shoe; stages of a shoe are typed."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.chosen = ""
        self._columns: tuple[Drawer, ...] = ()
        self.table = typing_table((say("Stop"),), say("What pistons and shoes draw"))
        self.table.horizontalHeader().setStretchLastSection(True)
        self.table.held.ticked.connect(self._tick)
        self.table.held.typed.connect(self._type)
        self.table.selectionModel().currentChanged.connect(self._go)
        self.table.horizontalHeader().sectionClicked.connect(self._choose)
        self.add, self.add_shoe = Button(say("Add a piston")), Button(say("Add a crescendo"))
        self.add.setMenu(QMenu(self))
        self.add_shoe.setMenu(QMenu(self))
        self.set, self.press = Button(say("Set it to what is drawn")), Button(say("Press it"))
        self.remove = Button(say("Remove"))
        set_tip(self.set, say("What is drawn now on the page Console, or by other pistons"))
        self.set.clicked.connect(self._set)
        self.press.clicked.connect(self._press)
        self.remove.clicked.connect(self._remove)
        self.words = quiet("")
        self.words.setWordWrap(True)
        box, line = QVBoxLayout(self), QHBoxLayout()
        box.setContentsMargins(14, 4, 14, 10)
        box.setSpacing(8)
        for button in (self.add, self.add_shoe, self.press, self.set, self.remove):
            line.addWidget(button)
        line.addStretch()
        box.addLayout(line)
        box.addWidget(self.words)
        box.addWidget(self.table, 1)
        bench.desk.stage.sounding.connect(self._show_drawn)

    @property
    def drawers(self) -> tuple[Drawer, ...]:
        """Everything that draws here: of the console, and of what it is wired to."""
        owner, found = self._bench.owner, []
        for device in self._bench.desk.plan.devices:
            mine = owner is not None and (device is owner or not device.keybeds)
            if mine:
                found += [Drawer(device, one) for one in device.combinations]
                found += [Drawer(device, shoe) for shoe in device.crescendos]
        return tuple(found)

    @property
    def drawer(self) -> Drawer | None:
        """The one that is chosen."""
        return next((each for each in self.drawers if each.ref == self.chosen), None)

    def refresh(self) -> None:
        """Show what draws what as it is now."""
        owner = self._bench.owner
        if owner is None:
            return
        drawers = self.drawers
        self._columns = drawers
        self.table.held.show_columns((say("Stop"), *(each.thing.name for each in drawers)))
        self.table.setColumnWidth(0, 190)
        for column, each in enumerate(drawers, 1):
            wide = self.table.fontMetrics().horizontalAdvance(each.thing.name)
            self.table.setColumnWidth(column, max(80, min(170, wide + 34)))
        self._offer(owner)
        self._fill(owner)
        self._tell()

    def _stops(self, owner: Device) -> tuple[tuple[Device, str, str], ...]:
        """What can be drawn: the stops of the console, then the targets that an organ draws."""
        rows = []
        for control in owner.controls:
            if _is_stop(control):
                rows.append((owner, control.id, control.name))
        for device in {each.owner.id: each.owner for each in self.drawers}.values():
            if device is not owner:
                rows += [(device, target.id, target.name) for target in device.targets]
        return tuple(rows)

    def _fill(self, owner: Device) -> None:
        drawn = self._bench.desk.stage.performance.registration.drawn
        rows = []
        for device, ident, name in self._stops(owner):
            rows.append(self._row(device, ident, name, ref_to(device.id, ident) in drawn))
        self.table.show_rows(rows)

    def _row(self, device: Device, ident: str, name: str, drawn: bool) -> Row:
        cells = [Cell(name, colour=THEME.colours.action if drawn else "")]
        if drawn:
            cells[0] = cells[0]._replace(text=say("{name} · drawn", name=name))
        for each in self._columns:
            cells.append(_cell(each, device, ident))
        return row_of(cells, ref_to(device.id, ident))

    def _offer(self, owner: Device) -> None:
        """The buttons that set nothing yet, and the shoes that add nothing."""
        used = {each.thing.by for each in self.drawers if each.owner is owner}
        for button, kind, add in (
            (self.add, False, self._add_piston),
            (self.add_shoe, True, self._add_crescendo),
        ):
            menu = button.menu()
            menu.clear()
            for control in owner.controls:
                ability = control_ability(control)
                fits = ability.shoe if kind else ability.pressed and not ability.stays
                if fits and control.id not in used:
                    add_action(menu, control.name, partial(add, owner.id, control))
            self._offer_organs(menu, add)
            button.setEnabled(not menu.isEmpty())

    def _offer_organs(self, menu: QMenu, add: Callable[[str, Control | Target], None]) -> None:
        """What an organ is told by the console may draw its own stops: it holds that itself."""
        moved = set()
        for wish in self._bench.desk.plan.wishes:
            owner = self._bench.owner
            if wish.moves and owner and device_of(wish.sources[0]) == owner.id:
                moved.add(wish.moves)
        used = {ref_to(each.owner.id, each.thing.by) for each in self.drawers}
        for device in self._bench.desk.plan.devices:
            for target in device.targets if not device.keybeds else ():
                ref = ref_to(device.id, target.id)
                if ref in moved and ref not in used:
                    words = say(
                        "{target}, held by {device}", target=target.name, device=device.name
                    )
                    add_action(menu, words, partial(add, device.id, target))

    def _add_piston(self, owner: str, control: Control | Target) -> None:
        one = Combination(id=control.id, name=control.name, by=control.id)
        self._perform(couplers.add_combination(owner, one))
        self.chosen = f"{PISTON}{owner}:{control.id}"
        self._bench.desk.select(self.chosen)

    def _add_crescendo(self, owner: str, control: Control | Target) -> None:
        one = Crescendo(id=control.id, name=control.name, by=control.id)
        self._perform(couplers.add_crescendo(owner, one))
        self.chosen = f"{PISTON}{owner}:{control.id}"
        self._bench.desk.select(self.chosen)

    def _go(self, now: QModelIndex) -> None:
        """The cell that is current is of the piston that is chosen."""
        self._choose(now.column())

    def _choose(self, column: int) -> None:
        if 1 <= column <= len(self._columns):
            self.chosen = self._columns[column - 1].ref
            self._bench.desk.select(self.chosen)
            self._tell()

    def _tick(self, row: int, column: int, on: bool) -> None:
        each = self._columns[column - 1]
        _, ident = read_ref(str(self.table.held.rows[row].ref))
        self._perform(couplers.set_draws(each.owner.id, each.thing.id, ident, on))

    def _type(self, row: int, column: int, words: str) -> None:
        each = self._columns[column - 1]
        _, ident = read_ref(str(self.table.held.rows[row].ref))
        stage = whole_number(words)
        if words.strip() and stage is None:
            self.words.setText(say("A stage is a number from 1; leave it empty to draw it never."))
            return
        edit = couplers.set_stage(each.owner.id, each.thing.id, ident, stage)
        try:
            edit.change(self._bench.desk.plan)
        except EditError as error:
            self.words.setText(str(error))
        else:
            self._perform(edit)

    def _set(self) -> None:
        each = self.drawer
        if each is None:
            return
        drawn = self._bench.desk.stage.performance.registration.drawn
        held = {ref for ref, note in map(self._bench.key, self._bench.held) if note is None}
        here = []
        for ref in sorted(drawn | held):
            device, ident = read_ref(ref)
            if device == each.owner.id:
                here.append(ident)
        self._perform(couplers.capture(each.owner.id, each.thing.id, here))

    def _press(self) -> None:
        each = self.drawer
        if each is not None:
            ref = ref_to(each.owner.id, each.thing.by)
            self._bench.desk.stage.move((ref, 1), 127, now_ms())
            self._bench.desk.stage.move((ref, 1), 0, now_ms())
            self._show_drawn()

    def _remove(self) -> None:
        each = self.drawer
        if each is None:
            return
        if isinstance(each.thing, Combination):
            self._perform(couplers.remove_combination(each.owner.id, each.thing.id))
        else:
            self._perform(couplers.remove_crescendo(each.owner.id, each.thing.id))

    def _show_drawn(self) -> None:
        owner = self._bench.owner
        if owner is not None and self.isVisible():
            self._fill(owner)

    def _tell(self) -> None:
        each = self.drawer
        is_piston = each is not None and isinstance(each.thing, Combination)
        self.set.setEnabled(is_piston)
        self.press.setEnabled(is_piston)
        self.remove.setEnabled(each is not None)
        if not self._columns:
            said = say("No piston sets anything yet: add one, then tick the stops that it draws.")
        elif each is None:
            said = say(
                "Choose a piston by its column. Ticks are what it draws; stages count from 1."
            )
        else:
            said = say("{thing}, held by {owner}.", thing=each.thing.name, owner=each.owner.name)
        told = []
        for finding in self._bench.desk.findings:
            if finding.rule.endswith("draws otherwise"):
                told.append(finding.sentence)
        self.words.setText(" ".join([said, *told[:2]]))


def _is_stop(control: Control) -> bool:
    """Whether a control is drawn, and not a piston or a shoe."""
    return control_ability(control).stays


def _cell(each: Drawer, device: Device, ident: str) -> Cell:
    """Whether a piston draws something, or from which stage a shoe does."""
    if each.owner is not device:
        return Cell("")
    if isinstance(each.thing, Combination):
        return Cell("", tip=each.thing.name, ticked=ident in each.thing.draws)
    for number, stage in enumerate(each.thing.stages):
        if ident in stage:
            return Cell(str(number + 1), typed=True)
    return Cell("", tip=say("A stage from 1"), typed=True)
