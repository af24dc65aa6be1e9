"""Journeys through Scenes: songs put in order, programs chosen, stored, rehearsed, on stage."""

from itertools import pairwise

import pytest
from PySide6.QtCore import QPoint, Qt

from tests.core.setlist.evenings import device, evening
from vastzone.app import dialogs
from vastzone.core.plan.edits.devices import remove_device
from vastzone.core.plan.edits.scenes import remove_scene
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.queries import lookup
from vastzone.core.setlist.changes import song_change
from vastzone.desk.session import EMPTY

from .hands import retype, show
from .test_describing_journeys import Describing

LEFT = Qt.MouseButton.LeftButton


def six_songs():
    """Two keyboards whose programs stand in another order than the songs want them."""
    one = device("plover", (0, 1, 2, 3, 4, 5), player="Ro")
    foot = Control(id="foot", name="Foot", kind="switch", can=("program up",))
    steps = Send(control="foot", message="none", does="program up")
    programs = tuple(changed(program, sends=(steps,)) for program in one.programs)
    one = changed(one, controls=(foot,), programs=programs)
    two = device("dunlin", (0, 1, 2), player="Mo")
    songs = [
        {"plover": 3, "dunlin": 0},
        {"plover": 0, "dunlin": 2},
        {"plover": 5, "dunlin": 0},
        {"plover": 1, "dunlin": 1},
        {"plover": 4, "dunlin": 1},
        {"plover": 2, "dunlin": 2},
    ]
    plan = evening([one, two], songs, cables=[("plover:out", "dunlin:in")])
    return changed(plan, setlists=())


@pytest.fixture
def scenes(window, qtbot):
    window.desk.load(six_songs(), None)
    return show(window, qtbot, "scenes")


def ribbon_point(ribbon, place):
    rect = ribbon.rows[place].rect
    return QPoint(round(rect.left() + 60), round(rect.center().y()))


def titles(view):
    return [row.row.title for row in view.evening.ribbon.rows]


def page(view, qtbot, name):
    qtbot.mouseClick(view._pages.button(view.page_names.index(name)), LEFT)


def test_songs_are_dragged_and_told_what_that_costs(scenes, window, qtbot):
    ribbon = scenes.evening.ribbon
    assert titles(scenes) == [f"Song {n}" for n in range(6)]
    begin, end = ribbon_point(ribbon, 0), ribbon_point(ribbon, 4)
    qtbot.mousePress(ribbon, LEFT, pos=begin)
    qtbot.mouseMove(ribbon, (begin + end) / 2)
    qtbot.mouseMove(ribbon, end)
    assert "of now" in ribbon._said or "as now" in ribbon._said
    ribbon.grab()
    qtbot.mouseRelease(ribbon, LEFT, pos=end)
    assert titles(scenes) == ["Song 1", "Song 2", "Song 3", "Song 4", "Song 0", "Song 5"]
    assert [one.name for one in window.desk.plan.setlists] == ["All songs"]
    qtbot.keyClick(ribbon, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert titles(scenes)[3] == "Song 0"
    qtbot.keyClick(ribbon, Qt.Key.Key_Delete)
    assert len(ribbon.rows) == 5
    window.desk.undo()
    window.desk.undo()
    window.desk.undo()
    assert window.desk.plan.setlists == ()
    qtbot.mouseClick(ribbon, LEFT, pos=ribbon_point(ribbon, 2))
    assert window.desk.scene.name == "Song 2"


def test_programs_are_typed_filled_down_and_taken_from_before(scenes, window, qtbot):
    page(scenes, qtbot, "Programs")
    table = scenes.programs.table
    retype(table, 1, 1, "6")
    owner = lookup.device(window.desk.plan, "plover")
    assert lookup.program_number(window.desk.plan.scenes[1], owner) == 5
    retype(table, 2, 1, "dunlin 1")
    assert "has no program" in scenes.programs.words.text()
    table.setCurrentIndex(table.held.index(3, 2))
    qtbot.mouseClick(scenes.programs.before, LEFT)
    behind = lookup.device(window.desk.plan, "dunlin")
    assert lookup.program_number(window.desk.plan.scenes[3], behind) == 0
    for row in (1, 2, 3):
        table.selectionModel().select(
            table.held.index(row, 1),
            table.selectionModel().SelectionFlag.Select | table.selectionModel().SelectionFlag.Rows,
        )
    table.selectionModel().setCurrentIndex(
        table.held.index(1, 1), table.selectionModel().SelectionFlag.NoUpdate
    )
    qtbot.mouseClick(scenes.programs.fill, LEFT)
    owner = lookup.device(window.desk.plan, "plover")
    numbers = [lookup.program_number(s, owner) for s in window.desk.plan.scenes[1:4]]
    assert numbers == [5, 5, 5]


def test_programs_are_stored_for_the_evening_and_one_leads(scenes, window, qtbot):
    page(scenes, qtbot, "Storing")
    storing = scenes.storing
    qtbot.waitUntil(lambda: storing.found is not None, timeout=20_000)
    row = next(n for n in range(2) if storing.table.words(n, 0) == "Plover")
    storing.table.selectRow(row)
    assert int(storing.table.words(row, 3)) < int(storing.table.words(row, 2))
    qtbot.mouseClick(storing.take, LEFT)
    songs = window.desk.plan.scenes
    changes = [song_change(window.desk.plan, *pair) for pair in pairwise(songs)]
    assert all(change.by_player.get("Ro", 0) == 1 for change in changes)
    storing.leader.setCurrentIndex(storing.leader.findData("plover"))
    storing.follower.setCurrentIndex(storing.follower.findData("dunlin"))
    qtbot.mouseClick(storing.lead, LEFT)
    plan = window.desk.plan
    assert lookup.device(plan, "dunlin").led_by == "plover"
    changes = [song_change(plan, *pair) for pair in pairwise(plan.scenes)]
    assert all("Mo" not in change.by_player for change in changes)


def test_changes_are_rehearsed_against_the_clock(scenes, window, qtbot):
    page(scenes, qtbot, "Rehearse")
    rehearse = scenes.rehearse
    qtbot.mouseClick(rehearse.next, LEFT)
    assert window.desk.scene.name == "Song 1"
    presses = rehearse.presses
    for _ in range(presses):
        assert rehearse.press.isEnabled()
        qtbot.mouseClick(rehearse.press, LEFT)
    assert not rehearse.press.isEnabled() and 1 in rehearse.took
    rehearse.stepper.setCurrentIndex(rehearse.stepper.findText("Foot of Plover"))
    window.desk.stage.move(("plover:foot", 1), 127, 0.0)
    assert window.desk.scene.name == "Song 2"
    qtbot.mouseClick(rehearse.again, LEFT)
    assert window.desk.scene.name == "Song 0" and not rehearse.took


def test_the_stage_steps_by_keys_and_follows(scenes, window, qtbot):
    scenes.open_stage()
    stage = scenes.stage
    stage.activateWindow()
    qtbot.waitUntil(stage.isActiveWindow)
    qtbot.keyClick(stage, Qt.Key.Key_Space)
    assert window.desk.scene.name == "Song 1" and stage.at == 1
    assert any("Plover" in words for words in stage.to_press(window.desk.plan, stage.rows[1]))
    stage.grab()
    qtbot.keyClick(stage, Qt.Key.Key_PageUp)
    assert stage.at == 0
    window.desk.go_to_scene("s4")
    assert stage.at == 4
    qtbot.keyClick(stage, Qt.Key.Key_Escape)
    qtbot.waitUntil(lambda: scenes.stage is None)


def test_a_set_list_is_read_and_written(scenes, window, qtbot, tmp_path, monkeypatch):
    path = tmp_path / "night.txt"
    path.write_text("1. Song 3\n2. A new one\nBreak, 20 min\nsong 0\n")
    monkeypatch.setattr(dialogs, "ask_setlist", lambda _: path)
    next(a for a in scenes.evening.more.menu().actions() if "From a file" in a.text()).trigger()
    assert titles(scenes) == ["Song 3", "A new one", "Break, 20 min", "Song 0"]
    assert window.desk.plan.scenes[-1].name == "A new one"
    for name in ("out.csv", "out.txt", "out.mid"):
        scenes.evening.write(tmp_path / name)
        assert (tmp_path / name).stat().st_size > 20
    scenes.evening.read(tmp_path / "out.csv")
    assert titles(scenes) == ["Song 3", "A new one", "Break, 20 min", "Song 0"]
    scenes.evening.read(tmp_path / "missing.txt")
    assert "missing" in scenes.evening.said.text()
    scenes.evening.show_sheet()


def test_an_empty_plan_begins_with_a_song(window, qtbot):
    window.documents.new()
    view = show(window, qtbot, "scenes")
    qtbot.mouseClick(view.empty.button, LEFT)
    assert [scene.name for scene in window.desk.plan.scenes] == ["Song 1"]
    assert titles(view) == ["Song 1"]


def test_six_acts_on_three_devices_are_planned_in_forty_actions(
    window, qtbot, monkeypatch, tmp_path
):
    """From the rig as it stands: songs from a file, programs of their own, stored, one led."""
    hands = Describing(window, qtbot, monkeypatch, tmp_path)
    window.documents.new()
    hands.tell("Plover: 61 keys, 8 pads, 9 faders, 32 memory slots, USB, MIDI out")
    hands.tell("Dunlin: 9 pads notes from C2 channel 10, 16 memory slots, DIN in, DIN out")
    hands.tell("Rack: sampler, 4 parts, MIDI in")
    front, behind, _ = window.desk.planned.devices
    out = next(port for port in front.ports if port.flow == "out" and port.link == "din")
    into = next(port for port in behind.ports if port.flow == "in")
    hands.join(f"{front.id}:{out.id}", f"{behind.id}:{into.id}")
    hands.actions = 0
    path = tmp_path / "acts.txt"
    acts = ["Juggler", "Rope", "Mime", "Dogs", "Fire", "Mime"]
    path.write_text("\n".join(acts))
    monkeypatch.setattr(dialogs, "ask_setlist", lambda _: path)
    view = hands.show("scenes")
    hands.click(view.empty.button)
    read = next(a for a in view.evening.more.menu().actions() if "From a file" in a.text())
    hands.actions += 3
    read.trigger()
    assert titles(view) == acts
    page(view, qtbot, "Programs")
    table = view.programs.table
    for column in (1, 2):
        table.setCurrentIndex(table.held.index(0, column))
        table.selectAll()
        hands.actions += 2
        hands.click(view.programs.own)
    plan = window.desk.plan
    assert all(len(device.programs) == 6 for device in plan.devices[:2])
    page(view, qtbot, "Storing")
    storing = view.storing
    hands.actions += 6
    storing.leader.setCurrentIndex(storing.leader.findData(front.id))
    storing.follower.setCurrentIndex(storing.follower.findData(behind.id))
    hands.click(storing.lead)
    plan = window.desk.plan
    assert lookup.device(plan, behind.id).led_by == front.id
    songs = [lookup.scene(plan, ident) for ident in plan.setlists[0].played]
    changes = [song_change(plan, *pair) for pair in pairwise(songs)]
    assert all(change.presses == 0 or change.by_player for change in changes)
    assert all(not step.dives for change in changes for step in change.steps)
    page(view, qtbot, "Evening")
    hands.click(view.show_stage)
    qtbot.keyClick(view.stage, Qt.Key.Key_Escape)
    hands.actions += 6
    assert hands.actions <= 40, hands.actions


def test_two_hundred_songs_are_shown(window, qtbot):
    owner = device("plover", range(100), player="Ro")
    owner = changed(owner, programs=(*owner.programs, Program(number=120, name="Last")))
    songs = [{"plover": n % 100} for n in range(200)]
    window.desk.load(evening([owner], songs), None)
    view = show(window, qtbot, "scenes")
    assert len(view.evening.ribbon.rows) == 200
    view.grab()
    assert "200 songs" in view.evening.said.text()


def test_the_stage_follows_edits_and_closes_with_its_plan(scenes, window, qtbot):
    """Songs and devices may go while it stands; another plan closes it."""
    scenes.open_stage()
    stage = scenes.stage
    window.perform(remove_device("dunlin"))
    window.perform(remove_scene("s5"))
    stage.grab()
    assert len(stage.rows) == 5
    for _ in range(9):
        qtbot.keyClick(stage, Qt.Key.Key_Space)
    assert stage.at == 4
    window.desk.load(EMPTY, None)
    qtbot.waitUntil(lambda: scenes.stage is None)
