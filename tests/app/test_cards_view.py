"""Cards: ticked line by line, taken back, dialled large, practised, read back, compared."""

import pytest
from PySide6.QtCore import Qt

from vastzone import demo
from vastzone.app.views.cards.reading import ReadBack
from vastzone.core.cards.card import card
from vastzone.core.memory.model import Known
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.rig import memory_of
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import set_plan
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.solve.clash import work_out

from . import hands
from .hands import show

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def cards(window, qtbot):
    """The cards of the demo once it was worked out, after one more edit that can be undone."""
    window.desk.open(demo.READY)
    window.perform(set_plan("Rename plan", name="The tour"))
    window.desk.mark_unseen(("heron/4/zone.bells/channel", "dipper/0/pad-1.1/number"))
    return show(window, qtbot, "cards")


def row_of(page, words, after=0):
    return next(n for n, r in enumerate(page.rows) if words in r.words and n > after)


def press(qtbot, page, row):
    bar = page.verticalScrollBar()
    bar.setValue(round(page.row_rect(row).top() + bar.value() - 60))
    qtbot.mouseClick(page.viewport(), LEFT, pos=page.row_rect(row).center().toPoint())


def states(page):
    return [row.line.state for row in page.rows if row.line is not None]


def choose(cards, device):
    cards.list.go_to([row.ref for row in cards.list.held.rows].index(device))


def test_a_line_is_sent_then_stored_and_taken_back_newest_first(window, qtbot, cards):
    choose(cards, "wren")
    page, before = cards.page, window.desk.memory
    press(qtbot, page, row_of(page, "Zone Swell manual"))
    assert states(page) == ["stored", "sent", "planned"]
    line = page.rows[row_of(page, "Zone Swell manual")].line
    assert line.before and line.before != line.after, "what it was before is still told"
    press(qtbot, page, row_of(page, "Store to slot 1"))
    assert set(states(page)) == {"stored"}
    window.actions_table.run("undo")
    assert memory_of(window.desk.memory, lookup.device(window.desk.planned, "wren")).past, "held"
    window.actions_table.run("redo")
    qtbot.mouseClick(cards.back, LEFT)
    assert states(page) == ["stored", "sent", "planned"]
    page.setFocus()
    qtbot.keyClick(page, Qt.Key.Key_Backspace)
    assert window.desk.memory == before
    assert not cards.back.isEnabled()


def test_a_wrong_order_says_what_it_would_do_and_can_be_done_all_the_same(window, qtbot, cards):
    choose(cards, "wren")
    page = cards.page
    store = row_of(page, "Store to slot 1")
    press(qtbot, page, store)
    assert "Nothing has been sent" in page.cautions[page.warned]
    assert "planned" in states(page)
    press(qtbot, page, store)
    assert not page.warned and "planned" in states(page), "the old values were stored"


def test_the_reason_of_a_number_is_one_press_away(window, qtbot, cards):
    choose(cards, "wren")
    page = cards.page
    row = row_of(page, "Zone Swell manual")
    high = page.row_rect(row).height()
    qtbot.mouseClick(page.viewport(), LEFT, pos=page.why_rect(row).center().toPoint())
    assert page.row_rect(row).height() > high and page.rows[row].line.why
    page.setFocus()
    qtbot.keyClick(page, Qt.Key.Key_Left)
    assert page.row_rect(row).height() == high and states(page)[1] == "planned"


def test_preparation_is_remembered_and_the_keyboard_walks(window, qtbot, cards):
    page = cards.page
    press(qtbot, page, row_of(page, "Nobody stands"))
    assert page.prepared == {page.rows[row_of(page, "Nobody stands")].words}
    page.setFocus()
    page.at = row_of(page, "Dual switch, left")
    here = page.at
    qtbot.keyClick(page, Qt.Key.Key_Down)
    assert page.at > here and "Store" in page.accessibleDescription()


def test_devices_are_chosen_from_the_list_and_looked_at(window, qtbot, cards):
    assert any(r.startswith("dipper:") for r in window.desk.unseen)
    choose(cards, "dipper")
    assert cards.page.rows[0].words.startswith("Dipper 12")
    assert not any(r.startswith("dipper:") for r in window.desk.unseen)


def test_every_setting_is_shown_on_request(window, qtbot, cards):
    left = sum(row.line is not None for row in cards.page.rows)
    cards.scope.setCurrentIndex(1)
    assert sum(row.line is not None for row in cards.page.rows) > 2 * left


def test_in_a_small_window_lines_take_two(window, qtbot, cards):
    row = row_of(cards.page, "Dual switch, left")
    window.resize(1700, 900)
    qtbot.waitUntil(lambda: cards.page.row_rect(row).height() < 50, timeout=3000)
    tall = cards.page.row_rect(row).height()
    window.resize(1024, 700)
    qtbot.waitUntil(lambda: cards.page.row_rect(row).height() > tall, timeout=3000)


def test_one_line_at_a_time_leads_through_a_card(window, qtbot, cards):
    choose(cards, "wren")
    cards.show_page(1)
    dial = cards.dial
    dial.setFocus()
    seen = []
    while dial.line() is not None and len(seen) < 9:
        seen.append(dial.line().kind)
        qtbot.keyClick(dial, Qt.Key.Key_Space)
    assert seen == ["dial", "store"]
    assert "All of it is dialled." in dial.big.foot
    assert not card(window.desk.planned, window.desk.memory, wren(window)).lines


def test_a_pedal_goes_on_once_each_time_it_is_pressed(window, qtbot, cards):
    choose(cards, "wren")
    cards.show_page(1)
    kinds = []
    for value in (127, 100, 0, 127, 0):
        kinds.append(cards.dial.line().kind if cards.dial.line() else "")
        window.desk.stage.heard.emit(Message("controller", 0, 64, value), 0.0)
    assert kinds == ["dial", "store", "store", "store", ""]
    cards.show_page(0)
    choose(cards, "dipper")
    window.desk.stage.heard.emit(Message("controller", 0, 64, 127), 0.0)
    assert cards.dial.line().kind == "dial", "nothing is done where the page is not seen"


def wren(window):
    return lookup.device(window.desk.planned, "wren")


@pytest.mark.parametrize(
    "fault", ["stores to the neighbour", "forgets a setting", "loses power", "counts from 0"]
)
def test_practice_hides_a_fault_that_reading_back_finds(window, qtbot, cards, fault):
    choose(cards, "heron")
    cards.show_page(1)
    dial, held = cards.dial, window.desk.memory
    dial.practise.setChecked(True)
    dial.fault.setCurrentIndex(dial.fault.findData(fault))
    for _ in range(60):
        qtbot.mouseClick(dial.next, LEFT)
    assert dial.practice.is_over is (fault == "counts from 0")
    qtbot.mouseClick(dial.read, LEFT)
    if fault == "counts from 0":
        assert "all of the plan" in dial.said.text() and dial.practice.panel.shows is not None
    else:
        assert "otherwise than you thought" in dial.said.text()
        assert dial.line() is not None
    dial.practise.setChecked(False)
    assert window.desk.memory is held, "nothing of it is kept"


def test_what_a_display_shows_is_typed_and_shows_as_dialled(window, qtbot, cards):
    choose(cards, "dipper")
    qtbot.mouseClick(cards.read, LEFT)
    dialog = cards.findChild(ReadBack)
    qtbot.keyClicks(dialog.search, "pad 3 bank 1 number")
    rows = [row.ref for row in dialog.table.held.rows]
    assert rows == ["dipper/0/pad-3.1/number"]
    dialog.table.held.typed.emit(0, 4, "F2")
    qtbot.mouseClick(dialog.apply, LEFT)
    page = cards.page
    line = page.rows[row_of(page, "Pad 3, bank 1")].line
    assert "F2" in line.before
    assert window.desk.planned == window.desk.plan, "the plan is as it was"
    window.actions_table.run("lens")
    dipper = lookup.device(window.desk.plan, "dipper")
    pad = next(s for s in dipper.programs[0].sends if s.control == "pad-3" and s.bank == 1)
    assert pad.number == 29 and not window.desk.proof.good
    window.actions_table.run("lens")


def test_a_list_of_the_device_is_pasted_and_mistakes_are_named_by_row(window, qtbot, cards):
    choose(cards, "dipper")
    dialog = ReadBack(cards, window.desk, "dipper")
    qtbot.addWidget(dialog)
    dialog.take("Whose,What,Value\nPad 1\\, bank 1,Number,C9".replace("\\,", ","))
    assert not dialog.typed
    dialog.take('Whose,What,Value\n"Pad 1, bank 1",Number,G3\nPad 99,Number,1')
    assert dialog.typed == {"dipper/0/pad-1.1/number": "G3"} and "Row 3" in dialog.said.text()
    dialog.typed["dipper/0/pad-1.1/number"] = "H9"
    dialog.read()
    assert "Pad 1" in dialog.said.text(), "what cannot be read is said, and nothing is lost"
    dialog.typed["dipper/0/pad-1.1/number"] = "G3"
    dialog.read()
    assert "Read Dipper" in window.desk.held.label


def test_an_edit_as_dialled_is_a_reading(window, qtbot, cards):
    from vastzone.core.plan.edits.zones import set_zone

    planned, desk = window.desk.planned, window.desk
    window.actions_table.run("lens")
    desk.perform(set_zone("wren", 0, wren(window).programs[0].zones[0].id, "Move", channel=9))
    assert desk.planned == planned
    held = memory_of(desk.memory, wren(window))
    assert held.slots[0].content.program.zones[0].channel == 9
    assert held.known[-1].how == "read back"
    window.actions_table.run("lens")
    lines = card(desk.planned, desk.memory, wren(window)).lines
    assert any("channel" in line.after and line.before == "9" for line in lines) or lines


def test_what_is_worked_out_or_mended_is_of_the_plan_whatever_the_lens(window, qtbot, cards):
    desk = window.desk
    desk.open(demo.AS_FOUND)
    desk.look("dialled")
    assert desk.causes and not any(cause.finding.fixes for cause in desk.causes)
    held = desk.memory
    hands.work_out(window, qtbot)
    assert desk.lens == "planned" and desk.memory is held
    assert not any(cause.weight for cause in desk.causes)


def test_a_display_that_counts_in_letters_is_named_so_everywhere(window, qtbot, cards):
    heron = lookup.device(window.desk.planned, "heron")
    storage = changed(heron.storage, letters=4)
    window.perform(set_device("heron", "Letters", storage=storage))
    words = [row.words for row in cards.page.rows]
    assert "Program B-1, Wreck Bell" in words and "Store to slot B-1." in words
    assert program_words(lookup.device(window.desk.planned, "heron"), 5) == "B-2"


def test_a_reset_is_kept_and_brought_back_by_a_card(window, qtbot, cards):
    choose(cards, "heron")
    menu = cards.menu()
    before = memory_of(window.desk.memory, lookup.device(window.desk.planned, "heron"))
    menu.fill()
    reset = next(a for a in menu.actions() if a.text().startswith("Reset"))
    reset.trigger()
    heron = lookup.device(window.desk.planned, "heron")
    after = memory_of(window.desk.memory, heron)
    assert after.slots[2].content.program.name == "Herring Market", "as it left the factory"
    menu.fill()
    past = next(a for a in menu._again.actions() if "before the reset" in a.text())
    past.trigger()
    assert "before the reset" in cards.page.rows[0].words and cards.end.isVisible()
    for row in list(cards.page.rows):
        if row.line is not None and row.line.waits:
            cards.tick(row.line)
    held = memory_of(window.desk.memory, heron)
    assert [one.content.program.zones for one in held.slots] == [
        one.content.program.zones for one in before.slots
    ]
    qtbot.mouseClick(cards.end, LEFT)
    assert "before the reset" not in cards.page.rows[0].words


def test_what_differs_is_listed_between_plan_devices_and_days(window, qtbot, cards):
    cards.show_page(2)
    page = cards.changes
    assert page.told() and page.table.held.rowCount() > len(page.told())
    days = [page.older.itemText(n) for n in range(page.older.count())]
    assert "what they held on 2026-11-18" in days
    page.older.setCurrentText("what they held on 2026-11-18")
    page.newer.setCurrentText("what the devices hold")
    told = [each.whole for each in page.told()]
    assert any("program 3" in sentence for sentence in told), "a slot was stored wrongly then"


def test_a_backup_is_dated_and_falls_behind(window, qtbot, cards, tmp_path):
    choose(cards, "wren")
    cards.menu().back_up(wren(window), tmp_path / "wren.vzmemory")
    cards.menu().fill()
    labels = [action.text() for action in cards.menu().actions()]
    assert any("all of it" in label for label in labels)
    for line in card(window.desk.planned, window.desk.memory, wren(window)).lines:
        cards.tick(line)
    cards.menu().fill()
    assert any("changed since" in action.text() for action in cards.menu().actions())


def test_export_into_a_folder_that_cannot_be_written_says_so(window, qtbot, cards, monkeypatch):
    from pathlib import Path

    from vastzone.app import dialogs

    told = []
    monkeypatch.setattr(dialogs, "ask_folder", lambda *_: Path("/proc/nowhere"))
    monkeypatch.setattr(dialogs, "tell", lambda _, sentence: told.append(sentence))
    qtbot.mouseClick(cards.export, LEFT)
    qtbot.waitUntil(lambda: bool(told), timeout=10_000)
    assert len(told) == 1 and "another folder" in told[0]


def test_the_guide_leads_from_nothing_to_the_cards(window, qtbot):
    from vastzone.core.plan.edits import cables, wishes
    from vastzone.core.plan.edits.devices import add_device
    from vastzone.core.plan.edits.wishes import WishPlace
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
        lambda: work_out(desk.plan).edit(),
    ):
        window.perform(edit())
        qtbot.waitUntil(lambda: not desk.pending)
        seen.append(following())
    for device in desk.planned.devices:
        for line in card(desk.planned, desk.memory, device).lines:
            desk.tick(device.id, line.operation, line.words)
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


def test_a_device_from_the_library_is_out_of_its_box_and_one_split_off_is_not_known(window):
    from vastzone.core.plan.edits.devices import add_device, remove_device
    from vastzone.files.devices import shipped

    desk = window.desk
    window.documents.new()
    desk.perform(add_device(shipped()["keyboard-61"]))
    device = desk.planned.devices[0]
    held = memory_of(desk.memory, device)
    assert held.known[0].how == "out of the box" and held.slots
    slot = Operation("store", slot=Slot(number=5))
    dialled = perform(held, device, slot, Known(on="2026-01-01", by="ab"))
    desk.operate(device.id, "Store", "dialled", lambda *_: dialled)
    desk.perform(remove_device(device.id))
    desk.undo()
    assert memory_of(desk.memory, desk.planned.devices[0]) is dialled
    desk.perform(remove_device(device.id))
    desk.perform(add_device(shipped()["keyboard-61"]))
    assert memory_of(desk.memory, desk.planned.devices[0]).slots == held.slots
