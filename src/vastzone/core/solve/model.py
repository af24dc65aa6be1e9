"""The problem as CP-SAT, the constraint solver of OR-Tools, sees it: Booleans and clauses.

One Boolean for each value that a group of tied variables can take.  (HiGHS solves the same
programme, but «at least one of these must move» is weak as a linear bound: seventeen sounds that
share sixteen channels took it 25 s.)
"""

from itertools import permutations
from typing import Any, NamedTuple

from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.cliques import Place, cover, edge, grown, sides
from vastzone.core.solve.constraints import new_model
from vastzone.core.solve.problem import Apart, Groups, Problem, SoftDemand

Name = tuple[int, int] | tuple[str, int] | str
"""A literal: a value of a group, a part to be narrowed, or one made for a level."""
Costs = dict[Name, int]
"""What each literal costs where it is true."""


class Values(NamedTuple):
    """Values that hold: of each group, and the parts to narrow."""

    of_group: dict[int, int]
    tight: frozenset[str]


class Counted(NamedTuple):
    """A channel to be counted: where some groups use it, or where none of them does."""

    channel: int
    groups: tuple[int, ...]
    unused: bool

    def holds(self, values: Values) -> bool:
        """Whether it is to be counted."""
        used = any(values.of_group[group] == self.channel for group in self.groups)
        return used is not self.unused


PIECE = 200
"""So much is stated between two looks whether to go on."""


class Model:
    """Booleans and clauses made from a problem and its groups."""

    def __init__(self, problem: Problem, groups: Groups, progress: Progress | None = None) -> None:
        """State what must hold.  Raises Cancelled when ``progress`` says so."""
        self._progress = progress
        self.problem, self.groups = problem, groups
        self.neighbourhood = _neighbourhoods(problem, groups)
        self.made: dict[Name, Any] = {}
        self.counted: dict[Name, Counted] = {}
        self.cp = new_model()
        self.x: dict[tuple[int, int], Any] = {}
        self.possible = True
        self.crowded: tuple[int, ...] = ()
        for place, group in enumerate(sorted(groups.domains)):
            self._go_on(place)
            for value in sorted(groups.domains[group]):
                self.x[group, value] = self.cp.new_bool_var("")
            self.cp.add_exactly_one(self.x[group, v] for v in sorted(groups.domains[group]))
        self.tight = {ref: self.cp.new_bool_var("") for ref in sorted(problem.tight_costs)}
        self._own: dict[tuple[str, int], Any] = {}
        self._shared: dict[tuple[int, int], Any] = {}
        self._parts_of: dict[int, set[str]] = {}
        self._hits: set[tuple[int, str]] = set()
        self._meetings: dict[int, set[tuple[Place, Place]]] = {}
        self._on_channel: dict[tuple[int, int, int, int], Any] = {}
        self._cliques(self._aparts())
        self._part_on_channels()
        self._own_channels()
        self.goes_on: dict[str, Any] = {}
        for demand in problem.soft:
            self.goes_on[demand.wish] = self._soft(demand)

    def _go_on(self, place: int) -> None:
        if place % PIECE == 0:
            go_on(self._progress, say("Stating what must hold"), 0.15)

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

    def count(self, counted: Counted) -> Name:
        """A literal that is true wherever a channel is to be counted."""
        name, literal = self.new_literal()
        self.counted[name] = counted
        there = [self.x[group, counted.channel] for group in counted.groups]
        if counted.unused:
            self.cp.add_bool_or([literal, *there])
        else:
            for one in there:
                self.cp.add_implication(one, literal)
        return name

    def holds(self, name: Name, values: Values) -> bool:
        """Whether a literal is true, or need not be false, of some values."""
        if isinstance(name, str):
            return name in values.tight
        if name in self.counted:
            return self.counted[name].holds(values)
        return values.of_group.get(int(name[0])) == name[1]

    def cost(self, costs: Costs, values: Values) -> int:
        """What some values come to."""
        return sum(cost for name, cost in costs.items() if self.holds(name, values))

    def hint(self, values: Values) -> None:
        """Begin the next search with values that hold."""
        self.cp.clear_hints()  # type: ignore[no-untyped-call]
        for name, literal in self.literals.items():
            self.cp.add_hint(literal, self.holds(name, values))

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
            edges.add(edge(of[one], of[other]))
        done: set[object] = set()
        for place, apart in enumerate(self.problem.apart):
            self._go_on(place)
            like = self._like(apart)
            if like not in done:
                done.add(like)
                edges |= self._edges_of(apart)
        self.possible = self.possible and all(a != b for a, b in edges)
        return edges

    def _edges_of(self, apart: Apart) -> set[tuple[int, int]]:
        """The pairs of groups that differ because of a demand; other ways are stated at once."""
        of = self.groups.of
        a, b = edge(of[apart.one], of[apart.other])
        if apart.hard or self._never_outside(apart):
            return {(a, b)}
        here, there = self.groups.domains[a], self.groups.domains[b]
        always = a == b or (len(here) == 1 and here == there)
        if always and apart.unlike and not apart.outside and not apart.tight:
            edges = set()
            for one, other in apart.unlike:
                edges.add(edge(of[one], of[other]))
            return edges
        if self.groups.domains[a] & self.groups.domains[b]:
            self._alternative(apart, a, b)
        return set()

    def _like(self, apart: Apart) -> object:
        """What two demands have in common that say the same of the same groups."""
        of = self.groups.of
        pair = edge(of[apart.one], of[apart.other])
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
        if (a, b) in self._shared:
            return [self._shared[a, b]]
        together = self._shared[a, b] = self.cp.new_bool_var("")
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
            clique = grown([min(left)], refs, near)
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
            numbers = self.groups.of[one], self.groups.of[other]
            if a == b or numbers[0] == numbers[1] or not self._meet(apart, *numbers):
                self._unlike(*numbers, unless)

    def _meet(self, apart: Apart, one: int, other: int) -> bool:
        """Note where two numbers would meet, if one of them is on a channel that stays.

        They are then kept apart channel by channel, many at once.
        """
        here, there = self.groups.of[apart.one], self.groups.of[apart.other]
        channels = self.groups.domains[here] & self.groups.domains[there]
        if len(channels) > 1:
            return False
        for channel in channels:
            meeting = edge((here, one), (there, other))
            self._meetings.setdefault(channel, set()).add(meeting)
        return True

    def _part_on_channels(self) -> None:
        """Of all that meets on a channel, no two have one number."""
        for channel in sorted(self._meetings):
            edges = set(self._meetings[channel])
            for one, other in sides(edges):
                self._two_sides(channel, one, other)
            for clique in cover(edges):
                values = sorted(self._values_of(clique))
                for value in values:
                    self.cp.add_at_most_one(self._all_there(clique, channel, value))

    def _two_sides(self, channel: int, one: list[Place], other: list[Place]) -> None:
        """Nothing of one side has a number that something of the other side has."""
        for value in sorted(self._values_of(one) & self._values_of(other)):
            taken = self.cp.new_bool_var("")
            for literal in self._all_there(one, channel, value):
                self.cp.add_implication(literal, taken)
            for literal in self._all_there(other, channel, value):
                self.cp.add_implication(literal, taken.negated())

    def _values_of(self, places: list[Place]) -> set[int]:
        values: set[int] = set()
        for _, number in places:
            values |= self.groups.domains[number]
        return values

    def _all_there(self, places: list[Place], channel: int, value: int) -> list[Any]:
        literals = []
        for place in places:
            if (place[1], value) in self.x:
                literals.append(self._there(place, channel, value))
        return literals

    def _there(self, place: Place, channel: int, value: int) -> Any:
        """A literal that is true whenever a number has a value on a channel."""
        on, number = place
        if len(self.groups.domains[on]) == 1:
            return self.x[number, value]
        key = (on, number, channel, value)
        if key not in self._on_channel:
            there = self._on_channel[key] = self.cp.new_bool_var("")
            both = (self.x[on, channel].negated(), self.x[number, value].negated())
            self.cp.add_bool_or([*both, there])
        return self._on_channel[key]

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
        for clique in cover(edges):
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
