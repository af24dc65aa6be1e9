"""Rules of outputs: every sound arrives at the desk once, on the channel that is wished."""

from collections.abc import Iterator

from vastzone.core.engine.audio import channel_words, has_desk, jack_of
from vastzone.core.engine.compile import Compiled
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import audio
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.copies_of_kits import copied_sounds
from vastzone.core.plan.queries.sounds import output_words
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.at_desk import AtDesk, at_desk, played_in, wishes_kept
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say, say_many
from vastzone.core.text import listed

LONG_LINE = 6.0
"""Metres from which an unbalanced line from an instrument picks up hum and loses treble."""


def sounds_at_the_desk(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Sounds that arrive nowhere, twice, by half or on another channel, told by their output."""
    groups: dict[tuple[str, str, str], list[AtDesk]] = {}
    for one in at_desk(plan):
        if one.verdict != "once":
            groups.setdefault((one.device, one.unit.output, one.verdict), []).append(one)
    for (ident, output, verdict), heard in groups.items():
        device = lookup.device(plan, ident)
        names = listed((one.unit.name for one in heard), 4)
        where = output_words(device, output)
        fixes: tuple[Edit, ...] = ()
        if verdict == "nowhere":
            rule, said = "sound nowhere", _nowhere(device, names, where, len(heard))
            fixes = _patches(plan, device)
        elif verdict == "twice":
            channels = channel_words(plan, heard[0].channels)
            rule, said = "sound at the desk twice", _twice(device, names, channels, len(heard))
            fixes = tuple(_pulls(plan, heard[0]))
        elif verdict == "half":
            rule, said = "one side lost", _half(device, names, where, heard[0].arrived[0].carries)
        else:
            channel = channel_words(plan, heard[0].channels)
            rule, said = "not on its channel", _elsewhere(device, names, channel, len(heard))
        scenes = tuple(dict.fromkeys(scene for one in heard for scene in one.scenes if scene))
        subjects = (*dict.fromkeys(ref_to(ident, one.unit.part.id) for one in heard), ident)
        yield Remark(rule, subjects, said, fixes, scenes)


def _twice(device: Device, names: str, channels: str, count: int) -> str:
    return say_many(
        "{names} of {device} arrives twice, on {channels}: it is loud, and hollow "
        "where the two are not quite together.",
        "{names} of {device} arrive twice, on {channels}: it is loud, and hollow "
        "where the two are not quite together.",
        count,
        names=names,
        device=device.name,
        channels=channels,
    )


def _half(device: Device, names: str, where: str, side: str) -> str:
    return say(
        "Only the {side} side of {where} of {device} leads to the desk, with {names}: "
        "connect the other side, or use a mono output.",
        side=say(side),
        where=where,
        device=device.name,
        names=names,
    )


def _elsewhere(device: Device, names: str, channel: str, count: int) -> str:
    return say_many(
        "{names} of {device} arrives on {channel}, which is not the channel wished for.",
        "{names} of {device} arrive on {channel}, which is not the channel wished for.",
        count,
        names=names,
        device=device.name,
        channel=channel,
    )


def _nowhere(device: Device, names: str, where: str, count: int) -> str:
    if not device.outputs:
        return say_many(
            "{names} of {device} arrives nowhere: it has no audio output described.",
            "{names} of {device} arrive nowhere: it has no audio output described.",
            count,
            names=names,
            device=device.name,
        )
    return say_many(
        "{names} of {device} arrives nowhere: no cable leads from {where} to the desk.",
        "{names} of {device} arrive nowhere: no cable leads from {where} to the desk.",
        count,
        names=names,
        device=device.name,
        where=where,
    )


def _patches(plan: Plan, device: Device) -> tuple[Edit, ...]:
    """Cables to what leads to a desk, where some are free."""
    fixes = []
    for other in plan.devices:
        if other.kind not in ("desk", "interface") or other.id == device.id:
            continue
        try:
            fixes.append(audio.patch(plan, device.id, other.id))
        except EditError:
            continue
    return tuple(fixes[:2])


def _pulls(plan: Plan, heard: AtDesk) -> Iterator[Edit]:
    """One of the ways taken out: a cable that only one of them goes by, or a pass inside."""
    ways = [one.way for one in heard.arrived if one.carries == heard.arrived[0].carries]
    for way in ways[1:]:
        own = [cable for cable in way if not any(cable in other for other in ways if other != way)]
        if own:
            device, jack = jack_of(plan, own[0].source)
            edit = audio.remove_audio_cable(own[0])
            yield Edit(
                say("Pull the cable from {jack} of {device}", jack=jack.name, device=device.name),
                edit.change,
            )


def output_wishes(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Wishes for outputs that are not kept."""
    for told in wishes_kept(plan) if has_desk(plan) else ():
        if not told.kept and told.wish.want != "channel":
            devices = dict.fromkeys(ref.partition(":")[0] for ref in told.wish.of)
            yield Remark(
                "output wish not kept",
                (told.wish.of[0].partition("/")[0], *devices),
                say(
                    "{wish}: {why}. Give out outputs, or let it go.",
                    wish=told.wish.name,
                    why=told.why,
                ),
                (audio.remove_output_wish(told.wish.id),),
            )


def copies_of_sounds(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Sounds that stand in two copies of a kit, of which some are split to outputs."""
    played = played_in(plan) if has_desk(plan) else {}
    for device in plan.devices if played else ():
        copied = copied_sounds(device)
        split = {part.output for part in device.parts if part.kit}
        if not copied or len(split) < 2:
            continue
        parts = {part for one in copied for part in one.hosts}
        first = next(iter(copied[0].hosts))
        lost: dict[str, set[str]] = {}
        for one in copied:
            for part, kit in one.hosts.items():
                if part != first:
                    lost.setdefault(kit, set()).add(one.sound)
        gone = {kit: frozenset(sounds) for kit, sounds in lost.items()}
        name = lookup.part(device, first).name
        edit = audio.prune(device.id, gone)
        yield Remark(
            "sound in two copies",
            (*(ref_to(device.id, part) for part in sorted(parts)), device.id),
            say(
                "{one} stand in {count} copies of a kit in {device} and sound from each: leave "
                "every "
                "sound in one.",
                one=listed((one.name for one in copied), 4),
                count=len(parts),
                device=device.name,
            ),
            (Edit(say("Keep them in {name} only", name=name), edit.change),),
        )


def phantom_power(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Phantom power on a line that comes from an output."""
    for cable in plan.audio_cables:
        device, jack = jack_of(plan, cable.dest)
        source, output = jack_of(plan, cable.source)
        if getattr(jack, "phantom", False) and not cable.di:
            yield Remark(
                "phantom into an output",
                (cable.source, device.id, source.id),
                say(
                    "{jack} of {device} sends phantom power into {output} of {source}: switch "
                    "it off "
                    "before it is plugged, or put a DI box between.",
                    jack=jack.name,
                    device=device.name,
                    output=output.name,
                    source=source.name,
                ),
                (audio.set_phantom(device.id, jack.id, False), audio.set_di(True, (cable,))),
            )


def long_lines(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Long lines from instruments without a DI box."""
    for cable in plan.audio_cables:
        source, output = jack_of(plan, cable.source)
        if cable.di or output.kind == "usb" or source.kind in ("interface", "desk"):
            continue
        if cable.metres is not None and cable.metres > LONG_LINE:
            yield Remark(
                "long line without a box",
                (cable.source, source.id),
                say(
                    "The line from {output} of {source} is {metres:g} m long: a DI box near the "
                    "instrument keeps hum out.",
                    output=output.name,
                    source=source.name,
                    metres=cable.metres,
                ),
                (audio.set_di(True, (cable,)),),
            )
