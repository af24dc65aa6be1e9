"""What is left to dial, counted without writing the cards."""

from hypothesis import given, settings
from hypothesis import strategies as st

from vastzone import demo
from vastzone.core.cards.card import PENDING, by_device, card, left, tick
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.wishes import STATES
from vastzone.files import native

PLAN = native.read(demo.READY)
REFS = tuple(dials(PLAN))


@settings(max_examples=30, deadline=None)
@given(
    st.lists(st.tuples(st.sampled_from(REFS), st.sampled_from(STATES)), max_size=12), st.booleans()
)
def test_counted_is_what_the_card_holds(ticks, everything):
    plan = PLAN
    for ref, state in ticks:
        plan = tick((ref,), state, "2026-01-02").change(plan)
    also = by_device(ref for ref, _ in ticks)
    for device in plan.devices:
        kept = also.get(device.id, frozenset())
        steps = card(plan, device, everything, kept).steps
        count = left(plan, device, everything, kept)
        waiting = [s for s in steps if s.state in PENDING]
        assert (count.steps, count.done) == (len(waiting), len(steps) - len(waiting))
        assert count.presses == sum(s.presses for s in waiting)


def test_what_was_ticked_stays_on_the_card_with_what_it_was():
    device = next(d for d in PLAN.devices if d.id == "heron")
    refs = tuple(r for s in card(PLAN, device).steps for r in s.refs)
    before = {s.refs: (s.before, s.after) for s in card(PLAN, device).steps}
    done = tick(refs, "checked", "2026-01-02")(PLAN)
    device = next(d for d in done.devices if d.id == "heron")
    assert not card(done, device).steps
    kept = card(done, device, also=frozenset(refs)).steps
    assert {s.refs: (s.before, s.after) for s in kept} == before
