"""How many kits the wished sounds need, which sound goes where, and what each school costs."""

from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.core.errors import EditError
from vastzone.core.plan import lookup
from vastzone.core.plan.fills import kits_needed, pads_of
from vastzone.core.plan.limits import CountLimit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.proof.words import end_name, listed, many
from vastzone.core.solve.kits import Kits, Layout, layout_of, plan_kits, presses, wished_sounds

COLUMNS = ("Kit", "Pads", "Sounds, each with its pad", "Played in")


def room_of(owner: Device) -> int:
    """How many kits a device holds: its memory slots."""
    held = [x.most for x in owner.limits if isinstance(x, CountLimit) and x.what == "memory-slots"]
    return min(held, default=16)


def sound_name(plan: Plan, ref: str) -> str:
    """The name of «part/sound» or «part/note»."""
    part_ref, _, sound = ref.partition("/")
    device = lookup.device(plan, part_ref.partition(":")[0])
    part = lookup.part(device, part_ref.partition(":")[2])
    kit = next((k for k in device.kits if k.id == part.kit), None)
    named = next((s.name for s in kit.sounds if s.id == sound), "") if kit else ""
    return named or end_name(plan, part_ref)


class KitsNeeded(Dialog):
    """The proposal as a table, with what both schools cost."""

    def __init__(self, parent: QWidget, plan: Plan, owner: Device) -> None:
        super().__init__(parent)
        set_title(self, "Kits needed")
        self.resize(860, 420)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        self.title, self.table = Label(), reading_table(COLUMNS, "Kits with their sounds")
        self.title.setProperty("role", "title")
        self.title.setWordWrap(True)
        box.addWidget(self.title)
        wanted = wished_sounds(plan, owner.id)
        pads = pads_of(owner)
        sounds = set().union(*wanted.values()) if wanted else set()
        try:
            layout = layout_of(plan, owner.id)
            found = plan_kits(wanted, len(pads), room_of(owner), layout)
        except EditError as error:
            self.title.setText(str(error))
        else:
            self._show(plan, owner, found, len(sounds))
            box.addWidget(quiet(schools_words(plan, owner, found, layout)))
            box.addWidget(self.table, 1)
        row = QHBoxLayout()
        row.addStretch()
        close = Button("Close")
        close.clicked.connect(self.reject)
        row.addWidget(close)
        box.addLayout(row)

    def _show(self, plan: Plan, owner: Device, found: Kits, sounds: int) -> None:
        pads = pads_of(owner)
        least = kits_needed(sounds, len(pads))
        self.title.setText(
            f"{many(sounds, 'sound')} on {many(len(pads), 'pad')}: at least {many(least, 'kit')}; "
            f"proposed {len(found.kits)}."
        )
        names = {s.id: s.name for s in plan.scenes}
        rows = []
        for n, kit in enumerate(found.kits):
            order = sorted(kit, key=lambda s: found.pads[s])
            placed = ", ".join(
                f"{sound_name(plan, s)} on {pads[found.pads[s]].name}" for s in order
            )
            scenes = listed((names.get(s, s) for s, k in found.scenes.items() if k == n), 8)
            rows.append(row_of((str(n + 1), str(len(kit)), placed, scenes)))
        self.table.show_rows(rows)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        for column, wide in ((0, 50), (1, 60), (3, 230)):
            self.table.setColumnWidth(column, wide)
        self.table.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.table.setWordWrap(True)


def schools_words(plan: Plan, owner: Device, found: Kits, layout: Layout) -> str:
    """What kits in the controller cost against presets in the receiver."""
    order = [s.id for s in plan.scenes]
    changes = presses(found, order)
    one = kits_needed(max((len(k) for k in found.kits), default=0), len(pads_of(owner)))
    stay = sum(layout.now.get(s) == pad for s, pad in found.pads.items())
    away = [sound_name(plan, s) for s in sorted(layout.risky & found.pads.keys())
            if found.pads[s] not in layout.crossing]  # fmt: skip
    kept = f" {many(stay, 'sound')} stay where they are." if stay else ""
    lie = "lies" if len(away) == 1 else "lie"
    risky = f" {listed(away)} {lie} where hands do not cross." if away else ""
    return (
        f"Kits in {owner.name}: {many(found.edits, 'pad')} to set, {many(changes, 'change')} of "
        f"kit through the show. One kit in {owner.name} and presets in the receiver: "
        f"{many(one, 'kit')} to set once, and the receiver changes preset as often.{kept}{risky}"
    )
