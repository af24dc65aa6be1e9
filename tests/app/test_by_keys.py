"""Everything by keys alone: strikes are counted, and nothing is pressed with a mouse."""

import pytest
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from vastzone.app import dialogs
from vastzone.app.frame.goto import GoTo
from vastzone.app.frame.work_out import WorkOut
from vastzone.app.key_filter import key_of
from vastzone.app.views.pads.tracks import TrackList
from vastzone.core.plan.edits.devices import set_device

from .hands import awake, show

CTRL, SHIFT, ALT = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
)
KEYS = Qt.Key


class Hands:
    """Hands that only strike keys, and count them."""

    def __init__(self, window, qtbot):
        self.window, self.qtbot, self.strikes = window, qtbot, 0

    def strike(self, key, modifiers=Qt.KeyboardModifier.NoModifier, times=1):
        for _ in range(times):
            self.strikes += 1
            target = QApplication.focusWidget() or self.window
            QTest.keyClick(target, key, modifiers)
            QApplication.processEvents()

    def type(self, words):
        for letter in words:
            self.strike(letter)

    def until(self, true, timeout=30_000):
        self.qtbot.waitUntil(true, timeout=timeout)
        awake(self.window, self.qtbot)


@pytest.fixture
def hands(window, qtbot):
    awake(window, qtbot)
    return Hands(window, qtbot)


def test_an_empty_plan_to_a_proved_rig_of_two_zones(hands, window):
    window.documents.new()
    desk = window.desk
    hands.until(lambda: not desk.plan.devices)
    hands.strikes = 0
    hands.strike(KEYS.Key_D, CTRL)
    hands.type("sta")
    hands.strike(KEYS.Key_Return)
    hands.until(lambda: len(desk.plan.devices) == 1)
    hands.strike(KEYS.Key_D, CTRL)
    hands.type("sou")
    hands.strike(KEYS.Key_Down)
    hands.strike(KEYS.Key_Return)
    hands.until(lambda: len(desk.plan.devices) == 2)
    keyboard, module = desk.plan.devices
    assert keyboard.keybeds and len(module.parts) > 1
    _plug(hands, window)
    assert desk.plan.cables
    hands.strike("3", ALT)
    hands.strike(KEYS.Key_Tab, CTRL)
    hands.strike(KEYS.Key_T, CTRL)
    for times in (0, 2):
        if times:
            hands.strike(KEYS.Key_Tab, CTRL)
        hands.strike(KEYS.Key_W, CTRL | SHIFT)
        hands.strike(KEYS.Key_Down, times=times)
        hands.strike(KEYS.Key_Return)
        awake(window, hands.qtbot)
    assert len(desk.plan.wishes) == 2
    assert len({wish.plays for wish in desk.plan.wishes}) == 2
    hands.strike(KEYS.Key_Return, CTRL)
    dialog = window.findChildren(WorkOut)[-1]
    hands.qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    hands.strike(KEYS.Key_Return)
    hands.until(lambda: desk.proof is not None and desk.proof.good)
    assert hands.strikes <= 28


def _plug(hands, window):
    """From one device to the other, both ends by arrows."""
    canvas = window.view("rig").canvas
    assert canvas.hasFocus()
    before = hands.strikes
    hands.strike(KEYS.Key_Return)
    hands.strike(KEYS.Key_Left)
    hands.strike(KEYS.Key_Return)
    assert hands.strikes - before <= 5


def test_few_strikes_from_the_focus_in_a_view(hands, window, qtbot):
    desk = window.desk
    show(window, qtbot, "pads")
    hands.strike(KEYS.Key_Space)
    assert desk.stage.last is not None
    show(window, qtbot, "keys")
    hands.strikes = 0
    hands.strike(KEYS.Key_Tab, CTRL)
    before = desk.plan
    hands.strike(KEYS.Key_Right, CTRL | SHIFT)
    if desk.plan is before:  # it ends where the keybed does
        hands.strike(KEYS.Key_Left, CTRL | SHIFT)
    assert desk.plan is not before and hands.strikes <= 3
    pedals = show(window, qtbot, "pedals")
    hands.strikes = 0
    hands.strike(KEYS.Key_Right)
    hands.strike(KEYS.Key_Up)
    assert pedals.canvas.values and hands.strikes <= 3
    show(window, qtbot, "prove")
    qtbot.waitUntil(lambda: window.view("prove").causes.best is not None, timeout=20_000)
    before = desk.plan
    hands.strikes = 0
    hands.strike(KEYS.Key_Return)
    assert desk.plan is not before and hands.strikes <= 3


def test_a_line_of_a_card_is_ticked_with_one_strike(hands, window, qtbot):
    cards = show(window, qtbot, "cards")
    cards.page.setFocus()
    before = (window.desk.memory, set(cards.page.prepared))
    hands.strikes = 0
    hands.strike(KEYS.Key_Space)
    assert (window.desk.memory, cards.page.prepared) != before and hands.strikes == 1


def test_a_wish_in_the_matrix(hands, window, qtbot):
    show(window, qtbot, "plays")
    before = window.desk.plan.wishes
    hands.strikes = 0
    hands.strike(KEYS.Key_Right)
    hands.strike(KEYS.Key_Down)
    hands.strike(KEYS.Key_Return)
    assert window.desk.plan.wishes != before and hands.strikes <= 4


def test_types_of_trigger_inputs_by_keys(hands, window, qtbot):
    pads = show(window, qtbot, "pads")
    pads.show_page(1)
    canvas = pads.inputs
    canvas.setFocus()
    hands.strike(KEYS.Key_Up, CTRL)
    chosen = window.desk.selection
    sockets = {socket.ref: socket for socket in canvas.sockets}
    assert chosen in sockets
    while len(sockets[window.desk.selection].input.types) < 2:
        hands.strike(KEYS.Key_Right)
    ref = window.desk.selection
    before = sockets[ref].input.type
    hands.strike(KEYS.Key_Return)
    now = {socket.ref: socket.input.type for socket in canvas.sockets}[ref]
    assert now != before
    hands.strike(KEYS.Key_Down, CTRL)
    assert window.desk.selection.startswith("pad ")


def test_stops_chords_and_shoes_of_a_console_by_keys(hands, window, qtbot):
    console = show(window, qtbot, "console")
    bench = console.bench
    hands.strike(KEYS.Key_Return)
    hands.strike(KEYS.Key_Right)
    hands.strike(KEYS.Key_Space, SHIFT)
    assert len(bench.held) == 2
    hands.strike(KEYS.Key_Return)
    assert len(bench.held) == 1
    hands.strike(KEYS.Key_Down, times=len(bench.circuit.parts))
    shoe = console.canvas.picture.shoes[0][0]
    assert window.desk.selection.endswith(f":{shoe}")
    hands.strike("+", times=2)
    assert console.canvas.values[shoe] == 8
    hands.strike(KEYS.Key_End)
    assert console.canvas.values[shoe] == 127


def test_a_loose_pedal_is_carried_to_a_jack_by_keys(hands, window, qtbot):
    pedals = show(window, qtbot, "pedals")
    desk, canvas = window.desk, pedals.canvas
    loose = [pedal.id for pedal, _ in canvas.loose]
    for plug in desk.plan.pedal_plugs[:1]:
        pedals.jacks.grid.pressed.emit(plug.pedal, plug.jack)
        loose = [pedal.id for pedal, _ in canvas.loose]
    desk.select(f"pedal {loose[-1]}")
    canvas.setFocus()
    hands.strike(KEYS.Key_Return)
    while canvas.chosen is None or canvas.chosen.jack is None or canvas.chosen.pedal is not None:
        hands.strike(KEYS.Key_Left)
    jack = canvas.chosen
    hands.strike(KEYS.Key_Return)
    plugged = {plug.jack for plug in desk.plan.pedal_plugs}
    assert f"{jack.owner.id}:{jack.jack.id}" in plugged


@pytest.mark.parametrize(
    "letters", ["QWERTZ", "AZERTY", "ЙЦУКЕН"], ids=["German", "French", "Russian"]
)
def test_the_piano_goes_by_the_places_of_keys(hands, window, letters):
    """Whatever a layout writes: the first six keys of the upper row are C, D, E, F, G, A."""
    heard = []
    for number, letter in enumerate(letters):
        place = 24 + number
        for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
            event = QKeyEvent(
                kind, ord(letter), Qt.KeyboardModifier.NoModifier, place, 0, 0, letter.lower()
            )
            QApplication.sendEvent(window, event)
        heard.append(window.desk.stage.last.key)
    assert heard == [60, 62, 64, 65, 67, 69]
    window.piano.label_keys()
    bed, labels = window.piano.labels()
    assert bed and "".join(labels[note] for note in heard) == letters


@pytest.mark.parametrize("digit", range(1, 10))
def test_views_are_shown_by_the_places_of_digits(window, digit):
    """A French keyboard writes other signs there."""
    event = QKeyEvent(QEvent.Type.KeyPress, KEYS.Key_Ampersand, ALT, 9 + digit, 0, 0, "&")
    QApplication.sendEvent(window, event)
    shown = [ident for ident, button in window.rail.buttons.items() if button.isChecked()]
    assert shown == [list(window.rail.buttons)[digit - 1]]


def test_go_to_finds_pages_jacks_and_inputs(hands, window):
    plan = window.desk.plan
    module = next(device for device in plan.devices if device.inputs)
    keyboard = next(device for device in plan.devices if device.jacks)
    for words, selected in (
        (f"input {module.inputs[2].name} {module.name}", f"{module.id}:{module.inputs[2].id}"),
        (f"jack {keyboard.jacks[0].name} {keyboard.name}", f"{keyboard.id}:{keyboard.jacks[0].id}"),
        ("page velocity of pedals", None),
    ):
        hands.strike(KEYS.Key_K, CTRL)
        window.findChildren(GoTo)[-1].line.setText(words)
        hands.strike(KEYS.Key_Return)
        awake(window, hands.qtbot)
        if selected:
            assert window.desk.selection == selected
    assert window.view("pedals").velocity.isVisible()


def test_an_early_enter_gives_no_work_up(hands, window):
    hands.strike(KEYS.Key_Return, CTRL)
    dialog = window.findChildren(WorkOut)[-1]
    for _ in range(3):
        QTest.keyClick(dialog.focusWidget() or dialog, KEYS.Key_Return)
    assert dialog.isVisible()
    hands.qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    dialog.reject()


class Trying(Hands):
    """Whole trials by keys: what is typed into a line counts once, as every key does."""

    def tell(self, line):
        """A device told in a line."""
        self.strike(KEYS.Key_D, CTRL)
        self.enter(line)
        awake(self.window, self.qtbot)

    def enter(self, words):
        """Words typed where the focus is, and Enter."""
        self.strikes += 1
        QTest.keyClicks(QApplication.focusWidget(), words)
        self.strike(KEYS.Key_Return)

    def go_to(self, words):
        self.strike(KEYS.Key_K, CTRL)
        dialog = self.window.findChildren(GoTo)[-1]
        self.strikes += 1
        QTest.keyClicks(dialog.line, words)
        QTest.keyClick(dialog.line, KEYS.Key_Return)
        self.strikes += 1
        awake(self.window, self.qtbot)

    def wish_for(self, words):
        self.strike(KEYS.Key_W, CTRL | SHIFT)
        self.enter(words)
        awake(self.window, self.qtbot)

    def tab_to(self, name, back=False):
        """Tab until the focus is at something."""
        for _ in range(120):
            self.strike(KEYS.Key_Backtab if back else KEYS.Key_Tab)
            focus = QApplication.focusWidget()
            if name in (focus.accessibleName(), getattr(focus, "text", str)()):
                return focus
        raise AssertionError(f"{name} is not reached")

    def choose_on(self, first, more):
        """A thing, and as many after it."""
        self.go_to(first)
        self.window.view("rig").device_page.canvas.setFocus()
        self.strike(KEYS.Key_Right, SHIFT, times=more)

    def work_out(self):
        self.strike(KEYS.Key_Return, CTRL)
        dialog = self.window.findChildren(WorkOut)[-1]
        self.qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=60_000)
        self.strike(KEYS.Key_Return)
        awake(self.window, self.qtbot)
        self.qtbot.waitUntil(lambda: not self.window.desk.pending, timeout=30_000)


@pytest.fixture
def trying(window, qtbot):
    window.documents.new()
    awake(window, qtbot)
    return Trying(window, qtbot)


def test_a_dance_band_by_keys_alone(trying, window, qtbot, monkeypatch, tmp_path):
    desk = window.desk
    trying.tell(
        "Plover: 61 keys from C2, 8 pads notes from C2 channel 1, 9 faders, 8 knobs, 6 buttons, "
        "wheel, lever, sustain jack, expression jack, 8 memory slots, USB"
    )
    trying.tell(
        "Laptop: host that learns, 6 layers with volume each, master, 4 loops on/off, previous "
        "and next patch"
    )
    trying.strike(KEYS.Key_Return)
    trying.strike(KEYS.Key_Left)
    trying.strike(KEYS.Key_Return)
    assert len(desk.plan.cables) == 1
    trying.strike(KEYS.Key_N, CTRL | SHIFT, times=5)
    trying.go_to("device plover")
    trying.strike(KEYS.Key_E, CTRL)
    for first, more, words in (
        ("control fader 1 of plover", 5, "volume"),
        ("control fader 9 of plover", 0, "master"),
        ("control pad 1 of plover", 3, "loop"),
        ("control button 1 of plover", 1, "patch"),
    ):
        trying.choose_on(first, more)
        trying.wish_for(words)
    trying.strike(KEYS.Key_Home, CTRL)
    trying.tab_to("Controllers")
    while QApplication.focusWidget().currentText() != "a memorable run":
        before = QApplication.focusWidget().currentText()
        trying.strike(KEYS.Key_Down)
        assert QApplication.focusWidget().currentText() != before
    trying.work_out()
    moved = {wish.sources[0]: wish.moves for wish in desk.planned.wishes if wish.moves}
    assert moved["plover:fader-6"] == "laptop:layer-6-volume"
    assert moved["plover:pad-4"] == "laptop:loop-4"
    assert moved["plover:button-2"] == "laptop:next-patch"
    sends = desk.planned.devices[0].programs[0].sends
    numbers = {send.control: send.number for send in sends if send.message == "controller"}
    assert [numbers[f"fader-{n}"] for n in range(1, 7)] == list(range(20, 26))
    monkeypatch.setattr(dialogs, "ask_folder", lambda *_: tmp_path)
    trying.go_to("page sheets of cards")
    trying.tab_to("Sheets")
    trying.strike(KEYS.Key_End)
    qtbot.waitUntil(window.view("cards").sheets.save.isEnabled, timeout=60_000)
    trying.tab_to("PDF…", back=True)
    trying.strike(KEYS.Key_Space)
    qtbot.waitUntil(lambda: (tmp_path / "book.pdf").exists(), timeout=60_000)
    assert trying.strikes <= 90, trying.strikes


def test_drums_on_a_hay_cart_by_keys_alone(trying, window, qtbot):
    desk = window.desk
    trying.tell(
        "Skua: drum module, 1 kick input called Kick, 7 dual inputs called "
        "Snare/Tom 1/Tom 2/Tom 3/Tom 4/Aux 1/Aux 2, 2 piezo-switch inputs called Crash 1/Crash 2, "
        "1 three-way input called Ride, hi-hat input called Hat, 16 sounds from 36 channel 10, USB"
    )
    trying.tell("Recorder: recorder that takes all, 1 track")
    trying.strike(KEYS.Key_Return)
    trying.strike(KEYS.Key_Left)
    trying.strike(KEYS.Key_Return)
    trying.strike("4", ALT)
    trying.strike(KEYS.Key_PageDown, CTRL)
    pads = window.view("pads")
    trying.tab_to("Pads to add, in words")
    trying.enter(
        "kick must, snare must, 4 toms, 2 crashes, ride, hat, hat pedal, 2 rubber pads model R, "
        "bell plate"
    )
    assert len(desk.planned.pads) == 14
    trying.tab_to(pads.fit.fit.text(), back=True)
    trying.strike(KEYS.Key_Space)
    qtbot.waitUntil(lambda: pads.fit.found is not None, timeout=60_000)
    trying.tab_to(pads.fit.best.text())
    trying.strike(KEYS.Key_Space)
    assert len(desk.planned.plugs) == 14
    assert {plug.pad for plug in desk.planned.plugs if plug.side} == {
        "rubber-pad-1",
        "rubber-pad-2",
    }
    skua = desk.planned.devices[0]
    trying.go_to("device skua")
    trying.strike(KEYS.Key_E, CTRL)
    trying.choose_on(f"input {skua.inputs[0].name} of skua", 0)
    trying.strike(KEYS.Key_A, CTRL)
    trying.wish_for("rhythm")
    assert len(desk.planned.wishes) == 16
    trying.work_out()
    trying.go_to("action a channel for each drum")
    program = desk.planned.devices[0].programs[0]
    drums = {send.channel for send in program.sends if send.message == "note"}
    assert len(drums) > 8
    trying.go_to("action track list")
    tracks = window.findChildren(TrackList)[-1]
    assert len(tracks.tracks) >= 16
    trying.strike(KEYS.Key_Escape)
    assert trying.strikes <= 80, trying.strikes


@pytest.mark.parametrize(("written", "place"), [(0x042F, 52), (0x0396, 52)])
def test_shortcuts_go_by_the_place_where_a_layout_writes_no_latin(window, written, place):
    """Ctrl with the key that prints Z elsewhere takes back, in a Russian and a Greek layout."""
    before = window.desk.plan
    window.perform(set_device(before.devices[0].id, "Change name", name="Other"))
    window.keys.setFocus()
    QApplication.sendEvent(window, QKeyEvent(QEvent.Type.KeyPress, written, CTRL, place, 0, 0, ""))
    assert window.desk.plan == before


@pytest.mark.parametrize(
    ("written", "place", "key"),
    [(0x0421, 54, KEYS.Key_C), (0x039C, 58, KEYS.Key_M), (ord("C"), 54, KEYS.Key_C)],
)
def test_a_letter_with_ctrl_is_that_of_its_place_where_no_latin_is_written(written, place, key):
    assert key_of(QKeyEvent(QEvent.Type.KeyPress, written, CTRL, place, 0, 0, "")) == key
