"""The page Rehearse: step through the evening by hand, and see how long changes take."""

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QVBoxLayout, QWidget

from vastzone.app.clock import now_ms
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.fields import offer
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.theme.current import THEME
from vastzone.core.cards.setlist import SongRow, step_words
from vastzone.core.engine.report import Report
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.desk.session import Desk

COLUMNS = (say("Song"), say("Presses"), say("Reckoned"), say("Took"), say("What to press"))
TICK_MS = 100


class RehearsePage(QWidget):
    """A clock that runs from each step until its presses are made."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.rows: tuple[SongRow, ...] = ()
        self.at, self.pressed = 0, 0
        self.took: dict[int, float] = {}
        self._begun: float | None = None
        self._clock = QTimer(self)
        self._clock.setInterval(TICK_MS)
        self._clock.timeout.connect(self._show_time)
        self.title, self.to_do, self.time = Label(), Label(), Label()
        self.title.setProperty("role", "scene")
        self.to_do.setProperty("role", "title")
        self.to_do.setWordWrap(True)
        self.time.setProperty("role", "heading")
        self.time.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.next, self.back = Button(say("Next song")), Button(say("Back"))
        self.next.setProperty("role", "primary")
        set_tip(self.next, say("The clock begins; press what is to be pressed, and say so"))
        self.press, self.again = Button(say("Pressed")), Button(say("Restart"))
        set_tip(self.press, say("One press is made; the last one stops the clock"))
        self.stepper = CalmCombo()
        self.stepper.setAccessibleName(say("Stepped by"))
        self.next.clicked.connect(lambda: self.step(1))
        self.back.clicked.connect(lambda: self.step(-1))
        self.press.clicked.connect(self.one_press)
        self.again.clicked.connect(self.start_over)
        self.table = reading_table(COLUMNS, say("Changes as they were rehearsed"))
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(len(COLUMNS) - 1, QHeaderView.ResizeMode.Stretch)
        desk.stage.struck.connect(self._struck)
        self._lay_out()

    def _lay_out(self) -> None:
        box, top, line = QVBoxLayout(self), QHBoxLayout(), QHBoxLayout()
        box.setContentsMargins(16, 6, 14, 10)
        box.setSpacing(9)
        top.addWidget(self.title, 1)
        top.addWidget(self.time)
        for button in (self.next, self.press, self.back, self.again):
            line.addWidget(button)
        line.addStretch()
        by = QHBoxLayout()
        by.addWidget(Label(say("Stepped by")))
        by.addWidget(self.stepper)
        by.addStretch()
        bound(self.stepper, "MinimumWidth", 200)
        box.addLayout(top)
        box.addWidget(self.to_do)
        box.addLayout(line)
        box.addLayout(by)
        box.addWidget(self.table, 1)

    def show_songs(self, rows: tuple[SongRow, ...]) -> None:
        """Show an evening, beginning with the song that is played."""
        self.rows = tuple(row for row in rows if row.scene is not None and not row.spare)
        self.at = min(self.at, max(0, len(self.rows) - 1))
        scene = self._desk.scene
        here = self.rows[self.at].scene if self.rows else None
        if scene is not None and here is not None and here.id != scene.id:
            self.at = self._place_of(scene.id)
        self._offer()
        self._show()

    def _place_of(self, scene: str) -> int:
        for place, row in enumerate(self.rows):
            if row.scene is not None and row.scene.id == scene:
                return place
        return self.at

    def _offer(self) -> None:
        """The controls that may step through the songs."""
        choices: list[tuple[str, object]] = [(say("the keyboard only"), "")]
        for device in self._desk.plan.devices:
            for control in device.controls:
                if control_ability(control).pressed or control.kind == "pedal":
                    words = say("{control} of {device}", control=control.name, device=device.name)
                    choices.append((words, ref_to(device.id, control.id)))
        offer(self.stepper, choices)

    @property
    def chosen_stepper(self) -> str:
        """The control whose press goes on."""
        return str(self.stepper.currentData() or "")

    def _struck(self, report: Report) -> None:
        chosen = self.chosen_stepper
        if chosen and report.subject == chosen and report.velocity > 0 and self.isVisible():
            self.step(1)

    @property
    def presses(self) -> int:
        """How many presses the change to this song takes."""
        row = self.rows[self.at] if self.rows else None
        return row.change.presses if row is not None and row.change is not None else 0

    def step(self, steps: int) -> None:
        """Go to another song; forwards the clock begins to run."""
        if not self.rows:
            return
        to = max(0, min(len(self.rows) - 1, self.at + steps))
        if to == self.at:
            return
        self.at, self.pressed = to, 0
        self._begun = now_ms() if steps > 0 and self.presses else None
        if steps > 0 and not self.presses:
            row = self.rows[to]
            self.took[to] = row.change.ms / 1000 if row.change is not None else 0.0
        scene = self.rows[to].scene
        if scene is not None:
            self._desk.go_to_scene(scene.id)
        if self._begun is not None:
            self._clock.start()
        self._show()

    def one_press(self) -> None:
        """A press is made; the last of them stops the clock, once devices have followed."""
        if self._begun is None:
            return
        self.pressed += 1
        if self.pressed >= self.presses:
            row = self.rows[self.at]
            ms = row.change.ms if row.change is not None else 0.0
            self.took[self.at] = (now_ms() - self._begun + ms) / 1000
            self._begun = None
            self._clock.stop()
        self._show()

    def start_over(self) -> None:
        """The first song, with nothing measured."""
        self.took.clear()
        self._begun = None
        self._clock.stop()
        self.at, self.pressed = 0, 0
        if self.rows and self.rows[0].scene is not None:
            self._desk.go_to_scene(self.rows[0].scene.id)
        self._show()

    def _show(self) -> None:
        plan = self._desk.plan
        rows = []
        for place, row in enumerate(self.rows):
            change = row.change
            took = say("{took:.1f} s", took=self.took[place]) if place in self.took else ""
            presses = str(change.presses) if change is not None and place else ""
            reckoned = (
                say("{seconds:.1f} s", seconds=change.seconds)
                if change is not None and place
                else ""
            )
            steps = change.steps if change is not None and place else ()
            what = "; ".join(step_words(plan, step) for step in steps)
            shade = THEME.colours.action if place == self.at else ""
            cells = (Cell(row.title, colour=shade), presses, reckoned, took, what)
            rows.append(row_of(cells))
        self.table.show_rows(rows)
        self._show_now()

    def _show_now(self) -> None:
        if not self.rows:
            return
        row = self.rows[self.at]
        self.title.setText(row.title)
        left = self.presses - self.pressed if self._begun is not None else 0
        self.press.setEnabled(left > 0)
        self.back.setEnabled(self.at > 0)
        self.next.setEnabled(self.at + 1 < len(self.rows))
        steps = row.change.steps if row.change is not None and self.at else ()
        hands = [step_words(self._desk.plan, step) for step in steps if step.presses]
        self.to_do.setText("\n".join(hands) or say("Nothing to press"))
        self._show_time()

    def _show_time(self) -> None:
        if self._begun is not None:
            ran = (now_ms() - self._begun) / 1000
            self.time.setText(
                say(
                    "{pressed} of {presses} pressed, {ran:.1f} s",
                    pressed=self.pressed,
                    presses=self.presses,
                    ran=ran,
                )
            )
        elif self.at in self.took:
            self.time.setText(say("there after {took:.1f} s", took=self.took[self.at]))
        else:
            self.time.setText("")
