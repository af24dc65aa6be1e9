"""Fills give exactly the expected notes; plugs follow the rules of splitters; copies keep wishes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import keyboard, module, part, rig, wish, zone
from vastzone import demo
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import copies, fills, plugs
from vastzone.core.plan.edits.copies import PadSpot
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound
from vastzone.core.plan.model.plan import Port
from vastzone.core.plan.model.triggers import Plug, TriggerInput, TriggerPad
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import strokes_as
from vastzone.core.proof.causes import causes
from vastzone.core.proof.check import check
from vastzone.files import native


def face(rows=3, columns=4):
    return tuple(
        Control(id=f"p{r}{c}", name=f"P{r}{c}", kind="pad", row=r, column=c)
        for r in range(rows)
        for c in range(columns)
    )


@pytest.mark.parametrize(
    ("columns", "width", "notes", "following"),
    [
        (4, 4, (36, 37, 38, 39, 40, 41, 42, 43, 44, 45, 46, 47), 48),
        (4, 5, (36, 37, 38, 39, 41, 42, 43, 44, 46, 47, 48, 49), 51),
        (3, 4, (36, 37, 38, 40, 41, 42, 44, 45, 46), 48),
    ],
)
def test_by_shape(columns, width, notes, following):
    found = fills.by_shape(face(columns=columns), 36, width)
    assert tuple(found.notes.values()) == notes and found.following == following


def test_in_order_and_from_the_kit():
    assert list(fills.in_order(face(1, 3), 60).notes.values()) == [60, 61, 62]
    kit = Kit(
        id="k",
        name="K",
        sounds=tuple(Sound(id=i, name=i, note=n) for i, n in (("a", 36), ("b", 49))),
    )
    assert fills.from_kit(face(1, 3), kit).notes == {"p00": 36, "p01": 49}


def test_what_does_not_fit_is_refused_with_a_reason():
    with pytest.raises(EditError, match="127"):
        fills.in_order(face(), 120)
    with pytest.raises(EditError, match="4 wide"):
        fills.by_shape(face(), 36, 3)
    with pytest.raises(EditError, match="begin 2 higher"):
        fills.in_order(face(1, 4), 1, fills.Way(up=False))


@given(
    st.integers(1, 4),
    st.integers(1, 4),
    st.integers(0, 3),
    st.integers(30, 90),
    st.sampled_from(fills.CORNERS),
    st.sampled_from(("rows", "columns")),
    st.booleans(),
)
def test_fills_from_any_corner_go_by_their_formula(rows, columns, wider, start, corner, by, up):
    """start ± (line · width + place), line and place counted from the corner, by hand."""
    pads, way = face(rows, columns), fills.Way(corner, by, up)
    width = (columns if by == "rows" else rows) + wider
    shaped = fills.by_shape(pads, start, width, way).notes
    plain = fills.in_order(pads, start, way).notes
    for r in range(rows):
        for c in range(columns):
            row = r if corner in ("top left", "top right") else rows - 1 - r
            column = c if corner in ("top left", "bottom left") else columns - 1 - c
            line, place = (row, column) if by == "rows" else (column, row)
            across = columns if by == "rows" else rows
            sign = 1 if up else -1
            assert shaped[f"p{r}{c}"] == start + sign * (line * width + place)
            assert plain[f"p{r}{c}"] == start + sign * (line * across + place)
    lines = rows if by == "rows" else columns
    assert fills.by_shape(pads, start, width, way).following == start + sign * lines * width


def test_a_three_wide_face_on_a_grid_of_four_goes_on_at_thirteen():
    assert fills.by_shape(face(3, 3), 1, 4).following == 13


def test_pads_outside_a_kit_are_named_and_the_nearest_better_start_is_offered():
    answered = set(range(35, 60))
    filled = {1: fills.in_order(face(2, 4), 30)}
    assert [pad for _, pad in fills.silent(filled, answered)] == ["p00", "p01", "p02", "p03", "p10"]
    assert fills.nearest_start(filled, 30, answered) == (35, 0)
    wide = {1: fills.in_order(face(6, 8), 20)}
    assert len(fills.silent(wide, answered)) == 23
    assert fills.nearest_start(wide, 20, answered) is None
    assert fills.nearest_start({1: fills.in_order(face(2, 4), 40)}, 40, answered) is None


def test_a_kit_goes_on_over_the_banks():
    sounds = tuple(Sound(id=f"s{n}", name=f"S{n}", note=50 - n) for n in range(5))
    kit = Kit(id="k", name="K", sounds=sounds)
    pads = face(1, 3)
    assert list(fills.from_kit(pads, kit).notes.values()) == [50, 49, 48]
    assert list(fills.from_kit(pads, kit, first=3).notes.values()) == [47, 46]


@pytest.mark.parametrize(
    ("sounds", "pads", "kits"), [(12, 12, 1), (13, 12, 2), (0, 12, 0), (25, 8, 4)]
)
def test_kits_needed(sounds, pads, kits):
    assert fills.kits_needed(sounds, pads) == kits


def test_the_pads_as_they_lie_are_filled_in_the_demo():
    plan = native.read(demo.READY)
    owner = lookup.device(plan, "dipper")
    first = fills.in_order(fills.pads_of(owner), 36)
    second = fills.in_order(fills.pads_of(owner), first.following)
    filled = fills.apply("dipper", 0, {1: first, 2: second}, 10)(plan)
    held = lookup.device(filled, "dipper").programs[0].sends
    numbers = sorted((s.bank, s.number) for s in held if s.message == "note")
    assert numbers == [(1, 36 + n) for n in range(12)] + [(2, 48 + n) for n in range(12)]
    assert {s.channel for s in held if s.message == "note"} == {10}


@pytest.mark.parametrize(
    ("what", "message", "wished"), [("message", 1, 0), ("sound", 0, 1), ("both", 1, 1)]
)
def test_a_copy_takes_what_is_asked(what, message, wished):
    plan = native.read(demo.READY)
    copied = copies.copy(
        plan, "dipper", PadSpot(0, "pad-7", 1), PadSpot(0, "pad-2", 2), what, "zone"
    )(plan)
    held = lookup.device(copied, "dipper").programs[0].sends
    assert sum((s.control, s.bank) == ("pad-2", 2) for s in held) == message
    new = [i for i in copied.wishes if i.sources == ("dipper:pad-2",) and i.bank == 2]
    assert len(new) == wished and all(i.plays == "mudlark:gulls" for i in new)
    assert {i.id for i in plan.wishes} <= {i.id for i in copied.wishes}


def brain(*types):
    inputs = tuple(
        TriggerInput(id=f"in-{n}", name=f"In {n}", types=t, type=t[0]) for n, t in enumerate(types)
    )
    return module(part(), ident="brain", inputs=inputs)


def drum_plan(*pads, plugs=(), types=(("dual",), ("mono", "piezo-switch"))):
    return rig(keyboard(zone()), brain(*types), cables=(), pads=pads, plugs=plugs)


TWINS = tuple(TriggerPad(id=i, name=i, sensor="single", model="m") for i in "ab")


def test_two_twins_share_an_input_and_a_third_does_not():
    odd = TriggerPad(id="odd", name="odd", sensor="single", model="other")
    plan = drum_plan(*TWINS, odd)
    for pad in "ab":
        plan = plugs.plug_in(plan, pad, "brain:in-0")(plan)
    assert {(g.pad, g.side) for g in plan.plugs} == {("a", "tip"), ("b", "ring")}
    with pytest.raises(EditError, match="two pads already"):
        plugs.plug_in(plan, "odd", "brain:in-0")
    alone = plugs.pull_out("a")(plan)
    assert [(g.pad, g.side) for g in alone.plugs] == [("b", "")]
    with pytest.raises(EditError, match="cannot share"):
        plugs.plug_in(alone, "odd", "brain:in-0")


def test_a_pad_that_is_removed_takes_its_plug_with_it():
    plan = drum_plan(*TWINS)
    for pad in "ab":
        plan = plugs.plug_in(plan, pad, "brain:in-0")(plan)
    left = plugs.remove_pad("a")(plan)
    assert [p.id for p in left.pads] == ["b"]
    assert [(g.pad, g.side) for g in left.plugs] == [("b", "")]
    named = plugs.set_pad("b", "Name", name="Left")(plan)
    assert [p.name for p in named.pads] == ["a", "Left"]
    assert len(plugs.add_pad(TWINS[0])(plan).pads) == 3


def test_the_rules_of_inputs_name_what_is_lost_and_mend_it():
    ride = TriggerPad(id="ride", name="Ride", sensor="two switches", importance="must")
    kick = TriggerPad(id="kick", name="Kick", sensor="kick", importance="must")
    plan = drum_plan(ride, kick, plugs=(Plug(pad="ride", input="brain:in-1"),))
    found = {f.rule: f for f in check(plan)}
    assert (
        found["pad in no input"].severity == "fault" and "Kick" in found["pad in no input"].sentence
    )
    lost = found["zone lost"]
    assert "edge and bell" in lost.sentence
    mended = {f.rule: f for f in check(lost.fixes[0](plan))}
    assert "loses its bell" in mended["zone lost"].sentence


def test_a_broken_splitter_is_a_fault():
    snare = TriggerPad(id="snare", name="Snare", sensor="dual")
    both = (Plug(pad="a", input="brain:in-0", side="tip"), Plug(pad="snare", input="brain:in-0"))
    plan = drum_plan(TWINS[0], snare, plugs=both)
    broken = next(f for f in check(plan) if f.rule == "splitter broken")
    assert not [f for f in check(broken.fixes[0](plan)) if f.rule == "splitter broken"]


def test_plugs_to_nothing_are_refused():
    plan = drum_plan(*TWINS)
    with pytest.raises(EditError):
        plugs.take_over((Plug(pad="a", input="brain:in-9"),), {})(plan)
    with pytest.raises(EditError):
        plugs.take_over((Plug(pad="nobody", input="brain:in-0"),), {})(plan)
    assert plugs.remove_pad("a")(plan).pads == TWINS[1:]
    assert len(plugs.add_pad(TWINS[0])(plan).pads) == 3


SNARE = TriggerPad(id="snare", name="Snare", sensor="dual")


def struck_rim(kind="dual", linked=False, pads=(SNARE,)):
    """A rim that is wished, in an input that may not hear it."""
    socket = TriggerInput(id="in", name="In", types=("mono", "dual"), type=kind, linked=linked)
    controls = tuple(
        Control(id=z, name=z.title(), kind="pad", input="in", zone=z) for z in ("head", "rim")
    )
    sends = tuple(
        Send(control=z, message="note", number=n, channel=1) for z, n in (("head", 38), ("rim", 40))
    )
    out = Port(id="out", name="out", flow="out")
    drums = module(
        ident="brain",
        inputs=(socket,),
        controls=controls,
        programs=(Program(number=0, name="P", sends=sends),),
        ports=(out,),
    )
    wished = tuple(
        wish(z, "box:piano", sources=(f"brain:{z}",), note=n)
        for z, n in (("head", 38), ("rim", 40))
    )
    plugged = tuple(Plug(pad=p.id, input="brain:in") for p in pads)
    return rig(
        drums,
        module(part()),
        cables=(("brain:out", "box:in"),),
        pads=pads,
        plugs=plugged,
        wishes=wished,
    )


@pytest.mark.parametrize(
    ("plan", "why", "fixes"),
    [
        (struck_rim(linked=True), "is linked", ["Unlink the zones"]),
        (struck_rim("mono"), "does not tell it apart", ["Set that input to dual"]),
    ],
)
def test_a_stroke_that_is_not_heard_by_itself_says_why(plan, why, fixes):
    found = [c.finding for c in causes(plan) if c.finding.rule == "stroke not heard"]
    assert found and why in found[0].sentence
    assert [fix.label for fix in found[0].fixes] == fixes
    for fix in found[0].fixes:
        assert "stroke not heard" not in {c.finding.rule for c in causes(fix(plan))}


def test_a_pad_that_tells_its_zones_apart_is_heard():
    assert "stroke not heard" not in {c.finding.rule for c in causes(struck_rim())}


def two_sockets(linked):
    """Two inputs of one kind, the second of them linked or not."""
    sockets = tuple(
        TriggerInput(id=i, name=i, types=("dual",), type="dual", linked=linked and i == "b")
        for i in "ab"
    )
    controls = tuple(
        Control(id=f"{i}-{z}", name=f"{i} {z}", kind="pad", input=i, zone=z)
        for i in "ab"
        for z in ("head", "rim")
    )
    pads = tuple(TriggerPad(id=i, name=i, sensor="dual") for i in "ab")
    plugged = tuple(Plug(pad=i, input=f"brain:{i}") for i in "ab")
    drums = module(ident="brain", inputs=sockets, controls=controls)
    return rig(drums, cables=(), pads=pads, plugs=plugged)


def strokes(plan):
    return dict(strokes_as(plan, plan.devices[0]))


def test_a_linked_input_sounds_its_own_main_zone_and_no_other_s():
    assert strokes(two_sockets(False)) == {}
    assert strokes(two_sockets(True)) == {"b-rim": "b-head"}
    pulled = plugs.pull_out("b")(two_sockets(False))
    assert strokes(pulled) == {"b-head": "", "b-rim": ""}
    assert strokes(plugs.pull_out("a")(pulled)) == {}
