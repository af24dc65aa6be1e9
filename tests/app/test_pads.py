"""Journeys through Pads: strike, fill, copy by strike, plug, fit; all of it undone again."""

from PySide6.QtCore import QPoint, Qt

from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import edit_device, set_plan
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Repeat
from vastzone.core.plan.model.limits import Answers
from vastzone.core.plan.queries import lookup

from .hands import awake, show

LEFT, CTRL = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier


def centre(view, ref):
    place = next(p for p in view.canvas.places if p.face.ref == ref)
    return place.rect.center().toPoint()


def sends(window, bank=1):
    held = lookup.device(window.desk.plan, "dipper").programs[0].sends
    return {s.control: (s.number, s.channel) for s in held if s.bank == bank}


def undo(window, qtbot):
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)


def choose(combo, value):
    combo.setCurrentIndex(combo.findData(value))


def test_a_struck_pad_is_selected_everywhere_and_let_go(window, qtbot):
    pads = show(window, qtbot, "pads")
    qtbot.mousePress(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-5"))
    assert window.desk.selection == "dipper:pad-5"
    assert window.desk.stage.last.reached[0].name == "Bass viol"
    assert window.desk.stage.lit_notes()
    qtbot.mouseRelease(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-5"))
    assert not window.desk.stage.lit_notes()
    qtbot.keyClick(pads.canvas, Qt.Key.Key_Right)
    assert window.desk.selection == "dipper:pad-6"
    qtbot.keyClick(pads.canvas, Qt.Key.Key_Space)
    assert window.desk.stage.last.subject == "dipper:pad-6"


def test_a_bank_is_filled_by_shape_and_undone(window, qtbot):
    pads = show(window, qtbot, "pads")
    before = window.desk.plan
    pads.fill.start.setFocus()
    choose(pads.fill.kind, "shape")
    choose(pads.fill.width_, 5)
    pads.fill.start.setText("C5")
    choose(pads.fill.channel, 10)
    assert pads.canvas.preview["pad-5", 1] == 65 and window.desk.plan is before
    qtbot.mouseClick(pads.fill.apply, LEFT)
    notes = [sends(window)[p.id] for p in pads_of(lookup.device(window.desk.plan, "dipper"))]
    rows = ((60, 61, 62, 63), (65, 66, 67, 68), (70, 71, 72, 73))
    assert notes == [(n, 10) for row in rows for n in row]
    undo(window, qtbot)
    assert window.desk.plan is before


def test_all_banks_are_filled_one_after_the_other_and_a_run_past_127_is_refused(window, qtbot):
    pads = show(window, qtbot, "pads")
    choose(pads.fill.scope, "all")
    pads.fill.start.setText("C5")
    qtbot.mouseClick(pads.fill.apply, LEFT)
    assert sends(window, 1)["pad-1"][0] == 60 and sends(window, 2)["pad-1"][0] == 72
    pads.fill.start.setText("C10")
    assert not pads.fill.apply.isEnabled()
    pads.fill.start.setText("what")
    assert not pads.fill.apply.isEnabled()


def test_notes_that_no_receiver_answers_are_named_before_filling(window, qtbot):
    deaf = Answers(low=40, high=50)
    window.perform(set_device("dovecote", "Deaf", limits=(deaf,)))
    pads = show(window, qtbot, "pads")
    choose(pads.fill.channel, 10)
    pads.fill.start.setText("C4")
    assert "11 would sound nothing: Pad 1" in pads.fill._line.toolTip()
    assert not pads.fill.better.isHidden()
    qtbot.mouseClick(pads.fill.better, LEFT)
    assert "would sound nothing" in pads.fill._line.toolTip()
    assert pads.fill.better.isHidden(), "no start is better"
    choose(pads.fill.channel, 16)
    assert "sound nothing" not in pads.fill._line.toolTip()


def test_only_chosen_pads_are_filled_from_a_kit(window, qtbot):
    pads = show(window, qtbot, "pads")
    for ref in ("dipper:pad-3", "dipper:pad-4"):
        qtbot.mouseClick(pads.canvas, LEFT, CTRL, centre(pads, ref))
    choose(pads.fill.kind, "kit")
    assert pads.fill.scope.currentData() == "chosen", "what is chosen is what is filled"
    qtbot.mouseClick(pads.fill.apply, LEFT)
    kit = lookup.device(window.desk.plan, "dovecote").kits[0]
    assert [sends(window)[f"pad-{n}"][0] for n in (3, 4)] == [s.note for s in kit.sounds[:2]]
    assert sends(window)["pad-5"][0] == 40


def test_a_pad_is_copied_by_strike_with_its_sound(window, qtbot):
    pads = show(window, qtbot, "pads")
    qtbot.mouseClick(pads.copy, LEFT)
    choose(pads.what, "both")
    qtbot.mouseClick(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-1"))
    pads.show_bank(2)
    qtbot.mouseClick(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-4"))
    assert sends(window, 2)["pad-4"] == (36, 1) and not pads.copy.isChecked()
    copy = window.desk.plan.wishes[-1]
    assert (copy.sources, copy.bank, copy.sounds) == (("dipper:pad-4",), 2, ("kick",))
    undo(window, qtbot)
    assert "pad-4" not in sends(window, 2)


def drag(qtbot, canvas, pad, ref):
    tile = next(t for t in canvas.tiles if t.pad.id == pad)
    end = next(s for s in canvas.sockets if s.ref == ref).rect.center().toPoint()
    qtbot.mousePress(canvas, LEFT, pos=tile.rect.center().toPoint())
    qtbot.mouseMove(canvas, end)
    qtbot.mouseRelease(canvas, LEFT, pos=end)


def plugged(window):
    return {g.pad: g.input for g in window.desk.plan.plugs}


def test_a_plug_is_dragged_and_what_is_lost_is_read(window, qtbot):
    pads = show(window, qtbot, "pads")
    pads.show_page(1)
    canvas = pads.inputs
    before = plugged(window)
    drag(qtbot, canvas, "thunder-sheet", "curlew:in-10")
    assert plugged(window) == before and "one socket" in pads.line.toolTip()
    drag(qtbot, canvas, "thunder-sheet", "curlew:in-1")
    assert plugged(window) == before and "splitter" in pads.line.toolTip()
    window.desk.select("pad kick")
    canvas.at = next(n for n, t in enumerate(canvas.tiles) if t.pad.id == "kick")
    canvas.setFocus()
    qtbot.keyClick(canvas, Qt.Key.Key_Delete)
    assert "kick" not in plugged(window)
    drag(qtbot, canvas, "ride", "curlew:in-1")
    assert plugged(window)["ride"] == "curlew:in-1" and "edge and bell" in pads.line.toolTip()
    assert any(f.rule == "zone lost" and "Ride" in f.sentence for f in window.desk.findings)
    undo(window, qtbot)
    undo(window, qtbot)
    assert plugged(window) == before


def test_the_fit_is_taken_over_as_one_step(window, qtbot):
    pads = show(window, qtbot, "pads")
    pads.show_page(1)
    before = window.desk.plan
    qtbot.mouseClick(pads.fit.fit, LEFT)
    qtbot.waitUntil(lambda: bool(pads.fit.found and pads.fit.found.choices), timeout=20_000)
    found = pads.fit.found
    assert {c.pad for c in found.choices} == {"practice-pad-1", "practice-pad-2"}
    qtbot.mouseClick(pads.fit.best, LEFT)
    assert plugged(window)["ride"] == "curlew:in-9"
    assert not any(f.rule == "zone lost" for f in window.desk.findings)
    undo(window, qtbot)
    assert window.desk.plan is before


def test_the_simulated_drummer_is_analysed_and_a_file_is_read(window, qtbot, tmp_path, monkeypatch):
    from vastzone.app import dialogs
    from vastzone.core.response.drummer import play
    from vastzone.files.strikes import to_csv

    pads = show(window, qtbot, "pads")
    pads.show_page(2)
    page = pads.strikes
    qtbot.mouseClick(page.simulate, LEFT)
    assert set(page.found.kinds) == {"true", "double", "crosstalk"}
    path = tmp_path / "take.csv"
    take = play(9)
    path.write_text(to_csv(take.hits))
    monkeypatch.setattr(dialogs, "ask_strikes", lambda _: path)
    qtbot.mouseClick(page.file, LEFT)
    assert len(page.found.hits) == len(take.hits)
    told = []
    monkeypatch.setattr(dialogs, "tell", lambda _, sentence: told.append(sentence))
    for text in ("time_ms,pad,peak\n1,snare,x\n", "what,is,this\n", ""):
        path.write_text(text)
        qtbot.mouseClick(page.file, LEFT)
    assert len(told) == 3 and "line 2" in told[0] and len(page.found.hits) == len(take.hits)


def test_strikes_are_recorded_as_they_are_played(window, qtbot):
    pads = show(window, qtbot, "pads")
    pads.show_page(2)
    qtbot.mouseClick(pads.strikes.record, LEFT)
    for pad in ("pad-1", "pad-2", "pad-1"):
        window.desk.stage.move((f"dipper:{pad}", 1), 100, 0.0)
        window.desk.stage.move((f"dipper:{pad}", 1), 0, 0.0)
    qtbot.mouseClick(pads.strikes.record, LEFT)
    assert {h.pad for h in pads.strikes.found.hits} == {"Pad 1", "Pad 2"}
    assert len(pads.strikes.found.hits) == 3


def test_the_kits_needed_are_proposed_and_a_plan_too_large_is_refused(window, qtbot):
    from vastzone.app.views.pads.kits import KitsNeeded
    from vastzone.core.plan.model.limits import CountLimit

    pads = show(window, qtbot, "pads")
    next(a for a in pads.more.menu().actions() if "needed" in a.text()).trigger()
    dialog = pads.findChildren(KitsNeeded)[-1]
    qtbot.waitUntil(lambda: not dialog.work.busy, timeout=10_000)
    assert dialog.table.held.rowCount() == 1 and dialog.table.words(0, 1) == "12"
    assert "Gulls on " in dialog.table.words(0, 2)
    dialog.on.setValue(6)
    qtbot.waitUntil(lambda: not dialog.work.busy, timeout=10_000)
    assert dialog.table.held.rowCount() == 2
    kits, counted = dialog._kits, [pad.id for pad in dialog.pads]
    assert counted == [f"pad-{n}" for n in range(1, 7)]
    dialog.on.setValue(12)
    qtbot.waitUntil(lambda: not dialog.work.busy, timeout=10_000)
    qtbot.mouseClick(dialog.apply, LEFT)
    wished = {w.name for w in window.desk.plan.wishes if w.sources[0].startswith("dipper:pad")}
    assert {"Gulls", "Kick", "Oars"} <= wished and kits.split
    undo(window, qtbot)
    owner = lookup.device(window.desk.plan, "dipper")
    few = tuple(c for c in owner.controls if c.id not in {f"pad-{n}" for n in range(9, 13)})
    limit = (CountLimit(what="memory-slots", most=1),)
    small = changed(owner, controls=few, limits=limit, programs=())
    refused = KitsNeeded(pads, window.desk.plan, small, window.perform)
    qtbot.waitUntil(lambda: not refused.work.busy, timeout=10_000)
    assert "12 sounds" in refused.title.text() or refused.table.held.rowCount() == 1


def more(pads, word):
    """Choose something from the menu of what is done now and then."""
    next(a for a in pads.more.menu().actions() if word in a.text()).trigger()


def with_second_program(window):
    def change(owner):
        first = owner.programs[0]
        sends = tuple(s for s in first.sends if s.control != "pad-2")
        return changed(
            owner, programs=(first, changed(first, id="two", number=1, name="Two", sends=sends))
        )

    window.perform(edit_device("dipper", "Add program", change))


def test_programs_stand_beside_and_a_press_on_one_chooses_it(window, qtbot):
    pads = show(window, qtbot, "pads")
    with_second_program(window)
    more(pads, "programs beside")
    (first, _), (second, place) = pads.canvas.small
    assert first.chosen and not second.chosen
    qtbot.mouseClick(pads.canvas, LEFT, pos=place.center().toPoint())
    assert lookup.program_number(window.desk.scene, lookup.device(window.desk.plan, "dipper")) == 1
    undo(window, qtbot)
    more(pads, "banks beside")
    assert [m.name for m, _ in pads.canvas.small] == ["Bank 1", "Bank 2"]


def test_a_whole_kit_is_copied_by_strike_to_another_bank(window, qtbot):
    pads = show(window, qtbot, "pads")
    before = window.desk.plan
    qtbot.mouseClick(pads.copy, LEFT)
    choose(pads.whole, "bank")
    choose(pads.what, "message")
    qtbot.mouseClick(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-3"))
    pads.show_bank(2)
    qtbot.mouseClick(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-7"))
    one, two = sends(window, 1), sends(window, 2)
    assert two == {c: n for c, n in one.items() if c.startswith("pad-")} and len(two) == 12
    undo(window, qtbot)
    assert window.desk.plan is before


def test_one_kit_is_spread_except_for_the_pads_that_are_unticked(window, qtbot):
    from vastzone.app.views.pads.spread import SpreadKit

    pads = show(window, qtbot, "pads")
    with_second_program(window)
    more(pads, "Spread")
    dialog = pads.findChildren(SpreadKit)[-1]
    top = dialog.tree.topLevelItem(0)
    assert top.childCount() == 1 and dialog.apply.isEnabled()
    top.child(0).setCheckState(0, Qt.CheckState.Unchecked)
    assert not dialog.apply.isEnabled()
    top.child(0).setCheckState(0, Qt.CheckState.Checked)
    qtbot.mouseClick(dialog.apply, LEFT)
    one, two = lookup.device(window.desk.plan, "dipper").programs
    assert {s.control for s in two.sends} == {s.control for s in one.sends}


def test_pads_are_learned_from_strikes_that_come_in(window, qtbot):
    from vastzone.app.frame.learn import LearnDevice

    pads = show(window, qtbot, "pads")
    before = window.desk.plan
    more(pads, "Learn")
    dialog = pads.findChildren(LearnDevice)[-1]
    for at, note in ((0, 60), (500, 61), (1000, 61), (1500, 62)):
        window.desk.stage.heard.emit(Message("note_on", 4, note, 100), float(at))
        window.desk.stage.heard.emit(Message("note_off", 4, note), float(at) + 90)
    assert dialog.table.words(1, 3) and not dialog.table.words(0, 3)
    qtbot.mouseClick(dialog.use, LEFT)
    held = sends(window)
    assert [held[f"pad-{n}"] for n in (1, 2, 3)] == [(60, 5), (61, 5), (62, 5)]
    window.desk.stage.heard.emit(Message("note_on", 4, 99, 100), 9000.0)
    undo(window, qtbot)
    assert window.desk.plan is before


def test_a_held_pad_repeats_in_the_tempo_that_is_tapped(window, qtbot):
    pads = show(window, qtbot, "pads")
    window.perform(set_plan("Tempo", tempo=300.0))
    window.perform(set_send("dipper", 0, "pad-1", 1, "x", repeat=Repeat(division="1/32")))
    strikes = []
    window.desk.stage.struck.connect(lambda report: strikes.append(report.velocity))
    qtbot.mousePress(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-1"))
    qtbot.waitUntil(lambda: sum(v > 0 for v in strikes) >= 3)
    qtbot.mouseRelease(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-1"))
    count = len(strikes)
    qtbot.wait(80)
    assert len(strikes) == count and not window.desk.stage.sounding_parts() & {"dovecote:kick"}
    pads.tap_tempo()
    qtbot.wait(250)
    qtbot.mouseClick(pads.tap, LEFT)
    assert window.desk.plan.tempo <= 241  # two taps a quarter of a second apart, or later


def test_the_track_list_is_shown_and_saved(window, qtbot, tmp_path):
    from vastzone.app.views.cards.preview import Preview
    from vastzone.app.views.pads.tracks import TrackList

    window.desk.select("curlew:trigger-1")
    pads = show(window, qtbot, "pads")
    more(pads, "A channel for each drum")
    more(pads, "Track list")
    dialog = pads.findChildren(TrackList)[-1]
    assert dialog.table.held.rowCount() == 18
    dialog.save(tmp_path / "tracks.csv")
    lines = (tmp_path / "tracks.csv").read_text().splitlines()
    assert lines[0] == "track,drum,zone,kit,channel,message,sound"
    assert lines[2].startswith("2,Snare,head,1 Kit 1,2,")
    dialog.save(tmp_path / "nowhere" / "tracks.csv")
    assert "cannot be written" in dialog.said.text()
    dialog.show_sheet()
    assert dialog.findChildren(Preview)
    dialog.reject()


def test_a_press_at_the_edge_strikes_softly_and_in_the_middle_hard(window, qtbot):
    pads = show(window, qtbot, "pads")
    place = next(p for p in pads.canvas.places if p.face.ref == "dipper:pad-1")
    qtbot.mousePress(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-1"))
    assert window.desk.stage.last.velocity == 127
    qtbot.mouseRelease(pads.canvas, LEFT, pos=centre(pads, "dipper:pad-1"))
    edge = place.rect.topLeft().toPoint() + QPoint(3, 3)
    qtbot.mousePress(pads.canvas, LEFT, pos=edge)
    assert window.desk.stage.last.velocity < 64
    qtbot.mouseRelease(pads.canvas, LEFT, pos=edge)


def test_a_trigger_pad_is_added_described_plugged_in_and_removed(window, qtbot):
    pads = show(window, qtbot, "pads")
    pads.show_page(1)
    before = window.desk.plan
    menu = pads.fit.add.menu()
    next(a for a in menu.actions() if "two switches" in a.text()).trigger()
    added = window.desk.plan.pads[-1]
    assert window.desk.selection == f"pad {added.id}" and added.sensor == "two switches"
    assert any(t.pad.id == added.id for t in pads.inputs.tiles)
    undo(window, qtbot)
    assert window.desk.plan is before
