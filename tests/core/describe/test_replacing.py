"""Taking things out, putting another device in: what fits moves over, the rest is told."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.memories import stored_plans
from tests.scale import scaled
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import new_device
from vastzone.core.describe.removing import losses, remove_things
from vastzone.core.describe.replacing import differences, replace
from vastzone.core.describe.things import Thing, things_of
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.memory.described import out_of_its_box
from vastzone.core.memory.rig import memory_of
from vastzone.core.plan.queries.consistency import problems
from vastzone.files import native
from vastzone.files.devices import read_device, shipped, write_device

PLANS = st.one_of(stored_plans(), st.sampled_from(sorted(RIGS)).map(lambda name: RIGS[name]()))


@settings(max_examples=scaled(60), deadline=None)
@given(PLANS, st.data())
def test_replacing_by_itself_changes_nothing(plan, data):
    device = data.draw(st.sampled_from(plan.devices))
    replacing = replace(plan, device.id, device)
    assert replacing.edit(plan) == plan
    assert replacing.lost == replacing.stand_ins == differences(device, device) == ()


@pytest.mark.parametrize("path", [demo.AS_FOUND, demo.READY], ids=["as found", "ready"])
def test_each_device_of_the_demo_replaced_by_its_boxed_self_keeps_the_plan(path):
    plan = native.read(path)
    for device in plan.devices:
        boxed = out_of_its_box(device, memory_of(of_plan(plan), device))
        assert replace(plan, device.id, boxed).edit(plan) == plan


@settings(max_examples=scaled(60), deadline=None)
@given(PLANS, st.data())
def test_any_device_in_the_place_of_any_other_is_a_whole_plan(plan, data):
    device = data.draw(st.sampled_from(plan.devices))
    other = data.draw(st.sampled_from([*shipped().values(), *plan.devices]))
    replacing = replace(plan, device.id, other)
    after = replacing.edit.change(plan)
    assert list(problems(after)) == []
    kept = len(after.wishes) + sum(sentence.endswith("goes.") for sentence in replacing.lost)
    assert kept == len(plan.wishes)


@settings(max_examples=scaled(60), deadline=None)
@given(PLANS, st.data())
def test_whatever_is_taken_out_leaves_a_whole_plan_and_tells_what_goes(plan, data):
    device = data.draw(st.sampled_from(plan.devices))
    there = sorted(things_of(device))
    if not there:
        return
    things = data.draw(st.lists(st.sampled_from(there), min_size=1, max_size=4))
    after = remove_things(device.id, things)(plan)
    assert list(problems(after)) == []
    whole = after.wishes == plan.wishes and after.cables == plan.cables
    whole = whole and (after.plugs, after.pedal_plugs) == (plan.plugs, plan.pedal_plugs)
    whole = whole and sounding(after) == sounding(plan)
    assert bool(losses(plan, after)) is not whole


def sounding(plan):
    """Which sounds of each wish a kit has."""
    found = set()
    for wish in plan.wishes:
        for device in plan.devices:
            if (wish.plays or "").split(":")[0] == device.id:
                held = {sound.id for kit in device.kits for sound in kit.sounds}
                found.update((wish.id, sound) for sound in wish.sounds if sound in held)
    return found


def test_sounds_that_a_wish_is_for_are_told_with_their_kit():
    plan = native.read(demo.READY)
    wish = next(wish for wish in plan.wishes if wish.sounds)
    owner = next(device for device in plan.devices if device.id == wish.plays.split(":")[0])
    after = remove_things(owner.id, [Thing("kits", kit.id) for kit in owner.kits])(plan)
    assert len(losses(plan, after)) >= len(wish.sounds)


def test_what_has_no_like_is_told_with_its_stand_in():
    plan = RIGS["a"]()
    small = new_device(read_line("Small: 49 keys, 4 pads, 3 faders, 8 knobs, 2 buttons, USB"))
    replacing = replace(plan, "plover", small)
    after = replacing.edit(plan)
    assert any("volume-4" in sentence for sentence in replacing.lost)
    assert any(sentence.startswith("Fader 4: nearest is ") for sentence in replacing.stand_ins)
    moved = {wish.id: wish.sources for wish in after.wishes}
    assert moved["volume-3"] == ("plover:fader-3",) and moved["loop-4"] == ("plover:pad-4",)
    assert len(after.cables) == 1


def test_a_newer_file_tells_what_is_otherwise():
    old = new_device(read_line("Box: 8 pads, 2 faders"))
    new = new_device(read_line("Box: 8 pads in 3 banks, 3 faders"))
    told = differences(old, new)
    assert "Pad 1: banks 1 → 3." in told
    assert "Fader 3 is new: control." in told


@pytest.mark.parametrize("device", shipped().values(), ids=lambda device: device.id)
def test_a_device_written_and_read_again_is_equal(device, tmp_path):
    write_device(device, tmp_path / "d.vzdevice")
    assert read_device(tmp_path / "d.vzdevice") == device


def test_taking_a_jack_out_takes_what_it_moves():
    device = new_device(read_line("Board: 61 keys, sustain jack, USB"))
    plan = native.read(demo.READY)
    plan = type(plan)(name="Plan", devices=(device,))
    after = remove_things(device.id, [Thing("jacks", "sustain-jack")])(plan)
    assert after.devices[0].controls == () and after.devices[0].programs[0].sends == ()
