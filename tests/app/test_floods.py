"""More MIDI than can be shown, inputs that go and come back, strikes that belong to nothing."""

import random

import pytest

from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.devices import remove_device
from vastzone.ports.base import Listing, PortName

from .hands import show


@pytest.fixture
def keyboard(window, qtbot):
    """The simulated keyboard, listened to."""
    playing = window.playing
    playing.listen(playing.inputs.stand_in.inputs().inputs[0])
    playing._frame.stop()
    return playing.inputs.stand_in.keyboard


@pytest.mark.parametrize("view", ["keys", "pads", "prove"])
def test_a_flood_is_played_counted_and_leaves_no_note_hanging(window, qtbot, keyboard, view):
    show(window, qtbot, view)
    chance, struck = random.Random(3), []
    window.desk.stage.struck.connect(struck.append)
    for _ in range(30_000):
        kind = chance.choice(("note_on", "note_off"))
        keyboard.play(Message(kind, 0, chance.randrange(128), chance.randint(1, 127)))
    window.playing.step()
    assert len(struck) == 1 and window.desk.stage.unshown > 29_000
    for note in range(128):
        keyboard.play(Message("note_off", 0, note))
    window.playing.step()
    assert not window.desk.stage.performance.held() and not window.desk.stage.lit_notes()


def test_a_cable_that_overflows_lets_go_what_it_held(window, keyboard):
    keyboard.play(Message("note_on", 0, 40, 90))
    window.playing.step()
    assert window.desk.stage.lit_keys()
    for _ in range(70_000):
        keyboard.play(Message("pressure", 0, 5))
    window.playing.step()
    assert not window.desk.stage.lit_keys(), "its release may have been among what was lost"


def test_an_input_that_vanishes_lets_go_is_said_once_and_comes_back_by_name(
    window, qtbot, keyboard, told
):
    playing = window.playing
    inputs = playing.inputs
    keyboard.play(Message("note_on", 0, 40, 90))
    playing.step()
    stand_in = inputs.stand_in
    listed = stand_in.inputs
    stand_in.inputs = lambda: Listing(())
    for _ in range(3):
        playing.look()
    assert playing.input is None and not window.desk.stage.lit_keys() and not told
    assert "gone" in window.desk.stage.remark
    stand_in.inputs = listed
    playing.look()
    assert playing.input is not None and "back" in window.desk.stage.remark


def test_a_port_that_cannot_be_opened_is_told(window, told):
    window.playing.listen(PortName("stand-in", "other", "Other"))
    assert len(told) == 1 and window.playing.input is None


@pytest.mark.parametrize("left", ["nothing", "drums"])
def test_strikes_that_belong_to_nothing_are_remarked_on_once(window, keyboard, told, left):
    lit = []
    for device in list(window.desk.plan.devices):
        if left == "nothing" or device.keybeds:
            window.perform(remove_device(device.id))
    window.desk.select("")
    window.desk.stage.sounding.connect(lambda: lit.append(window.desk.stage.remark))
    for _ in range(4):
        for kind in ("note_on", "note_off", "controller", "bend", "program"):
            keyboard.play(Message(kind, 3, 64, 1))
        window.playing.step()
    assert "struck nothing" in window.desk.stage.remark and not told


def test_a_song_goes_on_when_its_keyboard_is_taken_away(window, qtbot, told):
    from vastzone import demo

    window.keys.songs.load(demo.TUNE)
    qtbot.waitUntil(lambda: window.playing.song is not None, timeout=5000)
    window.playing.start_or_stop()
    window.playing.step()
    for device in list(window.desk.plan.devices):
        window.perform(remove_device(device.id))
        window.playing.step()
    qtbot.wait(400)
    window.playing.step()
    assert window.playing.song.playing and not told
    window.desk.load(window.desk.plan, None)
    window.playing.step()


def test_a_release_lets_go_what_its_strike_struck_whatever_is_selected_by_then(window, keyboard):
    stage = window.desk.stage
    window.desk.select("dipper:pad-1")
    pads = next(
        s for key, s in stage.performance.compiled.controls.items() if key == ("dipper:pad-1", 1)
    )
    keyboard.play(Message("note_on", 0, pads[0].send.number, 90))
    window.playing.step()
    held = stage.performance.held()
    assert held and held[0][0].startswith("dipper:pad-1")
    window.desk.select("heron")
    keyboard.play(Message("note_off", 0, pads[0].send.number))
    window.playing.step()
    assert not stage.performance.held()
