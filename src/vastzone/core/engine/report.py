"""A strike told in full: what was struck, what it sent, each hop, what sounded, and why not."""

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from vastzone.core.engine.audio import heard_at
from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.functions import Done
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.sounds_played import sound_of
from vastzone.core.engine.tables import Emission, Motion
from vastzone.core.engine.voice import Voice
from vastzone.core.engine.why import Reason, why_silent
from vastzone.core.midi import pitch
from vastzone.core.midi.controllers import CONTROLLERS
from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import messages_of
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.response.repitch import ratio_words
from vastzone.core.response.sweep import value_at
from vastzone.core.say import say


class Hop(NamedTuple):
    """One cable on the way: the devices it joins, its kind, its own time and the wait before it."""

    source: str
    dest: str
    link: str
    ms: float
    waited_ms: float


class Reached(NamedTuple):
    """Something that answered: what, at which note or value, over which hops, after how long.

    Targets have no ``colour`` of their own.  ``channel`` is that of a desk on which it is heard,
    empty where the plan has no desk.
    """

    ref: str
    name: str
    tag: str
    colour: int | None
    what: str
    hops: tuple[Hop, ...]
    delay_ms: float
    channel: str = ""


class Report(NamedTuple):
    """Everything about one strike."""

    struck: str
    subject: str
    messages: tuple[Message, ...]
    reached: tuple[Reached, ...]
    silent: tuple[Reason, ...]
    key: int | None = None
    velocity: int = 0
    bank: int = 1


def report_key(
    compiled: Compiled, device: str, keybed: str, key: int, velocity: int, voices: list[Voice]
) -> Report:
    """The report of a struck key and the voices that began."""
    owner = lookup.device(compiled.plan, device)
    emissions = compiled.keys.get((ref_to(device, keybed), key), ())
    messages = []
    for emission in emissions:
        if emission.low <= velocity <= emission.high:
            messages.append(emission.message(velocity))
    return Report(
        say(
            "{owner} · {pitch} · velocity {velocity}",
            owner=owner.name,
            pitch=pitch.label(key, owner.octaves),
            velocity=velocity,
        ),
        ref_to(device, keybed),
        tuple(dict.fromkeys(messages)),
        tuple(reached_by(compiled.plan, voice) for voice in voices),
        why_silent(compiled, device, keybed, key, velocity),
        key,
        velocity,
    )


def report_control(
    compiled: Compiled,
    ref: str,
    value: int,
    done: Iterable[Voice | Movement],
    bank: int = 1,
    told: Iterable[Done] = (),
) -> Report:
    """The report of a moved control: what it sent, and what its device was ``told`` by it."""
    device, control = read_ref(ref)
    owner = lookup.device(compiled.plan, device)
    named = lookup.by_id(owner.controls, control, "control").name
    messages: list[Message] = []
    reached: list[Reached] = []
    for one in done:
        if isinstance(one, Voice):
            messages.append(one.emission.message(one.velocity))
            reached.append(reached_by(compiled.plan, one))
        else:
            messages.extend(_messages(one))
            reached.extend(_moved(compiled.plan, one))
    reached.extend(_done_by(owner, one) for one in told)
    silent = () if reached else (Reason("channel", ref, _unmoved(named, owner.name, messages)),)
    return Report(
        f"{owner.name} · {named} · {value}",
        ref,
        tuple(dict.fromkeys(messages)),
        tuple(reached),
        silent,
        None,
        value,
        bank,
    )


def _done_by(owner: Device, done: Done) -> Reached:
    """What a device did itself because of a control."""
    what = f"{done.function}: {done.stands}" if done.stands else done.function
    return Reached(done.control, owner.name, owner.name[:2], None, what, (), owner.delay_ms)


def _unmoved(control: str, owner: str, messages: list[Message]) -> str:
    if not messages:
        return say("{control} of {owner} sends nothing here.", control=control, owner=owner)
    return say("Nothing listens to what {control} of {owner} sends.", control=control, owner=owner)


def _messages(movement: Movement) -> tuple[Message, ...]:
    motion, value = movement.motion, movement.value
    if motion.message == "controller":
        return (Message("controller", motion.channel, motion.number, value),)
    if motion.message == "bend":
        return (Message("bend", motion.channel, movement.fine),)
    if motion.message == "program":
        return (Message("program", motion.channel, motion.number),)
    if motion.message == "pressure":
        return (Message("pressure", motion.channel, value),)
    return messages_of(motion.message, motion.channel, motion.number, movement.fine)


def reached_by(plan: Plan, voice: Voice) -> Reached:
    """What a voice sounded and how it got there."""
    landing = voice.landing
    owner = lookup.device(plan, device_of(landing.ref))
    part = landing.part
    ratio = ratio_words(part, landing.note)
    what = " · ".join(filter(None, (pitch.label(landing.note, owner.octaves), ratio)))
    hops = _hops(plan, voice.emission, landing.step, voice.strike.times)
    if landing.after_ms:
        hops += (Hop(owner.name, part.name, "internal", landing.after_ms, 0.0),)
    channel = heard_at(plan, sound_of(plan, landing))
    return Reached(
        landing.ref, part.name, part.tag, part.colour, what, hops, voice.delay_ms, channel
    )


def _moved(plan: Plan, movement: Movement) -> Iterable[Reached]:
    motion = movement.motion
    for hearing in motion.hearings:
        device, thing = read_ref(hearing.ref)
        owner = lookup.device(plan, device)
        delay = movement.times[hearing.step] if hearing.step >= 0 else 0.0
        hops = _hops(plan, motion, hearing.step, movement.times)
        if hearing.target is None:
            part = lookup.part(owner, thing)
            plain = motion.message == "controller"
            what = CONTROLLERS[motion.number].meaning if plain else motion.message
            yield Reached(hearing.ref, part.name, part.tag, part.colour, what, hops, delay)
        else:
            target = hearing.target
            moved = value_at(target, movement.share_of(hearing.ref, hearing.reads))
            what = say("{moved:.4g} {unit}", moved=moved, unit=target.unit).strip()
            if target.answers == "program":
                what = "selected"
            if hearing.ref in movement.waiting:
                what = say("waits to be met")
            yield Reached(hearing.ref, target.name, target.name[:2], None, what, hops, delay)


def _hops(
    plan: Plan, sent: Emission | Motion, step: int, times: Sequence[float]
) -> tuple[Hop, ...]:
    hops = []
    for index in sent.tree.way(step):
        tree_step, line = sent.tree.steps[index], sent.course.lines[index]
        start = (times[tree_step.parent] if tree_step.parent >= 0 else 0.0) + tree_step.before_ms
        took = times[index] - start
        own = min(took, line.ms)
        hops.append(
            Hop(
                _name(plan, tree_step.arc.source),
                _name(plan, tree_step.arc.dest),
                tree_step.arc.link,
                own,
                max(0.0, took - own),
            )
        )
    return tuple(hops)


def _name(plan: Plan, ref: str) -> str:
    return lookup.device(plan, device_of(ref)).name


def strike_words(report: Report, verdict: str, with_delays: bool) -> str:
    """A strike in a line: what was struck, the proof's word on it, what sounded or why not."""
    landed = []
    for one in report.reached:
        places = {"part": one.name, "what": one.what, "delay_ms": one.delay_ms}
        if with_delays:
            landed.append(say("{part} {what} after {delay_ms:.1f} ms", **places))
        else:
            landed.append(say("{part} {what}", **places))
    silent = " ".join(reason.sentence for reason in report.silent)
    told = (report.struck, say(verdict), "; ".join(landed) or silent)
    return ". ".join(filter(None, told))
