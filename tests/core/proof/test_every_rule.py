"""Every rule in a rig that breaks it and in one beside it that does not; every fix mends."""

import pytest

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, Encoder, Shoe
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.wishes import Schools, Wish
from vastzone.core.proof.causes import causes
from vastzone.core.proof.check import check
from vastzone.files import native

PIANO = wish("piano", "box:piano")


def played(*zones, parts=None, wishes=(PIANO,), cables=(("board:out", "box:in"),)):
    return rig(keyboard(*zones), module(*(parts or (part(),))), wishes=wishes, cables=cables)


def drums(channel=1, rhythm=True, others=10, liked=True):
    parts = (part("drums", channel, rhythm=rhythm), part("bells", others))
    return rig(keyboard(zone()), module(*parts), schools=Schools(rhythm_on_10=liked))


def sounds(count, scenes=()):
    wishes = tuple(
        wish(f"w{n}", "box:piano", sources=("pads:pad-1",), note=60 + n) for n in range(count)
    )
    return joined(pads(2), module(part()), wishes=wishes, scenes=scenes)


def in_jack(kind, *accepts, functions=("any",)):
    jack = PedalJack(
        id="jack", name="Jack", accepts=accepts, functions=functions, control="sustain"
    )
    pedal = Pedal(id="p", name="P", kind=kind, function="any")
    plug = PedalPlug(pedal="p", jack="board:jack")
    board = keyboard(zone(), jacks=(jack,))
    return rig(board, module(part()), pedals=(pedal,), pedal_plugs=(plug,))


def moved(kind="knob", unit="", top=127.0, mode="continuous", number=20, to=20, **more):
    send = Send(control="c", message="controller", number=number, channel=1, **more)
    board = keyboard(
        controls=(Control(id="c", name="C", kind=kind),),
        programs=(Program(number=0, name="P", sends=(send,)),),
    )
    mix = Target(id="mix", name="Mix", part="piano", controller=to, unit=unit, high=top, mode=mode)
    moves = Wish(id="m", name="M", sources=("board:c",), moves="box:mix")
    return rig(board, module(part(), targets=(mix,)), wishes=(moves,))


def track(shape):
    shoe = Shoe(control="shoe", input=1, track=shape)
    console = Console(blocks=(Block(id="keys", name="Keys", keybed="keys"),), shoes=(shoe,))
    return rig(
        keyboard(zone(), controls=(Control(id="shoe", name="Shoe", kind="shoe"),), console=console),
        module(part()),
    )


def kick(sound, sends=True):
    send = (Send(control="pad", message="note", number=36, channel=10),)
    board = keyboard(
        controls=(Control(id="pad", name="Pad", kind="pad"),),
        programs=(Program(number=0, name="P", sends=send if sends else ()),),
    )
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="kick", name="Kick", note=36),))
    box = module(part("drums", 10, kit="kit"), kits=(kit,))
    return rig(
        board, box, wishes=(wish("w", "box:drums", sources=("board:pad",), sounds=(sound,)),)
    )


TWO = (part("piano", 1), part("two", 2))
LOW = wish("low", "box:piano", 36, 59)
CASES = {
    "channel 10 not rhythm": (
        drums(),
        (drums(rhythm=False), drums(others=9), drums(liked=False)),
    ),
    "more sounds than pads": (sounds(3), (sounds(2),)),
    "wrong jack": (in_jack("triple", "switch"), (in_jack("switch", "switch"),)),
    "step too coarse": (
        moved(unit="dB", top=127.5),
        (moved(unit="dB", top=126.5), moved(unit="dB", top=127.5, low=9, high=9), moved()),
    ),
    "switch on a sweep": (moved("switch"), (moved(), moved("switch", mode="trigger"))),
    "sweep on a switch": (moved(mode="toggle"), (moved(), moved("button", mode="toggle"))),
    "shoe track": (track("reversed"), (track("whole"),)),
    "velocity hole": (played(zone(vel_low=2)), (played(zone()),)),
    "zone too wide": (played(zone(), wishes=(LOW,)), (played(zone(high=59), wishes=(LOW,)),)),
    "plays unwished": (
        played(zone(), zone("more", channel=2), parts=TWO),
        (played(zone(), parts=TWO),),
    ),
    "wrong pitch": (played(zone(transpose=3)), (played(zone()),)),
    "sends nothing": (kick("kick", sends=False), (kick("kick"),)),
    "sound not in kit": (kick("snare"), (kick("kick"),)),
    "wrong controller": (moved(number=21), (moved(),)),
    "no way there": (played(zone(), cables=()), (played(zone()),)),
}


def told(plan):
    return {cause.finding.rule for cause in causes(plan)}


@pytest.mark.parametrize("rule", CASES)
def test_a_rule_is_told_where_it_is_broken_and_not_beside_it(rule):
    broken, whole = CASES[rule]
    assert rule in told(broken)
    for plan in whole:
        assert rule not in told(plan)


def test_only_the_scenes_that_want_too_many_sounds_are_told():
    plan = sounds(3, scenes=(scene("dusk"), scene("dawn")))
    wishes = tuple(changed(w, scenes=("dawn",)) for w in plan.wishes)
    plan = joined(pads(2), module(part()), wishes=wishes, scenes=plan.scenes)
    (one,) = [f for f in check(plan) if f.rule == "more sounds than pads"]
    assert one.scenes == ("dawn",) and "3 sounds" in one.sentence and "2 kits" in one.sentence


def test_dead_keys_are_a_fault_between_zones_and_a_hint_at_the_ends():
    plan = played(zone("low", 40, 59), zone("high", 61, 90), wishes=())
    dead = [f for f in check(plan) if f.rule == "dead keys"]
    spans = [(f.severity, f.spans[0].low, f.spans[0].high) for f in dead]
    assert sorted(spans) == [("fault", 60, 60), ("hint", 36, 39), ("hint", 91, 96)]
    assert sorted(f.sentence.split()[0] for f in dead) == ["1", "4", "6"]


def test_pins_that_no_assigning_can_give_have_no_fix_that_does_nothing():
    owner = Device(
        id="c",
        name="C",
        kind="encoder",
        controls=tuple(Control(id=f"s{n}", name=f"S{n}", kind="stop") for n in range(24)),
    )
    owner = consoles.begin(owner)(rig(owner, cables=())).devices[0]
    encoder = Encoder(commons=1, lines=8)
    plan = consoles.set_console("c", "", encoder=encoder)(rig(owner, cables=()))
    (one,) = [f for f in check(plan) if f.rule == "pins not assigned"]
    assert all(fix(plan) != plan for fix in one.fixes)


PLANS = {
    "as found": lambda: native.read(demo.AS_FOUND),
    "ready": lambda: native.read(demo.READY),
    **RIGS,
}


@pytest.mark.parametrize("name", PLANS)
def test_a_fix_takes_away_what_it_is_offered_for(name):
    plan = PLANS[name]()
    for finding in check(plan):
        for fix in finding.fixes:
            after = {(f.rule, f.sentence, f.scenes) for f in check(fix(plan))}
            assert (finding.rule, finding.sentence, finding.scenes) not in after, fix.label
