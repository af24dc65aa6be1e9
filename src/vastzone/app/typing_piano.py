"""The computer keyboard as two rows of piano keys."""

from PySide6.QtCore import QObject, Qt, QTimer
from PySide6.QtGui import QGuiApplication, QKeyEvent
from PySide6.QtWidgets import QApplication, QWidget

from vastzone.app.clock import now_ms
from vastzone.app.piano_places import STEPS, place_of, printed
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.desk.session import Desk
from vastzone.desk.signal import Signal

TYPING = ("QLineEdit", "QAbstractSpinBox", "QComboBox", "QPlainTextEdit", "QAbstractItemView")
SOFT, LOUD = 84, 116
PLAIN = (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier)
WATCH_MS = 60


class TypingPiano(QObject):
    """Plays the selected keybed (else the first) with keys that no widget wanted for itself.

    Keys count by where they lie, whatever is printed on them.  The lower row begins on C, Shift
    strikes harder.  The window hands it the keys that reach it.  While keys are down it watches
    whether their release can still come.
    """

    def __init__(self, desk: Desk, window: QWidget) -> None:
        super().__init__(window)
        self._desk, self._window = desk, window
        self.octave = 4
        self._down: dict[int, tuple[str, int]] = {}
        self._printed = printed(QGuiApplication.inputMethod().locale().language())
        self.labelled = False
        self.relabelled = Signal("other letters on the keys")
        self._watch = QTimer(self)
        self._watch.setInterval(WATCH_MS)
        self._watch.timeout.connect(self._look)

    def press(self, event: QKeyEvent) -> bool:
        """Strike the key of the piano that a key of the computer stands for; whether it does."""
        if event.modifiers() not in PLAIN or _is_typing():
            return False
        place = place_of(event.nativeScanCode(), event.key())
        bed, key = chosen_bed(self._desk), self.octave * 12 + STEPS.get(place, -999)
        if key < 0 or key > 127 or not bed:
            return False
        self._learn(place, event.text())
        if not event.isAutoRepeat() and place not in self._down:
            hard = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._down[place] = (bed, key)
            self._watch.start()
            self._desk.stage.press(bed, key, LOUD if hard else SOFT, now_ms())
        return True

    def release(self, event: QKeyEvent) -> bool:
        """Let go what that key struck; whether it had struck anything."""
        place = place_of(event.nativeScanCode(), event.key())
        if place not in self._down:
            return False
        if not event.isAutoRepeat():
            self._desk.stage.release(*self._down.pop(place), now_ms())
        return True

    def _learn(self, place: int, said: str) -> None:
        """What a key writes is printed on it, more surely than what a language tells."""
        letter = said.upper()
        if letter.strip() and self._printed.get(place) != letter:
            self._printed[place] = letter
            self.relabelled.emit()

    def label_keys(self) -> None:
        """Show which key of the computer plays which of the piano, or no longer."""
        self.labelled = not self.labelled
        self.relabelled.emit()

    def labels(self) -> tuple[str, dict[int, str]]:
        """The keybed that is played, and the letter on each of its keys; none unless asked for."""
        bed, first = chosen_bed(self._desk), self.octave * 12
        if not self.labelled or not bed:
            return "", {}
        return bed, {first + step: self._printed[place] for place, step in STEPS.items()}

    def shift(self, octaves: int) -> None:
        """Play higher or lower from the next strike on."""
        self.octave = max(0, min(9, self.octave + octaves))
        self.relabelled.emit()

    def let_go(self) -> None:
        """Let every key go."""
        self._watch.stop()
        while self._down:
            _, struck = self._down.popitem()
            self._desk.stage.release(*struck, now_ms())

    def _look(self) -> None:
        """A key that goes up while a menu or another window has the keyboard is never heard of."""
        elsewhere = QApplication.activePopupWidget() or QApplication.activeModalWidget()
        if elsewhere or not self._window.isActiveWindow() or not self._down:
            self.let_go()


def _is_typing() -> bool:
    focus = QApplication.focusWidget()
    return focus is not None and any(focus.inherits(name) for name in TYPING)


def chosen_bed(desk: Desk) -> str:
    """The keybed that belongs to what is selected, else the plan's first; empty without any."""
    beds = lookup.keybeds(desk.plan)
    device, thing = read_ref(desk.selection)
    for owner, bed in beds:
        if owner.id == device:
            program = lookup.program_in(desk.scene, owner)
            zones = program.zones if program else ()
            lies_there = any(zone.id == thing and zone.keybed == bed.id for zone in zones)
            if lies_there or thing == bed.id or len(owner.keybeds) == 1:
                return ref_to(owner.id, bed.id)
    return ref_to(beds[0][0].id, beds[0][1].id) if beds else ""
