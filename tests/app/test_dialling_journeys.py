"""Rigs that nobody tuned to, from an empty plan to devices that hold them, and months later."""

import pytest
from PySide6.QtCore import QItemSelectionModel, Qt
from PySide6.QtWidgets import QComboBox, QInputDialog, QMenu

from tests.trial_rigs import RIGS
from vastzone.app import dialogs
from vastzone.app.frame.text import Label
from vastzone.app.frame.work_out import WorkOut
from vastzone.app.views.cards.reading import ReadBack
from vastzone.app.views.rig.add import AddDevice
from vastzone.core.cards.card import card
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Port
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove
from vastzone.core.proof.walk import asks
from vastzone.files.devices import write_device

from .hands import CTRL, LEFT, awake, show, work_out
from .test_views import cell, pull


class Hands:
    """Hands at the window, with every action counted."""

    def __init__(self, window, qtbot, monkeypatch, folder):
        self.window, self.qtbot = window, qtbot
        self.monkeypatch, self.folder = monkeypatch, folder
        self.actions = 0

    @property
    def desk(self):
        return self.window.desk

    def key(self, key, modifiers=Qt.KeyboardModifier.NoModifier, widget=None):
        self.actions += 1
        if widget is None:
            awake(self.window, self.qtbot)
        self.qtbot.keyClick(widget or self.window, key, modifiers)

    def click(self, widget, pos=None):
        self.actions += 1
        self.qtbot.mouseClick(widget, LEFT, **({} if pos is None else {"pos": pos}))

    def show(self, view):
        self.actions += 1
        return show(self.window, self.qtbot, view)

    def type(self, widget, words):
        self.actions += 1
        self.qtbot.keyClicks(widget, words)

    def add(self, device):
        """A device from its file: the shortcut, the button, the file."""
        path = self.folder / f"{device.id}.vzdevice"
        write_device(device, path)
        self.monkeypatch.setattr(dialogs, "ask_device", lambda _: path)
        self.key(Qt.Key.Key_D, CTRL)
        dialog = self.window.findChildren(AddDevice)[-1]
        button = next(b for b in dialog.findChildren(type(dialog.take)) if "file" in b.text())
        self.click(button)
        self.actions += 1

    def join(self, one, other):
        self.actions += 1
        pull(self.qtbot, self.window.view("rig").canvas, one, other)

    def wish(self, plays, row, column):
        matrix = plays.matrix
        self.click(matrix.viewport(), cell(matrix, row, column))

    def wish_in_order(self, plays, rows, columns, count):
        """Drag from the first row and column to the last of both."""
        matrix, before = plays.matrix, len(self.desk.plan.wishes)
        cell(matrix, rows[1], columns[1])
        cell(matrix, rows[0], columns[0])
        begins = matrix.cell_rect(*matrix.at).center()
        line = next(n for n, one in enumerate(matrix.lines) if rows[1] in one.words)
        column = [n for n, one in enumerate(matrix.columns) if one.name == columns[1]][-1]
        ends = matrix.cell_rect(line, column).center()
        self.qtbot.mousePress(matrix.viewport(), LEFT, pos=begins)
        self.qtbot.mouseMove(matrix.viewport(), (begins + ends) / 2)
        self.qtbot.mouseMove(matrix.viewport(), ends)
        self.qtbot.mouseRelease(matrix.viewport(), LEFT, pos=ends)
        self.actions += 1
        assert len(self.desk.plan.wishes) == before + count

    def work_out(self):
        self.actions += 2
        work_out(self.window, self.qtbot)

    def number_in_a_run(self):
        """Nothing selected, the plan's facts, the school of its controllers."""
        self.desk.select("")
        fields = self.window.facts.findChildren(QComboBox)
        school = [one for one in fields if one.accessibleName() == "Controllers"][-1]
        school.setCurrentIndex(school.findText("a memorable run"))
        self.actions += 3

    def work_out_in_a_run(self, first):
        """The preview, its rows of knobs chosen, a run for them, and applied."""
        self.monkeypatch.setattr(QInputDialog, "getInt", lambda *_: (first, True))
        self.click(self.window.header.numbers)
        dialog = self.window.findChildren(WorkOut)[-1]
        self.found(dialog)
        rows = [
            row
            for row, number in enumerate(dialog.solution.numbers)
            if "/knob-" in number.ref and number.ref.endswith("/number")
        ]
        select = QItemSelectionModel.SelectionFlag.Select | QItemSelectionModel.SelectionFlag.Rows
        for row in rows:
            self.actions += 1
            dialog.table.selectionModel().select(dialog.table.model().index(row, 0), select)
        self.click(dialog.other_button)
        menu = dialog.findChildren(QMenu)[-1]
        self.actions += 2
        next(one for one in menu.actions() if "in a run" in one.text()).trigger()
        menu.close()
        self.found(dialog)
        assert any("70 is" in said for said in dialog.solution.others)
        self.click(dialog.apply_button)

    def found(self, dialog):
        self.qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)

    def dial(self, cards):
        """Every card followed, one line at a time, device after device."""
        self.click(cards.pages.button(1))
        dialled = 0
        while any(one.steps for one in cards.counts().values()):
            before = cards.dial.line()
            self.qtbot.mouseClick(cards.dial.next, LEFT)
            dialled += before is not None
            self.actions += before is None
            assert dialled < 400
        return dialled


@pytest.fixture
def hands(window, qtbot, monkeypatch, tmp_path):
    window.documents.new()
    return Hands(window, qtbot, monkeypatch, tmp_path)


def dance_band(hands):
    rig = RIGS["a"]()
    for device in rig.devices:
        hands.add(device)
    hands.join("plover:usb", "laptop:usb")
    plays = hands.show("plays")
    hands.wish(plays, "C2", "Layer 1")
    hands.wish_in_order(plays, ("Fader 1", "Fader 6"), ("Layer 1 volume", "Layer 6 volume"), 6)
    hands.wish(plays, "Fader 9", "Master")
    hands.wish_in_order(plays, ("Pad 1", "Pad 4"), ("Loop 1", "Loop 4"), 4)
    hands.wish(plays, "Button 1", "Previous")
    hands.wish(plays, "Button 2", "Next")
    hands.number_in_a_run()
    hands.work_out()
    assert prove(hands.desk.planned).good
    sends = lookup.device(hands.desk.planned, "plover").programs[0].sends
    numbers = {send.control: send.number for send in sends if send.message == "controller"}
    faders, pads = ("fader-{}", (1, 2, 3, 4, 5, 6, 9)), ("pad-{}", (1, 2, 3, 4))
    given = [numbers[name.format(n)] for name, places in (faders, pads) for n in places]
    assert given == list(range(20, 31))
    assert [numbers["button-1"], numbers["button-2"]] == [31, 85]


def test_a_dance_band_is_dialled_line_by_line_until_it_is_proved_as_dialled(hands):
    dance_band(hands)
    desk = hands.desk
    cards = hands.show("cards")
    plover = lookup.device(desk.planned, "plover")
    words = [line.words for line in card(desk.planned, desk.memory, plover).lines]
    fader = next(line for line in words if line.startswith("Fader 3"))
    assert "controller" in fader and "for Layer 3 volume" in fader
    pad = next(line for line in words if line.startswith("Pad 1"))
    assert "was: note C2 (36) on channel 1" in pad, "as it left the factory"
    assert words[0].startswith("Select") and words[-1].startswith("Store")
    hands.key(Qt.Key.Key_L, CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert desk.lens == "dialled" and not desk.proof.good
    hands.key(Qt.Key.Key_L, CTRL | Qt.KeyboardModifier.ShiftModifier)
    before = hands.actions
    assert before <= 40, before
    dialled = hands.dial(cards)
    assert dialled >= 14
    desk.look("dialled")
    assert desk.proof.good
    desk.look("planned")


def test_months_later_the_rig_tells_what_it_holds_and_what_was_changed_on_the_panel(hands):
    dance_band(hands)
    desk, window = hands.desk, hands.window
    window.documents.remember(initials="ro")
    desk.held.initials = "ro"
    hands.dial(hands.show("cards"))
    path = hands.folder / "band.vastzone"
    desk.save(path)
    hands.actions = 0
    desk.open(path)
    plover = lookup.device(desk.planned, "plover")

    desk.select("plover:fader-3")
    sheet = "\n".join(label.text() for label in window.facts.findChildren(Label))
    assert "The device holds it, stored" in sheet and "by ro" in sheet and "Why:" in sheet
    cards = hands.show("cards")
    cards.list.go_to([row.ref for row in cards.list.held.rows].index("plover"))
    hands.actions += 1
    hands.click(cards.read)
    dialog = cards.findChildren(ReadBack)[-1]
    for number, note in ((1, 50), (2, 51), (3, 52)):
        dialog.search.clear()
        hands.type(dialog.search, f"pad {number} number")
        assert dialog.table.held.rowCount() == 1
        hands.actions += 1
        dialog.table.held.setData(dialog.table.held.index(0, 4), str(note))
    hands.click(dialog.apply)
    hands.key(Qt.Key.Key_L, CTRL | Qt.KeyboardModifier.ShiftModifier)
    faults = {mark.source for _, mark in desk.proof.faults()}
    assert faults == {"plover:pad-1", "plover:pad-2", "plover:pad-3"}
    hands.key(Qt.Key.Key_L, CTRL | Qt.KeyboardModifier.ShiftModifier)
    lines = card(desk.planned, desk.memory, plover).lines
    dials = [line for line in lines if line.kind == "dial" and line.waits]
    assert [line.thing for line in dials] == ["Pad 1", "Pad 2", "Pad 3"]
    hands.dial(cards)
    desk.look("dialled")
    assert desk.proof.good
    assert hands.actions <= 30, hands.actions


def test_forty_eight_pads_and_four_knobs_reach_the_cards(hands):
    pads_box, looper = RIGS["c"]().devices
    hands.add(changed(pads_box, ports=(Port(id="out", name="MIDI out", flow="out"),)))
    hands.add(changed(looper, ports=(Port(id="in", name="MIDI in", flow="in"),)))
    desk = hands.desk
    hands.join("dabchick:out", "millpond:in")
    pads = hands.show("pads")
    hands.actions += 3
    pads.fill.scope.setCurrentIndex(pads.fill.scope.findData("all"))
    pads.fill.channel.setCurrentIndex(pads.fill.channel.findData(10))
    pads.fill.start.setText("B2")
    hands.click(pads.fill.apply)
    assert pads_to_dial(desk) == 48, "a fill reaches the cards like any other edit"
    plays = hands.show("plays")
    hands.wish_in_order(plays, ("Knob 1, bank 1", "Knob 4, bank 1"), ("Voice", "Rhythm"), 4)
    hands.work_out_in_a_run(70)
    proof = prove(desk.planned, desk.memory)
    knobs = [mark for mark in proof.marks("") if mark.source.startswith("dabchick:knob")]
    assert [mark.verdict for mark in knobs] == ["as meant"] * 4
    assert sounding_pads(proof) == 25, "what the kit answers goes on"
    board, looper = (lookup.device(desk.planned, name) for name in ("dabchick", "millpond"))
    sends = {send.control: send for send in board.programs[0].sends if send.message != "note"}
    assert [sends[f"knob-{n}"].number for n in range(1, 5)] == [70, 71, 72, 73]
    ends = [target.reach[1] for target in looper.targets]
    assert ends == [100, 90, 95, 80], "exactly, at the receiver"
    asked = [ask.expected for ask in asks(desk.planned, proof, ()) if "knob" in ask.place.source]
    assert asked[0] == "Voice goes from 0 to 100"
    cards = hands.show("cards")
    dabchick = lookup.device(desk.planned, "dabchick")
    lines = card(desk.planned, desk.memory, dabchick).lines
    assert pads_to_dial(desk) == 48
    assert [line.thing for line in lines if line.thing.startswith("Knob")]
    assert hands.actions <= 60, hands.actions
    hands.dial(cards)
    desk.look("dialled")
    assert [mark.verdict for _, mark in desk.proof.faults()] == [
        mark.verdict for _, mark in prove(desk.planned).faults()
    ]


def sounding_pads(proof):
    """The pads that something meant sounds at."""
    pads = set()
    for mark in proof.marks(""):
        if mark.source.startswith("dabchick:pad") and mark.verdict == "as meant":
            pads.add((mark.source, mark.bank))
    return len(pads)


def pads_to_dial(desk):
    dabchick = lookup.device(desk.planned, "dabchick")
    lines = card(desk.planned, desk.memory, dabchick).lines
    return sum(line.thing.startswith("Pad") for line in lines)
