"""Describing says how a device is: it has always held it, and the plan keeps what it wanted."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.every_edit import EDITS, Hand, Nothing, some_edits
from tests.memories import KNOWN, is_dialled, memories, stored_plans
from tests.rigs import simple
from tests.scale import scaled
from vastzone.core.errors import EditError
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.memory.described import described, with_tellings
from vastzone.core.memory.differences import left_to_dial
from vastzone.core.memory.rig import as_dialled, memory_of, met
from vastzone.core.plan.edits.zones import set_zone


def told(plan, memory, edit):
    """Plan and memory after a description."""
    after, tellings = described(plan, memory, edit)
    memory = with_tellings(memory, tellings, KNOWN)
    return after, met(memory, plan, after, boxed=True, today=KNOWN.on)


def waiting(plan, memory):
    """The settings outside programs that wait to be dialled."""
    refs = set()
    for device in plan.devices:
        for difference in left_to_dial(device, memory_of(memory, device), None).whole:
            refs.add(difference.dial.ref)
    return refs


def slots(plan):
    """On which numbers each device that goes on has its programs."""
    found = {}
    for device in plan.devices:
        found[device.id] = [program.number for program in device.programs]
    return found


@settings(max_examples=scaled(40), deadline=None)
@given(st.data())
def test_what_is_described_is_not_left_to_dial(data):
    plan = data.draw(stored_plans())
    memory = of_plan(plan)
    name = data.draw(st.sampled_from(sorted(EDITS)))
    try:
        edit = EDITS[name](Hand(plan, data.draw))
        after, held = told(plan, memory, edit)
    except (Nothing, EditError):
        return
    # An encoder that was never configured has everything left to dial.
    fresh = {device.id for device in after.devices if device.console is not None}
    fresh -= {device.id for device in plan.devices}
    assert not [ref for ref in waiting(after, held) if ref.partition("/")[0] not in fresh]
    # A program that stands elsewhere has to be selected there.
    same = (after.scenes, slots(after)) == (plan.scenes, slots(plan))
    if same and is_dialled(plan, memory):
        assert is_dialled(after, held)


@settings(max_examples=scaled(40), deadline=None)
@given(st.data())
def test_a_description_makes_nothing_wait_that_did_not(data):
    earlier = data.draw(stored_plans())
    plan = data.draw(some_edits(earlier))
    memory = data.draw(memories(plan, earlier))
    name = data.draw(st.sampled_from(sorted(EDITS)))
    try:
        after, held = told(plan, memory, EDITS[name](Hand(plan, data.draw)))
    except (Nothing, EditError):
        return
    before = {device.id for device in plan.devices}
    fresh = {ref for ref in waiting(after, held) if ref.partition("/")[0] in before}
    assert fresh <= waiting(plan, memory)


def test_a_number_that_the_plan_wants_otherwise_stays_wanted():
    plan = simple()
    memory = of_plan(plan)
    wanted = set_zone("board", 0, "all", "Move", channel=5)(plan)
    after, held = told(wanted, memory, set_zone("board", 0, "all", "Is", channel=9))
    assert after.devices[0].programs[0].zones[0].channel == 5
    assert as_dialled(after, held).devices[0].programs[0].zones[0].channel == 9
