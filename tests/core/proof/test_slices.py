"""What is kept from earlier plans never shows: after any edits all is as for a plan just read."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.scale import scaled
from vastzone import demo
from vastzone.core.console.log import mended
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits import consoles, pedals, wishes
from vastzone.core.plan.edits.cables import remove_cable
from vastzone.core.plan.edits.devices import add_device, remove_device, set_part
from vastzone.core.plan.edits.scenes import choose_program
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Fault, Seen
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.slices import derive, finish
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution
from vastzone.files import native

PLANS = (demo.AS_FOUND, demo.READY)
OPEN = Fault(kind="open wire", block="great", at=1001)
CHANNEL, SHIFT = st.integers(1, 16), st.integers(-12, 12)


def some(draw, held):
    return held[draw(st.integers(0, len(held) - 1))]


def zone(draw, plan):
    owner = some(draw, [d for d in plan.devices if any(p.zones for p in d.programs)])
    program = some(draw, [p for p in owner.programs if p.zones])
    ident = some(draw, program.zones).id
    changes = draw(
        st.sampled_from(
            [
                {"channel": draw(CHANNEL)},
                {"transpose": draw(SHIFT)},
                {"on": draw(st.booleans())},
                {"vel_high": draw(st.integers(1, 127))},
                {"low": 40},
            ]
        )
    )
    return set_zone(owner.id, program.number, ident, "Z", **changes)


def part(draw, plan):
    owner = some(draw, [d for d in plan.devices if d.parts])
    changes = draw(
        st.sampled_from(
            [
                {"channel": draw(CHANNEL)},
                {"transpose": draw(SHIFT)},
                {"high": 70},
                {"vel_low": draw(st.integers(1, 127))},
                {"trigger": "toggle"},
            ]
        )
    )
    return set_part(owner.id, some(draw, owner.parts).id, "P", **changes)


def send(draw, plan):
    owner = some(draw, [d for d in plan.devices if any(p.sends for p in d.programs)])
    program = some(draw, [p for p in owner.programs if p.sends])
    one = some(draw, program.sends)
    return set_send(
        owner.id, program.number, one.control, one.bank, "S", number=draw(st.integers(0, 127))
    )


def wish(draw, plan):
    one = some(draw, plan.wishes)
    return wishes.change(one.id, "W", shift=draw(SHIFT)) if one.plays else wishes.remove(one.id)


def cable(draw, plan):
    return remove_cable(some(draw, plan.cables))


def scene(draw, plan):
    return choose_program(some(draw, plan.scenes).id, "heron", draw(st.integers(0, 5)))


def console(draw, plan):
    owner = lookup.device(plan, "bittern")
    return some(
        draw,
        [
            consoles.found("bittern", (OPEN,)),
            mended(owner, OPEN, "Mend"),
            consoles.saw("bittern", Seen(kind="strike", at=(draw(st.integers(0, 50)),))),
            consoles.set_block("bittern", "swell", "Turn", facing="line to common"),
            consoles.set_block("bittern", "pedal", "Pins", commons=()),
        ],
    )


def pedal(draw, plan):
    if draw(st.booleans()):
        return pedals.pull_out(some(draw, plan.pedals).id)
    owner = some(draw, [d for d in plan.devices if d.jacks])
    jack = f"{owner.id}:{some(draw, owner.jacks).id}"
    return pedals.plug_in(plan, some(draw, plan.pedals).id, jack)


def device(draw, plan):
    return remove_device(some(draw, plan.devices).id)


def copied_device(draw, plan):
    """A second device that shares everything with the first but its id."""
    owner = some(draw, plan.devices)
    return add_device(changed(owner, id=f"{owner.id}-2"))


KINDS = (zone, zone, part, part, send, wish, cable, scene, console, pedal, device, copied_device)


def told(plan):
    known = finish(derive(plan))
    return known.findings, known.proof, known.causes


def in_words(result):
    """Findings and causes without their fixes, which are functions; the proof as it is."""
    findings, proof, causes = result
    return (
        [f._replace(fixes=tuple(x.label for x in f.fixes)) for f in findings],
        proof and proof.scenes,
        [
            (c.finding.sentence, c.finding.severity, [x.label for x in c.finding.fixes], c.weight)
            for c in causes
        ],
    )


@settings(max_examples=scaled(14), deadline=None)
@given(st.sampled_from(PLANS), st.data())
def test_after_any_edits_all_is_as_for_a_plan_just_read(path, data):
    plan = native.read(path)
    told(plan)
    for _ in range(data.draw(st.integers(1, 6))):
        make = data.draw(st.sampled_from(KINDS))
        try:
            plan = make(data.draw, plan)(plan)
        except PlanError:
            continue
        kept = in_words(told(plan))
        fresh = native.from_json(native.to_json(plan), "again")
        assert fresh == plan
        assert in_words(told(fresh)) == kept


@pytest.mark.parametrize("path", PLANS)
def test_numbers_worked_out_for_a_changed_plan_prove_as_meant_or_are_refused(path):
    plan = native.read(path)
    plan = set_part("dovecote", "celesta", "Move", channel=2)(plan)
    plan = set_zone("heron", 2, "brass", "Move", channel=9, transpose=5)(plan)
    found = work_out(plan)
    assert isinstance(found, Solution)
    known = finish(derive(found.plan))
    assert known.proof is not None and known.proof.good
