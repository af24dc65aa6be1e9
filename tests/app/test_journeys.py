"""Whole journeys through the real window with mouse and keys."""

import mido
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QLineEdit, QPushButton

from tests import rigs
from tests.app.hands import LEFT, bar, drag, key_point, zone
from vastzone.app import dialogs
from vastzone.app.frame.findings import FindingCard
from vastzone.app.frame.goto import GoTo
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.files import native


def fix(window, rule):
    for _ in range(4):
        QApplication.processEvents()
    cards = window.facts.findChildren(FindingCard)
    shown = [c for c in cards if c.isVisible() and c.finding.fixes]
    card = next(c for c in shown if c.finding.rule == rule)
    return next(b for b in card.findChildren(QPushButton) if b.property("role") == "fix")


def test_open_mend_drag_undo_strike_save_reopen(window, qtbot, tmp_path, monkeypatch):
    desk = window.desk
    before = len(desk.findings)
    qtbot.mouseClick(fix(window, "connected twice"), LEFT)
    assert len(desk.findings) < before
    assert "connected twice" not in {f.rule for f in desk.findings}

    desk.go_to_scene("the-keepers-stair")
    canvas = window.keys.canvas
    edge = bar(window, "celesta").rect
    start = QPoint(round(edge.left()) + 1, round(edge.center().y()))
    target = QPoint(round(canvas.picture.axis.x(77)), start.y())
    drag(qtbot, canvas, start, target)
    assert zone(window, "celesta").low == 77 and desk.selection == "heron:celesta"
    assert any(f.rule == "dead keys" for f in desk.findings_here())
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert zone(window, "celesta").low == 72

    qtbot.mousePress(canvas, LEFT, pos=key_point(window, "heron:keys", 88))
    report = desk.stage.last
    assert report.key == 88 and desk.verdict(report) == "as meant"
    assert [r.ref for r in report.reached] == ["dovecote:celesta"]
    assert 0 < report.reached[0].delay_ms < 10 and report.messages[0].channel == 1
    assert 88 in desk.stage.lit_notes()
    qtbot.mouseRelease(canvas, LEFT, pos=key_point(window, "heron:keys", 88))
    assert not desk.stage.lit_notes()

    path = tmp_path / "tour.vastzone"
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: path)
    qtbot.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    saved = desk.plan
    assert native.read(path) == saved and not desk.changed
    window.documents.new()
    assert not desk.plan.devices
    monkeypatch.setattr(dialogs, "ask_open", lambda *_: path)
    qtbot.keyClick(window, Qt.Key.Key_O, Qt.KeyboardModifier.ControlModifier)
    assert desk.plan == saved


def test_every_finding_of_the_demo_can_be_mended_from_the_facts(window, qtbot):
    for _ in range(40):
        faults = [f for f in window.desk.findings if f.severity == "fault" and f.fixes]
        if not faults:
            break
        qtbot.mouseClick(fix(window, faults[0].rule), LEFT)
    assert not [f for f in window.desk.findings if f.severity == "fault"]


def test_the_computer_keyboard_plays_and_shifts_by_octaves(window, qtbot):
    window.keys.canvas.setFocus()
    qtbot.keyPress(window.keys.canvas, Qt.Key.Key_Q)
    assert window.desk.stage.last.key == 60
    qtbot.keyRelease(window.keys.canvas, Qt.Key.Key_Q)
    qtbot.keyClick(window.keys.canvas, Qt.Key.Key_PageUp)
    qtbot.keyClick(window.keys.canvas, Qt.Key.Key_S)
    assert window.desk.stage.last.key == 61
    assert not window.desk.stage.lit_keys()


def test_zones_are_worked_from_the_keyboard_alone(window, qtbot):
    window.desk.go_to_scene("squall")
    ctrl, shift = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
    qtbot.keyClick(window, Qt.Key.Key_Tab, ctrl)
    assert window.desk.selection == "heron:sea-organ"
    for _ in range(3):
        qtbot.keyClick(window, Qt.Key.Key_Right, ctrl | shift)
    assert zone(window, "sea-organ").high == 58
    qtbot.keyClick(window, Qt.Key.Key_Up, ctrl)
    assert zone(window, "sea-organ").transpose == 1
    qtbot.keyClick(window, Qt.Key.Key_T, ctrl)
    qtbot.keyClick(window, Qt.Key.Key_L, ctrl)
    program = lookup.program_in(window.desk.scene, lookup.device(window.desk.plan, "heron"))
    assert len(program.zones) == 4
    for _ in range(6):
        qtbot.keyClick(window, Qt.Key.Key_Z, ctrl)
    assert not window.desk.changed


def test_exact_values_are_typed_in_the_devices_own_naming(window, qtbot):
    window.desk.select("wren:swell-manual")
    field = next(
        f for f in window.facts.findChildren(QLineEdit) if f.accessibleName() == "Highest key"
    )
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, "G5")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    wren = lookup.device(window.desk.plan, "wren")
    assert wren.programs[0].zones[0].high == 91
    field.selectAll()
    qtbot.keyClicks(field, "H9")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert field.property("bad") and lookup.device(window.desk.plan, "wren") is wren


def test_go_to_finds_scenes_parts_and_findings(window, qtbot):
    def go(text):
        qtbot.keyClick(window, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
        dialog = window.findChildren(GoTo)[-1]
        qtbot.keyClicks(dialog.line, text)
        qtbot.keyClick(dialog.line, Qt.Key.Key_Return)

    go("scene squall")
    assert window.desk.scene.id == "squall"
    go("part bass viol")
    assert window.desk.selection == "dovecote:viol"
    go("finding bells plays nothing")
    assert window.desk.scene.id == "wreck-bell" and window.desk.selection == "heron:bells"


def test_a_long_file_plays_through_the_plan_and_stays_smooth(window, qtbot, tmp_path):
    track = mido.MidiTrack()
    for n in range(50_000):
        track.append(mido.Message("note_on", note=40 + n % 50, velocity=80, time=1))
        track.append(mido.Message("note_off", note=40 + n % 50, time=1))
    path = tmp_path / "long.mid"
    mido.MidiFile(tracks=[track]).save(path)
    playing = window.playing
    window.keys.songs.load(path)
    qtbot.waitUntil(lambda: playing.song is not None, timeout=60_000)
    assert len(playing.song.song.events) == 100_000
    qtbot.mouseClick(window.keys.songs.start, LEFT)
    qtbot.waitUntil(lambda: playing.song.position_ms > 150, timeout=20_000)
    assert window.desk.stage.last.subject == "heron:keys"
    playing.song.seek(playing.song.song.length_ms / 2, 0.0)
    qtbot.mouseClick(window.keys.songs.start, LEFT)
    assert not playing.song.playing and not window.desk.stage.lit_keys()


def test_the_simulated_keyboard_plays_by_itself(window, qtbot):
    qtbot.mouseClick(window.keys.songs.alone, LEFT)
    qtbot.waitUntil(lambda: window.desk.stage.last is not None, timeout=5000)
    assert window.desk.stage.last.subject == "heron:keys"
    qtbot.mouseClick(window.keys.songs.alone, LEFT)
    qtbot.waitUntil(lambda: not window.desk.stage.lit_keys(), timeout=5000)


def test_panic_is_always_in_reach(window, qtbot):
    window.desk.stage.press("heron:keys", 60, 90, 0.0)
    qtbot.mouseClick(window.strip.panic, LEFT)
    assert not window.desk.stage.lit_notes()
    window.desk.stage.press("heron:keys", 60, 90, 0.0)
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    assert not window.desk.stage.lit_notes()


def test_many_are_wished_in_order_from_the_keyboard_as_one_step(window, qtbot):
    from tests.trial_rigs import RIGS
    from vastzone.core.plan.model.checked import changed

    plan = RIGS["a"]()
    window.desk.load(changed(plan, wishes=()), None)
    window.show_view("plays")
    matrix = window.view("plays").matrix
    line = next(n for n, one in enumerate(matrix.lines) if one.words == "Fader 1")
    column = next(n for n, one in enumerate(matrix.columns) if one.name == "Layer 1 volume")
    matrix.setFocus()
    matrix.go(line, column)
    for _ in range(5):
        for key in (Qt.Key.Key_Down, Qt.Key.Key_Right):
            qtbot.keyClick(matrix, key, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(matrix, Qt.Key.Key_Return)
    wished = {wish.sources[0]: wish.moves for wish in window.desk.plan.wishes}
    assert wished == {f"plover:fader-{n}": f"laptop:volume-{n}" for n in range(1, 7)}
    window.desk.undo()
    assert window.desk.plan.wishes == ()


def test_what_would_fall_silent_is_said_before_it_is_applied(window, qtbot):
    from tests.core.solve.test_as_meant import filled
    from vastzone.app.frame.text import Label
    from vastzone.app.frame.work_out import WorkOut

    window.desk.load(filled("global"), None)
    qtbot.mouseClick(window.header.numbers, LEFT)
    dialog = window.findChildren(WorkOut)[-1]
    qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    warnings = [one for one in dialog.findChildren(Label) if one.property("role") == "warning"]
    assert ["Pad 4" in one.text() for one in warnings] == [True]
    assert not dialog.apply_button.hasFocus()
    before = window.desk.plan
    qtbot.keyClick(dialog, Qt.Key.Key_Escape)
    assert window.desk.plan is before


def test_a_number_is_locked_in_the_facts_and_in_the_preview(window, qtbot):
    from vastzone.app.frame.locks import LockButton
    from vastzone.app.frame.work_out import WorkOut
    from vastzone.core.plan.fields.dials import dials
    from vastzone.core.solve.holds import locked

    ref = "heron/4/zone.bells/channel"
    window.desk.go_to_scene("wreck-bell")
    window.desk.select("heron:bells")
    button = next(one for one in window.facts.findChildren(LockButton) if one.ref == ref)
    qtbot.mouseClick(button, LEFT)
    assert ref in locked(window.desk.plan)
    window.desk.undo()
    assert ref not in locked(window.desk.plan) and not button.isChecked()
    qtbot.mouseClick(window.header.numbers, LEFT)
    dialog = window.findChildren(WorkOut)[-1]
    qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    was = dials(window.desk.plan)[ref].value
    (row,) = [n for n, number in enumerate(dialog.solution.numbers) if number.ref == ref]
    assert not dialog.keep_button.isEnabled()
    dialog.table.selectRow(row)
    qtbot.mouseClick(dialog.keep_button, LEFT)
    qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    assert ref not in {number.ref for number in dialog.solution.numbers}
    qtbot.mouseClick(dialog.apply_button, LEFT)
    assert dials(window.desk.plan)[ref].value == was and ref in locked(window.desk.plan)


def test_numbers_are_previewed_and_applied_as_one_step(window, qtbot):
    from vastzone.app.frame.work_out import WorkOut
    from vastzone.core.proof.marking import prove

    before = window.desk.plan
    assert not prove(before).good
    qtbot.mouseClick(window.header.numbers, LEFT)
    dialog = window.findChildren(WorkOut)[-1]
    qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    assert window.desk.plan is before, "nothing changes before it is applied"
    qtbot.mouseClick(dialog.apply_button, LEFT)
    assert window.desk.undo_label == "Work out numbers"
    assert prove(window.desk.plan).good
    window.actions_table.run("undo")
    assert window.desk.plan is before


def test_working_out_can_be_cancelled_and_a_clash_offers_mends(window, qtbot):
    from vastzone.app.frame.work_out import WorkOut
    from vastzone.core.plan.edits.locks import lock

    before = window.desk.plan
    window.work_out()
    dialog = window.findChildren(WorkOut)[-1]
    dialog.reject()
    assert window.desk.plan is before and not dialog.work.busy
    wish = Wish(id="all", name="All", sources=("board:keys",), plays="box:piano")
    keys, sounds = rigs.keyboard(rigs.zone(channel=1)), rigs.module(rigs.part(channel=2))
    torn = rigs.rig(keys, sounds, wishes=(wish,))
    window.desk.load(torn, None)
    window.perform(lock("board/0/zone.all/channel"))
    window.perform(lock("box/part.piano/channel"))
    window.work_out()
    dialog = window.findChildren(WorkOut)[-1]
    qtbot.waitUntil(lambda: not dialog.work.busy, timeout=60_000)

    def mends():
        return [
            b
            for b in dialog.findChildren(QPushButton)
            if b.property("role") == "fix" and b.isVisible()
        ]

    qtbot.waitUntil(lambda: bool(mends()), timeout=5000)
    qtbot.mouseClick(next(b for b in mends() if b.text().startswith("Free")), LEFT)
    qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    dialog.reject()
