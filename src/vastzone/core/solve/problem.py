"""The open numbers and what must hold between them.

A *channel*, *note* or *controller* variable stands for one number in one device, as its scope
says; variables that a wish ties together are one group.  ``Apart`` keeps two senders and
listeners from meeting: on different channels, or, where that is possible, by notes.
"""

from collections.abc import Mapping
from typing import Literal, NamedTuple

from vastzone.core.plan.model.wishes import OwnSchool
from vastzone.core.solve.runs import Lie

Family = Literal["channel", "note", "controller"]


class Variable(NamedTuple):
    """One number: the settings that it is, its value now, what it is counted against, its values.

    ``held`` is what the device holds, ``before`` what the plan says; either is None where there is
    nothing yet, or where a receiver learns what comes, so that any value costs nothing.  A wish
    goes by those that are ``needed``.
    """

    family: Family
    refs: tuple[str, ...]
    value: int
    held: int | None
    before: int | None
    domain: frozenset[int]
    locked: bool
    needed: bool = False


class Apart(NamedTuple):
    """Two channel variables that differ, unless the notes keep the two apart.

    ``tight`` names a part whose range would have to be narrowed; ``outside`` are note variables
    with the values that they would have to avoid; ``unlike`` are pairs of notes or controllers
    that would have to differ.  With none of these, and ``hard``, there is no other way.
    """

    one: int
    other: int
    hard: bool
    tight: str = ""
    outside: tuple[tuple[int, frozenset[int]], ...] = ()
    unlike: tuple[tuple[int, int], ...] = ()


class SoftDemand(NamedTuple):
    """What goes on playing only if these numbers are the same, and those are among some values."""

    wish: str
    same: list[tuple[int, int]]
    within: list[tuple[int, frozenset[int]]]


class Taste(NamedTuple):
    """What the schools look at: groups of channel variables on one bus, device or program."""

    kind: Literal["sound", "shared", "bundle"]
    members: tuple[int, ...]


class Problem(NamedTuple):
    """Everything that the solver needs; indices point into ``variables``.

    ``lies`` says where the control lies that sends a number, ``wished`` for which wish it does, and
    ``own`` how it is to be chosen where the person said so of its control.
    """

    variables: tuple[Variable, ...]
    same: tuple[tuple[int, int], ...]
    apart: tuple[Apart, ...]
    tight_costs: dict[str, int]
    tastes: tuple[Taste, ...]
    rhythm: frozenset[int]
    roles: dict[int, frozenset[int]]
    alone: tuple[tuple[int, int], ...]
    soft: tuple[SoftDemand, ...] = ()
    lies: Mapping[int, Lie] = {}
    wished: Mapping[int, str] = {}
    own: Mapping[int, OwnSchool] = {}


class Groups(NamedTuple):
    """Variables tied together: the group of each, and each group's values; a clash if empty."""

    of: tuple[int, ...]
    domains: dict[int, frozenset[int]]
    clash: int | None


def contract(problem: Problem) -> Groups:
    """Tie variables together that must be equal."""
    parent = list(range(len(problem.variables)))

    def find(index: int) -> int:
        while parent[index] != index:
            parent[index] = parent[parent[index]]
            index = parent[index]
        return index

    for one, other in problem.same:
        a, b = find(one), find(other)
        if a != b:
            parent[max(a, b)] = min(a, b)
    of = tuple(find(i) for i in range(len(parent)))
    domains: dict[int, frozenset[int]] = {}
    for index, variable in enumerate(problem.variables):
        group = of[index]
        domains[group] = domains[group] & variable.domain if group in domains else variable.domain
    clash = next((g for g, values in domains.items() if not values), None)
    return Groups(of, domains, clash)
