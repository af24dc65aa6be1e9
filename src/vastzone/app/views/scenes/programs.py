"""The page Programs: which program each device is on in each song, worked in the table itself."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.theme.current import THEME
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import setlists
from vastzone.core.plan.edits.scenes import choose_program
from vastzone.core.plan.model.plan import Device, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.desk.session import Desk

HELP = say(
    "Type a program’s number or name; nothing is as in the song before. Choose several songs with "
    "Shift to fill them down."
)


class ProgramsPage(QWidget):
    """A row for each song, a column for each device with programs."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._devices: tuple[Device, ...] = ()
        self.table = typing_table((say("Song"),), say("Programs of devices in songs"))
        self.table.choose_many()
        self.table.held.typed.connect(self._type)
        self.table.horizontalHeader().setStretchLastSection(True)
        self.fill = Button(say("Fill down"))
        set_tip(self.fill, say("The program of the first chosen song in all that are chosen"))
        self.before = Button(say("As before"))
        set_tip(self.before, say("The program of the song above"))
        self.own = Button(say("A program of its own"))
        set_tip(self.own, say("A copy of the program for each chosen song alone"))
        self.fill.clicked.connect(self._fill_down)
        self.before.clicked.connect(self._as_before)
        self.own.clicked.connect(self._own)
        self.words = quiet(HELP)
        self.words.setWordWrap(True)
        box, line = QVBoxLayout(self), QHBoxLayout()
        box.setContentsMargins(14, 4, 14, 10)
        box.setSpacing(8)
        for button in (self.fill, self.before, self.own):
            line.addWidget(button)
        line.addStretch()
        box.addLayout(line)
        box.addWidget(self.table, 1)
        box.addWidget(self.words)

    def refresh(self) -> None:
        """Show songs and programs as they are now."""
        plan = self._desk.plan
        self._devices = tuple(device for device in plan.devices if len(device.programs) > 0)
        self.table.held.show_columns((say("Song"), *(device.name for device in self._devices)))
        self.table.setColumnWidth(0, 170)
        for column in range(1, len(self._devices) + 1):
            self.table.setColumnWidth(column, 150)
        rows = []
        before: Scene | None = None
        for scene in plan.scenes:
            rows.append(self._row(scene, before))
            before = scene
        self.table.show_rows(rows)
        self.words.setText(HELP)

    def _row(self, scene: Scene, before: Scene | None) -> Row:
        current = self._desk.scene is not None and self._desk.scene.id == scene.id
        face = Cell(scene.name, colour=THEME.colours.action if current else "")
        cells: list[Cell] = [face]
        for device in self._devices:
            number = lookup.program_number(scene, device)
            same = before is not None and number == lookup.program_number(before, device)
            words = "" if number is None else _words(device, number)
            shade = THEME.colours.muted if same else ""
            cells.append(Cell(words, colour=shade, typed=True))
        return row_of(cells, scene.id)

    def _at(self) -> tuple[Scene, Device] | None:
        """The song and the device of the current cell."""
        index = self.table.currentIndex()
        plan = self._desk.plan
        if not (0 <= index.row() < len(plan.scenes) and 1 <= index.column() <= len(self._devices)):
            self.words.setText(say("Choose a cell of a device first."))
            return None
        return plan.scenes[index.row()], self._devices[index.column() - 1]

    def _type(self, row: int, column: int, words: str) -> None:
        plan = self._desk.plan
        scene, device = plan.scenes[row], self._devices[column - 1]
        if not words.strip() and row:
            number = lookup.program_number(plan.scenes[row - 1], device)
        else:
            number = _read(device, words)
        if number is None:
            self.words.setText(
                say(
                    "{device} has no program “{words}”: type a number or a name.",
                    device=device.name,
                    words=quoted(words.strip()),
                )
            )
            return
        self._perform(choose_program(scene.id, device.id, number))

    def _fill_down(self) -> None:
        at = self._at()
        if at is None:
            return
        rows = self.table.chosen_rows
        scenes = [self._desk.plan.scenes[row] for row in rows]
        number = lookup.program_number(scenes[0], at[1])
        if number is not None:
            songs = [scene.id for scene in scenes]
            self._perform(setlists.fill_program(songs, at[1].id, number))

    def _as_before(self) -> None:
        at = self._at()
        row = self.table.currentIndex().row()
        if at is not None and row > 0:
            number = lookup.program_number(self._desk.plan.scenes[row - 1], at[1])
            if number is not None:
                self._perform(choose_program(at[0].id, at[1].id, number))

    def _own(self) -> None:
        at = self._at()
        if at is None:
            return
        chosen = [self._desk.plan.scenes[row].id for row in self.table.chosen_rows]
        edit = setlists.own_programs(chosen or [at[0].id], at[1].id)
        try:
            edit.change(self._desk.plan)
        except EditError as error:
            self.words.setText(str(error))
        else:
            self._perform(edit)


def _words(device: Device, number: int) -> str:
    return f"{program_words(device, number)} {lookup.program(device, number).name}"


def _read(device: Device, words: str) -> int | None:
    """The program that is meant: by what the device shows, or by name."""
    wanted = words.strip().lower()
    for program in device.programs:
        shown = program_words(device, program.number).lower()
        if wanted in (shown, program.name.lower(), f"{shown} {program.name}".lower()):
            return program.number
    return None
