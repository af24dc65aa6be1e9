"""Fault finding: which causes explain what was seen, and which trial tells most next.

Causes are single faults, and pairs where no single one explains everything.  Each has a weight
before anything is seen; every observation multiplies it by how well the cause foretold it (Bayes).
The next trial is the one whose answer is expected to tell most (Shannon, 1948: the entropy of its
answers under the weights).
"""

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from itertools import combinations
from typing import NamedTuple

from vastzone.core.console.built import Built
from vastzone.core.console.faults import all_single, likelihood
from vastzone.core.console.scan import state_of
from vastzone.core.console.trials import (
    Evidence,
    PinTest,
    Probe,
    Result,
    Strike,
    Trial,
    predict,
)
from vastzone.core.plan.cache import derived
from vastzone.core.plan.console import CONTACTS, Fault
from vastzone.core.progress import Progress, go_on

Faults = tuple[Fault, ...]
MISTAKE = 0.002
"""How often what was seen is mistaken, or written down wrongly."""
TWO = 0.03
"""How likely a second fault is beside a first."""
SEEDS, WEIGHED, SURE = 80, 90, 0.97
EFFORT = {"wire": 0.75, "pins": 0.8, "diode": 0.8, "rest": 0.8}
"""What a bit is worth when it takes a meter; a strike is at hand."""


class Cause(NamedTuple):
    """A cause with its weight among all (0–1) and the share of what is odd that it explains."""

    faults: Faults
    weight: float
    explains: float


class Proposal(NamedTuple):
    """The next trial, how many bits it is expected to tell, and its answers with their weights.

    Each answer comes with the causes that foretell it, the likeliest first.
    """

    trial: Trial
    bits: float
    answers: tuple[tuple[Result, float, tuple[Faults, ...]], ...]


def rank(
    made: Built, evidence: Sequence[Evidence], progress: Progress | None = None
) -> tuple[Cause, ...]:
    """The causes of what was seen, the likeliest first; nothing while nothing odd was seen.

    Raises Cancelled.
    """
    whole = state_of(made, ())
    healthy = [_closeness(predict(made, whole, e.trial), e.result) for e in evidence]
    oddities = frozenset(k for k, c in enumerate(healthy) if c < 1.0)
    if not oddities:
        return ()
    scored: dict[Faults, float] = {}
    seeds: list[tuple[float, Fault, frozenset[int]]] = []
    foretold = []
    for number, observed in enumerate(evidence):
        go_on(progress, "Trying every single fault", 0.4 * number / len(evidence))
        foretold.append(_foretold(made, observed.trial))
    for n, fault in enumerate(all_single(made)):
        close = [_closeness(f[n], e.result) for f, e in zip(foretold, evidence, strict=True)]
        scored[fault,] = likelihood(fault) * math.prod(map(_chance, close))
        better = frozenset(k for k, c in enumerate(close) if c > healthy[k])
        if better and min(close) < 1.0:  # with what explains all alone, a second adds nothing
            seeds.append((sum(close) + 0.1 * math.log(likelihood(fault)), fault, better))
    seeds.sort(key=lambda s: -s[0])
    go_on(progress, "Trying two faults at once", 0.4)
    for (_, one, mine), (_, other, theirs) in combinations(seeds[:SEEDS], 2):
        if mine | theirs >= oddities and mine != theirs:
            go_on(progress, "Trying two faults at once", 0.5)
            close = _all_close(made, (one, other), evidence)
            chance = likelihood(one) * likelihood(other) * TWO
            scored[one, other] = chance * math.prod(map(_chance, close))
    total = sum(scored.values()) or 1.0
    odd = [evidence[k] for k in sorted(oddities)]
    first = sorted(scored, key=lambda f: (-scored[f], len(f)))[:WEIGHED]
    return tuple(
        Cause(f, scored[f] / total, _all_close(made, f, odd).count(1.0) / len(odd)) for f in first
    )


@derived(128)
def _foretold(made: Built, trial: Trial) -> tuple[Result, ...]:
    """What every single fault foretells of a trial."""
    return tuple(predict(made, state_of(made, (f,)), trial) for f in all_single(made))


def _all_close(made: Built, faults: Faults, evidence: Sequence[Evidence]) -> list[float]:
    state = state_of(made, faults)
    return [_closeness(predict(made, state, e.trial), e.result) for e in evidence]


def _closeness(foretold: Result, seen: Result) -> float:
    """1 for what was seen exactly; below it how much of it agrees."""
    if foretold == seen:
        return 1.0
    if isinstance(foretold, str) or isinstance(seen, str):
        return 0.0
    return 0.5 * (1 - len(foretold ^ seen) / (1 + len(foretold) + len(seen)))


def _chance(close: float) -> float:
    """How likely an observation is where a cause foretold it that closely."""
    return 1 - MISTAKE if close == 1.0 else MISTAKE * (0.1 + close)


def settled(causes: Sequence[Cause], proposal: Proposal | None) -> bool:
    """Whether the first cause is sure and explains everything, or nothing tells it from others."""
    if not causes:
        return False
    return proposal is None or (causes[0].weight >= SURE and causes[0].explains == 1.0)


def in_all(causes: Sequence[Cause]) -> frozenset[Fault]:
    """The faults that several causes have in common: these are as good as found."""
    held = [frozenset(c.faults) for c in causes]
    return frozenset.intersection(*held) if len(held) > 1 else frozenset()


def propose(
    made: Built,
    causes: Sequence[Cause],
    done: Iterable[Trial] = (),
    progress: Progress | None = None,
) -> Proposal | None:
    """The trial that is expected to tell most between the causes; None when none tells anything.

    Raises Cancelled.
    """
    tried = set(done)
    held = [c for c in causes if c.weight > 1e-6]
    total = sum(c.weight for c in held)
    best: Proposal | None = None
    worth = 0.02
    for trial in candidates(made, held):
        if trial in tried:
            continue
        go_on(progress, "Looking for the trial that tells most", 0.8)
        answers = _answers(made, held, trial)
        shares = [sum(c.weight for c in group) / total for group in answers.values()]
        bits = -sum(p * math.log2(p) for p in shares if p > 0)
        effort = EFFORT.get(trial.kind, 1.0) if isinstance(trial, Probe) else _fingers(trial)
        if bits * effort > worth:
            worth = bits * effort
            told = sorted(zip(answers.items(), shares, strict=True), key=lambda a: -a[1])
            best = Proposal(
                trial,
                bits,
                tuple(
                    (result, share, tuple(c.faults for c in group))
                    for (result, group), share in told
                ),
            )
    return best


def _fingers(trial: Trial) -> float:
    return 0.9 if isinstance(trial, Strike) and len(trial.contacts) > 1 else 1.0


def _answers(made: Built, causes: Sequence[Cause], trial: Trial) -> dict[Result, list[Cause]]:
    found: dict[Result, list[Cause]] = defaultdict(list)
    for cause in causes:
        found[predict(made, state_of(made, cause.faults), trial)].append(cause)
    return found


def candidates(made: Built, causes: Sequence[Cause]) -> list[Trial]:
    """Trials that touch what the causes are about: strikes, chords, and where to put a meter."""
    trials: dict[Trial, None] = {}
    for cause in causes[:40]:
        for fault in cause.faults:
            for trial in _about(made, fault, made.block(fault.block)):
                trials[trial] = None
    if causes:
        trials[PinTest()] = None
    return list(trials)


def _about(made: Built, fault: Fault, block: int) -> Iterable[Trial]:
    """Trials that a fault shows in, and beside which it does not."""
    yield Strike(())
    if fault.kind in CONTACTS:
        index = made.contact(block, fault.at)
        yield Strike((index,))
        yield Probe("diode", index)
        yield Probe("rest", index)
        corners = corners_of(made, index)
        if corners:
            yield Strike(corners)
        contact = made.contacts[index]
        yield from _on(made, contact.line, index)
        yield from _on(made, contact.common, index)
    elif fault.kind in ("open wire", "swapped wires"):
        for place in (fault.at, fault.to):
            held = made.wire(block, place)
            if held is not None:
                yield Probe("wire", block, place)
                yield from _on(made, held.bus, -1)
    elif fault.kind in ("short", "open pin"):
        for place in (fault.at, fault.to):
            for wire in (w for w in made.wires if w.pin == made.pin(place)):
                yield from list(_on(made, wire.bus, -1))[:1]
        if fault.kind == "short":
            yield Probe("pins", fault.at, fault.to)
    else:
        part = made.parts[block]
        yield from (Strike((part.first + n,)) for n in {0, part.size // 2, part.size - 1})


def _on(made: Built, bus: int, but: int) -> Iterable[Trial]:
    """Strikes of two other contacts on a bus."""
    held = [n for n, c in enumerate(made.contacts) if bus in (c.line, c.common) and n != but]
    yield from (Strike((n,)) for n in held[:1] + held[-1:])


def corners_of(made: Built, index: int) -> tuple[int, ...]:
    """Three contacts at the corners of a rectangle, with ``index`` between the other two.

    Without the diode of ``index`` the fourth corner sounds.
    """
    middle = made.contacts[index]
    part = made.parts[middle.block]
    mine = range(part.first, part.first + part.size)
    places = {(made.contacts[n].common, made.contacts[n].line): n for n in mine}
    for (common, line), n in places.items():
        if line == middle.line and common != middle.common:
            for (other, across), m in places.items():
                if other == middle.common and across != line and (common, across) in places:
                    return tuple(sorted((index, n, m)))
    return ()


def alike(made: Built, one: Faults, other: Faults) -> bool:
    """Whether no trial can tell two causes apart."""
    if set(one) == set(other):
        return True
    a, b = state_of(made, one), state_of(made, other)
    trials = [Strike(()), *(Strike((n,)) for n in range(len(made.contacts)))]
    about = candidates(made, [Cause(one, 0.5, 1.0), Cause(other, 0.5, 1.0)])
    return all(predict(made, a, t) == predict(made, b, t) for t in (*trials, *about))
