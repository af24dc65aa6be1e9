"""What is held is let go, keys belong to what has the focus, and a defect is told of once."""

import random
import sys

import pytest
from PySide6.QtCore import QCoreApplication, QEvent, QPoint, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from vastzone import demo
from vastzone.app import dialogs
from vastzone.app.crash import CrashHook
from vastzone.app.frame.learn import LearnDevice
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.edit import set_plan
from vastzone.core.plan.queries import lookup
from vastzone.desk.session import EMPTY

from .hands import show

LEFT = Qt.MouseButton.LeftButton


def zones(window):
    owner = lookup.device(window.desk.plan, "heron")
    return lookup.program_in(window.desk.scene, owner).zones


def test_delete_removes_only_what_is_seen_and_has_the_focus(window, qtbot, told):
    window.show_view("keys")
    window.desk.select("heron:viol")
    before = zones(window)
    for view in ("cards", "prove", "plays", "pads"):
        show(window, qtbot, view)
        window.desk.select("heron:viol")
        qtbot.keyClick(QApplication.focusWidget() or window, Qt.Key.Key_Delete)
        qtbot.keyClick(
            QApplication.focusWidget() or window, Qt.Key.Key_Up, Qt.KeyboardModifier.ControlModifier
        )
        assert zones(window) == before, view
    window.show_view("keys")
    window.facts.setFocus()
    window.header.numbers.setFocus()
    qtbot.keyClick(window.header.numbers, Qt.Key.Key_Delete)
    assert zones(window) == before
    window.keys.setFocus()
    qtbot.keyClick(window.keys.canvas, Qt.Key.Key_Delete)
    assert len(zones(window)) == len(before) - 1


def test_space_opens_nothing_in_a_plan_without_keys_and_presses_the_button_that_has_it(
    window, qtbot
):
    window.desk.load(EMPTY, None)
    for view in ("keys", "rig", "cards"):
        window.show_view(view)
        QCoreApplication.processEvents()
        focus = QApplication.focusWidget() or window
        qtbot.keyClick(focus, Qt.Key.Key_Space)
    window.header.numbers.setFocus()
    pressed = []
    window.header.numbers.clicked.connect(lambda: pressed.append(1))
    window.actions_table._table.pop("numbers")
    window.actions_table.add(edits_action())
    qtbot.keyClick(window.header.numbers, Qt.Key.Key_Space)
    assert pressed == [1]


def edits_action():
    from vastzone.app.actions import Action

    return Action("numbers", "Work out numbers", lambda: None)


def test_page_keys_shift_the_piano_in_keys_and_belong_to_others_elsewhere(window, qtbot):
    window.show_view("keys")
    qtbot.keyClick(window.keys.canvas, Qt.Key.Key_PageUp)
    assert window.piano.octave == 5
    pedals = show(window, qtbot, "pedals")
    window.desk.select("heron:expression")
    qtbot.keyClick(pedals.canvas, Qt.Key.Key_PageUp)
    assert window.piano.octave == 5 and pedals.canvas.values["heron:expression"] == 16
    cards = show(window, qtbot, "cards")
    qtbot.keyClick(cards.page, Qt.Key.Key_PageDown)
    assert window.piano.octave == 5


@pytest.mark.parametrize("how", ["deactivate", "menu", "release"])
def test_a_key_of_the_computer_is_let_go_when_the_window_loses_the_keyboard(window, qtbot, how):
    window.keys.setFocus()
    QTest.keyPress(window.keys.canvas, Qt.Key.Key_Q)
    assert len(window.desk.stage.lit_keys()) == 1
    if how == "release":
        QTest.keyRelease(window.keys.canvas, Qt.Key.Key_Q)
    elif how == "deactivate":
        QCoreApplication.sendEvent(window, QEvent(QEvent.Type.WindowDeactivate))
    else:
        menu = window.header.menu_button.menu()
        menu.popup(QPoint(10, 10))
        qtbot.waitUntil(lambda: not window.desk.stage.lit_keys(), timeout=2000)
        menu.close()
    assert not window.desk.stage.lit_keys()


def test_a_key_of_the_mouse_is_let_go_wherever_the_button_comes_up(window, qtbot):
    window.show_view("keys")
    canvas = window.keys.canvas
    bed = canvas.picture.beds[0]
    place = QPoint(round(bed.keys.left()) + 200, round(bed.keys.bottom()) - 6)
    for end in ("hide", "deactivate", "outside"):
        QTest.mousePress(canvas, LEFT, pos=place)
        assert len(window.desk.stage.lit_keys()) == 1, end
        if end == "hide":
            window.show_view("rig")
            window.show_view("keys")
        elif end == "deactivate":
            QCoreApplication.sendEvent(window, QEvent(QEvent.Type.WindowDeactivate))
        else:
            QTest.mouseRelease(canvas, LEFT, pos=QPoint(-400, -400))
        assert not window.desk.stage.lit_keys(), end
        QTest.mouseRelease(canvas, LEFT, pos=place)


def test_learning_takes_whatever_comes(window, qtbot, told):
    chance = random.Random(5)
    owner = lookup.device(window.desk.plan, "dipper")
    dialog = LearnDevice(window, window.desk, owner, window.desk.describe)
    dialog.open()
    kinds = ("note_on", "note_off", "controller", "program", "bend", "pressure", "poly_pressure")
    for at in range(250):
        message = Message(
            chance.choice(kinds), chance.randrange(16), chance.randrange(128), chance.randrange(128)
        )
        window.desk.stage.heard.emit(message, at * chance.choice((0.0, 20.0, 400.0)))
    window.desk.load(EMPTY, None)
    window.desk.stage.heard.emit(Message("note_on", 0, 60, 1), 0.0)
    dialog.reject()


def raised(error):
    try:
        raise error
    except type(error):
        return sys.exc_info()


def test_a_defect_shows_one_dialog_with_details_to_copy_and_keeps_the_plan(window, qtbot):
    window.perform(set_plan("Rename", name="Changed"))
    hook = CrashHook(window)
    for _ in range(200):
        hook.take(*raised(KeyError("every frame")))
    first = hook.dialog
    assert first.isVisible() and "every frame" in first.text.toPlainText()
    hook.take(*raised(ValueError("another")))
    assert hook.dialog is first and "another" in first.text.toPlainText()
    qtbot.mouseClick(first.copy, LEFT)
    assert "KeyError" in QGuiApplication.clipboard().text()
    assert list((window._folder / "recovery").glob("*.vastzone"))
    first.accept()


def test_reading_a_long_song_is_told_can_be_given_up_and_never_holds_the_window(
    window, qtbot, told, tmp_path
):
    import mido

    track = mido.MidiTrack()
    for _ in range(300_000):
        track.append(mido.Message("note_on", note=60, velocity=9, time=1))
    mido.MidiFile(tracks=[track]).save(tmp_path / "long.mid")
    playing, bar = window.playing, window.keys.songs
    bar.load(tmp_path / "long.mid")
    qtbot.waitUntil(lambda: "%" in bar.time.text(), timeout=5000)
    assert playing.loading and bar.start.isVisible()
    qtbot.mouseClick(bar.start, LEFT)
    assert not playing.loading and playing.song is None
    bar.load(demo.TUNE)
    qtbot.waitUntil(lambda: playing.song is not None, timeout=5000)
    bar.load(tmp_path / "long.mid")
    playing.close()
    assert not playing.loading and not told


def test_what_somebody_else_changed_is_kept_or_taken_or_written_over(window, monkeypatch, tmp_path):
    path = tmp_path / "show.vastzone"
    window.desk.save(path)
    for answer in ("cancel", "both", "mine", "theirs"):
        window.perform(set_plan("Rename", name=f"Mine {answer}"))
        path.write_bytes(demo.READY.read_bytes())
        monkeypatch.setattr(dialogs, "ask_whose", lambda *_, a=answer: a)
        saved = window.documents.save()
        assert saved is (answer in ("both", "mine")), answer
        if answer == "both":
            assert window.desk.path.name == "show (2).vastzone"
            window.desk.path = path
            window.desk._on_disk = "other"
    assert window.desk.plan.name == "The Paper Lighthouse"
