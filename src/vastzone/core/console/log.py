"""The log of what was seen, held against the circuit as it is known."""

from vastzone.core.cache import derived
from vastzone.core.console.circuit import built
from vastzone.core.console.scan import state_of
from vastzone.core.console.trial_words import evidence_of
from vastzone.core.console.trials import Evidence, predict
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Console, Fault, Seen
from vastzone.core.plan.model.plan import Device


@derived(64)
def unexplained(owner: Device, console: Console) -> tuple[Evidence, ...]:
    """What was seen that the circuit with its known faults would not have answered."""
    contradictions = (_contradiction(owner, console, seen) for seen in console.seen)
    remaining = []
    for e in contradictions:
        if e is not None:
            remaining.append(e)
    return tuple(remaining)


def mended(owner: Device, fault: Fault, label: str) -> Edit:
    """Take a fault that is mended out again, and what was seen only because of it."""

    def change(console: Console) -> Console:
        left = changed(console, faults=tuple(f for f in console.faults if f != fault))
        stale = set()
        for s in console.seen:
            if _contradiction(owner, left, s) and not _contradiction(owner, console, s):
                stale.add(s)
        return changed(left, seen=tuple(s for s in left.seen if s not in stale))

    return consoles.edit_console(owner.id, label, change)


def _contradiction(owner: Device, console: Console, seen: Seen) -> Evidence | None:
    """An observation that the known circuit does not explain; None where it does."""
    circuit = built(owner, console)
    one = evidence_of(seen, circuit)
    if one is None:
        return None
    answer = predict(circuit, state_of(circuit, console.faults), one.trial)
    return None if answer == one.result else one
