"""Filling pads: previewed on their faces before it is applied, as one step."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QVBoxLayout,
)

from vastzone.app.frame.elided import Elided
from vastzone.app.frame.fields import CalmCombo, offer
from vastzone.app.frame.text import Button, Label
from vastzone.core.engine.network import network
from vastzone.core.engine.reach import reached_from
from vastzone.core.errors import EditError, PitchError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits import fills
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.fills import Fill
from vastzone.core.plan.model.parts import Kit
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import thing_of

KINDS = (("in order", "order"), ("by shape", "shape"), ("from the kit", "kit"))
SCOPES = (
    ("this bank", "bank"),
    ("all banks, one after the other", "all"),
    ("the chosen pads", "chosen"),
)


class FillBar(QFrame):
    """How to fill, from where, and what to fill."""

    changed = Signal()
    applied = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._plan: Plan | None = None
        self._owner: Device | None = None
        self._bank, self._program = 1, 0
        self._chosen: set[str] = set()
        self._kits: list[tuple[Device, Kit]] = []
        self.fills: dict[int, Fill] = {}
        self.setProperty("role", "card")
        box = QVBoxLayout(self)
        box.setContentsMargins(12, 7, 12, 7)
        box.setSpacing(5)
        row = QHBoxLayout()
        row.setSpacing(7)
        row.addWidget(Label("Fill"))
        self.kind = self._combo("How to fill", KINDS)
        self.start = QLineEdit("C3")
        self.start.setAccessibleName("First note")
        self.start.setMaximumWidth(66)
        self.start.textChanged.connect(self.changed)
        grids = tuple((f"grid {n} wide", n) for n in (*range(2, 9), 10, 12, 16))
        self.width_ = self._combo("Width of the receiver’s grid", grids)
        self.width_.setCurrentIndex(2)
        self.kit = self._combo("Receiver’s kit", ())
        self.channel = self._combo(
            "Channel",
            (
                ("channel as it is", None),
                *((f"channel {channel}", channel) for channel in range(1, 17)),
            ),
        )
        self.scope = self._combo("What to fill", SCOPES)
        for widget in (self.kind, self.start, self.width_, self.kit, self.channel, self.scope):
            row.addWidget(widget)
        row.addStretch()
        self.apply = Button("Fill")
        self.apply.setProperty("role", "primary")
        self.apply.clicked.connect(self._apply)
        row.addWidget(self.apply)
        self._line = Elided("muted")
        box.addLayout(row)
        box.addWidget(self._line)
        self.changed.connect(self.work_out)

    def _combo(self, name: str, choices: tuple[tuple[str, object], ...]) -> QComboBox:
        combo = CalmCombo()
        combo.setAccessibleName(name)
        for words, value in choices:
            combo.addItem(words, value)
        combo.currentIndexChanged.connect(self.changed)
        return combo

    def show_device(
        self, plan: Plan, owner: Device, program: int, bank: int, chosen: set[str]
    ) -> None:
        """Fill this bank of this device."""
        self._plan, self._owner, self._program, self._bank = plan, owner, program, bank
        self._chosen = {thing_of(ref) for ref in chosen}
        self._kits = [(device, kit) for device in plan.devices for kit in device.kits]
        offer(self.kit, [(f"{k.name}, {d.name}", n) for n, (d, k) in enumerate(self._kits)])
        self.work_out()

    def work_out(self) -> None:
        """Work out what each pad would send; the canvas shows it."""
        kind = self.kind.currentData()
        self.start.setVisible(kind != "kit")
        self.width_.setVisible(kind == "shape")
        self.kit.setVisible(kind == "kit")
        try:
            self.fills = self._fills(kind)
            self._refuse_unanswered()
            count = sum(len(fill.notes) for fill in self.fills.values())
            following = max((fill.following for fill in self.fills.values()), default=0)
            named = pitch.label(following, self._octaves) if following < 128 else "none left"
            self._line.show_text(f"{count} pads; the next bank begins on {named}.")
        except (EditError, PitchError) as error:
            self.fills = {}
            self._line.show_text(str(error))
        self.apply.setEnabled(bool(self.fills))

    def _refuse_unanswered(self) -> None:
        """Raises EditError where a device that hears these pads does not answer such notes."""
        plan, owner = self._plan, self._owner
        if plan is None or owner is None:
            return
        reached = set(reached_from(owner, network(plan)))
        for bank, fill in self.fills.items():
            channels = self._channels(owner, bank, fill)
            for device in plan.devices:
                hears = any(part.channel in channels for part in device.parts)
                if device.id in reached and hears:
                    fills.refuse_unanswered(fill, device)

    def _channels(self, owner: Device, bank: int, fill: Fill) -> set[int | None]:
        """The channels that a fill of a bank sends on; None is heard on any."""
        chosen = self.channel.currentData()
        if chosen is not None:
            return {chosen, None}
        sends = lookup.program(owner, self._program).sends
        return {
            send.channel for send in sends if send.control in fill.notes and send.bank == bank
        } | {None}

    @property
    def _octaves(self) -> pitch.Naming:
        return self._owner.octaves if self._owner else 4

    def _fills(self, kind: str) -> dict[int, Fill]:
        if self._owner is None:
            return {}
        pads = fills.pads_of(self._owner)
        if self.scope.currentData() == "chosen":
            pads = tuple(pad for pad in pads if pad.id in self._chosen)
            if not pads:
                raise EditError("No pad is chosen: press pads with Ctrl first.")
        if kind == "kit":
            if not self._kits:
                raise EditError("No device of this plan has a kit: add one in Rig.")
            return {self._bank: fills.from_kit(pads, self._kits[self.kit.currentIndex()][1])}
        start = pitch.parse(self.start.text(), self._octaves)
        by_bank: dict[int, Fill] = {}
        every = self.scope.currentData() == "all"
        for bank in fills.banks_of(self._owner) if every else (self._bank,):
            if kind == "shape":
                by_bank[bank] = fills.by_shape(pads, start, self.width_.currentData())
            else:
                by_bank[bank] = fills.in_order(pads, start)
            start = by_bank[bank].following
        return by_bank

    def preview(self) -> dict[tuple[str, int], int]:
        """The note of each pad and bank that the fill would give."""
        notes = {}
        for b, f in self.fills.items():
            for pad, note in f.notes.items():
                notes[(pad, b)] = note
        return notes

    def edit(self) -> Edit | None:
        """The fill as one step."""
        if self._owner is None or not self.fills:
            return None
        channel = self.channel.currentData()
        return fills.apply(self._owner.id, self._program, self.fills, channel)

    def _apply(self) -> None:
        edit = self.edit()
        if edit is not None:
            self.applied.emit(edit)
