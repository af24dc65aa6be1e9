"""Where a message that leaves a port arrives: cables, mergers, thru, followed once round a ring.

Depends on ports, thru connections and cables alone, so it outlives every edit of a zone or part.
"""

from collections import deque
from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.plan import Cable, Plan, Port, Thru
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.timing.hops import Link


class Arc(NamedTuple):
    """One direction of one cable; ``line`` numbers it among all arcs of the plan."""

    line: int
    source: str
    dest: str
    link: Link
    running_status: bool


class ArcTaken(NamedTuple):
    """An arc taken by a message, after step ``parent`` (−1: straight from its device)."""

    arc: Arc
    parent: int
    before_ms: float


class Tree(NamedTuple):
    """All ways of a message from one output, parents before children; ``rings`` come round."""

    steps: tuple[ArcTaken, ...]
    rings: tuple[tuple[str, ...], ...]

    def way(self, step: int) -> tuple[int, ...]:
        """The steps from the output to ``step``, in order."""
        taken = []
        while step >= 0:
            taken.append(step)
            step = self.steps[step].parent
        return tuple(reversed(taken))


class Network(NamedTuple):
    """The ways from every output of the plan, by ``device:port``."""

    trees: dict[str, Tree]
    arcs: tuple[Arc, ...]


@derived(16)
def network(plan: Plan) -> Network:
    """The network of a plan, kept while its ports, thrus and cables stay as they are."""
    devices = plan.devices
    return _network(
        plan.cables,
        tuple(device.id for device in devices),
        tuple(device.ports for device in devices),
        tuple(device.thrus for device in devices),
        tuple(device.running_status for device in devices),
        tuple(device.delay_ms for device in devices),
    )


@derived(32)
def _network(
    cables: tuple[Cable, ...],
    ids: tuple[str, ...],
    ports: tuple[tuple[Port, ...], ...],
    thrus: tuple[tuple[Thru, ...], ...],
    running: tuple[bool, ...],
    delays: tuple[float, ...],
) -> Network:
    sockets = {}
    for d, own_ports in zip(ids, ports, strict=True):
        for item in own_ports:
            sockets[ref_to(d, item.id)] = item
    arcs = tuple(_arcs(cables, sockets, dict(zip(ids, running, strict=True))))
    leaving: dict[str, list[Arc]] = {}
    for arc in arcs:
        leaving.setdefault(arc.source, []).append(arc)
    onward: dict[str, list[str]] = {}
    for owner, connections in zip(ids, thrus, strict=True):
        for thru in connections:
            onward.setdefault(ref_to(owner, thru.source), []).append(ref_to(owner, thru.dest))
    delay = dict(zip(ids, delays, strict=True))
    outs = []
    for ref, port in sockets.items():
        if port.flow != "in":
            outs.append(ref)
    return Network({ref: _tree(ref, leaving, onward, delay) for ref in outs}, arcs)


def _arcs(
    cables: tuple[Cable, ...], ports: dict[str, Port], running: dict[str, bool]
) -> Iterator[Arc]:
    line = 0
    for cable in cables:
        for source, dest in ((cable.source, cable.dest), (cable.dest, cable.source)):
            if ports[source].flow != "in" and ports[dest].flow != "out":
                status = running[device_of(source)]
                yield Arc(line, source, dest, ports[source].link, status)
                line += 1


def _tree(
    start: str,
    leaving: dict[str, list[Arc]],
    onward: dict[str, list[str]],
    delay: dict[str, float],
) -> Tree:
    steps: list[ArcTaken] = []
    rings: dict[frozenset[str], tuple[str, ...]] = {}
    queue: deque[tuple[str, int, tuple[Arc, ...]]] = deque([(start, -1, ())])
    while queue:
        port, parent, taken = queue.popleft()
        before = delay[device_of(port)] if taken else 0.0
        for arc in leaving.get(port, ()):
            if arc in taken:
                ring = tuple(a.source for a in taken[taken.index(arc) :])
                rings.setdefault(frozenset(ring), ring)
                continue
            steps.append(ArcTaken(arc, parent, before))
            index = len(steps) - 1
            for out in onward.get(arc.dest, ()):
                queue.append((out, index, (*taken, arc)))
    return Tree(tuple(steps), tuple(rings.values()))
