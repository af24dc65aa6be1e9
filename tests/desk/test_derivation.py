"""A large plan is derived in slices; a walk keeps its answers."""

import msgspec
from bench.full_house import full_house

from tests.rigs import keyboard, module, part, rig, wish, zone
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.proof.walk import asks
from vastzone.desk.derivation import is_small
from vastzone.desk.session import Desk
from vastzone.desk.walk import Walk

PLAN = rig(keyboard(zone()), module(part()), wishes=(wish("piano", "box:piano"),))


def an_evening(scenes):
    """The full house in some of its scenes."""
    house = full_house()
    kept = house.scenes[:scenes]
    ids = {scene.id for scene in kept}
    wishes = tuple(wish for wish in house.wishes if ids.issuperset(wish.scenes))
    return msgspec.structs.replace(house, scenes=kept, wishes=wishes)


def test_a_small_plan_is_known_at_once_and_a_large_one_in_slices():
    desk = Desk()
    told = []
    desk.proved.connect(lambda: told.append(desk.proof))
    desk.load(PLAN, None)
    assert desk.proof.good and not desk.derivation.pending
    large = an_evening(24)
    assert not is_small(large)
    desk.load(large, None)
    assert desk.proof is None and desk.derivation.pending
    slices = 0
    while desk.derivation.pending:
        desk.work(0.05)
        slices += 1
    assert slices > 5 and told == [desk.proof] and not desk.proof.good
    known = desk.proof
    desk.perform(set_zone("manual-0", 5, "z1", "Move", channel=3))
    assert desk.proof is known, "the last proof stands until the next is ready"
    while desk.derivation.pending:
        desk.work(0.05)
    assert desk.proof is not known


def test_what_was_changed_is_marked_until_it_is_looked_at():
    desk = Desk()
    desk.load(PLAN, None)
    desk.mark_unseen(("board/0/zone.all/channel", "box/part.piano/channel"))
    assert desk.unseen == {"board:all", "box:piano"}
    desk.select("board:all")
    assert desk.unseen == {"box:piano"}
    desk.look_at("box")
    assert not desk.unseen


def strike(desk, walk, key, bed="board:keys"):
    desk.stage.press(bed, key, 90, 0.0)
    walk.hear(desk.plan, desk.stage.last, desk.verdict(desk.stage.last))


def test_a_walk_by_ear_waits_for_what_was_heard():
    desk = Desk()
    desk.load(PLAN, None)
    walk = Walk(asks(desk.plan, desk.proof, ()), by_ear=True)
    strike(desk, walk, 60)
    assert walk.waiting and walk.answers[0].result == "untested"
    walk.confirm(False)
    assert walk.answers[0].result == "fail" and walk.ask is not None
    strike(desk, walk, 60)
    walk.confirm(True)
    assert walk.answers[0].result == "pass" and walk.ask is None
    desk.perform(walk.edit("2026-01-02 20:00"))
    assert [e.result for e in desk.plan.log] == ["pass"]


def test_a_strike_that_is_not_as_meant_fails():
    desk = Desk()
    desk.load(rig(keyboard(zone(octave=1)), module(part()), wishes=PLAN.wishes), None)
    walk = Walk(asks(desk.plan, desk.proof, ()))
    strike(desk, walk, 60)
    assert walk.answers[0].result == "fail" and "wrong" in walk.answers[0].got
