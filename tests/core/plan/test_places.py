"""Owners stay what they are wherever they are stored."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.random_rigs import wide_plans
from tests.rigs import keyboard, module, part, rig, scene, zone
from tests.scale import scaled
from vastzone.core.cards.card import card
from vastzone.core.errors import EditError
from vastzone.core.memory.beginnings import not_known, of_plan
from vastzone.core.memory.rig import with_memory
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.scenes import choose_program, own_program
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.limits import CountLimit
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution

REF = "board/warm/zone.all/channel"


def stored(number, also=()):
    program = Program(id="warm", number=number, name="Warm", zones=(zone(),), also=also)
    return rig(keyboard(programs=(program,)), module(part()), scenes=(scene("dusk"),))


def test_a_program_in_several_slots_is_one_owner_in_several_places():
    plan = stored(4, also=(Slot(number=9), Slot(bank=2, number=0)))
    assert [ref for ref in dials(plan) if ref.endswith("zone.all/channel")] == [REF]
    board = lookup.device(plan, "board")
    unknown = with_memory(of_plan(plan), not_known(board))
    words = [line.words for line in card(plan, unknown, board).lines if line.kind != "dial"]
    assert words == [
        "Select slot 5.",
        "Clear or switch off whatever else is in this program.",
        "Store to slot 5.",
        "Store to slot 10.",
        "Store to slot 3-1.",
        "Select slot 5.",
    ]


def test_a_scene_on_any_slot_of_a_program_plays_that_program():
    plan = choose_program("dusk", "board", 9)(stored(4, also=(Slot(number=9),)))
    owner = lookup.device(plan, "board")
    assert lookup.program_in(plan.scenes[0], owner).id == "warm"


def test_a_scene_with_a_program_of_its_own_gets_one_with_another_name():
    plan = rig(keyboard(zone()), module(part()), scenes=(scene("dusk"), scene("dawn")))
    own = own_program("dawn", "board")(plan)
    ids = [program.id for program in lookup.device(own, "board").programs]
    assert len(set(ids)) == 2
    assert len(dials(own)) > len(dials(plan))


@given(st.integers(0, 5), st.sets(st.integers(0, 5)), st.sets(st.integers(0, 5)), st.integers(1, 6))
def test_a_program_of_its_own_stands_in_a_slot_that_nothing_has(number, also, taken, most):
    slots = tuple(Slot(number=n) for n in sorted(also - {number}))
    program = Program(id="warm", number=number, name="Warm", zones=(zone(),), also=slots)
    limit = CountLimit(what="memory-slots", most=most, taken=tuple(sorted(taken)))
    owner = keyboard(programs=(program,), limits=(limit,))
    plan = rig(owner, module(part()), scenes=(scene("dusk"), scene("dawn")))
    plan = choose_program("dawn", "board", number)(choose_program("dusk", "board", number)(plan))
    free = set(range(most)) - also - taken - {number}
    if not free:
        with pytest.raises(EditError):
            own_program("dawn", "board")(plan)
        return
    own = own_program("dawn", "board")(plan)
    assert lookup.program_number(own.scenes[1], lookup.device(own, "board")) == min(free)


@settings(max_examples=scaled(8), deadline=None)
@given(wide_plans(), st.integers(20, 60))
def test_what_programs_are_called_changes_nothing_but_the_names_of_settings(plan, more):
    """Renaming the ids of programs renames settings, and neither proof nor numbers see it."""

    def renamed(owner):
        return tuple(changed(p, id=f"prog-{p.number + more}") for p in owner.programs)

    other = plan
    for owner in plan.devices:
        other = set_device(owner.id, "Rename", programs=renamed(owner))(other)
    assert list(prove(other).faults()) == list(prove(plan).faults())
    assert [d.value for d in dials(other).values()] == [d.value for d in dials(plan).values()]
    one, two = work_out(plan), work_out(other)
    assert isinstance(one, Solution) == isinstance(two, Solution)
    if isinstance(one, Solution) and isinstance(two, Solution):
        assert [n.after for n in one.numbers] == [n.after for n in two.numbers]


def test_a_lock_stays_with_its_program_when_that_is_stored_elsewhere():
    plan = lock(REF)(stored(0))
    moved = set_device(
        "board",
        "Move",
        programs=tuple(changed(p, number=3) for p in lookup.device(plan, "board").programs),
    )(plan)
    assert dials(moved)[REF].value == 1 and moved.settings == plan.settings


def test_the_last_slot_is_taken_before_a_device_is_full():
    def with_programs(count):
        programs = tuple(Program(number=n, name=f"P{n}") for n in range(count))
        board = keyboard(programs=programs)
        return rig(board, module(part()), scenes=(scene("dusk", board=0),))

    own = own_program("dusk", "board")(with_programs(127))
    assert lookup.program_number(own.scenes[0], own.devices[0]) == 127
    with pytest.raises(EditError):
        own_program("dusk", "board")(with_programs(128))


def test_locking_and_freeing_say_what_they_do():
    assert lock(REF).label != lock(REF, "free").label
