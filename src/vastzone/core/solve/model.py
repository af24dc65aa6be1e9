"""The problem as CP-SAT, the constraint solver of OR-Tools, sees it: Booleans and clauses.

One Boolean for each value that a group of tied variables can take.  (HiGHS solves the same
programme, but «at least one of these must move» is weak as a linear bound: seventeen sounds that
share sixteen channels took it 25 s.)
"""

from collections import defaultdict
from collections.abc import Iterable, Mapping
from itertools import combinations, permutations
from typing import Any, NamedTuple, TypeVar

from vastzone.core.solve.problem import Apart, Groups, Problem, SoftDemand

Name = tuple[int, int] | tuple[str, int] | str
"""A literal: a value of a group, a part to be narrowed, or one made for a level."""
Costs = dict[Name, int]
"""What each literal costs where it is true."""


class Values(NamedTuple):
    """Values that hold: of each group, the parts to narrow, and all literals that are true."""

    of_group: dict[int, int]
    tight: frozenset[str]
    true: frozenset[Name]

    def cost(self, costs: Costs) -> int:
        """What they come to."""
        return sum(cost for name, cost in costs.items() if name in self.true)


class Model:
    """Booleans and clauses made from a problem and its groups."""

    def __init__(self, problem: Problem, groups: Groups) -> None:
        from ortools.sat.python import cp_model

        self.problem, self.groups = problem, groups
        self.neighbourhood = _neighbourhoods(problem, groups)
        self.made: dict[Name, Any] = {}
        self.cp = cp_model.CpModel()
        self.x: dict[tuple[int, int], Any] = {}
        self.possible = True
        self.crowded: tuple[int, ...] = ()
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

    @property
    def literals(self) -> dict[Name, Any]:
        """Every literal that may cost something."""
        literals: dict[Name, Any] = dict(self.made)
        for number, literal in self.x.items():
            literals[number] = literal
        for ref, literal in self.tight.items():
            literals[ref] = literal
        return literals

    def new_literal(self) -> tuple[Name, Any]:
        """A literal of a level's own, and its name."""
        name: Name = ("made", len(self.made))
        self.made[name] = self.cp.new_bool_var("")
        return name, self.made[name]

    def hint(self, values: Values) -> None:
        """Begin the next search with values that hold."""
        self.cp.clear_hints()  # type: ignore[no-untyped-call]
        for name, literal in self.literals.items():
            self.cp.add_hint(literal, name in values.true)

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
        here, there = self.groups.domains[a], self.groups.domains[b]
        always = a == b or (len(here) == 1 and here == there)
        if always and apart.unlike and not apart.outside and not apart.tight:
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
        if len(values) < len(clique):
            self.possible, self.crowded = False, tuple(clique)
        for value in sorted(values):
            literals = []
            for group in clique:
                if (group, value) in self.x:
                    literals.append(self.x[group, value])
            self.cp.add_at_most_one(literals)


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


def _neighbourhoods(problem: Problem, groups: Groups) -> dict[int, int]:
    """Notes and controllers that may have to differ from each other share a neighbourhood."""
    parent = {group: group for group in groups.domains}

    def find(group: int) -> int:
        while parent[group] != group:
            parent[group] = parent[parent[group]]
            group = parent[group]
        return group

    for apart in problem.apart:
        here, there = groups.of[apart.one], groups.of[apart.other]
        if not groups.domains[here] & groups.domains[there]:
            continue  # never on one channel
        for one, other in apart.unlike:
            a, b = find(groups.of[one]), find(groups.of[other])
            parent[max(a, b)] = min(a, b)
    return {group: find(group) for group in groups.domains}
