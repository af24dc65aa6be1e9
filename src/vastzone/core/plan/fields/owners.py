"""What has settings in a device: zones, sends, parts, sounds, targets, inputs, jacks, itself.

An owner stays what it is wherever it is stored and plugged in; where that is now, its *place* in
the device, ``places`` says.
"""

from collections.abc import Iterator
from typing import Any, Literal, NamedTuple

from vastzone.core.plan.model.audio import SoundRoute
from vastzone.core.plan.model.console import Block, Console, Shoe
from vastzone.core.plan.model.controls import Control, KitChoice, Program, Send, Zone
from vastzone.core.plan.model.parts import Kit, Part, Sound, Target
from vastzone.core.plan.model.pedals import PedalJack
from vastzone.core.plan.model.plan import Device, Port, Switch
from vastzone.core.plan.model.triggers import TriggerInput
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.core.plan.refs import (
    owner_place,
    send_place,
    setting_in,
)

OwnerKind = Literal[
    "device",
    "switch",
    "passed on",
    "encoder",
    "block",
    "shoe",
    "input",
    "jack",
    "program",
    "zone",
    "send",
    "kit choice",
    "part",
    "sound",
    "route",
    "target",
    "coupler",
    "combination",
    "crescendo",
]


class PassedOn(NamedTuple):
    """An input and an output of a device, and whether the one is passed on to the other."""

    source: Port
    dest: Port
    on: bool


class Owner(NamedTuple):
    """Something with settings: the ``thing`` itself, in which device and program, its name there.

    ``alone`` is the last piece of the reference of what has one setting only, named like itself;
    ``kit`` is that of a sound, ``control`` what sends.
    """

    kind: OwnerKind
    device: Device
    program: Program | None
    place: str
    thing: Any
    alone: str = ""
    kit: Kit | None = None
    control: Control | None = None

    @property
    def own_name(self) -> str:
        """What it is known by in its device; one that is alone by its own reference."""
        return self.ref("") if self.alone else self.place

    def ref(self, field: str) -> str:
        """The reference of one of its settings."""
        return setting_in(self.place, self.alone or field)


def owners(device: Device) -> Iterator[Owner]:
    """Everything that has settings, in the order in which a person meets it on the device."""
    yield device_owner(device)
    for switch in device.switches:
        yield switch_owner(device, switch)
    yield from _passed_on(device)
    if device.console is not None:
        yield from _of_console(device, device.console)
    for socket in device.inputs:
        yield input_owner(device, socket)
    for jack in device.jacks:
        yield jack_owner(device, jack)
    for program in device.programs:
        yield from owners_in(device, program)
    yield from _sounding(device)
    for target in device.targets:
        yield target_owner(device, target)
    yield from _drawing(device)


def _sounding(device: Device) -> Iterator[Owner]:
    """What sounds: parts, the sounds of kits, and those that go a way of their own."""
    for part in device.parts:
        yield part_owner(device, part)
    for kit in device.kits:
        for sound in kit.sounds:
            yield sound_owner(device, kit, sound)
    for route in device.routes:
        yield route_owner(device, route)


def _drawing(device: Device) -> Iterator[Owner]:
    """What draws other things: couplers, pistons, crescendos."""
    for coupler in device.couplers:
        place = owner_place(device.id, "coupler", coupler.id)
        yield Owner("coupler", device, None, place, coupler)
    for one in device.combinations:
        place = owner_place(device.id, "combination", one.id)
        yield Owner("combination", device, None, place, one)
    for shoe in device.crescendos:
        place = owner_place(device.id, "crescendo", shoe.id)
        yield Owner("crescendo", device, None, place, shoe)


def _of_console(device: Device, console: Console) -> Iterator[Owner]:
    yield encoder_owner(device)
    for block in console.blocks:
        yield block_owner(device, block)
    for shoe in console.shoes:
        yield shoe_owner(device, shoe)


def owners_in(device: Device, program: Program) -> Iterator[Owner]:
    """Everything that has settings in a program of a device, the program itself first."""
    yield program_owner(device, program)
    for zone in program.zones:
        yield zone_owner(device, program, zone)
    controls = lookup.controls_by_id(device)
    for send in program.sends:
        yield send_owner(device, program, send, controls.get(send.control))
    for choice in program.kits:
        yield choice_owner(device, program, choice)


def _passed_on(device: Device) -> Iterator[Owner]:
    """What is passed on from each input to each output, where a device is told that."""
    if not device_ability(device).chooses_thru:
        return
    place = owner_place(device.id, "device", "thru")
    on = set()
    for thru in device.thrus:
        on.add((thru.source, thru.dest))
    outputs = []
    for port in device.ports:
        if port.flow != "in":
            outputs.append(port)
    for source in (port for port in device.ports if port.flow != "out"):
        for dest in (port for port in outputs if port is not source):
            passed = PassedOn(source, dest, (source.id, dest.id) in on)
            yield Owner("passed on", device, None, place, passed, f"{source.id}.{dest.id}")


def device_owner(device: Device) -> Owner:
    """A device as a whole."""
    return Owner("device", device, None, owner_place(device.id, "device", "panel"), device)


def switch_owner(device: Device, switch: Switch) -> Owner:
    """A switch that a device has once."""
    return Owner("switch", device, None, owner_place(device.id, "switch", switch.id), switch)


def encoder_owner(device: Device) -> Owner:
    """The encoder of a console.  Raises ValueError where a device has none."""
    if device.console is None:
        raise ValueError(f"{device.id} has no console")
    place = owner_place(device.id, "device", "encoder")
    return Owner("encoder", device, None, place, device.console.encoder)


def block_owner(device: Device, block: Block) -> Owner:
    """A keyboard, or stops, as an encoder is told of them."""
    return Owner("block", device, None, owner_place(device.id, "block", block.id), block)


def shoe_owner(device: Device, shoe: Shoe) -> Owner:
    """A shoe at an encoder."""
    return Owner("shoe", device, None, owner_place(device.id, "shoe", shoe.control), shoe)


def input_owner(device: Device, socket: TriggerInput) -> Owner:
    """A trigger input."""
    return Owner("input", device, None, owner_place(device.id, "input", socket.id), socket)


def jack_owner(device: Device, jack: PedalJack) -> Owner:
    """A jack for pedals."""
    return Owner("jack", device, None, owner_place(device.id, "jack", jack.id), jack)


def program_owner(device: Device, program: Program) -> Owner:
    """A program itself."""
    return Owner(
        "program",
        device,
        program,
        owner_place(device.id, "program", program.id, program.id),
        program,
    )


def zone_owner(device: Device, program: Program, zone: Zone) -> Owner:
    """A zone of a program."""
    return Owner("zone", device, program, owner_place(device.id, "zone", zone.id, program.id), zone)


def send_owner(device: Device, program: Program, send: Send, control: Control | None) -> Owner:
    """What a control sends in one bank and layer of a program."""
    place = send_place(device.id, program.id, send.thing)
    return Owner("send", device, program, place, send, control=control)


def choice_owner(device: Device, program: Program, choice: KitChoice) -> Owner:
    """Which kit a part is on in a program."""
    place = owner_place(device.id, "choice", choice.part, program.id)
    return Owner("kit choice", device, program, place, choice)


def part_owner(device: Device, part: Part) -> Owner:
    """A part."""
    return Owner("part", device, None, owner_place(device.id, "part", part.id), part)


def sound_owner(device: Device, kit: Kit, sound: Sound) -> Owner:
    """A sound of a kit; its note is named like itself."""
    return Owner("sound", device, None, owner_place(device.id, "kit", kit.id), sound, sound.id, kit)


def route_owner(device: Device, route: SoundRoute) -> Owner:
    """Where one sound of a part goes by itself."""
    place = owner_place(device.id, "route", f"{route.part}.{route.sound}")
    return Owner("route", device, None, place, route)


def target_owner(device: Device, target: Target) -> Owner:
    """A target."""
    return Owner("target", device, None, owner_place(device.id, "target", target.id), target)
