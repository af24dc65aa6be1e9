"""How many kits the wished sounds need, which sound goes where, and what each school costs."""

from collections.abc import Collection
from functools import partial
from typing import NamedTuple

from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.app.jobs import BackgroundJob
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.fills import kits_needed
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.limits import CountLimit
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.progress import Progress
from vastzone.core.proof.words import end_name
from vastzone.core.say import say, say_many
from vastzone.core.solve.kits import (
    Kits,
    Layout,
    layout_of,
    own_pads,
    plan_kits,
    presses,
    wished_sounds,
)
from vastzone.core.solve.kits_applied import apply_kits
from vastzone.core.text import listed

COLUMNS = (say("Program"), say("Pads"), say("Sounds, each with its pad"), say("Played in"))


def room_of(owner: Device) -> int:
    """How many kits a device holds: its memory slots."""
    limits = []
    for limit in owner.limits:
        if isinstance(limit, CountLimit) and limit.what == "memory-slots":
            limits.append(limit.most)
    return min(limits, default=16)


def sound_name(plan: Plan, ref: str) -> str:
    """The name of «part/sound» or «part/note»."""
    part_ref, _, sound = ref.partition("/")
    device = lookup.device(plan, device_of(part_ref))
    part = lookup.part(device, thing_of(part_ref))
    kit = lookup.find(device.kits, part.kit)
    named = next((s.name for s in kit.sounds if s.id == sound), "") if kit else ""
    return named or end_name(plan, part_ref)


class KitProposal(NamedTuple):
    """The kits proposed for so many wished sounds, and how the pads lie."""

    kits: Kits
    sounds: int
    layout: Layout


def _worked_out(
    plan: Plan, owner: Device, pads: tuple[Control, ...], tell: Progress
) -> KitProposal | str:
    """The proposal, or the sentence that says why there is none."""
    wanted = wished_sounds(plan, owner.id)
    layout = layout_of(plan, owner.id, pads)
    sounds = set().union(*wanted.values()) if wanted else set()
    try:
        kits = plan_kits(wanted, len(pads), room_of(owner), layout, tell)
    except EditError as error:
        return str(error)
    return KitProposal(kits, len(sounds), layout)


class KitsNeeded(Dialog):
    """The proposal as a table, with what both schools cost; worked out beside the window."""

    def __init__(
        self,
        parent: QWidget,
        plan: Plan,
        owner: Device,
        perform: Performer,
        chosen: Collection[str] = (),
    ) -> None:
        super().__init__(parent)
        self._plan, self._owner, self._perform = plan, owner, perform
        self._every = own_pads(owner)
        self._chosen = tuple(pad for pad in self._every if pad.id in chosen)
        self._kits: Kits | None = None
        set_title(self, say("Programs needed"))
        self.resize(860, 420)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        self.title, self.table = Label(), reading_table(COLUMNS, say("Programs with their sounds"))
        self.title.setProperty("role", "title")
        self.title.setWordWrap(True)
        self.schools = quiet("")
        box.addWidget(self.title)
        box.addWidget(self.schools)
        box.addWidget(self.table, 1)
        room = self.table.sizePolicy()
        room.setRetainSizeWhenHidden(True)
        self.table.setSizePolicy(room)
        row = QHBoxLayout()
        self.on = QSpinBox()
        self.on.setAccessibleName(say("On how many pads"))
        self.on.setRange(1, max(1, len(self._every)))
        self.on.setValue(len(self._chosen) or len(self._every))
        self.on.valueChanged.connect(lambda _: self._begin())
        row.addWidget(Label(say("On")))
        row.addWidget(self.on)
        row.addWidget(
            Label(say("of {pads}", pads=say_many("{count} pad", "{count} pads", len(self._every))))
        )
        row.addStretch()
        self.apply = Button(say("Lay it out so"))
        self.apply.setProperty("role", "primary")
        self.apply.clicked.connect(self._apply)
        row.addWidget(self.apply)
        close = Button(say("Close"))
        close.clicked.connect(self.reject)
        row.addWidget(close)
        box.addLayout(row)
        self.work = BackgroundJob(self)
        self._begin()

    def _begin(self) -> None:
        self.title.setText(say("Spreading the wished sounds over programs …"))
        self.table.hide()
        self._kits = None
        self.apply.setEnabled(False)
        plan, owner = self._plan, self._owner
        self.work.start(partial(_worked_out, plan, owner, self.pads), self._take)

    @property
    def pads(self) -> tuple[Control, ...]:
        """The pads that are counted: those chosen first, then the others as they lie."""
        rest = tuple(pad for pad in self._every if pad not in self._chosen)
        counted = set((*self._chosen, *rest)[: self.on.value()])
        return tuple(pad for pad in self._every if pad in counted)

    def _apply(self) -> None:
        """Make the proposal true; what stands against it is said in the title."""
        if self._kits is None:
            return
        edit = apply_kits(self._owner.id, self._kits, self.pads)
        try:
            edit(self._plan)
        except EditError as error:
            self.title.setText(str(error))
            return
        self._perform(edit)
        self.accept()

    def _take(self, proposal: KitProposal | str) -> None:
        """Show what was found, or why there is nothing."""
        if isinstance(proposal, str):
            self.title.setText(proposal)
        else:
            self._kits = proposal.kits
            self.apply.setEnabled(True)
            self._show(self._plan, proposal.kits, proposal.sounds)
            self.schools.setText(
                schools_words(self._plan, self._owner, proposal.kits, proposal.layout)
            )
            self.table.show()

    def done(self, result: int) -> None:
        """Closed: what is still worked out is given up."""
        self.work.cancel()
        super().done(result)

    def _show(self, plan: Plan, kits: Kits, sounds: int) -> None:
        pads = self.pads
        least = kits_needed(sounds, len(pads))
        self.title.setText(
            say(
                "{sounds} on {pads}: at least {programs}; proposed {count}{within}.",
                sounds=say_many("{count} sound", "{count} sounds", sounds),
                pads=say_many("{count} pad", "{count} pads", len(pads)),
                programs=say_many("{count} program", "{count} programs", least),
                count=len(kits.kits),
                within=within_words(kits.gap),
            )
        )
        names = lookup.names_of(plan.scenes)
        rows = []
        for n, kit in enumerate(kits.kits):
            order = sorted(kit, key=partial(kits.pad, n))
            placed = ", ".join(
                say("{sound} on {pads}", sound=sound_name(plan, s), pads=pads[kits.pad(n, s)].name)
                for s in order
            )
            scenes = listed((names.get(s, s) for s, k in kits.scenes.items() if k == n), 8)
            rows.append(row_of((str(n + 1), str(len(kit)), placed, scenes)))
        self.table.show_rows(rows)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        for column, wide in ((0, 50), (1, 60), (3, 230)):
            self.table.setColumnWidth(column, wide)
        self.table.setWordWrap(True)
        self.table.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.table.setWordWrap(True)


def within_words(gap: float) -> str:
    """How far from the best something may be that was not proved; nothing where it is the best."""
    return say(", within {gap:.1%} of the best when the search was stopped", gap=gap) if gap else ""


def schools_words(plan: Plan, owner: Device, kits: Kits, layout: Layout) -> str:
    """What kits in the controller cost against presets in the receiver."""
    order = [scene.id for scene in plan.scenes]
    changes = presses(kits, order)
    one = kits_needed(max((len(kit) for kit in kits.kits), default=0), len(own_pads(owner)))
    stay = sum(layout.now.get(s) == pad for s, pad in kits.pads.items())
    away = []
    for s in sorted(layout.risky & kits.pads.keys()):
        if kits.pads[s] not in layout.crossing:
            away.append(sound_name(plan, s))
    kept = (
        say(
            " {sounds} stay where they are.",
            sounds=say_many("{count} sound", "{count} sounds", stay),
        )
        if stay
        else ""
    )
    risky = ""
    if away:
        risky = say_many(
            " {away} lies where hands do not cross.",
            " {away} lie where hands do not cross.",
            len(away),
            away=listed(away),
        )
    return say(
        "Programs in {owner}: {pads} to set, {changes} of program through the show. One "
        "program in {owner} and kits in the receiver: {programs} to set once, and the "
        "receiver changes its kit as often.{kept}{risky}",
        owner=owner.name,
        pads=say_many("{count} pad", "{count} pads", kits.edits),
        changes=say_many("{count} change", "{count} changes", changes),
        programs=say_many("{count} program", "{count} programs", one),
        kept=kept,
        risky=risky,
    )
