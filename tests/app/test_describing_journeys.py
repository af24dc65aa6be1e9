"""Rigs that nobody tuned to, described, cabled and wished wholly in the window, from nothing."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QComboBox

from vastzone.app.frame.wishing import WishFor
from vastzone.app.views.rig.add import AddDevice
from vastzone.core.cards.card import card as card_of
from vastzone.core.cards.tracks import tracks
from vastzone.core.plan.edits.plugs import plug_in, pull_out
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove

from .hands import CTRL, LEFT, Hands, drag

SHIFT = Qt.KeyboardModifier.ShiftModifier


class Describing(Hands):
    """Hands that tell of devices, and wish from the workshop."""

    def tell(self, line):
        """A device told in a line: the shortcut, the words, Enter."""
        self.key(Qt.Key.Key_D, CTRL)
        dialog = self.window.findChildren(AddDevice)[-1]
        self.type(dialog.line, line)
        self.key(Qt.Key.Key_Return, widget=dialog.line)
        return self.desk.planned.devices[-1]

    def lay_open(self, device):
        """The page of a device: its button, and the device in the list."""
        view = self.window.view("rig")
        view.show_page(1)
        self.desk.select(device)
        self.actions += 2
        return view.device_page

    def lasso(self, page, first, last):
        """Draw around things from the first to the last."""
        bench = page.canvas.bench
        tiles = {t.thing.id: t.rect for section in bench.sections for t in section.tiles}
        order = [t.thing.id for section in bench.sections for t in section.tiles]
        area = tiles[first]
        for ident in order[order.index(first) : order.index(last) + 1]:
            area = area.united(tiles[ident])
        self.actions += 1
        start, end = area.topLeft().toPoint(), area.bottomRight().toPoint()
        drag(self.qtbot, page.canvas, start - QPoint(4, 4), end + QPoint(4, 4))

    def press(self, page, thing, modifiers=Qt.KeyboardModifier.NoModifier):
        bench = page.canvas.bench
        tiles = {t.thing.id: t.rect for section in bench.sections for t in section.tiles}
        self.actions += 1
        self.qtbot.mouseClick(page.canvas, LEFT, modifiers, tiles[thing].center().toPoint())

    def choose(self, ref, label, words):
        """Select something, and choose a value in its facts."""
        self.desk.select(ref)
        fields = self.window.facts.findChildren(QComboBox)
        field = [f for f in fields if f.accessibleName() == label][-1]
        self.actions += 3
        field.setCurrentIndex(field.findText(words))

    def wish_for(self, words):
        """The shortcut, what is wished in words, Enter."""
        self.key(Qt.Key.Key_W, CTRL | SHIFT)
        dialog = self.window.findChildren(WishFor)[-1]
        self.type(dialog.line, words)
        self.key(Qt.Key.Key_Return, widget=dialog.line)


@pytest.fixture
def hands(window, qtbot, monkeypatch, tmp_path):
    window.documents.new()
    return Describing(window, qtbot, monkeypatch, tmp_path)


def two_zones(hands):
    """A split keyboard into a module with two parts: told, cabled and wished."""
    keys = hands.tell("61 keys split at C4")
    module = hands.tell("module, 2 parts")
    hands.join(f"{keys.id}:out", f"{module.id}:in")
    plays = hands.show("plays")
    hands.wish(plays, "C2", "Part 1")
    hands.wish(plays, "C4", "Part 2")
    return keys, module


def test_a_plain_keyboard_into_a_module_with_two_zones(hands):
    desk = hands.desk
    keys, _ = two_zones(hands)
    hands.actions += 1
    desk.stage.press(f"{keys.id}:keys", 40, 90, 0.0)
    assert {ref.rpartition(":")[2] for ref in desk.stage.sounding_parts()} == {"part-1"}
    assert prove(desk.planned).good
    assert hands.actions <= 12, hands.actions


def test_a_dance_band_told_in_lines_is_proved(hands):
    desk = hands.desk
    hands.tell(
        "Plover: 61 keys from C2, 8 pads notes from C2 channel 1, 9 faders, 8 knobs, 6 buttons, "
        "wheel, lever, sustain jack, expression jack, 8 memory slots, USB"
    )
    hands.tell(
        "Laptop: host that learns, 6 layers with volume each, master, 4 loops on/off, previous "
        "and next patch"
    )
    hands.join("plover:usb", "laptop:usb")
    for _ in range(5):
        hands.key(Qt.Key.Key_N, CTRL | SHIFT)
    page = hands.lay_open("plover")
    hands.press(page, "keys")
    hands.wish_for("layer 1")
    hands.lasso(page, "fader-1", "fader-6")
    hands.wish_for("volume")
    hands.press(page, "fader-9")
    hands.wish_for("master")
    hands.lasso(page, "pad-1", "pad-4")
    hands.wish_for("loop")
    hands.press(page, "button-1")
    hands.press(page, "button-2", CTRL)
    hands.wish_for("patch")
    hands.number_in_a_run()
    hands.work_out()
    proof = prove(desk.planned, desk.memory)
    assert [mark for _, mark in proof.faults()] == []
    moved = {wish.sources[0]: wish.moves for wish in desk.planned.wishes if wish.moves}
    assert moved["plover:fader-6"] == "laptop:layer-6-volume"
    assert moved["plover:pad-4"] == "laptop:loop-4"
    assert moved["plover:button-2"] == "laptop:next-patch"
    plover = lookup.device(desk.planned, "plover")
    sends = plover.programs[0].sends
    numbers = {send.control: send.number for send in sends if send.message == "controller"}
    assert [numbers[f"fader-{n}"] for n in range(1, 7)] == list(range(20, 26))
    assert hands.actions <= 60, hands.actions


def test_drums_on_a_hay_cart_told_in_lines(hands):
    desk = hands.desk
    hands.tell(
        "Skua: drum module, 1 kick input called Kick, 7 dual inputs called "
        "Snare/Tom 1/Tom 2/Tom 3/Tom 4/Aux 1/Aux 2, 2 piezo-switch inputs called Crash 1/Crash 2, "
        "1 three-way input called Ride, hi-hat input called Hat, 16 sounds from 36 channel 10, USB"
    )
    hands.tell("Recorder: recorder that takes all, 1 track")
    hands.join("skua:usb", "recorder:usb")
    pads = hands.show("pads")
    hands.click(pads._pages.button(1))
    hands.type(
        pads.fit.line,
        "kick must, snare must, 4 toms, 2 crashes, ride, hat, hat pedal, 2 rubber pads model R, "
        "bell plate",
    )
    hands.key(Qt.Key.Key_Return, widget=pads.fit.line)
    assert len(desk.planned.pads) == 14
    hands.click(pads.fit.fit)
    hands.qtbot.waitUntil(lambda: pads.fit.found is not None, timeout=30_000)
    hands.click(pads.fit.best)
    where = {plug.pad: plug for plug in desk.planned.plugs}
    named = {jack.id: jack.name for jack in lookup.device(desk.planned, "skua").inputs}
    into = {pad: named[plug.input.partition(":")[2]] for pad, plug in where.items()}
    assert (into["snare"], into["tom-4"], into["crash-2"], into["ride"]) == (
        "Snare",
        "Tom 4",
        "Crash 2",
        "Ride",
    )
    assert into["hat"] == into["hat-pedal"] == "Hat"
    split = {pad for pad, plug in where.items() if plug.side}
    assert split == {"rubber-pad-1", "rubber-pad-2"} and len(where) == 14
    page = hands.lay_open("skua")
    hands.show("rig")
    skua = lookup.device(desk.planned, "skua")
    hands.lasso(page, skua.inputs[0].id, skua.inputs[-1].id)
    hands.wish_for("rhythm")
    assert len(desk.planned.wishes) == 16, "as many as there are sounds"
    hands.work_out()
    proof = prove(desk.planned, desk.memory)
    assert {mark.verdict for _, mark in proof.faults()} <= {"silent", "extra"}
    pads = hands.show("pads")
    hands.actions += 2
    pads.own_channels()
    pads.show_tracks()
    listed = tracks(desk.planned, lookup.device(desk.planned, "skua"))
    drums = {track.drum for track in listed}
    assert {"Rubber pad 1", "Rubber pad 2", "Bell plate", "Hat", "Tom 4"} <= drums
    assert len({track.channel for track in listed}) == len(drums) == 13
    hat = {t.zone: t for t in listed if t.drum == "Hat"}
    assert {"open", "half", "closed"} <= set(hat)
    stage = desk.stage
    the_hat = stage.hats.hats()[0]
    heard = []
    for position in (0, 64, 127):
        stage.tread(the_hat, position, 1000.0 * position)
        stage.hit((hat_control(desk, "open"), 1), 100, 1000.0 * position + 1)
        heard.append(stage.last.subject)
    assert heard == [hat_control(desk, state) for state in ("open", "half", "closed")]
    freed = pull_out("bell-plate")(desk.planned)
    moved = plug_in(freed, "snare", where["bell-plate"].input)(freed)
    notes = [(t.zone, t.note) for t in tracks(moved, moved.devices[0]) if t.drum == "Snare"]
    assert notes == [(t.zone, t.note) for t in listed if t.drum == "Snare"]
    assert hands.actions <= 46, hands.actions


def hat_control(desk, state):
    skua = lookup.device(desk.planned, "skua")
    return f"skua:{next(c.id for c in skua.controls if c.zone == state)}"


def test_a_looper_at_a_bus_stop_told_in_lines(hands):
    desk = hands.desk
    hands.tell(
        "Dabchick: 16 pads as 4 x 4 in 3 banks notes from 36 channel 10, 4 knobs in 3 banks, "
        "6 buttons, DIN out, middle C is C5"
    )
    hands.tell(
        "Millpond: looper, 16 assign slots 5 taken, 25 sounds from 35 channel 10, keeps controllers "
        "80 and 81 for patch up and down, 4 levels 0-200 called Voice/Guitar/Loops/Rhythm level, DIN in"
    )
    hands.join("dabchick:out", "millpond:in")
    page = hands.lay_open("dabchick")
    hands.lasso(page, "knob-1", "knob-4")
    hands.wish_for("millpond")
    hands.work_out()
    proof = prove(desk.planned, desk.memory)
    knobs = [mark for mark in proof.marks("") if mark.source.startswith("dabchick:knob")]
    assert {mark.verdict for mark in knobs} == {"as meant"}
    assert hands.actions <= 40, hands.actions


def test_a_chapel_on_a_barge_told_in_lines(hands):
    desk = hands.desk
    hands.tell(
        "Coot: encoder, middle C is C5, lowest-key school, 12 lines, 16 commons, 2 manuals of 54 "
        "keys from G3, 30 pedal keys from C3, 40 stops, 2 shoes, USB"
    )
    hands.tell(
        "Organ: computer that learns, 3 divisions called Great/Swell/Pedal, 40 organ stops called "
        '"Stop {n}", 2 levels called Swell box/Crescendo'
    )
    hands.join("coot:usb", "organ:usb")
    page = hands.lay_open("coot")
    for bed, division in (("manual-1", "great"), ("manual-2", "swell"), ("pedalboard", "pedal")):
        hands.press(page, bed)
        hands.wish_for(f"{division} organ")
    hands.lasso(page, "stop-1", "stop-40")
    hands.wish_for("stop")
    hands.lasso(page, "shoe-1", "shoe-2")
    hands.wish_for("c")
    view = hands.show("console")
    hands.click(view._pages.button(1))
    pins = view.pins
    hands.choose("block coot:manual-2", "Lines count from", "note names")
    assert "2 pins short" in pins.words.text() and "18" not in pins.words.text()[:2]
    hands.type(pins.typed, "Manual 2: 6-11")
    hands.key(Qt.Key.Key_Return, widget=pins.typed)
    coot = lookup.device(desk.planned, "coot")
    assert coot.console.blocks[1].soldered and coot.console.blocks[1].commons == (*range(6, 12),)
    off = [f for f in desk.findings if f.rule == "read otherwise than wired"]
    assert len(off) == 1 and "7 semitones higher" in off[0].sentence
    hands.actions += 1
    hands.window.perform(off[0].fixes[0])
    asked = {pins.asked.words(row, 0): row for row in range(pins.asked.held.rowCount())}
    told = [pins.asked.words(asked["Manual 2"], column) for column in (1, 2, 3)]
    assert told == ["6", "3", "0"], "six octave pins, octave 3, index 0: the C below"
    told = [pins.asked.words(asked["Manual 1"], column) for column in (1, 2, 3)]
    assert told == ["5", "3", "7"]
    hands.work_out()
    coot = lookup.device(desk.planned, "coot")
    assert [bed.low for bed in coot.keybeds] == [43, 43, 36]
    assert not [mark for _, mark in prove(desk.planned, desk.memory).faults()]
    card = card_of(desk.planned, desk.memory, coot)
    words = " ".join(line.words for line in card.lines)
    assert "C3: octave 3, index 0" in words, "never configured: everything is left to dial"
    hands.click(view._pages.button(3))
    hands.type(view.faults.pins, "5 is shorted to 6, 6 is shorted to 5")
    hands.key(Qt.Key.Key_Return, widget=view.faults.pins)
    assert "L5" in view.faults.words.text() and "Manual 2" in view.faults.words.text()
    assert len(desk.planned.wishes) == 45
    assert hands.actions <= 62, hands.actions


def test_a_large_console_on_two_encoders_is_planned_from_nothing(hands):
    desk = hands.desk
    hands.tell(
        "Coot: encoder, middle C is C5, 12 lines, 24 commons, 5 manuals of 61 keys from C3, 32 pedal "
        "keys from C3, 48 stops, 7 shoes, 8 analogue inputs, USB"
    )
    hands.tell(
        "Organ: computer that learns, 6 divisions called Great/Swell/Choir/Solo/Echo/Pedal, 24 "
        'organ stops called "Stop {n}" channel 7, 24 organ stops called "Reed stop {n}" channel 8, 7 levels called "Shoe level {n}", 2 USB'
    )
    organ = lookup.device(desk.planned, "organ")
    hands.join("coot:usb", f"organ:{organ.ports[0].id}")
    page = hands.lay_open("coot")
    manuals = [bed.id for bed in lookup.device(desk.planned, "coot").keybeds]
    for bed, division in zip(
        manuals, ("great", "swell", "choir", "solo", "echo", "pedal"), strict=True
    ):
        hands.press(page, bed)
        hands.wish_for(f"{division} organ")
    hands.lasso(page, "stop-1", "stop-48")
    hands.wish_for("stop")
    hands.lasso(page, "shoe-1", "shoe-7")
    hands.wish_for("level")
    view = hands.show("console")
    hands.click(view._pages.button(1))
    assert "pins short" in view.pins.words.text()
    hands.click(view.pins.second)
    second = lookup.device(desk.planned, "coot-2")
    hands.show("rig")
    hands.window.view("rig").show_page(0)
    hands.join("coot-2:usb", f"organ:{organ.ports[1].id}")
    view = hands.show("console")
    for ident in ("coot", second.id):
        hands.actions += 1
        view.device.setCurrentIndex(view.device.findData(ident))
        hands.click(view.pins.take)
    hands.work_out()
    proof = prove(desk.planned, desk.memory)
    assert [mark for _, mark in proof.faults()] == []
    assert len(desk.planned.wishes) == 6 + 48 + 7
    for ident in ("coot", "coot-2"):
        console = lookup.device(desk.planned, ident).console
        assert all(block.commons for block in console.blocks)
    assert hands.actions <= 60, hands.actions


def test_what_a_strike_sounds_is_wished_for_what_is_selected(hands):
    desk = hands.desk
    keys, module = two_zones(hands)
    hands.show("rig")
    small = hands.tell("Small: 25 keys")
    desk.select(f"{small.id}:keys")
    hands.key(Qt.Key.Key_W, CTRL | SHIFT)
    dialog = hands.window.findChildren(WishFor)[-1]
    desk.stage.press(f"{keys.id}:keys", 65, 90, 0.0)
    desk.stage.press(f"{keys.id}:keys", 66, 90, 1.0)
    assert [end.name for end in dialog.ends] == ["Part 2"]
    hands.type(dialog.line, "part 1")
    assert [end.name for end in dialog.ends] == ["Part 1"]
    desk.stage.press(f"{keys.id}:keys", 67, 90, 2.0)
    hands.key(Qt.Key.Key_Return, widget=dialog.line)
    wished = desk.plan.wishes[-1]
    assert (wished.sources, wished.plays) == ((f"{small.id}:keys",), f"{module.id}:part-2")
    desk.stage.press(f"{keys.id}:keys", 40, 90, 3.0)
    assert len(desk.plan.wishes) == 3
