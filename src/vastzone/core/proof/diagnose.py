"""From a strike that is not as meant to its cause: the number, cable or range that is behind it.

A cause is told by its kind and what it concerns, without scene or program, so that all that one
wrong number spoils comes together in one line.
"""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.reach import arrivals, joined_tree
from vastzone.core.engine.tables import Emission, Sending
from vastzone.core.engine.wired import blame
from vastzone.core.engine.world import Sources
from vastzone.core.midi.wide import WIDE, heard_as
from vastzone.core.plan import lookup
from vastzone.core.plan.drums import strokes_as
from vastzone.core.plan.model import Device
from vastzone.core.plan.refs import device_of, read_ref, thing_of
from vastzone.core.plan.sound import Part
from vastzone.core.plan.touch import Program, Send, Zone
from vastzone.core.proof.intended import wishes_of
from vastzone.core.proof.verdict import Hit, Mark

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
    beds = {bed.id for bed in case.owner.keybeds}
    is_key = case.thing in beds
    spoilt = blame(case.owner).get((case.mark.source, case.mark.low if is_key else 0))
    if spoilt is not None:
        yield Clue("wiring", (case.owner.id, str(spoilt)), case.program.number)
        return
    found = _key_clues(case) if case.thing in beds else _control_clues(case)
    told = dict.fromkeys(found) or {("unclear", (case.mark.source, case.mark.verdict)): None}
    for kind, about in told:
        yield Clue(kind, about, case.program.number)


Found = tuple[str, tuple[str, ...]]


def _key_clues(case: Case) -> Iterator[Found]:
    mark, device = case.mark, case.owner.id
    zones = [
        z for z in case.program.zones if z.keybed == case.thing and z.low <= mark.low <= z.high
    ]
    emissions = case.compiled.keys.get((mark.source, mark.low), ())
    sounding = {hit.ref: _origins(emissions, hit.ref) for hit in (*mark.meant, *mark.extra)}
    busy = {z for hit in mark.meant if hit not in mark.missing for z in sounding[hit.ref]}
    astray: set[str] = set()
    for hit in mark.missing:
        if not zones:
            yield "dead", (mark.source,)
            continue
        kind, zone = _nearest(case, [z for z in zones if z.id not in busy] or zones, hit)
        busy.add(zone.id)
        astray.add(zone.id)
        about = (device_of(hit.ref),) if kind == "path" else (zone.id, hit.ref)
        yield kind, (device, *about)
    for hit in mark.extra:
        yield from _key_extra(case, hit, sounding[hit.ref], astray)


def _origins(emissions: tuple[Emission, ...], ref: str) -> list[str]:
    return [e.origin for e in emissions for la in e.landings if la.ref == ref]


def _nearest(case: Case, zones: list[Zone], hit: Hit) -> tuple[str, Zone]:
    """The zone that is closest to playing a part as wished, and what keeps it from that."""
    tried = [(_hindrance(case, zone, hit), zone) for zone in zones]
    return min(tried, key=lambda one: (NEAREST.index(one[0]), one[1].id))


def _hindrance(case: Case, zone: Zone, hit: Hit) -> str:
    owner, part = case.part(hit.ref)
    if not zone.on:
        return "off"
    if not case.reaches(zone.ports, owner.id):
        return "path"
    if part is None or part.channel not in (None, zone.channel):
        return "channel"
    window = max(zone.vel_low, part.vel_low), min(zone.vel_high, part.vel_high)
    if not window[0] <= case.mark.vel_low <= window[1]:
        return "velocity"
    note = case.mark.low + zone.shift
    for listener in case.compiled.world.of(owner.id).by_channel[zone.channel - 1]:
        if listener.ref == hit.ref:
            return "range" if listener.sounds(note) is None else "shift"
    return "range"


def _key_extra(case: Case, hit: Hit, origins: list[str], astray: set[str]) -> Iterator[Found]:
    mark, device = case.mark, case.owner.id
    if hit in mark.meant:
        yield "twice", (device, hit.ref)
        return
    if any(hit.ref == m.ref for m in mark.missing):
        return
    wanted = [m.ref for m in mark.meant]
    for zone in dict.fromkeys(origins):
        if zone in astray:
            continue
        sharing = [
            ref
            for ref in wanted
            if zone in _origins(case.compiled.keys.get((mark.source, mark.low), ()), ref)
        ]
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
    held = wishes_of(plan)[scene.id if scene else ""]
    return any(i.plays == ref for i in held.get(case.mark.source, ()))


def _control_clues(case: Case) -> Iterator[Found]:
    mark, device = case.mark, case.owner.id
    here = (case.thing, mark.bank)
    sends = [s for s in case.program.sends if (s.control, s.bank) == here and s.message != "none"]
    if case.thing in dict(strokes_as(case.compiled.plan, case.owner)):
        yield "stroke", (device, case.thing)
        return
    if mark.remark:
        yield "mode", (device, case.thing, str(mark.bank), mark.remark)
    wrong = False
    for hit in mark.missing:
        _, part = case.part(hit.ref)
        found = list(_unplayed(case, sends, hit, part) if part else _unmoved(case, sends, hit))
        wrong = wrong or bool(found)
        yield from found
    sendings = case.compiled.controls.get((mark.source, mark.bank), ())
    for hit in mark.extra:
        if hit in mark.meant:
            yield "twice", (device, hit.ref)
        elif not wrong and not any(hit.ref == m.ref for m in mark.missing):
            sharing = [m.ref for m in mark.meant if _both(sendings, m.ref, hit.ref)]
            if sharing:
                yield "shared", _shared(case, hit.ref)
            else:
                yield "control strays", (device, hit.ref)


def _both(sendings: tuple[Sending, ...], one: str, other: str) -> bool:
    """Whether one thing sent reaches two parts."""
    return any(
        {one, other} <= {la.ref for la in e.landings} for s in sendings for e in s.notes
    ) or any({one, other} <= {h.ref for h in m.hearings} for s in sendings for m in s.motions)


def _unplayed(case: Case, sends: list[Send], hit: Hit, part: Part) -> Iterator[Found]:
    device, there = case.owner.id, device_of(hit.ref)
    every = [s for s in sends if s.message == "note"]
    notes = [s for s in every if s.vel_low <= case.mark.vel_low <= s.vel_high]
    if every and not notes:
        yield "layer hole", (device, case.thing, str(case.mark.bank))
    elif not notes:
        yield "sends nothing", (device, case.thing, str(case.mark.bank), hit.ref)
    elif hit.shift < 0:
        yield "no sound", (hit.ref,)
    elif not any(case.reaches(s.ports, there) for s in notes):
        yield "path", (device, there)
    else:
        send = notes[0]
        if send.channel is not None and part.channel not in (None, send.channel):
            yield "send channel", (device, there)
        if send.number != sent_note(part, hit.shift):
            yield "send note", (device, there)
        elif not part.low <= send.number <= part.high:
            yield "part range", (hit.ref,)


def sent_note(part: Part, sounding: int) -> int:
    """The note that has to arrive for a part to sound a note."""
    return sounding if part.kit else sounding - part.transpose


def _unmoved(case: Case, sends: list[Send], hit: Hit) -> Iterator[Found]:
    device = case.owner.id
    there, ident = read_ref(hit.ref)
    target = lookup.by_id(lookup.device(case.compiled.plan, there).targets, ident, "target")
    moving = [s for s in sends if s.message in WIDE]
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
