"""Journeys through Console: played, pinned, ticked, faults found, wires tried, ways compared."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QPushButton

from vastzone import demo
from vastzone.app.frame.sheets import sheet_for
from vastzone.app.views.console.hiding import HideFaults
from vastzone.core.console.finder import settled
from vastzone.core.console.trials import ContactStrike
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.consoles import set_console
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Fault
from vastzone.core.proof.marking import prove

from .hands import awake, retype, show, work_out

LEFT, SHIFT = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier
CTRL = Qt.KeyboardModifier.ControlModifier

OPEN = Fault(kind="open wire", block="great", at=1002)
BRIDGED = Fault(kind="short", at=4, to=5)


def console(window, qtbot, page=0):
    view = show(window, qtbot, "console")
    view.show_page(page)
    return view


def owner(window):
    return next(d for d in window.desk.plan.devices if d.id == "bittern")


def spot(view, index):
    shape = next(s for s in view.canvas.picture.shapes if s.contact == index)
    return QPoint(round(shape.rect.center().x()), round(shape.rect.bottom() - 5))


def test_keys_and_crossings_light_each_other_and_sound(window, qtbot):
    view = console(window, qtbot)
    made = view.bench.circuit
    first, other = made.contact(0, 4), made.contact(1, 2)
    qtbot.mousePress(view.canvas, LEFT, pos=spot(view, first))
    assert window.desk.stage.last.subject == "bittern:great" and view.bench.at == first
    assert view.bench.reported() == {(0, 4), (0, 5)}  # lines 5 and 6 are bridged
    assert len(window.desk.stage.lit_keys()) == 2
    dead = made.contact(0, 26)
    view.bench.press(dead)
    assert len(window.desk.stage.lit_keys()) == 2 and (0, 26) not in view.bench.reported()
    view.bench.release(dead)
    view.grab()
    qtbot.mouseRelease(view.canvas, LEFT, pos=spot(view, first))
    assert not view.bench.held
    cell = view.matrix.cell(view.matrix.commons.index(5), 2).center().toPoint()
    qtbot.mouseMove(view.matrix, cell)
    assert view.bench.at == other and "D3 of Swell" in view.line.toolTip()
    qtbot.mousePress(view.matrix, LEFT, pos=cell)
    assert view.bench.held == {other}
    qtbot.mouseClick(view.let_go, LEFT)
    qtbot.keyPress(view.canvas, Qt.Key.Key_Space)
    assert view.bench.held == {other}
    qtbot.keyRelease(view.canvas, Qt.Key.Key_Space)
    qtbot.keyClick(view.canvas, Qt.Key.Key_Right)
    qtbot.keyClick(view.canvas, Qt.Key.Key_Up)
    assert view.bench.at == made.contact(0, 3)


def test_a_chord_is_held_a_scan_shown_and_one_keyboard_enlarged(window, qtbot):
    view = console(window, qtbot)
    made = view.bench.circuit
    for number in (0, 13):
        qtbot.mouseClick(view.canvas, LEFT, SHIFT, spot(view, made.contact(3, number)))
    assert len(view.bench.held) == 2
    qtbot.mouseClick(view.scan, LEFT)
    assert view.matrix.moment == 0 and sum(bool(m.lines) for m in view.matrix.scanned) == 2
    view.grab()
    view.zoom.setCurrentIndex(4)
    assert {s.kind for s in view.canvas.picture.shapes} == {"key"}
    assert len(view.canvas.picture.shapes) == 25 and len(view.matrix.commons) == 3
    view.zoom.setCurrentIndex(0)
    stop = next(s for s in view.canvas.picture.shapes if s.kind == "stop")
    qtbot.mouseClick(view.canvas, LEFT, pos=stop.rect.center().toPoint())
    assert window.desk.stage.last.subject.startswith("bittern:open-diapason")
    control, rect = view.canvas.picture.shoes[0]
    at = rect.center().toPoint()
    qtbot.mousePress(view.canvas, LEFT, pos=at)
    qtbot.mouseMove(view.canvas, at - QPoint(0, 50))
    qtbot.mouseRelease(view.canvas, LEFT, pos=at - QPoint(0, 50))
    assert view.canvas.values[control] == 50
    assert {"Analogue input", "Steps it moves over"} <= {
        r.label for r in sheet_for(window.desk, f"bittern:{control}").rows
    }


def test_pins_are_worked_out_and_a_shortage_is_told(window, qtbot):
    view = console(window, qtbot, 1)
    assert not view.pins.take.isEnabled() and view.pins.asked.held.rowCount() == 4
    assert [view.pins.asked.words(3, n) for n in (2, 3)] == ["4", "0"]
    view.pins.blocks.selectRow(0)
    rows = {r.label: r for r in sheet_for(window.desk, window.desk.selection).rows}
    window.perform(rows["Soldered"].make(False))
    qtbot.mouseClick(view.pins.encoder, LEFT)
    rows = {r.label: r for r in sheet_for(window.desk, window.desk.selection).rows}
    window.perform(rows["Common pins"].make(18))
    assert "1 pin short" in view.pins.words.text() and "second encoder" in view.pins.words.text()
    assert any(f.rule == "too few pins" for f in window.desk.findings)
    assert view.pins.second.isVisible()
    qtbot.mouseClick(view.pins.second, LEFT)
    devices = {d.id: d for d in window.desk.plan.devices}
    assert [b.id for b in devices["bittern-2"].console.blocks] == ["pistons"]
    assert "pistons" not in {b.id for b in devices["bittern"].console.blocks}
    assert not view.pins.second.isVisible() and view.device.isVisible()


def test_wiring_read_by_the_other_school_is_told_where_its_wiring_is(window, qtbot):
    window.documents.open_path(demo.READY, untitled=True)
    view = console(window, qtbot, 1)
    place = [block.name for block in owner(window).console.blocks].index("Counter-manual")
    view.pins.blocks.selectRow(place)
    rows = {r.label: r for r in sheet_for(window.desk, window.desk.selection).rows}
    window.perform(rows["Lines count from"].make("note names"))
    encoder = changed(owner(window).console.encoder, school="lowest key")
    window.perform(set_console("bittern", "x", encoder=encoder))
    told = [f for f in window.desk.findings_of(window.desk.selection) if "wired" in f.rule]
    assert [finding.rule for finding in told] == ["read otherwise than wired"]
    window.perform(told[0].fixes[0])
    left = window.desk.findings_of(window.desk.selection)
    assert told[0].rule not in {finding.rule for finding in left}


def test_wires_are_ticked_saved_and_printed(window, qtbot, tmp_path):
    view = console(window, qtbot, 2)
    tick = view.wires.rows.held.index(3, 6)
    view.wires.rows.held.setData(tick, Qt.CheckState.Checked, Qt.ItemDataRole.CheckStateRole)
    assert view.wires.shown[3].id in owner(window).console.tested
    view.wires.save(tmp_path / "wires.csv")
    lines = (tmp_path / "wires.csv").read_text().splitlines()
    assert len(lines) == len(view.wires.shown) + 1 and "orange" in lines[4]
    view.wires.save(tmp_path / "wires.pdf")
    assert (tmp_path / "wires.pdf").read_bytes()[:4] == b"%PDF"
    view.wires.save(tmp_path / "no" / "wires.csv")
    assert "wire list cannot" in view.wires.words.text()
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert not owner(window).console.tested


def looked(view, qtbot):
    qtbot.waitUntil(lambda: not view.faults.hunt.busy, timeout=20_000)


def test_a_fault_is_hunted_from_its_symptom_to_the_wire(window, qtbot):
    view = console(window, qtbot, 3)
    page = view.faults
    qtbot.mouseClick(page.anew, LEFT)
    looked(view, qtbot)
    assert not page.hunt.causes and not owner(window).console.seen
    page.struck.setText("D5")
    page.heard.setText("nothing")
    qtbot.keyClick(page.heard, Qt.Key.Key_Return)
    hunted(view, qtbot, 8)
    assert page.hunt.causes[0].faults == (OPEN,)


def test_what_was_seen_leads_to_the_wires_and_out_of_the_plan(window, qtbot):
    work_out(window, qtbot)
    desk = window.desk
    assert prove(desk.plan).good and "seen otherwise" in {f.rule for f in desk.findings}
    view = console(window, qtbot)
    window.go_to_finding(next(f for f in desk.findings if f.rule == "seen otherwise"))
    assert view.isVisible() and view.faults.isVisible() and desk.selection == "bittern:great"
    hunted(view, qtbot, 4)
    assert set(view.faults.hunt.causes[0].faults) == {OPEN, BRIDGED}
    qtbot.mouseClick(press(view.faults, qtbot, "Note this fault"), LEFT)
    assert set(owner(window).console.faults) == {OPEN, BRIDGED} and not owner(window).console.hidden
    assert not prove(desk.plan).good and "seen otherwise" not in {f.rule for f in desk.findings}
    for _ in range(2):
        finding = next(f for f in desk.findings if f.rule == "console fault")
        window.perform(finding.fixes[0])
    assert prove(desk.plan).good and not owner(window).console.faults
    assert not [s for s in owner(window).console.seen if not s.heard]  # what is stale is gone
    assert "seen otherwise" not in {f.rule for f in desk.findings}


def test_a_fault_is_hidden_for_practice_and_shown(window, qtbot):
    view = console(window, qtbot, 3)
    page = view.faults
    qtbot.mouseClick(page.reveal, LEFT)
    assert len(owner(window).console.faults) == 2 and "is open" in page.words.text()
    one, _, three, chosen = page.practise.menu().actions()
    one.trigger()
    assert len(owner(window).console.hidden) == 1 and page.reveal.isVisible()
    qtbot.mouseClick(page.reveal, LEFT)
    three.trigger()
    assert len(set(owner(window).console.hidden)) == 3
    qtbot.mouseClick(page.reveal, LEFT)
    before = prove(window.desk.plan)
    chosen.trigger()
    dialog = page.findChildren(HideFaults)[-1]
    qtbot.keyClicks(dialog.line, "stuck swell")
    dialog.list.setCurrentIndex(dialog.list.model().index(0, 0))
    qtbot.mouseClick(dialog.take, LEFT)
    assert [f.kind for f in owner(window).console.hidden] == ["stuck contact"]
    assert not page.practise.isVisible() and prove(window.desk.plan).scenes == before.scenes


def hunted(view, qtbot, most):
    """Ask the simulated console until the finder is sure."""
    looked(view, qtbot)
    for _ in range(most):
        if settled(view.faults.hunt.causes, view.faults.hunt.proposal):
            break
        qtbot.mouseClick(press(view.faults, qtbot, "Ask the simulated console"), LEFT)
        looked(view, qtbot)
    assert settled(view.faults.hunt.causes, view.faults.hunt.proposal)


def press(page, qtbot, words):
    def seen():
        return [b for b in page.findChildren(QPushButton) if b.text() == words and b.isVisible()]

    qtbot.waitUntil(lambda: bool(seen()))
    return seen()[0]


def test_listening_typing_wrongly_and_pin_tests(window, qtbot):
    view = console(window, qtbot, 3)
    page = view.faults
    qtbot.mouseClick(page.anew, LEFT)
    for struck, heard in (("H9", ""), ("C4 of Nowhere", ""), ("C9", "")):
        page.struck.setText(struck)
        page.heard.setText(heard)
        page._note()
        assert page.words.text() and not owner(window).console.seen
    page.pins.setText("L5-L6")
    qtbot.keyClick(page.pins, Qt.Key.Key_Return)
    looked(view, qtbot)
    assert page.hunt.causes[0].faults == (Fault(kind="short", at=4, to=5),)
    qtbot.mouseClick(page.listen, LEFT)
    view.bench.press(view.bench.circuit.contact(0, 0))
    assert len(owner(window).console.seen) == 2
    looked(view, qtbot)
    page.struck.setText("D5")
    page._note()
    looked(view, qtbot)
    asked = page.hunt.proposal.trial
    if isinstance(asked, ContactStrike):
        window.desk.stage.heard.emit(Message("note_on", 10, 40, 90), 0.0)
        qtbot.waitUntil(lambda: len(owner(window).console.seen) == 4, timeout=3000)


def test_continuity_is_ticked_by_strike_and_crossed_wires_are_told(window, qtbot):
    view = console(window, qtbot, 4)
    page = view.continuity
    qtbot.mouseClick(page.good, LEFT)
    assert page.wires[0].id in owner(window).console.tested
    qtbot.mouseClick(page.open, LEFT)
    assert page.wires[1].id in page.failed
    page.at = next(n for n, w in enumerate(page.wires) if w.key == 0)
    page.go(0)
    view.bench.press(view.bench.circuit.contact(0, 3))
    assert "asked for" in page.words.text()
    view.bench.release_all()
    view.bench.press(view.bench.circuit.contact(0, 0))
    view.bench.release_all()
    asked = page.wires[page.at]
    assert asked.key == 1 and page.wires[page.at - 1].id in owner(window).console.tested
    page.go(3)
    qtbot.mouseClick(page.simulate, LEFT)
    assert "bridged" in page.words.text()
    qtbot.mouseClick(page.resume, LEFT)
    assert page.asked is not None and page.asked.id not in owner(window).console.tested


def test_ways_follow_the_prices_that_are_typed(window, qtbot):
    view = console(window, qtbot, 5)
    page = view.ways
    qtbot.mouseClick(page.add, LEFT)
    row = page.rows.held.rowCount() - 1
    retype(page.rows, row, 1, "50")
    retype(page.rows, row, 5, "lamp 20, bench 5")
    assert page.rows.words(row, 7) == "75.00"
    retype(page.rows, row, 1, "much")
    assert "no number" in page.words.text() and page.rows.words(row, 1) == "50"
    page.rates["hour"].setValue(10)
    assert page.rows.words(1, 7) != "2,632.71"
    for typed in ("2.5", "2,5"):
        page.rates["hour"].setValue(10)
        page.rates["hour"].selectAll()
        qtbot.keyClicks(page.rates["hour"], typed)
        qtbot.keyClick(page.rates["hour"], Qt.Key.Key_Return)
        assert page.rates["hour"].value() == 2.5
    page.rows.selectRow(row)
    qtbot.mouseClick(page.remove, LEFT)
    assert page.rows.held.rowCount() == row


def test_a_console_is_begun_behind_a_new_encoder(window, qtbot):
    window.documents.new()
    view = console(window, qtbot)
    assert view.empty.isVisible()
    from vastzone.core.plan.edits.devices import add_device
    from vastzone.core.plan.model.controls import Keybed, Program, Zone
    from vastzone.core.plan.model.plan import Device, Port

    zone = Zone(id="one", name="One", keybed="keys", low=36, high=84)
    window.perform(
        add_device(
            Device(
                id="box",
                name="Box",
                kind="encoder",
                ports=(Port(id="out", name="Out", flow="out"),),
                keybeds=(Keybed(id="keys", name="Keys", low=36, keys=49),),
                programs=(Program(number=0, name="P", zones=(zone,)),),
            )
        )
    )
    qtbot.mouseClick(view.empty.button, LEFT)
    assert view.canvas.isVisible() and len(view.bench.circuit.contacts) == 49
    view.show_page(1)
    qtbot.mouseClick(view.pins.take, LEFT)
    assert window.desk.plan.devices[0].console.blocks[0].commons == (1, 2, 3, 4, 5)


@pytest.mark.parametrize("size", [(1024, 700), (1600, 1000)])
def test_every_page_can_be_drawn(window, qtbot, size):
    window.resize(*size)
    view = console(window, qtbot)
    for page in range(6):
        view.show_page(page)
        assert not view.grab().isNull()
