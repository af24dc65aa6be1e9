"""The plan without something: what it claims to keep is as meant."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.core.audio.rigs import cable as audio_cable
from tests.core.audio.rigs import desk, outputs
from tests.random_rigs import wide_plans
from tests.rigs import keyboard, module, pads, part, rig, wish, zone
from tests.scale import scaled
from vastzone import demo
from vastzone.core.plan.model.audio import AudioPass
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, Thru
from vastzone.core.plan.queries.consistency import problems
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.losing import kept_in, losses, taken_away
from vastzone.core.solve.numbers import Solution
from vastzone.core.solve.without import every_loss, without, worst_first
from vastzone.files import native


def solved(plan):
    found = work_out(plan)
    assert isinstance(found, Solution), found
    return found.plan


def loss_of(plan, name):
    return next(loss for loss in losses(plan) if loss.name == name)


def bears_out(plan, told):
    """What is claimed of a stand-in is so, by its own proof read plainly."""
    assert not list(problems(told.stand_in))
    was, now = kept_in(plan), kept_in(told.stand_in)
    proof = prove(told.stand_in)
    for ident in told.kept:
        for scene, held in was.items():
            if ident in held:
                assert ident in now[scene]
                marks = [mark for mark in proof.marks(scene) if ident in mark.wishes]
                assert marks and {mark.verdict for mark in marks} == {"as meant"}
    assert {one.wish for one in told.moved} <= told.kept
    assert told.weight >= told.bare_weight - 1e-9
    assert not set(told.dropped) & told.kept


@settings(max_examples=scaled(12), deadline=None, suppress_health_check=list(HealthCheck))
@given(wide_plans(), st.data())
def test_a_stand_in_plan_proves_what_it_claims(plan, data):
    found = work_out(plan)
    if not isinstance(found, Solution):
        return
    every = losses(found.plan)
    loss = data.draw(st.sampled_from(every))
    bears_out(found.plan, without(found.plan, loss))


@pytest.fixture(scope="module")
def ready():
    return native.read(demo.READY)


def test_every_device_of_the_demo_in_turn(ready):
    told = list(every_loss(ready))
    assert [one.loss.ident for one in told] == [device.id for device in ready.devices]
    for one in told:
        bears_out(ready, one)
    by_name = {one.loss.name: one for one in told}
    assert by_name["Dipper 12"].moved and by_name["Dipper 12"].weight > 0.9
    assert by_name["Weir"].changes == 1 and by_name["Weir"].weight > by_name["Weir"].bare_weight
    assert by_name["Theatre desk"].weight < 0.6
    assert by_name["Sluice"].weight > 0.8
    weights = [one.weight for one in worst_first(told)]
    assert weights == sorted(weights)


def two_boards():
    """Two equal keyboards, of which the second has nothing to do."""
    port = Port(id="in2", name="In 2", flow="in")
    box = module(part(), ports=(Port(id="in", name="in", flow="in"), port))
    plan = rig(
        keyboard(zone()),
        keyboard(zone(), ident="spare"),
        box,
        cables=(("board:out", "box:in"), ("spare:out", "box:in2")),
        wishes=(wish("piano", "box:piano"),),
    )
    return solved(plan)


def test_a_spare_keyboard_stands_in_key_for_key():
    plan = two_boards()
    told = without(plan, loss_of(plan, "Board"))
    assert told.bare_weight == 0.0 and told.weight == 1.0
    assert [one.words for one in told.moved] == ["Piano: keys of Spare"]
    assert told.stand_in.wishes[0].sources == ("spare:keys",)
    bears_out(plan, told)


def test_what_matters_more_gets_what_there_is():
    """One spare pad for two that are gone: the one that matters more."""
    drums, spare = pads(2), pads(1, ident="spare")
    box = module(
        part("kick", 1),
        part("snare", 2),
        ports=(Port(id="in", name="in", flow="in"), Port(id="in2", name="in2", flow="in")),
    )
    wishes = (
        wish("kick", "box:kick", sources=("pads:pad-1",), note=60),
        changed(wish("snare", "box:snare", sources=("pads:pad-2",), note=60), matters=5),
    )
    plan = rig(
        drums, spare, box, cables=(("pads:out", "box:in"), ("spare:out", "box:in2")), wishes=wishes
    )
    plan = solved(plan)
    told = without(plan, loss_of(plan, "Pads"))
    assert [one.wish for one in told.moved] == ["snare"]
    assert told.weight == pytest.approx(5 / 8)


def chained():
    """A keyboard, a module, and another behind its thru."""
    first = module(
        part("near", 1),
        ident="first",
        ports=(Port(id="in", name="In", flow="in"), Port(id="thru", name="Thru", flow="out")),
        thrus=(Thru(source="in", dest="thru"),),
    )
    plan = Plan(
        name="Chain",
        devices=(
            keyboard(zone(high=59), zone("far", low=60, channel=2)),
            first,
            module(part("far", 2)),
        ),
        cables=(
            Cable(source="board:out", dest="first:in"),
            Cable(source="first:thru", dest="box:in"),
        ),
        wishes=(wish("near", "first:near", 36, 59), wish("far", "box:far", 60, 96)),
    )
    return solved(plan)


def test_a_device_in_a_chain_is_bypassed():
    plan = chained()
    told = without(plan, loss_of(plan, "First"))
    assert told.bare_weight == 0.0 and told.weight == 0.5
    assert told.stand_in.cables == (Cable(source="board:out", dest="box:in"),)
    assert told.changes == 1


def test_a_cable_that_fails_and_a_pedal_that_breaks_are_told(ready):
    first = next(loss for loss in losses(ready) if loss.kind == "cable")
    assert without(ready, first).bare_weight < 1.0
    pedal = next(loss for loss in losses(ready) if loss.kind == "pedal")
    told = without(ready, pedal)
    assert all(plug.pedal != pedal.ident for plug in told.stand_in.pedal_plugs)
    bears_out(ready, told)


def test_sound_that_went_through_what_is_gone_goes_straight_to_the_desk():
    box = changed(module(part()), outputs=outputs(1))
    between = Device(
        id="between",
        name="Between",
        kind="interface",
        outputs=outputs(1),
        audio_inputs=desk(1).audio_inputs,
    )
    plan = rig(keyboard(zone()), box, between, desk(2), wishes=(wish("piano", "box:piano"),))
    ways = (audio_cable("box:1", "between:ch-1"), audio_cable("between:1", "desk:ch-1"))
    passing = changed(plan.devices[2], audio_passes=(AudioPass(source="ch-1", dest="1"),))
    plan = changed(plan, devices=(*plan.devices[:2], passing, plan.devices[3]), audio_cables=ways)
    told = without(plan, loss_of(plan, "Between"))
    assert taken_away(plan, told.loss).audio_cables == ()
    assert told.bare_weight == 0.0 and told.weight == 1.0
    assert [one.dest for one in told.stand_in.audio_cables] == ["desk:ch-1"]
