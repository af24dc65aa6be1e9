"""What changes of song cost, counted slowly by pressing buttons one by one."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.setlist.evenings import device, evening, evenings
from vastzone.core.engine.selecting import selected_by
from vastzone.core.plan.edits import setlists as edits
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Send
from vastzone.core.plan.model.pedals import PedalJack
from vastzone.core.plan.model.setlists import ProgramSent
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.proof.check import check
from vastzone.core.setlist.changes import (
    DIVE_S,
    PRESS_S,
    led_in,
    presses_of_walk,
    song_change,
    way_of,
)
from vastzone.core.setlist.costs import cost_matrix


def walked(owner, old, new):
    """Presses of up or down until the display shows the program: both ways, one by one."""
    stored = sorted(program.number for program in owner.programs)
    best = None
    for step in (1, -1):
        at, presses = stored.index(old), 0
        while stored[at] != new:
            at, presses = at + step, presses + 1
            if owner.storage.step == "goes round":
                at %= len(stored)
            elif not 0 <= at < len(stored):
                presses = None
                break
        if presses is not None and (best is None or presses < best):
            best = presses
    return best


def slow_presses(plan, owner, before, after):
    old, new = (lookup.program_number(scene, owner) for scene in (before, after))
    if old == new:
        return 0
    way = way_of(after, owner)
    if way == "own buttons":
        return walked(owner, old, new)
    return {"by hand": 3, "host list": 1}.get(way, len(program_words(owner, new)))


@given(evenings())
def test_presses_are_those_of_hands(plan):
    """Every change of every evening, device by device; each player's presses together."""
    for before in plan.scenes:
        for after in plan.scenes:
            change = song_change(plan, before, after)
            slow = {d.id: slow_presses(plan, d, before, after) for d in plan.devices}
            told = {step.device: step.presses for step in change.steps}
            assert {d: n for d, n in slow.items() if n} == {d: n for d, n in told.items() if n}
            assert change.presses == sum(slow.values())
            seconds = {}
            for one in plan.devices:
                dives = way_of(after, one) == "by hand" and slow[one.id] > 0
                who = one.player or "nobody"
                took = slow[one.id] * PRESS_S + dives * DIVE_S
                seconds[who] = seconds.get(who, 0) + took
            assert change.seconds == max(seconds.values())


@given(evenings())
def test_what_is_switched_on_is_on_its_first_program(plan):
    for scene in plan.scenes:
        told = {step.device: step.before for step in song_change(plan, None, scene).steps}
        moved = [d for d in plan.devices if lookup.program_number(scene, d) != d.programs[0].number]
        assert told == dict.fromkeys((device.id for device in moved), None)


@given(evenings())
def test_the_matrix_is_every_change(plan):
    """Presses and seconds of the matrix are those of each change told singly."""
    costs = cost_matrix(plan)
    for row, before in enumerate(plan.scenes):
        for column, after in enumerate(plan.scenes):
            change = song_change(plan, before, after)
            assert costs.presses[row, column] == change.presses
            assert np.isclose(costs.seconds[row, column], change.seconds)


@given(st.lists(st.integers(0, 5), min_size=1, max_size=8), st.booleans(), st.data())
def test_a_walk_takes_whichever_copy_is_nearer(order, goes_round, data):
    """The fewest presses over all choices of copies, tried one by one."""
    places = {}
    free = list(range(10))
    for number in range(6):
        count = data.draw(st.integers(1, 2)) if len(free) > 6 - number else 1
        places[number] = [free.pop(data.draw(st.integers(0, len(free) - 1))) for _ in range(count)]
    stored = 10

    def steps(one, other):
        gap = abs(one - other)
        return min(gap, stored - gap) if goes_round else gap

    def best(at, rest):
        if not rest:
            return 0
        return min(steps(at, place) + best(place, rest[1:]) for place in places[rest[0]])

    slow = min(best(place, order[1:]) for place in places[order[0]])
    assert presses_of_walk(places, order, stored, goes_round) == slow


def led(numbers=(0, 1, 2), songs=None, **more):
    """A keyboard that leads a module over a cable."""
    front = device("front", numbers)
    behind = device("behind", (4, 7, 9), **more)
    songs = songs or [{"front": 0, "behind": 7}, {"front": 1, "behind": 9}]
    return evening([front, behind], songs, cables=[("front:out", "behind:in")])


def rules(plan):
    return {finding.rule for finding in check(plan)}


def test_one_device_leads_another():
    """Its program changes arrive after 0.64 ms of two bytes, and leave the other on its program."""
    plan = led(program_ms=20.0)
    assert song_change(plan, *plan.scenes).presses == 2
    plan = edits.lead(plan, "front", "behind", 3).change(plan)
    change = song_change(plan, *plan.scenes)
    assert change.presses == 1
    (step,) = [step for step in change.steps if step.device == "behind"]
    assert (step.leader, step.presses) == ("front", 0)
    assert abs(step.ms - (0.64 + 20.0)) < 1e-6
    assert "led elsewhere" not in rules(plan)
    back = edits.lead_no_longer("behind").change(plan)
    assert song_change(back, *back.scenes).presses == 2


def test_a_leader_that_sends_another_number_is_found():
    """A program that the follower has not; one that a song does not want; no cable."""
    plan = edits.lead(led(), "front", "behind", 3).change(led())
    moved = edits.store_as("behind", {7: (6,), 9: (9,), 4: (4,)}).change(plan)
    assert "led elsewhere" in rules(moved)
    mended = edits.lead(moved, "front", "behind", 3).change(moved)
    assert "led elsewhere" not in rules(mended)
    cut = type(plan)(
        **{name: getattr(plan, name) for name in plan.__struct_fields__ if name != "cables"}
    )
    assert "led elsewhere" in rules(cut)


def test_leaders_that_come_round_are_told():
    """Two that select one another; and one that is led by two."""
    one, two = device("one", (0, 1)), device("two", (0, 1))
    plan = evening(
        [one, two],
        [{"one": 0, "two": 0}, {"one": 1, "two": 1}],
        cables=[("one:out", "two:in"), ("two:out", "one:in")],
    )
    plan = edits.lead(plan, "one", "two", 1).change(plan)
    plan = edits.lead(plan, "two", "one", 2).change(plan)
    assert {"leaders in a ring", "led elsewhere"} & rules(plan)
    both = evening(
        [device("a", (0, 1)), device("b", (0, 1)), device("c", (0, 1))],
        [{"a": 0, "b": 0, "c": 0}, {"a": 1, "b": 1, "c": 1}],
        cables=[("a:out", "b:in"), ("b:out", "c:in"), ("a:out", "c:in")],
    )
    sent = (ProgramSent(channel=5, number=1),)
    devices = []
    for owner in both.devices:
        if owner.id == "c":
            devices.append(type(owner)(**{**_fields(owner), "hears_programs": 5}))
        else:
            programs = tuple(type(p)(**{**_fields(p), "selects": sent}) for p in owner.programs)
            devices.append(type(owner)(**{**_fields(owner), "programs": programs}))
    both = type(both)(**{**_fields(both), "devices": tuple(devices)})
    assert led_in(both, both.scenes[0]).twice == {"c": ("a", "b")}
    assert "two leaders" in rules(both)


def _fields(value):
    return {name: getattr(value, name) for name in value.__struct_fields__}


@given(evenings(), st.data())
def test_reordering_there_and_back_is_equal(plan, data):
    """A song moved and moved back leaves the set list as it was."""
    count = len(plan.setlists[0].steps)
    one, other = (data.draw(st.integers(0, count - 1)) for _ in range(2))
    there = edits.move_step("night", one, other).change(plan)
    assert edits.move_step("night", other, one).change(there) == plan


def test_a_bank_is_selected_as_the_device_hears_it():
    """130 is 1 and 2: both controllers, one of them, or none; 0.96 ms each on DIN."""
    for heard, messages in (
        ("both", ("controller 0: 1", "controller 32: 2", "program 7")),
        ("msb", ("controller 0: 1", "program 7")),
        ("lsb", ("controller 32: 2", "program 7")),
        ("none", ("program 7",)),
    ):
        plan = led(bank_select=heard, hears_programs=3)
        front, _ = plan.devices
        sent = (ProgramSent(channel=3, number=7, bank=130),)
        programs = tuple(type(p)(**{**_fields(p), "selects": sent}) for p in front.programs)
        front = type(front)(**{**_fields(front), "programs": programs})
        (one,) = selected_by(plan, front, programs[0])
        assert one.messages == messages
        assert abs(one.ms - (0.64 + 0.96 * (len(messages) - 1))) < 1e-6


def test_a_foot_switch_that_steps_programs_spares_the_hands():
    """The press is the foot's where a jack of the device is told to go up."""
    owner = device("d", (0, 1), player="Ro")
    foot = Control(id="foot", name="Foot", kind="switch")
    jack = PedalJack(
        id="j", name="J", accepts=("switch",), functions=("program up", "sustain"), control="foot"
    )
    told = Send(control="foot", message="none", does="program up")
    for sends, by_foot in (((told,), True), ((), False)):
        programs = tuple(changed(p, sends=sends) for p in owner.programs)
        one = changed(owner, controls=(foot,), jacks=(jack,), programs=programs)
        plan = evening([one], [{"d": 0}, {"d": 1}])
        (step,) = song_change(plan, *plan.scenes).steps
        assert (step.presses, step.by_foot) == (1, by_foot)
