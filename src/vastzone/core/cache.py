"""Results kept for as long as the very values they came from are in use.

Plans share everything that an edit did not touch, so identity is the cheap and exact test for
«nothing changed here».  Only the arguments of a function decide what is found, and nothing that is
found can be changed.

Several threads may ask at once: everything here is a single look-up or a single setting in a
dictionary, which no thread can see half done.  At worst two of them work the same thing out.
"""

import gc
from collections import defaultdict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from functools import wraps
from time import perf_counter
from types import MappingProxyType
from typing import Any, ParamSpec, TypeVar, cast

from vastzone.core.courtesy import give_way

P = ParamSpec("P")
R = TypeVar("R")
EDITS_KEPT = 128
"""What was not asked for during so many edits is dropped by twice as many at the latest."""


def _same(text: str) -> Hashable:
    return text


def _typed(number: float) -> Hashable:
    """A number comes with its type: 1, 1.0 and True are not the same."""
    return type(number), number


NOTHING: frozenset[Any] = frozenset()


def _set(items: frozenset[Any]) -> Hashable:
    """One empty set is as good as another."""
    return id(items) if items else NOTHING


_BY_VALUE: dict[type, Callable[[Any], Hashable]] = {
    str: _same,
    int: _typed,
    float: _typed,
    bool: _typed,
    frozenset: _set,
}
"""How strings, numbers and empty sets are told apart; all else is by identity."""


def _whole(args: tuple[Any, ...]) -> Hashable:
    """Strings and numbers by value, all else by identity, tuples too."""
    return tuple([_BY_VALUE.get(type(arg), id)(arg) for arg in args])


_BY_ITEM: dict[type, Callable[[Any], Hashable]] = {**_BY_VALUE, tuple: _whole}


def _item_by_item(args: tuple[Any, ...]) -> Hashable:
    """Strings and numbers by value, tuples by their items, all else by identity."""
    return tuple([_BY_ITEM.get(type(arg), id)(arg) for arg in args])


Entry = tuple[Any, Any]
"""The arguments, so that no identity is used anew meanwhile, and what came of them."""


class _Kept:
    """The results of one function: those asked for lately, and those of the time before."""

    __slots__ = ("before", "lately", "size")

    def __init__(self, size: int) -> None:
        self.size = size
        self.lately: dict[Hashable, Entry] = {}
        self.before: dict[Hashable, Entry] = {}

    def keep(self, key: Hashable, entry: Entry) -> Entry:
        """Keep what was made; what another thread kept first is given instead."""
        kept = self.lately.setdefault(key, entry)
        if len(self.lately) >= self.size:
            self.age()
        return kept

    def age(self) -> None:
        """Drop what was not asked for since it was aged the last time."""
        self.before, self.lately = self.lately, {}

    def forget(self) -> None:
        """Drop everything."""
        self.before, self.lately = {}, {}


_every: list[_Kept] = []
_edits = 0
_dropped: list[dict[Hashable, Entry]] = []


def derived(size: int = 256, whole: bool = False) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keep the last results of a pure function, ``size`` to twice as many, by its arguments.

    They are told apart by identity, but for strings, numbers and empty sets; tuples item by item,
    or by identity too where ``whole`` is said: for those that an edit leaves as they are.
    Arguments are given by place.  A dictionary that is returned can be read only, and no list or
    set may be.
    """
    identify = _whole if whole else _item_by_item

    def decorate(function: Callable[P, R]) -> Callable[P, R]:
        kept = _Kept(size)
        _every.append(kept)

        @wraps(function)
        def lookup(*args: P.args, **kwargs: P.kwargs) -> R:
            if kwargs:
                raise TypeError(f"{function.__name__} takes its arguments by place")
            give_way()
            key = identify(args)
            entry = kept.lately.get(key)
            if entry is None:
                entry = kept.before.get(key)
                if entry is None:
                    entry = args, _read_only(function(*args, **kwargs))
                entry = kept.keep(key, entry)
            result: R = entry[1]
            return result

        return lookup

    return decorate


def _read_only(result: Any) -> Any:
    """What nobody can change who is given it."""
    if isinstance(result, dict):
        plain = dict(result) if isinstance(result, defaultdict) else result
        return MappingProxyType(plain)
    if isinstance(result, list | set):
        raise TypeError(f"a {type(result).__name__} could be changed by whoever is given it")
    return result


def edit_passed() -> None:
    """The plan was changed: what no plan asked for during many edits is dropped."""
    global _edits
    _edits += 1
    if _edits % EDITS_KEPT == 0:
        _discard([kept.before for kept in _every])
        for kept in _every:
            kept.age()


def forget_all() -> None:
    """Drop everything: another plan is opened."""
    _discard([entries for kept in _every for entries in (kept.before, kept.lately)])
    for kept in _every:
        kept.forget()


def _discard(dropped: list[dict[Hashable, Entry]]) -> None:
    """What was dropped is freed little by little; what is left of the last time, at once."""
    global _dropped
    _dropped = dropped


def free(seconds: float) -> None:
    """Free what was dropped, for about so long: all of a large plan at once would be felt."""
    until = perf_counter() + seconds
    while _dropped and perf_counter() < until:
        if _dropped[-1]:
            _dropped[-1].popitem()
        else:
            _dropped.pop()


T = TypeVar("T", bound=tuple[Any, ...])


@derived(65536)
def _alike(items: tuple[Any, ...]) -> tuple[Any, ...]:
    return items


def interned(items: T) -> T:
    """The same tuple for the same items, so that what came from it is found again."""
    return cast("T", _alike(items))


@contextmanager
def no_collecting() -> Iterator[None]:
    """A large piece of work makes much that lives and no garbage: looking for some takes time."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()
