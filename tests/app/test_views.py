"""Journeys through Rig, Plays, Prove and Cards with mouse and keys."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtPrintSupport import QPrinter

from vastzone.app import dialogs
from vastzone.app.views.cards.preview import Preview
from vastzone.app.views.rig.add import AddDevice
from vastzone.core.memory.rig import as_dialled
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.causes import causes
from vastzone.core.proof.marking import prove
from vastzone.files import native

from .hands import awake, cell, pull, show, work_out

LEFT = Qt.MouseButton.LeftButton
CTRL = Qt.KeyboardModifier.ControlModifier


def add(window, qtbot, text):
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_D, CTRL)
    dialog = window.findChildren(AddDevice)[-1]
    qtbot.keyClicks(dialog.line, text)
    qtbot.keyClick(dialog.line, Qt.Key.Key_Return)
    return window.desk.plan.devices[-1]


def test_a_small_rig_is_built_from_nothing(window, qtbot, tmp_path, monkeypatch):
    desk = window.desk
    window.documents.new()
    assert window.guide.isVisible() and window.view("rig").isVisible()
    keys, box = add(window, qtbot, "keyboard 61"), add(window, qtbot, "sound module")
    canvas = window.view("rig").canvas
    pull(qtbot, canvas, f"{keys.id}:usb", f"{box.id}:in")
    assert not desk.plan.cables, "USB and DIN cannot be joined, and the line says why"
    assert "DIN" in window.view("rig").line.toolTip()
    pull(qtbot, canvas, f"{keys.id}:out", f"{box.id}:in")
    assert [(c.source, c.dest) for c in desk.plan.cables] == [(f"{keys.id}:out", f"{box.id}:in")]

    plays = show(window, qtbot, "plays")
    matrix = plays.matrix
    qtbot.mouseClick(matrix.viewport(), LEFT, pos=cell(matrix, "C2", "Part 1"))
    wish = desk.plan.wishes[0]
    assert wish.plays == f"{box.id}:part-1" and desk.selection == f"wish {wish.id}"
    low = next(
        f for f in window.facts.findChildren(type(plays.text)) if f.accessibleName() == "Lowest key"
    )
    low.setFocus()
    low.selectAll()
    qtbot.keyClicks(low, "C4")
    qtbot.keyClick(low, Qt.Key.Key_Return)
    assert desk.plan.wishes[0].low == 60
    qtbot.mouseClick(matrix.viewport(), LEFT, pos=cell(matrix, "C2", "Part 2"))
    qtbot.mouseClick(matrix.viewport(), LEFT, pos=cell(matrix, "C4", "Part 3"))
    assert len(desk.plan.wishes) == 3 and not prove(desk.plan).good

    work_out(window, qtbot)
    assert prove(desk.plan).good and desk.unseen
    cards = show(window, qtbot, "cards")
    page = cards.page
    while any(row.line and row.line.waits for row in page.rows):
        page.at = next(n for n, row in enumerate(page.rows) if row.line and row.line.waits)
        page.setFocus()
        qtbot.keyClick(page, Qt.Key.Key_Space)
        if not any(row.line.waits for row in page.rows if row.line):
            qtbot.mouseClick(cards.list.viewport(), LEFT, pos=QPoint(60, 80))
    held = desk.memory
    assert not cards.counts() or not any(one.steps for one in cards.counts().values())
    desk.look("dialled")
    assert desk.proof.good and desk.plan == as_dialled(desk.planned, held)
    desk.look("planned")
    assert not [r for r in desk.unseen if r.startswith(keys.id)]

    paper = QPrinter()
    paper.setOutputFileName(str(tmp_path / "paper.pdf"))
    monkeypatch.setattr(dialogs, "ask_printer", lambda _: paper)
    qtbot.mouseClick(cards.preview, LEFT)
    qtbot.waitUntil(lambda: bool(cards.findChildren(Preview)), timeout=10_000)
    preview = cards.findChildren(Preview)[-1]
    qtbot.mouseClick(preview.print, LEFT)
    qtbot.keyClick(preview, Qt.Key.Key_Escape)
    assert (tmp_path / "paper.pdf").read_bytes().startswith(b"%PDF")
    monkeypatch.setattr(dialogs, "ask_folder", lambda *_: tmp_path)
    qtbot.mouseClick(cards.export, LEFT)
    qtbot.waitUntil((tmp_path / "cards.pdf").is_file, timeout=10_000)
    assert (tmp_path / "cards.pdf").stat().st_size > 1000
    assert (tmp_path / "cards.csv").read_text().count("\n") > 2

    path = tmp_path / "small.vastzone"
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: path)
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_S, CTRL)
    saved = desk.plan
    window.documents.new()
    window.documents.open_path(path)
    assert desk.plan == saved == native.read(path)


def test_as_found_is_mended_from_prove_alone(window, qtbot):
    view = show(window, qtbot, "prove")
    before = len(causes(window.desk.plan))
    for _ in range(30):
        if not [c for c in window.desk.causes if c.finding.severity == "fault"]:
            break
        qtbot.waitUntil(lambda: not window.desk.pending)
        qtbot.waitUntil(lambda: view.causes.best is not None, timeout=10_000)
        view.causes.setFocus()
        qtbot.keyClick(view.causes, Qt.Key.Key_Return)
    assert prove(window.desk.plan).good
    assert len(window.desk.causes) < before
    assert not [c for c in window.desk.causes if c.finding.severity == "fault"]


def test_a_cause_goes_to_its_place(window, qtbot):
    view = show(window, qtbot, "prove")
    wrong = next(
        n for n, c in enumerate(view.causes.cards) if c.cause.finding.rule == "unheard zone"
    )
    qtbot.mouseClick(view.causes.cards[wrong], LEFT)
    assert view.causes.at == wrong
    window.go_to_finding(view.causes.cards[wrong].cause.finding)
    assert window.keys.isVisible() and window.desk.selection == "heron:bells"
    assert window.desk.scene.id == "wreck-bell"


def test_a_walk_through_with_a_wrong_strike_and_a_missing_one(window, qtbot):
    work_out(window, qtbot)
    desk = window.desk
    desk.go_to_scene("squall")
    view = show(window, qtbot, "prove")
    view.show_page(1)
    qtbot.mouseClick(view.walk.begin_button, LEFT)
    walk = view.walk.walk
    assert walk.ask.place.source == "heron:keys" and walk.ask.expected == "Sea organ"
    window.desk.stage.press("wren:keys", 70, 90, 0.0)
    assert walk.answers[0].result == "fail" and "Wren 32" in walk.answers[0].got
    qtbot.mouseClick(view.walk.skip, LEFT)
    qtbot.mouseClick(view.walk.skip, LEFT)
    while walk.ask is not None:
        qtbot.mouseClick(view.walk.simulate, LEFT)
    count = len(walk.asks)
    qtbot.mouseClick(view.walk.finish, LEFT)
    log = desk.plan.log
    results = [entry.result for entry in log]
    assert results[:2] == ["fail", "untested"] and results[2:] == ["pass"] * (count - 2)
    assert view.log.isVisible() and view.log.held.rowCount() == count
    shown = [view.log.words(row, 5) for row in range(count)]
    assert shown == list(reversed(results)) and log[0].on.startswith("20")
    assert native.from_json(native.to_json(desk.plan), "log").log == log


def test_wishes_are_made_and_taken_back_with_the_keyboard(window, qtbot):
    desk = window.desk
    plays = show(window, qtbot, "plays")
    matrix = plays.matrix
    cell(matrix, "Dual switch, right", "Feedback")
    before = desk.plan.wishes
    matrix.setFocus()
    qtbot.keyClick(matrix, Qt.Key.Key_Space)
    new = [i for i in desk.plan.wishes if i not in before]
    assert [(i.moves, i.scenes) for i in new] == [("echo-pool:feedback", ("dusk",))]
    qtbot.keyClick(matrix, Qt.Key.Key_Delete)
    assert desk.plan.wishes == before
    qtbot.keyClick(matrix, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
    assert desk.plan.wishes[-1].scenes == ()


def test_a_range_is_struck_and_a_struck_control_is_found(window, qtbot):
    plays = show(window, qtbot, "plays")
    qtbot.mouseClick(plays.range, LEFT)
    for key in (60, 48):
        window.desk.stage.press("heron:keys", key, 90, 0.0)
        window.desk.stage.release("heron:keys", key, 0.0)
    line = plays.matrix.lines[plays.matrix.at[0]]
    assert (line.place.low, line.place.high) == (48, 60) and not plays.range.isChecked()
    window.desk.stage.move(("dipper:pad-9", 1), 127, 0.0)
    assert plays.matrix.lines[plays.matrix.at[0]].words == "Pad 9, bank 1"


def test_plays_is_filtered_by_device_mark_and_text(window, qtbot):
    plays = show(window, qtbot, "plays")
    everything = len(plays.matrix.lines)
    plays.device.setCurrentIndex(plays.device.findData("wren"))
    assert {ln.device for ln in plays.matrix.lines} == {"wren"}
    plays.device.setCurrentIndex(0)
    plays.show_.setCurrentIndex(plays.show_.findData("silent"))
    rows = [ln.row for ln in plays.matrix.lines if ln.row >= 0]
    assert 0 < len(rows) < everything
    assert all(plays.matrix.grid.worst(row) in ("silent", "wrong") for row in rows)
    plays.show_.setCurrentIndex(0)
    qtbot.mouseClick(plays.text, LEFT)
    qtbot.keyClicks(plays.text, "knob 1")
    assert [ln.words for ln in plays.matrix.lines if ln.row >= 0] == ["Knob 1"]


def test_cables_are_worked_from_the_keyboard(window, qtbot):
    rig = show(window, qtbot, "rig")
    canvas, desk = rig.canvas, window.desk
    cable = next(c for c in desk.plan.cables if c.source == "dipper:din-out")
    desk.select(f"cable {cable.source} {cable.dest}")
    qtbot.keyClick(canvas, Qt.Key.Key_Delete)
    assert cable not in desk.plan.cables
    canvas.focused = "dipper:din-out"
    qtbot.keyClick(canvas, Qt.Key.Key_Return)
    assert canvas.holding
    qtbot.keyClick(canvas, Qt.Key.Key_Right)
    assert canvas.focused == "weir:in-3", "the only jack that takes it"
    qtbot.keyClick(canvas, Qt.Key.Key_Return)
    assert cable in desk.plan.cables and not canvas.holding
    canvas.focused = "heron:usb"
    qtbot.keyClick(canvas, Qt.Key.Key_Return)
    qtbot.keyClick(canvas, Qt.Key.Key_Escape)
    assert not canvas.holding


def test_limits_are_edited_and_a_device_leaves_with_its_cables(window, qtbot):
    desk = window.desk
    show(window, qtbot, "rig")
    desk.select("echo-pool")
    fields = window.facts.findChildren(type(window.view("plays").text))
    kept = next(f for f in fields if f.accessibleName() == "Keeps controllers")
    kept.setFocus()
    kept.selectAll()
    qtbot.keyClicks(kept, "102, 103 104")
    qtbot.keyClick(kept, Qt.Key.Key_Return)
    limits = lookup.device(desk.plan, "echo-pool").limits
    assert (102, 103, 104) in [getattr(x, "controllers", ()) for x in limits]
    kept.selectAll()
    qtbot.keyClicks(kept, "many")
    qtbot.keyClick(kept, Qt.Key.Key_Return)
    assert lookup.device(desk.plan, "echo-pool").limits == limits
    canvas = window.view("rig").canvas
    canvas.setFocus()
    qtbot.keyClick(canvas, Qt.Key.Key_Delete)
    assert "echo-pool" not in {d.id for d in desk.plan.devices}
    assert not [c for c in desk.plan.cables if "echo-pool" in c.dest]
    assert not [i for i in desk.plan.wishes if (i.moves or "").startswith("echo-pool")]
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert "echo-pool" in {d.id for d in desk.plan.devices}


def test_a_pad_struck_by_midi_answers_the_walk(window, qtbot):
    from vastzone.core.midi.messages import Message

    work_out(window, qtbot)
    view = show(window, qtbot, "prove")
    view.show_page(1)
    view.walk.begin()
    walk = view.walk.walk
    walk.go(next(n for n, a in enumerate(walk.asks) if a.place.source == "dipper:pad-2"))
    window.playing._strike(Message("note_on", 9, 38, 100), 0.0)
    window.playing._strike(Message("note_off", 9, 38, 0), 1.0)
    assert walk.answers[walk.at - 1].result == "pass"
    assert walk.ask.place.source == "dipper:pad-3"
