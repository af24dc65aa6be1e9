"""The page Numbers: every controller of a device, named as it is found, gaps and all."""

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button, Label
from vastzone.core.describe.abilities import numbers_in
from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import CONTROLLERS
from vastzone.core.midi.wide import name as wide_name
from vastzone.core.plan.edits.parameter_names import name_number, name_numbers
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.core.plan.queries.limits import why_kept
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk

COLUMNS = (say("Number"), say("Everywhere else"), say("Here"), say("Sent by"))
HERE = 2
MOST = 120


class NumbersPage(QWidget):
    """A line a number; what it moves in the chosen device can be typed in."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.device: QComboBox = CalmCombo()
        self.device.setAccessibleName(say("Device"))
        self.device.currentIndexChanged.connect(lambda _: self._fill())
        self.rows = typing_table(COLUMNS, say("Controllers by number"))
        header = self.rows.horizontalHeader()
        self.rows.setColumnWidth(0, 90)
        self.rows.setColumnWidth(1, 190)
        self.rows.setColumnWidth(HERE, 190)
        header.setStretchLastSection(True)
        self.rows.held.typed.connect(self._named)
        self.words = quiet("")
        self.part: QComboBox = CalmCombo()
        self.part.setAccessibleName(say("Part that new names belong to"))
        self.channel: QComboBox = CalmCombo()
        self.channel.setAccessibleName(say("Channel that new names listen to"))
        offer(self.channel, [(say("as the others"), None), *((str(n), n) for n in range(1, 17))])
        self.numbers, self.names = QLineEdit(), QLineEdit()
        self.numbers.setPlaceholderText("70–77 80")
        self.numbers.setAccessibleName(say("Numbers to name in one go"))
        bound(self.numbers, "MaximumWidth", 110)
        self.names.setPlaceholderText("Macro {n}, or Cutoff/Resonance/…")
        self.names.setAccessibleName(say("Their names"))
        self.take = Button(say("Name them"))
        self.take.clicked.connect(self._name_all)
        self.names.returnPressed.connect(self._name_all)
        bar, box = QHBoxLayout(), QVBoxLayout(self)
        bar.addWidget(self.device)
        bar.addWidget(quiet(say("Type under “Here” what you find that a number moves.")), 1)
        several = QHBoxLayout()
        several.addWidget(Label(say("In one go")))
        several.addWidget(self.numbers)
        several.addWidget(self.names, 1)
        for words, widget in ((say("of part"), self.part), (say("channel"), self.channel)):
            several.addWidget(Label(words))
            several.addWidget(widget)
        several.addWidget(self.take)
        box.setContentsMargins(14, 0, 14, 8)
        box.setSpacing(7)
        box.addLayout(bar)
        box.addWidget(self.rows, 1)
        box.addLayout(several)
        box.addWidget(self.words)

    def refresh(self) -> None:
        """Show the plan as it is now."""
        devices = []
        for device in self._desk.plan.devices:
            listens = any(port.flow != "out" for port in device.ports)
            if (
                (listens and not device_ability(device).only_joins)
                or device.targets
                or device.parts
            ):
                devices.append(device)
        wanted = [(item.name, item.id) for item in devices]
        offer(self.device, wanted, next((item.id for item in devices if item.targets), ""))
        self._fill()

    def _owner(self) -> Device | None:
        ident = self.device.currentData()
        return lookup.find(self._desk.plan.devices, ident)

    def _fill(self) -> None:
        owner = self._owner()
        parts = owner.parts if owner is not None else ()
        offer(self.part, [(say("of none"), None), *((part.name, part.id) for part in parts)])
        self.channel.setEnabled(self.part.currentData() is None)
        senders = self._senders(owner)
        rows = []
        for number in range(MOST):
            plain, wide = _named(owner, number)
            kept = _kept(owner, number)
            here = Cell(", ".join(plain) or kept, typed=not kept and len(plain) < 2)
            sent_by = ", ".join([*senders.get(number, ()), *wide])
            rows.append(row_of((str(number), CONTROLLERS[number].meaning, here, sent_by)))
        self.rows.show_rows(rows)
        self.words.setText(
            _counted(owner) if owner else say("No device here listens to controllers.")
        )

    def _senders(self, owner: Device | None) -> dict[int, list[str]]:
        """What sends each number to the device here and now."""
        senders: dict[int, list[str]] = {}
        for (ref, _), sendings in self._desk.compiled.controls.items():
            giver = lookup.device(self._desk.plan, device_of(ref))
            name = lookup.by_id(giver.controls, thing_of(ref), "control").name
            for motion in (
                m for sending in sendings for m in sending.motions if m.message == "controller"
            ):
                here = owner and any(
                    device_of(hearing.ref) == owner.id for hearing in motion.hearings
                )
                words = say("{name} of {giver}", name=name, giver=giver.name)
                if here and words not in senders.setdefault(motion.number, []):
                    senders[motion.number].append(words)
        return senders

    def _named(self, number: int, column: int, words: str) -> None:
        owner = self._owner()
        if owner is not None and column == HERE:
            part, channel = self.part.currentData(), self.channel.currentData()
            self._perform(name_number(owner, number, words, part, channel))

    def _name_all(self) -> None:
        """Name many numbers at once; say why not where they cannot be."""
        owner = self._owner()
        if owner is None:
            return
        part, channel = self.part.currentData(), self.channel.currentData()
        try:
            numbers = numbers_in(self.numbers.text())
            self._perform(name_numbers(owner, numbers, self.names.text(), part, channel))
        except EditError as error:
            self.words.setText(str(error))
            return
        self.numbers.clear()
        self.names.clear()


def _named(owner: Device | None, number: int) -> tuple[list[str], list[str]]:
    """What a controller moves in a device, and what wider numbers it is part of."""
    plain, wide = [], []
    for target in owner.targets if owner else ():
        if target.controller == number and target.answers == "controller":
            plain.append(target.name)
        elif target.controller == number:
            wide.append(f"{target.name} ({wide_name(target.answers, target.wide or 0)})")
    return plain, wide


def _kept(owner: Device | None, number: int) -> str:
    """What a device keeps a controller for."""
    purpose = why_kept(owner, number) if owner else ""
    return say("kept for {purpose}", purpose=purpose) if purpose else ""


def _counted(owner: Device) -> str:
    known = sorted({target.controller for target in owner.targets if target.controller is not None})
    if not known:
        return say("No number of {owner} is named yet.", owner=owner.name)
    gaps = known[-1] - known[0] + 1 - len(known)
    between = (
        say(
            ", with {gaps} between {first} and {last}",
            gaps=say_many("{count} gap", "{count} gaps", gaps),
            first=known[0],
            last=known[-1],
        )
        if gaps
        else ""
    )
    return say(
        "{numbers} of {owner} named{between}.",
        numbers=say_many("{count} number", "{count} numbers", len(known)),
        owner=owner.name,
        between=between,
    )
