"""Where everything of a console lies: manuals above each other, pedalboard, jambs, shoes."""

from typing import NamedTuple

from PySide6.QtCore import QRectF

from vastzone.core.console.circuit import Circuit, CircuitBlock
from vastzone.core.midi.pitch import is_black
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability

JAMB, GAP, CAPTION, PISTON = 118.0, 6.0, 16.0, 20.0
STOP_LEAST, STOP_MOST = 15.0, 25.0
WHITES = (0, 2, 4, 5, 7, 9, 11)


class KeyShape(NamedTuple):
    """A key or stop: its contact, its place, whether it is a black key, «key», «stop», «piston»."""

    contact: int
    rect: QRectF
    black: bool
    kind: str


class ConsolePicture(NamedTuple):
    """The whole console.  Black keys come after white ones, so that they are drawn above."""

    shapes: tuple[KeyShape, ...]
    captions: tuple[tuple[str, QRectF], ...]
    shoes: tuple[tuple[str, QRectF], ...]

    def at(self, x: float, y: float) -> int:
        """The contact at a point; −1 for none."""
        for shape in reversed(self.shapes):
            if shape.rect.contains(x, y):
                return shape.contact
        return -1


def white(note: int) -> int:
    """How many white keys lie below a note."""
    return note // 12 * 7 + sum(1 for w in WHITES if w < note % 12)


def lay_out(
    owner: Device, circuit: Circuit, width: float, height: float, only: int
) -> ConsolePicture:
    """Everything, or one block alone and larger."""
    shown = range(len(circuit.parts)) if only == -1 else range(only, only + 1)
    beds = [number for number in shown if circuit.parts[number].block.keybed]
    stops, pistons = _stops_and_pistons(owner, circuit, set(shown) - set(beds))
    side = JAMB + GAP if stops and beds else 0.0
    inner = QRectF(16 + side, 6, max(80.0, width - 32 - 2 * side), height - 12)
    shapes = _jambs(circuit, stops, width, height, bool(beds))
    order = _order(circuit, beds)
    scale = _scale(circuit, order, inner, bool(pistons and beds))
    captions: list[tuple[str, QRectF]] = []
    keys: list[KeyShape] = []
    y, shoe_room = inner.top(), QRectF()
    for number in order:
        part, last = circuit.parts[number], number == order[-1]
        if last and pistons:
            shapes += _row(circuit, pistons, inner.left(), y, inner.width())
            y += PISTON + GAP
        captions.append((part.block.name, QRectF(inner.left(), y, inner.width(), CAPTION)))
        y += CAPTION
        keys += _keys(part, scale.x(part.low), y, scale.step, scale.high)
        if last:
            right = scale.x(part.low + part.size - 1) + scale.step
            shoe_room = QRectF(right + 16, y, inner.right() - right - 16, scale.high)
        y += scale.high + GAP
    if not order:
        shapes += _row(circuit, pistons, inner.left(), inner.top(), inner.width())
    shapes += sorted(keys, key=lambda key: key.black)
    shoes = owner.console.shoes if owner.console is not None and only == -1 else ()
    placed = _shoes([shoe.control for shoe in shoes], shoe_room)
    return ConsolePicture(tuple(shapes), tuple(captions), placed)


Places = list[tuple[int, int]]
"""Contacts by block and number."""


def _stops_and_pistons(owner: Device, circuit: Circuit, loose: set[int]) -> tuple[Places, Places]:
    """What stays where it is put, and what springs back, in blocks without keys."""
    staying = {control.id for control in owner.controls if control_ability(control).stays}
    stops: Places = []
    pistons: Places = []
    for block in sorted(loose):
        for number, control in enumerate(circuit.parts[block].block.controls):
            (stops if control in staying else pistons).append((block, number))
    return stops, pistons


class Scale(NamedTuple):
    """The width of a white key, where the lowest begins, how high keys are."""

    left: float
    lowest: int
    step: float
    high: float

    def x(self, note: int) -> float:
        """Where a key begins."""
        return self.left + (white(note) - self.lowest) * self.step


def _scale(circuit: Circuit, order: list[int], inner: QRectF, with_pistons: bool) -> Scale:
    """One scale for all keyboards, so that they stand above each other."""
    parts = [circuit.parts[number] for number in order]
    low = min((part.low for part in parts), default=36)
    top = max((part.low + part.size - 1 for part in parts), default=96)
    step = inner.width() / max(1, white(top) - white(low) + 1)
    fixed = (CAPTION + GAP) * len(order) + (PISTON + GAP if with_pistons else 0)
    high = max(14.0, min(120.0, (inner.height() - fixed) / max(1, len(order))))
    return Scale(inner.left(), white(low), step, high)


def _order(circuit: Circuit, beds: list[int]) -> list[int]:
    """Manuals from the highest down, the pedalboard last."""
    feet = []
    for bed in beds:
        if "pedal" in circuit.parts[bed].block.name.casefold():
            feet.append(bed)
    return [*reversed([bed for bed in beds if bed not in feet]), *feet]


def _keys(part: CircuitBlock, left: float, top: float, step: float, high: float) -> list[KeyShape]:
    shapes = []
    for number in range(part.size):
        note = part.low + number
        x = left + (white(note) - white(part.low)) * step
        black = is_black(note)
        rect = (
            QRectF(x - 0.3 * step, top, 0.6 * step, 0.6 * high)
            if black
            else QRectF(x, top, step, high)
        )
        shapes.append(KeyShape(part.first + number, rect, black, "key"))
    return shapes


def _jambs(
    circuit: Circuit, stops: list[tuple[int, int]], width: float, height: float, sides: bool
) -> list[KeyShape]:
    """Stops in two jambs, left and right; in rows where no keyboard is shown."""
    shapes = []
    half = -(-len(stops) // 2)
    tall = max(STOP_LEAST, min(STOP_MOST, (height - 16) / max(1, half) - 3))
    for n, (block, k) in enumerate(stops):
        left = 14.0 if n < half else width - 14 - JAMB
        wide = JAMB
        if not sides:
            left, wide = 16.0 if n < half else width / 2 + 6, width / 2 - 22
        rect = QRectF(left, 8 + n % half * (tall + 3), wide, tall)
        shapes.append(KeyShape(circuit.parts[block].first + k, rect, False, "stop"))
    return shapes


def _row(
    circuit: Circuit, pistons: list[tuple[int, int]], left: float, top: float, width: float
) -> list[KeyShape]:
    wide = min(92.0, width / max(1, len(pistons)) - 6)
    shapes = []
    for n, (b, k) in enumerate(pistons):
        shapes.append(
            KeyShape(
                circuit.parts[b].first + k,
                QRectF(left + n * (wide + 6), top, wide, PISTON),
                False,
                "piston",
            )
        )
    return shapes


def _shoes(controls: list[str], room: QRectF) -> tuple[tuple[str, QRectF], ...]:
    wide = min(74.0, room.width() / max(1, len(controls)) - 8)
    return (
        tuple(
            (c, QRectF(room.left() + n * (wide + 8), room.top(), wide, room.height()))
            for n, c in enumerate(controls)
        )
        if wide > 24
        else ()
    )
