"""How sounds are spread over kits: what is played together in one kit, the rest where it disturbs
least; the same sound on the same pad wherever it is.

Sounds that a scene plays belong together.  Every scene is to find all its sounds in one kit; a
sound that several kits need stands in each of them, on the same pad.
"""

from collections import Counter
from collections.abc import Iterable
from itertools import pairwise
from typing import Any, NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.plan import lookup
from vastzone.core.plan.fills import kits_needed, pads_of
from vastzone.core.plan.model import Plan

APART, COPY = 1000, 10
TAKEN, CROSSED, MOVED = 1e6, 1e3, 1.0
SECONDS = 5.0


class Kits(NamedTuple):
    """Which sounds stand in each kit on which pad, and in which kit each scene is played.

    ``pads`` maps a sound to its pad (0-based, in the order of the pads) in every kit that has it;
    ``split`` are scenes that need more than one kit.
    """

    kits: tuple[frozenset[str], ...]
    pads: dict[str, int]
    scenes: dict[str, int]
    split: tuple[str, ...]

    @property
    def edits(self) -> int:
        """How many pads have to be set, over all kits."""
        return sum(len(kit) for kit in self.kits)


class Layout(NamedTuple):
    """What the pads are like: where sounds are now, which pads crossing hands pass, what is risky.

    Pads are counted from 0 in the order in which they lie.
    """

    now: dict[str, int] = {}
    crossing: frozenset[int] = frozenset()
    risky: frozenset[str] = frozenset()


def plan_kits(
    wanted: dict[str, frozenset[str]], pads: int, most: int, layout: Layout = Layout()
) -> Kits:
    """Spread the sounds that scenes want over at most ``most`` kits of ``pads`` pads.

    First as few scenes as can be are split over kits, then as few copies of sounds are made; loud
    and risky sounds go where hands do not cross, and the others stay where they are.
    Raises EditError when the sounds do not fit at all.
    """
    sounds = sorted(set().union(*wanted.values())) if wanted else []
    least = kits_needed(len(sounds), pads)
    if least > most:
        raise EditError(
            f"{len(sounds)} sounds need {least} kits of {pads} pads, and there are {most}: leave "
            f"{len(sounds) - most * pads} sounds out, or use presets in the receiver."
        )
    if not sounds:
        return Kits((), {}, {}, ())
    count = min(most, max(least, len(wanted)))
    return _solved(wanted, sounds, pads, count, layout)


def _solved(
    wanted: dict[str, frozenset[str]], sounds: list[str], pads: int, count: int, layout: Layout
) -> Kits:
    from ortools.sat.python import cp_model

    cp = cp_model.CpModel()
    holds = {(s, k): cp.new_bool_var("") for s in sounds for k in range(count)}
    plays = {(c, k): cp.new_bool_var("") for c in wanted for k in range(count)}
    used = [cp.new_bool_var("") for _ in range(count)]
    for k in range(count):
        cp.add(sum(holds[s, k] for s in sounds) <= pads * used[k])
        if k:
            cp.add_implication(used[k], used[k - 1])
    for s in sounds:
        cp.add_bool_or(holds[s, k] for k in range(count))
    whole: list[Any] = []
    for scene, held in wanted.items():
        cp.add_at_most_one(plays[scene, k] for k in range(count))
        whole += [plays[scene, k] for k in range(count)]
        for k in range(count):
            for s in held:
                cp.add_implication(plays[scene, k], holds[s, k])
    cp.maximize(APART * sum(whole) - COPY * sum(holds.values()) - sum(used))
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.linearization_level = 2
    solver.parameters.max_time_in_seconds = SECONDS
    solver.solve(cp)
    kits = tuple(
        frozenset(s for s in sounds if solver.boolean_value(holds[s, k])) for k in range(count)
    )
    scenes = {c: k for c in wanted for k in range(count) if solver.boolean_value(plays[c, k])}
    split = tuple(c for c in wanted if c not in scenes)
    return Kits(tuple(k for k in kits if k), _places(kits, pads, layout), scenes, split)


def _places(kits: Iterable[frozenset[str]], pads: int, layout: Layout) -> dict[str, int]:
    """One pad for each sound, free in all its kits, at the least cost.

    Sounds of several kits are placed first, all on different pads; then each kit's own sounds.
    A sound for which no pad is free in all its kits takes one that is free in most.
    """
    held = tuple(kits)
    often = Counter(s for kit in held for s in kit)
    places: dict[str, int] = {}
    shared = sorted(s for s, count in often.items() if count > 1)
    for group in (shared, *(sorted(s for s in kit if often[s] == 1) for kit in held)):
        for start in range(0, len(group), pads):
            _assign(group[start : start + pads], held, pads, layout, places)
    return places


def _assign(
    group: list[str], kits: tuple[frozenset[str], ...], pads: int, layout: Layout,
    places: dict[str, int],
) -> None:  # fmt: skip
    """The cheapest different pads for some sounds (the assignment problem, solved exactly)."""
    import numpy as np
    from scipy.optimize import linear_sum_assignment

    if not group:
        return
    cost = np.zeros((len(group), pads))
    for row, sound in enumerate(group):
        mine = [k for k in kits if sound in k]
        for pad in range(pads):
            taken = sum(any(places.get(s) == pad for s in kit) for kit in mine)
            crossed = sound in layout.risky and pad in layout.crossing
            moved = layout.now.get(sound) != pad
            cost[row, pad] = TAKEN * taken + CROSSED * crossed + MOVED * moved + 1e-3 * pad
    for row, pad in zip(*linear_sum_assignment(cost), strict=True):
        places[group[row]] = int(pad)


def presses(kits: Kits, order: list[str]) -> int:
    """How many changes of kit a show costs whose scenes come in this order."""
    at = [kits.scenes[s] for s in order if s in kits.scenes]
    return sum(a != b for a, b in pairwise(at)) + sum(s in kits.split for s in order)


def wished_sounds(plan: Plan, device: str) -> dict[str, frozenset[str]]:
    """What the pads of a device are wished to play in each scene: «part/sound» or «part/note»."""
    pads = {f"{device}:{c.id}" for c in pads_of(lookup.device(plan, device))}
    names = tuple(s.id for s in plan.scenes) or ("",)
    found: dict[str, set[str]] = {name: set() for name in names}
    for intent in plan.intents:
        for n, source in enumerate(intent.sources):
            if intent.plays and source in pads:
                sound = intent.sound(n)
                for scene in intent.scenes or names:
                    found[scene].add(f"{intent.plays}/{sound or intent.note}")
    return {scene: frozenset(held) for scene, held in found.items() if held}


def layout_of(plan: Plan, device: str) -> Layout:
    """Where the wished sounds are now, which pads lie where hands cross, what is risky.

    Hands cross in the middle columns of a face at least three wide.  Risky are sounds marked loud
    and loops that go on once they are struck.
    """
    pads = pads_of(lookup.device(plan, device))
    place = {f"{device}:{p.id}": n for n, p in enumerate(pads)}
    now: dict[str, int] = {}
    risky: set[str] = set()
    for intent in plan.intents if pads else ():
        for n, source in enumerate(intent.sources):
            if intent.plays and source in place:
                sound = intent.sound(n)
                name = f"{intent.plays}/{sound or intent.note}"
                now.setdefault(name, place[source])
                if _is_risky(plan, intent.plays, sound):
                    risky.add(name)
    wide = max((p.column for p in pads), default=0) + 1
    middle = frozenset(
        n for n, p in enumerate(pads) if wide > 2 and (wide - 1) // 2 <= p.column <= wide // 2
    )
    return Layout(now, middle, frozenset(risky))


def _is_risky(plan: Plan, ref: str, sound: str) -> bool:
    owner = lookup.device(plan, ref.partition(":")[0])
    part = lookup.part(owner, ref.partition(":")[2])
    loud = {s.id for k in owner.kits if k.id == part.kit for s in k.sounds if s.loud}
    return part.loud or part.trigger == "toggle" or sound in loud
