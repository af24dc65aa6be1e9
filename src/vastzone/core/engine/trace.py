"""A run of messages through the plan: what each part sounded and what reached nothing."""

from collections import Counter
from collections.abc import Iterable, Mapping
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled, motion_at
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.voice import Voice
from vastzone.core.engine.why import why_silent, why_unheard
from vastzone.core.midi.assemble import CHOSEN, Assembler, Whole
from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import FINE, UNNUMBERED, value_of
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.say import say

ANY = 0
"""Stands for any channel where a sender is looked up."""


class TraceEntry(NamedTuple):
    """Where a run of messages enters: the keys of a keybed, or an output that they leave.

    Through a keybed a note strikes the key of its number and its channel does not matter; from an
    output (``keybed`` empty) each message goes as it is.
    """

    device: str
    keybed: str = ""
    port: str = ""


class PartHeard(NamedTuple):
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
    heard: tuple[PartHeard, ...]
    lost: tuple[Lost, ...]
    worst_ms: float
    hanging: int


class Inlet:
    """What messages move on a device: its controls, also those that send pairs and parameters."""

    def __init__(self) -> None:
        self._assembler = Assembler()

    def moved(
        self, compiled: Compiled, device: str, message: Message
    ) -> tuple[tuple[str, int], float] | None:
        """The control that sends such a message, and where it stands then: 0–127."""
        whole = self._assembler.take(message)
        control = control_for(compiled, device, message)
        if control is not None:
            return control, _position(message)
        if whole is not None:
            control = control_for(compiled, device, message, whole)
        return None if control is None or whole is None else (control, value_of(whole[2]))


def _position(message: Message) -> float:
    kind, _, number, value = message
    if kind == "bend":
        return value_of(number)
    return value if kind in ("controller", "note_on", "poly_pressure") else number


class Player:
    """Feeds messages to a performance through an entry, one at a time.

    ``astray`` says whether the last one moved nothing because no control sends such.
    """

    def __init__(self, performance: Performance, entry: TraceEntry) -> None:
        self.performance, self.entry = performance, entry
        self.bed = ref_to(entry.device, entry.keybed)
        self.out = ref_to(entry.device, entry.port)
        self.astray = False
        self._inlet, self._assembler = Inlet(), Assembler()

    def play(self, message: Message, at: float) -> list[Voice | Movement]:
        """Let one message happen; what it began."""
        kind, channel, number, value = message
        self.astray = False
        if self.entry.keybed:
            return self._through_keys(message, at)
        if kind == "note_on":
            return list(self.performance.press_at(self.out, channel, number, value, at))
        if kind == "note_off":
            self.performance.release_at(self.out, channel, number, at)
            return []
        whole = self._assembler.take(message)
        compiled = self.performance.compiled
        if whole is not None and (whole[0] != "pair" or number >= FINE):
            motion = motion_at(compiled, self.out, whole[0], channel, whole[1])
            return [self.performance.move_at(self.out, motion, whole[2] >> 7, at, whole[2])]
        if kind == "bend":
            motion = motion_at(compiled, self.out, kind, channel, 0)
            return [self.performance.move_at(self.out, motion, number >> 7, at, number)]
        if kind == "pressure":
            number, value = 0, number
        motion = motion_at(compiled, self.out, kind, channel, number)
        return [self.performance.move_at(self.out, motion, value, at)]

    def _through_keys(self, message: Message, at: float) -> list[Voice | Movement]:
        kind, _, number, value = message
        if kind == "note_on":
            return list(self.performance.press((self.bed, number), value, at))
        if kind == "note_off":
            self.performance.release((self.bed, number), at)
            return []
        compiled = self.performance.compiled
        moved = self._inlet.moved(compiled, self.entry.device, message)
        if moved is None:
            self.astray = not _chooses(compiled, self.entry.device, message)
            return []
        return self.performance.move(*moved, at)


def control_for(
    compiled: Compiled, device: str, message: Message, whole: Whole | None = None
) -> tuple[str, int] | None:
    """The control of a device that sends such a message: on its channel, else on any.

    With ``whole`` the one that sends the pair or parameter which the message belongs to.
    """
    kind = "note" if message.kind in ("note_on", "note_off") else message.kind
    wanted, number = (kind, message.first) if whole is None else whole[:2]
    number = 0 if wanted in UNNUMBERED else number
    known = senders(compiled)
    for channel in (message.channel + 1, None):
        key = known.get((device, wanted, number, channel))
        if key is not None:
            return key
    return known.get((device, wanted, number, ANY))


@derived(160)
def senders(compiled: Compiled) -> Mapping[tuple[str, str, int, int | None], tuple[str, int]]:
    """The first control of a device that sends a kind and number, by its channel and on any."""
    by_message: dict[tuple[str, str, int, int | None], tuple[str, int]] = {}
    for key, sendings in compiled.controls.items():
        device = device_of(key[0])
        for send in (sending.send for sending in sendings):
            number = 0 if send.message in UNNUMBERED else send.wide
            for channel in (send.channel, ANY):
                by_message.setdefault((device, send.message, number, channel), key)
    return by_message


def _chooses(compiled: Compiled, device: str, message: Message) -> bool:
    """Whether a message only chooses a parameter for a control of the device that sends one."""
    kind = CHOSEN.get(message.first, ("", 0))[0] if message.kind == "controller" else ""
    return bool(kind) and any(
        sending.send.message == kind
        for key, sendings in compiled.controls.items()
        if key[0].startswith(f"{device}:")
        for sending in sendings
    )


def last_of_each(messages: list[Message]) -> list[Message]:
    """What many messages come to: the last one of each key and control, in their order.

    A note that ends struck is struck once, one that ends released is only let go.
    """
    last: dict[tuple[str, int, int], int] = {}
    for place, message in enumerate(messages):
        kind = "note" if message.kind in ("note_on", "note_off") else message.kind
        number = 0 if kind in ("bend", "pressure", "program") else message.first
        last[kind, message.channel, number] = place
    return [messages[place] for place in sorted(last.values())]


def trace(compiled: Compiled, events: Iterable[tuple[float, Message]], entry: TraceEntry) -> Trace:
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
            # A song strikes one note often: why it is not heard is looked up once.
            known = (message.channel, message.first, message.second)
            if known not in reasons:
                reasons[known] = _reasons(compiled, entry, message)
            lost.update(reasons[known])
        elif player.astray:
            lost[_no_control(compiled, entry, message)] += 1
    rows = tuple(_heard(ref, hits) for ref, hits in sorted(heard.items()))
    worst = max((row.worst_ms for row in rows), default=0.0)
    missed = tuple(Lost(sentence, number) for sentence, number in lost.most_common())
    return Trace(count, rows, missed, worst, len(player.performance.sounding))


def _heard(ref: str, hits: list[tuple[int, float]]) -> PartHeard:
    """What one part did, from its notes and their delays."""
    notes, delays = zip(*hits, strict=True)
    return PartHeard(ref, len(hits), min(notes), max(notes), max(delays))


def _reasons(compiled: Compiled, entry: TraceEntry, message: Message) -> tuple[str, ...]:
    note, velocity = message.first, message.second
    if entry.keybed:
        reasons = why_silent(compiled, entry.device, entry.keybed, note, velocity)
        sentences = []
        for r in reasons:
            sentences.append(r.sentence)
        return tuple(sentences)
    owner = lookup.device(compiled.plan, entry.device)
    ref = ref_to(entry.device, entry.port)
    tree = compiled.world.network.trees[ref]
    lone = lookup.by_id(owner.ports, entry.port, "port")
    reason = why_unheard(
        compiled, owner, tree, message.channel, note, velocity, ref_to(owner.id, lone.id)
    )
    return (reason.sentence,) if reason else ()


def _no_control(compiled: Compiled, entry: TraceEntry, message: Message) -> str:
    owner = lookup.device(compiled.plan, entry.device)
    what = {
        "controller": say("controller {first}", first=message.first),
        "bend": say("pitch bend"),
    }.get(message.kind, message.kind.replace("_", " "))
    return say("{owner} has no control that sends {what}.", owner=owner.name, what=what)
