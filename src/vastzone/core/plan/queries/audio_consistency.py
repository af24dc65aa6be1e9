"""Outputs, audio cables and wishes for them: what they name, where it is, what is left without."""

from collections.abc import Iterator

import msgspec

from vastzone.core.plan.model.audio import AudioCable, OutputWish
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import read_sound, sounds_in
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say


def audio_problems(device: Device) -> Iterator[str]:
    """What parts, sounds and passes of one device name that is not there."""
    outputs = lookup.ids_of(device.outputs)
    jacks = outputs & lookup.ids_of(device.audio_inputs)
    for jack in sorted(jacks):
        yield say(
            "{device} has an output and an audio input called “{jack}”: rename one.",
            device=device.name,
            jack=jack,
        )
    for part in device.parts:
        if not _are_there(part.output, outputs):
            yield (
                say(
                    "{part} in {device} goes to the output “{output}”, which is not there: "
                    "choose another.",
                    part=part.name,
                    device=device.name,
                    output=part.output,
                )
            )
    seen = set()
    for route in device.routes:
        where = say("The sound “{sound}” in {device}", sound=route.sound, device=device.name)
        part_of = lookup.find(device.parts, route.part)
        if part_of is None or route.sound not in sounds_in(device, part_of):
            yield say(
                "{where} has an output of its own, and is not there: take that out.", where=where
            )
        if not _are_there(route.output, outputs):
            yield say(
                "{where} goes to the output “{output}”, which is not there.",
                where=where,
                output=route.output,
            )
        if (route.part, route.sound) in seen:
            yield say("{where} has two outputs of its own: keep one.", where=where)
        seen.add((route.part, route.sound))
    inputs = lookup.ids_of(device.audio_inputs)
    for one in device.audio_passes:
        if one.source not in inputs or not (one.dest and _are_there(one.dest, outputs)):
            yield (
                say(
                    "{device} passes “{source}” on to “{dest}”, and one of them is not there: "
                    "choose "
                    "others.",
                    device=device.name,
                    source=one.source,
                    dest=one.dest,
                )
            )


def _are_there(choice: str, outputs: set[str]) -> bool:
    return all(ident in outputs for ident in choice.split("+")) if choice else True


def audio_plan_problems(plan: Plan) -> Iterator[str]:
    """What audio cables and wishes for outputs name that is not there."""
    seen = set()
    for wish in plan.output_wishes:
        if wish.id in seen:
            yield say("The output wish id “{wish}” is used twice: give each its own.", wish=wish.id)
        seen.add(wish.id)
        for ref in (*wish.of, *wish.apart):
            if not has_sound(plan, ref):
                yield say(
                    "The output wish {wish} names “{ref}”, which is not there.",
                    wish=wish.name,
                    ref=ref,
                )
        if wish.channel is not None and not _has_input(plan, wish.channel):
            yield say(
                "The output wish {wish} wants “{channel}”, which is not there.",
                wish=wish.name,
                channel=wish.channel,
            )
        if wish.want == "channel" and wish.channel is None:
            yield say(
                "The output wish {wish} wants a channel and says none: choose one.", wish=wish.name
            )
        if wish.want == "apart" and not wish.apart:
            yield say(
                "The output wish {wish} does not say what it is apart from: choose that.",
                wish=wish.name,
            )
    for cable in plan.audio_cables:
        if not _has_ends(plan, cable):
            yield (
                say(
                    "The audio cable from {source} to {dest} does not join an output to an "
                    "audio input "
                    "that are there: take it out.",
                    source=cable.source,
                    dest=cable.dest,
                )
            )


def has_sound(plan: Plan, ref: str) -> bool:
    """Whether a part or a sound of it is there."""
    owner, ident, sound = read_sound(ref)
    device = lookup.find(plan.devices, owner)
    part = lookup.find(device.parts, ident) if device is not None else None
    if device is None or part is None:
        return False
    return not sound or sound in sounds_in(device, part)


def _has_input(plan: Plan, ref: str) -> bool:
    owner, ident = read_ref(ref)
    device = lookup.find(plan.devices, owner)
    return device is not None and lookup.find(device.audio_inputs, ident) is not None


def _has_ends(plan: Plan, cable: AudioCable) -> bool:
    owner, ident = read_ref(cable.source)
    device = lookup.find(plan.devices, owner)
    leaves = device is not None and lookup.find(device.outputs, ident) is not None
    return leaves and _has_input(plan, cable.dest)


def tidy_audio_device(device: Device) -> Device:
    """A device whose parts, sounds and passes name only outputs and inputs that are there."""
    outputs, inputs = lookup.ids_of(device.outputs), lookup.ids_of(device.audio_inputs)
    parts = []
    for part in device.parts:
        parts.append(part if _are_there(part.output, outputs) else changed(part, output=""))
    routes = []
    for route in device.routes:
        part_of = lookup.find(device.parts, route.part)
        if part_of is None or route.sound not in sounds_in(device, part_of):
            continue
        there = _are_there(route.output, outputs)
        routes.append(route if there else changed(route, output=""))
    passes = []
    for one in device.audio_passes:
        if one.source in inputs and _are_there(one.dest, outputs):
            passes.append(one)
    return changed(device, parts=tuple(parts), routes=tuple(routes), audio_passes=tuple(passes))


def tidy_audio(plan: Plan) -> Plan:
    """A plan whose audio cables and wishes for outputs name only what is there."""
    if not (plan.audio_cables or plan.output_wishes):
        return plan
    wishes = []
    for wish in plan.output_wishes:
        left = _left_of(plan, wish)
        if left is not None:
            wishes.append(left)
    cables = tuple(cable for cable in plan.audio_cables if _has_ends(plan, cable))
    return msgspec.structs.replace(plan, audio_cables=cables, output_wishes=tuple(wishes))


def _left_of(plan: Plan, wish: OutputWish) -> OutputWish | None:
    """What is left of a wish; None where nothing of it is there."""
    of = tuple(ref for ref in wish.of if has_sound(plan, ref))
    apart = tuple(ref for ref in wish.apart if has_sound(plan, ref))
    channel = wish.channel
    if channel is not None and not _has_input(plan, channel):
        channel = None
    without_aim = wish.want == "channel" and channel is None
    if not of or without_aim or (wish.want == "apart" and not apart):
        return None
    return changed(wish, of=of, apart=apart, channel=channel)
