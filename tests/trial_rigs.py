"""Four rigs that nobody tuned the program to, described by file: band, drums, looper, console."""

from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, Encoder, Shoe
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send, Zone
from vastzone.core.plan.model.limits import CountLimit, Reserved
from vastzone.core.plan.model.parts import Kit, Part, Sound, Target
from vastzone.core.plan.model.pedals import PedalJack
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, Scene
from vastzone.core.plan.model.triggers import Plug, TriggerInput, TriggerPad
from vastzone.core.plan.model.wishes import Wish

USB = Port(id="usb", name="USB", flow="both", link="usb")


def several(kind, count, banks=1, across=8):
    return tuple(
        Control(
            id=f"{kind}-{n}",
            name=f"{kind.title()} {n}",
            kind=kind,
            banks=banks,
            row=(n - 1) // across,
            column=(n - 1) % across,
        )
        for n in range(1, count + 1)
    )


def device(ident, kind, **more):
    return Device(id=ident, name=ident.title(), kind=kind, ports=more.pop("ports", (USB,)), **more)


def cable(one, other):
    return Cable(source=f"{one}:usb", dest=f"{other}:usb")


def dance_band():
    """A keyboard whose pads send its lowest keys, faders, a host of six layers and four loops."""
    controls = (
        *several("pad", 8, across=4),
        *several("fader", 9),
        *several("knob", 8),
        *several("button", 6),
        Control(id="wheel", name="Bend wheel", kind="wheel"),
        Control(id="lever", name="Lever", kind="lever"),
        Control(id="sustain", name="Sustain", kind="switch"),
    )
    pads = tuple(
        Send(control=f"pad-{n}", message="note", number=35 + n, channel=1) for n in range(1, 9)
    )
    whole = Zone(id="all", name="All keys", keybed="keys", low=36, high=96)
    plain = (
        Send(control="sustain", message="controller", number=64),
        Send(control="wheel", message="bend", channel=1),
    )
    plover = device(
        "plover",
        "keyboard",
        controls=controls,
        keybeds=(Keybed(id="keys", name="Keys", low=36, keys=61),),
        programs=tuple(
            Program(number=n, name=f"Slot {n + 1}", zones=(whole,), sends=(*pads, *plain))
            for n in range(8)
        ),
        jacks=(
            PedalJack(
                id="hold",
                name="Hold",
                accepts=("switch",),
                functions=("sustain",),
                control="sustain",
            ),
        ),
        limits=(CountLimit(what="memory-slots", most=8),),
    )
    layers = [Part(id=f"layer-{n}", name=f"Layer {n}", tag=f"L{n}", channel=n) for n in range(1, 7)]
    moved = [
        Target(id=f"volume-{n}", name=f"Layer {n} volume", part=f"layer-{n}", role=7)
        for n in range(1, 7)
    ]
    moved += [Target(id=f"loop-{n}", name=f"Loop {n}", mode="toggle") for n in range(1, 5)]
    moved += [
        Target(id="master", name="Master"),
        Target(id="next", name="Next", mode="trigger"),
        Target(id="previous", name="Previous", mode="trigger"),
    ]
    laptop = device("laptop", "computer", parts=tuple(layers), targets=tuple(moved))
    wishes = [Wish(id="keys", name="Keys", sources=("plover:keys",), plays="laptop:layer-1")]
    ends = [f"volume-{n}" for n in range(1, 7)] + [f"loop-{n}" for n in range(1, 5)]
    sources = [f"fader-{n}" for n in range(1, 7)] + [f"pad-{n}" for n in range(1, 5)]
    for source, end in zip(sources, ends, strict=True):
        wishes.append(Wish(id=end, name=end, sources=(f"plover:{source}",), moves=f"laptop:{end}"))
    songs = tuple(Scene(id=f"song-{n}", name=f"Song {n}") for n in range(1, 6))
    return Plan(
        name="Dance band",
        devices=(plover, laptop),
        cables=(cable("plover", "laptop"),),
        scenes=songs,
        wishes=tuple(wishes),
    )


def hay_cart():
    """A drum module of twelve inputs and thirteen pads."""
    types = [("kick",)] + [("dual", "mono")] * 7 + [("piezo-switch", "mono")] * 2
    types += [("three-way", "piezo-switch", "mono"), ("hi-hat",)]
    inputs = tuple(
        TriggerInput(id=f"in-{n}", name=f"Input {n}", types=kinds, type=kinds[0])
        for n, kinds in enumerate(types, 1)
    )
    sensors = [
        "kick",
        *["dual"] * 5,
        "switch",
        "switch",
        "two switches",
        "switch",
        "hi-hat",
        "single",
        "single",
    ]
    pads = tuple(
        TriggerPad(id=f"p-{n}", name=f"Pad {n}", sensor=s, model="rubber" if n > 11 else "")
        for n, s in enumerate(sensors, 1)
    )
    controls = tuple(
        Control(
            id=f"c-{n}",
            name=f"Input {n}",
            kind="pad",
            input=f"in-{n}",
            zone="head",
            row=n // 5,
            column=n % 5,
        )
        for n in range(1, 12)
    )
    sends = tuple(
        Send(control=c.id, message="note", number=35 + n, channel=10)
        for n, c in enumerate(controls)
    )
    kit = Kit(
        id="kit",
        name="Kit",
        sounds=tuple(Sound(id=f"s-{n}", name=f"Sound {n}", note=n) for n in range(35, 51)),
    )
    drums = Part(
        id="drums", name="Drums", tag="DR", channel=10, rhythm=True, kit="kit", trigger="one-shot"
    )
    skua = device(
        "skua",
        "module",
        inputs=inputs,
        controls=controls,
        kits=(kit,),
        parts=(drums,),
        programs=(Program(number=0, name="Kit 1", sends=sends),),
    )
    recorder = device(
        "recorder",
        "computer",
        parts=(
            Part(
                id="takes", name="Takes", tag="RE", channel=None, layer=True, receives="takes all"
            ),
        ),
    )
    plugs = tuple(Plug(pad=f"p-{n}", input=f"skua:in-{n}") for n in (1, 2, 3))
    return Plan(
        name="Hay cart",
        devices=(skua, recorder),
        cables=(cable("skua", "recorder"),),
        pads=pads,
        plugs=plugs,
    )


def bus_stop():
    """Sixteen pads in three banks, knobs in three banks, a looper with few slots left."""
    controls = (*several("pad", 16, 3, 4), *several("knob", 4, 3), *several("button", 6))
    sends = tuple(
        Send(control=f"pad-{n}", bank=bank, message="note", number=20 + 16 * bank + n, channel=10)
        for bank in (1, 2, 3)
        for n in range(1, 17)
    )
    dabchick = device(
        "dabchick",
        "pads",
        controls=controls,
        octaves=5,
        programs=(Program(number=0, name="One", sends=sends),),
    )
    kit = Kit(
        id="kit",
        name="Rhythm",
        sounds=tuple(Sound(id=f"s-{n}", name=f"Sound {n}", note=n) for n in range(35, 60)),
    )
    levels = tuple(
        Target(id=name, name=name.title(), high=200.0, ceiling=top)
        for name, top in (("voice", 100.0), ("guitar", 90.0), ("loops", 95.0), ("rhythm", 80.0))
    )
    millpond = device(
        "millpond",
        "looper",
        kits=(kit,),
        targets=levels,
        parts=(
            Part(
                id="rhythm-part",
                name="Rhythm",
                tag="RH",
                channel=10,
                rhythm=True,
                kit="kit",
                trigger="one-shot",
            ),
        ),
        limits=(
            CountLimit(what="assign-slots", most=16, taken=(1, 2, 3, 4, 5)),
            Reserved(purpose="patch up and down", controllers=(80, 81)),
        ),
    )
    return Plan(
        name="Bus stop", devices=(dabchick, millpond), cables=(cable("dabchick", "millpond"),)
    )


def barge():
    """Two manuals from G, a pedalboard, forty stops, two shoes, an encoder short of pins."""
    beds = (
        Keybed(id="one", name="Manual 1", low=43, keys=54),
        Keybed(id="two", name="Manual 2", low=43, keys=54),
        Keybed(id="feet", name="Pedalboard", low=36, keys=30),
    )
    stops = several("stop", 40, across=10)
    shoes = (
        Control(id="swell", name="Swell", kind="shoe"),
        Control(id="crescendo", name="Crescendo", kind="shoe"),
    )
    sends = tuple(
        Send(control=c.id, message="note", number=n, channel=5) for n, c in enumerate(stops, 24)
    )
    console = Console(
        encoder=Encoder(commons=16, first_index=0),
        blocks=(
            Block(id="b1", name="Manual 1", keybed="one", commons=(1, 2, 3, 4, 5)),
            Block(
                id="b2",
                name="Manual 2",
                keybed="two",
                school="note names",
                soldered=True,
                commons=(6, 7, 8, 9, 10, 11),
            ),
            Block(id="b3", name="Pedalboard", keybed="feet", commons=(12, 13, 14)),
            Block(id="b4", name="Stops", controls=tuple(c.id for c in stops)),
        ),
        shoes=(
            Shoe(control="swell", input=1),
            Shoe(control="crescendo", input=2, heel=4.5, toe=0.5, track="reversed"),
        ),
    )
    zones = tuple(
        Zone(id=bed.id, name=bed.name, keybed=bed.id, low=bed.low, high=bed.high, channel=n)
        for n, bed in enumerate(beds, 1)
    )
    encoder = device(
        "coot",
        "encoder",
        octaves=5,
        keybeds=beds,
        controls=(*stops, *shoes),
        console=console,
        programs=(Program(number=0, name="Set", zones=zones, sends=sends),),
    )
    organ = device(
        "organ",
        "computer",
        parts=tuple(
            Part(id=f"d-{n}", name=f"Division {n}", tag=f"D{n}", channel=n) for n in (1, 2, 3)
        ),
        targets=tuple(Target(id=f"t-{n}", name=f"Stop {n}", channel=5) for n in range(1, 9)),
    )
    wishes = tuple(
        Wish(id=f"w-{n}", name=f"W {n}", sources=(f"coot:{bed.id}",), plays=f"organ:d-{n}")
        for n, bed in enumerate(beds, 1)
    )
    return changed(
        Plan(
            name="Barge", devices=(encoder, organ), wishes=wishes, cables=(cable("coot", "organ"),)
        ),
        notes="",
    )


RIGS = {"a": dance_band, "b": hay_cart, "c": bus_stop, "d": barge}
