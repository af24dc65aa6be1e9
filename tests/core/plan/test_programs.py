"""Programs and scenes are named, moved, copied and removed, and what depends on them follows."""

import pytest

from tests.rigs import keyboard, module, part, rig, scene, zone
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import programs, scenes
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup


@pytest.fixture
def plan():
    board = keyboard(zone("all"))
    more = Program(number=3, name="Other", zones=board.programs[0].zones)
    board = changed(board, programs=(*board.programs, more))
    return rig(
        board,
        module(part("piano")),
        scenes=(scene("one", board=0), scene("two", board=3)),
    )


def on(plan):
    board = plan.devices[0]
    return [lookup.program_number(each, board) for each in plan.scenes]


def test_a_program_that_moves_takes_its_scenes_along(plan):
    after = programs.move_program("board", 3, 0)(plan)
    assert [program.number for program in after.devices[0].programs] == [0, 3]
    assert after.devices[0].programs[0].name == "Other"
    assert on(after) == [3, 0]
    assert programs.move_program("board", 0, 3)(after) == plan
    with pytest.raises(EditError, match="programs 1 to 128"):
        programs.move_program("board", 0, 200)(plan)


def test_a_program_is_copied_cleared_and_removed(plan):
    copied = programs.copy_program("board", 3)(plan)
    assert [p.number for p in copied.devices[0].programs] == [0, 3, 1]
    cleared = programs.clear_program("board", 0)(plan)
    assert cleared.devices[0].programs[0].sends == ()
    removed = programs.remove_program("board", 3)(plan)
    assert on(removed) == [0, 0]
    with pytest.raises(EditError, match="keeps one program"):
        programs.remove_program("board", 0)(removed)


def test_a_scene_that_goes_takes_only_what_holds_in_it_alone(plan):
    first, second = (each.id for each in plan.scenes)
    wishes = tuple(
        Wish(id=name, name=name, sources=("board:keys",), plays="box:piano", scenes=where)
        for name, where in (("mine", (first,)), ("both", (first, second)), ("all", ()))
    )
    after = scenes.remove_scene(first)(changed(plan, wishes=wishes))
    assert [(wish.id, wish.scenes) for wish in after.wishes] == [("both", (second,)), ("all", ())]
    moved = scenes.move_scene(second, -1)(plan)
    assert [each.id for each in moved.scenes] == [second, first]
    copied = scenes.copy_scene(first)(changed(plan, wishes=wishes))
    assert [len(wish.scenes) for wish in copied.wishes] == [2, 3, 0]
