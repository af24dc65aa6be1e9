"""References: what is written is read back, for all that a plan names."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.solve.test_wide_rigs import plans as wide_plans
from vastzone import demo
from vastzone.core.plan import lookup, refs
from vastzone.core.plan.refs import read_ref, read_setting_ref, setting_in
from vastzone.core.plan.settings import dials
from vastzone.files import native

IDENT = st.from_regex(r"[a-z0-9]+(-[a-z0-9]+){0,2}", fullmatch=True)
PLACES = {
    "zone": refs.zone_place,
    "part": refs.part_place,
    "target": refs.target_place,
    "kit": refs.kit_place,
    "input": refs.input_place,
    "jack": refs.jack_place,
    "device": refs.device_place,
}


@given(IDENT, IDENT)
def test_a_thing_is_read_as_it_was_written(device, thing):
    text = refs.ref_to(device, thing)
    assert read_ref(text) == (device, thing) and str(read_ref(text)) == text
    assert (refs.device_of(text), refs.thing_of(text)) == (device, thing)
    assert str(read_ref(device)) == device


@given(IDENT, st.integers(0, 127), st.sampled_from(sorted(PLACES)), IDENT, IDENT)
def test_a_setting_is_read_as_it_was_written(device, program, owner, ident, field):
    where = (device, program, ident) if owner == "zone" else (device, ident)
    found = read_setting_ref(setting_in(PLACES[owner](*where), field))
    assert found == (device, program if owner == "zone" else None, owner, ident, field)


@given(IDENT, st.integers(0, 127), IDENT, st.integers(1, 8), st.integers(0, 3))
def test_what_a_control_sends_is_read_with_its_bank_and_layer(device, program, pad, bank, layer):
    bank_and_layer = f"{bank}.{layer}" if layer else str(bank)
    found = read_setting_ref(
        setting_in(refs.send_place(device, program, f"{pad}.{bank_and_layer}"), "number")
    )
    if pad not in refs.NAMED:
        assert (found.owner, found.control, found.bank) == ("control", pad, bank_and_layer)
        assert found.thing == refs.ref_to(device, pad)


@pytest.mark.parametrize("path", [demo.AS_FOUND, demo.READY])
def test_every_setting_of_a_plan_belongs_to_something_in_it(path):
    belongs(native.read(path))


@settings(max_examples=30, deadline=None)
@given(wide_plans())
def test_every_setting_of_any_plan_belongs_to_something_in_it(plan):
    belongs(plan)


def belongs(plan):
    for ref in dials(plan):
        place = read_setting_ref(ref)
        owner = lookup.device(plan, place.device)
        things = {"": owner.id}
        for held in (owner.controls, owner.parts, owner.targets, owner.kits, owner.inputs):
            things |= {item.id: item.name for item in held}
        things |= {jack.id: jack.name for jack in owner.jacks}
        things |= {zone.id: zone.name for program in owner.programs for zone in program.zones}
        assert read_ref(place.thing).thing in things
        assert place.program is None or lookup.program(owner, place.program)
