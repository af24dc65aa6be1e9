"""Prove: its pages, what each card tells, and how it goes to the place of a cause."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton

from vastzone.core.plan.edits.devices import remove_device
from vastzone.core.plan.edits.edit import Edit, set_plan
from vastzone.core.proof.marking import prove

from .hands import show, work_out

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def view(window, qtbot):
    return show(window, qtbot, "prove")


def weighed(qtbot, view):
    qtbot.waitUntil(
        lambda: (
            bool(view.causes.best) and view.causes.best.isVisible() and not view.causes.weighing
        ),
        timeout=10_000,
    )
    return view.causes.cards[view.causes.at]


def test_the_widest_cause_is_open_with_its_fixes_best_first(window, qtbot, view):
    card = weighed(qtbot, view)
    assert card.cause is window.desk.causes[0]
    fixes = [b for b in card.findChildren(QPushButton) if b.accessibleName().startswith("Fix: ")]
    mended = [int(b.accessibleName().rsplit("mends ", 1)[1].split()[0]) for b in fixes]
    assert mended == sorted(mended, reverse=True) and len(fixes) == 4


def test_a_fix_does_what_its_card_promised(window, qtbot, view):
    weighed(qtbot, view)
    promised = int(view.causes.best.accessibleName().rsplit("mends ", 1)[1].split()[0])
    before = sum(max(1, m.high - m.low + 1) for _, m in prove(window.desk.plan).faults())
    qtbot.mouseClick(view.causes.best, LEFT)
    after = sum(max(1, m.high - m.low + 1) for _, m in prove(window.desk.plan).faults())
    assert before - after == promised


def test_arrows_choose_and_the_button_goes_there(window, qtbot, view):
    weighed(qtbot, view)
    view.causes.setFocus()
    for _ in range(3):
        qtbot.keyClick(view.causes, Qt.Key.Key_Down)
    weighed(qtbot, view)
    port, found = view.causes.viewport(), []

    def seen():
        """The button as it stands now: cards are drawn anew as the proof goes on."""
        card = view.causes.cards[view.causes.at]
        held = [b for b in card.findChildren(QPushButton) if b.text() == "Go there"]
        found[:] = [(card, b) for b in held if b.isVisible() and b.height() > 10]
        return any(port.rect().contains(b.mapTo(port, b.rect().center())) for _, b in found)

    qtbot.waitUntil(seen)
    card, go = found[0]
    qtbot.mouseClick(go, LEFT)
    assert window.desk.selection == card.cause.finding.subjects[0]
    assert not view.isVisible()


def test_when_all_is_as_meant_it_says_so_and_hints_stay(window, qtbot, view):
    work_out(window, qtbot)
    show(window, qtbot, "prove")
    left = [c.cause.finding for c in view.causes.cards if c.cause.finding.severity == "fault"]
    no_number_mends = {
        "pedal half works",
        "seen otherwise",
        "sound at the desk twice",
        "hub overloaded",
    }
    assert {f.rule for f in left} == no_number_mends
    assert "as meant" in view._count.text() and "silent" not in view._count.text()


def test_a_plan_without_wishes_has_nothing_to_prove(window, qtbot, view):
    plan = window.desk.plan
    window.perform(Edit("No wishes", lambda p: set_plan("x", wishes=()).change(p)))
    assert window.desk.proof is None
    qtbot.waitUntil(lambda: not window.desk.pending)
    view.show_page(1)
    assert not view.walk.begin_button.isEnabled()
    window.desk.undo()
    qtbot.waitUntil(view.walk.begin_button.isEnabled)
    assert window.desk.plan is plan


def test_the_walk_can_be_taken_by_ear_and_backwards(window, qtbot, view):
    work_out(window, qtbot)
    show(window, qtbot, "prove")
    view.show_page(1)
    page = view.walk
    page.by_ear.setChecked(True)
    page.begin()
    qtbot.mouseClick(page.simulate, LEFT)
    assert page.heard.isVisible()
    qtbot.mouseClick(page.unheard, LEFT)
    assert page.walk.answers[0].result == "fail" and not page.heard.isVisible()
    qtbot.mouseClick(page.simulate, LEFT)
    qtbot.mouseClick(page.heard, LEFT)
    assert page.walk.answers[0].result == "pass" and page.walk.at == 1
    qtbot.mouseClick(page.back, LEFT)
    assert page.walk.at == 0
    page.setFocus()
    qtbot.keyClick(page, Qt.Key.Key_Return)
    assert page.walk.at == 1


def test_a_walk_through_all_scenes_changes_scenes_by_itself(window, qtbot, view):
    work_out(window, qtbot)
    show(window, qtbot, "prove")
    view.show_page(1)
    page = view.walk
    page.scope.setCurrentIndex(1)
    page.begin()
    scenes = [a.scene for a in page.walk.asks]
    assert list(dict.fromkeys(scenes)) == [s.id for s in window.desk.plan.scenes]
    page.walk.go(scenes.index("squall"))
    assert window.desk.scene.id == "squall"
    assert page.list.count == len(scenes)


def test_a_recorded_walk_is_undone_like_any_edit(window, qtbot, view):
    work_out(window, qtbot)
    show(window, qtbot, "prove")
    view.show_page(1)
    view.walk.begin()
    qtbot.mouseClick(view.walk.simulate, LEFT)
    qtbot.mouseClick(view.walk.finish, LEFT)
    assert window.desk.plan.log and window.desk.undo_label == "Record walk-through"
    window.desk.undo()
    assert not window.desk.plan.log


def test_a_walk_follows_what_is_taken_out_and_ends_with_its_plan(window, qtbot):
    view = show(window, qtbot, "prove")
    view.show_page(1)
    view.walk.scope.setCurrentIndex(1)
    view.walk.begin()
    walk = view.walk.walk
    many, second = len(walk.asks), walk.asks[1]
    walk.go(1)
    window.perform(remove_device("wren"))
    assert 0 < len(walk.asks) < many and walk.ask == second
    assert view.walk.list.count == len(walk.asks)
    for device in list(window.desk.plan.devices):
        window.perform(remove_device(device.id))
    assert walk.ask is None and not walk.asks
    window.desk.undo()
    window.desk.load(window.desk.plan, None)
    assert view.walk.walk is None
