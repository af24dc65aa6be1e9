"""What the encoder reports for any keys held, with any faults: conduction as a directed graph.

One common is driven after the other.  Current follows closed contacts in the direction that their
diodes allow, and wires both ways; every note line that it reaches reads as closed.
"""

from collections.abc import Iterable
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.console.circuit import Circuit
from vastzone.core.plan.model.console import CONTACTS, Encoder, Fault, FaultKind

ReportedContact = tuple[int, int]
"""A contact that is reported: its block and its number from 0, with shifts of the lowest note
already in it."""
OPEN, OUT, IN, BOTH = 0, 1, 2, 3
"""Which way a closed contact conducts, as two bits: common to line, line to common."""


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
def state_of(circuit: Circuit, faults: tuple[Fault, ...]) -> State:
    """A circuit with faults in it, ready to be scanned."""
    # Without diodes a current flows both ways through every contact.
    ways: dict[int, int] = {}
    for part in circuit.parts:
        if not part.block.diodes:
            ways.update(dict.fromkeys(range(part.first, part.first + part.size), BOTH))
    stuck: list[int] = []
    sense = []
    for part in circuit.parts:
        sense.append(part.out)
    shifts: dict[int, int] = {}
    wired: list[Fault] = []
    for fault in faults:
        block = circuit.block(fault.block)
        if fault.kind == "stuck contact":
            stuck.append(circuit.contact(block, fault.at))
        elif fault.kind in CONTACTS:
            at = circuit.contact(block, fault.at)
            ways[at] = _faulty_way(circuit, at, fault.kind)
        elif fault.kind == "wrong sense":
            sense[block] = not sense[block]
        elif fault.kind in ("wrong lowest note", "wrong school"):
            shifts[block] = fault.at
        else:
            wired.append(fault)
    net, lines_on, bridged = _nets(circuit, tuple(wired))
    return State(net, lines_on, ways, tuple(stuck), tuple(sense), shifts, bridged)


def _faulty_way(circuit: Circuit, contact: int, kind: FaultKind) -> int:
    """Which way a closed contact with a fault conducts."""
    if kind == "open contact":
        return OPEN
    if kind == "shorted diode":
        return BOTH
    return IN if circuit.contacts[contact].out else OUT


Nets = tuple[tuple[int, ...], dict[int, tuple[int, ...]], frozenset[int]]


@derived(4096)
def _nets(circuit: Circuit, faults: tuple[Fault, ...]) -> Nets:
    """Which nodes are one, which line pins are on each, and where a common and a line are one."""
    parent = list(range(circuit.nodes))

    def root(node: int) -> int:
        while parent[node] != node:
            # Halving the path on the way keeps later walks short (union–find).
            parent[node] = parent[parent[node]]
            node = parent[node]
        return node

    for a, b in _joined(circuit, faults):
        parent[root(a)] = root(b)
    net = tuple(root(n) for n in range(circuit.nodes))
    lines_on: dict[int, tuple[int, ...]] = {}
    for line in range(circuit.lines):
        lines_on[net[line]] = (*lines_on.get(net[line], ()), line)
    commons = set()
    for c in range(circuit.commons):
        commons.add(net[circuit.lines + c])
    return net, lines_on, frozenset(commons & set(lines_on))


def _joined(circuit: Circuit, faults: tuple[Fault, ...]) -> Iterable[tuple[int, int]]:
    """The wires that hold, as pairs of nodes, and what is shorted."""
    gone: set[tuple[int, int]] = set()
    dead: set[int] = set()
    pins = {}
    for wire in circuit.wires:
        pins[(wire.block, wire.place)] = wire.pin
    for fault in faults:
        block = circuit.block(fault.block)
        if fault.kind == "open wire":
            gone.add((block, fault.at))
        elif fault.kind == "open pin":
            dead.add(circuit.pin(fault.at))
        elif fault.kind == "swapped wires":
            _swap(pins, (block, fault.at), (block, fault.to))
        elif fault.kind == "short":
            yield circuit.pin(fault.at), circuit.pin(fault.to)
    # What is open or dead is gone with both its ends; what is swapped still joins something.
    for wire in circuit.wires:
        key = (wire.block, wire.place)
        if key not in gone and pins[key] not in dead:
            yield pins[key], wire.bus


def _swap(pins: dict[tuple[int, int], int], one: tuple[int, int], other: tuple[int, int]) -> None:
    """Change the pins of two wires over, where both are there."""
    if one in pins and other in pins:
        pins[one], pins[other] = pins[other], pins[one]


def crossings(circuit: Circuit, state: State, pressed: Iterable[int]) -> set[tuple[int, int]]:
    """Every (common pin, line pin) that reads as closed while contacts are held."""
    out, back = _conducting(circuit, state, {*pressed, *state.stuck})
    closed: set[tuple[int, int]] = set()
    for pin, (block, _) in circuit.owner_of.items():
        edges = out if state.sense[block] else back
        start = state.net[circuit.lines + pin]
        # A common that is shorted to a line reads as closed without any contact.
        if start not in edges and start not in state.bridged:
            continue
        for node in _reached(start, edges):
            closed.update((pin, line) for line in state.lines_on.get(node, ()))
    return closed


Edges = dict[int, list[int]]


def _conducting(circuit: Circuit, state: State, closed: Iterable[int]) -> tuple[Edges, Edges]:
    """Where current goes through closed contacts, and where it would go the other way round."""
    out: Edges = {}
    back: Edges = {}
    for index in closed:
        contact = circuit.contacts[index]
        way = state.ways.get(index, OUT if contact.out else IN)
        common, line = state.net[contact.common], state.net[contact.line]
        if way & OUT:
            out.setdefault(common, []).append(line)
            back.setdefault(line, []).append(common)
        if way & IN:
            out.setdefault(line, []).append(common)
            back.setdefault(common, []).append(line)
    return out, back


def _reached(start: int, edges: dict[int, list[int]]) -> set[int]:
    reached, open_ = {start}, [start]
    while open_:
        for node in edges.get(open_.pop(), ()):
            if node not in reached:
                reached.add(node)
                open_.append(node)
    return reached


def scan(circuit: Circuit, state: State, pressed: Iterable[int]) -> frozenset[ReportedContact]:
    """What is reported while contacts (indices into ``circuit.contacts``) are held."""
    hits = (circuit.hit(pin, line) for pin, line in crossings(circuit, state, pressed))
    heard = set()
    for b, n in filter(None, hits):
        heard.add((b, n + state.shifts.get(b, 0)))
    return frozenset(heard)


def worst_delay_ms(circuit: Circuit, encoder: Encoder) -> float:
    """From a contact closing to its report at worst: one whole scan, and the debouncing.

    A scan drives every common in use and waits for the lines to settle each time.
    """
    return len(circuit.owner_of) * encoder.settle_us / 1000 + encoder.debounce_ms


class Moment(NamedTuple):
    """One moment of a scan: from when, in milliseconds, which common is driven, what reads."""

    at_ms: float
    common: int
    lines: tuple[int, ...]


def moments(
    circuit: Circuit, state: State, encoder: Encoder, pressed: Iterable[int]
) -> tuple[Moment, ...]:
    """One scan, drive by drive."""
    closed = crossings(circuit, state, pressed)
    moments = []
    for n, pin in enumerate(sorted(circuit.owner_of)):
        moments.append(
            Moment(
                n * encoder.settle_us / 1000, pin, tuple(sorted(li for p, li in closed if p == pin))
            )
        )
    return tuple(moments)
