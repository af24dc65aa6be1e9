"""Filling pads: previewed on their faces before it is applied, as one step."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QVBoxLayout,
)

from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.fields import offer
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, Label
from vastzone.core.engine.fill_reach import notes_answered
from vastzone.core.errors import EditError, PitchError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits import fills
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.fills import CORNERS, Fill, Way, pads_of
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.parts import Kit
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import thing_of
from vastzone.core.say import say, say_many
from vastzone.core.text import first_to_last

KINDS = ((say("in order"), "order"), (say("by shape"), "shape"), (say("from the kit"), "kit"))
SCOPES = (
    (say("this bank"), "bank"),
    (say("all banks"), "all"),
    (say("chosen pads"), "chosen"),
)

WAYS = ((say("by rows"), "rows"), (say("by columns"), "columns"))
DIRECTIONS = ((say("going up"), True), (say("going down"), False))


class FillBar(QFrame):
    """How to fill, from where, in which order, and what to fill; what would be silent, before."""

    changed = Signal()
    applied = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._plan: Plan | None = None
        self._owner: Device | None = None
        self._scene: Scene | None = None
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
        row.addWidget(Label(say("Fill")))
        self.kind = self._combo(say("How to fill"), KINDS)
        self.start = QLineEdit("C3")
        self.start.setAccessibleName(say("First note"))
        bound(self.start, "MaximumWidth", 66)
        self.start.textChanged.connect(self.changed)
        grids = tuple((say("grid of {n}", n=n), n) for n in (*range(2, 9), 10, 12, 16))
        self.width_ = self._combo(say("Width of the receiver’s grid"), grids)
        self.width_.setCurrentIndex(2)
        self.kit = self._combo(say("Receiver’s kit"), ())
        self.channel = self._combo(
            say("Channel"),
            (
                (say("channel as it is"), None),
                *((say("channel {channel}", channel=channel), channel) for channel in range(1, 17)),
            ),
        )
        self.scope = self._combo(say("What to fill"), SCOPES)
        for widget in (self.kind, self.start, self.width_, self.kit, self.scope):
            row.addWidget(widget)
        row.addStretch()
        self.apply = Button(say("Fill"))
        self.apply.setProperty("role", "primary")
        self.apply.clicked.connect(self._apply)
        row.addWidget(self.apply)
        box.addLayout(row)
        box.addLayout(self._second_row())
        last = QHBoxLayout()
        last.addWidget(self._line, 1)
        last.addWidget(self.better)
        box.addLayout(last)
        self.changed.connect(self.work_out)

    def _second_row(self) -> QHBoxLayout:
        """The order in which pads are gone through, what comes of it, a better start."""
        row = QHBoxLayout()
        row.setSpacing(7)
        corners = tuple((say("from {corner}", corner=say(corner)), corner) for corner in CORNERS)
        self.corner = self._combo(say("From which corner"), corners)
        self.by = self._combo(say("Rows or columns"), WAYS)
        self.up = self._combo(say("Up or down"), DIRECTIONS)
        self._line = Elided("muted")
        self.better = Button()
        self.better.hide()
        self.better.clicked.connect(self._begin_better)
        self._best_start = 0
        for widget in (self.corner, self.by, self.up, self.channel):
            row.addWidget(widget)
        row.addStretch()
        return row

    @property
    def way(self) -> Way:
        """How the face is gone through."""
        return Way(self.corner.currentData(), self.by.currentData(), self.up.currentData())

    def _combo(self, name: str, choices: tuple[tuple[str, object], ...]) -> QComboBox:
        combo = CalmCombo()
        combo.setAccessibleName(name)
        for words, value in choices:
            combo.addItem(words, value)
        combo.currentIndexChanged.connect(self.changed)
        return combo

    def show_device(
        self, plan: Plan, scene: Scene | None, owner: Device, bank: int, chosen: set[str]
    ) -> None:
        """Fill this bank of this device, in the program that a scene has it on."""
        self._plan, self._scene, self._owner, self._bank = plan, scene, owner, bank
        program = lookup.program_in(scene, owner)
        self._program = program.number if program is not None else 0
        self.choose_pads(chosen)
        self._kits = [(device, kit) for device in plan.devices for kit in device.kits]
        offer(self.kit, [(f"{k.name}, {d.name}", n) for n, (d, k) in enumerate(self._kits)])
        self.work_out()

    def choose_pads(self, chosen: set[str]) -> None:
        """Take the pads ``device:control`` that are chosen: while there are any, they are meant."""
        pads = {thing_of(ref) for ref in chosen}
        if bool(pads) is not bool(self._chosen):
            self.scope.setCurrentIndex(self.scope.findData("chosen" if pads else "bank"))
        self._chosen = pads
        self.work_out()

    def work_out(self) -> None:
        """Work out what each pad would send; the canvas shows it."""
        kind = self.kind.currentData()
        self.start.setVisible(kind != "kit")
        self.width_.setVisible(kind == "shape")
        self.kit.setVisible(kind == "kit")
        self.better.hide()
        try:
            self.fills = self._fills(kind)
            self._line.show_text(self._words())
        except (EditError, PitchError) as error:
            self.fills = {}
            self._line.show_text(str(error))
        self.apply.setEnabled(bool(self.fills))

    def _words(self) -> str:
        """How many pads, which of them would be silent, and where the next bank begins."""
        count = sum(len(fill.notes) for fill in self.fills.values())
        following = [fill.following for fill in self.fills.values()]
        after = following[-1] if following else 0
        named = pitch.label(after, self._octaves) if 0 <= after < 128 else say("none left")
        said = say(
            "{pads}; the next bank begins on {named}.",
            pads=say_many("{count} pad", "{count} pads", count),
            named=named,
        )
        answered = self._answered()
        gone = fills.silent(self.fills, answered) if answered else ()
        if gone and self._owner is not None:
            said = f"{self._silent_words(gone)} {said}"
            self._offer_better(answered)
        return said

    def _silent_words(self, gone: tuple[tuple[int, str], ...]) -> str:
        """Which pads would sound nothing."""
        names = lookup.names_of(self._owner.controls) if self._owner else {}
        several = len(self.fills) > 1
        told = (
            say("{names} of bank {bank}", names=names[pad], bank=bank) if several else names[pad]
            for bank, pad in gone
        )
        return say(
            "{count} would sound nothing: {told}.", count=len(gone), told=first_to_last(told)
        )

    def _offer_better(self, answered: frozenset[int]) -> None:
        """Offer the nearest start with which fewer pads are silent."""
        if self.kind.currentData() == "kit":
            return
        start = pitch.parse(self.start.text(), self._octaves)
        best = fills.nearest_start(self.fills, start, answered)
        if best is not None:
            self._best_start, left = best
            named = pitch.label(self._best_start, self._octaves)
            self.better.setText(
                say("Begin on {named}: {left} silent", named=named, left=left or say("none"))
            )
            self.better.show()

    def _begin_better(self) -> None:
        self.start.setText(str(self._best_start))

    def _answered(self) -> frozenset[int]:
        """The notes that sound something on the channels that are filled; none where none do."""
        plan, owner = self._plan, self._owner
        if plan is None or owner is None:
            return frozenset()
        notes: set[int] = set()
        for bank, fill in self.fills.items():
            for channel in self._channels(owner, bank, fill):
                notes |= notes_answered(plan, self._scene, owner, channel)
        return frozenset(notes)

    def _channels(self, owner: Device, bank: int, fill: Fill) -> set[int | None]:
        """The channels that a fill of a bank sends on."""
        chosen = self.channel.currentData()
        if chosen is not None:
            return {chosen}
        sends = lookup.program(owner, self._program).sends
        return {
            send.channel for send in sends if send.control in fill.notes and send.bank == bank
        } or {1}

    @property
    def _octaves(self) -> pitch.Naming:
        return self._owner.octaves if self._owner else 4

    def _fills(self, kind: str) -> dict[int, Fill]:
        if self._owner is None:
            return {}
        pads = pads_of(self._owner)
        if self.scope.currentData() == "chosen":
            pads = tuple(pad for pad in pads if pad.id in self._chosen)
            if not pads:
                raise EditError(say("No pad is chosen: press pads with Ctrl first."))
        if kind == "kit":
            if not self._kits:
                raise EditError(say("No device of this plan has a kit: add one in Rig."))
            return self._from_kit(pads)
        start = pitch.parse(self.start.text(), self._octaves)
        by_bank: dict[int, Fill] = {}
        every = self.scope.currentData() == "all"
        for bank in self._banks(every):
            if kind == "shape":
                by_bank[bank] = fills.by_shape(pads, start, self.width_.currentData(), self.way)
            else:
                by_bank[bank] = fills.in_order(pads, start, self.way)
            start = by_bank[bank].following
        return by_bank

    def _banks(self, every: bool) -> tuple[int, ...]:
        """The banks to fill."""
        if self._owner is None or not every:
            return (self._bank,)
        return tuple(fills.banks_of(self._owner))

    def _from_kit(self, pads: tuple[Control, ...]) -> dict[int, Fill]:
        """The sounds of a kit over the banks, each going on where the one before ended."""
        kit = self._kits[self.kit.currentIndex()][1]
        by_bank: dict[int, Fill] = {}
        first = 0
        for bank in self._banks(self.scope.currentData() == "all"):
            if first < len(kit.sounds):
                by_bank[bank] = fills.from_kit(pads, kit, self.way, first)
                first += len(pads)
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
