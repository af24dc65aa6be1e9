"""What can be tried on a console, and what a circuit would answer."""

import re
from collections.abc import Iterable, Sequence
from itertools import combinations
from typing import Literal, NamedTuple

from vastzone.core.console.circuit import Circuit
from vastzone.core.console.scan import BOTH, IN, OUT, State, scan
from vastzone.core.errors import EditError
from vastzone.core.plan.model.console import COMMON, Reading
from vastzone.core.say import say


class ContactStrike(NamedTuple):
    """Hold these contacts (indices), none to listen only; answered by what is heard."""

    contacts: tuple[int, ...]


class Probe(NamedTuple):
    """Put a meter somewhere; answered in a word.

    *wire*: between a pin and the bus of block ``a`` at place ``b``: «closed» or «open».  *pins*:
    between two pins, by place: «closed» or «open».  *diode*: across contact ``a`` while it is held:
    «one way», «other way», «both ways» or «open»; *rest*: the same while it is not held.
    """

    kind: Literal["wire", "pins", "diode", "rest"]
    a: int
    b: int = 0


class PinTest(NamedTuple):
    """The encoder’s own test of its pins, answered by those that are joined, in pairs."""


Trial = ContactStrike | Probe | PinTest
Result = Reading | frozenset[tuple[int, int]]
"""A reading, what was heard as hits, or joined pins as pairs of places."""


class Evidence(NamedTuple):
    """A trial and what came of it."""

    trial: Trial
    result: Result


def predict(circuit: Circuit, state: State, trial: Trial) -> Result:
    """What a circuit in this state answers."""
    if isinstance(trial, ContactStrike):
        return scan(circuit, state, trial.contacts)
    if isinstance(trial, PinTest):
        return joined_pins(circuit, state)
    return _probe(circuit, state, trial)


def _probe(circuit: Circuit, state: State, probe: Probe) -> Reading:
    if probe.kind == "pins":
        here, there = state.net[circuit.pin(probe.a)], state.net[circuit.pin(probe.b)]
        return "closed" if here == there else "open"
    if probe.kind == "wire":
        wire = circuit.wire(probe.a, probe.b)
        return "closed" if wire and state.net[wire.pin] == state.net[wire.bus] else "open"
    return _contact_reading(circuit, state, probe)


def _contact_reading(circuit: Circuit, state: State, probe: Probe) -> Reading:
    """A meter across a contact and its diode, at rest or held."""
    contact = circuit.contacts[probe.a]
    if state.net[contact.common] == state.net[contact.line]:
        return "both ways"
    if probe.kind == "rest" and probe.a not in state.stuck:
        return "open"
    built_way = OUT if contact.out else IN
    way = state.ways.get(probe.a, built_way)
    if way == BOTH:
        return "both ways"
    if not way:
        return "open"
    return "one way" if way == built_way else "other way"


def joined_pins(circuit: Circuit, state: State) -> frozenset[tuple[int, int]]:
    """Pins that are joined while nothing is held, as pairs of places, lower first."""
    places = [*range(circuit.lines), *(COMMON + c for c in range(circuit.commons))]
    nets: dict[int, list[int]] = {}
    for place in places:
        nets.setdefault(state.net[circuit.pin(place)], []).append(place)
    return in_pairs(nets.values())


JOINED = r"\s*(?:is |are )?(?:short(?:ed|s)?|joined|connected)?\s*(?:to|with|and|[-–~=+&/ ])\s*"
"""What stands between two pins that are one: «L3-L4», «5 is shorted to 6»."""
PIN = r"(?:pin )?([LC]?)\s*(\d+)"
PAIR = re.compile(rf"{PIN}{JOINED}{PIN}", re.IGNORECASE)


def read_pin_test(words: str, circuit: Circuit) -> frozenset[tuple[int, int]]:
    """A pin test as it is typed or pasted: ``L3-L4, C2-C9``, or as an encoder prints it.

    Its own report counts lines and commons in one run, a line for each pin, both ways round: «5 is
    shorted to 6», «6 is shorted to 5».  Raises EditError for anything that is no pair of its pins.
    """
    pairs = set()
    for piece in (p.strip() for p in re.split(r"[,;\n]", words) if p.strip()):
        left = PAIR.sub(" ", piece).strip(" .")
        if left or PAIR.search(piece) is None:
            raise EditError(
                say(
                    "“{piece}” is no pair of pins: write such as L3-L4, C2-C9, or “5 is "
                    "shorted to 6”.",
                    piece=piece,
                )
            )
        for pair in PAIR.finditer(piece):
            a, b = (_place(circuit, pair[n], int(pair[n + 1])) for n in (1, 3))
            if a == b:
                raise EditError(
                    say("“{piece}” names one pin twice: write two different ones.", piece=piece)
                )
            pairs.add((min(a, b), max(a, b)))
    return connected(pairs)


def _place(circuit: Circuit, kind: str, number: int) -> int:
    if not kind:
        # In the encoder's own report all pins are counted in one run, the lines first.
        lines, every = circuit.lines, circuit.lines + circuit.commons
        if not 1 <= number <= every:
            raise EditError(
                say(
                    "The encoder has no pin {number}: it has {every}, the lines first.",
                    number=number,
                    every=every,
                )
            )
        return number - 1 if number <= lines else COMMON + number - lines - 1
    most = circuit.lines if kind.upper() == "L" else circuit.commons
    if not 1 <= number <= most:
        raise EditError(
            say(
                "The encoder has no pin {kind}{number}: it has {most} of these.",
                kind=kind.upper(),
                number=number,
                most=most,
            )
        )
    return number - 1 if kind.upper() == "L" else COMMON + number - 1


def groups(pairs: Iterable[tuple[int, int]]) -> list[tuple[int, ...]]:
    """Pairs of joined pins as connected sets, in order."""
    sets: list[set[int]] = []
    for a, b in pairs:
        touching = []
        for s in sets:
            if a in s or b in s:
                touching.append(s)
        merged = {a, b}.union(*touching)
        sets = [s for s in sets if s not in touching] + [merged]
    return sorted(tuple(sorted(s)) for s in sets)


def connected(pairs: Iterable[tuple[int, int]]) -> frozenset[tuple[int, int]]:
    """All pairs that follow from some: a–b and b–c make a–c."""
    return in_pairs(groups(pairs))


def in_pairs(sets: Iterable[Sequence[int]]) -> frozenset[tuple[int, int]]:
    """Connected sets, each in order, as all the pairs that are in them."""
    pairs = set()
    for together in sets:
        for pair in combinations(together, 2):
            pairs.add(pair)
    return frozenset(pairs)
