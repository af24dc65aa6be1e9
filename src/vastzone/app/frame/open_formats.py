"""Tables, tunes and pictures of the plan: written out, and tables read back with what differs."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QPoint, QRect, QSize
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QHBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.rows import Cell
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button, Label
from vastzone.app.theme.current import THEME
from vastzone.core.cards.control_tune import control_tune
from vastzone.core.cards.open_tables import ReadBack
from vastzone.core.errors import PlanError
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk
from vastzone.files.table_files import read_table, write_tables
from vastzone.files.tune_files import struck_bytes, tune_bytes, write_tune


class OpenFormats:
    """What the menu offers; ``tell`` says one sentence."""

    def __init__(
        self,
        parent: QWidget,
        desk: Desk,
        perform: Performer,
        tell: Callable[[str], object],
        shown: Callable[[], QWidget | None],
    ) -> None:
        self._parent, self._desk, self._perform = parent, desk, perform
        self._tell, self._shown = tell, shown

    def _try(self, work: Callable[[], object]) -> None:
        try:
            work()
        except PlanError as error:
            self._tell(str(error))

    def write_tables(self) -> None:
        """Every table of the plan into a folder."""
        folder = dialogs.ask_folder(self._parent, say("Write the tables into a folder"))
        if folder is not None:
            self._try(lambda: write_tables(self._desk.planned, folder, replace=False))

    def read_table(self) -> None:
        """Read a table back, and show what differs before it is taken."""
        path = dialogs.ask_table(self._parent)
        if path is not None:
            self._try(lambda: self.show_table(path))

    def show_table(self, path: Path) -> None:
        """What a table says otherwise.  Raises PlanError."""
        told = read_table(self._desk.planned, path)
        Differences(self._parent, told, self._perform).open()

    def write_tune(self) -> None:
        """What every control sends in this scene, as a MIDI file with markers."""
        path = dialogs.ask_save_tune(
            self._parent, say("{plan}, test tune", plan=self._desk.plan.name)
        )
        if path is not None:
            tones = control_tune(self._desk.compiled)
            data = tune_bytes(self._desk.plan.name, tones)
            self._try(lambda: write_tune(data, path))

    def write_struck(self) -> None:
        """What was struck since the plan was opened, as a MIDI file."""
        struck = self._desk.stage.sent
        if not struck:
            self._tell(say("Nothing was struck yet: strike keys or pads first."))
            return
        path = dialogs.ask_save_tune(self._parent, say("{plan}, struck", plan=self._desk.plan.name))
        if path is not None:
            data = struck_bytes(self._desk.plan.name, tuple(struck))
            self._try(lambda: write_tune(data, path))

    def write_picture(self) -> None:
        """The picture of the view that is shown, as SVG."""
        widget = self._shown()
        if widget is None:
            self._tell(say("This page is no picture: choose Rig, Keys, Pads or Console."))
            return
        path = dialogs.ask_save_picture(self._parent, f"{self._desk.plan.name}")
        if path is not None:
            save_picture(widget, path, self._desk.plan.name)


def picture_in(view: QWidget) -> QWidget | None:
    """What is drawn in a view: the largest thing that paints itself."""
    drawn = [
        child
        for child in view.findChildren(QWidget)
        if child.isVisible() and hasattr(child, "rebuild")
    ]
    return max(drawn, key=lambda one: one.width() * one.height(), default=None)


def save_picture(widget: QWidget, path: Path, title: str) -> None:
    """A widget as SVG, as large as it is on the screen."""
    from PySide6.QtSvg import QSvgGenerator

    picture = QSvgGenerator()
    picture.setFileName(str(path))
    picture.setSize(QSize(widget.width(), widget.height()))
    picture.setViewBox(QRect(0, 0, widget.width(), widget.height()))
    picture.setTitle(title)
    painter = QPainter(picture)
    painter.fillRect(widget.rect(), THEME.colours.paper)
    widget.render(painter, QPoint())
    painter.end()


class Differences(Dialog):
    """What a table changes, line by line, and what is wrong in it; taken as one step."""

    def __init__(self, parent: QWidget, told: ReadBack, perform: Performer) -> None:
        super().__init__(parent)
        self._told, self._perform = told, perform
        box = self.begin(
            say("A table"), say("What the table of {kind} changes", kind=told.kind), 640, 480
        )
        self.list = RowList(say("Differences"))
        self.list.wrap()
        lines: list[tuple[str | Cell, object]] = []
        for words in told.mistakes:
            lines.append((Cell(words, colour=THEME.colours.fault), ""))
        lines += [(words, "") for words in told.changes]
        self.list.show_lines(lines or [(say("Nothing differs."), "")])
        box.addWidget(self.list, 1)
        count = say_many("{count} change", "{count} changes", len(told.changes))
        if told.mistakes:
            count = say_many(
                "{changes}, {count} mistake: mend the table first",
                "{changes}, {count} mistakes: mend the table first",
                len(told.mistakes),
                changes=count,
            )
        box.addWidget(Label(count))
        line = QHBoxLayout()
        self.take, close = Button(say("Take over")), Button(say("Close"))
        self.take.setProperty("role", "primary")
        self.take.setEnabled(told.edit is not None and not told.mistakes)
        self.take.clicked.connect(self._take)
        close.clicked.connect(self.reject)
        line.addStretch()
        line.addWidget(close)
        line.addWidget(self.take)
        box.addLayout(line)

    def _take(self) -> None:
        if self._told.edit is not None:
            self._perform(self._told.edit)
        self.accept()
