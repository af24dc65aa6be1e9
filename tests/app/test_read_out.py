"""What those hear who are read to: things pressed by their names, and what changes said."""

import pytest
from PySide6.QtGui import QAccessible

from vastzone.core.plan.edits.cables import remove_cable

from .hands import show

NAME, VALUE = QAccessible.Text.Name, QAccessible.Text.Value


@pytest.fixture
def heard(window):
    """Every sentence that is announced."""
    QAccessible.setActive(True)
    said = []
    window.announcer.said.connect(said.append)
    yield said
    QAccessible.setActive(False)


def child_of(picture, name):
    """The thing in a picture whose name begins so."""
    told = QAccessible.queryAccessibleInterface(picture)
    for number in range(told.childCount()):
        if told.child(number).text(NAME).startswith(name):
            return told.child(number)
    raise AssertionError(f"nothing is called {name}")


def press(thing):
    action = thing.actionInterface()
    action.doAction(action.actionNames()[0])


def test_choices_strikes_edits_and_findings_are_said(window, qtbot, heard):
    desk = window.desk
    desk.select("heron:celesta")
    assert any("Celesta" in one for one in heard)
    desk.stage.press("heron:keys", 88, 90, 0.0)
    assert any("E7" in one or "E6" in one or "88" in one for one in heard)
    before = len(heard)
    twice = next(f for f in desk.findings if f.rule == "connected twice")
    window.perform(twice.fixes[0])
    qtbot.waitUntil(lambda: any(one.startswith("Gone") or "Gone:" in one for one in heard[before:]))
    assert twice.fixes[0].label in heard
    desk.go_to_scene("squall")
    assert heard[-1].endswith("Squall")


def test_nothing_is_said_while_nobody_listens(window):
    said = []
    window.announcer.said.connect(said.append)
    window.desk.select("heron:celesta")
    window.perform(remove_cable(window.desk.plan.cables[0]))
    assert not said


def test_a_key_is_struck_by_its_name(window, heard):
    key = child_of(window.keys.canvas, "E5 (76)")
    assert "plays" in key.text(VALUE)
    press(key)
    assert window.desk.stage.last.key == 76
    assert child_of(window.keys.canvas, "E5 (76)").state().checked


def test_a_pad_is_struck_and_a_bank_chosen_by_their_names(window, qtbot, heard):
    pads = show(window, qtbot, "pads")
    pads.canvas.grab()
    press(child_of(pads.canvas, "Pad 3"))
    assert window.desk.stage.last.subject.endswith("pad-3")
    press(child_of(pads.canvas, "Bank 2"))
    assert pads.canvas.bank == 2


def test_a_line_of_a_card_is_ticked_by_its_name(window, qtbot, heard):
    cards = show(window, qtbot, "cards")
    cards.page.viewport().grab()
    line = child_of(cards.page, "Switch Heron 73 on")
    assert not line.state().checked
    press(line)
    cards.page.viewport().grab()
    assert child_of(cards.page, "Switch Heron 73 on").state().checked


def test_the_rail_is_a_list_of_tabs(window):
    told = QAccessible.queryAccessibleInterface(window.rail)
    assert told.role() is QAccessible.Role.PageTabList
    tabs = [QAccessible.queryAccessibleInterface(b) for b in window.rail.buttons.values()]
    assert all(tab.role() is QAccessible.Role.PageTab for tab in tabs)
    press(tabs[1])
    assert [tab.state().selected for tab in tabs].index(True) == 1


def test_what_is_gone_is_told_as_gone(window):
    """A reader may come back for a thing long after it was drawn last."""
    canvas = window.keys.canvas
    zone = child_of(canvas, "Zone")
    window.documents.new()
    told = QAccessible.queryAccessibleInterface(canvas)
    told.childCount()
    canvas.grab()
    told.childCount()
    assert not zone.isValid() and zone.text(NAME) == "" and zone.state().invalid
