"""Wishes are made and taken back exactly where one says; cables and places follow the plan."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.rigs import keyboard, module, part, rig, scene, wish, zone
from vastzone import demo
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.usage import usage
from vastzone.core.pictures import rig_columns
from vastzone.core.plan.edits import cables, wishes
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.plan import Port
from vastzone.core.plan.queries import lookup
from vastzone.files import native

SCENES = ("one", "two", "three")
BED = "board:keys"


def meaning(plan):
    """Every scene, source, bank, key and end that some wish ties together."""
    found = set()
    for held in plan.wishes:
        for s in held.scenes or SCENES:
            for source in held.sources:
                low, high = (held.low or 0), 127 if held.high is None else held.high
                keys = range(max(low, 36), min(high, 96) + 1) if source == BED else (0,)
                found |= {(s, source, held.bank, k, held.plays or held.moves) for k in keys}
    return found


@st.composite
def wished(draw):
    made = []
    for n in range(draw(st.integers(1, 4))):
        scenes = tuple(draw(st.sets(st.sampled_from(SCENES))))
        end = draw(st.sampled_from(("box:piano", "box:bass")))
        if draw(st.booleans()):
            low = draw(st.integers(36, 96))
            made.append(wish(f"w{n}", end, low, draw(st.integers(low, 96)), scenes=scenes))
        else:
            sources = draw(st.sampled_from((("board:a",), ("board:a", "board:b"))))
            made.append(wish(f"w{n}", end, sources=sources, scenes=scenes, note=40))
    controls = tuple(Control(id=i, name=i, kind="pad") for i in "ab")
    return rig(
        keyboard(zone(), controls=controls),
        module(part(), part("bass", 2)),
        scenes=tuple(scene(s) for s in SCENES),
        wishes=tuple(made),
    )


@st.composite
def places(draw):
    if draw(st.booleans()):
        low = draw(st.integers(36, 96))
        return WishPlace(BED, 1, low, draw(st.integers(low, 96)))
    return WishPlace(draw(st.sampled_from(("board:a", "board:b"))))


def touched(place, end, scenes):
    keys = range(place.low, place.high + 1)
    return {(s, place.source, place.bank, k, end) for s in scenes or SCENES for k in keys}


@settings(max_examples=150, deadline=None)
@given(
    wished(), places(), st.sampled_from(("box:piano", "box:bass")), st.sets(st.sampled_from(SCENES))
)
def test_taking_back_takes_exactly_that_and_making_adds_exactly_that(plan, place, end, scenes):
    chosen = tuple(sorted(scenes))
    gone = wishes.take_back(place, end, chosen)(plan)
    assert meaning(gone) == meaning(plan) - touched(place, end, chosen)
    assert not wishes.held_at(gone, place, end, chosen)
    made = wishes.make(gone, place, end, chosen)(gone)
    assert meaning(made) == meaning(gone) | touched(place, end, chosen)


def test_controls_get_the_sounds_of_a_kit_one_after_the_other():
    plan = wishes.remove("beat")(wishes.remove("drum-kit")(native.read(demo.READY)))
    for pad in (1, 2):
        plan = wishes.make(plan, WishPlace(f"dipper:pad-{pad}", 2), "dovecote:drums", ())(plan)
    kit = lookup.device(plan, "dovecote").kits[0]
    assert [i.sounds for i in plan.wishes[-2:]] == [(s.id,) for s in kit.sounds[:2]]
    assert plan.wishes[-1].bank == 2


def test_cables_are_refused_with_a_reason_and_run_from_output_to_input():
    out, both = (
        Port(id="out", name="out", flow="out"),
        Port(id="usb", name="USB", flow="both", link="usb"),
    )
    board = keyboard(zone(), ports=(out, both))
    host = module(
        part(),
        ident="host",
        ports=(
            Port(id="usb", name="USB", flow="both", link="usb"),
            Port(id="out", name="out", flow="out"),
        ),
    )
    plan = rig(board, module(part()), host, cables=())
    for one, other, word in (
        ("board:out", "host:out", "both outputs"),
        ("board:usb", "box:in", "different kinds"),
        ("board:out", "board:usb", "two devices"),
        ("board:usb", "host:usb", "computer"),
    ):
        assert word in cables.refusal(plan, one, other)
    joined = cables.connect(plan, "box:in", "board:out")(plan)
    assert [(c.source, c.dest) for c in joined.cables] == [("board:out", "box:in")]
    assert "merger" in cables.refusal(joined, "host:out", "box:in")


def test_devices_stand_from_hands_to_sound_and_each_stands_once():
    plan = native.read(demo.AS_FOUND)
    columns = rig_columns.columns(plan)
    places = {i: n for n, column in enumerate(columns) for i in column}
    assert set(places) >= {d.id for d in plan.devices}
    assert sum(len(c) for c in columns) == len(places)
    assert places["heron"] < places["rookery"] < places["weir"] < places["dovecote"]
    assert places["dovecote"] == places["mudlark"] == places["echo-pool"]
    assert rig_columns.lane("heron", "weir", 1) in columns[1]


def test_a_cable_carries_the_channels_of_all_that_is_sent_over_it():
    plan = native.read(demo.READY)
    at = lookup.scene(plan, "the-keepers-stair")
    held = usage(compile_scene(plan, at))
    heron = lookup.program_in(at, lookup.device(plan, "heron"))
    merged = held["weir:out", "dovecote:din-in"]
    assert {z.channel for z in heron.zones if z.on} <= set(merged.channels)
    assert "dipper" in merged.senders[10] and "heron" not in merged.senders[10]


def test_the_last_sound_stands_for_all_controls_after_it():
    several = wish("w", "box:drums", sources=("b:a", "b:b", "b:c"), sounds=("kick", "snare"))
    assert [several.sound(place) for place in range(3)] == ["kick", "snare", "snare"]
    assert wish("w", "box:bass").sound(0) == ""


def test_a_cable_runs_from_the_side_that_sends():
    usb = Port(id="usb", name="USB", flow="both", link="usb")
    out = Port(id="usb", name="USB", flow="out", link="usb")
    inlet = Port(id="usb", name="USB", flow="in", link="usb")
    board = keyboard(zone(), ports=(usb,))
    for other, source in ((out, "host"), (usb, "board"), (inlet, "board")):
        host = changed(module(part(), ident="host", ports=(other,)), kind="computer")
        plan = rig(board, host, cables=())
        (cable,) = cables.connect(plan, "board:usb", "host:usb")(plan).cables
        assert cable.source == f"{source}:usb" and cable.dest != cable.source
        (turned,) = cables.connect(plan, "host:usb", "board:usb")(plan).cables
        assert turned.source == (f"{source}:usb" if other is not usb else "host:usb")


def test_a_wish_for_no_keys_is_one_for_all_of_midi():
    assert (wish("w", "box:piano").lowest, wish("w", "box:piano").highest) == (0, 127)
    assert (wish("w", "box:piano", 5, 9).lowest, wish("w", "box:piano", 5, 9).highest) == (5, 9)
