"""Sweeps of pedals by hand: ends, dead travel, leaps, noise, calibration; loudness beside them."""

import math

import pytest

from vastzone.core.errors import EditError
from vastzone.core.response.drummer import PADS, play
from vastzone.core.response.loudness import between, ceilings, even, volume_db, volume_for
from vastzone.core.response.strikes import Hit, Settings, analyse, keep
from vastzone.core.response.touch_fit import (
    fit_velocity,
    own_curves,
    simulated_player,
    table_csv,
)
from vastzone.core.response.travel import (
    Sweep,
    Travel,
    calibrated,
    examine,
    simulated_pedal,
    steadied,
)


def straight(heel, toe, count=41, dead=0.0):
    """A clean sweep from heel to toe."""
    return simulated_pedal(1, heel, toe, dead, 0.0, count)


def test_the_simulated_pedal_goes_there_and_back():
    samples = simulated_pedal(1, 10, 110, count=5)
    assert samples == [
        Sweep(0.0, 10),
        Sweep(0.5, 60),
        Sweep(1.0, 110),
        Sweep(0.5, 60),
        Sweep(0.0, 10),
    ]
    dead = simulated_pedal(1, 0, 100, dead=0.25, count=9)
    assert [s.value for s in dead[:5]] == [0, 0, 50, 100, 100]
    wild = [s.value for s in simulated_pedal(1, 0, 127, noise=30)]
    assert min(wild) == 0 and max(wild) == 127


@pytest.mark.parametrize(
    ("heel", "toe", "sense", "wiper"),
    [
        (0, 127, "forward", "right"),
        (127, 0, "reversed", "right"),
        (20, 53, "forward", "right"),
        (20, 51, "forward", "mismatched"),
        (51, 20, "reversed", "mismatched"),
    ],
)
def test_sense_and_wiper_are_seen_from_the_ends(heel, toe, sense, wiper):
    found = examine(straight(heel, toe))
    assert (found.sense, found.wiper) == (sense, wiper)
    assert (found.heel, found.toe) == (heel, toe)
    assert (found.low, found.high) == (min(heel, toe), max(heel, toe))
    assert found.hysteresis == 0 and found.leaps == ()


def test_dead_travel_is_told_at_each_end():
    found = examine(straight(0, 127, count=201, dead=0.1))
    assert found.dead_heel == pytest.approx(0.1, abs=0.02)
    assert found.dead_toe == pytest.approx(0.1, abs=0.02)


def test_a_noisy_pedal_gets_a_margin_of_its_noise():
    found = examine(simulated_pedal(3, 20, 100, noise=2.0, count=400))
    assert 1.6 < found.noise < 2.4
    edge = math.ceil(found.noise)
    assert (found.low, found.high) == (round(found.heel) + edge, round(found.toe) - edge)
    assert found.hysteresis == math.ceil(2 * found.noise)


def test_a_leap_is_found_where_it_is():
    samples = [Sweep(n / 40, 0 if n < 20 else 127) for n in range(41)]
    found = examine(samples)
    assert found.leaps == (pytest.approx(0.4875, abs=0.001),) and found.wiper == "mismatched"


def test_too_few_samples_or_half_a_sweep_are_refused():
    whole = [Sweep(n / 19, 6 * n) for n in range(20)]
    assert examine(whole).sense == "forward"
    for wrong in (whole[1:], [s._replace(travel=0.2 + 0.8 * s.travel) for s in whole]):
        with pytest.raises(EditError):
            examine(wrong)
    with pytest.raises(EditError):
        examine([s._replace(travel=0.8 * s.travel) for s in whole])


def of_range(low, high, sense="forward"):
    return Travel(sense, "right", low, high, 0, 0, 0, (), low, high, 0)


@pytest.mark.parametrize(
    ("travel", "value", "after"),
    [
        (of_range(20, 84), 20, 0),
        (of_range(20, 84), 52, 64),
        (of_range(20, 84), 84, 127),
        (of_range(20, 84), 5, 0),
        (of_range(20, 84), 120, 127),
        (of_range(20, 84, "reversed"), 20, 127),
        (of_range(20, 84, "reversed"), 84, 0),
        (of_range(50, 50), 7, 7),
    ],
)
def test_the_calibration_spreads_the_range(travel, value, after):
    assert calibrated(travel, value) == after


def test_small_moves_are_held_but_both_ends_are_reached():
    assert steadied([10, 11, 12, 13, 11, 10], 2) == [10, 10, 10, 13, 13, 10]
    assert steadied([2, 1, 0, 1, 126, 127, 126], 3) == [2, 2, 0, 0, 126, 127, 127]
    assert steadied([], 3) == []


def test_between_points_it_runs_straight_and_beyond_them_it_stays():
    points = ((0.2, -10.0), (0.6, 10.0), (1.0, 10.0))
    values = [between(points, x) for x in (0.0, 0.2, 0.3, 0.4, 0.6, 0.8, 1.0, 1.2)]
    assert values == pytest.approx([-10, -10, -5, 0, 10, 10, 10, 10])


def test_volumes_by_the_law_of_forty():
    assert volume_db(127) == 0 and volume_db(0) == -math.inf
    assert volume_db(64) == pytest.approx(-11.9, abs=0.05)
    assert volume_for(0) == 127 and volume_for(-200) == 1 and volume_for(5) == 127
    assert volume_for(volume_db(90)) == 90


def test_loudness_is_evened_down_to_the_softest():
    evened = even(((0, 0.0), (0.5, 6.0), (1, 12.0)), 0.5, 3)
    assert evened.volumes == (127, volume_for(-6), volume_for(-12))
    assert evened.reaches and evened.worst_db < 0.3
    assert not even(((0, 0.0), (1, 12.0)), 0.0001, 5).reaches
    with pytest.raises(EditError):
        even(((0.5, 0.0), (0.5, 3.0)), 0.5)


def test_ceilings_keep_at_least_the_gaps_asked_for():
    first, second, third = ceilings((("lead", 0), ("pad", 6), ("bass", 3)))
    assert (first.top, first.db, first.percent, first.tenths) == (127, 0, 100, 10.0)
    assert second.top == math.floor(127 * 10 ** (-6 / 40)) and second.percent == 70
    assert second.tenths == round(second.top / 12.7, 1)
    assert third.db <= second.db - 3
    assert ceilings((("lead", 84),))[0].top == 1
    with pytest.raises(EditError):
        ceilings((("lead", 85),))


def test_the_own_curves_have_a_velocity_for_each_strike():
    for name, table in own_curves().items():
        assert len(table) == 128 and table[127] == 127, name
        assert min(table) >= 1 and list(table) == sorted(table), name
    assert own_curves()["linear"][64] == 64 and own_curves()["linear"][0] == 1
    assert own_curves()["easy"][64] > 64 > own_curves()["hard"][64]


def test_a_fit_goes_through_the_quantiles_and_both_ends():
    played = list(range(40, 61))
    found = fit_velocity(played)
    assert found.table[50] == 75 and found.table[127] == 127 and found.table[0] == 1
    assert list(found.table) == sorted(found.table)
    lines = table_csv(found.table).splitlines()
    assert lines[0] == "struck,sent" and lines[51] == "50,75" and len(lines) == 129
    with pytest.raises(EditError):
        fit_velocity(played[:7])
    assert fit_velocity([*played[:8], 0, 128]).table == fit_velocity(played[:8]).table


@pytest.mark.parametrize(("kind", "middle"), [("heavy", 98), ("light", 42), ("narrow", 70)])
def test_simulated_players_strike_as_they_are_called(kind, middle):
    strikes = simulated_player(kind, 2000, 5)
    assert sum(strikes) / 2000 == pytest.approx(middle, abs=2)
    assert min(strikes) >= 1 and max(strikes) <= 127


def test_the_simulated_drummer_keeps_in_time_and_strength():
    take = play(2)
    assert {h.pad for h in take.hits} <= set(PADS)
    assert all(0 < h.peak <= 127 for h in take.hits)
    clean = play(2, retrigger=0.0, crosstalk=0.0)
    assert all(clean.true) and sum(take.true) <= len(clean.hits)
    assert all(h.peak >= 28 for h in clean.hits)


def test_what_falls_into_the_mask_time_is_dropped_to_the_edge():
    hits = (Hit(0, "a", 100), Hit(40, "a", 90), Hit(120, "a", 100))
    assert keep(hits, Settings({}, 39, 0.0)) == (True, True, True)
    assert keep(hits, Settings({}, 40, 0.0)) == (True, False, True)
    at_once = (Hit(0, "a", 100), Hit(8, "b", 30), Hit(17, "b", 29))
    assert keep(at_once, Settings({}, 0, 0.31)) == (True, False, True)
    assert keep(at_once, Settings({}, 0, 0.3)) == (True, True, True)
    assert keep(at_once, Settings({"b": 30}, 0, 0.0)) == (True, True, False)


def test_the_mask_parts_what_dies_away_from_strokes():
    pairs = [(0, 100), (20, 30), (500, 100), (530, 30), (1000, 100), (1090, 95)]
    found = analyse(Hit(at, "a", peak) for at, peak in pairs)
    assert found.kinds == ("true", "double", "true", "double", "true", "true")
    assert found.proposed.mask_ms == round(math.sqrt(30 * 90))
