"""The log of what was seen, held against the circuit as it is known."""

from vastzone.core.console.built import built
from vastzone.core.console.scan import state_of
from vastzone.core.console.telling import evidence_of
from vastzone.core.console.trials import Evidence, predict
from vastzone.core.plan import consoles, edits
from vastzone.core.plan.cache import derived
from vastzone.core.plan.console import Console, Fault, Seen
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device


@derived(64)
def unexplained(owner: Device, console: Console) -> tuple[Evidence, ...]:
    """What was seen that the circuit with its known faults would not have answered."""
    found = (_contradiction(owner, console, seen) for seen in console.seen)
    return tuple(e for e in found if e is not None)


def mended(owner: Device, fault: Fault, label: str) -> Edit:
    """Take a fault that is mended out again, and what was seen only because of it."""

    def change(console: Console) -> Console:
        left = edits.changed(console, faults=tuple(f for f in console.faults if f != fault))
        stale = {
            s
            for s in console.seen
            if _contradiction(owner, left, s) and not _contradiction(owner, console, s)
        }
        return edits.changed(left, seen=tuple(s for s in left.seen if s not in stale))

    return consoles.edit_console(owner.id, label, change)


def _contradiction(owner: Device, console: Console, seen: Seen) -> Evidence | None:
    """An observation that the known circuit does not explain; None where it does."""
    made = built(owner, console)
    one = evidence_of(seen, made)
    if one is None:
        return None
    answer = predict(made, state_of(made, console.faults), one.trial)
    return None if answer == one.result else one
