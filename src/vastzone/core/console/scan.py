"""What the encoder reports for any keys held, with any faults: conduction as a directed graph.

One common is driven after the other.  Current follows closed contacts in the direction that their
diodes allow, and wires both ways; every note line that it reaches reads as closed.
"""

from collections.abc import Iterable
from typing import NamedTuple

from vastzone.core.console.built import Built
from vastzone.core.plan.cache import derived
from vastzone.core.plan.console import CONTACTS, Encoder, Fault

Hit = tuple[int, int]
"""A contact that is reported: its block and its number from 0, with shifts of the lowest note
already in it."""
OPEN, OUT, IN, BOTH = 0, 1, 2, 3


class State(NamedTuple):
    """A circuit with its faults: which nodes are one (``net``), how odd contacts conduct.

    ``ways`` are contacts that do not conduct as built; ``stuck`` those that are always closed.
    ``sense`` says for each block whether current is looked for from the common to the line.
    """

    net: tuple[int, ...]
    lines_on: dict[int, tuple[int, ...]]
    ways: dict[int, int]
    stuck: tuple[int, ...]
    sense: tuple[bool, ...]
    shifts: dict[int, int]
    bridged: frozenset[int]


@derived(20_000)
def state_of(made: Built, faults: tuple[Fault, ...]) -> State:
    """A circuit with faults in it, ready to be scanned."""
    ways: dict[int, int] = {}
    stuck: list[int] = []
    sense = [p.out for p in made.parts]
    shifts: dict[int, int] = {}
    wired: list[Fault] = []
    for part in made.parts:
        if not part.block.diodes:
            ways |= {part.first + n: BOTH for n in range(part.size)}
    for fault in faults:
        block = made.block(fault.block)
        at = made.contact(block, fault.at) if fault.kind in CONTACTS else 0
        if fault.kind == "open contact":
            ways[at] = OPEN
        elif fault.kind == "reversed diode":
            ways[at] = IN if made.contacts[at].out else OUT
        elif fault.kind == "shorted diode":
            ways[at] = BOTH
        elif fault.kind == "stuck contact":
            stuck.append(at)
        elif fault.kind == "wrong sense":
            sense[block] = not sense[block]
        elif fault.kind == "wrong lowest note":
            shifts[block] = fault.at
        else:
            wired.append(fault)
    net, lines_on, bridged = _nets(made, tuple(wired))
    return State(net, lines_on, ways, tuple(stuck), tuple(sense), shifts, bridged)


Nets = tuple[tuple[int, ...], dict[int, tuple[int, ...]], frozenset[int]]


@derived(4096)
def _nets(made: Built, faults: tuple[Fault, ...]) -> Nets:
    """Which nodes are one, which line pins are on each, and where a common and a line are one."""
    parent = list(range(made.nodes))

    def root(node: int) -> int:
        while parent[node] != node:
            parent[node] = parent[parent[node]]
            node = parent[node]
        return node

    for a, b in _joined(made, faults):
        parent[root(a)] = root(b)
    net = tuple(root(n) for n in range(made.nodes))
    lines_on: dict[int, tuple[int, ...]] = {}
    for line in range(made.lines):
        lines_on[net[line]] = (*lines_on.get(net[line], ()), line)
    commons = {net[made.lines + c] for c in range(made.commons)}
    return net, lines_on, frozenset(commons & set(lines_on))


def _joined(made: Built, faults: tuple[Fault, ...]) -> Iterable[tuple[int, int]]:
    """The wires that hold, as pairs of nodes, and what is shorted."""
    gone: set[tuple[int, int]] = set()
    dead: set[int] = set()
    turned: dict[tuple[int, int], int] = {}
    pins = {(w.block, w.place): w.pin for w in made.wires}
    for fault in faults:
        block = made.block(fault.block)
        if fault.kind == "open wire":
            gone.add((block, fault.at))
        elif fault.kind == "open pin":
            dead.add(made.pin(fault.at))
        elif fault.kind == "swapped wires":
            one, other = (block, fault.at), (block, fault.to)
            a, b = turned.get(one, pins.get(one)), turned.get(other, pins.get(other))
            if a is not None and b is not None:
                turned[one], turned[other] = b, a
        elif fault.kind == "short":
            yield made.pin(fault.at), made.pin(fault.to)
    for wire in made.wires:
        key = (wire.block, wire.place)
        pin = turned.get(key, wire.pin)
        if key not in gone and pin not in dead:
            yield pin, wire.bus


def crossings(made: Built, state: State, pressed: Iterable[int]) -> set[tuple[int, int]]:
    """Every (common pin, line pin) that reads as closed while contacts are held."""
    out: dict[int, list[int]] = {}
    back: dict[int, list[int]] = {}
    for index in {*pressed, *state.stuck}:
        contact = made.contacts[index]
        way = state.ways.get(index, OUT if contact.out else IN)
        common, line = state.net[contact.common], state.net[contact.line]
        if way & OUT:
            out.setdefault(common, []).append(line)
            back.setdefault(line, []).append(common)
        if way & IN:
            out.setdefault(line, []).append(common)
            back.setdefault(common, []).append(line)
    found: set[tuple[int, int]] = set()
    for pin, (block, _) in made.owner_of.items():
        edges = out if state.sense[block] else back
        start = state.net[made.lines + pin]
        if start not in edges and start not in state.bridged:
            continue
        for node in _reached(start, edges):
            found.update((pin, line) for line in state.lines_on.get(node, ()))
    return found


def _reached(start: int, edges: dict[int, list[int]]) -> set[int]:
    reached, open_ = {start}, [start]
    while open_:
        for node in edges.get(open_.pop(), ()):
            if node not in reached:
                reached.add(node)
                open_.append(node)
    return reached


def scan(made: Built, state: State, pressed: Iterable[int]) -> frozenset[Hit]:
    """What is reported while contacts (indices into ``made.contacts``) are held."""
    found = (made.hit(pin, line) for pin, line in crossings(made, state, pressed))
    return frozenset((b, n + state.shifts.get(b, 0)) for b, n in filter(None, found))


def worst_delay_ms(made: Built, encoder: Encoder) -> float:
    """From a contact closing to its report at worst: one whole scan, and the debouncing.

    A scan drives every common in use and waits for the lines to settle each time.
    """
    return len(made.owner_of) * encoder.settle_us / 1000 + encoder.debounce_ms


class Moment(NamedTuple):
    """One moment of a scan: from when, in milliseconds, which common is driven, what reads."""

    at_ms: float
    common: int
    lines: tuple[int, ...]


def moments(
    made: Built, state: State, encoder: Encoder, pressed: Iterable[int]
) -> tuple[Moment, ...]:
    """One scan, drive by drive."""
    found = crossings(made, state, pressed)
    return tuple(
        Moment(n * encoder.settle_us / 1000, pin, tuple(sorted(li for p, li in found if p == pin)))
        for n, pin in enumerate(sorted(made.owner_of))
    )
