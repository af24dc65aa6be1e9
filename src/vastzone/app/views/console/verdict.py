"""What explains what was seen, and what to try next, as the finder found it."""

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QProgressBar,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.frame.elided import quiet
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.views.console.hunt import Hunt
from vastzone.app.views.console.shared import Bench
from vastzone.core.console.faults import fault_words, mend_words
from vastzone.core.console.finder import FaultCause, TrialProposal, in_all, settled
from vastzone.core.console.trial_words import answer_words, trial_words, why_words
from vastzone.core.console.trials import ContactStrike, Evidence, Trial, predict
from vastzone.core.plan.model.console import Fault
from vastzone.core.say import say
from vastzone.core.text import uncapital

MOST, ANSWERS, LEAST = 6, 5, 0.005

NOTHING_ODD = say(
    "Enter what you struck and what you heard, or press Listen and play on the page Console. A "
    "dead key, a doubled note or a ghost is enough to begin."
)


class Verdict(QScrollArea):
    """The causes by weight, over them the wire to mend or the trial that tells most.

    ``answered`` carries what came of a trial, ``noted`` the faults to write into the plan.
    """

    answered = Signal(object)
    noted = Signal(object)

    def __init__(self, bench: Bench, hunt: Hunt) -> None:
        super().__init__()
        self._bench, self._hunt = bench, hunt
        self._all: frozenset[Fault] = frozenset()
        self.setObjectName("canvasScroll")
        self.setAccessibleName(say("Causes that explain what was seen"))
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self._box = self._fresh()
        hunt.done.connect(self.show_found)

    def _fresh(self) -> QVBoxLayout:
        """An empty page in place of the one before, which Qt then deletes whole."""
        inner = QWidget()
        inner.setObjectName("viewBody")
        box = QVBoxLayout(inner)
        box.setSpacing(8)
        self.setWidget(inner)
        return box

    def show_found(self) -> None:
        """The causes and the proposal, as they came from the search."""
        self._box = self._fresh()
        causes, proposal = self._hunt.causes, self._hunt.proposal
        owner = self._bench.owner
        if owner is None:
            return
        if not causes:
            self._box.addWidget(heading(say("Nothing odd yet")))
            self._box.addWidget(quiet(NOTHING_ODD))
            self._box.addStretch()
            return
        shown = [causes[0], *(cause for cause in causes[1:MOST] if cause.weight >= LEAST)]
        sure = settled(causes, proposal)
        self._all = frozenset()
        if sure:
            self._box.addWidget(self._found(causes[0]))
        else:
            self._all = in_all([cause for cause in shown if cause.explains == 1.0])
            if proposal is not None:
                self._box.addWidget(self._next(proposal))
        self._box.addWidget(heading(say("What explains it")))
        if self._all:
            words = ". ".join(fault_words(owner, self._bench.console, fault) for fault in self._all)
            shared = say(
                "Whatever explains it all has this: {words}.",
                words=uncapital(words),
            )
            self._box.addWidget(quiet(shared))
        for cause in shown:
            self._box.addWidget(self._cause(cause))
        self._box.addStretch()

    def _words(self, faults: tuple[Fault, ...]) -> str:
        owner = self._bench.owner
        assert owner is not None
        told = [fault for fault in faults if fault not in self._all] or faults
        return ". ".join(fault_words(owner, self._bench.console, f) for f in told)

    def _cause(self, cause: FaultCause) -> QWidget:
        line, box = QWidget(), QVBoxLayout()
        box.setContentsMargins(0, 0, 0, 2)
        box.setSpacing(2)
        words = Label(self._words(cause.faults))
        words.setWordWrap(True)
        bar = QProgressBar()
        bar.setRange(0, 1000)
        bar.setValue(round(1000 * cause.weight))
        bar.setTextVisible(False)
        bound(bar, "FixedHeight", 6)
        bar.setAccessibleName(say("{weight:.0%} likely", weight=cause.weight))
        box.addWidget(words)
        box.addWidget(bar)
        share = say("explains {explains:.0%} of what is odd", explains=cause.explains)
        box.addWidget(quiet(say("{weight:.0%} likely, {share}", weight=cause.weight, share=share)))
        line.setLayout(box)
        return line

    def _found(self, cause: FaultCause) -> QWidget:
        frame, box = _card()
        box.addWidget(heading(say("Found")))
        words = Label(f"{self._words(cause.faults)}.")
        words.setWordWrap(True)
        words.setProperty("role", "title")
        box.addWidget(words)
        box.addWidget(quiet(" ".join(dict.fromkeys(mend_words(fault) for fault in cause.faults))))
        press = Button(say("Note this fault"))
        press.setProperty("role", "primary")
        press.clicked.connect(partial(self.noted.emit, cause.faults))
        row = QHBoxLayout()
        row.addWidget(press)
        row.addStretch()
        box.addLayout(row)
        return frame

    def _next(self, proposal: TrialProposal) -> QWidget:
        owner, console, circuit = self._bench.owner, self._bench.console, self._bench.circuit
        assert owner is not None
        frame, box = _card()
        box.addWidget(heading(say("Try next: tells {bits:.1f} bits", bits=proposal.bits)))
        words = Label(trial_words(owner, console, circuit, proposal.trial))
        words.setWordWrap(True)
        words.setProperty("role", "title")
        box.addWidget(words)
        box.addWidget(quiet(why_words(proposal)))
        box.addWidget(quiet(say("What came of it?")))
        for result, share, faults in proposal.answers[:ANSWERS]:
            said = answer_words(owner, console, circuit, proposal.trial, result)
            press = Button(said)
            set_tip(press, say("{share:.0%}: {words}", share=share, words=self._words(faults[0])))
            press.clicked.connect(partial(self.answered.emit, Evidence(proposal.trial, result)))
            mean = quiet(
                say("then: {words}", words=self._words(faults[0]))
                + (say(", or {count} more", count=len(faults) - 1) if len(faults) > 1 else "")
            )
            row = QHBoxLayout()
            row.addWidget(press)
            row.addWidget(mean, 1)
            box.addLayout(row)
        ask = Button(say("Ask the simulated console"))
        set_tip(ask, say("Answers as a console with the faults known and hidden would"))
        ask.clicked.connect(partial(self._simulate, proposal.trial))
        row = QHBoxLayout()
        row.addWidget(ask)
        row.addStretch()
        box.addLayout(row)
        if isinstance(proposal.trial, ContactStrike) and len(proposal.trial.contacts) == 1:
            self._bench.point(proposal.trial.contacts[0])
        return frame

    def _simulate(self, trial: Trial) -> None:
        circuit, state = self._bench.circuit, self._bench.state
        self.answered.emit(Evidence(trial, predict(circuit, state, trial)))


def heading(words: str) -> Label:
    """Words over a group."""
    label = Label(words)
    label.setProperty("role", "heading")
    return label


def _card() -> tuple[QFrame, QVBoxLayout]:
    frame, box = QFrame(), QVBoxLayout()
    frame.setObjectName("finderCard")
    box.setContentsMargins(14, 10, 14, 12)
    box.setSpacing(6)
    frame.setLayout(box)
    return frame, box
