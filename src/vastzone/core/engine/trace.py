"""A run of messages through the plan: what each part sounded and what reached nothing."""

from collections import Counter
from collections.abc import Iterable
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled, motion_at
from vastzone.core.engine.performance import Movement, Performance
from vastzone.core.engine.voice import Voice
from vastzone.core.engine.why import why_silent, why_unheard
from vastzone.core.midi.messages import Message
from vastzone.core.plan import lookup


class Entry(NamedTuple):
    """Where a run of messages enters: the keys of a keybed, or an output that they leave.

    Through a keybed a note strikes the key of its number and its channel does not matter; from an
    output (``keybed`` empty) each message goes as it is.
    """

    device: str
    keybed: str = ""
    port: str = ""


class Heard(NamedTuple):
    """What one part did: notes sounded, their range 0–127, and the worst delay."""

    ref: str
    notes: int
    low: int
    high: int
    worst_ms: float


class Lost(NamedTuple):
    """Events that reached nothing for one reason."""

    sentence: str
    events: int


class Trace(NamedTuple):
    """The whole run: events read, what each part did, what was lost, the worst delay."""

    events: int
    heard: tuple[Heard, ...]
    lost: tuple[Lost, ...]
    worst_ms: float
    hanging: int


class Player:
    """Feeds messages to a performance through an entry, one at a time."""

    def __init__(self, performance: Performance, entry: Entry) -> None:
        self.performance, self.entry = performance, entry
        self.bed = f"{entry.device}:{entry.keybed}"
        self.out = f"{entry.device}:{entry.port}"

    def play(self, message: Message, at: float) -> list[Voice | Movement]:
        """Let one message happen; what it began."""
        kind, channel, number, value = message
        if self.entry.keybed:
            return self._through_keys(message, at)
        if kind == "note_on":
            return list(self.performance.press_at(self.out, channel, number, value, at))
        if kind == "note_off":
            self.performance.release_at(self.out, channel, number, at)
            return []
        motion = motion_at(self.performance.compiled, self.out, kind, channel, number)
        return [self.performance.move_at(self.out, motion, value, at)]

    def _through_keys(self, message: Message, at: float) -> list[Voice | Movement]:
        kind, _, number, value = message
        if kind == "note_on":
            return list(self.performance.press((self.bed, number), value, at))
        if kind == "note_off":
            self.performance.release((self.bed, number), at)
            return []
        control = control_for(self.performance.compiled, self.entry.device, message)
        if control is None:
            return []
        moved = number >> 7 if kind == "bend" else value if kind == "controller" else number
        return self.performance.move(control, moved, at)


def control_for(compiled: Compiled, device: str, message: Message) -> tuple[str, int] | None:
    """The control of a device that sends such a message: on its channel, else on any."""
    kind = "note" if message.kind in ("note_on", "note_off") else message.kind
    found = None
    for key, sendings in compiled.controls.items():
        for sending in sendings if key[0].startswith(f"{device}:") else ():
            send = sending.send
            plain = kind in ("bend", "pressure")
            if send.message == kind and (plain or send.number == message.first):
                if send.channel in (None, message.channel + 1):
                    return key
                found = found or key
    return found


def trace(compiled: Compiled, events: Iterable[tuple[float, Message]], entry: Entry) -> Trace:
    """Run timed messages (milliseconds, in order) through a compiled plan."""
    player = Player(Performance(compiled), entry)
    count, lost = 0, Counter[str]()
    heard: dict[str, list[tuple[int, float]]] = {}
    reasons: dict[tuple[int, ...], tuple[str, ...]] = {}
    for at, message in events:
        count += 1
        for one in player.play(message, at):
            if isinstance(one, Voice):
                heard.setdefault(one.landing.ref, []).append((one.landing.note, one.delay_ms))
        if message.kind == "note_on":
            known = (message.channel, message.first, message.second)
            if known not in reasons:
                reasons[known] = _reasons(compiled, entry, message)
            lost.update(reasons[known])
        elif _lost_movement(compiled, entry, message):
            lost[_no_control(compiled, entry, message)] += 1
    rows = tuple(
        Heard(ref, len(hits), min(n for n, _ in hits), max(n for n, _ in hits),
              max(ms for _, ms in hits))
        for ref, hits in sorted(heard.items())
    )  # fmt: skip
    worst = max((row.worst_ms for row in rows), default=0.0)
    missed = tuple(Lost(sentence, n) for sentence, n in lost.most_common())
    return Trace(count, rows, missed, worst, len(player.performance.sounding))


def _reasons(compiled: Compiled, entry: Entry, message: Message) -> tuple[str, ...]:
    note, velocity = message.first, message.second
    if entry.keybed:
        found = why_silent(compiled, entry.device, entry.keybed, note, velocity)
        return tuple(r.sentence for r in found)
    owner = lookup.device(compiled.plan, entry.device)
    ref = f"{entry.device}:{entry.port}"
    tree = compiled.world.network.trees[ref]
    lone = lookup.by_id(owner.ports, entry.port, "port")
    reason = why_unheard(
        compiled, owner, tree, message.channel, note, velocity, f"{owner.id}:{lone.id}"
    )
    return (reason.sentence,) if reason else ()


def _lost_movement(compiled: Compiled, entry: Entry, message: Message) -> bool:
    moves = bool(entry.keybed) and message.kind != "note_off"
    return moves and control_for(compiled, entry.device, message) is None


def _no_control(compiled: Compiled, entry: Entry, message: Message) -> str:
    owner = lookup.device(compiled.plan, entry.device)
    what = {"controller": f"controller {message.first}", "bend": "pitch bend"}.get(
        message.kind, message.kind.replace("_", " ")
    )
    return f"{owner.name} has no control that sends {what}."
