"""What has settings in a device: zones, sends, parts, sounds, targets, inputs, jacks, itself."""

from collections.abc import Iterator, Mapping
from typing import Any, Literal, NamedTuple

from vastzone.core.plan import edits
from vastzone.core.plan.model import Device, Port
from vastzone.core.plan.refs import (
    device_place,
    input_place,
    jack_place,
    kit_place,
    part_place,
    send_place,
    setting_in,
    target_place,
    zone_place,
)
from vastzone.core.plan.sound import Kit
from vastzone.core.plan.touch import Program

OwnerKind = Literal[
    "device", "passed on", "input", "jack", "zone", "send", "part", "sound", "target"
]


class PassedOn(NamedTuple):
    """An input and an output of a computer, and whether the one is passed on to the other."""

    source: Port
    dest: Port
    on: bool


class Owner(NamedTuple):
    """Something with settings: ``held`` itself, in which device and program, and its place there.

    ``alone`` is the last piece of the reference of what has one setting only, named like itself;
    ``kit`` is that of a sound.
    """

    kind: OwnerKind
    device: Device
    program: Program | None
    place: str
    held: Any
    alone: str = ""
    kit: Kit | None = None

    def ref(self, field: str) -> str:
        """The reference of one of its settings."""
        return setting_in(self.place, self.alone or field)


def owners(device: Device) -> Iterator[Owner]:
    """Everything that has settings, in the order of the device."""
    yield Owner("device", device, None, device_place(device.id, "panel"), device)
    yield from _passed_on(device)
    for one in device.inputs:
        yield Owner("input", device, None, input_place(device.id, one.id), one)
    for jack in device.jacks:
        yield Owner("jack", device, None, jack_place(device.id, jack.id), jack)
    for program in device.programs:
        yield from _of_program(device, program)
    for part in device.parts:
        yield Owner("part", device, None, part_place(device.id, part.id), part)
    for kit in device.kits:
        place = kit_place(device.id, kit.id)
        for sound in kit.sounds:
            yield Owner("sound", device, None, place, sound, sound.id, kit)
    for target in device.targets:
        yield Owner("target", device, None, target_place(device.id, target.id), target)


def _of_program(device: Device, program: Program) -> Iterator[Owner]:
    for zone in program.zones:
        yield Owner("zone", device, program, zone_place(device.id, program.number, zone.id), zone)
    for send in program.sends:
        place = send_place(device.id, program.number, send.thing)
        yield Owner("send", device, program, place, send)


def _passed_on(device: Device) -> Iterator[Owner]:
    """What a computer passes on from each input to each output."""
    if device.kind != "computer":
        return
    place = device_place(device.id, "thru")
    on = {(thru.source, thru.dest) for thru in device.thrus}
    outputs = [port for port in device.ports if port.flow != "in"]
    for source in (port for port in device.ports if port.flow != "out"):
        for dest in (port for port in outputs if port is not source):
            held = PassedOn(source, dest, (source.id, dest.id) in on)
            yield Owner("passed on", device, None, place, held, f"{source.id}.{dest.id}")


def with_owners(device: Device, new: Mapping[str, Any]) -> Device:
    """A device with some zones, sends, parts, sounds and targets put in place of the old ones.

    They are named by their place, a sound by its reference.
    """
    if not new:
        return device
    return edits.changed(
        device,
        programs=tuple(_with_program(device, program, new) for program in device.programs),
        parts=tuple(new.get(part_place(device.id, part.id), part) for part in device.parts),
        targets=tuple(new.get(target_place(device.id, t.id), t) for t in device.targets),
        kits=tuple(_with_sounds(device, kit, new) for kit in device.kits),
    )


def _with_program(device: Device, program: Program, new: Mapping[str, Any]) -> Program:
    number = program.number
    zones = tuple(new.get(zone_place(device.id, number, z.id), z) for z in program.zones)
    sends = tuple(new.get(send_place(device.id, number, s.thing), s) for s in program.sends)
    return edits.changed(program, zones=zones, sends=sends)


def _with_sounds(device: Device, kit: Kit, new: Mapping[str, Any]) -> Kit:
    place = kit_place(device.id, kit.id)
    sounds = tuple(new.get(setting_in(place, sound.id), sound) for sound in kit.sounds)
    return edits.changed(kit, sounds=sounds)
