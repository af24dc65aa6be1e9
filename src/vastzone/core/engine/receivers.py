"""What messages can run into in a scene: the network, and everything that listens."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.listen import (
    Audience,
    DeviceListeners,
    Movers,
    audience_of,
    device_listeners,
    movers_of,
)
from vastzone.core.engine.network import Network, network
from vastzone.core.engine.outside_programs import Shell, shell_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import KitChoice, Program
from vastzone.core.plan.model.plan import Plan, Port, Scene
from vastzone.core.plan.queries import lookup


class Sources(NamedTuple):
    """The outside of a sending device: what its messages need to know about it."""

    id: str
    ports: tuple[Port, ...]
    local: bool


class Receivers(NamedTuple):
    """Everything a message can run into in one scene.

    ``audiences`` has for each channel 0–15 all that can hear it: the same value while none of
    that changed, however much else did.
    """

    network: Network
    by_device: Mapping[str, DeviceListeners]
    audiences: tuple[Audience, ...]
    movers: Movers

    def of(self, device: str) -> DeviceListeners:
        """The listeners of a device."""
        return self.by_device[device]


class Outsides(NamedTuple):
    """Everything of a plan but programs that decides what happens."""

    network: Network
    shells: tuple[Shell, ...]
    by_id: Mapping[str, Shell]

    def of(self, device: str) -> Shell:
        """The shell of a device.  Raises KeyError."""
        return self.by_id[device]


@derived(16)
def outsides(plan: Plan) -> Outsides:
    """The outsides of a plan; the same value while they stay."""
    return _outsides(network(plan), tuple(shell_of(plan, device) for device in plan.devices))


@derived(32)
def _outsides(net: Network, shells: tuple[Shell, ...]) -> Outsides:
    return Outsides(net, shells, MappingProxyType(lookup.by_ids(shells)))


@derived(320)
def programs_at(plan: Plan, scene: Scene | None) -> tuple[Program | None, ...]:
    """The program that each device is on in a scene."""
    chosen = {program.device: program.program for program in scene.programs} if scene else {}
    programs = []
    for ident, first, by_number in _by_number(plan):
        for number in (chosen.get(ident, first),):
            programs.append(
                by_number.get(number) or lookup.program(lookup.device(plan, ident), number)
                if by_number
                else None
            )
    if scene is not None and scene.transpose:
        return _all_transposed(plan, scene.transpose, tuple(programs))
    return tuple(programs)


def _all_transposed(
    plan: Plan, by: int, programs: tuple[Program | None, ...]
) -> tuple[Program | None, ...]:
    """All programs with their zones transposed, but for those that play drums and kits."""
    fixed = fixed_channels(plan)
    moved = []
    for program in programs:
        moved.append(None if program is None else _transposed(program, by, fixed))
    return tuple(moved)


@derived(1024)
def _transposed(program: Program, by: int, fixed: frozenset[int]) -> Program:
    zones = []
    for zone in program.zones:
        shift = max(-60, min(60, zone.transpose + by))
        stays = zone.channel in fixed
        zones.append(zone if stays else changed(zone, transpose=shift))
    return changed(program, zones=tuple(zones))


@derived(16)
def fixed_channels(plan: Plan) -> frozenset[int]:
    """The channels 1–16 on which drums or kits listen: their notes call sounds, and stay."""
    channels: set[int] = set()
    for device in plan.devices:
        for part in device.parts:
            if (part.rhythm or part.kit is not None) and part.channel is not None:
                channels.add(part.channel)
    return frozenset(channels)


@derived(16)
def _by_number(plan: Plan) -> tuple[tuple[str, int, dict[int, Program]], ...]:
    devices = []
    for device in plan.devices:
        devices.append(
            (
                device.id,
                device.programs[0].number if device.programs else -1,
                {program.number: program for program in device.programs},
            )
        )
    return tuple(devices)


def world_of(plan: Plan, scene: Scene | None) -> Receivers:
    """The network and the listeners of a scene; the same value while none of them changed."""
    return world_on(outsides(plan), programs_at(plan, scene))


def world_on(outside: Outsides, programs: tuple[Program | None, ...]) -> Receivers:
    """The same of the programs that the devices are on, in the plan's order."""
    return _world_with(
        outside, tuple([program.kits if program is not None else () for program in programs])
    )


@derived(512)
def _world_with(outside: Outsides, choices: tuple[tuple[KitChoice, ...], ...]) -> Receivers:
    """A program tells its listeners nothing but the kits."""
    devices = zip(outside.shells, choices, strict=True)
    return _world(
        outside.network, tuple(device_listeners(shell, chosen) for shell, chosen in devices)
    )


@derived(256)
def _world(net: Network, every: tuple[DeviceListeners, ...]) -> Receivers:
    audiences = tuple(audience_of(every, channel) for channel in range(16))
    by_device = MappingProxyType({heard.device: heard for heard in every})
    return Receivers(net, by_device, audiences, movers_of(every))
