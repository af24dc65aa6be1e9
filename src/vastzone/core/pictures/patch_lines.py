"""The lines of the picture of outputs: each device with its outputs, then what it sounds."""

from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.audio import channel_words
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.sounds import (
    SoundUnit,
    output_choices,
    output_words,
    routes_sounds,
    sound_ref,
    sounds_of,
)
from vastzone.core.proof.at_desk import AtDesk, at_desk
from vastzone.core.say import say

VERDICTS = {
    "once": "",
    "nowhere": say("nowhere"),
    "twice": say("twice: "),
    "half": say("one side only: "),
    "elsewhere": say("not as wished: "),
}


class PatchLine(NamedTuple):
    """A line: a heading of a device, a whole part, or one sound.

    ``choices`` are its outputs with what they are called, the same in every line of a device;
    ``on`` is where it goes, all different outputs of the sounds of a part.  ``sets`` are the sounds
    whose output is set here.  ``arrives`` says where it is heard, ``right`` whether that is as it
    should be, None where nothing plays it.
    """

    device: Device
    ref: str
    name: str
    tag: str
    colour: int
    deep: bool
    choices: tuple[tuple[str, str], ...]
    on: frozenset[str]
    sets: tuple[str, ...]
    arrives: str
    right: bool | None
    verdict: str = ""

    @property
    def is_heading(self) -> bool:
        """Whether it only names a device."""
        return not self.ref


@derived(16)
def patch_lines(plan: Plan) -> tuple[PatchLine, ...]:
    """Every device that sounds, with its parts and the sounds of their kits."""
    every = {one.unit.ref: one for one in at_desk(plan)}
    lines: list[PatchLine] = []
    for device in plan.devices:
        units = sounds_of(device)
        if units:
            lines.extend(_of_device(plan, device, units, every))
    return tuple(lines)


def _of_device(
    plan: Plan, device: Device, units: tuple[SoundUnit, ...], every: dict[str, AtDesk]
) -> list[PatchLine]:
    choices = tuple((choice, short_words(device, choice)) for choice in output_choices(device))
    heading = PatchLine(device, "", device.name, "", 0, False, choices, frozenset(), (), "", None)
    lines = [heading]
    split = routes_sounds(device)
    for part in dict.fromkeys(unit.part for unit in units):
        mine = [unit for unit in units if unit.part is part]
        lines.append(_line(plan, device, mine, choices, every, whole=True))
        if split and mine[0].sound:
            lines += [_line(plan, device, [unit], choices, every, whole=False) for unit in mine]
    return lines


def _line(
    plan: Plan,
    device: Device,
    units: list[SoundUnit],
    choices: tuple[tuple[str, str], ...],
    every: dict[str, AtDesk],
    whole: bool,
) -> PatchLine:
    part = units[0].part
    first = device.outputs[0].id if device.outputs else ""
    arrived = [every[unit.ref] for unit in units if unit.ref in every]
    bad = [one for one in arrived if one.verdict != "once"]
    ref = sound_ref(device.id, part.id) if whole else units[0].ref
    sets = (ref, *(unit.ref for unit in units if unit.sound)) if whole else (ref,)
    return PatchLine(
        device,
        ref,
        part.name if whole else units[0].name,
        part.tag,
        part.colour,
        not whole,
        choices,
        frozenset(unit.output or first for unit in units),
        sets if routes_sounds(device) else (ref,),
        _arrives(plan, bad or arrived),
        not bad if arrived else None,
        bad[0].verdict if bad else "",
    )


def _arrives(plan: Plan, arrived: list[AtDesk]) -> str:
    """Where sounds are heard, and what is wrong with the first of them."""
    if not arrived:
        return ""
    channels: dict[str, None] = {}
    for one in arrived:
        channels.update(dict.fromkeys(one.channels))
    said = VERDICTS[arrived[0].verdict]
    return f"{said}{channel_words(plan, tuple(channels))}" if channels else said


def short_words(device: Device, choice: str) -> str:
    """An output as a heading has it: without the word that all of them share."""
    words = output_words(device, choice)
    return words.replace("Output ", "").replace(" and ", "+")
