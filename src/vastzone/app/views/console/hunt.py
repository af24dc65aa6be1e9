"""The finder beside the window: the last question wins."""

from PySide6.QtCore import QObject, Signal

from vastzone.app.jobs import BackgroundJob
from vastzone.app.views.console.shared import Bench
from vastzone.core.console.finder import (
    FaultCause,
    Preference,
    TrialProposal,
    propose,
    rank,
)
from vastzone.core.console.trial_words import evidence_of
from vastzone.core.console.trials import Evidence
from vastzone.core.progress import Progress

Found = tuple[tuple[FaultCause, ...], TrialProposal | None]


class Hunt(QObject):
    """What was seen in the console looked at, and what the last search found."""

    done = Signal()

    def __init__(self, bench: Bench) -> None:
        super().__init__()
        self._bench = bench
        self._aside = BackgroundJob(self)
        self._asked: object = None
        self.prefer: Preference = "any"
        self.causes: tuple[FaultCause, ...] = ()
        self.proposal: TrialProposal | None = None

    def evidence(self) -> tuple[Evidence, ...]:
        """The log as observations; lines that mean nothing any more are left out."""
        circuit = self._bench.circuit
        evidence = (evidence_of(s, circuit) for s in self._bench.console.seen)
        given = []
        for e in evidence:
            if e is not None:
                given.append(e)
        return tuple(given)

    @property
    def busy(self) -> bool:
        """Whether it still looks."""
        return self._aside.busy

    def look(self) -> None:
        """Look for causes again where what was seen or the circuit changed."""
        seen, circuit = self.evidence(), self._bench.circuit
        prefer = self.prefer
        if self._asked == (seen, id(circuit), prefer):
            return
        self._asked = (seen, id(circuit), prefer)

        def search(tell: Progress) -> Found:
            causes = rank(circuit, seen, tell)
            done = [entry.trial for entry in seen]
            return causes, propose(circuit, causes, done, tell, prefer)

        self._aside.start(search, self._keep)

    def _keep(self, result: Found) -> None:
        self.causes, self.proposal = result
        self.done.emit()
