"""The Paper Lighthouse's rig, as found and ready."""

from typing import Any

from vastzone.core.console.pins import pin_out
from vastzone.core.console.wires import wire_list
from vastzone.core.plan.edits import audio, consoles, hearing, pedals, setlists
from vastzone.core.plan.edits import power as feeding
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import set_plan
from vastzone.core.plan.edits.plugs import take_over
from vastzone.core.plan.model.audio import (
    AudioCable,
    AudioInput,
    AudioPass,
    OutputWish,
)
from vastzone.core.plan.model.bodies import (
    AudioBuffer,
    AudioOutput,
    Hearing,
    Place,
    PowerSource,
    Supply,
)
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, Encoder, Fault, Item, Seen, Shoe, Way
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send, Zone, Zoned
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.limits import CountLimit, Reserved, ScopeLimit
from vastzone.core.plan.model.parts import Kit, Part, Sound, Target
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.plan import (
    Cable,
    Device,
    Plan,
    Port,
    ProgramChoice,
    Scene,
    Storage,
    Thru,
)
from vastzone.core.plan.model.setlists import SetList, SetStep
from vastzone.core.plan.model.triggers import (
    Importance,
    InputType,
    Plug,
    Sensor,
    TriggerInput,
    TriggerPad,
)
from vastzone.core.plan.model.wishes import SettingRecord, Wish
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution
from vastzone.core.solve.pedals import fit_pedals, sockets_of
from vastzone.core.solve.plugging import ModuleInput, fit

MANUAL = "maker's manual"


def zone(name: str, low: int, high: int, channel: int, **more: Any) -> Zone:
    ident = name.lower().replace(" ", "-")
    return Zone(id=ident, name=name, keybed="keys", low=low, high=high, channel=channel, **more)


WHEELS = (
    Send(control="bend", message="bend"),
    Send(control="modulation", message="controller", number=1),
    Send(control="sustain", message="controller", number=64),
)


SWITCHED: tuple[Function, ...] = (
    "sustain",
    "sostenuto",
    "soft",
    "hold",
    "program up",
    "program down",
    "any",
)
HERON_JACKS = (
    PedalJack(
        id="sustain-jack",
        name="Sustain",
        accepts=("switch",),
        functions=SWITCHED,
        control="sustain",
        sense="open",
        senses=("open", "closed"),
    ),
    PedalJack(
        id="expression-jack",
        name="Expression",
        accepts=("continuous",),
        functions=("swell", "morph", "any"),
        control="expression",
        wiper="ring",
    ),
    PedalJack(
        id="dual-jack",
        name="Dual switch",
        accepts=("dual switch", "switch"),
        functions=("step", "hold", "tap tempo", "any"),
        control="dual-left",
        sense="open",
    ),
)
PEDALS = (
    Pedal(
        id="damper",
        name="Damper",
        kind="switch",
        function="sustain",
        importance="must",
        contact="closed",
    ),
    Pedal(
        id="old-swell",
        name="Old swell pedal",
        kind="continuous",
        function="swell",
        importance="spare",
        wiper="tip",
    ),
    Pedal(id="swell", name="Swell pedal", kind="continuous", function="swell", wiper="ring"),
    Pedal(id="footswitch", name="Dual footswitch", kind="dual switch", function="any"),
    Pedal(id="small-damper", name="Small damper", kind="switch", function="sustain"),
)
PEDALS_PLUGGED = (
    PedalPlug(pedal="damper", jack="heron:sustain-jack"),
    PedalPlug(pedal="old-swell", jack="heron:expression-jack"),
    PedalPlug(pedal="footswitch", jack="heron:dual-jack"),
    PedalPlug(pedal="small-damper", jack="wren:sustain-jack"),
)


def heron() -> Device:
    programs = (
        ("Dusk", (zone("Viol", 28, 47, 1), zone("Celesta", 48, 100, 2))),
        (
            "The Keeper's Stair",
            (
                zone("Viol", 28, 47, 1),
                zone("Strings", 48, 71, 3, layer=True),
                zone("Sea organ", 48, 71, 5, layer=True),
                zone("Celesta", 72, 100, 2),
            ),
        ),
        ("Herring Market", (zone("Brass", 28, 64, 4), zone("Strings", 60, 100, 3))),
        ("Squall", (zone("Sea organ", 28, 55, 5), zone("Brass", 68, 100, 4))),
        ("Wreck Bell", (zone("Strings", 28, 59, 3), zone("Bells", 60, 100, 9))),
        (
            "First Light",
            (zone("Viol", 28, 47, 1), zone("Strings", 48, 76, 3), zone("Celesta", 77, 100, 2)),
        ),
    )
    pedals = (
        Send(control="expression", message="controller", number=11),
        Send(control="dual-left", message="controller", number=102, channel=16),
        Send(control="dual-right", message="controller", number=21, channel=16),
    )
    return Device(
        id="heron",
        name="Heron 73",
        kind="keyboard",
        sensing_ms=1.2,
        octaves=4,
        first_program=1,
        ports=(
            Port(id="din-out", name="MIDI out", flow="out"),
            Port(id="usb", name="USB", flow="both", link="usb"),
        ),
        keybeds=(Keybed(id="keys", name="Keys", low=28, keys=73),),
        controls=(
            Control(id="bend", name="Pitch wheel", kind="wheel"),
            Control(id="modulation", name="Modulation wheel", kind="wheel"),
            Control(id="sustain", name="Sustain", kind="switch"),
            Control(id="expression", name="Expression", kind="pedal"),
            Control(id="dual-left", name="Dual switch, left", kind="switch"),
            Control(id="dual-right", name="Dual switch, right", kind="switch"),
        ),
        programs=tuple(
            Program(number=n, name=name, zones=zones, sends=(*WHEELS, *pedals))
            for n, (name, zones) in enumerate(programs)
        ),
        jacks=HERON_JACKS,
        storage=Storage(step="stops"),
        player="Keys",
        limits=(
            CountLimit(what="zones", most=4, source=MANUAL),
            CountLimit(what="memory-slots", most=32, source=MANUAL),
            ScopeLimit(setting="zone-channel", scope="control", source=MANUAL),
        ),
        preparation=("Nobody stands on the pedals while it is switched on.",),
    )


def wren() -> Device:
    return Device(
        id="wren",
        name="Wren 32",
        kind="keyboard",
        sensing_ms=2.5,
        player="Keys",
        octaves=3,
        first_program=1,
        ports=(Port(id="usb", name="USB", flow="both", link="usb"),),
        keybeds=(Keybed(id="keys", name="Keys", low=65, keys=32),),
        controls=(Control(id="sustain", name="Sustain", kind="switch"),),
        jacks=(
            PedalJack(
                id="sustain-jack",
                name="Sustain",
                accepts=("switch",),
                functions=("sustain",),
                control="sustain",
                sense="at power-up",
            ),
        ),
        programs=(
            Program(
                number=0,
                name="Panel",
                zones=(zone("Swell manual", 65, 96, 12),),
                sends=(WHEELS[2],),
            ),
        ),
        limits=(
            CountLimit(what="zones", most=1, source=MANUAL),
            ScopeLimit(
                setting="zone-channel",
                scope="global",
                source=MANUAL,
                verified="tried at the rehearsal",
            ),
        ),
    )


def dipper() -> Device:
    pads = tuple(
        Control(
            id=f"pad-{n + 1}", name=f"Pad {n + 1}", kind="pad", banks=2, row=n // 4, column=n % 4
        )
        for n in range(12)
    )
    knobs = tuple(Control(id=f"knob-{n}", name=f"Knob {n}", kind="knob") for n in range(1, 5))
    buttons = tuple(
        Control(id=f"button-{n}", name=f"Button {n}", kind="button") for n in range(1, 4)
    )
    sends = tuple(
        Send(control=f"pad-{n + 1}", bank=1, message="note", number=36 + n, channel=1)
        for n in range(12)
    )
    moves = (
        Send(control="knob-1", message="controller", number=103, channel=16),
        Send(control="knob-2", message="controller", number=22, channel=16),
        Send(control="knob-3", message="controller", number=22, channel=16),
        Send(control="button-1", message="controller", number=23, channel=16, mode="toggle"),
    )
    return Device(
        id="dipper",
        name="Dipper 12",
        kind="pads",
        sensing_ms=2.0,
        player="Pads",
        octaves=5,
        first_program=1,
        ports=(Port(id="din-out", name="MIDI out", flow="out"),),
        controls=(*pads, *knobs, *buttons),
        programs=(Program(number=0, name="Factory", sends=(*sends, *moves)),),
        limits=(CountLimit(what="memory-slots", most=8, source=MANUAL),),
        preparation=("Close its editor on the laptop.", "Set its USB mode to MIDI."),
    )


CURLEW: tuple[tuple[str, tuple[InputType, ...], int], ...] = (
    ("Kick", ("kick",), 36),
    ("Snare", ("dual",), 38),
    ("Tom 1", ("dual",), 48),
    ("Tom 2", ("dual",), 45),
    ("Tom 3", ("dual", "piezo-switch"), 43),
    ("Aux", ("dual", "piezo-switch"), 51),
    ("Crash 1", ("piezo-switch",), 49),
    ("Crash 2", ("piezo-switch",), 54),
    ("Ride", ("three-way",), 57),
    ("Hat", ("hi-hat",), 46),
)
MAIN_ZONES: dict[str, Zoned] = {
    "Crash 1": "bow",
    "Crash 2": "bow",
    "Ride": "bow",
    "Hat": "open",
}
STROKES: tuple[tuple[str, int, Zoned, int], ...] = (
    ("Snare rim", 2, "rim", 40),
    ("Crash 1 edge", 7, "edge", 55),
    ("Crash 2 edge", 8, "edge", 52),
    ("Ride edge", 9, "edge", 59),
    ("Ride bell", 9, "bell", 53),
    ("Hat half", 10, "half", 41),
    ("Hat closed", 10, "closed", 42),
    ("Hat edge", 10, "edge", 26),
    ("Hat chick", 10, "foot chick", 44),
    ("Hat splash", 10, "foot splash", 21),
)


def curlew() -> Device:
    inputs = tuple(
        TriggerInput(id=f"in-{n}", name=name, types=types, type=types[0])
        for n, (name, types, _) in enumerate(CURLEW, 1)
    )
    controls = tuple(
        Control(
            id=f"trigger-{n}",
            name=f"{name} trigger",
            kind="pad",
            row=(n - 1) // 5,
            column=(n - 1) % 5,
            input=f"in-{n}",
            zone=MAIN_ZONES.get(name, "head"),
        )
        for n, (name, _, _) in enumerate(CURLEW, 1)
    )
    controls += tuple(
        Control(
            id=name.lower().replace(" ", "-"),
            name=name,
            kind="pad",
            row=2 + n // 5,
            column=n % 5,
            input=f"in-{jack}",
            zone=zone,
        )
        for n, (name, jack, zone, _) in enumerate(STROKES)
    )
    controls += (
        Control(id="hat-pedal", name="Hat pedal", kind="pedal", input="in-10", zone="pedal"),
    )
    sends = tuple(
        Send(control=f"trigger-{n}", message="note", number=note, channel=10)
        for n, (_, _, note) in enumerate(CURLEW, 1)
    )
    sends += tuple(
        Send(control=name.lower().replace(" ", "-"), message="note", number=note, channel=10)
        for name, _, _, note in STROKES
    )
    sends += (Send(control="hat-pedal", message="controller", number=4, channel=10),)
    return Device(
        id="curlew",
        name="Curlew",
        kind="module",
        sensing_ms=1.6,
        player="Pads",
        octaves=3,
        ports=(Port(id="din-out", name="MIDI out", flow="out"),),
        controls=controls,
        inputs=inputs,
        programs=(Program(number=0, name="Kit 1", sends=sends),),
        preparation=("Turn the amplifier down before the first strike.",),
    )


PADS: tuple[tuple[str, Sensor, Importance, str], ...] = (
    ("Kick", "kick", "must", ""),
    ("Snare", "dual", "must", ""),
    ("Tom, high", "dual", "wanted", ""),
    ("Tom, middle", "dual", "wanted", ""),
    ("Tom, low", "dual", "wanted", ""),
    ("Hat pedal", "hi-hat", "must", ""),
    ("Hat", "switch", "must", ""),
    ("Ride", "two switches", "wanted", ""),
    ("Crash, left", "switch", "wanted", ""),
    ("Crash, right", "switch", "wanted", ""),
    ("Practice pad 1", "single", "spare", "practice"),
    ("Practice pad 2", "single", "spare", "practice"),
    ("Thunder sheet", "single", "wanted", "sheet"),
)
AS_PLUGGED = {
    "kick": 1,
    "snare": 2,
    "tom-high": 3,
    "tom-middle": 4,
    "tom-low": 5,
    "ride": 6,
    "crash-left": 7,
    "crash-right": 9,
    "hat": 10,
    "hat-pedal": 10,
}


def pads() -> tuple[tuple[TriggerPad, ...], tuple[Plug, ...]]:
    """The thirteen sources to plug, and how they were plugged: the ride's bell is lost."""
    made = tuple(
        TriggerPad(
            id=name.lower().replace(", ", "-").replace(" ", "-"),
            name=name,
            sensor=sensor,
            importance=importance,
            model=model,
        )
        for name, sensor, importance, model in PADS
    )
    plugs = tuple(Plug(pad=pad, input=f"curlew:in-{n}") for pad, n in AS_PLUGGED.items())
    return made, plugs


def part(
    ident: str,
    name: str,
    tag: str,
    colour: int,
    channel: int,
    low: int = 0,
    high: int = 127,
    **more: Any,
) -> Part:
    return Part(
        id=ident, name=name, tag=tag, colour=colour, channel=channel, low=low, high=high, **more
    )


DRUMS = (
    ("kick", "Kick", 36),
    ("snare", "Snare", 38),
    ("low-tom", "Low tom", 45),
    ("mid-tom", "Mid tom", 47),
    ("ride", "Ride", 51),
    ("crash", "Crash", 49),
    ("open-hat", "Open hat", 46),
    ("half-hat", "Half-open hat", 41),
    ("closed-hat", "Closed hat", 42),
    ("hat-edge", "Hat edge", 26),
    ("chick", "Foot chick", 44),
    ("splash", "Hat splash", 21),
)
CELLS = ("Gulls", "Chain", "Fog horn", "Bell buoy", "Rain", "Oars")


def dovecote() -> Device:
    sounds = tuple(Sound(id=i, name=name, note=note) for i, name, note in DRUMS)
    return Device(
        id="dovecote",
        name="Dovecote",
        kind="module",
        octaves=3,
        delay_ms=1.5,
        ports=(
            Port(id="din-in", name="MIDI in", flow="in"),
            Port(id="din-thru", name="MIDI thru", flow="out"),
        ),
        thrus=(Thru(source="din-in", dest="din-thru"),),
        kits=(Kit(id="pit", name="Pit kit", sounds=sounds),),
        parts=(
            part("viol", "Bass viol", "BV", 0, 1, 40, 59, output="1"),
            part("celesta", "Celesta", "CE", 1, 2, 48, 108, output="1"),
            part("strings", "Strings", "ST", 2, 3, 24, 108, output="2"),
            part("brass", "Brass band", "BR", 3, 4, 28, 100, output="2"),
            part("sea-organ", "Sea organ", "SO", 4, 5, output="3"),
            part("bells", "Ship's bells", "SB", 5, 6, 48, 108, output="3"),
            part("drums", "Drums", "DR", 6, 10, kit="pit", rhythm=True, output="4"),
        ),
        outputs=mono_outputs(4),
        limits=(CountLimit(what="channels", most=16, source=MANUAL),),
    )


def mono_outputs(count: int) -> tuple[AudioOutput, ...]:
    """Outputs that are called by their number."""
    return tuple(AudioOutput(id=f"{n}", name=f"Output {n}") for n in range(1, count + 1))


def mudlark() -> Device:
    triggers = ("one-shot", "one-shot", "gate", "one-shot", "toggle", "gate")
    return Device(
        id="mudlark",
        name="Mudlark",
        kind="sampler",
        octaves=4,
        delay_ms=2.0,
        ports=(
            Port(id="din-in", name="MIDI in", flow="in"),
            Port(id="din-thru", name="MIDI thru", flow="out"),
        ),
        thrus=(Thru(source="din-in", dest="din-thru"),),
        parts=tuple(
            part(
                name.lower().replace(" ", "-"),
                name,
                "".join(w[0] for w in name.split()).upper() if " " in name else name[:2].upper(),
                n % 8,
                n + 11,
                trigger=triggers[n],
            )
            for n, name in enumerate(CELLS)
        ),
        outputs=(AudioOutput(id="main", name="Main", kind="pair"),),
        programs=(Program(number=0, name="Town"), Program(number=1, name="Storm")),
        changes_by="by hand",
        player="Pads",
        preparation=("Switch its own keys off: they play cells too.",),
    )


def rookery() -> Device:
    return Device(
        id="rookery",
        name="Rookery",
        kind="computer",
        octaves=4,
        delay_ms=0.8,
        buffer=AudioBuffer(frames=512),
        ports=(
            Port(id="usb-1", name="USB 1", flow="both", link="usb"),
            Port(id="usb-2", name="USB 2", flow="both", link="usb"),
            Port(id="usb-3", name="USB 3", flow="both", link="usb"),
            Port(id="din-out", name="MIDI out", flow="out"),
        ),
        thrus=(Thru(source="usb-1", dest="din-out"), Thru(source="usb-2", dest="din-out")),
        parts=(
            part("great", "Organ, great", "OG", 6, 11, 36, 91, ports=("usb-1", "usb-3")),
            part("swell", "Organ, swell", "OS", 7, 12, 36, 91, ports=("usb-2", "usb-3")),
            part("pedal", "Organ, pedal", "OP", 1, 13, 36, 62, ports=("usb-3",)),
            part("toys", "Toy rank", "TY", 3, 14, 53, 77, ports=("usb-3",)),
        ),
        targets=(
            *(
                Target(id=ident, name=name, channel=15, controller=number, mode="momentary")
                for (ident, name), number in zip(STOPS, STOP_NUMBERS, strict=True)
            ),
            Target(
                id="swell-box",
                name="Swell box",
                channel=15,
                controller=112,
                unit="dB",
                low=-30.0,
                high=0.0,
            ),
            Target(
                id="crescendo", name="Crescendo", channel=15, controller=113, unit="%", high=100.0
            ),
        ),
        outputs=(AudioOutput(id="stream", name="Stream", kind="usb"),),
        notes="The organ engine runs on the laptop.",
    )


STOPS = tuple(
    (name.lower().replace(" ", "-"), name)
    for name in (
        "Open diapason 8",
        "Stopped diapason 8",
        "Principal 4",
        "Flute 4",
        "Fifteenth 2",
        "Mixture",
        "Trumpet 8",
        "Clarion 4",
        "Salicional 8",
        "Celeste 8",
        "Gedackt 8",
        "Gemshorn 4",
        "Piccolo 2",
        "Cornopean 8",
        "Oboe 8",
        "Bourdon 16",
        "Open wood 16",
        "Octave 8",
        "Bass flute 8",
        "Trombone 16",
        "Storm drum",
        "Bird whistle",
    )
)
STOP_NUMBERS = (*range(24, 32), *range(85, 91), *range(104, 112))
MANUALS = (
    ("great", "Great", 36, 56, 11),
    ("swell", "Swell", 36, 56, 12),
    ("pedal", "Pedalboard", 36, 27, 13),
    ("counter", "Counter-manual", 53, 25, 14),
)


def bittern() -> Device:
    """The console as it came: a wire off in Great, two lines bridged, the counter-manual told from C."""
    beds = tuple(Keybed(id=i, name=n, low=low, keys=keys) for i, n, low, keys, _ in MANUALS)
    zones = tuple(
        Zone(
            id=i,
            name=n,
            keybed=i,
            low=low,
            high=low + keys - 1,
            channel=c,
            transpose=-5 if i == "counter" else 0,
        )
        for i, n, low, keys, c in MANUALS
    )
    pistons = tuple((f"piston-{n}", f"Piston {n}") for n in range(1, 5))
    shoes = (("swell-shoe", "Swell shoe"), ("crescendo-shoe", "Crescendo shoe"))
    controls = (
        *(
            Control(id=i, name=n, kind="stop", row=k // 11, column=k % 11)
            for k, (i, n) in enumerate(STOPS)
        ),
        *(Control(id=i, name=n, kind="button") for i, n in pistons),
        *(Control(id=i, name=n, kind="shoe") for i, n in shoes),
    )
    sends = (
        *(
            Send(control=i, message="controller", number=k, channel=15)
            for (i, _), k in zip(STOPS, STOP_NUMBERS, strict=True)
        ),
        *(
            Send(control=i, message="program", number=n, channel=11)
            for n, (i, _) in enumerate(pistons)
        ),
        Send(control="swell-shoe", message="controller", number=112, channel=15),
        Send(control="crescendo-shoe", message="controller", number=113, channel=15),
    )
    blocks = (
        *(
            Block(id=i, name=n, keybed=i, distance=d, pitch=0.014)
            for (i, n, *_), d in zip(MANUALS, (1.2, 1.4, 2.2, 1.0), strict=True)
        ),
        Block(
            id="stops", name="Stops", controls=tuple(i for i, _ in STOPS), distance=1.8, pitch=0.06
        ),
        Block(
            id="pistons",
            name="Pistons",
            controls=tuple(i for i, _ in pistons),
            distance=1.3,
            pitch=0.05,
        ),
    )
    console = Console(
        encoder=Encoder(lines=12, commons=24, analogue=4, keyboards=5),
        blocks=blocks,
        room=0,
        ways=WAYS,
        shoes=(
            Shoe(control="swell-shoe", input=1, heel=0.4, toe=4.6, noise=0.6),
            Shoe(control="crescendo-shoe", input=2, heel=4.7, toe=0.3, noise=1.6),
        ),
        hidden=(Fault(kind="open wire", block="great", at=1002), Fault(kind="short", at=4, to=5)),
    )
    made = Device(
        id="bittern",
        name="Bittern",
        kind="encoder",
        player="Organ",
        octaves=5,
        first_program=1,
        ports=(Port(id="usb", name="USB", flow="both", link="usb"),),
        keybeds=beds,
        controls=controls,
        programs=(Program(number=0, name="Console", zones=zones, sends=sends),),
        console=console,
        preparation=(
            "Write down or save every setting: setting the encoder up erases all of them.",
            "Unplug the console from the mains and wait before you open it.",
            "Close the encoder's settings program on the laptop.",
        ),
    )
    pins = pin_out(made, console).pins
    wired = tuple(changed(b, commons=pins[b.id], soldered=True) for b in blocks)
    whole = changed(console, blocks=wired)
    done = tuple(w.id for w in wire_list(made, whole))
    return changed(made, console=changed(whole, soldered=done, seen=SEEN))


def struck(key: int, *heard: int) -> Seen:
    """A key of Great that was struck, by its number from 0, and which were heard."""
    return Seen(kind="strike", at=(key,), heard=tuple((0, k) for k in heard))


SEEN = (struck(26), struck(4, 4, 5))


WAYS = (
    Way(name="Ready made", price=7800.0, floor=2.4, skill="none"),
    Way(
        name="Built new",
        price=900.0,
        hours=220.0,
        floor=2.0,
        skill="joinery, soldering",
        wired=True,
        missing=(Item(name="two keyboards", price=640.0), Item(name="pedalboard", price=780.0)),
    ),
    Way(
        name="Converted, as Bittern",
        price=350.0,
        hours=60.0,
        floor=2.6,
        skill="soldering",
        wired=True,
        missing=(Item(name="bench", price=90.0),),
    ),
    Way(name="Converted, bought", price=3200.0, hours=8.0, floor=2.6, skill="carrying"),
)


def weir() -> Device:
    inputs = tuple(Port(id=f"in-{n}", name=f"In {n}", flow="in") for n in range(1, 5))
    return Device(
        id="weir",
        name="Weir",
        kind="merger",
        delay_ms=0.5,
        ports=(*inputs, Port(id="out", name="Out", flow="out")),
        thrus=tuple(Thru(source=p.id, dest="out") for p in inputs),
    )


def echo_pool() -> Device:
    return Device(
        id="echo-pool",
        name="Echo Pool",
        kind="looper",
        octaves=4,
        ports=(Port(id="din-in", name="MIDI in", flow="in"),),
        outputs=(AudioOutput(id="main", name="Main", kind="pair"),),
        targets=(
            Target(id="mix", name="Mix", channel=16, controller=20, unit="%", high=100.0),
            Target(id="feedback", name="Feedback", channel=16, controller=22, unit="%", high=100.0),
            Target(id="overdub", name="Overdub", channel=16, controller=21, mode="trigger"),
            Target(id="hold", name="Hold", channel=16, controller=23, mode="toggle"),
        ),
        limits=(
            Reserved(purpose="patch up and down", controllers=(102, 103), source=MANUAL),
            CountLimit(what="assign-slots", most=6, taken=(1, 2), source=MANUAL),
        ),
    )


def sluice() -> Device:
    """The audio interface as it came: its fifth input goes to two outputs at once."""
    inputs = tuple(AudioInput(id=f"in-{n}", name=f"In {n}") for n in range(1, 7))
    straight = tuple(AudioPass(source=f"in-{n}", dest=f"{n}") for n in range(1, 6))
    return Device(
        id="sluice",
        name="Sluice",
        kind="interface",
        outputs=mono_outputs(8),
        audio_inputs=(*inputs, AudioInput(id="usb-audio", name="USB", kind="usb")),
        audio_passes=(
            *straight,
            AudioPass(source="in-5", dest="6"),
            AudioPass(source="usb-audio", dest="7+8"),
        ),
    )


def desk() -> Device:
    """The theatre's desk, with phantom power left on where a microphone was."""
    channels = tuple(
        AudioInput(id=f"ch-{n}", name=f"Channel {n}", phantom=n == 9) for n in range(1, 13)
    )
    return Device(id="desk", name="Theatre desk", kind="desk", audio_inputs=channels)


def audio_cables() -> tuple[AudioCable, ...]:
    """What is plugged for sound: only one side of Mudlark."""
    sources = tuple((f"dovecote:{n}", f"sluice:in-{n}") for n in range(1, 5))
    sends = tuple((f"sluice:{n}", f"desk:ch-{n}") for n in range(1, 9))
    return (
        *(AudioCable(source=source, dest=dest) for source, dest in sources),
        AudioCable(source="mudlark:main", dest="sluice:in-5", leg="left"),
        AudioCable(source="rookery:stream", dest="sluice:usb-audio"),
        *(AudioCable(source=source, dest=dest, metres=10.0) for source, dest in sends),
        AudioCable(source="echo-pool:main", dest="desk:ch-9", leg="left"),
        AudioCable(source="echo-pool:main", dest="desk:ch-10", leg="right"),
    )


SUPPLIES = {
    "heron": Supply(kind="adapter", volts=12.0, milliamps=1500, polarity="centre plus"),
    "wren": Supply(kind="usb", milliamps=180),
    "dipper": Supply(kind="usb", milliamps=420),
    "curlew": Supply(kind="adapter", volts=9.0, milliamps=600, polarity="centre minus"),
    "weir": Supply(kind="adapter", volts=9.0, milliamps=100, polarity="centre minus"),
    "dovecote": Supply(kind="mains", watts=18.0),
    "mudlark": Supply(kind="mains", watts=25.0),
    "echo-pool": Supply(kind="adapter", volts=9.0, milliamps=500, polarity="centre minus"),
    "rookery": Supply(kind="battery", watt_hours=50.0, watts=18.0),
    "bittern": Supply(kind="usb", milliamps=350),
    "sluice": Supply(kind="mains", watts=15.0),
    "desk": Supply(kind="mains", watts=60.0),
}
KILOGRAMS = {
    "heron": 12.5,
    "wren": 1.8,
    "dipper": 2.2,
    "curlew": 1.6,
    "dovecote": 3.1,
    "mudlark": 4.0,
    "bittern": 62.0,
    "rookery": 2.0,
    "sluice": 2.4,
}
PLACES = {
    "bittern": (0.5, 1.5),
    "rookery": (2.5, 2.5),
    "heron": (2.5, 0.5),
    "wren": (2.5, 1.5),
    "weir": (4.5, 1.5),
    "dipper": (6.5, 0.5),
    "curlew": (6.5, 1.5),
    "dovecote": (4.5, 2.5),
    "mudlark": (6.5, 2.5),
    "echo-pool": (8.5, 2.5),
    "sluice": (8.5, 1.5),
    "desk": (11.0, 0.5),
}


def on_stage(device: Device) -> Device:
    """A device with its supply, its weight and its place."""
    x, y = PLACES[device.id]
    return changed(
        device,
        supply=SUPPLIES[device.id],
        weight_kg=KILOGRAMS.get(device.id, 0.0),
        place=Place(x=x, y=y),
    )


def power() -> tuple[PowerSource, ...]:
    """One brick for three small boxes, the wrong way round for none of them, and two strips."""
    return (
        PowerSource(
            id="strip",
            name="Pit strip",
            kind="strip",
            milliamps=10_000,
            outlets=6,
            feeds=("heron", "dovecote", "mudlark", "sluice", "brick"),
        ),
        PowerSource(
            id="brick",
            name="Pedal brick",
            kind="brick",
            volts=9.0,
            milliamps=1200,
            polarity="centre minus",
            outlets=4,
            feeds=("curlew", "weir", "echo-pool"),
        ),
        PowerSource(
            id="coot",
            name="Coot, a USB hub",
            kind="hub",
            volts=5.0,
            milliamps=500,
            outlets=4,
            feeds=("dipper", "bittern"),
        ),
    )


def output_wishes() -> tuple[OutputWish, ...]:
    """What the desk wants."""
    return (
        OutputWish(
            id="drums", name="Drums alone", of=("dovecote:drums",), want="alone", strength=5
        ),
        OutputWish(
            id="town",
            name="Town in stereo",
            of=("mudlark:gulls", "mudlark:rain"),
            want="stereo",
            strength=2,
        ),
    )


def wish(
    name: str,
    plays: str | None,
    scene: str,
    low: int | None = None,
    high: int | None = None,
    sources: tuple[str, ...] = ("heron:keys",),
    **more: Any,
) -> Wish:
    scenes = (scene,) if scene else ()
    ident = f"{scene}-{name}" if scene else name
    return Wish(
        id=ident.lower().replace(" ", "-"),
        name=name,
        scenes=scenes,
        sources=sources,
        plays=plays,
        low=low,
        high=high,
        **more,
    )


def wishes() -> tuple[Wish, ...]:
    split = {
        "dusk": (("Viol", "viol", 28, 47), ("Celesta", "celesta", 48, 100)),
        "the-keepers-stair": (
            ("Viol", "viol", 28, 47),
            ("Strings", "strings", 48, 71),
            ("Sea organ", "sea-organ", 48, 71),
            ("Celesta", "celesta", 72, 100),
        ),
        "herring-market": (("Brass", "brass", 28, 59), ("Strings", "strings", 60, 100)),
        "squall": (("Sea organ", "sea-organ", 28, 67), ("Brass", "brass", 68, 100)),
        "wreck-bell": (("Strings", "strings", 28, 59), ("Bells", "bells", 60, 100)),
        "first-light": (
            ("Viol", "viol", 28, 47),
            ("Strings", "strings", 48, 76),
            ("Celesta", "celesta", 77, 100),
        ),
    }
    made = [
        wish(name, f"dovecote:{part}", scene, low, high)
        for scene, rows in split.items()
        for name, part, low, high in rows
    ]
    made.append(wish("Swell manual", "rookery:swell", "", 65, 91, ("wren:keys",)))
    made.append(
        wish(
            "Beat",
            "dovecote:drums",
            "",
            sources=tuple(f"dipper:pad-{n}" for n in range(1, 7)),
            sounds=tuple(d[0] for d in DRUMS),
        )
    )
    made += [
        wish(
            name,
            f"mudlark:{name.lower().replace(' ', '-')}",
            "",
            sources=(f"dipper:pad-{7 + n}",),
            note=60,
        )
        for n, name in enumerate(CELLS)
    ]
    hits = (("kick", 1), ("snare", 2), ("mid-tom", 3), ("low-tom", 4), ("ride", 6), ("crash", 7))
    made.append(
        wish(
            "Drum kit",
            "dovecote:drums",
            "",
            sources=tuple(f"curlew:trigger-{n}" for _, n in hits),
            sounds=tuple(sound for sound, _ in hits),
        )
    )
    strokes = (
        ("trigger-10", "open-hat"),
        ("hat-half", "half-hat"),
        ("hat-closed", "closed-hat"),
        ("hat-edge", "hat-edge"),
        ("hat-chick", "chick"),
        ("hat-splash", "splash"),
    )
    made.append(
        wish(
            "Hi-hat",
            "dovecote:drums",
            "",
            sources=tuple(f"curlew:{control}" for control, _ in strokes),
            sounds=tuple(sound for _, sound in strokes),
        )
    )
    moves = (
        ("Mix", "dipper:knob-1", "mix"),
        ("Feedback", "dipper:knob-2", "feedback"),
        ("Overdub", "heron:dual-left", "overdub"),
        ("Hold", "dipper:button-1", "hold"),
    )
    made += [
        Wish(id=name.lower(), name=name, sources=(source,), moves=f"echo-pool:{target}")
        for name, source, target in moves
    ]
    keyed = (
        ("Great manual", "great", "great"),
        ("Swell keys", "swell", "swell"),
        ("Pedal", "pedal", "pedal"),
        ("Toys", "counter", "toys"),
    )
    ends = {bed: (low, low + keys - 1) for bed, _, low, keys, _ in MANUALS}
    made += [
        wish(name, f"rookery:{part}", "", *ends[bed], (f"bittern:{bed}",))
        for name, bed, part in keyed
    ]
    drawn = (
        *((name, ident, ident) for ident, name in STOPS),
        ("Swell box", "swell-shoe", "swell-box"),
        ("Crescendo", "crescendo-shoe", "crescendo"),
    )
    made += [
        Wish(
            id=f"draw-{ident}", name=name, sources=(f"bittern:{ident}",), moves=f"rookery:{target}"
        )
        for name, ident, target in drawn
    ]
    return tuple(made)


def scenes() -> tuple[Scene, ...]:
    names = ("Dusk", "The Keeper's Stair", "Herring Market", "Squall", "Wreck Bell", "First Light")
    return tuple(
        Scene(
            id=name.lower().replace(" ", "-").replace("'", ""),
            name=name,
            programs=(
                ProgramChoice(device="heron", program=n),
                ProgramChoice(device="mudlark", program=int(n >= names.index("Squall"))),
            ),
        )
        for n, name in enumerate(names)
    )


def evening() -> tuple[SetList, ...]:
    """The songs in the order in which they are played."""
    steps = tuple(SetStep(scene=scene.id) for scene in scenes())
    return (SetList(id="first-night", name="First night", steps=steps),)


def devices() -> tuple[Device, ...]:
    """Everything that is carried in."""
    return (
        heron(),
        wren(),
        dipper(),
        curlew(),
        weir(),
        dovecote(),
        mudlark(),
        echo_pool(),
        rookery(),
        bittern(),
        sluice(),
        desk(),
    )


def as_found() -> Plan:
    """The gear out of its boxes, with the honest mistakes that come with it."""
    return Plan(
        name="The Paper Lighthouse, as found",
        devices=tuple(on_stage(device) for device in devices()),
        hours=3.0,
        power=power(),
        audio_cables=audio_cables(),
        output_wishes=output_wishes(),
        hearing=(
            Hearing(player="Keys", by="wired ears"),
            Hearing(player="Pads", by="air", metres=2.0),
            Hearing(player="Organ", by="wired ears"),
        ),
        cables=(
            Cable(source="heron:din-out", dest="weir:in-1"),
            Cable(source="heron:usb", dest="rookery:usb-1"),
            Cable(source="wren:usb", dest="rookery:usb-2"),
            Cable(source="bittern:usb", dest="rookery:usb-3"),
            Cable(source="rookery:din-out", dest="weir:in-2"),
            Cable(source="dipper:din-out", dest="weir:in-3"),
            Cable(source="curlew:din-out", dest="weir:in-4"),
            Cable(source="weir:out", dest="dovecote:din-in"),
            Cable(source="dovecote:din-thru", dest="mudlark:din-in"),
            Cable(source="mudlark:din-thru", dest="echo-pool:din-in"),
        ),
        scenes=scenes(),
        setlists=evening(),
        wishes=wishes(),
        pads=pads()[0],
        plugs=pads()[1],
        pedals=PEDALS,
        pedal_plugs=PEDALS_PLUGGED,
        settings=(
            SettingRecord(
                ref="dovecote/part.drums/channel",
                hold="locked",
                why="The drum kits are on channel 10.",
            ),
        ),
        notes="A touring shadow-puppet company, three players in the pit.",
    )


def whole(plan: Plan) -> Plan:
    """The console mended, every wire soldered and tested."""
    owner = next(d for d in plan.devices if d.id == "bittern")
    assert owner.console is not None
    wires = tuple(row.id for row in wire_list(owner, owner.console))
    plan = consoles.set_console(
        "bittern", "Mend", hidden=(), seen=(), soldered=wires, tested=wires
    )(plan)
    return consoles.set_shoe("bittern", "crescendo-shoe", "Steady", hysteresis=2)(plan)


def evening_solved(plan: Plan) -> Plan:
    """The sampler led by the keyboard, and ringing on over a change."""
    plan = setlists.lead(plan, "heron", "mudlark", 7)(plan)
    return set_device("mudlark", "Let it ring on", rings_on=True)(plan)


def heard(plan: Plan) -> Plan:
    """Both sides of Mudlark at the desk, each once, and no phantom power into an output."""
    by_place = [AudioPass(source=f"in-{n}", dest=f"{n}") for n in range(1, 7)]
    plan = audio.set_passes("sluice", [*by_place, AudioPass(source="usb-audio", dest="7+8")])(plan)
    plan = audio.connect_audio(plan, "mudlark:main", "sluice:in-6")(plan)
    plan = audio.set_phantom("desk", "ch-9", False)(plan)
    plan = feeding.set_source("coot", "A supply of its own", milliamps=2000)(plan)
    plan = hearing.set_buffer("rookery", frames=64)(plan)
    plan = hearing.set_hearing("Pads", by="wired ears")(plan)
    to_desk = tuple(c for c in plan.audio_cables if c.source == "echo-pool:main")
    return audio.set_di(True, to_desk)(plan)


def ready() -> Plan:
    """The same plan with its numbers worked out."""
    found = work_out(as_found())
    assert isinstance(found, Solution), found
    plan = found.plan
    best = fit(
        plan.pads,
        tuple(ModuleInput("curlew", i) for d in plan.devices for i in d.inputs),
        plan.plugs,
    ).best
    plan = take_over(best.plugs, best.types)(plan)
    feet = fit_pedals(plan.pedals, sockets_of(plan), plan.pedal_plugs)
    plan = pedals.take_over(feet.plugs, feet.given)(plan)
    plan = whole(plan)
    plan = evening_solved(plan)
    plan = heard(plan)
    return set_plan("Rename plan", name="The Paper Lighthouse")(plan)
