"""The page Stage: the stage plot, and the cables that it asks for by kind and length."""

from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QBoxLayout, QHBoxLayout, QHeaderView, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.views.outputs.stage_plot import StagePlot
from vastzone.core.pictures.stage_plot import arrange
from vastzone.core.plan.edits.power import put_at
from vastzone.core.power.lengths import cable_list, cable_needs
from vastzone.core.say import number, say, say_many
from vastzone.desk.session import Desk

COLUMNS = (say("Cable"), say("Metres"), say("Count"))
BESIDE, BELOW = QBoxLayout.Direction.LeftToRight, QBoxLayout.Direction.TopToBottom
NARROW = 640
"""Pixels at 100 % text below which the list lies under the plot."""
HELP = say("Drag devices to where they stand, or move the chosen one with the arrows.")


class StagePage(QWidget):
    """The plot, and the list beside it, or below."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.plot = StagePlot(desk)
        self.plot.moved.connect(lambda ident, x, y: perform(put_at(ident, x, y)))
        self.list = reading_table(COLUMNS, say("Cables by kind and length"))
        header = self.list.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.arrange = Button(say("Arrange"))
        set_tip(self.arrange, say("A place for everything that has none yet"))
        self.arrange.clicked.connect(self._arrange)
        self.words = quiet(HELP)
        self.words.setWordWrap(True)
        box, line = QVBoxLayout(self), QHBoxLayout()
        self._middle = QBoxLayout(BESIDE)
        box.setContentsMargins(14, 2, 14, 8)
        box.setSpacing(7)
        line.addWidget(self.arrange)
        line.addWidget(self.words, 1)
        bound(self.plot, "MinimumWidth", 300)
        self._middle.addWidget(self.plot, 3)
        bound(self.list, "MinimumWidth", 270)
        bound(self.list, "MinimumHeight", 130)
        self._middle.addWidget(self.list, 1)
        box.addLayout(line)
        box.addLayout(self._middle, 1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The list lies below the plot where both have no room beside each other."""
        super().resizeEvent(event)
        narrow = self.width() < NARROW * THEME.zoom
        self._middle.setDirection(BELOW if narrow else BESIDE)

    def _arrange(self) -> None:
        plan = self._desk.plan
        whole = all(device.place is not None for device in plan.devices)
        self._perform(arrange(plan, anew=whole))

    def refresh(self) -> None:
        """Show places and cables as they are now."""
        plan = self._desk.plan
        too_long = {(need.kind, need.metres) for need in cable_needs(plan) if need.too_long}
        rows = []
        for kind, metres, count in cable_list(plan):
            length = "?" if metres is None else number(metres, "g")
            shade = THEME.colours.fault if (kind, metres) in too_long else ""
            cells = (kind, Cell(length, colour=shade, right=True), Cell(str(count), right=True))
            rows.append(row_of(cells))
        self.list.show_rows(rows)
        placed = all(device.place is not None for device in plan.devices)
        self.arrange.setText(say("Arrange anew") if placed and plan.devices else say("Arrange"))
        total = sum(count for _, _, count in cable_list(plan))
        self.words.setText(
            say_many("{count} cable. {help}", "{count} cables. {help}", total, help=HELP)
        )
        self.plot.update()
