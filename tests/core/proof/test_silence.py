"""Why something is silent, in the order in which one looks; what there is to strike."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.random_rigs import wide_plans
from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from tests.scale import scaled
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.voice import Voice
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import Answers, CountLimit, Reserved
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries.channels import channel_free
from vastzone.core.plan.queries.limits import (
    answered_notes,
    kept_channels,
    kept_controllers,
    slots_free,
    why_kept,
)
from vastzone.core.proof.marking import prove
from vastzone.core.proof.silence import why_is_it_silent
from vastzone.core.proof.walk import asks
from vastzone.core.proof.words import thing_words


def cause(plan, source="board:keys", number=60, velocity=96, at=None):
    found = why_is_it_silent(plan, at, source, number, velocity).cause
    return found.cause if found else None


@pytest.mark.parametrize(
    ("plan", "why"),
    [
        (rig(keyboard(zone()), module(part())), None),
        (rig(keyboard(zone()), module(part()), cables=()), "no cable"),
        (rig(keyboard(zone(high=59)), module(part())), "dead key"),
        (rig(keyboard(zone(on=False)), module(part())), "zone off"),
        (rig(keyboard(zone(channel=2)), module(part())), "channel"),
        (rig(keyboard(zone()), module(part(low=61))), "note range"),
        (rig(keyboard(zone(vel_low=97)), module(part())), "zone velocity"),
        (rig(keyboard(zone(vel_low=96)), module(part())), None),
        (rig(keyboard(zone()), module(part(vel_high=95))), "part velocity"),
        (rig(keyboard(zone()), module(part(vel_high=96))), None),
        (rig(keyboard(zone(octave=5, transpose=8)), module(part())), "outside 0–127"),
    ],
)
def test_a_silent_key_has_its_first_cause(plan, why):
    assert cause(plan) == why


def test_another_program_that_would_play_the_key_is_named():
    programs = (
        Program(number=0, name="Low", zones=(zone(high=59),)),
        Program(number=1, name="High", zones=(zone(low=60),)),
        Program(number=2, name="Off", zones=(zone(low=60, on=False),)),
    )
    plan = rig(
        keyboard(programs=programs, first_program=1), module(part()), scenes=(scene("a", board=0),)
    )
    found = why_is_it_silent(plan, plan.scenes[0], "board:keys", 60).cause
    assert found is not None and "program 2, High" in found.sentence
    none = why_is_it_silent(plan, plan.scenes[0], "board:keys", 59).cause
    assert none is None


def test_a_silent_control_says_whether_it_sends_at_all():
    pad = Control(id="pad", name="Pad", kind="pad", banks=2)
    send = Send(control="pad", message="note", number=60, channel=1)

    def plan(*sends, **more):
        board = keyboard(controls=(pad,), programs=(Program(number=0, name="P", sends=sends),))
        return rig(board, module(part(**more)))

    assert cause(plan(), "board:pad", 1) == "dead key"
    assert cause(plan(send), "board:pad", 1) is None
    assert cause(plan(send), "board:pad", 2) == "dead key"
    assert cause(plan(Send(control="pad", message="none")), "board:pad", 1) == "dead key"
    assert cause(plan(send, channel=2), "board:pad", 1) == "channel"
    assert cause(plan(send, low=61), "board:pad", 1) == "note range"


def test_what_only_a_person_can_look_at_goes_from_hands_to_ears():
    plan = rig(keyboard(zone()), module(part()), module(part("far"), ident="far"))
    told = why_is_it_silent(plan, None, "board:keys", 60).checklist
    assert any("Board and Box have power" in line for line in told)
    assert not any("Far" in line for line in told)
    alone = why_is_it_silent(rig(keyboard(zone()), cables=()), None, "board:keys", 60).checklist
    assert any("Board has power" in line for line in alone)
    assert any(line.startswith("the sound module") for line in alone)


def test_neighbouring_keys_that_are_meant_alike_are_asked_for_once():
    wishes = (wish("low", "box:piano", 36, 59, shift=-12), wish("high", "box:two", 60, 96))
    plan = rig(
        keyboard(zone(high=50), zone("high", 51, 96)),
        module(part(), part("two", 2)),
        wishes=wishes,
    )
    told = asks(plan, prove(plan), ())
    assert [(a.place.low, a.place.high, a.expected) for a in told] == [
        (36, 59, "Piano, −12 semitones"),
        (60, 96, "Two"),
    ]


def test_controls_are_asked_for_by_what_they_play_or_move():
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="a", name="Kick", note=36),))
    box = module(
        part("drums", 10, kit="kit"),
        part("piano"),
        kits=(kit,),
        targets=(Target(id="t", name="Mix"),),
    )
    wishes = (
        wish("k", "box:drums", sources=("pads:pad-1",), sounds=("a",)),
        wish("n", "box:piano", sources=("pads:pad-2",), note=60),
        Wish(id="m", name="M", sources=("pads:pad-3",), moves="box:t"),
        wish("g", "box:drums", sources=("pads:pad-4",), sounds=("gone",)),
    )
    plan = joined(pads(4), box, wishes=wishes, scenes=(scene("one"), scene("two")))
    told = [a.expected for a in asks(plan, prove(plan), ("one",))]
    assert told[:3] == ["Drums: Kick", "Piano C4 (60)", "Mix moves"]
    assert "does not hold" in told[3]
    both = asks(plan, prove(plan), ())
    assert [a.scene for a in both] == ["one"] * 4 + ["two"] * 4


def test_what_a_device_keeps_for_itself_and_answers():
    limits = (
        Reserved(purpose="clock", channels=(3, 4), controllers=(80,)),
        Reserved(purpose="lamp", controllers=(81,)),
        CountLimit(what="assign-slots", most=4, taken=(1,)),
        Answers(low=20, high=90),
        Answers(low=10, high=80),
    )
    box = module(part(), limits=limits)
    assert kept_channels(box) == {3, 4} and kept_controllers(box) == {80, 81}
    assert why_kept(box, 81) == "lamp" and why_kept(box, 82) == ""
    assert slots_free(box) == 3 and slots_free(module(part())) is None
    assert answered_notes(box) == (20, 80) and answered_notes(module(part())) == (0, 127)


@pytest.mark.parametrize(
    ("zones", "kept", "free"),
    [((1,), (), 3), ((1, 3), (), 4), ((1, 3), (4,), 5), (range(3, 16), (), 16)],
)
def test_the_lowest_channel_that_nothing_uses(zones, kept, free):
    board = keyboard(*(zone(f"z{n}", channel=n) for n in zones))
    limits = (Reserved(purpose="x", channels=kept),) if kept else ()
    box = module(part(channel=1), part("two", 2), limits=limits)
    plan = rig(board, box)
    assert channel_free(plan, box) == free
    full = rig(keyboard(*(zone(f"z{n}", channel=n) for n in range(1, 17))), box)
    assert channel_free(full, box) is None


@settings(max_examples=scaled(25), deadline=None)
@given(wide_plans(), st.integers(1, 127))
def test_what_is_struck_and_not_heard_has_a_cause_and_what_is_heard_has_none(plan, velocity):
    scene = plan.scenes[0] if plan.scenes else None
    compiled = compile_scene(plan, scene)
    for (ref, bank), sendings in compiled.controls.items():
        if not any(sending.send.message == "note" for sending in sendings):
            continue
        if any(sending.send.mode == "toggle" for sending in sendings):
            continue
        done = Performance(compiled).move((ref, bank), velocity)
        heard = any(isinstance(one, Voice) for one in done)
        why = why_is_it_silent(plan, scene, ref, bank, velocity).cause
        assert (why is None) is heard, (ref, bank, velocity, why)


def test_a_layer_that_sounds_is_enough_and_a_window_that_is_missed_is_told():
    pad = Control(id="pad", name="Pad", kind="pad")
    soft = Send(control="pad", message="note", number=60, channel=1, vel_high=64)
    lost = Send(control="pad", message="note", number=60, channel=9, layer=1)
    board = keyboard(controls=(pad,), programs=(Program(number=0, name="P", sends=(soft, lost)),))
    plan = rig(board, module(part()))
    assert cause(plan, "board:pad", 1, velocity=64) is None
    assert cause(plan, "board:pad", 1, velocity=65) == "channel"
    alone = keyboard(controls=(pad,), programs=(Program(number=0, name="P", sends=(soft,)),))
    assert cause(rig(alone, module(part())), "board:pad", 1, velocity=65) == "zone velocity"


def test_places_are_said_by_key_span_or_bank():
    one = rig(keyboard(zone(), octaves=4), module(part()))
    assert thing_words(one, WishPlace("board:keys", 1, 60, 60)) == "C4 (60)"
    assert thing_words(one, WishPlace("board:keys", 1, 60, 62)).startswith("C4–D4")
    board = keyboard(zone(), octaves=4, controls=(Control(id="p", name="P", kind="pad", banks=2),))
    two = changed(board, keybeds=(*board.keybeds, changed(board.keybeds[0], id="up", name="Upper")))
    plan = rig(two, module(part()))
    assert thing_words(plan, WishPlace("board:up", 1, 60, 60)) == "Upper C4 (60)"
    assert thing_words(plan, WishPlace("board:p", 2)) == "P, bank 2"
    assert thing_words(plan, WishPlace("board:sustain", 1)) == "Sustain"
