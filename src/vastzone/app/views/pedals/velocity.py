"""The page Velocity: a player’s own strikes, soft to hard, and the curve that spreads them."""

from pathlib import Path

from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QVBoxLayout,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.fields import offer
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.views.pedals.graphs import CurveGraph, Histogram
from vastzone.core.engine.report import Report
from vastzone.core.errors import EditError, PlanError, WriteError
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import has_pads
from vastzone.core.plan.refs import device_of, read_ref, thing_of
from vastzone.core.response.touch_fit import (
    FEWEST,
    Fitted,
    by_control,
    curves_of,
    fit_velocity,
    own_curves,
    remains,
    simulated_player,
    table_csv,
    takes_points,
    with_fit,
)
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk
from vastzone.files.tables import write_table

PLAYERS = {
    "heavy": say("heavy hands"),
    "light": say("light hands"),
    "narrow": say("narrow hands"),
}
ON = (
    (say("every pad"), "all"),
    (say("the selected pad"), "selected"),
    (say("chosen pads"), "chosen"),
    (say("each by its own strikes"), "own"),
)
COUNT = 240


class VelocityPage(QWidget):
    """Sources above, histograms before and after with the curve between, what to set."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._seed = 0
        self._struck_values: list[tuple[int | str, int]] = []
        self._by_pad: tuple[tuple[int | str, int], ...] = ()
        self._shown: tuple[int, ...] = ()
        self.found: Fitted | None = None
        self.before, self.after = Histogram(say("As struck")), Histogram(say("As sent"))
        self.curve, self.words = CurveGraph(), Label()
        self.words.setWordWrap(True)
        self.words.setProperty("role", "small")
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 0, 14, 8)
        box.setSpacing(7)
        box.addLayout(self._bar())
        row = QHBoxLayout()
        for graph in (self.before, self.curve, self.after):
            row.addWidget(graph)
        box.addLayout(row, 1)
        box.addLayout(self._use_bar())
        box.addWidget(self.words)
        desk.stage.struck.connect(self._struck)
        self.refresh()

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        self.record = Button(say("Record strikes"))
        self.record.setCheckable(True)
        set_tip(self.record, say("Press, strike softly, middling and hard, press again"))
        self.record.toggled.connect(self._record)
        self.player: QComboBox = CalmCombo()
        self.player.setAccessibleName(say("Simulated player"))
        for kind, hands in PLAYERS.items():
            self.player.addItem(hands, kind)
        self.simulate = Button(say("Simulate"))
        self.simulate.clicked.connect(self._simulate)
        self.export = Button(say("Table as CSV…"))
        self.export.clicked.connect(self._ask)
        self.use = Button(say("Use it"))
        set_tip(self.use, say("The curve itself where the device takes points, else the nearest"))
        self.use.clicked.connect(self._use)
        self.file = Button(say("From a file…"))
        set_tip(
            self.file, say("A MIDI file, by the notes that pads send, or a CSV, by their names")
        )
        self.file.clicked.connect(self._from_file)
        self.on: QComboBox = CalmCombo()
        self.on.setAccessibleName(say("On which pads"))
        for words, which in ON:
            self.on.addItem(words, which)
        self._for: QComboBox = CalmCombo()
        self._for.setAccessibleName(say("Curves of"))
        set_tip(self._for, say("Whose velocity curves come into question"))
        self._for.currentIndexChanged.connect(lambda _: self.show_strikes(self._shown))
        for widget in (self.record, self.file, self.player, self.simulate):
            bar.addWidget(widget)
        bar.addStretch()
        return bar

    def _use_bar(self) -> QHBoxLayout:
        """What becomes of the curve: whose it may be, and on which pads."""
        bar = QHBoxLayout()
        bar.addWidget(self._for)
        bar.addWidget(self.export)
        bar.addStretch()
        bar.addWidget(self.on)
        bar.addWidget(self.use)
        return bar

    def refresh(self) -> None:
        """Offer the curves of the devices that are in the plan now."""
        devices = []
        for device in self._desk.plan.devices:
            if device.curves:
                devices.append(device)
        wanted = [(say("any device"), ""), *((item.name, item.id) for item in devices)]
        if offer(self._for, wanted):
            self.show_strikes(self._shown)

    def _offered(self) -> dict[str, bytes]:
        ident = self._for.currentData()
        owner = lookup.find(self._desk.plan.devices, ident)
        return curves_of(owner) if owner else own_curves()

    def _record(self, on: bool) -> None:
        if on:
            self._struck_values = []
            self.words.setText(say("Strike softly, middling and hard, then press again."))
        else:
            self.show_recorded(tuple(self._struck_values))

    def _struck(self, report: Report) -> None:
        if self.record.isChecked() and report.velocity > 0:
            device, ident = read_ref(report.subject)
            owner = lookup.find(self._desk.plan.devices, device)
            control = lookup.find(owner.controls, ident) if owner is not None else None
            name = control.name if control is not None else ""
            self._struck_values.append((name, report.velocity))

    def _from_file(self) -> None:
        from vastzone.files.strikes import read_velocities

        path = dialogs.ask_velocities(self)
        if path is None:
            return
        try:
            self.show_recorded(read_velocities(path))
        except PlanError as error:
            self.words.setText(str(error))

    def show_recorded(self, strikes: tuple[tuple[int | str, int], ...]) -> None:
        """Fit a curve to strikes of which is known what was struck: a note, or a pad’s name."""
        self.show_strikes(tuple(velocity for _, velocity in strikes))
        self._by_pad = strikes

    def _simulate(self) -> None:
        self._seed += 1
        kind = self.player.currentData()
        self.show_strikes(tuple(simulated_player(kind, COUNT, self._seed)))

    def show_strikes(self, strikes: tuple[int, ...]) -> None:
        """Fit a curve to strikes and show what it does to them."""
        self.found, self._shown, self._by_pad = None, strikes, ()
        self.before.show_values(strikes)
        self.after.show_values(())
        self.curve.show_table(b"", ())
        for button in (self.export, self.use):
            button.setEnabled(False)
        if not strikes:
            self.words.setText(
                say("Some dozen strikes, soft to hard, tell which curve suits a hand.")
            )
            return
        try:
            fitted = self.found = fit_velocity(strikes, offered=self._offered())
        except EditError as error:
            self.words.setText(str(error))
            return
        self.after.show_values([fitted.table[strike] for strike in strikes])
        self.curve.show_table(fitted.table, fitted.curve)
        self.words.setText(
            say(
                "{strikes} between {min_strikes} and {max_strikes} are spread over {table} to "
                "{fitted_table}. Of the curves of {the_for} “{nearest}” comes nearest: {error:.0f} "
                "steps off on average (dashed).",
                strikes=say_many("{count} strike", "{count} strikes", len(strikes)),
                min_strikes=min(strikes),
                max_strikes=max(strikes),
                table=fitted.table[min(strikes)],
                fitted_table=fitted.table[max(strikes)],
                the_for=self._for.currentText(),
                nearest=fitted.nearest,
                error=fitted.error,
            )
        )
        for button in (self.export, self.use):
            button.setEnabled(True)

    def _ask(self) -> None:
        path = dialogs.ask_save_table(self, say("Save table"), "velocity.csv")
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Save the table of 128; what went wrong is said in the words."""
        if self.found is None:
            return
        try:
            write_table(table_csv(self.found.table), path, say("The table"))
        except WriteError as error:
            self.words.setText(str(error))
        else:
            self.words.setText(say("Saved: {path}", path=path.name))

    def _use(self) -> None:
        device = device_of(self._desk.selection)
        owner = lookup.find(self._desk.plan.devices, device)
        if self.found is None:
            return
        if owner is None or not has_pads(owner):
            self.words.setText(say("Choose a device with pads first: strike one of them."))
            return
        fits = self._fits(owner, self.found)
        if not fits:
            self.words.setText(
                say(
                    "No pad is meant: choose pads with Ctrl in Pads, select one, or record "
                    "strikes of "
                    "the pads themselves."
                )
            )
            return
        self._perform(with_fit(owner, fits))
        off = max(remains(owner, found) for found in fits.values())
        how = (
            say("drawn by points")
            if takes_points(owner)
            else say("the nearest that it has by name")
        )
        self.words.setText(
            say(
                "{pads} of {owner}: {how}; at most {off:.1f} steps off on average remain.",
                pads=say_many("{count} pad", "{count} pads", len(fits)),
                owner=owner.name,
                how=how,
                off=off,
            )
        )

    def _fits(self, owner: Device, found: Fitted) -> dict[str, Fitted]:
        """The curve for each pad that is meant."""
        which = self.on.currentData()
        if which == "own":
            return self._own_fits(owner)
        if which == "chosen":
            pads = {thing_of(ref) for ref in self._desk.chosen if device_of(ref) == owner.id}
        elif which == "selected":
            pads = {thing_of(self._desk.selection)} & lookup.ids_of(owner.controls)
        else:
            pads = lookup.ids_of(pads_of(owner))
        return dict.fromkeys(sorted(pads), found)

    def _own_fits(self, owner: Device) -> dict[str, Fitted]:
        """A curve for each pad from its own strikes, where there are enough."""
        program = lookup.program_in(self._desk.scene, owner)
        fits: dict[str, Fitted] = {}
        if program is None:
            return fits
        for pad, velocities in by_control(owner, program, self._by_pad).items():
            if pad and len(velocities) >= FEWEST and min(velocities) < max(velocities):
                fits[pad] = fit_velocity(velocities, offered=curves_of(owner))
        return fits
