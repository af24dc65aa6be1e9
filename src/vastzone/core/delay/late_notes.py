"""A piece of music played through a plan: which notes were late, when, and where they waited."""

from collections.abc import Iterable
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.trace import Player, TraceEntry
from vastzone.core.engine.voice import Voice
from vastzone.core.midi.messages import Message
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of

WAITED_MS = 0.05


class LateNote(NamedTuple):
    """A note that sounded late: when it was struck, of which part, how late, how long it waited.

    ``line`` is the cable where it waited most, as its two devices.
    """

    at_ms: float
    part: str
    note: int
    ms: float
    waited_ms: float
    line: str


class Lateness(NamedTuple):
    """A whole piece: how many notes sounded, how late usually and at worst, and the late ones."""

    notes: int
    mean_ms: float
    worst_ms: float
    late: tuple[LateNote, ...]


def play_through(
    compiled: Compiled,
    events: Iterable[tuple[float, Message]],
    entry: TraceEntry,
    limit_ms: float,
) -> Lateness:
    """Play timed messages (milliseconds, in order); what takes longer than ``limit_ms`` is late.

    Times are those of the message and the device that sounds, without buffers and ears.
    """
    player = Player(Performance(compiled), entry)
    voices: list[Voice] = []
    for at, message in events:
        for one in player.play(message, at):
            if isinstance(one, Voice):
                voices.append(one)
    # Read at the end: what is struck later can still overtake.
    delays = [voice.delay_ms for voice in voices]
    late = []
    for voice, ms in zip(voices, delays, strict=True):
        if ms > limit_ms:
            late.append(_late(compiled, voice, ms))
    mean = sum(delays) / len(delays) if delays else 0.0
    return Lateness(len(voices), mean, max(delays, default=0.0), tuple(late))


def _late(compiled: Compiled, voice: Voice, ms: float) -> LateNote:
    """Where a voice waited longest."""
    tree, lines, times = voice.emission.tree, voice.emission.course.lines, voice.strike.times
    longest, where, waited = 0.0, "", 0.0
    for index in tree.way(voice.landing.step) if voice.landing.step >= 0 else ():
        step = tree.steps[index]
        before = times[step.parent] if step.parent >= 0 else 0.0
        wait = times[index] - before - step.before_ms - lines[index].ms
        if wait > WAITED_MS:
            waited += wait
        if wait > longest:
            longest = wait
            ends = (device_of(step.arc.source), device_of(step.arc.dest))
            where = " to ".join(lookup.device(compiled.plan, end).name for end in ends)
    return LateNote(voice.strike.at, voice.landing.ref, voice.landing.note, ms, waited, where)
