"""Journeys through Pedals: choose, move, press, plug, fit; all of it undone again."""

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent

from vastzone.app.frame.sheets import sheet_for
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.devices import add_device
from vastzone.core.plan.edits.edit import set_thing
from vastzone.core.plan.edits.pedals import remove_pedal, set_pedal
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.queries import lookup
from vastzone.files.devices import shipped
from vastzone.files.strikes import read_velocities

from .hands import awake, retype, show

LEFT, CTRL = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier


def place(view, ref):
    return next(t for t in view.canvas.tiles if t.held.ref == ref).rect.center().toPoint()


def test_a_knob_is_dragged_turned_and_moved_by_keys(window, qtbot):
    view = show(window, qtbot, "pedals")
    at = place(view, "dipper:knob-2")
    qtbot.mousePress(view.canvas, LEFT, pos=at)
    qtbot.mouseMove(view.canvas, at - QPoint(0, 40))
    qtbot.mouseRelease(view.canvas, LEFT, pos=at - QPoint(0, 40))
    assert window.desk.selection == "dipper:knob-2" and view.canvas.values["dipper:knob-2"] == 40
    assert window.desk.stage.last.subject == "dipper:knob-2"
    qtbot.keyClick(view.canvas, Qt.Key.Key_Up)
    assert view.canvas.values["dipper:knob-2"] == 44 and view.plot.value == 44
    wheel = QWheelEvent(
        QPointF(at),
        view.canvas.mapToGlobal(QPointF(at)),
        QPoint(),
        QPoint(0, -120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    view.canvas.wheelEvent(wheel)
    assert view.canvas.values["dipper:knob-2"] == 40
    assert [v for _, v in view.strip.samples][-2:] == [44, 40]
    (moved,) = view.plot.shown.moves
    assert moved.target.name == "Feedback"
    qtbot.keyClick(view.canvas, Qt.Key.Key_Right)
    assert window.desk.selection == "dipper:knob-3" and not view.strip.samples


def test_a_switch_is_pressed_and_let_go_and_a_pedal_tells_what_parts_hear(window, qtbot):
    view = show(window, qtbot, "pedals")
    qtbot.mousePress(view.canvas, LEFT, pos=place(view, "heron:sustain"))
    assert view.canvas.values["heron:sustain"] == 127
    qtbot.mouseRelease(view.canvas, LEFT, pos=place(view, "heron:sustain"))
    assert view.canvas.values["heron:sustain"] == 0
    window.desk.select("heron:expression")
    assert "Expression" in view.plot.shown.moves[0].target.name
    assert view.plot.shown.meets.works == "half"


def test_pedals_are_fitted_to_jacks_in_one_step(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(1)
    before = window.desk.plan
    qtbot.waitUntil(view.jacks.take.isEnabled)
    qtbot.mouseClick(view.jacks.take, LEFT)
    plugs = {g.pedal: g.jack for g in window.desk.plan.pedal_plugs}
    assert plugs["swell"] == "heron:expression-jack" and "old-swell" not in plugs
    qtbot.waitUntil(lambda: view.jacks.found is not None)
    assert not view.jacks.take.isEnabled()
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert window.desk.plan is before
    qtbot.waitUntil(view.jacks.take.isEnabled)


def test_pedals_are_plugged_where_they_cross_a_jack(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(1)
    grid = view.jacks.grid
    window.resize(1280, 800)
    grid.grab()
    pedals, jacks = [p.id for p in grid.pedals], [s.ref for s in grid.sockets]
    row, column = pedals.index("swell"), jacks.index("heron:expression-jack")
    assert grid.meets(row, column).works == "works"
    qtbot.mouseClick(grid, LEFT, pos=grid.cell(row, column).center().toPoint())
    plugs = {g.pedal: g.jack for g in window.desk.plan.pedal_plugs}
    assert plugs["swell"] == "heron:expression-jack" and "old-swell" not in plugs
    assert window.desk.selection.endswith("swell")
    qtbot.keyClick(grid, Qt.Key.Key_Space)
    assert "swell" not in {g.pedal for g in window.desk.plan.pedal_plugs}
    qtbot.keyClick(grid, Qt.Key.Key_Up)
    qtbot.keyClick(grid, Qt.Key.Key_Return)
    assert grid.at == (row - 1, column) and grid.accessibleDescription().startswith("Old swell")
    assert {g.pedal: g.jack for g in window.desk.plan.pedal_plugs}["old-swell"] == jacks[column]
    window.perform(set_pedal("swell", "Volts", kind="voltage", low=0.0, high=24.0))
    before = window.desk.plan
    qtbot.mouseClick(grid, LEFT, pos=grid.cell(row, column).center().toPoint())
    assert window.desk.plan is before and "must not" in view.jacks.words.text()


def test_a_pedal_is_plugged_in_and_pulled_out_from_the_facts(window):
    def rows():
        return {r.label: r for r in sheet_for(window.desk, "heron:expression").rows}

    window.perform(rows()["Pedal in it"].make("swell"))
    assert rows()["It works"].value == "as wanted" and "How it feels" not in rows()
    window.perform(rows()["Pedal in it"].make(None))
    assert "It works" not in rows()
    window.perform(
        {r.label: r for r in sheet_for(window.desk, "heron:sustain").rows}["Expects at rest"].make(
            "closed"
        )
    )
    assert not [f for f in window.desk.findings if "Damper" in f.sentence]


def test_a_finding_of_a_pedal_is_seen_here(window, qtbot):
    from vastzone.core.proof.rules import view_of

    found = next(f for f in window.desk.findings if f.rule == "pedal half works")
    assert view_of(window.desk.plan, found) == "pedals"


def test_a_recorded_sweep_tells_the_sense_and_turns_the_control_round(window, qtbot, tmp_path):
    view = show(window, qtbot, "pedals")
    window.desk.select("heron:expression")
    view.show_page(2)
    qtbot.mouseClick(view.travel.record, LEFT)
    for value in range(127, 0, -3):
        window.desk.stage.move(("heron:expression", 1), value, 0.0)
        qtbot.wait(4)
    qtbot.mouseClick(view.travel.record, LEFT)
    assert view.travel.found.sense == "reversed" and view.travel.use.isEnabled()
    qtbot.mouseClick(view.travel.use, LEFT)
    sends = [s for p in window.desk.plan.devices[0].programs for s in p.sends]
    mine = [s for s in sends if s.control == "expression"]
    assert {(s.low, s.high) for s in mine} == {(127, 0)}
    assert mine[0].starts < 40 and mine[0].ends > 90, "a slow machine sweeps unevenly"
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert window.desk.undo_label is None
    for words in ("travel,value\n0,5\n2,9\n", "a,b\n", "travel,value\n0,1\n"):
        path = tmp_path / "sweep.csv"
        path.write_text(words)
        view.travel.read(path)
        assert "sweep.csv" in view.travel.words.text() or view.travel.found is None


def test_every_simulated_pedal_is_told_apart(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(2)
    told = []
    for _ in range(4):
        qtbot.mouseClick(view.travel.simulate, LEFT)
        told.append((view.travel.found.sense, view.travel.found.wiper))
    assert told == [
        ("forward", "right"),
        ("reversed", "right"),
        ("forward", "right"),
        ("forward", "mismatched"),
    ]


def test_a_players_strikes_are_fitted_used_and_saved(window, qtbot, tmp_path):
    view = show(window, qtbot, "pedals")
    view.show_page(4)
    qtbot.mouseClick(view.velocity.simulate, LEFT)
    assert view.velocity.found.nearest == "hard" and view.velocity.after.values
    view.velocity.save(tmp_path / "table.csv")
    assert (tmp_path / "table.csv").read_text().count("\n") == 129
    qtbot.mouseClick(view.velocity.use, LEFT)
    assert "pads" in view.velocity.words.text()
    window.desk.select("dipper:pad-1")
    qtbot.mouseClick(view.velocity.use, LEFT)
    dipper = next(d for d in window.desk.plan.devices if d.id == "dipper")
    fitted = {s.points for s in dipper.programs[0].sends if s.message == "note"}
    assert fitted == {view.velocity.found.points} and "remain" in view.velocity.words.text()
    path = tmp_path / "strikes.csv"
    rows = [f"{n * 400},Pad {1 + n % 2},{30 + n % 9 * (5 + 5 * (n % 2))}" for n in range(60)]
    path.write_text("time_ms,pad,peak\n" + "\n".join(rows))
    view.velocity.show_recorded(read_velocities(path))
    view.velocity.on.setCurrentIndex(view.velocity.on.findData("own"))
    qtbot.mouseClick(view.velocity.use, LEFT)
    dipper = next(d for d in window.desk.plan.devices if d.id == "dipper")
    own = {s.control: s.points for s in dipper.programs[0].sends if s.message == "note"}
    assert len({own["pad-1"], own["pad-2"], own["pad-3"]}) == 3
    view.velocity.show_strikes((60,) * 20)
    assert view.velocity.found is None and not view.velocity.use.isEnabled()


def test_levels_are_worked_out_while_one_types(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(5)
    caps, names = view.levels.caps, [row.cells[0].text for row in view.levels.caps.held.rows]
    at = names.index("Feedback, Echo Pool")
    retype(caps, at, 1, "50")
    feedback = lookup.target(window.desk.plan, "echo-pool:feedback")
    assert feedback.ceiling == feedback.low + (feedback.high - feedback.low) / 2
    view.levels.scale.setCurrentIndex(view.levels.scale.findData("value"))
    view.levels.scale.activated.emit(1)
    assert caps.words(at, 1) == "63"
    retype(caps, at, 1, "-12 dB")
    assert caps.words(at, 1) == "63", "40 log(63/127) is just under −12 dB"
    for words in ("loud", "200", ""):
        retype(caps, at, 1, words)
        assert view.levels.cap_words.text()
    view.levels.top.setCurrentIndex(view.levels.top.findData("echo-pool:feedback"))
    qtbot.mouseClick(view.levels.keep, LEFT)
    mix = lookup.target(window.desk.plan, "echo-pool:mix")
    assert mix.ceiling is not None and mix.ceiling < mix.high / 2
    view.levels.rises.setText("0 0, 100 12")
    assert view.levels.graph.after[0][1] == 127 and view.levels.graph.after[-1][1] == 64
    view.levels.rises.setText("0 0")
    assert not view.levels.graph.after


def test_a_pedal_is_added_described_and_plugged_in(window, qtbot):
    view = show(window, qtbot, "pedals")
    menu = view.jacks.add.menu()
    next(a for a in menu.actions() if "morph" in a.text()).trigger()
    (added, _) = view.canvas.loose[-1]
    ref = f"pedal {added.id}"
    assert window.desk.selection == ref

    def rows():
        return {r.label: r for r in sheet_for(window.desk, ref).rows}

    window.perform(rows()["Wiper on"].make("ring"))
    window.perform(rows()["Plugged into"].make("heron:expression-jack"))
    assert rows()["It works"].value == "as wanted"
    assert [p.id for p, _ in view.canvas.loose] == ["old-swell", "swell"]
    window.perform(
        next(p for p in sheet_for(window.desk, ref).presses if p.label == "Remove").make()
    )
    assert "expression-jack" not in str(window.desk.plan.pedal_plugs)
    assert not sheet_for(window.desk, ref).rows


def test_the_table_names_slots_and_a_target_follows_slowly(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(6)
    lines = [
        [view.table.rows.words(n, c) for c in range(8)]
        for n in range(view.table.rows.held.rowCount())
    ]
    feedback = next(line for line in lines if line[0].startswith("Knob 2"))
    assert feedback[3:7] == ["Feedback, Echo Pool", "4", "0 %", "100 %"]
    view.table.rows.selectRow(lines.index(feedback))
    assert window.desk.selection == "dipper:knob-2"
    held = {r.label: r for r in sheet_for(window.desk, "echo-pool:feedback").rows}
    window.perform(held["Falls in, ms"].make(400))
    assert "settled" in sheet_for(window.desk, "echo-pool:feedback").remark
    view.show_page(0)
    view.canvas.set_value(view.canvas.chosen, 90)
    assert view.strip.slew == (0.0, 400)
    view.grab()


def test_a_curve_bends_what_a_knob_sends(window, qtbot):
    view = show(window, qtbot, "pedals")
    window.desk.select("dipper:knob-2")
    rows = {r.label: r for r in sheet_for(window.desk, "dipper:knob-2").rows}
    window.perform(rows["Curve"].make("hard"))
    view.canvas.set_value(view.canvas.chosen, 64)
    sent = round(127 * (64 / 127) ** 1.7)
    assert f"{sent / 1.27:.4g}" in window.desk.stage.last.reached[0].what


def test_a_loose_pedal_is_dragged_to_a_jack(window, qtbot):
    view = show(window, qtbot, "pedals")
    pedal, rect = view.canvas.loose[0]
    at, to = rect.center().toPoint(), place(view, "heron:expression")
    qtbot.mousePress(view.canvas, LEFT, pos=at)
    qtbot.mouseMove(view.canvas, to)
    view.grab()
    qtbot.mouseRelease(view.canvas, LEFT, pos=to)
    assert {g.pedal: g.jack for g in window.desk.plan.pedal_plugs}[pedal.id].startswith("heron:")
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert pedal.id not in {g.pedal for g in window.desk.plan.pedal_plugs}


def test_a_source_is_added_and_moves_by_itself(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(3)
    tried = set()
    for n in range(view.motion.source.count()):
        view.motion.source.setCurrentIndex(n)
        tried.add(tuple(view.motion.graph.source))
    assert len(tried) == 3 and all(0 <= v <= 1 for values in tried for v in values)
    view.motion.menus["dipper"].actions()[2].trigger()
    assert view.motion.source.count() == 1
    rows = {r.label: r for r in sheet_for(window.desk, window.desk.selection).rows}
    window.perform(rows["Values"].make("127, 0"))
    assert set(view.motion.graph.source) == {0.0, 1.0}


def test_numbers_are_named_as_they_are_found_and_put_into_a_run(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(8)
    view.numbers.device.setCurrentIndex(view.numbers.device.findText("Echo Pool"))
    retype(view.numbers.rows, 77, 2, "Wobble")
    pool = next(d for d in window.desk.plan.devices if d.name == "Echo Pool")
    assert next(t for t in pool.targets if t.name == "Wobble").controller == 77
    assert "gap" in view.numbers.words.text()
    retype(view.numbers.rows, 77, 2, "")
    view.show_page(6)
    view.table.first.setValue(85)
    qtbot.mouseClick(view.table.run, LEFT)
    pool = next(d for d in window.desk.plan.devices if d.name == "Echo Pool")
    assert {t.controller for t in pool.targets} <= {85, 86, 87, 88, 89, None, 20, 21, 22, 23}
    assert any(t.controller == 85 for t in pool.targets)


def test_loudness_is_kept_even_and_caps_are_written(window, qtbot):
    view = show(window, qtbot, "pedals")
    held = {r.label: r for r in sheet_for(window.desk, "echo-pool:feedback").rows}
    window.perform(held["Louder by dB at"].make("0 0, 127 6"))
    rows = {r.label: r for r in sheet_for(window.desk, "echo-pool:mix").rows}
    window.perform(rows["Controller"].make(7))
    window.desk.select("dipper:knob-2")
    view.show_page(5)
    qtbot.mouseClick(view.levels.even_out, LEFT)
    view.show_page(0)
    assert {m.target.name for m in view.plot.shown.moves} >= {"Feedback", "Mix"}
    view.grab()
    view.show_page(5)
    names = [row.cells[0].text for row in view.levels.caps.held.rows]
    retype(view.levels.caps, names.index("Feedback, Echo Pool"), 1, "70")
    qtbot.mouseClick(view.levels.write, LEFT)
    knob = next(
        s
        for d in window.desk.plan.devices
        if d.id == "dipper"
        for s in d.programs[0].sends
        if s.control == "knob-2" and s.number != 7
    )
    assert knob.high < 127
    view.levels.where.setCurrentIndex(1)
    qtbot.mouseClick(view.levels.write, LEFT)
    pool = next(d for d in window.desk.plan.devices if d.id == "echo-pool")
    assert next(t for t in pool.targets if t.id == "feedback").high < 100


def facts(window, ref):
    return {row.label: row for row in sheet_for(window.desk, ref).rows}


def add(view, words):
    menu = view.jacks.add.menu()
    next(action for action in menu.actions() if action.text() == words).trigger()


def test_a_wish_is_given_to_the_pedal_that_does_it_and_a_floorboard_is_priced(window, qtbot):
    for pedal in window.desk.plan.pedals:
        window.perform(remove_pedal(pedal.id))
    view = show(window, qtbot, "pedals")
    view.show_page(1)
    add(view, "Continuous, for swell")
    tip = f"pedal {window.desk.plan.pedals[-1].id}"
    window.perform(facts(window, tip)["How much it matters"].make("must"))
    add(view, "Continuous, for morph")
    ring = f"pedal {window.desk.plan.pedals[-1].id}"
    window.perform(facts(window, ring)["Wiper on"].make("ring"))
    qtbot.waitUntil(view.jacks.take.isEnabled)
    assert "no floorboard here" in view.jacks.words.text()
    qtbot.mouseClick(view.jacks.take, LEFT)
    old, new = window.desk.plan.pedals
    assert (old.function, new.function) == ("morph", "swell")
    plugs = {plug.pedal: plug.jack for plug in window.desk.plan.pedal_plugs}
    assert plugs[new.id] == "heron:expression-jack"
    (more,) = [one for one in sheet_for(window.desk, ring).presses if one.icon == "plus"]
    window.perform(more.make())
    window.desk.select(ring)
    window.perform(facts(window, ring)["2. Wanted for"].make("morph"))
    assert [wish.function for wish in window.desk.plan.pedals[1].wishes] == ["swell", "morph"]
    window.perform(add_device(changed(shipped()["floorboard-12"], name="Snipe")))
    qtbot.waitUntil(lambda: "Snipe" in view.jacks.words.text())
    assert "no floorboard here" not in view.jacks.words.text()


def test_the_same_foot_is_compared_in_two_songs(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(view.page_names.index("Compare"))
    page = view.compare
    page.only.setChecked(False)
    every = page.table.held.rowCount()
    heron = lookup.device(window.desk.plan, "heron")
    here, there = window.desk.plan.scenes[:2]
    numbers = [lookup.program_in(scene, heron).number for scene in (here, there)]
    assert numbers[0] != numbers[1]
    silenced = set_send("heron", numbers[1], "expression", 1, "x", message="none")
    window.perform(silenced)
    page.only.setChecked(True)
    told = {page.table.words(row, 0): row for row in range(page.table.held.rowCount())}
    assert page.table.words(told["Expression, Heron 73"], 2) == "nothing"
    assert len(told) <= every


def test_a_level_is_wished_beside_what_a_knob_moves(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(view.page_names.index("Levels"))
    page = view.levels
    assert not page.wish.isEnabled()
    window.desk.select("dipper:knob-1")
    assert page.wish.isEnabled()
    page.level.setCurrentIndex(page.level.findText("Swell box, Rookery"))
    page.ends.setText("loud")
    before = window.desk.plan
    qtbot.mouseClick(page.wish, LEFT)
    assert window.desk.plan is before and "loud" in page.even_words.text()
    page.ends.setText("0 to −3 dB")
    for _ in range(2):
        qtbot.mouseClick(page.wish, LEFT)
    made = [wish for wish in window.desk.plan.wishes if wish not in before.wishes]
    assert [(wish.from_value, wish.to_value) for wish in made] == [(0, -3)]


def test_a_source_of_voltage_has_its_range_in_hundredths(window, qtbot):
    view = show(window, qtbot, "pedals")
    view.show_page(1)
    add(view, "Voltage, for swell")
    ref = f"pedal {window.desk.plan.pedals[-1].id}"
    window.perform(facts(window, ref)["Highest, V"].make("3.35 V"))
    assert window.desk.plan.pedals[-1].high == 3.35
    with pytest.raises(EditError):
        facts(window, ref)["Highest, V"].make("much")


def test_a_knob_is_another_in_each_bank(window, qtbot):
    view = show(window, qtbot, "pedals")
    assert not view.bank.isVisible()
    window.perform(set_thing("dipper", "controls", "knob-1", "knob", "x", banks=2))
    first = window.desk.plan
    send = next(
        s for s in lookup.device(first, "dipper").programs[0].sends if s.control == "knob-1"
    )
    other = {"message": "controller", "number": 44, "channel": send.channel}
    window.perform(set_send("dipper", 0, "knob-1", 2, "x", **other))
    assert view.bank.isVisible()
    view.bank.setCurrentIndex(1)
    view.bank.activated.emit(1)
    held = next(t.held for t in view.canvas.tiles if t.held.ref == "dipper:knob-1")
    assert held.bank == 2
    view.canvas.set_value(held, 70)
    assert window.desk.stage.last.bank == 2
    still = next(t.held for t in view.canvas.tiles if t.held.ref == "dipper:knob-2")
    assert still.bank == 1
