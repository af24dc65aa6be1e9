"""Laws of the solver on small random rigs, against exhaustive search."""

import itertools

from hypothesis import given, settings

from tests.random_rigs import TWO_CHANNELS, channel_refs, small_rigs
from tests.scale import scaled
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields.dials import dials
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import Refusal, can_hold, work_out


def possible(plan):
    """Whether any choice of channels lets everything be as meant, by trying all of them."""
    locked = {s.ref for s in plan.settings if s.hold == "locked"}
    open_refs = [r for r in channel_refs(plan) if r not in locked]
    return any(
        prove(set_numbers(dict(zip(open_refs, choice, strict=True)), "Try").change(plan)).good
        for choice in itertools.product(TWO_CHANNELS, repeat=len(open_refs))
    )


@settings(max_examples=scaled(28), deadline=None)
@given(small_rigs())
def test_what_is_solved_is_as_meant_and_what_is_refused_is_impossible(plan):
    found = work_out(plan)
    if isinstance(found, Refusal):
        assert not possible(plan), found.sentence
        items = [("wish", i) for i in found.wishes] + [("lock", r) for r in found.locks]
        assert not can_hold(plan, items)
        for item in items:
            assert can_hold(plan, [i for i in items if i != item]), "nothing can be spared"
        return
    assert prove(found.plan).good
    again = work_out(found.plan)
    assert again.numbers == () and again.plan.devices == found.plan.devices


@settings(max_examples=scaled(30), deadline=None)
@given(small_rigs())
def test_numbers_move_only_when_they_must(plan):
    """No choice of channels that works changes fewer numbers than the solver's."""
    found = work_out(plan)
    if isinstance(found, Refusal):
        return
    refs, now = channel_refs(plan), dials(plan)
    locked = {s.ref for s in plan.settings if s.hold == "locked"}
    moved = sum(n.ref in refs for n in found.numbers)
    for few in itertools.combinations([r for r in refs if r not in locked], max(0, moved - 1)):
        flipped = {r: 3 - now[r].value for r in few}
        assert moved == 0 or not prove(set_numbers(flipped, "Try").change(plan)).good


@settings(max_examples=scaled(20), deadline=None)
@given(small_rigs())
def test_the_answer_is_the_same_every_time(plan):
    first, second = work_out(plan), work_out(plan)
    if isinstance(first, Refusal):
        assert first[:3] == second[:3] and [m.label for m in first.mends] == [
            m.label for m in second.mends
        ]
    else:
        assert first == second
