"""Zones, sends and controllers that a wish needs: taken over, shared, kept apart, by hand."""

import pytest

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from vastzone.core.plan.edits.edit import with_device
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import CountLimit, Reserved, ScopeLimit
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, Thru
from vastzone.core.plan.model.wishes import Schools, Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import Refusal, work_out
from vastzone.core.solve.numbers import Solution

TWO = (part("piano", 1), part("two", 2))


def solved(plan):
    answer = work_out(plan)
    assert isinstance(answer, Solution), answer
    assert prove(answer.plan).good
    return answer.plan


def zones(plan, number=0):
    return lookup.program(lookup.device(plan, "board"), number).zones


def sends(plan, device="board", number=0):
    return lookup.program(lookup.device(plan, device), number).sends


def short_of(zones, *wishes, parts=TWO, **more):
    limit = (CountLimit(what="zones", most=zones),) if zones else ()
    return rig(keyboard(limits=limit, **more), module(*parts), wishes=wishes)


def test_wishes_for_the_same_keys_share_a_zone_where_zones_are_short():
    both = wish("a", "box:piano", 36, 59), wish("b", "box:two", 36, 59)
    assert [z.on for z in zones(solved(short_of(1, *both)))] == [True]
    plenty = [z for z in zones(solved(short_of(2, *both))) if z.on]
    assert len(plenty) == 2 and all(z.layer for z in plenty)


def test_wishes_side_by_side_share_a_wider_zone_and_parts_are_told_apart_by_range():
    split = wish("a", "box:piano", 36, 59), wish("b", "box:two", 60, 96)
    (one,) = [z for z in zones(solved(short_of(1, *split))) if z.on]
    assert (one.low, one.high) == (36, 96)
    apart = [z for z in zones(solved(short_of(2, *split))) if z.on]
    assert sorted((z.low, z.high) for z in apart) == [(36, 59), (60, 96)]
    assert not any(z.layer for z in apart)


def test_neighbours_that_touch_in_one_key_are_a_layer_there():
    touching = wish("a", "box:piano", 36, 60), wish("b", "box:two", 60, 96)
    assert all(z.layer for z in zones(solved(short_of(0, *touching))) if z.on)
    soft = wish("a", "box:piano", 36, 96, vel_high=80), wish("b", "box:two", 36, 96, vel_low=81)
    assert not any(z.layer for z in zones(solved(short_of(0, *soft))) if z.on)
    meet = wish("a", "box:piano", 36, 96, vel_high=81), wish("b", "box:two", 36, 96, vel_low=81)
    assert all(z.layer for z in zones(solved(short_of(0, *meet))) if z.on)


def test_each_wish_takes_the_zone_that_lies_likest():
    board = keyboard(zone("low", 36, 50), zone("high", 70, 96))
    wishes = wish("up", "box:two", 65, 96), wish("down", "box:piano", 36, 55)
    plan = solved(rig(board, module(*TWO), wishes=wishes))
    assert {z.id: (z.low, z.high, z.on) for z in zones(plan)} == {
        "low": (36, 55, True),
        "high": (65, 96, True),
    }


def test_what_no_wish_wants_is_switched_off():
    board = keyboard(zone("keep", 36, 96), zone("gone", 36, 96, channel=2))
    plan = solved(rig(board, module(*TWO), wishes=(wish("a", "box:piano"),)))
    assert sorted((z.id, z.on) for z in zones(plan)) == [("gone", False), ("keep", True)]


def knobs(*targets, wishes, held=(), **more):
    board = keyboard(
        controls=tuple(Control(id=f"k{n}", name=f"K{n}", kind="knob") for n in range(3)),
        programs=(Program(number=0, name="P", zones=(zone(),), sends=held),),
    )
    box = module(part(), targets=targets)
    return rig(board, box, wishes=wishes, **more)


def move(ident, target, *controls, **more):
    sources = tuple(f"board:{c}" for c in controls)
    return Wish(id=ident, name=ident.title(), sources=sources, moves=f"box:{target}", **more)


def target(ident, controller=None, **more):
    return Target(id=ident, name=ident.title(), controller=controller, channel=1, **more)


def test_a_knob_keeps_away_from_targets_that_listen_and_are_not_meant():
    plan = knobs(
        target("mine"),
        target("other", 20),
        wishes=(move("m", "mine", "k0"),),
        schools=Schools(controllers="run", run_from=20),
    )
    new = solved(plan)
    (knob,) = [s for s in sends(new) if s.control == "k0"]
    assert knob.number == 21
    numbers = {t.id: t.controller for t in lookup.device(new, "box").targets}
    assert numbers == {"mine": 21, "other": 20}


def test_targets_without_a_number_are_in_nobodys_way_until_they_are_wished():
    plan = knobs(
        target("mine"),
        target("idle"),
        target("yours"),
        wishes=(move("m", "mine", "k0"), move("y", "yours", "k1")),
        schools=Schools(controllers="run", run_from=20),
    )
    new = solved(plan)
    assert sorted(s.number for s in sends(new) if s.control in ("k0", "k1")) == [20, 21]
    numbers = {t.id: t.controller for t in lookup.device(new, "box").targets}
    assert numbers["idle"] is None and {numbers["mine"], numbers["yours"]} == {20, 21}


def test_one_knob_moves_two_targets_of_a_kind_by_one_message():
    plan = knobs(target("a"), target("b"), wishes=(move("one", "a", "k0"), move("two", "b", "k0")))
    new = solved(plan)
    (knob,) = [s for s in sends(new) if s.control == "k0"]
    assert {t.controller for t in lookup.device(new, "box").targets} == {knob.number}
    mixed = knobs(
        target("a", 20),
        target("b", 5, answers="nrpn"),
        wishes=(move("one", "a", "k0"), move("two", "b", "k0")),
    )
    new = solved(mixed)
    assert sorted(s.message for s in sends(new) if s.control == "k0") == ["controller", "nrpn"]


@pytest.mark.parametrize(
    ("low", "high", "begins", "ends", "sent"),
    [
        (0, 127, None, None, (0, 127)),
        (0, 100, 25, 75, (32, 95)),
        (-40, 0, -40, -20, (0, 63)),
        (0, 100, 100, 0, (127, 0)),
        (50, 50, 50, 50, (0, 127)),
    ],
)
def test_the_ends_of_a_sweep_bring_the_target_where_it_is_wanted(low, high, begins, ends, sent):
    wanted = move("m", "mine", "k0", from_value=begins, to_value=ends)
    for receiver in ({"lacks": ("target/least", "target/most")}, {}):
        plan = knobs(target("mine", low=low, high=high), wishes=(wanted,))
        plan = with_device(plan, plan.devices[1], changed(plan.devices[1], **receiver))
        answer = work_out(plan)
        assert isinstance(answer, Solution)
        (knob,) = [s for s in sends(answer.plan) if s.control == "k0"]
        assert (knob.low, knob.high) == (sent if receiver else (0, 127))
        (moved,) = lookup.device(answer.plan, "box").targets
        wished = (low if begins is None else begins, high if ends is None else ends)
        assert receiver or moved.reach == wished


def test_two_sounds_of_a_part_on_one_pad_are_two_layers_and_two_parts_are_one_note():
    pad = ("pads:pad-1",)
    two = (
        wish("a", "box:piano", sources=pad, note=60),
        wish("b", "box:piano", sources=pad, note=64),
    )
    plan = solved(joined(pads(1), module(*TWO), wishes=two))
    assert sorted(s.number for s in sends(plan, "pads")) == [60, 64]
    both = (
        wish("a", "box:piano", sources=pad, note=60),
        wish("b", "box:two", sources=pad, note=60),
    )
    plan = solved(joined(pads(1), module(*TWO), wishes=both))
    (send,) = sends(plan, "pads")
    assert {p.channel for p in lookup.device(plan, "box").parts} == {send.channel}
    windows = (
        wish("a", "box:piano", sources=pad, note=60, vel_high=80),
        wish("b", "box:two", sources=pad, note=60, vel_low=81),
    )
    plan = solved(joined(pads(1), module(*TWO), wishes=windows))
    assert sorted((s.vel_low, s.vel_high) for s in sends(plan, "pads")) == [(1, 80), (81, 127)]


@pytest.mark.parametrize(
    ("sender", "receiver", "becomes"),
    [
        ("toggle", "toggle", "momentary"),
        ("toggle", "continuous", "toggle"),
        ("momentary", "toggle", "momentary"),
    ],
)
def test_a_toggle_is_made_momentary_only_where_the_receiver_toggles_itself(
    sender, receiver, becomes
):
    pad = Send(control="k0", message="controller", number=20, channel=1, mode=sender)
    plan = solved(
        knobs(target("t", 20, mode=receiver), wishes=(move("m", "t", "k0"),), held=(pad,))
    )
    assert [s.mode for s in sends(plan) if s.control == "k0"] == [becomes]


def host(on):
    """A computer between the keyboard and the module, beside a cable that goes there too."""
    ports = (
        Port(id="in", name="in", flow="in"),
        Port(id="out", name="out", flow="out"),
        Port(id="out2", name="out 2", flow="out"),
    )
    thrus = (Thru(source="in", dest="out"),) if on else ()
    return Device(id="host", name="Host", kind="computer", ports=ports, thrus=thrus)


def test_a_thru_that_only_doubles_is_switched_off_and_one_that_carries_stays():
    outs = tuple(Port(id=i, name=i, flow="out") for i in ("out", "out2"))
    ins = tuple(Port(id=i, name=i, flow="in") for i in ("in", "in2"))
    board, box = keyboard(zone(), ports=outs), module(part(), ports=ins)
    cables = [("board:out", "box:in"), ("board:out2", "host:in"), ("host:out", "box:in2")]
    doubled = Plan(
        name="P",
        devices=(board, host(True), box),
        cables=tuple(Cable(source=a, dest=b) for a, b in cables),
        wishes=(wish("a", "box:piano"),),
    )
    plan = solved(doubled)
    assert lookup.device(plan, "host").thrus == ()
    only = Plan(
        name="P",
        devices=doubled.devices,
        cables=doubled.cables[1:],
        wishes=doubled.wishes,
    )
    assert len(lookup.device(solved(only), "host").thrus) == 1


def test_scenes_that_want_something_else_get_programs_of_their_own():
    wishes = (
        wish("a", "box:piano", scenes=("one",)),
        wish("b", "box:two", scenes=("two", "three")),
    )
    scenes = (scene("one"), scene("two"), scene("three"))
    plan = solved(rig(keyboard(zone()), module(*TWO), wishes=wishes, scenes=scenes))
    board = lookup.device(plan, "board")
    assert [lookup.program_number(s, board) for s in plan.scenes] == [0, 1, 1]
    full = keyboard(zone(), limits=(CountLimit(what="memory-slots", most=1),))
    answer = work_out(rig(full, module(*TWO), wishes=wishes, scenes=scenes))
    assert isinstance(answer, Refusal) and set(answer.wishes) == {"a", "b"}


def test_numbers_that_need_not_move_stay():
    plan = solved(rig(keyboard(zone(channel=7)), module(part(channel=7)), wishes=(PIANO,)))
    assert dials(plan)["board/0/zone.all/channel"].value == 7


PIANO = wish("piano", "box:piano")


def one_channel(low, high, shift):
    """A keyboard shifted by wish, and a second part with a range of its own on the one channel."""
    kept = Reserved(purpose="other things", channels=tuple(range(2, 17)))
    fixed = [ScopeLimit(setting=s, scope="fixed") for s in ("part-range", "part-shift")]
    box = module(part("piano"), part("two", low=low, high=high), limits=(kept, *fixed))
    wished = wish("a", "box:piano", 36, 59, shift=shift)
    return rig(keyboard(zone()), box, wishes=(wished,))


@pytest.mark.parametrize(
    ("low", "high", "shift", "works"),
    [
        (36, 47, 12, True),
        (36, 48, 12, False),
        (71, 80, 12, False),
        (72, 80, 12, True),
        (60, 80, 0, True),
        (59, 80, 0, False),
        (48, 80, -12, True),
        (47, 80, -12, False),
        (0, 23, -12, True),
        (0, 24, -12, False),
    ],
)
def test_parts_on_one_channel_are_kept_apart_by_the_notes_that_are_sent(low, high, shift, works):
    answer = work_out(one_channel(low, high, shift))
    assert isinstance(answer, Solution) is works
    if isinstance(answer, Solution):
        assert prove(answer.plan).good


@pytest.mark.parametrize(
    ("heard", "works"), [(("in",), False), (("in2",), True), ((), False), (("in", "in2"), False)]
)
def test_a_part_hears_only_the_inputs_that_it_is_told_to(heard, works):
    """Two parts tied to one channel: they are apart only where the other hears another input."""
    ins = tuple(Port(id=i, name=i, flow="in") for i in ("in", "in2"))
    kept = Reserved(purpose="other things", channels=tuple(range(2, 17)))
    fixed = [ScopeLimit(setting=s, scope="fixed") for s in ("part-range", "part-shift")]
    box = module(
        part("piano", ports=("in",)), part("two", ports=heard), ports=ins, limits=(kept, *fixed)
    )
    answer = work_out(rig(keyboard(zone()), box, wishes=(wish("a", "box:piano"),)))
    assert isinstance(answer, Solution) is works


@pytest.mark.parametrize(("note", "works"), [(35, True), (36, False), (59, False), (60, True)])
def test_keys_keep_off_the_sounds_of_a_kit_on_their_channel(note, works):
    kept = Reserved(purpose="other things", channels=tuple(range(2, 17)))
    fixed = [ScopeLimit(setting=s, scope="fixed") for s in ("part-range", "part-shift")]
    kit = Kit(id="kit", name="Kit", fixed=True, sounds=(Sound(id="a", name="A", note=note),))
    box = module(part("piano"), part("drums", kit="kit"), kits=(kit,), limits=(kept, *fixed))
    answer = work_out(rig(keyboard(zone()), box, wishes=(wish("a", "box:piano", 36, 59),)))
    assert isinstance(answer, Solution) is works


@pytest.mark.parametrize(
    ("first", "second", "taken"),
    [
        ({"low": 40, "high": 60}, {"low": 36, "high": 96}, "one"),
        ({"low": 40, "high": 96}, {"low": 36, "high": 90}, "one"),
        ({"low": 36, "high": 60}, {"low": 37, "high": 61}, "one"),
        ({"low": 36, "high": 60, "vel_low": 10}, {"low": 36, "high": 60}, "two"),
        ({"low": 36, "high": 60, "on": False}, {"low": 36, "high": 60}, "two"),
        ({"low": 36, "high": 60}, {"low": 36, "high": 60, "name": "Wish"}, "two"),
        ({"low": 61, "high": 96}, {"low": 60, "high": 96}, "two"),
        ({"low": 36, "high": 59}, {"low": 40, "high": 60}, "one"),
        ({"low": 37, "high": 59}, {"low": 38, "high": 60}, "two"),
    ],
)
def test_of_two_zones_the_one_that_agrees_in_more_is_taken(first, second, taken):
    zones_there = (changed(zone("one"), **first), changed(zone("two", channel=2), **second))
    wished = wish("wish", "box:piano", 40 if first["low"] == 40 else 36, 60)
    plan = solved(rig(keyboard(*zones_there), module(*TWO), wishes=(wished,)))
    assert [z.id for z in zones(plan) if z.on] == [taken]


def test_a_refusal_without_a_wish_or_a_lock_is_still_a_sentence():
    kept = Reserved(purpose="other things", channels=tuple(range(2, 17)))
    fixed = ScopeLimit(setting="part-range", scope="fixed")
    box = module(part("piano"), part("two", low=36, high=47), limits=(kept, fixed))
    wished = wish("a", "box:piano", 36, 59, shift=12)
    answer = work_out(rig(keyboard(zone()), box, wishes=(wished,)))
    assert isinstance(answer, Refusal) and answer.sentence[0].isupper()


@pytest.mark.parametrize("end", ["", "low", "high"])
def test_a_range_is_narrowed_only_where_neither_end_is_locked(end):
    """Two parts on one channel, each wished on its half: their ranges tell them apart."""
    kept = Reserved(purpose="other things", channels=tuple(range(2, 17)))
    wishes = wish("a", "box:piano", 36, 59), wish("b", "box:two", 60, 96)
    plan = rig(keyboard(zone()), module(part("piano"), part("two")), wishes=wishes)
    plan = changed(plan, devices=(plan.devices[0], changed(plan.devices[1], limits=(kept,))))
    if end:
        plan = lock(f"box/part.piano/{end}")(plan)
    answer = work_out(plan)
    assert isinstance(answer, Refusal if end else Solution)
    if isinstance(answer, Refusal):
        assert answer.locks == (f"box/part.piano/{end}",)


def test_a_part_that_hears_all_channels_stays_so_while_all_is_meant_for_it():
    omni = part("piano", None)
    alone = solved(rig(keyboard(zone()), module(omni), wishes=(wish("a", "box:piano"),)))
    assert lookup.device(alone, "box").parts[0].channel is None
    wishes = wish("a", "box:piano", 36, 59), wish("b", "box:two", 60, 96)
    both = solved(rig(keyboard(zone()), module(omni, part("two", 2)), wishes=wishes))
    assert lookup.device(both, "box").parts[0].channel is not None


@pytest.mark.parametrize(("plays", "follows"), [("piano", True), ("two", False)])
def test_a_knob_follows_the_zones_only_where_they_play_its_part(plays, follows):
    aim = Target(id="t", name="T", part="piano", controller=20)
    held = Send(control="k0", message="controller", number=20)
    board = keyboard(
        controls=(Control(id="k0", name="K0", kind="knob"),),
        programs=(Program(number=0, name="P", zones=(zone(),), sends=(held,)),),
    )
    wishes = (wish("w", f"box:{plays}"), move("m", "t", "k0"))
    plan = solved(rig(board, module(*TWO, targets=(aim,)), wishes=wishes))
    (knob,) = [s for s in sends(plan) if s.control == "k0"]
    assert (knob.channel is None) is follows


def test_a_pitch_that_locks_forbid_names_the_locks():
    plan = rig(keyboard(zone()), module(part()), wishes=(wish("a", "box:piano", shift=5),))
    locks = ("board/0/zone.all/transpose", "box/part.piano/transpose", "box/part.piano/channel")
    for ref in (*locks, "board/0/zone.all/octave"):
        plan = lock(ref)(plan)
    answer = work_out(plan)
    assert isinstance(answer, Refusal) and answer.wishes == ("a",)
    assert set(answer.locks) & set(locks[:2]) and locks[2] not in answer.locks
