"""What a device can be said to have: the words for it, and what each of them makes."""

from typing import Literal, NamedTuple

from vastzone.core.plan.model.values import ControlKind, DeviceKind, Sending
from vastzone.core.say import say

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
    "pad": _control(say("Pad"), "pad"),
    "cross-fader": _control(say("Crossfader"), "fader"),
    "fader": _control(say("Fader"), "fader"),
    "slider": _control(say("Slider"), "fader"),
    "drawbar": _control(say("Drawbar"), "fader"),
    "knob": _control(say("Knob"), "knob"),
    "dial": _control(say("Dial"), "knob"),
    "button": _control(say("Button"), "button"),
    "piston": _control(say("Piston"), "button"),
    "foot switch": _control(say("Foot switch"), "switch"),
    "switch": _control(say("Switch"), "switch"),
    "stop": _control(say("Stop"), "stop"),
    "tab": _control(say("Tab"), "stop"),
    "foot pedal": _control(say("Pedal"), "pedal"),
    "pedal": _control(say("Pedal"), "pedal"),
    "swell shoe": _control(say("Swell"), "shoe"),
    "crescendo shoe": _control(say("Crescendo"), "shoe"),
    "shoe": _control(say("Shoe"), "shoe"),
    "pitch wheel": _control(say("Pitch wheel"), "wheel", "bend"),
    "bend wheel": _control(say("Bend wheel"), "wheel", "bend"),
    "modulation wheel": _control(say("Modulation wheel"), "wheel", "controller", 1),
    "wheel": _control(say("Wheel"), "wheel", "bend"),
    "bend lever": _control(say("Bend lever"), "lever", "bend"),
    "lever": _control(say("Lever"), "lever"),
    "arm": _control(say("Arm"), "lever", "bend"),
    "breath sensor": _control(say("Breath"), "breath", "controller", 2),
    "breath": _control(say("Breath"), "breath", "controller", 2),
    "aftertouch": _control(say("Aftertouch"), "aftertouch", "pressure"),
    "key": Noun("keys", say("Keys")),
    "pedal key": Noun("keys", say("Pedalboard")),
    "pedalboard": Noun("keys", say("Pedalboard")),
    "manual": Noun("keys", say("Manual")),
    "keybed": Noun("keys", say("Keys")),
    "string": Noun("keys", say("String")),
    "row": Noun("keys", say("Row")),
    "part": Noun("part", say("Part")),
    "layer": Noun("part", say("Layer")),
    "cell": Noun("part", say("Cell")),
    "voice": Noun("part", say("Voice")),
    "division": Noun("part", say("Division")),
    "track": Noun("part", say("Track")),
    "kit": Noun("sound", say("Kit")),
    "sound": Noun("sound", say("Sound")),
    "pattern": Noun("sound", say("Pattern")),
    "target": Noun("target", say("Target")),
    "parameter": Noun("target", say("Parameter")),
    "macro": Noun("target", say("Macro")),
    "effect": Noun("target", say("Effect")),
    "level": Noun("target", say("Level")),
    "volume": Noun("target", say("Volume")),
    "master": Noun("target", say("Master")),
    "loop": Noun("target", say("Loop"), "toggle"),
    "organ stop": Noun("target", say("Stop"), "momentary"),
    "transport button": Noun("target", say("Transport"), "trigger"),
    "previous and next patch": Noun("target", say("Previous patch/Next patch"), "trigger"),
    "patch up and down": Noun("target", say("Patch up/Patch down"), "trigger"),
    "input": Noun("input", say("Input")),
    "jack": Noun("jack", say("Jack")),
    "din in and out": Noun("midi both", "MIDI"),
    "midi in and out": Noun("midi both", "MIDI"),
    "din in": Noun("midi in", say("MIDI in")),
    "midi in": Noun("midi in", say("MIDI in")),
    "din out": Noun("midi out", say("MIDI out")),
    "midi out": Noun("midi out", say("MIDI out")),
    "thru": Noun("midi out", say("MIDI thru"), "thru"),
    "in": Noun("midi in", say("In")),
    "out": Noun("midi out", say("Out")),
    "usb port": Noun("usb", "USB"),
    "usb": Noun("usb", "USB"),
    "bluetooth": Noun("bluetooth", "Bluetooth"),
    "output pair": Noun("output", say("Pair"), "pair"),
    "output": Noun("output", say("Output"), "mono"),
    "headphone": Noun("output", say("Headphones"), "headphones"),
    "usb stream": Noun("output", say("Stream"), "usb"),
    "audio input pair": Noun("audio input", say("In"), "pair"),
    "audio input": Noun("audio input", say("In"), "mono"),
    "usb audio": Noun("audio input", say("USB audio"), "usb"),
    "desk channel": Noun("audio input", say("Channel"), "mono"),
    "desk channel pair": Noun("audio input", say("Channel"), "pair"),
    "memory slot": Noun("slots", say("Slot")),
    "slot": Noun("slots", say("Slot")),
    "program": Noun("programs", say("Program")),
    "assign slot": Noun("assign slots", say("Slot")),
    "zone": Noun("zones", say("Zone")),
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
