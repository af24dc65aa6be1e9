"""Every contradiction of a plan is told once, and what is just inside is none."""

import pytest

from tests.rigs import keyboard, module, part, rig, scene, simple, wish, zone
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, KitChoice, Program, Send, Slot
from vastzone.core.plan.model.parts import Kit, Target
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.plan import Plan, Port, Switch, Thru
from vastzone.core.plan.model.triggers import Plug, TriggerInput, TriggerPad
from vastzone.core.plan.model.wishes import SettingRecord, Wish
from vastzone.core.plan.queries.consistency import problems

PAD = Control(id="pad", name="Pad", kind="pad", banks=2)


def board(*zones, sends=(), **more):
    programs = more.pop("programs", (Program(number=0, name="P", zones=zones, sends=sends),))
    return rig(keyboard(programs=programs, controls=(PAD,), **more), module(part()))


def box(*parts, **more):
    return rig(keyboard(zone()), module(*parts, **more))


def note(**more):
    return Send(control="pad", message="note", number=40, channel=1, **more)


def plugged(pad="p", into="box:in-1", kind="mono", types=("mono",), pads=("p",), plugs=1):
    socket = TriggerInput(id="in-1", name="Snare", types=types, type=kind)
    return rig(
        keyboard(zone()),
        module(part(), inputs=(socket,)),
        pads=tuple(TriggerPad(id=i, name=i, sensor="single") for i in pads),
        plugs=(Plug(pad=pad, input=into),) * plugs,
    )


def pedals(pedal="p", into="board:j", volts=(0, 5), plugs=1, count=1):
    jack = PedalJack(id="j", name="J", accepts=("switch",), functions=("any",), control="sustain")
    low, high = volts
    return rig(
        keyboard(zone(), jacks=(jack,)),
        module(part()),
        pedals=(Pedal(id="p", name="P", kind="voltage", function="any", low=low, high=high),)
        * count,
        pedal_plugs=(PedalPlug(pedal=pedal, jack=into),) * plugs,
    )


PEDAL = ("board:sustain",)


def wished(**more):
    held = {"plays": "box:piano", "sources": ("board:keys",)} | more
    made = Wish(id="w", name="W", **held)
    return rig(
        keyboard(zone()),
        module(part(), targets=(Target(id="mix", name="Mix"),)),
        wishes=(made,),
        scenes=(scene("dusk"),),
    )


BROKEN = {
    "device twice": rig(keyboard(zone()), keyboard(zone()), cables=()),
    "scene twice": rig(keyboard(zone()), module(part()), scenes=(scene("a"), scene("a"))),
    "wish twice": Plan(
        name="P",
        devices=box(part()).devices,
        wishes=(wish("w", "box:piano"), wish("w", "box:piano")),
    ),
    "part twice": box(part(), part()),
    "record twice": changed(
        simple(), settings=(SettingRecord(ref="board/0/zone.all/channel"),) * 2
    ),
    "program number twice": board(
        programs=(
            Program(id="a", number=0, name="A"),
            Program(id="b", number=1, name="B", also=(Slot(number=0),)),
        )
    ),
    "slot in another bank twice": board(
        programs=(
            Program(id="a", number=0, name="A", also=(Slot(bank=2, number=5),)),
            Program(id="b", number=1, name="B", also=(Slot(bank=2, number=5),)),
        )
    ),
    "zone ends first": board(zone(low=60, high=59)),
    "zone softer than soft": board(zone(vel_low=80, vel_high=79)),
    "zone below the keys": board(zone(low=35)),
    "zone above the keys": board(zone(high=97)),
    "zone on no keybed": board(changed(zone(), keybed="gone")),
    "zone through no port": board(zone(ports=("gone",))),
    "zones with one id": board(zone(high=50), zone(low=51)),
    "send of no control": board(zone(), sends=(changed(note(), control="gone"),)),
    "send in no bank": board(zone(), sends=(note(bank=3),)),
    "send twice": board(zone(), sends=(note(), note())),
    "send velocities": board(zone(), sends=(note(vel_low=80, vel_high=79),)),
    "send through no port": board(zone(), sends=(note(ports=("gone",)),)),
    "curve that falls": board(zone(), sends=(note(points=((10, 50), (20, 49))),)),
    "curve that stands": board(zone(), sends=(note(points=((10, 50), (10, 60))),)),
    "half a value": board(
        zone(), sends=(Send(control="pad", message="controller", number=20, low=0.5),)
    ),
    "kit choice of no part": rig(
        keyboard(zone()),
        module(
            part(),
            kits=(Kit(id="kit", name="Kit", sounds=()),),
            programs=(Program(number=0, name="P", kits=(KitChoice(part="gone", kit="kit"),)),),
        ),
    ),
    "kit choice of no kit": rig(
        keyboard(zone()),
        module(
            part(),
            programs=(Program(number=0, name="P", kits=(KitChoice(part="piano", kit="no"),)),),
        ),
    ),
    "part ends first": box(part(low=60, high=59)),
    "part softer than soft": box(part(vel_low=80, vel_high=79)),
    "part on no kit": box(part(kit="gone")),
    "part through no port": box(part(ports=("gone",))),
    "target of no part": box(part(), targets=(Target(id="t", name="T", part="gone"),)),
    "thru from an output": box(
        part(),
        ports=(Port(id="in", name="in", flow="in"), Port(id="o", name="o", flow="out")),
        thrus=(Thru(source="o", dest="o"),),
    ),
    "thru to an input": box(
        part(),
        ports=(Port(id="in", name="in", flow="in"), Port(id="o", name="o", flow="out")),
        thrus=(Thru(source="in", dest="in"),),
    ),
    "switch beyond its choices": box(
        part(), switches=(Switch(id="s", name="S", choices=("a", "b"), choice=2),)
    ),
    "cable to nowhere": rig(keyboard(zone()), module(part()), cables=(("board:out", "box:gone"),)),
    "cable from an input": rig(keyboard(zone()), module(part()), cables=(("box:in", "box:in"),)),
    "cable to an output": rig(
        keyboard(zone()), module(part()), cables=(("board:out", "board:out"),)
    ),
    "input of another type": plugged(kind="dual", pads=("p",)),
    "plug of no pad": plugged(pad="gone"),
    "plug in no input": plugged(into="box:gone"),
    "pad twice": plugged(pads=("p", "p")),
    "pad plugged twice": plugged(plugs=2),
    "pedal of no plug": pedals(pedal="gone"),
    "pedal in no jack": pedals(into="board:gone"),
    "voltage the wrong way": pedals(volts=(5, 4)),
    "pedal twice": pedals(count=2),
    "wish from nowhere": wished(sources=("board:gone",)),
    "wish from no device": wished(sources=("gone:keys",)),
    "wish plays nothing there": wished(plays="box:gone"),
    "wish moves nothing there": wished(plays=None, moves="box:gone", sources=PEDAL),
    "keys that move": wished(plays=None, moves="box:mix"),
    "wish plays a target": wished(plays="box:mix"),
    "wish in no scene": wished(scenes=("gone",)),
    "wish of nothing": wished(plays=None),
    "wish of both": wished(moves="box:mix", sources=PEDAL),
    "wish ends first": wished(low=60, high=59),
    "wish softer than soft": wished(vel_low=80, vel_high=79),
    "scene on no device": rig(keyboard(zone()), module(part()), scenes=(scene("a", gone=0),)),
    "scene on no program": rig(keyboard(zone()), module(part()), scenes=(scene("a", board=1),)),
}


@pytest.mark.parametrize("name", BROKEN)
def test_a_contradiction_is_told_once(name):
    told = list(problems(BROKEN[name]))
    assert len(told) == 1, told
    assert told[0].endswith(".") and len(told[0]) > 20


def test_a_pedal_plugged_twice_is_told_for_the_pedal_and_for_the_jack():
    assert len(list(problems(pedals(plugs=2)))) == 2


SOUND = {
    "one key": board(zone(low=60, high=60)),
    "one velocity": board(zone(vel_low=80, vel_high=80)),
    "all keys": board(zone(low=36, high=96)),
    "last bank": board(zone(), sends=(note(bank=2),)),
    "two layers": board(zone(), sends=(note(), note(layer=1))),
    "flat curve": board(zone(), sends=(note(points=((10, 50), (20, 50))),)),
    "same slot in two banks": board(
        programs=(
            Program(id="a", number=0, name="A", also=(Slot(bank=1, number=5),)),
            Program(id="b", number=1, name="B", also=(Slot(bank=2, number=5),)),
        )
    ),
    "fourteen bits": board(zone(), sends=(Send(control="pad", message="pair", low=0.5),)),
    "last choice": box(part(), switches=(Switch(id="s", name="S", choices=("a", "b"), choice=1),)),
    "one note": box(part(low=60, high=60, vel_low=5, vel_high=5)),
    "one volt": pedals(volts=(5, 5)),
    "plugged": plugged(),
    "one key wished": wished(low=60, high=60, scenes=("dusk",)),
    "moves": wished(plays=None, moves="box:mix", sources=PEDAL),
    "scene on a program": rig(keyboard(zone()), module(part()), scenes=(scene("a", board=0),)),
}


@pytest.mark.parametrize("name", SOUND)
def test_what_is_just_inside_is_none(name):
    assert list(problems(SOUND[name])) == []
