"""A device made of what a line says, or one that is given more."""

from collections.abc import Callable

from vastzone.core.describe.counted import counted, counted_nouns
from vastzone.core.describe.line import Line, Whole
from vastzone.core.describe.making_sounds import with_parts, with_sounds, with_targets
from vastzone.core.describe.making_touched import (
    with_controls,
    with_inputs,
    with_jacks,
    with_keys,
    with_program,
)
from vastzone.core.describe.phrase import Phrase, names_of
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.cables import is_hub
from vastzone.core.plan.edits.consoles import USUAL_WAYS, wired
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.audio import AudioInput, AudioPass
from vastzone.core.plan.model.bodies import AudioOutput
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.limits import CountLimit
from vastzone.core.plan.model.plan import Device, Flow, Port, Thru
from vastzone.core.plan.model.values import DeviceKind
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.core.plan.queries.consistency import device_problems
from vastzone.core.say import say

PORTS: dict[str, tuple[tuple[str, Flow, str], ...]] = {
    "midi in": (("in", "in", "din"),),
    "midi out": (("out", "out", "din"),),
    "midi both": (("in", "in", "din"), ("out", "out", "din")),
    "usb": (("usb", "both", "usb"),),
    "bluetooth": (("air", "both", "bluetooth"),),
}
"""The jacks that each word for one stands for: id, flow and link."""


def _with_ports(device: Device, phrase: Phrase) -> Device:
    taken = [port.name for port in device.ports]
    for name in names_of(phrase, taken):
        for ident, flow, link in PORTS[phrase.noun.makes]:
            called = name
            if phrase.noun.makes == "midi both":
                called = f"{name} {ident}"
            port = Port(
                id=lookup.free_id(lookup.ids_of(device.ports), ident),
                name=called,
                flow=flow,
                link=link,  # type: ignore[arg-type]
            )
            device = changed(device, ports=(*device.ports, port))
            if phrase.noun.kind == "thru":
                device = _with_thru(device, port)
    return device


def _with_thru(device: Device, out: Port) -> Device:
    """What comes in at the first input goes out at a thru."""
    source = next((port for port in device.ports if port.flow == "in"), None)
    if source is None:
        return device
    return changed(device, thrus=(*device.thrus, Thru(source=source.id, dest=out.id)))


def _with_outputs(device: Device, phrase: Phrase) -> Device:
    kind = "pair" if {"stereo", "pair"} & phrase.flags else phrase.noun.kind
    taken = [output.name for output in device.outputs]
    for name in names_of(phrase, taken):
        ident = lookup.free_id(lookup.ids_of(device.outputs), name)
        output = AudioOutput(id=ident, name=name, kind=kind)  # type: ignore[arg-type]
        device = changed(device, outputs=(*device.outputs, output))
    return device


def _with_slots(device: Device, phrase: Phrase) -> Device:
    storage = changed(device.storage, slots=min(128, phrase.how_many))
    limit = CountLimit(what="memory-slots", most=phrase.how_many)
    return _with_count(changed(device, storage=storage), limit)


def _with_audio_inputs(device: Device, phrase: Phrase) -> Device:
    """Audio inputs; an interface passes each to its output of the same place, as a thing to
    begin with."""
    kind = "pair" if {"stereo", "pair"} & phrase.flags else phrase.noun.kind
    taken = [one.name for one in device.audio_inputs]
    for name in names_of(phrase, taken):
        known = lookup.ids_of(device.audio_inputs) | lookup.ids_of(device.outputs)
        ident = lookup.free_id(known, name)
        new = AudioInput(id=ident, name=name, kind=kind)  # type: ignore[arg-type]
        device = changed(device, audio_inputs=(*device.audio_inputs, new))
    return device


def passing_straight(device: Device) -> Device:
    """An interface that is new passes each audio input on to the output of the same place."""
    if device.kind != "interface" or device.audio_passes:
        return device
    passes = []
    for source, dest in zip(device.audio_inputs, device.outputs, strict=False):
        passes.append(AudioPass(source=source.id, dest=dest.id))
    return changed(device, audio_passes=tuple(passes))


def _with_count(device: Device, limit: CountLimit) -> Device:
    """A limit in place of one of the same kind."""
    kept = []
    for other in device.limits:
        if not (isinstance(other, CountLimit) and other.what == limit.what):
            kept.append(other)
    return changed(device, limits=(*kept, limit))


def _with_assign_slots(device: Device, phrase: Phrase) -> Device:
    taken = tuple(range(1, phrase.taken + 1))
    return _with_count(device, CountLimit(what="assign-slots", most=phrase.how_many, taken=taken))


def _with_zones(device: Device, phrase: Phrase) -> Device:
    return _with_count(device, CountLimit(what="zones", most=phrase.how_many))


def _with_programs(device: Device, phrase: Phrase) -> Device:
    """So many programs; the new ones hold what the first one does."""
    device = with_program(device)
    first = device.programs[0]
    programs = list(device.programs)
    for place, name in enumerate(names_of(phrase)):
        if place < len(programs):
            programs[place] = changed(programs[place], name=name)
        else:
            number = max(program.number for program in programs) + 1
            if number > 127:
                raise EditError(
                    say("“{phrase}” is more than 128 programs: have fewer.", phrase=phrase.said)
                )
            ident = lookup.free_id(lookup.ids_of(programs), str(number))
            programs.append(changed(first, id=ident, number=number, name=name, also=()))
    return changed(device, programs=tuple(programs))


MAKERS: dict[str, Callable[[Device, Phrase], Device]] = {
    "control": with_controls,
    "keys": with_keys,
    "part": with_parts,
    "target": with_targets,
    "sound": with_sounds,
    "input": with_inputs,
    "jack": with_jacks,
    "midi in": _with_ports,
    "midi out": _with_ports,
    "midi both": _with_ports,
    "usb": _with_ports,
    "bluetooth": _with_ports,
    "output": _with_outputs,
    "audio input": _with_audio_inputs,
    "slots": _with_slots,
    "programs": _with_programs,
    "assign slots": _with_assign_slots,
    "zones": _with_zones,
}
"""What is done with each kind of phrase."""
LAST = ("programs",)
"""What copies everything else, and so comes last."""


def with_line(device: Device, line: Line) -> Device:
    """A device with all that a line says added to it.  Raises EditError."""
    device = changed(device, octaves=line.octaves)
    if line.kind is not None:
        device = changed(device, kind=line.kind)
    ordered = sorted(line.phrases, key=lambda phrase: phrase.noun.makes in LAST)
    for phrase in ordered:
        device = MAKERS[phrase.noun.makes](device, phrase)
    if device_ability(device).scans and device.kind == "encoder":
        console = wired(device, device.console or Console(ways=USUAL_WAYS))
        device = changed(device, console=console)
    for whole in line.wholes:
        device = _with_whole(device, whole)
    return device


def _with_whole(device: Device, whole: Whole) -> Device:
    if whole.receives is not None:
        receives = whole.receives
        parts = tuple(changed(part, receives=receives) for part in device.parts)
        targets = tuple(changed(target, receives=receives) for target in device.targets)
        device = changed(device, parts=parts, targets=targets)
    for limit in whole.limits:
        if isinstance(limit, CountLimit):
            device = _with_count(device, limit)
        else:
            device = changed(device, limits=(*device.limits, limit))
    if whole.encoder:
        console = device.console or Console(ways=USUAL_WAYS)
        console = changed(console, encoder=changed(console.encoder, **whole.encoder))
        device = changed(device, console=console)
    storage = changed(device.storage, **whole.storage)
    return changed(device, storage=storage, **whole.fields)


def new_device(line: Line, name: str = "") -> Device:
    """A device of its own from a line, with the usual ports where none is said.

    Raises EditError.
    """
    kind = line.kind or _kind(line)
    called = line.name or name or _usual_name(kind, line)
    device = Device(id=lookup.free_id((), called), name=called, kind=kind, octaves=4)
    device = with_line(device, line)
    device = passing_straight(device)
    if not device.ports:
        device = changed(device, ports=_usual_ports(device))
    if device_ability(device).only_joins and not device.parts and not device.targets:
        device = joined(device)
    for problem in device_problems(device):
        raise EditError(problem)
    return device


IN, OUT = (
    Port(id="in", name="MIDI in", flow="in"),
    Port(id="out", name="MIDI out", flow="out"),
)
USB = Port(id="usb", name="USB", flow="both", link="usb")


def _usual_ports(device: Device) -> tuple[Port, ...]:
    """USB, and with it what is played has an output, what sounds an input; a computer only USB.

    A desk has none.
    """
    if device.kind == "computer":
        return (USB,)
    if device.kind == "desk":
        return ()
    plays = device_ability(device).purpose == "play" or bool(device.controls)
    sounds = bool(device.parts or device.targets)
    return tuple(port for port, there in ((OUT, plays), (IN, sounds), (USB, True)) if there)


def _usual_name(kind: DeviceKind, line: Line) -> str:
    """What a device is called that got no name: «Keyboard, 61 keys»."""
    called = say(kind)
    name = f"{called[0].upper()}{called[1:]}"
    if not line.phrases:
        return name
    first = line.phrases[0]
    if first.noun.makes == "keys" and not first.of:
        told = counted(first.how_many, "key")
    else:
        told = counted_nouns(first.how_many, first.noun)
    return f"{name}, {told}"


def _kind(line: Line) -> DeviceKind:
    """What a device is, by what it has."""
    made = [phrase.noun.makes for phrase in line.phrases]
    controls = {phrase.noun.kind for phrase in line.phrases if phrase.noun.makes == "control"}
    if "input" in made:
        return "module"
    if "keys" in made:
        return "encoder" if "stop" in controls else "keyboard"
    if "part" in made or "sound" in made or "target" in made:
        return "module"
    if "pad" in controls or not controls:
        return "pads" if controls else "merger"
    return "floorboard" if controls <= {"switch", "pedal"} else "pads"


def joined(device: Device) -> Device:
    """A box that passes on everything that comes in to every output, back to where it came not."""
    if device_ability(device).chooses_thru or device.thrus:
        return device
    thrus = []
    star = is_hub(device)
    for source in device.ports:
        for dest in device.ports:
            ways = source is not dest and source.flow != "out" and dest.flow != "in"
            # A hub joins each device with the computer, and not with each other.
            if ways and (not star or device.ports[0] in (source, dest)):
                thrus.append(Thru(source=source.id, dest=dest.id))
    return changed(device, thrus=tuple(thrus))


def add_line(device: str, line: Line) -> Edit:
    """Add all that a line says to a device."""
    what = ", ".join(counted_nouns(phrase.how_many, phrase.noun) for phrase in line.phrases[:2])
    return edit_device(
        device,
        say("Add {what}", what=what) if what else say("Describe"),
        lambda old: with_line(old, line),
    )
