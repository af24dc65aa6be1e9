"""References: what is written is read back, for all that a plan names."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.random_rigs import wide_plans
from vastzone import demo
from vastzone.core.plan import refs
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, read_setting_ref, setting_in
from vastzone.files import native

IDENT = st.from_regex(r"[a-z0-9]+(-[a-z0-9]+){0,2}", fullmatch=True)


@given(IDENT, IDENT)
def test_a_thing_is_read_as_it_was_written(device, thing):
    text = refs.ref_to(device, thing)
    assert read_ref(text) == (device, thing)
    assert (refs.device_of(text), refs.thing_of(text)) == (device, thing)
    assert read_ref(device) == (device, "")


@given(IDENT, IDENT, st.sampled_from(sorted(refs.NAMED)), IDENT, IDENT)
def test_a_setting_is_read_as_it_was_written(device, program, owner, ident, field):
    inside = program if owner in refs.IN_PROGRAMS else None
    found = read_setting_ref(setting_in(refs.owner_place(device, owner, ident, inside), field))
    assert found == (device, inside, owner, ident, field)


@given(IDENT, IDENT, IDENT, st.integers(1, 8), st.integers(0, 3))
def test_what_a_control_sends_is_read_with_its_control(device, program, pad, bank, layer):
    thing = f"{pad}.{bank}.{layer}" if layer else f"{pad}.{bank}"
    found = read_setting_ref(setting_in(refs.send_place(device, program, thing), "number"))
    if pad not in refs.IN_PROGRAMS:
        assert (found.program, found.owner, found.control) == (program, "control", pad)
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
        things |= {program.id: program.name for program in owner.programs}
        things |= {block.id: block.name for block in owner.console.blocks} if owner.console else {}
        things |= {zone.id: zone.name for program in owner.programs for zone in program.zones}
        assert read_ref(place.thing).thing in things
        assert place.program is None or place.program in {p.id for p in owner.programs}


def test_a_free_id_is_made_from_the_name():
    assert lookup.free_id((), "Sea Organ!") == "sea-organ"
    assert lookup.free_id(("viol",), "Viol") == "viol-2"
    assert lookup.free_id(("viol", "viol-2", "viol-4"), "Viol") == "viol-3"
    assert lookup.free_id((), "…") == "item" and lookup.free_id(("item",), "") == "item-2"
    assert lookup.free_id((), "N" * 60) == "n" * 40
