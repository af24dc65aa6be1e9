"""What is derived is kept by what it came from, and safe from threads and from its callers."""

import sys
import threading
import weakref

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core import cache
from vastzone.core.cache import derived

PLAIN = st.one_of(
    st.integers(-3, 3),
    st.booleans(),
    st.sampled_from([0.0, 1.0, 2.5]),
    st.sampled_from(["", "1", "True"]),
    st.none(),
)
ARGUMENTS = st.lists(st.one_of(PLAIN, st.lists(PLAIN, max_size=2).map(tuple)), max_size=3)


class Thing:
    """What is told by identity."""


@derived(8)
def told(*args):
    return repr(args)


@given(st.lists(ARGUMENTS, min_size=2, max_size=12))
def test_only_the_same_arguments_find_the_same_result(asked):
    for args in (*asked, *reversed(asked)):
        assert told(*args) == repr(tuple(args))


def test_one_empty_set_is_as_good_as_another():
    asked = []

    @derived()
    def counted(names):
        asked.append(names)
        return len(names)

    for names in ([], ["a"], [], []):
        assert counted(frozenset(names)) == len(names)
    assert len(asked) == 2


def test_arguments_by_name_are_refused_and_what_is_given_cannot_be_changed():
    @derived()
    def named(low):
        return {"low": low}

    with pytest.raises(TypeError):
        named(low=3)
    with pytest.raises(TypeError):
        named(3)["low"] = 4
    assert named(3) == {"low": 3}
    for loose in (list, set):
        with pytest.raises(TypeError):
            derived()(loose)()


def test_many_threads_at_once_get_the_right_answers():
    wrong: list[object] = []

    @derived(4)
    def doubled(items):
        return tuple(2 * item for item in items)

    def ask(first):
        for number in range(2000):
            items = (first, number % 7)
            if doubled(items) != (2 * first, 2 * (number % 7)):
                wrong.append(items)
            if number % 50 == first:
                cache.forget_all()

    before = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)
    try:
        threads = [threading.Thread(target=ask, args=(first,)) for first in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    finally:
        sys.setswitchinterval(before)
    assert not wrong


def kept_alive():
    """A thing that only the cache knows any more."""

    @derived(1000)
    def about(thing):
        return str(type(thing))

    thing = Thing()
    about(thing)
    return weakref.ref(thing), about


def test_another_plan_and_many_edits_leave_nothing_of_what_was():
    left, _function = kept_alive()
    assert left() is not None
    cache.forget_all()
    cache.free(10.0)
    assert left() is None
    left, _function = kept_alive()
    for _ in range(2 * cache.EDITS_KEPT):
        cache.edit_passed()
    cache.free(10.0)
    assert left() is None
    left, _function = kept_alive()
    for _ in range(2):
        cache.forget_all()
    assert left() is None, "what was dropped before is gone when more is dropped"


def test_what_is_asked_for_again_and_again_stays():
    left, function = kept_alive()
    for _ in range(3 * cache.EDITS_KEPT):
        cache.edit_passed()
        function(left())
    assert left() is not None
