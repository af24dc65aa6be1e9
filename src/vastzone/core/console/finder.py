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
from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.console.circuit import Circuit
from vastzone.core.console.faults import all_single, likelihood
from vastzone.core.console.scan import state_of
from vastzone.core.console.trials import (
    ContactStrike,
    Evidence,
    PinTest,
    Probe,
    Result,
    Trial,
    predict,
)
from vastzone.core.plan.model.console import CONTACTS, Fault
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say

Faults = tuple[Fault, ...]
MISTAKE = 0.002
"""How often what was seen is mistaken, or written down wrongly."""
TWO = 0.03
"""How likely a second fault is beside a first."""
SEEDS, WEIGHED, SURE = 80, 90, 0.97
Preference = Literal["any", "key", "chord", "meter"]
PREFERRED = 4.0
"""What a bit is worth more that comes from what one would rather do."""
EFFORT = {"wire": 0.75, "pins": 0.8, "diode": 0.8, "rest": 0.8}
"""What a bit is worth when it takes a meter; a strike is at hand."""


class FaultCause(NamedTuple):
    """A cause with its weight among all (0–1) and the share of what is odd that it explains."""

    faults: Faults
    weight: float
    explains: float


class TrialProposal(NamedTuple):
    """The next trial, how many bits it is expected to tell, and its answers with their weights.

    Each answer comes with the causes that foretell it, the likeliest first.
    """

    trial: Trial
    bits: float
    answers: tuple[tuple[Result, float, tuple[Faults, ...]], ...]


def rank(
    circuit: Circuit, evidence: Sequence[Evidence], progress: Progress | None = None
) -> tuple[FaultCause, ...]:
    """The causes of what was seen, the likeliest first; nothing while nothing odd was seen.

    Raises Cancelled.
    """
    whole = state_of(circuit, ())
    healthy = []
    for seen in evidence:
        healthy.append(_closeness(predict(circuit, whole, seen.trial), seen.result))
    odd = frozenset(place for place, close in enumerate(healthy) if close < 1.0)
    if not odd:
        return ()
    scored, seeds = _singles(circuit, evidence, healthy, progress)
    # Pairs are many: only those are tried that explain all that is odd together, not alone.
    go_on(progress, say("Trying two faults at once"), 0.4)
    for (_, one, mine), (_, other, theirs) in combinations(seeds[:SEEDS], 2):
        if mine | theirs >= odd and mine != theirs:
            go_on(progress, say("Trying two faults at once"), 0.5)
            close = _all_close(circuit, (one, other), evidence)
            chance = likelihood(one) * likelihood(other) * TWO
            scored[one, other] = chance * math.prod(map(_chance, close))
    return _likeliest(circuit, scored, [evidence[place] for place in sorted(odd)])


def _likeliest(
    circuit: Circuit, scored: dict[Faults, float], odd: list[Evidence]
) -> tuple[FaultCause, ...]:
    """The likeliest causes with their weights, and the share of what is odd that each explains."""
    total = sum(scored.values()) or 1.0
    causes = []
    for faults in sorted(scored, key=lambda held: (-scored[held], len(held)))[:WEIGHED]:
        explained = _all_close(circuit, faults, odd).count(1.0)
        causes.append(FaultCause(faults, scored[faults] / total, explained / len(odd)))
    return tuple(causes)


Seed = tuple[float, Fault, frozenset[int]]
"""How well a single fault explains what was seen, and the places of what it explains better."""


def _singles(
    circuit: Circuit,
    evidence: Sequence[Evidence],
    healthy: list[float],
    progress: Progress | None,
) -> tuple[dict[Faults, float], list[Seed]]:
    """Every single fault scored, and those to begin pairs with, the best first."""
    foretold = []
    for number, seen in enumerate(evidence):
        go_on(progress, say("Trying every single fault"), 0.4 * number / len(evidence))
        foretold.append(_foretold(circuit, seen.trial))
    scored: dict[Faults, float] = {}
    seeds: list[Seed] = []
    for number, fault in enumerate(all_single(circuit)):
        told = []
        for answers in foretold:
            told.append(answers[number])
        close = []
        for t, seen in zip(told, evidence, strict=True):
            close.append(_closeness(t, seen.result))
        scored[fault,] = likelihood(fault) * math.prod(map(_chance, close))
        better = frozenset(place for place, c in enumerate(close) if c > healthy[place])
        if better and min(close) < 1.0:  # with what explains all alone, a second adds nothing
            seeds.append((sum(close) + 0.1 * math.log(likelihood(fault)), fault, better))
    seeds.sort(key=lambda seed: -seed[0])
    return scored, seeds


@derived(128)
def _foretold(circuit: Circuit, trial: Trial) -> tuple[Result, ...]:
    """What every single fault foretells of a trial."""
    results = []
    for fault in all_single(circuit):
        results.append(predict(circuit, state_of(circuit, (fault,)), trial))
    return tuple(results)


def _all_close(circuit: Circuit, faults: Faults, evidence: Sequence[Evidence]) -> list[float]:
    state = state_of(circuit, faults)
    closeness = []
    for entry in evidence:
        closeness.append(_closeness(predict(circuit, state, entry.trial), entry.result))
    return closeness


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


def settled(causes: Sequence[FaultCause], proposal: TrialProposal | None) -> bool:
    """Whether the first cause is sure and explains everything, or nothing tells it from others."""
    if not causes:
        return False
    return proposal is None or (causes[0].weight >= SURE and causes[0].explains == 1.0)


def in_all(causes: Sequence[FaultCause]) -> frozenset[Fault]:
    """The faults that several causes have in common: these are as good as found."""
    sets = []
    for cause in causes:
        sets.append(frozenset(cause.faults))
    return frozenset.intersection(*sets) if len(sets) > 1 else frozenset()


def propose(
    circuit: Circuit,
    causes: Sequence[FaultCause],
    done: Iterable[Trial] = (),
    progress: Progress | None = None,
    prefer: Preference = "any",
) -> TrialProposal | None:
    """The trial that is expected to tell most between the causes; None when none tells anything.

    What one would rather do, one key, a chord or a meter, comes first while it tells something.
    Raises Cancelled.
    """
    tried = set(done)
    held = []
    for cause in causes:
        if cause.weight > 1e-6:
            held.append(cause)
    best: TrialProposal | None = None
    worth = 0.02
    for trial in candidates(circuit, held):
        if trial in tried:
            continue
        go_on(progress, say("Looking for the trial that tells most"), 0.8)
        expected = _expected(circuit, held, trial)
        effort = EFFORT.get(trial.kind, 1.0) if isinstance(trial, Probe) else _fingers(trial)
        effort *= PREFERRED if _kind_of(trial) == prefer else 1.0
        if expected.bits * effort > worth:
            worth, best = expected.bits * effort, expected
    return best


def _expected(circuit: Circuit, causes: Sequence[FaultCause], trial: Trial) -> TrialProposal:
    """What a trial would tell: the answers with their shares, the likeliest first."""
    total = sum(cause.weight for cause in causes)
    told = []
    bits = 0.0
    for result, group in _answers(circuit, causes, trial).items():
        share = sum(cause.weight for cause in group) / total
        bits -= share * math.log2(share) if share > 0 else 0.0
        told.append((result, share, tuple(cause.faults for cause in group)))
    told.sort(key=lambda answer: -answer[1])
    return TrialProposal(trial, bits, tuple(told))


def _kind_of(trial: Trial) -> str:
    """What one has to do for a trial: strike one key, hold a chord, use a meter or the encoder."""
    if isinstance(trial, ContactStrike):
        return "chord" if len(trial.contacts) > 1 else "key"
    return "meter" if isinstance(trial, Probe) else "encoder"


def _fingers(trial: Trial) -> float:
    return 0.9 if isinstance(trial, ContactStrike) and len(trial.contacts) > 1 else 1.0


def _answers(
    circuit: Circuit, causes: Sequence[FaultCause], trial: Trial
) -> dict[Result, list[FaultCause]]:
    causes_by_result: dict[Result, list[FaultCause]] = defaultdict(list)
    for cause in causes:
        causes_by_result[predict(circuit, state_of(circuit, cause.faults), trial)].append(cause)
    return causes_by_result


def candidates(circuit: Circuit, causes: Sequence[FaultCause]) -> list[Trial]:
    """Trials that touch what the causes are about: strikes, chords, and where to put a meter."""
    trials: dict[Trial, None] = {}
    for cause in causes[:40]:
        for fault in cause.faults:
            for trial in _about(circuit, fault, circuit.block(fault.block)):
                trials[trial] = None
    if causes:
        trials[PinTest()] = None
    return list(trials)


def _about(circuit: Circuit, fault: Fault, block: int) -> Iterable[Trial]:
    """Trials that a fault shows in, and beside which it does not."""
    yield ContactStrike(())
    if fault.kind in CONTACTS:
        yield from _about_contact(circuit, circuit.contact(block, fault.at))
    elif fault.kind in ("open wire", "swapped wires"):
        for place in (fault.at, fault.to):
            wire = circuit.wire(block, place)
            if wire is not None:
                yield Probe("wire", block, place)
                yield from _trials_on(circuit, wire.bus, -1)
    elif fault.kind in ("short", "open pin"):
        for place in (fault.at, fault.to):
            yield from _about_pin(circuit, circuit.pin(place))
        if fault.kind == "short":
            yield Probe("pins", fault.at, fault.to)
    else:
        part = circuit.parts[block]
        for number in {0, part.size // 2, part.size - 1}:
            yield ContactStrike((part.first + number,))


def _about_contact(circuit: Circuit, index: int) -> Iterable[Trial]:
    yield ContactStrike((index,))
    yield Probe("diode", index)
    yield Probe("rest", index)
    corners = corners_of(circuit, index)
    if corners:
        yield ContactStrike(corners)
    contact = circuit.contacts[index]
    yield from _trials_on(circuit, contact.line, index)
    yield from _trials_on(circuit, contact.common, index)


def _about_pin(circuit: Circuit, pin: int) -> Iterable[Trial]:
    """One trial on each wire of a pin."""
    for wire in circuit.wires:
        if wire.pin == pin:
            yield from list(_trials_on(circuit, wire.bus, -1))[:1]


def _trials_on(circuit: Circuit, bus: int, but: int) -> Iterable[Trial]:
    """Strikes of two other contacts on a bus."""
    numbers = []
    for n, c in enumerate(circuit.contacts):
        if bus in (c.line, c.common) and n != but:
            numbers.append(n)
    for n in numbers[:1] + numbers[-1:]:
        yield ContactStrike((n,))


def corners_of(circuit: Circuit, index: int) -> tuple[int, ...]:
    """Three contacts at the corners of a rectangle, with ``index`` between the other two.

    Without the diode of ``index`` the fourth corner sounds.
    """
    middle = circuit.contacts[index]
    part = circuit.parts[middle.block]
    mine = range(part.first, part.first + part.size)
    places = {}
    for n in mine:
        places[(circuit.contacts[n].common, circuit.contacts[n].line)] = n
    for (common, line), n in places.items():
        if line == middle.line and common != middle.common:
            for (other, across), m in places.items():
                if other == middle.common and across != line and (common, across) in places:
                    return tuple(sorted((index, n, m)))
    return ()
