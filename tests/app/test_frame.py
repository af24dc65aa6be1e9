"""The frame: facts of every kind of thing, menus, size, names for those who do not see it."""

import random

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QCheckBox,
    QComboBox,
    QLineEdit,
    QScrollArea,
)

from tests.app.hands import bar, key_point
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import set_plan
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.queries import lookup

LEFT = Qt.MouseButton.LeftButton


def field(window, name):
    kinds = (QComboBox, QLineEdit, QCheckBox)  # a combo before the line inside it
    return next(
        f
        for kind in kinds
        for f in window.facts.findChildren(kind)
        if f.accessibleName() == name and f.isVisible()
    )


def settle():
    for _ in range(4):
        QApplication.processEvents()


def test_a_part_is_edited_exactly(window, qtbot):
    window.desk.select("dovecote:viol")
    settle()
    channel = field(window, "Channel")
    channel.setCurrentIndex(channel.findText("all"))
    assert lookup.part(lookup.device(window.desk.plan, "dovecote"), "viol").channel is None
    qtbot.mouseClick(window.facts.more, Qt.MouseButton.LeftButton)
    settle()
    mono = field(window, "Mono")
    mono.setChecked(True)
    lowest = field(window, "Lowest note")
    lowest.setFocus()
    qtbot.keyClick(lowest, Qt.Key.Key_Down)
    part = lookup.part(lookup.device(window.desk.plan, "dovecote"), "viol")
    assert part.mono and part.low == 39
    for _ in range(3):
        window.desk.undo()
    assert not window.desk.changed


def test_a_device_is_edited_and_a_scene_gets_its_own_program(window, qtbot):
    window.desk.select("wren:keys")
    settle()
    naming = field(window, "Middle C is")
    naming.setCurrentIndex(naming.findText("C4"))
    assert lookup.device(window.desk.plan, "wren").octaves == 4
    own = next(
        b for b in window.facts.findChildren(QAbstractButton) if b.text().startswith("Own program")
    )
    qtbot.mouseClick(own, LEFT)
    assert len(lookup.device(window.desk.plan, "wren").programs) == 2


def test_a_value_that_cannot_be_taken_is_told_and_changes_nothing(window, qtbot):
    window.desk.select("heron:viol")
    settle()
    before = window.desk.plan
    channel = field(window, "Channel")
    channel.setFocus()
    channel.selectAll()
    qtbot.keyClicks(channel, "17")
    qtbot.keyClick(channel, Qt.Key.Key_Return)
    assert window.desk.plan is before and channel.property("bad")


def test_menus_offer_what_can_be_done_at_a_key(window):
    window.desk.go_to_scene("the-keepers-stair")
    canvas = window.keys.canvas
    hit = canvas.hit(key_point(window, "heron:keys", 60).toPointF())
    offers = dict(window.keys.commands.offers(hit))
    assert {"Split Strings at C4 (60)", "Layer Strings", "Remove Sea organ", "New zone"} <= set(
        offers
    )
    window.perform(offers["Split Strings at C4 (60)"])
    assert bar(window, "strings").zone.high == 59


def test_pointing_tells_every_devices_own_name(window):
    hit = window.keys.canvas.hit(key_point(window, "heron:keys", 60).toPointF())
    window.keys.pointer.show_hit(hit)
    text = window.keys.pointer.text()
    assert "C4 (60)" in text and "C3 (60)" in text and "<b>91 3C 54</b>" in text


@pytest.mark.parametrize("theme", ["day", "stage"])
def test_nothing_is_clipped_at_the_smallest_size_with_long_names(window, theme):
    if theme == "stage":
        window.switch_theme()
    window.resize(1024, 700)
    long = "a name so long that nobody would ever fit it anywhere at all on a screen"
    window.perform(set_zone("heron", 0, "viol", "Rename", name=f"Viol, {long}"))
    window.perform(set_device("heron", "Rename", name=f"Heron {long}"))
    window.perform(set_plan("Rename plan", name=f"Plan {long}"))
    window.desk.select("heron:viol")
    settle()
    scroll = window.facts.findChild(QScrollArea)
    assert scroll.widget().width() <= scroll.viewport().width()
    right = window.facts.mapTo(window, QPoint(window.facts.width(), 0)).x()
    assert right <= 1024 and window.width() == 1024
    shown = [w for w in window.findChildren(QAbstractButton) if w.isVisible()]
    for button in shown:
        assert button.mapTo(window, QPoint(button.width(), 0)).x() <= 1024, button.accessibleName()


def test_everything_that_can_be_pressed_has_a_name(window):
    window.desk.select("heron:viol")
    settle()
    for button in window.findChildren(QAbstractButton):
        if button.isVisible() and button.focusPolicy() is not Qt.FocusPolicy.NoFocus:
            assert button.accessibleName() or button.text(), button


def test_wild_clicking_and_typing_breaks_nothing(window, qtbot, told):
    chance, canvas = random.Random(7), window.keys.canvas
    keys = [Qt.Key.Key_Z, Qt.Key.Key_Q, Qt.Key.Key_PageUp, Qt.Key.Key_Escape, Qt.Key.Key_Delete]
    for _ in range(60):
        point = QPoint(chance.randrange(canvas.width()), chance.randrange(canvas.height()))
        end = QPoint(chance.randrange(canvas.width()), chance.randrange(canvas.height()))
        qtbot.mousePress(canvas, LEFT, pos=point)
        qtbot.mouseMove(canvas, end)
        qtbot.mouseRelease(canvas, LEFT, pos=end)
        qtbot.keyClick(canvas, chance.choice(keys))
        window.desk.step_scene(chance.choice([-1, 0, 1]))
    window.desk.stage.panic()
    assert not window.desk.stage.lit_notes()
    while window.desk.undo_label:
        window.desk.undo()
    assert not window.desk.changed
