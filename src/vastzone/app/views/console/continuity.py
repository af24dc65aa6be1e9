"""The page Continuity: every wire in order, one large prompt at a time, ticked by strike."""

from PySide6.QtCore import QModelIndex, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.drawn import Drawn
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import REF, RowList
from vastzone.app.frame.text import Button, Label
from vastzone.app.reader import Element, Role
from vastzone.app.views.console.matrix import MatrixCanvas, paint_swatch
from vastzone.app.views.console.shared import Bench
from vastzone.core.console.faults import fault_words
from vastzone.core.console.finder import rank
from vastzone.core.console.scan import scan
from vastzone.core.console.trial_words import heard_words
from vastzone.core.console.trials import ContactStrike, Evidence, Probe, predict
from vastzone.core.console.wires import WireRow, wire_list
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many


class Colour(Drawn):
    """A large patch of a wire’s colour."""

    def __init__(self) -> None:
        super().__init__()
        self.name = ""
        bound(self, "FixedWidth", 72)
        bound(self, "FixedHeight", 72)

    def elements(self) -> list[Element]:
        """The colour in words."""
        place = QRectF(self.rect())
        return [Element("colour", say(self.name) or say("no colour"), place, Role.StaticText)]

    def paintEvent(self, event: QPaintEvent) -> None:
        """The patch."""
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_swatch(painter, QRectF(self.rect()).adjusted(2, 2, -2, -2), self.name)
        painter.end()


class ContinuityPage(QWidget):
    """The wire asked for, in large letters; Good and Open, or a strike of the key itself."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.at = 0
        self.wires: tuple[WireRow, ...] = ()
        self.group, self.wire, self.ends = Label(), Label(), Label()
        self.colour, self.words, self.left = Colour(), quiet(""), quiet("")
        self.matrix = MatrixCanvas(bench)
        self.group.setProperty("role", "heading")
        self.wire.setProperty("role", "scene")
        self.ends.setProperty("role", "title")
        for label in (self.wire, self.ends):
            label.setWordWrap(True)
        self.good, self.open = Button(say("It conducts")), Button(say("It is open"))
        self.back, self.skip = Button(say("Back")), Button(say("Later"))
        self.resume = Button(say("Next one untested"))
        self.simulate = Button(say("Ask the simulated console"))
        self.good.setProperty("role", "primary")
        self.good.clicked.connect(lambda: self.answer(True))
        self.open.clicked.connect(lambda: self.answer(False))
        self.back.clicked.connect(lambda: self.go(-1))
        self.skip.clicked.connect(lambda: self.go(1))
        self.resume.clicked.connect(self.next_open)
        self.simulate.clicked.connect(self.ask_simulated)
        for button in (self.good, self.open):
            bound(button, "MinimumWidth", 170)
            bound(button, "MinimumHeight", 50)
        top, row, more, box = QHBoxLayout(), QHBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        column = QVBoxLayout()
        column.addWidget(self.group)
        column.addWidget(self.wire)
        column.addWidget(self.ends)
        top.addWidget(self.colour, 0, Qt.AlignmentFlag.AlignTop)
        top.addSpacing(10)
        top.addLayout(column, 1)
        for widget in (self.good, self.open):
            row.addWidget(widget)
        row.addStretch()
        for widget in (self.back, self.skip, self.resume, self.simulate):
            more.addWidget(widget)
        more.addStretch()
        box.setContentsMargins(20, 10, 14, 8)
        box.setSpacing(11)
        box.addLayout(top)
        box.addWidget(self.words)
        box.addLayout(row)
        box.addLayout(more)
        box.addWidget(self.left)
        self.to_mend, self.mend = quiet(""), RowList(say("Wires to mend"))
        bound(self.mend, "MaximumHeight", 110)
        self.mend.clicked.connect(self._again)
        self.mend.activated.connect(self._again)
        box.addWidget(self.to_mend)
        box.addWidget(self.mend)
        box.addWidget(self.matrix, 1)
        bench.held_changed.connect(self._struck)

    @property
    def failed(self) -> dict[str, str]:
        """The wires that are still to be mended, by id, with what came of the test."""
        return {each.wire: each.how for each in self._bench.console.failed}

    @property
    def asked(self) -> WireRow | None:
        """The wire that is asked for; None where there is none."""
        return self.wires[self.at] if 0 <= self.at < len(self.wires) else None

    def refresh(self) -> None:
        """Show the wires as they are now; begin at the first that is not tested."""
        owner, console = self._bench.owner, self._bench.console
        if owner is None:
            return
        wires = wire_list(owner, console)
        if [wire.id for wire in wires] != [wire.id for wire in self.wires]:
            self.wires = wires
            self.next_open()
        self.wires = wires
        self._show()

    def next_open(self) -> None:
        """Go to the next wire that is neither tested nor found open, from the start again."""
        tested = set(self._bench.console.tested) | set(self.failed)
        order = [*range(self.at, len(self.wires)), *range(self.at)]
        self.at = next((n for n in order if self.wires[n].id not in tested), len(self.wires))
        self._show()

    def _again(self, index: QModelIndex) -> None:
        """A wire that is mended is tested again."""
        number = index.data(REF)
        if isinstance(number, int):
            self.at = number
            self._show()

    def go(self, steps: int) -> None:
        """On or back."""
        self.at = max(0, min(len(self.wires), self.at + steps))
        self.words.setText("")
        self._show()

    def _show(self) -> None:
        wire, console = self.asked, self._bench.console
        tested = set(console.tested) & lookup.ids_of(self.wires)
        for widget in (self.good, self.open, self.simulate):
            widget.setEnabled(wire is not None)
        if wire is None:
            self.group.setText("")
            self.wire.setText(say("Every wire has been asked for"))
            self.ends.setText("")
            self.colour.name = ""
        else:
            self.group.setText(
                say(
                    "{group}, wire {at} of {count}",
                    group=wire.group,
                    at=self.at + 1,
                    count=len(self.wires),
                )
            )
            self.wire.setText(
                say("Wire {number}, {colour}", number=wire.number, colour=say(wire.colour))
            )
            if wire.key >= 0:
                self.ends.setText(
                    say("Strike {source}  ({dest})", source=wire.source, dest=wire.dest)
                )
            else:
                self.ends.setText(f"{wire.source}  →  {wire.dest}")
            self.colour.name = wire.colour
            if wire.key >= 0:
                self._bench.point(self._contact(wire))
        self.colour.update()
        left = len(self.wires) - len(tested)
        said = say(
            "{count} of {wires} conduct, {left} are left.",
            count=len(tested),
            wires=say_many("{count} wire", "{count} wires", len(self.wires)),
            left=left,
        )
        self.left.setText(said)
        failed = self.failed
        lines = []
        for number, one in enumerate(self.wires):
            if one.id in failed:
                what = one.source if one.key >= 0 else f"{one.source} → {one.dest}"
                lines.append((f"{one.number} {one.colour}: {what}: {failed[one.id]}", number))
        self.mend.show_lines(lines)
        self.mend.setVisible(bool(lines))
        self.to_mend.setVisible(bool(lines))
        self.to_mend.setText(
            say(
                "{wires} to mend: press one to test it again",
                wires=say_many("{count} wire", "{count} wires", len(lines)),
            )
        )

    def _contact(self, wire: WireRow) -> int:
        circuit = self._bench.circuit
        return circuit.contact(circuit.block(wire.block), wire.key)

    def answer(self, conducts: bool) -> None:
        """Tick the wire that is asked for, or note that it is open; go on."""
        wire, owner = self.asked, self._bench.owner
        if wire is None or owner is None:
            return
        if conducts:
            self._perform(consoles.tick(owner.id, wire.id, "tested", True))
        else:
            self._perform(consoles.failed(owner.id, wire.id, "open"))
        self.go(1)

    def ask_simulated(self) -> None:
        """Let the simulated console answer."""
        wire, circuit, state = self.asked, self._bench.circuit, self._bench.state
        if wire is None:
            return
        if wire.key >= 0:
            self._judge(self._contact(wire))
            return
        block = circuit.block(wire.block)
        if circuit.wire(block, wire.place) is not None:
            self.answer(predict(circuit, state, Probe("wire", block, wire.place)) == "closed")
        else:
            self.words.setText(say("It has no pins yet: assign them first."))

    def _struck(self) -> None:
        wire = self.asked
        if not self.isVisible() or wire is None or wire.key < 0 or len(self._bench.held) != 1:
            return
        (index,) = self._bench.held
        if index == self._contact(wire):
            self._judge(index)
        else:
            self.words.setText(
                say("Another one was struck: {source} is asked for.", source=wire.source)
            )

    def _judge(self, index: int) -> None:
        """Tick a contact that reports itself; else say what came, and what it looks like."""
        owner, console, circuit = self._bench.owner, self._bench.console, self._bench.circuit
        wire, state = self.asked, self._bench.state
        if owner is None or wire is None:
            return
        hits = scan(circuit, state, (index,)) - scan(circuit, state, ())
        contact = circuit.contacts[index]
        if hits == {(contact.block, contact.number)}:
            self.words.setText("")
            self.answer(True)
            return
        came = heard_words(owner, console, circuit, hits)
        causes = rank(circuit, [Evidence(ContactStrike((index,)), frozenset(hits))])
        looks = fault_words(owner, console, causes[0].faults[0]) if causes else ""
        self.words.setText(
            say(
                "{source} gave {came}. It looks as if: {looks}.",
                source=wire.source,
                came=came,
                looks=looks,
            )
        )
        self._perform(consoles.failed(owner.id, wire.id, came))
        self._show()
