"""The best numbers, level after level: what a level came to is settled before the next is sought.

One worker and a fixed seed break ties the same way every time.
"""

from typing import Any, NamedTuple

from vastzone.core.plan.model.wishes import Schools
from vastzone.core.progress import Progress
from vastzone.core.solve.assignment import assigned
from vastzone.core.solve.constraints import SearchResult, search
from vastzone.core.solve.levels import (
    DIALLED,
    Level,
    change_costs,
    lower_bound,
    tastes,
)
from vastzone.core.solve.model import Costs, Model, Name, Values
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
    model = Model(problem, groups)
    if not model.possible:
        return None
    first = Level("Fewest changed numbers", {} if only_feasible else change_costs(model))
    levels = () if only_feasible else tastes(model, schools)
    found = _run(model, first.costs, progress, first.name, 0.2, SECONDS)
    if found is None:
        return None
    best = _values(model, found)
    changes = best.cost(first.costs)
    gap = found.gap
    for number, level in enumerate(levels):
        # What an earlier level came to is never given up for a later one.
        _settle(model, first.costs if not number else levels[number - 1].costs, best)
        share = 0.4 + 0.2 * number
        earlier = [first.costs, *(before.costs for before in levels[:number])]
        better, short = _improved(model, level, earlier, best, progress, share)
        best, gap = better, max(gap, short)
    numbers = tuple(best.of_group[group] for group in groups.of)
    return Answer(numbers, best.tight, changes // DIALLED, gap)


def _settle(model: Model, costs: Costs, best: Values) -> None:
    if costs:
        model.cp.add(_weighed(model, costs) <= best.cost(costs))


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
    if not level.costs or best.cost(level.costs) <= lower_bound(model, level.costs):
        return best, 0.0
    model.hint(_guessed(model, earlier, level.costs, best))
    found = _run(model, level.costs, progress, level.name, share, TASTE_SECONDS)
    if found is None:
        return best, 1.0
    return _values(model, found), found.gap


def _guessed(model: Model, earlier: list[Costs], costs: Costs, best: Values) -> Values:
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
    names: set[Name] = {name for name in best.true if not _is_number(name)}
    names.update(of_group.items())
    return Values(of_group, best.tight, frozenset(names))


def _is_number(name: Name) -> bool:
    """Whether a literal stands for a value of a group."""
    return isinstance(name, tuple) and isinstance(name[0], int)


def _values(model: Model, found: SearchResult) -> Values:
    of_group = {}
    for (group, value), one in model.x.items():
        if found.true(one):
            of_group[group] = value
    tight = frozenset(ref for ref, one in model.tight.items() if found.true(one))
    true = frozenset(name for name, literal in model.literals.items() if found.true(literal))
    return Values(of_group, tight, true)


def silenced(
    problem: Problem, groups: Groups, progress: Progress | None = None
) -> frozenset[str] | None:
    """The fewest stand-ins that cannot go on playing; None where no numbers hold at all.

    Raises Cancelled.
    """
    model = Model(problem, groups)
    if not model.possible:
        return None
    # What does not go on counts, each once.
    weighed: Costs = {}
    for goes_on in model.goes_on.values():
        name, falls_silent = model.new_literal()
        model.cp.add_bool_or([goes_on, falls_silent])
        weighed[name] = 1
    found = _run(model, weighed, progress, "What goes on playing", 0.1, SECONDS)
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
    from ortools.sat.python import cp_model

    model.cp.clear_objective()  # type: ignore[no-untyped-call]
    if costs:
        model.cp.minimize(_weighed(model, costs))
    return search(
        model.cp,
        seconds,
        progress,
        what,
        share,
        search_branching=cp_model.LP_SEARCH,
        symmetry_level=0,
        cp_model_probing_level=0,
        max_presolve_iterations=1,
    )
