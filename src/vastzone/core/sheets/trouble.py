"""Troubleshooting by symptom, for this rig: where to look, in the order of what is likeliest.

Silence has an order of causes: power, cable and direction, port, program or slot, channel, range,
receiver, mute and volume, output; what is said of each is what this plan knows of it.
"""

from collections.abc import Iterator

from vastzone.core.cards.desk_list import desk_lines
from vastzone.core.engine.audio import channel_words
from vastzone.core.midi import pitch
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.queries.sounds import output_words, sounds_of
from vastzone.core.plan.refs import device_of
from vastzone.core.power.sums import feeder_of
from vastzone.core.proof.at_desk import at_desk
from vastzone.core.say import say, say_many
from vastzone.core.sheets.layout import Block, Heading, Page, Paragraph, Sheet, ticked_rows
from vastzone.core.text import listed

Line = tuple[str, str]


def trouble_sheet(plan: Plan) -> Sheet:
    """A page for what is silent, device by device, and one for what is wrong otherwise."""
    silent: list[Block] = []
    for device in plan.devices:
        lines = list(_silent(plan, device))
        if device.parts and lines:
            silent.append(Heading(say("{device} is silent", device=device.name)))
            silent.append(ticked_rows(lines))
    other: list[Block] = []
    for symptom, lines in _otherwise(plan):
        other.append(Heading(symptom))
        other.append(ticked_rows(lines))
    first = Paragraph(
        say("Look from the top: what stands first is likeliest, and quickest to see.")
    )
    pages = [Page(say("If something is silent"), plan.name, (first, *silent))]
    pages.append(Page(say("If something sounds otherwise"), plan.name, tuple(other)))
    return Sheet("trouble", say("Troubleshooting"), tuple(pages))


def _silent(plan: Plan, device: Device) -> Iterator[Line]:
    source = feeder_of(plan, device.id)
    yield (
        say("Is it on?"),
        say("fed by {source}", source=source.name) if source is not None else device.supply.kind,
    )
    for cable in plan.cables:
        ends = (device_of(cable.source), device_of(cable.dest))
        if device.id in ends:
            (one, port), (other, far) = (
                lookup.endpoint(plan, cable.source),
                lookup.endpoint(plan, cable.dest),
            )
            told = say(
                "{one} {port} to {other} {far}",
                one=one.name,
                port=port.name,
                other=other.name,
                far=far.name,
            )
            yield say("Is the cable in, the right way round?"), told
    if any(port.link == "usb" for port in device.ports):
        yield say("Is the right port chosen in the computer?"), f"{device.name}"
    for switch in device.switches:
        yield say("Is {switch} right?", switch=switch.name), switch.choices[switch.choice]
    if len(device.programs) > 1:
        names = [f"{program_words(device, p.number)} {p.name}" for p in device.programs]
        yield say("Is it on its program?"), listed(names, 3)
    channels = {part.channel for part in device.parts}
    words = ", ".join(str(channel) for channel in sorted(c for c in channels if c is not None))
    yield say("Do channels agree?"), say("it hears {words}", words=words or say("all"))
    low = min(part.low for part in device.parts) if device.parts else 0
    high = max(part.high for part in device.parts) if device.parts else 127
    yield say("Is the note in its range?"), pitch.span(low, high, device.octaves)
    volumes = [target.name for target in device.targets if target.role in (7, 11)]
    if volumes:
        yield say("Is the volume up?"), listed(volumes, 3)
    yield from _outputs(plan, device)


def _outputs(plan: Plan, device: Device) -> Iterator[Line]:
    outputs: dict[str, None] = {}
    for unit in sounds_of(device):
        outputs[output_words(device, unit.output)] = None
    if device.outputs:
        yield say("Is the right output plugged?"), listed(outputs, 4)
    channels: dict[str, None] = {}
    for one in at_desk(plan):
        if one.device == device.id:
            channels.update(dict.fromkeys(one.channels))
    if channels:
        yield say("Is it up at the desk?"), channel_words(plan, tuple(channels))


def _otherwise(plan: Plan) -> Iterator[tuple[str, list[Line]]]:
    """Other symptoms, with what this rig has that can cause them."""
    locals_ = [d.name for d in plan.devices if d.local and d.parts and d.keybeds]
    thrus = [d.name for d in plan.devices if d.thrus]
    twice = [(say("Local control on?"), listed(locals_, 4))] if locals_ else []
    twice.append(
        (say("Two ways from one to the other?"), listed(thrus, 4) or say("no thru is in use"))
    )
    twice.append((say("Two parts on one channel?"), say("see the maps and cards")))
    yield say("Everything sounds twice"), twice
    octaves = [
        say("{d}: middle C is C{octaves}", d=d.name, octaves=d.octaves)
        for d in plan.devices
        if d.keybeds or d.parts
    ]
    yield (
        say("It sounds an octave off"),
        [(say("How does each name its octaves?"), listed(octaves, 6))],
    )
    buffers = []
    for device in plan.devices:
        if device.buffer is not None:
            buffers.append(
                say("{device} {frames} frames", device=device.name, frames=device.buffer.frames)
            )
    late = [(say("Has a buffer grown?"), listed(buffers, 4) or say("no buffer is described"))]
    radio = [d.name for d in plan.devices if any(p.link == "bluetooth" for p in d.ports)]
    if radio:
        late.append((say("Bluetooth in the way?"), listed(radio, 3)))
    yield say("It is late"), late
    phantom = [line.channel.name for line in desk_lines(plan) if line.channel.phantom]
    boxes = sum(cable.di for cable in plan.audio_cables)
    yield (
        say("It hums, or crackles"),
        [
            (
                say("A DI box in the long lines, its ground lifted?"),
                say_many("{count} box", "{count} boxes", boxes),
            ),
            (
                say("Phantom power off?"),
                say("on at {phantom}", phantom=listed(phantom, 3))
                if phantom
                else say("off everywhere"),
            ),
            (say("All on one mains strip?"), listed((source.name for source in plan.power), 3)),
        ],
    )
    yield (
        say("Notes hang"),
        [
            (say("Panic, then look at the sustain pedal and its sense"), ""),
            (say("Was a program changed while keys were held?"), say("see the song cards")),
        ],
    )
