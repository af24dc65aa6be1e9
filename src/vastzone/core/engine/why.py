"""Why a struck key reached nothing: the first cause on each of its ways, in a sentence."""

from collections.abc import Iterator
from typing import Literal, NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.console_contacts import reports
from vastzone.core.engine.listen import Listener
from vastzone.core.engine.network import Tree
from vastzone.core.engine.reach import arrivals, joined_tree
from vastzone.core.engine.receivers import Sources
from vastzone.core.midi import pitch
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.say import say

Cause = Literal[
    "not a key",
    "dead key",
    "zone off",
    "zone velocity",
    "outside 0–127",
    "no cable",
    "channel",
    "note range",
    "kit",
    "part velocity",
    "wiring",
]


class Reason(NamedTuple):
    """Why one way stays silent; ``subject`` is what to look at, as ``device:thing``."""

    cause: Cause
    subject: str
    sentence: str


def why_silent(
    compiled: Compiled, device: str, keybed: str, key: int, velocity: int
) -> tuple[Reason, ...]:
    """One reason for each way of a struck key that ends nowhere; none where all sound."""
    owner = lookup.device(compiled.plan, device)
    bed = lookup.keybed(owner, keybed)
    return tuple(_reasons(compiled, owner, bed, key, velocity))


def _reasons(
    compiled: Compiled, owner: Device, bed: Keybed, key: int, velocity: int
) -> Iterator[Reason]:
    said = pitch.label(key, owner.octaves)
    subject = ref_to(owner.id, bed.id)
    if not bed.low <= key <= bed.high:
        keys = pitch.span(bed.low, bed.high, owner.octaves)
        yield Reason(
            "not a key",
            subject,
            say("{owner} has the keys {keys}, not {said}.", owner=owner.name, keys=keys, said=said),
        )
        return
    if not reports(owner).get((subject, key), (subject,)):
        dead = say(
            "{said} of {bed} is dead: a fault in the wiring of {owner}.",
            said=said,
            bed=bed.name,
            owner=owner.name,
        )
        yield Reason("wiring", subject, dead)
        return
    over = _zones_over(lookup.program_in(compiled.scene, owner), bed, key)
    if not over:
        yield Reason(
            "dead key",
            subject,
            say("No zone of {owner} covers {said}.", owner=owner.name, said=said),
        )
    for zone in over:
        reason = _zone(compiled, owner, zone, key, velocity)
        if reason:
            yield reason


def _zones_over(program: Program | None, bed: Keybed, key: int) -> list[Zone]:
    """The zones that cover a key, on or off."""
    zones = program.zones if program else ()
    return [zone for zone in zones if zone.keybed == bed.id and zone.low <= key <= zone.high]


def _zone(compiled: Compiled, owner: Device, zone: Zone, key: int, velocity: int) -> Reason | None:
    subject, named = ref_to(owner.id, zone.id), say("Zone {zone}", zone=zone.name)
    if not zone.sends:
        return Reason("zone off", subject, say("{named} is off.", named=named))
    if not zone.vel_low <= velocity <= zone.vel_high:
        window = f"{zone.vel_low}–{zone.vel_high}"
        return Reason(
            "zone velocity",
            subject,
            say(
                "{named} sends velocities {window}, not {velocity}.",
                named=named,
                window=window,
                velocity=velocity,
            ),
        )
    note = key + heard_shift(owner, zone)
    if not 0 <= note <= 127:
        return Reason(
            "outside 0–127",
            subject,
            say("{named} shifts the note to {note}, outside MIDI's 0–127.", named=named, note=note),
        )
    source = Sources(owner.id, owner.ports, owner.local)
    tree = joined_tree(source, zone.ports, compiled.world.network)
    return why_unheard(compiled, owner, tree, zone.channel - 1, note, velocity, subject)


def why_unheard(
    compiled: Compiled,
    owner: Device,
    tree: Tree,
    channel: int,
    note: int,
    velocity: int,
    subject: str,
) -> Reason | None:
    """Why a note that leaves a device sounds nothing; None when it does sound."""
    source = Sources(owner.id, owner.ports, owner.local)
    reached = list(arrivals(source, tree))
    if not tree.steps and not (owner.local and owner.parts):
        return Reason(
            "no cable",
            subject,
            say("No cable leaves {owner} on the way it uses.", owner=owner.name),
        )
    listeners = []
    for _, device, port in reached:
        listeners.extend(compiled.world.of(device).on(channel, port))
    if not listeners:
        names = _names(compiled, {device for _, device, _ in reached} - {owner.id})
        return Reason(
            "channel",
            subject,
            say(
                "Nothing in {names} listens on channel {channel}.", names=names, channel=channel + 1
            ),
        )
    reasons = []
    for listener in listeners:
        reasons.append(_deaf(compiled, listener, note, velocity))
    return None if None in reasons else reasons[0]


def _names(compiled: Compiled, ids: set[str]) -> str:
    names = []
    for device in compiled.plan.devices:
        if device.id in ids and (device.parts or len(ids) == 1):
            names.append(device.name)
    return " or ".join(names) or say("the device itself")


def _deaf(compiled: Compiled, listener: Listener, note: int, velocity: int) -> Reason | None:
    """Why one part on the right channel does not sound a note; None when it does."""
    owner = lookup.device(compiled.plan, device_of(listener.ref))
    part, arrived = listener.part, pitch.label(note, owner.octaves)
    if listener.sounds(note) is None:
        if listener.kit is not None and part.low <= note <= part.high:
            return Reason("kit", listener.ref, _kit_sentence(listener, owner, note, arrived))
        keys = pitch.span(part.low, part.high, owner.octaves)
        hint = octave_hint(part.low, part.high, note)
        return Reason(
            "note range",
            listener.ref,
            say(
                "{part} answers {keys}; {arrived} arrives.{hint}",
                part=part.name,
                keys=keys,
                arrived=arrived,
                hint=hint,
            ),
        )
    if not part.vel_low <= velocity <= part.vel_high:
        window = f"{part.vel_low}–{part.vel_high}"
        return Reason(
            "part velocity",
            listener.ref,
            say(
                "{part} answers velocities {window}, not {velocity}.",
                part=part.name,
                window=window,
                velocity=velocity,
            ),
        )
    return None


def _kit_sentence(listener: Listener, owner: Device, note: int, arrived: str) -> str:
    kit = listener.kit
    if kit is None or not kit.sounds:
        return say("The kit of {part} is empty.", part=listener.part.name)
    near = min(kit.sounds, key=lambda s: (abs(s.note - note), s.note))
    return say(
        "{kit} has nothing on {arrived}; the nearest is {near} on {pitch}.",
        kit=kit.name,
        arrived=arrived,
        near=near.name,
        pitch=pitch.label(near.note, owner.octaves),
    )


def octave_hint(low: int, high: int, note: int) -> str:
    """A sentence when the note would fit exactly one or two octaves away; else nothing."""
    for octaves in (1, -1, 2, -2):
        if low <= note + 12 * octaves <= high:
            count = say("one octave") if abs(octaves) == 1 else say("two octaves")
            return (
                say(" It would fit {count} higher.", count=count)
                if octaves > 0
                else say(" It would fit {count} lower.", count=count)
            )
    return ""
