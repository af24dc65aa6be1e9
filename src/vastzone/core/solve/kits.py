"""How sounds are spread over kits: what is played together in one kit, the rest where it disturbs
least; the same sound on the same pad wherever it is.

Sounds that a scene plays belong together.  Every scene is to find all its sounds in one kit; a
sound that several kits need stands in each of them, on the same pad.
"""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from itertools import pairwise, product
from types import MappingProxyType
from typing import Any, NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.fills import kits_needed, pads_of
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.progress import Progress
from vastzone.core.say import say, say_many
from vastzone.core.solve.constraints import SearchResult, new_model, search

COPY = 10
"""What a copy of a sound costs; a kit that is used costs 1, a scene that is split more than all."""
TAKEN, CROSSED, MOVED = 1e6, 1e3, 1.0
"""What a taken pad, one that crossing hands pass, and another pad than now cost a sound."""
SECONDS = 5.0


class Kits(NamedTuple):
    """Which sounds stand in each kit on which pad, and in which kit each scene is played.

    ``pads`` maps a sound to its pad (0-based, in the order of the pads) in every kit that has it,
    but for those ``elsewhere`` in a kit where another sound is on that pad; ``split`` are scenes
    that need more than one kit; ``gap`` is how far from the best the kits may still be, as a share,
    where the search was stopped by its time limit.
    """

    kits: tuple[frozenset[str], ...]
    pads: dict[str, int]
    scenes: dict[str, int]
    split: tuple[str, ...]
    gap: float = 0.0
    elsewhere: Mapping[tuple[int, str], int] = MappingProxyType({})

    def pad(self, kit: int, sound: str) -> int:
        """The pad of a sound in a kit."""
        return self.elsewhere.get((kit, sound), self.pads[sound])

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
    wanted: dict[str, frozenset[str]],
    pads: int,
    most: int,
    layout: Layout = Layout(),
    progress: Progress | None = None,
) -> Kits:
    """Spread the sounds that scenes want over at most ``most`` kits of ``pads`` pads.

    First as few scenes as can be are split over kits, then as few copies of sounds are made; loud
    and risky sounds go where hands do not cross, and the others stay where they are.
    Raises EditError when the sounds do not fit at all, or when no kits were found in the time that
    a search may take, and Cancelled.
    """
    sounds = sorted(set().union(*wanted.values())) if wanted else []
    least = kits_needed(len(sounds), pads)
    if least > most:
        raise EditError(
            say(
                "{need} {kits} of {pads}, and there are {most}: leave {sounds} out, or use presets "
                "in the receiver.",
                need=say_many("{count} sound needs", "{count} sounds need", len(sounds)),
                kits=say_many("{count} kit", "{count} kits", least),
                pads=say_many("{count} pad", "{count} pads", pads),
                most=most,
                sounds=say_many("{count} sound", "{count} sounds", len(sounds) - most * pads),
            )
        )
    if not sounds:
        return Kits((), {}, {}, ())
    count = min(most, max(least, len(wanted)))
    spread = _Spread(wanted, sounds, pads, count)
    best = search(spread.model, SECONDS, progress, say("Spreading sounds over kits"), 0.2)
    if best is None:
        raise EditError(
            say(
                "No kits were found for {sounds} in {seconds:.0f} seconds: wish fewer sounds, or "
                "play them in fewer scenes.",
                sounds=say_many("{count} sound", "{count} sounds", len(sounds)),
                seconds=SECONDS,
            )
        )
    return spread.read(best, layout)


class _Spread:
    """The Booleans: a kit holds a sound; a scene is played whole in a kit; a kit is used."""

    def __init__(
        self, wanted: dict[str, frozenset[str]], sounds: list[str], pads: int, count: int
    ) -> None:
        self.wanted, self.sounds, self.pads, self.count = wanted, sounds, pads, count
        self.model = new_model()
        self.holds = self._booleans(sounds)
        self.plays = self._booleans(wanted)
        self.used = [self.model.new_bool_var("") for _ in range(count)]
        self._limit_kits()
        self._play_scenes()
        # No number of copies is worth a scene that is split.
        apart = COPY * (len(sounds) + 1) * (count + 1)
        self.model.maximize(
            apart * sum(self.plays.values()) - COPY * sum(self.holds.values()) - sum(self.used)
        )
        self._begin_with_a_kit_for_each_scene()

    def _booleans(self, names: Iterable[str]) -> dict[tuple[str, int], Any]:
        """One Boolean for each name and kit."""
        pairs = product(names, range(self.count))
        return {pair: self.model.new_bool_var("") for pair in pairs}

    def _limit_kits(self) -> None:
        """No kit holds more sounds than pads; every sound is in a kit; the first ones are used."""
        for kit in range(self.count):
            load = sum(self.holds[sound, kit] for sound in self.sounds)
            self.model.add(load <= self.pads * self.used[kit])
        # Kits are all alike: filling the first ones first spares trying their permutations.
        for earlier, later in pairwise(self.used):
            self.model.add_implication(later, earlier)
        for sound in self.sounds:
            self.model.add_bool_or(self.holds[sound, kit] for kit in range(self.count))

    def _play_scenes(self) -> None:
        """A scene is played in one kit at most, which holds all its sounds."""
        for scene in self.wanted:
            self.model.add_at_most_one(self.plays[scene, kit] for kit in range(self.count))
        for (scene, kit), plays in self.plays.items():
            for sound in self.wanted[scene]:
                self.model.add_implication(plays, self.holds[sound, kit])

    def _begin_with_a_kit_for_each_scene(self) -> None:
        """What is sure to do where there are kits enough: so that stopping early splits nothing."""
        if len(self.wanted) > self.count or any(len(w) > self.pads for w in self.wanted.values()):
            return
        for number, (scene, sounds) in enumerate(self.wanted.items()):
            for sound in self.sounds:
                self.model.add_hint(self.holds[sound, number], sound in sounds)
            for kit in range(self.count):
                self.model.add_hint(self.plays[scene, kit], kit == number)
        for number, used in enumerate(self.used):
            self.model.add_hint(used, number < len(self.wanted))

    def read(self, result: SearchResult, layout: Layout) -> Kits:
        """The kits that were found, each sound on its pad."""
        kits: list[set[str]] = []
        for _ in range(self.count):
            kits.append(set())
        for (sound, kit), holds in self.holds.items():
            if result.true(holds):
                kits[kit].add(sound)
        filled = tuple(frozenset(kit) for kit in kits if kit)
        scenes = self._played_in(result, [number for number, kit in enumerate(kits) if kit])
        split = tuple(scene for scene in self.wanted if scene not in scenes)
        places = _places(filled, self.pads, layout)
        return Kits(
            filled, places, scenes, split, result.gap, _elsewhere(filled, places, self.pads)
        )

    def _played_in(self, result: SearchResult, filled: list[int]) -> dict[str, int]:
        """The kit that each scene is played in, counted among those that hold something."""
        scenes: dict[str, int] = {}
        for (scene, kit), plays in self.plays.items():
            if result.true(plays):
                scenes[scene] = filled.index(kit)
        return scenes


def _places(kits: Iterable[frozenset[str]], pads: int, layout: Layout) -> dict[str, int]:
    """One pad for each sound, free in all its kits, at the least cost.

    Sounds of several kits are placed first, all on different pads; then each kit's own sounds.
    A sound for which no pad is free in all its kits takes one that is free in most.
    """
    in_turn = tuple(kits)
    often = Counter(s for kit in in_turn for s in kit)
    places: dict[str, int] = {}
    shared = sorted(s for s, count in often.items() if count > 1)
    for group in (shared, *(sorted(s for s in kit if often[s] == 1) for kit in in_turn)):
        # More sounds than pads are placed a padful at a time: each needs a pad of its own.
        for start in range(0, len(group), pads):
            _assign(group[start : start + pads], in_turn, pads, layout, places)
    return places


def _elsewhere(
    kits: Iterable[frozenset[str]], places: dict[str, int], pads: int
) -> dict[tuple[int, str], int]:
    """Other pads in the kits in which two sounds would be on one: no sound is lost."""
    moved: dict[tuple[int, str], int] = {}
    for number, kit in enumerate(kits):
        taken: set[int] = set()
        waiting = []
        for sound in sorted(kit):
            if places[sound] in taken:
                waiting.append(sound)
            taken.add(places[sound])
        free = [pad for pad in range(pads) if pad not in taken]
        for sound, pad in zip(waiting, free, strict=False):
            moved[number, sound] = pad
    return moved


def _assign(
    group: list[str],
    kits: tuple[frozenset[str], ...],
    pads: int,
    layout: Layout,
    places: dict[str, int],
) -> None:
    """The cheapest different pads for some sounds (the assignment problem, solved exactly)."""
    import numpy as np
    from scipy.optimize import linear_sum_assignment

    if not group:
        return
    cost = np.zeros((len(group), pads))
    for row, sound in enumerate(group):
        mine = []
        for kit in kits:
            if sound in kit:
                mine.append(kit)
        for pad in range(pads):
            taken = sum(any(places.get(s) == pad for s in kit) for kit in mine)
            crossed = sound in layout.risky and pad in layout.crossing
            moved = layout.now.get(sound) != pad
            # Among pads that are equally good the lower one wins.
            lower_first = 1e-3 * pad
            cost[row, pad] = TAKEN * taken + CROSSED * crossed + MOVED * moved + lower_first
    for row, pad in zip(*linear_sum_assignment(cost), strict=True):
        places[group[row]] = int(pad)


def presses(kits: Kits, order: list[str]) -> int:
    """How many changes of kit a show costs whose scenes come in this order."""
    kits_in_turn = []
    for scene in order:
        if scene in kits.scenes:
            kits_in_turn.append(kits.scenes[scene])
    changes = sum(kit != following for kit, following in pairwise(kits_in_turn))
    return changes + sum(scene in kits.split for scene in order)


def own_pads(owner: Device) -> tuple[Control, ...]:
    """The pads on a device itself; those of a module that are plugged in where it has no others."""
    pads = pads_of(owner)
    own = tuple(pad for pad in pads if pad.input is None)
    return own or pads


def wished_sounds(plan: Plan, device: str) -> dict[str, frozenset[str]]:
    """What the pads of a device are wished to play in each scene: «part/sound» or «part/note»."""
    everywhere = tuple(scene.id for scene in plan.scenes) or ("",)
    by_scene: dict[str, set[str]] = {}
    for name in everywhere:
        by_scene[name] = set()
    for wish, _, name in _wished(plan, device):
        for scene in wish.scenes or everywhere:
            by_scene[scene].add(name)
    return {scene: frozenset(sounds) for scene, sounds in by_scene.items() if sounds}


def _wished(plan: Plan, device: str) -> Iterator[tuple[Wish, int, str]]:
    """Each wish for a sound of a pad of a device: the wish, the place of its source, the sound."""
    pads = set()
    for pad in own_pads(lookup.device(plan, device)):
        pads.add(ref_to(device, pad.id))
    for wish in plan.wishes:
        for place, source in enumerate(wish.sources):
            if wish.plays and source in pads:
                yield wish, place, f"{wish.plays}/{wish.sound(place) or wish.note}"


def layout_of(plan: Plan, device: str, only: tuple[Control, ...] = ()) -> Layout:
    """Where the wished sounds are now, which pads lie where hands cross, what is risky.

    Counted are the device’s own pads, or ``only`` some of them.  Hands cross in the middle columns
    of a face at least three wide.  Risky are sounds marked loud and loops that go on once they are
    struck.
    """
    pads = only or own_pads(lookup.device(plan, device))
    where = {}
    for number, pad in enumerate(pads):
        where[ref_to(device, pad.id)] = number
    now: dict[str, int] = {}
    risky: set[str] = set()
    for wish, place, name in _wished(plan, device):
        at = where.get(wish.sources[place])
        if at is not None:
            now.setdefault(name, at)
        if _is_risky(plan, wish.plays or "", wish.sound(place)):
            risky.add(name)
    return Layout(now, _middle(pads), frozenset(risky))


def _middle(pads: tuple[Control, ...]) -> frozenset[int]:
    """The pads in the middle columns of a face, by their places."""
    wide = max((pad.column for pad in pads), default=0) + 1
    if wide < 3:
        return frozenset()
    columns = ((wide - 1) // 2, wide // 2)
    numbers = set()
    for number, pad in enumerate(pads):
        if pad.column in columns:
            numbers.add(number)
    return frozenset(numbers)


def _is_risky(plan: Plan, ref: str, sound: str) -> bool:
    owner = lookup.device(plan, device_of(ref))
    part = lookup.part(owner, thing_of(ref))
    loud = set()
    for kit in owner.kits:
        if kit.id == part.kit:
            for s in kit.sounds:
                if s.loud:
                    loud.add(s.id)
    return part.loud or part.trigger == "toggle" or sound in loud
