"""What goes to the desk, channel by channel: source, jack, box, phantom, scenes, what is on it."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.cards.csv_text import csv_text
from vastzone.core.engine.audio import jack_of
from vastzone.core.plan.model.audio import AudioCable, AudioInput
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.at_desk import AtDesk, at_desk
from vastzone.core.say import say
from vastzone.core.text import listed

COLUMNS = (
    "desk",
    "channel",
    "name",
    "source",
    "jack",
    say("mono or stereo"),
    "DI",
    "phantom",
    "metres",
    "scenes",
)
SIDES = {"left": "L", "right": "R"}


class DeskLine(NamedTuple):
    """One channel of a desk, in use or free.

    ``name`` says what is heard there, ``source`` and ``jack`` where its cable comes from, ``side``
    which side of a stereo sound it carries.  ``scenes`` are those in which something sounds on it.
    """

    desk: Device
    channel: AudioInput
    name: str
    source: str
    jack: str
    side: str
    cable: AudioCable | None
    scenes: tuple[str, ...]

    @property
    def di(self) -> str:
        """Whether a DI box stands in the line."""
        return "DI" if self.cable is not None and self.cable.di else ""

    @property
    def phantom(self) -> str:
        """What phantom power has to be, on a channel that is in use."""
        if self.cable is None:
            return say("on") if self.channel.phantom else ""
        return say("on") if self.channel.phantom else say("off")


@derived(16)
def desk_lines(plan: Plan) -> tuple[DeskLine, ...]:
    """Every channel of every desk, in order."""
    every = at_desk(plan)
    lines: list[DeskLine] = []
    for desk in plan.devices:
        for channel in desk.audio_inputs if desk.kind == "desk" else ():
            lines.extend(_lines_of(plan, desk, channel, every))
    return tuple(lines)


def _lines_of(
    plan: Plan, desk: Device, channel: AudioInput, every: tuple[AtDesk, ...]
) -> Iterator[DeskLine]:
    ref = ref_to(desk.id, channel.id)
    heard = [one for one in every if ref in one.channels]
    sides = {one.carries for each in heard for one in each.arrived if one.channel == ref}
    side = "mono"
    if sides == {"left", "right"}:
        side = say("stereo") if channel.kind != "mono" else say("mono")
    elif len(sides) == 1:
        side = SIDES.get(next(iter(sides)), say("mono"))
    used = {scene for one in heard for scene in one.scenes}
    scenes = tuple(scene.id for scene in plan.scenes if scene.id in used)
    cables = [cable for cable in plan.audio_cables if cable.dest == ref]
    name = _name(plan, heard, cables)
    if not cables:
        yield DeskLine(desk, channel, "", "", "", "", None, ())
    for cable in cables:
        device, jack = jack_of(plan, cable.source)
        leg = "" if cable.leg == "both" else f" {SIDES[cable.leg]}"
        carried = side if heard or cable.leg == "both" else SIDES[cable.leg]
        yield DeskLine(
            desk, channel, name, device.name, f"{jack.name}{leg}", carried, cable, scenes
        )


def _name(plan: Plan, heard: list[AtDesk], cables: list[AudioCable]) -> str:
    """What is heard on a channel: all of a device together, parts, or sounds by name."""
    if not heard:
        sources = [jack_of(plan, cable.source)[0].name for cable in cables]
        return listed(sources)
    names: list[str] = []
    for device in dict.fromkeys(one.device for one in heard):
        units = [one for one in heard if one.device == device]
        owner = lookup.device(plan, device)
        if len(units) > 3 and len(units) == sum(one.device == device for one in at_desk(plan)):
            names.append(owner.name)
            continue
        for part in dict.fromkeys(one.unit.part for one in units):
            mine = [one.unit for one in units if one.unit.part is part]
            whole = sum(one.unit.part is part for one in at_desk(plan)) == len(mine)
            if whole or not mine[0].sound:
                names.append(part.name)
            else:
                names.extend(unit.name for unit in mine)
    return listed(names, 5)


def scene_words(plan: Plan, line: DeskLine) -> str:
    """The scenes in which a channel is in use; «all» where it is in every one."""
    if not plan.scenes or not line.scenes:
        return ""
    if len(line.scenes) == len(plan.scenes):
        return say("all")
    names = lookup.names_of(plan.scenes)
    return ", ".join(names[scene] for scene in line.scenes)


def desk_csv(plan: Plan) -> str:
    """The desk list as comma-separated values, a line a channel."""
    rows = []
    for line in desk_lines(plan):
        metres = line.cable.metres if line.cable is not None else None
        rows.append(
            (
                line.desk.name,
                line.channel.name,
                line.name,
                line.source,
                line.jack,
                line.side,
                line.di,
                line.phantom,
                "" if metres is None else f"{metres:g}",
                scene_words(plan, line),
            )
        )
    return csv_text(COLUMNS, rows)
