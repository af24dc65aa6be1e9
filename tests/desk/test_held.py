"""Ticks are taken back by themselves; edits and undo never change what devices hold."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.every_edit import some_edits
from tests.memories import STORAGES, lines_of, memories, stored_plans
from tests.rigs import keyboard, module, part, rig, wish, zone
from tests.scale import scaled
from vastzone.core.errors import EditError
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.memory.checks import checked_places
from vastzone.core.memory.contents import alike
from vastzone.core.memory.rig import memory_of
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.wishes import remove
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.checked import changed
from vastzone.core.proof.walk import asks
from vastzone.desk.practice import Practice
from vastzone.desk.session import Desk
from vastzone.desk.walk import Walk
from vastzone.files import native

PLAN = rig(keyboard(zone()), module(part()), wishes=(wish("piano", "box:piano"),))


@settings(max_examples=scaled(25), deadline=None)
@given(st.data())
def test_taking_all_ticks_back_gives_the_memory_as_it_was_whatever_is_edited(data):
    earlier = data.draw(stored_plans())
    plan = data.draw(some_edits(earlier))
    desk = Desk()
    desk.load(earlier, None, memory=of_plan(earlier))
    before = desk.memory
    desk.perform(Edit("Other numbers", lambda _: plan))
    known = {device.id for device in earlier.devices}
    for device, line in lines_of(plan, desk.memory)[:12]:
        desk.tick(device.id, line.operation, line.words)
        if data.draw(st.booleans()):
            held = desk.memory
            desk.undo()
            desk.redo()
            assert desk.memory is held
    while desk.held.label:
        desk.take_back()
    now = {held.device: held for held in desk.memory.devices if held.device in known}
    assert now == {held.device: held for held in before.devices}


@settings(max_examples=scaled(25), deadline=None)
@given(st.data())
def test_what_devices_hold_is_read_back_from_a_file_as_it_was(data):
    plan = data.draw(stored_plans())
    memory = data.draw(memories(plan, plan))
    back = native.rig_from_json(native.to_json(plan, memory), "rig")
    assert back.plan == plan
    for device in plan.devices:
        held, again = memory_of(memory, device), memory_of(back.memory, device)
        assert (again.values, again.selected, again.since) == (
            held.values,
            held.selected,
            held.since,
        )
        assert again.past == held.past and again.known == held.known
        assert len(again.slots) == len(held.slots)
        for one, other in zip(held.slots, again.slots, strict=True):
            assert one.slot == other.slot and alike(one.content, other.content)


def test_as_dialled_an_edit_is_a_reading_and_the_plan_itself_cannot_be_changed():
    desk = Desk()
    desk.load(PLAN, None)
    desk.look("dialled")
    desk.perform(set_zone("board", 0, "all", "Move", channel=7))
    assert desk.planned is PLAN and desk.plan.devices[0].programs[0].zones[0].channel == 7
    assert not desk.proof.good and desk.undo_label is None
    with pytest.raises(EditError, match="as planned"):
        desk.perform(remove("piano"))
    desk.take_back()
    assert desk.proof.good
    desk.look("planned")
    assert desk.plan is PLAN


def test_a_real_strike_checks_what_it_shows_and_a_simulated_one_nothing():
    desk = Desk()
    desk.load(PLAN, None)
    walk = Walk(asks(desk.plan, desk.proof, ()))
    desk.stage.press("board:keys", 60, 90, 0.0)
    walk.hear(desk.plan, desk.stage.last, desk.verdict(desk.stage.last))
    assert walk.answers[0].result == "pass" and not walk.answers[0].real
    board = desk.planned.devices[0]
    assert not checked_places(memory_of(desk.memory, board))
    walk.go(-1)
    wrong = Message("note_on", 4, 60, 90)
    walk.hear(desk.plan, desk.stage.last, desk.verdict(desk.stage.last), wrong)
    assert walk.answers[0].result == "fail" and walk.answers[0].real
    real = Message("note_on", 0, 60, 90)
    walk.hear(desk.plan, desk.stage.last, desk.verdict(desk.stage.last), real)
    desk.struck(desk.stage.last, real)
    assert walk.answers[0].result == "pass"
    assert set(checked_places(memory_of(desk.memory, board))) == {
        "0-0/zone.all/channel",
        "0-0/zone.all/transpose",
    }
    desk.perform(set_zone("board", 0, "all", "Move", channel=7))
    assert checked_places(memory_of(desk.memory, board)), "the device holds it still"


@pytest.mark.parametrize("storage", STORAGES)
def test_practice_leads_to_the_plan_and_leaves_no_trace(storage):
    board = changed(PLAN.devices[0], storage=storage)
    old = changed(PLAN, devices=(board, PLAN.devices[1]))
    new = set_zone("board", 0, "all", "Move", channel=7)(old)
    memory = of_plan(old)
    practice = Practice(new, memory, new.devices[0])
    for line in practice.card().lines:
        if line.waits:
            practice.do(line)
    assert practice.is_over and not practice.read_back()
    assert memory == of_plan(old)
