"""Where everything lies on the face of a device, in millimetres from its far left corner.

What nobody placed is laid out as it lies on most devices: keys nearest to the person, what is
turned and pushed above them in bands, wheels to the left of the keys.
"""

from collections.abc import Iterable
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.bodies import Size, Spot
from vastzone.core.plan.model.controls import Control, Keybed
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import ControlKind

WHITE_KEY, KEYS_DEEP = 23.5, 150.0
"""Millimetres of a white key of usual size: across with its gap, and its length that is seen."""
MARGIN, GAP, LABEL = 14.0, 8.0, 12.0
"""Around everything, between things, and below those whose names stand under them."""
CELLS: dict[ControlKind, tuple[float, float]] = {
    "pad": (32.0, 32.0),
    "fader": (20.0, 76.0),
    "knob": (24.0, 24.0),
    "button": (20.0, 14.0),
    "switch": (26.0, 26.0),
    "stop": (30.0, 22.0),
    "pedal": (60.0, 110.0),
    "shoe": (60.0, 110.0),
    "wheel": (26.0, 72.0),
    "lever": (26.0, 62.0),
    "breath": (24.0, 16.0),
    "aftertouch": (36.0, 12.0),
    "source": (36.0, 16.0),
}
"""How wide and deep a control of each kind usually is."""
BESIDE: tuple[ControlKind, ...] = ("wheel", "lever", "aftertouch", "breath", "source")
"""What lies to the left of the keys."""
BANDS: tuple[ControlKind, ...] = (
    "knob",
    "fader",
    "button",
    "stop",
    "pad",
    "switch",
    "pedal",
    "shoe",
)
"""What lies above the keys, from left to right and then in the next band."""
DISPLAY, SCREEN = "", (74.0, 30.0)
"""What stands for the display among the spots, and how large it is."""
LABELLED: frozenset[ControlKind] = frozenset(
    ("knob", "fader", "pedal", "shoe", "wheel", "lever", "breath", "aftertouch", "source")
)
"""Kinds whose names stand below them; others bear theirs."""
WIDEST, NARROWEST = 420.0, 180.0
DEEPEST_BAND = 200.0


class Face(NamedTuple):
    """How large a device is, and where its keybeds, its controls and its display lie, by id."""

    size: Size
    spots: dict[str, Spot]
    display: Spot | None = None


class _Group(NamedTuple):
    """Controls of one kind as they lie, from a corner of their own."""

    spots: dict[str, Spot]
    wide: float
    deep: float


@derived(256)
def face_of(device: Device) -> Face:
    """Where everything of a device lies; what is placed by hand stays there."""
    spots = _laid_out(device)
    display = spots.pop(DISPLAY, None)
    for control in device.controls:
        if control.at is not None:
            spots[control.id] = control.at
    for bed in device.keybeds:
        if bed.at is not None:
            spots[bed.id] = bed.at
    wide = max((spot.right for spot in spots.values()), default=NARROWEST) + MARGIN
    deep = max((spot.bottom for spot in spots.values()), default=60.0) + MARGIN
    if device.size is not None:
        return Face(device.size, spots, display)
    if display is not None:
        wide, deep = max(wide, display.right + MARGIN), max(deep, display.bottom + MARGIN)
    return Face(Size(wide=max(NARROWEST, wide), deep=max(70.0, deep)), spots, display)


def on_face(control: Control) -> bool:
    """Whether a control is on the device itself, and no pad that is plugged in."""
    return control.input is None


def _laid_out(device: Device) -> dict[str, Spot]:
    plugged = {jack.control for jack in device.jacks}
    shown = [c for c in device.controls if on_face(c) and c.id not in plugged]
    by_kind: dict[ControlKind, list[Control]] = {}
    for control in shown:
        by_kind.setdefault(control.kind, []).append(control)
    side = _column(by_kind, BESIDE)
    keys = _keys(device.keybeds)
    room = max(WIDEST, side.wide + keys.wide) if device.keybeds else WIDEST
    spots: dict[str, Spot] = {}
    groups = [_grid(by_kind[kind]) for kind in BANDS if kind in by_kind]
    if shown and device.programs and device.storage.slots > 1:
        screen = Spot(x=0.0, y=0.0, wide=SCREEN[0], high=SCREEN[1])
        groups.insert(len(groups) // 2, _Group({DISPLAY: screen}, *SCREEN))
    top = _bands(groups, room, spots)
    left = MARGIN
    for group in (side, keys):
        _put(group, left, top, spots)
        left += group.wide + (GAP * 2 if group.wide else 0.0)
    return spots


def _bands(groups: list[_Group], room: float, spots: dict[str, Spot]) -> float:
    """Groups from left to right, in as many bands as they need; where the next band would begin."""
    left, top, deep = MARGIN, MARGIN, 0.0
    for group in groups:
        if left > MARGIN and left + group.wide > room:
            left, top, deep = MARGIN, top + deep + GAP * 2, 0.0
        _put(group, left, top, spots)
        left += group.wide + GAP * 2
        deep = max(deep, group.deep)
    return top + (deep + GAP * 2 if groups else 0.0)


def _put(group: _Group, left: float, top: float, spots: dict[str, Spot]) -> None:
    for ident, spot in group.spots.items():
        spots[ident] = Spot(
            x=round(left + spot.x, 1), y=round(top + spot.y, 1), wide=spot.wide, high=spot.high
        )


def _grid(controls: list[Control]) -> _Group:
    """Controls in their rows and columns; those that share one lie on in rows of eight."""
    places = {(control.row, control.column) for control in controls}
    spread = len(places) == len(controls)
    first = min(control.row for control in controls)
    wide, deep = CELLS[controls[0].kind]
    below = LABEL if controls[0].kind in LABELLED else 0.0
    spots = {}
    for number, control in enumerate(controls):
        row, column = divmod(number, 8)
        if spread:
            row, column = control.row - first, control.column
        across = wide * control.span + GAP * (control.span - 1)
        spots[control.id] = Spot(
            x=column * (wide + GAP), y=row * (deep + GAP + below), wide=across, high=deep
        )
    return _measured(spots, below)


def _column(by_kind: dict[ControlKind, list[Control]], kinds: Iterable[ControlKind]) -> _Group:
    """Wheels beside each other, small things below them."""
    spots: dict[str, Spot] = {}
    left = 0.0
    below = 0.0
    for kind in kinds:
        wide, deep = CELLS[kind]
        for control in by_kind.get(kind, ()):
            if kind in ("wheel", "lever"):
                spots[control.id] = Spot(x=left, y=0.0, wide=wide, high=deep)
                left += wide + GAP
                below = max(below, deep + GAP + LABEL)
            else:
                spots[control.id] = Spot(x=0.0, y=below, wide=wide, high=deep)
                below += deep + GAP + LABEL
    return _measured(spots, LABEL)


def _keys(beds: tuple[Keybed, ...]) -> _Group:
    """Keybeds behind each other, the last one nearest to the person."""
    spots = {}
    top = 0.0
    deep = KEYS_DEEP if len(beds) < 3 else KEYS_DEEP / 2
    for bed in beds:
        spots[bed.id] = Spot(x=0.0, y=top, wide=round(bed.keys * WHITE_KEY * 7 / 12, 1), high=deep)
        top += deep + GAP
    return _measured(spots)


def _measured(spots: dict[str, Spot], below: float = 0.0) -> _Group:
    """A group as large as what lies in it, with room for names below."""
    wide = max((spot.right for spot in spots.values()), default=0.0)
    deep = max((spot.bottom for spot in spots.values()), default=0.0)
    return _Group(spots, wide, deep + below if spots else 0.0)
