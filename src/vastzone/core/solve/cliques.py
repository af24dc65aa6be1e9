"""Pairs that must differ, stated many at once: cliques, and sides that avoid each other."""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from itertools import combinations
from typing import TypeVar

Place = tuple[int, int]
"""A number on a channel: the group of the channel, and that of the number."""
T = TypeVar("T", int, str, Place)


FEWEST = 3
"""From how many on each side it pays to keep two sides apart as a whole."""


def sides(edges: set[tuple[T, T]]) -> Iterator[tuple[list[T], list[T]]]:
    """Two sides, all of one joined to all of the other; their edges are taken out."""
    near: dict[T, set[T]] = defaultdict(set)
    for one, other in edges:
        near[one].add(other)
        near[other].add(one)
    alike: dict[frozenset[T], list[T]] = {}
    for node in sorted(near):
        alike.setdefault(frozenset(near[node]), []).append(node)
    for across, nodes in alike.items():
        joined = {edge(node, other) for node in nodes for other in across}
        if min(len(nodes), len(across)) >= FEWEST and joined & edges:
            edges -= joined
            yield nodes, sorted(across)


def cover(edges: set[tuple[T, T]]) -> Iterator[list[T]]:
    """Cliques in which every edge is found at least once."""
    near: dict[T, set[T]] = defaultdict(set)
    for one, other in edges:
        near[one].add(other)
        near[other].add(one)
    left = set(edges)

    def most_first(node: T) -> tuple[int, T]:
        return -len(near[node]), node

    for start in sorted(near, key=most_first):
        while any(edge(start, node) in left for node in near[start]):
            # Neighbours whose pair is not stated yet come first: each clique states most anew.
            order = sorted(near[start], key=most_first)
            order.sort(key=lambda node: edge(start, node) not in left)
            clique = grown([start], order, near)
            left -= {edge(one, other) for one, other in combinations(clique, 2)}
            yield clique


def grown(clique: list[T], order: Iterable[T], near: Mapping[T, set[T]]) -> list[T]:
    """A clique with all that is near to everything in it so far, in order."""
    for one in order:
        if all(one in near[other] for other in clique):
            clique.append(one)
    return clique


def edge(one: T, other: T) -> tuple[T, T]:
    """A pair, the smaller first."""
    return (one, other) if one <= other else (other, one)
