"""Layers, mute groups, hats and pedals: each rule at its very edges."""

import pytest

from tests.rigs import keyboard, module, part, rig, scene, zone
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.pedals import Pedal, PedalJack
from vastzone.core.plan.model.plan import Device, Port
from vastzone.core.plan.model.triggers import Plug, TriggerInput, TriggerPad
from vastzone.core.proof.check import check


def found(plan, rule):
    return [f for f in check(plan) if f.rule == rule]


def note(pad="a", layer=0, low=1, high=127, **more):
    return Send(
        control=pad,
        message="note",
        number=60 + layer,
        channel=1,
        layer=layer,
        vel_low=low,
        vel_high=high,
        **more,
    )


def plan(*sends, **more):
    controls = tuple(Control(id=c, name=c.upper(), kind="pad") for c in "abc")
    owner = Device(
        id="pads",
        name="Pads",
        kind="pads",
        controls=controls,
        ports=(Port(id="out", name="out", flow="out"),),
        programs=(Program(number=0, name="P", sends=sends),),
    )
    return rig(owner, module(part()), cables=(("pads:out", "box:in"),), **more)


@pytest.mark.parametrize(
    ("windows", "holes"),
    [
        (((1, 64), (65, 127)), []),
        (((1, 63), (65, 127)), ["64–64"]),
        (((2, 64), (65, 126)), ["1–1", "127–127"]),
        (((1, 40), (90, 127)), ["41–89"]),
    ],
)
def test_velocities_without_a_layer_are_holes_that_are_closed(windows, holes):
    made = plan(*(note(layer=n, low=low, high=high) for n, (low, high) in enumerate(windows)))
    told = found(made, "layer hole")
    assert [f.sentence.split(" at ")[1].split(":")[0] for f in told] == holes
    for one in told:
        left = found(one.fixes[0](made), "layer hole")
        assert one.sentence not in {f.sentence for f in left} and len(left) < len(told)
        assert not found(one.fixes[0](made), "layers together")


def test_one_note_with_a_window_leaves_holes_at_both_ends():
    assert len(found(plan(note(low=20, high=100)), "layer hole")) == 2
    assert not found(plan(note()), "layer hole")


@pytest.mark.parametrize(
    ("one", "other", "met"),
    [
        ((1, 64), (65, 127), None),
        ((1, 65), (65, 127), "65–65"),
        ((1, 127), (50, 100), "50–100"),
        ((1, 127), (1, 127), "1–127"),
    ],
)
def test_layers_that_sound_together_are_told_unless_they_blend(one, other, met):
    sends = note(low=one[0], high=one[1]), note(layer=1, low=other[0], high=other[1])
    told = found(plan(*sends), "layers together")
    assert [f.sentence.rsplit(" ", 1)[1].rstrip(".") for f in told] == ([met] if met else [])
    for fix in told[0].fixes if told else ():
        assert not found(fix(plan(*sends)), "layers together")
    for side in (0, 1):
        blend = [changed(s, fade=n == side) for n, s in enumerate(sends)]
        assert not found(plan(*blend), "layers together")


def test_a_mute_group_has_two_sides():
    both = plan(note("a", mutes="group-1"), note("b", muted_by="group-1"))
    assert not found(both, "mute group one-sided")
    other = plan(note("a", mutes="group-1"), note("b", muted_by="group-2"))
    told = found(other, "mute group one-sided")
    assert len(told) == 2 and {f.subjects[0] for f in told} == {"pads:a", "pads:b"}
    for one in told:
        assert len(found(one.fixes[0](other), "mute group one-sided")) == 1
    together = plan(note("a", mutes="group-1"), note("b", mutes="group-1"))
    (one,) = found(together, "mute group one-sided")
    assert "A and B" in one.sentence


@pytest.mark.parametrize(
    ("half", "closed", "lost"),
    [(1, 2, None), (0, 96, "open"), (96, 96, "half open"), (40, 39, "half open"), (40, 41, None)],
)
def test_a_hat_is_open_half_and_closed_somewhere(half, closed, lost):
    hat = TriggerInput(
        id="hat", name="Hat", types=("hi-hat", "mono"), type="hi-hat", half=half, closed=closed
    )
    made = rig(module(part(), inputs=(hat,)), cables=())
    told = found(made, "hi-hat thresholds")
    assert bool(told) is bool(lost) and (not told or f"never {lost}:" in told[0].sentence)
    if told:
        assert not found(told[0].fixes[0](made), "hi-hat thresholds")
    mono = changed(hat, type="mono")
    assert not found(rig(module(part(), inputs=(mono,)), cables=()), "hi-hat thresholds")


@pytest.mark.parametrize(
    ("sensor", "linked", "told"), [("dual", True, 1), ("dual", False, 0), ("single", True, 0)]
)
def test_linked_zones_are_told_for_pads_that_have_some(sensor, linked, told):
    socket = TriggerInput(id="in", name="In", types=("dual",), type="dual", linked=linked)
    made = rig(
        module(part(), inputs=(socket,)),
        cables=(),
        pads=(TriggerPad(id="p", name="P", sensor=sensor),),
        plugs=(Plug(pad="p", input="box:in"),),
    )
    held = found(made, "zones linked")
    assert len(held) == told
    for one in held:
        assert not found(one.fixes[0](made), "zones linked")


def knobs(*sends, **more):
    controls = tuple(Control(id=c, name=c.upper(), kind="knob", banks=2) for c in "abc")
    programs = more.pop("programs", (Program(number=0, name="P", zones=(zone(),), sends=sends),))
    return rig(keyboard(controls=controls, programs=programs), module(part()), **more)


def cc(control, number=20, channel=1, bank=1, **more):
    return Send(
        control=control, message="controller", number=number, channel=channel, bank=bank, **more
    )


@pytest.mark.parametrize(
    ("sends", "told"),
    [
        ((cc("a"), cc("b")), 1),
        ((cc("a"), cc("b"), cc("c")), 1),
        ((cc("a"), cc("b", number=21)), 0),
        ((cc("a"), cc("b", channel=2)), 0),
        ((cc("a"), cc("b", bank=2)), 0),
        ((cc("a"), cc("a", layer=1)), 0),
        ((cc("a", channel=None), cc("b", channel=None)), 1),
    ],
)
def test_controls_on_one_number_fight_where_they_share_channel_and_bank(sends, told):
    made = knobs(*sends)
    held = found(made, "two controls on one number")
    assert len(held) == told
    while held:
        made = held[0].fixes[0](made)
        held = found(made, "two controls on one number")
    assert len([s for s in made.devices[0].programs[0].sends if s.message != "none"]) >= 1


def test_the_same_fight_in_two_programs_is_told_once_and_unused_programs_not():
    programs = tuple(
        Program(number=n, name=f"P{n}", zones=(zone(),), sends=(cc("a"), cc("b"))) for n in (0, 1)
    )
    both = knobs(programs=programs, scenes=(scene("x", board=0), scene("y", board=1)))
    assert len(found(both, "two controls on one number")) == 1
    clean = changed(programs[0], sends=(cc("a"),))
    unused = knobs(programs=(clean, programs[1]), scenes=(scene("x", board=0),))
    assert not found(unused, "two controls on one number")


@pytest.mark.parametrize(
    ("importance", "severity"), [("must", ["fault"]), ("wanted", ["caution"]), ("spare", [])]
)
def test_pedals_in_no_jack_are_as_grave_as_they_matter(importance, severity):
    jack = PedalJack(id="j", name="J", accepts=("switch",), functions=("any",), control="sustain")
    pedal = Pedal(id="p", name="P", kind="switch", function="any", importance=importance)
    made = rig(keyboard(zone(), jacks=(jack,)), module(part()), pedals=(pedal,))
    assert [f.severity for f in found(made, "pedal in no jack")] == severity
    without = rig(keyboard(zone()), module(part()), pedals=(pedal,))
    assert not found(without, "pedal in no jack")


@pytest.mark.parametrize(
    ("send", "told"),
    [
        ({"mode": "trigger", "high": 64}, True),
        ({"mode": "trigger", "high": 63}, False),
        ({"mode": "toggle", "low": 64}, True),
        ({"mode": "toggle", "low": 63}, False),
        ({"low": 64, "high": 63}, True),
        ({"low": 63, "high": 127}, False),
        ({"low": 64, "high": 127}, True),
        ({"low": 127, "high": 64}, True),
        ({"low": 0, "high": 127}, False),
    ],
)
def test_sustain_comes_off_while_the_pedal_is_up(send, told):
    pedal = Send(control="sustain", message="controller", number=64, channel=1, **send)
    board = keyboard(programs=(Program(number=0, name="P", zones=(zone(),), sends=(pedal,)),))
    made = rig(board, module(part()))
    assert bool(found(made, "pedal holds at rest")) is told
    other = changed(pedal, number=65)
    board = keyboard(programs=(Program(number=0, name="P", zones=(zone(),), sends=(other,)),))
    assert not found(rig(board, module(part())), "pedal holds at rest")
