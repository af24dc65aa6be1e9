"""Laws of the solver on small random rigs, against exhaustive search."""

import itertools

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.solve.test_worked import joined, pads, wish
from tests.rigs import keyboard, module, part, zone
from vastzone.core.plan.limits import ScopeLimit
from vastzone.core.plan.settings import dials, set_numbers
from vastzone.core.proof.intended import prove
from vastzone.core.solve.clash import Refusal, can_hold, work_out
from vastzone.core.solve.numbers import lock

CHANNELS = (1, 2)
FIXED = tuple(
    ScopeLimit(setting=s, scope="fixed")
    for s in ("part-range", "part-shift", "zone-shift", "send-number")
)


@st.composite
def rigs(draw):
    """Two zones and a pad on a keyboard and a pad controller, three parts, some of it locked.

    Every channel but 1 and 2 is kept by the module, so that all ways can be tried out.
    """
    from vastzone.core.plan.limits import Reserved

    kept = Reserved(purpose="other things", channels=tuple(range(3, 17)))
    split = draw(st.integers(40, 90))
    spans = ((0, 127), (0, split), (split + 1, 127), (30, 100), (0, 60))
    ranges = [draw(st.sampled_from(spans)) for _ in range(3)]
    parts = tuple(
        part(f"p{n}", draw(st.sampled_from(CHANNELS)), low=low, high=high)
        for n, (low, high) in enumerate(ranges)
    )
    board = keyboard(
        zone("low", 36, split, draw(st.sampled_from(CHANNELS))),
        zone("high", split + 1, 96, draw(st.sampled_from(CHANNELS))),
        limits=FIXED,
    )
    wishes = [
        wish("low", f"box:p{draw(st.integers(0, 2))}", 36, split),
        wish("high", f"box:p{draw(st.integers(0, 2))}", split + 1, 96),
    ]
    if draw(st.booleans()):
        target = draw(st.integers(0, 2))
        wishes.append(wish("pad", f"box:p{target}", sources=("pads:pad-1",), note=36))
    plan = joined(
        board, pads(1, limits=FIXED), module(*parts, limits=(*FIXED, kept)), intents=tuple(wishes)
    )
    for ref in draw(st.sets(st.sampled_from(channel_refs(plan)), max_size=2)):
        plan = lock(ref)(plan)
    return plan


def channel_refs(plan):
    return sorted(ref for ref, d in dials(plan).items() if ref.endswith("/channel") and d.value > 0)


def possible(plan):
    """Whether any choice of channels lets everything be as meant, by trying all of them."""
    locked = {s.ref for s in plan.settings if s.hold == "locked"}
    open_refs = [r for r in channel_refs(plan) if r not in locked]
    return any(
        prove(set_numbers(dict(zip(open_refs, choice, strict=True)), "Try").change(plan)).good
        for choice in itertools.product(CHANNELS, repeat=len(open_refs))
    )


@settings(max_examples=80, deadline=None)
@given(rigs())
def test_what_is_solved_is_as_meant_and_what_is_refused_is_impossible(plan):
    found = work_out(plan)
    if isinstance(found, Refusal):
        assert not possible(plan), found.sentence
        items = [("wish", i) for i in found.intents] + [("lock", r) for r in found.locks]
        assert not can_hold(plan, items)
        for item in items:
            assert can_hold(plan, [i for i in items if i != item]), "nothing can be spared"
        return
    assert prove(found.plan).good
    again = work_out(found.plan)
    assert again.numbers == () and again.plan.devices == found.plan.devices


@settings(max_examples=100, deadline=None)
@given(rigs())
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


@settings(max_examples=30, deadline=None)
@given(rigs())
def test_the_answer_is_the_same_every_time(plan):
    first, second = work_out(plan), work_out(plan)
    if isinstance(first, Refusal):
        assert first[:3] == second[:3] and [m.label for m in first.mends] == [
            m.label for m in second.mends
        ]
    else:
        assert first == second
