"""Strike analysis against the simulated drummer, and by hand."""

import pytest

from tests.stranger import session
from vastzone import demo
from vastzone.core.plan.queries import lookup
from vastzone.core.response.drummer import play
from vastzone.core.response.strike_settings import into_inputs
from vastzone.core.response.strikes import Hit, Settings, analyse, count, keep, sweep
from vastzone.files import native


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


@pytest.mark.parametrize("seed", [11, 12])
@pytest.mark.parametrize(
    ("kit", "precision", "recall"),
    [
        ({}, 0.97, 0.94),
        ({"ringing": 0.8}, 0.97, 0.94),
        ({"coupling": 0.3}, 0.95, 0.9),
        ({"bass_ms": 68.0}, 0.96, 0.93),
        ({"bass_ms": 68.0, "ringing": 0.8, "coupling": 0.28, "noise": 60.0}, 0.88, 0.92),
    ],
)
def test_a_stranger_s_strokes_are_found(seed, kit, precision, recall):
    """A kit and a drummer that the analysis was not made with: flams, ghosts, drift, fast feet."""
    played = session(seed, **kit)
    order = sorted(range(len(played.hits)), key=lambda n: played.hits[n])
    truth = [played.true[n] for n in order]
    said = [kind == "true" for kind in analyse(played.hits).kinds]
    right = sum(s and t for s, t in zip(said, truth, strict=True))
    assert right / sum(said) > precision and right / sum(truth) > recall


def test_what_was_found_is_written_into_the_inputs():
    plan = native.read(demo.READY)
    owner = lookup.device(plan, "curlew")
    hits = analyse((Hit(0, "Snare", 100), Hit(20, "Snare", 30), Hit(500, "Crash, left", 80)))
    written = into_inputs(plan, hits.proposed)
    assert written.unknown == ()
    inputs = {jack.name: jack for jack in lookup.device(written.edit(plan), "curlew").inputs}
    assert inputs["Snare"].threshold == 80 and inputs["Crash 1"].threshold == 64
    assert inputs["Snare"].mask_ms == hits.proposed.mask_ms
    assert inputs["Snare"].crosstalk == round(100 * hits.proposed.ratio)
    assert inputs["Kick"].threshold is None
    by_control = analyse((Hit(0, "Ride edge", 90), Hit(900, "Nobody's", 50)))
    told = into_inputs(plan, by_control.proposed)
    assert told.unknown == ("Nobody's",)
    assert lookup.device(told.edit(plan), "curlew").inputs[8].threshold == 72
    assert owner.inputs[8].threshold is None
