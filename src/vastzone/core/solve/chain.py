"""Programs of an evening stored one behind the other, as few of them moved as can be: exactly.

Every change then takes one press.  What may stay where it is has to lie in the order of the
evening, with room for what comes between, and nothing else may be stored among it.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Mapping, Sequence
from typing import NamedTuple


class Chain(NamedTuple):
    """A slot for each place of the evening, and new slots for what stood between."""

    slots: tuple[int, ...]
    others: dict[int, int]
    moved: int


class _Partial(NamedTuple):
    """The best chain that keeps a place: what it cost so far, and the place kept before it."""

    cost: int
    before: int


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


def _moves(chain: Chain) -> int:
    return chain.moved


def _chain(
    order: Sequence[int], now: Mapping[int, int], others: Sequence[int], count: int
) -> Chain | None:
    length = len(order)
    if length + len(others) > count:
        return None
    wanted = [now[number] for number in order]
    best: list[_Partial | None] = []
    for place, slot in enumerate(wanted):
        best.append(_kept(place, slot, wanted, best, others))
    ends = []
    for place, partial in enumerate(best):
        after = _room(length - 1 - place, wanted[place], others, count, upwards=True)
        if partial is not None and after is not None:
            ends.append((partial.cost + after + length - 1 - place, place))
    window = _window(length, others, count)
    if window is not None and (not ends or length + window[0] < min(ends)[0]):
        slots = tuple(range(window[1], window[1] + length))
        return _with_others(slots, others, length, count)
    if not ends:
        return None
    kept = []
    place = min(ends)[1]
    while place >= 0:
        kept.append(place)
        partial = best[place]
        place = partial.before if partial is not None else -1
    return _with_others(_filled(list(reversed(kept)), wanted), others, length - len(kept), count)


def _kept(
    place: int,
    slot: int,
    wanted: Sequence[int],
    best: Sequence[_Partial | None],
    others: Sequence[int],
) -> _Partial | None:
    """The cheapest way to keep a place: alone so far, or after another that is kept."""
    below = _room(place, slot, others, 0, upwards=False)
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
