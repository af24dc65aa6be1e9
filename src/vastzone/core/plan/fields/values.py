"""Values of settings: what a field can hold, how it is kept, and how a device shows it.

A value is kept as a whole number (a choice by its place, on as 1, none as ``MISSING``) or, where it
is no number, as text.  Each kind of value turns that into what stands in the plan and back, says it
in the device's own naming, and tells how it is entered.
"""

from collections.abc import Callable, Mapping
from typing import Any, Literal, NamedTuple, Protocol

from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.say import number, say
from vastzone.core.text import decimal, listed, listed_pairs, quoted, whole_number

MISSING = -1
"""Stands for «none» where a channel follows the zones, is omni, or a target has no controller."""
Stored = int | str
Say = Callable[[Owner, int], str]
EntryKind = Literal["text", "number", "note", "choice", "check"]


class EntryForm(NamedTuple):
    """How a value is entered: by typing, between two ends, from choices, with a tick."""

    kind: EntryKind
    low: int = 0
    high: int = 127
    choices: tuple[tuple[str, Any], ...] = ()


class Values(Protocol):
    """What a field can hold."""

    def stored(self, owner: Owner, value: Any) -> Stored:
        """What stands in the plan, as it is kept."""

    def held(self, owner: Owner, stored: Stored) -> Any:
        """What is kept, as it stands in the plan.  Raises EditError where it cannot be."""

    def words(self, owner: Owner, stored: Stored) -> str:
        """A value as the device shows it."""

    def form(self, owner: Owner) -> EntryForm:
        """How it is entered."""

    def shown(self, owner: Owner, value: Any) -> Any:
        """What stands in the plan, as it is shown where it is entered."""

    def entered(self, owner: Owner, shown: Any) -> Any:
        """What was entered, as it stands in the plan.  Raises EditError where it cannot be."""


def as_number(stored: Stored) -> int:
    """A value that is a number.  Raises EditError for text."""
    if isinstance(stored, int):
        return stored
    raise EditError(say("“{stored}” is no number: write one.", stored=quoted(stored)))


def plain(_owner: Owner, value: int) -> str:
    """A plain number."""
    return say("none") if value == MISSING else str(value)


def percent(_owner: Owner, value: int) -> str:
    """A share in percent."""
    return f"{value} %"


def signed(_owner: Owner, value: int) -> str:
    """A shift, with its sign."""
    return f"{value:+}".replace("-", "−") if value else "0"


class Shown:
    """Values that are entered as they stand in the plan."""

    def shown(self, _owner: Owner, value: Any) -> Any:
        """As it is."""
        return value

    def entered(self, _owner: Owner, shown: Any) -> Any:
        """As it is."""
        return shown


class Whole(Shown):
    """A whole number from ``low`` to ``high``; ``none`` is what its absence is called.

    One that may be absent is entered by choosing, any other by typing.
    """

    def __init__(
        self,
        low: int = 0,
        high: int = 127,
        none: str = "",
        say: Say = plain,
        named: Callable[[Owner], tuple[tuple[str, Any], ...]] | None = None,
    ) -> None:
        self.low, self.high, self.none = low, high, none
        self._say, self._named = say, named

    def stored(self, _owner: Owner, value: Any) -> int:
        """Its absence is kept as ``MISSING``."""
        return MISSING if value is None else int(value)

    def held(self, owner: Owner, stored: Stored) -> int | None:
        """The number.  Raises EditError beyond its ends."""
        value = as_number(stored)
        if value == MISSING and self.none:
            return None
        if not self.low <= value <= self.high:
            raise EditError(
                say(
                    "{value} is outside {low}–{high}: choose one inside.",
                    value=value,
                    low=self.low,
                    high=self.high,
                )
            )
        return value

    def words(self, owner: Owner, stored: Stored) -> str:
        """The number in words."""
        value = as_number(stored)
        return self.none if value == MISSING and self.none else self._say(owner, value)

    def form(self, owner: Owner) -> EntryForm:
        """A number to type, or all of them to choose from."""
        if self._named is not None:
            return EntryForm("choice", choices=self._named(owner))
        if not self.none:
            return EntryForm("number", self.low, self.high)
        each = tuple((str(number), number) for number in range(self.low, self.high + 1))
        return EntryForm("choice", choices=((self.none, None), *each))


class Note(Shown):
    """A note in the device's own naming, of the keys of ``ends`` where those are known."""

    def __init__(self, ends: Callable[[Owner], tuple[int, int]] | None = None) -> None:
        self._ends = ends

    def stored(self, _owner: Owner, value: Any) -> int:
        """Its number."""
        return int(value)

    def held(self, _owner: Owner, stored: Stored) -> int:
        """Its number.  Raises EditError outside 0–127."""
        value = as_number(stored)
        if not 0 <= value <= 127:
            raise EditError(say("{value} is no note: choose one from 0 to 127.", value=value))
        return value

    def words(self, owner: Owner, stored: Stored) -> str:
        """Its name."""
        return pitch.label(as_number(stored), owner.device.octaves)

    def form(self, owner: Owner) -> EntryForm:
        """A note to type."""
        low, high = self._ends(owner) if self._ends else (0, 127)
        return EntryForm("note", low, high)


class OnOff(Shown):
    """On or off."""

    def stored(self, _owner: Owner, value: Any) -> int:
        """On is 1."""
        return int(value)

    def held(self, _owner: Owner, stored: Stored) -> bool:
        """Whether it is on.  Raises EditError for anything but 0 and 1."""
        if stored in (0, 1):
            return bool(stored)
        raise EditError(say("{stored} is neither off (0) nor on (1).", stored=stored))

    def words(self, _owner: Owner, stored: Stored) -> str:
        """On or off."""
        return say("on") if stored else say("off")

    def form(self, _owner: Owner) -> EntryForm:
        """A box to tick."""
        return EntryForm("check")


class NamedChoice(Shown):
    """One of several names, in the order in which they are counted.

    ``words`` are what names are called where they are chosen, themselves where nothing is said;
    ``only`` leaves those that this owner offers.
    """

    def __init__(
        self,
        names: tuple[str, ...],
        words: Mapping[str, str] | None = None,
        only: Callable[[Owner], tuple[str, ...]] | None = None,
    ) -> None:
        self.names, self._words, self._only = names, words or {}, only

    def place(self, chosen: str) -> int:
        """Where a name stands among them."""
        return self.names.index(chosen)

    def chosen(self, place: int) -> str:
        """The name at a place.  Raises EditError where there is none."""
        if 0 <= place < len(self.names):
            return self.names[place]
        raise EditError(
            say("There is no choice {place} among {count}.", place=place + 1, count=len(self.names))
        )

    def stored(self, _owner: Owner, value: Any) -> int:
        """The place of a name."""
        return self.place(value)

    def held(self, _owner: Owner, stored: Stored) -> str:
        """The name.  Raises EditError where there is none."""
        return self.chosen(as_number(stored))

    def words(self, _owner: Owner, stored: Stored) -> str:
        """The name."""
        return say(self.names[as_number(stored)])

    def form(self, owner: Owner) -> EntryForm:
        """The names to choose from."""
        names = self._only(owner) if self._only else self.names
        choices = tuple((self._words.get(name) or say(name), name) for name in names)
        return EntryForm("choice", choices=choices)


class Listed(Shown):
    """One of several things by name that this owner has; none of them where ``none`` is a word.

    It is kept by its name, which stays the same when others come and go.
    """

    def __init__(
        self, things: Callable[[Owner], tuple[tuple[str, Any], ...]], none: str = ""
    ) -> None:
        self._things, self.none = things, none

    def stored(self, _owner: Owner, value: Any) -> Stored:
        """Its name."""
        return MISSING if value is None else str(value)

    def held(self, owner: Owner, stored: Stored) -> Any:
        """The thing.  Raises EditError where there is none."""
        if stored == MISSING and self.none:
            return None
        for _, thing in self._things(owner):
            if str(thing) == str(stored):
                return thing
        raise EditError(
            say("There is no “{stored}” to choose there: choose another.", stored=quoted(stored))
        )

    def words(self, owner: Owner, stored: Stored) -> str:
        """What it is called."""
        if stored == MISSING and self.none:
            return self.none
        called = {}
        for words, thing in self._things(owner):
            called[str(thing)] = words
        return called.get(str(stored), str(stored))

    def form(self, owner: Owner) -> EntryForm:
        """The things to choose from."""
        none = ((self.none, None),) if self.none else ()
        return EntryForm("choice", choices=(*none, *self._things(owner)))


class Ports(Shown):
    """Outputs or inputs in use as bits, in the order of the device's ports; 0 is all of them."""

    def __init__(self, flow: Literal["in", "out"]) -> None:
        self._flow = flow

    def stored(self, owner: Owner, value: Any) -> int:
        """The ports as bits."""
        ports = enumerate(owner.device.ports)
        return sum(1 << place for place, port in ports if port.id in value)

    def held(self, owner: Owner, stored: Stored) -> tuple[str, ...]:
        """The ids of the ports.  Raises EditError for a port that is not there."""
        bits, ports = as_number(stored), owner.device.ports
        if not 0 <= bits < 1 << len(ports):
            what = say("input") if self._flow == "in" else say("output")
            raise EditError(
                say(
                    "{device} has no such {what}: choose another.",
                    device=owner.device.name,
                    what=what,
                )
            )
        ids = []
        for place, port in enumerate(ports):
            if bits >> place & 1:
                ids.append(port.id)
        return tuple(ids)

    def words(self, owner: Owner, stored: Stored) -> str:
        """The ports by name."""
        bits = as_number(stored)
        used = []
        for place, port in enumerate(owner.device.ports):
            if bits >> place & 1:
                used.append(port.name)
        return listed(used, len(used)) or say("all")

    def form(self, owner: Owner) -> EntryForm:
        """All of them, each alone, and what is chosen now."""
        choices: dict[tuple[str, ...], str] = {(): say("all")}
        fit = (port for port in owner.device.ports if port.flow in (self._flow, "both"))
        choices |= {(port.id,): port.name for port in fit}
        now = tuple(getattr(owner.thing, "ports", ()))
        choices.setdefault(now, self.words(owner, self.stored(owner, now)))
        return EntryForm("choice", choices=tuple((name, ids) for ids, name in choices.items()))


class Measure:
    """A measured number in a unit of ``scale`` to that of the plan; entered in whole units."""

    def __init__(self, low: int, high: int, scale: float = 1.0) -> None:
        self.low, self.high, self.scale = low, high, scale

    def stored(self, _owner: Owner, value: Any) -> str:
        """The number as text, so that nothing of it is lost."""
        return f"{value:g}"

    def held(self, _owner: Owner, stored: Stored) -> float:
        """The number.  Raises EditError where it is none."""
        try:
            return float(stored)
        except ValueError:
            raise EditError(
                say("“{stored}” is no number: write one.", stored=quoted(stored))
            ) from None

    def words(self, _owner: Owner, stored: Stored) -> str:
        """The number."""
        return number(float(stored), "g")

    def form(self, _owner: Owner) -> EntryForm:
        """A number to type."""
        return EntryForm("number", self.low, self.high)

    def shown(self, _owner: Owner, value: Any) -> int:
        """In whole units."""
        whole: int = round(value * self.scale)
        return whole

    def entered(self, _owner: Owner, shown: Any) -> float:
        """As it stands in the plan."""
        return float(shown) / self.scale


class Typed:
    """Text, or what is written as text: ``write`` and ``read`` turn one into the other.

    ``write`` is for keeping, the same in every language; ``show`` is for people.
    """

    def __init__(
        self,
        write: Callable[[Any], str] = str,
        read: Callable[[str], Any] = str,
        show: Callable[[Any], str] | None = None,
    ) -> None:
        self._write, self._read, self._show = write, read, show or write

    def stored(self, _owner: Owner, value: Any) -> str:
        """As it is written."""
        return self._write(value)

    def held(self, _owner: Owner, stored: Stored) -> Any:
        """As it is read.  Raises EditError where it cannot be."""
        return self._read(str(stored))

    def words(self, _owner: Owner, stored: Stored) -> str:
        """As people write it."""
        return self._show(self._read(str(stored))) or say("none")

    def form(self, _owner: Owner) -> EntryForm:
        """Text to type."""
        return EntryForm("text")

    def shown(self, _owner: Owner, value: Any) -> str:
        """As people write it."""
        return self._show(value)

    def entered(self, _owner: Owner, shown: Any) -> Any:
        """As it is read.  Raises EditError where it cannot be."""
        return self._read(shown)


def optional_text(value: float | None) -> str:
    """A number as it is kept; nothing for none."""
    return "" if value is None else f"{value:g}"


def optional_words(value: float | None) -> str:
    """A number as it is typed; nothing for none."""
    return "" if value is None else number(value, "g")


def read_optional(words: str) -> float | None:
    """A number as it is typed, None for none.  Raises EditError for anything else."""
    if not words.strip():
        return None
    value = decimal(words)
    if value is None:
        raise EditError(say("“{words}” is no number: write one, or nothing.", words=quoted(words)))
    return value


def points_words(points: tuple[tuple[int, int], ...]) -> str:
    """The points of a drawn curve: «40 10, 90 80»."""
    return ", ".join(f"{x} {y}" for x, y in points)


def read_points(words: str) -> tuple[tuple[int, int], ...]:
    """Points as they are typed.  Raises EditError where one is no pair of 0–127."""
    points = []
    for piece in listed_pairs(words):
        first, _, second = piece.partition(" ")
        x, y = whole_number(first), whole_number(second)
        if x is None or y is None:
            raise EditError(
                say(
                    "“{piece}” is no point: write where and how much, such as “64 40”.",
                    piece=quoted(piece),
                )
            )
        if not (0 <= x <= 127 and 0 <= y <= 127):
            raise EditError(
                say("“{piece}” goes beyond 127: both numbers are 0–127.", piece=quoted(piece))
            )
        points.append((x, y))
    return tuple(sorted(points))


def volts_text(volts: float) -> str:
    """Volts as they are kept: «4.50»."""
    return f"{volts:.2f}"


def volts_words(volts: float) -> str:
    """Volts with two decimals as people write them: «4.50»."""
    return number(volts, ".2f")


def read_volts(words: str) -> float:
    """Volts as they are typed: «4.5», «4.50 V».  Raises EditError for anything else."""
    volts = decimal(words.strip().removesuffix("V").removesuffix("v").strip())
    if volts is None or not -48 <= volts <= 48:
        raise EditError(
            say(
                "“{words}” is no voltage: write one from −48 to 48, such as 4.50.",
                words=quoted(words),
            )
        )
    return volts


def values_words(values: tuple[int, ...]) -> str:
    """A row of values as it is typed: «0, 42, 85»."""
    return ", ".join(map(str, values))


def read_values(words: str) -> tuple[int, ...]:
    """Values as they are typed.  Raises EditError where one is no number 0–127."""
    values = []
    for piece in (part.strip() for part in words.split(",") if part.strip()):
        value = whole_number(piece)
        if value is None or not 0 <= value <= 127:
            raise EditError(
                say(
                    "“{piece}” is no value: write numbers 0–127 with commas between.",
                    piece=quoted(piece),
                )
            )
        values.append(value)
    if not 1 <= len(values) <= 32:
        raise EditError(say("A row of values has 1 to 32 of them."))
    return tuple(values)
