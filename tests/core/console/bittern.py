"""A console for the tests, and hunting a fault in it."""

import random
from typing import Any

from vastzone.core.console.circuit import Circuit, built, commons_needed
from vastzone.core.console.faults import all_single
from vastzone.core.console.finder import FaultCause, candidates, corners_of, propose, rank, settled
from vastzone.core.console.scan import state_of
from vastzone.core.console.trials import ContactStrike, Evidence, PinTest, Probe, Trial, predict
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, Fault, School
from vastzone.core.plan.model.controls import Control, Keybed
from vastzone.core.plan.model.plan import Device

BEDS = (("great", 36, 56), ("swell", 36, 56), ("pedal", 36, 27), ("counter", 53, 25))
MOST = 8


def device(
    beds: tuple[tuple[str, int, int], ...] = BEDS, stops: int = 26, first: int = 1, **how: Any
) -> Device:
    """A console with its commons one after the other; ``how`` is said of every keyboard."""
    keybeds = tuple(Keybed(id=i, name=i.title(), low=low, keys=keys) for i, low, keys in beds)
    controls = tuple(Control(id=f"stop-{n}", name=f"Stop {n}", kind="stop") for n in range(stops))
    blocks, pin = [], first
    for bed in keybeds:
        schools: tuple[School, ...] = ("lowest key", "note names")
        wanted = max(commons_needed(bed.keys, bed.low, s) for s in schools)
        blocks.append(
            Block(
                id=bed.id,
                name=bed.name,
                keybed=bed.id,
                **how,
                commons=tuple(range(pin, pin + wanted)),
            )
        )
        pin += wanted
    if stops:
        blocks.append(
            Block(
                id="stops",
                name="Stops",
                controls=tuple(c.id for c in controls),
                commons=tuple(range(pin, pin + -(-stops // 12))),
            )
        )
    console = Console(blocks=tuple(blocks))
    console = Console(
        blocks=console.blocks, encoder=type(console.encoder)(commons=max(24, pin + 4))
    )
    return Device(
        id="c", name="C", kind="encoder", keybeds=keybeds, controls=controls, console=console
    )


def circuit(**more: Any) -> Circuit:
    owner = device(**more)
    assert owner.console is not None
    return built(owner, owner.console)


def mixed(reads: School) -> Circuit:
    """The counter manual wired by note names beside keyboards from their lowest key."""
    owner = device()
    assert owner.console is not None
    blocks = []
    for block in owner.console.blocks:
        blocks.append(changed(block, school="note names") if block.id == "counter" else block)
    encoder = changed(owner.console.encoder, school=reads)
    return built(owner, changed(owner.console, blocks=tuple(blocks), encoder=encoder))


def symptom(made: Circuit, truth: tuple[Fault, ...], rng: random.Random) -> Trial:
    """Something that a person would meet: a strike, a chord, or a pin test that comes out odd."""
    state, whole = state_of(made, truth), state_of(made, ())
    trials = [ContactStrike(()), *(ContactStrike((n,)) for n in range(len(made.contacts)))]
    silent: list[Trial] = []
    for fault in truth:
        if fault.kind in ("shorted diode", "reversed diode"):
            block = next(n for n, p in enumerate(made.parts) if p.block.id == fault.block)
            index = made.contact(block, fault.at)
            trials.append(ContactStrike(corners_of(made, index)))
            silent.append(Probe("diode", index))  # no rectangle goes through it: only a meter tells
    odd = [t for t in trials if predict(made, state, t) != predict(made, whole, t)]
    return rng.choice(odd) if odd else (silent or [PinTest()])[0]


def hunt(
    made: Circuit, truth: tuple[Fault, ...], seed: int = 0, most: int = MOST
) -> tuple[int, bool]:
    """How many trials after the symptoms until the finder stops, and whether it is right."""
    rng, state = random.Random(seed), state_of(made, truth)
    first = [symptom(made, (f,), rng) for f in truth]
    seen = [Evidence(t, predict(made, state, t)) for t in first]
    for count in range(most + 1):
        causes = rank(made, seen)
        found = propose(made, causes, [e.trial for e in seen])
        if not causes or settled(causes, found) or count == most or found is None:
            return count, bool(causes) and cannot_be_told_apart(made, causes[0].faults, truth)
        seen.append(Evidence(found.trial, predict(made, state, found.trial)))
    raise AssertionError


def singles(made: Circuit) -> tuple[Fault, ...]:
    return all_single(made)


def cannot_be_told_apart(made: Circuit, one: tuple[Fault, ...], other: tuple[Fault, ...]) -> bool:
    """Whether no trial can tell two causes apart."""
    if set(one) == set(other):
        return True
    a, b = state_of(made, one), state_of(made, other)
    trials = [ContactStrike(()), *(ContactStrike((n,)) for n in range(len(made.contacts)))]
    about = candidates(made, [FaultCause(one, 0.5, 1.0), FaultCause(other, 0.5, 1.0)])
    return all(predict(made, a, t) == predict(made, b, t) for t in (*trials, *about))
