"""Pairs, parameters, input ranges and pick-up, through the engine, the solver and the rules."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import keyboard, module, rig, scene, zone
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.report import report_control
from vastzone.core.engine.trace import Inlet, Player, TraceEntry, trace
from vastzone.core.midi.assemble import Assembler
from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import TOP, fine_of, heard_as, messages_of, value_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import CountLimit
from vastzone.core.plan.model.parts import Part, Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import work_out

CURVES = ("linear", "easy", "hard", "s-shaped")
KNOBS = (Control(id="a", name="A", kind="knob"), Control(id="b", name="B", kind="knob"))


def target(ident="cut", **more):
    return Target(id=ident, name=ident.title(), high=100.0, unit="%", **{"channel": 1, **more})


def send(control="a", message="controller", number=20, **more):
    return Send(control=control, message=message, number=number, channel=1, **more)


def plan(sends, targets, **more):
    board = keyboard(
        controls=KNOBS, programs=(Program(number=0, name="P", zones=(zone(),), sends=sends),)
    )
    limits = more.pop("limits", ())
    return rig(board, module(targets=targets, limits=limits), **more)


def moved(made, key, value, hands=None):
    compiled = compile_scene(made, None)
    hands = hands or Performance(compiled)
    done = hands.move((f"board:{key}", 1), value)
    return report_control(compiled, f"board:{key}", value, done)


WIDE = st.one_of(
    st.tuples(st.just("pair"), st.integers(0, 31)),
    st.tuples(st.sampled_from(["rpn", "nrpn"]), st.integers(0, TOP - 1)),
)


@given(st.lists(st.tuples(WIDE, st.integers(0, 3), st.integers(0, TOP)), min_size=1, max_size=6))
def test_what_is_sent_in_pieces_comes_together_again(moves):
    whole = Assembler()
    for (kind, number), channel, value in moves:
        if kind == "pair" and number == 6:
            continue  # data entry belongs to the parameter that was chosen last
        sent = [whole.take(m) for m in messages_of(kind, channel, number, value)]
        assert sent[-1] == (kind, number, value) and sent[-2] == (kind, number, value & ~0x7F)


def test_stray_data_entry_and_low_bits_alone_move_nothing():
    whole = Assembler()
    said = [(6, 9), (38, 9), (33, 5), (99, 1), (6, 4), (98, 2), (101, 127), (100, 127), (38, 7)]
    found = [whole.take(Message("controller", 0, n, v)) for n, v in said]
    assert found[0] == ("pair", 6, 9 << 7) and found[1] == ("pair", 6, 9 << 7 | 9)
    assert found[2:4] == [None, None] and found[4] == ("pair", 6, 4 << 7)
    assert found[5:8] == [None] * 3 and found[8] == ("pair", 6, 4 << 7 | 7)
    assert whole.take(Message("bend", 0, 9)) is None


@pytest.mark.parametrize(("kind", "number"), [("nrpn", 300), ("rpn", 2), ("pair", 7)])
@pytest.mark.parametrize("entry", [TraceEntry("board", "keys"), TraceEntry("board", "", "out")])
def test_a_real_controller_that_sends_wide_values_moves_its_target(kind, number, entry):
    number_of = {"controller": number & 0x7F, "page": number >> 7}
    sender = changed(send(message=kind, number=number & 0x7F), page=number_of["page"])
    made = plan((sender,), (target(answers=kind, **number_of),))
    player = Player(Performance(compile_scene(made, None)), entry)
    for value in (0, 5000, TOP):
        last = [m for piece in messages_of(kind, 0, number, value) for m in player.play(piece, 0.0)]
        reached = [(h.ref, last[-1].reaches(h.reads)) for h in last[-1].motion.hearings]
        assert reached == [("box:cut", pytest.approx(value / TOP, abs=1e-4))]
    told = trace(
        compile_scene(made, None), [(0.0, m) for m in messages_of(kind, 0, number, 700)], entry
    )
    assert not told.lost


@pytest.mark.parametrize(
    ("kind", "number", "listens", "to", "reads"),
    [
        ("controller", 20, "controller", 20, "whole"),
        ("controller", 20, "controller", 21, None),
        ("controller", 7, "pair", 7, "coarse"),
        ("controller", 39, "pair", 7, "fine"),
        ("pair", 7, "controller", 7, "coarse"),
        ("pair", 7, "controller", 39, "fine"),
        ("pair", 7, "pair", 7, "whole"),
        ("rpn", 2, "rpn", 2, "whole"),
        ("rpn", 2, "nrpn", 2, None),
        ("nrpn", 300, "controller", 6, "coarse"),
        ("nrpn", 300, "pair", 6, "coarse"),
    ],
)
def test_what_hears_which_bits(kind, number, listens, to, reads):
    assert heard_as(kind, number, listens, to) == reads


def test_the_bytes_of_a_pair_and_of_a_parameter():
    assert [m.hex() for m in messages_of("pair", 0, 1, 8192)] == ["B0 01 40", "B0 21 00"]
    sent = [m.hex() for m in messages_of("nrpn", 2, 300, 16383)]
    assert sent == ["B2 63 02", "B2 62 2C", "B2 06 7F", "B2 26 7F"]


def test_a_pair_moves_in_14_bits_and_a_plain_listener_in_7():
    wide = plan((send(message="pair", number=3),), (target(controller=3, answers="pair"),))
    assert moved(wide, "a", 127).reached[0].what == "100 %"
    assert moved(wide, "a", 64).reached[0].what == "50 %"
    plain = plan((send(message="pair", number=3),), (target(controller=3),))
    assert {f.rule for f in check(plain)} >= {"half of a pair"}
    low = plan((send(message="pair", number=3),), (target(controller=35),))
    assert any(f.rule == "low bits used elsewhere" for f in check(low))


def test_a_parameter_costs_four_messages_on_the_cable():
    made = plan(
        (send(message="nrpn", number=44, page=2),), (target(controller=44, page=2, answers="nrpn"),)
    )
    report = moved(made, "a", 127)
    assert len(report.messages) == 4 and report.reached[0].what == "100 %"
    assert report.reached[0].delay_ms == pytest.approx(12 * 0.32)


@pytest.mark.parametrize(
    ("travel", "sent"), [(0, 0), (19, 0), (20, 0), (60, 64), (100, 127), (127, 127)]
)
def test_input_range_and_threshold(travel, sent):
    made = plan((send(starts=20, ends=100),), (target(controller=20),))
    assert moved(made, "a", travel).messages[0].second == sent
    gated = plan((send(threshold=50),), (target(controller=20),))
    assert moved(gated, "a", travel).messages[0].second == (travel if travel >= 50 else 0)


def test_pick_up_waits_until_the_value_that_stands_is_met():
    made = plan((send("a"), send("b")), (target(controller=20, takeover="pick-up"),))
    compiled = compile_scene(made, None)
    hands = Performance(compiled)

    def at(key, value):
        done = hands.move((f"board:{key}", 1), value)
        return report_control(compiled, f"board:{key}", value, done).reached[0].what

    assert at("a", 80) == f"{8000 / 127:.4g} %"
    assert [at("b", v) for v in (10, 40, 79)] == ["waits to be met"] * 3
    assert at("b", 90) == f"{9000 / 127:.4g} %"
    assert at("a", 70) == "waits to be met"


def test_jumping_targets_fight_and_pick_up_mends_it():
    other = keyboard(
        ident="second",
        controls=KNOBS,
        programs=(Program(number=0, name="P", sends=(send("b", number=21),)),),
    )
    made = plan((send("a", number=21),), (target(controller=21),))
    made = rig(*made.devices, other, cables=(("board:out", "box:in"), ("second:out", "box:in")))
    found = next(f for f in check(made) if f.rule == "controls fight")
    assert "100 %" in found.sentence
    mended = found.fixes[0].change(made)
    assert not any(f.rule == "controls fight" for f in check(mended))


@pytest.mark.parametrize(
    "wished",
    [
        target(answers="pair"),
        target(answers="pair", part="piano", channel=None),
        target(answers="nrpn", controller=44, page=2),
        target(answers="rpn", controller=1),
    ],
)
def test_numbers_are_worked_out_for_wide_targets(wished):
    plain = target("wet")
    wishes = tuple(
        Wish(id=c, name=c, sources=(f"board:{c}",), moves=f"box:{t.id}")
        for c, t in (("a", wished), ("b", plain))
    )
    parts = (Part(id="piano", name="Piano", tag="PI"),)
    board = keyboard(zone(), controls=KNOBS)
    made = rig(
        board,
        module(*parts, targets=(wished, plain)),
        wishes=(*wishes, Wish(id="p", name="p", sources=("board:keys",), plays="box:piano")),
    )
    solved = work_out(made).plan
    assert prove(solved).good
    sends = {s.control: s for s in solved.devices[0].programs[0].sends}
    assert (sends["a"].message, sends["a"].page) == (wished.answers, wished.page)
    assert not any(f.rule in ("half of a pair", "low bits used elsewhere") for f in check(solved))


def test_ceilings_are_kept_by_either_mend():
    made = plan((send(),), (target(controller=20, ceiling=50.0),))
    found = next(f for f in check(made) if f.rule == "above its ceiling")
    for fix, top in zip(found.fixes, (63, 127), strict=True):
        mended = fix.change(made)
        assert not any(f.rule == "above its ceiling" for f in check(mended))
        assert mended.devices[0].programs[0].sends[0].high == top


@pytest.mark.parametrize(("low", "high"), [(0.0, 100.0), (100.0, 0.0)])
@pytest.mark.parametrize(("rest", "full"), [(0, 127), (127, 0)])
def test_either_way_round_both_mends_keep_a_ceiling(low, high, rest, full):
    held = Target(id="cut", name="Cut", channel=1, controller=20, low=low, high=high, ceiling=40.0)
    made = plan((send(low=rest, high=full),), (held,))
    found = next(f for f in check(made) if f.rule == "above its ceiling")
    for fix in found.fixes:
        assert not any(f.rule == "above its ceiling" for f in check(fix(made)))


def test_more_targets_than_slots():
    made = plan(
        (send(),),
        (target(controller=20), target("wet", controller=21)),
        limits=(CountLimit(what="assign-slots", most=3, taken=(1, 2)),),
    )
    found = next(f for f in check(made) if f.rule == "more targets than slots")
    assert "Wet" in found.sentence


def test_a_pedal_held_across_a_scene():
    sustain = Send(control="sustain", message="controller", number=64)
    programs = tuple(
        Program(number=n, name=str(n), zones=(zone(channel=n + 1),), sends=(sustain,))
        for n in range(2)
    )
    parts = tuple(Part(id=f"p{n}", name=f"P{n}", tag="P", channel=n + 1) for n in range(2))
    made = rig(
        keyboard(programs=programs),
        module(*parts),
        scenes=(scene("one", board=0), scene("two", board=1)),
    )
    found = [f for f in check(made) if f.rule == "held across a scene"]
    assert [f.subjects for f in found] == [("board:sustain", "box:p0")]


def bent(position, **limits):
    """The 14 bits that a wheel sends at a position 0–127."""
    wheel = Send(control="a", message="bend", channel=1, **limits)
    compiled = compile_scene(plan((wheel,), ()), None)
    done = Performance(compiled).move(("board:a", 1), position)
    return report_control(compiled, "board:a", round(position), done).messages[0].first


@given(st.integers(0, 63), st.integers(65, 127), st.booleans(), st.sampled_from(CURVES))
def test_a_wheel_at_rest_sends_its_centre_exactly_whatever_its_ends_and_curve(
    low, high, reversed_, curve
):
    ends = {"low": high, "high": low} if reversed_ else {"low": low, "high": high}
    assert bent(64, curve=curve, **ends) == 8192
    assert bent(0, curve=curve, **ends) == fine_of(ends["low"])
    assert bent(127, curve=curve, **ends) == fine_of(ends["high"])


def test_a_lever_for_two_semitones_of_twelve_never_goes_beyond_them():
    assert [bent(at, low=54, high=74) for at in (0, 64, 127)] == [6912, 8192, 9472]
    semitones = [12 * (value - 8192) / 8192 for value in (6912, 9472)]
    assert semitones == pytest.approx([-1.875, 1.875], abs=0.01)


@given(st.integers(0, TOP))
def test_what_comes_in_with_14_bits_goes_out_with_the_same(value):
    wheel = Send(control="a", message="bend", channel=1)
    compiled = compile_scene(plan((wheel,), ()), None)
    _, position = Inlet().moved(compiled, "board", Message("bend", 0, value))
    assert bent(position) == value and fine_of(value_of(value)) == value
    player = Player(Performance(compiled), TraceEntry("board", port="out"))
    assert player.play(Message("bend", 0, value), 0.0)[0].fine == value
