"""The page Motion: sources that move by themselves, simulated over time with what they move."""

from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QMenu, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import choose, offer
from vastzone.app.frame.text import Button, add_action, set_tip, unmarked
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import font
from vastzone.app.views.drawing import text
from vastzone.app.views.pedals.graphs import Graph
from vastzone.core.engine.report import Report
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Drive, Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import ref_to
from vastzone.core.response.sources import GRAIN_MS, driven, practice
from vastzone.core.response.sweep import sent_value, slewed, value_at
from vastzone.core.say import say, say_many
from vastzone.desk.moved_controls import MovedTarget, worked
from vastzone.desk.session import Desk

KINDS = (
    (say("Speed of playing"), Drive(kind="speed")),
    (say("Random values"), Drive(kind="random")),
    (say("Row of values"), Drive(kind="steps")),
)
REST_MS = 1500.0


class MotionGraph(Graph):
    """Strikes as ticks below, the source step by step, the target that follows it dashed."""

    aside = 254.0

    def __init__(self) -> None:
        super().__init__(say("Strikes, the source and what follows it"), (say("0 s"), ""))
        self.strikes: Sequence[float] = ()
        self.times: Sequence[float] = ()
        self.source: Sequence[float] = ()
        self.follows: Sequence[float] = ()

    def show_motion(
        self,
        strikes: Sequence[float],
        times: Sequence[float],
        source: Sequence[float],
        follows: Sequence[float],
    ) -> None:
        """Show these: milliseconds, and shares 0–1 at each of ``times``."""
        self.strikes, self.times = strikes, times
        self.source, self.follows = source, follows
        self.ends = (say("0 s"), say("{times:.0f} s", times=times[-1] / 1000) if times else "")
        self.update()

    def draw(self, painter: QPainter, area: QRectF) -> None:
        """Ticks, steps, dashes, and which is which."""
        colours, whole = THEME.colours, self.times[-1] if self.times else 1.0
        inner = area.adjusted(0, 10, 0, -24)

        def place(at: float, share: float) -> QPointF:
            return QPointF(
                inner.left() + at / whole * inner.width(), inner.bottom() - share * inner.height()
            )

        painter.setPen(QPen(QColor(colours.muted), 1.4))
        for at in self.strikes:
            x = place(at, 0.0).x()
            painter.drawLine(QPointF(x, area.bottom() - 16), QPointF(x, area.bottom() - 4))
        for values, colour, dashed in (
            (self.source, QColor(colours.action), False),
            (self.follows, QColor(colours.caution), True),
        ):
            line = QPolygonF([place(t, v) for t, v in zip(self.times, values, strict=False)])
            pen = QPen(colour, 2)
            if dashed:
                pen.setDashPattern([3, 2])
            painter.setPen(pen)
            painter.drawPolyline(line)
        small = font(colours.text_px - 3)
        over = QRectF(area.right() - 250, area.top() - 20, 250, 16)
        text(painter, over, say("— source"), colours.action, small)
        text(
            painter, over.adjusted(70, 0, 0, 0), say("- - what follows it"), colours.caution, small
        )
        text(painter, over.adjusted(196, 0, 0, 0), say("| strikes"), colours.muted, small)


class MotionPage(QWidget):
    """Which source, over which strikes; its motion; what it is told in the facts."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._begun = 0.0
        self._heard: list[float] = []
        self.menus: dict[str, QMenu] = {}
        self._offered: tuple[Device, ...] | None = None
        self.strikes: Sequence[float] = practice()
        self.graph, self.words = MotionGraph(), quiet("")
        self.source: QComboBox = CalmCombo()
        self.source.setAccessibleName(say("Source"))
        self.source.currentIndexChanged.connect(self._choose)
        self.record, self.practice = Button(say("Record strikes")), Button(say("Practice strikes"))
        self.record.setCheckable(True)
        set_tip(self.record, say("Press, play on any key or pad, press again"))
        self.record.toggled.connect(self._record)
        self.practice.clicked.connect(lambda: self._play(practice()))
        self.add = Button(say("Add a source to"))
        bar, box = QHBoxLayout(), QVBoxLayout(self)
        for widget in (self.source, self.practice, self.record):
            bar.addWidget(widget)
        bar.addStretch()
        bar.addWidget(self.add)
        box.setContentsMargins(14, 0, 14, 8)
        box.setSpacing(7)
        box.addLayout(bar)
        box.addWidget(self.graph, 1)
        box.addWidget(self.words)
        desk.stage.struck.connect(self._struck)

    def refresh(self) -> None:
        """Show the sources of the plan as it is now, and what the chosen one does."""
        choices = [
            (say("{c} of {d}", c=c.name, d=d.name), ref_to(d.id, c.id)) for d, c in self._sources()
        ]
        wanted = choices or [(say("Try: {name}", name=name.lower()), name) for name, _ in KINDS]
        offer(self.source, wanted)
        choose(self.source, self._desk.selection)
        self._offer_sources()
        self._show()

    def _sources(self) -> list[tuple[Device, Control]]:
        sources = []
        for device in self._desk.plan.devices:
            for control in device.controls:
                if control_ability(control).moving:
                    sources.append((device, control))
        return sources

    def _offer_sources(self) -> None:
        """The menu of sources that can be added; another one only where the devices changed."""
        owners = tuple(device for device in self._desk.plan.devices if device.programs)
        if owners == self._offered:
            return
        before, self._offered = self.add.menu(), owners
        menu = QMenu(self)
        self.menus = {}
        for owner in owners:
            under = self.menus[owner.id] = QMenu(unmarked(owner.name), menu)
            menu.addMenu(under)
            for name, drive in KINDS:
                add_action(under, name, partial(self._add, owner, name, drive))
        self.add.setMenu(menu)
        if before is not None:
            before.deleteLater()

    def _add(self, owner: Device, name: str, drive: Drive) -> None:
        ident = lookup.free_id(lookup.ids_of(owner.controls), name)
        self._perform(add_source(owner.id, ident, name, drive))
        self._desk.select(ref_to(owner.id, ident))
        self.refresh()

    def _choose(self) -> None:
        ref = self.source.currentData() or ""
        if ":" in ref:
            self._desk.select(ref)
        self._show()

    def _record(self, on: bool) -> None:
        if on:
            self._heard, self._begun = [], now_ms()
            self.words.setText(say("Play on any key or pad, then press again."))
        else:
            self._play([t - self._begun for t in self._heard])

    def _struck(self, report: Report) -> None:
        if self.record.isChecked() and report.velocity > 0:
            self._heard.append(now_ms())

    def _play(self, strikes: Sequence[float]) -> None:
        self.strikes = strikes
        self._show()

    def _show(self) -> None:
        """Simulate the chosen source over the strikes."""
        ref = self.source.currentData() or ""
        control = next((c for d, c in self._sources() if ref_to(d.id, c.id) == ref), None)
        drive = (control.drive or Drive()) if control else dict(KINDS).get(ref, Drive())
        end = (self.strikes[-1] if self.strikes else 0.0) + REST_MS
        times = [n * GRAIN_MS for n in range(int(end / GRAIN_MS) + 1)]
        values = driven(drive, self.strikes, times)
        moves = next(
            (
                worked_control.moves
                for worked_control in worked(self._desk)
                if worked_control.ref == ref
            ),
            (),
        )
        follows, words = followed(moves, times, values)
        self.graph.show_motion(self.strikes, times, [value / 127 for value in values], follows)
        top = max(values, default=0)
        said = say(
            "{strikes}; the source goes up to {top}.",
            strikes=say_many("{count} strike", "{count} strikes", len(self.strikes)),
            top=top,
        )
        hint = (
            "" if control else say(" Add it to the device that makes it, then wish what it moves.")
        )
        self.words.setText(said + words + hint)


def followed(
    moves: Sequence[MovedTarget], times: Sequence[float], values: Sequence[int]
) -> tuple[list[float], str]:
    """What the first target moved makes of a source, as shares 0–1, and where it ends up."""
    if not moves:
        return [], ""
    send, target = moves[0].send, moves[0].target
    sent = [sent_value(send, value / 127) / 127 for value in values]
    out = slewed(times, sent, target.rise_ms, target.fall_ms)
    high = value_at(target, max(out, default=0.0))
    return out, say(
        " {target} follows up to {high:.4g} {unit}", target=target.name, high=high, unit=target.unit
    ).rstrip() + "."


def add_source(device: str, ident: str, name: str, drive: Drive) -> Edit:
    """A source in a device, silent in every program until it is wished to move something."""

    def inside(owner: Device) -> Device:
        control = Control(id=ident, name=name, kind="source", drive=drive)
        programs = tuple(
            changed(program, sends=(*program.sends, Send(control=ident, message="none")))
            for program in owner.programs
        )
        return changed(owner, controls=(*owner.controls, control), programs=programs)

    return edit_device(device, say("Add {name}", name=name.lower()), inside)
