"""Who follows the cards holds the plan; who does not is shown it."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.every_edit import EDITS, FOUNDATIONS, public_edits, some_edits
from tests.memories import done, follow, is_dialled, left, lines_of, memories, stored_plans
from tests.scale import scaled
from tests.trial_rigs import RIGS
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.memory.rig import as_dialled
from vastzone.core.plan.model.controls import Slot
from vastzone.core.proof.marking import prove

TRIALS = st.sampled_from(sorted(RIGS)).map(lambda name: RIGS[name]())
PLANS = st.one_of(stored_plans(), TRIALS)


def verdicts(plan):
    return sorted((scene, mark) for scene, mark in prove(plan).faults())


@settings(max_examples=scaled(60), deadline=None)
@given(st.data())
def test_whoever_follows_the_cards_holds_the_plan(data):
    earlier = data.draw(PLANS)
    plan = data.draw(some_edits(earlier))
    memory = follow(plan, data.draw(memories(plan, earlier)))
    assert left(plan, memory) == []
    assert is_dialled(plan, memory)
    assert verdicts(as_dialled(plan, memory)) == verdicts(plan)


def spoilt(listed, data):
    """Lines of which one is left out, swapped with the next store, or stored elsewhere."""
    at = data.draw(st.integers(0, len(listed) - 1))
    stores = [n for n in range(at + 1, len(listed)) if listed[n][1].kind == "store"]
    how = data.draw(st.sampled_from(("left out", "swapped", "elsewhere")))
    device, line = listed[at]
    if how == "swapped" and stores:
        listed = list(listed)
        listed[at], listed[stores[0]] = listed[stores[0]], listed[at]
        return listed
    if how == "elsewhere" and line.kind == "store":
        elsewhere = line.operation._replace(slot=Slot(number=data.draw(st.integers(0, 9))))
        return [*listed[:at], (device, line._replace(operation=elsewhere)), *listed[at + 1 :]]
    return [*listed[:at], *listed[at + 1 :]]


@settings(max_examples=scaled(60), deadline=None)
@given(st.data())
def test_a_line_left_out_swapped_or_stored_elsewhere_is_shown(data):
    earlier = data.draw(PLANS)
    plan = data.draw(some_edits(earlier))
    memory = data.draw(memories(plan, earlier))
    listed = lines_of(plan, memory)
    if not listed:
        return
    for device, line in spoilt(listed, data):
        memory = done(memory, device, line)
    if is_dialled(plan, memory):
        assert verdicts(as_dialled(plan, memory)) == verdicts(plan)
    else:
        assert left(plan, memory)
        again = follow(plan, memory)
        assert is_dialled(plan, again)


@settings(max_examples=scaled(40), deadline=None)
@given(st.data())
def test_what_is_dialled_sounds_as_planned(data):
    earlier = data.draw(PLANS)
    plan = data.draw(some_edits(earlier))
    memory = of_plan(earlier)
    assert is_dialled(earlier, memory)
    if is_dialled(plan, memory):
        assert left(plan, memory) == []
        assert verdicts(as_dialled(plan, memory)) == verdicts(plan)


def test_every_edit_is_among_those_that_the_laws_are_tried_on():
    assert set(public_edits()) - FOUNDATIONS <= set(EDITS)
