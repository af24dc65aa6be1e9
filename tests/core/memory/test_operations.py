"""What is done at a device: small cases worked out by hand."""

import msgspec
import pytest

from tests.rigs import keyboard, module, part, rig, zone
from vastzone.core.errors import EditError
from vastzone.core.memory.beginnings import as_it_stands, not_known, of_plan, out_of_the_box
from vastzone.core.memory.checks import checked, checked_places
from vastzone.core.memory.contents import in_slot, playing
from vastzone.core.memory.dialled import dialled_device
from vastzone.core.memory.differences import left_to_dial, pending
from vastzone.core.memory.display import read_words, readable
from vastzone.core.memory.model import DeviceMemory, Known
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.past import LONGEST, factory, held_on, snapshots
from vastzone.core.memory.provenance import known_of
from vastzone.core.memory.readings import read_back, seen_otherwise
from vastzone.core.memory.restoring import (
    backed_up,
    begun_anew,
    is_backed_up,
    reset,
    restored,
    taken_from_file,
)
from vastzone.core.memory.rig import as_dialled, with_memory
from vastzone.core.memory.struck import told_by_control, told_by_key
from vastzone.core.midi.messages import Message
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send, Slot
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.plan import Storage, Switch
from vastzone.core.proof.dialled import prove_dialled

FIRST, SECOND = Slot(number=0), Slot(number=1)
CHANNEL = "board/0/zone.all/channel"


def known(day, by="ab", how="dialled"):
    return Known(on=f"2026-05-{day:02}", how=how, by=by)


def board(channel=1, second=1, **more):
    programs = (
        Program(id="0", number=0, name="First", zones=(zone(channel=channel),)),
        Program(id="1", number=1, name="Second", zones=(zone(channel=second),)),
    )
    return keyboard(programs=programs, **more)


def begun(device=None):
    return out_of_the_box(device or board(), "2026-05-01")


def channel(content):
    return content.program.zones[0].channel


def do(memory, device, *operations, day=2):
    for operation in operations:
        memory = perform(memory, device, operation, known(day))
    return memory


DIAL = Operation("dial", (CHANNEL,))


def test_what_is_dialled_is_in_the_buffer_until_it_is_stored():
    wanted = board(5)
    sent = do(begun(), wanted, DIAL)
    assert channel(playing(sent)) == 5 and channel(in_slot(sent, FIRST)) == 1
    left = left_to_dial(wanted, sent, 0)
    assert pending(left.programs[0]) == {"zone.all/channel": "sent"}
    stored = do(sent, wanted, Operation("store", slot=FIRST))
    assert left_to_dial(wanted, stored, 0).nothing and stored.buffer is None
    assert in_slot(stored, FIRST).program is wanted.programs[0], "the very value of the plan"


def test_what_is_not_stored_is_lost_by_selecting_another_slot_or_by_switching_off():
    wanted = board(5)
    for away in (Operation("select", slot=SECOND), Operation("power")):
        lost = do(begun(), wanted, DIAL, away, Operation("select", slot=FIRST))
        assert channel(playing(lost)) == 1


def test_storing_to_a_wrong_slot_overwrites_that_and_leaves_the_right_one():
    wanted = board(5)
    wrong = do(begun(), wanted, DIAL, Operation("store", slot=SECOND))
    assert (channel(in_slot(wrong, FIRST)), channel(in_slot(wrong, SECOND))) == (1, 5)
    played = dialled_device(wanted, wrong)
    assert [program.zones[0].channel for program in played.programs] == [1, 5]


def test_the_selected_slot_plays_the_buffer_and_the_others_what_they_store():
    wanted = board(5, 7)
    sent = do(begun(), wanted, DIAL)
    played = dialled_device(wanted, sent)
    assert [program.zones[0].channel for program in played.programs] == [5, 1]


def test_without_a_buffer_it_is_kept_as_it_is_dialled():
    wanted = board(5, storage=Storage(buffer=False))
    kept = do(begun(wanted), wanted, DIAL, Operation("power"))
    assert channel(in_slot(kept, FIRST)) == 5


def test_an_editor_may_write_slots_whatever_is_on():
    wanted = board(1, 9, storage=Storage(editor="slots"))
    into = Operation("dial", ("board/1/zone.all/channel",), SECOND)
    written = do(begun(), wanted, into)
    assert (channel(in_slot(written, SECOND)), channel(playing(written))) == (9, 1)


def test_what_is_kept_only_on_write_falls_back_when_it_is_switched_off():
    def device(choice):
        switch = Switch(id="clock", name="Clock", choices=("inside", "outside"), choice=choice)
        return board(switches=(switch,), storage=Storage(whole="on write"))

    key, dial = "switch.clock/choice", Operation("dial", ("board/switch.clock/choice",))
    old, new = device(0), device(1)
    assert new.switches[0].kept == "at once", "the switch itself says otherwise"
    switch = changed(new.switches[0], kept="on write")
    new = changed(new, switches=(switch,))
    set_ = do(begun(old), new, dial)
    assert set_.values[key] == "1" and left_to_dial(new, set_, 0).unwritten == {key}
    assert do(set_, new, Operation("power")).values[key] == "0"
    assert do(set_, new, Operation("write"), Operation("power")).values[key] == "1"


def test_what_a_device_has_once_is_dialled_once_for_all_its_programs():
    once = (ScopeLimit(setting="zone-channel", scope="global"),)
    wanted = board(6, 6, limits=once)
    held = do(begun(board(1, 1, limits=once)), wanted, DIAL)
    assert left_to_dial(wanted, held, 0).nothing
    played = dialled_device(wanted, begun(board(1, 1, limits=once)))
    assert {program.zones[0].channel for program in played.programs} == {1}


def test_a_thing_that_the_plan_has_no_more_is_taken_out_and_a_new_one_put_in():
    old = keyboard(zone("a", 36, 59), zone("b", 60, 96))
    new = keyboard(zone("a", 36, 59), zone("c", 60, 96))
    left = left_to_dial(new, begun(old), 0)
    differences = left.programs[0].in_slots[0][1]
    assert {d.dial.owner.thing.id for d in differences} == {"b", "c"}
    assert [d.gone for d in differences if d.dial.owner.thing.id == "b"] == [True]
    refs = tuple(d.dial.ref for d in differences)
    done = do(begun(old), new, Operation("dial", refs), Operation("store", slot=FIRST))
    assert left_to_dial(new, done, 0).nothing


def test_provenance_is_told_once_for_an_operation_and_found_by_place():
    wanted = board(5)
    held = do(begun(), wanted, DIAL, Operation("store", slot=FIRST), day=3)
    assert known_of(held, "0-0/zone.all/channel") == known(3)
    assert known_of(held, "0-1/zone.all/channel").how == "out of the box"
    assert len(held.known) == 2 and held.since["0-0"] != held.since["0-1"]


def test_the_days_before_are_kept_as_differences_twelve_at_most_and_the_factory_always():
    memory = begun()
    for day in range(2, 22):
        device = board(day % 16 + 1)
        memory = do(memory, device, DIAL, Operation("store", slot=FIRST), day=day)
    assert len(memory.past) == LONGEST
    assert channel(in_slot(held_on(memory, "2026-05-20"), FIRST)) == 20 % 16 + 1
    assert channel(in_slot(factory(memory), FIRST)) == 1
    assert channel(in_slot(snapshots(memory)[0].memory, FIRST)) == 20 % 16 + 1
    sizes = [len(msgspec.json.encode(state)) for state in memory.past]
    assert max(sizes) < len(msgspec.json.encode(memory.slots)), "differences, no copies"


def test_two_operations_of_a_day_are_one_state():
    wanted = board(5, 6)
    memory = do(begun(), wanted, DIAL, Operation("store", slot=FIRST), day=2)
    memory = do(memory, wanted, Operation("select", slot=SECOND), day=2)
    assert [state.on for state in memory.past] == ["2026-05-01"]
    assert channel(in_slot(snapshots(memory)[0].memory, FIRST)) == 1


def test_a_reset_keeps_what_was_there_and_a_restore_brings_it_back():
    wanted = board(5, storage=Storage(restores=True))
    dialled = do(begun(), wanted, DIAL, Operation("store", slot=FIRST))
    fresh = reset(dialled, wanted, known(3))
    assert channel(in_slot(fresh, FIRST)) == 1 and fresh.past[0].label == "before the reset"
    before = snapshots(fresh)[0].memory
    again = restored(fresh, wanted, before, known(4))
    assert left_to_dial(wanted, again, 0).nothing
    with pytest.raises(EditError):
        restored(fresh, board(5), before, known(4))
    assert begun_anew(dialled, wanted, "not known", known(4)).slots == ()
    planned = begun_anew(fresh, wanted, "as planned", known(4))
    assert left_to_dial(wanted, planned, 0).nothing


def test_a_reset_of_a_device_whose_factory_nobody_knows_leaves_nothing_known():
    fresh = reset(as_it_stands(board(), "2026-05-01", "typed in"), board(), known(2))
    assert not fresh.slots and not fresh.values and fresh.past


def test_a_backup_holds_for_what_was_stored_then():
    marked = backed_up(begun(), known(2))
    assert is_backed_up(marked) and marked.backup.on == "2026-05-02"
    wanted = board(5)
    sent = do(marked, wanted, DIAL)
    assert is_backed_up(sent), "the buffer is not backed up"
    assert not is_backed_up(do(sent, wanted, Operation("store", slot=FIRST)))


def test_a_memory_is_told_once_for_two_plans():
    dialled = do(begun(), board(5), DIAL, Operation("store", slot=FIRST))
    other = changed(board(5), id="same-keyboard")
    told = taken_from_file(not_known(other), other, dialled, known(5))
    assert told.device == "same-keyboard" and left_to_dial(other, told, 0).nothing
    assert known_of(told, "0-0").how == "from a file"


def test_a_check_holds_as_long_as_the_value_does_and_not_from_an_unstored_buffer():
    wanted = board(5)
    sent = do(begun(), wanted, DIAL)
    assert not checked(sent, wanted, (CHANNEL,), FIRST, known(3)).checks
    stored = do(sent, wanted, Operation("store", slot=FIRST))
    right = checked(stored, wanted, (CHANNEL,), FIRST, known(3))
    assert list(checked_places(right)) == ["0-0/zone.all/channel"]
    other = board(9)
    assert not do(right, other, DIAL, Operation("store", slot=FIRST)).checks
    assert not reset(right, wanted, known(4)).checks
    same = do(right, wanted, Operation("select", slot=SECOND))
    assert same.checks, "selecting changes no value"


def test_a_reading_is_of_the_buffer_and_of_a_slot_that_was_just_selected():
    wanted = board(5)
    just = read_back(begun(), wanted, {CHANNEL: 9}, known(2))
    assert channel(in_slot(just, FIRST)) == 9 and just.buffer is None
    sent = do(begun(), wanted, DIAL)
    later = read_back(sent, wanted, {CHANNEL: 9}, known(2))
    assert (channel(playing(later)), channel(in_slot(later, FIRST))) == (9, 1)


def test_what_nobody_knows_is_said_so_in_the_proof_as_dialled():
    plan = rig(board(), module(part()))
    wished = changed(plan, wishes=())
    memory = with_memory(of_plan(wished), not_known(plan.devices[0]))
    from tests.rigs import wish

    wished = changed(wished, wishes=(wish("w", "box:piano", 36, 96),))
    proof = prove_dialled(wished, memory)
    assert {mark.verdict for _, mark in proof.faults()} == {"not known"}
    read = read_back(not_known(plan.devices[0]), wished.devices[0], {CHANNEL: 1}, known(2))
    assert read.buffer.unknown and not read.buffer.whole
    assert prove_dialled(wished, of_plan(wished)).good


def test_what_was_seen_otherwise_is_what_the_device_holds():
    wanted = board(5, 5)
    held = as_it_stands(wanted, "2026-05-01", "typed in")
    before = dialled_device(wanted, held)
    programs = (changed(before.programs[0], zones=(zone(channel=9),)), before.programs[1])
    seen = seen_otherwise(held, before, changed(before, programs=programs), known(2))
    assert (channel(in_slot(seen, FIRST)), channel(in_slot(seen, SECOND))) == (9, 5)
    assert pending(left_to_dial(wanted, seen, 0).programs[0]) == {"zone.all/channel": "planned"}


def test_a_display_is_read_in_the_devices_own_naming():
    send = Send(control="pad", message="note", channel=1, number=36)
    program = Program(number=0, name="One", sends=(send,))
    pad = Control(id="pad", name="Pad", kind="pad")
    device = keyboard(controls=(pad,), programs=(program,), octaves=3)
    held = begun(device)
    shown = {one.ref: one for one in readable(device, held, program)}
    assert shown["board/0/pad.1/number"].held == "C1 (36)"
    typed = {"board/0/pad.1/message": "controller", "board/0/pad.1/number": "28"}
    values = read_words(device, held, program, typed)
    seen = read_back(held, device, values, known(2))
    pad_held = in_slot(seen, FIRST).program.sends[0]
    assert (pad_held.message, pad_held.number) == ("controller", 28)
    for wrong in ("H1", "129"):
        with pytest.raises(EditError, match="Pad"):
            read_words(device, held, program, {"board/0/pad.1/number": wrong})


def test_a_strike_tells_message_channel_and_number_and_no_more():
    send = Send(control="pad", message="note", channel=3, number=36)
    program = Program(number=0, name="One", sends=(send,), zones=(zone(channel=4, transpose=12),))
    device = keyboard(controls=(Control(id="pad", name="Pad", kind="pad"),), programs=(program,))
    told = told_by_control(device, program, "pad", 1, Message("note_on", 2, 38, 90))
    assert {ref.rpartition("/")[2] for ref in told} == {"message", "channel", "number"}
    assert told["board/0/pad.1/channel"] == 3 and told["board/0/pad.1/number"] == 38
    told = told_by_key(device, program, 48, Message("note_on", 6, 60, 90))
    assert told == {"board/0/zone.all/channel": 7, "board/0/zone.all/transpose": 12}
    layered = changed(program, zones=(zone("a"), zone("b")))
    assert not told_by_key(device, layered, 48, Message("note_on", 6, 60, 90))


def test_a_memory_that_says_what_the_plan_says_is_the_plan():
    plan = rig(board(), module(part()))
    assert as_dialled(plan, of_plan(plan)) is plan
    assert DeviceMemory(device="board") == not_known(plan.devices[0])


def shown_of(device, held, program):
    return {
        one.ref.rpartition("/")[0].rpartition("/")[2] + "/" + one.ref.rpartition("/")[2]: one.held
        for one in readable(device, held, program)
    }


def test_what_is_thought_to_be_shown_is_what_is_held_nothing_or_not_known():
    wanted = board(5)
    wrong = do(begun(), wanted, Operation("select", slot=SECOND), Operation("store", slot=FIRST))
    shown = shown_of(wanted, wrong, wanted.programs[0])
    assert shown["program.0/name"] == "Second" and shown["zone.all/channel"] == "1"
    other = keyboard(zone("left", 36, 59), zone("right", 60, 96))
    shown = shown_of(other, begun(), other.programs[0])
    assert shown["zone.left/channel"] == "nothing"
    shown = shown_of(other, not_known(other), other.programs[0])
    assert {shown["zone.left/channel"], shown["program.0/name"]} == {"not known"}
    box = module(part())
    assert shown_of(box, not_known(box), None)["part.piano/channel"] == "not known"
    assert shown_of(box, out_of_the_box(box, ""), None)["part.piano/channel"] == "1"
