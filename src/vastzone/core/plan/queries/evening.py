"""Set lists and how songs begin: what they name, where it is, what is left without it."""

from collections.abc import Iterator

import msgspec

from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.model.setlists import SetList
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.audio_consistency import tidy_audio
from vastzone.core.plan.queries.organ import tidy_couplings
from vastzone.core.plan.queries.power_consistency import tidy_power
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say


def evening_problems(plan: Plan) -> Iterator[str]:
    """What set lists and songs name that is not there."""
    scenes, devices = lookup.ids_of(plan.scenes), lookup.ids_of(plan.devices)
    for one in plan.setlists:
        for step in one.steps:
            if step.scene is not None and step.scene not in scenes:
                yield say(
                    "The set list {one} names “{scene}”, which is no song here.",
                    one=one.name,
                    scene=step.scene,
                )
    for scene in plan.scenes:
        yield from _song_problems(plan, scene)
    for device in plan.devices:
        if device.led_by is not None and device.led_by not in devices - {device.id}:
            yield say(
                "{device} is led by “{led_by}”, which is not there: choose another.",
                device=device.name,
                led_by=device.led_by,
            )
        for program in device.programs:
            yield from _sent_problems(device, program)


def _song_problems(plan: Plan, scene: Scene) -> Iterator[str]:
    devices = lookup.ids_of(plan.devices)
    for arrival in scene.arrivals:
        if arrival.device not in devices:
            yield say(
                "The song {scene} names the device “{device}”: leave it out.",
                scene=scene.name,
                device=arrival.device,
            )
    for start in scene.starts:
        if not _has_target(plan, start.target):
            yield say(
                "The song {scene} begins with “{target}”: leave it out.",
                scene=scene.name,
                target=start.target,
            )


def _sent_problems(device: Device, program: Program) -> Iterator[str]:
    ports = lookup.ids_of(device.ports)
    for sent in program.selects:
        for port in sent.ports:
            if port not in ports:
                yield (
                    say(
                        "{program} of {device} selects programs over the port “{port}”, which "
                        "is not there: "
                        "choose another.",
                        program=program.name,
                        device=device.name,
                        port=port,
                    )
                )


def _has_target(plan: Plan, ref: str) -> bool:
    device, ident = read_ref(ref)
    owner = lookup.find(plan.devices, device)
    return owner is not None and lookup.find(owner.targets, ident) is not None


def tidy(plan: Plan) -> Plan:
    """A plan whose couplers, set lists and songs name only what is there."""
    plan = tidy_power(tidy_audio(tidy_couplings(plan)))
    devices = tuple(_tidy_device(plan, device) for device in plan.devices)
    return msgspec.structs.replace(
        plan,
        devices=devices,
        scenes=tuple(_tidy_scene(plan, scene) for scene in plan.scenes),
        setlists=tuple(_tidy_setlist(plan, one) for one in plan.setlists),
    )


def _tidy_device(plan: Plan, device: Device) -> Device:
    gone = device.led_by is not None and device.led_by not in lookup.ids_of(plan.devices)
    ports = lookup.ids_of(device.ports)
    programs = []
    for program in device.programs:
        kept = []
        for sent in program.selects:
            kept.append(changed(sent, ports=tuple(port for port in sent.ports if port in ports)))
        programs.append(changed(program, selects=tuple(kept)) if kept else program)
    if tuple(programs) != device.programs:
        device = changed(device, programs=tuple(programs))
    return changed(device, led_by=None) if gone else device


def _tidy_scene(plan: Plan, scene: Scene) -> Scene:
    if not (scene.arrivals or scene.starts):
        return scene
    devices = lookup.ids_of(plan.devices)
    arrivals = tuple(each for each in scene.arrivals if each.device in devices)
    starts = tuple(each for each in scene.starts if _has_target(plan, each.target))
    return changed(scene, arrivals=arrivals, starts=starts)


def _tidy_setlist(plan: Plan, one: SetList) -> SetList:
    scenes = lookup.ids_of(plan.scenes)
    steps = tuple(step for step in one.steps if step.scene is None or step.scene in scenes)
    return changed(one, steps=steps) if steps != one.steps else one
