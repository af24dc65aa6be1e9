import pytest

from tests.rigs import keyboard, module, part, rig, simple, zone
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.trace import TraceEntry, last_of_each, trace
from vastzone.core.midi.messages import Message

EVENTS = [
    (0.0, Message("note_on", 5, 60, 90)),
    (0.0, Message("note_on", 5, 64, 90)),
    (10.0, Message("note_off", 5, 60)),
    (10.0, Message("note_off", 5, 64)),
    (20.0, Message("note_on", 0, 20, 90)),
    (30.0, Message("controller", 0, 74, 1)),
]


def test_through_the_keys_the_channel_does_not_matter():
    told = trace(compile_scene(simple(), None), EVENTS, TraceEntry("board", "keys"))
    (heard,) = told.heard
    assert (heard.ref, heard.notes, heard.low, heard.high) == ("box:piano", 2, 60, 64)
    assert heard.worst_ms == pytest.approx(1.92)
    assert {lost.events for lost in told.lost} == {1} and len(told.lost) == 2
    assert told.hanging == 0 and told.events == 6


def test_from_an_output_each_message_keeps_its_channel():
    plan = rig(keyboard(zone()), module(part("five", 6), part("one", 1, low=60)))
    told = trace(compile_scene(plan, None), EVENTS, TraceEntry("board", port="out"))
    assert [(h.ref, h.notes) for h in told.heard] == [("box:five", 2)]
    assert len(told.lost) == 1 and "octave" not in told.lost[0].sentence


def test_a_note_left_on_is_counted():
    told = trace(compile_scene(simple(), None), EVENTS[:1], TraceEntry("board", "keys"))
    assert told.hanging == 1


def test_of_many_messages_the_last_of_each_key_and_control_is_left_in_order():
    on, off = Message("note_on", 0, 60, 90), Message("note_off", 0, 60)
    other = Message("note_on", 1, 60, 90)
    first, last = Message("controller", 0, 7, 1), Message("controller", 0, 7, 2)
    apart = Message("controller", 0, 8, 3)
    bends = Message("bend", 0, 100), Message("bend", 0, 9000)
    programs = Message("program", 0, 3), Message("program", 0, 4)
    assert last_of_each([on, first, other, off, apart, last]) == [other, off, apart, last]
    assert last_of_each([*bends, *programs]) == [bends[1], programs[1]]
    assert last_of_each([off, on]) == [on] and last_of_each([]) == []
