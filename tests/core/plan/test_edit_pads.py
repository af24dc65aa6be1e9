"""Layers, scenes, names of numbers and wishes, edited by hand."""

import contextlib
from functools import partial

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import wishes
from vastzone.core.plan.edits.layers import add_layer, layers_of, remove_layer
from vastzone.core.plan.edits.parameter_names import name_number
from vastzone.core.plan.edits.scenes import add_scene, choose_program, rename_scene
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.queries import lookup


def windows(plan):
    program = lookup.program(lookup.device(plan, "pads"), 0)
    return [(s.layer, s.vel_low, s.vel_high) for s in layers_of(program, "pad-1", 1)]


def one_pad():
    return joined(pads(1), module(part()))


def layered(times):
    plan = one_pad()
    for _ in range(times):
        plan = add_layer("pads", 0, "pad-1", 1)(plan)
    return plan


def test_a_layer_halves_the_loudest_window():
    assert windows(layered(1)) == [(0, 1, 64), (1, 65, 127)]
    assert windows(layered(2)) == [(0, 1, 64), (1, 65, 96), (2, 97, 127)]


def test_a_pad_has_room_for_so_many_layers_and_no_window_is_empty():
    full = layered(6)
    assert windows(full)[-1] == (6, 127, 127) and windows(full)[-2][1:] == (125, 126)
    with pytest.raises(EditError):
        add_layer("pads", 0, "pad-1", 1)(full)
    narrow = one_pad()
    owner = lookup.device(narrow, "pads")
    for high, fits in ((101, True), (100, False)):
        send = changed(owner.programs[0].sends[0], vel_low=100, vel_high=high)
        program = changed(owner.programs[0], sends=(send,))
        plan = joined(changed(owner, programs=(program,)), module(part()))
        if fits:
            assert windows(add_layer("pads", 0, "pad-1", 1)(plan)) == [(0, 100, 100), (1, 101, 101)]
        else:
            with pytest.raises(EditError):
                add_layer("pads", 0, "pad-1", 1)(plan)


def test_a_layer_that_goes_leaves_its_velocities_to_the_one_below():
    plan = layered(2)
    assert windows(remove_layer("pads", 0, "pad-1", 1, 2)(plan)) == [(0, 1, 64), (1, 65, 127)]
    assert windows(remove_layer("pads", 0, "pad-1", 1, 1)(plan)) == [(0, 1, 96), (2, 97, 127)]
    first = remove_layer("pads", 0, "pad-1", 1, 0)(plan)
    assert sorted(w[1:] for w in windows(first)) == [(1, 96), (97, 127)]
    assert windows(first)[0][0] == 0
    for layer in (0, 3):
        with pytest.raises(EditError):
            remove_layer("pads", 0, "pad-1", 1, layer)(one_pad())


@given(st.lists(st.integers(-1, 6), max_size=12))
def test_layers_that_come_and_go_leave_no_velocity_without_or_with_two(steps):
    plan = one_pad()
    for step in steps:
        edit = add_layer if step < 0 else partial(remove_layer, layer=step)
        with contextlib.suppress(EditError):
            plan = edit("pads", 0, "pad-1", 1)(plan)
    struck = [v for _, low, high in windows(plan) for v in range(low, high + 1)]
    assert sorted(struck) == list(range(1, 128))
    assert any(layer == 0 for layer, _, _ in windows(plan))


def test_a_new_scene_begins_where_the_last_one_is():
    empty = rig(keyboard(zone()), module(part()))
    first = add_scene("Dusk")(empty)
    assert [s.name for s in first.scenes] == ["Dusk"] and first.scenes[0].programs == ()
    plan = choose_program("dusk", "board", 0)(first)
    plan = add_scene("Dusk")(plan)
    assert plan.scenes[1].programs == plan.scenes[0].programs
    assert plan.scenes[1].id != plan.scenes[0].id
    other = changed(plan.devices[0], programs=(*plan.devices[0].programs, SECOND))
    plan = changed(plan, devices=(other, plan.devices[1]))
    plan = choose_program(plan.scenes[1].id, "board", 1)(plan)
    plan = add_scene("Dawn")(plan)
    assert [c.program for c in plan.scenes[2].programs] == [1]
    assert rename_scene("dawn", "Noon")(plan).scenes[2].name == "Noon"


SECOND = Program(number=1, name="Second")


def test_a_number_is_named_and_given_back():
    box = module(part(), targets=(Target(id="a", name="A", channel=3, controller=20),))
    plan = rig(keyboard(zone()), box)
    new = name_number(box, 30, " Wobble ")(plan).devices[1].targets[-1]
    assert (new.name, new.controller, new.channel) == ("Wobble", 30, 3)
    assert name_number(box, 20, "B")(plan).devices[1].targets[0].name == "B"
    assert name_number(box, 20, " ")(plan).devices[1].targets[0].controller is None
    assert name_number(box, 30, " ")(plan) == plan
    assert name_number(box, 30, "N" * 80)(plan).devices[1].targets[-1].name == "N" * 80
    with pytest.raises(EditError):
        name_number(box, 30, "N" * 81)
    bare = module(part())
    assert name_number(bare, 30, "X")(rig(bare, cables=())).devices[0].targets[0].channel is None


KIT = Kit(
    id="kit",
    name="Kit",
    sounds=tuple(Sound(id=i, name=i.title(), note=36 + n) for n, i in enumerate("abc")),
)


def wished(*held, scenes=()):
    box = module(
        part("drums", 10, kit="kit"),
        part("piano", 1, root=30, low=40),
        part("plain", 2),
        kits=(KIT,),
        targets=(Target(id="mix", name="Mix"),),
    )
    return joined(keyboard(zone()), pads(3), box, wishes=held, scenes=scenes)


def made(plan, place, end, scenes=()):
    new = wishes.make(plan, place, end, scenes)(plan)
    return new, new.wishes[-1]


def test_a_wish_begins_with_what_fits_its_end():
    plan = wished()
    plan, kick = made(plan, WishPlace("pads:pad-1"), "box:drums")
    plan, snare = made(plan, WishPlace("pads:pad-2"), "box:drums")
    assert kick.sounds == ("a",) and snare.sounds == ("b",)
    plan, _ = made(plan, WishPlace("pads:pad-3"), "box:drums")
    _, again = made(plan, WishPlace("pads:pad-3"), "box:drums")
    assert again.sounds == ("a",)
    assert made(plan, WishPlace("pads:pad-1"), "box:piano")[1].note == 40
    assert made(plan, WishPlace("pads:pad-1"), "box:plain")[1].note == part().root
    moves = made(plan, WishPlace("pads:pad-1"), "box:mix")[1]
    assert moves.moves == "box:mix" and moves.plays is None
    keys = made(plan, WishPlace("board:keys", 1, 40, 50), "box:piano")[1]
    assert (keys.low, keys.high, keys.note) == (40, 50, None)


@pytest.mark.parametrize(
    ("low", "high", "grown"),
    [(61, 70, (50, 70)), (40, 49, (40, 60)), (62, 70, None), (40, 48, None)],
)
def test_a_wish_for_neighbouring_keys_is_lengthened(low, high, grown):
    plan = wished(wish("w", "box:piano", 50, 60))
    new, last = made(plan, WishPlace("board:keys", 1, low, high), "box:piano")
    assert len(new.wishes) == (1 if grown else 2)
    assert (last.low, last.high) == (grown or (low, high))


def test_only_a_wish_that_says_the_same_is_lengthened():
    place = WishPlace("board:keys", 1, 61, 70)
    scenes = (scene("one"), scene("two"))
    for other in (
        wish("w", "box:plain", 50, 60),
        wish("w", "box:piano", 50, 60, vel_low=2),
        wish("w", "box:piano", 50, 60, vel_high=126),
        wish("w", "box:piano", 50, 60, scenes=("one",)),
        wish("w", "box:piano", 50, 60, sources=("board:keys", "pads:pad-1")),
    ):
        assert len(made(wished(other, scenes=scenes), place, "box:piano")[0].wishes) == 2
    same = wish("w", "box:piano", 50, 60, scenes=("two", "one"))
    assert len(made(wished(same, scenes=scenes), place, "box:piano", ("one", "two"))[0].wishes) == 1


def test_wishes_are_found_where_they_meet_a_place():
    plan = wished(
        wish("w", "box:piano", 50, 60, scenes=("one",)), scenes=(scene("one"), scene("two"))
    )

    def there(low, high, *scenes, end="box:piano"):
        place = WishPlace("board:keys", 1, low, high)
        return [w.id for w in wishes.held_at(plan, place, end, scenes)]

    assert there(60, 70) == ["w"] and there(40, 50) == ["w"]
    assert there(61, 70) == [] and there(40, 49) == []
    assert there(50, 60, "one") == ["w"] and there(50, 60, "two") == []
    assert there(50, 60, end="box:plain") == []
    assert wishes.remove("w")(plan).wishes == ()
