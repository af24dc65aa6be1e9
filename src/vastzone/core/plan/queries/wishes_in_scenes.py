"""Which wishes hold in each scene, by where they begin."""

from collections.abc import Mapping

from vastzone.core.cache import derived, interned
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.refs import device_of, ref_to

WishesOfSources = Mapping[str, tuple[Wish, ...]]


@derived(16)
def wishes_of(plan: Plan) -> Mapping[str, WishesOfSources]:
    """The wishes of a plan by scene and by where they begin."""
    found = wishes_by_scene(plan.wishes, tuple(scene.id for scene in plan.scenes) or ("",))
    turned = {scene.id: scene.transpose for scene in plan.scenes if scene.transpose}
    if not turned:
        return found
    fixed, beds = _played_by_kits(plan), set()
    for device in plan.devices:
        beds |= {ref_to(device.id, bed.id) for bed in device.keybeds}
    moved = dict(found)
    for scene, by in turned.items():
        here = {}
        for place, wishes in found[scene].items():
            here[place] = interned(tuple([_turned(wish, by, fixed, beds) for wish in wishes]))
        moved[scene] = here
    return moved


@derived(16)
def _played_by_kits(plan: Plan) -> frozenset[str]:
    """The parts that sound drums or kits, and all that listen on a channel with one of them."""
    channels = set()
    for device in plan.devices:
        for part in device.parts:
            if part.rhythm or part.kit is not None:
                channels.add(part.channel)
    fixed = set()
    for device in plan.devices:
        for part in device.parts:
            if part.channel in channels:
                fixed.add(ref_to(device.id, part.id))
    return frozenset(fixed)


def _turned(wish: Wish, by: int, fixed: frozenset[str], beds: set[str]) -> Wish:
    """A wish of keys in a song that is transposed; drums and kits stay."""
    if wish.plays is None or wish.plays in fixed or not beds.issuperset(wish.sources):
        return wish
    return changed(wish, shift=max(-60, min(60, wish.shift + by)))


@derived(8)
def wishes_by_scene(
    wishes: tuple[Wish, ...], scenes: tuple[str, ...]
) -> Mapping[str, WishesOfSources]:
    """The wishes that hold in each scene, by where they begin: a source, or its device."""
    by_scene: dict[str, list[Wish]] = {}
    for scene in scenes:
        by_scene[scene] = []
    for wish in wishes:
        for scene in wish.scenes or scenes:
            if scene in by_scene:
                by_scene[scene].append(wish)
    return {scene: _by_place(tuple(of_scene)) for scene, of_scene in by_scene.items()}


@derived(1024)
def _by_place(wishes: tuple[Wish, ...]) -> WishesOfSources:
    by_place: dict[str, list[Wish]] = {}
    for wish in wishes:
        owners = dict.fromkeys(device_of(source) for source in wish.sources)
        for place in (*wish.sources, *owners):
            by_place.setdefault(place, []).append(wish)
    return {place: interned(tuple(at_place)) for place, at_place in by_place.items()}
