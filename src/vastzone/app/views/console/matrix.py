"""The scan matrix: note lines across commons, each crossing with its key."""

from collections import defaultdict
from collections.abc import Hashable
from typing import NamedTuple

from PySide6.QtCore import QLineF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy

from vastzone.app.drawn import Drawn, grown_size, with_words
from vastzone.app.reader import Element
from vastzone.app.theme.colours import legible, mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.console.elements import crossing
from vastzone.app.views.console.shared import Bench
from vastzone.app.views.drawing import text
from vastzone.core.console.scan import Moment, crossings, moments, worst_delay_ms
from vastzone.core.console.wires import RINGED
from vastzone.core.midi import pitch
from vastzone.core.say import say
from vastzone.core.text import listed

LEFT, HEAD = 34.0, 34.0
SLOW_MS = 90


class Cell(NamedTuple):
    """A crossing as it is laid out."""

    place: QRectF
    pin: int
    line: int
    contact: int
    """Its index in the circuit; −1 where there is none."""
    name: str


class MatrixCanvas(Drawn):
    """Point at a crossing and its key lights; crossings that read as closed are filled."""

    stepped = Signal()

    def __init__(self, bench: Bench) -> None:
        super().__init__()
        self._bench = bench
        self.scanned: tuple[Moment, ...] = ()
        self.moment = -1
        self._laid: tuple[Hashable, tuple[Cell, ...]] | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(SLOW_MS)
        self._timer.timeout.connect(self._next)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("Scan matrix: lines across commons"))
        bench.pointed.connect(lambda _: self.update())
        bench.held_changed.connect(self.update)

    def sizeHint(self) -> QSize:
        """Twelve lines."""
        return grown_size(820, 250)

    def minimumSizeHint(self) -> QSize:
        """Twelve lines that can still be read."""
        return grown_size(420, 190)

    def play_scan(self) -> None:
        """Show one scan, common by common, slowly."""
        bench = self._bench
        self.scanned = moments(bench.circuit, bench.state, bench.console.encoder, bench.held)
        self.moment = 0
        self._timer.start()
        self.stepped.emit()
        self.update()

    def _next(self) -> None:
        self.moment += 1
        if self.moment >= len(self.scanned) or not self.isVisible():
            self._timer.stop()
            self.moment = -1
        self.stepped.emit()
        self.update()

    def words(self) -> str:
        """What the scan does at this moment; nothing while none is shown."""
        if not 0 <= self.moment < len(self.scanned):
            return ""
        now = self.scanned[self.moment]
        encoder = self._bench.console.encoder
        worst = worst_delay_ms(self._bench.circuit, encoder)
        read = (
            listed(say("line {line}", line=line + 1) for line in now.lines)
            if now.lines
            else say("no line")
        )
        return say(
            "{at_ms:.2f} ms: drives C{common}, waits {settle_us:g} µs, reads {read}; debounce "
            "{debounce_ms:g} ms, {worst:.1f} ms at worst",
            at_ms=now.at_ms,
            common=now.common + 1,
            settle_us=encoder.settle_us,
            read=read,
            debounce_ms=encoder.debounce_ms,
            worst=worst,
        )

    @property
    def commons(self) -> list[int]:
        """The common pins shown, from 0: all, or those of one block."""
        circuit = self._bench.circuit
        if self._bench.only < 0:
            return list(range(circuit.commons))
        return list(circuit.parts[self._bench.only].commons)

    def cell(self, common: int, line: int) -> QRectF:
        """The place of a crossing by its column and line."""
        wide = (self.width() - LEFT - 16) / max(1, len(self.commons))
        high = (self.height() - HEAD - 6) / max(1, self._bench.circuit.lines)
        return QRectF(LEFT + common * wide, HEAD + line * high, wide, high)

    def contact_at(self, x: float, y: float) -> int:
        """The contact at a point; −1 for none."""
        circuit = self._bench.circuit
        cell = self.cell(0, 0)
        column, line = int((x - LEFT) // cell.width()), int((y - HEAD) // cell.height())
        if x < LEFT or not (0 <= column < len(self.commons) and 0 <= line < circuit.lines):
            return -1
        return self.contact_of(self.commons[column], line)

    def contact_of(self, pin: int, line: int) -> int:
        """The contact on a common pin and a line, from 0; −1 for none."""
        circuit = self._bench.circuit
        hit = circuit.hit(pin, line)
        return circuit.contact(*hit) if hit else -1

    def paintEvent(self, event: QPaintEvent) -> None:
        """Heads, cells, what reads as closed, what is pointed at."""
        painter, c, bench = self.painter(), THEME.colours, self._bench
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(c.paper))
        if bench.owner is None:
            return
        circuit = bench.circuit
        closed = crossings(circuit, bench.state, bench.held)
        driven = self.scanned[self.moment] if 0 <= self.moment < len(self.scanned) else None
        self._heads(painter, driven)
        colours = bench.console.colours
        size = max(8, min(c.text_px - 4, int(self.cell(0, 0).height() * 0.66)))
        face = font(size)
        for line in range(circuit.lines):
            first = self.cell(0, line)
            swatch = QRectF(16, first.center().y() - 4, 9, 9)
            paint_swatch(painter, swatch, colours[line % len(colours)] if colours else "")
            number = QRectF(0, first.top(), 14, first.height())
            text(painter, number, str(line + 1), c.muted, face, Qt.AlignmentFlag.AlignRight)
        fills = self._paint_cells(painter, closed, driven.common if driven is not None else -1)
        for cell, fill in fills:
            if cell.contact >= 0 and cell.place.width() > 20:
                ink = legible(c.ink, fill)
                text(painter, cell.place, cell.name, ink, face, Qt.AlignmentFlag.AlignHCenter)
        painter.end()

    def elements(self) -> list[Element]:
        """Every crossing that has a contact."""
        bench = self._bench
        if bench.owner is None:
            return []
        closed, told = crossings(bench.circuit, bench.state, bench.held), []
        for line in range(bench.circuit.lines):
            for column, pin in enumerate(self.commons):
                index, place = self.contact_of(pin, line), self.cell(column, line)
                if index >= 0:
                    reads = (pin, line) in closed
                    told.append(crossing(bench, index, place, pin, line, reads))
        return with_words(told, self.said)

    def _heads(self, painter: QPainter, driven: Moment | None) -> None:
        colours, bench = THEME.colours, self._bench
        circuit = bench.circuit
        small = font(colours.text_px - 4)
        columns = self.commons
        begun = 0
        for column, pin in enumerate(columns):
            rect = self.cell(column, 0)
            here = driven is not None and driven.common == pin
            head = QRectF(rect.left(), HEAD - 16, rect.width(), 15)
            text(
                painter,
                head,
                f"C{pin + 1}",
                colours.action if here else colours.muted,
                bold(colours.text_px - 4) if here else small,
                Qt.AlignmentFlag.AlignHCenter,
            )
            block = circuit.owner_of.get(pin, (-1, 0))[0]
            after = (
                circuit.owner_of.get(columns[column + 1], (-1, 0))[0]
                if (column + 1 < len(columns))
                else -2
            )
            if block != after:
                if block >= 0:
                    last = column + 1 < len(columns) and after == -1
                    room = rect.right() + (90 if last else 0) - self.cell(begun, 0).left() - 4
                    span = QRectF(self.cell(begun, 0).left() + 2, 1, room, 16)
                    text(
                        painter,
                        span,
                        circuit.parts[block].block.name,
                        colours.ink,
                        bold(colours.text_px - 3),
                    )
                begun = column + 1

    def _cells(self) -> tuple[Cell, ...]:
        """Every crossing with its place and name, line by line; laid out once for each size."""
        circuit, commons = self._bench.circuit, self.commons
        laid = (self._bench.owner, tuple(commons), self.width(), self.height())
        if self._laid is not None and self._laid[0] == laid:
            return self._laid[1]
        cells = []
        for line in range(circuit.lines):
            for column, pin in enumerate(commons):
                contact = self.contact_of(pin, line)
                place = self.cell(column, line).adjusted(0.5, 0.5, -0.5, -0.5)
                cells.append(Cell(place, pin, line, contact, self._name(contact)))
        self._laid = laid, tuple(cells)
        return self._laid[1]

    def _paint_cells(
        self, painter: QPainter, closed: set[tuple[int, int]], driven: int
    ) -> list[tuple[Cell, QColor]]:
        """Paint every crossing without its name; the crossings with what they are filled with."""
        bench, line_colour = self._bench, QColor(THEME.colours.line)
        fills, alike, ghosts = [], defaultdict[int, list[QRectF]](list), []
        for cell in self._cells():
            is_closed = (cell.pin, cell.line) in closed
            fill = self._fill_of(cell.contact, cell.pin, is_closed, driven == cell.pin)
            fills.append((cell, fill))
            alike[fill.rgba()].append(cell.place)
            if is_closed and bench.held and cell.contact not in bench.held:
                ghosts.append(QLineF(cell.place.bottomLeft(), cell.place.topRight()))
        painter.setPen(QPen(line_colour, 0.7))
        for colour, places in alike.items():
            painter.setBrush(QColor.fromRgba(colour))
            painter.drawRects(places)
        painter.drawLines(ghosts)  # crossed out
        painter.setPen(QPen(QColor(THEME.colours.action), 2.2))
        for cell, fill in fills:
            if cell.contact >= 0 and cell.contact == bench.at:
                painter.setBrush(fill)
                painter.drawRect(cell.place)
        return fills

    def _fill_of(self, index: int, pin: int, closed: bool, driven: bool) -> QColor:
        """What a crossing is filled with: read as closed, driven, without a contact, or plain."""
        colours, bench = THEME.colours, self._bench
        if closed:
            return QColor(
                colours.action if index in bench.held or not bench.held else colours.fault
            )
        fill = QColor(colours.raised)
        if index < 0:
            fill = QColor(colours.paper)
        elif bench.circuit.owner_of.get(pin, (0, 0))[0] % 2:
            fill = mixed(colours.sunken, colours.raised, 0.6)
        return mixed(colours.action, fill, 0.25) if driven else fill

    def _name(self, index: int) -> str:
        bench = self._bench
        if index < 0:
            return ""
        contact = bench.circuit.contacts[index]
        part = bench.circuit.parts[contact.block]
        if part.block.keybed and bench.owner is not None:
            return pitch.name(part.low + contact.number, bench.owner.octaves)
        return str(contact.number + 1)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Point at a crossing."""
        self._bench.point(self.contact_at(event.position().x(), event.position().y()))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Hold the contact of a crossing, or let it go."""
        index = self.contact_at(event.position().x(), event.position().y())
        if index >= 0:
            held = index in self._bench.held
            (self._bench.release if held else self._bench.press)(index)


SHADES = {
    "black": "#1d1a17",
    "brown": "#7a4a26",
    "red": "#c22f2f",
    "orange": "#e0802a",
    "yellow": "#e8cf3c",
    "green": "#3d8b45",
    "blue": "#2f62b5",
    "violet": "#7b4aa8",
    "grey": "#8c8c88",
    "white": "#f7f7f2",
    "pink": "#ee9fb6",
    "turquoise": "#39b6b0",
}


def paint_swatch(painter: QPainter, rect: QRectF, name: str) -> None:
    """A wire’s colour; one without a known name is left empty, its number tells it."""
    painter.setPen(QPen(QColor(THEME.colours.muted), 0.8))
    plain = name.removesuffix(RINGED)
    shade = SHADES.get(plain.casefold())
    painter.setBrush(QColor(shade) if shade else Qt.BrushStyle.NoBrush)
    painter.drawRoundedRect(rect, 2, 2)
    if plain != name:
        high = rect.height() / 4
        ring = QRectF(rect.left(), rect.center().y() - high / 2, rect.width(), high)
        is_dark = bool(shade) and QColor(shade).lightness() < 160
        painter.fillRect(ring, QColor("white" if is_dark else "black"))
