"""Numbers chosen in a way of their own for some controls, and locks by thing, kind and device."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.rigs import keyboard, module, part, rig, zone
from tests.scale import scaled
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits.devices import remove_device
from vastzone.core.plan.edits.locks import lock_all, lockings
from vastzone.core.plan.edits.schools import choose_school, controls_behind, school_of
from vastzone.core.plan.fields.dials import open_dials, record
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import Reserved
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.wishes import Schools, Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution
from vastzone.core.solve.runs import NEVER, lie_of, liked

KNOBS = tuple(Control(id=f"k{n}", name=f"Knob {n}", kind="knob", column=n) for n in range(1, 5))
OF = tuple(f"board:k{n}" for n in range(1, 5))


def wired(numbers=(20, 3, 9, 31)):
    """Four knobs that move four targets, all as it is wished, on odd numbers."""
    sends = [
        Send(control=f"k{n}", message="controller", number=number, channel=1)
        for n, number in enumerate(numbers, start=1)
    ]
    targets = [
        Target(id=f"t{n}", name=f"T{n}", channel=1, controller=number)
        for n, number in enumerate(numbers, start=1)
    ]
    wishes = [
        Wish(id=f"w{n}", name=f"W{n}", sources=(f"board:k{n}",), moves=f"box:t{n}")
        for n in range(1, 5)
    ]
    program = Program(number=0, name="One", zones=(zone(),), sends=tuple(sends))
    board = keyboard(controls=KNOBS, programs=(program,))
    return rig(board, module(part(), targets=tuple(targets)), wishes=tuple(wishes))


def sent(plan):
    return [send.number for send in lookup.device(plan, "board").programs[0].sends]


def solved(plan):
    found = work_out(plan)
    assert isinstance(found, Solution), found
    again = work_out(found.plan)
    assert isinstance(again, Solution)
    assert again.numbers == ()
    return found


def test_what_is_as_meant_stays_until_a_run_is_chosen_for_some_controls():
    assert sent(solved(wired()).plan) == [20, 3, 9, 31]
    found = solved(choose_school(OF, "run", 75)(wired()))
    assert sent(found.plan) == [75, 76, 77, 78]
    assert any("75" in said and "78" in said for said in found.others)
    assert sent(solved(choose_school(OF[1:3], "run", 102)(wired())).plan) == [20, 102, 103, 31]


def test_a_run_of_some_goes_around_what_the_others_keep():
    found = solved(choose_school(OF[:3], "run", 29)(wired()))
    assert sent(found.plan) == [29, 30, 85, 31]


def test_a_school_of_ones_own_is_given_back_and_goes_with_its_device():
    chosen = choose_school(OF, "run", 20)(wired())
    fewer = choose_school(OF[:2], None)(chosen)
    assert school_of(fewer, OF[0]) is None
    assert school_of(fewer, OF[2]).run_from == 20
    assert remove_device("board")(chosen).schools.own == ()
    with pytest.raises(PlanError):
        choose_school(("board:nothing",), "run", 20)(wired())


def test_the_controls_behind_a_number_are_those_of_either_end():
    assert controls_behind(wired(), "board/0/k2.1/number") == ("board:k2",)
    assert controls_behind(wired(), "box/target.t3/controller") == ("board:k3",)
    assert controls_behind(wired(), "box/part.piano/channel") == ()


def test_locks_are_set_for_a_thing_a_kind_or_a_device_and_say_whose_they_are():
    plan, ref = wired(), "board/0/k2.1/number"
    offered = {locking.name: set(locking.refs) for locking in lockings(plan, ref)}
    every = set(open_dials(plan))
    assert sorted(map(len, offered.values())) == sorted(
        (
            len([r for r in every if r.startswith("board/0/k2.1/")]),
            4,
            len([r for r in every if r.startswith("board/")]),
        )
        + ((4,) if len(offered) == 4 else ())
    )
    numbers = next(
        refs for name, refs in offered.items() if name.startswith("the number") and "Board" in name
    )
    locked = lock_all(numbers, by="AB")(choose_school(OF, "run", 75)(plan))
    assert sent(solved(locked).plan) == [20, 3, 9, 31]
    assert record(locked, ref).by == "AB"
    freed = lock_all(numbers, "free")(locked)
    assert record(freed, ref).by == ""
    assert sent(solved(freed).plan) == [75, 76, 77, 78]


@st.composite
def fresh_controls(draw):
    """Controls of several kinds, anywhere, wished one by one onto targets without numbers."""
    kinds = draw(
        st.lists(st.sampled_from(["fader", "knob", "pad", "button"]), min_size=2, max_size=9)
    )
    places = draw(st.permutations(range(len(kinds))))
    controls = tuple(
        Control(id=f"c{n}", name=f"C{n}", kind=kind, row=place // 4, column=place % 4)
        for n, (kind, place) in enumerate(zip(kinds, places, strict=True))
    )
    receives = draw(st.sampled_from(["set", "learns"]))
    targets = tuple(
        Target(id=f"t{n}", name=f"T{n}", part="piano", receives=receives) for n in range(len(kinds))
    )
    ends = draw(st.permutations(range(len(kinds))))
    wishes = tuple(
        Wish(id=f"w{n}", name=f"W{n}", sources=(f"board:c{n}",), moves=f"box:t{end}")
        for n, end in enumerate(ends)
    )
    kept = Reserved(
        purpose="x", controllers=tuple(sorted(draw(st.sets(st.integers(14, 118), max_size=9))))
    )
    schools = Schools(
        controllers=draw(st.sampled_from(["standard", "undefined", "run"])),
        run_from=draw(st.integers(1, 100)),
    )
    board = keyboard(controls=controls, programs=(Program(number=0, name="One"),))
    return rig(
        board, module(part(), targets=targets, limits=(kept,)), wishes=wishes, schools=schools
    )


@settings(max_examples=scaled(40), deadline=None)
@given(fresh_controls())
def test_numbers_are_given_in_the_order_in_which_the_controls_lie(plan):
    found = work_out(plan)
    assert isinstance(found, Solution)
    board = lookup.device(found.plan, "board")
    numbers = {send.control: send.number for send in board.programs[0].sends}
    lying = sorted(
        (control for control in board.controls if control.id in numbers),
        key=lambda control: lie_of(found.plan, board, control, 1),
    )
    rank = liked(plan.schools).index
    places = [rank(numbers[control.id]) for control in lying]
    assert places == sorted(places)
    kept = set(lookup.device(plan, "box").limits[0].controllers)
    assert not kept & set(numbers.values())
    assert not NEVER & set(numbers.values())
