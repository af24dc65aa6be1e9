"""The table of fields: what is set can be read, what is read is said, one entry is enough."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.random_rigs import wide_plans
from tests.rigs import keyboard, module, part, rig, zone
from tests.scale import scaled
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.cards.card import card
from vastzone.core.cards.diff import differences
from vastzone.core.errors import EditError
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields import table
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.fields.send_fields import MESSAGES
from vastzone.core.plan.fields.table import fields_for
from vastzone.core.plan.fields.words import field_words, thing_words, value_words
from vastzone.core.plan.queries import lookup
from vastzone.files import native

ALL = [native.read(path) for path in (demo.AS_FOUND, demo.READY)]
ALL += [make() for make in RIGS.values()]


def numbers(plan):
    return {ref: dial.value for ref, dial in dials(plan).items()}


def all_said(plan):
    for ref, dial in dials(plan).items():
        words = thing_words(dial), field_words(dial), value_words(dial, dial.value)
        assert all(words), ref


@pytest.mark.parametrize("plan", ALL, ids=lambda plan: plan.name)
def test_everything_that_is_set_is_said_in_words(plan):
    all_said(plan)


@settings(max_examples=30, deadline=None)
@given(wide_plans())
def test_everything_that_is_set_in_any_plan_is_said_in_words(plan):
    all_said(plan)


@settings(max_examples=scaled(25), deadline=None)
@given(st.integers(0, len(ALL) - 1), st.data())
def test_what_is_set_is_read_again_and_nothing_else_moves(number, data):
    plan = ALL[number]
    held = numbers(plan)
    ref = data.draw(st.sampled_from(sorted(held)))
    value = data.draw(st.integers(-1, 16) | st.sampled_from(["", "40 10, 90 80", "1/16", "kit"]))
    try:
        after = set_numbers({ref: value}, "Set")(plan)
    except EditError:
        return  # out of range, or no number, or nothing of that name
    changed = {at for at in held if numbers(after).get(at) != held[at]}
    shown_now_or_no_more = {at for at in changed if at.rpartition("/")[0] == ref.rpartition("/")[0]}
    assert str(numbers(after)[ref]) == str(value)
    assert changed == ({ref} if str(value) != str(held[ref]) else set()) | shown_now_or_no_more


@pytest.mark.parametrize("plan", ALL, ids=lambda plan: plan.name)
def test_setting_what_is_set_already_changes_nothing(plan):
    for ref, value in numbers(plan).items():
        try:
            assert set_numbers({ref: value}, "Set")(plan) == plan
        except EditError:
            continue


def test_pads_that_change_from_notes_to_controllers_are_told_and_stand_on_the_card():
    plan = RIGS["c"]()
    ref = "dabchick/0/pad-1.1/message"
    after = set_numbers({ref: MESSAGES.place("controller")}, "Change")(plan)
    told = [each.sentence for each in differences(plan, after)]
    assert "Pad 1, bank 1, message from note to controller." in told
    owner = lookup.device(after, "dabchick")
    lines = [x for x in card(after, of_plan(plan), owner).lines if ref in x.operation.refs]
    assert len(lines) == 1 and lines[0].thing == "Pad 1, bank 1"
    assert lines[0].after.startswith("controller ") and lines[0].before.startswith("note ")


def test_what_a_pad_has_besides_its_message_is_listed_where_it_is_not_as_in_a_new_one():
    plan = RIGS["c"]()
    place = "dabchick/0/pad-1.1"
    owner = lookup.device(plan, "dabchick")
    usual = {"vel_low": 1, "vel_high": 127, "fade": False, "curve": "linear", "points": ()}
    held = of_plan(plan)
    lines = card(plan, held, owner, everything=True).lines
    listed = {ref for line in lines for ref in line.operation.refs}
    for field, value in usual.items():
        assert f"{place}/{field}" not in listed and f"{place}/{field}" in dials(plan)
        other = {"vel_high": 126, "fade": True, "curve": "hard", "points": ((64, 40),)}
        changed = set_send("dabchick", 0, "pad-1", 1, "Set", **{field: other.get(field, 2)})(plan)
        lines = card(changed, held, lookup.device(changed, "dabchick")).lines
        assert f"{place}/{field}" in {ref for line in lines for ref in line.operation.refs}, field
        assert {each.device for each in differences(plan, changed)} == {"Dabchick"}, value


def test_no_two_fields_of_an_owner_share_a_name_and_a_low_end_is_not_a_high_one():
    for kind in {field.owner for field in table.FIELDS}:
        ids = [field.id for field in fields_for(kind)]
        assert len(ids) == len(set(ids))
    from vastzone.core.plan.model.limits import ScopeLimit

    limit = ScopeLimit(setting="part-range", scope="global")
    plan = rig(keyboard(zone()), module(part(low=40, high=90), limits=(limit,)))
    low, high = (dials(plan)[f"box/part.piano/{end}"] for end in ("low", "high"))
    assert low.slot != high.slot
