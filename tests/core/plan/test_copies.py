"""Devices removed, controllers in a run, pads copied and spread: worked out by hand."""

import pytest

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.copies import PadSpot, copy, exceptions, saving, spread
from vastzone.core.plan.edits.devices import add_device, remove_device
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.renumber import renumber, run_of
from vastzone.core.plan.edits.zones import layer_zone
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import Reserved
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.wishes import LogEntry, Wish
from vastzone.core.plan.queries import lookup


def test_a_layer_keeps_its_name_short_and_its_channel_where_none_is_free():
    long = changed(zone(), name="N" * 80)
    layered = layer_zone("board", 0, "all")(rig(keyboard(long), module(part())))
    upper = lookup.program(layered.devices[0], 0).zones[1]
    assert len(upper.name) == 80 and upper.channel == 2
    full = tuple(zone(f"z{n}", channel=n) for n in range(1, 17))
    layered = layer_zone("board", 0, "z3")(rig(keyboard(*full), module(part())))
    zones = lookup.program(layered.devices[0], 0).zones
    assert zones[3].id == "z3-layer" and zones[3].channel == 3 and zones[3].layer


def test_a_device_added_again_gets_another_name_and_id():
    plan = rig(keyboard(zone()), module(part()))
    plan = add_device(keyboard(zone()))(add_device(keyboard(zone()))(plan))
    assert [d.name for d in plan.devices] == ["Board", "Box", "Board 2", "Board 3"]
    assert len({d.id for d in plan.devices}) == 4


def test_a_device_goes_with_all_that_hangs_on_it():
    wishes = (
        wish("both", "box:piano", sources=("board:keys", "pads:pad-1"), note=60),
        wish("pads", "box:piano", sources=("pads:pad-2",), note=61),
    )
    plan = joined(
        keyboard(zone()), pads(2), module(part()), wishes=wishes, scenes=(scene("a", pads=0),)
    )
    plan = lock("pads/0/pad-1.1/number")(lock("board/0/zone.all/channel")(plan))
    entry = LogEntry(on="2026-01-01", scene="a", source="pads:pad-1", result="pass")
    plan = changed(plan, log=(entry, changed(entry, source="board:keys")))
    left = remove_device("pads")(plan)
    assert [d.id for d in left.devices] == ["board", "box", "merge"]
    assert not [c for c in left.cables if "pads" in f"{c.source}{c.dest}"]
    assert len(left.cables) == len(plan.cables) - 1
    assert [(w.id, w.sources) for w in left.wishes] == [("both", ("board:keys",))]
    assert left.scenes[0].programs == ()
    assert [s.ref for s in left.settings] == ["board/0/zone.all/channel"]
    assert [e.source for e in left.log] == ["board:keys"]
    assert remove_device("box")(plan).wishes == ()


def knobs(*numbers, targets, reserved=(), roles=(), messages=None):
    messages = messages or ("controller",) * len(numbers)
    names = [f"knob-{n}" for n in range(len(numbers))]
    sends = tuple(
        Send(control=c, message=m, number=n, channel=1)
        for c, n, m in zip(names, numbers, messages, strict=True)
    )
    board = keyboard(
        controls=tuple(Control(id=c, name=c, kind="knob") for c in names),
        programs=(Program(number=0, name="P", sends=sends),),
    )
    held = tuple(
        Target(id=f"t{n}", name=f"T{n}", controller=n, role=n if n in roles else None)
        for n in targets
    )
    limits = (Reserved(purpose="itself", controllers=reserved),) if reserved else ()
    return rig(board, module(part(), targets=held, limits=limits))


def test_a_run_goes_as_the_controls_lie_and_round_what_is_kept():
    plan = knobs(40, 30, 50, targets=(30, 40, 50), reserved=(21,))
    assert run_of(plan, 20) == {40: 20, 30: 22, 50: 23}
    new = renumber(plan, 20)(plan)
    assert [s.number for s in new.devices[0].programs[0].sends] == [20, 22, 23]
    assert [t.controller for t in new.devices[1].targets] == [22, 20, 23]
    assert run_of(knobs(40, targets=(40,)), 6) == {40: 8}


def test_what_is_at_home_on_its_number_locked_or_unheard_stays():
    plan = knobs(74, 30, 50, targets=(74, 30), roles=(74,))
    assert run_of(plan, 20) == {30: 20}
    assert run_of(knobs(64, 30, targets=(64, 30)), 20) == {30: 20}
    assert run_of(lock("board/0/knob-1.1/number")(plan), 20) == {}
    assert run_of(lock("box/target.t30/controller")(plan), 20) == {}
    assert run_of(knobs(30, 20, targets=(30,)), 20) == {30: 21}


def test_a_run_ends_below_the_channel_modes():
    plan = knobs(30, 31, targets=(30, 31))
    assert run_of(plan, 118) == {30: 118, 31: 119}
    with pytest.raises(EditError):
        run_of(plan, 119)


def test_both_halves_of_a_pair_are_kept():
    plan = knobs(30, 5, targets=(30,), messages=("controller", "pair"))
    assert run_of(plan, 5) == {30: 8}
    assert run_of(plan, 37) == {30: 39}


def kit(*notes, number=0, bank=1, **more):
    sends = tuple(
        Send(control=f"pad-{n}", bank=bank, message="note", number=note, channel=1, **more)
        for n, note in enumerate(notes, 1)
    )
    return Program(number=number, name=f"Kit {number}", sends=sends)


def three_kits():
    owner = changed(pads(3), programs=(kit(36, 37, 38), kit(36, 40, 38, number=1)))
    return changed(owner, programs=(*owner.programs, kit(50, 51, 52, number=2)))


def test_what_a_kit_has_else_than_another_and_what_spreading_saves():
    owner = three_kits()
    assert exceptions(owner, 0, 1, 1) == ("pad-2",)
    assert exceptions(owner, 0, 1, 2) == ("pad-1", "pad-2", "pad-3")
    assert exceptions(owner, 0, 2, 2) == ()
    assert saving(owner, 0, 1, (0, 1, 2)) == (4 + 12, 5 + 5)
    assert saving(owner, 0, 1, (1, 2), kept={(1, "pad-2"), (2, "pad-1")}) == (8, 4 + 4 + 5)
    plan = joined(owner, module(part()))
    spreaded = spread(owner, 0, 1, (0, 1, 2), kept={(2, "pad-3")})(plan)
    notes = [[s.number for s in p.sends] for p in spreaded.devices[0].programs]
    assert sorted(notes[1]) == [36, 37, 38] and sorted(notes[2]) == [36, 37, 52]


def test_two_differing_numbers_of_a_pad_are_two_to_set():
    owner = changed(pads(1), programs=(kit(36), kit(40, number=1, low=1)))
    assert saving(owner, 0, 1, (1,)).by_hand == 8
    bare = changed(owner, programs=(kit(36), Program(number=1, name="Bare")))
    assert exceptions(bare, 0, 1, 1) == ("pad-1",) and saving(bare, 0, 1, (1,)).by_hand >= 4


def sounding():
    owner = changed(pads(3), programs=(kit(36, 37, 38), kit(46, 47, 48, number=1)))
    wishes = (
        Wish(id="a", name="A", sources=("pads:pad-1", "pads:pad-2"), plays="box:piano", note=60),
        Wish(id="b", name="B", sources=("pads:pad-3",), plays="box:two", note=62),
    )
    scenes = (scene("low", pads=0), scene("high", pads=1))
    return joined(owner, module(part(), part("two", 2)), wishes=wishes, scenes=scenes)


def numbers(plan):
    return {r: d.value for r, d in dials(plan).items() if r.startswith("pads/") and "/number" in r}


def test_a_copied_message_leaves_wishes_and_a_copied_sound_leaves_numbers():
    plan = sounding()
    spots = PadSpot(0, "pad-1", 1), PadSpot(0, "pad-3", 1)
    message = copy(plan, "pads", *spots, "message", "zone")(plan)
    assert message.wishes == plan.wishes and numbers(message)["pads/0/pad-3.1/number"] == 36
    sound = copy(plan, "pads", *spots, "sound", "zone")(plan)
    assert numbers(sound) == numbers(plan)
    ends = {w.plays for w in sound.wishes if "pads:pad-3" in w.sources}
    assert ends == {"box:piano"}
    both = copy(plan, "pads", *spots, "both", "zone")(plan)
    assert numbers(both) == numbers(message) and both.wishes == sound.wishes


def test_a_sound_copied_to_another_kit_holds_in_its_scenes():
    plan = sounding()
    spots = PadSpot(0, "pad-1", 1), PadSpot(1, "pad-3", 1)
    new = copy(plan, "pads", *spots, "sound", "zone")(plan)
    played = [(w.plays, w.scenes) for w in new.wishes if "pads:pad-3" in w.sources]
    assert sorted(played) == [("box:piano", ("high",)), ("box:two", ("low",))]


def test_a_pad_without_an_input_is_copied_alone_and_a_kit_whole():
    plan = sounding()
    spots = PadSpot(0, "pad-1", 1), PadSpot(1, "pad-2", 1)
    alone = numbers(copy(plan, "pads", *spots, "message", "pad")(plan))
    assert [alone[f"pads/1/pad-{n}.1/number"] for n in (1, 2, 3)] == [46, 36, 48]
    whole = numbers(copy(plan, "pads", *spots, "message", "bank")(plan))
    assert [whole[f"pads/1/pad-{n}.1/number"] for n in (1, 2, 3)] == [36, 37, 38]
