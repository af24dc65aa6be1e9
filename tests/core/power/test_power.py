"""Sums of supplies, batteries and lengths, worked by hand; packing and its ticks."""

import pytest

from tests.rigs import keyboard, module, part, rig, zone
from vastzone import demo
from vastzone.core.cards.packing import is_ticked, packing_lines
from vastzone.core.pictures.stage_plot import arrange
from vastzone.core.plan.edits.power import add_source, feed, remove_source, tick
from vastzone.core.plan.model.bodies import Place, PowerSource
from vastzone.core.plan.model.checked import changed
from vastzone.core.power.lengths import cable_list, cable_needs, standard_length
from vastzone.core.power.sums import battery_hours, source_sums, usb_sums
from vastzone.files import native


@pytest.fixture
def ready():
    return native.read(demo.READY)


def test_the_demo_s_sums_as_worked_by_hand():
    found = native.read(demo.AS_FOUND)
    strip, brick, hub = source_sums(found)
    assert (brick.load.milliamps, brick.load.fed) == (1200, ("curlew", "weir", "echo-pool"))
    assert brick.without_reserve and not brick.overloaded
    assert hub.load.milliamps == 420 + 350 and hub.overloaded
    # 18 + 18 + 25 + 15 W of devices, and 9 V × 1.2 A of the brick on the strip.
    assert strip.load.watts == pytest.approx(18 + 18 + 25 + 15 + 10.8)
    assert strip.load.milliamps == 78 + 78 + 109 + 65 + 23 + 4 + 20
    (port,) = [one for one in usb_sums(found) if one.load.fed]
    assert (port.host, port.limit, port.load.milliamps) == ("rookery", 500, 180)


def test_battery_hours_are_watt_hours_times_085_over_watts():
    assert battery_hours(50.0, 18.0) == pytest.approx(2.361, abs=0.001)
    assert battery_hours(50.0, 0.0) is None and battery_hours(0.0, 5.0) is None


def test_what_is_fed_hangs_on_one_source_only(ready):
    plan = add_source(PowerSource(id="b", name="B", kind="brick", feeds=("curlew",)))(ready)
    assert [source.id for source in plan.power if "curlew" in source.feeds] == ["b"]
    back = feed("brick", ("curlew",))(plan)
    assert [source.id for source in back.power if "curlew" in source.feeds] == ["brick"]
    gone = remove_source("brick")(back)
    assert all("brick" not in source.feeds for source in gone.power)


@pytest.mark.parametrize(
    ("needed", "bought"), [(0.2, 0.3), (2.9, 3.0), (3.0, 3.0), (3.1, 5.0), (51.0, 60.0)]
)
def test_the_shortest_usual_cable_that_is_long_enough(needed, bought):
    assert standard_length(needed) == bought


def test_lengths_follow_where_devices_stand():
    board = changed(keyboard(zone()), place=Place(x=0.0, y=0.0))
    box = changed(module(part()), place=Place(x=2.0, y=1.5))
    (need,) = cable_needs(rig(board, box))
    # 2 + 1.5 along the floor, 1 up and down, half a metre of slack.
    assert (need.kind, need.metres) == ("MIDI (DIN)", 5.0)
    (unknown,) = cable_needs(rig(keyboard(zone()), box))
    assert unknown.metres is None
    told = rig(board, box)
    told = changed(told, cables=(changed(told.cables[0], metres=7.0),))
    assert cable_list(told) == (("MIDI (DIN)", 7.0, 1),)


def test_arranging_places_everything_once_and_leaves_what_stands(ready):
    moved = changed(ready, devices=(changed(ready.devices[0], place=None), *ready.devices[1:]))
    after = arrange(moved)(moved)
    assert after.devices[0].place is not None
    assert after.devices[1:] == ready.devices[1:]


def test_everything_is_packed_put_up_and_tested_once(ready):
    lines = packing_lines(ready)
    keys = [line.key for line in lines]
    assert len(keys) == len(set(keys))
    assert {f"Devices: {device.name}" for device in ready.devices} <= set(keys)
    steps = [line.what for line in lines if line.section == "Putting up"]
    assert steps[0].startswith("Desk muted") and steps[-1].startswith("Power on")
    tested = [line for line in lines if line.section == "Testing"]
    assert tested[1].more.startswith("heard on Channel")


def test_a_tick_is_kept_with_who_and_when_and_taken_back(ready):
    line = packing_lines(ready)[0]
    ticked = tick(line.key, "2026-11-27", "AB")(ready)
    assert is_ticked(ticked, line) and ticked.packed[0].by == "AB"
    assert not is_ticked(tick(line.key, "", "")(ticked), line)
    assert native.from_json(native.to_json(ticked), "x").packed == ticked.packed
