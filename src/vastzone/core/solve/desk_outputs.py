"""Giving out outputs: which sound on which, so that as many wishes as can be are kept.

Exact, by CP-SAT.  What is aimed at, one after the other: the strength of wishes given up, then
sounds of different kind and level on one output, then sounds that move from where they were put.
Where all that is equal, jacks follow the order of the sounds.
"""

from collections.abc import Collection, Hashable, Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from vastzone.core.engine.audio import Arrival, arrivals
from vastzone.core.plan.edits.audio import prune, set_outputs
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.audio import OutputWish
from vastzone.core.plan.model.bodies import AudioOutput
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.copies_of_kits import CopiedSound, copied_sounds
from vastzone.core.plan.queries.sounds import (
    SoundUnit,
    covers,
    output_choices,
    output_words,
    routes_sounds,
    sounds_of,
)
from vastzone.core.plan.refs import owner_place, setting_in
from vastzone.core.progress import Progress
from vastzone.core.say import say, say_many
from vastzone.core.solve.constraints import SearchResult, new_model, search
from vastzone.core.solve.holds import locked
from vastzone.core.text import listed

SECONDS, LESSER_SECONDS, TIDYING = 4.0, 0.8, 0.2
"""For the wishes, for what is mixed and moved, and for what is only neater."""
STREAMS = frozenset(("headphones",))
"""Outputs that lead to ears, and are not given out."""


class Bus(NamedTuple):
    """What goes to an output as one: sounds that no wish tells apart, of one kind.

    To split them would keep no wish more and mix no output less.  A device that cannot split a kit
    has all of it here.  Their outputs are set by ``refs``.  ``now`` is the output that they were
    put on, empty where nobody chose one yet; ``locked`` says that they stay there.
    """

    units: tuple[SoundUnit, ...]
    refs: tuple[str, ...]
    now: str
    locked: bool


class GivenUp(NamedTuple):
    """A wish that cannot be kept along with the others, and how much it matters."""

    wish: OutputWish
    why: str


class GivenOut(NamedTuple):
    """Outputs of one device given out.

    ``choices`` are outputs by sound or part; ``copies`` says of sounds that stand in several copies
    of a kit which part keeps them.  ``moved`` go elsewhere than now.  ``gap`` is a share, 0 where
    it is proved that nothing is better.
    """

    device: str
    choices: Mapping[str, str]
    copies: Mapping[str, str]
    given_up: tuple[GivenUp, ...]
    moved: int
    gap: float

    @property
    def cost(self) -> int:
        """The strength of all that was given up."""
        return sum(one.wish.strength for one in self.given_up)

    @property
    def is_best(self) -> bool:
        """Whether it is proved that nothing is better."""
        return self.gap == 0.0


class _Problem(NamedTuple):
    device: Device
    buses: tuple[Bus, ...]
    jacks: tuple[str, ...]
    choices: tuple[str, ...]
    wishes: tuple[OutputWish, ...]
    copied: tuple[CopiedSound, ...]
    reached: Mapping[str, tuple[Arrival, ...]]


def give_out(plan: Plan, ident: str, progress: Progress | None = None) -> GivenOut:
    """The best outputs for the sounds of a device.  Raises EditError where it is gone."""
    return _given_out(plan, lookup.device(plan, ident), progress)


def one_more(plan: Plan, ident: str, found: GivenOut) -> tuple[OutputWish, ...]:
    """Which of the wishes that were given up one more mono output would keep."""
    if not found.given_up:
        return ()
    device = lookup.device(plan, ident)
    free = lookup.free_id(lookup.ids_of(device.outputs), "more")
    more = AudioOutput(id=free, name=say("One more output"))
    wider = changed(device, outputs=(*device.outputs, more))
    again = {one.wish.id for one in _given_out(plan, wider, None).given_up}
    return tuple(one.wish for one in found.given_up if one.wish.id not in again)


def edit_of(plan: Plan, found: GivenOut) -> Edit:
    """What was found, as one step."""
    device = lookup.device(plan, found.device)
    lost: dict[str, set[str]] = {}
    for copied in copied_sounds(device):
        keeper = found.copies.get(copied.sound)
        for part, kit in copied.hosts.items():
            if keeper is not None and part != keeper:
                lost.setdefault(kit, set()).add(copied.sound)

    def apply(before: Plan) -> Plan:
        after = set_outputs(found.choices, "").change(before)
        if lost:
            gone = {kit: frozenset(sounds) for kit, sounds in lost.items()}
            after = prune(found.device, gone).change(after)
        return after

    return Edit(say("Give out the outputs of {device}", device=device.name), apply)


def _given_out(plan: Plan, device: Device, progress: Progress | None) -> GivenOut:
    problem = _problem(plan, device)
    if not problem.buses or not problem.choices:
        return GivenOut(device.id, {}, {}, (), 0, 0.0)
    return _searched(_Model(problem), progress)


def _searched(model: "_Model", progress: Progress | None) -> GivenOut:
    """One aim after the other, each held while the next is sought."""
    gap, best = 0.0, None
    for place, (aim, must_prove) in enumerate(model.aims()):
        model.model.minimize(aim)
        if best is not None:
            model.begin_from(best)
        seconds = LESSER_SECONDS if place else SECONDS
        if not must_prove:
            seconds = TIDYING
        found = search(model.model, seconds, progress, say("Giving out outputs"), 0.2 + place / 5)
        if found is None:
            break
        best = found
        if must_prove:
            gap = max(gap, found.gap)
        model.model.add(aim <= found.aim)
    if best is None:
        return GivenOut(model.problem.device.id, {}, {}, (), 0, 1.0)
    return model.read(best, gap)


def _problem(plan: Plan, device: Device) -> _Problem:
    outputs = [output for output in device.outputs if output.kind not in STREAMS]
    jacks = tuple(output.id for output in outputs)
    choices = []
    for choice in output_choices(device):
        if set(choice.split("+")) <= set(jacks):
            choices.append(choice)
    units = sounds_of(device)
    wishes = []
    for wish in plan.output_wishes:
        if any(covers(ref, unit) for ref in wish.of for unit in units):
            wishes.append(wish)
    reached = {choice: arrivals(plan, device, choice) for choice in choices}
    copied = copied_sounds(device)
    buses = _merged(_buses(plan, device, units), wishes, {one.sound for one in copied})
    return _Problem(device, buses, jacks, tuple(choices), tuple(wishes), copied, reached)


def _buses(plan: Plan, device: Device, units: Sequence[SoundUnit]) -> list[Bus]:
    """What can be put on an output by itself."""
    locks = locked(plan)
    alone = routes_sounds(device)
    gathered: dict[str, list[SoundUnit]] = {}
    for unit in units:
        key = unit.ref if alone or not unit.sound else unit.ref.partition("/")[0]
        gathered.setdefault(key, []).append(unit)
    first = device.outputs[0].id if device.outputs else ""
    buses = []
    for ref, together in gathered.items():
        unit = together[0]
        place = owner_place(device.id, "part", unit.part.id)
        own = owner_place(device.id, "route", f"{unit.part.id}.{unit.sound}")
        held = {setting_in(place, "output"), setting_in(own, "output")} & locks
        now = unit.output or (first if held else "")
        buses.append(Bus(tuple(together), (ref,), now, bool(held)))
    return buses


def _merged(
    buses: Sequence[Bus], wishes: Sequence[OutputWish], copied: Collection[str]
) -> tuple[Bus, ...]:
    """Buses that every wish treats alike, of one kind, level and output, made into one."""
    alike: dict[Hashable, Bus] = {}
    for place, bus in enumerate(buses):
        in_copies = any(unit.sound in copied for unit in bus.units)
        key = (place,) if in_copies else _likeness(bus, wishes)
        before = alike.get(key)
        if before is not None:
            bus = before._replace(units=(*before.units, *bus.units), refs=(*before.refs, *bus.refs))
        alike[key] = bus
    return tuple(alike.values())


def _likeness(bus: Bus, wishes: Sequence[OutputWish]) -> Hashable:
    """What must be the same for two buses to be put together."""
    named = []
    for wish in wishes:
        for refs in (wish.of, wish.apart):
            named.append(any(covers(ref, unit) for ref in refs for unit in bus.units))
    kinds = frozenset((family(unit), unit.level // 32) for unit in bus.units)
    return tuple(named), kinds, bus.now, bus.locked


class _Model:
    """The problem as a constraint model: which bus takes which choice."""

    def __init__(self, problem: _Problem) -> None:
        self.problem = problem
        self.model = new_model()
        self.takes: list[dict[str, Any]] = []
        self.on: list[dict[str, Any]] = []
        self.lost: dict[str, Any] = {}
        self._choose()
        self.keeps = self._copies()
        for wish in problem.wishes:
            self.lost[wish.id] = self.model.new_bool_var(f"lost {wish.id}")
            self._wish(wish)

    def begin_from(self, found: SearchResult) -> None:
        """Begin the next search from what was found."""
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for takes in self.takes:
            for var in takes.values():
                self.model.add_hint(var, found.true(var))

    def _choose(self) -> None:
        """Each bus takes one choice; two neighbouring jacks are a pair or are used singly."""
        model, problem = self.model, self.problem
        pairs = {choice: model.new_bool_var(choice) for choice in problem.choices if "+" in choice}
        held = {jack for bus in problem.buses if bus.locked for jack in bus.now.split("+")}
        for bus in problem.buses:
            takes = {choice: model.new_bool_var("") for choice in problem.choices}
            model.add_exactly_one(takes.values())
            if bus.locked and bus.now in takes:
                model.add(takes[bus.now] == 1)
            self.takes.append(takes)
            on: dict[str, Any] = {}
            for jack in problem.jacks:
                on[jack] = sum(var for choice, var in takes.items() if jack in choice.split("+"))
            self.on.append(on)
            for pair, as_pair in pairs.items():
                if held & set(pair.split("+")):
                    continue
                model.add_implication(takes[pair], as_pair)
                for jack in pair.split("+"):
                    if jack in takes:
                        model.add_implication(takes[jack], as_pair.negated())

    def _copies(self) -> dict[str, dict[str, Any]]:
        """Of sounds in several copies of a kit: which part keeps each."""
        keeps = {}
        for copied in self.problem.copied:
            hosts = {part: self.model.new_bool_var("") for part in copied.hosts}
            self.model.add_exactly_one(hosts.values())
            keeps[copied.sound] = hosts
        return keeps

    def _sounds_on(self, unit: SoundUnit, bus: int, jack: str) -> Any:
        """Whether a unit is heard on a jack: its bus is there, and it is not in another copy."""
        hosts = self.keeps.get(unit.sound, {})
        keeper = hosts.get(unit.part.id)
        if keeper is None:
            return self.on[bus][jack]
        both = self.model.new_bool_var("")
        self.model.add(both >= self.on[bus][jack] + keeper - 1)
        self.model.add(both <= self.on[bus][jack])
        self.model.add(both <= keeper)
        return both

    def _named(self, refs: Sequence[str]) -> list[tuple[int, SoundUnit]]:
        found = []
        for place, bus in enumerate(self.problem.buses):
            for unit in bus.units:
                if any(covers(ref, unit) for ref in refs):
                    found.append((place, unit))
        return found

    def _wish(self, wish: OutputWish) -> None:
        mine = self._named(wish.of)
        if wish.want == "stereo":
            self._in_stereo(mine, self.lost[wish.id])
        elif wish.want == "channel":
            self._on_channel(wish, mine)
        else:
            others = self._named(wish.apart)
            if wish.want == "alone":
                names = {unit.ref for _, unit in mine}
                every = self._named(
                    [bus.units[0].ref.partition("/")[0] for bus in self.problem.buses]
                )
                others = [one for one in every if one[1].ref not in names]
            self._away(mine, others, self.lost[wish.id])

    def _away(
        self,
        mine: Sequence[tuple[int, SoundUnit]],
        others: Sequence[tuple[int, SoundUnit]],
        lost: Any,
    ) -> None:
        """No jack is used by some sounds and by others as well, or the wish is lost."""
        for jack in self.problem.jacks:
            used = self.model.new_bool_var("")
            for bus, unit in mine:
                self.model.add(used >= self._sounds_on(unit, bus, jack))
            seen = set()
            for bus, unit in others:
                if (bus, unit.sound in self.keeps) in seen and unit.sound not in self.keeps:
                    continue
                seen.add((bus, unit.sound in self.keeps))
                self.model.add(used + self._sounds_on(unit, bus, jack) <= 1 + lost)

    def _in_stereo(self, mine: Sequence[tuple[int, SoundUnit]], lost: Any) -> None:
        mono = {output.id for output in self.problem.device.outputs if output.kind == "mono"}
        for bus in dict.fromkeys(bus for bus, _ in mine):
            for choice, takes in self.takes[bus].items():
                if choice in mono:
                    self.model.add(takes <= lost)

    def _on_channel(self, wish: OutputWish, mine: Sequence[tuple[int, SoundUnit]]) -> None:
        """Only choices that arrive on the channel, and begin there, serve."""
        for bus in dict.fromkeys(bus for bus, _ in mine):
            for choice, takes in self.takes[bus].items():
                if not begins_on(self.problem.reached[choice], wish.channel or ""):
                    self.model.add(takes <= self.lost[wish.id])

    def aims(self) -> Iterator[tuple[Any, bool]]:
        """What is made as small as can be, one after the other; whether it has to be proved."""
        problem = self.problem
        yield sum(self.lost[wish.id] * wish.strength for wish in problem.wishes), True
        yield sum(self._mixed()), True
        moved, order = [], []
        weights = self._weights()
        for place, (bus, takes) in enumerate(zip(problem.buses, self.takes, strict=True)):
            if bus.now in takes:
                moved.append((1 - takes[bus.now]) * len(bus.refs))
            for rank, var in enumerate(takes.values()):
                order.append(var * rank * weights[place])
        for copied in problem.copied:
            first = next(iter(copied.hosts))
            order.append(1 - self.keeps[copied.sound][first])
        yield sum(moved), True
        yield sum(order), False

    def _weights(self) -> list[int]:
        """How much each bus wants the first jacks: what is alone before what shares."""
        weights = [len(self.problem.buses) - place for place in range(len(self.problem.buses))]
        for wish in self.problem.wishes:
            if wish.want == "alone":
                for place, _ in self._named(wish.of):
                    weights[place] += 1000 * wish.strength
        return weights

    def _mixed(self) -> list[Any]:
        """How many kinds too many are on each jack: what shares one is near in kind and level."""
        mixed = []
        kinds: dict[tuple[str, int], list[int]] = {}
        for place, bus in enumerate(self.problem.buses):
            for kind in {(family(unit), unit.level // 32) for unit in bus.units}:
                kinds.setdefault(kind, []).append(place)
        for jack in self.problem.jacks:
            there = []
            for places in kinds.values():
                is_there = self.model.new_bool_var("")
                for place in places:
                    self.model.add(is_there >= self.on[place][jack])
                there.append(is_there)
            over = self.model.new_int_var(0, len(kinds), "")
            self.model.add(over >= sum(there) - 1)
            mixed.append(over)
        return mixed

    def read(self, found: SearchResult, gap: float) -> GivenOut:
        """What the search found."""
        problem = self.problem
        choices, moved = {}, 0
        for bus, takes in zip(problem.buses, self.takes, strict=True):
            for choice, var in takes.items():
                if found.true(var):
                    choices.update(dict.fromkeys(bus.refs, choice))
                    moved += len(bus.refs) if bus.now and choice != bus.now else 0
        copies = {}
        for sound, hosts in self.keeps.items():
            for part, var in hosts.items():
                if found.true(var):
                    copies[sound] = part
        given_up = []
        for wish in problem.wishes:
            if found.true(self.lost[wish.id]):
                given_up.append(GivenUp(wish, _why(problem, wish)))
        return GivenOut(problem.device.id, choices, copies, tuple(given_up), moved, gap)


def begins_on(reached: Sequence[Arrival], channel: str) -> bool:
    """Whether a sound arrives on a channel with its left or only side, and not elsewhere too."""
    first = [one for one in reached if one.carries in ("mono", "left")]
    return bool(first) and all(one.channel == channel for one in first)


def family(unit: SoundUnit) -> str:
    """What is balanced alike: drums and cymbals together, each other kind by itself."""
    drums = ("kick", "snare", "hat", "drums", "cymbals")
    return "drums" if unit.kind in drums else unit.kind


def _why(problem: _Problem, wish: OutputWish) -> str:
    """Why a wish was given up."""
    name = problem.device.name
    has = say(
        "{name} has {outputs}",
        name=name,
        outputs=say_many("{count} output", "{count} outputs", len(problem.jacks)),
    )
    words = {
        "alone": say("{wish}: {has}, and what matters more takes them.", wish=wish.name, has=has),
        "apart": say("{wish}: {has}, and what matters more takes them.", wish=wish.name, has=has),
        "stereo": say(
            "{wish}: no two outputs of {name} are left for a pair.", wish=wish.name, name=name
        ),
        "channel": say(
            "{wish}: no output of {name} that is free leads to that channel.",
            wish=wish.name,
            name=name,
        ),
    }
    return words[wish.want]


def choices_in_words(device: Device, found: GivenOut) -> list[tuple[str, str]]:
    """What stands on each output: «Output 1», «Kick»."""
    names: dict[str, list[str]] = {}
    units = sounds_of(device)
    for ref, choice in found.choices.items():
        for unit in units:
            if covers(ref, unit) and found.copies.get(unit.sound, unit.part.id) == unit.part.id:
                names.setdefault(choice, []).append(unit.name)
    rows = []
    for choice in output_choices(device):
        if choice in names:
            rows.append((output_words(device, choice), listed(names[choice], 6)))
    return rows
