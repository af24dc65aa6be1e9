"""Rules about what sounds twice."""

from collections import defaultdict
from collections.abc import Iterator
from itertools import combinations, pairwise

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.tables import Emission, Landing
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.cables import remove_cable
from vastzone.core.plan.edits.devices import set_device, set_part
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.controls import Zone
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Cable, Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.core.plan.queries.channels import channel_free
from vastzone.core.plan.queries.spans import runs
from vastzone.core.plan.refs import device_of, read_ref, ref_to, thing_of
from vastzone.core.proof.finding import Remark, Span, Spot
from vastzone.core.say import say
from vastzone.core.text import ALL, listed


def overlapping_zones(spot: Spot) -> Iterator[Remark]:
    """Two zones that share keys and velocities, are not both marked as a layer, and both sound."""
    for one, other in combinations(spot.zones, 2):
        low, high = max(one.low, other.low), min(one.high, other.high)
        soft, loud = max(one.vel_low, other.vel_low), min(one.vel_high, other.vel_high)
        if low > high or soft > loud or (one.layer and other.layer):
            continue
        both = sorted(_sounding(spot, one) & _sounding(spot, other))
        if not both:
            continue
        keys = pitch.span(low, high, spot.owner.octaves)
        yield Remark(
            "keys that double",
            (ref_to(spot.owner.id, one.id), ref_to(spot.owner.id, other.id), spot.ref),
            say(
                "{keys} of {owner} double: {one} and {other} overlap there and are not marked as a "
                "layer.",
                keys=keys,
                owner=spot.owner.name,
                one=one.name,
                other=other.name,
            ),
            tuple(_part_zones(spot, one, other)),
            spot.scenes,
            tuple(Span(spot.ref, a, b) for a, b in runs(both)),
        )


def _sounding(spot: Spot, zone: Zone) -> set[int]:
    """The keys of a zone that sound something."""
    sounding = set()
    for keys, e in spot.runs(zone):
        if e.landings:
            for key in keys:
                sounding.add(key)
    return sounding


def _part_zones(spot: Spot, zone: Zone, other: Zone) -> Iterator[Edit]:
    lower, upper = sorted((zone, other), key=lambda z: (z.low, z.high))
    naming, device, number = spot.owner.octaves, spot.owner.id, spot.program.number
    if lower.low < upper.low:
        label = say(
            "End {lower} on {pitch}", lower=lower.name, pitch=pitch.name(upper.low - 1, naming)
        )
        yield set_zone(device, number, lower.id, label, high=upper.low - 1)
    if upper.high > lower.high:
        label = say(
            "Begin {upper} on {pitch}", upper=upper.name, pitch=pitch.name(lower.high + 1, naming)
        )
        yield set_zone(device, number, upper.id, label, low=lower.high + 1)
    yield _mark_both(device, number, zone, other)


def _mark_both(device: str, number: int, zone: Zone, other: Zone) -> Edit:
    label = say("Keep both: {zone} and {other} are a layer", zone=zone.name, other=other.name)
    first = set_zone(device, number, zone.id, label, layer=True)
    second = set_zone(device, number, other.id, label, layer=True)
    return Edit(label, lambda plan: second.change(first.change(plan)))


def shared_channel(spot: Spot) -> Iterator[Remark]:
    """One note that reaches several parts on its channel, not all marked as a layer."""
    keys: dict[tuple[str, ...], list[int]] = defaultdict(list)
    known: dict[tuple[object, ...], tuple[str, ...]] = {}
    parts: dict[str, Part] = {}
    for zone in spot.zones:
        for run, emission in spot.runs(zone):
            like = tuple((landing.ref, landing.low, landing.high) for landing in emission.landings)
            # Neighbouring keys land alike: what clashes is worked out once for each way to land.
            if like not in known:
                known[like] = _clashing(emission)
                parts |= {landing.ref: landing.part for landing in emission.landings}
            if known[like]:
                keys[known[like]].extend(run)
    for refs, ranges in keys.items():
        spans = tuple(Span(spot.ref, a, b) for a, b in runs(sorted(set(ranges))))
        said = ", ".join(pitch.span(span.low, span.high, spot.owner.octaves) for span in spans)
        yield Remark(
            "parts on one channel",
            (*reversed(refs), spot.ref),
            say(
                "{said} of {owner} double: {together}.",
                said=said,
                owner=spot.owner.name,
                together=together([parts[ref] for ref in refs]),
            ),
            tuple(separate(spot.plan, refs)),
            spot.scenes,
            spans,
        )


def _clashing(emission: Emission) -> tuple[str, ...]:
    """The parts that a note reaches together and that are not a layer."""
    clashing: dict[str, None] = {}
    for one, other in _pairs(emission):
        if one.ref != other.ref and not (one.part.layer and other.part.layer):
            clashing |= {one.ref: None, other.ref: None}
    return tuple(sorted(clashing))


def together(parts: list[Part]) -> str:
    """That parts listen on one channel, in words."""
    channel = next((part.channel for part in parts if part.channel is not None), None)
    where = say("all channels") if channel is None else say("channel {channel}", channel=channel)
    names = []
    for part in parts:
        names.append(part.name)
    if len(names) > 4:
        names = [*names[:3], say("{count} more", count=len(names) - 3)]
    if len(names) == 1:
        return say("{names} listens on {where}", names=names[0], where=where)
    both = say("both") if len(parts) == 2 else say("all")
    return say(
        "{first} and {last} {both} listen on {where}",
        first=", ".join(names[:-1]),
        last=names[-1],
        both=both,
        where=where,
    )


def _pairs(emission: Emission) -> Iterator[tuple[Landing, Landing]]:
    for one, other in combinations(emission.landings, 2):
        if max(one.low, other.low) <= min(one.high, other.high):
            yield one, other


def separate(plan: Plan, refs: tuple[str, ...]) -> Iterator[Edit]:
    """What takes parts that sound together apart, or marks them as a layer."""
    for ref in reversed(refs[-3:]):
        device, part_id = read_ref(ref)
        owner = lookup.device(plan, device)
        part, channel = lookup.part(owner, part_id), channel_free(plan, owner)
        if channel is not None:
            label = say("Move {part} to channel {channel}", part=part.name, channel=channel)
            yield set_part(device, part_id, label, channel=channel)
    label = (
        say("Keep both: they are a layer") if len(refs) == 2 else say("Keep all: they are a layer")
    )

    def mark(plan: Plan) -> Plan:
        for ref in refs:
            device, part = read_ref(ref)
            plan = set_part(device, part, label, layer=True).change(plan)
        return plan

    yield Edit(label, mark)


def double_ways(spot: Spot) -> Iterator[Remark]:
    """One note that reaches one part by two ways: local control and cable, or two cables."""
    seen: set[tuple[str, int, int]] = set()
    for zone in spot.zones:
        for _, emission in spot.runs(zone):
            refs = []
            for landing in emission.landings:
                refs.append(landing.ref)
            for one, other in _pairs(emission) if len(set(refs)) < len(refs) else ():
                ways = (one.ref, one.step, other.step)
                if one.ref == other.ref and ways not in seen:
                    seen.add(ways)
                    yield _two_ways(spot, emission, one, other)


def _two_ways(spot: Spot, emission: Emission, landing: Landing, other: Landing) -> Remark:
    device = lookup.device(spot.plan, device_of(landing.ref))
    bed = Span(spot.ref, spot.bed.low, spot.bed.high)
    if -1 in (landing.step, other.step):
        fix = set_device(
            device.id, say("Switch local control of {device} off", device=device.name), local=False
        )
        return Remark(
            "local control",
            (device.id, spot.ref),
            say(
                "{part} sounds twice: local control of {device} is on and the same notes come back "
                "by cable.",
                part=landing.part.name,
                device=device.name,
            ),
            (fix,),
            spot.scenes,
            (bed,),
        )
    arcs = _differing(emission, landing.step, other.step)
    cables = []
    for cable in spot.plan.cables:
        if frozenset((cable.source, cable.dest)) in arcs:
            cables.append(cable)
    names = listed(dict.fromkeys(_link(spot.plan, cable) for cable in cables), ALL)
    fixes = [*_stop_thrus(spot, emission, landing.step, other.step)]
    for cable in cables:
        fixes.append(
            Edit(
                say("Remove the cable from {ends}", ends=_ends(spot.plan, cable)),
                remove_cable(cable).change,
            )
        )
    return Remark(
        "connected twice",
        (spot.ref, device.id, spot.owner.id),
        say(
            "{owner} reaches {device} twice, by {names}: every note doubles.",
            owner=spot.owner.name,
            device=device.name,
            names=names,
        ),
        tuple(fixes[:4]),
        spot.scenes,
        (bed,),
    )


def _differing(emission: Emission, one: int, other: int) -> set[frozenset[str]]:
    """The ends of the cables that only one of two ways uses."""
    ways = []
    for w in (one, other):
        ways.append({emission.tree.steps[s].arc for s in emission.tree.way(w)})
    arcs = (ways[0] ^ ways[1]) or ways[0]
    return {frozenset((arc.source, arc.dest)) for arc in arcs}


def _stop_thrus(spot: Spot, emission: Emission, one: int, other: int) -> Iterator[Edit]:
    """The thru connections of computers on the way: the mend that pulls no cable."""
    for way in (one, other):
        arcs = []
        for s in emission.tree.way(way):
            arcs.append(emission.tree.steps[s].arc)
        for before, after in pairwise(arcs):
            owner, arrived = lookup.endpoint(spot.plan, before.dest)
            left = lookup.endpoint(spot.plan, after.source)[1]
            if device_ability(owner).chooses_thru:
                kept = tuple(
                    thru
                    for thru in owner.thrus
                    if (thru.source, thru.dest) != (arrived.id, left.id)
                )
                label = say(
                    "Stop {owner} passing {arrived} on to {left}",
                    owner=owner.name,
                    arrived=arrived.name,
                    left=left.name,
                )
                yield set_device(owner.id, label, thrus=kept)


def _link(plan: Plan, cable: Cable) -> str:
    link = lookup.endpoint(plan, cable.source)[1].link
    return {"din": "DIN", "usb": "USB", "bluetooth": "Bluetooth"}[link]


def _ends(plan: Plan, cable: Cable) -> str:
    ends = []
    for ref in (cable.source, cable.dest):
        ends.append(lookup.endpoint(plan, ref))
    return " to ".join(f"{device.name} {port.name}" for device, port in ends)


def thru_rings(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Thru connections and cables that lead back to where they began."""
    seen: set[frozenset[str]] = set()
    trees = compiled[0].world.network.trees.values() if compiled else ()
    for tree in trees:
        for ring in tree.rings:
            if frozenset(ring) in seen:
                continue
            seen.add(frozenset(ring))
            devices = []
            for ref in ring:
                devices.append(lookup.device(plan, device_of(ref)))
            names = " → ".join(d.name for d in (*devices, devices[0]))
            yield Remark(
                "thru ring",
                (devices[0].id, *(d.id for d in devices[1:])),
                say(
                    "Thru connections form a ring, {names}: every note comes round again and "
                    "again.",
                    names=names,
                ),
                tuple(_break_ring(device, ring) for device in devices if device.thrus),
            )


def _break_ring(device: Device, ring: tuple[str, ...]) -> Edit:
    outs = set()
    for ref in ring:
        if ref.startswith(f"{device.id}:"):
            outs.add(thing_of(ref))
    kept = tuple(thru for thru in device.thrus if thru.dest not in outs)
    return set_device(
        device.id, say("Switch the thru of {device} off", device=device.name), thrus=kept
    )
