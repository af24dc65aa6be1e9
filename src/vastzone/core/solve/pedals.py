"""Which pedal goes into which jack: the best plugging, solved exactly.

As many pedals marked *must* as can be; then as many others, working rather than half working;
then as few plugs moved as can be.
"""

from typing import NamedTuple

from vastzone.core.plan.model import Plan
from vastzone.core.plan.pedal import Meeting, Pedal, PedalJack, PedalPlug, served, suited
from vastzone.core.timing.hops import link_ms

WORKS, HALF, MOVE = 100.0, 40.0, 1.0
CARE = {"must": 1000.0, "wanted": 30.0, "spare": 1.0}
NUMBERS_EACH, PRESSES_EACH = 3, 8
"""What a pedal on a floorboard takes to program: message, channel and number, with presses."""


class Socket(NamedTuple):
    """A jack with the device that it is on."""

    device: str
    jack: PedalJack

    @property
    def ref(self) -> str:
        """The jack as ``device:jack``."""
        return f"{self.device}:{self.jack.id}"


class PedalFit(NamedTuple):
    """A plugging, how each pedal works in it, the pedals left out, and what it is worth."""

    plugs: tuple[PedalPlug, ...]
    meetings: dict[str, Meeting]
    left_out: tuple[str, ...]
    worth: float
    moves: int


class Floorboard(NamedTuple):
    """What it costs to send some pedals by a MIDI floorboard instead of plugging them in."""

    jacks: int
    numbers: int
    presses: int
    delay_ms: float


def sockets_of(plan: Plan) -> tuple[Socket, ...]:
    """Every pedal jack of a plan."""
    return tuple(Socket(d.id, j) for d in plan.devices for j in d.jacks)


def fit_pedals(
    pedals: tuple[Pedal, ...], sockets: tuple[Socket, ...], now: tuple[PedalPlug, ...] = (),
    barred: tuple[tuple[str, str], ...] = (),
) -> PedalFit:  # fmt: skip
    """The best plugging; ``barred`` are pairs of pedal and jack that are not wanted."""
    import numpy as np
    from scipy.optimize import linear_sum_assignment

    here = {(g.pedal, g.jack) for g in now}
    gain = np.zeros((len(pedals), len(sockets) + len(pedals)))
    met: dict[tuple[int, int], Meeting] = {}
    for row, pedal in enumerate(pedals):
        for column, socket in enumerate(sockets):
            found = served(pedal, suited(pedal, socket.jack))
            if found.works in ("works", "half") and (pedal.id, socket.ref) not in barred:
                met[row, column] = found
                value = WORKS if found.works == "works" else HALF
                stays = (pedal.id, socket.ref) in here
                gain[row, column] = CARE[pedal.importance] * value + MOVE * stays
    rows, columns = linear_sum_assignment(gain, maximize=True)
    pairs = [(r, c) for r, c in zip(rows, columns, strict=True) if (r, c) in met]
    plugs = tuple(PedalPlug(pedal=pedals[r].id, jack=sockets[c].ref) for r, c in pairs)
    placed = {pedals[r].id: met[r, c] for r, c in pairs}
    return PedalFit(
        plugs, placed, tuple(p.id for p in pedals if p.id not in placed),
        float(sum(gain[r, c] - MOVE * ((pedals[r].id, sockets[c].ref) in here) for r, c in pairs)),
        sum((g.pedal, g.jack) not in here for g in plugs),
    )  # fmt: skip


def next_best(
    pedals: tuple[Pedal, ...], sockets: tuple[Socket, ...], best: PedalFit,
    now: tuple[PedalPlug, ...] = (),
) -> PedalFit | None:  # fmt: skip
    """The best plugging that differs; None where there is none."""
    tried = [fit_pedals(pedals, sockets, now, ((g.pedal, g.jack),)) for g in best.plugs]
    others = [t for t in tried if {*t.plugs} != {*best.plugs}]
    return max(others, key=lambda t: (t.worth, -t.moves), default=None)


def by_floorboard(pedals: tuple[Pedal, ...]) -> Floorboard:
    """What sending pedals by a floorboard costs: jacks saved, programming, delay on DIN."""
    count = len(pedals)
    return Floorboard(count, NUMBERS_EACH * count, PRESSES_EACH * count, link_ms("din", 3))
