"""Why a number is what it is, in a sentence."""

from collections import Counter
from collections.abc import Iterable

from vastzone.core.midi.controllers import CONTROLLERS, LAST_CONTROLLER
from vastzone.core.midi.wide import SHARED
from vastzone.core.plan.fields.dials import Dial, dials, open_dials
from vastzone.core.plan.fields.values import MISSING
from vastzone.core.plan.fields.words import field_words, send_words
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.core.solve.problem import Groups, Problem, Variable
from vastzone.core.text import listed

MANNERS = {
    "name": say("The program is called after the scene that is on it."),
    "message": say("By this kind of message it does what was wished."),
    "mode": say("In this mode sender and receiver work together at every press."),
    "outputs": say("By this output every note arrives once."),
    "least": say("So far it is wished to go."),
    "most": say("So far it is wished to go."),
    "answers": say("The receiver learns what the control sends already."),
    "local": say("The keys reach their own sounds by cable already."),
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
        self._channels: dict[str, int] = {}
        for ref, dial in open_dials(plan).items():
            if dial.field.id == "channel" and dial.number != MISSING:
                self._channels[ref] = dial.number
        self._used = Counter(self._channels.values())

    def reason(self, dial: Dial) -> str:
        """The reason of one number that was worked out."""
        field = dial.field.id
        if dial.owner.kind == "passed on":
            return say("Every note arrives once without it.")
        if field in MANNERS:
            return MANNERS[field]
        if dial.kind in ("zone-range", "part-range"):
            return _range(dial, field)
        if dial.kind in ("zone-shift", "part-shift"):
            return say("With this, every key sounds at the pitch that was wished.")
        index = self._of.get(dial.ref)
        if index is None:
            return say("It is sent on the way to what was wished.")
        variables = self._problem.variables
        tied = []
        for n in self._members[self._groups.of[index]]:
            if n != index:
                tied.append(variables[n])
        group = self._groups.of[index]
        rhythm = any(n in self._problem.rhythm for n in self._members[group])
        told = _tied(self._plan, dial, variables[index], tied, rhythm)
        if told:
            return told
        if variables[index].family == "controller":
            return _controller(dial, self._problem.roles.get(group, frozenset()))
        return self._channel(dial, group)

    def _used_beside(self, group: int) -> frozenset[int]:
        """The channels that something is on beside the numbers of a group."""
        own: Counter[int] = Counter()
        for n in self._members[group]:
            for ref in self._problem.variables[n].refs:
                if ref in self._channels:
                    own[self._channels[ref]] += 1
        return frozenset((self._used - own).keys())

    def _channel(self, dial: Dial, group: int) -> str:
        if len(self._groups.domains[group]) == 1:
            return say("What is wished for is heard on this channel only.")
        used = self._used_beside(group)
        lower = {value for value in self._groups.domains[group] if value < dial.number}
        if lower <= used and dial.number not in used:
            return say("The lowest channel that nothing else uses.")
        return say("On this channel nothing else is heard that is not meant.")


def _range(dial: Dial, field: str) -> str:
    if field == "on":
        return say("A wish uses this zone.") if dial.value else say("No wish uses this zone.")
    if dial.kind == "part-range":
        return say("It answers just what the wishes send to it.")
    return (
        say("The wish begins here.") if field in ("low", "vel_low") else say("The wish ends here.")
    )


def _tied(plan: Plan, dial: Dial, own: Variable, tied: list[Variable], rhythm: bool) -> str:
    locked = _first_named(variable for variable in (own, *tied) if variable.locked)
    if locked:
        return say("{name_of} is locked at {dial}.", name_of=name_of(plan, locked), dial=dial.value)
    # A tie that stays explains the number better than any custom.
    stays = _first_named(variable for variable in tied if variable.held == dial.value)
    if stays:
        return say("{name_of} is on {dial} already.", name_of=name_of(plan, stays), dial=dial.value)
    if own.family == "note":
        only = len(own.domain) == 1
        return PITCH_WISHED if only else say("The next note that nothing else here uses.")
    if dial.value == 10 and rhythm:
        return say("By custom the rhythm section is on channel 10.")
    return ""


PITCH_WISHED = say("This is the pitch that was wished.")


def _first_named(variables: Iterable[Variable]) -> str:
    """The reference of the first of some variables that has one."""
    for variable in variables:
        if variable.refs:
            return variable.refs[0]
    return ""


def _is_controller(dial: Dial) -> bool:
    """Whether a number is that of a controller, and not of a parameter or program."""
    thing = dial.owner.thing
    return (thing.message if dial.owner.kind == "send" else thing.answers) in SHARED


def _controller(dial: Dial, roles: frozenset[int]) -> str:
    if dial.number > LAST_CONTROLLER or not _is_controller(dial):
        return say("The target listens for this.")
    meaning = CONTROLLERS[dial.number].meaning
    if dial.number in roles:
        return say(
            "Controller {dial} is the standard one for {meaning}.", dial=dial.value, meaning=meaning
        )
    if meaning == "undefined":
        return say("Controller {dial} ({meaning}) is free here.", dial=dial.value, meaning=meaning)
    return say(
        "By the standard {dial} is {meaning}; nothing in reach answers to that.",
        dial=dial.value,
        meaning=meaning,
    )


def meanings_crossed(plan: Plan, refs: Iterable[str]) -> tuple[str, ...]:
    """What the controllers that were chosen mean by the standard, though nothing there answers."""
    there, crossed = dials(plan), set()
    for ref in refs:
        dial = there[ref]
        if dial.owner.kind != "target" or dial.field.id != "controller":
            continue
        number = dial.number
        plain = _is_controller(dial) and 0 <= number <= LAST_CONTROLLER
        if plain and dial.owner.thing.role != number and CONTROLLERS[number].sort == "standard":
            crossed.add(number)
    if not crossed:
        return ()
    told = listed(
        say("{number} is {meaning}", number=number, meaning=CONTROLLERS[number].meaning)
        for number in sorted(crossed)
    )
    return (say("By the standard {told}; nothing in reach answers to that.", told=told),)


def name_of(plan: Plan, ref: str) -> str:
    """What a setting belongs to, in words: ``Viol of Heron 73``."""
    owner = dials(plan)[ref].owner
    device = owner.device.name
    if owner.kind in ("part", "target"):
        return say("{thing} in {device}", thing=owner.thing.name, device=device)
    if owner.kind == "zone":
        return say("{thing} of {device}", thing=owner.thing.name, device=device)
    if owner.kind == "send":
        return say("{send} of {device}", send=send_words(owner), device=device)
    return (
        say("{thing} in {kit}", thing=owner.thing.name, kit=owner.kit.name) if owner.kit else device
    )


def in_words(plan: Plan, ref: str) -> str:
    """A setting in words: ``Viol of Heron 73, channel``."""
    dial = dials(plan).get(ref)
    return ref if dial is None else f"{name_of(plan, ref)}, {field_words(dial).lower()}"
