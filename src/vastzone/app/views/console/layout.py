"""Where everything of a console lies: manuals above each other, pedalboard, jambs, shoes."""

from typing import NamedTuple

from PySide6.QtCore import QRectF

from vastzone.core.console.built import Built, Part
from vastzone.core.midi.pitch import is_black
from vastzone.core.plan.model import Device

JAMB, GAP, CAPTION, PISTON = 118.0, 6.0, 16.0, 20.0
STOP_LEAST, STOP_MOST = 15.0, 25.0
WHITES = (0, 2, 4, 5, 7, 9, 11)


class KeyShape(NamedTuple):
    """A key or stop: its contact, its place, whether it is a black key, «key», «stop», «piston»."""

    contact: int
    rect: QRectF
    black: bool
    kind: str


class Picture(NamedTuple):
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


def lay_out(owner: Device, made: Built, width: float, height: float, only: int) -> Picture:
    """Everything, or one block alone and larger."""
    shown = [n for n in range(len(made.parts)) if only in (-1, n)]
    beds = [n for n in shown if made.parts[n].block.keybed]
    loose = [n for n in shown if not made.parts[n].block.keybed]
    kinds = {c.id: c.kind for c in owner.controls}
    stops = [
        (n, k)
        for n in loose
        for k, c in enumerate(made.parts[n].block.controls)
        if kinds.get(c) == "stop"
    ]
    pistons = [
        (n, k)
        for n in loose
        for k, c in enumerate(made.parts[n].block.controls)
        if kinds.get(c) != "stop"
    ]
    side = JAMB + GAP if stops and beds else 0.0
    inner = QRectF(16 + side, 6, max(80.0, width - 32 - 2 * side), height - 12)
    shapes = _jambs(made, stops, width, height, bool(beds))
    captions: list[tuple[str, QRectF]] = []
    console = owner.console
    shoes = console.shoes if console is not None and only == -1 else ()
    order = _order(made, beds)
    fixed = (CAPTION + GAP) * len(order) + (PISTON + GAP if pistons and beds else 0)
    high = max(14.0, min(120.0, (inner.height() - fixed) / max(1, len(order))))
    low = min((made.parts[n].low for n in beds), default=36)
    top = max((made.parts[n].low + made.parts[n].size - 1 for n in beds), default=96)
    step = inner.width() / max(1, white(top) - white(low) + 1)
    y = inner.top()
    keys: list[KeyShape] = []
    shoe_room = QRectF()
    for place, n in enumerate(order):
        part = made.parts[n]
        if place == len(order) - 1 and pistons:
            shapes += _row(made, pistons, inner.left(), y, inner.width())
            y += PISTON + GAP
        captions.append((part.block.name, QRectF(inner.left(), y, inner.width(), CAPTION)))
        y += CAPTION
        start = inner.left() + (white(part.low) - white(low)) * step
        keys += _keys(part, start, y, step, high)
        if place == len(order) - 1:
            right = start + (white(part.low + part.size - 1) - white(part.low) + 1) * step
            shoe_room = QRectF(right + 16, y, inner.right() - right - 16, high)
        y += high + GAP
    if not order:
        shapes += _row(made, pistons, inner.left(), inner.top(), inner.width())
    shapes += sorted(keys, key=lambda k: k.black)
    return Picture(tuple(shapes), tuple(captions), _shoes([s.control for s in shoes], shoe_room))


def _order(made: Built, beds: list[int]) -> list[int]:
    """Manuals from the highest down, the pedalboard last."""
    feet = [n for n in beds if "pedal" in made.parts[n].block.name.casefold()]
    return [*reversed([n for n in beds if n not in feet]), *feet]


def _keys(part: Part, left: float, top: float, step: float, high: float) -> list[KeyShape]:
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
    made: Built, stops: list[tuple[int, int]], width: float, height: float, sides: bool
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
        shapes.append(KeyShape(made.parts[block].first + k, rect, False, "stop"))
    return shapes


def _row(
    made: Built, held: list[tuple[int, int]], left: float, top: float, width: float
) -> list[KeyShape]:
    wide = min(92.0, width / max(1, len(held)) - 6)
    return [
        KeyShape(
            made.parts[b].first + k,
            QRectF(left + n * (wide + 6), top, wide, PISTON),
            False,
            "piston",
        )
        for n, (b, k) in enumerate(held)
    ]


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
