"""What a message that truly came from a device tells of it: message, channel and number."""

from collections.abc import Iterator

from vastzone.core.midi.messages import Message
from vastzone.core.plan.fields.dials import dials_named
from vastzone.core.plan.fields.owners import Owner, send_owner, zone_owner
from vastzone.core.plan.fields.send_fields import MESSAGES
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.controls import Program, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup

SHOWN = {"controller": "controller", "program": "program", "bend": "bend", "pressure": "pressure"}
"""The messages of controls, as they are on the wire; a strike is a note."""


def told_by_control(
    device: Device, program: Program, control: str, bank: int, message: Message
) -> dict[str, Stored]:
    """What a message says of a control in one bank; nothing where it sends several messages.

    Whatever a control did besides (its range, its curve), one message does not show.
    """
    kind = _kind(message)
    sends = [send for send in program.sends if (send.control, send.bank) == (control, bank)]
    if not kind or len(sends) != 1:
        return {}
    owner = send_owner(device, program, sends[0], lookup.find(device.controls, control))
    values: dict[str, Stored] = {owner.ref("message"): MESSAGES.place(kind)}
    if sends[0].channel is not None or message.channel + 1 != _zone_channel(program):
        values[owner.ref("channel")] = message.channel + 1
    if kind in ("note", "controller", "program"):
        values[owner.ref("number")] = message.first
    return values


def _kind(message: Message) -> str:
    if message.kind == "note_on" and message.second > 0:
        return "note"
    return SHOWN.get(message.kind, "")


def _zone_channel(program: Program) -> int | None:
    """The channel of a program's only zone that is on, which controls without one follow."""
    on = {zone.channel for zone in program.zones if zone.sends}
    return on.pop() if len(on) == 1 else None


def told_by_key(device: Device, program: Program, key: int, message: Message) -> dict[str, Stored]:
    """What a note says of the zone that a key is in: its channel, and how far it is shifted.

    Nothing where the key is in several zones, of which one message cannot tell.
    """
    zones = [zone for zone in program.zones if zone.sends and zone.low <= key <= zone.high]
    if len(zones) != 1 or message.kind != "note_on":
        return {}
    return dict(_of_zone(zone_owner(device, program, zones[0]), zones[0], key, message))


def _of_zone(owner: Owner, zone: Zone, key: int, message: Message) -> Iterator[tuple[str, Stored]]:
    yield owner.ref("channel"), message.channel + 1
    by_octaves = 12 * zone.octave
    yield owner.ref("transpose"), message.first - key - by_octaves


def told_by_strike(
    device: Device, program: Program, thing: str, bank: int, key: int | None, message: Message
) -> dict[str, Stored]:
    """What a message says of the control or the key that was struck."""
    if key is None:
        return told_by_control(device, program, thing, bank, message)
    return told_by_key(device, program, key, message)


def shown_right(
    device: Device, program: Program, thing: str, bank: int, key: int | None, message: Message
) -> tuple[str, ...]:
    """The settings that a message shows to be as planned."""
    told = told_by_strike(device, program, thing, bank, key, message)
    right = []
    for dial in dials_named(device, frozenset(told)):
        if told[dial.ref] == dial.value:
            right.append(dial.ref)
    return tuple(right)
