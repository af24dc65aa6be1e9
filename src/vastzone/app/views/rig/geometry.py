"""Where everything lies in the Rig view: devices as boxes, their jacks, the cables between them."""

from collections.abc import Iterator
from typing import Literal, NamedTuple

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainterPath

from vastzone.core.describe.counted import counted
from vastzone.core.pictures import rig_columns
from vastzone.core.plan.model.audio import AudioCable
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.say import say, say_many

MARGIN, LANE, JACK, ROW = 18.0, 22.0, 7.0, 21.0
HEAD, COMPACT = 46.0, 36.0
FACES = (96.0, 80.0, 64.0, 50.0, 40.0, 30.0, 0.0)
"""The heights that a face may have, the largest that fits being taken."""
AUDIO_OUT, AUDIO_IN = say("audio out"), say("audio in")
"""What the sockets for sound are called; no port can have such an id."""
MOST_WIDE, LEAST_GAP, NARROW = 216.0, 46.0, 140.0


class AudioSocket(NamedTuple):
    """All audio outputs of a device, or all its inputs, drawn as one."""

    id: str
    name: str
    flow: Literal["in", "out"]
    link: Literal["audio"] = "audio"


class JackShape(NamedTuple):
    """A port as it is drawn: where its hole is, and whether it lies at the left."""

    ref: str
    port: Port | AudioSocket
    at: QPointF
    left: bool


class Box(NamedTuple):
    """A device as it is drawn; ``face`` is the picture of what is played or sounds."""

    device: Device
    rect: QRectF
    face: QRectF
    jacks: tuple[JackShape, ...]


class CableShape(NamedTuple):
    """A cable as it is drawn, where its label stands, and how wide that may be."""

    cable: Cable
    path: QPainterPath
    label: QPointF
    room: float = 200.0


class BundleShape(NamedTuple):
    """All audio cables from one device to another, drawn as one."""

    source: str
    dest: str
    cables: tuple[AudioCable, ...]
    shape: CableShape


class RigPicture(NamedTuple):
    """All of it, and the height that it takes."""

    boxes: tuple[Box, ...]
    wires: tuple[CableShape, ...]
    height: float
    bundles: tuple[BundleShape, ...] = ()

    def box(self, device: str) -> Box | None:
        """The box of a device."""
        return next((b for b in self.boxes if b.device.id == device), None)

    def jack(self, ref: str) -> JackShape | None:
        """The jack of a port ``device:port``."""
        return next((jack for b in self.boxes for jack in b.jacks if jack.ref == ref), None)


class Frame(NamedTuple):
    """The measures that hold for a whole picture."""

    wide: float
    gap: float
    face: float
    stacked: bool

    @property
    def head(self) -> float:
        """From the top of a box to its face or jacks."""
        return HEAD if self.face else COMPACT


def lay_out(plan: Plan, width: float, room: float) -> RigPicture:
    """Lay a plan out in a width; ``room`` is the height that would be welcome."""
    columns = rig_columns.columns(plan)
    if not columns:
        return RigPicture((), (), 0.0)
    devices = lookup.by_ids(plan.devices)
    column_of = {ident: number for number, column in enumerate(columns) for ident in column}
    sides = {device.id: _sides(plan, device, column_of) for device in plan.devices}
    frame = _frame(width, len(columns))
    frames = [_fitting(frame, column, sides, room) for column in columns]
    heights = {ident: _height(side, frames[column_of[ident]]) for ident, side in sides.items()}
    height = max(room, *(_stacked(column, heights) + 2 * MARGIN for column in columns))
    boxes: list[Box] = []
    lanes: dict[str, QPointF] = {}
    taken = len(columns) * (frame.wide + frame.gap) - frame.gap
    left = max(MARGIN, (width - taken) / 2)
    for number, column in enumerate(columns):
        x = left + number * (frame.wide + frame.gap)
        for ident, y in _down(column, heights, height):
            if ident in devices:
                rect = QRectF(x, y, frame.wide, heights[ident])
                boxes.append(_box(devices[ident], rect, sides[ident], frames[number]))
            else:
                lanes[ident] = QPointF(x, y + LANE / 2)
    picture = RigPicture(tuple(boxes), (), height)
    wires = tuple(_wire(picture, cable, column_of, lanes, frame.wide) for cable in plan.cables)
    bundles = tuple(_bundles(plan, picture, column_of, lanes, frame.wide))
    return picture._replace(wires=wires, bundles=bundles)


def sockets_of(device: Device) -> tuple[Port | AudioSocket, ...]:
    """The ports of a device, then its audio jacks: all outputs as one, all inputs as one."""
    sockets: list[Port | AudioSocket] = [*device.ports]
    if device.audio_inputs:
        words = counted(
            len(device.audio_inputs), "channel" if device.kind == "desk" else "audio in"
        )
        sockets.append(AudioSocket(AUDIO_IN, words, "in"))
    if device.outputs:
        sockets.append(
            AudioSocket(
                AUDIO_OUT,
                say_many("{count} audio out", "{count} audio outs", len(device.outputs)),
                "out",
            )
        )
    return tuple(sockets)


def _bundles(
    plan: Plan,
    picture: RigPicture,
    column_of: dict[str, int],
    lanes: dict[str, QPointF],
    wide: float,
) -> Iterator[BundleShape]:
    """The audio cables between two devices as one line; beside MIDI where both go one way."""
    for source, dest in rig_columns.sound_ways(plan.audio_cables):
        cables = []
        for cable in plan.audio_cables:
            if (device_of(cable.source), device_of(cable.dest)) == (source, dest):
                cables.append(cable)
        ends = Cable(source=ref_to(source, AUDIO_OUT), dest=ref_to(dest, AUDIO_IN))
        beside = {ident: place + QPointF(0, 9) for ident, place in lanes.items()}
        shape = _wire(picture, ends, column_of, beside, wide)
        yield BundleShape(source, dest, tuple(cables), shape)


def _down(
    column: tuple[str, ...], heights: dict[str, float], height: float
) -> Iterator[tuple[str, float]]:
    """Where each device and lane of a column begins, spread over the height."""
    spare = height - 2 * MARGIN - _stacked(column, heights, 0.0)
    space = min(64.0, spare / max(1, len(column) - 1))
    y = (height - _stacked(column, heights, space)) / 2
    for ident in column:
        yield ident, y
        y += heights.get(ident, LANE) + space


def _fitting(
    frame: Frame, column: tuple[str, ...], sides: dict[str, dict[str, bool]], room: float
) -> Frame:
    """The largest faces with which a column fits into the room; none where nothing does."""
    for face in FACES:
        frame = frame._replace(face=face)
        heights = {}
        for i in column:
            if i in sides:
                heights[i] = _height(sides[i], frame)
        if _stacked(column, heights) + 2 * MARGIN <= room:
            break
    return frame


def _frame(width: float, count: int) -> Frame:
    """Boxes as wide as may be, with room for cables and their labels between them."""
    room = width - 2 * MARGIN
    gap = max(LEAST_GAP, min(110.0, room * 0.27 / max(1, count - 1)))
    wide = min(MOST_WIDE, (room - gap * (count - 1)) / count)
    if count > 1:
        gap = min(170.0, (room - wide * count) / (count - 1))
    return Frame(wide, gap, FACES[0], wide < NARROW)


def _stacked(column: tuple[str, ...], heights: dict[str, float], space: float = 24.0) -> float:
    return sum(heights.get(i, LANE) for i in column) + space * (len(column) - 1)


def _sides(plan: Plan, device: Device, column_of: dict[str, int]) -> dict[str, bool]:
    """Whether each port lies at the left: inputs do, and both-way ports that face hands."""
    here = column_of[device.id]
    sides = {}
    for port in sockets_of(device):
        ref = ref_to(device.id, port.id)
        others = []
        for cable in plan.cables:
            if ref in (cable.source, cable.dest):
                others.append(device_of(cable.dest if cable.source == ref else cable.source))
        played = bool(device.keybeds or device.controls) and not device.parts
        facing = column_of[others[0]] < here if others else not played
        sides[port.id] = facing if port.flow == "both" else port.flow == "in"
    return sides


def _height(sides: dict[str, bool], frame: Frame) -> float:
    left = sum(sides.values())
    right = len(sides) - left
    rows = max(1, left + right if frame.stacked else max(left, right))
    return frame.head + frame.face + rows * ROW + 6


def _box(device: Device, rect: QRectF, sides: dict[str, bool], frame: Frame) -> Box:
    face = QRectF()
    if frame.face:
        top = rect.top() + frame.head
        face = QRectF(rect.left() + 12, top, rect.width() - 24, frame.face - 10)
    top = rect.top() + frame.head + frame.face
    places = {True: 0, False: sum(sides.values()) if frame.stacked else 0}
    jacks = []
    for port in sockets_of(device):
        left = sides[port.id]
        y = top + places[left] * ROW + ROW / 2
        places[left] += 1
        x = rect.left() if left else rect.right()
        jacks.append(JackShape(ref_to(device.id, port.id), port, QPointF(x, y), left))
    return Box(device, rect, face, tuple(jacks))


def _wire(
    picture: RigPicture,
    cable: Cable,
    column_of: dict[str, int],
    lanes: dict[str, QPointF],
    wide: float,
) -> CableShape:
    one, other = picture.jack(cable.source), picture.jack(cable.dest)
    assert one is not None and other is not None
    a, b = (device_of(ref) for ref in (cable.source, cable.dest))
    if column_of[a] == column_of[b]:
        return _around(picture, cable, one, other)
    if column_of[a] > column_of[b]:
        one, other, a, b = other, one, b, a
    path = QPainterPath(one.at)
    at, out = one.at, -1.0 if one.left else 1.0
    label: QPointF | None = None
    for column in range(column_of[a] + 1, column_of[b]):
        place = lanes[rig_columns.lane(a, b, column)]
        _curve(path, at, place, out, -1.0)
        label = label or place + QPointF(wide / 2, 0)
        path.lineTo(place.x() + wide, place.y())
        at, out = QPointF(place.x() + wide, place.y()), 1.0
    end = _curve(path, at, other.at, out, -1.0 if other.left else 1.0)
    level = abs(one.at.y() - other.at.y()) < 14 and column_of[b] - column_of[a] == 1
    room = 200.0 if label else abs(other.at.x() - one.at.x()) - 6
    return CableShape(cable, path, label or (end - QPointF(0, 15) if level else end), room)


def _curve(path: QPainterPath, a: QPointF, b: QPointF, out: float, back: float) -> QPointF:
    """A curve that leaves and arrives level; the middle of it."""
    reach = max(26.0, abs(b.x() - a.x()) * 0.5)
    c, d = QPointF(a.x() + out * reach, a.y()), QPointF(b.x() + back * reach, b.y())
    path.cubicTo(c, d, b)
    return (a + c * 3 + d * 3 + b) / 8


def _around(picture: RigPicture, cable: Cable, shape: JackShape, other: JackShape) -> CableShape:
    """A cable between two devices above each other, led through the space between them."""
    upper, lower = sorted((shape, other), key=lambda j: j.at.y())
    box = picture.box(device_of(lower.ref))
    assert box is not None
    level = box.rect.top() - 11
    turn = 15.0
    path = QPainterPath(upper.at)
    sides = [-1.0 if jack.left else 1.0 for jack in (upper, lower)]
    if sides[0] == sides[1]:
        x = upper.at.x() + sides[0] * turn * 1.6
        path.cubicTo(QPointF(x, upper.at.y()), QPointF(x, lower.at.y()), lower.at)
        return CableShape(cable, path, QPointF(x, (upper.at.y() + lower.at.y()) / 2))
    a, b = upper.at.x() + sides[0] * turn, lower.at.x() + sides[1] * turn
    path.cubicTo(QPointF(a, upper.at.y()), QPointF(a, level), QPointF(a - sides[0] * turn, level))
    path.lineTo(b - sides[1] * turn, level)
    path.cubicTo(QPointF(b, level), QPointF(b, lower.at.y()), lower.at)
    return CableShape(cable, path, QPointF(box.rect.center().x(), level))
