"""What sends and what listens, as the solver sees it."""

from typing import NamedTuple

from vastzone.core.engine.network import network
from vastzone.core.engine.reach import arrivals, joined_tree
from vastzone.core.engine.receivers import Sources
from vastzone.core.midi.wide import MOVING
from vastzone.core.plan.model.controls import Program, Send, Zone
from vastzone.core.plan.model.parts import Kit, Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import strokes_as
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.refs import owner_place, ref_to, send_place
from vastzone.core.response.velocity import sent_window
from vastzone.core.solve.shaped import Binding, Shaped


class Sender(NamedTuple):
    """A zone or send in one program, the parts and targets that it is meant for, and its reach.

    ``notes`` are the notes of a zone; a send has one note, which may be open.  ``window`` is its
    velocities.  ``base`` is its reference without the field.  Keys of a zone are sent ``shift``
    semitones from themselves.
    """

    device: str
    program: int
    base: str
    zone: Zone | None
    send: Send | None
    bindings: tuple[Binding, ...]
    reach: frozenset[tuple[str, str]]
    shift: int = 0

    @property
    def notes(self) -> tuple[int, int]:
        """Lowest and highest note sent."""
        if self.zone is not None:
            return self.zone.low + self.shift, self.zone.high + self.shift
        number = self.send.number if self.send else 0
        return number, number

    @property
    def window(self) -> tuple[int, int]:
        """Velocities sent."""
        if self.zone:
            return self.zone.vel_low, self.zone.vel_high
        return sent_window(self.send) if self.send else (1, 127)


class Receiver(NamedTuple):
    """A part with the kits that it is on in the plan's scenes."""

    ref: str
    device: Device
    part: Part
    kits: tuple[Kit, ...]

    def reached_by(self, reach: frozenset[tuple[str, str]]) -> bool:
        """Whether what arrives at these devices and ports arrives at the part."""
        wanted = self.part.ports
        return any(
            device == self.device.id and (not port or not wanted or port in wanted)
            for device, port in reach
        )


def senders(shaped: Shaped) -> list[Sender]:
    """Every zone that is on and every note or controller that is sent, in programs in use."""
    bound: dict[tuple[str, int, str, bool], list[Binding]] = {}
    for binding in shaped.bindings:
        bound.setdefault(
            (binding.device, binding.program, binding.thing, binding.is_zone), []
        ).append(binding)
    listed: list[Sender] = []
    for owner in shaped.plan.devices:
        for program in programs_in_use(shaped.plan, owner):
            listed += _sender_of(shaped.plan, owner, program, bound)
    return listed


def programs_in_use(plan: Plan, owner: Device) -> list[Program]:
    """The programs that a device is on in some scene."""
    programs = []
    for n in lookup.scenes_by_program(plan, owner):
        programs.append(lookup.program(owner, n))
    return programs


def _sender_of(
    plan: Plan,
    owner: Device,
    program: Program,
    bound: dict[tuple[str, int, str, bool], list[Binding]],
) -> list[Sender]:
    source = Sources(owner.id, owner.ports, owner.local)
    mute = unheard_controls(plan, owner)
    listed = []
    for zone in program.zones:
        bindings = bound.get((owner.id, program.number, zone.id, True), [])
        if zone.sends:
            base = owner_place(owner.id, "zone", zone.id, program.id)
            reach = _reach(plan, source, zone.ports)
            listed.append(
                Sender(
                    owner.id,
                    program.number,
                    base,
                    zone,
                    None,
                    tuple(bindings),
                    reach,
                    heard_shift(owner, zone),
                )
            )
    for send in program.sends:
        thing = send.thing
        bindings = bound.get((owner.id, program.number, thing, False), [])
        if bindings or (send.message in ("note", *MOVING) and send.control not in mute):
            base = send_place(owner.id, program.id, thing)
            reach = _reach(plan, source, send.ports)
            listed.append(
                Sender(owner.id, program.number, base, None, send, tuple(bindings), reach)
            )
    return listed


def unheard_controls(plan: Plan, owner: Device) -> frozenset[str]:
    """The controls of a module that no pad in its inputs makes sound as themselves."""
    strokes = dict(strokes_as(plan, owner))
    return frozenset(strokes) - frozenset(strokes.values())


def _reach(plan: Plan, source: Sources, ports: tuple[str, ...]) -> frozenset[tuple[str, str]]:
    tree = joined_tree(source, ports, network(plan))
    reached = set()
    for _, device, port in arrivals(source, tree):
        reached.add((device, port))
    return frozenset(reached)


def receivers(plan: Plan) -> list[Receiver]:
    """Every part of the plan."""
    listed = []
    for owner, part in lookup.parts(plan):
        named = lookup.by_ids(owner.kits)
        kits = tuple(named[ident] for ident in sorted(_kits_of(plan, owner, part)))
        listed.append(Receiver(ref_to(owner.id, part.id), owner, part, kits))
    return listed


def _kits_of(plan: Plan, owner: Device, part: Part) -> set[str]:
    """Every kit that a part is on in some program in use."""
    chosen = {part.kit} if part.kit else set()
    for program in programs_in_use(plan, owner):
        chosen |= {choice.kit for choice in program.kits if choice.part == part.id}
    return chosen
