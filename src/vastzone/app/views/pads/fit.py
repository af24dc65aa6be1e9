"""The best plugging, worked out beside the window; what it keeps, what it costs, the next best."""

from functools import partial

from PySide6.QtWidgets import (
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QVBoxLayout,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.sheets_pads import PAD
from vastzone.app.frame.text import Button, Label, add_action, set_tip
from vastzone.app.jobs import BackgroundJob
from vastzone.core.cards.plugging import SENSOR_WORDS
from vastzone.core.describe.pads_line import add_pads, read_pads
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.plugs import add_pad, take_over
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.triggers import Sensor, TriggerPad
from vastzone.core.plan.queries import lookup
from vastzone.core.progress import Progress
from vastzone.core.say import say, say_many
from vastzone.core.solve.plugging import Fit, ModuleInput, Plugging, fit
from vastzone.core.text import ALL, capital, listed
from vastzone.desk.session import Desk


def jacks_of(plan: Plan) -> tuple[ModuleInput, ...]:
    """Every input of every module."""
    inputs = []
    for device in plan.devices:
        for socket in device.inputs:
            inputs.append(ModuleInput(device.id, socket))
    return tuple(inputs)


def _fitted(plan: Plan, splitters: bool, next_best: bool, tell: Progress) -> Fit:
    """The best plugging of a plan."""
    return fit(plan.pads, jacks_of(plan), plan.plugs, splitters, next_best, tell)


def plugging_words(plan: Plan, plugging: Plugging) -> str:
    """What a plugging keeps, leaves out and costs, in a sentence or two."""
    names = lookup.names_of(plan.pads)
    zones = sum(map(len, plugging.kept.values()))
    every = sum(len(pad.zones) for pad in plan.pads)
    said = [
        say(
            "{zones} of {many_every} work",
            zones=zones,
            many_every=say_many("{count} zone", "{count} zones", every),
        )
    ]
    if plugging.left_out:
        said.append(
            say("left out: {names}", names=listed(names[ident] for ident in plugging.left_out))
        )
    lost = []
    for ident, gone in plugging.lost(plan.pads).items():
        if ident not in plugging.left_out:
            lost.append(say("{gone} of {names}", gone=listed(gone, ALL), names=names[ident]))
    if lost:
        said.append(say("lost: {lost}", lost=listed(lost)))
    if plugging.splitters:
        said.append(say_many("{count} splitter", "{count} splitters", plugging.splitters))
    if plugging.disturbed:
        altered = listed(names[ident] for ident in plugging.disturbed)
        said.append(say("the foot on a hat’s pedal alters what {altered} sounds", altered=altered))
    said.append(_work_words(plugging))
    if plugging.gap:
        said.append(say("within {gap:.1%} of the best", gap=plugging.gap))
    return "; ".join(said) + "."


def _work_words(plugging: Plugging) -> str:
    """What has to be done behind the modules: plugs moved, plugged in, inputs set to a type."""
    work = []
    if plugging.moves:
        work.append(
            say("{plugs} to move", plugs=say_many("{count} plug", "{count} plugs", plugging.moves))
        )
    if plugging.fresh:
        work.append(say("{fresh} to plug in", fresh=plugging.fresh))
    if plugging.set_anew:
        work.append(
            say(
                "{inputs} to set to another type",
                inputs=say_many("{count} input", "{count} inputs", plugging.set_anew),
            )
        )
    return ", ".join(work) or say("all is plugged so already")


def mend_words(plan: Plan, solved: Fit) -> str:
    """What would help where pads find no input, and what is left to decide, with its price."""
    names = lookup.names_of(plan.pads)
    out = solved.best.left_out
    if not out:
        return ""
    short = say_many("{count} input", "{count} inputs", len(out))
    later = say("a second module linked by MIDI takes them, about 1 ms later on DIN.")
    said = [say("{short} short: {later}", short=short, later=later)]
    for choice in solved.choices:
        gone = []
        for i in choice.plugging.left_out:
            if i not in out:
                gone.append(names[i])
        instead = say(", {gone} out", gone=listed(gone)) if gone else ""
        by = say(", by a splitter") if choice.plugging.splitters > solved.best.splitters else ""
        said.append(
            say(
                "{names} in instead costs {price}{instead}{by}.",
                names=names[choice.pad],
                price=choice.price,
                instead=instead,
                by=by,
            )
        )
    return " ".join(said)


class FitBar(QFrame):
    """Fit, and what came of it."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._aside = BackgroundJob(self)
        self._plan: Plan | None = None
        self.found: Fit | None = None
        self.setProperty("role", "card")
        box = QVBoxLayout(self)
        box.setContentsMargins(12, 8, 12, 8)
        box.setSpacing(5)
        row = QHBoxLayout()
        self.fit = Button(say("Fit pads to inputs"))
        self.fit.setProperty("role", "primary")
        self.fit.clicked.connect(self.start)
        self.splitters = QCheckBox(say("with splitters"))
        self.splitters.setChecked(True)
        self.best, self.following = Button(say("Take the best")), Button(say("Take the next best"))
        self.best.clicked.connect(lambda: self.take(True))
        self.following.clicked.connect(lambda: self.take(False))
        self.add = Button(say("Add a pad"))
        self.add.setMenu(self._menu())
        self.line = QLineEdit()
        self.line.setPlaceholderText(say("Kick, snare, 4 toms, 2 crashes, ride, hat, hat pedal …"))
        self.line.setAccessibleName(say("Pads to add, in words"))
        self.line.setMaxLength(1000)
        set_tip(
            self.line, say("Enter adds them; “snare single”, “2 pads model R” and “spare” count")
        )
        self.line.returnPressed.connect(self._add_told)
        for widget in (self.fit, self.splitters):
            row.addWidget(widget)
        row.addWidget(self.line, 1)
        row.addWidget(self.add)
        for widget in (self.best, self.following):
            row.addWidget(widget)
            widget.hide()
        box.addLayout(row)
        self._words = Label()
        self._words.setProperty("role", "small")
        self._words.setWordWrap(True)
        box.addWidget(self._words)
        self.refresh()

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        for sensor, words in SENSOR_WORDS.items():
            add_action(menu, capital(words), partial(self._add, sensor, words))
        return menu

    def _add(self, sensor: Sensor, words: str) -> None:
        ident = lookup.free_id(lookup.ids_of(self._desk.plan.pads), words)
        pad = TriggerPad(id=ident, name=capital(words), sensor=sensor)
        self._perform(add_pad(pad))
        self._desk.select(f"{PAD}{ident}")

    def _add_told(self) -> None:
        """Add the pads that the line tells of; what is not understood is said, and nothing lost."""
        try:
            pads = read_pads(self.line.text())
        except EditError as error:
            self._words.setText(str(error))
            return
        self._perform(add_pads(pads))
        self.line.clear()

    def refresh(self) -> None:
        """Say how it stands now; a fit of another plan is forgotten."""
        if self._aside.busy or (self.found and self._plan is self._desk.plan):
            return
        self.found = None
        self.best.hide()
        self.following.hide()
        plan = self._desk.plan
        inside = {plug.pad for plug in plan.plugs}
        out = []
        for pad in plan.pads:
            if pad.id not in inside:
                out.append(pad.name)
        count = say(
            "{pads}, {inputs}",
            pads=say_many("{count} pad", "{count} pads", len(plan.pads)),
            inputs=say_many("{count} input", "{count} inputs", len(jacks_of(plan))),
        )
        self._words.setText(
            say("{count}. In no input: {out}.", count=count, out=listed(out))
            if out
            else f"{count}."
        )

    def start(self) -> None:
        """Work the best plugging out; what else could be chosen comes after it."""
        self._plan, self.found = self._desk.plan, None
        self._words.setText(say("Trying every plugging …"))
        self._submit(next_best=False)

    def _submit(self, next_best: bool) -> None:
        plan, splitters = self._desk.plan, self.splitters.isChecked()
        self._aside.start(partial(_fitted, plan, splitters, next_best), self._keep)

    def _keep(self, solved: Fit) -> None:
        first, self.found = self.found is None, solved
        self._show(solved)
        if first and self.found is not None and self._plan is self._desk.plan:
            self._submit(next_best=True)

    def _show(self, solved: Fit) -> None:
        plan = self._plan
        if plan is None or plan is not self._desk.plan:
            self.refresh()
            return
        lines = [say("Best: {plugging}", plugging=plugging_words(plan, solved.best))]
        if solved.following is not None and solved.following.plugs:
            price = solved.best.worth - solved.following.worth
            less = say("worth {price} less", price=price) if price else say("worth as much")
            lines.append(
                say(
                    "Next best, {less}: {plugging}",
                    less=less,
                    plugging=plugging_words(plan, solved.following),
                )
            )
        lines.append(mend_words(plan, solved))
        self._words.setText("\n".join(line for line in lines if line))
        self.best.setVisible(bool(solved.best.plugs))
        self.following.setVisible(solved.following is not None)

    def take(self, best: bool) -> None:
        """Take a plugging over, as one step."""
        solved = self.found
        chosen = solved.best if solved and best else solved.following if solved else None
        if chosen is not None:
            self.found = None
            self._perform(take_over(chosen.plugs, chosen.types))
