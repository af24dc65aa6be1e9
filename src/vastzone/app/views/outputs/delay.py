"""The page Delay: how late everything is in this scene, what would help, music played through."""

from functools import partial
from pathlib import Path

from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.jobs import BackgroundJob
from vastzone.app.views.outputs.delay_bars import DelayBars
from vastzone.core.delay.bars import bars
from vastzone.core.delay.crowd import FINGERS, crowd, crowded_paths, line_names
from vastzone.core.delay.late_notes import Lateness, play_through
from vastzone.core.delay.paths import delay_paths, hearing_of
from vastzone.core.delay.what_if import WhatIf, as_it_is, what_ifs
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.trace import TraceEntry
from vastzone.core.errors import PlanError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.hearing import forget_hearing, set_hearing
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.progress import Progress
from vastzone.core.say import number, say, say_many
from vastzone.core.text import decimal
from vastzone.core.timing.hops import PLAYABLE_MS
from vastzone.desk.session import Desk
from vastzone.files.midi_file import read_song

WAYS = (
    (say("not said"), ""),
    (say("through the air"), "air"),
    (say("on wired ears"), "wired ears"),
    (say("on wireless ears"), "wireless ears"),
)
HELP = say("Choose a bar to see its pieces. What waits behind others on a DIN line is counted in.")
LATE = (say("At"), say("Part"), say("Note"), say("Late by"), say("Waited"), say("Where"))


class DelayPage(QWidget):
    """Bars of this scene, what-ifs above, how players hear below."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._aside = BackgroundJob(self)
        self._told: tuple[Plan, Scene | None, int] | None = None
        self.tries: tuple[WhatIf, ...] = ()
        self.bars = DelayBars()
        self.bars.chosen.connect(self._tell)
        self.late = reading_table(LATE, say("Late notes"))
        self.what_if = CalmCombo()
        self.what_if.setAccessibleName(say("What if"))
        self.what_if.activated.connect(lambda _: self._show())
        self.keep = Button(say("Keep it"))
        set_tip(self.keep, say("Take what is tried into the plan"))
        self.keep.clicked.connect(self._keep)
        self.fingers = QSpinBox()
        self.fingers.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.fingers.setRange(1, FINGERS)
        bound(self.fingers, "MaximumWidth", 46)
        self.fingers.setValue(FINGERS)
        self.fingers.setAccessibleName(say("Notes at once"))
        self.fingers.valueChanged.connect(lambda _: self.refresh())
        self.play = Button(say("MIDI file…"))
        set_tip(self.play, say("Where and when a piece of music would be late in this scene"))
        self.play.clicked.connect(self._ask)
        self.player, self.by = CalmCombo(), CalmCombo()
        self.player.setAccessibleName(say("Player"))
        self.by.setAccessibleName(say("How the player hears"))
        offer(self.by, WAYS)
        self.metres = QLineEdit()
        self.metres.setAccessibleName(say("Metres of air, or milliseconds"))
        bound(self.metres, "MaximumWidth", 70)
        self._unit = Label("m")
        self.player.activated.connect(lambda _: self._show_hearing())
        self.by.activated.connect(lambda _: self._hear())
        self.metres.editingFinished.connect(self._far)
        self.words = quiet(HELP)
        self.words.setWordWrap(True)
        bound(self.words, "MinimumHeight", 44)
        self._lay_out()

    def _lay_out(self) -> None:
        box, line, below = QVBoxLayout(self), QHBoxLayout(), QHBoxLayout()
        box.setContentsMargins(14, 2, 14, 8)
        box.setSpacing(7)
        line.addWidget(Label(say("What if")))
        line.addWidget(self.what_if, 1)
        line.addWidget(self.keep)
        self._stack = Stack()
        self._stack.add(self.bars)
        self._stack.add(self.late)
        for widget in (self.player, self.by, self.metres, self._unit):
            below.addWidget(widget)
        below.addStretch()
        for more in (Label(say("Notes at once")), self.fingers, self.play):
            below.addWidget(more)
        box.addLayout(line)
        box.addWidget(self._stack, 1)
        box.addWidget(self.words)
        box.addLayout(below)

    def refresh(self) -> None:
        """Show this scene as it is now; what-ifs are worked out beside the window."""
        plan, scene, fingers = self._desk.plan, self._desk.scene, self.fingers.value()
        now = (plan, scene, fingers)
        before = self._told
        same = before is not None and before[0] is plan and before[1:] == now[1:]
        if not same:
            self._told, self.tries = now, (as_it_is(plan, scene, fingers),)
            self._aside.start(partial(_try, plan, scene, fingers), partial(self._tried, now))
        self._offer()
        self._show()
        self._show_players()

    def _tried(self, now: tuple[Plan, Scene | None, int], found: tuple[WhatIf, ...]) -> None:
        if self._told is not None and self._told[0] is now[0] and self._told[1:] == now[1:]:
            self.tries = (self.tries[0], *found)
            self._offer()

    def _offer(self) -> None:
        rows = []
        for place, each in enumerate(self.tries):
            late = (
                say(", {ways} late", ways=say_many("{count} way", "{count} ways", each.late))
                if each.late
                else ""
            )
            crowded = say("{crowded_ms:.1f} with others at once", crowded_ms=each.crowded_ms)
            rows.append(
                (
                    say(
                        "{each}: {worst_ms:.1f} ms, {crowded}{late}",
                        each=each.name,
                        worst_ms=each.worst_ms,
                        crowded=crowded,
                        late=late,
                    ),
                    place,
                )
            )
        at = max(0, self.what_if.currentIndex())
        offer(self.what_if, rows)
        self.what_if.setCurrentIndex(at if at < len(rows) else 0)

    @property
    def _chosen(self) -> WhatIf | None:
        at = self.what_if.currentIndex()
        return self.tries[at] if 0 <= at < len(self.tries) else None

    def _show(self) -> None:
        tried = self._chosen
        plan = tried.plan if tried is not None else self._desk.plan
        compiled = compile_scene(plan, self._desk.scene)
        fingers = self.fingers.value()
        paths = crowded_paths(compiled, fingers) if fingers > 1 else delay_paths(compiled)
        self.bars.show_bars(bars(plan, paths))
        self._stack.show_page(self.bars)
        self.keep.setEnabled(tried is not None and tried.keeps and self.what_if.currentIndex() > 0)
        self._tell()

    def _tell(self) -> None:
        bar = self.bars.current
        if bar is not None:
            self._desk.select(bar.paths[0].source)
            self.words.setText(bar.words)
            return
        self.words.setText(f"{HELP} {self._crowd_words()}")

    def _crowd_words(self) -> str:
        """The busiest line of the crowded moment."""
        plan = self._desk.plan
        together = crowd(compile_scene(plan, self._desk.scene), self.fingers.value())
        if not together.lines:
            return ""
        line = together.lines[0]
        return say(
            "{strokes} at once: the line {line_names} carries {messages} in {busy_ms:.1f} ms.",
            strokes=say_many("{count} stroke", "{count} strokes", together.strokes),
            line_names=line_names(plan, line),
            messages=say_many("{count} message", "{count} messages", line.messages),
            busy_ms=line.busy_ms,
        )

    def _keep(self) -> None:
        tried = self._chosen
        if tried is None:
            return
        wanted = tried.plan
        self.what_if.setCurrentIndex(0)
        self._perform(Edit(say("Keep {tried}", tried=tried.name), lambda _: wanted))

    def _ask(self) -> None:
        path = dialogs.ask_midi_file(self)
        if path is not None:
            self.play_through(path)

    def play_through(self, path: Path) -> None:
        """Play a file by the keys of the first keyboard, or the one that is selected."""
        entry = self._entry()
        if entry is None:
            self.words.setText(say("No keyboard is in the plan that a file could be played on."))
            return
        try:
            song = read_song(path)
        except PlanError as error:
            self.words.setText(str(error))
            return
        compiled = compile_scene(self._desk.plan, self._desk.scene)
        self._show_late(path.name, play_through(compiled, song.events, entry, PLAYABLE_MS))

    def _entry(self) -> TraceEntry | None:
        beds = lookup.keybeds(self._desk.plan)
        wanted = device_of(self._desk.selection)
        for device, bed in beds:
            if device.id == wanted:
                return TraceEntry(device.id, bed.id)
        return TraceEntry(beds[0][0].id, beds[0][1].id) if beds else None

    def _show_late(self, name: str, told: Lateness) -> None:
        plan = self._desk.plan
        rows = []
        for note in told.late:
            owner = lookup.device(plan, device_of(note.part))
            part = lookup.part(owner, thing_of(note.part)).name
            minutes, seconds = divmod(note.at_ms / 1000, 60)
            cells = (
                say("{minutes:.0f}:{seconds:06.3f}", minutes=minutes, seconds=seconds),
                part,
                pitch.label(note.note, owner.octaves),
                say("{ms:.1f} ms", ms=note.ms),
                say("{waited_ms:.1f} ms", waited_ms=note.waited_ms) if note.waited_ms else "",
                note.line,
            )
            rows.append(row_of(cells))
        self.late.show_rows(rows)
        self._stack.show_page(self.late if rows else self.bars)
        self.words.setText(
            say(
                "{name}: {notes}, {mean_ms:.1f} ms on average, {worst_ms:.1f} at worst, "
                "{many_told} "
                "past {playable_ms:g} ms before buffers and ears.",
                name=name,
                notes=say_many("{count} note", "{count} notes", told.notes),
                mean_ms=told.mean_ms,
                worst_ms=told.worst_ms,
                many_told=say_many("{count} note", "{count} notes", len(told.late)),
                playable_ms=PLAYABLE_MS,
            )
        )

    def _show_players(self) -> None:
        names = dict.fromkeys(device.player for device in self._desk.plan.devices if device.player)
        offer(self.player, [(name, name) for name in names] or [(say("no player is named"), "")])
        self._show_hearing()

    def _show_hearing(self) -> None:
        player = str(self.player.currentData() or "")
        heard = hearing_of(self._desk.plan, player)
        self.by.setEnabled(bool(player))
        by = heard.by if heard is not None else ""
        self.by.setCurrentIndex(max(0, self.by.findData(by)))
        shown = heard is not None and heard.by != "wired ears"
        self.metres.setVisible(shown)
        self._unit.setVisible(shown)
        if heard is not None and shown and not self.metres.hasFocus():
            is_air = heard.by == "air"
            self.metres.setText(number(heard.metres if is_air else heard.wireless_ms, "g"))
            self._unit.setText("m" if is_air else "ms")

    def _hear(self) -> None:
        player, by = str(self.player.currentData() or ""), self.by.currentData()
        if player:
            self._perform(set_hearing(player, by=by) if by else forget_hearing(player))

    def _far(self) -> None:
        player = str(self.player.currentData() or "")
        heard = hearing_of(self._desk.plan, player)
        value = decimal(self.metres.text())
        if heard is None or value is None:
            self._show_hearing()
            return
        field = "metres" if heard.by == "air" else "wireless_ms"
        if getattr(heard, field) != value:
            self._perform(set_hearing(player, **{field: value}))


def _try(plan: Plan, scene: Scene | None, fingers: int, tell: Progress) -> tuple[WhatIf, ...]:
    tell(say("What if"), 0.5)
    return what_ifs(plan, scene, fingers)
