"""Wishing where one is: what is selected shall play or move what is typed, pressed or struck."""

from collections.abc import Callable
from typing import Protocol, runtime_checkable

from PySide6.QtCore import QEvent, QItemSelectionModel, QObject, QSignalBlocker, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QLineEdit,
    QListView,
    QWidget,
)

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell
from vastzone.app.frame.table import REF, RowList
from vastzone.app.frame.text import Button
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.core.describe.arranging import as_they_lie
from vastzone.core.describe.things import chosen_in
from vastzone.core.engine.report import Report
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.wishes import WishPlace, is_bed, make_in_order
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.queries.ends import End, ends_named, free_sounds, source_name
from vastzone.core.plan.queries.plugged import stroke_rank
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say, say_many
from vastzone.core.text import first_to_last
from vastzone.desk.session import Desk

SHOWN = 4


@runtime_checkable
class Wishing(Protocol):
    """A view with things chosen in a way of its own."""

    def wish_places(self) -> tuple[WishPlace, ...]:
        """Where wishes would begin, in order."""


def places_of(desk: Desk) -> tuple[WishPlace, ...]:
    """Where wishes for what is selected would begin: keys, controls in the bank that is shown."""
    for device in desk.planned.devices:
        things = as_they_lie(device, chosen_in(device, desk.selection))
        ranked: list[tuple[int, WishPlace]] = []
        for thing in things:
            if thing.group == "keybeds":
                bed = lookup.keybed(device, thing.id)
                ranked.append((0, WishPlace(ref_to(device.id, bed.id), 1, bed.low, bed.high)))
            for control in device.controls:
                # An input stands for what can be struck at the pad in it.
                at_input = thing.group == "inputs" and control.input == thing.id
                at_input = at_input and control.zone != "pedal"
                if at_input or (thing.group, thing.id) == ("controls", control.id):
                    place = WishPlace(ref_to(device.id, control.id), min(desk.bank, control.banks))
                    # Every pad is heard before any of its rims: sounds may be few.
                    rank = stroke_rank(desk.planned, device, control) if at_input else 0
                    ranked.append((rank, place))
        if ranked:
            ranked.sort(key=lambda each: each[0])
            return tuple(place for _, place in ranked)
    return _zone_of(desk)


def _zone_of(desk: Desk) -> tuple[WishPlace, ...]:
    """The keys of a zone that is selected."""
    owner, thing = read_ref(desk.selection)
    device: Device | None = lookup.find(desk.planned.devices, owner)
    program = None if device is None else lookup.program_in(desk.scene, device)
    for zone in program.zones if program is not None else ():
        if zone.id == thing:
            return (WishPlace(ref_to(owner, zone.keybed), 1, zone.low, zone.high),)
    return ()


Pairs = tuple[tuple[WishPlace, End], ...]


def wanted_of(plan: Plan, places: tuple[WishPlace, ...]) -> tuple[bool, bool]:
    """Whether places can play parts and move targets: keys only play, what is turned only moves."""
    plays = moves = True
    for place in places:
        if is_bed(plan, place.source):
            moves = False
            continue
        owner, thing = read_ref(place.source)
        control = lookup.controls_by_id(lookup.device(plan, owner)).get(thing)
        if control is not None and not control_ability(control).pressed:
            plays = False
    return plays, moves


def paired(plan: Plan, places: tuple[WishPlace, ...], ends: tuple[End, ...]) -> Pairs:
    """Places with ends in order; all of them with the only one, where there is one.

    A kit is played by as many as it has sounds that nobody plays yet.
    """
    if len(ends) == 1:
        free = free_sounds(plan, ends[0].ref)
        return tuple((place, ends[0]) for place in places[:free])
    return tuple(zip(places, ends, strict=False))


class WishFor(Dialog):
    """Type, press or strike what shall be played or moved; Enter wishes it, many in order.

    What is struck chooses what sounds or moves by it now, one strike after the other.
    """

    def __init__(
        self,
        parent: QWidget,
        desk: Desk,
        places: tuple[WishPlace, ...],
        perform: Callable[[Edit], object],
    ) -> None:
        super().__init__(parent)
        self._desk, self._places, self._perform = desk, places, perform
        self._names = [source_name(desk.planned, place.source) for place in places]
        heading = say("What shall {names} play or move?", names=first_to_last(self._names))
        box = self.begin(say("Wish"), heading, 560, 560)
        self.line = QLineEdit()
        self.line.setPlaceholderText(
            say("Type a name, or part of one, or strike what plays it now")
        )
        self.line.setAccessibleName(say("What to play or move"))
        self.line.setMaxLength(200)
        self.line.textChanged.connect(self._fill)
        self.line.installEventFilter(self)
        box.addWidget(self.line)
        self.list = RowList(say("Parts and targets"))
        self.list.setSelectionMode(QListView.SelectionMode.ExtendedSelection)
        self.list.selectionModel().selectionChanged.connect(lambda *_: self._press())
        self.list.activated.connect(lambda _: self._wish())
        box.addWidget(self.list, 1)
        self.said = quiet("")
        box.addWidget(self.said)
        self.everywhere = QCheckBox(say("In every scene"))
        self.everywhere.setChecked(True)
        self.everywhere.setVisible(len(desk.planned.scenes) > 1)
        self.take = Button(say("Wish"))
        self.take.clicked.connect(self._wish)
        self.answers(box, say("Cancel"), self.take, self.everywhere)
        self._shown: tuple[End, ...] = ()
        self._struck: tuple[End, ...] = ()
        self._fill("")
        desk.stage.struck.connect(self._strike)
        self.finished.connect(lambda _: desk.stage.struck.disconnect(self._strike))

    @property
    def _plan(self) -> Plan:
        return self._desk.planned

    def _fill(self, text: str) -> None:
        plays, moves = wanted_of(self._plan, self._places)
        self._shown = ends_named(self._plan, text, plays, moves)
        lines: list[tuple[Cell, End | None]] = []
        device = ""
        face = bold(THEME.colours.text_px - 1)
        for end in self._shown:
            if end.device != device:
                device = end.device
                heading = Cell(device, face=face, colour=THEME.colours.muted, heading=True)
                lines.append((heading, None))
            lines.append((Cell(f"    {end.name}"), end))
        self.list.show_lines(lines)
        self.list.selectionModel().clearSelection()
        self._press()

    def _press(self) -> None:
        """What is typed or pressed stands instead of what was struck."""
        self._struck = ()
        self._tell()

    def _strike(self, report: Report) -> None:
        """What sounds or moves by a strike comes after what was struck before."""
        reached = {one.ref for one in report.reached}
        plays, moves = wanted_of(self._plan, self._places)
        new = []
        for end in ends_named(self._plan, "", plays, moves):
            if end.ref in reached and end not in self._struck:
                new.append(end)
        if new:
            self._struck = (*self._struck, *new)
            self._light()
            self._tell()
        elif not reached:
            self.said.setText(
                say("{struck}: nothing sounds or moves by that yet.", struck=report.struck)
            )

    def _light(self) -> None:
        """Show in the list what was struck, the last of it in sight."""
        chosen = self.list.selectionModel()
        with QSignalBlocker(chosen):
            chosen.clearSelection()
            for row in range(self.list.model().rowCount()):
                index = self.list.model().index(row, 0)
                if index.data(REF) in self._struck:
                    chosen.select(index, QItemSelectionModel.SelectionFlag.Select)
                    self.list.scrollTo(index)
        self.list.viewport().update()

    @property
    def ends(self) -> tuple[End, ...]:
        """What was struck or chosen in the list; without either the first ones that are shown."""
        if self._struck:
            return self._struck
        indexes = sorted(self.list.selectionModel().selectedIndexes(), key=lambda at: at.row())
        chosen = tuple(at.data(REF) for at in indexes if isinstance(at.data(REF), tuple))
        return chosen or self._shown[: len(self._places)]

    @property
    def pairs(self) -> Pairs:
        """What would be wished."""
        return paired(self._plan, self._places, self.ends)

    def _tell(self) -> None:
        pairs = self.pairs
        told = []
        for place, end in pairs[:SHOWN]:
            told.append(f"{source_name(self._plan, place.source)} → {end.name}")
        more = say(" and {count} more", count=len(pairs) - SHOWN) if len(pairs) > SHOWN else ""
        left = len(self._places) - len(pairs)
        beyond = (
            say(
                ". {controls} left over",
                controls=say_many("{count} control", "{count} controls", left),
            )
            if left
            else ""
        )
        self.said.setText(
            f"{', '.join(told)}{more}{beyond}." if told else say("Nothing is called so.")
        )
        self.take.setEnabled(bool(pairs))

    def _wish(self) -> None:
        pairs = self.pairs
        if not pairs:
            return
        scene = self._desk.scene
        here = () if self.everywhere.isChecked() or scene is None else (scene.id,)
        try:
            self._perform(make_in_order(tuple((place, end.ref) for place, end in pairs), here))
        except PlanError as error:
            self.said.setText(str(error))
            return
        self.accept()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Up and down in the line move in the list; Enter wishes."""
        if event.type() is QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
                self.list.setFocus()
                self.list.event(QKeyEvent(event))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._wish()
                return True
        return False
