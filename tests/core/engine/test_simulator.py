"""The engine's hands against the slow simulator: every mode, value and order of gestures."""

import random
from collections import Counter

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.engine.simulator import Simulator
from tests.rigs import keyboard, module, part, rig, scene, zone
from tests.scale import scaled
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.plan import Device, Port, Thru
from vastzone.core.proof.check import check

MODES = st.sampled_from(["momentary", "toggle", "trigger"])
LINKS = st.sampled_from(["din", "usb", "bluetooth"])
ENDS = st.sampled_from([(0, 127), (127, 0), (0, 63), (64, 100), (30, 90)])
VALUES = st.sampled_from([0, 1, 40, 63, 64, 65, 100, 127])
CONTROLS = (
    Control(id="p", name="P", kind="pad"),
    Control(id="q", name="Q", kind="pad"),
    Control(id="b", name="B", kind="button"),
    Control(id="f", name="F", kind="pedal"),
)


@st.composite
def pad_sends(draw, control, number):
    low = draw(st.sampled_from([1, 1, 41, 100]))
    return Send(
        control=control,
        message="note",
        number=number,
        channel=draw(st.integers(1, 2)),
        mode=draw(MODES),
        vel_low=low,
        vel_high=draw(st.integers(low, 127)),
        ports=draw(st.sampled_from([(), ("o",), ("x",)])),
        mutes=draw(st.sampled_from([None, "hat"])),
        muted_by=draw(st.sampled_from([None, "hat"])),
    )


@st.composite
def sustains(draw, control):
    low, high = draw(ENDS)
    return Send(
        control=control,
        message="controller",
        number=64,
        low=low,
        high=high,
        channel=draw(st.integers(1, 2)),
        mode=draw(MODES),
    )


@st.composite
def programs(draw, number):
    notes = draw(st.lists(st.sampled_from([48, 50]), min_size=3, max_size=3))
    held = [draw(pad_sends(c, n)) for c, n in zip("ppq", notes, strict=True)]
    held += [draw(sustains(c)) for c in draw(st.lists(st.sampled_from("bf"), max_size=3))]
    return Program(number=number, name=f"P{number}", sends=tuple(held))


@st.composite
def rigs(draw):
    """A keyboard and a pad controller into a merger and a module; a second cable perhaps."""
    parts = tuple(
        part(
            f"t{n}",
            draw(st.sampled_from([None, 1, 2])),
            mono=draw(st.booleans()),
            trigger=draw(st.sampled_from(["gate", "one-shot", "toggle"])),
            mute_group=draw(st.sampled_from([None, None, "m"])),
            sustains=draw(st.booleans()),
        )
        for n in range(3)
    )
    boards = tuple(
        Program(
            number=n,
            name=f"B{n}",
            zones=tuple(
                zone(z, 48, 52, draw(st.integers(1, 2)), transpose=draw(st.sampled_from([0, 0, 2])))
                for z in "yz"
            ),
        )
        for n in (0, 1)
    )
    outs = (
        Port(id="o", name="o", flow="out", link=draw(LINKS)),
        Port(id="x", name="x", flow="out", link="usb"),
    )
    pads = Device(
        id="pads",
        name="Pads",
        kind="pads",
        controls=CONTROLS,
        ports=outs,
        programs=(draw(programs(0)), draw(programs(1))),
    )
    weir = Device(
        id="weir",
        name="Weir",
        kind="merger",
        delay_ms=draw(st.sampled_from([0.0, 0.5])),
        ports=(
            Port(id="p", name="p", flow="in"),
            Port(id="q", name="q", flow="in"),
            Port(id="o", name="o", flow="out", link="din"),
        ),
        thrus=(Thru(source="p", dest="o"), Thru(source="q", dest="o")),
    )
    box = module(
        *parts,
        ports=(Port(id="in", name="in", flow="in"), Port(id="u", name="u", flow="in", link="usb")),
    )
    board = keyboard(programs=boards, link=draw(LINKS), local=False)
    cables = [("board:out", "weir:p"), ("pads:o", "weir:q"), ("weir:o", "box:in")]
    cables += [("pads:x", "box:u")] * draw(st.booleans())
    return rig(
        board,
        pads,
        weir,
        box,
        cables=cables,
        scenes=(scene("s", board=0, pads=0), scene("t", board=1, pads=1)),
    )


GESTURES = st.lists(
    st.tuples(
        st.sampled_from([0.0, 0.3, 1.0, 5.0, 60.0]),
        st.one_of(
            st.tuples(st.just("key"), st.integers(48, 50), st.sampled_from([0, 90])),
            st.tuples(st.sampled_from("ppqqbf"), st.just(0), VALUES),
            st.tuples(st.just("scene"), st.just(0), st.integers(0, 1)),
        ),
    ),
    max_size=25,
)


def play(plan, gestures, after):
    """Both engines play; ``after`` is told what each has sounding after every gesture."""
    quick = Performance(compile_scene(plan, plan.scenes[0]))
    slow, at = Simulator(plan, plan.scenes[0]), 0.0
    board, pads = plan.devices[0], plan.devices[1]
    kinds = {c.id: c for c in CONTROLS}
    for later, (what, key, value) in gestures:
        at += later
        if what == "scene":
            slow.scene = plan.scenes[value]
            quick.load(compile_scene(plan, slow.scene))
        elif what != "key":
            quick.move((f"pads:{what}", 1), value, at)
            slow.control(pads, kinds[what], value, at)
        elif value:
            quick.press(("board:keys", key), value, at)
            slow.key(board, "keys", key, value, at)
        else:
            quick.release(("board:keys", key), at)
            slow.let_go(("board:keys", key), at)
        after(sounding(quick), slow.sounding())
    return quick, at


def sounding(quick):
    return Counter((v.key, v.landing.ref, v.landing.note) for v in quick.sounding)


@settings(max_examples=scaled(180), deadline=None)
@given(rigs(), GESTURES)
def test_what_sounds_is_what_the_simulator_says(plan, gestures):
    def same(quick, slow):
        assert quick == slow

    play(plan, gestures, same)


@settings(max_examples=scaled(30), deadline=None)
@given(rigs(), st.integers(0, 2**32))
def test_nothing_sounds_on_after_all_is_let_go_except_where_a_finding_says_so(plan, seed):
    """A thousand gestures a rig: with VZ_FUZZ=35 a million."""
    chance, at = random.Random(seed), 0.0
    quick = Performance(compile_scene(plan, plan.scenes[0]))
    for _ in range(1000):
        at += chance.choice((0.0, 0.3, 5.0, 60.0))
        what = chance.randrange(8)
        if what < 3:
            quick.press(("board:keys", chance.randint(48, 50)), chance.randint(1, 127), at)
        elif what < 5:
            quick.release(("board:keys", chance.randint(48, 50)), at)
        elif what < 7:
            control, value = chance.choice("pqbf"), chance.choice((0, 0, 1, 40, 63, 64, 127))
            quick.move((f"pads:{control}", 1), value, at)
        else:
            quick.load(compile_scene(plan, chance.choice(plan.scenes)))
    for key in range(48, 51):
        quick.release(("board:keys", key), at + 100)
    for control in CONTROLS:
        quick.move((f"pads:{control.id}", 1), 127, at + 200)
        quick.move((f"pads:{control.id}", 1), 0, at + 300)
    said = {f.rule for f in check(plan)}
    toggles = any(s.mode == "toggle" for p in plan.devices[1].programs for s in p.sends)
    for voice in quick.sounding:
        loop = voice.landing.part.trigger == "toggle" or toggles
        assert loop or said & {"note without an end", "pedal holds at rest"}


def pads_plan(**more):
    send = Send(control="p", message="note", number=48, channel=1, **more)
    pads = Device(
        id="pads",
        name="Pads",
        kind="pads",
        controls=CONTROLS,
        ports=(Port(id="o", name="o", flow="out"),),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    return rig(pads, module(part()), cables=[("pads:o", "box:in")])


def test_a_soft_pad_sounds_until_it_is_let_go_and_one_that_triggers_is_found():
    hands = Performance(compile_scene(pads_plan(), None))
    assert len(hands.move(("pads:p", 1), 20)) == 1 and hands.sounding
    hands.move(("pads:p", 1), 0)
    assert not hands.sounding
    endless = pads_plan(mode="trigger")
    (finding,) = [f for f in check(endless) if f.rule == "note without an end"]
    mended = finding.fixes[0](endless)
    assert "note without an end" not in {f.rule for f in check(mended)}
