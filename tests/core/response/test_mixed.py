"""Several sources of voltage in one jack: against the currents at the input."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import module, part, rig
from vastzone.core.cards.plugging import plugging
from vastzone.core.plan.edits.pedals import plug_in, take_over
from vastzone.core.plan.model.pedals import Pedal, PedalJack, values_given
from vastzone.core.plan.queries.mixed import mixed, mixed_in, volts_at
from vastzone.core.proof.check import check

OHMS = st.integers(100, 1_000_000)
SOURCES = st.lists(
    st.builds(
        lambda low, span, ohms, n: Pedal(
            id=f"p{n}",
            name=f"P{n}",
            kind="voltage",
            function="morph",
            low=low,
            high=low + span,
            source_ohms=ohms,
        ),
        st.floats(-10, 10),
        st.floats(0, 10),
        OHMS,
        st.integers(0, 9),
    ),
    min_size=1,
    max_size=4,
)


@given(SOURCES, OHMS, st.data())
def test_no_current_is_lost_at_the_input(sources, ohms, data):
    """What flows in from all sources flows out through the input (Kirchhoff)."""
    jack = PedalJack(id="j", name="J", accepts=("voltage",), functions=("any",), ohms=ohms)
    volts = [data.draw(st.floats(source.low, source.high)) for source in sources]
    there = volts_at(volts, sources, jack)
    flows = [(v - there) / s.source_ohms for v, s in zip(volts, sources, strict=True)]
    assert sum(flows) == pytest.approx(there / jack.ohms, abs=1e-9)


@given(SOURCES, OHMS)
def test_one_alone_is_the_divider_that_it_always_was(sources, ohms):
    jack = PedalJack(id="j", name="J", accepts=("voltage",), functions=("any",), ohms=ohms)
    source = sources[0]
    alone = mixed("d:j", (source,), jack)
    assert (alone.rests, alone.whole) == values_given(source, jack)


def test_two_alike_move_half_each():
    """Two sliders of 0–5 V through 1 kΩ into 100 kΩ: 2.49 V each, 4.98 V together, of 5 V."""
    jack = PedalJack(id="cv", name="CV", accepts=("voltage",), functions=("morph",), ohms=100_000)
    ends = {"kind": "voltage", "function": "morph", "low": 0.0, "high": 5.0}
    one, two = Pedal(id="a", name="Slider", **ends), Pedal(id="b", name="Antenna", **ends)
    plain = Pedal(id="c", name="Treadle", kind="continuous", function="morph")
    plan = rig(module(part(), jacks=(jack,)), cables=(), pedals=(one, two, plain))
    plan = plug_in(plan, "a", "box:cv").change(plan)
    plan = plug_in(plan, "b", "box:cv").change(plan)
    found = mixed_in(plan, "box:cv", jack)
    assert (found.rests, found.reaches, found.whole) == (0, (63, 63), 126)
    told = [finding for finding in check(plan) if finding.rule == "voltages mixed"]
    assert len(told) == 1
    assert any("Slider" in line and "Antenna" in line for line in plugging(plan, plan.devices[0]))
    # A fit of the others leaves them together; a treadle pushes both out.
    assert take_over(()).change(plan).pedal_plugs == plan.pedal_plugs
    assert len(plug_in(plan, "c", "box:cv").change(plan).pedal_plugs) == 1
