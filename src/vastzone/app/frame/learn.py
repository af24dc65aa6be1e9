"""Learning a device: everything is touched once in order, and each strike is shown at once."""

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.key_filter import keeps
from vastzone.app.theme.current import THEME
from vastzone.core.describe.atoms import TimedMessage
from vastzone.core.describe.learning import Taught, awaited, taught, teach, teach_keys
from vastzone.core.describe.simulated import struck_keys, touches, zone_channel
from vastzone.core.describe.striking import Learnt, Run, learn_keys, learn_run
from vastzone.core.midi import pitch
from vastzone.core.midi.controllers import label
from vastzone.core.midi.messages import Message
from vastzone.core.plan.model.controls import Control, Program
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import ControlKind
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk

KEYS = "keys"
TOUCHED: tuple[tuple[str, object], ...] = (
    (say("Everything, in order"), ()),
    (say("Keys: lowest, then highest"), KEYS),
    (say("Pads"), ("pad",)),
    (say("Knobs"), ("knob",)),
    (say("Faders"), ("fader",)),
    (say("Buttons"), ("button",)),
    (say("Foot switches"), ("switch",)),
    (say("Pedals"), ("pedal",)),
    (say("Wheels and levers"), ("wheel", "lever")),
    (say("Stops"), ("stop",)),
)
BANKS = 16
REMARKS = {
    "two messages": say("crosstalk, the second left out"),
    "twice": say("struck twice, counted once"),
    "skipped": say("left {} out before it?"),
    "neighbour": say("a neighbour moved, left out"),
}

COUNTS = {1: "one", 2: "two", 3: "three"}


class LearnDevice(Dialog):
    """Listens while it is open; *Use* says that the device is so."""

    def __init__(
        self, parent: QWidget, desk: Desk, device: Device, describe: Performer, touched: str = ""
    ) -> None:
        super().__init__(parent)
        self._desk, self._device, self._describe = desk, device, describe
        self._heard: list[TimedMessage] = []
        self._silent: list[tuple[str, int]] = []
        self._again: frozenset[str] = frozenset()
        self.run = Run()
        self.touched, self.banks = CalmCombo(), CalmCombo()
        self.touched.setAccessibleName(say("What is touched"))
        self.banks.setAccessibleName(say("Bank that is touched"))
        for words, kinds in TOUCHED:
            self.touched.addItem(words, kinds)
        for number in range(1, BANKS + 1):
            self.banks.addItem(say("Bank {number}", number=number), number)
        self.touched.setCurrentIndex(max(0, self.touched.findText(touched)))
        self.banks.setCurrentIndex(min(desk.bank, BANKS) - 1)
        self.touched.activated.connect(lambda _: self.start_over())
        self.banks.activated.connect(lambda _: self.start_over())
        self.said = quiet("")
        self.table = reading_table(
            (say("Control"), say("Sends"), say("Range"), say("Remarks")), say("What was learned")
        )
        self._lay_out()
        desk.stage.heard.connect(self._hear)
        self._show()

    def _lay_out(self) -> None:
        box = self.begin(say("Learn {device}", device=self._device.name), "", 820, 560)
        self.next = self.heading
        top = QHBoxLayout()
        top.addWidget(self.touched)
        top.addWidget(self.banks)
        top.addStretch()
        self.simulate = Button(say("Touch the simulated one"))
        set_tip(
            self.simulate, say("One control of the device as it is described, as if it were there")
        )
        self.simulate.clicked.connect(self.touch_simulated)
        top.addWidget(self.simulate)
        box.addLayout(top)
        box.addWidget(self.said)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        for column, wide in ((0, 180), (1, 210), (2, 130)):
            self.table.setColumnWidth(column, wide)
        box.addWidget(self.table, 1)
        self.back, again = Button(say("Take back")), Button(say("Start over"))
        self.nothing = Button(say("It sends nothing"))
        self.nothing.clicked.connect(self.skip)
        self.further = Button(say("Again in the next bank"))
        set_tip(
            self.further, say("Keep what was learned, and touch the same ones in their next bank")
        )
        self.further.clicked.connect(self.go_on)
        set_tip(self.back, say("Take the last strike back (Backspace)"))
        self.use = Button(say("Use"))
        self.back.clicked.connect(self.take_back)
        again.clicked.connect(self.start_over)
        self.use.clicked.connect(self._use)
        for button in (self.back, self.nothing, again, self.further, self.simulate):
            button.setAutoDefault(False)
        self.answers(box, say("Close"), self.use, self.back, self.nothing, again, self.further)

    @property
    def bank(self) -> int:
        """The bank that is touched."""
        return int(self.banks.currentData())

    @property
    def kinds(self) -> tuple[ControlKind, ...]:
        """The kinds of control that are touched; all of them where there are none."""
        kinds = self.touched.currentData()
        return () if kinds == KEYS else tuple(kinds)

    @property
    def is_keys(self) -> bool:
        """Whether keys are learned."""
        return bool(self.touched.currentData() == KEYS)

    def done(self, result: int) -> None:
        """Listen no longer: a dialog that is closed is gone."""
        self._desk.stage.heard.disconnect(self._hear)
        super().done(result)

    def start_over(self) -> None:
        """Forget what was struck."""
        self._heard.clear()
        self._silent.clear()
        self._show()

    def take_back(self) -> None:
        """Forget the last strike."""
        if self._silent and self._silent[-1][1] == len(self._heard):
            self._silent.pop()
            self._show()
        elif self.run.learnt:
            del self._heard[self.run.learnt[-1].begun :]
            self._show()
        elif self._heard:
            self.start_over()

    def event(self, event: QEvent) -> bool:
        """Keep Backspace for taking back."""
        return keeps(event, [Qt.Key.Key_Backspace]) or super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Backspace takes the last strike back."""
        if event.key() == Qt.Key.Key_Backspace:
            self.take_back()
        else:
            super().keyPressEvent(event)

    def touch_simulated(self) -> None:
        """What the next control would send, were the described device here."""
        program = self._program()
        if program is None:
            return
        begin = self._heard[-1].at_ms + 1000.0 if self._heard else 0.0
        if self.is_keys:
            beds = self._device.keybeds
            self._heard += struck_keys(beds[0], zone_channel(program), begin) if beds else ()
        else:
            self._touch_next(program, begin)
        self._show()

    def _touch_next(self, program: Program, begin: float) -> None:
        """The next control that sends something; those before it are silent."""
        sending = {}
        for gesture in touches(self._device, program):
            if gesture.bank == self.bank:
                sending[gesture.control] = gesture.messages
        for control in self.known[len(self.run.learnt) :]:
            messages = sending.get(control.id)
            if messages is not None:
                shift = begin - messages[0].at_ms
                self._heard += [each._replace(at_ms=each.at_ms + shift) for each in messages]
                return
            self._silent.append((control.id, len(self._heard)))

    def skip(self) -> None:
        """The next control sends nothing when it is touched."""
        place = len(self.run.learnt)
        if place < len(self.known):
            self._silent.append((self.known[place].id, len(self._heard)))
            self._show()

    @property
    def silent(self) -> frozenset[str]:
        """The controls that send nothing."""
        return frozenset(control for control, _ in self._silent)

    @property
    def known(self) -> tuple[Control, ...]:
        """The controls of the device that are touched, in their order, without silent ones."""
        controls = awaited(self._device, self.kinds, self.bank, self._again)
        return tuple(control for control in controls if control.id not in self.silent)

    def _program(self) -> Program | None:
        return lookup.program_in(self._desk.scene, self._device)

    def _hear(self, message: Message, at_ms: float) -> None:
        if self.isVisible():
            self._heard.append(TimedMessage(at_ms, message))
            self._show()

    def _show(self) -> None:
        self.run = learn_run(self._heard)
        if self.is_keys:
            self._show_keys()
        else:
            self._show_controls(self.told)
        self.back.setEnabled(bool(self._heard or self._silent))
        self.nothing.setEnabled(not self.is_keys and len(self.run.learnt) < len(self.known))
        self.simulate.setEnabled(self._program() is not None)
        self.banks.setEnabled(not self.is_keys)
        self.further.setEnabled(bool(self.run.learnt) and not self.is_keys and self.bank < BANKS)

    @property
    def told(self) -> tuple[Taught, ...]:
        """Each control that was touched, with what it sends."""
        one_kind = self.kinds[0] if len(self.kinds) == 1 else None
        return taught(self._device, self.run.learnt, self.known, one_kind)

    def _show_keys(self) -> None:
        keys = learn_keys(self._heard)
        self.use.setEnabled(keys is not None)
        rows = []
        if keys is not None:
            low, high, channel = keys
            span = pitch.span(low, high, self._device.octaves)
            rows.append(
                row_of(
                    (
                        say_many("{count} key", "{count} keys", high - low + 1),
                        say("channel {channel}", channel=channel),
                        span,
                        "",
                    )
                )
            )
        self.table.show_rows(rows)
        struck = len(self.run.learnt)
        words = say("Strike the lowest key.") if not struck else say("Strike the highest key.")
        self.next.setText(words if keys is None else say("The keys are learned."))
        self.said.setText(say("Both ends tell how many keys there are and where they begin."))

    def _show_controls(self, told: tuple[Taught, ...]) -> None:
        rows = [self._row(place, one) for place, one in enumerate(told)]
        self.table.show_rows(rows)
        if rows:
            self.table.scrollTo(self.table.held.index(len(rows) - 1, 0))
        self.use.setEnabled(bool(told or self._silent))
        known = self.known
        left = len(known) - len(told)
        if left > 0:
            self.next.setText(say("Touch {known}", known=known[len(told)].name))
        else:
            self.next.setText(
                say("Touch the next one") if told or not known else say("All are touched")
            )
        self.said.setText(self._advice(left))

    def _advice(self, left: int) -> str:
        to_go = (
            say("{left} to go. ", left=left)
            if left > 0
            else say("What comes beyond is added to the device. ")
        )
        if not self._heard:
            to_go += say("Choose the MIDI input in the menu, or touch the simulated one. ")
        if self.run.taken_back is not None:
            to_go += say("The last one was struck again: it is taken back. ")
        last = self.run.learnt[-1] if self.run.learnt else None
        if last is not None and not last.certain:
            return say("{to_go}It did not let go by itself: press it once more.", to_go=to_go)
        return say("{to_go}Knobs and faders from end to end, buttons once, unhurried.", to_go=to_go)

    def _row(self, place: int, one: Taught) -> Row:
        remarks = []
        for remark in self.run.remarks:
            if remark.place != place:
                continue
            if remark.kind == "same message":
                remarks.append(
                    say("sends what {told} sends already", told=self.told[remark.other].name)
                )
            else:
                count = COUNTS.get(remark.left_out, say("some"))
                remarks.append(REMARKS[remark.kind].format(count))
        name = say("{one} (new {kind})", one=one.name, kind=one.kind) if one.is_new else one.name
        remarked = Cell("; ".join(remarks), colour=THEME.colours.caution)
        return row_of((name, self._sent(one.learnt), _range(one.learnt), remarked))

    def _sent(self, learnt: Learnt) -> str:
        mover = learnt.mover
        if mover.message == "note":
            named = pitch.label(mover.number, self._device.octaves)
        elif mover.message == "controller":
            named = say("controller {label}", label=label(mover.number))
        elif mover.message == "program":
            named = say("program {number}", number=mover.number + self._device.first_program)
        else:
            named = f"{mover.message} {mover.number}" if mover.number else mover.message
        return say("{named}, channel {channel}", named=named, channel=mover.channel)

    def go_on(self) -> None:
        """The same controls in their next bank."""
        touched = frozenset(one.control for one in self.told)
        self._teach()
        self._again = touched
        devices = self._desk.dialled_plan.devices
        self._device = lookup.find(devices, self._device.id) or self._device
        self.banks.setCurrentIndex(self.banks.currentIndex() + 1)
        self.start_over()

    def _teach(self) -> None:
        program = self._program()
        number = program.number if program is not None else None
        self._describe(teach(self._device.id, number, self.told, self.bank, self.silent))

    def _use(self) -> None:
        if self.is_keys:
            keys = learn_keys(self._heard)
            if keys is None:
                return
            bed = self._device.keybeds[0].id if self._device.keybeds else None
            self._describe(teach_keys(self._device, bed, *keys))
        else:
            self._teach()
        self.accept()


def _range(learnt: Learnt) -> str:
    """How far it goes, or how it is pressed."""
    if learnt.endless:
        return say("endless")
    if learnt.pressed:
        return learnt.mode if learnt.certain else f"{learnt.mode}?"
    bits = say(", 14 bits") if learnt.mover.message in ("pair", "rpn", "nrpn", "bend") else ""
    return say("{low:g}–{high:g}{bits}", low=learnt.low, high=learnt.high, bits=bits)
