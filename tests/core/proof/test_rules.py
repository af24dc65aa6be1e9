"""Each rule finds its fault in the smallest rig that has it, and each fix mends it."""

import pytest

from tests.rigs import keyboard, module, part, rig, scene, simple, zone
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import Reserved
from vastzone.core.plan.model.plan import Port, Thru
from vastzone.core.proof.check import check, tally

USB = Port(id="usb", name="USB", flow="both", link="usb")
OUT = Port(id="out", name="out", flow="out")


def sending(number):
    send = Send(control="knob", message="controller", number=number, channel=1)
    return keyboard(
        controls=(Control(id="knob", name="Knob", kind="knob"),),
        programs=(Program(number=0, name="First", zones=(zone(),), sends=(send,)),),
    )


def twice():
    ports = (
        Port(id="in", name="in", flow="in"),
        Port(id="usb", name="USB", flow="both", link="usb"),
    )
    return rig(
        keyboard(zone(), ports=(OUT, USB)),
        module(part(), ports=ports),
        cables=(("board:out", "box:in"), ("board:usb", "box:usb")),
    )


def local_loop():
    host = module(ident="host", ports=(USB,), thrus=(Thru(source="usb", dest="usb"),))
    board = keyboard(zone(), ports=(USB,), parts=(part("own", 1),))
    return rig(board, host, cables=(("board:usb", "host:usb"),))


def ring():
    ports = (Port(id="in", name="in", flow="in"), OUT)
    thru = (Thru(source="in", dest="out"),)
    return rig(
        keyboard(zone()),
        module(part(), ident="a", ports=ports, thrus=thru),
        module(ident="b", ports=ports, thrus=thru),
        cables=(("board:out", "a:in"), ("a:out", "b:in"), ("b:out", "a:in")),
    )


CASES = {
    "dead keys": rig(keyboard(zone("a", 36, 59), zone("b", 72, 96)), module(part())),
    "keys that double": rig(
        keyboard(zone("a", 36, 64), zone("b", 60, 96, 2)), module(part(), part("two", 2))
    ),
    "parts on one channel": rig(keyboard(zone()), module(part(), part("two", 1))),
    "unheard zone": rig(keyboard(zone(channel=3)), module(part())),
    "outside part": rig(keyboard(zone()), module(part(high=90))),
    "octave naming": rig(
        keyboard(zone("a", 36, 47), zone("b", 48, 96, 2)),
        module(part(low=48, high=59), part("two", 2)),
    ),
    "outside 0–127": rig(keyboard(zone(octave=4)), module(part())),
    "local control": local_loop(),
    "connected twice": twice(),
    "thru ring": ring(),
    "reserved controller": rig(sending(123), module(part())),
}


@pytest.mark.parametrize("rule", CASES)
def test_each_rule_finds_its_fault_and_every_fix_mends_it(rule):
    plan = CASES[rule]
    found = [f for f in check(plan) if f.rule == rule]
    assert len(found) == 1
    assert found[0].fixes, "a fault of this kind can be mended"
    for fix in found[0].fixes:
        mended = [f for f in check(fix(plan)) if f.rule == rule]
        assert not mended, fix.label


def test_a_sound_rig_has_no_findings():
    assert check(simple()) == ()


def test_a_receivers_own_reservation_counts():
    plan = rig(
        sending(20), module(part(), limits=(Reserved(purpose="patch up", controllers=(20,)),))
    )
    (found,) = check(plan)
    assert found.rule == "reserved controller" and "patch up" in found.sentence


def test_marked_layers_are_meant():
    plan = rig(
        keyboard(zone("a", layer=True), zone("b", channel=2, layer=True)),
        module(part(), part("two", 2)),
    )
    assert check(plan) == ()


def test_a_part_that_nothing_plays_is_a_hint():
    (found,) = check(rig(keyboard(zone()), module(part(), part("idle", 9))))
    assert (found.rule, found.severity, found.subjects) == (
        "part nobody reaches",
        "hint",
        ("box:idle",),
    )


def test_a_finding_names_the_scenes_it_holds_in_once():
    programs = (
        Program(number=0, name="A", zones=(zone(),)),
        Program(number=1, name="B", zones=(zone(channel=9),)),
    )
    scenes = (scene("one", board=0), scene("two", board=1), scene("three", board=1))
    plan = rig(keyboard(programs=programs), module(part()), scenes=scenes)
    (found,) = check(plan)
    assert found.scenes == ("two", "three") and tally((found,)).faults == 1
