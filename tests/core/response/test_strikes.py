"""Strike analysis against the simulated drummer, and by hand."""

import pytest

from vastzone.core.response.drummer import play
from vastzone.core.response.strikes import Hit, Settings, analyse, count, keep, sweep


def test_a_double_and_a_crosstalk_by_hand():
    hits = (
        Hit(0, "snare", 100),
        Hit(2, "tom", 12),
        Hit(25, "snare", 40),
        Hit(500, "snare", 90),
        Hit(500, "kick", 95),
        Hit(620, "snare", 60),
    )
    found = analyse(hits)
    assert found.kinds == ("true", "crosstalk", "double", "true", "true", "true")
    assert 25 < found.proposed.mask_ms < 120 and 0.12 < found.proposed.ratio < 0.9
    assert found.proposed.thresholds == {"kick": 76.0, "snare": 48.0}


def test_what_a_module_lets_through():
    hits = (Hit(0, "a", 100), Hit(30, "a", 50), Hit(60, "a", 90), Hit(61, "b", 20), Hit(90, "b", 9))
    assert keep(hits, Settings({"b": 10}, 40, 0.3)) == (True, False, True, False, False)
    assert keep(hits, Settings({}, 0, 0.0)) == (True,) * 5
    true = (True, False, True, False, False)
    assert count(hits, true, Settings({"b": 10}, 40, 0.3)) == (2, 0, 2, 3)


@pytest.mark.parametrize("seed", range(6))
def test_the_true_strokes_of_the_simulated_drummer_are_found(seed):
    take = play(seed)
    found = analyse(take.hits)
    said = [k == "true" for k in found.kinds]
    hit = sum(s and t for s, t in zip(said, take.true, strict=True))
    assert hit / sum(take.true) > 0.98 and hit / sum(said) > 0.98
    kept = count(take.hits, take.true, found.proposed)
    assert kept.true / kept.all_true > 0.96 and kept.false / kept.all_false < 0.06


def test_a_sweep_shows_what_each_value_costs():
    found = analyse(play(1).hits)
    values = (0.0, found.proposed.mask_ms, 400.0)
    rows = sweep(found, values, lambda s, v: s._replace(thresholds={}, mask_ms=v))
    none, proposed, much = (kept for _, kept in rows)
    assert none.false > proposed.false and much.true < proposed.true


def test_a_clean_take_is_left_alone():
    take = play(3, retrigger=0.0, crosstalk=0.0)
    assert set(analyse(take.hits).kinds) == {"true"}
    assert analyse(()).kinds == ()
