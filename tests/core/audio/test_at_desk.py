"""What arrives at the desk: every sound once, followed by a slow walk and worked by hand."""

import msgspec
from hypothesis import given
from hypothesis import strategies as st

from tests.core.audio.rigs import cable, desk, kit_of, module, on_stage, outputs, straight
from tests.rigs import wish as plays
from vastzone import demo
from vastzone.core.cards.desk_list import desk_lines
from vastzone.core.engine.audio import arrivals
from vastzone.core.plan.edits.audio import patch
from vastzone.core.plan.model.audio import AudioInput, AudioPass
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port
from vastzone.core.plan.queries.sounds import output_choices
from vastzone.core.proof.at_desk import at_desk
from vastzone.core.proof.check import check
from vastzone.files import native


def interface(passes, inputs=4, count=4):
    jacks = tuple(AudioInput(id=f"in-{n}", name=f"In {n}") for n in range(1, inputs + 1))
    return Device(
        id="box",
        name="Box",
        kind="interface",
        outputs=outputs(count),
        audio_inputs=jacks,
        audio_passes=tuple(AudioPass(source=source, dest=dest) for source, dest in passes),
    )


def channels(plan, choice):
    device = plan.devices[0]
    return [(one.carries, one.channel, one.into) for one in arrivals(plan, device, choice)]


def test_a_pair_of_jacks_goes_left_and_right_to_two_channels():
    plan = on_stage()
    assert channels(plan, "3+4") == [
        ("left", "desk:ch-3", "mono"),
        ("right", "desk:ch-4", "mono"),
    ]
    assert channels(plan, "2") == [("mono", "desk:ch-2", "mono")]


def test_a_pair_with_one_plug_loses_a_side_and_a_mono_jack_fills_both_of_a_pair():
    wide = msgspec.structs.replace(module(), outputs=outputs(1, "pair"))
    one_plug = Plan(
        name="P", devices=(wide, desk()), audio_cables=(cable("skua:1", "desk:ch-1", leg="left"),)
    )
    assert channels(one_plug, "1") == [("left", "desk:ch-1", "mono")]
    into_pair = Plan(
        name="P", devices=(module(1), desk(2, "pair")), audio_cables=(cable("skua:1", "desk:ch-1"),)
    )
    assert channels(into_pair, "1") == [
        ("mono", "desk:ch-1", "left"),
        ("mono", "desk:ch-1", "right"),
    ]


JACK = st.integers(1, 4)


@given(
    st.lists(st.tuples(JACK, JACK), max_size=6, unique=True),
    st.lists(st.tuples(JACK, JACK), max_size=6, unique=True),
    st.lists(st.tuples(JACK, JACK), max_size=5, unique=True),
)
def test_every_way_through_an_interface_is_found_once(into_box, passed, to_desk):
    """Against all triples of a cable, a pass and a cable, multiplied out."""
    passes = [(f"in-{source}", f"{dest}") for source, dest in passed]
    cables = [cable(f"skua:{a}", f"box:in-{b}") for a, b in into_box]
    cables += [cable(f"box:{a}", f"desk:ch-{b}") for a, b in to_desk]
    plan = Plan(name="P", devices=(module(), interface(passes), desk()), audio_cables=tuple(cables))
    for jack in range(1, 5):
        expected = []
        for (out, jack_in), (source, dest), (sent, channel) in (
            (a, b, c) for a in into_box for b in passed for c in to_desk
        ):
            if out == jack and jack_in == source and dest == sent:
                expected.append(f"desk:ch-{channel}")
        assert sorted(ref for _, ref, _ in channels(plan, f"{jack}")) == sorted(expected)


def test_a_ring_of_interfaces_is_gone_round_once():
    one = interface([("in-1", "1")])
    other = msgspec.structs.replace(one, id="other", name="Other")
    cables = (
        cable("skua:1", "box:in-1"),
        cable("box:1", "other:in-1"),
        cable("other:1", "box:in-1"),
        cable("box:1", "desk:ch-1"),
    )
    plan = Plan(name="P", devices=(module(), one, other, desk()), audio_cables=cables)
    assert {ref for _, ref, _ in channels(plan, "1")} == {"desk:ch-1"}


def drummed(device, *notes):
    """A pad box that plays notes on channel 10 into a module, and a desk."""
    pads, sends = [], []
    for place, note in enumerate(notes, 1):
        pads.append(Control(id=f"pad-{place}", name=f"Pad {place}", kind="pad"))
        sends.append(Send(control=f"pad-{place}", message="note", number=note, channel=10))
    box = Device(
        id="dunlin",
        name="Dunlin",
        kind="pads",
        ports=(Port(id="out", name="Out", flow="out"),),
        controls=tuple(pads),
        programs=(Program(number=0, name="One", sends=tuple(sends)),),
    )
    heard = msgspec.structs.replace(device, ports=(Port(id="in", name="In", flow="in"),))
    wished = tuple(
        plays(f"w{n}", "skua:drums", sources=(f"dunlin:pad-{n}",)) for n in range(1, len(notes) + 1)
    )
    return Plan(
        name="Played",
        devices=(heard, box, desk()),
        cables=(Cable(source="dunlin:out", dest="skua:in"),),
        audio_cables=straight(),
        wishes=wished,
    )


def test_only_what_is_played_has_to_arrive():
    plan = drummed(module(), 36, 38)
    assert [(one.unit.name, one.verdict) for one in at_desk(plan)] == [
        ("Kick", "once"),
        ("Hat", "once"),
    ]
    bare = msgspec.structs.replace(plan, audio_cables=())
    assert {one.verdict for one in at_desk(bare)} == {"nowhere"}


def test_two_copies_of_a_kit_on_two_outputs_are_a_fault_and_pruning_mends_it():
    second = msgspec.structs.replace(kit_of(), id="second", name="Second")
    parts = (
        Part(id="drums", name="Drums", tag="DR", channel=10, kit="kit", output="1"),
        Part(id="rest", name="Rest", tag="RE", channel=10, kit="second", output="2"),
    )
    plan = drummed(module(kits=(kit_of(), second), parts=parts), 36)
    (finding,) = [one for one in check(plan) if one.rule == "sound in two copies"]
    after = finding.fixes[0](plan)
    assert not [one for one in check(after) if one.rule == "sound in two copies"]
    assert [one.unit.name for one in at_desk(after)] == ["Kick"]


def test_patching_joins_pairs_to_pairs_and_mono_to_what_is_free():
    wide = msgspec.structs.replace(module(), outputs=(*outputs(2), *outputs(1, "headphones")))
    wide = msgspec.structs.replace(
        wide,
        outputs=(
            *outputs(2),
            msgspec.structs.replace(outputs(1, "pair")[0], id="main", name="Main"),
        ),
    )
    plan = Plan(name="P", devices=(wide, desk(4)))
    joined = patch(plan, "skua", "desk")(plan)
    ends = [(one.source, one.dest, one.leg) for one in joined.audio_cables]
    assert ends == [
        ("skua:1", "desk:ch-1", "both"),
        ("skua:2", "desk:ch-2", "both"),
        ("skua:main", "desk:ch-3", "left"),
        ("skua:main", "desk:ch-4", "right"),
    ]
    assert output_choices(wide) == ("1", "2", "main", "1+2")


def test_the_list_of_the_ready_demo_is_as_worked_by_hand():
    lines = desk_lines(native.read(demo.READY))
    told = [
        (one.channel.name, one.source, one.jack, one.side, one.di) for one in lines if one.cable
    ]
    assert told[3:10] == [
        ("Channel 4", "Sluice", "Output 4", "mono", ""),
        ("Channel 5", "Sluice", "Output 5", "L", ""),
        ("Channel 6", "Sluice", "Output 6", "R", ""),
        ("Channel 7", "Sluice", "Output 7", "L", ""),
        ("Channel 8", "Sluice", "Output 8", "R", ""),
        ("Channel 9", "Echo Pool", "Main L", "L", "DI"),
        ("Channel 10", "Echo Pool", "Main R", "R", "DI"),
    ]
    assert [one.name for one in lines[3:8]] == ["Drums", "Mudlark", "Mudlark", "Rookery", "Rookery"]


def test_as_found_has_one_sound_on_two_channels_and_ready_has_all_once():
    found = {one.unit.name: one.verdict for one in at_desk(native.read(demo.AS_FOUND))}
    assert found["Chain"] == "twice"
    assert {one.verdict for one in at_desk(native.read(demo.READY))} == {"once"}
