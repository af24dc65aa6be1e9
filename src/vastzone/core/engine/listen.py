"""Which parts and targets of a device answer a message on a channel."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.outside_programs import Shell
from vastzone.core.midi.wide import Reading, heard_as
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import KitChoice
from vastzone.core.plan.model.organ import Coupler
from vastzone.core.plan.model.parts import Kit, Part, Target
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.organ import coupled_to
from vastzone.core.plan.refs import ref_to


class Listener(NamedTuple):
    """A part as it stands in one program: its kit decides which notes it answers."""

    ref: str
    part: Part
    kit: Kit | None

    def hears(self, port: str) -> bool:
        """Whether it listens at a port («» for the device's own keys)."""
        return not port or not self.part.ports or port in self.part.ports

    def sounds(self, note: int) -> int | None:
        """The note that sounds when ``note`` arrives; None when the part does not answer it."""
        part = self.part
        if not part.low <= note <= part.high:
            return None
        if self.kit is not None:
            return note if any(sound.note == note for sound in self.kit.sounds) else None
        out = note + part.transpose
        return out if 0 <= out <= 127 else None

    def spans(self) -> list[tuple[int, int, int]]:
        """The notes that it answers, in runs: lowest, highest, and how far what sounds is off."""
        part = self.part
        if self.kit is None:
            off = part.transpose
            return [(max(part.low, -off), min(part.high, 127 - off), off)]
        spans: list[tuple[int, int, int]] = []
        for note in sorted(
            {sound.note for sound in self.kit.sounds if part.low <= sound.note <= part.high}
        ):
            if spans and spans[-1][1] == note - 1:
                spans[-1] = (spans[-1][0], note, 0)
            else:
                spans.append((note, note, 0))
        return spans


class Mover(NamedTuple):
    """A target and the channel 0–15 that it listens on (None: any)."""

    ref: str
    target: Target
    channel: int | None
    ports: tuple[str, ...]


class DeviceListeners(NamedTuple):
    """Everything in a device that can hear, in one program."""

    device: str
    delay_ms: float
    by_channel: tuple[tuple[Listener, ...], ...]
    movers: tuple[Mover, ...]

    def on(self, channel: int, port: str) -> list[Listener]:
        """The parts listening on channel 0–15 at a port («» for the device's own keys)."""
        listeners = []
        for li in self.by_channel[channel]:
            if li.hears(port):
                listeners.append(li)
        return listeners


class Audience(NamedTuple):
    """Who listens on one channel: by device, its own time in milliseconds and its parts there."""

    by_device: Mapping[str, tuple[float, tuple[Listener, ...]]]

    def at(self, device: str, port: str) -> tuple[float, list[Listener]]:
        """The device's own time, and its parts that hear a port («» for its own keys)."""
        delay_ms, listeners = self.by_device.get(device, NOBODY)
        return delay_ms, [listener for listener in listeners if listener.hears(port)]


NOBODY: tuple[float, tuple[Listener, ...]] = (0.0, ())


class Movers(NamedTuple):
    """The targets of every device."""

    by_device: Mapping[str, tuple[Mover, ...]]

    def moved(
        self, device: str, port: str, message: str, channel: int, number: int
    ) -> list[tuple[Mover, Reading]]:
        """The targets that a movement on channel 0–15 moves, and which of its bits they take."""
        movers = []
        for mover in self.by_device.get(device, ()):
            target, to = mover.target, mover.target.wide
            if to is None or mover.channel not in (None, channel):
                continue
            reading = heard_as(message, number, target.answers, to)
            if reading and (not (port and mover.ports) or port in mover.ports):
                movers.append((mover, reading))
        return movers


def audience_of(every: tuple[DeviceListeners, ...], channel: int) -> Audience:
    """Who listens on channel 0–15; the same value while nobody there changed."""
    here = []
    for device in every:
        if device.by_channel[channel]:
            here.append(device)
    return _audience(
        tuple(device.device for device in here),
        tuple(device.delay_ms for device in here),
        tuple(device.by_channel[channel] for device in here),
    )


@derived(4096)
def _audience(
    devices: tuple[str, ...],
    delays_ms: tuple[float, ...],
    listeners: tuple[tuple[Listener, ...], ...],
) -> Audience:
    here = zip(delays_ms, listeners, strict=True)
    return Audience(MappingProxyType(dict(zip(devices, here, strict=True))))


def movers_of(every: tuple[DeviceListeners, ...]) -> Movers:
    """The targets of every device; the same value while none changed."""
    here = []
    for device in every:
        if device.movers:
            here.append(device)
    return _all_movers(
        tuple(device.device for device in here), tuple(device.movers for device in here)
    )


@derived(256)
def _all_movers(devices: tuple[str, ...], movers: tuple[tuple[Mover, ...], ...]) -> Movers:
    return Movers(MappingProxyType(dict(zip(devices, movers, strict=True))))


def device_listeners(device: Shell, choices: tuple[KitChoice, ...]) -> DeviceListeners:
    """What listens in a device; kept while its parts, kits and targets stay as they are."""
    if not device.parts and not device.targets:
        return _deaf(device.id, device.delay_ms)
    return _device_listeners(
        device.id,
        device.delay_ms,
        device.parts,
        device.kits,
        device.targets,
        choices,
        device.couplers,
    )


@derived(512)
def _deaf(device: str, delay_ms: float) -> DeviceListeners:
    return DeviceListeners(device, delay_ms, ((),) * 16, ())


@derived(4096)
def _listener(ref: str, part: Part, kit: Kit | None) -> Listener:
    return Listener(ref, part, kit)


@derived(8192)
def _together(listeners: tuple[Listener, ...]) -> tuple[Listener, ...]:
    """The same tuple for the same listeners, so that other channels' edits leave it alone."""
    return listeners


@derived(2048)
def _device_listeners(
    device: str,
    delay_ms: float,
    parts: tuple[Part, ...],
    kits: tuple[Kit, ...],
    targets: tuple[Target, ...],
    choices: tuple[KitChoice, ...],
    couplers: tuple[Coupler, ...],
) -> DeviceListeners:
    chosen = {}
    for choice in choices:
        chosen[choice.part] = choice.kit
    named = lookup.by_ids(kits)
    listeners = []
    for part in parts:
        listeners.append(
            _listener(ref_to(device, part.id), part, named.get(chosen.get(part.id, part.kit or "")))
        )
    if couplers:
        listeners += _coupled(device, parts, couplers, chosen, named)
    # A part without a channel of its own hears all sixteen.
    by_channel = tuple(
        _together(tuple(li for li in listeners if li.part.channel in (None, channel + 1)))
        for channel in range(16)
    )
    moved = set()
    for target in targets:
        moved.add(target.part)
    movers = _movers(device, targets, tuple(part for part in parts if part.id in moved))
    return DeviceListeners(device, delay_ms, by_channel, movers)


def _coupled(
    device: str,
    parts: tuple[Part, ...],
    couplers: tuple[Coupler, ...],
    chosen: Mapping[str, str],
    kits: Mapping[str, Kit],
) -> list[Listener]:
    """What couplers let parts answer besides: each as it would answer the keys of its own."""
    by_id = lookup.by_ids(parts)
    listeners = []
    for played in parts:
        for ident, shift in coupled_to(played.id, couplers):
            part = by_id[ident]
            kit = kits.get(chosen.get(ident, part.kit or ""))
            as_played = changed(
                part,
                channel=played.channel,
                ports=played.ports,
                low=max(0, played.low, part.low - shift),
                high=min(127, played.high, part.high - shift),
                vel_low=max(played.vel_low, part.vel_low),
                vel_high=min(played.vel_high, part.vel_high),
                transpose=max(-60, min(60, part.transpose + shift)),
            )
            if as_played.low <= as_played.high and as_played.vel_low <= as_played.vel_high:
                listeners.append(_listener(ref_to(device, ident), as_played, kit))
    return listeners


@derived(2048)
def _movers(device: str, targets: tuple[Target, ...], parts: tuple[Part, ...]) -> tuple[Mover, ...]:
    return tuple(_mover(device, target, parts) for target in targets)


def _mover(device: str, target: Target, parts: tuple[Part, ...]) -> Mover:
    part = lookup.find(parts, target.part)
    channel = target.channel if part is None else part.channel
    ports = part.ports if part else ()
    return Mover(ref_to(device, target.id), target, None if channel is None else channel - 1, ports)
