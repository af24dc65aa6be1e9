"""What is derived from what is looked at: findings as planned, proof and causes under the lens."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING, Literal

from vastzone.core.memory.model import Memory
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.dialled import with_unknown, without_fixes
from vastzone.desk.derivation import Derivation
from vastzone.desk.signal import Signal

if TYPE_CHECKING:
    from vastzone.core.engine.report import Report
    from vastzone.core.proof.causes import Cause
    from vastzone.core.proof.finding import Finding
    from vastzone.core.proof.marking import Proof
    from vastzone.core.proof.slices import Derived
    from vastzone.core.proof.verdict import Mark

Lens = Literal["planned", "dialled"]

WIRING = "block "


def _played_at(plan: Plan, ref: str) -> str:
    """Of ``block device:block``, the wiring of a keyboard, the keyboard: findings are about it."""
    if not ref.startswith(WIRING):
        return ref
    device, ident = read_ref(ref.removeprefix(WIRING))
    owner = lookup.find(plan.devices, device)
    if owner is None or owner.console is None:
        return ref
    block = lookup.find(owner.console.blocks, ident)
    return ref_to(device, block.keybed) if block is not None and block.keybed else ref


class Looking:
    """A plan, and what its devices hold, looked at: as planned, or as dialled.

    Rules always see the plan as planned; proof, causes and marks follow the ``lens``.
    """

    def __init__(self) -> None:
        self.plan_changed = Signal("plan changed")
        self.proved = Signal("proved")
        self.lens: Lens = "planned"
        self.asleep = False
        self.paced = False
        self._patient = 0
        self.derivation = Derivation()
        self.dialled_derivation = Derivation()

    @contextmanager
    def patience(self) -> Iterator[None]:
        """What is known stands meanwhile: hands see what they did before all that follows from it.

        Only where somebody works at the rest soon after (``paced``), as a window does.
        """
        self._patient += self.paced
        try:
            yield
        finally:
            self._patient = max(0, self._patient - self.paced)

    @property
    def planned(self) -> Plan:
        """The current plan, whatever lens one looks through."""
        raise NotImplementedError

    @property
    def plan(self) -> Plan:
        """The plan under the lens."""
        raise NotImplementedError

    @property
    def memory(self) -> Memory:
        """What the devices are known to hold."""
        raise NotImplementedError

    @property
    def scene(self) -> Scene | None:
        """The current scene; None in a plan without scenes."""
        raise NotImplementedError

    @property
    def derived(self) -> "Derived | None":
        """What is known of the plan; nothing while ``asleep``, the last state while pending."""
        if self.asleep:
            return None
        self.derivation.follow(self.planned, self.memory, self._patient > 0)
        return self.derivation.known

    @property
    def seen(self) -> "Derived | None":
        """The same of what is looked at: as planned or as dialled."""
        if self.lens == "planned" or self.asleep:
            return self.derived
        self.dialled_derivation.follow(self.plan, self.memory, self._patient > 0)
        return self.dialled_derivation.known

    @property
    def findings(self) -> "tuple[Finding, ...]":
        """What rules and proof say of the whole plan; nothing yet while ``asleep``."""
        known = self.derived
        return known.findings if known else ()

    @property
    def planned_causes(self) -> "tuple[Cause, ...]":
        """What falls short as planned, by cause."""
        known = self.derived
        return known.causes if known else ()

    @property
    def causes(self) -> "tuple[Cause, ...]":
        """What falls short under the lens, by cause."""
        known = self.seen
        if known is None:
            return ()
        return known.causes if self.lens == "planned" else without_fixes(known.causes)

    def wake(self) -> None:
        """Begin to check: a window wakes the desk once it has been painted."""
        if self.asleep:
            self.asleep = False
            self.plan_changed.emit()

    def work(self, seconds: float) -> None:
        """Go on deriving for about so long; ``proved`` tells when all is known."""
        if self.asleep:
            return
        finished = self.derivation.work(seconds)
        if self.lens == "dialled":
            finished = self.dialled_derivation.work(seconds) or finished
        if finished:
            self.proved.emit()

    @property
    def pending(self) -> bool:
        """Whether there is something left to derive of what is looked at."""
        if self.asleep:
            return False
        known = self.derived, self.seen  # looking begins to derive what is not known yet
        return None in known or self.derivation.pending or self.dialled_derivation.pending

    @property
    def proof(self) -> "Proof | None":
        """What the proof says of every strike; None without wishes, or while ``asleep``."""
        known = self.seen
        if known is None or known.proof is None or self.lens == "planned":
            return known.proof if known else None
        return with_unknown(known.proof, self.planned, self.memory)

    def marks(self, source: str) -> "tuple[Mark, ...]":
        """The verdicts on a keybed or control in the current scene."""
        proof = self.proof
        if proof is None:
            return ()
        marks = []
        for mark in proof.marks(self.scene.id if self.scene else ""):
            if mark.source == source:
                marks.append(mark)
        return tuple(marks)

    def verdict(self, report: "Report") -> str:
        """The verdict on a strike; nothing where no wish and no sound is there."""
        from vastzone.core.proof.verdict import worst

        struck = []
        for mark in self.marks(report.subject):
            within = report.key is None or mark.low <= report.key <= mark.high
            if (
                within
                and mark.bank == report.bank
                and mark.vel_low <= (report.velocity or 127) <= mark.vel_high
            ):
                struck.append(mark)
        mark_told = worst(struck)
        return mark_told.verdict if mark_told else ""

    def findings_here(self) -> "tuple[Finding, ...]":
        """The findings that hold in the current scene."""
        at = self.scene.id if self.scene else ""
        here = []
        for finding in self.findings:
            if not finding.scenes or at in finding.scenes:
                here.append(finding)
        return tuple(here)

    def findings_of(self, ref: str) -> "tuple[Finding, ...]":
        """The findings about one thing, worst first; of a wish, what spoils it."""
        if ref.startswith("wish "):
            wish = ref.removeprefix("wish ")
            findings = []
            for cause in self.causes:
                if any(wish in m.wishes for _, m in cause.marks):
                    findings.append(cause.finding)
            return tuple(findings)
        from vastzone.core.proof.causes import spoilt_by

        ref = _played_at(self.planned, ref)
        at = self.scene.id if self.scene else ""
        spoiling = spoilt_by(self.planned_causes).get((at, ref), frozenset())
        findings = []
        for place, cause in enumerate(self.planned_causes):
            finding = cause.finding
            here = not finding.scenes or at in finding.scenes
            if here and (ref in finding.subjects or place in spoiling):
                findings.append(finding)
        return tuple(findings)
