"""Causes: nothing that falls short is left without one, and a fix mends what it says."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.random_rigs import small_rigs
from tests.rigs import keyboard, module, part, rig, scene, wish, zone
from vastzone import demo
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof.causes import causes, everything, spoilt
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.core.proof.slices import derive, finish, weigh
from vastzone.files import native

PIANO = wish("piano", "box:piano")
LOW_PIANO = wish("piano", "box:piano", shift=-36)
HIGH_PIANO = wish("piano", "box:piano", shift=31)
"""So far down and up that the keyboard’s last key sounds note 0 and note 127."""


def played(*zones, parts=None, wishes=(PIANO,), **more):
    return rig(keyboard(*zones, **more), module(*(parts or (part(),))), wishes=wishes)


@pytest.mark.parametrize(
    ("plan", "keys", "fix"),
    [
        (played(zone(channel=2)), 61, "Send All on channel 1"),
        (played(zone(high=59)), 37, "Extend All"),
        (played(zone(octave=1)), 61, "Shift All one octave down"),
        (played(zone(transpose=3)), 61, "Shift All 3 semitones down"),
        (played(zone(), parts=(part(low=48),)), 12, "Let Piano answer"),
        (
            played(zone(octave=-3), parts=(part(low=12),), wishes=(LOW_PIANO,)),
            12,
            "Let Piano answer",
        ),
        (
            played(zone(octave=2, transpose=7), parts=(part(high=115),), wishes=(HIGH_PIANO,)),
            12,
            "Let Piano answer",
        ),
        (played(zone(on=False)), 61, "Switch All on"),
        (played(zone(), parts=(part(), part("two", 1))), 61, "Move Two to channel 2"),
        (played(zone(), wishes=(wish("low", "box:piano", 36, 59),)), 37, "End All on B3"),
    ],
)
def test_one_wrong_number_is_one_line_and_its_best_fix_mends_all_of_it(plan, keys, fix):
    lines = [c for c in causes(plan) if c.weight]
    assert [c.keys for c in lines] == [keys] and spoilt(prove(plan)) == keys
    best = finish(weigh(plan, lines[0].finding.fixes))[0]
    assert best.edit.label.startswith(fix)
    assert (best.mended, best.spoilt) == (keys, 0)
    assert prove(best.edit(plan)).good


def drum_rig(number, channel, mode="momentary", trigger="one-shot"):
    send = Send(control="pad", message="note", number=number, channel=channel, mode=mode)
    board = keyboard(
        controls=(Control(id="pad", name="Pad", kind="pad"),),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="kick", name="Kick", note=36),))
    drums = module(part("drums", 10, kit="kit", trigger=trigger), kits=(kit,))
    kick = Wish(id="kick", name="Kick", sources=("board:pad",), plays="box:drums", sounds=("kick",))
    return rig(board, drums, wishes=(kick,))


@pytest.mark.parametrize(
    ("plan", "rules"),
    [
        (drum_rig(36, 1), {"wrong channel"}),
        (drum_rig(40, 10), {"wrong note"}),
        (drum_rig(40, 1), {"wrong channel", "wrong note"}),
        (drum_rig(36, 10, "toggle"), {"modes that do not fit"}),
    ],
)
def test_what_a_pad_sends_wrongly_is_told_and_mended(plan, rules):
    for _ in range(len(rules)):
        lines = [c for c in causes(plan) if c.controls]
        assert {c.finding.rule for c in lines} <= rules and lines
        plan = lines[0].finding.fixes[0](plan)
    assert prove(plan).good


def test_a_controller_is_mended_at_either_end():
    send = Send(control="knob", message="controller", number=20, channel=1)
    board = keyboard(
        controls=(Control(id="knob", name="Knob", kind="knob"),),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    mix = Target(id="mix", name="Mix", part="piano", controller=21)
    moves = Wish(id="mix", name="Mix", sources=("board:knob",), moves="box:mix")
    plan = rig(board, module(part(), targets=(mix,)), wishes=(moves,))
    (cause,) = [c for c in causes(plan) if c.weight]
    weighed = finish(weigh(plan, cause.finding.fixes))
    assert [w.mended for w in weighed] == [1, 1]
    assert all(prove(w.edit(plan)).good for w in weighed)


def test_the_same_wrong_number_in_several_scenes_is_one_line():
    programs = tuple(Program(number=n, name=f"P{n}", zones=(zone(channel=2),)) for n in range(3))
    board = keyboard(programs=programs)
    scenes = tuple(scene(f"s{n}", board=n) for n in range(3))
    plan = rig(board, module(part()), scenes=scenes, wishes=(PIANO,))
    (cause,) = [c for c in causes(plan) if c.weight]
    assert cause.keys == 3 * 61 and cause.finding.scenes == ()
    best = finish(weigh(plan, cause.finding.fixes))[0]
    assert prove(best.edit(plan)).good and best.mended == 3 * 61


def test_without_a_cable_the_line_says_which_devices_to_join():
    plan = rig(keyboard(zone()), module(part()), cables=(), wishes=(PIANO,))
    (cause,) = [c for c in causes(plan) if c.weight]
    assert {"board", "box"} <= {s.partition(":")[0] for s in cause.finding.subjects}


@settings(max_examples=60, deadline=None)
@given(small_rigs())
def test_whatever_falls_short_has_a_cause(plan):
    faulty = {(scene, mark) for scene, mark in prove(plan).faults()}
    told = {m for cause in causes(plan) for m in cause.marks}
    assert faulty == told


@settings(max_examples=40, deadline=None)
@given(small_rigs(), st.data())
def test_a_fix_does_what_its_weight_says(plan, data):
    lines = [c for c in causes(plan) if c.finding.fixes and c.weight]
    if not lines:
        return
    for one in finish(weigh(plan, data.draw(st.sampled_from(lines)).finding.fixes)):
        assert spoilt_places(one.edit(plan)) == spoilt_places(plan) - one.gain


def spoilt_places(plan):
    return len(
        {
            (s, m.source, m.bank, k)
            for s, m in prove(plan).faults()
            for k in range(m.low, m.high + 1)
        }
    )


def test_in_steps_comes_the_same_as_at_once():
    plan = native.read(demo.AS_FOUND)
    shares = []
    steps = derive(plan)
    while True:
        try:
            shares.append(next(steps))
        except StopIteration as stop:
            found = stop.value
            break
    assert shares == sorted(shares) and len(shares) > 20
    assert found.findings == everything(plan) and found.causes == causes(plan)
    assert found.proof == prove(plan)


def test_without_wishes_the_rules_speak_alone():
    plan = rig(keyboard(zone(channel=2)), module(part()))
    assert [c.finding for c in causes(plan)] == list(check(plan))


def test_pads_that_go_astray_together_are_one_line():
    plan = native.read(demo.AS_FOUND)
    wrong = [c for c in causes(plan) if c.finding.rule == "wrong channel"]
    assert sorted(len({m.source for _, m in c.marks}) for c in wrong) == [6, 6]
