"""The page Faults: what was seen, what explains it, and what to try next."""

from functools import partial

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import CalmCombo, offer
from vastzone.app.perform import Performer
from vastzone.app.views.console.hunt import Hunt
from vastzone.app.views.console.shared import Bench
from vastzone.core.console.faults import fault_words, mend_words, pin_name
from vastzone.core.console.finder import Cause, Proposal, settled
from vastzone.core.console.telling import (
    answer_words,
    note_of,
    read_contacts,
    trial_words,
)
from vastzone.core.console.trials import (
    Evidence,
    PinTest,
    Result,
    Strike,
    groups,
    predict,
    read_pin_test,
)
from vastzone.core.console.wires import contact_name
from vastzone.core.errors import EditError
from vastzone.core.midi.messages import Message
from vastzone.core.plan import consoles, lookup
from vastzone.core.plan.console import Fault

MOST, ANSWERS, LEAST = 6, 5, 0.005
GATHER_MS = 400


class FaultsPage(QWidget):
    """Left: enter what was seen.  Right: the causes, and the trial that tells most."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.hunt = Hunt(bench)
        self.hunt.done.connect(self._show)
        self.struck, self.heard, self.pins = QLineEdit(), QLineEdit(), QLineEdit()
        self.block: QComboBox = CalmCombo()
        self.listen, self.anew = QPushButton("Listen"), QPushButton("Begin anew")
        self.listen.setCheckable(True)
        self.listen.setToolTip("Every key that you strike here, in Keys or by MIDI counts as seen")
        self.anew.clicked.connect(self._forget)
        self.seen = QListWidget()
        self.seen.setAccessibleName("What was seen")
        self.seen.setWordWrap(True)
        self.seen.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.words = quiet("")
        outer = QHBoxLayout(self)
        outer.setContentsMargins(14, 0, 14, 8)
        outer.setSpacing(16)
        outer.addLayout(self._left(), 2)
        self._right = QVBoxLayout()
        self._right.setSpacing(8)
        inner = QWidget()
        inner.setLayout(self._right)
        scroll = QScrollArea()
        scroll.setObjectName("canvasScroll")
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidget(inner)
        inner.setObjectName("viewBody")
        outer.addWidget(scroll, 3)
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
        self.block.setAccessibleName("Keyboard that the names are of")
        for field, name, hint in (
            (self.struck, "Struck", "C4, or C4, E4, G4 together"),
            (self.heard, "Heard", "nothing, or what sounded"),
            (self.pins, "Pin test", "L3-L4, C2-C9"),
        ):
            field.setAccessibleName(name)
            field.setPlaceholderText(hint)
        note, read = QPushButton("Note it"), QPushButton("Read it")
        note.setProperty("role", "primary")
        note.clicked.connect(self._note)
        read.clicked.connect(self._read_pins)
        self.heard.returnPressed.connect(self._note)
        self.pins.returnPressed.connect(self._read_pins)
        box.addWidget(_head("What was seen"))
        for words, widget in (("On", self.block), ("Struck", self.struck), ("Heard", self.heard)):
            box.addLayout(_line(words, widget))
        row = QHBoxLayout()
        row.addWidget(note)
        row.addWidget(self.listen)
        row.addStretch()
        row.addWidget(self.anew)
        box.addLayout(row)
        pins = _line("Pins", self.pins)
        pins.addWidget(read)
        box.addLayout(pins)
        box.addWidget(self.seen, 1)
        box.addWidget(self.words)
        return box

    def refresh(self) -> None:
        """Show what was seen; the causes follow beside the window."""
        owner = self._bench.owner
        if owner is None:
            return
        offer(self.block, [(p.block.name, n) for n, p in enumerate(self._bench.circuit.parts)])
        made, console = self._bench.circuit, self._bench.console
        self.seen.clear()
        for one in self.hunt.evidence():
            told = answer_words(owner, console, made, one.trial, one.result)
            self.seen.addItem(
                QListWidgetItem(f"{trial_words(owner, console, made, one.trial)}  →  {told}")
            )
        self.anew.setEnabled(bool(console.seen))
        self.hunt.look()

    def _note(self) -> None:
        owner, console, made = self._bench.owner, self._bench.console, self._bench.circuit
        if owner is None:
            return
        block = max(0, self.block.currentIndex())
        try:
            keys = read_contacts(owner, console, made, self.struck.text(), block)
            heard = read_contacts(owner, console, made, self.heard.text(), block)
            for b, n in keys:
                if not 0 <= n < made.parts[b].size:
                    raise EditError("That key is not on this keyboard: choose another.")
        except EditError as error:
            self.words.setText(str(error))
            return
        self.words.setText("")
        trial = Strike(tuple(sorted(made.contact(b, n) for b, n in keys)))
        self.saw(Evidence(trial, frozenset(heard)))
        self.struck.clear()
        self.heard.clear()

    def saw(self, one: Evidence) -> None:
        """Write an observation into the log; the causes are looked for again."""
        owner = self._bench.owner
        if owner is not None:
            self._perform(consoles.saw(owner.id, note_of(one)))

    def _read_pins(self) -> None:
        owner, console, made = self._bench.owner, self._bench.console, self._bench.circuit
        if owner is None:
            return
        try:
            pairs = read_pin_test(self.pins.text(), made)
        except EditError as error:
            self.words.setText(str(error))
            return
        told = []
        for held in groups(pairs):
            names = " = ".join(pin_name(p) for p in held)
            keys = [
                contact_name(owner, console, made.parts[c.block].block.id, c.number)
                for c in made.contacts
                if any(w.bus in (c.line, c.common) and w.pin == made.pin(p)
                       for w in made.wires if w.block == c.block for p in held)
            ]  # fmt: skip
            told.append(f"{names}: {len(keys)} contacts, such as {', '.join(keys[:3])}")
        self.words.setText("; ".join(told) or "No pins are joined.")
        self.saw(Evidence(PinTest(), pairs))
        self.pins.clear()

    def _forget(self) -> None:
        if self._bench.owner is not None:
            self._perform(consoles.forget(self._bench.owner.id))

    def _listen(self) -> None:
        """A key held on the console while listening: what the encoder reports is what is seen."""
        if self.listen.isChecked() and self._bench.held and self.isVisible():
            held = tuple(sorted(self._bench.held))
            self.saw(Evidence(Strike(held), self._bench.reported()))

    def _hear(self, message: Message, now: float) -> None:
        """What a real encoder sends while the proposed key is struck, gathered for a moment."""
        proposal = self.hunt.proposal
        asked = proposal is not None and isinstance(proposal.trial, Strike)
        if not (asked and self.listen.isChecked() and self.isVisible()):
            return
        if message.kind == "note_on":
            self._arrived |= self._hits(message)
            self._wait.start()

    def _hits(self, message: Message) -> set[tuple[int, int]]:
        """The contacts that a note on a channel stands for, by the zones of the program here."""
        owner, made = self._bench.owner, self._bench.circuit
        program = lookup.program_in(self._bench.desk.scene, owner) if owner is not None else None
        beds = {
            z.keybed for z in (program.zones if program is not None else ())
            if z.on and z.channel == message.channel + 1
        }  # fmt: skip
        return {(n, message.first - p.low) for n, p in enumerate(made.parts)
                if p.block.keybed in beds}  # fmt: skip

    def _gathered(self) -> None:
        proposal, hits = self.hunt.proposal, frozenset(self._arrived)
        self._arrived = set()
        if proposal is not None:
            self.saw(Evidence(proposal.trial, hits))

    def _show(self) -> None:
        """The causes and the proposal, as they came from the search."""
        while (item := self._right.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        causes, proposal = self.hunt.causes, self.hunt.proposal
        owner = self._bench.owner
        if owner is None:
            return
        if not causes:
            self._right.addWidget(_head("Nothing odd yet"))
            self._right.addWidget(quiet(
                "Enter what you struck and what you heard, or press Listen and play on the page "
                "Console. A dead key, a doubled note or a ghost is enough to begin."))  # fmt: skip
            self._right.addStretch()
            return
        if settled(causes, proposal):
            self._right.addWidget(self._found(causes[0]))
        if proposal is not None and not settled(causes, proposal):
            self._right.addWidget(self._next(proposal))
        self._right.addWidget(_head("What explains it"))
        for cause in [c for n, c in enumerate(causes[:MOST]) if not n or c.weight >= LEAST]:
            self._right.addWidget(self._cause(cause))
        self._right.addStretch()

    def _words(self, faults: tuple[Fault, ...]) -> str:
        owner = self._bench.owner
        assert owner is not None
        return ". ".join(fault_words(owner, self._bench.console, f) for f in faults)

    def _cause(self, cause: Cause) -> QWidget:
        line, box = QWidget(), QVBoxLayout()
        box.setContentsMargins(0, 0, 0, 2)
        box.setSpacing(2)
        words = QLabel(self._words(cause.faults))
        words.setWordWrap(True)
        bar = QProgressBar()
        bar.setRange(0, 1000)
        bar.setValue(round(1000 * cause.weight))
        bar.setTextVisible(False)
        bar.setFixedHeight(6)
        bar.setAccessibleName(f"{cause.weight:.0%} likely")
        box.addWidget(words)
        box.addWidget(bar)
        share = f"explains {cause.explains:.0%} of what is odd"
        box.addWidget(quiet(f"{cause.weight:.0%} likely, {share}"))
        line.setLayout(box)
        return line

    def _found(self, cause: Cause) -> QWidget:
        frame, box = _card()
        box.addWidget(_head("Found"))
        words = QLabel(f"{self._words(cause.faults)}.")
        words.setWordWrap(True)
        words.setProperty("role", "title")
        box.addWidget(words)
        box.addWidget(quiet(" ".join(dict.fromkeys(mend_words(f) for f in cause.faults))))
        press = QPushButton("Note this fault")
        press.setProperty("role", "primary")
        press.clicked.connect(partial(self._keep, cause.faults))
        row = QHBoxLayout()
        row.addWidget(press)
        row.addStretch()
        box.addLayout(row)
        return frame

    def _keep(self, faults: tuple[Fault, ...]) -> None:
        owner = self._bench.owner
        if owner is not None:
            self._perform(consoles.found(owner.id, faults))

    def _next(self, proposal: Proposal) -> QWidget:
        owner, console, made = self._bench.owner, self._bench.console, self._bench.circuit
        assert owner is not None
        frame, box = _card()
        box.addWidget(_head(f"Try next: tells {proposal.bits:.1f} bits"))
        words = QLabel(trial_words(owner, console, made, proposal.trial))
        words.setWordWrap(True)
        words.setProperty("role", "title")
        box.addWidget(words)
        box.addWidget(quiet("What came of it?"))
        for result, share, faults in proposal.answers[:ANSWERS]:
            said = answer_words(owner, console, made, proposal.trial, result)
            press = QPushButton(said)
            press.setToolTip(f"{share:.0%}: {self._words(faults[0])}")
            press.clicked.connect(partial(self._answer, proposal, result))
            mean = quiet(f"then: {self._words(faults[0])}"
                         + (f", or {len(faults) - 1} more" if len(faults) > 1 else ""))  # fmt: skip
            row = QHBoxLayout()
            row.addWidget(press)
            row.addWidget(mean, 1)
            box.addLayout(row)
        ask = QPushButton("Ask the simulated console")
        ask.setToolTip("Answers as a console with its known faults would")
        ask.clicked.connect(partial(self._simulate, proposal))
        row = QHBoxLayout()
        row.addWidget(ask)
        row.addStretch()
        box.addLayout(row)
        if isinstance(proposal.trial, Strike) and len(proposal.trial.contacts) == 1:
            self._bench.point(proposal.trial.contacts[0])
        return frame

    def _answer(self, proposal: Proposal, result: Result) -> None:
        self.saw(Evidence(proposal.trial, result))

    def _simulate(self, proposal: Proposal) -> None:
        made, state = self._bench.circuit, self._bench.state
        self.saw(Evidence(proposal.trial, predict(made, state, proposal.trial)))


def _head(words: str) -> QLabel:
    label = QLabel(words)
    label.setProperty("role", "heading")
    return label


def _line(words: str, widget: QWidget) -> QHBoxLayout:
    row, label = QHBoxLayout(), quiet(words)
    label.setFixedWidth(52)
    row.addWidget(label)
    row.addWidget(widget, 1)
    return row


def _card() -> tuple[QFrame, QVBoxLayout]:
    frame, box = QFrame(), QVBoxLayout()
    frame.setObjectName("finderCard")
    box.setContentsMargins(14, 10, 14, 12)
    box.setSpacing(6)
    frame.setLayout(box)
    frame.setSizePolicy(frame.sizePolicy().horizontalPolicy(), frame.sizePolicy().Policy.Maximum)
    box.setAlignment(Qt.AlignmentFlag.AlignTop)
    return frame, box
