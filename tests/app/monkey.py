"""A monkey at the window: seeded random gestures, and what must hold whatever it does.

``tests.app.monkeys`` lets many of them play, each in a process of its own.
"""

import faulthandler
import random
import time
from collections import Counter
from collections.abc import Callable

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt, QTimer
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QMenu,
    QScrollBar,
    QWidget,
)
from shiboken6 import isValid

from tests.nasty import NAMES
from vastzone.app import dialogs
from vastzone.app.theme.current import THEME
from vastzone.core.midi.messages import Message
from vastzone.files import native

BUTTONS = (Qt.MouseButton.LeftButton,) * 6 + (Qt.MouseButton.RightButton,)
MODIFIERS = (Qt.KeyboardModifier.NoModifier,) * 6 + (
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.AltModifier,
)
KEYS = (
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Return,
    Qt.Key.Key_Space,
    Qt.Key.Key_Delete,
    Qt.Key.Key_Escape,
    Qt.Key.Key_PageDown,
    Qt.Key.Key_PageUp,
    Qt.Key.Key_Tab,
    Qt.Key.Key_Backtab,
    Qt.Key.Key_Home,
    Qt.Key.Key_End,
    Qt.Key.Key_Z,
    Qt.Key.Key_Q,
    Qt.Key.Key_M,
    Qt.Key.Key_5,
)
WEDGE_S, WAITED_S = 1.0, 10.0
"""Seconds of work, and of waiting on a busy machine, after which a gesture counts as a wedge."""
CHECK_EVERY = 100


class Monkey:
    """Plays one window; what goes wrong raises AssertionError with the gestures that led there."""

    def __init__(self, window, seed, wedge_s=WEDGE_S):
        self.wedge_s = wedge_s
        self.window, self.chance = window, random.Random(seed)
        self.done = Counter()
        self.trail = []
        self.longest = 0.0
        self.errors = []
        self._nested = False
        self._waiter = QTimer()
        self._waiter.setInterval(20)
        self._waiter.timeout.connect(self._answer)
        self._weighted = [
            gesture
            for gesture, weight in (
                (self.click, 30),
                (self.drag, 14),
                (self.key, 22),
                (self.wheel, 6),
                (self.press_button, 16),
                (self.type_odd_text, 6),
                (self.choose, 6),
                (self.go_to_view, 8),
                (self.step_scene, 3),
                (self.undo_or_redo, 6),
                (self.menu_action, 5),
                (self.midi, 4),
                (self.resize, 1),
                (self.theme, 1),
                (self.close_dialogs, 3),
                (self.select, 6),
                (self.let_events_run, 6),
                (self.leave_window, 1),
            )
            for _ in range(weight)
        ]

    def play(self, actions):
        """So many gestures, with the laws checked on the way and at the end."""
        self._waiter.start()
        for number in range(actions):
            gesture = self.chance.choice(self._weighted)
            self.trail.append(gesture.__name__)
            begun, at = time.thread_time(), time.monotonic()
            self._nested = True
            faulthandler.dump_traceback_later(WAITED_S)  # tells where it waits so long
            gesture()
            _let_run()
            faulthandler.cancel_dump_traceback_later()
            self._nested = False
            took = time.thread_time() - begun
            waited = time.monotonic() - at - took
            assert waited < WAITED_S, f"{gesture.__name__} waited {waited:.2f} s"
            self.longest = max(self.longest, took)
            assert took < self.wedge_s, f"{gesture.__name__} took {took:.2f} s: {self.trail[-5:]}"
            self.done[gesture.__name__] += 1
            if self.errors:
                return
            if number % CHECK_EVERY == CHECK_EVERY - 1:
                self.check()
        self.check()
        self._waiter.stop()

    def check(self):
        """Undo all the way back and redo to the end; the autosave is the plan."""
        self.close_dialogs()
        desk = self.window.desk
        end, kept = desk.planned, desk._history._entries
        held = desk.memory
        while desk.redo_label:
            desk.redo()
        end = desk.planned
        while desk.undo_label:
            desk.undo()
        assert desk.planned == kept[0].plan, "undo did not lead back to the oldest step kept"
        while desk.redo_label:
            desk.redo()
        assert desk.planned == end, "redo did not lead to the end again"
        assert desk.memory == held, "undo changed what devices hold"
        if desk.autosave():
            copy = desk._autosave.copy
            assert native.read(copy) == desk.planned, "the autosave is another plan"
        assert native.from_json(native.to_json(desk.planned), "here") == desk.planned

    # where hands can be

    def top(self):
        """The window that takes events now: a menu, a dialog, or the main window."""
        return QApplication.activePopupWidget() or QApplication.activeModalWidget() or self.window

    def widgets(self, kind=QWidget):
        top = self.top()
        found = [w for w in top.findChildren(kind) if w.isVisible() and w.isEnabled()]
        return [w for w in found if not w.visibleRegion().isEmpty() and w.window() is top]

    def somewhere(self, kind=QWidget):
        found = self.widgets(kind)
        return self.chance.choice(found) if found else None

    def point(self, widget):
        inside = widget.visibleRegion().boundingRect()
        return QPoint(
            inside.x() + self.chance.randrange(max(1, inside.width())),
            inside.y() + self.chance.randrange(max(1, inside.height())),
        )

    # gestures

    def click(self):
        widget = self.somewhere()
        if widget is None:
            return
        button, mods = self.chance.choice(BUTTONS), self.chance.choice(MODIFIERS)
        click = QTest.mouseDClick if self.chance.random() < 0.1 else QTest.mouseClick
        click(widget, button, mods, self.point(widget))

    def drag(self):
        widget = self.somewhere()
        if widget is None:
            return
        mods = self.chance.choice(MODIFIERS)
        left = Qt.MouseButton.LeftButton
        QTest.mousePress(widget, left, mods, self.point(widget))
        for _ in range(self.chance.randrange(1, 5)):
            if not isValid(widget):  # what was pressed has been deleted meanwhile
                return
            QTest.mouseMove(widget, self.point(widget))
            if self.chance.random() < 0.2:
                QApplication.processEvents()
        if not isValid(widget):
            return
        where = QPoint(-50, -50) if self.chance.random() < 0.1 else self.point(widget)
        QTest.mouseRelease(widget, left, mods, where)

    def key(self):
        target = QApplication.focusWidget() or self.top()
        QTest.keyClick(target, self.chance.choice(KEYS), self.chance.choice(MODIFIERS))

    def wheel(self):
        widget = self.somewhere()
        if widget is None:
            return
        at = QPointF(self.point(widget))
        turned = QPoint(0, self.chance.choice((-120, 120)))
        QApplication.sendEvent(
            widget,
            QWheelEvent(
                at,
                widget.mapToGlobal(at),
                QPoint(),
                turned,
                Qt.MouseButton.NoButton,
                Qt.KeyboardModifier.NoModifier,
                Qt.ScrollPhase.NoScrollPhase,
                False,
            ),
        )

    def press_button(self):
        button = self.somewhere(QAbstractButton)
        if button is not None and button.accessibleName() != "Menu":
            QTest.mouseClick(button, Qt.MouseButton.LeftButton, pos=button.rect().center())

    def type_odd_text(self):
        line = self.somewhere(QLineEdit)
        if line is None or line.isReadOnly():
            return
        line.setFocus()
        line.selectAll()
        line.insert(self.chance.choice(NAMES)[:200])
        QTest.keyClick(line, Qt.Key.Key_Return)

    def choose(self):
        kind = self.chance.choice((QComboBox, QAbstractSpinBox, QScrollBar))
        field = self.somewhere(kind)
        if isinstance(field, QComboBox) and field.count():
            at = self.chance.randrange(field.count())
            field.setCurrentIndex(at)
            field.activated.emit(at)
        elif isinstance(field, QAbstractSpinBox):
            field.stepBy(self.chance.choice((-12, -1, 1, 12)))
        elif isinstance(field, QScrollBar):
            field.setValue(
                self.chance.randint(field.minimum(), max(field.minimum(), field.maximum()))
            )

    def go_to_view(self):
        if self.top() is self.window:
            self.window.show_view(self.chance.choice(list(self.window.rail.buttons)))

    def step_scene(self):
        self.window.desk.step_scene(self.chance.choice((-1, 1)))

    def undo_or_redo(self):
        self.chance.choice((self.window.desk.undo, self.window.desk.redo))()

    def menu_action(self):
        actions = [a for a in self.window.actions_table if a.ident != "quit"]
        if self.top() is self.window:
            self.chance.choice(actions).run()

    def midi(self):
        playing = self.window.playing
        if playing.input is None:
            playing.listen(playing.inputs.stand_in.inputs().inputs[0])
        for _ in range(self.chance.randrange(1, 8)):
            kind = self.chance.choice(
                (
                    "note_on",
                    "note_off",
                    "controller",
                    "program",
                    "bend",
                    "pressure",
                    "poly_pressure",
                )
            )
            top = 16383 if kind == "bend" else 127
            second = 0 if kind in ("program", "bend", "pressure") else self.chance.randint(1, 127)
            playing.inputs.stand_in.keyboard.play(
                Message(kind, self.chance.randrange(16), self.chance.randint(0, top), second)
            )
        playing.step()

    def resize(self):
        self.window.resize(*self.chance.choice(((1024, 700), (1280, 800), (1900, 1000))))

    def theme(self):
        THEME.use(self.chance.choice(("day", "stage")))

    def select(self):
        plan = self.window.desk.plan
        refs = [d.id for d in plan.devices]
        refs += [f"{d.id}:{c.id}" for d in plan.devices for c in (*d.controls, *d.parts)]
        if refs:
            self.window.desk.select(self.chance.choice(refs))

    def let_events_run(self):
        QTest.qWait(self.chance.choice((1, 15)))

    def leave_window(self):
        QApplication.sendEvent(self.window, _deactivated())

    def close_dialogs(self):
        for _ in range(10):
            top = self.top()
            if top is self.window:
                return
            top.close()
            QApplication.processEvents()

    def _answer(self):
        """What runs a loop of its own inside a gesture is answered from here."""
        if not self._nested:
            return
        menu = QApplication.activePopupWidget()
        if isinstance(menu, QMenu):
            offered = [
                a for a in menu.actions() if a.isEnabled() and not a.text().startswith("Quit")
            ]
            if offered and self.chance.random() < 0.5:
                menu.setActiveAction(self.chance.choice(offered))
                QTest.keyClick(menu, Qt.Key.Key_Return)
            if menu.isVisible():
                menu.close()
        elif QApplication.activeModalWidget() is not None and self.chance.random() < 0.3:
            QApplication.activeModalWidget().close()


def _let_run():
    """Events, and what was deleted for later: as the loop of the running program does."""
    QApplication.processEvents()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


def _deactivated():
    return QEvent(QEvent.Type.WindowDeactivate)


def answer_dialogs(patch: Callable[[str, object], object], chance, files):
    """Let the window's questions be answered by chance; ``patch`` sets an attribute of dialogs."""

    def some(*_):
        return chance.choice([*files, None])

    for name in dir(dialogs):
        if name.startswith("ask_"):
            patch(name, lambda *_: None)
    for name in ("ask_open", "ask_midi_file", "ask_strikes", "ask_device", "ask_sweep"):
        patch(name, some)
    for name in ("ask_memory", "ask_table", "ask_compare"):
        patch(name, some)
    patch("ask_initials", lambda *_: chance.choice(("ab", "", None)))
    patch("ask_unsaved", lambda *_: chance.choice(("discard", "cancel")))
    patch("ask_recover", lambda *_: chance.random() < 0.5)
    patch("tell", lambda *_: None)
