"""Worked examples, calculated by hand."""

import msgspec
import pytest

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, simple, wish, zone
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send
from vastzone.core.plan.model.limits import Answers, CountLimit, Reserved, ScopeLimit
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.plan import Device, Port
from vastzone.core.plan.model.wishes import Schools, Wish
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import Refusal, work_out
from vastzone.core.solve.numbers import Solution


def solved(plan):
    found = work_out(plan)
    assert isinstance(found, Solution), found
    assert prove(found.plan).good, list(prove(found.plan).faults())
    assert found.gap == 0
    again = work_out(found.plan)
    assert (
        isinstance(again, Solution)
        and again.numbers == ()
        and again.plan.devices == found.plan.devices
    )
    return found


def value(found, ref):
    return dials(found.plan)[ref].value


def test_a_three_way_split_with_a_layer_over_a_merger():
    parts = (part("bass", 1), part("strings", 1), part("organ", 1), part("bells", 1))
    plan = joined(
        keyboard(zone()),
        module(*parts),
        wishes=(
            wish("bass", "box:bass", 36, 51),
            wish("strings", "box:strings", 52, 75),
            wish("organ", "box:organ", 52, 75),
            wish("bells", "box:bells", 76, 96),
        ),
    )
    found = solved(plan)
    zones = {z.id: z for z in found.plan.devices[0].programs[0].zones}
    assert sorted((z.low, z.high) for z in zones.values()) == [
        (36, 51),
        (52, 75),
        (52, 75),
        (76, 96),
    ]
    assert sorted(z.channel for z in zones.values()) == [1, 2, 3, 4], "lowest channels, one a sound"
    assert sum(z.layer for z in zones.values()) == 2


def test_one_channel_for_the_whole_device_shares_the_module_by_notes():
    """The small board has one zone; its two wishes share a channel, and ranges tell them apart."""
    small = Device(
        id="small",
        name="Small",
        kind="keyboard",
        ports=(Port(id="out", name="out", flow="out"),),
        keybeds=(Keybed(id="keys", name="Keys", low=48, keys=24),),
        programs=(Program(number=0, name="Panel", zones=(zone(low=48, high=71),)),),
        limits=(
            CountLimit(what="zones", most=1),
            ScopeLimit(setting="zone-channel", scope="global"),
        ),
    )
    keys = ("small:keys",)
    plan = joined(
        keyboard(zone()),
        small,
        module(part("piano", 1), part("low", 1), part("high", 1)),
        wishes=(
            wish("piano", "box:piano"),
            wish("low", "box:low", 48, 59, keys),
            wish("high", "box:high", 60, 71, keys),
        ),
    )
    found = solved(plan)
    assert value(found, "small/0/zone.all/channel") == value(found, "box/part.low/channel")
    assert value(found, "box/part.low/channel") == value(found, "box/part.high/channel")
    assert value(found, "box/part.piano/channel") != value(found, "box/part.low/channel")
    assert (value(found, "box/part.low/high"), value(found, "box/part.high/low")) == (59, 60)


@pytest.mark.parametrize("count", [16, 17])
def test_seventeen_sounds_on_channels_of_their_own_are_one_too_many(count):
    parts = tuple(part(f"s{n}", 1) for n in range(1, count + 1))
    wishes = tuple(
        wish(f"w{n}", f"box:s{n}", sources=(f"pads:pad-{n}",), note=40 + n, alone=True)
        for n in range(1, count + 1)
    )
    plan = joined(pads(count), module(*parts), wishes=wishes)
    if count == 16:
        found = solved(plan)
        assert sorted(value(found, f"box/part.s{n}/channel") for n in range(1, 17)) == list(
            range(1, 17)
        )
        return
    refused = work_out(plan)
    assert isinstance(refused, Refusal)
    assert set(refused.wishes) == {f"w{n}" for n in range(1, 18)}
    labels = " ".join(m.label for m in refused.mends)
    assert "second port" in labels and "share channels" in labels and "Leave out W17" in labels
    sharing = next(m for m in refused.mends if "share" in m.label)
    assert isinstance(work_out(sharing.edit(plan)), Solution)


def test_two_locks_on_one_channel_with_overlapping_ranges_are_named():
    plan = joined(
        keyboard(zone("a", 36, 64), zone("b", 60, 96)),
        module(part("one", 1), part("two", 1)),
        wishes=(
            wish("a", "box:one", 36, 64),
            wish("b", "box:two", 60, 96),
            wish("c", "box:two", 60, 96, vel_low=1),
        )[:2],
    )
    for ref in ("box/part.one/channel", "box/part.two/channel"):
        plan = lock(ref)(plan)
    refused = work_out(plan)
    assert isinstance(refused, Refusal)
    assert set(refused.locks) == {"box/part.one/channel", "box/part.two/channel"}
    assert set(refused.wishes) == {"a", "b"}
    freed = [m for m in refused.mends if m.label.startswith("Free")]
    assert len(freed) == 2 and all(isinstance(work_out(m.edit(plan)), Solution) for m in freed)


def test_a_pad_bank_that_doubles_low_keys_moves_off_their_channel():
    kit = Kit(
        id="kit",
        name="Kit",
        sounds=tuple(Sound(id=f"d{n}", name=f"Drum {n}", note=35 + n) for n in range(1, 5)),
    )
    drums = part("drums", 10, kit="kit", rhythm=True)
    one_channel = (ScopeLimit(setting="send-channel", scope="program"),)
    plan = joined(
        keyboard(zone()),
        pads(limits=one_channel),
        module(part("bass", 1), drums, kits=(kit,)),
        wishes=(
            wish("bass", "box:bass"),
            wish(
                "beat",
                "box:drums",
                sources=tuple(f"pads:pad-{n}" for n in range(1, 5)),
                sounds=("d1", "d2", "d3", "d4"),
            ),
        ),
    )
    before = {m.verdict for _, m in prove(plan).faults()}
    assert "wrong" in before
    found = solved(plan)
    assert {n.ref for n in found.numbers} == {f"pads/0/pad-{n}.1/channel" for n in range(1, 5)}
    assert {n.after for n in found.numbers} == {10}, (
        "one channel of the pads rather than keys, bass and drums"
    )


def test_a_receiver_that_reserves_two_controllers_gets_others():
    targets = tuple(
        Target(id=f"t{n}", name=f"Level {n}", part="loop", controller=None, high=100.0)
        for n in (1, 2)
    )
    knobs = tuple(Control(id=f"k{n}", name=f"Knob {n}", kind="knob") for n in (1, 2))
    sends = tuple(
        Send(control=f"k{n}", message="controller", number=19 + n, channel=3) for n in (1, 2)
    )
    board = keyboard(zone(), controls=knobs, programs=(Program(number=0, name="P", sends=sends),))
    kept = Reserved(purpose="patch up and down", controllers=(20, 21))
    plan = rig(
        board,
        module(part("loop", 3), targets=targets, limits=(kept,)),
        wishes=tuple(
            Wish(id=f"i{n}", name=f"Level {n}", sources=(f"board:k{n}",), moves=f"box:t{n}")
            for n in (1, 2)
        ),
        schools=Schools(controllers="run", run_from=22),
    )
    found = solved(plan)
    assert [value(found, f"box/target.t{n}/controller") for n in (1, 2)] == [22, 23]
    assert [value(found, f"board/0/k{n}.1/number") for n in (1, 2)] == [22, 23]


@pytest.mark.parametrize("fixed", [True, False])
def test_a_kit_whose_notes_are_fixed_moves_the_pads_a_movable_one_itself(fixed):
    sounds = tuple(Sound(id=f"d{n}", name=f"Drum {n}", note=59 + n) for n in range(1, 5))
    kit = Kit(id="kit", name="Kit", sounds=sounds, fixed=fixed)
    box = module(part("drums", 1, kit="kit"), kits=(kit,))
    beat = wish(
        "beat",
        "box:drums",
        sources=tuple(f"pads:pad-{n}" for n in range(1, 5)),
        sounds=("d1", "d2", "d3", "d4"),
    )
    plan = rig(pads(), box, cables=(("pads:out", "box:in"),), wishes=(beat,))
    found = solved(plan)
    assert len(found.numbers) == 4
    assert {n.ref.split("/")[0] for n in found.numbers} <= ({"pads"} if fixed else {"pads", "box"})
    if not fixed:
        held = plan
        for n in range(1, 5):
            held = lock(f"pads/0/pad-{n}.1/number")(held)
        moved = solved(held)
        assert [value(moved, f"box/kit.kit/d{n}") for n in range(1, 5)] == [36, 37, 38, 39]


def test_an_octave_misnamed_is_mended_where_it_is_cheapest():
    low = part("bass", 1, low=48, high=96)
    plan = rig(
        keyboard(zone("bass", 36, 59)), module(low), wishes=(wish("bass", "box:bass", 36, 59),)
    )
    found = solved(plan)
    assert [(n.ref, n.before, n.after) for n in found.numbers] == [("box/part.bass/low", 48, 36)]
    fixed = module(low, limits=(ScopeLimit(setting="part-range", scope="fixed"),))
    shifted = solved(msgspec.structs.replace(plan, devices=(plan.devices[0], fixed)))
    refs = {n.ref: n.after for n in shifted.numbers}
    assert refs == {"board/0/zone.bass/octave": 1, "box/part.bass/transpose": -12}
    never = module(low, limits=(*fixed.limits, ScopeLimit(setting="part-shift", scope="fixed")))
    refused = work_out(msgspec.structs.replace(plan, devices=(plan.devices[0], never)))
    assert isinstance(refused, Refusal) and refused.wishes == ("bass",)


def test_scenes_that_want_different_things_get_programs_of_their_own():
    plan = rig(
        keyboard(zone()),
        module(part("one", 1), part("two", 2)),
        scenes=(scene("dusk"), scene("dawn")),
        wishes=(
            wish("one", "box:one", scenes=("dusk",)),
            wish("two", "box:two", scenes=("dawn",)),
        ),
    )
    found = solved(plan)
    assert [c.program for s in found.plan.scenes for c in s.programs] == [1]
    assert [p.zones[0].channel for p in found.plan.devices[0].programs] == [1, 2]
    tight = msgspec.structs.replace(
        plan.devices[0], limits=(CountLimit(what="memory-slots", most=1),)
    )
    refused = work_out(msgspec.structs.replace(plan, devices=(tight, plan.devices[1])))
    assert isinstance(refused, Refusal) and set(refused.wishes) == {"one", "two"}


def test_what_arrives_twice_is_sent_by_one_output():
    ports = (
        Port(id="out", name="out", flow="out"),
        Port(id="usb", name="USB", flow="both", link="usb"),
    )
    box = module(
        part("piano", 1),
        ports=(
            Port(id="in", name="in", flow="in"),
            Port(id="usb", name="USB", flow="both", link="usb"),
        ),
    )
    plan = rig(
        keyboard(zone(), ports=ports),
        box,
        wishes=(wish("piano", "box:piano"),),
        cables=(("board:out", "box:in"), ("board:usb", "box:usb")),
    )
    assert [m.verdict for _, m in prove(plan).faults()] == ["double"]
    found = solved(plan)
    assert found.plan.devices[0].programs[0].zones[0].ports == ("out",), "0.96 ms beats 1 ms"


def test_velocity_splits_and_layers_are_kept():
    plan = rig(
        keyboard(zone()),
        module(part("soft", 1), part("loud", 2)),
        wishes=(
            wish("soft", "box:soft", vel_high=79),
            wish("loud", "box:loud", vel_low=80),
        ),
    )
    found = solved(plan)
    windows = {(z.vel_low, z.vel_high) for z in found.plan.devices[0].programs[0].zones}
    assert windows == {(1, 79), (80, 127)}


def test_a_wish_without_a_cable_is_refused_with_the_reason():
    plan = rig(
        keyboard(zone()), module(part("one", 1)), cables=(), wishes=(wish("one", "box:one"),)
    )
    refused = work_out(plan)
    assert (
        isinstance(refused, Refusal)
        and "No cable" in refused.sentence
        and refused.wishes == ("one",)
    )


def test_notes_that_a_receiver_does_not_answer_are_refused():
    box = module(
        part("one", 1),
        limits=(Answers(low=60, high=72), ScopeLimit(setting="part-shift", scope="fixed")),
    )
    refused = work_out(rig(keyboard(zone()), box, wishes=(wish("one", "box:one"),)))
    assert isinstance(refused, Refusal)


def test_adding_a_wish_moves_only_what_it_must():
    plan = joined(
        keyboard(zone()),
        module(part("one", 7), part("two", 3)),
        wishes=(wish("one", "box:one", 36, 59),),
    )
    first = solved(plan)
    more = msgspec.structs.replace(
        first.plan, wishes=(*plan.wishes, wish("two", "box:two", 60, 96))
    )
    kept = dials(first.plan)
    after = solved(more)
    assert not [n for n in after.numbers if n.ref in kept and "zone" not in n.ref]
    assert value(after, "box/part.one/channel") == value(first, "box/part.one/channel")


def test_every_number_has_its_reason():
    plan = joined(
        keyboard(zone(channel=5)), module(part("one", 2)), wishes=(wish("one", "box:one"),)
    )
    (number,) = solved(plan).numbers
    assert (number.reason.endswith(".") and "One" in number.reason) or "All" in number.reason
    assert simple() is not plan


def test_more_targets_than_assign_slots_are_refused():
    targets = tuple(Target(id=f"t{n}", name=f"T{n}", part="loop") for n in (1, 2))
    knobs = tuple(Control(id=f"k{n}", name=f"Knob {n}", kind="knob") for n in (1, 2))
    board = keyboard(zone(), controls=knobs)
    slots = CountLimit(what="assign-slots", most=3, taken=(1, 2))
    plan = rig(
        board,
        module(part("loop", 1), targets=targets, limits=(slots,)),
        wishes=tuple(
            Wish(id=f"i{n}", name=f"I{n}", sources=(f"board:k{n}",), moves=f"box:t{n}")
            for n in (1, 2)
        ),
    )
    refused = work_out(plan)
    assert isinstance(refused, Refusal) and set(refused.wishes) == {"i1", "i2"}
    assert "1 assign slot" in refused.sentence and len(refused.mends) == 2


def test_a_sound_that_may_move_lies_where_its_part_answers():
    kit = Kit(
        id="kit",
        name="Kit",
        fixed=False,
        sounds=(Sound(id="a", name="A", note=60), Sound(id="b", name="B", note=62)),
    )
    limits = (ScopeLimit(setting="part-range", scope="fixed"),)
    drums = part("drums", 1, low=60, high=61, kit="kit")
    plan = joined(
        pads(2),
        module(drums, kits=(kit,), limits=limits),
        wishes=(wish("kit", "box:drums", sources=("pads:pad-1", "pads:pad-2"), sounds=("a", "b")),),
    )
    found = solved(plan)
    assert {value(found, "box/kit.kit/a"), value(found, "box/kit.kit/b")} == {60, 61}
