"""A sheet of facts as data: rows of exact values and the edits they make.  No widgets here."""

from collections.abc import Callable
from typing import Any, Literal, NamedTuple

from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit

Make = Callable[[Any], Edit]


class FactRow(NamedTuple):
    """One value: what it is called, how it is entered, what it is now, what editing it does.

    A number that is worked out, and can be locked, says by ``ref`` which setting it is.  What is
    ``rare`` is folded away until it is asked for.
    """

    label: str
    kind: Literal["text", "number", "note", "choice", "check", "fixed"]
    value: Any
    make: Make | None = None
    low: int = 0
    high: int = 127
    choices: tuple[tuple[str, Any], ...] = ()
    naming: pitch.Naming = 4
    ref: str = ""
    rare: bool = False


class Press(NamedTuple):
    """A button: an edit of the plan, worked out when it is pressed."""

    label: str
    icon: str
    make: Callable[[], Edit]


class Sheet(NamedTuple):
    """Everything about one thing."""

    ref: str
    title: str
    kind: str
    rows: tuple[FactRow, ...]
    presses: tuple[Press, ...] = ()
    remark: str = ""
