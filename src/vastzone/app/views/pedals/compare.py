"""The page Compare: what the same foot does in this scene and in another."""

from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QHeaderView, QVBoxLayout, QWidget

from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.fields import offer
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Label
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.desk.feet_compared import ControlCompared, controls_compared
from vastzone.desk.session import Desk

NOTHING = "nothing"


class ComparePage(QWidget):
    """A row for each control: what it moves here, what it moves there."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.other: QComboBox = CalmCombo()
        self.other.setAccessibleName(say("The scene to compare with"))
        self.other.currentIndexChanged.connect(self._show)
        self.only = QCheckBox(say("Only what changes"))
        self.only.setChecked(True)
        self.only.toggled.connect(self._show)
        self.words = Label()
        self.table = reading_table(
            (say("Control"), say("In this scene"), say("In the other")), say("Feet compared")
        )
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.setWordWrap(True)
        self.table.chosen.connect(self._choose)
        row = QHBoxLayout()
        row.addWidget(Label(say("Compare with")))
        row.addWidget(self.other)
        row.addWidget(self.only)
        row.addWidget(self.words, 1)
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 0, 14, 10)
        box.addLayout(row)
        box.addWidget(self.table, 1)

    def refresh(self) -> None:
        """Show the plan as it is now; the next scene is compared with, until another is chosen."""
        scenes = self._desk.plan.scenes
        items = [(f"{place + 1} {scene.name}", scene.id) for place, scene in enumerate(scenes)]
        offer(self.other, items, self._next([scene.id for scene in scenes]))
        self._show()

    def _next(self, known: list[str]) -> str:
        """The scene after the one shown; the last where that is the last."""
        scene = self._desk.scene
        if scene is None:
            return ""
        return known[min(known.index(scene.id) + 1, len(known) - 1)]

    def _show(self) -> None:
        plan = self._desk.plan
        here, there = self._desk.scene, lookup.find(plan.scenes, self.other.currentData())
        if here is None or there is None:
            self.table.show_rows(())
            self.words.setText(say("There is no scene to compare with yet: add one in the header."))
            return
        compared = controls_compared(plan, here, there, self._desk.bank)
        changed = sum(row.changes for row in compared)
        shown = [row for row in compared if row.changes or not self.only.isChecked()]
        self.table.show_rows(row_of(_cells(row), row.ref) for row in shown)
        self.table.resizeRowsToContents()
        self.words.setText(
            say(
                "From {here} to {there}: {controls} of {count} do something else.",
                here=here.name,
                there=there.name,
                controls=say_many("{count} control", "{count} controls", changed),
                count=len(compared),
            )
        )

    def _choose(self) -> None:
        ref = self.table.chosen_ref
        if ref:
            self._desk.select(ref)


def _cells(row: ControlCompared) -> list[str | Cell]:
    return [row.name, "\n".join(row.here) or NOTHING, "\n".join(row.there) or NOTHING]
