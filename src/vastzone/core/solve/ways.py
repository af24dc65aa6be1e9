"""Second step: outputs chosen so that each wish arrives exactly once."""

from collections import Counter
from collections.abc import Mapping
from itertools import combinations

import msgspec

from vastzone.core.engine.network import network
from vastzone.core.engine.reach import arrivals, course_of, joined_tree
from vastzone.core.engine.world import Sources
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.cache import derived
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.plan.touch import Send, Zone
from vastzone.core.solve.shape import Binding, Obstacle, Shaped


def choose_ways(shaped: Shaped) -> Shaped:
    """Choose outputs, and switch local control off, where a wish would arrive twice."""
    carried: dict[tuple[str, int, str, bool], list[Binding]] = {}
    for binding in shaped.bindings:
        key = (binding.device, binding.program, binding.thing, binding.is_zone)
        carried.setdefault(key, []).append(binding)
    plan, obstacles = _stop_passing_on(shaped.plan, carried), list(shaped.obstacles)
    fits: set[tuple[str, bool, tuple[str, ...], frozenset[str]]] = set()
    for (device, number, thing, is_zone), held in carried.items():
        owner = lookup.device(plan, device)
        program = lookup.program(owner, number)
        sender = next(s for s in (program.zones if is_zone else program.sends) if _is(s, thing))
        parties = {b.intent.plays or b.intent.moves or "" for b in held}
        like = (device, owner.local, sender.ports, frozenset(parties))
        if like in fits:
            continue
        ports, local = _best(plan, owner, sender.ports, parties)
        if ports is None:
            obstacles.append(_no_way(plan, owner, held))
            continue
        if local is not owner.local:
            plan = edits.set_device(device, "Local control", local=local).change(plan)
            owner = lookup.device(plan, device)
            program = lookup.program(owner, number)
        if ports != sender.ports:
            plan = _with_ports(plan, owner, number, sender, ports)
        else:
            fits.add(like)
    return shaped._replace(plan=plan, obstacles=tuple(obstacles))


def _stop_passing_on(plan: Plan, carried: dict[tuple[str, int, str, bool], list[Binding]]) -> Plan:
    """Switch off thru connections of computers that only make wishes arrive twice.

    One switch on the computer mends at once what would take a change in every program.
    """
    if not any(d.kind == "computer" and d.thrus for d in plan.devices):
        return plan
    wrong = _wrong(plan, carried)
    for owner in plan.devices if wrong else ():
        for thru in owner.thrus if owner.kind == "computer" else ():
            here = lookup.device(plan, owner.id)
            kept = tuple(t for t in here.thrus if t is not thru)
            tried = edits.set_device(owner.id, "Thru", thrus=kept).change(plan)
            left = _wrong(tried, carried)
            if left < wrong:
                plan, wrong = tried, left
    return plan


def _wrong(plan: Plan, carried: dict[tuple[str, int, str, bool], list[Binding]]) -> int:
    """How many senders do not reach what they are meant for exactly once."""
    count = 0
    for (device, number, thing, is_zone), held in carried.items():
        owner = lookup.device(plan, device)
        program = lookup.program(owner, number)
        sender = next(s for s in (program.zones if is_zone else program.sends) if _is(s, thing))
        ways = ways_to(plan, Sources(owner.id, owner.ports, owner.local), sender.ports)
        count += any(ways[b.intent.plays or b.intent.moves or ""] != 1 for b in held)
    return count


def _is(sender: Zone | Send, thing: str) -> bool:
    if isinstance(sender, Zone):
        return sender.id == thing
    return sender.thing == thing


def ways_to(plan: Plan, source: Sources, ports: tuple[str, ...]) -> Mapping[str, int]:
    """How many ways lead from a sender to each part and target."""
    tree = joined_tree(source, ports, network(plan))
    reached = tuple(ref_to(device, port) for _, device, port in arrivals(source, tree))
    ends = dict.fromkeys(device_of(ref) for ref in reached)
    return _count(reached, tuple(lookup.device(plan, d) for d in ends))


@derived(256)
def _count(reached: tuple[str, ...], devices: tuple[Device, ...]) -> Mapping[str, int]:
    owners = {d.id: d for d in devices}
    count: Counter[str] = Counter()
    for ref in reached:
        device, port = read_ref(ref)
        owner = owners[device]
        for part in owner.parts:
            if not port or not part.ports or port in part.ports:
                count[ref_to(device, part.id)] += 1
        for target in owner.targets:
            count[ref_to(device, target.id)] += 1
    return count


def _best(
    plan: Plan, owner: Device, now: tuple[str, ...], parties: set[str]
) -> tuple[tuple[str, ...] | None, bool]:
    """The outputs, as they are if they serve; else the most of them, the quickest first."""
    outs = tuple(p.id for p in owner.ports if p.flow != "in")
    chosen = [(now, owner.local)]
    for size in range(len(outs), 0, -1):
        ranked = sorted(combinations(outs, size), key=lambda ports: _delay(plan, owner, ports))
        chosen += [(ports, owner.local) for ports in ranked]
    if owner.local and owner.parts:
        chosen += [(ports, False) for ports, _ in chosen]
    for ports, local in chosen:
        ways = ways_to(plan, Sources(owner.id, owner.ports, local), ports)
        if all(ways[party] == 1 for party in parties):
            return ports, local
    return None, owner.local


def _delay(plan: Plan, owner: Device, ports: tuple[str, ...]) -> float:
    tree = joined_tree(Sources(owner.id, owner.ports, False), ports, network(plan))
    return max(course_of(tree).times, default=0.0)


def _no_way(plan: Plan, owner: Device, held: list[Binding]) -> Obstacle:
    ways = ways_to(plan, Sources(owner.id, owner.ports, owner.local), ())
    for binding in held:
        party = binding.intent.plays or binding.intent.moves or ""
        if ways[party] != 1:
            name = lookup.device(plan, device_of(party)).name
            how = (
                f"No cable leads from {owner.name} to {name}: connect them."
                if not ways[party]
                else f"{owner.name} reaches {name} by {ways[party]} ways and cannot choose between "
                "them: take out a cable or a thru connection."
            )
            return Obstacle((binding.intent.id,), (), how)
    names = " and ".join(b.intent.name for b in held)
    return Obstacle(
        tuple(b.intent.id for b in held),
        (),
        f"No choice of outputs of {owner.name} serves {names}.",
    )


def _with_ports(
    plan: Plan, owner: Device, number: int, sender: Zone | Send, ports: tuple[str, ...]
) -> Plan:
    program = lookup.program(owner, number)
    new = edits.changed(sender, ports=ports)
    if isinstance(sender, Zone):
        changed = edits.changed(
            program, zones=tuple(new if z is sender else z for z in program.zones)
        )
    else:
        changed = edits.changed(
            program, sends=tuple(new if s is sender else s for s in program.sends)
        )
    device = edits.changed(owner, programs=edits.swapped(owner.programs, program, changed))
    return msgspec.structs.replace(plan, devices=edits.swapped(plan.devices, owner, device))
