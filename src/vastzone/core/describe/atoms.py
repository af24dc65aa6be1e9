"""Messages put together to what was moved and where it is: pairs and parameters are one thing."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import ENTRY, FINE, SELECT, value_of
from vastzone.core.plan.model.values import Sending

Parameter = Literal["rpn", "nrpn"]
TOGETHER_MS = 8.0
"""Both halves of a pair come within this."""


class TimedMessage(NamedTuple):
    """A message that came in, and when, in milliseconds."""

    at_ms: float
    message: Message


class Mover(NamedTuple):
    """What tells one control from another: the kind of message, channel 1–16, number."""

    message: Sending
    channel: int
    number: int


class Atom(NamedTuple):
    """One value of a mover, 0–127, at a time; ``first`` is the place of its message."""

    mover: Mover
    value: float
    at_ms: float
    first: int


def atoms_of(heard: Sequence[TimedMessage]) -> list[Atom]:
    """What was moved, value by value, in the order in which it was heard."""
    atoms: list[Atom] = []
    halves: dict[tuple[int, Parameter], list[int]] = {}
    chosen: dict[int, Parameter] = {}
    for place, (at, message) in enumerate(heard):
        channel = message.channel + 1
        kind = _selecting(heard, place)
        if kind is not None:
            half = SELECT[kind].index(message.first)
            halves.setdefault((channel, kind), [0, 0])[half] = message.second
            chosen[channel] = kind
        elif _is_entry(message) and channel in chosen:
            kind = chosen[channel]
            high, low = halves[channel, kind]
            _enter(atoms, Mover(kind, channel, high << 7 | low), message, at, place)
        elif message.kind == "controller" and _is_fine_half(atoms, channel, message.first, at):
            last = atoms.pop()
            whole = value_of(round(last.value) << 7 | message.second)
            atoms.append(Atom(Mover("pair", channel, last.mover.number), whole, *last[2:]))
        else:
            atom = _plain(place, at, message)
            if atom is not None:
                atoms.append(atom)
    return atoms


def _is_entry(message: Message) -> bool:
    return message.kind == "controller" and message.first in (ENTRY, ENTRY + FINE)


def _selecting(heard: Sequence[TimedMessage], place: int) -> Parameter | None:
    """The kind of parameter that a message chooses: where data entry follows at once."""
    at, message = heard[place]
    if message.kind != "controller":
        return None
    kinds: tuple[Parameter, ...] = ("rpn", "nrpn")
    for kind in kinds:
        if message.first in SELECT[kind]:
            for later, other in heard[place + 1 : place + 4]:
                follows = later - at <= TOGETHER_MS and other.channel == message.channel
                if follows and _is_entry(other):
                    return kind
    return None


def _enter(atoms: list[Atom], mover: Mover, message: Message, at: float, place: int) -> None:
    """Data entry: the high bits begin a value, the low bits complete it."""
    number, data = message.first, message.second
    if number == ENTRY:
        atoms.append(Atom(mover, float(data), at, place))
    elif atoms and atoms[-1].mover == mover:
        last = atoms.pop()
        atoms.append(last._replace(value=value_of(round(last.value) << 7 | data)))


def _is_fine_half(atoms: list[Atom], channel: int, number: int, at: float) -> bool:
    """Whether a controller is the low half of the one that came just before it."""
    if not atoms or not FINE <= number < 2 * FINE:
        return False
    last = atoms[-1]
    same = last.mover.channel == channel and last.mover.number == number - FINE
    return same and last.mover.message == "controller" and at - last.at_ms <= TOGETHER_MS


def _plain(place: int, at: float, message: Message) -> Atom | None:
    kind, channel = message.kind, message.channel + 1
    first, second = message.first, message.second
    if kind in ("note_on", "note_off"):
        value = second if kind == "note_on" else 0
        return Atom(Mover("note", channel, first), float(value), at, place)
    if kind == "controller":
        return Atom(Mover("controller", channel, first), float(second), at, place)
    if kind == "bend":
        return Atom(Mover("bend", channel, 0), value_of(first), at, place)
    if kind == "pressure":
        return Atom(Mover("pressure", channel, 0), float(first), at, place)
    if kind == "program":
        return Atom(Mover("program", channel, first), 127.0, at, place)
    return None
