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
from vastzone.core.text import many

ROLE = Qt.ItemDataRole.UserRole


class SpreadKit(Dialog):
    """Programs to tick; below each, its pads that differ: ticked ones become as in the template."""

    def __init__(
        self, parent: QWidget, perform: Performer, owner: Device, template: int, bank: int
    ) -> None:
        super().__init__(parent)
        self._perform, self._owner = perform, owner
        self._template, self._bank = template, bank
        set_title(self, "Spread bank")
        self.resize(640, 480)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        name = lookup.program(owner, template).name
        title = Label(f"Give other programs of {owner.name} the pads of {name}")
        title.setProperty("role", "title")
        title.setWordWrap(True)
        self.tree = QTreeWidget()
        self.tree.setHeaderHidden(True)
        self.tree.setAccessibleName("Programs and the pads that differ")
        self.saves = quiet("")
        box.addWidget(title)
        box.addWidget(self.tree, 1)
        box.addWidget(self.saves)
        row = QHBoxLayout()
        row.addStretch()
        self.apply, close = Button("Spread"), Button("Close")
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
            differ = f"{many(len(own), 'pad')} differ{'s' if len(own) == 1 else ''}"
            top = QTreeWidgetItem([f"{shown} {program.name}: {differ if own else 'the same'}"])
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
            f"{many(len(programs), 'program')}, {many(len(kept), 'exception')}: about "
            f"{saved.by_hand} presses by hand, {saved.by_copy} by copying and setting the "
            "exceptions."
            if programs
            else "Every other program has the same pads."
        )

    def _apply(self) -> None:
        programs, kept = self.chosen()
        self._perform(spread(self._owner, self._template, self._bank, programs, kept))
        self.accept()
