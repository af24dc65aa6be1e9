"""Which pad goes into which input: the best plugging, solved exactly.

In this order: as many pads marked *must* as can be; the most zones, weighted by how much the
player cares, and hats that follow their pedal; the fewest splitters; the fewest plugs moved; the
fewest inputs set to another type; the inputs that bear the drums’ names, and the drums’ order.
"""

import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from vastzone.core.plan.model.triggers import (
    Plug,
    Side,
    TriggerInput,
    TriggerPad,
    can_split,
    pedal_of,
    surviving,
)
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.progress import Progress
from vastzone.core.say import say
from vastzone.core.solve.constraints import SearchResult, new_model, search

SPLIT, MOVE, SET = 1_000_000, 1000, 1
"""A splitter is more trouble than any number of moved plugs, and those than inputs set anew."""
FOLLOWS, DISTURBS = 2, 1
"""What a hat beside its pedal is worth more, and any other pad beside one less."""
ALIKE = 1000
"""What it is worth that an input bears the name of its drum, against their order."""
CARE = {"must": 4, "wanted": 2, "spare": 1}
SECONDS = 10.0
MOST_CHOICES = 4


class ModuleInput(NamedTuple):
    """An input with the module that it belongs to."""

    device: str
    input: TriggerInput

    @property
    def ref(self) -> str:
        """The input as ``device:input``."""
        return ref_to(self.device, self.input.id)


class Plugging(NamedTuple):
    """Plugs, the type of each input in use, the zones that survive, and what it is worth.

    ``worth`` counts weighted zones; ``left_out`` are pads that found no input; ``moves`` plugs that
    are pulled out of where they are, ``fresh`` pads that are plugged in anew, ``set_anew`` inputs
    set to another type, ``disturbed`` pads whose sound a hat’s pedal would alter.  ``gap`` is how
    far from the best it may still be, as a share, where the search was stopped by its time limit.
    """

    plugs: tuple[Plug, ...]
    types: Mapping[str, str]
    kept: dict[str, tuple[str, ...]]
    left_out: tuple[str, ...]
    worth: int
    splitters: int
    moves: int
    fresh: int = 0
    set_anew: int = 0
    disturbed: tuple[str, ...] = ()
    gap: float = 0.0

    def lost(self, pads: Iterable[TriggerPad]) -> dict[str, tuple[str, ...]]:
        """The zones of each pad that do not survive."""
        gone = {}
        for pad in pads:
            gone[pad.id] = tuple(
                zone for zone in pad.zones if zone not in self.kept.get(pad.id, ())
            )
        lost_zones = {}
        for ident, zones in gone.items():
            if zones:
                lost_zones[ident] = zones
        return lost_zones


class LeftOutPad(NamedTuple):
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
    choices: tuple[LeftOutPad, ...] = ()


def fit(
    pads: tuple[TriggerPad, ...],
    jacks: tuple[ModuleInput, ...],
    now: tuple[Plug, ...] = (),
    splitters: bool = True,
    next_best: bool = True,
    progress: Progress | None = None,
) -> Fit:
    """The best plugging of pads into inputs, starting from how they are plugged now.

    Raises Cancelled.
    """
    task = _Task(pads, jacks, now, splitters, progress)
    best = task.solve(say("The best plugging"), 0.1)
    wanted = next_best and bool(best.plugs)
    following = task.solve(say("The next best"), 0.4, other_than=best) if wanted else None
    musts = set()
    for pad in pads:
        if pad.importance == "must":
            musts.add(pad.id)
    choices = task.choices(best) if next_best else ()
    return Fit(best, following, len(musts & set(best.left_out)), choices)


def weigh(
    pads: tuple[TriggerPad, ...],
    jacks: tuple[ModuleInput, ...],
    plugs: tuple[Plug, ...],
    now: tuple[Plug, ...],
) -> Plugging:
    """What a plugging keeps and costs, each input at the type it is set to."""
    inputs = {jack.ref: jack.input for jack in jacks}
    here = tuple(plug for plug in plugs if plug.input in inputs)
    types = {plug.input: inputs[plug.input].type for plug in here}
    return _weighed(pads, jacks, here, types, now)


def _weighed(
    pads: tuple[TriggerPad, ...],
    jacks: tuple[ModuleInput, ...],
    plugs: tuple[Plug, ...],
    types: Mapping[str, str],
    now: tuple[Plug, ...],
) -> Plugging:
    """What plugs come to with inputs set to some types."""
    known = lookup.by_ids(pads)
    feet = {pad.id for pad in pads if pad.sensor == "hi-hat"}
    shared = _shared(plug for plug in plugs if plug.pad not in feet)
    kept: dict[str, tuple[str, ...]] = {}
    for plug in plugs:
        if plug.pad in known:
            kept[plug.pad] = surviving(known[plug.pad], types[plug.input], plug.input in shared)
    following, disturbed = _on_hat_pedals(pads, plugs, types)
    worth = sum(value(known[ident], zones) for ident, zones in kept.items())
    worth += FOLLOWS * sum(CARE[known[ident].importance] for ident in following)
    worth -= DISTURBS * sum(CARE[known[ident].importance] for ident in disturbed)
    before = {plug.pad: plug.input for plug in now if plug.pad in known}
    after = {plug.pad: plug.input for plug in plugs}
    return Plugging(
        plugs,
        types,
        kept,
        tuple(pad.id for pad in pads if not kept.get(pad.id)),
        worth,
        len(shared),
        sum(after.get(pad) != ref for pad, ref in before.items()),
        sum(pad not in before for pad in after),
        sum(types.get(jack.ref, jack.input.type) != jack.input.type for jack in jacks),
        disturbed,
    )


def _on_hat_pedals(
    pads: tuple[TriggerPad, ...], plugs: Iterable[Plug], types: Mapping[str, str]
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """The hats that are beside their pedal, and other pads that are beside one."""
    known = lookup.by_ids(pads)
    listed = [plug for plug in plugs if plug.pad in known and types[plug.input] == "hi-hat"]
    feet = {plug.input: plug.pad for plug in listed if known[plug.pad].sensor == "hi-hat"}
    following: list[str] = []
    disturbed: list[str] = []
    for plug in listed:
        pedal = feet.get(plug.input)
        if pedal is None or plug.pad == pedal:
            continue
        own = pedal_of(known[plug.pad], pads) == pedal
        (following if own else disturbed).append(plug.pad)
    return tuple(following), tuple(disturbed)


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


def alike(pad: str, jack: str) -> int:
    """How much the names of a drum and of an input are one: 3 the same, 1 a word of them, or 0."""
    one, other = _words(pad), _words(jack)
    if one == other:
        return 3
    shared = set(one) & set(other)
    if not shared:
        return 0
    return 2 if set(one) <= set(other) or set(other) <= set(one) else 1


def _words(name: str) -> tuple[str, ...]:
    return tuple(re.findall(r"[a-z]+|[0-9]+", name.lower()))


class _PluggingModel:
    """The Booleans: pad ``p`` in jack ``j`` set to type ``t``; jack ``j`` split for a model.

    What a jack can hold is said type by type, as sums: so the linear bound is close to the truth,
    where implications one by one would leave much to be tried out.
    """

    def __init__(
        self, pads: tuple[TriggerPad, ...], jacks: tuple[ModuleInput, ...], splitters: bool
    ) -> None:
        self.pads, self.jacks = pads, jacks
        self.cp = new_model()
        self.set: dict[tuple[int, str], Any] = {
            (j, input_type): self.cp.new_bool_var("")
            for j, jack in enumerate(jacks)
            for input_type in jack.input.types
        }
        self.x: dict[tuple[int, int, str], Any] = {}
        self.split: dict[tuple[int, str], Any] = {}
        self.follows: dict[tuple[int, int], Any] = {}
        self.disturbed: dict[tuple[int, int], Any] = {}
        for j, jack in enumerate(jacks):
            self.cp.add_exactly_one(self.set[j, input_type] for input_type in jack.input.types)
            for input_type in jack.input.types:
                if input_type == "hi-hat":
                    self._hold_hat(j)
                else:
                    self._hold(j, input_type, splitters)
        for p in range(len(pads)):
            self.cp.add_at_most_one(one for (q, _, _), one in self.x.items() if q == p)

    def _fitting(self, j: int, t: str) -> dict[int, Any]:
        """A Boolean for each pad that can be in a jack set to a type."""
        here = {}
        for p, pad in enumerate(self.pads):
            if surviving(pad, t):
                here[p] = self.cp.new_bool_var("")
        for p, one in here.items():
            self.x[p, j, t] = one
        return here

    def _hold_hat(self, j: int) -> None:
        """What a hi-hat’s jack holds: a pedal, and a pad, best the hat that goes with it."""
        here = self._fitting(j, "hi-hat")
        feet = {p: one for p, one in here.items() if self.pads[p].sensor == "hi-hat"}
        hands = {p: one for p, one in here.items() if p not in feet}
        self.cp.add(sum(feet.values()) <= self.set[j, "hi-hat"])
        self.cp.add(sum(hands.values()) <= self.set[j, "hi-hat"])
        for p, one in hands.items():
            own = pedal_of(self.pads[p], self.pads)
            mine = [foot for q, foot in feet.items() if self.pads[q].id == own]
            others = [foot for q, foot in feet.items() if self.pads[q].id != own]
            together, beside = self.cp.new_bool_var(""), self.cp.new_bool_var("")
            self.cp.add(together <= one)
            self.cp.add(together <= sum(mine))
            self.cp.add(beside >= one + sum(others) - 1)
            self.follows[p, j], self.disturbed[p, j] = together, beside

    def _hold(self, j: int, t: str, splitters: bool) -> None:
        """What a jack holds while it is set to a type: one pad, or two by a splitter."""
        here = self._fitting(j, t)
        models = self._models(here, t) if splitters else {}
        splits = {}
        for model in models:
            splits[model] = self.cp.new_bool_var("")
        all_splits = sum(splits.values())
        everything = sum(here.values())
        for model, same_model in models.items():
            self.split[j, model] = splits[model]
            mine = sum(here[p] for p in same_model)
            self.cp.add(mine >= 2 * splits[model])
            # Once a splitter for this model is in, no pad of another model has room beside it.
            rest = everything - mine
            self.cp.add(rest + 2 * splits[model] <= self.set[j, t] + all_splits)
        # One pad if the jack is set to this type, one more if it is split.
        self.cp.add(everything <= self.set[j, t] + all_splits)

    def _models(self, here: Iterable[int], t: str) -> dict[str, list[int]]:
        """Pads of one make and model of which two can share an input of a type."""
        models: dict[str, list[int]] = {}
        for p in here:
            if can_split(self.pads[p], self.pads[p], t):
                models.setdefault(self.pads[p].model, []).append(p)
        shared = {}
        for model, same_model in models.items():
            if len(same_model) > 1:
                shared[model] = same_model
        return shared

    def aims(self, now: dict[str, str]) -> tuple[Any, ...]:
        """What is made as large as can be, one after the other: pads that must be placed, weighted
        zones, the least trouble, and what is found most easily behind the module."""
        must = [x for (p, _, _), x in self.x.items() if self.pads[p].importance == "must"]
        return sum(must), self._worth(), self._trouble(now), self._order()

    def _worth(self) -> Any:
        zones: list[Any] = []
        for (p, _, t), one in self.x.items():
            pad = self.pads[p]
            zones.append(value(pad, surviving(pad, t)) * one)
        for (p, _), one in self.follows.items():
            zones.append(FOLLOWS * CARE[self.pads[p].importance] * one)
        for (p, _), one in self.disturbed.items():
            zones.append(-DISTURBS * CARE[self.pads[p].importance] * one)
        return sum(zones)

    def _trouble(self, now: dict[str, str]) -> Any:
        trouble: list[Any] = []
        for one in self.split.values():
            trouble.append(-SPLIT * one)
        for (p, j, _), one in self.x.items():
            if now.get(self.pads[p].id) == self.jacks[j].ref:
                trouble.append(MOVE * one)
        for (j, t), one in self.set.items():
            if t != self.jacks[j].input.type:
                trouble.append(-SET * one)
        return sum(trouble)

    def _order(self) -> Any:
        """Drums in inputs that bear their names; the rest in the order in which they are listed."""
        order: list[Any] = []
        for (p, j, _), one in self.x.items():
            liked = ALIKE * alike(self.pads[p].name, self.jacks[j].input.name)
            order.append((liked - abs(p - j)) * one)
        return sum(order)

    def begin_from(self, result: SearchResult) -> None:
        """Let the next search begin with what this one found."""
        self.cp.clear_hints()  # type: ignore[no-untyped-call]
        for one in (*self.x.values(), *self.set.values(), *self.split.values()):
            self.cp.add_hint(one, result.true(one))


class _Task(NamedTuple):
    """What is to be plugged, from where, and who hears how far it is."""

    pads: tuple[TriggerPad, ...]
    jacks: tuple[ModuleInput, ...]
    now: tuple[Plug, ...]
    splitters: bool
    progress: Progress | None

    def choices(self, best: Plugging) -> tuple[LeftOutPad, ...]:
        """For the first few pads left out: the best plugging that has them in."""
        left_out = []
        for ident in best.left_out[:MOST_CHOICES]:
            instead = self.solve(say("What else could be chosen"), 0.7, with_pad=ident)
            if ident in instead.kept:
                left_out.append(LeftOutPad(ident, instead, best.worth - instead.worth))
        return tuple(left_out)

    def solve(
        self, what: str, share: float, other_than: Plugging | None = None, with_pad: str = ""
    ) -> Plugging:
        """One aim after the other: each is proved in a moment, and all weighed into one are not."""
        model = _PluggingModel(self.pads, self.jacks, self.splitters)
        if other_than is not None:
            _forbid(model, other_than)
        if with_pad:
            _demand(model, with_pad)
        chosen: list[tuple[int, int, str]] = []
        gap = 0.0
        aims = model.aims({plug.pad: plug.input for plug in self.now})
        for aim in filter(lambda aim: not isinstance(aim, int), aims):  # no sum of nothing
            best = self._best(model, aim, what, share)
            if best is None:
                break
            gap = max(gap, best.gap)
            chosen = []
            for key, one in model.x.items():
                if best.true(one):
                    chosen.append(key)
            # What one aim has reached, the next must not give up.
            model.cp.add(aim >= best.aim)
            model.begin_from(best)
        return _read(model, chosen, self.now)._replace(gap=gap)

    def _best(
        self, model: _PluggingModel, aim: Any, what: str, share: float
    ) -> SearchResult | None:
        model.cp.clear_objective()  # type: ignore[no-untyped-call]
        model.cp.maximize(aim)
        return search(model.cp, SECONDS, self.progress, what, share)


def _demand(model: _PluggingModel, ident: str) -> None:
    """A pad has to be plugged in."""
    inside = []
    for (p, _, _), one in model.x.items():
        if model.pads[p].id == ident:
            inside.append(one)
    model.cp.add(sum(inside) >= 1)


def _forbid(model: _PluggingModel, known: Plugging) -> None:
    """Another set of surviving zones than the one that is known: other wires alone do not count."""
    literals = []
    for p, pad in enumerate(model.pads):
        same = []
        for (q, _, t), one in model.x.items():
            if q == p and surviving(pad, t) == known.kept.get(pad.id, ()):
                same.append(one)
        anywhere = []
        for (q, _, _), one in model.x.items():
            if q == p:
                anywhere.append(one)
        # 1 where the pad keeps the zones that it keeps in the known plugging, or is out as there.
        literals.append(sum(same) if known.kept.get(pad.id) else 1 - sum(anywhere))
    model.cp.add(sum(literals) <= len(model.pads) - 1)


def _read(
    model: _PluggingModel, chosen: Sequence[tuple[int, int, str]], now: tuple[Plug, ...]
) -> Plugging:
    """The plugging that a search chose: pads, jacks and types by their places."""
    pads_in: dict[int, list[int]] = {}
    types: dict[str, str] = {}
    for p, j, t in sorted(chosen):
        pads_in.setdefault(j, []).append(p)
        types[model.jacks[j].ref] = t
    plugs: dict[int, Plug] = {}
    for j, held in pads_in.items():
        ref = model.jacks[j].ref
        sides = _sides([model.pads[p].id for p in held], types[ref], ref, now)
        for p, side in zip(held, sides, strict=True):
            plugs[p] = Plug(pad=model.pads[p].id, input=ref, side=side)
    ordered = tuple(plugs[p] for p in sorted(plugs))
    return _weighed(model.pads, model.jacks, ordered, types, now)


def _sides(pads: list[str], kind: str, ref: str, now: tuple[Plug, ...]) -> tuple[Side, ...]:
    """The side of a splitter that each pad of a jack is on: where it is now, if it is."""
    if len(pads) < 2 or kind == "hi-hat":
        return ("",) * len(pads)  # type: ignore[return-value]
    there = {plug.pad: plug.side for plug in now if plug.input == ref}
    if there.get(pads[0]) == "ring" or there.get(pads[1]) in ("tip", ""):
        return ("ring", "tip")
    return ("tip", "ring")
