"""When wishes cannot all hold: the smallest set that clashes, and what would mend it.

The smallest set is found by implicit hitting sets (Ignatiev et al., «Smallest MUS extraction with
minimal hitting set dualization», 2015): a cheapest set that hits every known way out is tried; if
it can hold, what has to be left out of it for the rest to hold is one more way out.
"""

from collections.abc import Iterator
from typing import NamedTuple

import msgspec

from vastzone.core.cache import no_collecting
from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.wishes import change
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.attempts import best_attempt
from vastzone.core.solve.crowding import Crowd, crowd
from vastzone.core.solve.guard import guard
from vastzone.core.solve.numbers import Attempt, Solution, attempt, solution
from vastzone.core.solve.reasons import in_words
from vastzone.core.solve.refusal_words import refusal_sentence

MOST_ROUNDS = 400
Item = tuple[str, str]


class Mend(NamedTuple):
    """What would let the rest hold, what it costs, and the edit for it where there is one."""

    label: str
    cost: str
    edit: Edit | None = None


class Refusal(NamedTuple):
    """Why the wishes cannot all hold: the smallest set that clashes, and the mends.

    With ``defects`` the fault is the program's own: what it found did not stand its proof.
    """

    sentence: str
    wishes: tuple[str, ...]
    locks: tuple[str, ...]
    mends: tuple[Mend, ...]
    defects: tuple[str, ...] = ()


def work_out(
    plan: Plan, progress: Progress | None = None, memory: Memory = NO_MEMORY
) -> Solution | Refusal:
    """Work out every number, or say why it cannot be done.  Raises Cancelled.

    By the ``memory`` it is known what plays and is meant without a wish.
    """
    with no_collecting():
        tried = best_attempt(plan, memory, progress)
        if tried.answer is not None:
            return _guarded(plan, solution(plan, tried, progress), memory, progress)
        return _refuse(plan, tried, progress)


def _guarded(
    plan: Plan, found: Solution, memory: Memory, progress: Progress | None
) -> Solution | Refusal:
    """What was found, proved; refused where the proof does not bear it out."""
    guarded = guard(plan, found.plan, memory, progress)
    if guarded.breaches:
        sentence = say(
            "Numbers were found, but the proof of them fails, so nothing is changed: {breaches}",
            breaches=guarded.breaches[0],
        )
        return Refusal(sentence, (), (), (), guarded.breaches)
    return found._replace(silences=guarded.silences)


def _refuse(plan: Plan, tried: Attempt, progress: Progress | None) -> Refusal:
    crowded = crowd(plan, tried)
    if crowded is not None and _is_minimal(plan, crowded):
        return Refusal(crowded.sentence, crowded.wishes, (), ())
    clashing, ways_out = smallest(plan, progress)
    wishes, locks = _names("wish", clashing), _names("lock", clashing)
    only = _restricted(plan, clashing)
    again = attempt(only, None, True, _left_out(plan, clashing))
    sentence = refusal_sentence(plan, wishes, locks, again)
    mends = (*_fewer_keys(plan, again), *_mends(plan, clashing, ways_out, progress))
    return Refusal(sentence, wishes, locks, mends)


def _is_minimal(plan: Plan, crowded: Crowd) -> bool:
    """Whether just these wishes are too many; one stands for all, which are alike."""
    items: list[Item] = [("wish", wish) for wish in crowded.wishes]
    return not can_hold(plan, items) and can_hold(plan, items[1:])


def _names(kind: str, items: list[Item]) -> tuple[str, ...]:
    """The wishes or the locks among some items."""
    names = []
    for other, name in items:
        if other == kind:
            names.append(name)
    return tuple(names)


def _items(plan: Plan) -> list[Item]:
    locked = []
    for setting in plan.settings:
        if setting.hold == "locked":
            locked.append(("lock", setting.ref))
    return [("wish", wish.id) for wish in plan.wishes] + locked


def _left_out(plan: Plan, kept: frozenset[Item] | list[Item]) -> frozenset[str]:
    """What the wishes that are not kept begin at and end at."""
    keeping = set(kept)
    ends: set[str] = set()
    for wish in plan.wishes:
        if ("wish", wish.id) not in keeping:
            ends.update(wish.sources)
            ends.update(end for end in (wish.plays, wish.moves) if end)
    return frozenset(ends)


def _restricted(plan: Plan, kept: frozenset[Item] | list[Item]) -> Plan:
    """The plan with only some of its wishes and locks."""
    keeping = set(kept)
    settings = tuple(
        msgspec.structs.replace(setting, hold="free")
        if setting.hold == "locked" and ("lock", setting.ref) not in keeping
        else setting
        for setting in plan.settings
    )
    wishes = tuple(wish for wish in plan.wishes if ("wish", wish.id) in keeping)
    return msgspec.structs.replace(plan, wishes=wishes, settings=settings)


def can_hold(
    plan: Plan, kept: frozenset[Item] | list[Item], progress: Progress | None = None
) -> bool:
    """Whether some of a plan's wishes and locks can hold together.  Raises Cancelled."""
    only = _restricted(plan, kept)
    return attempt(only, progress, True, _left_out(plan, kept)).answer is not None


def smallest(
    plan: Plan, progress: Progress | None = None
) -> tuple[list[Item], list[frozenset[Item]]]:
    """The smallest set of wishes and locks that cannot all hold, and ways out that were met."""
    items = _shrunk(plan, _items(plan), progress)
    ways_out: list[frozenset[Item]] = []
    for number in range(MOST_ROUNDS):
        go_on(progress, say("Looking for the smallest clash"), number / MOST_ROUNDS)
        tried = _hitting(ways_out)
        if not can_hold(plan, tried, progress):
            return [i for i in _items(plan) if i in tried], ways_out
        grown = _grown(plan, tried, items, progress)
        ways_out.append(frozenset(i for i in _items(plan) if i not in grown))
        items = list(dict.fromkeys([*items, *ways_out[-1]]))
    return items, ways_out


def _grown(
    plan: Plan, tried: frozenset[Item], items: list[Item], progress: Progress | None
) -> set[Item]:
    """A set that holds, with as much added to it as can be."""
    everything = _items(plan)
    spare = next((item for item in reversed(items) if item not in tried), None)
    if spare is not None:
        others = []
        for item in everything:
            if item != spare:
                others.append(item)
        if can_hold(plan, others, progress):
            return set(others)
    return _grown_one_by_one(plan, tried, items, progress)


def _grown_one_by_one(
    plan: Plan, tried: frozenset[Item], items: list[Item], progress: Progress | None
) -> set[Item]:
    """A set that holds; what is not in ``items`` is tried at once before it is tried singly."""
    everything = _items(plan)
    grown = set(tried)
    rest = []
    for item in everything:
        if item not in {*items, *grown}:
            rest.append(item)
    if rest and can_hold(plan, [*grown, *rest], progress):
        grown.update(rest)
    for item in (*rest, *items):
        if item not in grown and can_hold(plan, [*grown, item], progress):
            grown.add(item)
    return grown


def _shrunk(plan: Plan, items: list[Item], progress: Progress | None) -> list[Item]:
    """A set that clashes and of which nothing can be spared, by halves (a quick first answer)."""
    size = max(1, len(items) // 2)
    while size >= 1:
        at = 0
        while at < len(items):
            rest = items[:at] + items[at + size :]
            # Still clashing without this piece: it has no part in the clash.
            if rest and not can_hold(plan, rest, progress):
                items = rest
            else:
                at += size
        size //= 2
    return items


def _hitting(ways_out: list[frozenset[Item]]) -> frozenset[Item]:
    """A smallest set with a member of every way out."""
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp

    if not ways_out:
        return frozenset()
    members = sorted(set().union(*ways_out))
    rows = np.array([[member in way for member in members] for way in ways_out], dtype=float)
    # The slight slope decides between equally small sets, so that the answer is always the same.
    cost = np.array([1.0 + 1e-6 * n for n in range(len(members))])
    optimum = milp(
        cost,
        integrality=np.ones(len(members)),
        bounds=Bounds(0, 1),
        constraints=LinearConstraint(rows, 1, np.inf),
    )
    members_hit = set()
    for m, x in zip(members, optimum.x, strict=True):
        if x > 0.5:
            members_hit.add(m)
    return frozenset(members_hit)


def _fewer_keys(plan: Plan, tried: Attempt) -> Iterator[Mend]:
    """A wish for just the keys that a kit answers, where that lets everything hold."""
    for obstacle in tried.obstacles:
        if obstacle.keys is None:
            continue
        low, high = obstacle.keys
        wish = lookup.by_id(plan.wishes, obstacle.wishes[0], "wish")
        owner = lookup.device(plan, device_of(wish.sources[0]))
        keys = pitch.span(low, high, owner.octaves)
        narrower = change(
            wish.id, say("Wish {wish} for {keys}", wish=wish.name, keys=keys), low=low, high=high
        )
        if attempt(narrower(plan), None, True).answer is not None:
            yield Mend(narrower.label, say("its other keys are for nothing then"), narrower)


def _mends(
    plan: Plan,
    clashing: list[Item],
    ways_out: list[frozenset[Item]],
    progress: Progress | None,
) -> list[Mend]:
    """What would let everything else hold: each tried before it is offered."""
    everything = _items(plan)
    mends: list[Mend] = []

    def helps(item: Item) -> bool:
        others = [i for i in everything if i != item]
        return frozenset({item}) in ways_out or can_hold(plan, others, progress)

    for name in _names("lock", clashing):
        if helps(("lock", name)):
            label = say("Free {ins}", ins=in_words(plan, name))
            mends.append(Mend(label, say("one number to dial"), lock(name, "free")))
    mends += _sharing(plan, clashing)
    mends += _second_port(plan, clashing)
    names = lookup.names_of(plan.wishes)
    for name in _names("wish", clashing):
        if helps(("wish", name)):
            mends.append(
                Mend(
                    say("Leave out {names}", names=names[name]),
                    say("that sound is not played"),
                    drop(name),
                )
            )
    return mends


def drop(wish: str) -> Edit:
    """Take a wish back."""
    return Edit(
        say("Leave wish out"),
        lambda plan: msgspec.structs.replace(
            plan, wishes=tuple(i for i in plan.wishes if i.id != wish)
        ),
    )


def _sharing(plan: Plan, clashing: list[Item]) -> list[Mend]:
    """Let sounds share a channel, told apart by their notes."""
    alone = set()
    for wish in plan.wishes:
        if wish.alone:
            alone.add(wish.id)
    alone &= set(_names("wish", clashing))
    if not alone:
        return []
    shared = share(frozenset(alone))
    if attempt(shared.change(plan), None, True).answer is None:
        return []
    cost = say("no track of its own for each of them in a recorder")
    return [Mend(say("Let them share channels, told apart by notes"), cost, shared)]


def share(wishes: frozenset[str]) -> Edit:
    """Give up channels of their own for some wishes."""
    return Edit(
        say("Share channels"),
        lambda plan: msgspec.structs.replace(
            plan,
            wishes=tuple(
                msgspec.structs.replace(wish, alone=False) if wish.id in wishes else wish
                for wish in plan.wishes
            ),
        ),
    )


def _second_port(plan: Plan, clashing: list[Item]) -> list[Mend]:
    """A second port has sixteen more channels."""
    wishes = []
    for wish in plan.wishes:
        if ("wish", wish.id) in clashing and wish.plays:
            wishes.append(wish)
    devices = set()
    for wish in wishes:
        devices.add(device_of(wish.plays or ""))
    if len(wishes) <= 16 or len(devices) != 1:
        return []
    name = lookup.device(plan, devices.pop()).name
    over = len(wishes) - 16
    sounds = say("{over} sound", over=over) if over == 1 else say("{over} sounds", over=over)
    cost = say(
        "one more cable, {over} numbers to dial, and {name} must have the port",
        over=2 * over,
        name=name,
    )
    return [Mend(say("Use a second port of {name} for {sounds}", name=name, sounds=sounds), cost)]
