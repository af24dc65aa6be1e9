"""What if: the same ways with a smaller buffer, USB for DIN, a splitter, running status.

Each is a plan of its own in which one thing is otherwise, so that it is simulated as any other.
"""

from collections.abc import Iterator
from typing import NamedTuple

import msgspec

from vastzone.core.delay.crowd import FINGERS, crowded_paths
from vastzone.core.delay.paths import DelayPath, delay_paths
from vastzone.core.engine.compile import compile_scene
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, Scene, Thru
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.say import say
from vastzone.core.timing.hops import PLAYABLE_MS

FRAMES = (32, 64, 128, 256, 512)


class WhatIf(NamedTuple):
    """One change that is only thought of: the latest way then, and how many are past 10 ms.

    ``plan`` is the plan with it; ``keeps`` says that a person can take it as it is.
    """

    name: str
    plan: Plan
    worst_ms: float
    late: int
    crowded_ms: float
    keeps: bool = True


def as_it_is(plan: Plan, scene: Scene | None, fingers: int = FINGERS) -> WhatIf:
    """The plan itself, told the same way."""
    return _told(say("As it is"), plan, scene, fingers, True)


def what_ifs(plan: Plan, scene: Scene | None, fingers: int = FINGERS) -> tuple[WhatIf, ...]:
    """Everything that can be tried in a plan."""
    tried = []
    for name, other, keeps in _tries(plan):
        tried.append(_told(name, other, scene, fingers, keeps))
    half = max(1, fingers // 2)
    if fingers > 1:
        tried.append(_told(say("{half} notes at once", half=half), plan, scene, half, False))
    return tuple(tried)


def _told(name: str, plan: Plan, scene: Scene | None, fingers: int, keeps: bool) -> WhatIf:
    compiled = compile_scene(plan, scene)
    sounding = [path for path in delay_paths(compiled) if path.sounds]
    crowded = [path for path in crowded_paths(compiled, fingers) if path.sounds]
    late = sum(path.worst_ms > PLAYABLE_MS for path in sounding)
    return WhatIf(name, plan, _worst(sounding), late, _worst(crowded), keeps)


def _worst(paths: list[DelayPath]) -> float:
    return max((path.worst_ms for path in paths), default=0.0)


def _tries(plan: Plan) -> Iterator[tuple[str, Plan, bool]]:
    for device in plan.devices:
        if device.buffer is not None:
            yield from _buffers(plan, device)
    if any(_links(plan, cable) == "din" for cable in plan.cables):
        yield say("USB instead of DIN"), over_usb(plan), False
    split = with_splitter(plan)
    if split is not plan:
        yield say("a splitter instead of thru chains"), split, False
    sending = [device for device in plan.devices if _sends_din(device)]
    if any(not device.running_status for device in sending):
        yield say("running status everywhere"), with_running_status(plan), True
    for heard in plan.hearing:
        if heard.by != "wired ears":
            wired = msgspec.structs.replace(heard, by="wired ears")
            hearing = tuple(wired if one is heard else one for one in plan.hearing)
            yield (
                say("{player} on wired ears", player=heard.player),
                msgspec.structs.replace(plan, hearing=hearing),
                True,
            )


def _buffers(plan: Plan, device: Device) -> Iterator[tuple[str, Plan, bool]]:
    buffer = device.buffer
    if buffer is None:
        return
    for frames in FRAMES:
        if frames != buffer.frames:
            other = msgspec.structs.replace(buffer, frames=frames)
            yield (
                say("{device} at {frames} frames", device=device.name, frames=frames),
                _buffered(plan, device, other),
                True,
            )
    rate = 96_000 if buffer.rate < 96_000 else 48_000
    other = msgspec.structs.replace(buffer, rate=rate)
    yield (
        say("{device} at {rate:g} kHz", device=device.name, rate=rate / 1000),
        _buffered(plan, device, other),
        True,
    )


def _buffered(plan: Plan, device: Device, buffer: object) -> Plan:
    return _with_devices(plan, {device.id: msgspec.structs.replace(device, buffer=buffer)})


def _with_devices(plan: Plan, changed: dict[str, Device]) -> Plan:
    devices = tuple(changed.get(device.id, device) for device in plan.devices)
    return msgspec.structs.replace(plan, devices=devices)


def _links(plan: Plan, cable: Cable) -> str:
    return lookup.endpoint(plan, cable.source)[1].link


def _sends_din(device: Device) -> bool:
    return any(port.link == "din" and port.flow != "in" for port in device.ports)


def over_usb(plan: Plan) -> Plan:
    """The same cables, every DIN line a USB one; nothing queues on it."""
    changed = {}
    for device in plan.devices:
        ports: list[Port] = []
        for port in device.ports:
            is_din = port.link == "din"
            ports.append(msgspec.structs.replace(port, link="usb") if is_din else port)
        changed[device.id] = msgspec.structs.replace(device, ports=tuple(ports))
    return _with_devices(plan, changed)


def with_running_status(plan: Plan) -> Plan:
    """The same plan, every device that sends leaving out repeated status bytes."""
    changed = {}
    for device in plan.devices:
        if _sends_din(device):
            changed[device.id] = msgspec.structs.replace(device, running_status=True)
    return _with_devices(plan, changed)


def with_splitter(plan: Plan) -> Plan:
    """The same plan, what comes by the thru of a device coming from before it by a splitter.

    The plan itself where nothing comes by a thru.
    """
    box = "splitter"
    while lookup.find(plan.devices, box) is not None:
        box += "-x"
    cables, added = list(plan.cables), list[Device]()
    for place in range(len(cables)):
        hop = cables[place]
        passing = lookup.device(plan, device_of(hop.source))
        thru = [one for one in passing.thrus if ref_to(passing.id, one.dest) == hop.source]
        only_passes = bool(thru) and bool(passing.parts or passing.targets)
        inlets = [ref_to(passing.id, one.source) for one in thru] if only_passes else []
        feeding = [cable for cable in cables if cable.dest in inlets]
        if len(feeding) != 1:
            continue
        split = _splitter(f"{box}-{place}")
        added.append(split)
        feed = feeding[0]
        cables[cables.index(feed)] = Cable(source=feed.source, dest=ref_to(split.id, "in"))
        cables[place] = Cable(source=ref_to(split.id, "b"), dest=hop.dest)
        cables.append(Cable(source=ref_to(split.id, "a"), dest=feed.dest))
    if not added:
        return plan
    devices = (*plan.devices, *added)
    return msgspec.structs.replace(plan, devices=devices, cables=tuple(cables))


def _splitter(ident: str) -> Device:
    """A box that takes no time: one in, two out."""
    ports = (
        Port(id="in", name=say("In"), flow="in"),
        Port(id="a", name="A", flow="out"),
        Port(id="b", name="B", flow="out"),
    )
    thrus = (Thru(source="in", dest="a"), Thru(source="in", dest="b"))
    return Device(id=ident, name=say("Splitter"), kind="merger", ports=ports, thrus=thrus)
