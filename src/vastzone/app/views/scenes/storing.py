"""The page Storing: in which slots programs are best stored for the evening, and who leads whom."""

from functools import partial
from typing import NamedTuple

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.jobs import BackgroundJob
from vastzone.app.theme.current import THEME
from vastzone.app.views.scenes.variety import VarietyLine
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import setlists
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.setlists import SetList
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.progress import Progress
from vastzone.core.say import say, say_many
from vastzone.core.setlist.changes import way_of
from vastzone.core.solve.running_order import RunningOrder, best_order, presses_in
from vastzone.core.solve.storing import Stored, Storing, best_storing
from vastzone.core.text import listed
from vastzone.desk.session import Desk

COLUMNS = (
    say("Device"),
    say("Changes by"),
    say("Now"),
    say("Best"),
    say("Without copies"),
    say("Stored anew"),
    say("Best slots"),
)
WAYS = {
    "own buttons": say("up and down"),
    "by number": say("a number"),
    "by hand": say("its panel"),
    "by message": say("a message"),
    "host list": say("a host’s list"),
}


class _Found(NamedTuple):
    """What was worked out beside the window for a plan and a set list."""

    stored: tuple[Stored, ...]
    order: RunningOrder | None


def _work_out(plan: Plan, evenings: tuple[tuple[str, ...], ...], tell: Progress) -> _Found:
    stored = []
    for device in plan.devices:
        if steps_itself(device):
            stored.append(best_storing(plan, device, evenings, tell))
    order = best_order(plan, evenings[0], progress=tell) if evenings and evenings[0] else None
    return _Found(tuple(stored), order)


def steps_itself(device: Device) -> bool:
    """Whether a device goes through its programs by its own up and down."""
    steps = device.changes_by == "own buttons" and device.storage.step != "none"
    return steps and len(device.programs) > 1


class StoringPage(QWidget):
    """Devices with their presses now and at best; below, a device led by another."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._aside = BackgroundJob(self)
        self._plan: Plan | None = None
        self.found: _Found | None = None
        self.table = reading_table(COLUMNS, say("How programs are stored"))
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(len(COLUMNS) - 1, QHeaderView.ResizeMode.Stretch)
        self.table.chosen.connect(self._tell)
        self.take = Button(say("Store so"))
        self.take.setProperty("role", "primary")
        set_tip(self.take, say("Store the programs of the chosen device for the evening"))
        self.take.clicked.connect(self._take)
        self.plain = Button(say("Store so without copies"))
        self.plain.clicked.connect(lambda: self._take(copies=False))
        self.leader, self.follower = _combo(say("Leader")), _combo(say("Follower"))
        self.channel = _combo(say("Channel"))
        offer(self.channel, [(str(number), number) for number in range(1, 17)])
        self.lead, self.free = Button(say("Lead")), Button(say("Led no longer"))
        self.lead.clicked.connect(self._lead)
        self.free.clicked.connect(self._free)
        self.variety = VarietyLine(desk, perform)
        self.words = quiet("")
        self.words.setWordWrap(True)
        self._lay_out()

    def _lay_out(self) -> None:
        box, line, below = QVBoxLayout(self), QHBoxLayout(), QHBoxLayout()
        box.setContentsMargins(14, 4, 14, 10)
        box.setSpacing(8)
        line.addWidget(self.take)
        line.addWidget(self.plain)
        line.addStretch()
        for words, combo in (
            (say("Let"), self.leader),
            (say("lead"), self.follower),
            (say("on channel"), self.channel),
        ):
            below.addWidget(Label(words))
            below.addWidget(combo, 1)
        below.addWidget(self.lead)
        below.addWidget(self.free)
        box.addLayout(line)
        box.addWidget(self.table, 1)
        box.addWidget(self.words)
        box.addLayout(below)
        box.addWidget(self.variety)

    def refresh_for(self, one: SetList | None) -> None:
        """Show the devices as they are now, and work their best storing out beside."""
        plan = self._desk.plan
        devices = [device for device in plan.devices if device.programs]
        offer(self.leader, [(device.name, device.id) for device in devices])
        offer(self.follower, [(device.name, device.id) for device in reversed(devices)])
        if plan is self._plan:
            return
        self.variety.show_songs(one.played if one is not None else ())
        self._plan, self.found = plan, None
        self._fill()
        evenings = tuple(each.played for each in plan.setlists) or ((one.played,) if one else ())
        if one is not None and plan.setlists:
            others = tuple(each.played for each in plan.setlists if each.id != one.id)
            evenings = (one.played, *others)
        if evenings:
            self._aside.start(partial(_work_out, plan, evenings), self._keep)

    def _keep(self, found: _Found) -> None:
        if self._plan is self._desk.plan:
            self.found = found
            self._fill()
            self._tell()

    def _fill(self) -> None:
        plan = self._desk.plan
        known = {each.now.device: each for each in self.found.stored} if self.found else {}
        rows = []
        for device in plan.devices:
            if device.programs and (len(device.programs) > 1 or device.led_by):
                rows.append(self._row(plan, device, known.get(device.id)))
        self.table.show_rows(rows)
        self._tell()

    def _row(self, plan: Plan, device: Device, stored: Stored | None) -> Row:
        way = WAYS[way_of(None, device)]
        if device.led_by is not None:
            way = say("{device}, a message", device=lookup.device(plan, device.led_by).name)
        if not steps_itself(device):
            return row_of((device.name, way, "", "", "", "", ""), device.id)
        if stored is None:
            return row_of((device.name, way, "…", "", "", "", ""), device.id)
        best = stored.best
        gains = best.presses < stored.now.presses
        shade = THEME.colours.good if gains else ""
        said = (
            str(best.presses)
            if best.is_best
            else say("{presses}, perhaps {gap} fewer", presses=best.presses, gap=best.gap)
        )
        cells: tuple[str | Cell, ...] = (
            device.name,
            way,
            str(stored.now.presses),
            Cell(said, colour=shade),
            str(stored.without.presses),
            str(best.moved) if gains else say("none"),
            slots_words(device, best) if gains else say("as it is"),
        )
        return row_of(cells, device.id)

    def _stored(self) -> Stored | None:
        """What was found for the chosen device."""
        wanted = self.table.chosen_ref
        for each in self.found.stored if self.found is not None else ():
            if each.now.device == wanted:
                return each
        return None

    def _tell(self) -> None:
        one = self._stored()
        better = one is not None and one.best.presses < one.now.presses
        self.take.setEnabled(better)
        plain = one is not None and one.without.presses < one.now.presses
        self.plain.setVisible(one is not None and one.copied is not None)
        self.plain.setEnabled(plain)
        device = lookup.find(self._desk.plan.devices, str(self.table.chosen_ref))
        self.free.setEnabled(device is not None and device.led_by is not None)
        self.words.setText(self._words())

    def _words(self) -> str:
        plan = self._desk.plan
        said = [say("Choose a device to store its programs as the evening wants them.")]
        order = self.found.order if self.found is not None else None
        if order is not None:
            songs = tuple(order.songs)
            now = presses_in(plan, self._played())
            if order.presses < now:
                names = lookup.names_of(plan.scenes)
                told = listed((names[ident] for ident in songs), 8)
                saved = say_many("{count} press", "{count} presses", now - order.presses)
                said.append(
                    say(
                        "Another order of songs would save {saved}: {told}.", saved=saved, told=told
                    )
                )
        return " ".join(said)

    def _played(self) -> tuple[str, ...]:
        """The songs of the first set list, as they were worked out."""
        plan = self._desk.plan
        if plan.setlists and self.found is not None and self.found.order is not None:
            wanted = sorted(self.found.order.songs)
            for each in plan.setlists:
                if sorted(each.played) == wanted:
                    return each.played
        return tuple(scene.id for scene in plan.scenes)

    def _take(self, copies: bool = True) -> None:
        one = self._stored()
        if one is None:
            return
        best = one.best if copies else one.without
        self._perform(setlists.store_as(best.device, best.slots))

    def _lead(self) -> None:
        leader, follower = self.leader.currentData(), self.follower.currentData()
        channel = int(self.channel.currentData())
        try:
            edit = setlists.lead(self._desk.plan, str(leader), str(follower), channel)
        except EditError as error:
            self.words.setText(str(error))
        else:
            self._perform(edit)

    def _free(self) -> None:
        ref = str(self.table.chosen_ref)
        if ref:
            self._perform(setlists.lead_no_longer(ref))


def slots_words(device: Device, best: Storing) -> str:
    """Where programs would be stored, in the order of slots."""
    placed = []
    for number, slots in best.slots.items():
        name = lookup.program(device, number).name
        for slot in slots:
            placed.append((slot, f"{program_words(device, slot)} {name}"))
    return ", ".join(words for _, words in sorted(placed))


def _combo(name: str) -> QComboBox:
    combo = CalmCombo()
    combo.setAccessibleName(name)
    bound(combo, "MinimumWidth", 90)
    return combo
