"""Laws of the solver on rigs drawn wide."""

from hypothesis import HealthCheck, given, settings

from tests.scale import scaled
from tests.solver_rigs import solver_rigs
from vastzone.core.plan.fields.dials import dials
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import Refusal, work_out
from vastzone.core.solve.guard import guard

WIDE = settings(max_examples=scaled(22), deadline=None, suppress_health_check=list(HealthCheck))


@WIDE
@given(solver_rigs())
def test_what_is_solved_is_proved_and_keeps_every_lock(rig):
    plan, memory = rig
    found = work_out(plan, memory=memory)
    if isinstance(found, Refusal):
        assert not found.defects, found.defects
        assert found.sentence[0].isupper()
        return
    assert guard(plan, found.plan, memory).breaches == ()
    for scene, mark in prove(found.plan, memory).faults():
        assert not mark.wishes, (scene, mark)


@WIDE
@given(solver_rigs())
def test_a_second_run_changes_nothing(rig):
    plan, memory = rig
    found = work_out(plan, memory=memory)
    if isinstance(found, Refusal):
        return
    again = work_out(found.plan, memory=memory)
    assert not isinstance(again, Refusal), again
    assert again.numbers == ()
    assert again.plan.devices == found.plan.devices


@WIDE
@given(solver_rigs())
def test_numbers_told_are_all_that_changes(rig):
    plan, memory = rig
    found = work_out(plan, memory=memory)
    if isinstance(found, Refusal):
        return
    told = {number.ref for number in found.numbers}
    new = dials(found.plan)
    for ref, dial in dials(plan).items():
        assert ref in told or ref not in new or new[ref].value == dial.value
