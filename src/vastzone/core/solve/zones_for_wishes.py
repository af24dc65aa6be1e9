"""Zones for the wishes of keybeds: those that are there where they fit, new ones otherwise."""

from collections.abc import Iterable
from typing import NamedTuple

from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.limits import most
from vastzone.core.plan.refs import ref_to
from vastzone.core.solve.shaped import Binding, Obstacle

SAME_RANGE, SAME_END, SAME_VELOCITIES, SAME_NAME, IS_ON = 200, 30, 50, 40, 10
"""What each agreement counts, beside one for every key that a zone and a wish share."""


def on_zones(
    owner: Device, program: Program, wishes: tuple[Wish, ...], obstacles: list[Obstacle]
) -> tuple[Program, list[Binding]]:
    """A program with a zone for each wish of its keybeds; ``obstacles`` gets what does not fit."""
    bindings: list[Binding] = []
    zones = list(program.zones)
    limit = most(owner, "zones")
    count = None if limit is None else limit.most
    for bed in owner.keybeds:
        here = _of_bed(wishes, ref_to(owner.id, bed.id))
        groups = _grouped(here, bed, count)
        if count is not None and len(groups) > count:
            sentence = (
                f"{bed.name} of {owner.name} needs {len(groups)} zones in {program.name} and "
                f"has {count}."
            )
            obstacles.append(Obstacle(tuple(sorted(lookup.ids_of(here))), (), sentence))
            continue
        kept = []
        for zone in zones:
            if zone.keybed == bed.id:
                kept.append(zone)
        new, bound = _match(owner, program, bed, kept, groups)
        zones = [zone for zone in zones if zone.keybed != bed.id] + new
        bindings += bound
    return changed(program, zones=tuple(zones)), bindings


def _of_bed(wishes: tuple[Wish, ...], ref: str) -> list[Wish]:
    """The wishes for sounds that begin at a keybed."""
    bed_wishes = []
    for wish in wishes:
        if wish.plays and ref in wish.sources:
            bed_wishes.append(wish)
    return bed_wishes


class _ZoneWindow(NamedTuple):
    """Keys and velocities, both ends in."""

    low: int
    high: int
    soft: int
    loud: int

    def meets(self, other: "_ZoneWindow") -> bool:
        keys = self.low <= other.high and other.low <= self.high
        return keys and self.soft <= other.loud and other.soft <= self.loud


def _window(wish: Wish, bed: Keybed) -> _ZoneWindow:
    low, high = max(bed.low, wish.lowest), min(bed.high, wish.highest)
    return _ZoneWindow(low, high, wish.vel_low, wish.vel_high)


def _grouped(wishes: list[Wish], bed: Keybed, most: int | None) -> list[list[Wish]]:
    """One group a zone: a wish each, or where zones are short, wishes that can share one."""
    if most is None or len(wishes) <= most:
        return [[wish] for wish in wishes]
    # First those that ask for the very same keys, then those that could lie in one wider zone.
    same: dict[object, list[Wish]] = {}
    for wish in wishes:
        same.setdefault((_window(wish, bed), wish.shift), []).append(wish)
    groups = list(same.values())
    if len(groups) <= most:
        return groups
    like: dict[object, list[Wish]] = {}
    for group in groups:
        first = group[0]
        like.setdefault((first.shift, first.vel_low, first.vel_high), []).extend(group)
    return list(like.values())


def _hull(group: list[Wish], bed: Keybed) -> _ZoneWindow:
    """The smallest window around those of some wishes."""
    windows = []
    for wish in group:
        windows.append(_window(wish, bed))
    lows, highs, softs, louds = zip(*windows, strict=True)
    return _ZoneWindow(min(lows), max(highs), min(softs), max(louds))


def _match(
    owner: Device, program: Program, bed: Keybed, zones: list[Zone], groups: list[list[Wish]]
) -> tuple[list[Zone], list[Binding]]:
    """Give each group the zone that fits it best; what is left over is switched off."""
    bindings: list[Binding] = []
    chosen = _best_zones(bed, zones, groups)
    ids = [zone.id for zone in program.zones]
    matched: dict[str, Zone] = {}
    for place, group in enumerate(groups):
        zone = chosen.get(place) or _new_zone(ids, bed, group)
        ids.append(zone.id)
        low, high, soft, loud = _hull(group, bed)
        layer = zone.layer or _overlaps(group, groups, bed)
        matched[zone.id] = changed(
            zone, low=low, high=high, vel_low=soft, vel_high=loud, on=True, layer=layer
        )
        source = ref_to(owner.id, bed.id)
        for wish in group:
            bindings.append(Binding(wish, source, owner.id, program.number, zone.id, True))
    old = [
        matched.pop(zone.id) if zone.id in matched else changed(zone, on=False) for zone in zones
    ]
    return [*old, *matched.values()], bindings


def _best_zones(bed: Keybed, zones: list[Zone], groups: list[list[Wish]]) -> dict[int, Zone]:
    """The zone that each group takes over, by the place of the group: the likest pairs first."""
    pairs = []
    for place, group in enumerate(groups):
        for number, zone in enumerate(zones):
            pairs.append((_likeness(zone, group, bed), -place, -number))
    chosen: dict[int, Zone] = {}
    taken: set[int] = set()
    for likeness, place, number in sorted(pairs, reverse=True):
        if likeness > 0 and -place not in chosen and -number not in taken:
            chosen[-place] = zones[-number]
            taken.add(-number)
    return chosen


def _likeness(zone: Zone, group: list[Wish], bed: Keybed) -> int:
    """How well a zone fits: keys in common, more where the ends agree."""
    low, high, soft, loud = _hull(group, bed)
    common = min(high, zone.high) - max(low, zone.low) + 1
    velocities = min(loud, zone.vel_high) - max(soft, zone.vel_low) + 1
    if common <= 0 or velocities <= 0:
        return 0
    names = set()
    for wish in group:
        names.add(wish.name.lower())
    agreements = (
        (SAME_RANGE, (low, high) == (zone.low, zone.high)),
        (SAME_END, low == zone.low),
        (SAME_END, high == zone.high),
        (SAME_VELOCITIES, (soft, loud) == (zone.vel_low, zone.vel_high)),
        (SAME_NAME, zone.name.lower() in names),
        (IS_ON, zone.on),
    )
    return common + sum(worth for worth, agrees in agreements if agrees)


def _new_zone(ids: Iterable[str], bed: Keybed, group: list[Wish]) -> Zone:
    name = group[0].name
    low, high, *_ = _hull(group, bed)
    return Zone(id=lookup.free_id(ids, name), name=name, keybed=bed.id, low=low, high=high)


def _overlaps(group: list[Wish], groups: list[list[Wish]], bed: Keybed) -> bool:
    window = _hull(group, bed)
    others = (other for other in groups if other is not group)
    return any(window.meets(_hull(other, bed)) for other in others)
