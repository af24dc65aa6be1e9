"""All numbers worked out together: what comes out, and how it is put into the plan."""

from collections.abc import Callable
from typing import NamedTuple

import msgspec

from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields.dials import (
    Dial,
    device_dials,
    dials,
    reading,
    records,
    shares_settings,
)
from vastzone.core.plan.fields.values import MISSING, Stored
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import SettingRecord
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import owner_place, place_of_setting, ref_to, setting_in
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.build import Builder, range_needed, wide_range
from vastzone.core.solve.guard import Silence, silent_words
from vastzone.core.solve.learning import with_learned_messages
from vastzone.core.solve.outputs import choose_ways
from vastzone.core.solve.pitch import choose_shifts
from vastzone.core.solve.problem import Groups, Problem, contract
from vastzone.core.solve.reasons import Why, meanings_crossed
from vastzone.core.solve.search import Answer, solve
from vastzone.core.solve.shaped import Binding, Bond, Obstacle, Shaped
from vastzone.core.solve.standing import place_of_end, place_of_sender
from vastzone.core.solve.structure import shape
from vastzone.core.solve.unneeded import without_unneeded

PIECE = 1000
"""So many settings are looked at between two looks whether to go on."""


class Number(NamedTuple):
    """One number worked out: before and after (−1 for none; None where it was not there)."""

    ref: str
    before: Stored | None
    after: Stored
    reason: str


class Solution(NamedTuple):
    """A plan in which every wish holds and nothing else sounds, and what changes for it.

    ``numbers`` are those that change; ``others`` are changes that are not numbers, in words;
    ``gap`` is 0 when the answer is proved to be the best.  ``silences`` are what plays today
    without a wish and would fall silent: to be told first.
    """

    plan: Plan
    numbers: tuple[Number, ...]
    others: tuple[str, ...]
    gap: float
    silences: tuple[Silence, ...] = ()

    @property
    def warnings(self) -> tuple[str, ...]:
        """What would fall silent, in sentences."""
        return silent_words(self.plan, self.silences)

    def edit(self) -> Edit:
        """All of it as one undo step."""
        return Edit(say("Work out numbers"), lambda _: self.plan)


class Attempt(NamedTuple):
    """How far the work came: an answer, or the obstacles that stand in its way."""

    shaped: Shaped
    problem: Problem | None
    groups: Groups | None
    answer: Answer | None
    needed: dict[str, set[int]]
    obstacles: tuple[Obstacle, ...]


def attempt(
    plan: Plan,
    progress: Progress | None = None,
    only_feasible: bool = False,
    exempt: frozenset[str] = frozenset(),
    memory: Memory = NO_MEMORY,
    bond_of: Callable[[Binding], Bond] = lambda _: "free",
) -> Attempt:
    """Try to work the numbers out.  Raises Cancelled when ``progress`` says so.

    ``bond_of`` says of each sound that plays without a wish how it is bound.  Receivers learn what
    is sent already; where that cannot be, what they went by before.
    """
    tried = _attempt(plan, progress, only_feasible, exempt, memory, bond_of, True)
    unsolved = tried.answer is None and not (tried.problem is not None and tried.problem.soft)
    if unsolved and with_learned_messages(plan) is not plan:
        again = _attempt(plan, progress, only_feasible, exempt, memory, bond_of, False)
        return tried if again.answer is None else again
    return tried


def _attempt(
    plan: Plan,
    progress: Progress | None,
    only_feasible: bool,
    exempt: frozenset[str],
    memory: Memory,
    bond_of: Callable[[Binding], Bond],
    learns: bool,
) -> Attempt:
    with_wishes = shape(plan, exempt, memory, bond_of, progress, learns)
    shaped = choose_shifts(choose_ways(with_wishes, progress), progress)
    if shaped.obstacles:
        return Attempt(shaped, None, None, None, {}, shaped.obstacles)
    _read(plan, progress)
    _read(shaped.plan, progress)
    builder = Builder(plan, shaped, exempt, memory)
    problem = builder.build(progress)
    if builder.obstacles:
        return Attempt(shaped, problem, None, None, {}, tuple(builder.obstacles))
    groups = contract(problem)
    answer = None
    if groups.clash is None and not problem.soft:
        answer = solve(problem, groups, plan.schools, progress, only_feasible)
    return Attempt(shaped, problem, groups, answer, builder.needed, ())


def solution(plan: Plan, tried: Attempt, progress: Progress | None = None) -> Solution:
    """Put the values of a successful attempt into the plan.  Raises Cancelled."""
    assert tried.problem is not None and tried.answer is not None and tried.groups is not None
    values: dict[str, int] = {}
    for variable, value in zip(tried.problem.variables, tried.answer.values, strict=True):
        for ref in variable.refs:
            if not (variable.family != "channel" and value == variable.value):
                values[ref] = value
    values |= _ranges(tried)
    _read(tried.shaped.plan, progress)
    values = _everywhere(tried.shaped.plan, values)
    changes = _kept(tried.shaped.plan, values)
    worked = set_numbers(changes, say("Work out numbers")).change(tried.shaped.plan)
    solved = without_unneeded(plan, worked)
    _read(solved, progress)
    numbers = _numbers(plan, solved, tried, progress)
    noted = _noted(plan, solved, numbers, _standing_places(tried.shaped))
    others = (*_others(plan, solved), *meanings_crossed(solved, (n.ref for n in numbers)))
    return Solution(noted, numbers, others, tried.answer.gap)


def _read(plan: Plan, progress: Progress | None) -> None:
    for _ in reading(plan):
        go_on(progress, say("Putting the numbers in place"), 0.9)


def _kept(plan: Plan, values: dict[str, int]) -> dict[str, int]:
    now = dials(plan)
    changed = {}
    for ref, value in values.items():
        if now[ref].value != value:
            changed[ref] = value
    return changed


def _ranges(tried: Attempt) -> dict[str, int]:
    """The ranges of parts: lengthened to what wishes need, or narrowed to just that."""
    values = {}
    for owner, part in lookup.parts(tried.shaped.plan):
        ref = ref_to(owner.id, part.id)
        needed = range_needed(owner, ref, tried.needed)
        if not needed:
            continue
        low, high = wide_range(part.low, part.high, needed)
        if tried.answer is not None and ref in tried.answer.tight:
            low, high = min(needed), max(needed)
        place = owner_place(owner.id, "part", part.id)
        values[setting_in(place, "low")] = low
        values[setting_in(place, "high")] = high
    return values


def _everywhere(plan: Plan, values: dict[str, int]) -> dict[str, int]:
    """Numbers with all others that are one with them in their device."""
    sharing = {device.id for device in plan.devices if shares_settings(device)}
    slots: dict[tuple[str, ...], int] = {}
    there = dials(plan)
    for ref, value in values.items():
        if there[ref].owner.device.id in sharing:
            slots[there[ref].slot] = value
    spread = dict(values)
    for device in plan.devices:
        if device.id in sharing:
            for dial in device_dials(device):
                if dial.slot in slots:
                    spread[dial.ref] = slots[dial.slot]
    return spread


def _numbers(old: Plan, new: Plan, tried: Attempt, progress: Progress | None) -> tuple[Number, ...]:
    assert tried.problem is not None and tried.groups is not None
    before, numbers = dials(old), []
    assert tried.answer is not None
    why = Why(new, tried.problem, tried.groups)
    for place, (ref, dial) in enumerate(dials(new).items()):
        if place % PIECE == 0:
            go_on(progress, say("Why each is what it is"), 0.92)
        was = before[ref].value if ref in before else None
        if was != dial.value and not (was is None and _as_new(dial)):
            numbers.append(Number(ref, was, dial.value, why.reason(dial)))
    return tuple(numbers)


def _as_new(dial: Dial) -> bool:
    """Whether something new shows this anyway."""
    return dial.is_usual or dial.value in (0, MISSING)


def _standing_places(shaped: Shaped) -> frozenset[str]:
    """What the settings are named after that somebody set, and that play what nobody wished."""
    places: set[str] = set()
    for binding in shaped.bindings:
        if binding.bond == "kept" and binding.sender_set:
            places.add(place_of_sender(shaped.plan, binding))
        if binding.bond == "kept" and binding.end_set:
            places.add(place_of_end(binding.wish))
    return frozenset(places)


def _noted(old: Plan, new: Plan, numbers: tuple[Number, ...], standing: frozenset[str]) -> Plan:
    """The records of what changes: worked out, with the reason.

    What somebody set by hand and what only had to follow stays his.
    """
    now = dials(new)
    by_ref: dict[str, SettingRecord] = {}
    for ref, setting in records(old).items():
        if ref in now:
            by_ref[ref] = setting
    for number in numbers:
        record = noted(number.ref, number.reason)
        if place_of_setting(number.ref) in standing:
            record = changed(record, hold="followed")
        by_ref[number.ref] = record
    return msgspec.structs.replace(new, settings=tuple(by_ref[r] for r in sorted(by_ref)))


def noted(ref: str, why: str) -> SettingRecord:
    """The record of a number that was just worked out."""
    return SettingRecord(ref=ref, hold="worked out", why=why)


def _others(old: Plan, new: Plan) -> list[str]:
    """Changes that are not numbers: programs for scenes, new zones."""
    told = []
    for device in new.devices:
        known = {}
        for program in lookup.device(old, device.id).programs:
            known[program.number] = program
        for program in device.programs:
            shown = program_words(device, program.number)
            before = known.get(program.number)
            if before is None:
                told.append(
                    say(
                        "{device}: new program {shown}, {program}.",
                        device=device.name,
                        shown=shown,
                        program=program.name,
                    )
                )
            else:
                new_zones = _new_zones(before, program)
                for name in new_zones:
                    told.append(
                        say(
                            "{device}, program {shown}: new zone {name}.",
                            device=device.name,
                            shown=shown,
                            name=name,
                        )
                    )
    for scene in new.scenes:
        if lookup.scene(old, scene.id).programs != scene.programs:
            told.append(say("{scene}: selects other programs.", scene=scene.name))
    return told


def _new_zones(old: Program, new: Program) -> list[str]:
    known = lookup.ids_of(old.zones)
    names = []
    for zone in new.zones:
        if zone.id not in known:
            names.append(zone.name)
    return names
