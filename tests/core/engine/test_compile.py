"""The compiled engine and the proof against a slow walk of each note through the plan."""

from collections import Counter

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.engine.oracle import sounds
from tests.rigs import keyboard, module, part, rig, scene, zone
from vastzone import demo
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.receivers import outsides
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.controls import Control, KitChoice, Program
from vastzone.core.plan.model.organ import Coupler
from vastzone.core.plan.model.parts import Kit, Sound
from vastzone.core.plan.model.plan import Device, Port, Thru
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof.marking import prove
from vastzone.files import native

CHANNEL, NOTE = st.integers(1, 3), st.integers(0, 127)
JACKS = (Port(id="a", name="a", flow="out"), Port(id="b", name="b", flow="both", link="usb"))


def port(ident, flow="in"):
    return Port(id=ident, name=ident, flow=flow)


@st.composite
def spans(draw, low=0, high=127):
    one, other = draw(st.integers(low, high)), draw(st.integers(low, high))
    return min(one, other), max(one, other)


@st.composite
def zones(draw, ident):
    low, high = draw(spans(36, 96))
    vel_low, vel_high = draw(spans(1, 127))
    return zone(
        ident,
        low,
        high,
        draw(CHANNEL),
        transpose=draw(st.integers(-24, 24)),
        layer=True,
        octave=draw(st.integers(-3, 3)),
        vel_low=vel_low,
        vel_high=vel_high,
        on=draw(st.integers(0, 4)) > 0,
        ports=draw(st.sampled_from([(), ("a",), ("b",)])),
    )


@st.composite
def parts(draw, ident, ports):
    low, high = draw(spans())
    vel_low, vel_high = draw(spans(1, 127))
    return part(
        ident,
        draw(st.one_of(st.none(), CHANNEL)),
        low=low,
        high=high,
        vel_low=vel_low,
        vel_high=vel_high,
        transpose=draw(st.integers(-24, 24)),
        kit=draw(st.sampled_from([None, "pit", "attic"])),
        ports=draw(st.sampled_from([(), *((p,) for p in ports)])),
    )


@st.composite
def kits(draw):
    return tuple(
        Kit(
            id=ident,
            name=ident,
            sounds=tuple(
                Sound(id=f"s{n}", name=f"S{n}", note=n)
                for n in sorted(draw(st.sets(NOTE, max_size=9)))
            ),
        )
        for ident in ("pit", "attic")
    )


@st.composite
def webs(draw):
    """A keyboard with parts of its own, a merger, two modules; cables and thru as they come."""
    programs = tuple(
        Program(number=n, name=f"P{n}", zones=tuple(draw(zones(z)) for z in "xyz")) for n in (0, 1)
    )
    board = keyboard(
        programs=programs,
        ports=JACKS,
        local=draw(st.booleans()),
        parts=(draw(parts("own", ())),),
        kits=draw(kits()),
    )
    weir = Device(
        id="weir",
        name="Weir",
        kind="merger",
        ports=(*map(port, "pq"), port("o", "out")),
        thrus=tuple(Thru(source=p, dest="o") for p in "pq"),
    )
    boxes = [
        module(
            *(draw(parts(f"p{k}", "mn")) for k in range(3)),
            ident=ident,
            kits=draw(kits()),
            ports=(*map(port, "mn"), port("t", "out")),
            thrus=(Thru(source="m", dest="t"),) * draw(st.integers(0, 1)),
        )
        for ident in ("one", "two")
    ]
    choice = KitChoice(part="p0", kit=draw(st.sampled_from(["pit", "attic"])))
    boxes[0] = changed(
        boxes[0],
        programs=(Program(number=0, name="K", kits=(choice,)), Program(number=1, name="L")),
    )
    joins = draw(
        st.sets(
            st.tuples(
                st.sampled_from(["board:a", "board:b", "weir:o", "one:t", "two:t"]),
                st.sampled_from(["weir:p", "weir:q", "one:m", "one:n", "two:m", "two:n"]),
            ),
            max_size=7,
        )
    )
    return rig(
        board,
        weir,
        *boxes,
        cables=sorted(joins),
        scenes=(scene("s", board=0, one=0), scene("t", board=1, one=1)),
    )


def landed(compiled, ref, key, velocity):
    return Counter(
        (la.ref, la.note)
        for e in compiled.keys.get((ref, key), ())
        for la in e.landings
        if la.low <= velocity <= la.high
    )


@settings(max_examples=80, deadline=None)
@given(webs(), st.lists(st.integers(1, 127), min_size=3, max_size=3))
def test_every_key_sounds_what_a_walk_through_the_plan_says(plan, velocities):
    for at in plan.scenes:
        compiled = compile_scene(plan, at)
        for key in range(36, 97):
            for velocity in velocities:
                expected = sounds(plan, at, plan.devices[0], "keys", key, velocity)
                assert landed(compiled, "board:keys", key, velocity) == expected, (key, velocity)


@settings(max_examples=40, deadline=None)
@given(webs(), st.data())
def test_a_plan_is_as_meant_just_where_a_walk_finds_what_was_wished(plan, data):
    low, high = data.draw(spans(36, 96))
    end = data.draw(st.sampled_from(["board:own", "one:p0", "one:p1", "two:p2"]))
    shift = data.draw(st.sampled_from([0, 0, 12, -5]))
    wish = Wish(
        id="w",
        name="W",
        sources=("board:keys",),
        plays=end,
        low=low,
        high=high,
        shift=shift,
        scenes=("s",),
    )
    plan = changed(plan, wishes=(wish,))
    marks = [m for m in prove(plan).marks("s") if m.source == "board:keys"]
    for key in range(36, 97):
        for velocity in (1, 64, 127):
            heard = sounds(plan, plan.scenes[0], plan.devices[0], "keys", key, velocity)
            meant = Counter({(end, key + shift): 1}) if low <= key <= high else Counter()
            here = [
                m for m in marks if m.low <= key <= m.high and m.vel_low <= velocity <= m.vel_high
            ]
            assert len(here) == bool(heard or meant), (key, velocity)
            if here:
                assert (here[0].verdict == "as meant") is (heard == meant), (key, velocity)
                assert bool(here[0].missing) is bool(meant - heard)


def test_the_demo_sounds_what_a_walk_through_it_says():
    plan = native.read(demo.READY)
    struck = 0
    for at in plan.scenes:
        compiled = compile_scene(plan, at)
        for owner in plan.devices:
            for bed in owner.keybeds:
                for key in range(bed.low, bed.high + 1):
                    expected = sounds(plan, at, owner, bed.id, key, 96)
                    ref = f"{owner.id}:{bed.id}"
                    assert landed(compiled, ref, key, 96) == expected
                    playing = Performance(compiled)
                    voices = playing.press((ref, key), 96)
                    assert {v.landing.ref for v in voices} == {r for r, _ in expected}
                    struck += bool(expected)
    assert struck > 600


@given(st.data())
def test_an_edit_in_a_program_leaves_everything_outside_of_it_the_same_value(data):
    """Else every scene would be simulated anew, not only those on that program."""
    plan = native.read(demo.READY)
    played = [device for device in plan.devices if any(one.zones for one in device.programs)]
    owner = data.draw(st.sampled_from(played))
    first, *others = owner.controls or (Control(id="tab", name="Tab", kind="button"),)
    coupler = Coupler(id="k", name="K", of="great", plays="swell", on=data.draw(st.booleans()))
    controls = (changed(first, latches=data.draw(st.booleans())), *others)
    coupled = changed(owner, couplers=(coupler,), controls=controls)
    plan = changed(plan, devices=swapped(plan.devices, owner, coupled))
    program = data.draw(st.sampled_from([one for one in owner.programs if one.zones]))
    edit = set_zone(owner.id, program.number, program.zones[0].id, "Move", transpose=7)
    assert outsides(edit.change(plan)) is outsides(plan)
