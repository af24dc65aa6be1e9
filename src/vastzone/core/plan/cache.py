"""Results kept for as long as the very values they came from are in use.

Plans share everything that an edit did not touch, so identity is the cheap and exact test for
«nothing changed here».
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import wraps
from typing import Any, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")
_PLAIN = (str, int, float, bool, type(None))


def _key(value: Any) -> Hashable:
    return value if isinstance(value, _PLAIN) else (id(value),)


def derived(size: int = 256) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keep the last ``size`` results of a pure function, by identity of its arguments.

    The arguments are kept alive with the result, so an identity is never reused meanwhile.
    Tuples passed as arguments are compared item by item.
    """

    def decorate(function: Callable[P, R]) -> Callable[P, R]:
        kept: OrderedDict[Hashable, tuple[Any, R]] = OrderedDict()

        @wraps(function)
        def lookup(*args: P.args, **kwargs: P.kwargs) -> R:
            key = tuple(
                tuple(_key(item) for item in arg) if type(arg) is tuple else _key(arg)
                for arg in (*args, *kwargs.values())
            )
            found = kept.get(key)
            if found is None:
                found = kept[key] = ((args, kwargs), function(*args, **kwargs))
                if len(kept) > size:
                    kept.popitem(last=False)
            else:
                kept.move_to_end(key)
            return found[1]

        return lookup

    return decorate
