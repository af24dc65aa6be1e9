"""The page Desk: every channel with what arrives on it, its box and phantom power; its cables."""

from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QMenu, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.applying import Performer, refused
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button, add_action, set_tip
from vastzone.app.theme.current import THEME
from vastzone.core.cards.desk_list import DeskLine, desk_lines, scene_words
from vastzone.core.errors import EditError, PlanError
from vastzone.core.plan.edits import audio
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.together import together
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import number, say
from vastzone.core.text import decimal
from vastzone.desk.session import Desk
from vastzone.files.desk_files import write_desk_list

COLUMNS = (
    say("Channel"),
    say("What is heard"),
    say("Source"),
    say("Jack"),
    "",
    say("Box"),
    say("Phantom"),
    say("Metres"),
    say("Scenes"),
)
HELP = say("Type over a channel’s name or a length. Choose channels for a box or phantom power.")
METRES = 7


class DeskPage(QWidget):
    """The list that the desk gets, worked directly."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._lines: tuple[DeskLine, ...] = ()
        self.table = typing_table(COLUMNS, say("Channels of the desk"))
        self.table.choose_many()
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(len(COLUMNS) - 1, QHeaderView.ResizeMode.Stretch)
        self.table.held.typed.connect(self._type)
        self.table.chosen.connect(self._tell)
        self.patch = Button(say("Patch"))
        set_tip(
            self.patch, say("Cables from every free output of a device to the next free inputs")
        )
        self._menu = QMenu(self)
        self.patch.setMenu(self._menu)
        self._menu.aboutToShow.connect(self._fill)
        self.box, self.phantom = Button(say("DI box")), Button(say("Phantom"))
        self.pull = Button(say("Pull cable"))
        self.box.clicked.connect(self._toggle_box)
        self.phantom.clicked.connect(self._toggle_phantom)
        self.pull.clicked.connect(self._pull)
        self.save = Button(say("Save list…"))
        self.save.clicked.connect(self._ask)
        self.words = quiet(HELP)
        self.words.setWordWrap(True)
        outer, line = QVBoxLayout(self), QHBoxLayout()
        outer.setContentsMargins(14, 2, 14, 8)
        outer.setSpacing(7)
        for button in (self.patch, self.box, self.phantom, self.pull):
            line.addWidget(button)
        line.addStretch()
        line.addWidget(self.save)
        outer.addLayout(line)
        outer.addWidget(self.table, 1)
        outer.addWidget(self.words)

    def refresh(self) -> None:
        """Show the channels as they are now."""
        plan = self._desk.plan
        self._lines = desk_lines(plan)
        self.table.show_rows([self._row(plan, line) for line in self._lines])
        self._tell()

    def _row(self, plan: Plan, line: DeskLine) -> Row:
        colours = THEME.colours
        wrong = line.phantom == "on" and line.cable is not None and not line.di
        metres = ""
        if line.cable is not None and line.cable.metres is not None:
            metres = number(line.cable.metres, "g")
        cells: tuple[str | Cell, ...] = (
            Cell(line.channel.name, typed=True),
            line.name,
            line.source,
            line.jack,
            line.side,
            line.di,
            Cell(line.phantom, colour=colours.fault if wrong else ""),
            Cell(metres, typed=line.cable is not None, right=True),
            scene_words(plan, line),
        )
        return row_of(cells, ref_to(line.desk.id, line.channel.id))

    def _chosen(self) -> list[DeskLine]:
        rows = self.table.chosen_rows
        return [self._lines[row] for row in rows if row < len(self._lines)]

    def _tell(self) -> None:
        chosen = self._chosen()
        cabled = [line for line in chosen if line.cable is not None]
        self.box.setEnabled(bool(cabled))
        self.pull.setEnabled(bool(cabled))
        self.phantom.setEnabled(bool(chosen))
        if chosen:
            self._desk.select(chosen[0].desk.id)

    def _do(self, edit: Edit) -> None:
        why = refused(edit, self._desk.plan)
        if why:
            self.words.setText(why)
        else:
            self.words.setText(HELP)
            self._perform(edit)

    def _type(self, row: int, column: int, words: str) -> None:
        line = self._lines[row]
        if column == 0:
            what = say("Rename {channel}", channel=line.channel.name)
            edit = set_thing(
                line.desk.id,
                "audio_inputs",
                line.channel.id,
                "channel",
                what,
                name=words.strip(),
            )
            self._do(edit)
            return
        metres = decimal(words.strip().removesuffix("m")) if words.strip() else None
        if column != METRES or line.cable is None:
            return
        if words.strip() and metres is None:
            self.words.setText(
                say("“{words}” is no length: write metres, such as 10.", words=words.strip())
            )
            return
        self._do(audio.set_audio_cable(line.cable, say("Change a length"), metres=metres))

    def _fill(self) -> None:
        """Every device whose sound can go to another, by what is free."""
        self._menu.clear()
        plan = self._desk.plan
        for source in plan.devices:
            for dest in plan.devices:
                if source is dest or not (source.outputs and dest.audio_inputs):
                    continue
                try:
                    edit = audio.patch(plan, source.id, dest.id)
                except EditError:
                    continue
                words = say("{source} to {dest}", source=source.name, dest=dest.name)
                add_action(self._menu, words, partial(self._do, edit))
        if self._menu.isEmpty():
            add_action(self._menu, say("Nothing is free: add a desk or an interface in Rig"))

    def _toggle_box(self) -> None:
        cables = [line.cable for line in self._chosen() if line.cable is not None]
        if cables:
            self._do(audio.set_di(not all(cable.di for cable in cables), cables))

    def _toggle_phantom(self) -> None:
        lines = self._chosen()
        on = not all(line.channel.phantom for line in lines)
        edits = [audio.set_phantom(line.desk.id, line.channel.id, on) for line in lines]
        self._do(together(say("Phantom on") if on else say("Phantom off"), edits))

    def _pull(self) -> None:
        cables = [line.cable for line in self._chosen() if line.cable is not None]
        self._do(audio.remove_audio_cables(cables))

    def _ask(self) -> None:
        suggestion = say("{plan}, desk", plan=self._desk.plan.name)
        path = dialogs.ask_save_table(self, say("Save the desk list"), suggestion)
        if path is not None:
            self.save_list(path)

    def save_list(self, path: Path) -> None:
        """Write the list; say why not where that cannot be."""
        try:
            write_desk_list(self._desk.plan, path)
        except PlanError as error:
            self.words.setText(str(error))
        else:
            self.words.setText(say("Written: {path}", path=path.name))
