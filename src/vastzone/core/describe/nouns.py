"""What a device can be said to have: the words for it, and what each of them makes."""

from typing import Literal, NamedTuple

from vastzone.core.plan.model.values import ControlKind, DeviceKind, Sending

Makes = Literal[
    "control",
    "keys",
    "part",
    "target",
    "sound",
    "input",
    "jack",
    "midi in",
    "midi out",
    "midi both",
    "usb",
    "bluetooth",
    "output",
    "audio input",
    "slots",
    "programs",
    "assign slots",
    "zones",
]


class Noun(NamedTuple):
    """A word for something: what it makes, of which kind, and how that is called.

    ``message`` and ``number`` are what such a control sends by standard.
    """

    makes: Makes
    name: str
    kind: str = ""
    message: Sending | None = None
    number: int = 0


def _control(name: str, kind: ControlKind, message: Sending | None = None, number: int = 0) -> Noun:
    return Noun("control", name, kind, message, number)


NOUNS: dict[str, Noun] = {
    "pad": _control("Pad", "pad"),
    "cross-fader": _control("Crossfader", "fader"),
    "fader": _control("Fader", "fader"),
    "slider": _control("Slider", "fader"),
    "drawbar": _control("Drawbar", "fader"),
    "knob": _control("Knob", "knob"),
    "dial": _control("Dial", "knob"),
    "button": _control("Button", "button"),
    "piston": _control("Piston", "button"),
    "foot switch": _control("Foot switch", "switch"),
    "switch": _control("Switch", "switch"),
    "stop": _control("Stop", "stop"),
    "tab": _control("Tab", "stop"),
    "foot pedal": _control("Pedal", "pedal"),
    "pedal": _control("Pedal", "pedal"),
    "swell shoe": _control("Swell", "shoe"),
    "crescendo shoe": _control("Crescendo", "shoe"),
    "shoe": _control("Shoe", "shoe"),
    "pitch wheel": _control("Pitch wheel", "wheel", "bend"),
    "bend wheel": _control("Bend wheel", "wheel", "bend"),
    "modulation wheel": _control("Modulation wheel", "wheel", "controller", 1),
    "wheel": _control("Wheel", "wheel", "bend"),
    "bend lever": _control("Bend lever", "lever", "bend"),
    "lever": _control("Lever", "lever"),
    "arm": _control("Arm", "lever", "bend"),
    "breath sensor": _control("Breath", "breath", "controller", 2),
    "breath": _control("Breath", "breath", "controller", 2),
    "aftertouch": _control("Aftertouch", "aftertouch", "pressure"),
    "key": Noun("keys", "Keys"),
    "pedal key": Noun("keys", "Pedalboard"),
    "pedalboard": Noun("keys", "Pedalboard"),
    "manual": Noun("keys", "Manual"),
    "keybed": Noun("keys", "Keys"),
    "string": Noun("keys", "String"),
    "row": Noun("keys", "Row"),
    "part": Noun("part", "Part"),
    "layer": Noun("part", "Layer"),
    "cell": Noun("part", "Cell"),
    "voice": Noun("part", "Voice"),
    "division": Noun("part", "Division"),
    "track": Noun("part", "Track"),
    "kit": Noun("sound", "Kit"),
    "sound": Noun("sound", "Sound"),
    "pattern": Noun("sound", "Pattern"),
    "target": Noun("target", "Target"),
    "parameter": Noun("target", "Parameter"),
    "macro": Noun("target", "Macro"),
    "effect": Noun("target", "Effect"),
    "level": Noun("target", "Level"),
    "volume": Noun("target", "Volume"),
    "master": Noun("target", "Master"),
    "loop": Noun("target", "Loop", "toggle"),
    "organ stop": Noun("target", "Stop", "momentary"),
    "transport button": Noun("target", "Transport", "trigger"),
    "previous and next patch": Noun("target", "Previous patch/Next patch", "trigger"),
    "patch up and down": Noun("target", "Patch up/Patch down", "trigger"),
    "input": Noun("input", "Input"),
    "jack": Noun("jack", "Jack"),
    "din in and out": Noun("midi both", "MIDI"),
    "midi in and out": Noun("midi both", "MIDI"),
    "din in": Noun("midi in", "MIDI in"),
    "midi in": Noun("midi in", "MIDI in"),
    "din out": Noun("midi out", "MIDI out"),
    "midi out": Noun("midi out", "MIDI out"),
    "thru": Noun("midi out", "MIDI thru", "thru"),
    "in": Noun("midi in", "In"),
    "out": Noun("midi out", "Out"),
    "usb port": Noun("usb", "USB"),
    "usb": Noun("usb", "USB"),
    "bluetooth": Noun("bluetooth", "Bluetooth"),
    "output pair": Noun("output", "Pair", "pair"),
    "output": Noun("output", "Output", "mono"),
    "headphone": Noun("output", "Headphones", "headphones"),
    "usb stream": Noun("output", "Stream", "usb"),
    "audio input pair": Noun("audio input", "In", "pair"),
    "audio input": Noun("audio input", "In", "mono"),
    "usb audio": Noun("audio input", "USB audio", "usb"),
    "desk channel": Noun("audio input", "Channel", "mono"),
    "desk channel pair": Noun("audio input", "Channel", "pair"),
    "memory slot": Noun("slots", "Slot"),
    "slot": Noun("slots", "Slot"),
    "program": Noun("programs", "Program"),
    "assign slot": Noun("assign slots", "Slot"),
    "zone": Noun("zones", "Zone"),
}
"""Everything that can be counted on a device, by its word in the singular."""

KIND_WORDS: dict[str, DeviceKind] = {
    "keyboard": "keyboard",
    "keyboard controller": "keyboard",
    "pad box": "pads",
    "pad controller": "pads",
    "sound module": "module",
    "drum module": "module",
    "module": "module",
    "synth": "module",
    "effects rack": "looper",
    "sampler": "sampler",
    "sample rack": "sampler",
    "computer": "computer",
    "laptop": "computer",
    "host": "computer",
    "recorder": "computer",
    "merger": "merger",
    "splitter": "merger",
    "thru box": "merger",
    "looper": "looper",
    "floorboard": "floorboard",
    "encoder": "encoder",
    "console": "encoder",
    "interface": "interface",
    "hub": "interface",
    "desk": "desk",
    "mixing desk": "desk",
    "audio interface": "interface",
}
"""What a whole device can be said to be."""
