"""The page Travel: a recorded sweep of the chosen control, what it tells, what to set."""

from pathlib import Path

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.views.pedals.graphs import TravelGraph
from vastzone.core.engine.report import Report
from vastzone.core.errors import EditError, PlanError
from vastzone.core.midi.wide import MOVING
from vastzone.core.plan.edits import pedals
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.sends import edit_sends
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.response.travel import (
    Sweep,
    Travel,
    calibrated,
    examine,
    simulated_pedal,
    steadied,
)
from vastzone.core.say import number, say
from vastzone.desk.session import Desk
from vastzone.files.tables import read_sweep

SIMULATED = ((0, 127, 0.0, 0.0), (127, 0, 0.02, 0.8), (14, 108, 0.08, 1.2), (58, 76, 0.0, 0.5))


class TravelPage(QWidget):
    """Sources above, the sweep before and after, what it tells in words."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._seed, self._begun = 0, 0.0
        self._heard: list[tuple[float, int]] = []
        self.found: Travel | None = None
        self.graph, self.words = TravelGraph(), Label()
        self.words.setWordWrap(True)
        self.words.setProperty("role", "small")
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 0, 14, 8)
        box.setSpacing(7)
        bar = QHBoxLayout()
        self.record = Button(say("Record a sweep"))
        self.record.setCheckable(True)
        set_tip(self.record, say("Press, move slowly from heel to toe, press again"))
        self.record.toggled.connect(self._record)
        self.simulate = Button(say("Simulated pedal"))
        set_tip(
            self.simulate, say("Good, reversed, with dead ends, mismatched: one after the other")
        )
        self.simulate.clicked.connect(self._simulate)
        self.file = Button(say("From a file…"))
        set_tip(self.file, say("A MIDI file, or a CSV with the columns travel and value"))
        self.file.clicked.connect(self._ask)
        self.use = Button(say("Calibrate"))
        set_tip(self.use, say("Set the jack, or else what the chosen control sends, to this sweep"))
        self.use.clicked.connect(self._use)
        for button in (self.record, self.simulate, self.file):
            bar.addWidget(button)
        bar.addStretch()
        bar.addWidget(self.use)
        box.addLayout(bar)
        box.addWidget(self.graph, 1)
        box.addWidget(self.words)
        desk.stage.struck.connect(self._struck)
        self.show_sweep(())

    def _record(self, on: bool) -> None:
        if on:
            self._heard, self._begun = [], now_ms()
            self.words.setText(
                say("Move the chosen pedal slowly from heel to toe, then press again.")
            )
            return
        whole = max(1.0, now_ms() - self._begun)
        self.show_sweep(tuple(Sweep((at - self._begun) / whole, v) for at, v in self._heard))

    def _struck(self, report: Report) -> None:
        if self.record.isChecked() and report.key is None:
            self._heard.append((now_ms(), report.velocity))

    def _simulate(self) -> None:
        heel, toe, dead, noise = SIMULATED[self._seed % len(SIMULATED)]
        self._seed += 1
        self.show_sweep(tuple(simulated_pedal(self._seed, heel, toe, dead, noise)))

    def _ask(self) -> None:
        path = dialogs.ask_sweep(self)
        if path is not None:
            self.read(path)

    def read(self, path: Path) -> None:
        """Read a sweep; what is wrong with the file is said in the words."""
        try:
            self.show_sweep(read_sweep(path))
        except PlanError as error:
            self.words.setText(str(error))

    def show_sweep(self, samples: tuple[Sweep, ...]) -> None:
        """Examine a sweep and show what it tells."""
        self.found = None
        self.graph.show_points((), ())
        self.use.setEnabled(False)
        if not samples:
            self.words.setText(
                say("A slow sweep tells the sense, the ends, the wiper and the noise.")
            )
            return
        try:
            self.found = examine(samples)
        except EditError as error:
            self.graph.show_points([(sample.travel, sample.value) for sample in samples], ())
            self.words.setText(str(error))
            return
        steady = steadied([sample.value for sample in sorted(samples)], self.found.hysteresis)
        after = []
        for s, v in zip(sorted(samples), steady, strict=True):
            after.append((s.travel, calibrated(self.found, v)))
        self.graph.show_points([(sample.travel, sample.value) for sample in samples], after)
        self.words.setText(travel_words(self.found))
        self.use.setEnabled(self.found.wiper == "right")

    def _use(self) -> None:
        """Set the chosen control to the sweep."""
        device, control = read_ref(self._desk.selection)
        owner = lookup.find(self._desk.plan.devices, device)
        if self.found is None or owner is None or all(c.id != control for c in owner.controls):
            self.words.setText(say("Choose the pedal on the page Controls first."))
            return
        self._perform(calibrated_to(owner, control, self.found))
        self.use.setEnabled(False)


def calibrated_to(owner: Device, control: str, travel: Travel) -> Edit:
    """A sweep put to use: in its jack where that can be calibrated, else in what is sent."""
    jack = next((j for j in owner.jacks if j.control == control and j.calibrated), None)
    if jack is not None:
        ends = (travel.low, travel.high)
        heel, toe = ends[::-1] if travel.sense == "reversed" else ends
        return pedals.set_jack(
            ref_to(owner.id, jack.id),
            say("Calibrate jack"),
            heel=heel,
            toe=toe,
            hysteresis=travel.hysteresis,
        )

    def suit(send: Send) -> Send:
        if send.control != control or send.message not in MOVING:
            return send
        turned = travel.sense == "reversed"
        low, high = (send.high, send.low) if turned else (send.low, send.high)
        return changed(send, low=low, high=high, starts=travel.low, ends=travel.high)

    return edit_sends(owner.id, say("Calibrate"), suit)


def travel_words(travel: Travel) -> str:
    """What a sweep tells, and what to set."""
    sense = say("runs backwards") if travel.sense == "reversed" else say("runs the right way")
    ends = say("{heel} at the heel, {toe} at the toe", heel=travel.heel, toe=travel.toe)
    dead = say(
        "{dead_heel:.0%} of the travel does nothing at the heel, {dead_toe:.0%} at the toe",
        dead_heel=travel.dead_heel,
        dead_toe=travel.dead_toe,
    )
    said = [
        say(
            "It {sense}: {ends}; {dead}; it jitters by {noise:.1f} steps.",
            sense=sense,
            ends=ends,
            dead=dead,
            noise=travel.noise,
        )
    ]
    if travel.wiper == "mismatched":
        where = say(
            " at {leap} of the travel", leap=", ".join(number(leap, ".0%") for leap in travel.leaps)
        )
        said.append(
            say("It leaps{where}: ", where=where)
            if travel.leaps
            else say("It moves over a stub of its range: ")
        )
        said[-1] += say("its wiper is probably on the wrong contact of the plug.")
    else:
        turn = say(", turned round") if travel.sense == "reversed" else ""
        still = (
            say(", and ignore moves of up to {hysteresis} steps", hysteresis=travel.hysteresis)
            if travel.hysteresis
            else ""
        )
        said.append(
            say(
                "Set its input range to {low}–{high}{turn}{still}.",
                low=travel.low,
                high=travel.high,
                turn=turn,
                still=still,
            )
        )
    return " ".join(said)
