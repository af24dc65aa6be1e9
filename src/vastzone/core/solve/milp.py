"""The problem as a mixed-integer programme, solved by HiGHS through SciPy.

One binary for each value that a group of tied variables can take.  First the fewest changed
numbers; then, with that settled, the schools, rhythm on 10 and runs, in weights so far apart that
an earlier one is never traded for a later.  The last term makes the answer the only best one, so
that ties are broken the same way every time.
"""

from collections import defaultdict
from collections.abc import Callable, Iterable
from typing import Any, NamedTuple

from vastzone.core.midi.controllers import CONTROLLERS
from vastzone.core.plan.wish import Schools
from vastzone.core.solve.problem import Apart, Groups, Problem

SCHOOL, RHYTHM = 400_000.0, 4_000.0
DIALLED = 1_000.0
"""A number that the device holds weighs more than one that was only planned."""
SECONDS = 60.0


class Answer(NamedTuple):
    """The value of every variable, the parts to narrow, how many numbers change, the gap left."""

    values: tuple[int, ...]
    tight: frozenset[str]
    changes: int
    gap: float


class Cancelled(Exception):
    """The person gave up waiting."""


class _Rows:
    """Sparse rows under bounds."""

    def __init__(self) -> None:
        self.data: list[float] = []
        self.row: list[int] = []
        self.column: list[int] = []
        self.low: list[float] = []
        self.high: list[float] = []

    def add(self, terms: Iterable[tuple[int, float]], low: float, high: float) -> None:
        at = len(self.low)
        for column, factor in terms:
            self.row.append(at)
            self.column.append(column)
            self.data.append(factor)
        self.low.append(low)
        self.high.append(high)


class Model:
    """Columns and rows made from a problem and its groups."""

    def __init__(self, problem: Problem, groups: Groups, schools: Schools) -> None:
        self.problem, self.groups, self.schools = problem, groups, schools
        self.columns = 0
        self.rows = _Rows()
        self.x: dict[tuple[int, int], int] = {}
        self.tight: dict[str, int] = {}
        self.integral: list[int] = []
        self.possible = True
        self._values()
        edges = self._aparts()
        self._cliques(edges)

    def _column(self, integral: bool = True) -> int:
        self.integral.append(1 if integral else 0)
        self.columns += 1
        return self.columns - 1

    def _values(self) -> None:
        for group in sorted(self.groups.domains):
            for value in sorted(self.groups.domains[group]):
                self.x[group, value] = self._column()
            self.rows.add([(self.x[group, v], 1.0) for v in self.groups.domains[group]], 1.0, 1.0)
        for ref in self.problem.tight_costs:
            self.tight[ref] = self._column()

    def _aparts(self) -> set[tuple[int, int]]:
        edges: set[tuple[int, int]] = set()
        of = self.groups.of
        for one, other in self.problem.alone:
            edges.add((min(of[one], of[other]), max(of[one], of[other])))
        done: set[object] = set()
        for apart in self.problem.apart:
            a, b = sorted((of[apart.one], of[apart.other]))
            like = (a, b, apart.hard, apart.tight,
                    tuple((of[v], f) for v, f in apart.outside),
                    tuple((of[v], of[w]) for v, w in apart.unlike))  # fmt: skip
            if like in done:
                continue
            done.add(like)
            if apart.hard:
                edges.add((a, b))
            elif a == b or self.groups.domains[a] & self.groups.domains[b]:
                self._alternative(apart, a, b)
        self.possible = self.possible and all(a != b for a, b in edges)
        return edges

    def _alternative(self, apart: Apart, a: int, b: int) -> None:
        """Different channels, or kept apart by notes: one binary says which."""
        of = self.groups.of
        together: int | None = None
        if a != b:
            together = self._column()
            for value in self.groups.domains[a] & self.groups.domains[b]:
                self.rows.add(
                    [(self.x[a, value], 1.0), (self.x[b, value], 1.0), (together, -1.0)], -1.0, 1.0
                )
        extra = [] if together is None else [(together, 1.0)]
        room = 0.0 if together is None else 1.0
        if apart.tight:
            terms = [(self.tight[apart.tight], -1.0), *extra]
            self.rows.add(terms, -1.0, room - 1.0)
        for variable, forbidden in apart.outside:
            group = of[variable]
            terms = [(self.x[group, v], 1.0) for v in forbidden & self.groups.domains[group]]
            if terms:
                self.rows.add([*terms, *extra], 0.0, room)
        for one, other in apart.unlike:
            g, h = of[one], of[other]
            common = self.groups.domains[g] & self.groups.domains[h]
            if g == h:
                if together is None:
                    self.possible = False
                else:
                    self.rows.add(extra, 0.0, 0.0)
                continue
            for value in common:
                self.rows.add(
                    [(self.x[g, value], 1.0), (self.x[h, value], 1.0), *extra], 0.0, 1.0 + room
                )

    def _cliques(self, edges: set[tuple[int, int]]) -> None:
        """Groups that all differ share each value at most once: tighter than pair by pair."""
        near: dict[int, set[int]] = defaultdict(set)
        for a, b in edges:
            near[a].add(b)
            near[b].add(a)
        left = set(edges)
        for a in sorted(near, key=lambda g: (-len(near[g]), g)):
            while any((min(a, b), max(a, b)) in left for b in near[a]):
                clique = [a]
                for b in sorted(
                    near[a], key=lambda g: ((min(a, g), max(a, g)) not in left, -len(near[g]), g)
                ):
                    if all(b in near[c] for c in clique):
                        clique.append(b)
                for i, one in enumerate(clique):
                    left -= {(min(one, o), max(one, o)) for o in clique[:i]}
                values = set().union(*(self.groups.domains[g] for g in clique))
                for value in values:
                    terms = [(self.x[g, value], 1.0) for g in clique if (g, value) in self.x]
                    if len(terms) > 1:
                        self.rows.add(terms, 0.0, 1.0)

    def change_costs(self) -> dict[int, float]:
        """What each column adds to the count of changed numbers."""
        costs: dict[int, float] = defaultdict(float)
        for index, variable in enumerate(self.problem.variables):
            group = self.groups.of[index]
            for value in self.groups.domains[group] if variable.refs else ():
                if variable.held is not None and value != variable.held:
                    costs[self.x[group, value]] += DIALLED
                if variable.settled and value != variable.value:
                    costs[self.x[group, value]] += 1.0
        for ref, cost in self.problem.tight_costs.items():
            costs[self.tight[ref]] += DIALLED * cost
        return costs

    def taste_costs(self) -> dict[int, float]:
        """Schools, then rhythm on 10, then runs and low numbers."""
        costs: dict[int, float] = defaultdict(float)
        for taste in self.problem.tastes:
            self._school(taste.kind, {self.groups.of[m] for m in taste.members}, costs)
        self._controllers(costs)
        self._rhythm(costs)
        self._runs(costs)
        return costs

    def _school(self, kind: str, members: set[int], costs: dict[int, float]) -> None:
        for value in sorted(set().union(*(self.groups.domains[g] for g in members))):
            terms = [self.x[g, value] for g in members if (g, value) in self.x]
            used = self._column(integral=False)
            if kind == "sound":
                self.rows.add([(used, 1.0), *((t, -1.0) for t in terms)], -float(len(terms)), 0.0)
                self.rows.add([(used, 1.0)], 0.0, 1.0)
                costs[used] -= SCHOOL
            else:
                for term in terms:
                    self.rows.add([(term, 1.0), (used, -1.0)], -1.0, 0.0)
                self.rows.add([(used, 1.0)], 0.0, 1.0)
                costs[used] += SCHOOL

    def _controllers(self, costs: dict[int, float]) -> None:
        for index, variable in enumerate(self.problem.variables):
            group = self.groups.of[index]
            if variable.family != "controller" or index != group:
                continue
            for value in self.groups.domains[group]:
                undefined = CONTROLLERS[value].sort == "undefined"
                standard = self.schools.controllers == "standard"
                role = (
                    standard
                    and CONTROLLERS[value].sort == "standard"
                    and len(self.groups.domains[group]) < 100
                )
                if not undefined and not role:
                    costs[self.x[group, value]] += SCHOOL

    def _rhythm(self, costs: dict[int, float]) -> None:
        if not self.schools.rhythm_on_10:
            return
        drums = {self.groups.of[i] for i in self.problem.rhythm}
        for index, variable in enumerate(self.problem.variables):
            group = self.groups.of[index]
            if variable.family == "channel" and index == group:
                for value in self.groups.domains[group]:
                    if (value == 10) is not (group in drums):
                        costs[self.x[group, value]] += RHYTHM

    def _runs(self, costs: dict[int, float]) -> None:
        places: dict[str, int] = defaultdict(int)
        for group in sorted(self.groups.domains):
            family = self.problem.variables[group].family
            place = places[family]
            places[family] += 1
            base = {"channel": 1, "note": 36, "controller": self.problem.run_from}[family]
            for value in self.groups.domains[group]:
                away = abs(value - base - place) if family != "channel" else value - 1
                costs[self.x[group, value]] += away + (value / 128.0) * (place + 1) / 1024.0


def solve(
    problem: Problem, groups: Groups, schools: Schools,
    progress: Callable[[str, float], bool] | None = None, only_feasible: bool = False,
) -> Answer | None:  # fmt: skip
    """The best values, or None when there are none.  Raises Cancelled.

    ``progress`` is told what is done and how far, 0–1; it returns False to stop.
    """
    model = Model(problem, groups, schools)
    if not model.possible:
        return None
    _tell(progress, "Fewest changed numbers", 0.3)
    costs = model.change_costs()
    first = _run(model, {} if only_feasible else costs)
    if first is None:
        return None
    changes, gap = round(sum(costs[c] * first[0][c] for c in costs)), first[1]
    best = first[0]
    if not only_feasible:
        _tell(progress, "Schools, rhythm and runs", 0.6)
        if costs:
            model.rows.add(list(costs.items()), 0.0, changes + 0.5)
        second = _run(model, model.taste_costs())
        if second is not None:
            best, gap = second[0], max(gap, second[1])
    values = {g: v for (g, v), column in model.x.items() if best[column] > 0.5}
    tight = frozenset(ref for ref, column in model.tight.items() if best[column] > 0.5)
    return Answer(tuple(values[g] for g in groups.of), tight, changes // round(DIALLED), gap)


def _tell(progress: Callable[[str, float], bool] | None, what: str, share: float) -> None:
    if progress is not None and not progress(what, share):
        raise Cancelled


def _run(model: Model, costs: dict[int, float]) -> tuple[Any, float] | None:
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp
    from scipy.sparse import csr_array

    n = model.columns
    if not n:
        return np.zeros(0), 0.0
    objective = np.zeros(n)
    for column, cost in costs.items():
        objective[column] = cost
    rows = model.rows
    matrix = csr_array((rows.data, (rows.row, rows.column)), shape=(len(rows.low), n))
    result = milp(
        objective, integrality=np.array(model.integral), bounds=Bounds(0, 1),
        constraints=LinearConstraint(matrix, rows.low, rows.high) if rows.low else None,
        options={"mip_rel_gap": 0.0, "time_limit": SECONDS, "presolve": True},
    )  # fmt: skip
    if result.x is None:
        return None
    return result.x, float(getattr(result, "mip_gap", 0.0) or 0.0)
