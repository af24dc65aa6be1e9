"""Changed copies of a plan's values, with every limit checked."""

import math
from typing import Any, TypeVar

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.model.values import Value
from vastzone.core.say import say
from vastzone.core.text import quoted

V = TypeVar("V", bound=Value)


def changed(value: V, **changes: Any) -> V:
    """A copy with fields replaced and every limit checked.  Raises EditError."""
    if all(getattr(value, name) == new for name, new in changes.items()):
        return value
    for new in changes.values():
        _refuse_unwritable(new)
    copy = msgspec.structs.replace(value, **changes)
    if all(_whole(new) for new in changes.values()):
        return copy
    try:
        msgspec.convert(msgspec.to_builtins(copy), type(value))
    except msgspec.ValidationError as error:
        what = getattr(value, "name", type(value).__name__)
        raise EditError(
            say("{what} cannot take that: {error}.", what=quoted(what), error=error)
        ) from None
    return copy


def _refuse_unwritable(new: object) -> None:
    """Refuse what no file could hold: numbers without end, and halves of characters."""
    if isinstance(new, float) and not math.isfinite(new):
        raise EditError(say("That number is too large: write a smaller one."))
    if isinstance(new, str):
        try:
            new.encode()
        except UnicodeEncodeError:
            raise EditError(say("That text holds half a character: type it again.")) from None


def _whole(new: object) -> bool:
    """Whether this is a tuple of values that were checked when they were made."""
    return isinstance(new, tuple) and all(isinstance(item, Value) for item in new)


def swapped(items: tuple[V, ...], old: V, *new: V) -> tuple[V, ...]:
    """The tuple with one item replaced by none, one or several."""
    result: list[V] = []
    for item in items:
        result.extend(new if item is old else (item,))
    return tuple(result)
