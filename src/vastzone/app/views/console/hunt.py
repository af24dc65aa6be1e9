"""The finder beside the window: it looks in a thread of its own, the last question wins."""

import threading

from PySide6.QtCore import QObject, QTimer, Signal

from vastzone.app.views.console.shared import Bench
from vastzone.core.console.built import Built
from vastzone.core.console.finder import Cause, Proposal, propose, rank
from vastzone.core.console.telling import evidence_of
from vastzone.core.console.trials import Evidence

POLL_MS = 15


class Search:
    """One search for what explains what was seen."""

    def __init__(self, made: Built, evidence: tuple[Evidence, ...]) -> None:
        self.evidence = evidence
        self.made = made
        self.causes: tuple[Cause, ...] = ()
        self.proposal: Proposal | None = None
        self.error: Exception | None = None
        self.thread = threading.Thread(target=self._run, daemon=True)
        self.thread.start()

    def _run(self) -> None:
        try:
            self.causes = rank(self.made, self.evidence)
            self.proposal = propose(self.made, self.causes, [e.trial for e in self.evidence])
        except Exception as error:  # handed to the window’s own thread, which raises it
            self.error = error


class Hunt(QObject):
    """What was seen in the console looked at, and what the last search found."""

    done = Signal()

    def __init__(self, bench: Bench) -> None:
        super().__init__()
        self._bench = bench
        self._search: Search | None = None
        self._asked: object = None
        self.causes: tuple[Cause, ...] = ()
        self.proposal: Proposal | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(POLL_MS)
        self._timer.timeout.connect(self._poll)

    def evidence(self) -> tuple[Evidence, ...]:
        """The log as observations; lines that mean nothing any more are left out."""
        made = self._bench.circuit
        found = (evidence_of(s, made) for s in self._bench.console.seen)
        return tuple(e for e in found if e is not None)

    @property
    def busy(self) -> bool:
        """Whether it still looks."""
        return self._search is not None

    def look(self) -> None:
        """Look for causes again where what was seen or the circuit changed."""
        seen, made = self.evidence(), self._bench.circuit
        if self._asked == (seen, id(made)):
            return
        self._asked = (seen, id(made))
        self._search = Search(made, seen)
        self._timer.start()

    def _poll(self) -> None:
        search = self._search
        if search is None or search.thread.is_alive():
            return
        self._timer.stop()
        self._search = None
        if search.error is not None:
            raise search.error
        self.causes, self.proposal = search.causes, search.proposal
        self.done.emit()
