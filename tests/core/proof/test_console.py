"""Each rule of consoles in the smallest console that breaks it; faults in the proof."""

import pytest

from tests.core.console.bittern import device
from tests.rigs import module, part, rig
from vastzone.core.console.shoes import steps_of
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Encoder, Fault, Seen, Shoe
from vastzone.core.plan.model.controls import Control, Program, Send, Zone
from vastzone.core.plan.model.plan import Port
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof.causes import causes
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.core.proof.silence import why_is_it_silent

OUT = Port(id="out", name="out", flow="out")


def plan(stops=4, sends=(), shoes=(), zones=None, **encoder):
    owner = device(beds=(("great", 36, 25), ("swell", 36, 25)), stops=stops)
    zones = zones or tuple(
        Zone(id=i, name=i, keybed=i, low=36, high=60, channel=n + 1)
        for n, i in enumerate(("great", "swell"))
    )
    controls = (
        *owner.controls,
        *(Control(id=s.control, name=s.control, kind="shoe") for s in shoes),
    )
    console = changed(owner.console, shoes=shoes, encoder=Encoder(commons=24, **encoder))
    owner = changed(
        owner,
        ports=(OUT,),
        controls=controls,
        console=console,
        programs=(Program(number=0, name="P", zones=zones, sends=sends),),
    )
    wishes = tuple(
        Wish(id=i, name=i, sources=(f"c:{i}",), plays=f"box:{i}") for i in ("great", "swell")
    )
    parts = (part("great", 1, low=36, high=60), part("swell", 2, low=36, high=60))
    return rig(owner, module(*parts), cables=(("c:out", "box:in"),), wishes=wishes)


def block(**changes):
    return consoles.set_block("c", "great", "", **changes)(plan())


def faulty(*faults):
    return consoles.set_console("c", "", faults=faults)(plan())


SHIFTED = (Zone(id="g", name="G", keybed="great", low=36, high=60, transpose=-5),)
HIGH = (Zone(id="g", name="G", keybed="great", low=36, high=60, octave=5, transpose=12),)
SAME = tuple(Zone(id=i, name=i, keybed=i, low=36, high=60) for i in ("great", "swell"))
TOGGLE = (Send(control="stop-0", message="controller", number=20, channel=1, mode="toggle"),)
CASES = {
    "pin used twice": block(commons=(4, 5, 6)),
    "pins not assigned": block(commons=()),
    "too many keyboards": plan(keyboards=1),
    "no diodes": block(diodes=False),
    "wrong diode sense": block(facing="line to common"),
    "mixed diode sense": faulty(Fault(kind="reversed diode", block="great", at=3)),
    "console fault": faulty(Fault(kind="open wire", block="great", at=2)),
    "seen otherwise": consoles.saw("c", Seen(kind="strike", at=(3,)))(plan()),
    "declared from the wrong note": plan(zones=SHIFTED),
    "lowest note outside": plan(zones=HIGH),
    "keyboards on one channel": plan(zones=SAME),
    "over-range voltage": plan(shoes=(Shoe(control="s", input=1, heel=0, toe=12),)),
    "shoe range narrow": plan(shoes=(Shoe(control="s", input=1, heel=1, toe=1.4),)),
    "shoe chatters": plan(shoes=(Shoe(control="s", input=1, noise=2.4, hysteresis=1),)),
    "shoe without input": plan(shoes=(Shoe(control="s"),)),
    "scan slow": plan(settle_us=900.0),
    "toggle from a held tab": plan(sends=TOGGLE),
}


@pytest.mark.parametrize("rule", CASES)
def test_each_rule_finds_its_fault_and_its_fixes_mend_it(rule):
    made = CASES[rule]
    found = [f for f in check(made) if f.rule == rule]
    assert found, {f.rule for f in check(made)}
    assert rule not in {f.rule for f in check(plan())}
    for fix in found[0].fixes:
        mended = fix(made)
        assert found[0].sentence not in {f.sentence for f in check(mended)}


@pytest.mark.parametrize(
    ("octave", "transpose", "outside"),
    [(5, 7, False), (5, 8, True), (-3, 0, False), (-3, -1, True)],
)
def test_a_keyboard_may_reach_the_very_ends_of_what_midi_has(octave, transpose, outside):
    great = Zone(
        id="great",
        name="great",
        keybed="great",
        low=36,
        high=60,
        octave=octave,
        transpose=transpose,
    )
    swell = Zone(id="swell", name="swell", keybed="swell", low=36, high=60, channel=2)
    found = [f for f in check(plan(zones=(great, swell))) if f.rule == "lowest note outside"]
    assert bool(found) is outside


def test_a_shoe_over_twenty_steps_is_wide_enough_and_an_input_is_one_shoe_s():
    def rules(*shoes):
        return [f.rule for f in check(plan(shoes=shoes)) if f.rule.startswith("shoe")]

    for toe, narrow in ((1.75, True), (1.79, False)):
        shoe = Shoe(control="s", input=1, heel=1.0, toe=toe)
        assert (steps_of(shoe, Encoder()) < 20) is narrow
        assert rules(shoe) == (["shoe range narrow"] if narrow else [])
    own = Shoe(control="s", input=1), Shoe(control="t", input=2)
    assert rules(*own) == []
    assert rules(own[0], changed(own[1], input=1)) == ["shoe without input"]
    last = Encoder().analogue
    assert rules(Shoe(control="s", input=last)) == []
    assert rules(Shoe(control="s", input=last + 1)) == ["shoe without input"]
    assert rules(Shoe(control="s", input=1, noise=2, hysteresis=2)) == []


def test_what_was_seen_is_counted_in_words():
    def told(*seen):
        made = plan()
        for one in seen:
            made = consoles.saw("c", one)(made)
        return next(f for f in check(made) if f.rule == "seen otherwise")

    one = told(Seen(kind="strike", at=(3,)))
    assert "D♯2 of Great was struck and not heard" in one.sentence
    assert one.subjects[0] == "c:great"
    two = told(Seen(kind="strike", at=(3,)), Seen(kind="strike", at=(5,)))
    assert "were struck" in two.sentence
    stop = told(Seen(kind="strike", at=(50,)))
    assert stop.subjects[0] == "c:stop-0"
    wires = [Seen(kind="wire", at=(0, n), reading="open") for n in range(3)]
    assert "more)" not in told(wires[0]).sentence and told(wires[0]).subjects[0] == "c"
    assert told(*wires).sentence.count("(and 2 more)") == 1


def test_too_few_pins_are_told_with_what_would_mend_it():
    small = consoles.set_console("c", "", encoder=Encoder(commons=4))(plan())
    told = next(f for f in check(small) if f.rule == "too few pins")
    assert "second encoder" in told.sentence and "3 short" in told.sentence


def test_a_dead_run_and_bridged_lines_show_in_the_proof_with_their_wire():
    dead = Fault(kind="open wire", block="great", at=1001)
    bridged = Fault(kind="short", at=4, to=5)
    made = faulty(dead, bridged)
    assert prove(plan()).good
    proof = prove(made)
    assert proof.count("silent") and (proof.count("extra") or proof.count("double"))
    assert {m.low for _, m in proof.faults() if m.verdict == "silent"} == {48}
    lines = [c for c in causes(made) if c.finding.rule == "console fault"]
    assert len(lines) == 2 and all(c.keys for c in lines)
    cause = why_is_it_silent(made, None, "c:great", 50).cause
    assert cause is not None and cause.cause == "wiring"
    for line in lines:
        made = line.finding.fixes[0](made)
    assert prove(made).good


def test_what_was_seen_is_explained_by_known_faults_and_forgotten_as_they_are_mended():
    dead = Fault(kind="open wire", block="great", at=1001)
    other = Fault(kind="open contact", block="swell", at=0)
    seen = (
        Seen(kind="strike", at=(14,)),  # D of the second common: silent
        Seen(kind="strike", at=(25,)),  # the first key of Swell: silent
        Seen(kind="strike", at=(2,), heard=((0, 2),)),  # as it should be
        Seen(kind="wire", at=(0, 1001), reading="open"),
    )
    made = consoles.set_console("c", "", seen=seen, hidden=(dead,))(plan())

    def odd(made):
        return [f for f in check(made) if f.rule == "seen otherwise"]

    assert prove(made).good and odd(made)  # the plan is as meant, the console is not
    assert why_is_it_silent(made, None, "c:great", 50).checklist[0].startswith("The wires of C")
    made = consoles.found("c", (dead,))(made)
    assert not made.devices[0].console.hidden and not prove(made).good and odd(made)
    made = consoles.found("c", (other,))(made)
    assert not odd(made)
    for left in (3, 1):
        causes_left = [f for f in check(made) if f.rule == "console fault"]
        made = causes_left[-1].fixes[0](made)
        assert len(made.devices[0].console.seen) == left and not odd(made)
    assert prove(made).good


def test_a_wrong_sense_silences_a_keyboard_and_its_fix_wakes_it():
    made = block(facing="line to common")
    line = next(c for c in causes(made) if c.finding.rule == "wrong diode sense")
    assert line.keys == 25 and prove(line.finding.fixes[0](made)).good


def test_a_finding_about_stops_leads_to_the_first_of_them():
    made = consoles.set_block("c", "stops", "", diodes=False)(plan())
    (one,) = [f for f in check(made) if f.rule == "no diodes"]
    assert one.subjects[0] == "c:stop-0"
    (two,) = [f for f in check(block(diodes=False)) if f.rule == "no diodes"]
    assert two.subjects[0] == "c:great"
