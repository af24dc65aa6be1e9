"""Rigs that nobody tuned to, from an empty plan to devices that hold them, and months later."""

import pytest
from PySide6.QtCore import Qt

from tests.trial_rigs import RIGS
from vastzone.app.frame.text import Label
from vastzone.app.views.cards.reading import ReadBack
from vastzone.core.cards.card import card
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Port
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove
from vastzone.core.proof.walk import asks

from .hands import CTRL, Hands


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
