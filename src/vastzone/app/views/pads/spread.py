"""One bank over many programs: which ones, which pads stay as they are, what it saves."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QHBoxLayout,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.core.plan.edits.copies import exceptions, saving, spread
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.say import say, say_many

ROLE = Qt.ItemDataRole.UserRole


class SpreadKit(Dialog):
    """Programs to tick; below each, its pads that differ: ticked ones become as in the template."""

    def __init__(
        self, parent: QWidget, perform: Performer, owner: Device, template: int, bank: int
    ) -> None:
        super().__init__(parent)
        self._perform, self._owner = perform, owner
        self._template, self._bank = template, bank
        set_title(self, say("Spread bank"))
        self.resize(640, 480)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        name = lookup.program(owner, template).name
        title = Label(
            say("Give other programs of {owner} the pads of {name}", owner=owner.name, name=name)
        )
        title.setProperty("role", "title")
        title.setWordWrap(True)
        self.tree = QTreeWidget()
        self.tree.setHeaderHidden(True)
        self.tree.setAccessibleName(say("Programs and the pads that differ"))
        self.saves = quiet("")
        box.addWidget(title)
        box.addWidget(self.tree, 1)
        box.addWidget(self.saves)
        row = QHBoxLayout()
        row.addStretch()
        self.apply, close = Button(say("Spread")), Button(say("Close"))
        self.apply.setProperty("role", "primary")
        self.apply.clicked.connect(self._apply)
        close.clicked.connect(self.reject)
        row.addWidget(close)
        row.addWidget(self.apply)
        box.addLayout(row)
        self._fill()
        self.tree.itemChanged.connect(lambda *_: self._tell())
        self._tell()

    def _fill(self) -> None:
        names = lookup.names_of(pads_of(self._owner))
        for program in self._owner.programs:
            if program.number == self._template:
                continue
            own = exceptions(self._owner, self._template, self._bank, program.number)
            shown = program_words(self._owner, program.number)
            differ = (
                say("{pads} differs", pads=say_many("{count} pad", "{count} pads", len(own)))
                if len(own) == 1
                else say("{pads} differ", pads=say_many("{count} pad", "{count} pads", len(own)))
            )
            top = QTreeWidgetItem(
                [
                    (
                        say(
                            "{shown} {program}: {differ}",
                            shown=shown,
                            program=program.name,
                            differ=differ,
                        )
                        if own
                        else say("{shown} {program}: the same", shown=shown, program=program.name)
                    )
                ]
            )
            top.setData(0, ROLE, program.number)
            for pad in own:
                item = QTreeWidgetItem([names[pad]])
                item.setData(0, ROLE, pad)
                item.setCheckState(0, Qt.CheckState.Checked)
                top.addChild(item)
            if own:
                top.setFlags(top.flags() | Qt.ItemFlag.ItemIsAutoTristate)
                top.setCheckState(0, Qt.CheckState.Checked)
            self.tree.addTopLevelItem(top)
            top.setExpanded(0 < len(own) < 5)

    def chosen(self) -> tuple[list[int], set[tuple[int, str]]]:
        """The programs ticked, and the pads in them that stay as they are."""
        programs, kept = [], set()
        for n in range(self.tree.topLevelItemCount()):
            top = self.tree.topLevelItem(n)
            if top is None or not top.childCount():
                continue
            number = top.data(0, ROLE)
            pads = [top.child(k) for k in range(top.childCount())]
            off = set()
            for pad in pads:
                if pad.checkState(0) is Qt.CheckState.Unchecked:
                    off.add(pad.data(0, ROLE))
            if len(off) < len(pads):
                programs.append(number)
                kept |= {(number, pad) for pad in off}
        return programs, kept

    def _tell(self) -> None:
        programs, kept = self.chosen()
        saved = saving(self._owner, self._template, self._bank, programs, kept)
        self.apply.setEnabled(bool(programs))
        self.saves.setText(
            say(
                "{programs}, {exceptions}: about {by_hand} presses by hand, {by_copy} by "
                "copying and "
                "setting the exceptions.",
                programs=say_many("{count} program", "{count} programs", len(programs)),
                exceptions=say_many("{count} exception", "{count} exceptions", len(kept)),
                by_hand=saved.by_hand,
                by_copy=saved.by_copy,
            )
            if programs
            else say("Every other program has the same pads.")
        )

    def _apply(self) -> None:
        programs, kept = self.chosen()
        self._perform(spread(self._owner, self._template, self._bank, programs, kept))
        self.accept()
