"""The workshop: a device laid open is described where it lies, by mouse and by keys."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QComboBox, QLineEdit

from vastzone import demo
from vastzone.app import dialogs
from vastzone.app.frame.learn import LearnDevice
from vastzone.app.frame.lists import ProgramList, SceneList
from vastzone.app.frame.losing import AskLoss
from vastzone.app.frame.sheets import sheet_for
from vastzone.app.views.rig.add import AddDevice
from vastzone.app.views.rig.workshop.abilities import Abilities
from vastzone.app.views.rig.workshop.counters import Counters
from vastzone.app.views.rig.workshop.replace import AskReplace
from vastzone.app.views.rig.workshop.table import ReadTable
from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import new_device
from vastzone.core.memory.rig import as_dialled
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.devices import add_device
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.queries import lookup
from vastzone.files.devices import read_device, write_device

from .hands import CTRL, LEFT, awake, drag, retype, show

PLOVER = (
    "Plover: 61 keys, 8 pads notes from 36 channel 1, 9 faders, 4 knobs controllers from 70, USB"
)


@pytest.fixture
def page(window, qtbot):
    window.documents.new()
    window.desk.describe(add_device(new_device(read_line(PLOVER))))
    view = show(window, qtbot, "rig")
    view.show_page(1)
    window.desk.select("plover")
    return view.device_page


def device(page):
    return lookup.device(page.desk.planned, "plover")


def centre(page, thing):
    tiles = {t.thing.id: t.rect for section in page.canvas.bench.sections for t in section.tiles}
    return tiles[thing].center().toPoint()


def fact(window, name):
    kinds = (QLineEdit, QComboBox)
    fields = [f for kind in kinds for f in window.facts.findChildren(kind)]
    return [field for field in fields if field.accessibleName() == name][-1]


def test_things_are_chosen_moved_named_copied_and_removed(window, qtbot, page):
    canvas = page.canvas
    qtbot.mouseClick(canvas, LEFT, pos=centre(page, "fader-1"))
    assert window.desk.selection == "plover:fader-1"
    qtbot.mouseClick(canvas, LEFT, CTRL, pos=centre(page, "fader-2"))
    assert [thing.id for thing in canvas.chosen] == ["fader-1", "fader-2"]
    place = centre(page, "fader-1")
    drag(qtbot, canvas, place, place + QPoint(0, 40))
    moved = {c.id: c.at for c in device(page).controls}
    assert moved["fader-1"].y > 40 and moved["fader-3"] is None
    qtbot.keyClick(canvas, Qt.Key.Key_A, CTRL)
    assert len(canvas.chosen) == 9, "all of this kind"
    qtbot.keyClick(canvas, Qt.Key.Key_F2)
    field = next(f for f in canvas.findChildren(QLineEdit) if f.isVisible())
    field.setText("Layer {n}")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    named = [c.name for c in device(page).controls if c.kind == "fader"]
    assert sorted(named) == [f"Layer {n}" for n in range(1, 10)]
    qtbot.mouseClick(canvas, LEFT, pos=centre(page, "knob-1"))
    qtbot.keyClick(canvas, Qt.Key.Key_Right)
    assert window.desk.selection == "plover:knob-2"
    qtbot.keyClick(canvas, Qt.Key.Key_J, CTRL)
    assert sum(c.kind == "knob" for c in device(page).controls) == 5
    qtbot.keyClick(canvas, Qt.Key.Key_Delete)
    assert sum(c.kind == "knob" for c in device(page).controls) == 4
    for _ in range(4):
        window.desk.undo()
    assert device(page) == new_device(read_line(PLOVER))
    assert as_dialled(window.desk.planned, window.desk.memory) == window.desk.planned


def test_a_key_that_is_pressed_on_the_face_sounds(window, qtbot, page):
    qtbot.mousePress(page.canvas, LEFT, pos=centre(page, "keys"))
    assert window.desk.stage.lit_keys()
    qtbot.mouseRelease(page.canvas, LEFT, pos=centre(page, "keys"))
    assert not window.desk.stage.lit_keys()


def test_a_line_adds_to_the_device_and_says_what_it_does_not_understand(window, qtbot, page):
    page.line.setFocus()
    qtbot.keyClicks(page.line, "3 foot switches, sustain jack")
    assert "3 foot switches" in page.said.toolTip()
    qtbot.keyClick(page.line, Qt.Key.Key_Return)
    assert [jack.name for jack in device(page).jacks] == ["Sustain"] and not page.line.text()
    before = window.desk.planned
    qtbot.keyClicks(page.line, "7 wibbles")
    qtbot.keyClick(page.line, Qt.Key.Key_Return)
    assert window.desk.planned is before and "wibbles" in page.said.toolTip()


def test_facts_here_say_how_it_is_and_the_plan_keeps_what_it_wants(window, qtbot, page):
    desk = window.desk
    desk.perform(set_send("plover", 0, "knob-1", 1, "Wanted", number=20))
    qtbot.mouseClick(page.canvas, LEFT, pos=centre(page, "knob-1"))
    number = fact(window, "Number")
    assert number.text() == "70", "as the device is, not as the plan wants it"
    number.setText("75")
    number.setModified(True)
    number.editingFinished.emit()
    wanted = {s.control: s.number for s in device(page).programs[0].sends}
    held = {s.control: s.number for s in desk.dialled_plan.devices[0].programs[0].sends}
    assert (wanted["knob-1"], held["knob-1"]) == (20, 75)
    qtbot.mouseClick(page.canvas, LEFT, CTRL, pos=centre(page, "knob-2"))
    kind = fact(window, "Kind")
    kind.setCurrentIndex(kind.findText("fader"))
    assert [c.kind for c in device(page).controls if c.id.startswith("knob-")][:3] == [
        "fader",
        "fader",
        "knob",
    ]


def test_what_would_be_lost_is_asked_first(window, qtbot):
    window.documents.open_path(demo.READY, untitled=True)
    view = show(window, qtbot, "rig")
    view.show_page(1)
    window.desk.select("heron")
    page, before = view.device_page, window.desk.planned
    qtbot.mouseClick(page.canvas, LEFT, pos=centre(page, "keys"))
    qtbot.keyClick(page.canvas, Qt.Key.Key_Delete)
    asked = page.findChildren(AskLoss)[-1]
    told = [asked.list.words(row) for row in range(asked.list.count)]
    assert any("wish" in sentence for sentence in told)
    qtbot.mouseClick(asked.keep, LEFT)
    assert window.desk.planned is before
    qtbot.keyClick(page.canvas, Qt.Key.Key_Delete)
    qtbot.mouseClick(page.findChildren(AskLoss)[-1].take, LEFT)
    assert not lookup.device(window.desk.planned, "heron").keybeds
    window.desk.undo()
    assert window.desk.planned is before


def test_a_device_is_learned_and_strikes_are_taken_back(window, qtbot, page):
    qtbot.mouseClick(page.learn, LEFT)
    dialog = page.findChildren(LearnDevice)[-1]
    assert "Pad 1" in dialog.next.text()
    for at, note in ((0, 60), (700, 61), (1400, 61)):
        window.desk.stage.heard.emit(Message("note_on", 2, note, 100), float(at))
        window.desk.stage.heard.emit(Message("note_off", 2, note), float(at) + 90)
    assert dialog.table.held.rowCount() == 2 and "twice" in dialog.table.words(1, 3)
    qtbot.keyClick(dialog, Qt.Key.Key_Backspace)
    assert dialog.table.held.rowCount() == 1
    while len(dialog.told) < 8:
        qtbot.mouseClick(dialog.simulate, LEFT)
    qtbot.mouseClick(dialog.nothing, LEFT)
    assert "Fader 2" in dialog.next.text()
    qtbot.mouseClick(dialog.simulate, LEFT)
    assert dialog.told[-1].control == "knob-1", "faders that send nothing are passed over"
    qtbot.mouseClick(dialog.use, LEFT)
    sends = {s.control: (s.message, s.number, s.channel) for s in device(page).programs[0].sends}
    assert sends["pad-1"] == ("note", 60, 3) and sends["pad-2"] == ("note", 37, 1)
    assert as_dialled(window.desk.planned, window.desk.memory) == window.desk.planned
    page.commands.learn_device()
    dialog = page.findChildren(LearnDevice)[-1]
    dialog.touched.setCurrentIndex(1)
    dialog.start_over()
    for at, note in ((0, 24), (900, 84)):
        window.desk.stage.heard.emit(Message("note_on", 0, note, 80), float(at))
    qtbot.mouseClick(dialog.use, LEFT)
    assert [(bed.low, bed.keys) for bed in device(page).keybeds] == [(24, 61)]


def test_the_same_controls_are_learned_bank_by_bank(window, qtbot, page):
    page.commands.learn_device()
    dialog = page.findChildren(LearnDevice)[-1]
    dialog.touched.setCurrentIndex(dialog.touched.findText("Knobs"))
    dialog.start_over()
    for bank in (1, 2):
        for knob in range(4):
            for step in range(0, 128, 8):
                message = Message("controller", 3, 10 * bank + knob, step)
                window.desk.stage.heard.emit(message, 2000.0 * knob + step)
        if bank == 1:
            qtbot.mouseClick(dialog.further, LEFT)
            assert dialog.bank == 2 and "Knob 1" in dialog.next.text()
    qtbot.mouseClick(dialog.use, LEFT)
    sends = {(s.control, s.bank): s.number for s in device(page).programs[0].sends}
    assert (sends["knob-4", 1], sends["knob-4", 2]) == (13, 23)
    assert next(c for c in device(page).controls if c.id == "knob-1").banks == 2


def test_a_table_is_pasted_shown_and_put_in(window, qtbot, page):
    page.commands.read_table()
    dialog = page.findChildren(ReadTable)[-1]
    dialog.pasted.setPlainText("name;kind;cc\nMix;fader;30\nBad;fader;900\n")
    assert dialog.what.currentData() == "controls" and dialog.table.words(0, 0) == "Mix"
    assert dialog.mistakes.words(0, 0) == "2" and "900" in dialog.mistakes.words(0, 1)
    qtbot.mouseClick(dialog.use, LEFT)
    assert device(page).controls[-1].name == "Mix"
    page.commands.read_table()
    dialog = page.findChildren(ReadTable)[-1]
    dialog.pasted.setPlainText("colour;taste\nred;sweet\n")
    assert not dialog.use.isEnabled() and "name" in dialog.said.text()
    dialog.reject()


def test_what_it_can_is_said_on_pages(window, qtbot, page):
    qtbot.mouseClick(page.can, LEFT)
    dialog = page.findChildren(Abilities)[-1]
    from PySide6.QtWidgets import QSlider

    slider = next(
        s for s in dialog.findChildren(QSlider) if s.accessibleName() == "Channel of a zone"
    )
    slider.setFocus()
    for _ in range(2):
        qtbot.keyClick(slider, Qt.Key.Key_Right)
    assert device(page).limits[0].scope == "global"
    field = dialog._fields["memory-slots"]
    field.setText("16")
    field.editingFinished.emit()
    field.setText("many")
    field.editingFinished.emit()
    assert device(page).limits[-1].most == 16 and dialog.said.text()
    retype(dialog.table, 0, 1, "Edit, Zone")
    assert device(page).panel[0].path == "Edit, Zone"
    dialog.lines.setPlainText("Close its editor\nSelect slot 1")
    assert device(page).preparation == ("Close its editor", "Select slot 1")
    dialog.accept()


def test_a_device_is_kept_shared_replaced_and_brought_up_to_date(
    window, qtbot, page, monkeypatch, tmp_path
):
    desk = window.desk
    desk.perform(set_send("plover", 0, "knob-1", 1, "Wanted", number=20))
    path = tmp_path / "shared.vzdevice"
    monkeypatch.setattr(dialogs, "ask_save_device", lambda *_: path)
    page.commands.share_device()
    assert read_device(path) == new_device(read_line(PLOVER)), "no number of the plan is in it"
    page.commands.keep_device()
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_D, CTRL)
    dialog = window.findChildren(AddDevice)[-1]
    qtbot.keyClicks(dialog.line, "plover")
    assert dialog.list.ref.name == "Plover"
    dialog.reject()
    newer = new_device(read_line(f"{PLOVER}, 2 buttons"))
    write_device(newer, path)
    monkeypatch.setattr(dialogs, "ask_device", lambda *_: path)
    page.commands.update_device()
    asked = page.findChildren(AskReplace)[-1]
    words = [asked.list.words(row) for row in range(asked.list.count)]
    assert any("Button 1 is new" in sentence for sentence in words)
    qtbot.mouseClick(asked.take, LEFT)
    assert sum(c.kind == "button" for c in device(page).controls) == 2
    assert {s.control: s.number for s in device(page).programs[0].sends}["knob-1"] == 20
    page.commands.replace_device()
    dialog = page.findChildren(AddDevice)[-1]
    qtbot.keyClicks(dialog.line, "Small: 49 keys, 4 pads, USB")
    qtbot.keyClick(dialog.line, Qt.Key.Key_Return)
    asked = page.findChildren(AskReplace)[-1]
    qtbot.mouseClick(asked.take, LEFT)
    assert device(page).name == "Small" and device(page).keybeds[0].keys == 49


def test_scenes_and_programs_are_lists_to_work_in(window, qtbot):
    window.documents.open_path(demo.READY, untitled=True)
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_E, CTRL | Qt.KeyboardModifier.ShiftModifier)
    dialog = window.findChildren(SceneList)[-1]
    before = [scene.name for scene in window.desk.planned.scenes]
    retype(dialog.table, 0, 0, "Twilight")
    dialog.table.selectRow(0)
    dialog._move(1)
    names = [scene.name for scene in window.desk.planned.scenes]
    assert names == [before[1], "Twilight", *before[2:]]
    dialog.accept()
    window.desk.select("heron")
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_P, CTRL)
    dialog = window.findChildren(ProgramList)[-1]
    retype(dialog.table, 0, 1, "Evening")
    retype(dialog.table, 0, 0, "30")
    heron = lookup.device(window.desk.planned, "heron")
    assert next(p for p in heron.programs if p.number == 29).name == "Evening"
    retype(dialog.table, 0, 0, "900")
    assert "choose one of these" in dialog.said.text()
    dialog.accept()


def test_bad_input_is_one_sentence_and_nothing_is_lost(window, qtbot, page, tmp_path, monkeypatch):
    before = window.desk.planned
    for words in ("10000 faders", "9 faders " * 900, "x" * 4100):
        page.line.setText(words)
        qtbot.keyClick(page.line, Qt.Key.Key_Return)
        assert window.desk.planned is before and page.said.toolTip()
    page.commands.read_table()
    dialog = page.findChildren(ReadTable)[-1]
    dialog.pasted.setPlainText("name\n" + "\n".join(f"K {n}" for n in range(10_000)))
    assert not dialog.use.isEnabled() and "too many" in dialog.said.text()
    names = [f"{n} {'long ' * 15}"[:80] for n in range(200)]
    dialog.pasted.setPlainText("name,kind\n" + "\n".join(f"{name},button" for name in names))
    qtbot.mouseClick(dialog.use, LEFT)
    assert len(device(page).controls) == 200 + len(before.devices[0].controls)
    page.grab()
    newer = tmp_path / "newer.vzdevice"
    newer.write_text('{"format": "vastzone-device", "version": 99, "device": {}}')
    monkeypatch.setattr(dialogs, "ask_device", lambda *_: newer)
    page.commands.update_device()
    assert "later version" in page.said.toolTip() or "newer" in page.said.toolTip()


def test_counters_write_the_line(window, qtbot, page):
    qtbot.mouseClick(page.dozen, LEFT)
    dialog = page.findChildren(Counters)[-1]
    dialog.count.setValue(16)
    dialog.rows.setValue(4)
    dialog.columns.setValue(4)
    dialog.banks.setValue(3)
    dialog.sent.setCurrentIndex(1)
    dialog.first.setText("C1")
    dialog.names.setText("Loop {n}")
    assert dialog.line == '16 pads as 4 × 4 in 3 banks notes from C1 called "Loop {n}"'
    qtbot.mouseClick(dialog.take, LEFT)
    loops = [c for c in device(page).controls if c.name.startswith("Loop")]
    assert len(loops) == 16 and loops[0].banks == 3
    assert [thing.id for thing in page.canvas.chosen][:1] == [loops[0].id], "and chosen at once"


def test_sockets_and_parts_are_put_in_another_order(window, qtbot, page):
    window.desk.describe(add_device(new_device(read_line("Box: module, 3 layers, 2 DIN outs"))))
    window.desk.select("box")
    drag(qtbot, page.canvas, centre(page, "layer-3"), centre(page, "layer-1"))
    box = lookup.device(window.desk.planned, "box")
    assert [part.id for part in box.parts] == ["layer-3", "layer-1", "layer-2"]
    drag(qtbot, page.canvas, centre(page, "layer-1"), centre(page, "out"))
    assert lookup.device(window.desk.planned, "box") == box, "a part is no socket"


def test_a_control_says_what_it_does_now(window, qtbot):
    window.documents.open_path(demo.READY, untitled=True)
    window.desk.select("dipper:knob-1")
    now = {row.label: row.value for row in sheet_for(window.desk, "dipper:knob-1").rows}["Now"]
    assert "CC 20, channel 16 → Mix" in now


def test_a_device_with_ten_thousand_controls_is_a_sentence(
    window, qtbot, page, tmp_path, monkeypatch
):
    path = tmp_path / "huge.vzdevice"
    box = new_device(read_line("Huge: 400 buttons"))
    controls = tuple(
        changed(box.controls[n % 400], id=f"b-{n}", name=f"B {n}") for n in range(10_000)
    )
    write_device(changed(box, controls=controls, programs=()), path)
    monkeypatch.setattr(dialogs, "ask_device", lambda *_: path)
    before = window.desk.planned
    page.commands.update_device()
    assert window.desk.planned is before and "controls" in page.said.toolTip()
