"""The plan without a device, cable or pedal: what still works, and the best plan that stands in.

A stand-in plan proves what it claims: a wish that it says to keep is as meant in its proof.
"""

from collections.abc import Iterator, Mapping
from typing import Literal, NamedTuple

import msgspec

from vastzone.core.cache import no_collecting
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import set_plan
from vastzone.core.plan.edits.pedals import take_over
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.consistency import problems
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.losing import (
    Loss,
    joined_again,
    kept_in,
    losses,
    taken_away,
    weight_of,
    wishes_in,
)
from vastzone.core.solve.numbers import attempt, solution
from vastzone.core.solve.pedals import fit_pedals, open_pedals, open_sockets
from vastzone.core.solve.stand_ins import Choice, StandIn, choose, chosen_place, stand_ins

ROUNDS = 4
SceneVerdict = Literal["as meant", "partly", "not"]


class SceneWithout(NamedTuple):
    """What is left of one scene, and the names of the wishes that are lost in it."""

    scene: str
    verdict: SceneVerdict
    lost: tuple[str, ...]


class Moved(NamedTuple):
    """A wish that is kept otherwise, and how; ``share`` is how much of it."""

    wish: str
    words: str
    share: float


class Without(NamedTuple):
    """A plan without one thing.

    ``bare`` is what is left if nothing is done, ``scenes`` what that means; ``stand_in`` is the
    best plan that stands in, ``rescued`` its scenes.  ``kept`` are the wishes that it keeps in all
    their scenes, ``moved`` those among them that come from elsewhere, ``dropped`` the others.
    ``weight`` is the share of all that matters that it keeps; ``changes`` how many numbers and
    cables have to be changed.
    """

    loss: Loss
    bare: Plan
    scenes: tuple[SceneWithout, ...]
    stand_in: Plan
    rescued: tuple[SceneWithout, ...]
    kept: frozenset[str]
    moved: tuple[Moved, ...]
    dropped: tuple[str, ...]
    weight: float
    bare_weight: float
    changes: int

    @property
    def whole(self) -> int:
        """How many scenes are as meant if nothing is done."""
        return sum(one.verdict == "as meant" for one in self.scenes)

    @property
    def rescued_whole(self) -> int:
        """How many scenes are as meant with the stand-in plan."""
        return sum(one.verdict == "as meant" for one in self.rescued)


def without(plan: Plan, loss: Loss, progress: Progress | None = None) -> Without:
    """What is left without a thing, and the best plan that stands in.  Raises Cancelled."""
    with no_collecting():
        bare = taken_away(plan, loss)
        rejoined = _refitted(joined_again(bare, plan, loss), loss)
        stand_in, ways = _stood_in(plan, rejoined, progress)
        return _told(plan, loss, bare, stand_in, ways)


def every_loss(plan: Plan, progress: Progress | None = None) -> Iterator[Without]:
    """Every device in turn; told as they come.  Raises Cancelled."""
    devices = [loss for loss in losses(plan) if loss.kind == "device"]
    for number, loss in enumerate(devices):
        go_on(progress, say("Without {loss}", loss=loss.name), number / max(1, len(devices)))
        yield without(plan, loss)


def worst_first(told: list[Without]) -> list[Without]:
    """What hurts most comes first: by what the stand-in keeps, then by what is left as it is."""
    return sorted(told, key=lambda one: (one.weight, one.bare_weight, one.rescued_whole))


def _refitted(plan: Plan, loss: Loss) -> Plan:
    """Pedals fitted anew where one is gone, or its jack."""
    if loss.kind not in ("pedal", "device") or not plan.pedals:
        return plan
    plugged = {plug.pedal for plug in plan.pedal_plugs}
    if loss.kind == "device" and all(pedal.id in plugged for pedal in plan.pedals):
        return plan
    fit = fit_pedals(open_pedals(plan), open_sockets(plan), plan.pedal_plugs)
    return take_over(fit.plugs, fit.given).change(plan)


def _stood_in(
    before: Plan, plan: Plan, progress: Progress | None
) -> tuple[Plan, dict[str, StandIn]]:
    """The plan with what is lost played from elsewhere, as far as it proves itself."""
    was = kept_in(before)
    broken = _broken(before, plan, was)
    if not broken:
        return plan, {}
    table = stand_ins(plan, before, broken)
    known = lookup.by_ids(before.wishes)
    scenes = [scene.id for scene in before.scenes]
    forbidden: frozenset[Choice] = frozenset()
    best, best_ways = plan, {}
    best_weight = _weight(before, plan, {})
    for number in range(ROUNDS):
        go_on(progress, say("Looking for what can stand in"), number / ROUNDS)
        chosen = choose(table, known, scenes, forbidden)
        ways = {ident: way for ident, way in chosen.items() if way.moved}
        if not ways:
            break
        tried, blamed = _worked_out(plan, before, chosen)
        if tried is None:
            bad = {chosen_place(table, ident, ways[ident]) for ident in blamed & ways.keys()}
        else:
            weight = _weight(before, tried, ways)
            if weight > best_weight:
                best, best_ways, best_weight = tried, ways, weight
            bad = _unproved(before, tried, table, ways)
        if not bad:
            break
        forbidden |= frozenset(bad)
    return best, best_ways


def _broken(before: Plan, plan: Plan, was: dict[str, frozenset[str]]) -> frozenset[str]:
    """The wishes that held before and are gone, or as meant no longer in some scene."""
    now = kept_in(plan)
    broken = set(lookup.ids_of(before.wishes)) - set(lookup.ids_of(plan.wishes))
    for scene, held in was.items():
        broken |= held - now.get(scene, frozenset())
    return frozenset(broken)


def _worked_out(
    plan: Plan, before: Plan, chosen: dict[str, StandIn]
) -> tuple[Plan | None, frozenset[str]]:
    """Numbers for the chosen wishes; or whose fault it is that there are none."""
    wishes = tuple(chosen[wish.id].wish for wish in before.wishes if wish.id in chosen)
    try:
        wished = set_plan(say("Stand in"), wishes=wishes).change(plan)
    except EditError:
        return None, frozenset(chosen)
    if any(True for _ in problems(wished)):
        return None, frozenset(chosen)
    tried = attempt(wished)
    if tried.answer is None:
        blamed = {wish for obstacle in tried.obstacles for wish in obstacle.wishes}
        return None, frozenset(blamed) or frozenset(chosen)
    return solution(wished, tried).plan, frozenset()


def _unproved(
    before: Plan, tried: Plan, table: Mapping[str, list[StandIn]], ways: dict[str, StandIn]
) -> set[Choice]:
    """The ways that were chosen, and are not as meant in the proof."""
    kept = _kept_whole(before, tried)
    return {chosen_place(table, ident, way) for ident, way in ways.items() if ident not in kept}


def _kept_whole(before: Plan, after: Plan) -> frozenset[str]:
    """The wishes that are as meant in every scene in which they held before."""
    was, now = kept_in(before), kept_in(after)
    kept = set(lookup.ids_of(after.wishes))
    for scene, held in was.items():
        kept -= held - now.get(scene, frozenset())
    held_ever = frozenset().union(*was.values()) if was else frozenset()
    return frozenset(kept & held_ever)


def _weight(before: Plan, after: Plan, ways: dict[str, StandIn]) -> float:
    """The share of all that matters that a plan keeps."""
    was = kept_in(before)
    held: list[Wish] = []
    for wish in before.wishes:
        if any(wish.id in kept for kept in was.values()):
            held.append(wish)
    whole = weight_of(held)
    if not whole:
        return 1.0
    kept = _kept_whole(before, after)
    now = lookup.by_ids(after.wishes)
    left = 0.0
    for wish in held:
        if wish.id in kept:
            part = len(now[wish.id].sources) / len(wish.sources)
            left += wish.matters * (ways[wish.id].share if wish.id in ways else part)
    return left / whole


def _told(plan: Plan, loss: Loss, bare: Plan, stand_in: Plan, ways: dict[str, StandIn]) -> Without:
    kept = _kept_whole(plan, stand_in)
    moved = []
    for ident, way in ways.items():
        if ident in kept:
            moved.append(Moved(ident, f"{way.wish.name}: {way.words}", way.share))
    was = kept_in(plan)
    held = frozenset().union(*was.values()) if was else frozenset()
    dropped = tuple(wish.id for wish in plan.wishes if wish.id in held - kept)
    return Without(
        loss,
        bare,
        _scenes(plan, bare),
        stand_in,
        _scenes(plan, stand_in),
        kept,
        tuple(moved),
        dropped,
        _weight(plan, stand_in, ways),
        _weight(plan, bare, {}),
        changes_between(bare, stand_in),
    )


def _scenes(before: Plan, after: Plan) -> tuple[SceneWithout, ...]:
    """What is left of each scene, of the wishes that held in it."""
    was, now = kept_in(before), kept_in(after)
    names = lookup.names_of(before.wishes)
    whole = {wish.id: len(wish.sources) for wish in before.wishes}
    left = {wish.id: len(wish.sources) for wish in after.wishes}
    told = []
    for scene, held in was.items():
        kept = {
            wish for wish in held & now.get(scene, frozenset()) if left.get(wish, 0) == whole[wish]
        }
        lost = tuple(names[wish.id] for wish in wishes_in(before, scene) if wish.id in held - kept)
        verdict: SceneVerdict = "as meant" if not lost else "partly" if kept else "not"
        told.append(SceneWithout(scene, verdict, lost))
    return tuple(told)


def changes_between(bare: Plan, after: Plan) -> int:
    """How many numbers, cables and plugs differ between two plans."""
    before, now = dials(bare), dials(after)
    numbers = 0
    for ref, dial in now.items():
        known = before.get(ref)
        numbers += known is None or known.value != dial.value
    joints = 0
    for one, other in (
        (bare.cables, after.cables),
        (bare.audio_cables, after.audio_cables),
        (bare.pedal_plugs, after.pedal_plugs),
    ):
        joints += len(set(other) - set(one))
    return numbers + joints


def as_a_plan(told: Without) -> Plan:
    """The stand-in as a plan of its own, named for what it is without."""
    name = say("{stand_in}, without {loss}", stand_in=told.stand_in.name, loss=told.loss.name)
    return msgspec.structs.replace(told.stand_in, name=name[:80])
