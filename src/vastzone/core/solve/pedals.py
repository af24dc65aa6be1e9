"""Which pedal goes into which jack: the best plugging, solved exactly.

As many pedals marked *must* as can be; then as many others, working rather than half working;
then as few plugs moved as can be.
"""

from typing import NamedTuple

from vastzone.core.plan.model.pedals import Meeting, Pedal, PedalJack, PedalPlug, served, suited
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.refs import ref_to
from vastzone.core.timing.hops import link_ms

WORKS, HALF, MOVE = 100.0, 40.0, 1.0
CARE = {"must": 1000.0, "wanted": 30.0, "spare": 1.0}
NUMBERS_EACH, PRESSES_EACH = 3, 8
"""What a pedal on a floorboard takes to program: message, channel and number, with presses."""


class DeviceJack(NamedTuple):
    """A jack with the device that it is on."""

    device: str
    jack: PedalJack

    @property
    def ref(self) -> str:
        """The jack as ``device:jack``."""
        return ref_to(self.device, self.jack.id)


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


def sockets_of(plan: Plan) -> tuple[DeviceJack, ...]:
    """Every pedal jack of a plan."""
    jacks = []
    for device in plan.devices:
        for jack in device.jacks:
            jacks.append(DeviceJack(device.id, jack))
    return tuple(jacks)


def fit_pedals(
    pedals: tuple[Pedal, ...], sockets: tuple[DeviceJack, ...], now: tuple[PedalPlug, ...] = ()
) -> PedalFit:
    """The best plugging of pedals into jacks, starting from how they are plugged now."""
    return _Fits(pedals, sockets, now).fit()


def next_best(
    pedals: tuple[Pedal, ...],
    sockets: tuple[DeviceJack, ...],
    best: PedalFit,
    now: tuple[PedalPlug, ...] = (),
) -> PedalFit | None:
    """The best plugging that differs; None where there is none."""
    table = _Fits(pedals, sockets, now)
    tried = []
    for plug in best.plugs:
        tried.append(table.fit(without=plug))
    others = [other for other in tried if {*other.plugs} != {*best.plugs}]
    return max(others, key=lambda other: (other.worth, -other.moves), default=None)


class _Fits:
    """How every pedal meets every jack, and what that is worth."""

    def __init__(
        self, pedals: tuple[Pedal, ...], sockets: tuple[DeviceJack, ...], now: tuple[PedalPlug, ...]
    ) -> None:
        import numpy as np

        self.pedals, self.sockets = pedals, sockets
        self.now = {(plug.pedal, plug.jack) for plug in now}
        self.meetings: dict[tuple[int, int], Meeting] = {}
        self.worth = np.zeros((len(pedals), len(sockets)))
        self.stays = np.zeros_like(self.worth)
        for row, pedal in enumerate(pedals):
            for column, socket in enumerate(sockets):
                self._meet(row, pedal, column, socket)

    def _meet(self, row: int, pedal: Pedal, column: int, socket: DeviceJack) -> None:
        meeting = served(pedal, suited(pedal, socket.jack))
        if meeting.works not in ("works", "half"):
            return
        self.meetings[row, column] = meeting
        value = WORKS if meeting.works == "works" else HALF
        self.worth[row, column] = CARE[pedal.importance] * value
        self.stays[row, column] = (pedal.id, socket.ref) in self.now

    def fit(self, without: PedalPlug | None = None) -> PedalFit:
        """The best plugging, ``without`` one plug that is not wanted (the assignment problem)."""
        import numpy as np
        from scipy.optimize import linear_sum_assignment

        gain = self.worth + MOVE * self.stays
        barred = self._place_of(without)
        if barred is not None:
            gain[barred] = 0.0
        nowhere = np.zeros((len(self.pedals), len(self.pedals)))
        rows, columns = linear_sum_assignment(np.hstack((gain, nowhere)), maximize=True)
        pairs = []
        for row, column in zip(rows, columns, strict=True):
            if (row, column) in self.meetings and (row, column) != barred:
                pairs.append((int(row), int(column)))
        return self._fit_of(pairs)

    def _place_of(self, plug: PedalPlug | None) -> tuple[int, int] | None:
        if plug is None:
            return None
        row = next(n for n, pedal in enumerate(self.pedals) if pedal.id == plug.pedal)
        column = next(n for n, socket in enumerate(self.sockets) if socket.ref == plug.jack)
        return row, column

    def _fit_of(self, pairs: list[tuple[int, int]]) -> PedalFit:
        plugs = tuple(
            PedalPlug(pedal=self.pedals[row].id, jack=self.sockets[column].ref)
            for row, column in pairs
        )
        placed = {}
        for row, column in pairs:
            placed[self.pedals[row].id] = self.meetings[row, column]
        left_out = tuple(pedal.id for pedal in self.pedals if pedal.id not in placed)
        worth = sum(float(self.worth[pair]) for pair in pairs)
        moves = sum((plug.pedal, plug.jack) not in self.now for plug in plugs)
        return PedalFit(plugs, placed, left_out, worth, moves)


def by_floorboard(pedals: tuple[Pedal, ...]) -> Floorboard:
    """What sending pedals by a floorboard costs: jacks saved, programming, delay on DIN."""
    count = len(pedals)
    return Floorboard(count, NUMBERS_EACH * count, PRESSES_EACH * count, link_ms("din", 3))
