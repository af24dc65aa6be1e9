"""The page Pins: what each block needs, where it is, and the settings as the encoder asks."""

from functools import partial

from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Row, row_of
from vastzone.app.frame.sheets_console import BLOCK, ENCODER
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.views.console.shared import Bench
from vastzone.core.console.circuit import needed, size_of
from vastzone.core.console.pins import Pinning, pin_out, take_pins
from vastzone.core.console.scan import worst_delay_ms
from vastzone.core.console.typed_pins import as_wired, read_pins
from vastzone.core.console.wires import Setup, pins_words, setup
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.consoles import move_block, split_off
from vastzone.core.plan.model.console import Block
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many

COLUMNS = (
    say("Keyboard or stops"),
    say("Contacts"),
    say("Lines by"),
    say("Needs"),
    say("Pins"),
    say("Soldered"),
)
ASKED = (
    say("Keyboard"),
    say("Octave pins"),
    say("Lowest octave"),
    say("Note index"),
    say("Lowest note"),
    say("Diodes lead"),
    say("Channel"),
    say("Pins"),
)


class PinsPage(QWidget):
    """Blocks above, settings below; the pins are worked out at once."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.found: Pinning | None = None
        self.blocks = reading_table(COLUMNS, say("Keyboards and stops with their pins"))
        self.asked = reading_table(ASKED, say("Settings as the encoder asks for them"))
        for table in (self.blocks, self.asked):
            header = table.horizontalHeader()
            header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
            header.setStretchLastSection(True)
        self.blocks.chosen.connect(self._choose)
        self.take, self.encoder = Button(say("Assign pins")), Button(say("Encoder"))
        self.take.setProperty("role", "primary")
        self.take.clicked.connect(self._take)
        set_tip(self.encoder, say("Its pins, pace and limits, in the facts"))
        self.encoder.clicked.connect(self._show_encoder)
        self.words, self.caution = Label(), quiet("")
        self.words.setWordWrap(True)
        self.words.setProperty("role", "small")
        head = Label(say("Settings, as the encoder asks for them"))
        head.setProperty("role", "heading")
        row, box = QHBoxLayout(), QVBoxLayout(self)
        row.addWidget(self.take)
        row.addWidget(self.encoder)
        self.second = Button(say("Second encoder"))
        set_tip(self.second, say("Moves what finds no pins to an encoder of its own"))
        self.second.clicked.connect(self._split)
        row.addWidget(self.second)
        self.up, self.down = Button(say("Up")), Button(say("Down"))
        for button, steps in ((self.up, -1), (self.down, 1)):
            set_tip(button, say("Moves the chosen keyboard; what is soldered keeps its pins"))
            button.clicked.connect(partial(self._move, steps))
            row.addWidget(button)
        self.typed = QLineEdit()
        self.typed.setPlaceholderText(say("As it is wired: Manual 2: 6-11; Pedalboard: 12 14 13"))
        self.typed.setAccessibleName(say("Pins as they are wired"))
        self.typed.setMaxLength(2000)
        set_tip(
            self.typed,
            say(
                "Commons from the lowest octave on, in any order, or wire by wire: common 2: C9. "
                "Without a name they are of the chosen keyboard. What is told is soldered."
            ),
        )
        self.typed.returnPressed.connect(self._as_wired)
        row.addWidget(self.typed, 1)
        box.setContentsMargins(14, 0, 14, 8)
        box.setSpacing(7)
        box.addLayout(row)
        box.addWidget(self.words)
        box.addWidget(self.blocks, 5)
        box.addWidget(head)
        box.addWidget(self.asked, 4)
        box.addWidget(self.caution)

    def refresh(self) -> None:
        """Show the console as it is now."""
        owner, console = self._bench.owner, self._bench.console
        if owner is None:
            return
        self.found = pin_out(owner, console)
        rows = []
        for block in console.blocks:
            pins = pins_words(block.commons) if block.commons else say("none yet")
            line = (
                block.name,
                str(size_of(owner, block)[0]),
                say(block.counts),
                say_many(
                    "{count} common", "{count} commons", needed(owner, block, console.encoder.lines)
                ),
                pins,
                say("yes") if block.soldered else "",
            )
            rows.append(row_of(line, f"{BLOCK}{owner.id}:{block.id}"))
        self.blocks.show_rows(rows)
        number = lookup.program_number(self._bench.desk.scene, owner)
        asked = setup(owner, console, number) if number is not None else ()
        self.asked.show_rows(_asked_row(one) for one in asked)
        plain = console.encoder.asks == "note number"
        for column in (2, 3):
            self.asked.setColumnHidden(column, plain)
        self._say()

    def _say(self) -> None:
        owner, console, pinning = self._bench.owner, self._bench.console, self.found
        assert owner is not None and pinning is not None
        encoder = console.encoder
        delay = worst_delay_ms(self._bench.circuit, encoder)
        said = say(
            "{used} of {commons} common pins are needed, on {lines} note lines; {what} of "
            "{keyboards} keyboards. A key is noticed within {delay:.1f} ms.",
            used=pinning.used,
            commons=encoder.commons,
            lines=encoder.lines,
            what=sum(1 for block in console.blocks if block.keybed),
            keyboards=encoder.keyboards,
            delay=delay,
        )
        if pinning.left_out:
            said += say(
                " {pins} short. ", pins=say_many("{count} pin", "{count} pins", pinning.short)
            ) + " ".join(
                say_many(
                    "{mend}: {count} pin.", "{mend}: {count} pins.", mend.gain, mend=mend.sentence
                )
                for mend in pinning.mends
            )
        self.words.setText(said)
        self.take.setEnabled(
            take_pins(owner, pinning).change(self._bench.desk.plan) != self._bench.desk.plan
        )
        self.second.setVisible(bool(pinning.left_out))
        erases = say("Setting the encoder up erases what it holds: keep its settings first. ")
        self.caution.setText(
            (erases if encoder.erases else "")
            + say(
                "Octaves are numbered as the encoder numbers them; the index is {first_index} "
                "for C.",
                first_index=encoder.first_index,
            )
        )

    def _choose(self) -> None:
        ref = self.blocks.chosen_ref
        if ref:
            self._bench.desk.select(ref)

    def _show_encoder(self) -> None:
        if self._bench.owner is not None:
            self._bench.desk.select(f"{ENCODER}{self._bench.owner.id}")

    @property
    def _block(self) -> Block | None:
        """The chosen block."""
        ident = self.blocks.chosen_ref.rpartition(":")[2]
        return lookup.find(self._bench.console.blocks, ident)

    def _move(self, steps: int) -> None:
        owner, block = self._bench.owner, self._block
        if owner is not None and block is not None:
            self._perform(move_block(owner.id, block.id, steps))

    def _as_wired(self) -> None:
        """Take pins over as they were read off; what is not understood is said, and kept."""
        owner = self._bench.owner
        if owner is None:
            return
        try:
            pins = read_pins(owner, self._bench.console, self.typed.text(), self._block)
        except EditError as error:
            self.words.setText(str(error))
            return
        self._perform(as_wired(owner.id, pins))
        self.typed.clear()

    def _split(self) -> None:
        owner = self._bench.owner
        if owner is None or self.found is None:
            return
        try:
            self._perform(split_off(self._bench.desk.plan, owner.id, self.found.left_out))
        except EditError as error:
            self.words.setText(str(error))

    def _take(self) -> None:
        if self._bench.owner is not None and self.found is not None:
            self._perform(take_pins(self._bench.owner, self.found))


def _asked_row(wanted: Setup) -> Row:
    """The settings of one block, in the order in which the encoder asks for them."""
    index = "" if wanted.note_index is None else str(wanted.note_index)
    return row_of(
        (
            wanted.block,
            str(wanted.commons),
            str(wanted.octave),
            index,
            wanted.name,
            wanted.sense,
            str(wanted.channel),
            wanted.pins,
        )
    )
