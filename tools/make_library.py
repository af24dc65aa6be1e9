"""Write the generic devices of the library to ``src/vastzone/library``.

    python tools/make_library.py

Each is told in a line, as anyone tells a device of their own.  What they say of limits is common,
not anyone's measurement: nothing is marked as verified.
"""

from typing import Any, NamedTuple

from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import new_device, with_line
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import VelocityCurve
from vastzone.core.plan.model.plan import Device, Switch
from vastzone.files.devices import SHIPPED, SUFFIX, write_device

COMMON = "common among such devices"
CURVES = (
    VelocityCurve(name="Light", points=((0, 1), (32, 62), (80, 108), (127, 127))),
    VelocityCurve(name="Even", points=((0, 1), (127, 127))),
    VelocityCurve(name="Firm", points=((0, 1), (48, 20), (96, 76), (127, 127))),
    VelocityCurve(name="Narrow", points=((0, 40), (64, 80), (127, 120))),
)
CLOCK = Switch(id="clock", name="Clock", choices=("own", "from MIDI", "from USB"))


class Entry(NamedTuple):
    """A device of the library: file, name, line; what it is good for, in words one searches for."""

    ident: str
    name: str
    line: str
    notes: str = ""
    more: dict[str, Any] = {}


PLAYED = {"curves": CURVES}
JOINED = "DIN out, USB"
WHEELS = "pitch wheel, modulation wheel, sustain jack"
ENTRIES = (
    Entry(
        "keyboard-25",
        "Keyboard, 25 keys",
        f"keyboard, 25 keys, {WHEELS}, 1 zone, 16 memory slots, {JOINED}",
        "A small plain master keyboard.",
        PLAYED,
    ),
    Entry(
        "keyboard-25-pads",
        "Keyboard, 25 keys, 8 pads and 8 knobs",
        "keyboard, 25 keys, 8 pads as 2 × 4 notes from 36 channel 10, 8 knobs controllers from 20, "
        f"4 buttons, {WHEELS}, 1 zone, 8 memory slots, USB",
        "A small master keyboard with pads and knobs for a laptop.",
        PLAYED,
    ),
    Entry(
        "keyboard-37",
        "Keyboard, 37 keys, one channel",
        "keyboard, 37 keys, pitch wheel, modulation wheel, sustain jack, one channel, "
        "1 zone, 1 memory slot, no buffer, USB",
        "Sends everything on one channel, chosen on its panel.",
        PLAYED,
    ),
    Entry(
        "keyboard-49",
        "Keyboard, 49 keys",
        f"keyboard, 49 keys, {WHEELS}, 2 zones, 16 memory slots, {JOINED}",
        "A plain master keyboard.",
        PLAYED,
    ),
    Entry(
        "keyboard-49-faders",
        "Keyboard, 49 keys, 9 faders and 8 knobs",
        "keyboard, 49 keys, 9 faders controllers from 20, 8 knobs controllers from 70, "
        f"6 buttons, {WHEELS}, expression jack, 4 zones, 16 memory slots, {JOINED}",
        "A master keyboard with faders for levels or drawbars.",
        PLAYED,
    ),
    Entry(
        "keyboard-61",
        "Keyboard, 61 keys",
        f"keyboard, 61 keys, {WHEELS}, expression jack, aftertouch, 4 zones, 16 memory slots, "
        f"{JOINED}",
        "A plain master keyboard.",
        PLAYED,
    ),
    Entry(
        "keyboard-61-full",
        "Keyboard, 61 keys, pads, faders and knobs",
        "keyboard, 61 keys, 8 pads as 2 × 4 notes from 36 channel 10, 9 faders controllers from "
        f"20, 8 knobs controllers from 70, 6 buttons, {WHEELS}, expression jack, aftertouch, "
        f"4 zones, 16 memory slots, {JOINED}, DIN in",
        "A master keyboard with everything on it.",
        PLAYED,
    ),
    Entry(
        "keyboard-76",
        "Keyboard, 76 keys",
        f"keyboard, 76 keys, {WHEELS}, expression jack, triple jack, aftertouch, 4 zones, "
        f"16 memory slots, {JOINED}",
        "A long master keyboard.",
        PLAYED,
    ),
    Entry(
        "keyboard-88",
        "Keyboard, 88 keys",
        f"keyboard, 88 keys, {WHEELS}, expression jack, triple jack, breath jack, aftertouch, "
        f"4 zones, 16 memory slots, {JOINED}",
        "A full length master keyboard with weighted keys.",
        PLAYED,
    ),
    Entry(
        "stage-73",
        "Stage keyboard, 73 keys",
        "keyboard, 73 keys, pitch wheel, modulation wheel, aftertouch, 6 knobs controllers from "
        "70, 9 drawbars controllers from 12, 8 buttons, sustain jack, rotor jack, swell jack, "
        "control jack, dual-switch jack, triple jack, 4 layers called Piano/Organ/Synth/Strings "
        "with volume each, 4 zones, 64 memory slots, DIN in and out, USB, 2 output pairs, "
        "headphones, up and down go round, powered by mains",
        "A stage piano and organ with sounds of its own and many pedals.",
        {**PLAYED, "switches": (CLOCK,)},
    ),
    Entry(
        "lever-wheel",
        "Lever and wheel",
        "keyboard, bend lever, modulation wheel, 2 buttons, USB, DIN out",
        "Bends and moves beside any keyboard.",
    ),
    Entry(
        "breath-box",
        "Breath controller",
        "breath sensor, 1 knob called Drive, USB",
        "Blown: breath as a controller.",
    ),
    Entry(
        "strings-6",
        "String controller, 6 rows of 22 notes",
        'keyboard, 6 strings of 22 notes from E2 own channels from 1 called "String {n}", '
        "arm, 3 knobs controllers from 20, 2 buttons, 6 zones, 8 memory slots, USB, DIN out",
        "Plucked like a guitar: each row of notes on its own channel, or one for all.",
    ),
    Entry(
        "pads-16",
        "Pad controller, 16 pads, 3 banks",
        "pads, 16 pads as 4 × 4 in 3 banks notes from 36 channel 1, 4 knobs in 3 banks "
        f"controllers from 16, 6 buttons controllers from 80, 8 memory slots, {JOINED}",
        "A pad box with knobs and buttons.",
    ),
    Entry(
        "pads-8",
        "Pad controller, 8 pads, 4 programs",
        "pads, 8 pads as 2 × 4 notes from 36 channel 10, 8 knobs controllers from 20, "
        f"4 programs, 4 memory slots, {JOINED}",
        "A small pad box with four programs.",
    ),
    Entry(
        "pads-9",
        "Drum pad box, 9 pads and trigger jacks",
        "pads, 9 pads as 3 × 3 notes from 36 channel 10, 2 dual inputs, hi-hat input, "
        "2 foot switches, 50 memory slots, USB, DIN in and out, output pair",
        "Struck with sticks, with jacks for more pads.",
    ),
    Entry(
        "pads-round",
        "Pad controller, 8 round pads and 2 bars",
        f"pads, 8 pads as 2 × 4 round notes from 38 channel 1, 16 memory slots, {JOINED}",
        "Round pads with two bars above them.",
    ),
    Entry(
        "percussion-pad",
        "Percussion pad, 8 pads",
        "pads, 8 pads as 2 × 4 notes from 60 channel 10, 1 dual input, sustain jack, 1 knob, "
        "100 memory slots, USB, DIN in and out, output pair, adapter 9 V 500 mA centre minus",
        "Struck with sticks or hands.",
    ),
    Entry(
        "floorboard-12",
        "Floorboard, 10 switches and 2 pedals",
        "floorboard, 10 foot switches as 2 × 5 controllers from 102 channel 16, 2 foot pedals "
        "controllers from 20 channel 16, voltage jack, 16 memory slots, DIN out",
        "Pedals and foot switches by MIDI.",
    ),
    Entry(
        "floorboard-4",
        "Floorboard, 4 switches",
        "floorboard, 4 foot switches controllers from 80 channel 16, 8 memory slots, USB, DIN out",
        "Few foot switches for loops and programs.",
    ),
    Entry(
        "drum-module-8",
        "Drum module, 8 inputs",
        "drum module, 1 kick input called Kick, 3 dual inputs called Snare/Tom 1/Tom 2, 1 hi-hat "
        "input called Hat, 3 piezo-switch inputs called Ride/Crash/Aux, 40 memory slots, "
        "DIN out, USB, output pair",
        "Drums: kick, snare, toms, hat with pedal, ride, crash.",
    ),
    Entry(
        "drum-module-10",
        "Drum module, 10 inputs",
        "drum module, a channel for each program, 1 kick input called Kick, 4 dual inputs called "
        "Snare/Tom 1/Tom 2/Tom 3, 1 hi-hat input called Hat, 1 three-way input called Ride, "
        "3 piezo-switch inputs called Crash 1/Crash 2/Aux, 50 memory slots, DIN in and out, USB, "
        "4 outputs, headphones",
        "Drums with rims, edges, a bell and a hat.",
    ),
    Entry(
        "drum-module-12",
        "Drum module, 12 inputs",
        "drum module, 1 kick input called Kick, 6 dual inputs called Snare/Tom 1/Tom 2/Tom 3/Tom "
        "4/Side, 1 hi-hat input called Hat, 1 three-way input called Ride, 3 piezo-switch inputs "
        "called Crash 1/Crash 2/China, 100 memory slots, DIN in and out, USB, 8 outputs, "
        "headphones",
        "Drums with rims, edges, a bell and a hat, an output for each.",
    ),
    Entry(
        "drum-module-14",
        "Drum module, 14 inputs",
        "drum module, 2 kick inputs called Kick 1/Kick 2, 7 dual inputs called Snare/Side/Tom 1/"
        "Tom 2/Tom 3/Tom 4/Tom 5, 1 hi-hat input called Hat, 2 three-way inputs called Ride/Bell, "
        "2 piezo-switch inputs called Crash 1/Crash 2, 100 memory slots, DIN in and out, USB, "
        "8 outputs, headphones",
        "A large set of drums.",
    ),
    Entry(
        "module-16",
        "Sound module, 16 parts",
        "module, 15 parts, DIN in, thru, USB, output pair, delay 2 ms",
        "Sounds on sixteen channels, drums on 10.",
    ),
    Entry(
        "synth-1",
        "Synth, one sound",
        "synth, 1 voice called Lead mono, 4 parameters called Cutoff/Resonance/Attack/Release "
        "controllers from 71 channel 1, DIN in and out, USB, output pair",
        "One sound at a time, with its filter and envelope.",
    ),
    Entry(
        "sample-rack",
        "Sample rack, 16 sounds",
        "sampler, 16 sounds from 36 channel 10, DIN in, USB, 4 outputs",
        "One-shot samples on notes.",
    ),
    Entry(
        "sampler-12",
        "Sampler, 12 cells",
        "sampler, 12 cells one-shot own channels from 1, answers 24–108, DIN in",
        "A sample in each cell, each on its own channel.",
    ),
    Entry(
        "sampler-16",
        "Sampler, 16 cells",
        "sampler, 16 cells one-shot own channels from 1 with volume each, DIN in, USB, 8 outputs",
        "A sample in each cell, each on its own channel.",
    ),
    Entry(
        "organ",
        "Organ engine, 24 stops",
        'computer, 3 divisions called Great/Swell/Pedal, 24 organ stops called "Stop {n}" '
        "controllers from 20 channel 4, 1 level called Swell, it learns, USB, output pair",
        "A pipe organ on a laptop: manuals, pedal, stops, swell.",
    ),
    Entry(
        "looper-16",
        "Looper, 16 slots",
        'looper, 16 loops called "Loop {n}", 4 levels 0–100 % called Voice/Guitar/Loops/Rhythm, '
        "16 assign slots 4 taken, 20 sounds from 35 channel 10, keeps controllers 80 and 81 for "
        "patch up and down, DIN in and out, USB, output pair",
        "Loops, levels and a rhythm of its own.",
    ),
    Entry(
        "effects-rack",
        "Effects rack, fixed parameters",
        "effects rack, 12 parameters fixed controllers from 12 channel 1, DIN in, thru, output "
        "pair",
        "Effects whose parameters are numbered by their maker.",
    ),
    Entry(
        "host",
        "Host that learns",
        "host that learns, 6 layers with volume each, master, 4 loops, previous and next patch, "
        "3 transport buttons called Play/Stop/Record, 4 USB ports, USB stream, delay 5.3 ms",
        "A program on a laptop: layers, loops, transport, patches.",
    ),
    Entry(
        "recorder",
        "Recorder that takes all",
        "recorder, 1 track called Takes takes all, 4 USB ports",
        "Records every message, sounds nothing.",
    ),
    Entry(
        "drum-computer",
        "Drum computer, 16 patterns on notes",
        "module, 12 sounds from 36 channel 10, 16 patterns from 60 channel 11 fixed, DIN in, "
        "USB, output pair",
        "Patterns that are called by notes, and its drums.",
        {"switches": (CLOCK,)},
    ),
    Entry(
        "encoder-lowest",
        "Console encoder, lowest key first",
        "encoder, 12 lines, 24 commons, 4 analogue inputs, 2 manuals of 56 keys from 36, "
        "27 pedal keys from 36, 24 stops, 2 shoes, DIN out, USB",
        "Scans an organ console; its first line is the lowest key.",
    ),
    Entry(
        "encoder-names",
        "Console encoder, lines by note name",
        "encoder, 12 lines, 24 commons, 4 analogue inputs, asks for note numbers, 2 manuals of "
        "56 keys from 36, 27 pedal keys from 36, 24 stops, 2 shoes, DIN out, USB",
        "Scans an organ console; each line is one note name.",
    ),
    Entry("merger-2", "Merger, 2 in, 1 out", "merger, 2 ins, out, delay 0.5 ms", "Joins cables."),
    Entry("merger-4", "Merger, 4 in, 1 out", "merger, 4 ins, out, delay 0.5 ms", "Joins cables."),
    Entry("thru-box", "Thru box, 1 in, 4 out", "thru box, in, 4 outs", "Shares one cable."),
    Entry("splitter-2", "Splitter, 1 in, 2 out", "splitter, in, 2 outs", "Shares one cable."),
    Entry(
        "interface-4",
        "Interface, 4 in, 4 out",
        "interface, 4 ins, 4 outs, USB, delay 1 ms",
        "DIN cables into a computer.",
    ),
    Entry("hub-4", "USB hub, 4 ports", "hub, 5 USB ports", "More USB sockets for a computer."),
    Entry(
        "computer",
        "Computer",
        "computer, 4 USB ports, MIDI in and out, delay 5.3 ms",
        "Passes on what it is told to.",
    ),
)


def made(entry: Entry) -> Device:
    """A device of the library."""
    line = read_line(entry.line)
    device = changed(new_device(line, entry.name), id=entry.ident, notes=entry.notes)
    limits = tuple(changed(limit, source=COMMON) for limit in device.limits)
    device = changed(device, limits=limits, **entry.more)
    return SPECIAL.get(entry.ident, lambda same: same)(device)


def _with_bars(device: Device) -> Device:
    """Two bars above the round pads."""
    bars = read_line("2 pads notes from 36 channel 1 called Bar 1/Bar 2")
    barred = new_device(bars)
    top = [
        changed(bar, shape="bar", span=2, row=0, column=2 * place)
        for place, bar in enumerate(barred.controls)
    ]
    below = [changed(pad, row=pad.row + 1) for pad in device.controls]
    program = device.programs[0]
    sends = (*barred.programs[0].sends, *program.sends)
    return changed(device, controls=(*top, *below), programs=(changed(program, sends=sends),))


def _with_rhythm_on_10(device: Device) -> Device:
    """Parts on all channels, drums on 10."""
    low = read_line("9 parts own channels from 1")
    drums = read_line(
        "6 sounds from 36 channel 10 called Kick/Snare/Closed hat/Open hat/Ride/Crash"
    )
    high = read_line('6 parts own channels from 11 called "Part {n}"')
    device = changed(device, parts=())
    for line in (low, drums, high):
        device = with_line(device, line)
    notes = (36, 38, 42, 46, 51, 49)
    kit = device.kits[0]
    sounds = tuple(changed(s, note=n) for s, n in zip(kit.sounds, notes, strict=True))
    parts = []
    for part in device.parts:
        number = part.channel or 0
        name = "Drums" if part.rhythm else f"Part {number}"
        tag = "DR" if part.rhythm else f"{number:02}"
        colour = number % 8
        parts.append(changed(part, id=f"part-{number}", name=name, tag=tag, colour=colour))
    return changed(device, kits=(changed(kit, sounds=sounds),), parts=tuple(parts))


def _by_names(device: Device) -> Device:
    """Every keyboard of an encoder with its lines by note names."""
    console = device.console
    assert console is not None
    blocks = []
    for block in console.blocks:
        blocks.append(changed(block, school="note names") if block.keybed else block)
    return changed(device, console=changed(console, blocks=tuple(blocks)))


SPECIAL = {
    "pads-round": _with_bars,
    "module-16": _with_rhythm_on_10,
    "encoder-names": _by_names,
}
"""What a line does not say."""


if __name__ == "__main__":
    SHIPPED.mkdir(exist_ok=True)
    for old in SHIPPED.glob(f"*{SUFFIX}"):
        old.unlink()
    for entry in ENTRIES:
        write_device(made(entry), SHIPPED / f"{entry.ident}{SUFFIX}")
