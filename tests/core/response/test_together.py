"""Targets together, sources that move by themselves, curves that a device offers."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone import demo
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import edit_device
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Drive, Send, VelocityCurve
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove
from vastzone.core.response.levels import read_ends, wish_level
from vastzone.core.response.loudness import even
from vastzone.core.response.sources import driven, practice, speed_at
from vastzone.core.response.together import evening, scale_of, together
from vastzone.core.response.touch_fit import curves_of, fit_velocity, simulated_player
from vastzone.core.response.wished import reached
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution
from vastzone.files import native

CUT = Target(id="cut", name="Cut", controller=74, louder=((0, 0.0), (64, 5.0), (127, 9.0)))
VOLUME = Target(id="vol", name="Volume", controller=7, role=7)


def send(**more):
    return Send(control="c", message="controller", **more)


@pytest.fixture
def ready():
    return native.read(demo.READY)


def test_brighter_and_quieter_stays_level():
    bright = send(number=74)
    alone = together([(bright, CUT)])
    assert alone is not None and alone.spread_db == pytest.approx(9)
    quieter = evening(bright, CUT, VOLUME, 0.5)
    assert quieter.number == 7 and quieter.low > quieter.high
    assert quieter.points[0] == (0, 0) and quieter.points[-1] == (127, 127)
    both = together([(bright, CUT), (quieter, VOLUME)])
    assert both is not None and both.spread_db < 0.8


@given(
    st.floats(-60, -12),
    st.floats(0, 6),
    st.lists(st.floats(0, 9), min_size=2, max_size=6),
    st.booleans(),
)
def test_a_level_in_db_keeps_it_even_as_far_as_its_steps_and_its_range_allow(
    low, top, rises, turned
):
    louder = tuple((round(127 * n / (len(rises) - 1)), db) for n, db in enumerate(sorted(rises)))
    cut = Target(id="cut", name="Cut", controller=74, louder=louder)
    ends = (top, low) if turned else (low, top)
    level = Target(id="lvl", name="Level", controller=20, unit="dB", low=ends[0], high=ends[1])
    quieter = evening(send(number=74), cut, level, 0.5)
    assert (quieter.low < quieter.high) == turned or quieter.low == quieter.high
    found = even([(v / 127, db) for v, db in louder], 0.5, 17, scale_of(level))
    assert found.worst_db <= (top - low) / 127 / 2 + 1e-9


def test_a_level_from_0_to_minus_3_db_is_wished_and_worked_out(ready):
    level = Target(id="lvl", name="Level", controller=21, unit="dB", low=-40, high=0)
    plan = edit_device(
        "echo-pool", "x", lambda owner: changed(owner, targets=(*owner.targets, level), limits=())
    )(ready)
    ends = read_ends("0 to −3 dB", level)
    assert ends == (0, -3)
    plan = wish_level(plan, WishPlace("dipper:knob-1"), "echo-pool:lvl", ends)(plan)
    solved = work_out(plan)
    assert isinstance(solved, Solution) and prove(solved.plan).good
    pool = lookup.device(solved.plan, "echo-pool")
    target = lookup.by_id(pool.targets, "lvl", "target")
    program = lookup.device(solved.plan, "dipper").programs[0]
    (sent,) = [
        one
        for one in program.sends
        if (one.control, one.bank, one.number) == ("knob-1", 1, target.controller)
    ]
    assert reached(sent, target) == pytest.approx([0, -3], abs=40 / 127 / 2 + 1e-9)
    with pytest.raises(EditError):
        read_ends("0 to 12 dB", level)
    with pytest.raises(EditError):
        read_ends("loud", level)
    assert read_ends("0 to −12 dB", VOLUME) == (127, pytest.approx(64, abs=1))


def test_levels_in_db_add_up_and_others_say_nothing():
    fader = Target(id="f", name="F", controller=20, low=-40, high=0, unit="dB")
    found = together([(send(low=127, high=0), fader), (send(), Target(id="x", name="X"))], 3)
    assert found is not None and found.levels == (0.0, pytest.approx(-20, abs=0.2), -40.0)
    assert together([(send(), Target(id="x", name="X"))]) is None


def test_evening_needs_to_know_the_loudness():
    with pytest.raises(EditError):
        evening(send(number=74), Target(id="x", name="X"), VOLUME, 0.5)


def test_the_speed_of_an_even_beat_is_its_rate():
    beat = [n * 100.0 for n in range(100)]
    assert speed_at(Drive(smooth_ms=800), beat, 9900) == pytest.approx(10, rel=0.08)
    values = driven(Drive(slow=2, fast=12, smooth_ms=400), beat, [0.0, 9900.0, 20_000.0])
    assert values[0] == 6 and values[1] > 80 and values[2] == 0


@given(st.sampled_from(["speed", "random", "steps"]), st.integers(0, 99))
def test_sources_stay_in_range_and_come_the_same_again(kind, seed):
    drive = Drive(kind=kind, seed=seed)
    times = [n * 50.0 for n in range(200)]
    first = driven(drive, practice(), times)
    assert first == driven(drive, practice(), times) and all(0 <= v <= 127 for v in first)


def test_steps_follow_strike_by_strike():
    assert driven(Drive(kind="steps", values=(1, 2, 3)), [0, 10, 20, 30], [5, 15, 25, 35]) == [
        1,
        2,
        3,
        1,
    ]


def test_the_nearest_of_a_device_s_own_curves():
    soft = VelocityCurve(name="Soft 2", points=((0, 0), (40, 90), (127, 127)))
    flat = VelocityCurve(name="Flat", points=((0, 64), (127, 64)))
    owner = Device(id="d", name="D", kind="keyboard", curves=(flat, soft))
    found = fit_velocity(simulated_player("light", 200, 3), offered=curves_of(owner))
    assert found.nearest == "Soft 2" and len(found.curve) == 128
