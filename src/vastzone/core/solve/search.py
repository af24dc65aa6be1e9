"""The problem handed to CP-SAT, the constraint solver of OR-Tools, and its answer.

One Boolean for each value that a group of tied variables can take.  First the fewest changed
numbers; then, with that settled, the schools, rhythm on 10 and runs, in weights so far apart that
an earlier one is never traded for a later.  One worker and a fixed seed break ties the same way
every time.  (HiGHS solves the same programme, but «at least one of these must move» is weak as a
linear bound: seventeen sounds that share sixteen channels took it 25 s.)
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from itertools import combinations, permutations
from typing import Any, NamedTuple, TypeVar

from vastzone.core.midi.controllers import CONTROLLERS, LAST_CONTROLLER
from vastzone.core.plan.model.wishes import Schools
from vastzone.core.progress import Progress
from vastzone.core.solve.constraints import SearchResult, search
from vastzone.core.solve.problem import Apart, Groups, Problem, SoftDemand

DIALLED = 1_000
"""A number that the device holds weighs more than one that was only planned."""
SCHOOL, RHYTHM = 10_000_000, 50_000
SECONDS = 60.0

Costs = dict[Any, int]


class Answer(NamedTuple):
    """The value of every variable, the parts to narrow, how many numbers change, the gap left."""

    values: tuple[int, ...]
    tight: frozenset[str]
    changes: int
    gap: float


class Model:
    """Booleans and clauses made from a problem and its groups."""

    def __init__(self, problem: Problem, groups: Groups, schools: Schools) -> None:
        from ortools.sat.python import cp_model

        self.problem, self.groups, self.schools = problem, groups, schools
        self.cp = cp_model.CpModel()
        self.x: dict[tuple[int, int], Any] = {}
        self.possible = True
        for group in sorted(groups.domains):
            for value in sorted(groups.domains[group]):
                self.x[group, value] = self.cp.new_bool_var("")
            self.cp.add_exactly_one(self.x[group, v] for v in sorted(groups.domains[group]))
        self.tight = {ref: self.cp.new_bool_var("") for ref in sorted(problem.tight_costs)}
        self._own: dict[tuple[str, int], Any] = {}
        self._parts_of: dict[int, set[str]] = {}
        self._hits: set[tuple[int, str]] = set()
        self._cliques(self._aparts())
        self._own_channels()
        self.goes_on: dict[str, Any] = {}
        for demand in problem.soft:
            self.goes_on[demand.wish] = self._soft(demand)

    def _soft(self, demand: SoftDemand) -> Any:
        """A literal under which what plays today goes on."""
        goes_on = self.cp.new_bool_var("")
        for one, other in demand.same:
            a, b = self.groups.of[one], self.groups.of[other]
            for value in sorted(self.groups.domains[a]):
                there = [self.x[b, value]] if (b, value) in self.x else []
                self.cp.add_bool_or([goes_on.negated(), self.x[a, value].negated(), *there])
        for index, values in demand.within:
            group = self.groups.of[index]
            for value in sorted(self.groups.domains[group] - values):
                self.cp.add_bool_or([goes_on.negated(), self.x[group, value].negated()])
        return goes_on

    def _aparts(self) -> set[tuple[int, int]]:
        """Pairs of groups that differ; what may be kept apart in other ways is stated at once."""
        of = self.groups.of
        edges = set()
        for one, other in self.problem.alone:
            edges.add(_edge(of[one], of[other]))
        done: set[object] = set()
        for apart in self.problem.apart:
            like = self._like(apart)
            if like not in done:
                done.add(like)
                edges |= self._edges_of(apart)
        self.possible = self.possible and all(a != b for a, b in edges)
        return edges

    def _edges_of(self, apart: Apart) -> set[tuple[int, int]]:
        """The pairs of groups that differ because of a demand; other ways are stated at once."""
        of = self.groups.of
        a, b = _edge(of[apart.one], of[apart.other])
        if apart.hard or self._never_outside(apart):
            return {(a, b)}
        if a == b and apart.unlike and not apart.outside and not apart.tight:
            edges = set()
            for one, other in apart.unlike:
                edges.add(_edge(of[one], of[other]))
            return edges
        if self.groups.domains[a] & self.groups.domains[b]:
            self._alternative(apart, a, b)
        return set()

    def _like(self, apart: Apart) -> object:
        """What two demands have in common that say the same of the same groups."""
        of = self.groups.of
        pair = _edge(of[apart.one], of[apart.other])
        outside = tuple((of[variable], forbidden) for variable, forbidden in apart.outside)
        unlike = tuple((of[one], of[other]) for one, other in apart.unlike)
        return pair, apart.hard, apart.tight, outside, unlike

    def _never_outside(self, apart: Apart) -> bool:
        """Whether a note that would have to lie elsewhere has nowhere else to lie."""
        of, domains = self.groups.of, self.groups.domains
        return any(domains[of[v]] <= forbidden for v, forbidden in apart.outside)

    def _together(self, a: int, b: int) -> list[Any]:
        """A literal that is true whenever two groups share a channel; none when they always do."""
        if a == b:
            return []
        together = self.cp.new_bool_var("")
        for value in sorted(self.groups.domains[a] & self.groups.domains[b]):
            self.cp.add_bool_or([self.x[a, value].negated(), self.x[b, value].negated(), together])
        return [together]

    def _apart_or_tight(self, apart: Apart) -> None:
        """Nothing of group ``one`` is on the channel of a part that is not narrowed."""
        here, part = self.groups.of[apart.one], self.groups.of[apart.other]
        for value in sorted(self.groups.domains[part]):
            own = self._own.get((apart.tight, value))
            if own is None:
                # True whenever the part is on this channel and answers more than it needs.
                own = self._own[apart.tight, value] = self.cp.new_bool_var("")
                self.cp.add_bool_or([self.x[part, value].negated(), self.tight[apart.tight], own])
            if (here, value) in self.x:
                self.cp.add_bool_or([self.x[here, value].negated(), own.negated()])
        self._parts_of.setdefault(part, set()).add(apart.tight)
        self._hits.add((here, apart.tight))

    def _own_channels(self) -> None:
        """Parts that are not narrowed and would hear each other's senders share no channel."""
        refs = sorted({ref for _, ref in self._hits})
        near = self._hearing_each_other(refs)
        left = set(refs)
        while left:
            clique = _grown([min(left)], refs, near)
            left -= set(clique)
            for value in sorted({value for ref, value in self._own if ref in clique}):
                own = []
                for ref in clique:
                    if (ref, value) in self._own:
                        own.append(self._own[ref, value])
                self.cp.add_at_most_one(own)

    def _hearing_each_other(self, refs: list[str]) -> dict[str, set[str]]:
        """The parts that each part would hear the senders of, and be heard by."""
        # Where both would hear the senders of the other, no channel can take the two.
        group_of = {}
        for group, parts in self._parts_of.items():
            for ref in parts:
                group_of[ref] = group
        near: dict[str, set[str]] = {}
        for ref in refs:
            near[ref] = set()
        for ref, other in permutations(refs, 2):
            if (group_of[other], ref) in self._hits and (group_of[ref], other) in self._hits:
                near[ref].add(other)
        return near

    def _alternative(self, apart: Apart, a: int, b: int) -> None:
        """Different channels, or kept apart by notes."""
        outside = self._must_lie_elsewhere(apart)
        if apart.tight and not outside and not apart.unlike and a != b:
            self._apart_or_tight(apart)
            return
        # All that follows need only hold while the two share a channel.
        unless = []
        for literal in self._together(a, b):
            unless.append(literal.negated())
        if apart.tight:
            self.cp.add_bool_or([*unless, self.tight[apart.tight]])
        for group, forbidden in outside:
            free = sorted(self.groups.domains[group] - forbidden)
            self.cp.add_bool_or([*unless, *(self.x[group, value] for value in free)])
        for one, other in apart.unlike:
            self._unlike(self.groups.of[one], self.groups.of[other], unless)

    def _must_lie_elsewhere(self, apart: Apart) -> list[tuple[int, frozenset[int]]]:
        """Groups with the values that they could have and must not."""
        elsewhere = []
        for variable, forbidden in apart.outside:
            group = self.groups.of[variable]
            if meeting := forbidden & self.groups.domains[group]:
                elsewhere.append((group, meeting))
        return elsewhere

    def _unlike(self, one: int, other: int, unless: list[Any]) -> None:
        """Two groups have different values, unless one of some literals is true."""
        if one == other:
            self.possible = self.possible and bool(unless)
            if unless:
                self.cp.add_bool_or(unless)
            return
        for value in sorted(self.groups.domains[one] & self.groups.domains[other]):
            both = (self.x[one, value].negated(), self.x[other, value].negated())
            self.cp.add_bool_or([*unless, *both])

    def _cliques(self, edges: set[tuple[int, int]]) -> None:
        """Groups that all differ share each value at most once: stronger than pair by pair."""
        near: dict[int, set[int]] = defaultdict(set)
        for a, b in edges:
            near[a].add(b)
            near[b].add(a)
        left = set(edges)

        def most_first(group: int) -> tuple[int, int]:
            return -len(near[group]), group

        for a in sorted(near, key=most_first):
            while any(_edge(a, b) in left for b in near[a]):
                # Neighbours whose pair is not stated yet come first: each clique states most anew.
                order = sorted(near[a], key=most_first)
                order.sort(key=lambda group: _edge(a, group) not in left)
                clique = _grown([a], order, near)
                left -= {_edge(one, other) for one, other in combinations(clique, 2)}
                self._all_differ(clique)

    def _all_differ(self, clique: list[int]) -> None:
        """No two of these groups have one value."""
        values = set().union(*(self.groups.domains[group] for group in clique))
        for value in sorted(values):
            literals = []
            for group in clique:
                if (group, value) in self.x:
                    literals.append(self.x[group, value])
            self.cp.add_at_most_one(literals)

    def change_costs(self) -> Costs:
        """What each Boolean adds to the count of changed numbers."""
        costs: Costs = defaultdict(int)
        for index, variable in enumerate(self.problem.variables):
            group = self.groups.of[index]
            for value in self.groups.domains[group] if variable.refs else ():
                if variable.held is not None and value != variable.held:
                    costs[self.x[group, value]] += DIALLED
                if variable.settled and value != variable.value:
                    costs[self.x[group, value]] += 1
        for ref, cost in self.problem.tight_costs.items():
            costs[self.tight[ref]] += DIALLED * cost
        return costs

    def taste_costs(self) -> Costs:
        """Schools, then rhythm on 10, then runs and low numbers."""
        costs: Costs = defaultdict(int)
        of = self.groups.of
        alike = Counter(
            (taste.kind, frozenset(of[member] for member in taste.members))
            for taste in self.problem.tastes
        )
        for (kind, members), times in alike.items():
            if len(members) > 1 or kind == "sound":
                self._school(kind, members, times * SCHOOL, costs)
        for group in sorted(self.groups.domains):
            family = self.problem.variables[group].family
            if family == "controller":
                self._controller(group, costs)
            elif family == "channel" and self.schools.rhythm_on_10:
                self._rhythm(group, costs)
        self._runs(costs)
        return costs

    def _school(self, kind: str, members: frozenset[int], weight: int, costs: Costs) -> None:
        for value in sorted(set().union(*(self.groups.domains[member] for member in members))):
            literals = []
            for member in sorted(members):
                if (member, value) in self.x:
                    literals.append(self.x[member, value])
            # A channel counts once however many parts are on it: the fewest or the most are sought.
            used = self.cp.new_bool_var("")
            if kind == "sound":
                self.cp.add_bool_or([used.negated(), *literals])
                costs[used] -= weight
            else:
                for one in literals:
                    self.cp.add_implication(one, used)
                costs[used] += weight

    def _controller(self, group: int, costs: Costs) -> None:
        """The standard number where a target has a role and that is liked; else undefined."""
        standard = self.schools.controllers == "standard"
        if min(self.groups.domains[group]) > LAST_CONTROLLER:
            return  # a parameter keeps its own number
        for value in self.groups.domains[group]:
            role = standard and value in self.problem.roles.get(group, ())
            if not role and CONTROLLERS[value].sort != "undefined":
                costs[self.x[group, value]] += SCHOOL
            elif standard and self.problem.roles.get(group) and not role:
                costs[self.x[group, value]] += SCHOOL // 2

    def _rhythm(self, group: int, costs: Costs) -> None:
        drums = group in {self.groups.of[i] for i in self.problem.rhythm}
        for value in self.groups.domains[group]:
            if (value == 10) is not drums:
                costs[self.x[group, value]] += RHYTHM

    def _runs(self, costs: Costs) -> None:
        """Channels low; notes and controllers in a run, in the order that the controls lie."""
        places: dict[str, int] = defaultdict(int)
        for group in sorted(self.groups.domains):
            family = self.problem.variables[group].family
            place, places[family] = places[family], places[family] + 1
            base = {"channel": 1, "note": 36, "controller": self.problem.run_from}[family]
            for value in self.groups.domains[group]:
                costs[self.x[group, value]] += (
                    value - 1 if family == "channel" else abs(value - base - place)
                )


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
    model = Model(problem, groups, schools)
    if not model.possible:
        return None
    costs = model.change_costs()
    first = _run(model, {} if only_feasible else costs, progress, "Fewest changed numbers", 0.3)
    if first is None:
        return None
    changes = sum(cost for one, cost in costs.items() if first.true(one))
    best = first
    if not only_feasible:
        if costs:
            # Tastes choose only among the answers that change the fewest numbers.
            model.cp.add(_weighed(costs) <= changes)
        second = _run(model, model.taste_costs(), progress, "Schools, rhythm and runs", 0.7)
        # Time may run out before tastes are weighed: the first answer holds all the same.
        best = second or first
    return _answer(model, best, changes, max(first.gap, best.gap))


def silenced(
    problem: Problem, groups: Groups, schools: Schools, progress: Progress | None = None
) -> frozenset[str] | None:
    """The fewest stand-ins that cannot go on playing; None where no numbers hold at all.

    Raises Cancelled.
    """
    model = Model(problem, groups, schools)
    if not model.possible:
        return None
    costs: Costs = {goes_on.negated(): 1 for goes_on in model.goes_on.values()}
    found = _run(model, costs, progress, "What goes on playing", 0.1)
    if found is None:
        return None
    return frozenset(wish for wish, goes_on in model.goes_on.items() if not found.true(goes_on))


def _answer(model: Model, best: SearchResult, changes: int, gap: float) -> Answer:
    values = {}
    for (group, value), one in model.x.items():
        if best.true(one):
            values[group] = value
    tight = frozenset(ref for ref, one in model.tight.items() if best.true(one))
    numbers = tuple(values[group] for group in model.groups.of)
    return Answer(numbers, tight, changes // DIALLED, gap)


T = TypeVar("T")


def _grown(clique: list[T], order: Iterable[T], near: Mapping[T, set[T]]) -> list[T]:
    """A clique with all that is near to everything in it so far, in order."""
    for one in order:
        if all(one in near[other] for other in clique):
            clique.append(one)
    return clique


def _edge(one: int, other: int) -> tuple[int, int]:
    """A pair, the smaller first."""
    return (one, other) if one <= other else (other, one)


def _weighed(costs: Costs) -> Any:
    from ortools.sat.python import cp_model

    return cp_model.LinearExpr.weighted_sum(list(costs), list(costs.values()))


def _run(
    model: Model, costs: Costs, progress: Progress | None, what: str, share: float
) -> SearchResult | None:
    from ortools.sat.python import cp_model

    model.cp.clear_objective()  # type: ignore[no-untyped-call]
    if costs:
        model.cp.minimize(_weighed(costs))
    return search(
        model.cp,
        SECONDS,
        progress,
        what,
        share,
        search_branching=cp_model.LP_SEARCH,
        symmetry_level=0,
        cp_model_probing_level=0,
        max_presolve_iterations=1,
    )
