"""A slow second engine: one note walked from key to part, straight from the plan's own words."""

from collections import Counter

from vastzone.core.plan.queries import lookup


def sounds(plan, at, owner, bed, key, velocity):
    """What a struck key sounds: («device:part», note) as often as it is heard."""
    found = Counter()
    program = lookup.program_in(at, owner)
    for zone in program.zones if program else ():
        covers = zone.keybed == bed and zone.low <= key <= zone.high
        note = key + 12 * zone.octave + zone.transpose
        strikes = zone.vel_low <= velocity <= zone.vel_high
        if zone.on and covers and strikes and 0 <= note <= 127:
            outs = [p.id for p in owner.ports if p.flow != "in" and p.id in (zone.ports or p.id)]
            found += walked(plan, at, owner, outs, zone.channel, note, velocity)
    return found


def walked(plan, at, owner, outs, channel, note, velocity):
    """A note that leaves a device by some outputs, and plays its own parts while local is on."""
    found = heard(at, owner, "", channel, note, velocity) if owner.local else Counter()
    for out in outs:
        found += beyond(plan, at, f"{owner.id}:{out}", channel, note, velocity, frozenset())
    return found


def beyond(plan, at, out, channel, note, velocity, taken):
    """What the note sounds behind one output; no cable is taken twice the same way."""
    found = Counter()
    sockets = {f"{d.id}:{p.id}": (d, p) for d in plan.devices for p in d.ports}
    for cable in plan.cables:
        for source, dest in ((cable.source, cable.dest), (cable.dest, cable.source)):
            owner, port = sockets[dest]
            if source != out or port.flow == "out" or (source, dest) in taken:
                continue
            found += heard(at, owner, port.id, channel, note, velocity)
            for thru in (t for t in owner.thrus if t.source == port.id):
                found += beyond(
                    plan,
                    at,
                    f"{owner.id}:{thru.dest}",
                    channel,
                    note,
                    velocity,
                    taken | {(source, dest)},
                )
    return found


def heard(at, owner, port, channel, note, velocity):
    """The parts of a device that sound a note which comes in at a port."""
    program = lookup.program_in(at, owner)
    chosen = {c.part: c.kit for c in program.kits} if program else {}
    found = Counter()
    for part in owner.parts:
        kit = next((k for k in owner.kits if k.id == chosen.get(part.id, part.kit)), None)
        answers = (
            part.channel in (None, channel)
            and (not port or not part.ports or port in part.ports)
            and part.low <= note <= part.high
            and part.vel_low <= velocity <= part.vel_high
        )
        if not answers:
            continue
        if kit is not None:
            if any(s.note == note for s in kit.sounds):
                found[f"{owner.id}:{part.id}", note] += 1
        elif 0 <= note + part.transpose <= 127:
            found[f"{owner.id}:{part.id}", note + part.transpose] += 1
    return found
