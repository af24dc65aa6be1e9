"""Each target its own range: at its receiver, on a message of its own, or said not to be had."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import keyboard, module, part, rig, scene, zone
from vastzone.core.midi.wide import TOP, bend_of, bent_share, fine_of
from vastzone.core.plan.edits import movables
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import CountLimit
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.wishes import Schools, Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.causes import causes
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.core.proof.walk import asks
from vastzone.core.response.sweep import end_values
from vastzone.core.solve.clash import Refusal, work_out
from vastzone.core.solve.numbers import Solution

UNTOLD = {"lacks": ("target/least", "target/most")}
CONTROLS = (
    Control(id="knob", name="Knob", kind="knob"),
    Control(id="lever", name="Lever", kind="lever"),
    Control(id="button", name="Button", kind="button"),
    Control(id="touch", name="Touch", kind="aftertouch"),
)


def board(*sends, **more):
    program = Program(number=0, name="One", zones=(zone(),), sends=sends)
    return keyboard(controls=CONTROLS, programs=(program,), **more)


def level(ident, **more):
    return Target(id=ident, name=ident.title(), channel=1, high=200.0, **more)


def move(target, control="knob", begins=None, ends=None):
    return Wish(
        id=f"{control}-{target}",
        name=target.title(),
        sources=(f"board:{control}",),
        moves=f"box:{target}",
        from_value=begins,
        to_value=ends,
    )


def sends_of(plan, control="knob"):
    program = lookup.device(plan, "board").programs[0]
    return [send for send in program.sends if send.control == control]


def targets_of(plan):
    return lookup.by_ids(lookup.device(plan, "box").targets)


@pytest.mark.parametrize(
    ("ends", "top"),
    [(100, 63), (90, 57), (95, 60), (80, 50)],
    ids=["voice", "guitar", "loops", "rhythm"],
)
def test_a_level_is_held_at_its_receiver_exactly_and_else_at_the_sender_below(ends, top):
    for receiver in ({}, UNTOLD):
        plan = rig(
            board(),
            module(part(), targets=(level("a"),), **receiver),
            wishes=(move("a", ends=ends),),
        )
        found = work_out(plan)
        assert isinstance(found, Solution)
        (send,) = sends_of(found.plan)
        reached = end_values(send, targets_of(found.plan)["a"])
        if receiver:
            assert (send.low, send.high) == (0, top)
            assert reached[1] == pytest.approx(200 * top / 127)
        else:
            assert (send.low, send.high) == (0, 127)
            assert reached == (0, ends)


def test_a_ceiling_is_the_end_of_a_whole_range():
    plan = rig(board(), module(part(), targets=(level("a", ceiling=90.0),)), wishes=(move("a"),))
    found = work_out(plan)
    assert isinstance(found, Solution)
    assert end_values(*sends_of(found.plan), targets_of(found.plan)["a"]) == (0, 90)
    assert not any(f.rule == "above its ceiling" for f in check(found.plan))


def test_one_message_moves_two_targets_each_over_its_own_range_where_receivers_are_told():
    wishes = (move("a", ends=100.0), move("b", begins=200.0, ends=50.0))
    plan = rig(board(), module(part(), targets=(level("a"), level("b"))), wishes=wishes)
    found = work_out(plan)
    assert isinstance(found, Solution)
    (send,) = sends_of(found.plan)
    reached = {name: end_values(send, target) for name, target in targets_of(found.plan).items()}
    assert reached == {"a": (0, 100), "b": (200, 50)}
    assert targets_of(found.plan)["a"].controller == targets_of(found.plan)["b"].controller


def test_where_receivers_are_not_told_a_second_message_has_the_other_range():
    wishes = (move("a", ends=100.0), move("b"))
    plan = rig(board(), module(part(), targets=(level("a"), level("b")), **UNTOLD), wishes=wishes)
    found = work_out(plan)
    assert isinstance(found, Solution)
    assert sorted(send.high for send in sends_of(found.plan)) == [63, 127]
    one = rig(
        board(limits=(CountLimit(what="messages", most=1),)),
        module(part(), targets=(level("a"), level("b")), **UNTOLD),
        wishes=wishes,
    )
    refused = work_out(one)
    assert isinstance(refused, Refusal)
    assert set(refused.wishes) == {"knob-a", "knob-b"}


def test_targets_that_always_listen_to_other_numbers_get_a_message_each():
    fixed = [level(name, controller=n, receives="fixed") for name, n in (("a", 20), ("b", 21))]
    found = work_out(
        rig(board(), module(part(), targets=tuple(fixed)), wishes=(move("a"), move("b")))
    )
    assert isinstance(found, Solution)
    assert sorted(send.number for send in sends_of(found.plan)) == [20, 21]


def test_a_locked_end_of_a_sender_is_made_good_at_the_receiver():
    sent = Send(control="knob", message="controller", number=20, channel=1, low=0, high=100)
    plan = rig(board(sent), module(part(), targets=(level("a"),)), wishes=(move("a", ends=100.0),))
    found = work_out(lock("board/0/knob.1/high")(plan))
    assert isinstance(found, Solution)
    (send,) = sends_of(found.plan)
    assert send.high == 100
    assert end_values(send, targets_of(found.plan)["a"]) == pytest.approx((0, 100))


@pytest.mark.parametrize("mend", range(2))
def test_a_range_that_is_not_reached_is_told_with_mends_at_either_end(mend):
    squeezed = Send(control="knob", message="controller", number=20, channel=1, low=0, high=110)
    made = rig(
        board(squeezed),
        module(part(), targets=(level("a", controller=20),)),
        wishes=(move("a", ends=100.0),),
    )
    (found,) = [c.finding for c in causes(made) if c.finding.rule == "range not as wished"]
    assert "173" in found.sentence and "100" in found.sentence
    mended = found.fixes[mend](made)
    assert not [mark for _, mark in prove(mended).faults() if mark.wishes]


# pitch bend


@given(st.integers(0, TOP))
def test_a_bend_and_its_share_are_each_others_inverse(fine):
    assert round(bend_of(bent_share(fine))) == fine
    assert bent_share(8192) == 0.5


PITCH = Target(
    id="pitch",
    name="Pitch",
    part="piano",
    answers="bend",
    unit="st",
    low=-12.0,
    high=12.0,
    receives="fixed",
    together=True,
)


def test_a_lever_for_two_semitones_and_a_knob_for_twelve_move_one_pitch_without_a_fight():
    lever = Send(control="lever", message="bend", channel=None)
    wishes = (move("pitch", "lever", -2.0, 2.0), move("pitch", "knob"))
    plan = rig(board(lever), module(part(bend=12), targets=(PITCH,)), wishes=wishes)
    found = work_out(plan)
    assert isinstance(found, Solution)
    ends = {}
    for control in ("lever", "knob"):
        (send,) = sends_of(found.plan, control)
        assert send.message == "bend"
        ends[control] = (fine_of(send.low), fine_of(send.high))
    assert ends == {"lever": (6827, 9557), "knob": (0, 16383)}
    assert prove(found.plan).good
    assert not any(f.rule == "controls fight" for f in check(found.plan))
    apart = rig(board(lever), module(part(bend=12), targets=(PITCH,)))
    # A lever that bends though nobody wished it is as the part has it by standard.
    assert {mark.source for _, mark in prove(apart).faults()} == {"board:keys"}


def test_a_lever_that_bends_goes_on_bending_where_the_receiver_learns():
    lever = Send(control="lever", message="bend", channel=1)
    learned = level("a", receives="learns")
    found = work_out(
        rig(board(lever), module(part(), targets=(learned,)), wishes=(move("a", "lever"),))
    )
    assert isinstance(found, Solution)
    (send,) = sends_of(found.plan, "lever")
    assert send.message == "bend"
    assert targets_of(found.plan)["a"].answers == "bend"
    told = level("a", controller=20, receives="fixed")
    found = work_out(
        rig(board(lever), module(part(), targets=(told,)), wishes=(move("a", "lever"),))
    )
    assert isinstance(found, Solution)
    assert [send.message for send in sends_of(found.plan, "lever")] == ["controller"]
    assert any(n.ref.endswith("/message") and n.reason for n in found.numbers)


# what is answered by standard, programs and scenes


@pytest.mark.parametrize("movable", movables.MOVABLES, ids=lambda movable: movable.id)
def test_what_a_part_answers_by_standard_can_be_wished_of_any_control(movable):
    plan = rig(board(), module(part()), schools=Schools(controllers="run", run_from=20))
    place = WishPlace("board:knob")
    found = work_out(movables.wish_to_move(place, "box:piano", movable.id, ())(plan))
    assert isinstance(found, Solution)
    (send,) = sends_of(found.plan)
    assert send.message == movable.answers
    assert movable.role is None or send.number == movable.role
    assert prove(found.plan).good
    (ask,) = asks(found.plan, prove(found.plan), ())
    assert movable.name.lower() in ask.expected


def test_aftertouch_is_wished_like_a_knob_and_sends_what_it_can():
    plan = rig(board(), module(part()))
    place = WishPlace("board:touch")
    found = work_out(movables.wish_to_move(place, "box:piano", "pressure", ())(plan))
    assert isinstance(found, Solution)
    assert [send.message for send in sends_of(found.plan, "touch")] == ["pressure"]
    bent = work_out(movables.wish_to_move(place, "box:piano", "bend", ())(plan))
    assert isinstance(bent, Refusal)


def two_modules():
    programs = tuple(Program(number=n, name=f"P{n}") for n in range(3))
    return rig(
        board(),
        module(part(), programs=programs),
        module(part("organ", 2), ident="more", programs=programs),
        cables=(("board:out", "box:in"), ("board:out", "more:in")),
        scenes=(scene("dusk", box=1, more=2), scene("dawn", box=0, more=0)),
    )


def selected(plan, control="button"):
    """The programs that a control selects, by device and number."""
    named = {}
    for device in plan.devices:
        for target in device.targets:
            named[f"{device.id}:{target.id}"] = (device.id, target.controller)
    hits = set()
    for groups in prove(plan).scenes.values():
        for marks in groups:
            for mark in marks:
                if mark.source == f"board:{control}" and mark.verdict == "as meant":
                    hits |= {named[hit.ref] for hit in mark.meant}
    return hits


def test_a_button_selects_a_program_and_a_scene_and_steps():
    place = WishPlace("board:button")
    one = movables.wish_to_select(place, "box", 2, ())(two_modules())
    found = work_out(one)
    assert isinstance(found, Solution)
    assert selected(found.plan) == {("box", 2)}
    called = work_out(movables.wish_for_scene(place, "dusk")(two_modules()))
    assert isinstance(called, Solution)
    assert selected(called.plan) == {("box", 1), ("more", 2)}
    stepped = work_out(movables.wish_to_step(place, "box", "next", ())(two_modules()))
    assert isinstance(stepped, Solution)
    assert prove(stepped.plan).good
