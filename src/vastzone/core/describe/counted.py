"""How many of a kind of thing there are, in words."""

from vastzone.core.describe.nouns import NOUNS, Noun
from vastzone.core.say import noted_many, say, say_many

COUNTED: dict[str, tuple[str, str]] = {
    "aftertouch": noted_many("{count} aftertouch", "{count} aftertouch"),
    "arm": noted_many("{count} arm", "{count} arms"),
    "assign slot": noted_many("{count} assign slot", "{count} assign slots"),
    "audio in": noted_many("{count} audio in", "{count} audio ins"),
    "audio input": noted_many("{count} audio input", "{count} audio inputs"),
    "audio input pair": noted_many("{count} audio input pair", "{count} audio input pairs"),
    "bend lever": noted_many("{count} bend lever", "{count} bend levers"),
    "bend wheel": noted_many("{count} bend wheel", "{count} bend wheels"),
    "bluetooth": noted_many("{count} Bluetooth port", "{count} Bluetooth ports"),
    "breath": noted_many("{count} breath", "{count} breath"),
    "breath sensor": noted_many("{count} breath sensor", "{count} breath sensors"),
    "button": noted_many("{count} button", "{count} buttons"),
    "cable": noted_many("{count} cable", "{count} cables"),
    "cell": noted_many("{count} cell", "{count} cells"),
    "channel": noted_many("{count} channel", "{count} channels"),
    "control": noted_many("{count} control", "{count} controls"),
    "crescendo shoe": noted_many("{count} crescendo shoe", "{count} crescendo shoes"),
    "cross-fader": noted_many("{count} cross-fader", "{count} cross-faders"),
    "desk channel": noted_many("{count} desk channel", "{count} desk channels"),
    "desk channel pair": noted_many("{count} desk channel pair", "{count} desk channel pairs"),
    "dial": noted_many("{count} dial", "{count} dials"),
    "din in": noted_many("{count} DIN input", "{count} DIN inputs"),
    "din in and out": noted_many("{count} MIDI in and out", "{count} MIDI ins and outs"),
    "din out": noted_many("{count} DIN output", "{count} DIN outputs"),
    "division": noted_many("{count} division", "{count} divisions"),
    "drawbar": noted_many("{count} drawbar", "{count} drawbars"),
    "effect": noted_many("{count} effect", "{count} effects"),
    "fader": noted_many("{count} fader", "{count} faders"),
    "foot pedal": noted_many("{count} foot pedal", "{count} foot pedals"),
    "foot switch": noted_many("{count} foot switch", "{count} foot switches"),
    "headphone": noted_many("{count} headphone", "{count} headphones"),
    "in": noted_many("{count} in", "{count} ins"),
    "input": noted_many("{count} input", "{count} inputs"),
    "jack": noted_many("{count} jack", "{count} jacks"),
    "key": noted_many("{count} key", "{count} keys"),
    "keybed": noted_many("{count} keybed", "{count} keybeds"),
    "kit": noted_many("{count} kit", "{count} kits"),
    "knob": noted_many("{count} knob", "{count} knobs"),
    "layer": noted_many("{count} layer", "{count} layers"),
    "level": noted_many("{count} level", "{count} levels"),
    "lever": noted_many("{count} lever", "{count} levers"),
    "loop": noted_many("{count} loop", "{count} loops"),
    "macro": noted_many("{count} macro", "{count} macros"),
    "manual": noted_many("{count} manual", "{count} manuals"),
    "master": noted_many("{count} master", "{count} masters"),
    "memory slot": noted_many("{count} memory slot", "{count} memory slots"),
    "midi in": noted_many("{count} MIDI input", "{count} MIDI inputs"),
    "midi in and out": noted_many("{count} MIDI in and out", "{count} MIDI ins and outs"),
    "midi out": noted_many("{count} MIDI output", "{count} MIDI outputs"),
    "modulation wheel": noted_many("{count} modulation wheel", "{count} modulation wheels"),
    "organ stop": noted_many("{count} organ stop", "{count} organ stops"),
    "out": noted_many("{count} out", "{count} outs"),
    "output": noted_many("{count} output", "{count} outputs"),
    "output pair": noted_many("{count} output pair", "{count} output pairs"),
    "pad": noted_many("{count} pad", "{count} pads"),
    "parameter": noted_many("{count} parameter", "{count} parameters"),
    "part": noted_many("{count} part", "{count} parts"),
    "patch up and down": noted_many("{count} patch up and down", "{count} patch up and down"),
    "pattern": noted_many("{count} pattern", "{count} patterns"),
    "pedal": noted_many("{count} pedal", "{count} pedals"),
    "pedal key": noted_many("{count} pedal key", "{count} pedal keys"),
    "pedalboard": noted_many("{count} pedalboard", "{count} pedalboards"),
    "piston": noted_many("{count} piston", "{count} pistons"),
    "pitch wheel": noted_many("{count} pitch wheel", "{count} pitch wheels"),
    "port": noted_many("{count} port", "{count} ports"),
    "previous and next patch": noted_many(
        "{count} previous and next patch", "{count} previous and next patch"
    ),
    "program": noted_many("{count} program", "{count} programs"),
    "row": noted_many("{count} row", "{count} rows"),
    "shoe": noted_many("{count} shoe", "{count} shoes"),
    "slider": noted_many("{count} slider", "{count} sliders"),
    "slot": noted_many("{count} slot", "{count} slots"),
    "sound": noted_many("{count} sound", "{count} sounds"),
    "source": noted_many("{count} source", "{count} sources"),
    "stop": noted_many("{count} stop", "{count} stops"),
    "string": noted_many("{count} string", "{count} strings"),
    "swell shoe": noted_many("{count} swell shoe", "{count} swell shoes"),
    "switch": noted_many("{count} switch", "{count} switches"),
    "tab": noted_many("{count} tab", "{count} tabs"),
    "target": noted_many("{count} target", "{count} targets"),
    "thru": noted_many("{count} thru", "{count} thrus"),
    "track": noted_many("{count} track", "{count} tracks"),
    "transport button": noted_many("{count} transport button", "{count} transport buttons"),
    "usb": noted_many("{count} USB port", "{count} USB ports"),
    "usb audio": noted_many("{count} USB audio", "{count} USB audio"),
    "usb port": noted_many("{count} USB port", "{count} USB ports"),
    "usb stream": noted_many("{count} USB stream", "{count} USB streams"),
    "voice": noted_many("{count} voice", "{count} voices"),
    "volume": noted_many("{count} volume", "{count} volumes"),
    "wheel": noted_many("{count} wheel", "{count} wheels"),
    "zone": noted_many("{count} zone", "{count} zones"),
}
"""One and more of everything that can be counted, by its word in the singular."""


def counted(count: int, word: str) -> str:
    """A count of things with the word for them: «1 fader», «9 faders»."""
    if word not in COUNTED:
        return say("{count} × {word}", count=count, word=say(word))
    return say_many(*COUNTED[word], count)


def counted_nouns(count: int, noun: Noun) -> str:
    """A count of what a noun makes, with its own word."""
    return counted(count, next(word for word, known in NOUNS.items() if known == noun))
