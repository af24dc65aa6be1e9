"""What must hold between the pieces of a plan, beyond the limits of each number.

One small function a kind of thing; each yields sentences, worst first.
"""

from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from itertools import pairwise
from typing import Protocol

from vastzone.core.cache import derived
from vastzone.core.midi.wide import FINE_SENT
from vastzone.core.plan.model.controls import Program, Send, Zone
from vastzone.core.plan.model.pedals import PedalPlug
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.audio_consistency import audio_plan_problems, audio_problems
from vastzone.core.plan.queries.console_consistency import console_problems
from vastzone.core.plan.queries.evening import evening_problems
from vastzone.core.plan.queries.organ import coupling_problems, organ_problems
from vastzone.core.plan.queries.power_consistency import power_problems
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say


class _Thing(Protocol):
    @property
    def id(self) -> str: ...


def problems(plan: Plan) -> Iterator[str]:
    """Every contradiction in the plan as a sentence: what is wrong, where, what to do."""
    yield from _twice((device.id for device in plan.devices), "device")
    yield from _twice((scene.id for scene in plan.scenes), "scene")
    for device in plan.devices:
        yield from device_problems(device)
    yield from _cables(plan)
    devices = lookup.by_ids(plan.devices)
    for scene in plan.scenes:
        yield from _scene(scene, devices)
    yield from _twice((wish.id for wish in plan.wishes), "wish")
    yield from _twice((setting.ref for setting in plan.settings), say("record of the setting"))
    yield from _plugs(plan)
    yield from _pedals(plan)
    yield from _wishes(plan, devices)
    yield from _schools(plan, devices)
    yield from coupling_problems(plan)
    yield from evening_problems(plan)
    yield from audio_plan_problems(plan)
    yield from power_problems(plan)
    yield from _twice((one.id for one in plan.setlists), "set list")
    yield from _twice((one.id for one in plan.couplings), say("wished coupler"))


def _wishes(plan: Plan, devices: dict[str, Device]) -> Iterator[str]:
    """Wishes from and to what is there, in scenes that are there, with both ends in order."""
    scenes = frozenset(scene.id for scene in plan.scenes)
    sources: set[str] = set()
    keybeds: set[str] = set()
    parts: set[str] = set()
    targets: set[str] = set()
    for device in plan.devices:
        keybeds |= _refs(device, device.keybeds)
        sources |= _refs(device, device.keybeds) | _refs(device, device.controls)
        parts |= _refs(device, device.parts)
        targets |= _refs(device, device.targets)
    for wish in plan.wishes:
        there = _is_there(wish, sources, parts, targets)
        if not (there and scenes.issuperset(wish.scenes)):
            yield from _wish_places(wish, scenes, devices)
        if wish.moves is not None and not keybeds.isdisjoint(wish.sources):
            yield say(
                "The wish {wish} has keys move a target: let a control move it.", wish=wish.name
            )
        yield from _wish(wish)


@derived(2048)
def _refs(device: Device, items: tuple[_Thing, ...]) -> frozenset[str]:
    return frozenset(ref_to(device.id, item.id) for item in items)


def _twice(ids: Iterable[str], what: str, where: str = "the plan") -> Iterator[str]:
    for name, count in Counter(ids).items():
        if count > 1:
            yield say(
                "The {what} id “{name}” is used {count} times in {where}: give each its own.",
                what=what,
                name=name,
                count=count,
                where=where,
            )


@derived(1024)
def device_problems(device: Device) -> tuple[str, ...]:
    """The contradictions inside one device: looked for again only where a device has changed."""
    return tuple(_device(device))


def _device(device: Device) -> Iterator[str]:
    for items, what in (
        (device.ports, "port"),
        (device.keybeds, "keybed"),
        (device.controls, "control"),
        (device.parts, "part"),
        (device.kits, "kit"),
        (device.targets, "target"),
        (device.inputs, "input"),
        (device.jacks, "jack"),
        (device.switches, "switch"),
        (device.outputs, "output"),
        (device.audio_inputs, "audio input"),
        (device.couplers, "coupler"),
        (device.combinations, "combination"),
        (device.crescendos, "crescendo"),
    ):
        yield from _twice((item.id for item in items), what, device.name)
    yield from _twice((p.id for p in device.programs), "program", device.name)
    yield from _twice(_slots(device), say("program number"), device.name)
    for switch in device.switches:
        if switch.choice >= len(switch.choices):
            shown = switch.choice + 1
            yield say(
                "{switch} of {device} has no choice {shown}: choose another.",
                switch=switch.name,
                device=device.name,
                shown=shown,
            )
    for bed in device.keybeds:
        if bed.high > 127:
            yield (
                say(
                    "{bed} of {device} ends on note {high}, above 127: give it fewer keys or a "
                    "lower "
                    "first note.",
                    bed=bed.name,
                    device=device.name,
                    high=bed.high,
                )
            )
    yield from organ_problems(device)
    yield from audio_problems(device)
    yield from _thrus(device)
    yield from _listeners(device)
    for program in device.programs:
        yield from _program(device, program)
    if device.console is not None:
        yield from console_problems(device, device.console)


def _slots(device: Device) -> Iterator[str]:
    """Every place in memory that a program stands in: a number in the first bank, bank/number."""
    for program in device.programs:
        yield str(program.number)
        for slot in program.also:
            yield f"{slot.bank}/{slot.number}" if slot.bank else str(slot.number)


def _thrus(device: Device) -> Iterator[str]:
    flows = {}
    for port in device.ports:
        flows[port.id] = port.flow
    for thru in device.thrus:
        if flows.get(thru.source) not in ("in", "both") or flows.get(thru.dest) not in (
            "out",
            "both",
        ):
            yield (
                say(
                    "The thru of {device} from “{source}” to “{dest}” does not run from an "
                    "input to an "
                    "output: choose other ports.",
                    device=device.name,
                    source=thru.source,
                    dest=thru.dest,
                )
            )


def _listeners(device: Device) -> Iterator[str]:
    kits, ports = lookup.ids_of(device.kits), lookup.ids_of(device.ports)
    for part in device.parts:
        where = say("{part} in {device}", part=part.name, device=device.name)
        if part.low > part.high or part.vel_low > part.vel_high:
            yield say("{where} has a range that ends before it begins: swap its ends.", where=where)
        if part.kit is not None and part.kit not in kits:
            yield say(
                "{where} is on the kit “{kit}”, which is not there: choose another.",
                where=where,
                kit=part.kit,
            )
        yield from _ports_exist(part.ports, ports, where)
    parts = {None, *lookup.ids_of(device.parts)}
    for target in device.targets:
        if target.part not in parts:
            yield (
                say(
                    "The target {target} in {device} belongs to the part “{part}”, which is "
                    "not there: "
                    "choose another.",
                    target=target.name,
                    device=device.name,
                    part=target.part,
                )
            )


def _ports_exist(wanted: Iterable[str], ports: set[str], where: str) -> Iterator[str]:
    for port in wanted:
        if port not in ports:
            yield say(
                "{where} uses the port “{port}”, which is not there: choose another.",
                where=where,
                port=port,
            )


def _program(device: Device, program: Program) -> Iterator[str]:
    yield from _twice((z.id for z in program.zones), "zone", f"{device.name}, {program.name}")
    for zone in program.zones:
        yield from _zone(device, zone)
    yield from _twice(
        (s.thing for s in program.sends),
        say("sending pad and layer"),
        f"{device.name}, {program.name}",
    )
    for send in program.sends:
        yield from _send(device, send)
    parts, kits = lookup.ids_of(device.parts), lookup.ids_of(device.kits)
    for choice in program.kits:
        if choice.part not in parts or choice.kit not in kits:
            yield (
                say(
                    "{program} of {device} puts “{part}” on the kit “{kit}”, and one of them "
                    "is not "
                    "there: choose others.",
                    program=program.name,
                    device=device.name,
                    part=choice.part,
                    kit=choice.kit,
                )
            )


def _zone(device: Device, zone: Zone) -> Iterator[str]:
    where = say("The zone {zone} of {device}", zone=zone.name, device=device.name)
    beds = lookup.by_ids(device.keybeds)
    if zone.keybed not in beds:
        yield say(
            "{where} lies on the keybed “{keybed}”, which is not there: choose another.",
            where=where,
            keybed=zone.keybed,
        )
        return
    bed = beds[zone.keybed]
    if zone.low > zone.high or zone.vel_low > zone.vel_high:
        yield say("{where} ends before it begins: swap its ends.", where=where)
    if zone.low < bed.low or zone.high > bed.high:
        yield (
            say(
                "{where} reaches beyond the keys {low}–{high} of {bed}: move its ends inside.",
                where=where,
                low=bed.low,
                high=bed.high,
                bed=bed.name,
            )
        )
    yield from _ports_exist(zone.ports, lookup.ids_of(device.ports), where)


def _send(device: Device, send: Send) -> Iterator[str]:
    name = say("“{control}” of {device}", control=send.control, device=device.name)
    whole = send.low == int(send.low) and send.high == int(send.high)
    if not whole and send.message not in FINE_SENT:
        yield say(
            "{name} sends a fraction of a value: use whole numbers, or a message of 14 bits.",
            name=name,
        )
    control = lookup.controls_by_id(device).get(send.control)
    if control is None:
        yield say(
            "{device} has no control “{control}”: remove what it sends.",
            device=device.name,
            control=send.control,
        )
    elif send.bank > control.banks:
        yield say(
            "{control} of {device} has no bank {bank}: choose a lower one.",
            control=control.name,
            device=device.name,
            bank=send.bank,
        )
    if not _rises(send.points):
        yield (
            say(
                "The drawn curve of {name} does not rise from point to point: put its points "
                "in order.",
                name=name,
            )
        )
    if send.vel_low > send.vel_high:
        yield say("{name} has velocities that end before they begin.", name=name)
    yield from _ports_exist(send.ports, lookup.ids_of(device.ports), name)


def _rises(points: tuple[tuple[int, int], ...]) -> bool:
    """Whether a curve goes right from point to point, and nowhere down."""
    for before, after in pairwise(points):
        if before[0] >= after[0] or before[1] > after[1]:
            return False
    return True


def _cables(plan: Plan) -> Iterator[str]:
    flows = {}
    for device in plan.devices:
        for port in device.ports:
            flows[ref_to(device.id, port.id)] = port.flow
    for cable in plan.cables:
        for ref in (cable.source, cable.dest):
            if ref not in flows:
                yield (
                    say(
                        "The cable from {source} to {dest} goes to a port that is not there "
                        "({ref}): add the "
                        "port or remove the cable.",
                        source=cable.source,
                        dest=cable.dest,
                        ref=ref,
                    )
                )
        ways = (flows.get(cable.source), flows.get(cable.dest))
        if None not in ways and (ways[0] == "in" or ways[1] == "out"):
            yield (
                say(
                    "The cable from {source} to {dest} does not run from an output to an "
                    "input: turn it "
                    "round or use other ports.",
                    source=cable.source,
                    dest=cable.dest,
                )
            )


def _plugs(plan: Plan) -> Iterator[str]:
    """Pads with ids of their own, plugged into inputs that are there, each once."""
    yield from _twice((pad.id for pad in plan.pads), "pad")
    yield from _twice((g.pad for g in plan.plugs), say("plug of the pad"))
    inputs = {}
    for device in plan.devices:
        for socket in device.inputs:
            inputs[ref_to(device.id, socket.id)] = socket
    for ref, plugged in inputs.items():
        if plugged.type not in plugged.types:
            yield say(
                "The input {plugged} ({ref}) is set to {type}, which it cannot be.",
                plugged=plugged.name,
                ref=ref,
                type=plugged.type,
            )
    pads = lookup.ids_of(plan.pads)
    for plug in plan.plugs:
        if plug.pad not in pads:
            yield say(
                "A plug belongs to the pad “{pad}”, which is not there: remove it.", pad=plug.pad
            )
        if plug.input not in inputs:
            yield say(
                "The pad “{pad}” is in the input “{input}”, which is not there.",
                pad=plug.pad,
                input=plug.input,
            )


def _pedals(plan: Plan) -> Iterator[str]:
    """Pedals with ids of their own, each in one jack that is there, one to a jack."""
    yield from _twice((pedal.id for pedal in plan.pedals), "pedal")
    yield from _twice((plug.pedal for plug in plan.pedal_plugs), say("plug of the pedal"))
    yield from _twice((plug.jack for plug in _unshared(plan)), say("plugged jack"))
    for pedal in plan.pedals:
        if pedal.low > pedal.high:
            yield say(
                "The voltage of {pedal} ends below where it begins: swap its ends.",
                pedal=pedal.name,
            )
    devices = lookup.ids_of(plan.devices)
    for pedal in plan.pedals:
        for wish in pedal.wishes:
            if wish.device is not None and wish.device not in devices:
                yield (
                    say(
                        "{pedal} is wanted for {function} on “{device}”, which is not there: "
                        "name a device, "
                        "or none.",
                        pedal=pedal.name,
                        function=wish.function,
                        device=wish.device,
                    )
                )
    pedals = lookup.ids_of(plan.pedals)
    jacks: set[str] = set()
    for device in plan.devices:
        jacks |= _refs(device, device.jacks)
    for plug in plan.pedal_plugs:
        if plug.pedal not in pedals:
            yield say(
                "A plug belongs to the pedal “{pedal}”, which is not there: remove it.",
                pedal=plug.pedal,
            )
        if plug.jack not in jacks:
            yield say(
                "The pedal “{pedal}” is in the jack “{jack}”, which is not there.",
                pedal=plug.pedal,
                jack=plug.jack,
            )


def _unshared(plan: Plan) -> Iterator[PedalPlug]:
    """The plugs of pedals that must have their jack alone: sources of voltage may be mixed."""
    kinds = {pedal.id: pedal.kind for pedal in plan.pedals}
    sources: set[PedalPlug] = set()
    jacks: set[str] = set()
    for plug in plan.pedal_plugs:
        is_source = kinds.get(plug.pedal) == "voltage"
        if not is_source or plug.jack not in jacks or plug in sources:
            yield plug
        sources.add(plug)
        jacks.add(plug.jack)


def _schools(plan: Plan, devices: dict[str, Device]) -> Iterator[str]:
    """Numbers of controls that are chosen in a way of their own: of controls that are there."""
    for own in plan.schools.own:
        for ref in own.of:
            if not _has(devices, ref, lambda device: device.controls):
                yield say(
                    "Numbers are chosen for “{ref}”, which is not there: leave it out.", ref=ref
                )


def _is_there(wish: Wish, sources: set[str], parts: set[str], targets: set[str]) -> bool:
    """Whether everything that a wish names is there."""
    return (
        sources.issuperset(wish.sources)
        and (wish.plays is None or wish.plays in parts)
        and (wish.moves is None or wish.moves in targets)
    )


def _wish_places(wish: Wish, scenes: frozenset[str], devices: dict[str, Device]) -> Iterator[str]:
    where = say("The wish {wish}", wish=wish.name)
    for ref in wish.sources:
        if not _has(devices, ref, lambda d: (*d.keybeds, *d.controls)):
            yield say(
                "{where} begins at “{ref}”, which is not there: choose another.",
                where=where,
                ref=ref,
            )
    if wish.plays is not None and not _has(devices, wish.plays, lambda d: d.parts):
        yield say(
            "{where} plays “{plays}”, which is not there: choose another.",
            where=where,
            plays=wish.plays,
        )
    if wish.moves is not None and not _has(devices, wish.moves, lambda d: d.targets):
        yield say(
            "{where} moves “{moves}”, which is not there: choose another.",
            where=where,
            moves=wish.moves,
        )
    for scene in wish.scenes:
        if scene not in scenes:
            yield say(
                "{where} holds in the scene “{scene}”, which is not there: choose another.",
                where=where,
                scene=scene,
            )


def _wish(wish: Wish) -> Iterator[str]:
    if (wish.plays is None) == (wish.moves is None):
        yield say(
            "The wish {wish} must either play a part or move a target: give it one of them.",
            wish=wish.name,
        )
    if wish.lowest > wish.highest or wish.vel_low > wish.vel_high:
        yield say(
            "The wish {wish} has a range that ends before it begins: swap its ends.",
            wish=wish.name,
        )


def _has(
    devices: dict[str, Device], ref: str, things: Callable[[Device], Iterable[_Thing]]
) -> bool:
    owner, thing = read_ref(ref)
    return owner in devices and any(t.id == thing for t in things(devices[owner]))


def _scene(scene: Scene, devices: dict[str, Device]) -> Iterator[str]:
    for choice in scene.programs:
        device = devices.get(choice.device)
        if device is None:
            yield say(
                "The scene {scene} names the device “{device}”, which is not there.",
                scene=scene.name,
                device=choice.device,
            )
        elif not lookup.has_program(device, choice.program):
            shown = choice.program + device.first_program
            yield (
                say(
                    "The scene {scene} wants program {shown} of {device}, which is not there: "
                    "add it or "
                    "choose another.",
                    scene=scene.name,
                    shown=shown,
                    device=device.name,
                )
            )
