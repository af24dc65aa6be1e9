"""Cards: ticking one, a section, a store; back again; what stays in sight; small windows."""

import pytest
from PySide6.QtCore import Qt

from vastzone.core.cards.card import PENDING
from vastzone.core.solve.clash import work_out

from .hands import show

LEFT, SHIFT = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def cards(window, qtbot):
    found = work_out(window.desk.plan, "2026-01-02")
    window.perform(found.edit())
    window.desk.mark_unseen(n.ref for n in found.numbers)
    return show(window, qtbot, "cards")


def row_of(page, kind, words=""):
    return next(n for n, r in enumerate(page.rows) if r.kind == kind and words in r.words)


def press(qtbot, page, row, keys=Qt.KeyboardModifier.NoModifier):
    bar = page.verticalScrollBar()
    bar.setValue(round(page.row_rect(row).top() + bar.value() - 60))
    qtbot.mouseClick(page.viewport(), LEFT, keys, page.row_rect(row).center().toPoint())


def states(window, device):
    return {s.ref: s.state for s in window.desk.plan.settings if s.ref.startswith(f"{device}/")}


def test_a_step_goes_from_planned_to_checked_and_back(window, qtbot, cards):
    page = cards.page
    row = row_of(page, "step")
    ref = page.rows[row].steps[0].refs[0]
    seen = []
    for keys in (Qt.KeyboardModifier.NoModifier,) * 3 + (SHIFT,):
        press(qtbot, page, row, keys)
        seen.append(states(window, "heron")[ref])
    assert seen == ["sent", "stored", "checked", "stored"]
    step = page.rows[row].steps[0]
    assert step.before != step.after, "what it was before is still told"
    window.actions_table.run("undo")
    assert states(window, "heron")[ref] == "checked"


def test_storing_a_slot_stores_all_its_steps(window, qtbot, cards):
    page = cards.page
    row = row_of(page, "closing", "Store to slot 4")
    press(qtbot, page, row)
    held = {r: s for r, s in states(window, "heron").items() if r.startswith("heron/3/")}
    assert held and set(held.values()) == {"stored"}
    assert "heron/0/dual-left.1/number" in {
        r for r, s in states(window, "heron").items() if s in PENDING
    }
    press(qtbot, page, row, SHIFT)
    assert {s for r, s in states(window, "heron").items() if r.startswith("heron/3/")} == {
        "planned"
    }


def test_a_section_is_ticked_whole_and_preparation_is_remembered(window, qtbot, cards):
    page = cards.page
    press(qtbot, page, row_of(page, "section", "Program 3"))
    held = {s for r, s in states(window, "heron").items() if r.startswith("heron/2/")}
    assert held == {"sent"}
    press(qtbot, page, row_of(page, "prepare", "Nobody stands"))
    assert page.prepared == {page.rows[row_of(page, "prepare", "Nobody stands")].words}
    press(qtbot, page, row_of(page, "prepare", "Nobody stands"))
    assert not page.prepared


def test_the_keyboard_walks_and_ticks(window, qtbot, cards):
    page = cards.page
    page.setFocus()
    page.at = row_of(page, "step")
    qtbot.keyClick(page, Qt.Key.Key_Space)
    ref = page.rows[page.at].steps[0].refs[0]
    assert states(window, "heron")[ref] == "sent"
    qtbot.keyClick(page, Qt.Key.Key_Backspace)
    assert states(window, "heron")[ref] == "planned"
    here = page.at
    qtbot.keyClick(page, Qt.Key.Key_Down)
    assert page.at > here and page.rows[page.at].kind == "closing"
    assert "Store" in page.accessibleDescription()


def test_devices_are_chosen_from_the_list_and_looked_at(window, qtbot, cards):
    assert any(r.startswith("dipper:") for r in window.desk.unseen)
    names = [row.ref for row in cards.list.held.rows]
    cards.list.go_to(names.index("dipper"))
    assert cards.page.rows[0].words.startswith("Dipper 12")
    assert not any(r.startswith("dipper:") for r in window.desk.unseen)


def test_every_setting_is_shown_on_request(window, qtbot, cards):
    left = sum(r.kind == "step" for r in cards.page.rows)
    cards.scope.setCurrentIndex(1)
    assert sum(r.kind == "step" for r in cards.page.rows) > 10 * left


def test_in_a_small_window_steps_take_two_lines(window, qtbot, cards):
    row = row_of(cards.page, "step")
    tall = cards.page.row_rect(row).height()
    window.resize(1024, 700)
    qtbot.waitUntil(lambda: cards.page.row_rect(row).height() > tall, timeout=3000)


def test_export_into_a_folder_that_cannot_be_written_says_so(window, qtbot, cards, monkeypatch):
    from pathlib import Path

    from vastzone.app import dialogs

    told = []
    monkeypatch.setattr(dialogs, "ask_folder", lambda *_: Path("/proc/nowhere"))
    monkeypatch.setattr(dialogs, "say", lambda _, sentence: told.append(sentence))
    qtbot.mouseClick(cards.export, LEFT)
    qtbot.waitUntil(lambda: bool(told), timeout=10_000)
    assert len(told) == 1 and "another folder" in told[0]


def test_the_guide_leads_from_nothing_to_the_cards(window, qtbot):
    from vastzone.core.cards.card import tick
    from vastzone.core.plan.edits import cables, wishes
    from vastzone.core.plan.edits.devices import add_device
    from vastzone.core.plan.edits.wishes import WishPlace
    from vastzone.core.plan.fields.dials import dials
    from vastzone.files.devices import shipped

    def following():
        words = [b.accessibleName() for b in window.guide.buttons]
        return next((w.partition(":")[0] for w in words if w.endswith(": next")), "")

    desk, library = window.desk, shipped()
    window.documents.new()
    seen = [following()]
    for edit in (
        lambda: add_device(library["keyboard-61"]),
        lambda: add_device(library["module-16"]),
        lambda: cables.connect(desk.plan, "keyboard-61:out", "module-16:in"),
        lambda: wishes.make(
            desk.plan, WishPlace("keyboard-61:keys", 1, 36, 96), "module-16:part-2", ()
        ),
        lambda: work_out(desk.plan, "2026-01-02").edit(),
        lambda: tick(tuple(dials(desk.plan)), "checked", "2026-01-02"),
    ):
        window.perform(edit())
        seen.append(following())
    assert seen == [
        "Add what you play",
        "Add what sounds",
        "Connect them",
        "Say what plays what",
        "Work out numbers",
        "Dial the cards",
        "",
    ]
    qtbot.mouseClick(window.guide.close_button, LEFT)
    assert not window.guide.isVisible()
