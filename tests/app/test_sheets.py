"""Facts: what they show of cables, wishes, controls, inputs and limits, and what editing them does."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QComboBox, QLabel, QLineEdit, QPushButton

from vastzone.app.frame.sheets import sheet_for
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits import plugs
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.controls import Repeat
from vastzone.core.plan.queries import lookup

LEFT = Qt.MouseButton.LeftButton


def rows(window, ref):
    window.desk.select(ref)
    return {row.label: row for row in sheet_for(window.desk, ref).rows}


def field(window, kind, name):
    return next(w for w in window.facts.findChildren(kind) if w.accessibleName() == name)


def press(window, label):
    return next(b for b in window.facts.findChildren(QPushButton) if b.text() == label)


def test_a_cable_tells_its_channels_and_who_sends_them(window):
    held = rows(window, "cable weir:out dovecote:din-in")
    assert held["From"].value == "Weir, Out" and held["A note takes"].value == "0.96 ms"
    assert held["Channel 1"].value == "Heron 73 and Dipper 12"
    assert held["Channel 12"].value == "Wren 32"


def test_a_cable_is_pulled_out_from_its_facts(window, qtbot):
    window.desk.select("cable dipper:din-out weir:in-3")
    qtbot.mouseClick(press(window, "Remove"), LEFT)
    assert not [c for c in window.desk.plan.cables if c.source == "dipper:din-out"]
    assert "pulled out" in sheet_for(window.desk, "cable dipper:din-out weir:in-3").remark


def test_a_wish_is_changed_and_taken_back(window, qtbot):
    window.desk.select("wish dusk-viol")
    high = field(window, QLineEdit, "Highest key")
    high.setFocus()
    high.selectAll()
    qtbot.keyClicks(high, "G2")
    qtbot.keyClick(high, Qt.Key.Key_Return)
    wish = lookup.by_id(window.desk.plan.wishes, "dusk-viol", "wish")
    assert wish.high == 43
    scenes = field(window, QComboBox, "In")
    scenes.setCurrentIndex(scenes.findText("all scenes"))
    assert lookup.by_id(window.desk.plan.wishes, "dusk-viol", "wish").scenes == ()
    field(window, QCheckBox, "Own channel").click()
    assert lookup.by_id(window.desk.plan.wishes, "dusk-viol", "wish").alone
    qtbot.mouseClick(press(window, "Take back"), LEFT)
    assert "dusk-viol" not in {i.id for i in window.desk.plan.wishes}


def test_the_sounds_of_a_wish_are_chosen_pad_by_pad(window):
    before = lookup.by_id(window.desk.plan.wishes, "beat", "wish")
    held = rows(window, "wish beat")
    edit = held["Pad 2"].make("crash")
    window.perform(edit)
    beat = lookup.by_id(window.desk.plan.wishes, "beat", "wish")
    assert before.sounds[1] != "crash"
    assert beat.sounds == (before.sounds[0], "crash", *before.sounds[2:])


def test_what_spoils_a_wish_stands_below_it(window):
    spoils = {f.rule for f in window.desk.findings_of("wish wreck-bell-bells")}
    assert "unheard zone" in spoils and "dead keys" not in spoils


@pytest.mark.parametrize(
    ("ref", "label", "value", "check"),
    [
        ("dipper:pad-1", "Note", 50, ("pad-1", 1, "number", 50)),
        ("dipper:pad-1", "Channel", 7, ("pad-1", 1, "channel", 7)),
        ("dipper:pad-1", "Mode", "toggle", ("pad-1", 1, "mode", "toggle")),
        ("dipper:pad-1", "Sends", "controller", ("pad-1", 1, "message", "controller")),
        ("dipper:pad-1", "Sends", "program", ("pad-1", 2, "message", "program")),
        ("dipper:pad-1", "Velocity", 90, ("pad-1", 1, "fixed", 90)),
        ("dipper:pad-1", "Curve", "hard", ("pad-1", 1, "curve", "hard")),
        ("dipper:pad-1", "Mutes group", "group-2", ("pad-1", 1, "mutes", "group-2")),
        ("dipper:pad-1", "Note repeat", "1/16", ("pad-1", 1, "repeat", Repeat(division="1/16"))),
        ("dipper:knob-1", "Controller", 74, ("knob-1", 1, "number", 74)),
    ],
)
def test_what_a_control_sends_is_edited_bank_by_bank(window, ref, label, value, check):
    control, bank, name, wanted = check
    window.desk.show_bank(bank)
    window.perform(rows(window, ref)[label].make(value))
    held = lookup.device(window.desk.plan, "dipper").programs[0].sends
    send = next(s for s in held if (s.control, s.bank) == (control, bank))
    assert getattr(send, name) == wanted


def test_a_pad_and_its_input_are_edited(window):
    held = rows(window, "pad ride")
    assert held["Plugged into"].value == "curlew:in-6"
    window.perform(held["Sensor"].make("single"))
    assert lookup.by_id(window.desk.plan.pads, "ride", "pad").sensor == "single"
    window.perform(rows(window, "curlew:in-6")["Type"].make("piezo-switch"))
    assert lookup.device(window.desk.plan, "curlew").inputs[5].type == "piezo-switch"
    with pytest.raises(PlanError):
        plugs.set_input("curlew:in-1", "three-way")(window.desk.plan)
    assert rows(window, "curlew:in-1")["Type"].make is None  # it is of one type only


def test_limits_say_what_a_device_can_do_and_are_marked_as_verified(window):
    held = rows(window, "heron")
    assert held["Zones, most"].value == 4 and held["Limits verified"].value is False
    window.perform(held["Zones, most"].make(6))
    window.perform(rows(window, "heron")["Limits verified"].make(True))
    limits = lookup.device(window.desk.plan, "heron").limits
    assert limits[0].most == 6 and all(limit.verified for limit in limits)


def test_scenes_are_added_and_named(window, qtbot):
    window.actions_table.run("new-scene")
    assert window.desk.scene.name == "Scene 7"
    window.perform(rows(window, "")["This scene"].make("Curtain"))
    assert window.desk.scene.name == "Curtain" and len(window.desk.plan.scenes) == 7


def test_nothing_in_the_facts_is_wider_than_they_are(window, qtbot):
    long = "A name that is far too long for any field to show it at once, whatever"
    window.perform(
        Edit(
            "Name",
            lambda p: p.__class__(
                **{f: getattr(p, f) for f in p.__struct_fields__ if f != "name"}, name=long
            ),
        )
    )
    for ref in (
        "",
        "heron",
        "heron:keys",
        "wish beat",
        "dipper:pad-1",
        "pad ride",
        "weir",
        "cable weir:out dovecote:din-in",
    ):
        window.desk.select(ref)
        qtbot.wait(5)
        wide = window.facts.width()
        for label in window.facts.findChildren(QLabel) + window.facts.findChildren(QPushButton):
            if label.isVisible():
                right = label.mapTo(window.facts, label.rect().topRight()).x()
                assert right <= wide, (ref, label.text())
