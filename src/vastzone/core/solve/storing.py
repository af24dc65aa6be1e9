"""In which slots programs are best stored for an evening: solved exactly.

Up and down go from one stored program to the next, so that a change costs as many presses as there
are programs between.  First as few presses as can be over the whole evening, or several evenings;
then as few programs stored elsewhere than now.  What is locked stays where it is.
"""

import math
from collections import Counter
from collections.abc import Iterable
from itertools import pairwise
from typing import Any, NamedTuple

from vastzone.core.plan.fields.dials import records
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import owner_place, setting_in
from vastzone.core.progress import Progress
from vastzone.core.say import say
from vastzone.core.setlist.changes import presses_of_walk, stored_slots
from vastzone.core.solve.chain import best_chain, best_ring
from vastzone.core.solve.constraints import new_model, search

HAIR = 1e-6
SECONDS = 2.0
"""How long a search may take before the best found is given, with its gap."""
Pairs = Counter[tuple[int, int]]


class Storing(NamedTuple):
    """Where each program of a device is stored: slots by its number now, copies after its own.

    ``presses`` are those of all the evenings, ``moved`` how many slots have to be stored anew;
    ``gap`` is how many presses fewer there might be, where the search was stopped.
    """

    device: str
    slots: dict[int, tuple[int, ...]]
    presses: int
    moved: int
    gap: int = 0

    @property
    def is_best(self) -> bool:
        """Whether it is proved that nothing is better."""
        return self.gap == 0


class Stored(NamedTuple):
    """What an evening costs at one device as it is stored now, and how it would be stored best.

    ``without`` is the best with every program in one slot, ``copied`` with copies where a song
    comes again; it is None where there is no room, or nothing to gain.
    """

    now: Storing
    without: Storing
    copied: Storing | None

    @property
    def best(self) -> Storing:
        """The one with the fewest presses."""
        if self.copied is not None and self.copied.presses < self.without.presses:
            return self.copied
        return self.without


def programs_in_order(plan: Plan, device: Device, songs: Iterable[str]) -> list[int]:
    """The programs that a device goes through in an evening, one after another.

    Raises EditError for a song that is not there.
    """
    order: list[int] = []
    for ident in songs:
        number = lookup.program_number(lookup.scene(plan, ident), device)
        if number is not None and (not order or order[-1] != number):
            order.append(number)
    return order


def best_storing(
    plan: Plan, device: Device, evenings: Iterable[Iterable[str]], progress: Progress | None = None
) -> Stored:
    """How the programs of a device are best stored for some evenings.

    Raises Cancelled, and EditError for a song that is not there.
    """
    orders = [programs_in_order(plan, device, songs) for songs in evenings]
    pairs: Pairs = Counter()
    for order in orders:
        pairs.update((min(pair), max(pair)) for pair in pairwise(order))
    fixed = _fixed(plan, device)
    goes_round = device.storage.step == "goes round"
    now = _as_stored(device, orders, goes_round)
    if not pairs:
        return Stored(now, now, None)
    chained = None
    if len(orders) == 1 and not fixed:
        chained = _chained(device, orders[0], now, progress)
    repeats = any(len(set(order)) < len(order) for order in orders)
    if chained is not None and not repeats:
        return Stored(now, chained, None)
    without = _Search(device, pairs, fixed, orders, goes_round).run(now, progress)
    better = chained is not None and chained.presses < without.presses
    return Stored(now, without, chained if better else None)


def _chained(
    device: Device, order: list[int], now: Storing, progress: Progress | None
) -> Storing | None:
    """Every program stored as often as it comes, one behind the other: one press a change."""
    own = {program.number: program.number for program in device.programs}
    others = [number for number in own if number not in set(order)]
    count = max(device.storage.slots, max(own, default=0) + 1)
    if device.storage.step == "goes round":
        chain = best_ring(order, own, others, count, progress)
    else:
        chain = best_chain(order, own, others, count)
    if chain is None:
        return None
    presses = len(order) - 1
    if presses >= now.presses:
        return now
    slots: dict[int, list[int]] = {}
    for number, slot in zip(order, chain.slots, strict=True):
        slots.setdefault(number, []).append(slot)
    for number in others:
        slots[number] = [chain.others.get(number, number)]
    held = {number: _own_first(number, found) for number, found in slots.items()}
    return Storing(device.id, held, presses, chain.moved)


def _own_first(number: int, slots: list[int]) -> tuple[int, ...]:
    """The slots of a program, the one in which it stands already before its copies."""
    own = [slot for slot in slots if slot == number]
    return (*own, *(slot for slot in slots if slot != number))


def _fixed(plan: Plan, device: Device) -> frozenset[int]:
    """The programs that stay in their slots: locked, or several times stored already."""
    held = records(plan)
    fixed = set()
    for program in device.programs:
        place = owner_place(device.id, "program", program.id, program.id)
        record = held.get(setting_in(place, "name"))
        if record is not None and record.hold == "locked":
            fixed.add(program.number)
    return frozenset(fixed)


def _as_stored(device: Device, orders: list[list[int]], goes_round: bool) -> Storing:
    """The device as it is; where something stands twice, the nearer one is taken."""
    stored = stored_slots(device)
    slots: dict[int, list[int]] = {}
    places: dict[int, list[int]] = {}
    for place, (slot, number) in enumerate(stored):
        slots.setdefault(number, []).append(slot.number)
        places.setdefault(number, []).append(place)
    presses = sum(presses_of_walk(places, order, len(stored), goes_round) for order in orders)
    held = {number: tuple(found) for number, found in slots.items()}
    return Storing(device.id, held, presses, 0)


def _presses(slots: dict[int, tuple[int, ...]], pairs: Pairs, goes_round: bool) -> int:
    """The presses of all changes, programs being stored each in its first slot."""
    order = sorted(slots, key=lambda number: slots[number][0])
    rank = {number: place for place, number in enumerate(order)}
    total = 0
    for (one, other), times in pairs.items():
        steps = abs(rank[one] - rank[other])
        total += times * (min(steps, len(rank) - steps) if goes_round else steps)
    return total


class _Search:
    """Programs in an order, then in slots."""

    def __init__(
        self,
        device: Device,
        pairs: Pairs,
        fixed: frozenset[int],
        orders: list[list[int]],
        goes_round: bool,
    ) -> None:
        self._device, self._pairs, self._fixed = device, pairs, fixed
        self._numbers = [program.number for program in device.programs]
        self._slots = max(device.storage.slots, max(self._numbers, default=0) + 1)
        self._orders, self._goes_round = orders, goes_round

    def run(self, now: Storing, progress: Progress | None) -> Storing:
        """The fewest presses, then the fewest moves."""
        if len(self._numbers) < 2 or not self._pairs:
            return now
        first = self._solve(None, progress)
        if first is None:
            return now
        presses, bound, slots = first
        if presses >= now.presses and bound >= now.presses:
            return now
        second = self._solve(presses, progress) if bound >= presses else None
        if second is not None:
            _, _, slots = second
        stored: dict[int, tuple[int, ...]] = {}
        for number, slot in slots.items():
            stored[number] = (slot,)
        moved = sum(number != slot for number, slot in slots.items())
        return Storing(self._device.id, stored, presses, moved, max(0, presses - bound))

    def _solve(
        self, presses: int | None, progress: Progress | None
    ) -> tuple[int, int, dict[int, int]] | None:
        """The presses, what they are proved to be at least, and the slots; None where none."""
        model = new_model()
        slots = {}
        for number in self._numbers:
            domain = [number, number] if number in self._fixed else [0, self._slots - 1]
            slots[number] = model.new_int_var(domain[0], domain[1], f"slot {number}")
        model.add_all_different(list(slots.values()))
        ranks = self._ranks(model, slots)
        steps = [self._steps(model, ranks, *pair) for pair in self._pairs]
        total = sum(times * step for times, step in zip(self._pairs.values(), steps, strict=True))
        if presses is None:
            model.minimize(total)
            self._hint(model, slots)
        else:
            model.add(total <= presses)
            model.minimize(sum(self._moves(model, slots)))
        what = say("Storing programs of {device}", device=self._device.name)
        result = search(model, SECONDS / 2, progress, what)
        if result is None:
            return None
        found = {number: int(result.solver.value(slot)) for number, slot in slots.items()}
        made = _presses({n: (s,) for n, s in found.items()}, self._pairs, self._goes_round)
        bound = math.ceil(result.solver.best_objective_bound - HAIR) if presses is None else presses
        return made, bound, found

    def _ranks(self, model: Any, slots: dict[int, Any]) -> dict[int, Any]:
        """How many programs are stored before each."""
        before: dict[tuple[int, int], Any] = {}
        numbers = self._numbers
        for place, one in enumerate(numbers):
            for other in numbers[place + 1 :]:
                is_before = model.new_bool_var(f"{one} before {other}")
                model.add(slots[one] < slots[other]).only_enforce_if(is_before)
                model.add(slots[one] > slots[other]).only_enforce_if(is_before.negated())
                before[one, other], before[other, one] = is_before, 1 - is_before
        ranks = {}
        for one in numbers:
            rank = model.new_int_var(0, len(numbers) - 1, f"rank {one}")
            model.add(rank == sum(before[other, one] for other in numbers if other != one))
            ranks[one] = rank
        model.add_all_different(list(ranks.values()))
        return ranks

    def _steps(self, model: Any, ranks: dict[int, Any], one: int, other: int) -> Any:
        """The presses from one program to another: at least one."""
        count = len(self._numbers)
        apart = model.new_int_var(1, count - 1, f"apart {one} {other}")
        model.add_abs_equality(apart, ranks[one] - ranks[other])
        if not self._goes_round:
            return apart
        steps = model.new_int_var(1, count // 2, f"steps {one} {other}")
        model.add_min_equality(steps, [apart, count - apart])
        return steps

    def _moves(self, model: Any, slots: dict[int, Any]) -> list[Any]:
        """Whether each program is stored elsewhere than now."""
        moves = []
        for number, slot in slots.items():
            moved = model.new_bool_var(f"moved {number}")
            model.add(slot == number).only_enforce_if(moved.negated())
            moves.append(moved)
        return moves

    def _hint(self, model: Any, slots: dict[int, Any]) -> None:
        """Begin with the programs as they come first in the evenings."""
        order = arranged(self._numbers, self._pairs, self._orders)
        free = [slot for slot in range(self._slots) if slot not in self._fixed]
        for number in order:
            if number not in self._fixed:
                model.add_hint(slots[number], free.pop(0))


def arranged(numbers: list[int], pairs: Pairs, orders: list[list[int]]) -> list[int]:
    """A good order to begin a search with: as programs come first, then each put where it costs
    least, until nothing gains any more.
    """
    first = dict.fromkeys(number for order in orders for number in order)
    first.update(dict.fromkeys(numbers))
    order = list(first)
    cost = _length(order, pairs)
    gains = True
    while gains:
        gains = False
        for number in list(order):
            for place in range(len(order)):
                other = [each for each in order if each != number]
                other.insert(place, number)
                shorter = _length(other, pairs)
                if shorter < cost:
                    order, cost, gains = other, shorter, True
    return order


def _length(order: list[int], pairs: Pairs) -> int:
    rank = {number: place for place, number in enumerate(order)}
    return sum(times * abs(rank[one] - rank[other]) for (one, other), times in pairs.items())


def slots_of(storing: Storing, number: int) -> tuple[Slot, ...]:
    """Where a program is stored, its own slot first."""
    return tuple(Slot(number=slot) for slot in storing.slots.get(number, ()))
