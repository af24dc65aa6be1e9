"""Where sound goes: from the output that a part is on, over cables and interfaces, to the desk.

A pair carries two sides, and each side is followed by itself, so that a lead in the wrong jack, a
channel that gets both sides or none, and a sound that arrives twice all come out of the same walk.
"""

from collections.abc import Iterator, Mapping
from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.audio import AudioCable, AudioInput, AudioPass
from vastzone.core.plan.model.bodies import AudioOutput
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import read_sound, sounds_of
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say
from vastzone.core.text import listed

Side = Literal["mono", "left", "right"]
Node = tuple[str, Side]
"""An output or input ``device:jack`` and the side of it; «mono» where it has no sides."""
TWO_SIDED = frozenset(("pair", "headphones", "usb"))


class Arrival(NamedTuple):
    """One side of a sound at a channel of a desk: into which side of it, by which cables."""

    carries: Side
    channel: str
    into: Side
    way: tuple[AudioCable, ...]


class _Wiring(NamedTuple):
    """What leads where: from each node of an output to nodes of inputs, and on through devices."""

    cables: Mapping[Node, tuple[tuple[Node, AudioCable], ...]]
    passes: Mapping[Node, tuple[Node, ...]]
    channels: frozenset[str]


def output_of(device: Device, choice: str) -> tuple[AudioOutput, ...]:
    """The outputs of a choice: one, two of a pair, none where the device has none."""
    by_id = {output.id: output for output in device.outputs}
    if not choice:
        return device.outputs[:1]
    chosen = []
    for ident in choice.split("+"):
        if ident in by_id:
            chosen.append(by_id[ident])
    return tuple(chosen)


def legs(device: Device, choice: str) -> tuple[tuple[Side, Node], ...]:
    """The sides of a sound on an output of a device, and the nodes by which each leaves it."""
    chosen = output_of(device, choice)
    refs = [ref_to(device.id, output.id) for output in chosen]
    if len(chosen) == 2:
        return ("left", (refs[0], "mono")), ("right", (refs[1], "mono"))
    if not chosen:
        return ()
    if chosen[0].kind in TWO_SIDED:
        return ("left", (refs[0], "left")), ("right", (refs[0], "right"))
    return (("mono", (refs[0], "mono")),)


def has_desk(plan: Plan) -> bool:
    """Whether a plan says what its sounds arrive at."""
    return any(device.kind == "desk" and device.audio_inputs for device in plan.devices)


def arrivals(plan: Plan, device: Device, choice: str) -> tuple[Arrival, ...]:
    """Where everything on one output of a device arrives at a desk, side by side."""
    wiring = _wired(plan)
    found: list[Arrival] = []
    for side, node in legs(device, choice):
        for channel, into, way in _followed(wiring, node, ()):
            found.append(Arrival(side, channel, into, way))
    return tuple(found)


def _followed(
    wiring: _Wiring, node: Node, way: tuple[AudioCable, ...]
) -> Iterator[tuple[str, Side, tuple[AudioCable, ...]]]:
    """The channels behind a node of an output; a ring of cables is gone round once."""
    for (ref, side), cable in wiring.cables.get(node, ()):
        if cable in way:
            continue
        gone = (*way, cable)
        if ref in wiring.channels:
            yield ref, side, gone
        for onward in wiring.passes.get((ref, side), ()):
            yield from _followed(wiring, onward, gone)


def _wired(plan: Plan) -> _Wiring:
    devices = [device for device in plan.devices if device.outputs or device.audio_inputs]
    return _wiring(
        plan.audio_cables,
        tuple(device.id for device in devices),
        tuple(device.kind == "desk" for device in devices),
        tuple(device.outputs for device in devices),
        tuple(device.audio_inputs for device in devices),
        tuple(device.audio_passes for device in devices),
    )


@derived(32)
def _wiring(
    cables: tuple[AudioCable, ...],
    ids: tuple[str, ...],
    desks: tuple[bool, ...],
    outputs: tuple[tuple[AudioOutput, ...], ...],
    inputs: tuple[tuple[AudioInput, ...], ...],
    passes: tuple[tuple[AudioPass, ...], ...],
) -> _Wiring:
    """The wiring of a plan, kept while its jacks, passes and cables stay as they are."""
    two_sided: dict[str, bool] = {}
    channels: set[str] = set()
    for ident, desk, out_jacks, in_jacks in zip(ids, desks, outputs, inputs, strict=True):
        for out_jack in out_jacks:
            two_sided[ref_to(ident, out_jack.id)] = out_jack.kind in TWO_SIDED
        for in_jack in in_jacks:
            ref = ref_to(ident, in_jack.id)
            two_sided[ref] = in_jack.kind in TWO_SIDED
            if desk:
                channels.add(ref)
    leading: dict[Node, list[tuple[Node, AudioCable]]] = {}
    for cable in cables:
        for source, dest in _joined(cable, two_sided):
            leading.setdefault(source, []).append((dest, cable))
    onward: dict[Node, list[Node]] = {}
    for ident, own in zip(ids, passes, strict=True):
        for one in own:
            for source, dest in _passed(ident, one, two_sided):
                onward.setdefault(source, []).append(dest)
    return _Wiring(
        {node: tuple(ends) for node, ends in leading.items()},
        {node: tuple(dict.fromkeys(ends)) for node, ends in onward.items()},
        frozenset(channels),
    )


def _joined(cable: AudioCable, two_sided: Mapping[str, bool]) -> Iterator[tuple[Node, Node]]:
    """The nodes that a cable joins.

    From a pair to a pair each side keeps its side.  One plug of a pair in a mono jack carries that
    side alone, the left one where nothing is said; mono into a pair goes to both sides, or to one.
    """
    wide_source, wide_dest = two_sided[cable.source], two_sided[cable.dest]
    if wide_source and wide_dest:
        for side in _sides(cable):
            yield (cable.source, side), (cable.dest, side)
    elif wide_source:
        source_side: Side = "left" if cable.leg == "both" else cable.leg
        yield (cable.source, source_side), (cable.dest, "mono")
    elif wide_dest:
        for side in _sides(cable):
            yield (cable.source, "mono"), (cable.dest, side)
    else:
        yield (cable.source, "mono"), (cable.dest, "mono")


def _sides(cable: AudioCable) -> tuple[Side, ...]:
    return ("left", "right") if cable.leg == "both" else (cable.leg,)


def _passed(
    device: str, one: AudioPass, two_sided: Mapping[str, bool]
) -> Iterator[tuple[Node, Node]]:
    """What an interface joins inside: sides to sides, a mono input to both sides of a pair."""
    source = ref_to(device, one.source)
    dests: list[Node] = []
    outputs = [ref_to(device, ident) for ident in one.dest.split("+")]
    if len(outputs) == 2:
        dests = [(outputs[0], "mono"), (outputs[1], "mono")]
    elif two_sided[outputs[0]]:
        dests = [(outputs[0], "left"), (outputs[0], "right")]
    else:
        dests = [(outputs[0], "mono")]
    sources: list[Node] = [(source, "mono")]
    if two_sided[source]:
        sources = [(source, "left"), (source, "right")]
    if len(sources) == len(dests) == 2:
        yield from zip(sources, dests, strict=True)
        return
    for begins in sources:
        for ends in dests:
            yield begins, ends


def jack_of(plan: Plan, ref: str) -> tuple[Device, AudioOutput | AudioInput]:
    """The device and jack of ``device:jack``.  Raises KeyError where there is none."""
    ident, jack = read_ref(ref)
    for device in plan.devices:
        if device.id == ident:
            every: tuple[AudioOutput | AudioInput, ...] = (*device.outputs, *device.audio_inputs)
            for one in every:
                if one.id == jack:
                    return device, one
    raise KeyError(ref)


def channel_words(plan: Plan, channels: tuple[str, ...]) -> str:
    """Channels by name, with the desk where there are several desks."""
    desks = {read_ref(ref).device for ref in channels}
    several = sum(device.kind == "desk" for device in plan.devices) > 1
    names = []
    for ref in channels:
        device, jack = jack_of(plan, ref)
        told = several or len(desks) > 1
        names.append(
            say("{jack} of {device}", jack=jack.name, device=device.name) if told else jack.name
        )
    return listed(names)


def heard_at(plan: Plan, sound: str) -> str:
    """After which channel a sound is heard: «Channel 3»; nothing in a plan without a desk."""
    if not has_desk(plan):
        return ""
    device = lookup.device(plan, read_sound(sound)[0])
    for unit in sounds_of(device):
        if unit.ref == sound:
            reached = arrivals(plan, device, unit.output)
            channels = tuple(dict.fromkeys(one.channel for one in reached))
            return channel_words(plan, channels) if channels else say("no channel")
    return ""
