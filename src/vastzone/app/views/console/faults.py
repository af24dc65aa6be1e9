"""The page Faults: what was seen, what explains it, and what to try next."""

import random
from functools import partial

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button, add_action, set_tip
from vastzone.app.views.console.hiding import HideFaults
from vastzone.app.views.console.hunt import Hunt
from vastzone.app.views.console.shared import Bench
from vastzone.app.views.console.verdict import Verdict, heading
from vastzone.core.console.faults import all_single, fault_words, likelihood, short_words
from vastzone.core.console.trial_words import answer_words, note_of, read_contacts, trial_words
from vastzone.core.console.trials import (
    ContactStrike,
    Evidence,
    PinTest,
    groups,
    read_pin_test,
)
from vastzone.core.errors import EditError
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.model.console import Fault
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many

GATHER_MS = 400
PREFERENCES = (
    (say("whichever tells most"), "any"),
    (say("rather one key"), "key"),
    (say("rather a chord"), "chord"),
    (say("rather a meter"), "meter"),
)


class FaultsPage(QWidget):
    """Enter what was seen; beside it the causes, and the trial that tells most."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.hunt = Hunt(bench)
        self.verdict = Verdict(bench, self.hunt)
        self.verdict.answered.connect(self.saw)
        self.verdict.noted.connect(self._keep)
        self.struck, self.heard, self.pins = QLineEdit(), QLineEdit(), QLineEdit()
        self.block: QComboBox = CalmCombo()
        self.listen, self.anew = Button(say("Listen")), Button(say("Begin anew"))
        self.listen.setCheckable(True)
        set_tip(
            self.listen, say("Every key that you strike here, in Keys or by MIDI counts as seen")
        )
        self.anew.clicked.connect(self._forget)
        self.seen = RowList(say("What was seen"))
        self.seen.setWordWrap(True)
        self.seen.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.words, self.hidden = quiet(""), quiet("")
        self.practise, self.reveal = Button(say("Hide")), Button(say("Show it"))
        set_tip(self.practise, say("For practice: the simulated console gets a fault, you find it"))
        self.practise.setMenu(self._hiding())
        self.reveal.clicked.connect(self._reveal)
        outer = QHBoxLayout(self)
        outer.setContentsMargins(14, 0, 14, 8)
        outer.setSpacing(16)
        outer.addLayout(self._left(), 2)
        outer.addWidget(self.verdict, 3)
        bench.held_changed.connect(self._listen)
        self._arrived: set[tuple[int, int]] = set()
        self._wait = QTimer(self)
        self._wait.setSingleShot(True)
        self._wait.setInterval(GATHER_MS)
        self._wait.timeout.connect(self._gathered)
        bench.desk.stage.heard.connect(self._hear)

    def _left(self) -> QVBoxLayout:
        box = QVBoxLayout()
        box.setSpacing(6)
        self.block.setAccessibleName(say("Keyboard that the names are of"))
        for field, name, hint in (
            (self.struck, say("Struck"), say("C4, or C4, E4, G4 together")),
            (self.heard, say("Heard"), say("nothing, or what sounded")),
            (self.pins, say("Pin test"), say("L3-L4, or 5 is shorted to 6")),
        ):
            field.setAccessibleName(name)
            field.setPlaceholderText(hint)
        note, read = Button(say("Note it")), Button(say("Read it"))
        note.setProperty("role", "primary")
        note.clicked.connect(self._note)
        read.clicked.connect(self._read_pins)
        self.heard.returnPressed.connect(self._note)
        self.pins.returnPressed.connect(self._read_pins)
        box.addWidget(heading(say("What was seen")))
        for words, widget in (
            (say("On"), self.block),
            (say("Struck"), self.struck),
            (say("Heard"), self.heard),
        ):
            box.addLayout(_line(words, widget))
        row = QHBoxLayout()
        row.addWidget(note)
        row.addWidget(self.listen)
        row.addStretch()
        row.addWidget(self.anew)
        box.addLayout(row)
        pins = _line(say("Pins"), self.pins)
        pins.addWidget(read)
        box.addLayout(pins)
        self.preference: QComboBox = CalmCombo()
        self.preference.setAccessibleName(say("Tests that one would rather make"))
        for words, kind in PREFERENCES:
            self.preference.addItem(words, kind)
        self.preference.currentIndexChanged.connect(self._prefer)
        box.addLayout(_line(say("Tests"), self.preference))
        box.addWidget(self.seen, 1)
        box.addWidget(self.words)
        foot = QHBoxLayout()
        foot.addWidget(self.hidden, 1)
        foot.addWidget(self.practise)
        foot.addWidget(self.reveal)
        box.addLayout(foot)
        return box

    def refresh(self) -> None:
        """Show what was seen; the causes follow beside the window."""
        owner = self._bench.owner
        if owner is None:
            return
        offer(self.block, [(p.block.name, n) for n, p in enumerate(self._bench.circuit.parts)])
        circuit, console = self._bench.circuit, self._bench.console
        lines = []
        for one in self.hunt.evidence():
            told = answer_words(owner, console, circuit, one.trial, one.result)
            lines.append((f"{trial_words(owner, console, circuit, one.trial)}  →  {told}", None))
        self.seen.show_lines(lines)
        self.anew.setEnabled(bool(console.seen))
        count = len(console.hidden)
        self.hidden.setText(
            say(
                "The simulated console hides {faults}.",
                faults=say_many("{count} fault", "{count} faults", count),
            )
            if count
            else say("The simulated console is as the plan knows it.")
        )
        self.practise.setVisible(not count)
        self.reveal.setVisible(bool(count))
        self.reveal.setText(say("Show it") if count == 1 else say("Show them"))
        self.hunt.look()

    def _note(self) -> None:
        owner, circuit = self._bench.owner, self._bench.circuit
        if owner is None:
            return
        block = max(0, self.block.currentIndex())
        try:
            keys = read_contacts(owner, circuit, self.struck.text(), block)
            heard = read_contacts(owner, circuit, self.heard.text(), block)
        except EditError as error:
            self.words.setText(str(error))
            return
        if not all(0 <= number < circuit.parts[place].size for place, number in keys):
            self.words.setText(say("That key is not on this keyboard: choose another."))
            return
        self.words.setText("")
        trial = ContactStrike(tuple(sorted(circuit.contact(b, n) for b, n in keys)))
        self.saw(Evidence(trial, frozenset(heard)))
        self.struck.clear()
        self.heard.clear()

    def saw(self, evidence: Evidence) -> None:
        """Write an observation into the log; the causes are looked for again."""
        owner = self._bench.owner
        if owner is not None:
            self._perform(consoles.saw(owner.id, note_of(evidence)))

    def _read_pins(self) -> None:
        owner, console, circuit = self._bench.owner, self._bench.console, self._bench.circuit
        if owner is None:
            return
        try:
            pairs = read_pin_test(self.pins.text(), circuit)
        except EditError as error:
            self.words.setText(str(error))
            return
        told = [short_words(owner, console, group) for group in groups(pairs)]
        self.words.setText("\n".join(told) or say("No pins are joined."))
        self.saw(Evidence(PinTest(), pairs))
        self.pins.clear()

    def _forget(self) -> None:
        if self._bench.owner is not None:
            self._perform(consoles.forget(self._bench.owner.id))

    def _hiding(self) -> QMenu:
        """How to choose what is hidden."""
        menu = QMenu(self)
        for count, words in (
            (1, say("One by chance")),
            (2, say("Two by chance")),
            (3, say("Three by chance")),
        ):
            add_action(menu, words, partial(self._hide, count))
        add_action(menu, say("Choose from a list …"), self._choose_hidden)
        return menu

    def _hide(self, count: int) -> None:
        """Put faults into the simulated console; which, the person is to find."""
        owner = self._bench.owner
        if owner is None:
            return
        faults = all_single(self._bench.circuit)
        weights = [likelihood(fault) for fault in faults]
        chosen: dict[Fault, None] = {}
        while len(chosen) < min(count, len(faults)):
            chosen[random.choices(faults, weights)[0]] = None
        self._perform(consoles.hide(owner.id, tuple(chosen)))

    def _choose_hidden(self) -> None:
        """Let somebody else choose what is to be found."""
        owner = self._bench.owner
        if owner is None:
            return

        def hide(faults: tuple[Fault, ...]) -> None:
            self._perform(consoles.hide(owner.id, faults))

        HideFaults(self, owner, self._bench.console, self._bench.circuit, hide).open()

    def _prefer(self, _: int) -> None:
        self.hunt.prefer = self.preference.currentData()
        self.hunt.look()

    def _reveal(self) -> None:
        """Give up: say what is hidden, and write it among the known faults."""
        owner, hidden = self._bench.owner, self._bench.console.hidden
        if owner is not None:
            said = ". ".join(fault_words(owner, self._bench.console, f) for f in hidden)
            self._perform(consoles.found(owner.id, hidden))
            self.words.setText(say("It was: {said}.", said=said))

    def _keep(self, faults: tuple[Fault, ...]) -> None:
        if self._bench.owner is not None:
            self._perform(consoles.found(self._bench.owner.id, faults))

    def _listen(self) -> None:
        """A key held on the console while listening: what the encoder reports is what is seen."""
        if self.listen.isChecked() and self._bench.held and self.isVisible():
            contacts = tuple(sorted(self._bench.held))
            self.saw(Evidence(ContactStrike(contacts), self._bench.reported()))

    def _hear(self, message: Message, now: float) -> None:
        """What a real encoder sends while the proposed key is struck, gathered for a moment."""
        proposal = self.hunt.proposal
        asked = proposal is not None and isinstance(proposal.trial, ContactStrike)
        if not (asked and self.listen.isChecked() and self.isVisible()):
            return
        if message.kind == "note_on":
            self._arrived |= self._hits(message)
            self._wait.start()

    def _hits(self, message: Message) -> set[tuple[int, int]]:
        """The contacts that a note on a channel stands for, by the zones of the program here."""
        owner, circuit = self._bench.owner, self._bench.circuit
        program = lookup.program_in(self._bench.desk.scene, owner) if owner is not None else None
        beds = set()
        for z in program.zones if program is not None else ():
            if z.sends and z.channel == message.channel + 1:
                beds.add(z.keybed)
        hits = set()
        for n, p in enumerate(circuit.parts):
            if p.block.keybed in beds:
                hits.add((n, message.first - p.low))
        return hits

    def _gathered(self) -> None:
        proposal, hits = self.hunt.proposal, frozenset(self._arrived)
        self._arrived = set()
        if proposal is not None:
            self.saw(Evidence(proposal.trial, hits))


def _line(words: str, widget: QWidget) -> QHBoxLayout:
    row, label = QHBoxLayout(), quiet(words)
    bound(label, "FixedWidth", 52)
    row.addWidget(label)
    row.addWidget(widget, 1)
    return row
