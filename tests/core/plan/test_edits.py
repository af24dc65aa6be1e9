import pytest

from tests.rigs import keyboard, module, part, rig, scene, simple, zone
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.devices import set_part
from vastzone.core.plan.edits.scenes import own_program
from vastzone.core.plan.edits.zones import layer_zone, move_edge, set_zone, split_zone
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.consistency import problems


def zones(plan, number=0):
    return lookup.program(plan.devices[0], number).zones


def test_a_split_leaves_no_hole_and_no_overlap():
    lower, upper = zones(split_zone("board", 0, "all", 60)(simple()))
    assert (lower.low, lower.high, upper.low, upper.high) == (36, 59, 60, 96)
    assert lower.id != upper.id


@pytest.mark.parametrize("key", [36, 97, 0])
def test_a_split_outside_the_zone_is_refused(key):
    with pytest.raises(EditError, match="cannot be split"):
        split_zone("board", 0, "all", key)(simple())


def test_a_layer_marks_both_and_takes_a_free_channel():
    below, above = zones(layer_zone("board", 0, "all")(simple()))
    assert below.layer and above.layer and (below.channel, above.channel) == (1, 2)


@pytest.mark.parametrize(
    ("side", "key", "ends"),
    [("low", 20, (36, 96)), ("low", 120, (96, 96)), ("high", 10, (36, 36)), ("high", 70, (36, 70))],
)
def test_ends_stop_at_the_keybed_and_at_each_other(side, key, ends):
    (moved,) = zones(move_edge("board", 0, "all", side, key)(simple()))
    assert (moved.low, moved.high) == ends


@pytest.mark.parametrize("change", [{"channel": 17}, {"low": 10}, {"high": 128}, {"vel_low": 0}])
def test_numbers_out_of_range_are_refused_and_change_nothing(change):
    plan = simple()
    with pytest.raises(EditError):
        set_zone("board", 0, "all", "Try", **change)(plan)
    assert plan == simple()


def test_an_edit_shares_what_it_does_not_touch():
    plan = simple()
    changed = set_part("box", "piano", "Move", channel=5)(plan)
    assert changed.devices[0] is plan.devices[0] and changed.cables is plan.cables


def test_a_scene_can_get_a_program_of_its_own():
    plan = rig(keyboard(zone()), module(part()), scenes=(scene("one"), scene("two")))
    own = own_program("two", "board")(plan)
    board = own.devices[0]
    assert [lookup.program_number(s, board) for s in own.scenes] == [0, 1]
    moved = set_zone("board", 1, "all", "Move", channel=9)(own)
    assert (zones(moved, 0)[0].channel, zones(moved, 1)[0].channel) == (1, 9)


@pytest.mark.parametrize(
    "plan",
    [
        rig(keyboard(zone()), module(part()), cables=(("board:out", "box:gone"),)),
        rig(keyboard(zone()), module(part()), cables=(("box:in", "board:out"),)),
        rig(keyboard(zone(), zone()), module(part())),
        rig(keyboard(zone(low=10)), module(part())),
        rig(keyboard(zone()), module(part(kit="none"))),
        rig(keyboard(zone()), module(part()), scenes=(scene("one", board=7),)),
        rig(
            keyboard(programs=(Program(number=0, name="A"), Program(number=0, name="B"))),
            module(part()),
        ),
        rig(keyboard(zone(ports=("gone",))), module(part())),
    ],
)
def test_contradictions_are_told(plan):
    assert any(sentence.endswith((".", ":")) for sentence in problems(plan))


def test_a_sound_plan_has_no_problems():
    assert list(problems(simple())) == []
