import pytest

from tests.rigs import keyboard, module, part, rig, simple, zone
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.trace import TraceEntry, trace
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
