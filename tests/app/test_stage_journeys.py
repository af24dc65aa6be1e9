"""From an empty plan to the stage: outputs, delay, power, packing, without, and everything printed."""

from itertools import pairwise

import pytest
from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from tests.app.test_describing_journeys import Describing
from vastzone import demo
from vastzone.app import dialogs
from vastzone.core.cards.desk_list import desk_lines
from vastzone.core.delay.paths import delay_paths
from vastzone.core.engine.compile import compile_scene
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.at_desk import at_desk
from vastzone.core.proof.marking import prove
from vastzone.core.setlist.changes import song_change
from vastzone.core.solve.losing import losses
from vastzone.files import native

from .hands import LEFT, show

ACTS = ("Juggler", "Rope", "Mime", "Dogs", "Fire", "Mime")


@pytest.fixture
def hands(window, qtbot, monkeypatch, tmp_path):
    window.documents.new()
    return Describing(window, qtbot, monkeypatch, tmp_path)


def dance_band(hands):
    """The rig of a dance band, told and wished; Plover goes by DIN to the rack too."""
    hands.tell(
        "Plover: 61 keys from C2, 9 faders, 6 buttons, sustain jack, 8 memory slots, USB, DIN out, "
        "adapter 9 V 500 mA centre minus"
    )
    hands.tell("Laptop: host that learns, 6 layers with volume each, master, USB, output pair")
    hands.join("plover:usb", "laptop:usb")
    page = hands.lay_open("plover")
    hands.press(page, "keys")
    hands.wish_for("layer 1")
    hands.lasso(page, "fader-1", "fader-6")
    hands.wish_for("volume")


def page(hands, view, name):
    """A page of a view by its button."""
    hands.click(view._pages.button(view.page_names.index(name)))


def fact(hands, label, words):
    """Type or choose something in the facts of what is selected, folded or not."""
    facts = hands.window.facts
    if not any(one.accessibleName() == label for one in facts.findChildren(QWidget)):
        hands.click(facts.more)
    for kind in (QLineEdit, QComboBox):
        found = [f for f in hands.window.facts.findChildren(kind) if f.accessibleName() == label]
        if not found:
            continue
        hands.actions += 2
        if kind is QLineEdit:
            found[-1].setText(words)
            found[-1].setModified(True)
            found[-1].editingFinished.emit()
        else:
            found[-1].setCurrentIndex(found[-1].findText(words))
            found[-1].activated.emit(found[-1].currentIndex())
        return
    raise AssertionError(label)


def slowest_pad(plan):
    """From the stroke to the rack's output, in milliseconds."""
    ways = delay_paths(compile_scene(plan, plan.scenes[0]))
    return max(way.worst_ms for way in ways if way.source.startswith("dunlin"))


def test_six_acts_are_taken_from_the_rig_to_the_stage(hands, window, qtbot, monkeypatch, tmp_path):
    dance_band(hands)
    hands.actions = 0
    desk = window.desk
    hands.tell(
        "Dunlin: 9 pads as 3 x 3 notes from C2 channel 10, 16 memory slots, DIN out, USB, sensing "
        "2 ms"
    )
    hands.tell(
        "Rack: sampler, 9 sounds from 36 channel 10 called Kick/Snare/Hat/Tom/Crash/Ride/Clap/Rim/"
        "Cowbell, 16 memory slots, DIN in, 4 outputs, buffer 512, mains"
    )
    hands.tell("Desk: desk, 8 desk channels, mains")
    assert [device.name for device in desk.planned.devices[2:]] == ["Dunlin", "Rack", "Desk"]
    hands.join("dunlin:out", "rack:in")
    hands.join("rack:audio out", "desk:audio in")
    hands.join("laptop:audio out", "desk:audio in")
    assert len(desk.planned.audio_cables) == 6
    plays = hands.lay_open("dunlin")
    hands.lasso(plays, "pad-1", "pad-9")
    hands.wish_for("rack")
    hands.work_out()
    assert prove(desk.planned, desk.memory).good

    acts = tmp_path / "acts.txt"
    acts.write_text("\n".join(ACTS))
    monkeypatch.setattr(dialogs, "ask_setlist", lambda _: acts)
    view = hands.show("scenes")
    hands.click(view.empty.button)
    read = next(a for a in view.evening.more.menu().actions() if "From a file" in a.text())
    hands.actions += 3
    read.trigger()
    page(hands, view, "Programs")
    table = view.programs.table
    for column in (1, 3):
        table.setCurrentIndex(table.held.index(0, column))
        table.selectAll()
        hands.actions += 2
        hands.click(view.programs.own)
    one = desk.planned.setlists[0]
    songs = [lookup.scene(desk.planned, ident) for ident in one.played]
    assert all(song_change(desk.planned, *pair).seconds < 10 for pair in pairwise(songs))

    outputs = hands.show("outputs")
    hands.click(outputs.sounds.usual)
    hands.click(outputs.sounds.give)
    qtbot.waitUntil(lambda: not outputs.sounds._aside.busy, timeout=20_000)
    lines = {line.name: line.channel.name for line in desk_lines(desk.planned) if line.cable}
    assert (lines["Kick"], lines["Snare"], lines["Hat"]) == ("Channel 1", "Channel 2", "Channel 3")
    assert {one.verdict for one in at_desk(desk.planned)} == {"once"}
    page(hands, outputs, "Desk")
    saved = tmp_path / "desk.csv"
    monkeypatch.setattr(dialogs, "ask_save_table", lambda *_: saved)
    hands.click(outputs.desk_page.save)
    assert "Kick" in saved.read_text()

    hands.show("rig")
    hands.lay_open("dunlin")
    fact(hands, "Played by", "Jo")
    outputs = hands.show("outputs")
    page(hands, outputs, "Delay")
    qtbot.waitUntil(lambda: len(outputs.delay.tries) > 3, timeout=20_000)
    at_512 = slowest_pad(desk.planned)
    rows = [outputs.delay.what_if.itemText(n) for n in range(outputs.delay.what_if.count())]
    smaller = next(n for n, words in enumerate(rows) if "128 frames" in words)
    hands.actions += 2
    outputs.delay.what_if.setCurrentIndex(smaller)
    outputs.delay._show()
    hands.click(outputs.delay.keep)
    assert lookup.device(desk.planned, "rack").buffer.frames == 128
    assert at_512 - slowest_pad(desk.planned) == pytest.approx(2 * (512 - 128) / 48)
    assert at_512 == pytest.approx(2 + 0.96 + 2 * 512 / 48 + 0.7, abs=0.01)

    page(hands, outputs, "Power")
    outputs.power.devices.selectAll()
    hands.actions += 3
    strip = next(a for a in outputs.power.add.menu().actions() if "strip" in a.text())
    strip.trigger()
    assert set(desk.planned.power[0].feeds) == {device.id for device in desk.planned.devices}
    page(hands, outputs, "Stage")
    hands.click(outputs.stage_page.arrange)
    assert all(device.place is not None for device in desk.planned.devices)
    page(hands, outputs, "Packing")
    hands.actions += 1
    outputs.packing._tick(1)
    assert len(desk.planned.packed) == 1

    page(hands, outputs, "Without")
    without = outputs.without
    count = len(desk.planned.devices)
    qtbot.waitUntil(lambda: len(without.told) == count, timeout=60_000)
    by_name = {one.loss.name: one for one in without.told}
    assert by_name["Plover"].bare_weight < 1 and by_name["Dunlin"].bare_weight < 1
    assert by_name["Dunlin"].weight >= by_name["Dunlin"].bare_weight

    cards = hands.show("cards")
    hands.click(cards.pages.button(3))
    folder = tmp_path / "printed"
    monkeypatch.setattr(dialogs, "ask_folder", lambda *_: folder)
    hands.click(cards.sheets.every)
    qtbot.waitUntil(lambda: (folder / "book.pdf").exists(), timeout=60_000)
    printed = {path.stem for path in folder.iterdir()}
    assert {"cards", "labels", "desk", "delay", "power", "packing", "setlist", "book"} <= printed
    assert hands.actions <= 100, hands.actions


def test_pages_of_outputs_are_worked_by_hand(window, qtbot):
    """A sound is put elsewhere by a press, wished alone, and taken back."""
    window.desk.load(native.read(demo.READY), None)
    view = show(window, qtbot, "outputs")
    grid = view.sounds.grid
    line = next(n for n, one in enumerate(grid.lines) if one.name == "Strings")
    cell = grid.cell_rect(line, 3).center().toPoint()
    qtbot.mouseClick(grid.viewport(), LEFT, pos=cell)
    strings = lookup.part(lookup.device(window.desk.plan, "dovecote"), "strings")
    assert strings.output == "4"
    name = grid.cell_rect(line, 0).center().toPoint()
    name.setX(60)
    qtbot.mouseClick(grid.viewport(), LEFT, pos=name)
    qtbot.mouseClick(view.sounds.alone, LEFT)
    assert len(window.desk.plan.output_wishes) == 3
    window.desk.undo()
    window.desk.undo()
    assert len(window.desk.plan.output_wishes) == 2


def test_what_dies_is_worked_out_only_for_who_stays(window, qtbot):
    """Turning past the page begins nothing; leaving it halfway goes on when one is back."""
    window.desk.load(native.read(demo.READY), None)
    view = show(window, qtbot, "outputs")
    page, last = view.without, len(view.page_names) - 1
    page.kind.setCurrentIndex(page.kind.count() - 1)
    every = sum(loss.kind == "pedal" for loss in losses(window.desk.planned))
    view.show_page(last)
    view.show_page(0)
    qtbot.wait(400)
    assert page.told == []
    view.show_page(last)
    qtbot.waitUntil(lambda: bool(page.told), timeout=60_000)
    window.show_view("keys")
    qtbot.wait(400)
    known = tuple(page.told)
    assert len(known) < every, "nobody looks: it waits"
    window.show_view("outputs")
    qtbot.waitUntil(lambda: len(page.told) == every, timeout=60_000)
    assert all(one in page.told for one in known)
