"""Steps, ends, slew, loudness, ceilings, voltages: worked by hand."""

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core.errors import EditError
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.response import loudness, repitch, sweep, velocity, voltage
from vastzone.core.response.voltage import Level


def send(low=0, high=127, **more):
    return Send(control="c", message="controller", number=20, low=low, high=high, **more)


def target(low, high, unit=""):
    return Target(id="t", name="T", low=low, high=high, unit=unit)


@pytest.mark.parametrize(
    ("note", "ratio"), [(72, 2.0), (67, 1.498), (60, 1.0), (48, 0.5), (36, 0.25)]
)
def test_a_sample_plays_twice_as_fast_an_octave_above_its_root(note, ratio):
    assert repitch.repitching(note, 60) == pytest.approx(ratio, abs=5e-4)


def test_sender_and_receiver_limits_multiply():
    assert sweep.end_values(send(32, 96), target(0, 100, "%")) == pytest.approx(
        (32 / 127 * 100, 96 / 127 * 100)
    )
    assert sweep.end_values(send(127, 0), target(-60, 0, "dB")) == (0.0, -60.0)


@pytest.mark.parametrize(
    ("unit", "low", "high", "bits", "count", "size", "heard"),
    [
        ("dB", -127, 0, 7, 128, 1.0, False),
        ("dB", -60, 0, 7, 128, 60 / 127, False),
        ("st", 0, 24, 7, 128, 24 / 127, True),
        ("st", 0, 24, 14, 16384, 24 / 16383, False),
        ("Hz", 20, 2000, 7, 128, 1980 / 127, False),
    ],
)
def test_steps_are_counted_and_told_in_the_unit(unit, low, high, bits, count, size, heard):
    found = sweep.steps(send(), target(low, high, unit), bits)
    assert found.values == count and found.size == pytest.approx(size) and found.heard is heard


def test_a_narrow_sender_has_fewer_steps_of_the_same_size():
    assert sweep.steps(send(40, 60), target(0, 127)) == (21, 1.0, False)


def test_slew_is_at_63_per_cent_after_its_time_and_settled_after_its_end():
    times = [float(t) for t in range(2001)]
    up = sweep.slewed(times, [0] + [100] * 2000, 200, 50)
    assert up[200] == pytest.approx(100 * (1 - 1 / math.e), abs=0.01)
    assert up[round(sweep.settle_ms(200))] == pytest.approx(99, abs=0.05)
    down = sweep.slewed(times, [100] + [0] * 2000, 200, 50)
    assert down[50] == pytest.approx(100 / math.e, abs=0.01)
    assert sweep.slewed([0, 1], [5, 9], 0, 0) == [5, 9]


def test_of_two_that_move_one_target_the_last_wins_with_a_jump():
    assert sweep.fight([10, 20, None, None], [None, None, 90, None]) == [70]
    assert sweep.fight([10, 20, 30], [None, None, None]) == []


def test_volume_is_a_law_of_forty_logarithms():
    assert loudness.volume_db(127) == 0 and loudness.volume_db(0) == -math.inf
    assert loudness.volume_db(64) == pytest.approx(-11.905, abs=1e-3)
    assert [loudness.volume_for(db) for db in (0, -12, -40)] == [127, 64, 13]


@given(rise=st.lists(st.floats(0, 24), min_size=2, max_size=8))
def test_even_loudness_leaves_no_more_than_half_a_step(rise):
    points = [(n / (len(rise) - 1), db) for n, db in enumerate(rise)]
    found = loudness.even(points, 0.5)
    for volume, left in zip(found.volumes, found.left_db, strict=True):
        step = loudness.volume_db(volume + 1) - loudness.volume_db(volume) if volume < 127 else 1.0
        assert abs(left) <= step
    assert found.reaches is (found.worst_db <= 0.5)


def test_loudness_known_at_one_place_is_refused():
    with pytest.raises(EditError):
        loudness.even([(0.5, 3.0)], 1.0)


@given(gaps=st.lists(st.floats(0, 12), min_size=1, max_size=6))
def test_ceilings_keep_every_gap(gaps):
    try:
        caps = loudness.ceilings([(f"P{n}", g) for n, g in enumerate(gaps)])
    except EditError:
        return
    above = 0.0
    for cap, gap in zip(caps, gaps, strict=True):
        assert above - cap.db >= gap - 1e-9
        above = cap.db


def test_ceilings_by_hand_and_one_that_is_too_low():
    narrator, keys, loops = loudness.ceilings([("Narrator", 0), ("Keys", 6), ("Loops", 3)])
    assert (narrator.top, keys.top, loops.top) == (127, 89, 74)
    assert (keys.percent, keys.tenths) == (70, 7.0)
    with pytest.raises(EditError, match="Rain"):
        loudness.ceilings([("Wind", 80), ("Rain", 10)])


def test_a_source_above_the_rating_is_divided_and_one_below_zero_is_lifted():
    five = Level(0, 5)
    assert voltage.divider(Level(0, 4.5), five) is None
    ten = voltage.divider(Level(0, 10), five)
    assert (ten.series, ten.shunt, ten.lift) == (10_000, 10_000, 0) and ten.result == (0, 5)
    both = voltage.divider(Level(-5, 5), five)
    assert both.lift and voltage.fits(both.result, five) and both.result.span > 2.4
    assert voltage.ohms_words(4700) == "4.7 kΩ" and voltage.ohms_words(560) == "560 Ω"
    assert voltage.ohms_words(1000) == "1 kΩ" and voltage.ohms_words(1e6) == "1 MΩ"


@given(low=st.floats(-15, 0), high=st.floats(0.5, 15), top=st.floats(3, 10))
def test_no_divider_ever_leaves_the_rating(low, high, top):
    rating = Level(0, top)
    made = voltage.divider(Level(low, high), rating)
    if made is None:
        assert low >= 0 and high <= top
        return
    assert made.result.low >= -1e-6 and made.result.high <= top + 1e-6
    for ohms in (made.series, made.shunt, made.lift):
        if ohms:
            mantissa = round(ohms / 10 ** math.floor(math.log10(ohms) + 1e-12), 6)
            assert mantissa in voltage.E24


@given(points=st.dictionaries(st.integers(0, 127), st.integers(0, 127), max_size=6))
def test_a_drawn_curve_never_falls_and_goes_through_its_points(points):
    held = tuple(sorted(zip(sorted(points), sorted(points.values()), strict=True)))
    curve = velocity.drawn(held)
    assert len(curve) == 128 and all(a <= b + 1e-9 for a, b in pairwise(curve))
    assert all(curve[x] == pytest.approx(y) for x, y in held)


def test_what_is_sent_follows_the_drawn_curve_and_the_limits():
    bent = send(points=((64, 16),))
    assert sweep.sent_value(bent, 64 / 127) == 16 and sweep.sent_value(bent, 1.0) == 127
    turned = send(low=127, high=0, points=((64, 16),))
    assert sweep.sent_value(turned, 64 / 127) == 111


def test_the_input_range_begins_at_its_threshold():
    bent = send(threshold=64)
    assert sweep.worked(bent, 63.9 / 127) == 0 and sweep.worked(bent, 64 / 127) > 0.5
    ranged = send(starts=27, ends=127)
    assert sweep.worked(ranged, 27 / 127) == 0 and sweep.worked(ranged, 1.0) == 1.0
    assert sweep.worked(ranged, 77 / 127) == pytest.approx(0.5)
    assert sweep.worked(ranged, -1) == 0 and sweep.worked(ranged, 2) == 1.0
