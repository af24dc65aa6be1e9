"""Wider random rigs: scenes, layers, pads with kits, knobs, a board with one channel for all.

What the solver returns must be as meant everywhere, and a second run must change nothing.
"""

from hypothesis import HealthCheck, given, settings

from tests.random_rigs import wide_plans
from tests.scale import scaled
from vastzone.core.plan.fields.dials import dials
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import Refusal, can_hold, work_out


@settings(max_examples=scaled(12), deadline=None, suppress_health_check=list(HealthCheck))
@given(wide_plans())
def test_whatever_is_returned_is_as_meant_and_stays(plan):
    found = work_out(plan)
    if isinstance(found, Refusal):
        items = [("wish", i) for i in found.wishes] + [("lock", r) for r in found.locks]
        assert items and not can_hold(plan, items)
        return
    faults = list(prove(found.plan).faults())
    assert not faults, faults[:2]
    assert not any(
        d.value != dials(found.plan)[r].value
        for r, d in dials(plan).items()
        if r in dials(found.plan) and r not in {n.ref for n in found.numbers}
    )
    again = work_out(found.plan)
    assert again.numbers == () and again.plan.devices == found.plan.devices
