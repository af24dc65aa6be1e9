"""Learn what pads send: strike them in order, see what went wrong, use it as one step."""

from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.core.midi import pitch
from vastzone.core.midi.controllers import label
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.edit import Edit, edit_program
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.response.learn import Learned, Mistake, Taught, TimedMessage, learn
from vastzone.core.text import many
from vastzone.desk.session import Desk

COLUMNS = ("Pad", "Sends", "Remark")


class LearnPads(Dialog):
    """Listens to the MIDI input while it is open."""

    def __init__(
        self,
        parent: QWidget,
        desk: Desk,
        perform: Performer,
        owner: Device,
        program: int,
        bank: int,
    ) -> None:
        super().__init__(parent)
        self._desk, self._perform = desk, perform
        self._owner, self._program, self._bank = owner, program, bank
        self._pads = [pad for pad in pads_of(owner) if bank <= pad.banks]
        self._heard: list[TimedMessage] = []
        self.learned = Learned((), ())
        set_title(self, "Learn by striking")
        self.resize(720, 480)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        title = Label(f"Strike the {many(len(self._pads), 'pad')} of {owner.name} in order")
        title.setProperty("role", "title")
        title.setWordWrap(True)
        self.said = quiet("")
        self.table = reading_table(COLUMNS, "Pads and what they send")
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        for column, wide in ((0, 120), (1, 170)):
            self.table.setColumnWidth(column, wide)
        for widget in (title, self.said):
            box.addWidget(widget)
        box.addWidget(self.table, 1)
        row = QHBoxLayout()
        again, close = Button("Start over"), Button("Close")
        self.use = Button("Use")
        self.use.setProperty("role", "primary")
        again.clicked.connect(self.start_over)
        close.clicked.connect(self.reject)
        self.use.clicked.connect(self._use)
        row.addWidget(again)
        row.addStretch()
        row.addWidget(close)
        row.addWidget(self.use)
        box.addLayout(row)
        self._desk.stage.heard.connect(self._hear)
        self._show()

    def done(self, result: int) -> None:
        """Listen no longer: a dialog that is closed is gone."""
        self._desk.stage.heard.disconnect(self._hear)
        super().done(result)

    def start_over(self) -> None:
        """Forget what was struck."""
        self._heard.clear()
        self._show()

    def _hear(self, message: Message, at_ms: float) -> None:
        if self.isVisible():
            self._heard.append(TimedMessage(at_ms, message))
            self._show()

    def _show(self) -> None:
        self.learned = learn(self._heard, len(self._pads))
        known = {t.place: t for t in self.learned.pads}
        rows = []
        for n, pad in enumerate(self._pads):
            taught = known.get(n)
            remarks = "; ".join(
                self._words(mistake) for mistake in self.learned.mistakes if mistake.place == n
            )
            rows.append(row_of((pad.name, self._sent(taught), remarks)))
        self.table.show_rows(rows)
        left = len(self._pads) - len(known)
        self.use.setEnabled(bool(known))
        self.said.setText(
            "Choose the MIDI input in the menu, then strike one pad after the other, unhurried."
            if not known
            else f"{many(left, 'pad')} to go, next {self._pads[len(known)].name}."
            if left
            else f"All struck, {many(len(self.learned.mistakes), 'mistake')} to look at."
        )

    def _sent(self, taught: Taught | None) -> str:
        if taught is None:
            return ""
        named = (
            pitch.label(taught.number, self._owner.octaves)
            if taught.kind == "note"
            else f"controller {label(taught.number)}"
        )
        return f"{named}, channel {taught.channel}"

    def _words(self, mistake: Mistake) -> str:
        other = self._pads[mistake.other].name if mistake.other >= 0 else ""
        return {
            "two messages": "two messages from one hit: crosstalk?",
            "twice": "struck twice, counted once",
            "same message": f"sends what {other} sends already",
            "skipped": "a number is left out before it: pad skipped?",
        }[mistake.kind]

    def edit(self) -> Edit:
        """Everything learned as one step."""
        wanted = {self._pads[t.place].id: t for t in self.learned.pads}

        def change(program: Program, _: Device) -> Program:
            sends = []
            for send in program.sends:
                sends.append(
                    _taught(send, wanted.pop(send.control))
                    if send.control in wanted and send.bank == self._bank and not send.layer
                    else send
                )
            for pad, t in wanted.items():
                sends.append(_taught(Send(control=pad, bank=self._bank, message="note"), t))
            return changed(program, sends=tuple(sends))

        return edit_program(self._owner.id, self._program, "Learn pads", change)

    def _use(self) -> None:
        self._perform(self.edit())
        self.accept()


def _taught(send: Send, taught: Taught) -> Send:
    return changed(send, message=taught.kind, channel=taught.channel, number=taught.number)
