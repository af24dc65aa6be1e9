"""Sounds over kits: by hand, and against every way to spread a few."""

import itertools

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.rigs import module, part, rig, scene, wish
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program
from vastzone.core.plan.model.parts import Kit, Sound
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.progress import Cancelled
from vastzone.core.solve.kits import (
    Layout,
    layout_of,
    own_pads,
    plan_kits,
    presses,
    wished_sounds,
)
from vastzone.core.solve.kits_applied import apply_kits


def wants(**scenes):
    return {name: frozenset(held) for name, held in scenes.items()}


def test_what_is_played_together_is_in_one_kit():
    found = plan_kits(wants(dusk="ab", squall="cd"), 2, 4)
    assert sorted(map(sorted, found.kits)) == [["a", "b"], ["c", "d"]]
    assert not found.split and found.edits == 4
    assert presses(found, ["dusk", "squall", "dusk"]) == 2


def test_a_sound_of_several_scenes_stands_on_one_pad_throughout():
    found = plan_kits(wants(dusk="abx", squall="cdx"), 3, 2)
    assert all("x" in kit for kit in found.kits) and len(found.kits) == 2
    for kit in found.kits:
        assert len({found.pads[s] for s in kit}) == len(kit)


def test_all_in_one_kit_where_there_is_room():
    found = plan_kits(wants(dusk="ab", squall="bc"), 4, 8)
    assert found.kits == (frozenset("abc"),) and presses(found, ["dusk", "squall"]) == 0


def test_too_many_sounds_are_refused_with_the_count():
    with pytest.raises(EditError, match="3 kits of 2 pads"):
        plan_kits(wants(dusk="abcde"), 2, 2)
    assert plan_kits({}, 4, 1).kits == ()


def test_a_scene_larger_than_a_kit_is_split():
    found = plan_kits(wants(dusk="abc"), 2, 2)
    assert found.split == ("dusk",) and set().union(*found.kits) == set("abc")


def brute(wanted, pads, most):
    """The fewest split scenes, then the fewest pads to set, over every way to spread the sounds."""
    sounds = sorted(set().union(*wanted.values()))
    subsets = [frozenset(c) for n in range(pads + 1) for c in itertools.combinations(sounds, n)]
    best = None
    for kits in itertools.combinations_with_replacement(subsets, most):
        if set().union(*kits) != set(sounds):
            continue
        split = sum(not any(held <= kit for kit in kits) for held in wanted.values())
        price = (split, sum(len(k) for k in kits))
        best = price if best is None or price < best else best
    return best


@settings(max_examples=40, deadline=None)
@given(
    st.dictionaries(
        st.sampled_from("XYZ"), st.frozensets(st.sampled_from("abcd"), min_size=1), min_size=1
    ),
    st.integers(2, 3),
)
def test_it_is_as_good_as_trying_every_way(wanted, pads):
    sounds = set().union(*wanted.values())
    most = 2
    if len(sounds) > most * pads:
        return
    found = plan_kits(wanted, pads, most)
    assert (len(found.split), found.edits) == brute(
        wanted, pads, min(most, max(1, -(-len(sounds) // pads), len(wanted)))
    )
    for name, kit in found.scenes.items():
        assert wanted[name] <= found.kits[kit]


def test_risky_sounds_leave_the_middle_and_the_others_stay_where_they_are():
    sounds = "abcdefgh"
    now = {s: n for n, s in enumerate(sounds)}
    layout = Layout(now, frozenset((1, 2, 5, 6)), frozenset("bg"))
    found = plan_kits(wants(dusk=sounds), 8, 1, layout)
    assert not {found.pads["b"], found.pads["g"]} & layout.crossing
    assert sorted(found.pads.values()) == list(range(8))
    assert sum(found.pads[s] != now[s] for s in sounds) == 4
    assert plan_kits(wants(dusk="abc"), 8, 1, Layout(now)).pads == {"a": 0, "b": 1, "c": 2}


def test_a_search_for_kits_that_is_given_up_stops():
    with pytest.raises(Cancelled):
        plan_kits(wants(dusk="abc"), 2, 2, progress=lambda what, share: False)


def face(columns, *held, loud=(), trigger="one-shot"):
    controls = tuple(
        Control(id=f"p{n}", name=f"P{n}", kind="pad", row=n // columns, column=n % columns)
        for n in range(2 * columns)
    )
    owner = Device(id="pads", name="Pads", kind="pads", controls=controls, programs=())
    kit = Kit(
        id="kit",
        name="Kit",
        sounds=tuple(Sound(id=i, name=i, note=36 + n, loud=i in loud) for n, i in enumerate("abc")),
    )
    box = module(part("drums", 10, kit="kit", trigger=trigger), part("piano"), kits=(kit,))
    return rig(owner, box, cables=(), wishes=held, scenes=(scene("one"), scene("two")))


def beat(ident, *pads, sounds, **more):
    sources = tuple(f"pads:p{n}" for n in pads)
    return wish(ident, "box:drums", sources=sources, sounds=sounds, **more)


def test_what_pads_are_wished_to_play_scene_by_scene():
    plan = face(
        4,
        beat("w", 0, 1, sounds=("a", "b")),
        wish("n", "box:piano", sources=("pads:p2",), note=60, scenes=("two",)),
    )
    drums = {"box:drums/a", "box:drums/b"}
    assert wished_sounds(plan, "pads") == {"one": drums, "two": drums | {"box:piano/60"}}
    assert wished_sounds(face(4), "pads") == {}


@pytest.mark.parametrize(
    ("columns", "middle"), [(2, set()), (3, {1, 4}), (4, {1, 2, 5, 6}), (5, {2, 7})]
)
def test_hands_cross_in_the_middle_of_a_face_three_wide(columns, middle):
    assert layout_of(face(columns), "pads").crossing == middle


def test_where_sounds_are_now_and_what_is_risky():
    held = beat("w", 3, 1, sounds=("a", "b"))
    layout = layout_of(face(4, held, loud=("b",)), "pads")
    assert layout.now == {"box:drums/a": 3, "box:drums/b": 1}
    assert layout.risky == {"box:drums/b"}
    assert layout_of(face(4, held, trigger="toggle"), "pads").risky == set(layout.now)
    assert layout_of(face(4, held), "pads").risky == set()


def test_a_show_costs_a_press_for_each_change_and_each_split_scene():
    found = plan_kits(wants(dusk="ab", squall="cd", dawn="abc"), 2, 4)
    assert found.split == ("dawn",)
    assert presses(found, ["dusk", "dusk"]) == 0 and presses(found, ["dusk", "squall"]) == 1
    assert presses(found, ["dusk", "dawn", "dusk"]) == 1
    assert presses(found, ["dusk", "squall", "dusk", "dawn"]) == 3


def test_two_sounds_never_end_on_one_pad_of_a_kit():
    """Three kits of two pads that pull their shared sounds to and fro: none is lost."""
    wanted = wants(one="ab", two="bc", three="ca")
    found = plan_kits(wanted, 2, 3)
    assert not found.split
    for number, kit in enumerate(found.kits):
        assert len({found.pad(number, sound) for sound in kit}) == len(kit)


def test_kits_are_laid_out_as_programs_that_scenes_are_on():
    held = (
        beat("w", 0, 1, sounds=("a", "b"), scenes=("one",)),
        beat("v", 2, 3, sounds=("c", "a"), scenes=("two",)),
    )
    plan = face(4, *held)
    first = Program(number=0, name="One")
    plan = set_device("pads", "x", programs=(first,))(plan)
    pads = own_pads(plan.devices[0])[:2]
    found = plan_kits(wished_sounds(plan, "pads"), len(pads), 4, layout_of(plan, "pads", pads))
    laid = apply_kits("pads", found, pads)(plan)
    assert len(laid.devices[0].programs) == 2
    assert wished_sounds(laid, "pads") == wished_sounds(plan, "pads")
    programs = {s.id: lookup.program_number(s, laid.devices[0]) for s in laid.scenes}
    assert programs["one"] != programs["two"]
    used = {w.sources[0] for w in laid.wishes}
    assert used == {"pads:p0", "pads:p1"}
    split = plan_kits(wants(dusk="abc"), 2, 2)
    with pytest.raises(EditError, match="two scenes"):
        apply_kits("pads", split, pads)(plan)


def test_external_pads_are_not_counted_beside_a_device_s_own():
    plan = face(4)
    socket = Control(id="x", name="X", kind="pad", input="in", zone="head")
    owner = changed(plan.devices[0], controls=(*plan.devices[0].controls, socket))
    assert len(own_pads(owner)) == 8
    assert own_pads(changed(owner, controls=(socket,))) == (socket,)
