"""Making what sounds and what moves: parts, kits with their sounds, targets."""

from typing import Any, Literal

from vastzone.core.describe.phrase import Phrase, names_of
from vastzone.core.errors import EditError
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.parts import Kit, Part, Sound, Target, Trigger
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import Mode, Receiving
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say

COLOURS = 8
RHYTHM = 10
ROLES = {
    "volume": 7,
    "level": 7,
    "pan": 10,
    "balance": 8,
    "expression": 11,
    "modulation": 1,
    "breath": 2,
    "cutoff": 74,
    "brightness": 74,
    "reverb": 91,
    "chorus": 93,
    "sustain": 64,
}
"""The controllers that the standard gives to what is wished most (MIDI 1.0, table of numbers)."""
TRIGGERS: tuple[Trigger, ...] = ("one-shot", "gate", "toggle")
MODES: tuple[Mode, ...] = ("toggle", "trigger", "momentary")


def receiving(phrase: Phrase) -> Receiving:
    """How what a phrase makes comes to its channel and number."""
    if {"learns", "learned"} & phrase.flags:
        return "learns"
    if "fixed" in phrase.flags:
        return "fixed"
    return "takes all" if "takes all" in phrase.flags else "set"


def with_parts(device: Device, phrase: Phrase) -> Device:
    """Parts, with the targets that each of them has."""
    for place, name in enumerate(names_of(phrase, _names(device))):
        part = _part(device, phrase, name, place)
        device = changed(device, parts=(*device.parts, part))
        for what in phrase.each:
            target = _target_of(device, part, what, phrase)
            device = changed(device, targets=(*device.targets, target))
    return device


def _part(device: Device, phrase: Phrase, name: str, place: int) -> Part:
    number = len(device.parts)
    more: dict[str, Any] = {}
    for trigger in TRIGGERS:
        if trigger in phrase.flags:
            more["trigger"] = trigger
    if phrase.low is not None and phrase.high is not None:
        more |= {"low": int(phrase.low), "high": int(phrase.high)}
    return Part(
        id=lookup.free_id(_ends(device), name),
        name=name,
        tag=tag_of(name, device),
        colour=number % COLOURS,
        channel=_channel(device, phrase, place),
        mono="mono" in phrase.flags,
        rhythm="rhythm" in phrase.flags,
        layer="layered" in phrase.flags or "takes all" in phrase.flags,
        receives=receiving(phrase),
        **more,
    )


def _channel(device: Device, phrase: Phrase, place: int) -> int | None:
    """The channel of a part: as it is said, else the next one that no other has."""
    if {"omni", "takes all"} & phrase.flags:
        return None
    if phrase.channel is not None:
        return phrase.channel
    channel = len(device.parts) + 1
    if phrase.own_channels is not None:
        channel = phrase.own_channels + place
        if channel > 16:
            raise EditError(
                say(
                    "“{phrase}” would need channel {channel}: there are 16.",
                    phrase=phrase.said,
                    channel=channel,
                )
            )
    return (channel - 1) % 16 + 1


def _names(device: Device) -> list[str]:
    return [end.name for end in lookup.ends(device)]


def _ends(device: Device) -> set[str]:
    return lookup.ids_of(device.parts) | lookup.ids_of(device.targets)


def tag_of(name: str, device: Device) -> str:
    """Two letters for a part that no other part of its device has, as far as there are any."""
    letters = "".join(letter for letter in name if letter.isalnum()).upper() or "P"
    number = "".join(letter for letter in name if letter.isdigit())
    wishes = [letters[:2]]
    if number:
        wishes = [letters[0] + number if len(number) == 1 else number[-2:], *wishes]
    wishes += [letters[0] + letter for letter in letters[1:]]
    wishes += [f"{count:02}" for count in range(1, 100)]
    taken = {part.tag.upper() for part in device.parts}
    return next((wish for wish in wishes if wish not in taken), letters[:2])


def _target_of(device: Device, part: Part, what: str, phrase: Phrase) -> Target:
    """Something that a part has, called after it: «Layer 1 volume»."""
    name = f"{part.name} {what}"
    return Target(
        id=lookup.free_id(_ends(device), name),
        name=name,
        part=part.id,
        role=ROLES.get(what),
        receives=receiving(phrase),
    )


def with_targets(device: Device, phrase: Phrase) -> Device:
    """Targets that belong to no part."""
    mode: Mode | Literal["continuous"] = "continuous"
    for known in MODES:
        if known in phrase.flags or known == phrase.noun.kind:
            mode = known
    more: dict[str, Any] = {"receives": receiving(phrase)}
    if phrase.low is not None and phrase.high is not None:
        more |= {"low": phrase.low, "high": phrase.high, "unit": phrase.unit}
    if "pick-up" in phrase.flags:
        more["takeover"] = "pick-up"
    if "14 bits" in phrase.flags:
        more["answers"] = "pair"
    for place, name in enumerate(names_of(phrase, _names(device))):
        controller = None if phrase.first is None else phrase.first + place
        if controller is not None and controller > 127:
            raise EditError(
                say("“{phrase}” would end above controller 127: begin lower.", phrase=phrase.said)
            )
        target = Target(
            id=lookup.free_id(_ends(device), name),
            name=name,
            channel=phrase.channel,
            controller=controller,
            mode=mode,
            **more,
        )
        device = changed(device, targets=(*device.targets, target))
    return device


def with_sounds(device: Device, phrase: Phrase) -> Device:
    """A kit of sounds on notes that run on: of the rhythm part without one, else of a new one."""
    first = 36 if phrase.first is None else phrase.first
    names = names_of(phrase)
    if first + len(names) - 1 > 127:
        raise EditError(
            say("“{phrase}” would end above note 127: begin lower.", phrase=phrase.said)
        )
    sounds: list[Sound] = []
    for place, name in enumerate(names):
        ident = lookup.free_id(lookup.ids_of(sounds), name)
        sounds.append(Sound(id=ident, name=name, note=first + place))
    ident = lookup.free_id(lookup.ids_of(device.kits), "kit")
    number = len(device.kits) + 1
    kit = Kit(id=ident, name=say("Kit {number}", number=number), sounds=tuple(sounds))
    device = changed(device, kits=(*device.kits, kit))
    for part in device.parts:
        if part.kit is None and part.rhythm:
            new = changed(part, kit=kit.id)
            parts = tuple(new if each is part else each for each in device.parts)
            return changed(device, parts=parts)
    rhythm = Part(
        id=lookup.free_id(_ends(device), say("Rhythm")),
        name=say("Rhythm") if not device.kits[:-1] else say("Rhythm {number}", number=number),
        tag=tag_of("Rhythm", device),
        colour=len(device.parts) % COLOURS,
        channel=phrase.channel or RHYTHM,
        rhythm=True,
        kit=kit.id,
        trigger="gate" if "gate" in phrase.flags else "one-shot",
        receives=receiving(phrase),
    )
    return changed(device, parts=(*device.parts, rhythm))
