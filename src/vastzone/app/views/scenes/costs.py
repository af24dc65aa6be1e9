"""The page Changes: what a change from any song to any other would take, the dearest marked."""

from PySide6.QtWidgets import QVBoxLayout, QWidget

from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.core.setlist.changes import song_change
from vastzone.core.setlist.costs import cost_matrix
from vastzone.desk.session import Desk

MOST = 128
"""More songs than this make a table that nobody can read."""
WIDE = 96


class CostsPage(QWidget):
    """A row for the song before, a column for the song after; seconds, and presses below."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._plan: Plan | None = None
        self.table = reading_table((say("From"),), say("What every change takes"))
        self.table.selectionModel().currentChanged.connect(lambda now, _: self._tell(now))
        self.words = quiet("")
        self.words.setWordWrap(True)
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 4, 14, 10)
        box.setSpacing(8)
        box.addWidget(self.words)
        box.addWidget(self.table, 1)

    def refresh(self) -> None:
        """Show every change as it is now."""
        plan = self._desk.plan
        if plan is self._plan:
            return
        self._plan = plan
        scenes = plan.scenes[:MOST]
        costs = cost_matrix(plan, tuple(scene.id for scene in scenes))
        self.table.held.show_columns(
            (say("From"), *(say("to {scene}", scene=scene.name) for scene in scenes))
        )
        self.table.setColumnWidth(0, 150)
        for column in range(1, len(scenes) + 1):
            words = say("to {scenes}", scenes=scenes[column - 1].name)
            wide = self.table.fontMetrics().horizontalAdvance(words) + 34
            self.table.setColumnWidth(column, max(WIDE, min(190, wide)))
        dearest = costs.dearest()
        rows = []
        for row, before in enumerate(scenes):
            cells: list[Cell] = [Cell(before.name)]
            for column, after in enumerate(scenes):
                seconds = float(costs.seconds[row, column])
                if row == column:
                    cells.append(Cell("–", colour=THEME.colours.muted))
                    continue
                is_dear = dearest == (before.id, after.id) and seconds > 0
                presses = int(costs.presses[row, column])
                words = (
                    say("{seconds:.1f} s, {presses}", seconds=seconds, presses=presses)
                    if presses
                    else say("no press")
                )
                shade = THEME.colours.fault if is_dear else ""
                face = bold(THEME.colours.text_px) if is_dear else None
                cells.append(Cell(words, colour=shade, face=face))
            rows.append(row_of(cells, before.id))
        self.table.show_rows(rows)
        self.words.setText(self._said(plan, dearest))

    def _said(self, plan: Plan, dearest: tuple[str, str] | None) -> str:
        if dearest is None:
            return say("Two songs or more have changes between them.")
        names = lookup.names_of(plan.scenes)
        one, other = dearest
        known = lookup.by_ids(plan.scenes)
        change = song_change(plan, known[one], known[other])
        presses = say_many("{count} press", "{count} presses", change.presses)
        return say(
            "Seconds, then presses, from each song to each other. The dearest is from {names} to "
            "{names_other}: {presses}, {dives} into panels, about {seconds:.1f} s.",
            names=names[one],
            names_other=names[other],
            presses=presses,
            dives=say_many("{count} dive", "{count} dives", change.dives),
            seconds=change.seconds,
        )

    def _tell(self, now: object) -> None:
        """What the chosen change takes, device by device."""
        index = self.table.currentIndex()
        plan = self._desk.plan
        if not (0 <= index.row() < len(plan.scenes) and 1 <= index.column() <= len(plan.scenes)):
            return
        before, after = plan.scenes[index.row()], plan.scenes[index.column() - 1]
        change = song_change(plan, before, after)
        pressed = ", ".join(f"{player} {count}" for player, count in change.by_player.items())
        self.words.setText(
            say(
                "From {before} to {after}: {pressed}, about {seconds:.1f} s.",
                before=before.name,
                after=after.name,
                pressed=pressed or say("nobody presses anything"),
                seconds=change.seconds,
            )
        )
