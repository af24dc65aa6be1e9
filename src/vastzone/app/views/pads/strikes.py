"""Strikes recorded, simulated or read from a file; what is true of them, and what to set."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.views.pads.plots import SweepPlot, TimePlot
from vastzone.core.engine.report import Report
from vastzone.core.errors import PlanError
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref
from vastzone.core.response.drummer import play
from vastzone.core.response.strike_settings import into_inputs
from vastzone.core.response.strikes import Analysis, Hit, Settings, analyse, count, keep
from vastzone.core.say import say, say_many
from vastzone.core.text import listed
from vastzone.desk.session import Desk

MASKS = tuple(float(n) for n in range(0, 161, 4))
RATIOS = tuple(n / 50 for n in range(46))
THRESHOLDS = tuple(float(n) for n in range(0, 101, 2))


def _threshold(proposed: Settings, value: float) -> Settings:
    """One threshold for every pad, and nothing else."""
    return Settings(dict.fromkeys(proposed.thresholds, value), 0.0, 0.0)


def _mask(proposed: Settings, value: float) -> Settings:
    """The mask time, with crosstalk as proposed and no threshold."""
    return proposed._replace(thresholds={}, mask_ms=value)


def _ratio(proposed: Settings, value: float) -> Settings:
    """The crosstalk, with the mask time as proposed and no threshold."""
    return proposed._replace(thresholds={}, ratio=value)


def _lowest(proposed: Settings) -> float:
    return min(proposed.thresholds.values(), default=0.0)


class StrikesPage(QWidget):
    """Sources above, the recording, two sweeps, and the settings in words."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._seed = 0
        self._recorded: list[Hit] = []
        self.found: Analysis | None = None
        self.times = TimePlot()
        self.plots = (
            SweepPlot(say("Threshold, lowest"), "", THRESHOLDS, _threshold, _lowest),
            SweepPlot(say("Mask time"), "ms", MASKS, _mask, lambda s: s.mask_ms),
            SweepPlot(say("Crosstalk below"), "×", RATIOS, _ratio, lambda s: s.ratio),
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 0, 14, 6)
        box.setSpacing(6)
        box.addLayout(self._bar())
        box.addWidget(self.times, 4)
        row = QHBoxLayout()
        for plot in self.plots:
            row.addWidget(plot)
        box.addLayout(row, 3)
        self.words = Label()
        self.words.setProperty("role", "small")
        self.words.setWordWrap(True)
        box.addWidget(self.words)
        desk.stage.struck.connect(self._struck)
        self._say_nothing()

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setSpacing(7)
        self.record = Button(say("Record strikes"))
        self.record.setCheckable(True)
        set_tip(self.record, say("Strike the pads, then press again"))
        self.record.toggled.connect(self._record)
        self.simulate = Button(say("Simulated drummer"))
        set_tip(self.simulate, say("A groove with rolls, double triggers and crosstalk"))
        self.simulate.clicked.connect(self._simulate)
        self.file = Button(say("From a CSV…"))
        set_tip(self.file, say("Columns time_ms, pad, peak"))
        self.file.clicked.connect(self._from_file)
        for button in (self.record, self.simulate, self.file):
            bar.addWidget(button)
        bar.addStretch()
        self.use = Button(say("Put into the plan"))
        set_tip(self.use, say("Threshold, mask time and crosstalk of each input that was struck"))
        self.use.setEnabled(False)
        self.use.clicked.connect(self._put)
        bar.addWidget(self.use)
        return bar

    def _put(self) -> None:
        """Set the inputs of the pads that were struck; say which were not found."""
        if self.found is None:
            return
        written = into_inputs(self._desk.plan, self.found.proposed)
        if written.inputs:
            self._perform(written.edit)
        count = say_many("{count} input", "{count} inputs", len(written.inputs))
        told = (
            say("{count} set: the card of the module has them.", count=count)
            if written.inputs
            else say("None set.")
        )
        if written.unknown:
            names = listed(written.unknown, 6)
            told += say(
                " No input is called {names}, and no pad in one: rename them, or the pads.",
                names=names,
            )
        self.words.setText(f"{said(self.found)}\n{told}")

    def _say_nothing(self) -> None:
        self.words.setText(
            say(
                "Record a minute of playing, soft and hard, or let the simulated drummer play: "
                "what "
                "pads send twice and what shakes their neighbours is found, with the settings that "
                "drop it and keep the strokes."
            )
        )

    def _record(self, on: bool) -> None:
        if on:
            self._recorded = []
            self.words.setText(say("Recording: strike the pads, then press again."))
        else:
            self.show_hits(tuple(self._recorded))

    def _struck(self, report: Report) -> None:
        if self.record.isChecked() and report.key is None and report.velocity > 0:
            device, ident = read_ref(report.subject)
            owner = lookup.device(self._desk.plan, device)
            name = lookup.by_id(owner.controls, ident, "control").name
            self._recorded.append(Hit(now_ms(), name, float(report.velocity)))

    def _simulate(self) -> None:
        self._seed += 1
        take = play(self._seed)
        self.show_hits(take.hits)
        if self.found is not None:
            kept = count(take.hits, take.true, self.found.proposed)
            self.words.setText(
                say(
                    "{words}\nAgainst the drummer’s own account: {true} of {strokes} and "
                    "{false} of "
                    "{hits} would come through.",
                    words=self.words.text(),
                    true=kept.true,
                    strokes=say_many("{count} stroke", "{count} strokes", kept.all_true),
                    false=kept.false,
                    hits=say_many("{count} false hit", "{count} false hits", kept.all_false),
                )
            )

    def _from_file(self) -> None:
        from vastzone.files.strikes import read_strikes

        path = dialogs.ask_strikes(self)
        if path is None:
            return
        try:
            self.show_hits(read_strikes(path))
        except PlanError as error:
            dialogs.tell(self, str(error))

    def show_hits(self, hits: tuple[Hit, ...]) -> None:
        """Analyse a recording and show it."""
        self.use.setEnabled(False)
        if not hits:
            self._say_nothing()
            return
        self.found = analysis = analyse(hits)
        self.use.setEnabled(True)
        self.times.found = analysis
        self.times.update()
        for plot in self.plots:
            plot.show_found(analysis)
        self.words.setText(said(analysis))


def said(analysis: Analysis) -> str:
    """What was found and what to set, in words."""
    true, double, cross = (len(analysis.of(kind)) for kind in ("true", "double", "crosstalk"))
    kept = sum(keep(analysis.hits, analysis.proposed))
    thresholds = listed(
        (say("{p} {t:.0f}", p=p, t=t) for p, t in analysis.proposed.thresholds.items()), 8
    )
    return say(
        "{hits}: {strokes}, {triggers}, {cross} by crosstalk. Set the mask time to "
        "{mask_ms:g} ms, crosstalk to {ratio:g}, thresholds: {thresholds}. {kept} hits come "
        "through then.",
        hits=say_many("{count} hit", "{count} hits", len(analysis.hits)),
        strokes=say_many("{count} stroke", "{count} strokes", true),
        triggers=say_many("{count} double trigger", "{count} double triggers", double),
        cross=cross,
        mask_ms=analysis.proposed.mask_ms,
        ratio=analysis.proposed.ratio,
        thresholds=thresholds,
        kept=kept,
    )
