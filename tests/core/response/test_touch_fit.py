"""Velocity fits of simulated players, and what recorded sweeps tell of a pedal."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vastzone.core.errors import EditError
from vastzone.core.response.touch_fit import LEVELS, fit_velocity, simulated_player, table_csv
from vastzone.core.response.travel import calibrated, examine, simulated_pedal, steadied

WANTED = (20, 50, 75, 98, 120)


@pytest.mark.parametrize("kind", ["heavy", "light", "narrow"])
@pytest.mark.parametrize("seed", [1, 2, 3])
def test_fitted_strikes_have_the_wanted_quantiles(kind, seed):
    strikes = simulated_player(kind, 400, seed)
    found = fit_velocity(strikes, WANTED)
    sent = [found.table[v] for v in strikes]
    assert np.abs(np.quantile(sent, LEVELS) - WANTED).max() <= 3
    assert found.error >= 0 and table_csv(found.table).count("\n") == 129


@settings(max_examples=40)
@given(st.lists(st.integers(1, 127), min_size=8, max_size=60).filter(lambda v: len(set(v)) > 1))
def test_a_fitted_curve_is_always_monotone(strikes):
    table = fit_velocity(strikes).table
    assert len(table) == 128 and all(a <= b for a, b in pairwise(table))
    assert all(1 <= v <= 127 for v in table)


def test_too_few_or_equal_strikes_are_refused():
    for strikes in ([60] * 30, [20, 40, 60]):
        with pytest.raises(EditError):
            fit_velocity(strikes)


@pytest.mark.parametrize("seed", [1, 2, 3])
@pytest.mark.parametrize(
    ("heel", "toe", "dead", "noise"),
    [(0, 127, 0.0, 0.0), (127, 0, 0.0, 1.0), (12, 110, 0.08, 1.0), (118, 6, 0.05, 0.6)],
)
def test_sense_and_ends_come_out_of_noisy_sweeps(seed, heel, toe, dead, noise):
    found = examine(simulated_pedal(seed, heel, toe, dead, noise))
    assert found.sense == ("forward" if toe > heel else "reversed")
    assert found.wiper == "right" and not found.leaps
    assert abs(found.heel - heel) <= 3 and abs(found.toe - toe) <= 3
    assert abs(found.dead_heel - dead) <= 0.02 and abs(found.dead_toe - dead) <= 0.02
    assert calibrated(found, heel) <= 4 and calibrated(found, toe) >= 123


def test_a_pedal_without_a_range_is_left_as_it_is_and_one_with_a_range_fills_it():
    found = examine(simulated_pedal(1, 20, 100))
    assert [calibrated(found, at) for at in (0, found.low, found.high, 127)] == [0, 0, 127, 127]
    turned = examine(simulated_pedal(1, 100, 20))
    assert [calibrated(turned, at) for at in (turned.low, turned.high)] == [127, 0]
    assert calibrated(found._replace(low=60, high=60), 61) == 61
    assert calibrated(found._replace(low=60, high=61), 61) == 127


def test_a_mismatched_wiper_is_a_stub_or_a_leap():
    assert examine(simulated_pedal(1, 60, 78)).wiper == "mismatched"
    leaping = [s._replace(value=0 if s.travel < 0.5 else 120) for s in simulated_pedal(1, 0, 127)]
    found = examine(leaping)
    assert found.wiper == "mismatched" and found.leaps == pytest.approx((0.5,), abs=0.02)
    with pytest.raises(EditError):
        examine(simulated_pedal(1, 0, 127, count=10))


def test_hysteresis_stops_the_chatter_and_keeps_the_sweep():
    found = examine(simulated_pedal(3, 0, 127, 0.0, 1.2))
    rest = np.random.default_rng(5).normal(64, 1.2, 300).round().astype(int).tolist()
    assert found.hysteresis >= 2
    still = steadied(rest, found.hysteresis)
    changes = sum(a != b for a, b in pairwise(still))
    assert changes < 0.2 * sum(a != b for a, b in pairwise(rest))
    assert steadied(list(range(128)), found.hysteresis)[-1] == 127
