"""Which wishes hold in each scene, by where they begin."""

from collections.abc import Mapping

from vastzone.core.cache import derived, interned
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.refs import device_of

WishesOfSources = Mapping[str, tuple[Wish, ...]]


@derived(16)
def wishes_of(plan: Plan) -> Mapping[str, WishesOfSources]:
    """The wishes of a plan by scene and by where they begin."""
    return wishes_by_scene(plan.wishes, tuple(scene.id for scene in plan.scenes) or ("",))


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
