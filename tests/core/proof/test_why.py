"""One verdict: checks, proof and why say the same of the same control, with the same causes."""

import pytest
from hypothesis import HealthCheck, given, settings

from tests.rigs import keyboard, module, part, rig, wish, zone
from tests.scale import scaled
from tests.solver_rigs import solver_rigs
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Port
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.causes import everything
from vastzone.core.proof.marking import prove
from vastzone.core.proof.why import why

PAD = Control(id="pad", name="Pad", kind="pad")


def with_pad(send, *parts, zones=(zone(),), wishes=(wish("w", "box:piano"),), **more):
    program = Program(number=0, name="One", zones=zones, sends=(send,))
    board = keyboard(controls=(PAD,), programs=(program,))
    return rig(board, module(*(parts or (part(),)), **more), wishes=wishes)


def twice():
    ports = {"board": "out", "box": "in"}
    both = {
        name: (
            Port(id=flow, name="DIN", flow=flow),
            Port(id="usb", name="USB", flow=flow, link="usb"),
        )
        for name, flow in ports.items()
    }
    return rig(
        keyboard(zone(), ports=both["board"]),
        module(part(), ports=both["box"]),
        cables=(("board:out", "box:in"), ("board:usb", "box:usb")),
        wishes=(wish("w", "box:piano"),),
    )


def toggled(*wishes):
    send = Send(control="pad", message="controller", number=20, channel=1, mode="toggle")
    loop = Target(id="loop", name="Loop", part="piano", controller=20, mode="toggle")
    return with_pad(send, zones=(), wishes=wishes, targets=(loop,))


LIKE_THE_KEYS = Send(control="pad", message="note", number=48, channel=1)
LOOP = Wish(id="w", name="W", sources=("board:pad",), moves="box:loop")


@pytest.mark.parametrize(
    ("plan", "source", "number", "verdict"),
    [
        (with_pad(LIKE_THE_KEYS), "board:pad", 1, "extra"),
        (twice(), "board:keys", 60, "double"),
        (toggled(LOOP), "board:pad", 1, "wrong"),
        (with_pad(LIKE_THE_KEYS), "board:keys", 60, "as meant"),
        (
            rig(keyboard(zone()), module(part()), cables=(), wishes=(wish("w", "box:piano"),)),
            "board:keys",
            60,
            "silent",
        ),
    ],
    ids=["pads like keys", "by two ways", "toggle into toggle", "as meant", "no cable"],
)
def test_all_say_the_same_of_a_control(plan, source, number, verdict):
    found = why(plan, None, source, number)
    assert found.verdict == verdict
    assert found.is_wrong is (verdict != "as meant")
    assert bool(found.causes) is found.is_wrong
    for finding in found.causes:
        assert finding in everything(plan)
        assert finding.severity == "fault"


@settings(max_examples=scaled(40), deadline=None, suppress_health_check=list(HealthCheck))
@given(solver_rigs())
def test_whatever_the_proof_says_has_its_causes_and_no_other_verdict(rig):
    plan, memory = rig
    if not plan.wishes:
        return
    told = set(everything(plan, memory))
    for ident, groups in prove(plan, memory).scenes.items():
        scene = lookup.find(plan.scenes, ident)
        for mark in (mark for marks in groups for mark in marks):
            number = mark.low if mark.high else mark.bank
            found = why(plan, scene, mark.source, number, mark.vel_low, memory)
            if mark.verdict != "as meant":
                assert found.verdict != "as meant"
                assert found.causes
            assert told.issuperset(found.causes)
