"""What differs: between the plan, what devices hold, and what they held on earlier days."""

from typing import NamedTuple

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.core.cards.diff import Differing, by_device, differences, held_otherwise, undialled
from vastzone.core.errors import PlanError
from vastzone.core.memory.model import Memory
from vastzone.core.memory.past import held_on, snapshots
from vastzone.core.memory.rig import memory_of, with_memory
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk
from vastzone.files.memory_file import SUFFIX as MEMORY
from vastzone.files.memory_file import read_memory
from vastzone.files.native import read as read_plan

PLAN, NOW = say("the plan"), say("what the devices hold")


class Side(NamedTuple):
    """One side of a comparison: its name, a plan, and what its devices hold if that is asked."""

    name: str
    plan: Plan
    memory: Memory | None = None


class ChangesPage(QWidget):
    """Two sides to choose, and every difference in words."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._other: Side | None = None
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 4, 14, 12)
        bar = QHBoxLayout()
        bar.setSpacing(8)
        self.older, self.newer = CalmCombo(), CalmCombo()
        self.older.setAccessibleName(say("Compare"))
        self.newer.setAccessibleName(say("with"))
        for words, combo in ((say("Compare"), self.older), (say("with"), self.newer)):
            label = Label(words)
            label.setProperty("role", "muted")
            bar.addWidget(label)
            bar.addWidget(combo)
            combo.currentIndexChanged.connect(lambda _: self._tell())
        file = Button(say("A file…"))
        file.clicked.connect(self.choose)
        bar.addWidget(file)
        self._words = Elided("muted")
        bar.addWidget(self._words, 1)
        box.addLayout(bar)
        self.table = reading_table((say("What differs"),), say("Differences"))
        self.table.horizontalHeader().setStretchLastSection(True)
        self.table.horizontalHeader().hide()
        box.addWidget(self.table, 1)

    def sides(self) -> dict[str, Side]:
        """Everything that can be compared, by name."""
        plan, memory = self._desk.planned, self._desk.memory
        sides = [Side(NOW, plan, memory), Side(PLAN, plan)]
        for day in self._days():
            sides.append(
                Side(say("what they held on {day}", day=day), plan, _on_day(plan, memory, day))
            )
        if self._other is not None:
            sides.append(self._other)
        return {side.name: side for side in sides}

    def _days(self) -> list[str]:
        days = set()
        for held in self._desk.memory.devices:
            days |= {state.on for state in snapshots(held) if state.on}
        return sorted(days, reverse=True)

    def refresh(self) -> None:
        """Offer what there is to compare, and show what differs."""
        names = list(self.sides())
        for combo, first in ((self.older, 0), (self.newer, 1)):
            now = combo.currentText()
            shown = [combo.itemText(n) for n in range(combo.count())]
            if shown == names:
                continue
            combo.blockSignals(True)
            combo.clear()
            for name in names:
                combo.addItem(name)
            combo.setCurrentIndex(names.index(now) if now in names else min(first, len(names) - 1))
            combo.blockSignals(False)
        self._tell()

    def told(self) -> tuple[Differing, ...]:
        """What differs between the two sides."""
        sides = self.sides()
        older, newer = sides.get(self.older.currentText()), sides.get(self.newer.currentText())
        if older is None or newer is None:
            return ()
        if older.memory is not None and newer.memory is None and newer.plan is older.plan:
            return undialled(older.plan, older.memory)
        if older.memory is not None and newer.memory is not None:
            return held_otherwise(newer.plan, older.memory, newer.memory)
        return differences(older.plan, newer.plan)

    def _tell(self) -> None:
        told = self.told()
        rows = []
        for (device, program), sentences in by_device(told).items():
            head = ", ".join(filter(None, (device, program))) or say("The plan")
            face = bold(THEME.colours.text_px + 1)
            rows.append(row_of([Cell(head, face=face, heading=True, colour=THEME.colours.ink)]))
            rows.extend(row_of([f"    {sentence}"]) for sentence in sentences)
        self.table.show_rows(rows)
        self._words.show_text(
            say_many("{count} difference", "{count} differences", len(told))
            if told
            else say("Nothing differs.")
        )

    def choose(self) -> None:
        """Compare with another plan, or with a backup of a device."""
        path = dialogs.ask_compare(self)
        if path is None:
            return
        plan, memory = self._desk.planned, self._desk.memory
        try:
            if path.suffix == MEMORY:
                held = read_memory(path)
                self._other = Side(path.name, plan, with_memory(memory, held))
            else:
                self._other = Side(path.name, read_plan(path))
        except PlanError as error:
            dialogs.tell(self, str(error))
            return
        self.refresh()
        self.older.setCurrentText(path.name)


def _on_day(plan: Plan, memory: Memory, day: str) -> Memory:
    """What every device held at the end of a day."""
    for device in plan.devices:
        held = memory_of(memory, device)
        memory = with_memory(memory, held_on(held, day))
    return memory
