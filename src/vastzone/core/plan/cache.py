"""Results kept for as long as the very values they came from are in use.

Plans share everything that an edit did not touch, so identity is the cheap and exact test for
«nothing changed here».
"""

import gc
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from functools import wraps
from typing import Any, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")
_PLAIN = frozenset((str, int, float, bool, type(None)))


def _key(args: tuple[Any, ...]) -> Hashable:
    """Plain values by value, all else by identity (as a large negative number)."""
    parts: list[Hashable] = []
    for arg in args:
        kind = type(arg)
        if kind is tuple:
            parts.append(tuple([v if type(v) in _PLAIN else ~id(v) for v in arg]))
        else:
            parts.append(arg if kind in _PLAIN else ~id(arg))
    return tuple(parts)


def _whole(args: tuple[Any, ...]) -> Hashable:
    """Tuples too by identity."""
    return tuple([arg if type(arg) in _PLAIN else ~id(arg) for arg in args])


def derived(
    size: int = 256, hidden: int = 0, whole: bool = False
) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keep the last ``size`` results of a pure function, by identity of its arguments.

    The arguments are kept alive with the result, so an identity is never reused meanwhile.
    Tuples passed as arguments are compared item by item, or by identity too where ``whole`` is
    said: for those that an edit leaves as they are.  The last ``hidden`` arguments do not count:
    what they add is told by the others already.
    """
    identify = _whole if whole else _key

    def decorate(function: Callable[P, R]) -> Callable[P, R]:
        kept: OrderedDict[Hashable, tuple[Any, R]] = OrderedDict()

        @wraps(function)
        def lookup(*args: P.args, **kwargs: P.kwargs) -> R:
            told = args[:-hidden] if hidden else args
            key = identify((*told, *kwargs.values()) if kwargs else told)
            found = kept.get(key)
            if found is None:
                found = kept[key] = ((told, kwargs), function(*args, **kwargs))
                if len(kept) > size:
                    kept.popitem(last=False)
            else:
                try:
                    kept.move_to_end(key)
                except KeyError:  # a solver beside the window has pushed it out meanwhile
                    kept[key] = found
            return found[1]

        return lookup

    return decorate


T = TypeVar("T", bound=tuple[Any, ...])


@derived(65536)
def _alike(items: tuple[Any, ...]) -> tuple[Any, ...]:
    return items


def alike(items: T) -> T:
    """The same tuple for the same items, so that what came from it is found again."""
    return _alike(items)  # type: ignore[return-value]


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
