"""Finding a device among many by plain words: «fader», «organ», «stops», «looper»."""

from typing import NamedTuple

from vastzone.core.describe.things import things_of
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability, device_ability
from vastzone.core.say import say

KEYS = say("Keyboards and what is blown, bent and plucked")
PADS = say("Pads and drums")
FEET = say("Pedals and consoles")
SOUND = say("What sounds and what moves")
JOIN = say("What joins them")
GROUPS = (KEYS, PADS, FEET, SOUND, JOIN)


def group_of(device: Device) -> str:
    """The group of the library that a device belongs to."""
    kinds = {control.kind for control in device.controls}
    if device.kind in ("floorboard", "encoder"):
        return FEET
    if device.keybeds or (kinds and kinds <= {"lever", "wheel", "breath", "knob", "button"}):
        return KEYS
    if device.inputs or any(control_ability(control).laid for control in device.controls):
        return PADS
    plain = device_ability(device).only_joins and not device.parts and not device.targets
    return JOIN if plain else SOUND


class Shelf(NamedTuple):
    """A group of the library with the devices that are found in it."""

    name: str
    devices: tuple[Device, ...]


def found(devices: tuple[Device, ...], text: str) -> tuple[Shelf, ...]:
    """The devices in whose words all of a text's words begin, group by group.

    Those whose own name holds them come first, keyboards by their length.
    """
    wanted = text.lower().split()
    shelves = []
    for name in GROUPS:
        inside = []
        for place, device in enumerate(devices):
            if group_of(device) == name and _fits(device, wanted):
                named = all(word in device.name.lower() for word in wanted)
                keys = sum(bed.keys for bed in device.keybeds)
                inside.append((not named, not keys, keys, place, device))
        if inside:
            inside.sort(key=lambda each: each[:-1])
            shelves.append(Shelf(name, tuple(each[-1] for each in inside)))
    return tuple(shelves)


def _fits(device: Device, wanted: list[str]) -> bool:
    words = searched(device)
    return all(word.rstrip("s") in words for word in wanted)


def searched(device: Device) -> str:
    """All the words that a device is found by."""
    said = {device.name, device.kind, device.notes}
    for thing in things_of(device):
        said.add(thing.group)
    for control in device.controls:
        said.update((control.kind, control.name))
    for end in lookup.ends(device):
        said.add(end.name)
    for socket in device.inputs:
        said.update((socket.name, *socket.types, "input"))
    for jack in device.jacks:
        said.update((jack.name, *jack.functions, "jack"))
    for part in device.parts:
        said.add({"learns": "learns", "takes all": "takes all"}.get(part.receives, "part"))
    return " ".join(said).lower()
