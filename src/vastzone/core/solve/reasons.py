"""Why a number is what it is, in a sentence."""

from vastzone.core.midi.controllers import CONTROLLERS
from vastzone.core.plan.model import Plan
from vastzone.core.plan.settings import Dial, dials
from vastzone.core.plan.words import field_words, send_words
from vastzone.core.solve.problem import Groups, Problem, Variable

MANNERS = {
    "message": "By this kind of message it does what was wished.",
    "mode": "In this mode sender and receiver work together at every press.",
    "outputs": "By this output every note arrives once.",
    "local": "The keys reach their own sounds by cable already.",
}
"""Why something that is no number is as it is."""


class Why:
    """Looks reasons up in a problem that was solved."""

    def __init__(self, plan: Plan, problem: Problem, groups: Groups) -> None:
        self._plan, self._problem = plan, problem
        self._of = {ref: n for n, v in enumerate(problem.variables) for ref in v.refs}
        self._members: dict[int, list[int]] = {}
        for n, group in enumerate(groups.of):
            self._members.setdefault(group, []).append(n)
        self._groups = groups

    def reason(self, dial: Dial) -> str:
        """The reason of one number that was worked out."""
        field = dial.field.id
        if dial.owner.kind == "passed on":
            return "Every note arrives once without it."
        if field in MANNERS:
            return MANNERS[field]
        if dial.kind in ("zone-range", "part-range"):
            return _range(self._plan, dial, field)
        if dial.kind in ("zone-shift", "part-shift"):
            return "With this, every key sounds at the pitch that was wished."
        index = self._of.get(dial.ref)
        if index is None:
            return "It is sent on the way to what was wished."
        variables = self._problem.variables
        tied = [variables[n] for n in self._members[self._groups.of[index]] if n != index]
        rhythm = any(n in self._problem.rhythm for n in self._members[self._groups.of[index]])
        return _tied(self._plan, dial, variables[index], tied, rhythm)


def _range(plan: Plan, dial: Dial, field: str) -> str:
    if field == "on":
        return "A wish uses this zone." if dial.value else "No wish uses this zone."
    if dial.kind == "part-range":
        return "It answers just what the wishes send to it."
    return "The wish begins here." if field in ("low", "vel_low") else "The wish ends here."


def _tied(plan: Plan, dial: Dial, own: Variable, tied: list[Variable], rhythm: bool) -> str:
    locked = next((v for v in (own, *tied) if v.locked), None)
    if locked is not None and locked.refs:
        return f"{name_of(plan, locked.refs[0])} is locked at {dial.value}."
    stays = next((v for v in tied if v.held == dial.value and v.refs), None)
    if stays is not None:
        return f"{name_of(plan, stays.refs[0])} is on {dial.value} already."
    if own.family == "channel" and dial.value == 10 and rhythm:
        return "By custom the rhythm section is on channel 10."
    if own.family == "controller":
        meaning = CONTROLLERS[dial.value].meaning
        return (
            f"Controller {dial.value} ({meaning}) is free here."
            if meaning == "undefined"
            else (f"Controller {dial.value} is the standard one for {meaning}.")
        )
    if own.family == "note" and len(own.domain) == 1:
        return "This is the pitch that was wished."
    if own.family == "note":
        return "The next note that nothing else here uses."
    return "The lowest channel that nothing else on this way uses."


def name_of(plan: Plan, ref: str) -> str:
    """What a setting belongs to, in words: ``Viol of Heron 73``."""
    owner = dials(plan)[ref].owner
    device = owner.device.name
    if owner.kind in ("part", "target"):
        return f"{owner.held.name} in {device}"
    if owner.kind == "zone":
        return f"{owner.held.name} of {device}"
    if owner.kind == "send":
        return f"{send_words(owner)} of {device}"
    return f"{owner.held.name} in {owner.kit.name}" if owner.kit else device


def in_words(plan: Plan, ref: str) -> str:
    """A setting in words: ``Viol of Heron 73, channel``."""
    dial = dials(plan).get(ref)
    return ref if dial is None else f"{name_of(plan, ref)}, {field_words(dial).lower()}"
