"""Songs in the order in which their changes take least: a shortest way, solved exactly.

The first song stays the first where that is wanted.  It only shows what reordering would save;
in which order songs are played is the players' own affair.
"""

from collections.abc import Iterable, Sequence
from itertools import pairwise
from typing import Any, NamedTuple

from vastzone.core.plan.model.plan import Plan
from vastzone.core.progress import Progress
from vastzone.core.say import say
from vastzone.core.setlist.costs import cost_matrix
from vastzone.core.solve.constraints import new_model, search

SECONDS = 2.0


class RunningOrder(NamedTuple):
    """Songs in an order, the presses of all their changes, and how many fewer there might be."""

    songs: tuple[str, ...]
    presses: int
    gap: int = 0


def presses_in(plan: Plan, songs: Sequence[str]) -> int:
    """The presses of all changes of an evening.  Raises EditError for a song that is not there."""
    names = tuple(dict.fromkeys(songs))
    costs = cost_matrix(plan, names)
    place = {ident: number for number, ident in enumerate(names)}
    total = 0
    for before, after in pairwise(songs):
        total += int(costs.presses[place[before], place[after]])
    return total


def best_order(
    plan: Plan, songs: Sequence[str], first_stays: bool = True, progress: Progress | None = None
) -> RunningOrder:
    """The order of songs with the fewest presses.  Raises Cancelled and EditError."""
    count = len(songs)
    now = RunningOrder(tuple(songs), presses_in(plan, songs))
    if count < 3:
        return now
    names = tuple(dict.fromkeys(songs))
    place = {ident: number for number, ident in enumerate(names)}
    presses = cost_matrix(plan, names).presses
    model = new_model()
    arcs, costs, literals = [], [], {}
    for one in range(count):
        for other in range(count):
            if one == other or (first_stays and other == 0):
                continue
            taken = model.new_bool_var(f"{one} then {other}")
            literals[one, other] = taken
            arcs.append((one + 1, other + 1, taken))
            costs.append(int(presses[place[songs[one]], place[songs[other]]]) * taken)
    for one in range(count):
        begins, ends = model.new_bool_var(f"begins {one}"), model.new_bool_var(f"ends {one}")
        arcs += [(0, one + 1, begins), (one + 1, 0, ends)]
        if first_stays:
            model.add(begins == (one == 0))
    model.add_circuit(arcs)
    model.minimize(sum(costs))
    for one in range(count - 1):
        model.add_hint(literals[one, one + 1], True)
    found = search(model, SECONDS, progress, say("Order of songs"))
    if found is None:
        return now
    order = _followed(found.solver, arcs)
    better = tuple(songs[number] for number in order)
    total = presses_in(plan, better)
    if total >= now.presses:
        return now._replace(gap=now.presses - round(found.solver.best_objective_bound))
    return RunningOrder(better, total, total - round(found.solver.best_objective_bound))


def _followed(solver: Any, arcs: Iterable[tuple[int, int, Any]]) -> list[int]:
    """The songs along the way, from the place before the first."""
    after = {}
    for one, other, taken in arcs:
        if solver.boolean_value(taken):
            after[one] = other
    order, at = [], after[0]
    while at:
        order.append(at - 1)
        at = after[at]
    return order
