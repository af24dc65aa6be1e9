"""A tune to test a receiver with that is not cabled yet: every control's message, one by one."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.tables import Emission, Motion
from vastzone.core.midi import pitch
from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import messages_of
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.say import say

APART_MS, LONG_MS, VELOCITY = 500.0, 250.0, 96
SWEEP = (0, 64, 127)


class Tone(NamedTuple):
    """One thing that is sent: when, named for what it stands for, and its messages with times."""

    at_ms: float
    name: str
    messages: tuple[tuple[float, Message], ...]


def control_tune(compiled: Compiled, device: str = "") -> tuple[Tone, ...]:
    """What every key zone and control of a device sends (of all devices when empty), in order.

    A zone is struck at its lowest and highest key; a travelling control goes to both ends.
    """
    tones: list[Tone] = []
    for name, messages in _everything(compiled, device):
        at = len(tones) * APART_MS
        timed = tuple((at + after, message) for after, message in messages)
        tones.append(Tone(at, name, timed))
    return tuple(tones)


Timed = list[tuple[float, Message]]


def _everything(compiled: Compiled, wanted: str) -> Iterator[tuple[str, Timed]]:
    for device in compiled.plan.devices:
        if wanted in ("", device.id):
            yield from _keys(compiled, device)
    for (ref, bank), sendings in compiled.controls.items():
        if wanted not in ("", device_of(ref)):
            continue
        messages: Timed = []
        for sending in sendings:
            messages += _notes(sending.notes)
            for motion in sending.motions:
                messages += _moves(motion)
        if messages:
            yield _name(compiled.plan, ref, bank), messages


def _keys(compiled: Compiled, device: Device) -> Iterator[tuple[str, Timed]]:
    """Each zone of a device at both of its ends."""
    program = lookup.program_in(compiled.scene, device)
    for zone in program.zones if program is not None else ():
        for key in dict.fromkeys((zone.low, zone.high)):
            emissions = compiled.keys.get((ref_to(device.id, zone.keybed), key), ())
            own = [one for one in emissions if one.origin == zone.id]
            if own:
                yield f"{device.name}, {zone.name} {pitch.name(key, device.octaves)}", _notes(own)


def _name(plan: Plan, ref: str, bank: int) -> str:
    device = lookup.device(plan, device_of(ref))
    control = lookup.controls_by_id(device)[thing_of(ref)]
    also = say(", bank {bank}", bank=bank) if control.banks > 1 else ""
    return f"{device.name}, {control.name}{also}"


def _notes(emissions: tuple[Emission, ...] | list[Emission]) -> Timed:
    messages: Timed = []
    for emission in emissions:
        on = emission.message(max(emission.low, min(emission.high, VELOCITY)))
        messages.append((0.0, on))
        messages.append((LONG_MS, Message("note_off", on.channel, on.first)))
    return messages


def _moves(motion: Motion) -> Timed:
    """A movement to both ends by way of the middle."""
    if motion.message == "program":
        return [(0.0, Message("program", motion.channel, motion.number))]
    messages: Timed = []
    for step, value in enumerate(SWEEP):
        at = step * LONG_MS / 2
        for message in _moved(motion, value):
            messages.append((at, message))
    return messages


def _moved(motion: Motion, value: int) -> tuple[Message, ...]:
    if motion.message == "controller":
        return (Message("controller", motion.channel, motion.number, value),)
    if motion.message == "bend":
        return (Message("bend", motion.channel, min(16383, value << 7)),)
    if motion.message == "pressure":
        return (Message("pressure", motion.channel, value),)
    return messages_of(motion.message, motion.channel, motion.number, value << 7)
