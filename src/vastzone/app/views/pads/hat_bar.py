"""The pedal of a hi-hat: trodden by mouse or keys, with what the hat sounds as it stands."""

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QSizePolicy, QVBoxLayout

from vastzone.app.clock import now_ms
from vastzone.app.drawn import Drawn, with_words
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.reader import Element, Role
from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.engine.named_sounds import named_sounds
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.triggers import HatState
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.hats import Hat, hats_of
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.say import say
from vastzone.core.text import listed
from vastzone.desk.session import Desk

DOWN, STEP = 127.0, 8.0
KNOB, SLIM, OVER = 11.0, 7.0, 4.0
WORDS: dict[HatState, str] = {
    "open": say("open"),
    "half": say("half open"),
    "closed": say("closed"),
}


class PedalTrack(Drawn):
    """From up to down: where the hat is open, half open and closed, and where the foot is."""

    trodden = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.hat: Hat | None = None
        self.position = 0.0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        bound(self, "MinimumHeight", 36)
        self.setAccessibleName(say("Hat pedal"))
        set_tip(
            self,
            say(
                "Drag to tread. Left and Right move it, Space stamps, Home lifts it, End "
                "presses it."
            ),
        )

    def show_hat(self, hat: Hat | None, position: float) -> None:
        """Show a hat with its pedal at 0 (up) – 127 (down)."""
        self.hat, self.position = hat, position
        if hat is not None:
            self.setAccessibleDescription(
                say(
                    "{state}, {position:.0f} of 127",
                    state=WORDS[hat.state(position)],
                    position=position,
                )
            )
        self.update()

    def _track(self) -> QRectF:
        return QRectF(KNOB + 2, 6, self.width() - 2 * KNOB - 4, self.height() - 12)

    def _x(self, position: float) -> float:
        track = self._track()
        return track.left() + track.width() * position / DOWN

    def paintEvent(self, event: QPaintEvent) -> None:
        """The three stretches with their names, then the foot."""
        painter, colours = self.painter(), THEME.colours
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.hat is not None:
            for number, (state, first, last) in enumerate(stretches(self.hat)):
                self._paint_stretch(painter, state, first, last, number)
            track = self._track().adjusted(0, -OVER, 0, OVER)
            handle = QRectF(self._x(self.position) - SLIM / 2, track.top(), SLIM, track.height())
            painter.setPen(QPen(QColor(colours.raised), 1.5))
            painter.setBrush(QColor(colours.action))
            painter.drawRoundedRect(handle, SLIM / 2, SLIM / 2)
            if self.hasFocus():
                painter.setPen(QPen(QColor(colours.action), 1.4))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRoundedRect(self.rect().adjusted(1, 1, -1, -1), 8, 8)
        painter.end()

    def elements(self) -> list[Element]:
        """The foot: how far it is down, and what that makes of the hat."""
        if self.hat is None:
            return []
        state = WORDS[self.hat.state(self.position)]
        about = ", ".join(f"{WORDS[name]} {one}–{two}" for name, one, two in stretches(self.hat))
        value = say("{state}, {position:.0f} of 127", state=state, position=self.position)
        told = Element("pedal", say("Hat pedal"), self._track(), Role.Slider, value, about, True)
        return with_words([told], self.said)

    def _paint_stretch(
        self, painter: QPainter, state: HatState, first: int, last: int, number: int
    ) -> None:
        colours, track = THEME.colours, self._track()
        left, right = self._x(max(0, first - 0.5)), self._x(min(DOWN, last + 0.5))
        here = QRectF(left, track.top(), right - left, track.height())
        on = self.hat is not None and self.hat.state(self.position) == state
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(mixed(colours.action, colours.raised, 0.28 if on else 0.06 * number))
        painter.drawRoundedRect(here, 6, 6)
        words = f"{WORDS[state]} {first}–{last}" if here.width() > 110 else WORDS[state]
        face = bold(colours.text_px - 2) if on else font(colours.text_px - 2)
        text(painter, here, words, colours.ink, face, Qt.AlignmentFlag.AlignHCenter)

    def _tread(self, x: float) -> None:
        track = self._track()
        share = (x - track.left()) / max(1.0, track.width())
        self.trodden.emit(round(DOWN * min(1.0, max(0.0, share))))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Tread there."""
        if event.button() is Qt.MouseButton.LeftButton:
            self._tread(event.position().x())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Follow the foot."""
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._tread(event.position().x())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move it; Space stamps, Home lifts it, End presses it down."""
        key = Qt.Key(event.key())
        moves = {Qt.Key.Key_Left: -STEP, Qt.Key.Key_Right: STEP}
        ends = {Qt.Key.Key_Home: 0.0, Qt.Key.Key_End: DOWN, Qt.Key.Key_Space: DOWN}
        if key in moves:
            self.trodden.emit(min(DOWN, max(0.0, self.position + moves[key])))
        elif key in ends and not event.isAutoRepeat():
            self.trodden.emit(ends[key])
        elif key not in ends:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        """The foot comes up after a stamp."""
        if event.key() == Qt.Key.Key_Space:
            if not event.isAutoRepeat():
                self.trodden.emit(0.0)
        else:
            super().keyReleaseEvent(event)


def stretches(hat: Hat) -> list[tuple[HatState, int, int]]:
    """The states of a hat with the first and last pedal position of each, from up to down."""
    found: list[tuple[HatState, int, int]] = []
    for position in range(128):
        state = hat.state(position)
        if found and found[-1][0] == state:
            found[-1] = (state, found[-1][1], position)
        else:
            found.append((state, position, position))
    return found


class HatBar(QFrame):
    """A pedal for each hat of a device, and what bow and edge sound as it stands."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._hat: Hat | None = None
        self.setProperty("role", "card")
        box = QVBoxLayout(self)
        box.setContentsMargins(12, 6, 12, 6)
        box.setSpacing(3)
        row = QHBoxLayout()
        row.setSpacing(8)
        self.name = Label()
        self.track = PedalTrack()
        self.choke = Button(say("Choke"))
        set_tip(self.choke, say("A hand at the edge: what rings stops"))
        self.said = Elided("muted")
        for widget in (self.name, self.track, self.choke):
            row.addWidget(widget, 1 if widget is self.track else 0)
        box.addLayout(row)
        box.addWidget(self.said)
        self.track.trodden.connect(self._tread)
        self.choke.clicked.connect(self._choke)
        desk.stage.sounding.connect(self.tell)

    def show_device(self, owner: Device | None) -> None:
        """Show the hat of a device that is selected, else its first; nothing without one."""
        hats = hats_of(self._desk.plan, owner) if owner is not None else ()
        chosen = [hat for hat in hats if self._desk.selection in (*hat.struck, hat.ref)]
        self._hat = (*chosen, *hats)[0] if hats else None
        self.setVisible(self._hat is not None)
        self.tell()

    def tell(self) -> None:
        """Say what the hat sounds with its pedal where it is."""
        hat = self._hat
        if hat is None or self.isHidden():
            return
        owner = lookup.find(self._desk.plan.devices, device_of(hat.ref))
        if owner is None or hat not in hats_of(self._desk.plan, owner):
            return
        position = self._desk.stage.hats.position(hat)
        self.name.setText(say("{jack} pedal", jack=hat.jack.name))
        self.track.show_hat(hat, position)
        said = [f"{WORDS[hat.state(position)].capitalize()}"]
        for where in ("bow", "edge"):
            control = hat.heard.get((where, hat.state(position)), "")
            if control and where in hat.struck.values():
                said.append(say("{where} sounds {sound}", where=where, sound=self._sound(control)))
        ringing = self._desk.stage.hats.ringing(hat)
        if ringing:
            said.append(
                say("rings: {sound}", sound=listed(self._sound(control) for control in ringing))
            )
        self.said.show_text(" · ".join(said))

    def _sound(self, control: str) -> str:
        names = named_sounds(self._desk.compiled, (control, 1))
        if names:
            return names[0]
        owner = lookup.device(self._desk.plan, control.partition(":")[0])
        return say(
            "nothing ({by_id})",
            by_id=lookup.by_id(owner.controls, thing_of(control), "control").name,
        )

    def _tread(self, position: float) -> None:
        if self._hat is not None:
            self._desk.stage.tread(self._hat, position, now_ms())
            self.tell()

    def _choke(self) -> None:
        if self._hat is not None:
            self._desk.stage.choke(self._hat, now_ms())
            self.tell()
