"""Choosing the faults that the simulated console hides, for practice: from a list."""

from collections.abc import Callable

from PySide6.QtWidgets import QLineEdit, QListView, QWidget

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.table import REF, RowList
from vastzone.app.frame.text import Button
from vastzone.core.console.circuit import Circuit
from vastzone.core.console.faults import all_single, fault_words
from vastzone.core.plan.model.console import Console, Fault
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say, say_many

MOST, SHOWN = 3, 400


class HideFaults(Dialog):
    """Every single fault in words, with a line to look for some; one to three are hidden."""

    def __init__(
        self,
        parent: QWidget,
        owner: Device,
        console: Console,
        circuit: Circuit,
        hide: Callable[[tuple[Fault, ...]], None],
    ) -> None:
        super().__init__(parent)
        self._hide = hide
        self._every = [(fault_words(owner, console, f), f) for f in all_single(circuit)]
        box = self.begin(
            say("Hide faults"),
            say("Which faults, {most} at most, are to be hidden?", most=MOST),
            620,
            560,
        )
        self.line = QLineEdit()
        self.line.setPlaceholderText(say("Words of it: red, diode, C♯4, short …"))
        self.line.setAccessibleName(say("Words of a fault"))
        self.line.textChanged.connect(self._fill)
        box.addWidget(self.line)
        self.list = RowList("Faults")
        self.list.setSelectionMode(QListView.SelectionMode.MultiSelection)
        self.list.selectionModel().selectionChanged.connect(lambda *_: self._tell())
        box.addWidget(self.list, 1)
        self.said = quiet("")
        box.addWidget(self.said)
        self.take = Button(say("Hide"))
        self.take.clicked.connect(self._take)
        self.answers(box, say("Cancel"), self.take)
        self._fill("")

    def _fill(self, text: str) -> None:
        wanted = text.casefold().split()
        found = []
        for words, fault in self._every:
            if all(word in words.casefold() for word in wanted):
                found.append((words, fault))
        self.list.show_lines(found[:SHOWN])
        self._tell(len(found))

    @property
    def chosen(self) -> tuple[Fault, ...]:
        """The faults that are chosen."""
        indexes = self.list.selectionModel().selectedIndexes()
        return tuple(index.data(REF) for index in indexes)

    def _tell(self, found: int = 0) -> None:
        count = len(self.chosen)
        self.take.setEnabled(0 < count <= MOST)
        if count > MOST:
            self.said.setText(
                say(
                    "{faults} are chosen: {most} at most.",
                    faults=say_many("{count} fault", "{count} faults", count),
                    most=MOST,
                )
            )
        elif found > SHOWN:
            self.said.setText(
                say("The first {shown} of {found}: write more words.", shown=SHOWN, found=found)
            )
        else:
            self.said.setText(
                say("{faults} chosen.", faults=say_many("{count} fault", "{count} faults", count))
            )

    def _take(self) -> None:
        self._hide(self.chosen)
        self.accept()
