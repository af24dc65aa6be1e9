"""The best numbers, level after level: what a level came to is settled before the next is sought.

One worker and a fixed seed break ties the same way every time.
"""

from typing import Any, NamedTuple

from vastzone.core.plan.model.wishes import Schools
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.assignment import assigned
from vastzone.core.solve.constraints import SearchResult, search
from vastzone.core.solve.levels import (
    DIALLED,
    Level,
    change_costs,
    lower_bound,
    lowest_costs,
    order_costs,
    school_costs,
)
from vastzone.core.solve.model import Costs, Model, Values
from vastzone.core.solve.problem import Groups, Problem

SECONDS, TASTE_SECONDS = 60.0, 20.0
"""How long the first level, and each one after it, is searched at most."""
NEVER = 10**9
"""More than any number costs."""


class Answer(NamedTuple):
    """The value of every variable, the parts to narrow, how many numbers change, the gap left."""

    values: tuple[int, ...]
    tight: frozenset[str]
    changes: int
    gap: float


def solve(
    problem: Problem,
    groups: Groups,
    schools: Schools,
    progress: Progress | None = None,
    only_feasible: bool = False,
) -> Answer | None:
    """The best values, or None when there are none.  Raises Cancelled.

    ``progress`` is told what is done and how far, 0–1; it returns False to stop.
    """
    model = Model(problem, groups, progress)
    if not model.possible:
        return None
    first = Level(say("Fewest changed numbers"), {} if only_feasible else change_costs(model))
    found = _run(model, first.costs, progress, first.name, 0.2, SECONDS)
    if found is None:
        return None
    best = _values(model, found)
    changes, gap = model.cost(first.costs, best), found.gap
    if not only_feasible:
        best, short = _by_taste(problem, groups, schools, best, changes, progress)
        gap = max(gap, short)
    numbers = tuple(best.of_group[group] for group in groups.of)
    return Answer(numbers, best.tight, changes // DIALLED, gap)


def _by_taste(
    problem: Problem,
    groups: Groups,
    schools: Schools,
    best: Values,
    changes: int,
    progress: Progress | None,
) -> tuple[Values, float]:
    """Of all that change as few numbers the best by taste, and the gap that is left.

    What no wish needs and what can stay does not move for the sake of taste.
    """
    model = Model(problem, _frozen(problem, groups, best), progress)
    if not model.possible:
        return best, 1.0
    earlier = [change_costs(model)]
    taste = Level(say("Schools"), school_costs(model, schools))
    gap = 0.0
    model.cp.add(_weighed(model, earlier[0]) <= changes)
    best, short = _improved(model, taste, earlier, best, progress, 0.4)
    earlier.append(taste.costs)
    gap = max(gap, short)
    _settle(model, taste.costs, best)
    order = Level(say("The order of the controls"), order_costs(model, schools, best))
    best, short = _improved(model, order, earlier, best, progress, 0.6)
    earlier.append(order.costs)
    gap = max(gap, short)
    _settle(model, order.costs, best)
    lowest = Level(say("Rhythm on 10, and low numbers"), lowest_costs(model, schools))
    best, short = _improved(model, lowest, earlier, best, progress, 0.8)
    return best, max(gap, short)


def _frozen(problem: Problem, groups: Groups, best: Values) -> Groups:
    """Groups of which what no wish needs, and what stays where it is, has that value only."""
    needed: set[int] = set()
    moved: set[int] = set()
    for index, variable in enumerate(problem.variables):
        group = groups.of[index]
        if variable.needed:
            needed.add(group)
        if best.of_group[group] != variable.value:
            moved.add(group)
    domains = dict(groups.domains)
    for group in domains.keys() - needed - moved:
        domains[group] = frozenset({best.of_group[group]})
    return groups._replace(domains=domains)


def _settle(model: Model, costs: Costs, best: Values) -> None:
    if costs:
        model.cp.add(_weighed(model, costs) <= model.cost(costs, best))


def _improved(
    model: Model,
    level: Level,
    earlier: list[Costs],
    best: Values,
    progress: Progress | None,
    share: float,
) -> tuple[Values, float]:
    """The best values of a level, and how far they may be from the best that there are.

    Time may run out before a level is weighed: what was found before holds all the same.
    """
    if not level.costs or model.cost(level.costs, best) <= lower_bound(model, level.costs):
        return best, 0.0
    model.hint(_guessed(model, earlier, level.costs, best, progress))
    found = _run(model, level.costs, progress, level.name, share, TASTE_SECONDS)
    if found is None:
        return best, 1.0
    return _values(model, found), found.gap


def _guessed(
    model: Model,
    earlier: list[Costs],
    costs: Costs,
    best: Values,
    progress: Progress | None,
) -> Values:
    """Numbers given out anew within each row for the least cost: a guess to begin with.

    Nothing costs more on an earlier level than it does now.  The guess need not hold; the search
    only tries it first.
    """
    rows: dict[int, list[int]] = {}
    for group, row in model.neighbourhood.items():
        rows.setdefault(row, []).append(group)
    of_group = dict(best.of_group)
    for groups in rows.values():
        values = sorted(set().union(*(model.groups.domains[group] for group in groups)))
        if len(groups) < 2 or len(values) < len(groups):
            continue
        worth = []
        for group in groups:
            go_on(progress, say("A guess to begin with"), 0.4)
            now = best.of_group[group]
            row_worth = []
            for value in values:
                dearer = any(
                    level.get((group, value), 0) > level.get((group, now), 0) for level in earlier
                )
                never = dearer or value not in model.groups.domains[group]
                row_worth.append(-NEVER if never else -costs.get((group, value), 0))
            worth.append(row_worth)
        for group, column in zip(groups, assigned(worth), strict=True):
            of_group[group] = values[column]
    return Values(of_group, best.tight)


def _values(model: Model, found: SearchResult) -> Values:
    of_group = {}
    for (group, value), one in model.x.items():
        if found.true(one):
            of_group[group] = value
    tight = frozenset(ref for ref, one in model.tight.items() if found.true(one))
    return Values(of_group, tight)


def silenced(
    problem: Problem, groups: Groups, progress: Progress | None = None
) -> frozenset[str] | None:
    """The fewest stand-ins that cannot go on playing; None where no numbers hold at all.

    Raises Cancelled.
    """
    model = Model(problem, groups, progress)
    if not model.possible:
        return None
    # What does not go on counts, each once.
    weighed: Costs = {}
    for goes_on in model.goes_on.values():
        name, falls_silent = model.new_literal()
        model.cp.add_bool_or([goes_on, falls_silent])
        weighed[name] = 1
    found = _run(model, weighed, progress, say("What goes on playing"), 0.1, SECONDS)
    if found is None:
        return None
    return frozenset(wish for wish, goes_on in model.goes_on.items() if not found.true(goes_on))


def _weighed(model: Model, costs: Costs) -> Any:
    from ortools.sat.python import cp_model

    literals = model.literals
    named = [literals[name] for name in costs]
    return cp_model.LinearExpr.weighted_sum(named, list(costs.values()))


def _run(
    model: Model,
    costs: Costs,
    progress: Progress | None,
    what: str,
    share: float,
    seconds: float,
) -> SearchResult | None:
    model.cp.clear_objective()  # type: ignore[no-untyped-call]
    if costs:
        model.cp.minimize(_weighed(model, costs))
    return search(
        model.cp,
        seconds,
        progress,
        what,
        share,
        symmetry_level=0,
        cp_model_probing_level=0,
        max_presolve_iterations=1,
    )
