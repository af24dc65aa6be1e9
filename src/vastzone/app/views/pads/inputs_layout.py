"""Where the jacks of drum modules and the pads for them lie, however many there are."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF

from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.triggers import TriggerInput, TriggerPad
from vastzone.core.plan.refs import ref_to

HEAD, PAD_HIGH, LOWEST = 92.0, 64.0, 46.0
MOST_ACROSS, NARROWEST, PAD_WIDE = 12, 78.0, 124.0
NAME = 20.0
"""The line with a module's name, where there are several."""


class InputSocket(NamedTuple):
    """An input as it is drawn."""

    ref: str
    input: TriggerInput
    rect: QRectF

    @property
    def hole(self) -> QPointF:
        """Where a plug goes in."""
        return QPointF(self.rect.center().x(), self.rect.bottom() - 16)


class PadTile(NamedTuple):
    """A pad as it is drawn."""

    pad: TriggerPad
    rect: QRectF


class Heading(NamedTuple):
    """The name of a module above its jacks."""

    words: str
    rect: QRectF


class InputsLayout(NamedTuple):
    """Everything that is drawn, and how high that is."""

    sockets: list[InputSocket]
    tiles: list[PadTile]
    headings: list[Heading]
    high: float


def lay_out(plan: Plan, width: float, height: float) -> InputsLayout:
    """Jacks above, module by module; pads below the jacks that they are in, as far as they can."""
    modules = [device for device in plan.devices if device.inputs]
    across = max(1, min(MOST_ACROSS, int((width - 32) // NARROWEST)))
    most = max((len(device.inputs) for device in modules), default=1)
    wide = (width - 32.0) / min(across, most)
    sockets: list[InputSocket] = []
    headings: list[Heading] = []
    top = 8.0
    for device in modules:
        if len(modules) > 1:
            headings.append(Heading(device.name, QRectF(16, top, width - 32, NAME)))
            top += NAME
        for number, socket in enumerate(device.inputs):
            row, column = divmod(number, across)
            rect = QRectF(16 + column * wide + 3, top + row * (HEAD + 8), wide - 6, HEAD)
            sockets.append(InputSocket(ref_to(device.id, socket.id), socket, rect))
        top += -(-len(device.inputs) // across) * (HEAD + 8)
    in_one_row = len(modules) == 1 and 4 <= len(sockets) <= across
    below = _below_jacks if in_one_row else _in_rows
    tiles = below(plan, sockets, top, width, height)
    high = max((tile.rect.bottom() for tile in tiles), default=top) + 12
    return InputsLayout(sockets, tiles, headings, high)


def _order(plan: Plan, sockets: list[InputSocket]) -> tuple[dict[str, str], dict[str, int]]:
    place = {plug.pad: plug.input for plug in plan.plugs}
    return place, {socket.ref: number for number, socket in enumerate(sockets)}


def _below_jacks(
    plan: Plan, sockets: list[InputSocket], top: float, width: float, height: float
) -> list[PadTile]:
    """Each pad below its jack, every second one a row lower so that no wire is hidden."""
    place, order = _order(plan, sockets)
    step = sockets[1].rect.left() - sockets[0].rect.left()
    wide = min(150.0, 2 * step - 34)
    tiles: list[PadTile] = []
    spare: list[TriggerPad] = []
    taken: set[str] = set()
    across = max(1, int((width - 32) // PAD_WIDE))
    waiting = _waiting(plan, order)
    more = -(-waiting // across)
    rows = 2 + more
    high = max(LOWEST, min(PAD_HIGH, (height - top - 30) / rows - 8))
    space = max(26.0, min(110.0, height - top - rows * (high + 8) - 4))
    for pad in sorted(plan.pads, key=lambda p: order.get(place.get(p.id, ""), 999)):
        ref = place.get(pad.id, "")
        if ref not in order or ref in taken:
            spare.append(pad)
            continue
        taken.add(ref)
        row = order[ref] % 2
        centre = sockets[order[ref]].rect.center().x()
        left = max(6.0, min(width - wide - 6.0, centre - wide / 2))
        tiles.append(PadTile(pad, QRectF(left, top + space + row * (high + 8), wide, high)))
    below = top + space + 2 * (high + 8) + 4
    each = min((width - 32.0) / max(1, min(across, len(spare))), wide + 8)
    # What shares a jack with another stands as near to it as it can, the others from the left.
    columns = max(1, int((width - 32.0) // each))
    free = [(row, column) for row in range(len(spare)) for column in range(columns)]
    for pad in sorted(spare, key=lambda p: place.get(p.id, "") not in order):
        ref = place.get(pad.id, "")
        at = free[0]
        if ref in order:
            centre = sockets[order[ref]].rect.center().x()
            near = min(columns - 1, max(0, int((centre - 16) // each)))
            at = min(free, key=lambda cell: (cell[0], abs(cell[1] - near)))
        free.remove(at)
        row, column = at
        rect = QRectF(16 + column * each, below + row * (high + 8), each - 8, high)
        tiles.append(PadTile(pad, rect))
    return tiles


def _waiting(plan: Plan, order: dict[str, int]) -> int:
    """How many pads have no jack that they are the first in."""
    jacks = {plug.input for plug in plan.plugs if plug.input in order}
    return len(plan.pads) - len(jacks)


def _in_rows(
    plan: Plan, sockets: list[InputSocket], top: float, width: float, height: float
) -> list[PadTile]:
    """Pads in rows, in the order of their jacks, where there are many jacks or few."""
    place, order = _order(plan, sockets)
    pads = sorted(plan.pads, key=lambda p: order.get(place.get(p.id, ""), 999))
    columns = max(1, min(len(pads), int((width - 32) // PAD_WIDE)))
    wide = (width - 32.0) / columns
    rows = -(-len(pads) // columns)
    high = max(LOWEST, min(PAD_HIGH, (height - top - 60) / max(1, rows) - 8))
    space = max(44.0, min(130.0, height - top - rows * (high + 8) - 10))
    tiles = []
    for number, pad in enumerate(pads):
        row, column = divmod(number, columns)
        y = top + space + row * (high + 8)
        tiles.append(PadTile(pad, QRectF(16 + column * wide + 3, y, wide - 6, high)))
    return tiles
