"""The page Couplers: which stop lets which keys play another division too, and who holds that."""

from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.sheets_organ import (
    COUPLER,
    PITCHES,
    keys_in,
    parts_in,
    played_from,
    stops_in,
)
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.views.console.shared import Bench
from vastzone.core.engine.compile import played
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import couplers
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.organ import Coupling
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.coupler_names import couplers_named
from vastzone.core.plan.refs import device_of, read_ref, thing_of
from vastzone.core.say import say, say_many
from vastzone.core.text import ALL, listed

COLUMNS = (
    say("Coupler"),
    say("Drawn by"),
    say("These keys"),
    say("Also play"),
    say("Pitch"),
    say("Held by"),
    say("Proved"),
)
NARROW = 700
PITCH_WORDS = {shift: words for words, shift in PITCHES}


class CouplersPage(QWidget):
    """A line to wish a coupler, the couplers as a table, and where the chosen one is held."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.stop, self.keys = _combo(say("Drawn by")), _combo(say("Keys that play"))
        self.plays, self.pitch = _combo(say("What they also play")), _combo(say("Pitch"))
        offer(self.pitch, PITCHES)
        self.add = Button(say("Add a coupler"))
        self.add.clicked.connect(self._add)
        self.named = Button(say("From the stops’ names"))
        set_tip(self.named, say("Stops called such as “Swell to Great” or “Swell Octave”"))
        self.named.clicked.connect(self._add_named)
        self.table = reading_table(COLUMNS, say("Couplers"))
        self.table.chosen.connect(self._choose)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        for column in (0, len(COLUMNS) - 1):
            header.setSectionResizeMode(column, QHeaderView.ResizeMode.Stretch)
        self.console, self.organ = Button(say("In the console")), Button(say("In the organ"))
        set_tip(self.console, say("The encoder sends these keys to the other division too"))
        set_tip(self.organ, say("The stop draws it there; the keys send what they always send"))
        self.every = Button(say("Hold all"))
        self.every.setProperty("role", "primary")
        set_tip(self.every, say("In the console where it can, else in the organ"))
        self.remove = Button(say("Take back"))
        self.console.clicked.connect(lambda: self._hold(in_organ=False))
        self.organ.clicked.connect(lambda: self._hold(in_organ=True))
        self.every.clicked.connect(self._hold_all)
        self.remove.clicked.connect(self._take_back)
        self.words = quiet("")
        self.words.setWordWrap(True)
        self._lay_out()

    def _lay_out(self) -> None:
        box, below = QVBoxLayout(self), QHBoxLayout()
        first, second = QHBoxLayout(), QHBoxLayout()
        box.setContentsMargins(14, 4, 14, 10)
        box.setSpacing(8)
        for line, words, combo in (
            (first, say("While"), self.stop),
            (first, say("is drawn, the keys of"), self.keys),
            (second, say("also play"), self.plays),
            (second, "", self.pitch),
        ):
            if words:
                line.addWidget(Label(words))
            line.addWidget(combo, 1)
        second.addWidget(self.add)
        for button in (self.every, self.console, self.organ, self.remove, self.named):
            below.addWidget(button)
        below.addStretch()
        for line in (first, second):
            line.setSpacing(7)
            box.addLayout(line)
        box.addWidget(self.table, 1)
        box.addLayout(below)
        box.addWidget(self.words)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """What a coupler does stands in its facts where there is no room here."""
        super().resizeEvent(event)
        for column in (2, 3, 4):
            self.table.setColumnHidden(column, self.width() < NARROW)

    @property
    def chosen(self) -> Coupling | None:
        """The coupler that is chosen in the table."""
        ident = str(self.table.chosen_ref).removeprefix(COUPLER)
        return lookup.find(self._bench.desk.plan.couplings, ident)

    def refresh(self) -> None:
        """Show the couplers as they are now."""
        plan, owner = self._bench.desk.plan, self._bench.owner
        if owner is None:
            return
        offer(self.stop, stops_in((owner,)))
        offer(self.keys, keys_in((owner,)))
        offer(self.plays, parts_in(played_from(plan, owner)))
        self.add.setEnabled(bool(self.stop.count() and self.keys.count() and self.plays.count()))
        named = couplers_named(plan, owner)
        self.named.setVisible(bool(named))
        self.table.show_rows([self._row(plan, one) for one in plan.couplings])
        self._tell(
            say(
                "{stops} called like a coupler.",
                stops=say_many("{count} stop", "{count} stops", len(named)),
            )
            if named
            else ""
        )

    def _row(self, plan: Plan, one: Coupling) -> Row:
        found = self._findings(one)
        proved = Cell(say("as meant"), colour=THEME.colours.good)
        if found:
            proved = Cell(found[0], colour=THEME.colours.fault)
        cells = (
            one.name,
            _name(plan, one.stop, "controls"),
            _name(plan, one.keys, "keybeds"),
            _name(plan, one.plays, "parts"),
            PITCH_WORDS.get(one.shift, say("{shift:+} semitones", shift=one.shift)),
            listed(held_by(plan, one), ALL) or say("nobody yet"),
            proved,
        )
        return row_of(cells, f"{COUPLER}{one.id}")

    def _findings(self, one: Coupling) -> list[str]:
        """What the proof says against a coupler."""
        told = []
        for finding in self._bench.desk.findings:
            about = {one.keys, one.stop}.issubset(finding.subjects)
            if about and finding.rule.startswith("coupler "):
                heard = finding.sentence.partition(": ")[2] or finding.sentence
                told.append(heard.rstrip("."))
        return told

    def _tell(self, more: str = "") -> None:
        one = self.chosen
        for button in (self.console, self.organ, self.remove):
            button.setEnabled(one is not None)
        self.every.setEnabled(bool(self._bench.desk.plan.couplings))
        told = self._findings(one) if one is not None else []
        said = say(
            "Draw stops on the page Console and play: what is coupled sounds, and is told below."
        )
        self.words.setText(" ".join(filter(None, (*told, said, more))))

    def _choose(self) -> None:
        ref = self.table.chosen_ref
        if ref:
            self._bench.desk.select(ref)
        self._tell()

    def _add(self) -> None:
        plan = self._bench.desk.plan
        keys, plays = self.keys.currentText(), self.plays.currentText()
        shift = int(self.pitch.currentData())
        name = say("{plays} to {keys}", plays=plays, keys=keys) + (
            f" {PITCH_WORDS[shift]}" if shift else ""
        )
        stop = self.stop.currentText()
        ident = lookup.free_id(lookup.ids_of(plan.couplings), stop)
        one = Coupling(
            id=ident,
            name=name[:80],
            stop=self.stop.currentData(),
            keys=self.keys.currentData(),
            plays=self.plays.currentData(),
            shift=shift,
        )
        self._perform(couplers.wish_coupler(one))
        self._bench.desk.select(f"{COUPLER}{ident}")
        self.table.selectRow(len(self._bench.desk.plan.couplings) - 1)

    def _add_named(self) -> None:
        owner = self._bench.owner
        if owner is None:
            return
        found = couplers_named(self._bench.desk.plan, owner)

        def apply(plan: Plan) -> Plan:
            for one in found:
                plan = couplers.wish_coupler(one).change(plan)
            return plan

        self._perform(
            Edit(
                say(
                    "Add {couplers}",
                    couplers=say_many("{count} coupler", "{count} couplers", len(found)),
                ),
                apply,
            )
        )

    def _hold(self, in_organ: bool) -> None:
        one = self.chosen
        if one is None:
            return
        try:
            self._perform(self._held(self._bench.desk.plan, one, in_organ))
        except EditError as error:
            self.words.setText(str(error))

    def _held(self, plan: Plan, one: Coupling, in_organ: bool) -> Edit:
        """A coupler held in one place only.  Raises EditError where it cannot be."""
        bare = couplers.without_holding(one)
        if in_organ:
            sounded = sorted(played(self._bench.desk.compiled).get(one.keys, frozenset()))
            held = couplers.hold_in_organ(bare.change(plan), one, sounded)
        else:
            held = couplers.hold_in_console(bare.change(plan), one)
        return Edit(held.label, lambda old: held.change(bare.change(old)))

    def _hold_all(self) -> None:
        """Every coupler that nobody holds, in the console where that can."""
        failed: list[str] = []

        def apply(plan: Plan) -> Plan:
            for one in plan.couplings:
                if held_by(plan, one):
                    continue
                try:
                    plan = self._held(plan, one, in_organ=False).change(plan)
                except EditError:
                    plan = self._held(plan, one, in_organ=True).change(plan)
            return plan

        try:
            apply(self._bench.desk.plan)
        except EditError as error:
            failed.append(str(error))
        if failed:
            self.words.setText(failed[0])
        else:
            self._perform(Edit(say("Hold all couplers"), apply))

    def _take_back(self) -> None:
        one = self.chosen
        if one is not None:
            self._perform(couplers.drop_coupler(one.id))


def held_by(plan: Plan, one: Coupling) -> list[str]:
    """The devices that hold a coupler, by name."""
    held = []
    console = lookup.device(plan, device_of(one.keys))
    ends = (thing_of(one.stop), thing_of(one.keys))
    for program in console.programs:
        if any((zone.drawn_by, zone.keybed) == ends for zone in program.zones):
            held.append(console.name)
            break
    organ = lookup.device(plan, device_of(one.plays))
    if any(each.plays == thing_of(one.plays) and each.name == one.name for each in organ.couplers):
        held.append(organ.name)
    return held


def _name(plan: Plan, ref: str, group: str) -> str:
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    return str(lookup.by_id(getattr(owner, group), ident, "thing").name)


def _combo(name: str) -> QComboBox:
    combo = CalmCombo()
    combo.setAccessibleName(name)
    bound(combo, "MinimumWidth", 90)
    return combo
