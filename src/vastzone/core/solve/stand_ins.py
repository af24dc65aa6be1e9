"""What can stand in: other keys, other controls, another sound, chosen so that most is kept.

Which wish moves where is an exact choice (CP-SAT) among what is free and leads there: first what
matters most is kept, then as little as can be is moved.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, NamedTuple

import msgspec

from vastzone.core.engine.receivers import Sources
from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import sounds_in
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.say import say
from vastzone.core.solve.constraints import new_model, search
from vastzone.core.solve.losing import unheard_parts
from vastzone.core.solve.outputs import ways_to

OCTAVES, PLACES, SECONDS = 4, 6, 2.0
ANOTHER_SOUND = 0.5
"""What a wish is worth that is played with another sound."""
SOUNDS = " sounds"
"""How the name of a slot ends that stands for a part, which one wish at a time may borrow."""
LEAST = 0.5
"""A wish of which less can be kept is let go."""


class Slot(NamedTuple):
    """Something that only one wish can have in a scene: a control in a bank, keys of a keybed."""

    ref: str
    low: int
    high: int


class StandIn(NamedTuple):
    """One way to keep a wish: as it is, from elsewhere, or with another sound.

    ``share`` is how much of it that keeps; ``moved`` how many sources and ends are other ones.
    """

    wish: Wish
    share: float
    moved: int
    slots: tuple[Slot, ...]
    words: str = ""


Choice = tuple[str, int]
"""A wish, and the place of a way among its ways."""


def stand_ins(plan: Plan, before: Plan, broken: frozenset[str]) -> Mapping[str, list[StandIn]]:
    """Every way to keep each wish of the plan before: those that hold as they are, others moved."""
    left = {wish.id: wish for wish in plan.wishes}
    table: dict[str, list[StandIn]] = {}
    for wish in before.wishes:
        now = left.get(wish.id)
        if now is not None and wish.id not in broken:
            whole = len(now.sources) / len(wish.sources)
            sounds = (Slot(f"{now.plays}{SOUNDS}", 0, 127),) if now.plays else ()
            table[wish.id] = [StandIn(now, whole, 0, (*_slots(now), *sounds))]
            if whole == 1.0:
                continue
        ways = [*_from_elsewhere(plan, before, wish, now), *_with_another_sound(plan, before, wish)]
        ways.sort(key=lambda way: (-way.share, way.moved))
        table.setdefault(wish.id, []).extend(ways[: 4 * PLACES])
    return table


def _slots(wish: Wish) -> tuple[Slot, ...]:
    slots = []
    for source in wish.sources:
        if wish.low is None and wish.high is None:
            slots.append(Slot(f"{source} {wish.bank}", 0, 127))
        else:
            slots.append(Slot(f"{source} 1", wish.lowest, wish.highest))
    return tuple(slots)


def _from_elsewhere(plan: Plan, before: Plan, wish: Wish, now: Wish | None) -> Iterator[StandIn]:
    """The same from other keys or controls that lead there."""
    end = wish.plays or wish.moves or ""
    if not _is_there(plan, end) or end in unheard_parts(plan):
        return
    kept = set(now.sources) if now is not None else set()
    for device in plan.devices:
        if not _leads_to(plan, device, end):
            continue
        if _is_bed_wish(before, wish):
            for bed in device.keybeds:
                yield from _on_keys(before, wish, device, bed)
        elif len(kept) < len(wish.sources):
            yield from _on_controls(plan, before, wish, kept, device)


def _is_bed_wish(before: Plan, wish: Wish) -> bool:
    """Whether a wish is for keys."""
    for source in wish.sources:
        device = lookup.device(before, device_of(source))
        if lookup.find(device.keybeds, thing_of(source)) is not None:
            return True
    return False


def _is_there(plan: Plan, end: str) -> bool:
    device = lookup.find(plan.devices, device_of(end))
    if device is None:
        return False
    return any(each.id == thing_of(end) for each in lookup.ends(device))


def _leads_to(plan: Plan, device: Device, end: str) -> bool:
    """Whether a device reaches a part or target once, by some of its outputs."""
    outs = [port.id for port in device.ports if port.flow != "in"]
    source = Sources(device.id, device.ports, device.local)
    for ports in ((), *((port,) for port in outs)):
        if ways_to(plan, source, ports)[end] == 1:
            return True
    return False


def _keys_of(before: Plan, wish: Wish) -> tuple[int, int]:
    """The keys that a wish is for: all of its keybed where it does not say."""
    lows, highs = [], []
    for source in wish.sources:
        device = lookup.device(before, device_of(source))
        bed = lookup.find(device.keybeds, thing_of(source))
        if bed is not None:
            lows.append(max(wish.lowest, bed.low))
            highs.append(min(wish.highest, bed.high))
    return min(lows, default=wish.lowest), max(highs, default=wish.highest)


def _on_keys(before: Plan, wish: Wish, device: Device, bed: Keybed) -> Iterator[StandIn]:
    """On a keybed, in the same octave or the nearest that fits; fewer keys where it is short."""
    ref = ref_to(device.id, bed.id)
    wanted = _keys_of(before, wish)
    for octave in sorted(range(-OCTAVES, OCTAVES + 1), key=abs):
        low, high = wanted[0] + 12 * octave, wanted[1] + 12 * octave
        first, last = max(low, bed.low), min(high, bed.high)
        keys = last - first + 1
        share = keys / (high - low + 1)
        if keys < 5 or share < LEAST:
            continue
        shift = wish.shift - 12 * octave
        if not -60 <= shift <= 60:
            continue
        new = msgspec.structs.replace(
            wish, sources=(ref,), low=first, high=last, shift=shift, bank=1
        )
        where = say("{bed} of {device}", bed=bed.name.lower(), device=device.name)
        if octave:
            where += (
                say(", {octave} octaves ", octave=abs(octave))
                if abs(octave) > 1
                else say(", {octave} octave ", octave=abs(octave))
            )
            where += say("up") if octave > 0 else say("down")
        yield StandIn(new, share, 1 + abs(octave), _slots(new), where)


def _on_controls(
    plan: Plan, before: Plan, wish: Wish, kept: set[str], device: Device
) -> Iterator[StandIn]:
    """On controls of the same kind that are free while it holds, in a row where that can be."""
    missing = [source for source in wish.sources if source not in kept]
    kinds = _kinds_for(before, missing[0])
    free = []
    for control in device.controls:
        if control.kind in kinds and _is_free(plan, wish, ref_to(device.id, control.id)):
            free.append(control)
    for first in range(min(PLACES, max(1, len(free) - len(missing) + 1))):
        row = free[first : first + len(missing)]
        if not row:
            return
        renamed = dict(zip(missing, (ref_to(device.id, each.id) for each in row), strict=False))
        places = []
        for place, source in enumerate(wish.sources):
            if source in kept or source in renamed:
                places.append(place)
        share = len(places) / len(wish.sources)
        if share < LEAST:
            return
        sources = tuple(renamed.get(wish.sources[p], wish.sources[p]) for p in places)
        sounds = tuple(wish.sounds[p] for p in places if p < len(wish.sounds))
        new = msgspec.structs.replace(wish, sources=sources, sounds=sounds, bank=1)
        names = (
            say("{first} to {last}", first=row[0].name, last=row[-1].name)
            if len(row) > 1
            else row[0].name
        )
        yield StandIn(
            new,
            share,
            len(row),
            _slots(new),
            say("{names} of {device}", names=names, device=device.name),
        )


LIKE: Mapping[str, frozenset[str]] = {
    "pad": frozenset(("pad", "button")),
    "button": frozenset(("button", "pad", "stop")),
    "stop": frozenset(("stop", "button")),
    "switch": frozenset(("switch", "button")),
    "knob": frozenset(("knob", "fader")),
    "fader": frozenset(("fader", "knob")),
    "pedal": frozenset(("pedal", "shoe", "fader")),
    "shoe": frozenset(("shoe", "pedal", "fader")),
}
"""Which kinds of control can stand in for which; any other for its own kind alone."""


def _kinds_for(before: Plan, source: str) -> frozenset[str]:
    """The kinds of control that can stand in for one."""
    device = lookup.device(before, device_of(source))
    control = lookup.controls_by_id(device).get(thing_of(source))
    if control is None:
        return frozenset()
    return LIKE.get(control.kind, frozenset((control.kind,)))


def _is_free(plan: Plan, wish: Wish, ref: str) -> bool:
    """Whether no other wish begins at a control while this one holds."""
    for other in plan.wishes:
        together = not wish.scenes or not other.scenes or set(wish.scenes) & set(other.scenes)
        if ref in other.sources and other.id != wish.id and together:
            return False
    return True


def _with_another_sound(plan: Plan, before: Plan, wish: Wish) -> Iterator[StandIn]:
    """From where it is, with a part that is like the one that is gone."""
    if wish.plays is None or _is_there(plan, wish.plays):
        return
    if not all(_begins_in(plan, source) for source in wish.sources):
        return
    gone_from = lookup.device(before, device_of(wish.plays))
    gone = lookup.part(gone_from, thing_of(wish.plays))
    begins = lookup.device(plan, device_of(wish.sources[0]))
    for device in plan.devices:
        for part in device.parts:
            end = ref_to(device.id, part.id)
            if not _is_like_sound(device, part, gone_from, gone, wish):
                continue
            if not _leads_to(plan, begins, end):
                continue
            new = msgspec.structs.replace(wish, plays=end)
            slots = (*_slots(new), Slot(f"{end}{SOUNDS}", 0, 127))
            words = say("{part} of {device} instead", part=part.name, device=device.name)
            yield StandIn(new, ANOTHER_SOUND, 1, slots, words)


def _begins_in(plan: Plan, source: str) -> bool:
    """Whether keys or a control are still there."""
    device = lookup.find(plan.devices, device_of(source))
    if device is None:
        return False
    ids = lookup.ids_of(device.keybeds) | lookup.ids_of(device.controls)
    return thing_of(source) in ids


def _is_like_sound(device: Device, part: Part, gone_from: Device, gone: Part, wish: Wish) -> bool:
    """Whether a part can be played for another: the same sounds of a kit, or the same manner.

    One sample stands for another sample only.
    """
    if part.receives == "takes all":
        return False
    if wish.sounds:
        return set(wish.sounds) <= set(sounds_in(device, part))
    both_samples = (device.kind == "sampler") is (gone_from.kind == "sampler")
    alike = (part.trigger, part.rhythm) == (gone.trigger, gone.rhythm)
    return part.kit is None and gone.kit is None and both_samples and alike


def choose(
    table: Mapping[str, Sequence[StandIn]],
    before: Mapping[str, Wish],
    scenes: Sequence[str],
    forbidden: frozenset[Choice] = frozenset(),
) -> dict[str, StandIn]:
    """The best ways together: what matters most kept, then the fewest moves."""
    model = new_model()
    takes: dict[Choice, Any] = {}
    worth: list[Any] = []
    for ident, ways in table.items():
        mine = []
        for place, way in enumerate(ways):
            if (ident, place) in forbidden:
                continue
            var = model.new_bool_var("")
            takes[ident, place] = var
            mine.append(var)
            value = round(way.share * before[ident].matters * 1000) - 10 * way.moved - place
            worth.append(var * value)
        model.add_at_most_one(mine)
    for one, other in _clashes(table, takes, before, scenes):
        model.add_bool_or(takes[one].negated(), takes[other].negated())
    model.maximize(sum(worth))
    found = search(model, SECONDS)
    if found is None:
        return {}
    chosen = {}
    for (ident, place), var in takes.items():
        if found.true(var):
            chosen[ident] = table[ident][place]
    return chosen


def _clashes(
    table: Mapping[str, Sequence[StandIn]],
    takes: Mapping[Choice, Any],
    before: Mapping[str, Wish],
    scenes: Sequence[str],
) -> Iterator[tuple[Choice, Choice]]:
    """Ways of different wishes that want the same keys or control in one scene."""
    by_slot: dict[str, list[tuple[Choice, Slot, frozenset[str]]]] = {}
    for choice in takes:
        way = table[choice[0]][choice[1]]
        held = frozenset(way.wish.scenes or scenes or ("",))
        for slot in way.slots:
            by_slot.setdefault(slot.ref, []).append((choice, slot, held))
    for users in by_slot.values():
        for place, (one, slot, held) in enumerate(users):
            for other, second, also in users[place + 1 :]:
                if one[0] == other[0] or not held & also:
                    continue
                apart = slot.high < second.low or second.high < slot.low
                if slot.ref.endswith(SOUNDS):
                    ways = (table[one[0]][one[1]], table[other[0]][other[1]])
                    if any(way.moved for way in ways):
                        yield one, other
                    continue
                if apart or _were_layered(before[one[0]], before[other[0]]):
                    continue
                yield one, other


def _were_layered(one: Wish, other: Wish) -> bool:
    """Whether two wishes began at the same keys or control from the beginning."""
    if not set(one.sources) & set(other.sources):
        return False
    return one.lowest <= other.highest and other.lowest <= one.highest


def chosen_place(table: Mapping[str, Sequence[StandIn]], ident: str, way: StandIn) -> Choice:
    """Which of the ways of a wish was chosen."""
    return ident, list(table[ident]).index(way)
