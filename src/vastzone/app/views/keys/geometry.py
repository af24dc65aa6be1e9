"""Where everything of the Keys view lies: one shared note axis, keybeds below each other."""

from collections.abc import Iterator
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF

from vastzone.core.engine.compile import Compiled
from vastzone.core.midi.pitch import is_black
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.spans import runs
from vastzone.core.plan.refs import owner_place, ref_to, setting_in
from vastzone.core.solve.holds import locked

MARGIN, CAPTION, ZONE, PART, SCALE, GAP = 16.0, 26.0, 28.0, 24.0, 16.0, 14.0
VERDICT = 19.0
KEYS_LEAST, KEYS_MOST, CAPTION_LEAST = 66.0, 128.0, 460.0
_WHITE = {0: 0, 2: 1, 4: 2, 5: 3, 7: 4, 9: 5, 11: 6}


class Axis(NamedTuple):
    """Notes ``low``–``high`` over ``width`` pixels from ``left``, a semitone each the same."""

    low: int
    high: int
    left: float
    width: float

    @property
    def step(self) -> float:
        """Pixels of a semitone."""
        return self.width / (self.high - self.low + 1)

    def x(self, note: float) -> float:
        """The left edge of a note's slot."""
        return self.left + (note - self.low) * self.step

    def note(self, x: float) -> int:
        """The note whose slot is at ``x``, held inside the axis."""
        return max(self.low, min(self.high, self.low + int((x - self.left) // self.step)))

    def edge(self, x: float) -> int:
        """The note that begins nearest to ``x``."""
        return self.low + round((x - self.left) / self.step)

    def span(self, low: int, high: int, top: float, height: float) -> QRectF:
        """The rectangle over the slots of notes ``low``–``high``."""
        return QRectF(self.x(low), top, (high - low + 1) * self.step, height)


class ZoneBar(NamedTuple):
    """A zone as a bar, with the part that gives it its colour (None: it plays nothing).

    ``locked`` says that its channel stays as it is when numbers are worked out.
    """

    zone: Zone
    rect: QRectF
    part: Part | None
    locked: bool = False


class PartBar(NamedTuple):
    """Keys that reach a part."""

    ref: str
    part: Part
    zone: str
    low: int
    high: int
    rect: QRectF


class BedPicture(NamedTuple):
    """A keybed with what is above and below it."""

    owner: Device
    bed: Keybed
    caption: QRectF
    zones: tuple[ZoneBar, ...]
    keys: QRectF
    scale: QRectF
    verdicts: QRectF
    parts: tuple[PartBar, ...]
    bottom: float

    @property
    def ref(self) -> str:
        """The keybed as ``device:keybed``."""
        return ref_to(self.owner.id, self.bed.id)


class KeysPicture(NamedTuple):
    """The whole view."""

    axis: Axis
    beds: tuple[BedPicture, ...]
    height: float


class _Draft(NamedTuple):
    owner: Device
    bed: Keybed
    zones: list[tuple[Zone, int]]
    parts: list[tuple[str, Part, str, int, int, int]]
    locked: frozenset[str]

    def lanes(self) -> tuple[int, int]:
        above = max((lane for _, lane in self.zones), default=0) + 1
        below = max((part[5] for part in self.parts), default=0) + 1
        return above, below


def lay_out(compiled: Compiled, width: float, height: float) -> KeysPicture:
    """Lay the keybeds of a scene out in a widget; keys grow to fill the height there is."""
    beds = lookup.keybeds(compiled.plan)
    if not beds:
        return KeysPicture(Axis(0, 127, MARGIN, max(1.0, width - 2 * MARGIN)), (), 0.0)
    low = min(bed.low for _, bed in beds)
    high = max(bed.high for _, bed in beds)
    axis = Axis(low, high, MARGIN, max(1.0, width - 2 * MARGIN))
    drafts = [_draft(compiled, owner, bed) for owner, bed in beds]
    proved = VERDICT if compiled.plan.wishes else 0.0
    fixed = sum(
        CAPTION + above * ZONE + SCALE + proved + below * PART + GAP
        for above, below in (draft.lanes() for draft in drafts)
    )
    tall = max(KEYS_LEAST, min(KEYS_MOST, (height - fixed - GAP) / len(drafts)))
    top, pictures = GAP / 2, []
    for draft in drafts:
        pictures.append(_place(draft, axis, top, tall, proved))
        top = pictures[-1].bottom + GAP
    return KeysPicture(axis, tuple(pictures), top)


def _draft(compiled: Compiled, owner: Device, bed: Keybed) -> _Draft:
    program = lookup.program_in(compiled.scene, owner)
    of_bed = sorted(
        (z for z in (program.zones if program else ()) if z.keybed == bed.id),
        key=lambda z: (z.low, z.high),
    )
    zones = list(zip(of_bed, _lanes([(item.low, item.high) for item in of_bed]), strict=True))
    reached = list(_reached(compiled, ref_to(owner.id, bed.id)))
    lanes = _lanes([(low, high) for _, _, _, low, high in reached])
    parts = [(*r, lane) for r, lane in zip(reached, lanes, strict=True)]
    return _Draft(owner, bed, zones, parts, _locked_zones(compiled.plan, owner, program))


def _locked_zones(plan: Plan, owner: Device, program: Program | None) -> frozenset[str]:
    """The zones whose channel is locked."""
    held, zones = locked(plan), set()
    for zone in program.zones if program is not None and held else ():
        place = owner_place(owner.id, "zone", zone.id, program.id if program else "")
        if setting_in(place, "channel") in held:
            zones.add(zone.id)
    return frozenset(zones)


def _lanes(spans: list[tuple[int, int]]) -> list[int]:
    """The first lane with room for each span, in order of their beginnings."""
    ends: list[int] = []
    lanes = []
    for low, high in spans:
        lane = next((i for i, end in enumerate(ends) if end < low), len(ends))
        ends[lane : lane + 1] = [high]
        lanes.append(lane)
    return lanes


def _reached(compiled: Compiled, ref: str) -> Iterator[tuple[str, Part, str, int, int]]:
    keys: dict[tuple[str, str], list[int]] = {}
    parts: dict[str, Part] = {}
    for (bed, key), emissions in compiled.keys.items():
        if bed == ref:
            for emission in emissions:
                for landing in emission.landings:
                    keys.setdefault((landing.ref, emission.origin), []).append(key)
                    parts[landing.ref] = landing.part
    spans = []
    for (part, zone), keys_reached in keys.items():
        for low, high in runs(sorted(set(keys_reached))):
            spans.append((part, parts[part], zone, low, high))
    yield from sorted(spans, key=lambda s: (s[3], s[4], s[0]))


def _place(draft: _Draft, axis: Axis, top: float, tall: float, proved: float) -> BedPicture:
    above, below = draft.lanes()
    zones_top = top + CAPTION
    keys_top = zones_top + above * ZONE
    parts_top = keys_top + tall + SCALE + proved
    colours = {zone: part for _, part, zone, *_ in reversed(draft.parts)}
    zones = tuple(
        ZoneBar(
            zone,
            axis.span(zone.low, zone.high, zones_top + lane * ZONE, ZONE - 4),
            colours.get(zone.id),
            zone.id in draft.locked,
        )
        for zone, lane in draft.zones
    )
    parts = tuple(
        PartBar(
            ref, part, zone, low, high, axis.span(low, high, parts_top + lane * PART + 2, PART - 4)
        )
        for ref, part, zone, low, high, lane in draft.parts
    )
    bed = draft.bed
    keys = axis.span(bed.low, bed.high, keys_top, tall)
    left = max(axis.left, min(keys.left(), axis.left + axis.width - CAPTION_LEAST))
    caption = QRectF(left, top, axis.left + axis.width - left, CAPTION)
    scale = QRectF(keys.left(), keys.bottom(), keys.width(), SCALE)
    verdicts = QRectF(keys.left(), scale.bottom(), keys.width(), proved)
    bottom = parts_top + below * PART
    return BedPicture(draft.owner, bed, caption, zones, keys, scale, verdicts, parts, bottom)


def key_rect(axis: Axis, keys: QRectF, note: int) -> QRectF:
    """The outline of a key: black ones lie on the semitone grid, white fronts share the octave."""
    if is_black(note):
        return QRectF(axis.x(note), keys.top(), axis.step, keys.height() * 0.62)
    octave = axis.x(note - note % 12)
    wide = axis.step * 12 / 7
    left = max(keys.left(), octave + _WHITE[note % 12] * wide)
    right = min(keys.right(), octave + (_WHITE[note % 12] + 1) * wide)
    return QRectF(left, keys.top(), right - left, keys.height())


def key_at(axis: Axis, picture: BedPicture, point: QPointF) -> int | None:
    """The key of a keybed under a point; black keys lie on top."""
    if not picture.keys.contains(point):
        return None
    slot = axis.note(point.x())
    for note in (slot, slot - 1, slot + 1):
        if is_black(note) and key_rect(axis, picture.keys, note).contains(point):
            return note
    for note in (slot, slot - 1, slot + 1, slot - 2):
        inside = picture.bed.low <= note <= picture.bed.high and not is_black(note)
        if inside and key_rect(axis, picture.keys, note).contains(point):
            return note
    return slot


def velocity_at(rect: QRectF, y: float) -> int:
    """Velocity 1–127 of a strike: soft at the back of the key, loud at its front edge."""
    share = (y - rect.top()) / rect.height() if rect.height() else 0.5
    return max(1, min(127, round(20 + 107 * share)))
