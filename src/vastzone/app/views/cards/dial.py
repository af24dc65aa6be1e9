"""Dial it: one line at a time, large, at the device; a simulated panel stands in for it."""

from collections.abc import Callable
from random import choice

from PySide6.QtCore import QEvent, QSignalBlocker, Qt
from PySide6.QtGui import (
    QKeyEvent,
    QResizeEvent,
)
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.key_filter import keeps
from vastzone.app.views.cards.big_line import BigLine
from vastzone.app.views.cards.page import Cautions
from vastzone.app.views.cards.panel import PanelFace
from vastzone.core.cards.card import Card, CardLine
from vastzone.core.memory.operations import Operation
from vastzone.core.memory.practice import HIDDEN, HiddenFault, SimulatedPanel
from vastzone.core.memory.rig import memory_of
from vastzone.core.midi.controllers import SOFT, SOSTENUTO, SUSTAIN
from vastzone.core.midi.messages import Message
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.core.text import one_line
from vastzone.desk.practice import Practice, shown_for
from vastzone.desk.session import Desk

Ticked = Callable[[CardLine], object]
PEDALS, HALF = (SUSTAIN, SOSTENUTO, SOFT), 64
NEXT = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_PageDown)
"""Keys that go on, those of a page turner too."""
ROOMY = 470
"""From this height on the simulated panel stands there all the time."""


class DialPage(QWidget):
    """One line after the other: Space does it, Backspace goes back, N leaves it for later."""

    def __init__(self, desk: Desk, ticked: Ticked, onward: Callable[[str], object]) -> None:
        super().__init__()
        self._desk, self._ticked, self._onward = desk, ticked, onward
        self.waiting: dict[str, int] = {}
        self.card: Card | None = None
        self.cautions: Cautions = {}
        self.practice: Practice | None = None
        self.skipped: set[Operation] = set()
        self.warned: Operation | None = None
        self._down = False
        desk.stage.heard.connect(self._heard)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(say("What is dialled, line by line"))
        self.big = BigLine()
        self.face = PanelFace(self._press)
        self.said = Label("")
        self.said.setWordWrap(True)
        self.said.hide()
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 4, 14, 12)
        box.setSpacing(10)
        box.addWidget(self.big, 1)
        box.addLayout(self._bar())
        box.addWidget(self.said)
        box.addWidget(self.face)

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setSpacing(8)
        self.devices = CalmCombo()
        self.devices.setAccessibleName(say("Device that is dialled"))
        self.devices.activated.connect(lambda _: self._onward(self.devices.currentData()))
        self.later = Button(say("Later"))
        set_tip(self.later, say("Leave this line for later (N)"))
        self.later.clicked.connect(self.skip)
        self.back = Button(say("Back"))
        set_tip(self.back, say("Take the last one back (Backspace)"))
        self.back.clicked.connect(self.take_back)
        self.next = Button(say("Done, next"))
        set_tip(self.next, say("It is dialled (Space)"))
        self.next.setProperty("role", "primary")
        self.next.clicked.connect(self.do)
        self.practise = Button(say("Practise"))
        self.practise.setCheckable(True)
        set_tip(self.practise, say("Dial the simulated device below; nothing of it is kept"))
        self.practise.toggled.connect(self._practise)
        self.fault = CalmCombo()
        self.fault.setAccessibleName(say("What is wrong with the simulated device"))
        self.fault.addItem(say("no fault"), "")
        self.fault.addItem(say("a hidden fault"), "any")
        for hidden in HIDDEN:
            self.fault.addItem(hidden, hidden)
        self.fault.currentIndexChanged.connect(lambda _: self._practise(self.practise.isChecked()))
        self.read = Button(say("Read it back"))
        self.read.clicked.connect(self.read_back)
        for widget in (self.devices, self.back, self.later, self.next):
            bar.addWidget(widget)
        bar.addStretch(1)
        for extra in (self.practise, self.fault, self.read):
            bar.addWidget(extra)
        return bar

    def show_card(
        self, card: Card | None, cautions: Cautions, waiting: dict[str, int] | None = None
    ) -> None:
        """Show the first line of a card that is left; ``waiting`` is what each device has left."""
        self.waiting = waiting or {}
        if self.card is None or card is None or card.device != self.card.device:
            self.skipped.clear()
            self.warned = None
            if self.practice is not None:
                self._stop()
        self.card, self.cautions = card, cautions
        self._show()

    def _current(self) -> Card | None:
        return self.practice.card() if self.practice is not None else self.card

    def line(self) -> CardLine | None:
        """The line to do now."""
        card = self._current()
        waiting = [line for line in card.lines if line.waits] if card is not None else []
        for line in waiting:
            if line.operation not in self.skipped:
                return line
        self.skipped.clear()
        return waiting[0] if waiting else None

    def _show(self) -> None:
        card, line = self._current(), self.line()
        lines = card.lines if card is not None else ()
        done = sum(not one.waits for one in lines)
        left = len(lines) - done
        head = ""
        if card is not None:
            title = next((s.title for s in card.sections if line in s.lines), "")
            head = " · ".join(
                filter(
                    None,
                    (
                        card.name,
                        title,
                        say("{lines} left", lines=say_many("{count} line", "{count} lines", left)),
                    ),
                )
            )
        foot = self._after(line, lines) if line is not None else say("All of it is dialled.")
        self.big.warning = self._warning(line)
        self.big.show_line(head, line, foot, done / len(lines) if lines else 1.0)
        self._show_devices(card)
        following = self._following()
        self.next.setText(
            say("Done, next") if line is not None or not following else say("Next device")
        )
        self.next.setEnabled(line is not None or bool(following))
        self.later.setEnabled(left > 1)
        self.back.setEnabled(self.practice is None and bool(self._desk.held.label))
        practising = self.practise.isChecked()
        for widget in (self.fault, self.read):
            widget.setVisible(practising)
        self.devices.setVisible(not practising)
        self.face.setVisible(practising or self.height() >= ROOMY)
        self._show_panel(line)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """In a low window the panel stands there only for practice."""
        super().resizeEvent(event)
        self.face.setVisible(self.practise.isChecked() or self.height() >= ROOMY)

    def _show_devices(self, card: Card | None) -> None:
        """The devices that have something left, the one that is dialled chosen."""
        with QSignalBlocker(self.devices):
            self.devices.clear()
            for ident, left in self.waiting.items():
                name = lookup.device(self._desk.planned, ident).name
                self.devices.addItem(f"{one_line(name)} ({left})", ident)
            at = self.devices.findData(card.device) if card is not None else -1
            self.devices.setCurrentIndex(at)

    def _following(self) -> str:
        """The next device with something left."""
        here = self.card.device if self.card is not None else ""
        for ident, left in self.waiting.items():
            if left and ident != here:
                return ident
        return ""

    def _after(self, line: CardLine, lines: tuple[CardLine, ...]) -> str:
        waiting = [one for one in lines if one.waits and one.operation != line.operation]
        return (
            say("then: {waiting}", waiting=waiting[0].words)
            if waiting
            else say("This is the last one.")
        )

    def _warning(self, line: CardLine | None) -> str:
        if line is None or line.operation != self.warned:
            return ""
        said = self.cautions.get(line.operation, "")
        return say("{said} Press again to do it all the same.", said=said) if said else ""

    def _show_panel(self, line: CardLine | None) -> None:
        if self.card is None:
            self.face.show_panel(None, ())
            return
        if self.practice is not None:
            panel = self.practice.panel
        else:
            device = lookup.device(self._desk.planned, self.card.device)
            panel = SimulatedPanel(device, memory_of(self._desk.memory, device))
        self.face.show_panel(panel, shown_for(panel.device, panel.truth, line))

    def do(self) -> None:
        """The line is done: on to the next."""
        line = self.line()
        if line is None:
            following = self._following()
            if following and self.practice is None:
                self._onward(following)
            return
        if self.practice is not None:
            self.practice.do(line)
            self._show()
        elif line.operation in self.cautions and self.warned != line.operation:
            self.warned = line.operation
            self._show()
        else:
            self.warned = None
            self._ticked(line)

    def skip(self) -> None:
        """Leave the line for later."""
        line = self.line()
        if line is not None:
            self.skipped.add(line.operation)
            self._show()

    def take_back(self) -> None:
        """Take the last one back."""
        if self.practice is None:
            self._desk.take_back()

    def _heard(self, message: Message, _at: float) -> None:
        """A pedal of any device goes on to the next line: once each time it is pressed."""
        if message.kind != "controller" or message.first not in PEDALS:
            return
        pressed = message.second >= HALF
        if pressed and not self._down and self.isVisible():
            self.do()
        self._down = pressed

    def _press(self, operation: Operation) -> None:
        """A key of the simulated panel: it only acts in practice."""
        if self.practice is None:
            self._tell(say("Press “Practise” to use the simulated panel."))
            return
        self.practice.operate(operation)
        self._show()

    def _tell(self, words: str) -> None:
        """Say something below the buttons; nothing takes no room."""
        self.said.setText(words)
        self.said.setVisible(bool(words))

    def _stop(self) -> None:
        """Another device is shown: the practice is over."""
        self.practice = None
        with QSignalBlocker(self.practise):
            self.practise.setChecked(False)
        self._tell("")

    def _practise(self, on: bool) -> None:
        self.practice = None
        self._tell("")
        if on and self.card is not None:
            device = lookup.device(self._desk.planned, self.card.device)
            self.practice = Practice(self._desk.planned, self._desk.memory, device, self._hidden())
            self._tell(say("Practice: nothing of this is kept."))
        self._show()

    def _hidden(self) -> frozenset[HiddenFault]:
        wanted = self.fault.currentData()
        if wanted == "any":
            return frozenset((choice(HIDDEN),))
        return frozenset(hidden for hidden in HIDDEN if hidden == wanted)

    def read_back(self) -> None:
        """What the simulated device truly holds."""
        if self.practice is None:
            return
        told = self.practice.read_back()
        if told:
            words = " ".join(each.whole for each in told[:3])
            more = say(" And {count} more.", count=len(told) - 3) if len(told) > 3 else ""
            self._tell(
                say("It holds otherwise than you thought. {words}{more}", words=words, more=more)
            )
        elif self.practice.is_over:
            self._tell(say("It holds all of the plan."))
        else:
            self._tell(say("It holds what you thought."))
        self._show()

    def event(self, event: QEvent) -> bool:
        """Keep Space and Backspace from the window's shortcuts."""
        mine = (*NEXT, Qt.Key.Key_Backspace, Qt.Key.Key_PageUp)
        return keeps(event, mine) or super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space or Enter: done; Backspace: back; N: later."""
        key = Qt.Key(event.key())
        if key in NEXT:
            self.do()
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_PageUp):
            self.take_back()
        elif key is Qt.Key.Key_N:
            self.skip()
        else:
            super().keyPressEvent(event)
