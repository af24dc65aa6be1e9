"""Go-to: any key, part, scene, finding or action by typing."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import NamedTuple

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from vastzone.app.actions import Actions
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import set_title
from vastzone.core.midi import pitch
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.finding import Finding
from vastzone.core.say import say
from vastzone.desk.session import Desk

MOST = 60


class Goal(NamedTuple):
    """A place or action that can be typed."""

    kind: str
    name: str
    go: Callable[[], object]

    def fits(self, words: list[str]) -> bool:
        """Whether every typed word occurs."""
        text = f"{self.kind} {self.name}".lower()
        return all(word in text for word in words)


def goals(desk: Desk, actions: Actions, show: Callable[[Finding], None]) -> Iterator[Goal]:
    """Everything there is to go to, nearest first."""
    for action in actions:
        keys = f"   {action.keys}" if action.keys else ""
        yield Goal(say("Action"), f"{action.label}{keys}", action.run)
    for scene in desk.plan.scenes:
        yield Goal(say("Scene"), scene.name, partial(desk.go_to_scene, scene.id))
    for owner in desk.plan.devices:
        yield Goal(say("Device"), owner.name, partial(desk.select, owner.id))
        program = lookup.program_in(desk.scene, owner)
        for zone in program.zones if program else ():
            keys = pitch.span(zone.low, zone.high, owner.octaves)
            yield Goal(
                say("Zone"),
                say(
                    "{zone} on {owner}, {keys}, channel {channel}",
                    zone=zone.name,
                    owner=owner.name,
                    keys=keys,
                    channel=zone.channel,
                ),
                partial(desk.select, ref_to(owner.id, zone.id)),
            )
        for part in owner.parts:
            channel = (
                say("omni")
                if part.channel is None
                else say("channel {channel}", channel=part.channel)
            )
            yield Goal(
                say("Part"),
                say(
                    "{part} in {owner}, {channel}",
                    part=part.name,
                    owner=owner.name,
                    channel=channel,
                ),
                partial(desk.select, ref_to(owner.id, part.id)),
            )
        yield from _holes(desk, owner)
        for control in owner.controls:
            yield Goal(
                say("Control"),
                say("{control} of {owner}", control=control.name, owner=owner.name),
                partial(desk.select, ref_to(owner.id, control.id)),
            )
    for finding in desk.findings:
        yield Goal(say("Finding"), finding.sentence, partial(show, finding))


def _holes(desk: Desk, owner: Device) -> Iterator[Goal]:
    """Everything that something is plugged into: ports, jacks of pedals, inputs of triggers."""
    for kind, holes in (
        (say("Port"), owner.ports),
        (say("Jack"), owner.jacks),
        (say("Input"), owner.inputs),
    ):
        for hole in holes:
            ref = ref_to(owner.id, hole.id)
            yield Goal(
                kind,
                say("{hole} of {owner}", hole=hole.name, owner=owner.name),
                partial(desk.select, ref),
            )


class GoTo(Dialog):
    """A line to type in and the places that fit."""

    def __init__(
        self, parent: QWidget, desk: Desk, actions: Actions, show: Callable[[Finding], None]
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._goals = list(goals(desk, actions, show))
        self._fitting: list[Goal] = []
        set_title(self, say("Go to"))
        box = QVBoxLayout(self)
        box.setContentsMargins(10, 10, 10, 10)
        self.line = QLineEdit()
        self.line.setPlaceholderText(say("Type a part, zone, scene, finding or action"))
        self.line.setAccessibleName(say("Go to"))
        self.line.textChanged.connect(self._filter)
        self.line.installEventFilter(self)
        self.list = RowList(say("Places that fit"))
        self.list.clicked.connect(lambda index: self._take(index.row()))
        box.addWidget(self.line)
        box.addWidget(self.list)
        self.resize(620, 420)
        centre = parent.mapToGlobal(parent.rect().center())
        self.move(centre.x() - 310, parent.mapToGlobal(parent.rect().topLeft()).y() + 70)
        self._filter("")
        self.line.setFocus()

    def _filter(self, text: str) -> None:
        words = text.lower().split()
        self._fitting = [g for g in self._goals if g.fits(words)][:MOST]
        lines = [(f"{goal.kind}:  {goal.name}", None) for goal in self._fitting]
        self.list.show_lines(lines, at=0)

    def _take(self, row: int) -> None:
        if 0 <= row < len(self._fitting):
            goal = self._fitting[row]
            self.accept()
            goal.go()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrows move in the list and Enter goes there, while the line keeps the focus."""
        if isinstance(event, QKeyEvent) and event.type() is QEvent.Type.KeyPress:
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
            if step:
                row = self.list.row + step
                self.list.go_to(max(0, min(self.list.count - 1, row)))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take(self.list.row)
                return True
        return super().eventFilter(watched, event)
