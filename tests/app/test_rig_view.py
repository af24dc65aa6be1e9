"""Rig: what is told while pointing, the library and device files, faults on cables, saving a device."""

from collections import Counter

import pytest
from PySide6.QtCore import QPoint, Qt

from vastzone.app import dialogs
from vastzone.app.views.rig.add import AddDevice
from vastzone.core.cards.card import count
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.rules import RULES
from vastzone.files.devices import read_device, write_device

from .hands import show

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def rig(window, qtbot):
    return show(window, qtbot, "rig")


def point(qtbot, rig, at):
    qtbot.mouseMove(rig.canvas, at.toPoint())
    return rig.line.toolTip()


def test_pointing_tells_jacks_and_what_a_cable_carries(window, qtbot, rig):
    jack = rig.canvas.picture.jack("heron:din-out")
    assert "DIN output" in point(qtbot, rig, jack.at)
    wire = next(w for w in rig.canvas.picture.wires if w.cable.source == "dipper:din-out")
    told = point(qtbot, rig, wire.label)
    assert "1 from Dipper 12" in told and told == rig.canvas.accessibleDescription()


def test_a_press_on_a_cable_or_device_shows_its_facts(window, qtbot, rig):
    wire = next(w for w in rig.canvas.picture.wires if w.cable.source == "wren:usb")
    qtbot.mouseClick(rig.canvas, LEFT, pos=wire.label.toPoint())
    assert window.desk.selection == "cable wren:usb rookery:usb-2"
    box = rig.canvas.picture.box("weir")
    qtbot.mouseClick(rig.canvas, LEFT, pos=box.rect.topLeft().toPoint() + QPoint(40, 14))
    assert window.desk.selection == "weir"
    qtbot.mouseClick(rig.canvas, LEFT, pos=QPoint(2, 2))
    assert window.desk.selection == ""


def test_a_plug_let_go_beside_every_jack_connects_nothing(window, qtbot, rig):
    before, canvas = window.desk.plan, rig.canvas
    start = canvas.picture.jack("weir:in-4").at.toPoint()
    qtbot.mousePress(canvas, LEFT, pos=start)
    assert canvas.holding
    qtbot.mouseMove(canvas, QPoint(4, 4))
    qtbot.mouseRelease(canvas, LEFT, pos=QPoint(4, 4))
    assert window.desk.plan is before and not canvas.holding


def test_two_presses_connect_as_well_as_a_drag(window, qtbot, rig):
    canvas, desk = rig.canvas, window.desk
    cable = next(c for c in desk.plan.cables if c.source == "curlew:din-out")
    desk.select(f"cable {cable.source} {cable.dest}")
    qtbot.keyClick(canvas, Qt.Key.Key_Delete)
    a, b = (canvas.picture.jack(r).at.toPoint() for r in ("curlew:din-out", "weir:in-4"))
    qtbot.mouseClick(canvas, LEFT, pos=a)
    assert canvas.holding, "a press without a drag keeps the plug in the hand"
    qtbot.mouseMove(canvas, b)
    qtbot.mouseRelease(canvas, LEFT, pos=b)
    assert cable in desk.plan.cables


def test_the_library_is_narrowed_by_typing(window, qtbot, rig):
    rig.add_device()
    dialog = window.findChildren(AddDevice)[-1]
    everything = dialog.list.count
    qtbot.keyClicks(dialog.line, "merger")
    assert 0 < dialog.list.count < everything
    qtbot.keyClicks(dialog.line, " nonsense")
    assert dialog.list.count == 0
    qtbot.mouseClick(dialog.take, LEFT)
    assert dialog.isVisible(), "there is nothing to add"
    dialog.reject()


def test_a_device_is_saved_and_added_again_from_its_file(window, qtbot, rig, tmp_path, monkeypatch):
    path = tmp_path / "mine.vzdevice"
    window.desk.select("dipper")
    monkeypatch.setattr(dialogs, "ask_save_device", lambda *_: path)
    window.actions_table.run("save-device")
    assert read_device(path) == lookup.device(window.desk.plan, "dipper")
    monkeypatch.setattr(dialogs, "ask_device", lambda _: path)
    rig.add_device()
    window.findChildren(AddDevice)[-1]._from_file()
    added = window.desk.plan.devices[-1]
    assert added.name == "Dipper 12 2" and window.desk.selection == added.id


def test_a_bad_device_file_is_one_sentence_and_adds_nothing(
    window, qtbot, rig, tmp_path, monkeypatch
):
    path = tmp_path / "bad.vzdevice"
    path.write_text("{}")
    before = window.desk.plan
    monkeypatch.setattr(dialogs, "ask_device", lambda _: path)
    rig.add_device()
    dialog = window.findChildren(AddDevice)[-1]
    dialog._from_file()
    assert dialog._message.isVisibleTo(dialog) and "bad.vzdevice" in dialog._message.text()
    assert window.desk.plan is before
    dialog.reject()


def test_without_a_selected_device_nothing_is_saved(window, qtbot, rig, told):
    window.desk.select("")
    window.actions_table.run("save-device")
    assert len(told) == 1 and "choose one in Rig" in told[0]


def test_what_changed_is_marked_until_it_is_looked_at(window, qtbot, rig):
    window.desk.mark_unseen(("weir/part.x/channel", "heron/0/zone.viol/channel"))
    assert window.desk.unseen == {"weir:x", "heron:viol"}
    window.show_view("keys")
    window.desk.select("heron:viol")
    assert window.desk.unseen == {"weir:x"}


def test_the_rail_counts_what_each_view_has_left(window, qtbot, rig):
    buttons = window.rail.buttons
    assert buttons["rig"].count == 1 and buttons["rig"].faulty
    assert buttons["prove"].count == len(
        [c for c in window.desk.causes if c.finding.severity != "hint"]
    )
    led_to = Counter()
    every = {c.finding.sentence: c.finding for c in window.desk.causes}
    for finding in (every | {f.sentence: f for f in window.desk.findings}).values():
        window.go_to_finding(finding)
        led_to[next(ident for ident in buttons if window.view(ident).isVisible())] += 1
    assert len(led_to) == 6
    for ident, led in led_to.items():
        assert buttons[ident].count == led, ident
    plan, memory = window.desk.planned, window.desk.memory
    left = sum(count(plan, memory, device).steps for device in plan.devices)
    assert buttons["cards"].count == left > 0


def test_every_page_on_which_a_rule_is_seen_is_there(window):
    for rule in RULES:
        if rule.page:
            assert rule.page in window.view(rule.view).page_names


def test_a_device_file_that_cannot_be_written_says_so(window, qtbot, rig, told, monkeypatch):
    from pathlib import Path

    window.desk.select("dipper")
    monkeypatch.setattr(dialogs, "ask_save_device", lambda *_: Path("/proc/no/where.vzdevice"))
    window.actions_table.run("save-device")
    assert len(told) == 1 and "folder" in told[0]
    with pytest.raises(Exception, match="folder"):
        write_device(lookup.device(window.desk.plan, "dipper"), Path("/proc/no/where.vzdevice"))
