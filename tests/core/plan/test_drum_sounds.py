"""A drum keeps its sound: splitting and replugging never change what it sounds."""

from collections import Counter

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.rigs import module, rig
from tests.scale import scaled
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.voice import Voice
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.drum_sounds import sounds_of
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.plugs import change_input, plug_in, pull_out, take_over
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Part, Sound
from vastzone.core.plan.model.triggers import TriggerInput, TriggerPad
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import stations, strokes_as
from vastzone.core.proof.marking import prove
from vastzone.core.solve.plugging import ModuleInput, fit

SENSORS = ("single", "dual", "switch", "two switches", "kick")
TYPES = (
    ("dual", "mono"),
    ("dual", "piezo-switch"),
    ("piezo-switch",),
    ("three-way",),
    ("mono",),
    ("kick",),
)
ZONES = {
    "dual": ("head", "rim", "cross-stick"),
    "piezo-switch": ("bow", "edge"),
    "three-way": ("bow", "edge", "bell"),
}


def brain(ident, kinds, first):
    """A module of its own sounds: each control sends a note that a kit of its own answers."""
    inputs = tuple(
        TriggerInput(id=f"in-{n}", name=f"In {n}", types=kind, type=kind[0])
        for n, kind in enumerate(kinds)
    )
    controls = tuple(
        Control(id=f"c-{n}-{zone}", name=f"{n} {zone}", kind="pad", input=f"in-{n}", zone=zone)
        for n, kind in enumerate(kinds)
        for zone in ZONES.get(kind[0], ("head",))
    )
    programs = tuple(
        Program(
            number=number,
            name=f"P{number}",
            sends=tuple(
                Send(control=c.id, message="note", number=first + n + 2 * number, channel=10)
                for n, c in enumerate(controls)
            ),
        )
        for number in (0, 1)
    )
    kit = Kit(
        id="kit",
        name="Kit",
        sounds=tuple(Sound(id=f"s{n}", name=f"S{n}", note=n) for n in range(128)),
    )
    drums = Part(id="drums", name="Drums", tag="DR", channel=10, kit="kit", trigger="gate")
    return module(
        drums, ident=ident, inputs=inputs, controls=controls, programs=programs, kits=(kit,)
    )


@st.composite
def drum_rigs(draw):
    """One or two modules, some pads, and a wish for some of the controls."""
    kinds = st.lists(st.sampled_from(TYPES), min_size=2, max_size=5)
    modules = [brain("one", draw(kinds), 20)]
    if draw(st.booleans()):
        modules.append(brain("two", draw(kinds), 70))
    pads = tuple(
        TriggerPad(
            id=f"p{n}",
            name=f"P{n}",
            sensor=draw(st.sampled_from(SENSORS)),
            model=draw(st.sampled_from(("", "x"))),
        )
        for n in range(draw(st.integers(2, 5)))
    )
    return rig(*modules, cables=(), pads=pads)


def sounding(plan):
    """What each stroke sounds that its input tells apart: by really striking what it reaches.

    A pad that came when no input was left has no sound of its own but that of a pad which is out.
    """
    heard, lost = {}, set()
    for owner in plan.devices:
        lost |= {f"{owner.id}:{control}" for control, _ in strokes_as(plan, owner)}
    owned = Counter(at for pad in plan.pads for at in sounds_of(plan, pad).values())
    lost |= {at for at, pads in owned.items() if pads > 1}
    performance = Performance(compile_scene(plan, None))
    for station in stations(plan, plan.plugs):
        done = performance.move((station.at, 1), 100)
        notes = sorted(v.landing.note for v in done if isinstance(v, Voice))
        if notes and station.at not in lost:
            heard[station.pad, station.stroke] = notes
        performance.panic()
    return heard


def steps(plan):
    refs = [f"{d.id}:{j.id}" for d in plan.devices for j in d.inputs]
    ids = [pad.id for pad in plan.pads]
    one = st.tuples(st.sampled_from(ids), st.sampled_from([*refs, ""]))
    return st.lists(one, max_size=14)


@settings(max_examples=scaled(60), deadline=None)
@given(st.data())
def test_whatever_is_replugged_every_stroke_sounds_what_it_did_whenever_it_is_heard(data):
    plan = data.draw(drum_rigs())
    known = {}
    sends = sorted(_content(plan))
    for pad, ref in data.draw(steps(plan)):
        try:
            plan = (plug_in(plan, pad, ref) if ref else pull_out(pad))(plan)
        except EditError:
            continue
        for key, notes in sounding(plan).items():
            assert known.setdefault(key, notes) == notes
        # Nothing is lost and nothing doubled: the same sends, somewhere.
        assert sorted(_content(plan)) == sends


def _content(plan):
    return [
        (program.number, send.number)
        for d in plan.devices
        for program in d.programs
        for send in program.sends
    ]


@settings(max_examples=scaled(25), deadline=None)
@given(st.data())
def test_a_fit_changes_nothing_of_what_any_drum_sounds(data):
    plan = data.draw(drum_rigs())
    for pad, ref in data.draw(steps(plan)):
        try:
            plan = (plug_in(plan, pad, ref) if ref else pull_out(pad))(plan)
        except EditError:
            continue
    before = sounding(plan)
    jacks = tuple(ModuleInput(d.id, j) for d in plan.devices for j in d.inputs)
    best = fit(plan.pads, jacks, plan.plugs, next_best=False).best
    after = sounding(take_over(best.plugs, best.types)(plan))
    assert {key: after[key] for key in before if key in after} == {
        key: before[key] for key in before if key in after
    }


def small():
    plan = rig(
        brain("one", (("dual",), ("dual",), ("mono",)), 36),
        cables=(),
        pads=(
            TriggerPad(id="snare", name="Snare", sensor="dual"),
            TriggerPad(id="left", name="Left", sensor="single", model="rubber"),
            TriggerPad(id="right", name="Right", sensor="single", model="rubber"),
        ),
        wishes=(
            Wish(
                id="w",
                name="W",
                sources=("one:c-0-head", "one:c-0-rim"),
                plays="one:drums",
                sounds=("s36", "s37"),
            ),
        ),
    )
    return plug_in(plan, "snare", "one:in-0")(plan)


def test_wishes_locks_and_what_the_input_is_set_to_go_with_the_drum():
    plan = lock("one/0/c-0-head.1/number")(small())
    plan = change_input("one:in-0", "x", sensitivity=70, mask_ms=8.0)(plan)
    plan = plug_in(plan, "snare", "one:in-1")(plan)
    assert plan.wishes[0].sources == ("one:c-1-head", "one:c-1-rim")
    assert plan.settings[0].ref == "one/0/c-1-head.1/number"
    inputs = {jack.id: jack for jack in plan.devices[0].inputs}
    assert (inputs["in-1"].sensitivity, inputs["in-1"].mask_ms) == (70, 8.0)
    assert not list(prove(plan).faults())
    assert sounding(plan)["snare", "rim"] == [37]


def test_a_rim_that_no_input_hears_waits_and_comes_back():
    plan = plug_in(small(), "snare", "one:in-2")(small())
    snare = lookup.find(plan.pads, "snare")
    assert ("rim", "one:c-0-rim") in {(w.stroke, w.at) for w in snare.waits}
    assert sounding(plan)["snare", "head"] == [36]
    back = plug_in(plan, "snare", "one:in-1")(plan)
    assert sounding(back)["snare", "rim"] == [37] and not lookup.find(back.pads, "snare").waits
    out = pull_out("snare")(back)
    assert sounds_of(out, lookup.find(out.pads, "snare"))["head"] == "one:c-1-head"


def test_both_halves_of_a_splitter_sound_and_are_told_apart():
    plan = plug_in(small(), "left", "one:in-1")(small())
    plan = plug_in(plan, "right", "one:in-1")(plan)
    heard = sounding(plan)
    assert heard["left", "head"] == [39] and heard["right", "head"] == [40]
    apart = plug_in(plan, "right", "one:in-2")(plan)
    assert sounding(apart)["right", "head"] == [40] and sounding(apart)["left", "head"] == [39]


def test_pads_of_unknown_model_are_refused_beside_each_other():
    plan = small()
    pads = tuple(TriggerPad(id=i, name=i, sensor="single") for i in ("bell", "plate"))
    plan = rig(*plan.devices, cables=(), pads=pads)
    plan = plug_in(plan, "bell", "one:in-0")(plan)
    with pytest.raises(EditError, match="model"):
        plug_in(plan, "plate", "one:in-0")
