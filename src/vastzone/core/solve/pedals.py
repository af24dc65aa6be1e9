"""Which pedal goes into which jack, and which pedal does which wish: solved exactly.

As many wishes marked *must* as can be; then as many others, working rather than half working; then
as few plugs moved, and as few wishes given to another pedal, as can be.  A pedal is in one jack at
most, and there does all of its wishes that the jack offers.  Wishes are exchanged, so that every
pedal keeps as many as it had.
"""

from collections import Counter
from typing import NamedTuple

from vastzone.core.plan.model.pedals import FootWish, Meeting, Pedal, PedalPlug, serves, suited
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries.mixed import shared_plugs
from vastzone.core.progress import Progress
from vastzone.core.say import say
from vastzone.core.solve.pedal_fit import DeviceJack, PedalFit, service_of
from vastzone.core.solve.pedal_search import PedalSearch


class Hopeless(NamedTuple):
    """A wish that no jack here can do, or do only half, whatever is plugged where."""

    pedal: str
    wish: FootWish
    best: Meeting


def sockets_of(plan: Plan) -> tuple[DeviceJack, ...]:
    """Every pedal jack of a plan."""
    jacks = []
    for device in plan.devices:
        for jack in device.jacks:
            jacks.append(DeviceJack(device.id, jack))
    return tuple(jacks)


def open_sockets(plan: Plan) -> tuple[DeviceJack, ...]:
    """The jacks that pedals can be fitted to: all but those that sources share by a mixing lead."""
    shared = {plug.jack for plug in shared_plugs(plan)}
    return tuple(socket for socket in sockets_of(plan) if socket.ref not in shared)


def open_pedals(plan: Plan) -> tuple[Pedal, ...]:
    """The pedals that can be fitted: all but those that share a jack."""
    shared = {plug.pedal for plug in shared_plugs(plan)}
    return tuple(pedal for pedal in plan.pedals if pedal.id not in shared)


def fit_pedals(
    pedals: tuple[Pedal, ...],
    sockets: tuple[DeviceJack, ...],
    now: tuple[PedalPlug, ...] = (),
    progress: Progress | None = None,
) -> PedalFit:
    """The best plugging of pedals into jacks, starting from how they are plugged now.

    Raises Cancelled.
    """
    return PedalSearch(pedals, sockets, now, progress).fit()


def next_best(
    pedals: tuple[Pedal, ...],
    sockets: tuple[DeviceJack, ...],
    best: PedalFit,
    now: tuple[PedalPlug, ...] = (),
    progress: Progress | None = None,
) -> PedalFit | None:
    """The best plugging that does something else, or does it otherwise; None where there is none.

    One that only changes places among pedals or jacks that do the same is no other.  Of all that
    really differ, each does less of one kind of service than the best: so each kind is denied once.
    """
    table = PedalSearch(pedals, sockets, now, progress)
    tried = []
    for service, count in Counter(map(service_of, best.done)).items():
        tried.append(table.fit(at_most=(service, count - 1)))
    return max(tried, key=lambda other: (other.worth, -other.effort), default=None)


def hopeless(pedals: tuple[Pedal, ...], sockets: tuple[DeviceJack, ...]) -> tuple[Hopeless, ...]:
    """The wishes that no jack here does as wanted, however much else is left out."""
    found = []
    for owner in pedals:
        for wish in owner.wishes:
            best = _best_anywhere(wish, owner, pedals, sockets)
            if best.works != "works":
                found.append(Hopeless(owner.id, wish, best))
    return tuple(found)


RANK = {"never": 0, "not": 1, "half": 2, "works": 3}


def _best_anywhere(
    wish: FootWish, owner: Pedal, pedals: tuple[Pedal, ...], sockets: tuple[DeviceJack, ...]
) -> Meeting:
    """How well a wish could be done at all; its own pedal tells why it cannot."""
    best = Meeting("not", say("no device here has a jack for pedals"))
    others = () if wish.tied else pedals
    for pedal in (owner, *others):
        for socket in sockets:
            found = serves(wish, pedal, suited(pedal, socket.jack), socket.device)
            first = best.works == "not" and pedal is owner
            if RANK[found.works] > RANK[best.works] or (first and found.works == "not"):
                best = found
    return (
        best
        if _offered(wish, sockets)
        else Meeting("not", say("no jack offers {function}", function=say(wish.function)))
    )


def _offered(wish: FootWish, sockets: tuple[DeviceJack, ...]) -> bool:
    if not sockets or wish.function == "any":
        return True
    for socket in sockets:
        there = wish.device in (None, socket.device)
        if there and {wish.function, "any"} & set(socket.jack.functions):
            return True
    return False
