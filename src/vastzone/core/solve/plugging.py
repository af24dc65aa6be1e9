"""Which pad goes into which input: the best plugging, solved exactly.

In this order: as many pads marked *must* as can be; the most zones, weighted by how much the
player cares; the fewest splitters; the fewest inputs set to another type or plugs moved.
"""

from collections.abc import Iterable
from typing import Any, NamedTuple

from vastzone.core.plan.refs import ref_to
from vastzone.core.plan.trigger import Plug, TriggerInput, TriggerPad, can_split, surviving
from vastzone.core.progress import Progress
from vastzone.core.solve.constraints import Found, search

SPLIT = 1000
"""A splitter is more trouble than any number of moved plugs."""
CARE = {"must": 4, "wanted": 2, "spare": 1}
SECONDS = 10.0
MOST_CHOICES = 4


class Jack(NamedTuple):
    """An input with the module that it belongs to."""

    device: str
    input: TriggerInput

    @property
    def ref(self) -> str:
        """The input as ``device:input``."""
        return ref_to(self.device, self.input.id)


class Plugging(NamedTuple):
    """Plugs, the type of each input in use, the zones that survive, and what it is worth.

    ``worth`` counts weighted zones; ``left_out`` are pads that found no input; ``gap`` is how far
    from the best it may still be, as a share, where the search was stopped by its time limit.
    """

    plugs: tuple[Plug, ...]
    types: dict[str, str]
    kept: dict[str, tuple[str, ...]]
    left_out: tuple[str, ...]
    worth: int
    splitters: int
    moves: int
    gap: float = 0.0

    def lost(self, pads: Iterable[TriggerPad]) -> dict[str, tuple[str, ...]]:
        """The zones of each pad that do not survive."""
        gone = {p.id: tuple(z for z in p.zones if z not in self.kept.get(p.id, ())) for p in pads}
        return {ident: zones for ident, zones in gone.items() if zones}


class Choice(NamedTuple):
    """What it takes to plug in a pad that the best plugging leaves out: the plugging, its price."""

    pad: str
    plugging: Plugging
    price: int


class Fit(NamedTuple):
    """The best plugging and the next best; how many inputs *must* pads are short of.

    ``choices`` are the decisions that are left to the person: each pad left out, and what
    plugging it in instead would cost.
    """

    best: Plugging
    following: Plugging | None
    short: int
    choices: tuple[Choice, ...] = ()


def fit(
    pads: tuple[TriggerPad, ...],
    jacks: tuple[Jack, ...],
    now: tuple[Plug, ...] = (),
    splitters: bool = True,
    next_best: bool = True,
    progress: Progress | None = None,
) -> Fit:
    """The best plugging of pads into inputs, starting from how they are plugged now.

    Raises Cancelled.
    """
    task = _Task(pads, jacks, now, splitters, progress)
    best = task.solve("The best plugging", 0.1)
    wanted = next_best and bool(best.plugs)
    following = task.solve("The next best", 0.4, other_than=best) if wanted else None
    musts = {p.id for p in pads if p.importance == "must"}
    choices = task.choices(best) if next_best else ()
    return Fit(best, following, len(musts & set(best.left_out)), choices)


def weigh(
    pads: tuple[TriggerPad, ...],
    jacks: tuple[Jack, ...],
    plugs: tuple[Plug, ...],
    now: tuple[Plug, ...],
) -> Plugging:
    """What a plugging keeps and costs, each input at the type it is set to."""
    known, held = {p.id: p for p in pads}, {j.ref: j.input for j in jacks}
    shared = _shared(plugs)
    kept = {
        g.pad: surviving(known[g.pad], held[g.input].type, g.input in shared)
        for g in plugs
        if g.pad in known and g.input in held
    }
    worth = sum(value(known[ident], zones) for ident, zones in kept.items())
    left_out = tuple(p.id for p in pads if not kept.get(p.id))
    types: dict[str, str] = {r: held[r].type for r in {g.input for g in plugs} & held.keys()}
    before = {(g.pad, g.input) for g in now}
    moved = sum((g.pad, g.input) not in before for g in plugs)
    return Plugging(plugs, types, kept, left_out, worth, len(shared), moved)


def _shared(plugs: Iterable[Plug]) -> set[str]:
    seen: set[str] = set()
    twice: set[str] = set()
    for plug in plugs:
        (twice if plug.input in seen else seen).add(plug.input)
    return twice


def value(pad: TriggerPad, zones: tuple[str, ...]) -> int:
    """What some zones of a pad are worth: their weights, times how much the pad matters."""
    weights = sum(pad.weight(n) for n, zone in enumerate(pad.zones) if zone in zones)
    return CARE[pad.importance] * weights


class _Model:
    """The Booleans: pad ``p`` in jack ``j`` set to type ``t``; jack ``j`` split for a model.

    What a jack can hold is said type by type, as sums: so the linear bound is close to the truth,
    where implications one by one would leave much to be tried out.
    """

    def __init__(
        self, pads: tuple[TriggerPad, ...], jacks: tuple[Jack, ...], splitters: bool
    ) -> None:
        from ortools.sat.python import cp_model

        self.pads, self.jacks = pads, jacks
        self.cp = cp_model.CpModel()
        self.set: dict[tuple[int, str], Any] = {
            (j, t): self.cp.new_bool_var("")
            for j, jack in enumerate(jacks)
            for t in jack.input.types
        }
        self.x: dict[tuple[int, int, str], Any] = {}
        self.split: dict[tuple[int, str], Any] = {}
        for j, jack in enumerate(jacks):
            self.cp.add_exactly_one(self.set[j, t] for t in jack.input.types)
            for t in jack.input.types:
                self._hold(j, t, splitters)
        for p in range(len(pads)):
            self.cp.add_at_most_one(one for (q, _, _), one in self.x.items() if q == p)

    def _hold(self, j: int, t: str, splitters: bool) -> None:
        """What a jack holds while it is set to a type: one pad, or two by a splitter."""
        here = {p: self.cp.new_bool_var("") for p, pad in enumerate(self.pads) if surviving(pad, t)}
        self.x |= {(p, j, t): one for p, one in here.items()}
        models: dict[str, list[int]] = {}
        for p in here if splitters else ():
            if can_split(self.pads[p], self.pads[p], t):
                models.setdefault(self.pads[p].model, []).append(p)
        models = {model: held for model, held in models.items() if len(held) > 1}
        splits = {model: self.cp.new_bool_var("") for model in models}
        self.split |= {(j, model): split for model, split in splits.items()}
        all_splits = sum(splits.values())
        for model, held in models.items():
            mine = [here[p] for p in held]
            self.cp.add(sum(mine) >= 2 * splits[model])
            self.cp.add(
                sum(here.values()) - sum(mine) + 2 * splits[model] <= self.set[j, t] + all_splits
            )
        self.cp.add(sum(here.values()) <= self.set[j, t] + all_splits)

    def aims(self, now: dict[str, str]) -> tuple[Any, Any, Any]:
        """What is made as large as can be, one after the other: pads that must be placed, weighted
        zones, and the fewest splitters, moves and other types."""
        must: list[Any] = []
        zones: list[Any] = []
        trouble: list[Any] = [-SPLIT * one for one in self.split.values()]
        for (p, j, t), one in self.x.items():
            pad = self.pads[p]
            zones.append(value(pad, surviving(pad, t)) * one)
            if pad.importance == "must":
                must.append(one)
            if now.get(pad.id) != self.jacks[j].ref:
                trouble.append(-1 * one)
        trouble += [-1 * one for (j, t), one in self.set.items() if t != self.jacks[j].input.type]
        return sum(must), sum(zones), sum(trouble)

    def begin_from(self, found: Found) -> None:
        """Let the next search begin with what this one found."""
        self.cp.clear_hints()  # type: ignore[no-untyped-call]
        for one in (*self.x.values(), *self.set.values(), *self.split.values()):
            self.cp.add_hint(one, found.true(one))


class _Task(NamedTuple):
    """What is to be plugged, from where, and who hears how far it is."""

    pads: tuple[TriggerPad, ...]
    jacks: tuple[Jack, ...]
    now: tuple[Plug, ...]
    splitters: bool
    progress: Progress | None

    def choices(self, best: Plugging) -> tuple[Choice, ...]:
        """For the first few pads left out: the best plugging that has them in."""
        made = []
        for ident in best.left_out[:MOST_CHOICES]:
            found = self.solve("What else could be chosen", 0.7, with_pad=ident)
            if ident in found.kept:
                made.append(Choice(ident, found, best.worth - found.worth))
        return tuple(made)

    def solve(
        self, what: str, share: float, other_than: Plugging | None = None, with_pad: str = ""
    ) -> Plugging:
        """One aim after the other: each is proved in a moment, and all weighed into one are not."""
        model = _Model(self.pads, self.jacks, self.splitters)
        if other_than is not None:
            _forbid(model, other_than)
        if with_pad:
            inside = [one for (p, _, _), one in model.x.items() if self.pads[p].id == with_pad]
            model.cp.add(sum(inside) >= 1)
        chosen: list[tuple[int, int, str]] = []
        gap = 0.0
        for aim in model.aims({g.pad: g.input for g in self.now}):
            if isinstance(aim, int):  # a sum of nothing
                continue
            model.cp.clear_objective()  # type: ignore[no-untyped-call]
            model.cp.maximize(aim)
            found = search(model.cp, SECONDS, self.progress, what, share)
            if found is None:
                break
            gap = max(gap, found.gap)
            chosen = [key for key, one in model.x.items() if found.true(one)]
            model.cp.add(aim >= found.aim)
            model.begin_from(found)
        return _read(model, chosen, self.now)._replace(gap=gap)


def _forbid(model: _Model, known: Plugging) -> None:
    """Another set of surviving zones than the one that is known: other wires alone do not count."""
    literals = []
    for p, pad in enumerate(model.pads):
        same = [
            one
            for (q, _, t), one in model.x.items()
            if q == p and surviving(pad, t) == known.kept.get(pad.id, ())
        ]
        anywhere = [one for (q, _, _), one in model.x.items() if q == p]
        literals.append(sum(same) if known.kept.get(pad.id) else 1 - sum(anywhere))
    model.cp.add(sum(literals) <= len(model.pads) - 1)


def _read(model: _Model, chosen: list[tuple[int, int, str]], now: tuple[Plug, ...]) -> Plugging:
    before = {g.pad: g.input for g in now}
    on: dict[int, list[int]] = {}
    types: dict[str, str] = {}
    for p, j, t in sorted(chosen):
        on.setdefault(j, []).append(p)
        types[model.jacks[j].ref] = t
    plugs: list[Plug] = []
    kept: dict[str, tuple[str, ...]] = {}
    for j, held in on.items():
        ref = model.jacks[j].ref
        for n, p in enumerate(held):
            pad = model.pads[p]
            side = ("tip", "ring")[n] if len(held) > 1 else ""
            plugs.append(Plug(pad=pad.id, input=ref, side=side))  # type: ignore[arg-type]
            kept[pad.id] = surviving(pad, types[ref])
    known = {p.id: p for p in model.pads}
    worth = sum(value(known[ident], zones) for ident, zones in kept.items())
    left_out = tuple(p.id for p in model.pads if p.id not in kept)
    moves = sum(before.get(g.pad) != g.input for g in plugs)
    splits = sum(len(held) > 1 for held in on.values())
    order = {p.id: n for n, p in enumerate(model.pads)}
    ordered = tuple(sorted(plugs, key=lambda g: order[g.pad]))
    return Plugging(ordered, types, kept, left_out, worth, splits, moves)
