"""The verdicts on keys: what each does in a program, against what is wished of it."""

from collections.abc import Iterator
from itertools import pairwise
from typing import Any, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.tables import Landing, Run
from vastzone.core.memory.touched import Names
from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof.bands import bands, wished_at
from vastzone.core.proof.unwished import Unwished, is_heard, meant_without_a_wish
from vastzone.core.proof.verdict import Effect, Mark, Marks, judge


@derived(32768, whole=True)
def prove_bed(
    bed: Keybed,
    does: tuple[Run, ...],
    wishes: tuple[Wish, ...],
    ref: str,
    spots: Names,
    welcome: Names,
) -> Marks:
    """The verdicts on the keys of a keybed in one program.

    ``spots`` and ``welcome`` are what is meant without a wish.
    """
    unwished = Unwished(spots, welcome)
    wished = []
    for wish in wishes:
        if wish.plays:
            wished.append((wish.lowest, wish.highest, wish))
    runs: list[list[Any]] = []
    for low, after in pairwise(_edges(bed, wished, does)):
        here = []
        for first, last, wish in wished:
            if first <= low <= last:
                here.append(wish)
        landings = _landings(does, low, {wish.plays or "" for wish in here})
        if here or landings:
            for mark in _prove_keys(ref, here, landings, unwished):
                _join(runs, mark, low, after - 1)
    return tuple(mark._replace(low=low, high=high) for mark, low, high in runs)


class KeyLanding(NamedTuple):
    """Where a zone sounds."""

    spot: str
    landing: Landing


def _landings(does: tuple[Run, ...], key: int, wished: set[str]) -> list[KeyLanding]:
    """Everything that a key sounds."""
    landings: list[KeyLanding] = []
    for run in does:
        if run.low <= key <= run.high:
            for landing in run.emission.landings:
                if is_heard(landing, wished):
                    landings.append(KeyLanding(f"zone.{run.emission.origin}", landing))
    return landings


def _edges(bed: Keybed, wished: list[tuple[int, int, Wish]], does: tuple[Run, ...]) -> list[int]:
    """Where what keys do or should do changes, from the lowest key to past the highest."""
    edges = {bed.low, bed.high + 1}
    for low, high, _ in wished:
        edges |= {low, high + 1}
    for run in does:
        edges |= {run.low, run.high + 1}
    return sorted(edge for edge in edges if bed.low <= edge <= bed.high + 1)


def _prove_keys(
    ref: str, wishes: list[Wish], landings: list[KeyLanding], unwished: Unwished
) -> Iterator[Mark]:
    """Keys that do the same and are meant to; the notes of the landings count from the key."""
    for low, after in bands(wishes, [there.landing for there in landings]):
        here = wished_at(low, wishes)
        found = []
        for spot, landing in landings:
            if landing.low <= low <= landing.high:
                found.append((spot, Effect(landing.ref, landing.note)))
        meant = []
        for wish in here:
            meant.append(Effect(wish.plays or "", wish.shift))
        if not wishes:
            meant = meant_without_a_wish(found, *unwished)
        heard = [effect for _, effect in found]
        if meant or heard:
            verdict, missing, extra = judge(meant, heard)
            told = tuple(wish.id for wish in here)
            yield Mark(ref, 1, 0, 0, low, after - 1, verdict, tuple(meant), missing, extra, told)


def _join(runs: list[list[Any]], mark: Mark, low: int, high: int) -> None:
    """Begin a run of keys, or lengthen the one that ends on the key before and says the same.

    A run is a mark with its lowest and highest key.
    """
    for run in reversed(runs[-8:]):
        if run[2] == low - 1 and run[0][4:] == mark[4:]:
            run[2] = high
            return
    runs.append([mark, low, high])
