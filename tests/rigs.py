"""Small rigs for the tests: a keyboard, a module, a cable between them."""

from vastzone.core.plan.model.controls import Control, Keybed, Program, Send, Zone
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port, ProgramChoice, Scene, Thru
from vastzone.core.plan.model.wishes import Wish

SUSTAIN = Send(control="sustain", message="controller", number=64)


def zone(ident="all", low=36, high=96, channel=1, **more):
    return Zone(
        id=ident, name=ident.title(), keybed="keys", low=low, high=high, channel=channel, **more
    )


def part(ident="piano", channel=1, **more):
    return Part(id=ident, name=ident.title(), tag=ident[:2].upper(), channel=channel, **more)


def keyboard(*zones, ident="board", link="din", programs=None, **more):
    programs = programs or (Program(number=0, name="First", zones=zones, sends=(SUSTAIN,)),)
    return Device(
        id=ident,
        name=ident.title(),
        kind="keyboard",
        programs=programs,
        ports=more.pop("ports", (Port(id="out", name="out", flow="out", link=link),)),
        keybeds=(Keybed(id="keys", name="Keys", low=36, keys=61),),
        controls=(Control(id="sustain", name="Sustain", kind="switch"), *more.pop("controls", ())),
        **more,
    )


def module(*parts, ident="box", link="din", **more):
    ports = more.pop("ports", (Port(id="in", name="in", flow="in", link=link),))
    return Device(id=ident, name=ident.title(), kind="module", parts=parts, ports=ports, **more)


def rig(*devices, cables=(("board:out", "box:in"),), scenes=(), **more):
    joined = tuple(Cable(source=a, dest=b) for a, b in cables)
    return Plan(name="Rig", devices=devices, cables=joined, scenes=scenes, **more)


def scene(ident, **programs):
    chosen = tuple(ProgramChoice(device=d, program=n) for d, n in programs.items())
    return Scene(id=ident, name=ident.title(), programs=chosen)


def simple(link="din", **more):
    """One keyboard, one zone, one cable, one part."""
    return rig(keyboard(zone(), link=link), module(part(**more), link=link))


def wish(ident, plays, low=None, high=None, sources=("board:keys",), **more):
    return Wish(
        id=ident, name=ident.title(), sources=sources, plays=plays, low=low, high=high, **more
    )


def pads(count=4, ident="pads", **more):
    sends = tuple(
        Send(control=f"pad-{n}", message="note", number=35 + n, channel=1)
        for n in range(1, count + 1)
    )
    return Device(
        id=ident,
        name=ident.title(),
        kind="pads",
        ports=(Port(id="out", name="out", flow="out"),),
        controls=tuple(
            Control(id=f"pad-{n}", name=f"Pad {n}", kind="pad") for n in range(1, count + 1)
        ),
        programs=(Program(number=0, name="One", sends=sends),),
        **more,
    )


def joined(*devices, **more):
    """Keyboards and pads through a merger into one module."""
    inputs = tuple(Port(id=f"in{n}", name=f"in {n}", flow="in") for n in range(4))
    merge = Device(
        id="merge",
        name="Merge",
        kind="merger",
        ports=(*inputs, Port(id="out", name="out", flow="out")),
        thrus=tuple(Thru(source=p.id, dest="out") for p in inputs),
    )
    senders = [d for d in devices if d.kind != "module"]
    cables = [(f"{d.id}:out", f"merge:in{n}") for n, d in enumerate(senders)] + [
        ("merge:out", "box:in")
    ]
    return rig(*devices, merge, cables=tuple(cables), **more)
