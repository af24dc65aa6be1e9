import pytest

from tests.rigs import keyboard, module, part, rig, scene, simple, zone
from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import add_line
from vastzone.core.engine.trace import TraceEntry
from vastzone.core.errors import EditError, ReadError
from vastzone.core.memory.rig import as_dialled
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.zones import move_edge, set_zone
from vastzone.desk.preferences import Preferences, load, store
from vastzone.desk.session import Desk
from vastzone.desk.signal import Signal
from vastzone.desk.song import SongPlayer
from vastzone.files.midi_file import Song


def opened(plan=None):
    desk = Desk()
    desk.load(plan or simple(), None)
    return desk


def test_undo_is_the_previous_plan_and_redo_the_next():
    desk, first = opened(), simple()
    desk.perform(set_zone("board", 0, "all", "Move", channel=2))
    second = desk.plan
    assert desk.undo_label == "Move" and desk.changed
    desk.undo()
    assert desk.plan == first and not desk.changed and desk.redo_label == "Move"
    desk.redo()
    assert desk.plan is second


def test_a_drag_is_one_step_and_two_drags_are_two():
    desk = opened()
    for key in (50, 51, 52):
        desk.perform(move_edge("board", 0, "all", "low", key), join=True)
    desk.end_gesture()
    desk.perform(move_edge("board", 0, "all", "low", 60), join=True)
    desk.undo()
    assert desk.plan.devices[0].programs[0].zones[0].low == 52
    desk.undo()
    assert desk.plan == simple()


def test_a_refused_edit_leaves_plan_and_history_alone():
    desk = opened()
    with pytest.raises(EditError):
        desk.perform(set_zone("board", 0, "all", "Move", channel=99))
    assert desk.undo_label is None and desk.plan == simple()


def test_a_file_that_cannot_be_read_leaves_the_open_plan(tmp_path):
    desk = opened()
    bad = tmp_path / "bad.vastzone"
    bad.write_text("{")
    with pytest.raises(ReadError):
        desk.open(bad)
    assert desk.plan == simple() and desk.path is None


def test_scenes_change_under_a_held_key():
    plan = rig(keyboard(zone()), module(part()), scenes=(scene("one"), scene("two")))
    desk = opened(plan)
    desk.stage.press("board:keys", 60, 80, 0.0)
    desk.step_scene(1)
    assert desk.scene.id == "two" and desk.stage.lit_notes() == {60: [0]}
    desk.stage.release("board:keys", 60, 1.0)
    assert not desk.stage.lit_notes()
    desk.step_scene(5)
    assert desk.scene.id == "two"


def test_a_song_keeps_its_tempo_and_lets_go_when_stopped():
    desk = opened()
    events = tuple((100.0 * n, Message("note_on", 0, 60 + n, 80)) for n in range(5))
    song = SongPlayer(Song("s", events, 500.0), desk.stage.performance, TraceEntry("board", "keys"))
    song.start(1000.0)
    assert len(song.advance(1000.0)) == 1 and len(song.advance(1250.0)) == 2
    assert sorted(desk.stage.lit_notes()) == [60, 61, 62]
    song.stop(1260.0)
    assert not desk.stage.lit_notes() and song.position_ms == 250.0
    song.seek(400.0, 2000.0)
    song.start(2000.0)
    assert [m.first for m, _ in song.advance(2001.0)] == [64]
    song.advance(9000.0)
    assert not song.playing and song.ended


def test_preferences_survive_and_a_damaged_file_does_not_matter(tmp_path):
    path = tmp_path / "p.json"
    held = (
        Preferences(theme="stage")
        .opened(tmp_path / "a")
        .opened(tmp_path / "b")
        .opened(tmp_path / "a")
    )
    store(held, path)
    assert load(path) == (held, "") and [p[-1] for p in held.recent] == ["a", "b"]
    path.write_text("{")
    assert load(path)[0] == Preferences()


def test_a_song_of_any_number_of_notes_at_once_is_played_a_piece_at_a_time():
    desk = opened()
    struck = [(0.0, Message("note_on", 0, 36 + n % 60, 1 + n % 127)) for n in range(5000)]
    player = SongPlayer(
        Song("dense", tuple(struck), 10.0), desk.stage.performance, TraceEntry("board", "keys")
    )
    player.start(0.0)
    played = [len(player.advance(20.0 + n)) for n in range(8)]
    assert max(played) < 5000 and sum(played) == 5000
    assert not player.playing and not desk.stage.performance.held()


def test_a_receiver_that_fails_keeps_nobody_else_from_being_told():
    told = []
    happened = Signal("it happened")

    def fails(value):
        raise ValueError(f"no {value}")

    happened.connect(fails)
    happened.connect(told.append)
    with pytest.raises(ValueError, match="no 3") as caught:
        happened.emit(3)
    assert told == [3]
    assert any("it happened" in note for note in caught.value.__notes__)


def test_a_method_is_told_as_long_as_its_object_lives():
    class Counter:
        def __init__(self):
            self.seen = []

        def hear(self, value):
            self.seen.append(value)

    happened, counter = Signal("it happened"), Counter()
    happened.connect(counter.hear)
    happened.emit(1)
    seen = counter.seen
    del counter
    happened.emit(2)
    assert seen == [1]


def test_taking_a_description_back_leaves_what_was_done_at_the_device():
    desk = opened()
    plan, memory = desk.planned, desk.memory
    desk.describe(add_line("board", read_line("3 faders controllers from 20")))
    assert len(desk.planned.devices[0].controls) == len(plan.devices[0].controls) + 3
    assert as_dialled(desk.planned, desk.memory) == desk.planned
    desk.undo()
    assert desk.planned is plan
    assert desk.memory is memory
    desk.redo()
    assert as_dialled(desk.planned, desk.memory) == desk.planned
