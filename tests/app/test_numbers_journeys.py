"""Numbers that the person has a say in: wished from the facts, chosen in the preview, locked."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QInputDialog, QLineEdit, QMenu

from tests.app.hands import LEFT, awake
from vastzone.app.frame.work_out import WorkOut
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove
from vastzone.core.response.wished import wished_ends
from vastzone.core.solve.holds import locked
from vastzone.core.solve.numbers import Solution

CHORD = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier


def field(window, kind, name):
    """A field of the facts: the last made of that name, what was before is on its way out."""
    return [one for one in window.facts.findChildren(kind) if one.accessibleName() == name][-1]


def choose(window, row, words):
    combo = field(window, QComboBox, row)
    combo.setCurrentIndex(combo.findText(words))


def preview(window, qtbot):
    qtbot.mouseClick(window.header.numbers, LEFT)
    dialog = window.findChildren(WorkOut)[-1]
    qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    return dialog


@pytest.fixture
def knob(window):
    window.show_view("pedals")
    window.desk.select("dipper:knob-4")
    return window


def test_a_knob_is_wished_onto_what_a_part_answers_by_standard(knob, qtbot):
    choose(knob, "Wish to move", "Pitch bend of Bass viol, Dovecote")
    (wish,) = [w for w in knob.desk.plan.wishes if "dipper:knob-4" in w.sources]
    knob.desk.select(f"wish {wish.id}")
    ends = {"At rest, st": "-1", "At full travel, st": "1"}
    for row, words in ends.items():
        typed = field(knob, QLineEdit, row)
        typed.selectAll()
        qtbot.keyClicks(typed, words)
        qtbot.keyClick(typed, Qt.Key.Key_Return)
    wish = lookup.by_id(knob.desk.plan.wishes, wish.id, "wish")
    assert (wish.from_value, wish.to_value) == (-1.0, 1.0)
    dialog = preview(knob, qtbot)
    qtbot.mouseClick(dialog.apply_button, LEFT)
    plan = knob.desk.plan
    target = lookup.by_id(lookup.device(plan, "dovecote").targets, "viol-bend", "target")
    assert wished_ends(wish, target) == (-1.0, 1.0)
    assert prove(plan, knob.desk.memory).good


def test_a_button_is_wished_to_select_a_scene_and_its_programs_are_proved(window, qtbot):
    window.show_view("pedals")
    window.desk.select("dipper:button-2")
    name = window.desk.plan.scenes[1].name
    choose(window, "Wish to select", f"Scene {name}")
    wishes = [w for w in window.desk.plan.wishes if "dipper:button-2" in w.sources]
    assert wishes and all(w.moves for w in wishes)
    window.desk.undo()
    assert not [w for w in window.desk.plan.wishes if "dipper:button-2" in w.sources]


def test_chosen_numbers_are_put_into_a_run_from_the_preview(window, qtbot, monkeypatch):
    monkeypatch.setattr(QInputDialog, "getInt", lambda *_: (102, True))
    dialog = preview(window, qtbot)
    rows = [
        row
        for row, number in enumerate(dialog.solution.numbers)
        if number.ref.endswith("/number") and "knob" in number.ref
    ]
    assert rows
    dialog.table.selectRow(rows[0])
    qtbot.mouseClick(dialog.other_button, LEFT)
    menu = dialog.findChildren(QMenu)[-1]
    run = next(action for action in menu.actions() if "in a run" in action.text())
    ref = dialog.solution.numbers[rows[0]].ref
    run.trigger()
    menu.close()
    qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    assert isinstance(dialog.solution, Solution)
    assert dials(dialog.solution.plan)[ref].value in range(102, 112)
    qtbot.mouseClick(dialog.apply_button, LEFT)
    assert prove(window.desk.plan, window.desk.memory).good


def test_all_numbers_of_what_is_selected_are_locked_and_freed_by_a_chord(window, qtbot):
    window.desk.held.initials = "AB"
    window.show_view("pads")
    window.desk.select("dipper:pad-1")
    before = locked(window.desk.plan)
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_L, CHORD)
    held = locked(window.desk.plan) - before
    assert held and all("pad-1" in ref for ref in held)
    qtbot.keyClick(window, Qt.Key.Key_L, CHORD)
    assert not [ref for ref in locked(window.desk.plan) if "pad-1" in ref]
