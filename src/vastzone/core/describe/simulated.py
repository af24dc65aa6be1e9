"""A device that is not there, touched once in order: what it would send, control by control."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.describe.atoms import TimedMessage
from vastzone.core.midi.messages import Message
from vastzone.core.midi.wide import FINE_KINDS, fine_of, messages_of
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.response.sweep import exact_value

HELD_MS, AGAIN_MS, REST_MS = 110.0, 560.0, 900.0
"""How long a press is held, when it is pressed again, how long hands rest before the next."""
SWEEP_STEPS, STEP_MS = 24, 12.0
TURN = (1, 1, 2, 1, 127, 127, 126, 127)
"""What an endless knob sends: steps up, then down, as numbers of 7 bits in two’s complement."""


class Gesture(NamedTuple):
    """What one control sends as it is touched, in the times of a whole run."""

    control: str
    bank: int
    messages: tuple[TimedMessage, ...]


def touches(device: Device, program: Program, begin_ms: float = 0.0) -> tuple[Gesture, ...]:
    """Every control touched once in order, bank after bank; what sends nothing is left out."""
    controls = lookup.controls_by_id(device)
    channel = zone_channel(program)
    gestures = []
    at = begin_ms
    for bank in range(1, max((c.banks for c in device.controls), default=1) + 1):
        for control in device.controls:
            send = _plain_send(program, control.id, bank)
            if send is None:
                continue
            messages = tuple(_touched(controls[send.control], send, channel, at))
            gestures.append(Gesture(control.id, bank, messages))
            at = messages[-1].at_ms + REST_MS
    return tuple(gestures)


def struck_keys(bed: Keybed, channel: int, begin_ms: float = 0.0) -> tuple[TimedMessage, ...]:
    """The lowest key of a keybed, then the highest, on channel 1–16."""
    heard: list[TimedMessage] = []
    for place, note in enumerate((bed.low, bed.high)):
        at = begin_ms + place * REST_MS
        heard.append(TimedMessage(at, Message("note_on", channel - 1, note, 90)))
        heard.append(TimedMessage(at + HELD_MS, Message("note_off", channel - 1, note)))
    return tuple(heard)


def zone_channel(program: Program) -> int:
    """The channel that controls follow which have none of their own."""
    return next((zone.channel for zone in program.zones if zone.sends), 1)


def _plain_send(program: Program, control: str, bank: int) -> Send | None:
    for send in program.sends:
        here = send.control == control and send.bank == bank and not send.layer
        if here and send.message != "none":
            return send
    return None


def _touched(control: Control, send: Send, channel: int, at: float) -> Iterator[TimedMessage]:
    wire = (send.channel or channel) - 1
    ability = control_ability(control)
    if control.endless and send.message == "controller":
        for place, value in enumerate(TURN):
            message = Message("controller", wire, send.number, value)
            yield TimedMessage(at + place * STEP_MS, message)
    elif ability.pressed or send.message in ("note", "program"):
        yield from _pressed(send, wire, at)
    else:
        yield from _swept(send, wire, at)


def _pressed(send: Send, wire: int, at: float) -> Iterator[TimedMessage]:
    """Pressed, and pressed again where the first press is not let go by itself."""
    yield from _sent(send, wire, 1.0, at)
    if send.message == "program":
        return
    if send.mode == "momentary":
        yield from _sent(send, wire, 0.0, at + HELD_MS)
    else:
        yield from _sent(send, wire, 0.0 if send.mode == "toggle" else 1.0, at + AGAIN_MS)


def _swept(send: Send, wire: int, at: float) -> Iterator[TimedMessage]:
    """Moved from one end to the other."""
    for place in range(SWEEP_STEPS + 1):
        yield from _sent(send, wire, place / SWEEP_STEPS, at + place * STEP_MS)


def _sent(send: Send, wire: int, travel: float, at: float) -> Iterator[TimedMessage]:
    """What is sent at a travel of 0–1."""
    value = exact_value(send, travel)
    if send.message == "note":
        if travel:
            yield TimedMessage(at, Message("note_on", wire, send.number, 96))
        else:
            yield TimedMessage(at, Message("note_off", wire, send.number))
    elif send.message == "bend":
        yield TimedMessage(at, Message("bend", wire, fine_of(value)))
    elif send.message == "pressure":
        yield TimedMessage(at, Message("pressure", wire, round(value)))
    elif send.message == "program":
        yield TimedMessage(at, Message("program", wire, send.number))
    elif send.message in FINE_KINDS:
        for message in messages_of(send.message, wire, send.wide, fine_of(value)):
            yield TimedMessage(at, message)
    else:
        yield TimedMessage(at, Message("controller", wire, send.number, round(value)))
