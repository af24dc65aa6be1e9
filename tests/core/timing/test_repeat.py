"""Note repeat and tapped tempo, worked out by hand."""

import pytest

from vastzone.core.plan.model.controls import Repeat
from vastzone.core.timing.repeat import gap_ms, strikes_ms, tapped_bpm


@pytest.mark.parametrize(
    ("division", "ms"),
    [
        ("1/4", 500.0),
        ("1/4t", 1000 / 3),
        ("1/8", 250.0),
        ("1/8t", 500 / 3),
        ("1/16", 125.0),
        ("1/16t", 250 / 3),
        ("1/32", 62.5),
        ("1/32t", 125 / 3),
    ],
)
def test_a_division_at_120_beats_a_minute(division, ms):
    straight = Repeat(division=division, swing=50)
    assert strikes_ms(straight, 120, 4) == pytest.approx([0, ms, 2 * ms, 3 * ms])
    assert gap_ms(straight, 60, 0) == pytest.approx(2 * ms)


def test_swing_moves_the_off_beat_and_keeps_the_pair():
    swung = Repeat(division="1/8", swing=66)
    assert strikes_ms(swung, 120, 5) == pytest.approx([0, 330, 500, 830, 1000])
    assert strikes_ms(swung, 120, 1) == [0] and strikes_ms(swung, 120, 0) == []


@pytest.mark.parametrize(
    ("taps", "bpm"),
    [
        ((), None),
        ((0,), None),
        ((0, 500), 120),
        ((0, 500, 1100), pytest.approx(60_000 * 2 / 1100)),
        ((0, 3000, 3500), 120),
        ((0, 2000), 30),
        ((0, 2001), None),
        ((0, 2001, 2501), 120),
        ((0, 100), 300),
        ((0, 0), None),
        ((500, 0), None),
    ],
)
def test_taps_are_averaged_since_the_last_pause(taps, bpm):
    assert tapped_bpm(taps) == bpm
