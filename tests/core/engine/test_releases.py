"""The law: a release reaches exactly what its strike reached, whatever changed in between."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.plans import NOTES, plans
from tests.rigs import keyboard, module, part, rig, simple, zone
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.controls import Control, Program, Send

KEYS, PEDAL = "board:keys", ("board:sustain", 1)


EVENTS = st.lists(
    st.one_of(
        st.tuples(st.just("on"), NOTES),
        st.tuples(st.just("off"), NOTES),
        st.tuples(st.just("pedal"), st.sampled_from([0, 127])),
        st.tuples(st.just("scene"), st.integers(0, 1)),
        st.tuples(st.just("plan"), st.integers(0, 2)),
    ),
    max_size=40,
)


@settings(max_examples=150, deadline=None)
@given(st.lists(plans(), min_size=3, max_size=3), EVENTS)
def test_nothing_hangs_whatever_changes_under_the_hands(rigs, events):
    at, where = rigs[0], 0
    playing = Performance(compile_scene(at, at.scenes[where]))
    down = set()
    for time, (kind, value) in enumerate(events):
        if kind == "on":
            playing.press((KEYS, value), 90, time)
            down.add(value)
        elif kind == "off":
            playing.release((KEYS, value), time)
            down.discard(value)
        elif kind == "pedal":
            playing.move(PEDAL, value, time)
        else:
            at, where = (rigs[value], where) if kind == "plan" else (at, value)
            playing.load(compile_scene(at, at.scenes[where]))
    for note in down:
        playing.release((KEYS, note), 1000)
    playing.move(PEDAL, 0, 1001)
    assert not playing.sounding and not playing.held()


@settings(max_examples=60, deadline=None)
@given(plans(), st.lists(NOTES, max_size=12))
def test_panic_stops_everything(plan, notes):
    playing = Performance(compile_scene(plan, plan.scenes[0]))
    playing.move(PEDAL, 127)
    for note in notes:
        playing.press((KEYS, note), 100)
    playing.panic()
    assert not playing.sounding and not playing.held()


def test_a_release_ends_the_note_that_began_not_the_one_it_would_begin():
    plan = simple()
    playing = Performance(compile_scene(plan, None))
    (voice,) = playing.press((KEYS, 60), 80)
    moved = set_zone("board", 0, "all", "Shift", transpose=7, channel=1)(plan)
    playing.load(compile_scene(moved, None))
    assert playing.release((KEYS, 60)) == [voice]
    assert not playing.sounding


def test_a_sustain_pedal_holds_from_64_on():
    for value, holds in ((63, False), (64, True)):
        playing = Performance(compile_scene(simple(), None))
        playing.move(("board:sustain", 1), value)
        playing.press(("board:keys", 60), 80)
        playing.release(("board:keys", 60))
        assert bool(playing.sounding) is holds, value


def test_sustain_holds_until_it_is_let_go():
    playing = Performance(compile_scene(simple(), None))
    playing.move(PEDAL, 127)
    (voice,) = playing.press((KEYS, 60), 80)
    assert playing.release((KEYS, 60)) == [] and playing.sounding == {voice}
    playing.move(PEDAL, 0)
    assert not playing.sounding


def test_a_toggled_loop_sounds_until_struck_again_and_a_mono_part_gives_way():
    looping = Performance(compile_scene(simple(trigger="toggle"), None))
    looping.press((KEYS, 60), 80)
    looping.release((KEYS, 60))
    assert len(looping.sounding) == 1
    looping.press((KEYS, 60), 80)
    looping.release((KEYS, 60))
    assert not looping.sounding
    mono = Performance(compile_scene(simple(mono=True), None))
    mono.press((KEYS, 60), 80)
    mono.press((KEYS, 64), 80)
    assert [v.landing.note for v in mono.sounding] == [64]


def all_notes_off_from_a_knob(number):
    knob = Control(id="hush", name="Hush", kind="knob")
    sends = (Send(control="hush", message="controller", number=number, channel=1),)
    zones = (zone(), zone("other", channel=2))
    program = Program(number=0, name="First", zones=zones, sends=sends)
    parts = (part(), part("organ", channel=2))
    return rig(keyboard(programs=(program,), controls=(knob,)), module(*parts))


@pytest.mark.parametrize("number", [120, 123])
def test_all_notes_off_ends_the_voices_of_its_own_channel_alone(number):
    playing = Performance(compile_scene(all_notes_off_from_a_knob(number), None))
    playing.press((KEYS, 60), 80)
    playing.move(("board:hush", 1), 0)
    assert [voice.landing.ref for voice in playing.sounding] == ["box:organ"]


def test_a_pedal_holds_what_hears_it_and_sustains():
    pedal = Send(control="sustain", message="controller", number=64, channel=1)
    zones = zone("a"), zone("b", channel=2), zone("c", channel=3)
    board = keyboard(programs=(Program(number=0, name="P", zones=zones, sends=(pedal,)),))
    dry = part("dry", 1, sustains=False)
    plan = rig(board, module(part("held", 1), dry, part("deaf", 2), part("far", 3)))
    hands = Performance(compile_scene(plan, None))
    hands.press(("board:keys", 60), 90)
    hands.move(("board:sustain", 1), 127)
    hands.release(("board:keys", 60))
    assert [v.landing.ref for v in hands.sounding] == ["box:held"]
    hands.move(("board:sustain", 1), 0)
    assert not hands.sounding


def test_a_voice_arrives_after_its_cable_and_sounds_after_its_device():
    plan = rig(keyboard(zone()), module(part(), delay_ms=2.0))
    hands = Performance(compile_scene(plan, None))
    (voice,) = hands.press(("board:keys", 60), 90, 100.0)
    assert voice.arrives == pytest.approx(100.96) and voice.delay_ms == pytest.approx(2.96)
    own = rig(keyboard(zone(), parts=(part("own"),), local=True), cables=())
    (voice,) = Performance(compile_scene(own, None)).press(("board:keys", 60), 90, 100.0)
    assert voice.arrives == 100.0
