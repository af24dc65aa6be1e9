"""Everything that is moved, as one table: control, number, channel, slot, target, ends, steps."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QMenu,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.numbers_menu import add_locks, add_schools
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, set_tip
from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import label
from vastzone.core.midi.wide import name as wide_name
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.renumber import renumber
from vastzone.core.plan.fields.dials import open_dials
from vastzone.core.plan.model.limits import CountLimit
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import send_place, setting_in
from vastzone.core.response.sweep import bits_of, end_values, steps
from vastzone.core.say import say, say_many
from vastzone.desk.moved_controls import MovedTarget, worked
from vastzone.desk.session import Desk

COLUMNS = (
    say("Control"),
    say("Sends"),
    say("Channel"),
    say("Target"),
    say("Slot"),
    say("From"),
    say("To"),
    say("Steps"),
)


class MovesTable(QWidget):
    """A line a movement; choosing one selects its control everywhere."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.rows = reading_table(COLUMNS, say("Everything that is moved"))
        header = self.rows.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        self.rows.chosen.connect(self._choose)
        self.rows.choose_many()
        self.rows.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.rows.customContextMenuRequested.connect(self._menu)
        self.slots_ = quiet("")
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 0, 14, 8)
        box.addWidget(self.rows, 1)
        box.addWidget(self.slots_)
        row = QHBoxLayout()
        self.first = QSpinBox()
        self.first.setRange(1, 119)
        self.first.setValue(desk.plan.schools.run_from)
        self.first.setPrefix(say("from "))
        self.first.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.first.setAccessibleName(say("First number of the run"))
        self.run = Button(say("Renumber to a run"))
        set_tip(self.run, say("Consecutive controllers in the order of the controls, on both ends"))
        self.run.clicked.connect(self._renumber)
        for widget in (self.run, self.first):
            row.addWidget(widget)
        row.addStretch()
        box.addLayout(row)

    def refresh(self) -> None:
        """Show the plan as it is now."""
        moves = []
        for w in worked(self._desk):
            for move in w.moves:
                if move.device:
                    moves.append((w, move))
        rows = []
        self._numbers: list[tuple[str, ...]] = []
        for work, moved in moves:
            self._numbers.append(self._refs(work.owner, moved))
            words = (f"{work.control.name}, {work.owner.name}", *self._words(moved))
            rows.append(row_of(words, work.ref))
        self.rows.show_rows(rows)
        left = [slot_words(device) for device in self._desk.plan.devices]
        self.slots_.setText(" ".join(w for w in left if w))

    def _refs(self, owner: Device, moved: MovedTarget) -> tuple[str, ...]:
        """The settings behind a row: the number and the channel that the control sends."""
        program = lookup.program_in(self._desk.scene, owner)
        if program is None:
            return ()
        place = send_place(owner.id, program.id, moved.send.thing)
        there = open_dials(self._desk.plan)
        refs = (setting_in(place, "number"), setting_in(place, "channel"))
        return tuple(ref for ref in refs if ref in there)

    def _words(self, moved: MovedTarget) -> tuple[str, ...]:
        owner = lookup.device(self._desk.plan, moved.device)
        send, target = moved.send, moved.target
        low, high = end_values(send, target)
        unit = f" {target.unit}" if target.unit else ""
        slot = slots_of(owner).get(target.id)
        swept = target.sweeps
        count = str(steps(send, target, bits_of(send)).values) if swept else say(target.mode)
        plain = send.message == "controller"
        return (
            label(send.number) if plain else wide_name(send.message, send.wide),
            say("as the zones") if send.channel is None else str(send.channel),
            f"{target.name}, {owner.name}",
            "" if slot is None else str(slot),
            say("{low:.4g}{unit}", low=low, unit=unit),
            say("{high:.4g}{unit}", high=high, unit=unit),
            count,
        )

    def _renumber(self) -> None:
        try:
            self._perform(renumber(self._desk.plan, self.first.value()))
        except EditError as error:
            self.slots_.setText(str(error))

    def _menu(self, at: QPoint) -> None:
        """What can be said of the numbers of the chosen rows."""
        chosen: dict[str, None] = {}
        for row in self.rows.chosen_rows:
            chosen.update(dict.fromkeys(self._numbers[row]))
        if not chosen:
            return
        menu, refs = QMenu(self), list(chosen)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        add_locks(menu, self._desk.planned, refs, self._desk.held.initials, self._perform)
        add_schools(menu, self, self._desk.planned, refs, self._chosen_anew)
        menu.popup(self.rows.viewport().mapToGlobal(at))

    def _chosen_anew(self, edit: Edit) -> None:
        self._perform(edit)
        self.slots_.setText(say("Work out numbers (Ctrl+Return) to have them numbered so."))

    def _choose(self) -> None:
        ref = self.rows.chosen_ref
        if ref:
            self._desk.select(ref)


def slots_of(owner: Device) -> dict[str, int]:
    """The assign slot of each target: the free ones in order, those that are taken left alone."""
    limit = _slots(owner)
    if limit is None:
        return {}
    free = []
    for n in range(1, limit.most + 1):
        if n not in limit.taken:
            free.append(n)
    moved = []
    for target in owner.targets:
        if target.controller is not None:
            moved.append(target.id)
    return dict(zip(moved, free, strict=False))


def _slots(owner: Device) -> CountLimit | None:
    limits = (
        limit
        for limit in owner.limits
        if isinstance(limit, CountLimit) and limit.what == "assign-slots"
    )
    return next(limits, None)


def slot_words(owner: Device) -> str:
    """How many assign slots a device has left."""
    limit = _slots(owner)
    if limit is None:
        return ""
    used = len(slots_of(owner))
    left = limit.most - len(limit.taken) - used
    return say(
        "{owner} has {slots}: {count} taken before, {used} used here, {left} left.",
        owner=owner.name,
        slots=say_many("{count} assign slot", "{count} assign slots", limit.most),
        count=len(limit.taken),
        used=used,
        left=left,
    )
