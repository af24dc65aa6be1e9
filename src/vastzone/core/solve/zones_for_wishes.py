"""Zones for the wishes of keybeds: those that are there where they fit, new ones otherwise."""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from vastzone.core.midi import pitch
from vastzone.core.plan.fields.dials import scope_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import has_field
from vastzone.core.plan.queries.limits import most
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.refs import owner_place, ref_to
from vastzone.core.say import say, say_many
from vastzone.core.solve.assignment import assigned
from vastzone.core.solve.holds import Holds
from vastzone.core.solve.shaped import Binding, Obstacle
from vastzone.core.solve.zone_pieces import KeyWindow, Piece, pieces_of, sharing, wished_window
from vastzone.core.text import ALL, listed

SAME_RANGE, SAME_END, SAME_VELOCITIES, SAME_NAME, IS_ON = 200, 30, 50, 40, 10
SAME_PITCH, SAME_CHANNEL = 20, 5
"""What each agreement counts, beside one for every key that a zone and a piece share."""
ELSEWHERE = -1_000
"""What a zone counts that lies elsewhere: a new one is better."""
STANDING = -10_000
"""What a zone counts that plays something else which is meant to go on."""
NEVER = -1_000_000
WINDOW = ("low", "high", "vel_low", "vel_high", "on")


class BedInProgram(NamedTuple):
    """A keybed of a device in one of its programs, and what must stay as it is there.

    The zones ``playing`` are meant to go on though nobody wished them; ``parts`` are those of the
    plan, as ``device:part``.
    """

    owner: Device
    program: Program
    bed: Keybed
    holds: Holds
    playing: frozenset[str]
    parts: Mapping[str, Part]

    @property
    def zones(self) -> list[Zone]:
        """Its zones, without those that a stop draws."""
        zones = []
        for zone in self.program.zones:
            if zone.keybed == self.bed.id and zone.drawn_by is None:
                zones.append(zone)
        return zones

    def place(self, zone: Zone) -> str:
        """How the settings of a zone are named."""
        return owner_place(self.owner.id, "zone", zone.id, self.program.id)

    def keeps(self, zone: Zone, field: str) -> bool:
        """Whether a field of a zone must stay as it is."""
        return self.holds.keeps(self.owner, "zone", self.place(zone), field)

    @property
    def room(self) -> int | None:
        """How many zones there can be; None where the device does not say."""
        limit = most(self.owner, "zones")
        if limit is None:
            return None
        return max(0, limit.most - len(self.program.zones)) + len(self.zones)


def on_zones(
    owner: Device,
    program: Program,
    wishes: tuple[Wish, ...],
    obstacles: list[Obstacle],
    holds: Holds,
    playing: frozenset[str],
    parts: Mapping[str, Part],
) -> tuple[Program, list[Binding]]:
    """A program with a zone for each wish of its keybeds; ``obstacles`` gets what does not fit.

    The zones ``playing`` go on as they are, where no wish needs them.
    """
    bindings: list[Binding] = []
    for keybed in owner.keybeds:
        bed = BedInProgram(owner, program, keybed, holds, playing, parts)
        here = _of_bed(wishes, ref_to(owner.id, keybed.id))
        beyond = _beyond_the_keys(bed, here)
        if beyond is not None:
            obstacles.append(beyond)
            continue
        chosen = _chosen(bed, pieces_of(here, keybed))
        if chosen is None:
            obstacles.append(_no_zone(bed, here))
            continue
        zones, bound = _set(bed, chosen)
        mine = {zone.id for zone in bed.zones}
        others = tuple(zone for zone in program.zones if zone.id not in mine)
        program = changed(program, zones=(*others, *zones))
        bindings += bound
    return program, bindings


def _of_bed(wishes: tuple[Wish, ...], ref: str) -> list[Wish]:
    """The wishes for sounds that begin at a keybed."""
    bed_wishes = []
    for wish in wishes:
        if wish.plays and ref in wish.sources:
            bed_wishes.append(wish)
    return bed_wishes


def _beyond_the_keys(bed: BedInProgram, wishes: list[Wish]) -> Obstacle | None:
    for wish in wishes:
        window = wished_window(wish, bed.bed)
        if window.low > window.high:
            keys = pitch.span(bed.bed.low, bed.bed.high, bed.owner.octaves)
            sentence = say(
                "{owner} has the keys {keys}, and {wish} is for others.",
                owner=bed.owner.name,
                keys=keys,
                wish=wish.name,
            )
            return Obstacle((wish.id,), (), sentence)
    return None


def _chosen(bed: BedInProgram, pieces: list[Piece]) -> list[tuple[Piece, Zone | None]] | None:
    """The zone for each piece, None for a new one; nothing where they cannot be had."""
    for shared in sharing(pieces):
        if bed.room is None or len(shared) <= bed.room:
            chosen = _assigned(bed, shared)
            if chosen is not None:
                return chosen
    return None


def _assigned(bed: BedInProgram, pieces: list[Piece]) -> list[tuple[Piece, Zone | None]] | None:
    """The zones that fit best, taken together; nothing where a piece is left without."""
    if not pieces:
        return []
    zones = bed.zones
    room = len(pieces) if bed.room is None else bed.room - len(zones)
    new = max(0, min(len(pieces), room))
    if len(zones) + new < len(pieces):
        return None
    worth = []
    for row, piece in enumerate(pieces):
        values = []
        for column, zone in enumerate(zones):
            # The slight slope decides between equals, so that the answer is always the same.
            values.append(_worth(bed, zone, piece) - 1e-6 * (column + row))
        fresh = 0.0 if _can_be_new(bed, piece.window) else NEVER
        worth.append([*values, *(fresh - 1e-6 * number for number in range(new))])
    chosen: list[tuple[Piece, Zone | None]] = []
    for row, column in enumerate(assigned(worth)):
        if worth[row][column] <= NEVER / 2:
            return None
        chosen.append((pieces[row], zones[column] if column < len(zones) else None))
    return chosen


def _can_be_new(bed: BedInProgram, window: KeyWindow) -> bool:
    """Whether a zone for some keys and velocities can be added."""
    if scope_of(bed.owner, "zone-range") == "fixed":
        return False
    usual = {"vel_low": 1, "vel_high": 127}
    wanted = _wanted(window)
    return all(
        wanted[field] == value or has_field(bed.owner, f"zone/{field}")
        for field, value in usual.items()
    )


def _worth(bed: BedInProgram, zone: Zone, piece: Piece) -> int:
    """How well a zone fits: keys in common, more where the ends agree."""
    wanted = _wanted(piece.window)
    for field in WINDOW:
        if getattr(zone, field) != wanted[field] and bed.keeps(zone, field):
            return NEVER
    low, high, soft, loud = piece.window
    common = min(high, zone.high) - max(low, zone.low) + 1
    velocities = min(loud, zone.vel_high) - max(soft, zone.vel_low) + 1
    names = set()
    for wish in piece.wishes:
        names.add(wish.name.lower())
    agreements = (
        (SAME_RANGE, (low, high) == (zone.low, zone.high)),
        (SAME_END, low == zone.low),
        (SAME_END, high == zone.high),
        (SAME_VELOCITIES, (soft, loud) == (zone.vel_low, zone.vel_high)),
        (SAME_NAME, zone.name.lower() in names),
        (IS_ON, zone.on),
        (SAME_PITCH, _sounds_as_wished(bed, zone, piece)),
        (SAME_CHANNEL, _is_heard(bed, zone, piece)),
    )
    agreed = sum(worth for worth, agrees in agreements if agrees)
    if zone.id in bed.playing:
        return agreed + STANDING
    if common <= 0 or velocities <= 0:
        return ELSEWHERE + agreed
    return common + agreed


def _sounds_as_wished(bed: BedInProgram, zone: Zone, piece: Piece) -> bool:
    """Whether a zone already plays its part at the pitch that is wished."""
    part = bed.parts.get(piece.wishes[0].plays or "")
    added = 0 if part is None or part.kit else part.transpose
    return heard_shift(bed.owner, zone) + added == piece.shift


def _is_heard(bed: BedInProgram, zone: Zone, piece: Piece) -> bool:
    """Whether a zone is already on the channel of its part."""
    part = bed.parts.get(piece.wishes[0].plays or "")
    return part is not None and part.channel in (None, zone.channel)


def _wanted(window: KeyWindow) -> dict[str, int]:
    return {
        "low": window.low,
        "high": window.high,
        "vel_low": window.soft,
        "vel_high": window.loud,
        "on": True,
    }


def _set(
    bed: BedInProgram, chosen: list[tuple[Piece, Zone | None]]
) -> tuple[list[Zone], list[Binding]]:
    """The zones as their pieces want them; what is left over is switched off."""
    bindings: list[Binding] = []
    ids = [zone.id for zone in bed.program.zones]
    taken: dict[str, Zone] = {}
    for piece, there in chosen:
        zone = there or _new_zone(ids, bed.bed, piece)
        ids.append(zone.id)
        others = (other.window for other, _ in chosen if other is not piece)
        layer = zone.layer or any(piece.window.meets(window) for window in others)
        taken[zone.id] = changed(zone, **_wanted(piece.window), layer=layer)
        source = ref_to(bed.owner.id, bed.bed.id)
        for wish in piece.wishes:
            bound = Binding(wish, source, bed.owner.id, bed.program.number, zone.id, True)
            bindings.append(bound)
    zones = []
    for zone in bed.zones:
        stays = zone.id not in taken and (zone.id in bed.playing or bed.keeps(zone, "on"))
        zones.append(taken.pop(zone.id, zone if stays else changed(zone, on=False)))
    return [*zones, *taken.values()], bindings


def _new_zone(ids: Iterable[str], bed: Keybed, piece: Piece) -> Zone:
    name = piece.wishes[0].name
    window = piece.window
    ident = lookup.free_id(ids, name)
    return Zone(id=ident, name=name, keybed=bed.id, low=window.low, high=window.high)


def _no_zone(bed: BedInProgram, wishes: list[Wish]) -> Obstacle:
    """Why the wishes of a keybed cannot be had in a program."""
    pieces = list(sharing(pieces_of(wishes, bed.bed)))[-1]
    kept: list[str] = []
    for zone in bed.zones:
        kept.extend(bed.holds.locks(bed.place(zone), WINDOW))
    named = listed(dict.fromkeys(wish.name for wish in wishes[:4]), ALL)
    where = say("{bed} of {owner}", bed=bed.bed.name, owner=bed.owner.name)
    if bed.room is not None and len(pieces) > bed.room:
        sentence = say(
            "{where} needs {zones} in {program} and has {room}.",
            where=where,
            zones=say_many("{count} zone", "{count} zones", len(pieces)),
            program=bed.program.name,
            room=bed.room,
        )
    elif kept:
        sentence = say(
            "What is locked in the zones of {where} leaves none for {named}.",
            where=where,
            named=named,
        )
    else:
        sentence = say(
            "The zones of {where} cannot be changed to what {named} wants of them.",
            where=where,
            named=named,
        )
    return Obstacle(tuple(sorted(lookup.ids_of(wishes))), tuple(kept), sentence)
