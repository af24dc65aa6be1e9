"""What sounds in a device, one by one: parts, and the sounds of the kits that parts are on."""

from collections.abc import Iterator
from functools import lru_cache
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.audio import SoundRoute
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import has_field
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say

KINDS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("kick", ("kick", "bass drum")),
    ("snare", ("snare",)),
    ("hat", ("hat", "hi-hat", "hihat")),
    ("drums", ("tom", "drum", "perc", "clap", "rim", "cowbell", "tamb", "kit")),
    ("cymbals", ("crash", "ride", "cymbal", "splash", "china", "gong")),
    ("bass", ("bass", "viol")),
    ("loops", ("loop", "track", "clip", "sample")),
    ("voice", ("voice", "vocal", "choir", "mic")),
)
"""What a sound is by its name, for what is balanced alike; the first that fits."""


class SoundUnit(NamedTuple):
    """One thing that can go to an output: a part, or a sound of its kits."""

    ref: str
    name: str
    part: Part
    sound: str
    output: str
    level: int
    pan: int

    @property
    def kind(self) -> str:
        """What it is like: a kind of drum, bass, loops, or «other»."""
        return _kind_named(self.name) or ("drums" if self.sound else "other")


@lru_cache(maxsize=4096)
def _kind_named(name: str) -> str:
    """The kind that a name tells of; empty where it tells none."""
    said = name.lower()
    for kind, words in KINDS:
        if any(word in said for word in words):
            return kind
    return ""


def sound_ref(device: str, part: str, sound: str = "") -> str:
    """Name a part, or a sound of it: «device:part/sound»."""
    ref = ref_to(device, part)
    return f"{ref}/{sound}" if sound else ref


def read_sound(ref: str) -> tuple[str, str, str]:
    """The device, part and sound of such a name; the sound is empty for a part."""
    device, _, rest = ref.partition(":")
    part, _, sound = rest.partition("/")
    return device, part, sound


@derived(512)
def sounds_of(device: Device) -> tuple[SoundUnit, ...]:
    """Everything that can go to an output of a device, in its order.

    What takes everything and only records has no sound of its own.
    """
    return tuple(_sounds(device))


def _sounds(device: Device) -> Iterator[SoundUnit]:
    routes = {(route.part, route.sound): route for route in device.routes}
    for part in device.parts:
        if part.receives == "takes all":
            continue
        named = sounds_in(device, part)
        if not named:
            ref = sound_ref(device.id, part.id)
            yield SoundUnit(ref, part.name, part, "", part.output, part.level, part.pan)
        for ident, name in named.items():
            yield _unit(device, part, ident, name, routes.get((part.id, ident)))


def _unit(device: Device, part: Part, ident: str, name: str, own: SoundRoute | None) -> SoundUnit:
    ref = sound_ref(device.id, part.id, ident)
    if own is None:
        return SoundUnit(ref, name, part, ident, part.output, part.level, part.pan)
    output = own.output or part.output
    return SoundUnit(ref, name, part, ident, output, own.level, own.pan)


def kits_of(device: Device, part: Part) -> tuple[str, ...]:
    """The kits that a part is on in some program, the usual one first."""
    kits = [part.kit] if part.kit else []
    for program in device.programs:
        for choice in program.kits:
            if choice.part == part.id:
                kits.append(choice.kit)
    return tuple(dict.fromkeys(kits))


def sounds_in(device: Device, part: Part) -> dict[str, str]:
    """The sounds of all kits that a part is on, their names by id."""
    wanted = kits_of(device, part)
    names: dict[str, str] = {}
    for kit in device.kits:
        if kit.id in wanted:
            for sound in kit.sounds:
                names.setdefault(sound.id, sound.name)
    return names


def routes_sounds(device: Device) -> bool:
    """Whether a device can send sounds of one kit to several outputs."""
    return has_field(device, "route/output")


def covers(named: str, unit: SoundUnit) -> bool:
    """Whether a name of a part, or of a sound, is that of a unit, or of what it belongs to."""
    return named in (unit.ref, unit.ref.partition("/")[0])


def output_choices(device: Device) -> tuple[str, ...]:
    """Every output of a device, then its mono ones two by two as pairs: 1 and 2, 3 and 4."""
    choices = [output.id for output in device.outputs]
    mono = [output.id for output in device.outputs if output.kind == "mono"]
    for left, right in zip(mono[::2], mono[1::2], strict=False):
        choices.append(f"{left}+{right}")
    return tuple(choices)


def output_words(device: Device, choice: str) -> str:
    """What an output is called: «Output 3», «Outputs 3 and 4»."""
    if not choice:
        return device.outputs[0].name if device.outputs else say("its output")
    names = {output.id: output.name for output in device.outputs}
    return " and ".join(names.get(ident, ident) for ident in choice.split("+"))
