"""Learning what pads send by striking them in order, with the mistakes that are made in doing so.

Strike in order and unhurried: a pad struck twice, one left out, one that sends what another sends
already, and two messages from one hit (within about 20 ms) are told apart.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Literal, NamedTuple

from vastzone.core.midi.messages import Message

Mistaken = Literal["two messages", "twice", "same message", "skipped"]
ONE_HIT_MS = 20.0
"""Messages closer together than this come from one hit: crosstalk or a double trigger."""


class TimedMessage(NamedTuple):
    """A message that came in, and when, in milliseconds."""

    at_ms: float
    message: Message


class Taught(NamedTuple):
    """A pad, by its place in the order, and what it sends: note or controller, channel 1–16."""

    place: int
    kind: Literal["note", "controller"]
    channel: int
    number: int


class Mistake(NamedTuple):
    """What went wrong at a pad, by its place; ``other`` is the place that it is confused with."""

    kind: Mistaken
    place: int
    other: int = -1


class Learned(NamedTuple):
    """What was learned, pad by pad, and what looks like a mistake."""

    pads: tuple[Taught, ...]
    mistakes: tuple[Mistake, ...]


def learn(heard: Sequence[TimedMessage], pads: int) -> Learned:
    """Give each of ``pads`` pads what it sent, in the order in which they were struck.

    Note-offs and released controllers do not count.  What comes after the last pad is left out.
    """
    taught: list[Taught] = []
    mistakes: list[Mistake] = []
    last = float("-inf")
    for at, message in sorted(heard, key=lambda h: h.at_ms):
        what = _what(message)
        if what is None:
            continue
        if at - last < ONE_HIT_MS:
            mistakes.append(Mistake("two messages", len(taught) - 1))
            continue
        last = at
        # A second stroke on the pad that was just taught is no new pad.
        if taught and taught[-1][1:] == what:
            mistakes.append(Mistake("twice", taught[-1].place))
            continue
        if len(taught) == pads:
            break
        place = len(taught)
        same = next((t.place for t in taught if t[1:] == what), None)
        if same is not None:
            mistakes.append(Mistake("same message", place, same))
        taught.append(Taught(place, *what))
    return Learned(tuple(taught), (*mistakes, *_skipped(taught)))


def _what(message: Message) -> tuple[Literal["note", "controller"], int, int] | None:
    if message.kind == "note_on" and message.second > 0:
        return "note", message.channel + 1, message.first
    if message.kind == "controller" and message.second >= 64:
        return "controller", message.channel + 1, message.first
    return None


def _skipped(taught: list[Taught]) -> list[Mistake]:
    """Gaps of one in numbers that otherwise run on by one: a pad was probably left out there."""
    steps = []
    for a, b in pairwise(taught):
        steps.append(b.number - a.number)
    if len(steps) < 3 or steps.count(1) < 0.6 * len(steps):
        return []
    mistakes = []
    for n, step in enumerate(steps):
        if step == 2:
            mistakes.append(Mistake("skipped", taught[n + 1].place))
    return mistakes
