"""The computer keyboard as two rows of piano keys."""

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QApplication

from vastzone.app.clock import now_ms
from vastzone.core.plan import lookup
from vastzone.desk.session import Desk

_LOWER = "ZSXDCVGBHNJM"
_UPPER = "Q2W3ER5T6Y7UI9O0P"
STEPS: dict[int, int] = {ord(key): step for step, key in enumerate(_LOWER)}
STEPS |= {ord(key): 12 + step for step, key in enumerate(_UPPER)}
TYPING = ("QLineEdit", "QAbstractSpinBox", "QComboBox", "QPlainTextEdit", "QAbstractItemView")
SOFT, LOUD = 84, 116


class TypingPiano(QObject):
    """Plays the selected keybed (else the first) wherever no text is being typed.

    The lower row begins on C, Page Up and Page Down shift by octaves, Shift strikes harder.
    """

    def __init__(self, desk: Desk, parent: QObject) -> None:
        super().__init__(parent)
        self._desk = desk
        self.octave = 4
        self._down: dict[int, tuple[str, int]] = {}

    def take(self, watched: QObject, event: QEvent) -> bool:
        """Take piano keys, pressed and released, out of the stream of events."""
        assert isinstance(event, QKeyEvent)
        if event.type() is QEvent.Type.KeyRelease:
            return self._release(event)
        return self._press(event)

    def _press(self, event: QKeyEvent) -> bool:
        focus = QApplication.focusWidget()
        typing = focus is not None and any(focus.inherits(name) for name in TYPING)
        busy = typing or QApplication.activePopupWidget()
        plain = event.modifiers() in (
            Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier,
        )  # fmt: skip
        if busy or not plain or QApplication.activeModalWidget():
            return False
        step = {Qt.Key.Key_PageUp: 1, Qt.Key.Key_PageDown: -1}.get(Qt.Key(event.key()))
        if step:
            self.octave = max(0, min(9, self.octave + step))
            return True
        bed, key = self.bed(), self.octave * 12 + STEPS.get(event.key(), -999)
        if key < 0 or key > 127 or not bed:
            return False
        if not event.isAutoRepeat() and event.key() not in self._down:
            hard = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._down[event.key()] = (bed, key)
            self._desk.stage.press(bed, key, LOUD if hard else SOFT, now_ms())
        return True

    def _release(self, event: QKeyEvent) -> bool:
        if event.isAutoRepeat() or event.key() not in self._down:
            return event.key() in self._down
        self._desk.stage.release(*self._down.pop(event.key()), now_ms())
        return True

    def bed(self) -> str:
        """The keybed that is played: the selected one, the selected zone's, or the first."""
        return chosen_bed(self._desk)


def chosen_bed(desk: Desk) -> str:
    """The keybed that belongs to what is selected, else the plan's first; empty without any."""
    beds = lookup.keybeds(desk.plan)
    device, _, thing = desk.selection.partition(":")
    for owner, bed in beds:
        if owner.id == device:
            program = lookup.program_in(desk.scene, owner)
            zones = program.zones if program else ()
            lies_there = any(z.id == thing and z.keybed == bed.id for z in zones)
            if lies_there or thing == bed.id or len(owner.keybeds) == 1:
                return f"{owner.id}:{bed.id}"
    return f"{beds[0][0].id}:{beds[0][1].id}" if beds else ""
