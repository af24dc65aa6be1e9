"""The proof against the wishes, and why it is silent."""

import pytest

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, simple, wish, zone
from vastzone.core.memory.beginnings import out_of_the_box
from vastzone.core.memory.model import Memory
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof import key_marks as marking
from vastzone.core.proof.grid import verdicts as verdicts_of
from vastzone.core.proof.marking import prove, prove_scene
from vastzone.core.proof.silence import why_is_it_silent


def verdicts(plan):
    return [(m.verdict, m.low, m.high) for m in prove(plan).marks("")]


PIANO = wish("piano", "box:piano")


@pytest.mark.parametrize(
    ("plan", "expected"),
    [
        (rig(keyboard(zone()), module(part()), wishes=(PIANO,)), [("as meant", 36, 96)]),
        (
            rig(keyboard(zone(high=59)), module(part()), wishes=(PIANO,)),
            [("as meant", 36, 59), ("silent", 60, 96)],
        ),
        (rig(keyboard(zone(transpose=1)), module(part()), wishes=(PIANO,)), [("wrong", 36, 96)]),
        (
            rig(keyboard(zone()), module(part(), part("two", 1, low=90)), wishes=(PIANO,)),
            [("as meant", 36, 89), ("extra", 90, 96)],
        ),
        (
            rig(keyboard(zone("a"), zone("b", 40, 50)), module(part()), wishes=(PIANO,)),
            [("as meant", 36, 39), ("double", 40, 50), ("as meant", 51, 96)],
        ),
        (rig(keyboard(zone()), module(part())), [("extra", 36, 96)]),
    ],
)
def test_each_verdict(plan, expected):
    assert verdicts(plan) == expected


def test_velocities_are_proved_band_by_band():
    plan = rig(keyboard(zone(vel_low=30)), module(part()), wishes=(PIANO,))
    bands = [(m.vel_low, m.vel_high, m.verdict) for m in prove(plan).marks("")]
    assert bands == [(1, 29, "silent"), (30, 127, "as meant")]


@pytest.mark.parametrize(
    ("sender", "receiver", "good"),
    [
        ("momentary", "toggle", True),
        ("toggle", "momentary", True),
        ("toggle", "toggle", False),
        ("toggle", "trigger", False),
        ("trigger", "momentary", False),
        ("trigger", "trigger", True),
    ],
)
def test_sender_and_receiver_modes_are_proved_in_pairs(sender, receiver, good):
    send = Send(control="knob", message="controller", number=20, channel=1, mode=sender)
    board = keyboard(
        controls=(Control(id="knob", name="Knob", kind="button"),),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    hold = Target(id="hold", name="Hold", part="piano", controller=20, mode=receiver)
    moves = Wish(id="hold", name="Hold", sources=("board:knob",), moves="box:hold")
    assert prove(rig(board, module(part(), targets=(hold,)), wishes=(moves,))).good is good


def test_after_an_edit_only_what_it_touched_is_proved_again(monkeypatch):
    scenes = tuple(scene(f"s{n}", board=n) for n in range(5))
    programs = tuple(Program(number=n, name=f"P{n}", zones=(zone(),)) for n in range(5))
    plan = rig(keyboard(programs=programs), module(part()), scenes=scenes, wishes=(PIANO,))
    judged = []
    judge = marking.judge
    monkeypatch.setattr(marking, "judge", lambda *a: judged.append(1) or judge(*a))
    prove(plan)
    whole = len(judged)
    moved = set_zone("board", 3, "all", "Move", channel=2)(plan)
    assert [
        bool(list(m))
        for m in (
            [x for x in prove(moved).marks(f"s{n}") if x.verdict != "as meant"] for n in range(5)
        )
    ] == [False, False, False, True, False]
    assert 0 < len(judged) - whole <= whole


def test_a_doubled_low_key_is_extra_on_the_pad_and_told_where():
    plan = joined(
        keyboard(zone()), pads(2), module(part("bass", 1)), wishes=(wish("bass", "box:bass"),)
    )
    found = {m.source: m.verdict for m in prove(plan).marks("")}
    assert found == {"board:keys": "as meant", "pads:pad-1": "extra", "pads:pad-2": "extra"}


def test_why_silent_stops_at_the_first_cause_and_lists_the_rest_to_look_at():
    found = why_is_it_silent(rig(keyboard(zone(channel=3)), module(part())), None, "board:keys", 60)
    assert found.cause.cause == "channel" and any("power" in line for line in found.checklist)
    assert why_is_it_silent(simple(), None, "board:keys", 60).cause is None
    programs = (
        Program(number=0, name="A", zones=(zone(high=50),)),
        Program(number=1, name="B", zones=(zone(),)),
    )
    other = why_is_it_silent(
        rig(keyboard(programs=programs), module(part())), None, "board:keys", 60
    )
    assert "plays in program 2" in other.cause.sentence
    unplugged = rig(pads(1), module(part()), cables=())
    assert why_is_it_silent(unplugged, None, "pads:pad-1", 1).cause.cause == "no cable"


def test_neighbouring_keys_that_do_the_same_are_one_mark():
    zones = zone("low", 36, 59), zone("high", 60, 96)
    plan = rig(keyboard(*zones), module(part()), wishes=(wish("w", "box:piano"),))
    (mark,) = [m for group in prove_scene(plan, None) for m in group]
    assert (mark.low, mark.high, mark.verdict) == (36, 96, "as meant")
    plan = rig(keyboard(*zones), module(part(low=50, high=70)), wishes=plan.wishes)
    spans = [(m.low, m.high, m.verdict) for group in prove_scene(plan, None) for m in group]
    assert sorted(spans) == [(36, 49, "silent"), (50, 70, "as meant"), (71, 96, "silent")]


@pytest.mark.parametrize("first", ["momentary", "toggle", "trigger"])
@pytest.mark.parametrize("second", ["momentary", "toggle", "trigger"])
@pytest.mark.parametrize("receivers", [("gate", "one-shot"), ("one-shot", "gate")])
def test_each_layer_of_a_pad_is_judged_by_its_own_mode(first, second, receivers):
    layers = tuple(
        Send(control="pad-1", message="note", number=60, channel=n + 1, layer=n, mode=mode)
        for n, mode in enumerate((first, second))
    )
    parts = (part("a", 1, trigger=receivers[0]), part("b", 2, trigger=receivers[1]))
    box = changed(pads(1), programs=(Program(number=0, name="One", sends=layers),))
    wishes = tuple(wish(p.id, f"box:{p.id}", sources=("pads:pad-1",), note=60) for p in parts)
    plan = joined(box, module(*parts), wishes=wishes)
    fits = {("trigger", "gate"): False, ("toggle", "one-shot"): False}
    pairs = zip((first, second), receivers, strict=True)
    assert prove(plan).good is all(fits.get(pair, True) for pair in pairs)


def test_a_double_is_told_beside_what_sounds_too_much():
    board = keyboard(zone("a"), zone("b"))
    plan = rig(board, module(part(), part("two", 1)), wishes=(PIANO,))
    (mark,) = prove(plan).marks("")
    assert mark.verdict == "double"
    assert {hit.ref for hit in mark.extra} == {"box:piano", "box:two"}
    assert dict(verdicts_of(mark)) == {"box:piano": "double", "box:two": "extra"}


def test_what_nobody_wished_is_meant_where_a_kit_answers_or_somebody_set_it():
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="a", name="A", note=36),))
    box = module(part("drums", 1, kit="kit"), part("piano", 2), kits=(kit,))
    plan = joined(keyboard(), pads(2), box, wishes=(wish("w", "box:piano"),))
    plan = set_send("pads", 0, "pad-2", 1, "Other", channel=2, number=40)(plan)
    boxed = Memory(devices=tuple(out_of_the_box(device, "") for device in plan.devices))

    def heard(memory, plan=plan):
        marks = prove(plan, memory).marks("")
        return {mark.source: mark.verdict for mark in marks if mark.source != "board:keys"}

    assert heard(boxed) == {"pads:pad-1": "as meant", "pads:pad-2": "extra"}
    by_hand = set_send("pads", 0, "pad-2", 1, "By hand", number=41)(plan)
    assert heard(boxed, by_hand)["pads:pad-2"] == "as meant"
