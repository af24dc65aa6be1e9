"""The best storing of programs, against every storing of small evenings."""

from itertools import pairwise, permutations

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import scaled
from tests.core.setlist.evenings import device, evening
from vastzone.core.plan.edits.setlists import store_as
from vastzone.core.plan.model.wishes import SettingRecord
from vastzone.core.plan.queries import lookup
from vastzone.core.setlist.changes import song_change
from vastzone.core.solve.chain import best_chain
from vastzone.core.solve.running_order import best_order, presses_in
from vastzone.core.solve.storing import best_storing, programs_in_order

SLOTS = 5


def slow_best(numbers, orders, goes_round, fixed=()):
    """The fewest presses, then the fewest moves, over all ways to fill a few slots."""
    best = None
    for slots in permutations(range(SLOTS), len(numbers)):
        stored = dict(zip(numbers, slots, strict=True))
        if any(stored[number] != number for number in fixed):
            continue
        rank = {n: r for r, n in enumerate(sorted(numbers, key=stored.get))}
        presses = 0
        for order in orders:
            for one, other in pairwise(order):
                steps = abs(rank[one] - rank[other])
                presses += min(steps, len(numbers) - steps) if goes_round else steps
        moved = sum(stored[number] != number for number in numbers)
        if best is None or (presses, moved) < best:
            best = (presses, moved)
    return best


@settings(max_examples=scaled(25))
@given(
    st.sets(st.integers(0, SLOTS - 1), min_size=2, max_size=4),
    st.booleans(),
    st.booleans(),
    st.data(),
)
def test_nothing_is_stored_better(numbers, goes_round, two_nights, data):
    """Presses and moves are those of the best of all storings; locked programs stay."""
    step = "goes round" if goes_round else "stops"
    owner = device("d", numbers, step, slots=SLOTS)
    order = st.lists(st.sampled_from(sorted(numbers)), min_size=2, max_size=7)
    nights = [data.draw(order) for _ in range(2 if two_nights else 1)]
    songs = [{"d": number} for night in nights for number in night]
    fixed = data.draw(st.sets(st.sampled_from(sorted(numbers)), max_size=1))
    locks = tuple(SettingRecord(ref=f"d/{n}/program.{n}/name", hold="locked") for n in fixed)
    plan = evening([owner], songs, settings=locks)
    ids = [scene.id for scene in plan.scenes]
    evenings, at = [], 0
    for night in nights:
        evenings.append(ids[at : at + len(night)])
        at += len(night)
    orders = [programs_in_order(plan, owner, songs) for songs in evenings]
    found = best_storing(plan, owner, evenings)
    assert found.without.is_best
    best = slow_best(sorted(numbers), orders, goes_round, fixed)
    assert (found.without.presses, found.without.moved) == best
    if found.without.moved or found.without.presses < found.now.presses:
        stored = store_as("d", found.without.slots).change(plan)
        known = lookup.by_ids(stored.scenes)
        made = 0
        for songs in evenings:
            for one, other in pairwise(songs):
                made += song_change(stored, known[one], known[other]).presses
        assert made == best[0]


def test_a_chain_may_go_past_the_last_slot():
    """0 and 4 are neighbours round the end, so only 1 has to move: 0, 2, 1, 4."""
    owner = device("d", (0, 1, 2, 4), "goes round", slots=SLOTS)
    plan = evening([owner], [{"d": 0}, {"d": 4}, {"d": 1}])
    found = best_storing(plan, owner, [[scene.id for scene in plan.scenes]])
    assert (found.without.presses, found.without.moved) == (2, 1)


def test_a_song_that_comes_often_wants_copies():
    """A B A C A D: five presses with copies of A; six without, in the order B A C D."""
    owner = device("d", (10, 20, 30, 40))
    songs = [{"d": 30}, {"d": 10}, {"d": 20}, {"d": 40}]
    plan = evening([owner], songs, order=(0, 1, 0, 2, 0, 3))
    found = best_storing(plan, owner, [plan.setlists[0].played])
    assert (found.without.presses, found.copied.presses) == (6, 5)
    stored = store_as("d", found.best.slots).change(plan)
    after = best_storing(stored, stored.devices[0], [stored.setlists[0].played])
    assert after.now.presses == 5
    names = {program.name for program in stored.devices[0].programs}
    assert names == {program.name for program in owner.programs}


@settings(max_examples=scaled(15))
@given(st.lists(st.integers(0, 4), min_size=3, max_size=6), st.booleans())
def test_no_order_of_songs_is_shorter(order, first_stays):
    """Presses of the best order are those of the best of all orders."""
    owner = device("d", (0, 3, 4, 7, 9))
    numbers = [program.number for program in owner.programs]
    plan = evening([owner], [{"d": number} for number in numbers])
    songs = [f"s{n}" for n in order]
    found = best_order(plan, songs, first_stays)
    tried = []
    for other in set(permutations(songs)):
        if not first_stays or other[0] == songs[0]:
            tried.append(presses_in(plan, other))
    assert found.presses == min(tried) and found.gap <= 0
    assert sorted(found.songs) == sorted(songs)


@settings(max_examples=scaled(150))
@given(st.integers(3, 6), st.data())
def test_no_chain_moves_fewer(count, data):
    """Songs one behind the other, nothing among them, as few moved as of all storings.

    Nearly all slots are taken: what stands among the songs hardly finds another.
    """
    some = st.sets(st.integers(0, count - 1), min_size=count - 1, max_size=count)
    numbers = data.draw(st.permutations(sorted(data.draw(some))))
    played = data.draw(st.integers(2, len(numbers)))
    order, others = numbers[:played], sorted(numbers[played:])
    fewest = []
    for slots in permutations(range(count), len(numbers)):
        stored = dict(zip(numbers, slots, strict=True))
        if follows(order, stored):
            fewest.append(sum(stored[number] != number for number in numbers))
    found = best_chain(order, {number: number for number in order}, others, count)
    assert found is not None
    stored = {number: found.others.get(number, number) for number in others}
    stored |= dict(zip(order, found.slots, strict=True))
    assert len(set(stored.values())) == len(numbers) and follows(order, stored)
    moved = sum(stored[number] != number for number in numbers)
    assert found.moved == moved == min(fewest)


def follows(order, stored):
    """Whether each change takes one press, all of them up or all of them down."""
    rank = {number: place for place, number in enumerate(sorted(stored, key=stored.get))}
    steps = {rank[other] - rank[one] for one, other in pairwise(order)}
    return steps in ({1}, {-1})
