"""The walk-through: one large prompt at a time, answered by striking."""

from collections.abc import Callable
from datetime import datetime

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QProgressBar,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.rows import Cell
from vastzone.app.frame.sized import bound
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.core.engine.report import Report
from vastzone.core.plan.edits.log import Result
from vastzone.core.plan.edits.wishes import is_bed
from vastzone.core.proof.walk import Ask, asks
from vastzone.core.proof.words import place_words
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk
from vastzone.desk.walk import Walk

SIGNS: dict[Result, str] = {"pass": "circle-check", "fail": "octagon-alert", "untested": "square"}


class WalkPage(QWidget):
    """Begins, asks, and records."""

    def __init__(self, desk: Desk, perform: Performer, done: Callable[[], object]) -> None:
        super().__init__()
        self._desk, self._perform, self._done = desk, perform, done
        self.walk: Walk | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(say("Walk-through"))
        self._stack = Stack()
        self._stack.add(self._start_page())
        self._stack.add(self._asking_page())
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self._stack)
        desk.stage.struck.connect(self._struck)
        desk.plan_changed.connect(self._follow)
        desk.opened.connect(self._give_up)

    def _start_page(self) -> QWidget:
        page = QWidget()
        box = QVBoxLayout(page)
        self._intro = EmptyState(
            say("Strike everything once"),
            say(
                "You are asked for each control in turn. Strike it on the real rig with a MIDI "
                "input, "
                "or here with the mouse or the computer’s keys. What passes, fails or stays "
                "untested "
                "goes into the plan’s log with its date."
            ),
            say("Begin"),
            self.begin,
        )
        self.begin_button = self._intro.button
        self.scope = CalmCombo()
        self.scope.setAccessibleName(say("Scenes to walk through"))
        self.scope.addItem(say("This scene"), "one")
        self.scope.addItem(say("All scenes"), "all")
        self.by_ear = QCheckBox(say("Ask me what I heard"))
        set_tip(
            self.by_ear, say("After each strike that the plan calls right, say what your ear says")
        )
        row = QHBoxLayout()
        row.addStretch()
        row.addWidget(self.scope)
        row.addSpacing(12)
        row.addWidget(self.by_ear)
        row.addStretch()
        box.addWidget(self._intro, 1)
        box.addLayout(row)
        box.addSpacing(40)
        return page

    def _asking_page(self) -> QWidget:
        page = QWidget()
        box = QHBoxLayout(page)
        box.setContentsMargins(16, 6, 16, 14)
        box.setSpacing(14)
        box.addWidget(self._prompt(), 3)
        self.list = RowList(say("Everything that is asked"))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setTextElideMode(Qt.TextElideMode.ElideRight)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.clicked.connect(lambda index: self._jump(index.row()))
        box.addWidget(self.list, 2)
        return page

    def _prompt(self) -> QWidget:
        card = QFrame()
        card.setProperty("role", "card")
        box = QVBoxLayout(card)
        box.setContentsMargins(22, 18, 22, 16)
        box.setSpacing(8)
        self._bar = QProgressBar()
        self._bar.setTextVisible(False)
        bound(self._bar, "FixedHeight", 8)
        self._where, self._what, self._expected, self._got = (Label() for _ in range(4))
        for label, role in (
            (self._where, "muted"),
            (self._what, "scene"),
            (self._expected, "title"),
            (self._got, "body"),
        ):
            label.setProperty("role", role)
            label.setWordWrap(True)
        box.addWidget(self._bar)
        box.addSpacing(8)
        box.addWidget(self._where)
        box.addWidget(self._what)
        box.addWidget(self._expected)
        box.addSpacing(10)
        box.addWidget(self._got)
        box.addStretch()
        ear = QHBoxLayout()
        self.heard = Button(say("I heard it"))
        self.heard.setProperty("role", "primary")
        self.heard.clicked.connect(lambda: self._confirm(True))
        self.unheard = Button(say("I heard something else"))
        self.unheard.clicked.connect(lambda: self._confirm(False))
        ear.addWidget(self.heard)
        ear.addWidget(self.unheard)
        ear.addStretch()
        box.addLayout(ear)
        box.addLayout(self._buttons())
        return card

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.back, self.skip = Button(say("Back")), Button(say("Next"))
        self.simulate = Button(say("Strike it here"))
        set_tip(self.simulate, say("Simulate the strike that is asked for"))
        self.finish = Button(say("Record and end"))
        self.finish.setProperty("role", "primary")
        self.back.clicked.connect(lambda: self._go(-1))
        self.skip.clicked.connect(lambda: self._go(1))
        self.simulate.clicked.connect(self._strike)
        self.finish.clicked.connect(self._record)
        for button in (self.back, self.skip, self.simulate):
            row.addWidget(button)
        row.addStretch()
        row.addWidget(self.finish)
        return row

    def _follow(self) -> None:
        """What is asked for may have been taken out of the plan."""
        if self.walk is not None:
            self.walk.follow(self._desk.plan)

    def _give_up(self) -> None:
        """What is asked belongs to the plan that was open before."""
        self.walk = None
        self.show_start()

    def show_start(self) -> None:
        """The page from which a walk-through begins."""
        self._stack.show_at(0)

    def begin(self) -> None:
        """Start asking."""
        proof = self._desk.proof
        if proof is None:
            return
        scene = self._desk.scene
        only = (scene.id,) if scene and self.scope.currentData() == "one" else ()
        self.walk = Walk(asks(self._desk.plan, proof, only), self.by_ear.isChecked())
        self.walk.changed.connect(self.show_walk)
        self._stack.show_at(1)
        self.show_walk()
        self.setFocus()

    def _line(self, ask: Ask) -> str:
        many_scenes = len({a.scene for a in self.walk.asks}) > 1 if self.walk else False
        scene = next((s.name for s in self._desk.plan.scenes if s.id == ask.scene), "")
        where = f"{scene}: " if many_scenes else ""
        return f"{where}{place_words(self._desk.plan, ask.place)} → {ask.expected}"

    def _go(self, steps: int) -> None:
        if self.walk is not None:
            self.walk.go(steps)

    def _confirm(self, heard: bool) -> None:
        if self.walk is not None:
            self.walk.confirm(heard)

    def _jump(self, row: int) -> None:
        if self.walk is not None:
            self.walk.go(row - self.walk.at)

    def show_walk(self) -> None:
        """Show what is asked now and what has come of it."""
        walk = self.walk
        if walk is None:
            return
        self._bar.setRange(0, max(1, len(walk.asks)))
        self._bar.setValue(walk.at)
        passed, failed = walk.count("pass"), walk.count("fail")
        count = say(
            "{passed} passed · {failed} failed · {count} untested",
            passed=passed,
            failed=failed,
            count=walk.count("untested"),
        )
        ask = walk.ask
        for button in (self.skip, self.simulate):
            button.setEnabled(ask is not None)
        self.back.setEnabled(walk.at > 0)
        for button in (self.heard, self.unheard):
            button.setVisible(bool(walk.waiting))
        if ask is None:
            self._where.setText(count)
            self._what.setText(say("That was everything."))
            self._expected.setText(say("Record it, or go back to what failed."))
            self._got.setText("")
        else:
            self._show_ask(
                ask,
                say(
                    "{at} of {count} · {total}",
                    at=walk.at + 1,
                    count=len(walk.asks),
                    total=count,
                ),
            )
        self._sign()

    def _show_ask(self, ask: Ask, count: str) -> None:
        walk = self.walk
        assert walk is not None
        plan = self._desk.plan
        if ask.scene and (self._desk.scene is None or self._desk.scene.id != ask.scene):
            self._desk.go_to_scene(ask.scene)
        self._desk.select(ask.place.source)
        self._where.setText(count)
        self._what.setText(say("Strike {place}", place=place_words(plan, ask.place)))
        window = (ask.vel_low, ask.vel_high)
        hard = (
            ""
            if window == (1, 127)
            else say(", at velocity {first}–{last}", first=window[0], last=window[1])
        )
        self._expected.setText(say("Meant: {expected}{hard}", expected=ask.expected, hard=hard))
        answer, colours = walk.answers[walk.at], THEME.colours
        right = "Right: " if answer.real else say("Right, simulated: ")
        words = {"pass": right, "fail": "Not right. ", "untested": ""}[answer.result]
        colour = {"pass": colours.good, "fail": colours.fault}.get(answer.result, colours.muted)
        waiting = (
            say("Should have sounded: {waiting}. Did it?", waiting=walk.waiting)
            if walk.waiting
            else ""
        )
        self._got.setText(waiting or f"{words}{answer.got}" or say("Waiting for a strike …"))
        self._got.setStyleSheet(f"color: {colours.ink if waiting else colour};")

    def _sign(self) -> None:
        walk, colours = self.walk, THEME.colours
        assert walk is not None
        shades = {"pass": colours.good, "fail": colours.fault, "untested": colours.muted}
        signs = {result: icon(SIGNS[result], shades[result], 16) for result in SIGNS}
        lines = []
        for ask, answer in zip(walk.asks, walk.answers, strict=True):
            lines.append(
                (Cell(self._line(ask), icon=signs[answer.result], colour=colours.ink), None)
            )
        self.list.show_lines(lines, at=min(walk.at, len(lines) - 1))

    def _struck(self, report: Report) -> None:
        walk = self.walk
        if walk is None or not self.isVisible() or (report.key is None and report.velocity <= 0):
            return
        real = self._desk.stage.real
        walk.hear(self._desk.plan, report, self._desk.verdict(report), real)
        if real is not None:
            self._desk.struck(report, real)

    def _strike(self) -> None:
        walk = self.walk
        if walk is None or walk.ask is None:
            return
        place, stage = walk.ask.place, self._desk.stage
        velocity = max(walk.ask.vel_low, min(walk.ask.vel_high, 96))
        if is_bed(self._desk.plan, place.source):
            stage.press(place.source, place.low, velocity, now_ms())
            stage.release(place.source, place.low, now_ms())
        else:
            stage.move((place.source, place.bank), 127, now_ms())
            stage.move((place.source, place.bank), 0, now_ms())

    def _record(self) -> None:
        walk = self.walk
        if walk is None:
            return
        self.walk = None
        self._stack.show_at(0)
        tested = say_many(
            "{count} strike", "{count} strikes", walk.count("pass") + walk.count("fail")
        )
        self._perform(walk.edit(datetime.now().isoformat(" ", "minutes")))
        self._intro.tell(
            "Recorded",
            say(
                "{tested} went into the log, {count} failed.",
                tested=tested,
                count=walk.count("fail"),
            ),
        )
        self._done()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter confirms or goes on, the arrows go back and on."""
        key, walk = Qt.Key(event.key()), self.walk
        if walk is None:
            super().keyPressEvent(event)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if walk.waiting:
                walk.confirm(True)
            else:
                walk.go(1)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            walk.go(1 if key is Qt.Key.Key_Right else -1)
        else:
            super().keyPressEvent(event)
