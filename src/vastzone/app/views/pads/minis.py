"""Other banks or programs of a device as miniatures beside its pads."""

from collections.abc import Iterator
from typing import NamedTuple

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from vastzone.app.theme.colours import mixed, readable_on
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.outside_programs import shell_of
from vastzone.core.engine.tables import Controls
from vastzone.core.plan.edits.fills import banks_of, pads_of
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.desk.pad_faces import program_of
from vastzone.desk.session import Desk

LABEL, BETWEEN, LEAST = 20.0, 12.0, 14.0


class Mini(NamedTuple):
    """A bank of a program; ``chosen`` is the one shown large."""

    program: int
    bank: int
    name: str
    chosen: bool


def minis(desk: Desk, owner: Device, bank: int, beside: str) -> list[Mini]:
    """The banks of the program in force, or the same bank of every program."""
    here = program_of(desk, owner)
    if here is None:
        return []
    if beside == "programs":
        tiles = []
        for program in owner.programs:
            tiles.append(
                Mini(
                    program.number,
                    bank,
                    f"{program_words(owner, program.number)} {program.name}",
                    program is here,
                )
            )
        return tiles
    return [Mini(here.number, b, say("Bank {b}", b=b), b == bank) for b in banks_of(owner)]


def place_minis(
    tiles: list[Mini], x: float, wide: float, shape: float, room: float
) -> Iterator[tuple[Mini, QRectF]]:
    """Below each other; smaller where they would not fit."""
    each = room / max(1, len(tiles)) - LABEL - BETWEEN - 2
    tall = max(LEAST, min(wide * shape * 0.8, each))
    for n, mini in enumerate(tiles):
        rect = QRectF(x, 8 + n * (tall + LABEL + BETWEEN + 2), wide, tall)
        if rect.bottom() + LABEL <= room:
            yield mini, rect


def grid_of(owner: Device) -> tuple[int, int]:
    """Rows and columns of the pads; a square where the device does not say how they lie."""
    pads = pads_of(owner)
    if _spread(owner):
        return max(pad.row for pad in pads) + 1, max(pad.column + pad.span for pad in pads)
    columns = 4 if len(pads) > 4 else max(1, len(pads))
    return -(-len(pads) // columns), columns


def _spread(owner: Device) -> bool:
    pads = pads_of(owner)
    return len({(pad.row, pad.column) for pad in pads}) == len(pads)


def where(owner: Device, n: int) -> tuple[int, int]:
    """The row and column of a pad."""
    pad = pads_of(owner)[n]
    return (pad.row, pad.column) if _spread(owner) else divmod(n, grid_of(owner)[1])


def paint_mini(painter: QPainter, desk: Desk, owner: Device, mini: Mini, rect: QRectF) -> None:
    """The pads of one bank, small: the colour and tag of what each plays."""
    colours = THEME.colours
    rows, columns = grid_of(owner)
    wide, high = rect.width() / columns, rect.height() / rows
    painter.setPen(
        QPen(QColor(colours.action if mini.chosen else colours.line), 2 if mini.chosen else 1)
    )
    painter.setBrush(QColor(colours.panel))
    painter.drawRoundedRect(rect.adjusted(-5, -5, 5, LABEL + 3), 8, 8)
    table = _table(desk, owner, mini)
    for n, pad in enumerate(pads_of(owner)):
        if mini.bank > pad.banks:
            continue
        row, column = where(owner, n)
        cell = QRectF(
            rect.left() + column * wide + 1.5,
            rect.top() + row * high + 1.5,
            wide * pad.span - 3,
            high - 3,
        )
        tag, shade, sends = _played(table, (ref_to(owner.id, pad.id), mini.bank))
        colour = colours.part(shade) if shade is not None else None
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour or mixed(colours.ink, colours.panel, 0.12 if sends else 0.04))
        painter.drawRoundedRect(cell, 3, 3)
        if tag and high > 12:
            ink = readable_on(colour) if colour is not None else colours.ink
            text(painter, cell, tag, ink, bold(10), Qt.AlignmentFlag.AlignHCenter)
    label = QRectF(rect.left(), rect.bottom() + 1, rect.width(), LABEL)
    text(
        painter,
        label,
        mini.name,
        colours.ink if mini.chosen else colours.muted,
        font(colours.text_px - 2),
    )


def _table(desk: Desk, owner: Device, mini: Mini) -> Controls:
    """What the controls do in a program, everything else as it is in the current scene."""
    program = lookup.program(owner, mini.program)
    return control_table(shell_of(desk.plan, owner), program, desk.compiled.world)


def _played(table: Controls, key: tuple[str, int]) -> tuple[str, int | None, bool]:
    """The tag and colour of the first part that a pad plays, and whether it sends at all."""
    sendings = table.get(key, ())
    for sending in sendings:
        for emission in sending.notes:
            for landing in emission.landings:
                return landing.part.tag.upper(), landing.part.colour, True
    return "", None, any(s.send.message != "none" for s in sendings)
