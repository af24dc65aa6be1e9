"""Velocities cut where what is wished or what sounds changes."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise

from vastzone.core.engine.tables import Landing
from vastzone.core.plan.model.wishes import Wish


def bands(wishes: Sequence[Wish], landings: Iterable[Landing]) -> Iterator[tuple[int, int]]:
    """Velocities 1–127 cut wherever a wish or a landing begins or ends, each up to the next."""
    edges = {1, 128}
    for wish in wishes:
        edges |= {wish.vel_low, wish.vel_high + 1}
    for landing in landings:
        edges |= {landing.low, landing.high + 1}
    return pairwise(sorted(edges))


def wished_at(velocity: int, wishes: Iterable[Wish]) -> list[Wish]:
    """The wishes that hold at a velocity."""
    wished = []
    for wish in wishes:
        if wish.vel_low <= velocity <= wish.vel_high:
            wished.append(wish)
    return wished
