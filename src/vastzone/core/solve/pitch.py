"""Third step: transpositions, so that every key sounds at the pitch that was wished.

A zone's shift and its part's transposition must add up to the wish.  These equations tie zones
and parts together in groups with one freedom each; it is used to keep as many numbers as can be.
"""

from collections.abc import Iterable
from functools import cache
from operator import itemgetter
from typing import NamedTuple

from vastzone.core.plan.edits.devices import set_part
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.fields.dials import scope_of
from vastzone.core.plan.model.controls import Zone
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.limits import answered_notes
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.refs import owner_place, read_ref, read_setting_ref, setting_in
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.holds import Holds, held
from vastzone.core.solve.senders import receivers
from vastzone.core.solve.shaped import Binding, Obstacle, Shaped
from vastzone.core.text import ALL, listed

Node = tuple[str, ...]
"""A zone («zone», device, program, zone), a part («part», device, part), all parts of a device that
transposes them together («parts», device), or a part on a kit («kit», device, part), which sounds
every note as it comes."""
FARTHEST = 60
"""How many semitones from where they are numbers are tried, either way."""
OCTAVES = range(-5, 6)
IN_THE_WAY = ("transpose", "octave", "low", "high")
"""The fields that may keep a pitch from being reached where they are locked."""


class Shift(NamedTuple):
    """By how many semitones a zone or part is shifted now, and all that it can be."""

    now: int
    possible: frozenset[int]


class ShiftLine(NamedTuple):
    """A shift as a function of the one freedom of its group: sign · freedom + offset."""

    sign: int
    offset: int

    def at(self, freedom: int) -> int:
        return self.sign * freedom + self.offset

    def freedom_for(self, shift: int) -> int:
        """The freedom at which it is a wanted shift; the sign is its own inverse."""
        return self.sign * (shift - self.offset)


def choose_shifts(shaped: Shaped, progress: Progress | None = None) -> Shaped:
    """Set the shifts of zones and parts."""
    plan, obstacles = shaped.plan, list(shaped.obstacles)
    kits = {receiver.ref for receiver in receivers(plan) if receiver.kits}
    edges: dict[Node, list[tuple[Node, int, Binding]]] = {}
    for binding in shaped.bindings:
        if binding.is_zone and binding.wish.plays and binding.bond != "free":
            zone: Node = ("zone", binding.device, str(binding.program), binding.thing)
            part = _part_node(plan, binding.wish.plays, kits)
            wished = binding.wish.shift - _by_wiring(plan, zone)
            edges.setdefault(zone, []).append((part, wished, binding))
            edges.setdefault(part, []).append((zone, wished, binding))
    left = dict.fromkeys(edges)
    # Zones and parts that are tied by wishes move together: one tie at a time is settled.
    while left:
        go_on(progress, say("Transpositions"), 0.06)
        start = next(iter(left))
        lines, bindings, clash = _walk(start, edges)
        for node in lines:
            left.pop(node, None)
        values = None if clash else _settle(plan, lines, bindings)
        if values is None:
            obstacles.append(_obstacle(plan, bindings))
        else:
            for node, value in values.items():
                if value != _current(plan, node).now:
                    plan = _set(plan, node, value)
    return shaped._replace(plan=plan, obstacles=tuple(obstacles))


def _by_wiring(plan: Plan, node: Node) -> int:
    """The semitones that a zone is off without being told so, because of how its keys are wired."""
    owner = lookup.device(plan, node[1])
    zone = lookup.zone(owner, int(node[2]), node[3])
    return heard_shift(owner, zone) - zone.shift


def _part_node(plan: Plan, ref: str, kits: set[str]) -> Node:
    """The node of a part; parts that are transposed all together are one."""
    device, part = read_ref(ref)
    if ref in kits:
        return "kit", device, part
    together = scope_of(lookup.device(plan, device), "part-shift") == "global"
    return ("parts", device) if together else ("part", device, part)


def _walk(
    start: Node, edges: dict[Node, list[tuple[Node, int, Binding]]]
) -> tuple[dict[Node, ShiftLine], list[Binding], bool]:
    """Each node of a group as a line over its one freedom; whether they contradict."""
    lines: dict[Node, ShiftLine] = {start: ShiftLine(1, 0)}
    queue, bindings, clash = [start], [], False
    while queue:
        node = queue.pop()
        for other, wished, binding in edges[node]:
            bindings.append(binding)
            # Both shifts add up to what is wished: the other is that less this one.
            there = ShiftLine(-lines[node].sign, wished - lines[node].offset)
            if other not in lines:
                lines[other] = there
                queue.append(other)
            clash = clash or lines[other] != there
    return lines, list(dict.fromkeys(bindings)), clash


def _current(plan: Plan, node: Node) -> Shift:
    if node[0] == "kit":
        return Shift(0, frozenset({0}))
    owner = lookup.device(plan, node[1])
    if node[0] in ("part", "parts"):
        return _current_of_parts(plan, owner, _parts_of(owner, node))
    zone = lookup.zone(owner, int(node[2]), node[3])
    octaves, semitones = _ways_to_shift(plan, owner, int(node[2]), zone)
    return Shift(zone.shift, _shifts(octaves, semitones))


@cache
def _shifts(octaves: range, semitones: range) -> frozenset[int]:
    """All shifts by some octaves and semitones."""
    return frozenset(12 * octave + semitone for octave in octaves for semitone in semitones)


def _parts_of(owner: Device, node: Node) -> tuple[Part, ...]:
    """The parts that a node stands for."""
    return owner.parts if node[0] == "parts" else (lookup.part(owner, node[2]),)


def _current_of_parts(plan: Plan, owner: Device, parts: tuple[Part, ...]) -> Shift:
    holds = Holds(plan)
    possible = frozenset(range(-FARTHEST, FARTHEST + 1))
    for part in parts:
        place = owner_place(owner.id, "part", part.id)
        if holds.keeps(owner, "part", place, "transpose"):
            possible &= {part.transpose}
    return Shift(parts[0].transpose, possible)


def _ways_to_shift(plan: Plan, owner: Device, program: int, zone: Zone) -> tuple[range, range]:
    """The octaves and the semitones by which a zone can be shifted."""
    place = owner_place(owner.id, "zone", zone.id, lookup.program_id(owner, program))
    holds = Holds(plan)
    octaves, semitones = OCTAVES, range(-FARTHEST, FARTHEST + 1)
    if holds.keeps(owner, "zone", place, "octave"):
        octaves = range(zone.octave, zone.octave + 1)
    if holds.keeps(owner, "zone", place, "transpose"):
        semitones = range(zone.transpose, zone.transpose + 1)
    return octaves, semitones


def _is_locked(plan: Plan, place: str, field: str) -> bool:
    return setting_in(place, field) in held(plan)


def _settle(
    plan: Plan, lines: dict[Node, ShiftLine], bindings: list[Binding]
) -> dict[Node, int] | None:
    """The values that keep most numbers as they are; None where none can be played."""
    now = {}
    for node in lines:
        now[node] = _current(plan, node)
    limits = _limits(plan, lines, bindings)
    # At each of these one number at least stays as it is.
    wanted = []
    for node, line in lines.items():
        wanted.append(line.freedom_for(now[node].now))
    best: tuple[tuple[int, int, int], dict[Node, int]] | None = None
    for freedom in dict.fromkeys([*wanted, *_others(wanted)]):
        values = {}
        for node, line in lines.items():
            values[node] = line.at(freedom)
        if not _within(values, limits) or not _may_move(values, now):
            continue
        moved = []
        for node, value in values.items():
            if value != now[node].now:
                moved.append(value)
        cost = (len(moved), sum(map(abs, moved)), freedom)
        best = min(best or (cost, values), (cost, values), key=itemgetter(0))
        if not moved:
            break
    return best[1] if best else None


def _may_move(values: dict[Node, int], now: dict[Node, Shift]) -> bool:
    """Whether every value is one that its zone or part can be shifted by."""
    return all(value in now[node].possible for node, value in values.items())


def _within(values: dict[Node, int], limits: dict[Node, tuple[int, int]]) -> bool:
    """Whether every value lies between its ends."""
    for node, value in values.items():
        least, most = limits[node]
        if not least <= value <= most:
            return False
    return True


def _others(wanted: list[int]) -> Iterable[int]:
    return range(min(wanted) - FARTHEST, max(wanted) + FARTHEST + 1)


def _limits(
    plan: Plan, lines: dict[Node, ShiftLine], bindings: list[Binding]
) -> dict[Node, tuple[int, int]]:
    """How far each zone may be shifted: its notes within 0–127 and what its receivers answer."""
    limits = dict.fromkeys(lines, (-FARTHEST, FARTHEST))
    reach: dict[str, tuple[int, int]] = {}
    for binding in bindings:
        node = ("zone", binding.device, str(binding.program), binding.thing)
        zone = lookup.zone(lookup.device(plan, node[1]), int(node[2]), node[3])
        ref = binding.wish.plays or ""
        low, high = reach.setdefault(ref, answers(plan, ref))
        least, most = limits[node]
        off = _by_wiring(plan, node)
        limits[node] = (max(least, low - zone.low - off), min(most, high - zone.high - off))
    return limits


def answers(plan: Plan, ref: str) -> tuple[int, int]:
    """The notes that a part can be made to answer: its device's limit, or its own fixed range."""
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    low, high = answered_notes(owner)
    part = lookup.part(owner, ident)
    fixed = scope_of(owner, "part-range") == "fixed"
    place = owner_place(device, "part", ident)
    if fixed or _is_locked(plan, place, "low"):
        low = part.low
    if fixed or _is_locked(plan, place, "high"):
        high = part.high
    return low, high


def _obstacle(plan: Plan, bindings: list[Binding]) -> Obstacle:
    names = listed(dict.fromkeys(b.wish.name for b in bindings[:4]), ALL)
    locks = []
    for setting in plan.settings:
        if setting.hold == "locked" and read_setting_ref(setting.ref).field in IN_THE_WAY:
            locks.append(setting.ref)
    return Obstacle(
        tuple(dict.fromkeys(binding.wish.id for binding in bindings)),
        tuple(locks),
        say("No transposition lets {names} sound at the pitch that was wished.", names=names),
    )


def _set(plan: Plan, node: Node, value: int) -> Plan:
    owner = lookup.device(plan, node[1])
    if node[0] in ("part", "parts"):
        for part in _parts_of(owner, node):
            plan = set_part(owner.id, part.id, say("Transpose"), transpose=value).change(plan)
        return plan
    zone = lookup.zone(owner, int(node[2]), node[3])
    octaves, semitones = _ways_to_shift(plan, owner, int(node[2]), zone)
    best: tuple[tuple[int, int], dict[str, int]] | None = None
    for octave in octaves:
        transpose = value - 12 * octave
        if transpose in semitones:
            changes = {"octave": octave, "transpose": transpose}
            # One number to dial is better than two; an octave is better than twelve semitones.
            dials = (octave != zone.octave) + (transpose != zone.transpose)
            cost = (dials, abs(transpose) + abs(octave))
            if best is None or cost < best[0]:
                best = (cost, changes)
    assert best is not None, "a shift is chosen among those that are possible"
    edit = set_zone(owner.id, int(node[2]), zone.id, say("Transpose"), **best[1])
    return edit.change(plan)
