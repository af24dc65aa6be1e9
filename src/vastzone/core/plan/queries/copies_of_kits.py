"""Copies of a kit in one device: parts that answer the same notes with the same sounds."""

from collections.abc import Mapping
from itertools import combinations
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.parts import Kit, Part
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup


class CopiedSound(NamedTuple):
    """A sound that stands in several copies of a kit: the kit of each part that has it."""

    sound: str
    name: str
    hosts: Mapping[str, str]


@derived(256)
def copied_sounds(device: Device) -> tuple[CopiedSound, ...]:
    """The sounds that two parts of a device both play when their one note is struck."""
    hosts: dict[str, dict[str, str]] = {}
    names: dict[str, str] = {}
    on_kits = []
    for part in device.parts:
        kit = lookup.find(device.kits, part.kit)
        if kit is not None:
            on_kits.append((part, kit))
    for (one, kit), (other, second) in combinations(on_kits, 2):
        if not _are_copies(one, kit, other, second):
            continue
        notes = {sound.id: sound.note for sound in second.sounds}
        for sound in kit.sounds:
            if notes.get(sound.id) == sound.note:
                names[sound.id] = sound.name
                hosts.setdefault(sound.id, {}).update({one.id: kit.id, other.id: second.id})
    return tuple(CopiedSound(ident, names[ident], each) for ident, each in hosts.items())


def _are_copies(one: Part, kit: Kit, other: Part, second: Kit) -> bool:
    """Whether two parts hear the same, each with a kit of its own."""
    same_channel = one.channel == other.channel or None in (one.channel, other.channel)
    same_ports = not one.ports or not other.ports or bool(set(one.ports) & set(other.ports))
    return kit.id != second.id and same_channel and same_ports
