"""Everything by keys alone: strikes are counted, and nothing is pressed with a mouse."""

import pytest
from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from vastzone.app.frame.goto import GoTo
from vastzone.app.frame.work_out import WorkOut

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
    hands.strike(KEYS.Key_Left, CTRL | SHIFT) if desk.plan is before else None
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
