"""Second step: outputs chosen so that each wish arrives exactly once."""

from collections import Counter
from collections.abc import Iterator, Mapping
from itertools import combinations

from vastzone.core.cache import derived
from vastzone.core.engine.network import network
from vastzone.core.engine.reach import arrivals, course_of, joined_tree
from vastzone.core.engine.receivers import Sources
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import with_device
from vastzone.core.plan.model.checked import changed as edit_changed
from vastzone.core.plan.model.checked import swapped
from vastzone.core.plan.model.controls import Send, Zone
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.core.plan.refs import (
    device_of,
    owner_place,
    read_ref,
    ref_to,
    send_place,
    setting_in,
)
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.holds import locked
from vastzone.core.solve.shaped import Binding, Obstacle, Shaped
from vastzone.core.text import ALL, listed

Carried = dict[tuple[str, int, str, bool], list[Binding]]
"""Bindings by device, program, zone or send, and whether it is a zone."""


def choose_ways(shaped: Shaped, progress: Progress | None = None) -> Shaped:
    """Choose outputs, and switch local control off, where a wish would arrive twice."""
    carried = _carried(shaped)
    plan, obstacles = _stop_passing_on(shaped.plan, carried), list(shaped.obstacles)
    fits: set[tuple[str, bool, tuple[str, ...], frozenset[str]]] = set()
    for (device, number, thing, is_zone), notes_carried in carried.items():
        go_on(progress, say("Ways by which each wish arrives once"), 0.04)
        owner = lookup.device(plan, device)
        sender = _sender(owner, number, thing, is_zone)
        parties = frozenset(item.wish.plays or item.wish.moves or "" for item in notes_carried)
        like = (device, owner.local, sender.ports, parties)
        if like in fits:
            continue
        ports, local = _best(plan, owner, number, sender, parties)
        if ports is None:
            obstacles.append(_no_way(plan, owner, notes_carried))
            continue
        if local is not owner.local:
            plan = set_device(device, say("Local control"), local=local).change(plan)
        if ports == sender.ports:
            fits.add(like)
        else:
            plan = _with_ports(plan, lookup.device(plan, device), number, sender, ports)
    return shaped._replace(plan=plan, obstacles=tuple(obstacles))


def _carried(shaped: Shaped) -> Carried:
    """What each zone and each send carries."""
    carried: Carried = {}
    for binding in shaped.bindings:
        if binding.bond == "free":
            continue
        key = (binding.device, binding.program, binding.thing, binding.is_zone)
        carried.setdefault(key, []).append(binding)
    return carried


def _sender(owner: Device, number: int, thing: str, is_zone: bool) -> Zone | Send:
    program = lookup.program(owner, number)
    return next(s for s in (program.zones if is_zone else program.sends) if _is(s, thing))


def _stop_passing_on(plan: Plan, carried: Carried) -> Plan:
    """Switch off thru connections of computers that only make wishes arrive twice.

    One switch on the computer mends at once what would take a change in every program.
    """
    thrus = []
    for owner in plan.devices:
        if not device_ability(owner).chooses_thru:
            continue
        for thru in owner.thrus:
            place = owner_place(owner.id, "device", "thru")
            if setting_in(place, f"{thru.source}.{thru.dest}") not in locked(plan):
                thrus.append((owner.id, thru))
    wrong = _wrong(plan, carried) if thrus else 0
    for device, thru in thrus if wrong else ():
        here = lookup.device(plan, device)
        kept = tuple(other for other in here.thrus if other is not thru)
        tried = set_device(device, say("Thru"), thrus=kept).change(plan)
        # Greedy, one switch at a time: each is kept only where it mends something.
        left = _wrong(tried, carried)
        if left < wrong:
            plan, wrong = tried, left
    return plan


def _wrong(plan: Plan, carried: Carried) -> int:
    """How many senders do not reach what they are meant for exactly once."""
    count = 0
    for (device, number, thing, is_zone), notes_carried in carried.items():
        owner = lookup.device(plan, device)
        sender = _sender(owner, number, thing, is_zone)
        ways = ways_to(plan, Sources(owner.id, owner.ports, owner.local), sender.ports)
        count += any(ways[item.wish.plays or item.wish.moves or ""] != 1 for item in notes_carried)
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
    return _count(reached, tuple(lookup.device(plan, end) for end in ends))


@derived(256)
def _count(reached: tuple[str, ...], devices: tuple[Device, ...]) -> Mapping[str, int]:
    owners = lookup.by_ids(devices)
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
    plan: Plan, owner: Device, number: int, sender: Zone | Send, parties: frozenset[str]
) -> tuple[tuple[str, ...] | None, bool]:
    """The outputs, as they are if they serve; else the most of them, the quickest first."""
    for ports, local in _ranked(plan, owner, number, sender):
        ways = ways_to(plan, Sources(owner.id, owner.ports, local), ports)
        if all(ways[party] == 1 for party in parties):
            return ports, local
    return None, owner.local


def _ranked(
    plan: Plan, owner: Device, number: int, sender: Zone | Send
) -> Iterator[tuple[tuple[str, ...], bool]]:
    """Sets of outputs to try in turn; then all of them with local control off.

    What is locked is not tried otherwise.
    """
    outs = tuple(port.id for port in owner.ports if port.flow != "in")
    chosen = [sender.ports]
    locks = locked(plan)
    if setting_in(_place_of(owner, number, sender), "outputs") not in locks:
        for size in range(len(outs), 0, -1):
            ways = combinations(outs, size)
            chosen += sorted(ways, key=lambda ports: _delay(plan, owner, ports))
    may_be_off = owner.local and owner.parts
    if setting_in(owner_place(owner.id, "device", "panel"), "local") in locks:
        may_be_off = False
    for local in (True, False) if may_be_off else (owner.local,):
        for ports in chosen:
            yield ports, local


def _place_of(owner: Device, number: int, sender: Zone | Send) -> str:
    """What the settings of a zone or send are named after."""
    program = lookup.program_id(owner, number)
    if isinstance(sender, Zone):
        return owner_place(owner.id, "zone", sender.id, program)
    return send_place(owner.id, program, sender.thing)


def _delay(plan: Plan, owner: Device, ports: tuple[str, ...]) -> float:
    tree = joined_tree(Sources(owner.id, owner.ports, False), ports, network(plan))
    return max(course_of(tree).times, default=0.0)


def _no_way(plan: Plan, owner: Device, bindings: list[Binding]) -> Obstacle:
    ways = ways_to(plan, Sources(owner.id, owner.ports, owner.local), ())
    for binding in bindings:
        party = binding.wish.plays or binding.wish.moves or ""
        if ways[party] != 1:
            name = lookup.device(plan, device_of(party)).name
            return Obstacle((binding.wish.id,), (), _how_it_fails(owner, name, ways[party]))
    names = listed((item.wish.name for item in bindings), ALL)
    return Obstacle(
        tuple(item.wish.id for item in bindings),
        (),
        say("No choice of outputs of {owner} serves {names}.", owner=owner.name, names=names),
    )


def _how_it_fails(owner: Device, name: str, ways: int) -> str:
    """Why a device of some name is not reached exactly once."""
    if ways:
        return say(
            "{owner} reaches {name} by {ways} ways and cannot choose between them: take out a "
            "cable or a thru connection.",
            owner=owner.name,
            name=name,
            ways=ways,
        )
    if owner.name == name and not owner.local:
        return say(
            "Local control of {name} is off and no cable leads back to it: switch local control "
            "on, or connect them.",
            name=name,
        )
    return say("No cable leads from {owner} to {name}: connect them.", owner=owner.name, name=name)


def _with_ports(
    plan: Plan, owner: Device, number: int, sender: Zone | Send, ports: tuple[str, ...]
) -> Plan:
    program = lookup.program(owner, number)
    new = edit_changed(sender, ports=ports)
    if isinstance(sender, Zone):
        changed = edit_changed(program, zones=swapped(program.zones, sender, new))
    else:
        changed = edit_changed(program, sends=swapped(program.sends, sender, new))
    device = edit_changed(owner, programs=swapped(owner.programs, program, changed))
    return with_device(plan, owner, device)
