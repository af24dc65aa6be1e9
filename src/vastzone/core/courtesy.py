"""Work beside the window lets the window's own thread go first.

Only one thread of Python runs at a time, and they take turns: with work in a thread beside it the
window has every second turn only, and hands feel it.  So such work looks often whether it was kept
waiting, which tells that another thread has something to do, and then it rests; the longer, the
longer the other goes on.
"""

import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from resource import RUSAGE_THREAD, getrusage
from time import perf_counter, sleep

TURN = 0.0005
"""Seconds after which a thread that waits is let in; the 5 ms that are usual would be felt."""
LOOK = 0.001
"""Seconds between two looks, at least."""
SHARE = 0.25
"""The work goes on for this share of the rest before: it slows down, but never stands still."""
SHORT_REST, LONG_REST = 0.004, 0.016
"""Seconds of rest, at first and at most."""


class _Turns(threading.local):
    """What one thread that works beside the window knows of its turns."""

    beside = False
    looked = 0.0
    waits = 0
    rest = SHORT_REST


_turns = _Turns()
_lock = threading.Lock()
_beside: set[int] = set()
_usual_turn = sys.getswitchinterval()


@contextmanager
def beside_the_window() -> Iterator[None]:
    """What is done here, in a thread of its own, gives way to other threads."""
    _begin()
    try:
        yield
    finally:
        _end()


def _begin() -> None:
    global _usual_turn
    with _lock:
        if not _beside:
            _usual_turn = sys.getswitchinterval()
            sys.setswitchinterval(TURN)
        _beside.add(threading.get_ident())
    _turns.beside = True
    _look_anew()


def _end() -> None:
    _turns.beside = False
    with _lock:
        _beside.discard(threading.get_ident())
        if not _beside:
            sys.setswitchinterval(_usual_turn)


def give_way() -> None:
    """Rest for a moment where this thread works beside the window and another wants to go on."""
    if not _beside or not _turns.beside:
        return
    if perf_counter() - _turns.looked < max(LOOK, SHARE * _turns.rest):
        return
    if _waits() > _turns.waits:
        sleep(_turns.rest)
        _turns.rest = min(LONG_REST, 2 * _turns.rest)
    else:
        _turns.rest = SHORT_REST
    _look_anew()


def _look_anew() -> None:
    _turns.looked, _turns.waits = perf_counter(), _waits()


def _waits() -> int:
    """How often this thread had to wait for something: for its turn, where it reads no file."""
    return getrusage(RUSAGE_THREAD).ru_nvcsw
