"""Small rigs for the tests: a keyboard, a module, a cable between them."""

from vastzone.core.plan.model import Cable, Device, Plan, Port, ProgramChoice, Scene
from vastzone.core.plan.sound import Part
from vastzone.core.plan.touch import Control, Keybed, Program, Send, Zone

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
