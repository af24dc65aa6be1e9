"""Write the generic devices of the library to ``src/vastzone/library``.

    python tools/make_library.py

What they say of limits is common, not anyone's measurement: nothing is marked as verified.
"""

from typing import Any

from vastzone.core.plan.model.controls import (
    Control,
    Keybed,
    Program,
    Send,
    VelocityCurve,
    Zone,
    Zoned,
)
from vastzone.core.plan.model.limits import Answers, CountLimit, ScopeLimit
from vastzone.core.plan.model.parts import Kit, Part, Sound
from vastzone.core.plan.model.pedals import PedalJack
from vastzone.core.plan.model.plan import Device, Port, Thru
from vastzone.core.plan.model.triggers import InputType, TriggerInput
from vastzone.core.plan.model.values import ControlKind
from vastzone.files.devices import SHIPPED, SUFFIX, write_device

COMMON = "common among such devices"
IN, OUT = Port(id="in", name="MIDI in", flow="in"), Port(id="out", name="MIDI out", flow="out")
USB = Port(id="usb", name="USB", flow="both", link="usb")


CURVES = (
    VelocityCurve(name="Light", points=((0, 1), (32, 62), (80, 108), (127, 127))),
    VelocityCurve(name="Even", points=((0, 1), (127, 127))),
    VelocityCurve(name="Firm", points=((0, 1), (48, 20), (96, 76), (127, 127))),
    VelocityCurve(name="Narrow", points=((0, 40), (64, 80), (127, 120))),
)


def pedal_ways(keys: int) -> tuple[list[Control], list[PedalJack], list[Send]]:
    """More jacks on longer keyboards: expression, a triple pedal, breath."""
    swept, jacks, extra = [], [], []
    if keys >= 61:
        swept.append(Control(id="expression", name="Expression", kind="pedal"))
        jacks.append(
            PedalJack(
                id="expression-jack",
                name="Expression",
                accepts=("continuous",),
                functions=("swell", "morph", "any"),
                control="expression",
                wiper="tip",
                wipers=("tip", "ring"),
                calibrated=True,
            )
        )
        extra.append(Send(control="expression", message="controller", number=11))
    if keys >= 76:
        for ident, name, number in (("sostenuto", "Sostenuto", 66), ("soft", "Soft", 67)):
            swept.append(Control(id=ident, name=name, kind="switch"))
            extra.append(Send(control=ident, message="controller", number=number))
        jacks.append(
            PedalJack(
                id="triple-jack",
                name="Triple pedal",
                accepts=("triple",),
                functions=("any",),
                control="sostenuto",
            )
        )
    if keys >= 88:
        swept.append(Control(id="breath", name="Breath", kind="breath"))
        jacks.append(
            PedalJack(
                id="breath-jack",
                name="Breath",
                accepts=("breath",),
                functions=("swell", "morph", "any"),
                control="breath",
            )
        )
        extra.append(Send(control="breath", message="controller", number=2))
    return swept, jacks, extra


def keyboard(keys: int, low: int, zones: int, **more: Any) -> Device:
    wheels: tuple[tuple[str, str, ControlKind], ...] = (
        ("bend", "Pitch wheel", "wheel"),
        ("modulation", "Modulation wheel", "wheel"),
        ("sustain", "Sustain", "switch"),
    )
    sends = (
        Send(control="bend", message="bend"),
        Send(control="modulation", message="controller", number=1),
        Send(control="sustain", message="controller", number=64),
    )
    whole = Zone(id="zone-1", name="Zone 1", keybed="keys", low=low, high=low + keys - 1)
    swept, jacks, extra = pedal_ways(keys)
    return Device(
        id=f"keyboard-{keys}",
        name=f"Keyboard, {keys} keys",
        kind="keyboard",
        ports=(OUT, USB),
        keybeds=(Keybed(id="keys", name="Keys", low=low, keys=keys),),
        controls=(*(Control(id=i, name=n, kind=k) for i, n, k in wheels), *swept),
        jacks=(
            PedalJack(
                id="sustain-jack",
                name="Sustain",
                accepts=("switch",),
                functions=("sustain", "sostenuto", "soft", "hold"),
                control="sustain",
                sense="at power-up",
            ),
            *jacks,
        ),
        curves=CURVES,
        programs=(Program(number=0, name="First", zones=(whole,), sends=(*sends, *extra)),),
        limits=(
            CountLimit(what="zones", most=zones, source=COMMON),
            CountLimit(what="memory-slots", most=16, source=COMMON),
        ),
        **more,
    )


def pads(rows: int, columns: int, banks: int) -> Device:
    count = rows * columns
    controls = tuple(
        Control(
            id=f"pad-{n + 1}",
            name=f"Pad {n + 1}",
            kind="pad",
            banks=banks,
            row=n // columns,
            column=n % columns,
        )
        for n in range(count)
    )
    sends = tuple(
        Send(
            control=f"pad-{n + 1}", bank=b + 1, message="note", number=36 + b * count + n, channel=1
        )
        for b in range(banks)
        for n in range(count)
    )
    return Device(
        id=f"pads-{count}",
        name=f"Pad controller, {count} pads",
        kind="pads",
        ports=(OUT, USB),
        controls=controls,
        programs=(Program(number=0, name="Factory", sends=sends),),
        limits=(CountLimit(what="memory-slots", most=8, source=COMMON),),
    )


def floorboard() -> Device:
    """Ten switches in two rows and two pedals, all by MIDI."""
    switches = [
        Control(
            id=f"switch-{n + 1}", name=f"Switch {n + 1}", kind="switch", row=n // 5, column=n % 5
        )
        for n in range(10)
    ]
    sweeps = [Control(id=f"pedal-{n + 1}", name=f"Pedal {n + 1}", kind="pedal") for n in range(2)]
    sends = (
        *(
            Send(control=f"switch-{n + 1}", message="controller", number=102 + n, channel=16)
            for n in range(10)
        ),
        *(
            Send(control=f"pedal-{n + 1}", message="controller", number=20 + n, channel=16)
            for n in range(2)
        ),
        Send(control="external", message="controller", number=22, channel=16),
    )
    external = PedalJack(
        id="external-jack",
        name="External",
        accepts=("continuous", "voltage"),
        functions=("swell", "morph", "any"),
        control="external",
        calibrated=True,
    )
    sweeps.append(Control(id="external", name="External", kind="pedal"))
    return Device(
        id="floorboard-12",
        name="Floorboard, 10 switches and 2 pedals",
        kind="floorboard",
        ports=(OUT,),
        controls=(*switches, *sweeps),
        jacks=(external,),
        programs=(Program(number=0, name="First", sends=sends),),
        limits=(CountLimit(what="memory-slots", most=16, source=COMMON),),
    )


def round_pads() -> Device:
    """Eight round pads in two rows, and two bars above them."""
    bars = [
        Control(
            id=f"bar-{n + 1}",
            name=f"Bar {n + 1}",
            kind="pad",
            shape="bar",
            span=2,
            row=0,
            column=2 * n,
        )
        for n in range(2)
    ]
    rounds = [
        Control(
            id=f"pad-{n + 1}",
            name=f"Pad {n + 1}",
            kind="pad",
            shape="round",
            row=1 + n // 4,
            column=n % 4,
        )
        for n in range(8)
    ]
    controls = (*bars, *rounds)
    sends = tuple(
        Send(control=c.id, message="note", number=36 + n, channel=1) for n, c in enumerate(controls)
    )
    return Device(
        id="pads-round",
        name="Pad controller, 8 round pads and 2 bars",
        kind="pads",
        ports=(OUT, USB),
        controls=controls,
        programs=(Program(number=0, name="Factory", sends=sends),),
        limits=(CountLimit(what="memory-slots", most=16, source=COMMON),),
    )


def module() -> Device:
    sounds = (
        ("kick", "Kick", 36),
        ("snare", "Snare", 38),
        ("hat", "Closed hat", 42),
        ("open-hat", "Open hat", 46),
        ("ride", "Ride", 51),
        ("crash", "Crash", 49),
    )
    kit = Kit(
        id="kit", name="Drum kit", sounds=tuple(Sound(id=i, name=n, note=k) for i, n, k in sounds)
    )
    parts = tuple(
        Part(
            id=f"part-{n}",
            name="Drums" if n == 10 else f"Part {n}",
            tag="DR" if n == 10 else f"{n:02}",
            colour=n % 8,
            channel=n,
            kit="kit" if n == 10 else None,
            rhythm=n == 10,
        )
        for n in range(1, 17)
    )
    return Device(
        id="module-16",
        name="Sound module, 16 parts",
        kind="module",
        parts=parts,
        kits=(kit,),
        ports=(IN, Port(id="thru", name="MIDI thru", flow="out")),
        thrus=(Thru(source="in", dest="thru"),),
        delay_ms=2.0,
    )


def drum_module() -> Device:
    names = ("Kick", "Snare", "Tom 1", "Tom 2", "Tom 3", "Hat", "Ride", "Crash 1", "Crash 2", "Aux")
    notes = (36, 38, 48, 45, 43, 42, 51, 49, 57, 54)
    types: tuple[tuple[InputType, ...], ...] = (
        ("kick",),
        ("dual",),
        ("dual",),
        ("dual",),
        ("dual",),
        ("piezo-switch",),
        ("three-way",),
        ("piezo-switch",),
        ("piezo-switch",),
        ("dual", "piezo-switch"),
    )
    zones: tuple[Zoned, ...] = (
        *("head",) * 5,
        "closed",
        *("bow",) * 3,
        "head",
    )
    inputs = tuple(
        TriggerInput(id=f"jack-{n + 1}", name=x, types=held, type=held[0])
        for n, (x, held) in enumerate(zip(names, types, strict=True))
    )
    controls = tuple(
        Control(
            id=f"input-{n + 1}",
            name=f"Input {n + 1}, {x}",
            kind="pad",
            row=n // 5,
            column=n % 5,
            input=f"jack-{n + 1}",
            zone=zones[n],
        )
        for n, x in enumerate(names)
    )
    sends = tuple(
        Send(control=f"input-{n + 1}", message="note", number=k, channel=10)
        for n, k in enumerate(notes)
    )
    hat = Control(id="hat-pedal", name="Hat pedal", kind="pedal")
    hat_send = Send(control="hat-pedal", message="controller", number=4, channel=10)
    return Device(
        id="drum-module-10",
        name="Drum module, 10 inputs",
        kind="module",
        ports=(IN, OUT, USB),
        controls=(*controls, hat),
        inputs=inputs,
        jacks=(
            PedalJack(
                id="hat-jack",
                name="Hat pedal",
                accepts=("hi-hat",),
                functions=("hi-hat",),
                control="hat-pedal",
            ),
        ),
        programs=(Program(number=0, name="Kit 1", sends=(*sends, hat_send)),),
        limits=(ScopeLimit(setting="send-channel", scope="program", source=COMMON),),
    )


def sampler() -> Device:
    parts = tuple(
        Part(
            id=f"cell-{n}",
            name=f"Cell {n}",
            tag=f"{n:02}",
            colour=n % 8,
            channel=n,
            trigger="one-shot",
        )
        for n in range(1, 13)
    )
    return Device(
        id="sampler-12",
        name="Sampler, 12 cells",
        kind="sampler",
        ports=(IN,),
        parts=parts,
        limits=(Answers(low=24, high=108, source=COMMON),),
    )


def merger(count: int) -> Device:
    inputs = tuple(Port(id=f"in-{n}", name=f"In {n}", flow="in") for n in range(1, count + 1))
    return Device(
        id=f"merger-{count}",
        name=f"Merger, {count} in, 1 out",
        kind="merger",
        ports=(*inputs, OUT),
        thrus=tuple(Thru(source=p.id, dest="out") for p in inputs),
        delay_ms=0.5,
    )


def computer() -> Device:
    ports = (
        *(Port(id=f"usb-{n}", name=f"USB {n}", flow="both", link="usb") for n in range(1, 5)),
        IN,
        OUT,
    )
    return Device(id="computer", name="Computer", kind="computer", ports=ports, delay_ms=5.3)


if __name__ == "__main__":
    SHIPPED.mkdir(exist_ok=True)
    for device in (
        keyboard(25, 48, 1),
        keyboard(49, 36, 2),
        keyboard(61, 36, 4),
        keyboard(76, 28, 4),
        keyboard(88, 21, 4),
        pads(4, 4, 3),
        pads(2, 4, 4),
        round_pads(),
        floorboard(),
        module(),
        drum_module(),
        sampler(),
        merger(2),
        merger(4),
        computer(),
    ):
        write_device(device, SHIPPED / f"{device.id}{SUFFIX}")
