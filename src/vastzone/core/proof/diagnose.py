"""From a strike that is not as meant to its cause: the number, cable or range that is behind it.

A cause is told by its kind and what it concerns, without scene or program, so that all that one
wrong number spoils comes together in one line.
"""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.console_contacts import blame
from vastzone.core.engine.reach import arrivals, joined_tree
from vastzone.core.engine.receivers import Sources
from vastzone.core.engine.tables import Emission, Sending
from vastzone.core.midi.wide import MOVING, heard_as
from vastzone.core.plan.model.controls import Program, Send, Zone
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import strokes_as
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.queries.wishes_in_scenes import wishes_of
from vastzone.core.plan.refs import device_of, read_ref, thing_of
from vastzone.core.proof.travel import movement_remark
from vastzone.core.proof.verdict import Effect, Mark

NEAREST = ("shift", "velocity", "range", "off", "channel", "path")


class Clue(NamedTuple):
    """One cause of one mark: its kind, what it concerns, and the program it was met in."""

    kind: str
    about: tuple[str, ...]
    program: int


class Case(NamedTuple):
    """One mark with what is needed to look into it."""

    compiled: Compiled
    owner: Device
    program: Program
    mark: Mark

    @property
    def thing(self) -> str:
        """The keybed or control."""
        return thing_of(self.mark.source)

    def part(self, ref: str) -> tuple[Device, Part | None]:
        """A device and its part; None where the reference is a target."""
        device, ident = read_ref(ref)
        owner = lookup.device(self.compiled.plan, device)
        return owner, lookup.find(owner.parts, ident)

    def reaches(self, ports: tuple[str, ...], device: str) -> bool:
        """Whether anything that leaves by some ports arrives at a device."""
        source = Sources(self.owner.id, self.owner.ports, self.owner.local)
        tree = joined_tree(source, ports, self.compiled.world.network)
        return any(there == device for _, there, _ in arrivals(source, tree))


def clues(case: Case) -> Iterator[Clue]:
    """Every cause of a mark, each once."""
    beds = lookup.ids_of(case.owner.keybeds)
    is_key = case.thing in beds
    spoilt = blame(case.owner).get((case.mark.source, case.mark.low if is_key else 0))
    if spoilt is not None:
        yield Clue("wiring", (case.owner.id, str(spoilt)), case.program.number)
        return
    case_clues = _key_clues(case) if case.thing in beds else _control_clues(case)
    told = dict.fromkeys(case_clues) or {("unclear", (case.mark.source, case.mark.verdict)): None}
    for kind, about in told:
        yield Clue(kind, about, case.program.number)


Found = tuple[str, tuple[str, ...]]


def _key_clues(case: Case) -> Iterator[Found]:
    mark = case.mark
    emissions = case.compiled.keys.get((mark.source, mark.low), ())
    sounding = {}
    for hit in (*mark.meant, *mark.extra):
        sounding[hit.ref] = _origins(emissions, hit.ref)
    zones = _zones_over(case)
    busy: set[str] = set()
    for hit in mark.meant:
        if hit not in mark.missing:
            busy.update(sounding[hit.ref])
    astray: set[str] = set()
    for hit in mark.missing:
        if not zones:
            yield "dead", (mark.source,)
            continue
        # A zone that sounds something else as meant explains nothing: the others are looked at
        # first.
        kind, zone = _nearest(case, [z for z in zones if z.id not in busy] or zones, hit)
        busy.add(zone.id)
        astray.add(zone.id)
        about = (device_of(hit.ref),) if kind == "path" else (zone.id, hit.ref)
        yield kind, (case.owner.id, *about)
    for hit in mark.extra:
        yield from _key_extra(case, hit, sounding[hit.ref], astray)


def _zones_over(case: Case) -> list[Zone]:
    """The zones that cover the key."""
    key = case.mark.low
    here = (zone for zone in case.program.zones if zone.keybed == case.thing)
    zones = []
    for zone in here:
        if zone.low <= key <= zone.high:
            zones.append(zone)
    return zones


def _origins(emissions: tuple[Emission, ...], ref: str) -> list[str]:
    origins = []
    for emission in emissions:
        for landing in emission.landings:
            if landing.ref == ref:
                origins.append(emission.origin)
    return origins


def _nearest(case: Case, zones: list[Zone], hit: Effect) -> tuple[str, Zone]:
    """The zone that is closest to playing a part as wished, and what keeps it from that."""
    tried = []
    for zone in zones:
        tried.append((_hindrance(case, zone, hit), zone))
    return min(tried, key=lambda one: (NEAREST.index(one[0]), one[1].id))


def _hindrance(case: Case, zone: Zone, hit: Effect) -> str:
    owner, part = case.part(hit.ref)
    if not zone.sends:
        return "off"
    if not case.reaches(zone.ports, owner.id):
        return "path"
    if part is None or part.channel not in (None, zone.channel):
        return "channel"
    window = max(zone.vel_low, part.vel_low), min(zone.vel_high, part.vel_high)
    if not window[0] <= case.mark.vel_low <= window[1]:
        return "velocity"
    note = case.mark.low + heard_shift(case.owner, zone)
    for listener in case.compiled.world.of(owner.id).by_channel[zone.channel - 1]:
        if listener.ref == hit.ref:
            return "range" if listener.sounds(note) is None else "shift"
    return "range"


def _key_extra(case: Case, hit: Effect, origins: list[str], astray: set[str]) -> Iterator[Found]:
    mark, device = case.mark, case.owner.id
    if hit in mark.meant:
        yield "twice", (device, hit.ref)
        return
    # The part is missed at another pitch: that is told where it is missing.
    if any(hit.ref == m.ref for m in mark.missing):
        return
    wanted = []
    for m in mark.meant:
        wanted.append(m.ref)
    for zone in dict.fromkeys(origins):
        # It sounds instead of what this zone was meant for: that is told there.
        if zone in astray:
            continue
        sharing = []
        for ref in wanted:
            if zone in _origins(case.compiled.keys.get((mark.source, mark.low), ()), ref):
                sharing.append(ref)
        if sharing:
            yield "shared", _shared(case, hit.ref)
        elif _wished_elsewhere(case, hit.ref):
            yield "reach", (device, zone, hit.ref)
        else:
            yield "stray", (device, zone, hit.ref)


def _shared(case: Case, ref: str) -> tuple[str, str]:
    """The device and channel on which a part sounds that is not meant."""
    owner, part = case.part(ref)
    return owner.id, str(part.channel if part and part.channel is not None else "")


def _wished_elsewhere(case: Case, ref: str) -> bool:
    """Whether another wish of the keybed in this scene wants a part."""
    plan, scene = case.compiled.plan, case.compiled.scene
    wishes_here = wishes_of(plan)[scene.id if scene else ""]
    return any(i.plays == ref for i in wishes_here.get(case.mark.source, ()))


def _control_clues(case: Case) -> Iterator[Found]:
    mark, device = case.mark, case.owner.id
    if case.thing in dict(strokes_as(case.compiled.plan, case.owner)):
        yield "stroke", (device, case.thing)
        return
    if mark.remark:
        yield _remarked(case)
    unheard = list(_unheard(case))
    yield from unheard
    for hit in mark.extra:
        if hit in mark.meant:
            yield "twice", (device, hit.ref)
        elif not unheard and hit.ref not in {missing.ref for missing in mark.missing}:
            yield _control_extra(case, hit)


def _remarked(case: Case) -> Found:
    """Why a control that plays or moves the right thing does not do it as is meant."""
    mark, plan = case.mark, case.compiled.plan
    about = (case.owner.id, case.thing, str(mark.bank))
    sendings = case.compiled.controls.get((mark.source, mark.bank), ())
    motions = [(sending.send, motion) for sending in sendings for motion in sending.motions]
    for wish in plan.wishes:
        if wish.id in mark.wishes and wish.moves:
            target = lookup.target(plan, wish.moves)
            if target.sweeps and movement_remark(wish, motions, target):
                return "travel", (*about, wish.id)
    return "mode", (*about, mark.remark)


def _unheard(case: Case) -> Iterator[Found]:
    """Why a control does not play or move what it is meant to."""
    here = (case.thing, case.mark.bank)
    every = (send for send in case.program.sends if send.message != "none")
    sends = []
    for send in every:
        if (send.control, send.bank) == here:
            sends.append(send)
    for hit in case.mark.missing:
        _, part = case.part(hit.ref)
        yield from _unplayed(case, sends, hit, part) if part else _unmoved(case, sends, hit)


def _control_extra(case: Case, hit: Effect) -> Found:
    """Why a control reaches something that it is not meant to."""
    sendings = case.compiled.controls.get((case.mark.source, case.mark.bank), ())
    if any(_both(sendings, meant.ref, hit.ref) for meant in case.mark.meant):
        return "shared", _shared(case, hit.ref)
    return "control strays", (case.owner.id, hit.ref)


def _both(sendings: tuple[Sending, ...], one: str, other: str) -> bool:
    """Whether one thing sent reaches two parts."""
    return any(
        {one, other} <= {landing.ref for landing in note.landings}
        for sending in sendings
        for note in sending.notes
    ) or any(
        {one, other} <= {hearing.ref for hearing in motion.hearings}
        for sending in sendings
        for motion in sending.motions
    )


def _unplayed(case: Case, sends: list[Send], hit: Effect, part: Part) -> Iterator[Found]:
    device, there = case.owner.id, device_of(hit.ref)
    every = []
    for send in sends:
        if send.message == "note":
            every.append(send)
    notes = []
    for send in every:
        if send.vel_low <= case.mark.vel_low <= send.vel_high:
            notes.append(send)
    if every and not notes:
        yield "layer hole", (device, case.thing, str(case.mark.bank))
    elif not notes:
        yield "sends nothing", (device, case.thing, str(case.mark.bank), hit.ref)
    elif hit.shift < 0:
        yield "no sound", (hit.ref,)
    elif not any(case.reaches(note.ports, there) for note in notes):
        yield "path", (device, there)
    else:
        yield from _misses(device, notes[0], hit, part)


def _misses(device: str, send: Send, hit: Effect, part: Part) -> Iterator[Found]:
    """What is wrong with a note that arrives and does not call what is meant."""
    there = device_of(hit.ref)
    if send.channel is not None and part.channel not in (None, send.channel):
        yield "send channel", (device, there)
    if send.number != sent_note(part, hit.shift):
        yield "send note", (device, there)
    elif not part.low <= send.number <= part.high:
        yield "part range", (hit.ref,)


def sent_note(part: Part, sounding: int) -> int:
    """The note that has to arrive for a part to sound a note."""
    return sounding if part.kit else sounding - part.transpose


def _unmoved(case: Case, sends: list[Send], hit: Effect) -> Iterator[Found]:
    device = case.owner.id
    there, target = device_of(hit.ref), lookup.target(case.compiled.plan, hit.ref)
    moving = []
    for send in sends:
        if send.message in MOVING:
            moving.append(send)
    about = (device, case.thing, str(case.mark.bank), hit.ref)
    if not moving:
        yield "sends nothing", about
    elif not any(case.reaches(s.ports, there) for s in moving):
        yield "path", (device, there)
    elif target.wide is None or heard_as(
        moving[0].message, moving[0].wide, target.answers, target.wide
    ) in (None, "fine"):
        yield "controller", about
    else:
        yield "controller channel", about
