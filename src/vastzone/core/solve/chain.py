"""Programs of an evening stored one behind the other, as few of them moved as can be: exactly.

Every change then takes one press.  What may stay where it is has to lie in the order of the
evening, with room for what comes between, and nothing else may be stored among it.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Mapping, Sequence
from typing import NamedTuple

from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say


class Chain(NamedTuple):
    """A slot for each place of the evening, and new slots for what stood between."""

    slots: tuple[int, ...]
    others: dict[int, int]
    moved: int


class _Partial(NamedTuple):
    """The best chain that keeps a place: what it cost so far, and the place kept before it."""

    cost: int
    before: int


class _Kept(NamedTuple):
    """The places that stay where they are, and how many moves that costs."""

    cost: int
    places: tuple[int, ...]


def best_chain(
    order: Sequence[int], now: Mapping[int, int], others: Sequence[int], count: int
) -> Chain | None:
    """The chain with the fewest moves, forwards or backwards; None where there is no room.

    ``order`` are programs as they come, each time anew; ``now`` the slot of each, ``others`` the
    slots of programs that are not played, out of ``count`` slots.
    """
    found = []
    backwards = _chain(list(reversed(order)), now, sorted(others), count)
    if backwards is not None:
        found.append(backwards._replace(slots=tuple(reversed(backwards.slots))))
    forwards = _chain(list(order), now, sorted(others), count)
    if forwards is not None:
        found.append(forwards)
    return min(reversed(found), key=_moves, default=None)


def best_ring(
    order: Sequence[int],
    now: Mapping[int, int],
    others: Sequence[int],
    count: int,
    progress: Progress | None = None,
) -> Chain | None:
    """The same where stepping on from the last slot goes to the first.  Raises Cancelled.

    A chain may go past the end then.  Counted from another slot it does not: so every slot is
    taken for the first once.
    """
    best: Chain | None = None
    for first in range(count):
        go_on(progress, say("Storing one behind the other"), first / count)
        turned = {number: (slot - first) % count for number, slot in now.items()}
        apart = [(slot - first) % count for slot in others]
        chain = best_chain(order, turned, apart, count)
        if chain is not None and (best is None or chain.moved < best.moved):
            best = _turned_back(chain, first, count)
    return best


def _turned_back(chain: Chain, first: int, count: int) -> Chain:
    slots = tuple((slot + first) % count for slot in chain.slots)
    others = {}
    for was, now in chain.others.items():
        others[(was + first) % count] = (now + first) % count
    return Chain(slots, others, chain.moved)


def _moves(chain: Chain) -> int:
    return chain.moved


def _chain(
    order: Sequence[int], now: Mapping[int, int], others: Sequence[int], count: int
) -> Chain | None:
    length, longest = len(order), count - len(others)
    if length > longest:
        return None
    wanted = [now[number] for number in order]
    kept = _cheapest(wanted, others, count)
    if kept is not None and _span(wanted, kept.places[0], kept.places[-1]) > longest:
        # What stood among the chain finds no room outside of it: a shorter one is needed.
        shorter = []
        for first in range(length):
            found = _cheapest(wanted, others, count, first)
            if found is not None:
                shorter.append(found)
        kept = min(shorter, default=None)
    window = _window(length, others, count)
    if window is not None and (kept is None or length + window[0] < kept.cost):
        slots = tuple(range(window[1], window[1] + length))
        return _with_others(slots, others, length, count)
    if kept is None:
        return None
    moved = length - len(kept.places)
    return _with_others(_filled(kept.places, wanted), others, moved, count)


def _span(wanted: Sequence[int], first: int, last: int) -> int:
    """How many slots a chain reaches over whose first and last kept places are these."""
    low = wanted[first] - first
    high = wanted[last] + len(wanted) - 1 - last
    return high - low + 1


def _cheapest(
    wanted: Sequence[int], others: Sequence[int], count: int, first: int | None = None
) -> _Kept | None:
    """The places that are best kept; from ``first`` on, so that all others have room outside."""
    best: list[_Partial | None] = []
    for place in range(len(wanted)):
        begins = first is None or place == first
        best.append(_best_until(place, begins, wanted, best, others))
    ends = []
    for place, partial in enumerate(best):
        above = len(wanted) - 1 - place
        after = _room(above, wanted[place], others, count, upwards=True)
        if partial is None or after is None:
            continue
        if first is None or _span(wanted, first, place) <= count - len(others):
            ends.append((partial.cost + after + above, place))
    if not ends:
        return None
    cost, place = min(ends)
    kept = []
    while place >= 0:
        kept.append(place)
        partial = best[place]
        place = partial.before if partial is not None else -1
    return _Kept(cost, tuple(reversed(kept)))


def _best_until(
    place: int,
    begins: bool,
    wanted: Sequence[int],
    best: Sequence[_Partial | None],
    others: Sequence[int],
) -> _Partial | None:
    """The cheapest way to keep a place: first of all where it may, or after another."""
    slot = wanted[place]
    below = _room(place, slot, others, 0, upwards=False) if begins else None
    found = [] if below is None else [_Partial(below + place, -1)]
    for earlier, partial in enumerate(best):
        apart = place - earlier
        if partial is None or slot - wanted[earlier] < apart:
            continue
        between = bisect_left(others, slot) - bisect_right(others, wanted[earlier])
        found.append(_Partial(partial.cost + between + apart - 1, earlier))
    return min(found, default=None)


def _room(needed: int, slot: int, others: Sequence[int], count: int, upwards: bool) -> int | None:
    """How many others have to go so that so many places fit beside a slot; None where none do."""
    if upwards:
        bounds = [*others[bisect_right(others, slot) :], count]
        gaps = [bound - slot - 1 for bound in bounds]
    else:
        bounds = [*reversed(others[: bisect_left(others, slot)]), -1]
        gaps = [slot - bound - 1 for bound in bounds]
    for gone, gap in enumerate(gaps):
        if gap >= needed:
            return gone
    return None


def _window(length: int, others: Sequence[int], count: int) -> tuple[int, int] | None:
    """The fewest others that have to go for a whole chain, and where it begins."""
    bounds = [-1, *others, count]
    best = None
    for left in range(len(bounds)):
        for right in range(left + 1, len(bounds)):
            if bounds[right] - bounds[left] - 1 >= length:
                found = (right - left - 1, bounds[left] + 1)
                best = found if best is None else min(best, found)
                break
    return best


def _filled(kept: Sequence[int], wanted: Sequence[int]) -> tuple[int, ...]:
    """A slot for every place: those kept where they are, the others right beside them."""
    slots = list(wanted)
    for place in range(len(wanted)):
        earlier = [one for one in kept if one <= place]
        anchor = earlier[-1] if earlier else kept[0]
        slots[place] = wanted[anchor] + place - anchor
    return tuple(slots)


def _with_others(slots: tuple[int, ...], others: Sequence[int], moved: int, count: int) -> Chain:
    """What stands among the chain goes to the next free slots outside it."""
    low, high = min(slots), max(slots)
    inside = [slot for slot in others if low <= slot <= high]
    taken = set(others) - set(inside)
    free = [s for s in range(count) if s not in taken and not low <= s <= high]
    placed = dict(zip(inside, free, strict=False))
    return Chain(slots, placed, moved + len(inside))
