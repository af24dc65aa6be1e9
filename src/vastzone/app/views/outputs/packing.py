"""The page Packing: everything to pack, to put up and to test, ticked off and kept in the log."""

from datetime import date

from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.core.cards.dangers import cautions_for
from vastzone.core.cards.packing import PackLine, is_ticked, packing_lines, weight
from vastzone.core.plan.edits.power import tick, untick_all
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.desk.session import Desk

COLUMNS = (say("What"), "", say("Ticked"))


class PackingPage(QWidget):
    """A list with ticks, section by section."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._lines: dict[int, PackLine] = {}
        self.list = reading_table(COLUMNS, say("Packing list"))
        header = self.list.horizontalHeader()
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.ResizeToContents)
        self.list.held.ticked.connect(lambda row, _column, _on: self._tick(row))
        self.again = Button(say("Another evening"))
        self.again.clicked.connect(lambda: perform(untick_all()))
        self.words = quiet("")
        self.words.setWordWrap(True)
        box, line = QVBoxLayout(self), QHBoxLayout()
        box.setContentsMargins(14, 2, 14, 8)
        box.setSpacing(7)
        line.addWidget(self.words, 1)
        line.addWidget(self.again)
        box.addLayout(line)
        box.addWidget(self.list, 1)

    def refresh(self) -> None:
        """Show the list as it is now."""
        plan = self._desk.plan
        rows: list[Row] = []
        self._lines = {}
        section, done, count = "", 0, 0
        for line in packing_lines(plan):
            if line.section != section:
                section = line.section
                face = bold(THEME.colours.text_px)
                heading = Cell(say(section), face=face, heading=True, colour=THEME.colours.ink)
                rows.append(row_of((heading, Cell("", heading=True), Cell("", heading=True))))
            self._lines[len(rows)] = line
            done += is_ticked(plan, line)
            count += 1
            rows.append(self._row(plan, line))
        self.list.show_rows(rows)
        heavy = say(" {weight:g} kg as far as known.", weight=weight(plan)) if weight(plan) else ""
        self.words.setText(
            say(
                "{done} of {count} ticked.{heavy} {cautions_for}",
                done=done,
                count=count,
                heavy=heavy,
                cautions_for=" ".join(cautions_for("packing")),
            )
        )
        self.again.setEnabled(bool(plan.packed))

    def _row(self, plan: Plan, line: PackLine) -> Row:
        when = ""
        for one in plan.packed:
            if one.what == line.key:
                when = f"{one.on} {one.by}".strip()
        what = Cell(line.what, ticked=bool(when) or is_ticked(plan, line))
        return row_of((what, line.more, when), line.key)

    def _tick(self, row: int) -> None:
        line = self._lines.get(row)
        if line is not None:
            self._perform(tick(line.key, date.today().isoformat(), self._desk.held.initials))
