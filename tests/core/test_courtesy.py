"""Work beside the window: it gives way, ends all the same, and leaves no trace."""

import sys
import threading

import pytest

from vastzone.core.cache import derived
from vastzone.core.courtesy import beside_the_window, give_way
from vastzone.core.progress import go_on


def beside(work: "list[int]", steps: int) -> threading.Thread:
    """A thread that works a number of steps beside the window."""

    def run() -> None:
        with beside_the_window():
            for step in range(steps):
                give_way()
                work.append(step)

    return threading.Thread(target=run)


def test_work_ends_while_another_thread_is_busy() -> None:
    done: list[int] = []
    threads = [beside(done, 20_000) for _ in range(3)]
    for thread in threads:
        thread.start()
    while any(thread.is_alive() for thread in threads):
        sum(range(1000))
    assert len(done) == 60_000


def test_turns_are_as_they_were_when_the_last_work_ends() -> None:
    usual = sys.getswitchinterval()
    done: list[int] = []
    inner = beside(done, 10)
    with beside_the_window():
        assert sys.getswitchinterval() < usual
        inner.start()
        inner.join()
        assert sys.getswitchinterval() < usual
    assert sys.getswitchinterval() == usual


def test_work_that_fails_leaves_no_trace() -> None:
    usual = sys.getswitchinterval()
    with pytest.raises(ValueError, match="broken"), beside_the_window():
        raise ValueError("broken")
    assert sys.getswitchinterval() == usual


def test_what_is_derived_beside_is_the_same() -> None:
    @derived()
    def square(number: int) -> int:
        go_on(None, "", 0.0)
        return number * number

    with beside_the_window():
        found = [square(number) for number in range(2000)]
    assert found == [number * number for number in range(2000)]
