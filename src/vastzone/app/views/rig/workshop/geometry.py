"""Where everything lies in the workshop: the face to scale, the back as a row, what is inside."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF

from vastzone.app.views.rig.face_paint import placed, rect_of
from vastzone.core.describe.face import Face, face_of
from vastzone.core.describe.things import Group, Thing
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import noted

EDGE, CAPTION, GAP = 16.0, 24.0, 8.0
MOST_FACE, LEAST_FACE = 330.0, 120.0
SOCKET = (92.0, 62.0)
CHIP = (148.0, 34.0)
BACK: tuple[Group, ...] = ("ports", "jacks", "inputs", "outputs", "audio_inputs")
INSIDE: tuple[Group, ...] = ("parts", "targets", "kits", "switches")


class Tile(NamedTuple):
    """Something to press: what it is, and where."""

    thing: Thing
    rect: QRectF


class Section(NamedTuple):
    """The face, the back or the inside, with its caption above."""

    name: str
    rect: QRectF
    tiles: tuple[Tile, ...]


class Bench(NamedTuple):
    """A device laid open.  ``body`` is the outline of its face, ``scale`` pixels a millimetre.

    Its ``display`` and where it takes its ``power`` are drawn and are no things of their own.
    """

    sections: tuple[Section, ...]
    body: QRectF
    scale: float
    height: float
    display: QRectF | None = None
    power: QRectF | None = None

    def tile(self, thing: Thing) -> Tile | None:
        """The tile of a thing."""
        for section in self.sections:
            for tile in section.tiles:
                if tile.thing == thing:
                    return tile
        return None

    def at(self, point: QPointF) -> Tile | None:
        """The tile under a point: the smallest, where one lies on another."""
        under: list[Tile] = []
        for section in self.sections:
            for tile in section.tiles:
                if tile.rect.contains(point):
                    under.append(tile)
        return min(under, key=lambda tile: tile.rect.width() * tile.rect.height(), default=None)

    def within(self, area: QRectF) -> tuple[Thing, ...]:
        """The things whose middle is inside an area."""
        inside = []
        for section in self.sections:
            for tile in section.tiles:
                if area.contains(tile.rect.center()):
                    inside.append(tile.thing)
        return tuple(inside)


EMPTY = Bench((), QRectF(), 1.0, 0.0)


def lay_out(device: Device, width: float) -> Bench:
    """A device laid open in a width; it is as high as it needs."""
    room = width - 2 * EDGE
    sections = []
    top = 8.0
    body, scale = QRectF(), 1.0
    face = face_of(device)
    if face.spots:
        body, scale = _body(face, room, top + CAPTION)
        tiles = _face_tiles(device, face, body, scale)
        rect = QRectF(EDGE, top, room, CAPTION + body.height())
        sections.append(Section(noted("Face"), rect, tiles))
        top = rect.bottom() + GAP * 1.5
    display = None if face.display is None else rect_of(face.display, body, scale)
    power = None
    for name, groups, size in ((noted("Back"), BACK, SOCKET), (noted("Inside"), INSIDE, CHIP)):
        tiles, bottom = _flow(device, groups, size, room, top + CAPTION)
        if name == "Back" and device.supply.kind:
            power, bottom = _next(tiles, room, top + CAPTION)
        if tiles or (name == "Back" and power is not None):
            sections.append(Section(name, QRectF(EDGE, top, room, bottom - top), tiles))
            top = bottom + GAP * 1.5
    return Bench(tuple(sections), body, scale, top + EDGE, display, power)


def _next(tiles: tuple[Tile, ...], room: float, top: float) -> tuple[QRectF, float]:
    """The place behind the last socket, and where its row ends."""
    columns = max(1, int((room + GAP) // (SOCKET[0] + GAP)))
    row, column = divmod(len(tiles), columns)
    left, high = EDGE + column * (SOCKET[0] + GAP), SOCKET[1] + GAP
    rect = QRectF(left, top + row * high, *SOCKET)
    return rect, rect.bottom() + GAP


def _body(face: Face, room: float, top: float) -> tuple[QRectF, float]:
    deep = face.size.deep / face.size.wide * room
    high = max(min(LEAST_FACE, deep), min(MOST_FACE, deep))
    return placed(face, QRectF(EDGE, top, room, high))


def _face_tiles(device: Device, face: Face, body: QRectF, scale: float) -> tuple[Tile, ...]:
    tiles = []
    groups: tuple[Group, ...] = ("keybeds", "controls")
    for group in groups:
        for item in getattr(device, group):
            spot = face.spots.get(item.id)
            if spot is not None:
                tiles.append(Tile(Thing(group, item.id), rect_of(spot, body, scale)))
    return tuple(tiles)


def _flow(
    device: Device, groups: tuple[Group, ...], size: tuple[float, float], room: float, top: float
) -> tuple[tuple[Tile, ...], float]:
    """Tiles of one size from left to right, list after list; and where they end."""
    columns = max(1, int((room + GAP) // (size[0] + GAP)))
    wide = size[0] if size is SOCKET else (room + GAP) / columns - GAP
    tiles: list[Tile] = []
    for group in groups:
        for item in getattr(device, group):
            row, column = divmod(len(tiles), columns)
            left = EDGE + column * (wide + GAP)
            rect = QRectF(left, top + row * (size[1] + GAP), wide, size[1])
            tiles.append(Tile(Thing(group, item.id), rect))
    rows = -(-len(tiles) // columns)
    return tuple(tiles), top + rows * (size[1] + GAP)
