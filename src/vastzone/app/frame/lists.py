"""Scenes of a plan, and programs of a device, as lists that are worked directly."""

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QWidget

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.losing import with_consent
from vastzone.app.frame.rows import Cell, Row
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button
from vastzone.app.key_filter import keeps
from vastzone.core.errors import EditError, PlanError
from vastzone.core.plan.edits import programs, scenes
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.say import say
from vastzone.core.text import listed, whole_number
from vastzone.desk.session import Desk

Press = tuple[str, Callable[[], object]]


class EditedList(Dialog):
    """A table whose rows are named where they stand, with what else can be done with one."""

    def __init__(
        self, parent: QWidget, desk: Desk, title: str, columns: tuple[str, ...], name: str
    ) -> None:
        super().__init__(parent)
        self._desk = desk
        box = self.begin(title, title, 620, 480)
        self.table = typing_table(columns, name)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(len(columns) - 1, QHeaderView.ResizeMode.Stretch)
        self.table.held.typed.connect(self.typed)
        box.addWidget(self.table, 1)
        self.said = quiet(say("Type over a name to change it."))
        box.addWidget(self.said)
        self._row = QHBoxLayout()
        box.addLayout(self._row)
        desk.plan_changed.connect(self.show_rows)

    def done(self, result: int) -> None:
        """Follow the plan no longer: a dialog that is closed is gone."""
        self._desk.plan_changed.disconnect(self.show_rows)
        super().done(result)

    def add_presses(self, presses: Sequence[Press]) -> None:
        """Buttons below, and one to close."""
        for words, run in presses:
            button = Button(words)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, run=run: run())
            self._row.addWidget(button)
        self._row.addStretch()
        close = Button(say("Close"))
        close.setProperty("role", "primary")
        close.setAutoDefault(False)
        close.clicked.connect(self.accept)
        self._row.addWidget(close)
        self.show_rows()
        if self.table.held.rowCount():
            self.table.selectRow(0)

    def rows(self) -> list[Row]:
        """What the table shows."""
        raise NotImplementedError

    def typed(self, row: int, column: int, words: str) -> None:
        """Something was typed over."""
        raise NotImplementedError

    def remove(self) -> None:
        """Take the chosen row out."""
        raise NotImplementedError

    def show_rows(self) -> None:
        """Show the plan as it is now."""
        self.table.show_rows(self.rows())

    def event(self, event: QEvent) -> bool:
        """Keep Delete for the chosen row."""
        return keeps(event, [Qt.Key.Key_Delete]) or super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Delete takes the chosen row out."""
        if event.key() == Qt.Key.Key_Delete:
            self.remove()
        else:
            super().keyPressEvent(event)

    def do(self, edit: Callable[[], Edit]) -> bool:
        """Work an edit out and apply it, what is lost being asked first; whether it is done."""
        before = self._desk.planned
        try:
            with_consent(self, self._desk, edit(), self._perform)
        except PlanError as error:
            self.said.setText(str(error))
        return self._desk.planned is not before

    def _perform(self, edit: Edit) -> None:
        try:
            self._desk.perform(edit)
            self.said.setText(say("{edit}: done. Undo takes it back.", edit=edit.label))
        except PlanError as error:
            self.said.setText(str(error))


class SceneList(EditedList):
    """The scenes in their order: named, moved, copied, removed, new ones."""

    def __init__(self, parent: QWidget, desk: Desk) -> None:
        super().__init__(
            parent, desk, say("Scenes"), (say("Scene"), "Programs"), say("Scenes in their order")
        )
        self.table.setColumnWidth(0, 240)
        self.add_presses(
            (
                (say("New"), self._new),
                (say("Copy"), lambda: self._with(scenes.copy_scene)),
                (say("Up"), lambda: self._move(-1)),
                (say("Down"), lambda: self._move(1)),
                (say("Remove"), self.remove),
            )
        )

    def rows(self) -> list[Row]:
        """Each scene with the programs that it chooses."""
        names = lookup.names_of(self._desk.planned.devices)
        rows = []
        for scene in self._desk.planned.scenes:
            told = []
            for choice in scene.programs:
                device = lookup.device(self._desk.planned, choice.device)
                told.append(f"{names[choice.device]} {program_words(device, choice.program)}")
            rows.append(Row((Cell(scene.name, typed=True), Cell(", ".join(told))), scene.id))
        return rows

    def typed(self, row: int, column: int, words: str) -> None:
        """Another name."""
        ident = self.table.held.rows[row].ref
        if column == 0:
            self.do(lambda: scenes.rename_scene(ident, words))

    def _with(self, make: Callable[[str], Edit]) -> None:
        if self.table.chosen_ref:
            ident = str(self.table.chosen_ref)
            self.do(lambda: make(ident))

    def _new(self) -> None:
        count = len(self._desk.planned.scenes)
        if self.do(lambda: scenes.add_scene(say("Scene {count}", count=count + 1))):
            self.table.selectRow(count)

    def _move(self, steps: int) -> None:
        at = self.table.chosen_row
        self._with(lambda ident: scenes.move_scene(ident, steps))
        self.table.selectRow(max(0, min(self.table.held.rowCount() - 1, at + steps)))

    def remove(self) -> None:
        """Take the chosen scene out."""
        self._with(scenes.remove_scene)


class ProgramList(EditedList):
    """The programs of a device: named, moved by their number, copied, cleared, removed."""

    def __init__(self, parent: QWidget, desk: Desk, device: str) -> None:
        self._ident = device
        name = lookup.device(desk.planned, device).name
        columns = (say("Number"), say("Name"), say("In scenes"))
        super().__init__(
            parent,
            desk,
            say("Programs of {name}", name=name),
            columns,
            say("Programs of {name}", name=name),
        )
        self.table.setColumnWidth(0, 90)
        self.table.setColumnWidth(1, 220)
        self.add_presses(
            (
                (say("Copy"), lambda: self._with(programs.copy_program)),
                (say("For this scene"), self._for_scene),
                (say("Clear"), lambda: self._with(programs.clear_program)),
                (say("Remove"), self.remove),
            )
        )

    @property
    def _owner(self) -> Device:
        return lookup.device(self._desk.planned, self._ident)

    def rows(self) -> list[Row]:
        """Each program by its number, with the scenes that are on it."""
        plan = self._desk.planned
        if lookup.find(plan.devices, self._ident) is None:
            return []
        rows = []
        for program in self._owner.programs:
            there = lookup.scenes_with(plan, self._owner, program.number)
            used = listed([scene.name for scene in there], 4)
            number = program_words(self._owner, program.number)
            cells = (Cell(number, typed=True), Cell(program.name, typed=True), Cell(used))
            rows.append(Row(cells, program.number + 1))
        return rows

    def typed(self, row: int, column: int, words: str) -> None:
        """Another name, or another number to be stored on."""
        number = self._owner.programs[row].number
        if column == 1:
            self.do(lambda: programs.rename_program(self._ident, number, words))
        elif column == 0:
            self.do(lambda: self._moved(number, words))

    def _moved(self, number: int, words: str) -> Edit:
        to = whole_number(words)
        if to is None:
            raise EditError(say("Write the number that it shall be stored on."))
        return programs.move_program(self._ident, number, to - self._owner.first_program)

    def _with(self, make: Callable[[str, int], Edit]) -> None:
        if self.table.chosen_ref:
            number = int(self.table.chosen_ref) - 1
            self.do(lambda: make(self._ident, number))

    def _for_scene(self) -> None:
        scene = self._desk.scene
        if scene is not None:
            self.do(lambda: scenes.own_program(scene.id, self._ident))

    def remove(self) -> None:
        """Take the chosen program out."""
        self._with(programs.remove_program)
