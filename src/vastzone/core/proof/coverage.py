"""Rules about keys that play nothing, and notes that go where nothing answers."""

from collections.abc import Iterator

from vastzone.core.cache import derived
from vastzone.core.engine.compile import played
from vastzone.core.engine.reach import joined_tree
from vastzone.core.engine.receivers import Sources
from vastzone.core.engine.why import Reason, why_unheard
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.devices import let_answer
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.controls import Zone
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.queries.spans import runs
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.proof.finding import Remark, Span, Spot
from vastzone.core.say import say, say_many


def uncovered(spot: Spot) -> list[int]:
    """The keys of the keybed that no zone covers."""
    covered = set()
    for zone in spot.zones:
        for k in range(zone.low, zone.high + 1):
            covered.add(k)
    missing = []
    for k in range(spot.bed.low, spot.bed.high + 1):
        if k not in covered:
            missing.append(k)
    return missing


def dead_keys(spot: Spot) -> Iterator[Remark]:
    """Keys in no zone: a fault between zones, a hint at the ends."""
    if not spot.zones and spot.owner.parts and spot.owner.local:
        return  # without zones its keys play its own parts
    for low, high in runs(uncovered(spot)):
        below = []
        for zone in spot.zones:
            if zone.high < low:
                below.append(zone)
        above = []
        for zone in spot.zones:
            if zone.low > high:
                above.append(zone)
        keys = pitch.span(low, high, spot.owner.octaves)
        dead = say_many("{count} dead key", "{count} dead keys", high - low + 1)
        yield Remark(
            "dead keys",
            (spot.ref,),
            say(
                "{dead} on {owner}: no zone covers {keys}.",
                dead=dead,
                owner=spot.owner.name,
                keys=keys,
            ),
            tuple(_extend(spot, below, above, low, high)),
            spot.scenes,
            (Span(spot.ref, low, high),),
            severity="fault" if below and above else "hint",
        )


def _extend(
    spot: Spot, below: list[Zone], above: list[Zone], low: int, high: int
) -> Iterator[Edit]:
    naming = spot.owner.octaves
    if below:
        zone = max(below, key=lambda z: z.high)
        label = say("Extend {zone} up to {pitch}", zone=zone.name, pitch=pitch.name(high, naming))
        yield set_zone(spot.owner.id, spot.program.number, zone.id, label, high=high)
    if above:
        zone = min(above, key=lambda z: z.low)
        label = say("Extend {zone} down to {pitch}", zone=zone.name, pitch=pitch.name(low, naming))
        yield set_zone(spot.owner.id, spot.program.number, zone.id, label, low=low)


def outside_midi(spot: Spot) -> Iterator[Remark]:
    """Notes that a zone's shifts push outside 0–127."""
    for zone in spot.zones:
        gone = []
        for k in range(zone.low, zone.high + 1):
            if not 0 <= k + heard_shift(spot.owner, zone) <= 127:
                gone.append(k)
        for low, high in runs(gone):
            yield Remark(
                "outside 0–127",
                (ref_to(spot.owner.id, zone.id), spot.ref),
                say(
                    "{zone} of {owner} shifts {keys} by {shift:+} semitones, outside MIDI’s "
                    "notes 0–127.",
                    zone=zone.name,
                    owner=spot.owner.name,
                    keys=_keys(low, high),
                    shift=zone.shift,
                ),
                (
                    _set(
                        spot, zone, say("Undo the octave shift of {zone}", zone=zone.name), octave=0
                    ),
                )
                if zone.octave
                else (
                    _set(
                        spot,
                        zone,
                        say("Undo the transposition of {zone}", zone=zone.name),
                        transpose=0,
                    ),
                ),
                spot.scenes,
                (Span(spot.ref, low, high),),
            )


def _keys(low: int, high: int) -> str:
    return (
        say("key {low}", low=low) if low == high else say("keys {low}–{high}", low=low, high=high)
    )


def _set(spot: Spot, zone: Zone, label: str, **changes: object) -> Edit:
    return set_zone(spot.owner.id, spot.program.number, zone.id, label, **changes)


def unanswered(spot: Spot) -> Iterator[Remark]:
    """Zones whose notes, in whole or in part, nothing sounds: by channel, by range, by octave."""
    for zone in spot.zones:
        silent: list[int] = []
        sounding = 0
        for keys, emission in spot.runs(zone):
            if emission.landings:
                sounding += len(keys)
            else:
                silent.extend(keys)
        if not silent:
            continue
        silent.sort()
        reason = _reason(spot, zone, silent[len(silent) // 2] + heard_shift(spot.owner, zone))
        if reason is None:
            continue
        if reason.cause in ("channel", "no cable"):
            yield _unheard(spot, zone, reason)
        elif octaves := _octaves_off(spot, zone, reason, bool(sounding)):
            yield _octave(spot, zone, reason, octaves)
        else:
            yield from _out_of_range(spot, zone, reason, silent)


def _reason(spot: Spot, zone: Zone, note: int) -> Reason | None:
    source = Sources(spot.owner.id, spot.owner.ports, spot.owner.local)
    tree = joined_tree(source, zone.ports, spot.world.network)
    velocity = (zone.vel_low + zone.vel_high) // 2
    subject = ref_to(spot.owner.id, zone.id)
    return why_unheard(spot.compiled, spot.owner, tree, zone.channel - 1, note, velocity, subject)


def _unheard(spot: Spot, zone: Zone, reason: Reason) -> Remark:
    fixes = []
    for channel, name in _idle_parts(spot, zone):
        fixes.append(
            _set(
                spot,
                zone,
                say(
                    "Send {zone} on channel {channel}, to {name}",
                    zone=zone.name,
                    channel=channel,
                    name=name,
                ),
                channel=channel,
            )
        )
    return Remark(
        "unheard zone",
        (ref_to(spot.owner.id, zone.id), spot.ref),
        say(
            "{zone} of {owner} plays nothing: {lower}",
            zone=zone.name,
            owner=spot.owner.name,
            lower=_lower(reason.sentence),
        ),
        tuple(fixes[:3]),
        spot.scenes,
        (Span(spot.ref, zone.low, zone.high),),
    )


def _lower(sentence: str) -> str:
    return (
        sentence[0].lower() + sentence[1:] if sentence.startswith(("No", "Nothing")) else sentence
    )


def _idle_parts(spot: Spot, zone: Zone) -> Iterator[tuple[int, str]]:
    """Parts that the zone's cables reach, that answer its middle, and that nothing here plays."""
    source = Sources(spot.owner.id, spot.owner.ports, spot.owner.local)
    tree = joined_tree(source, zone.ports, spot.world.network)
    reached = set()
    for step in tree.steps:
        reached.add(device_of(step.arc.dest))
    busy = frozenset().union(*played(spot.compiled).values())
    rest: list[tuple[bool, int, str]] = []
    middle = (zone.low + zone.high) // 2 + heard_shift(spot.owner, zone)
    for owner, part in lookup.parts(spot.plan):
        idle = ref_to(owner.id, part.id) not in busy and part.channel is not None
        answers = part.low <= middle <= part.high and not part.kit
        if owner.id in reached and idle and answers:
            used = part.channel in _zone_channels(spot.plan)
            rest.append((used, part.channel or 1, part.name))
    # Channels that no zone uses come first: taking one of them disturbs nothing.
    rest.sort(key=lambda held: held[0])
    for _, channel, name in rest:
        yield (channel, name)


@derived(16)
def _zone_channels(plan: Plan) -> frozenset[int]:
    """The channels that some zone sends on."""
    channels: set[int] = set()
    for device in plan.devices:
        for program in device.programs:
            for zone in program.zones:
                channels.add(zone.channel)
    return frozenset(channels)


def _octaves_off(spot: Spot, zone: Zone, reason: Reason, some_sound: bool) -> int:
    """Octaves, ±1 or ±2, after which every note of the zone would be answered; else 0.

    Where some keys sound already, only a range that then fits end to end counts.
    """
    for octaves in (1, -1, 2, -2):
        by = heard_shift(spot.owner, zone) + 12 * octaves
        low, high = zone.low + by, zone.high + by
        if some_sound and (low, high) != _range_of(spot, reason):
            continue
        notes = range(low, high + 1)
        if all(0 <= note <= 127 and _reason(spot, zone, note) is None for note in notes):
            return octaves
    return 0


def _range_of(spot: Spot, reason: Reason) -> tuple[int, int] | None:
    device, thing = read_ref(reason.subject)
    for part in lookup.device(spot.plan, device).parts:
        if part.id == thing:
            return part.low, part.high
    return None


def _octave(spot: Spot, zone: Zone, reason: Reason, octaves: int) -> Remark:
    count = say("one octave") if abs(octaves) == 1 else say("two octaves")
    way = say("up") if octaves > 0 else say("down")
    return Remark(
        "octave naming",
        (ref_to(spot.owner.id, zone.id), reason.subject, spot.ref),
        say(
            "{zone} of {owner} misses by exactly {count}: {reason} Two devices that name octaves "
            "differently are the usual cause.",
            zone=zone.name,
            owner=spot.owner.name,
            count=count,
            reason=reason.sentence,
        ),
        (
            _set(
                spot,
                zone,
                say("Shift {zone} {count} {way}", zone=zone.name, count=count, way=way),
                octave=zone.octave + octaves,
            ),
            *_move_range(spot, reason, octaves),
        ),
        spot.scenes,
        (Span(spot.ref, zone.low, zone.high),),
    )


def _move_range(spot: Spot, reason: Reason, octaves: int) -> Iterator[Edit]:
    device, thing = read_ref(reason.subject)
    owner = lookup.device(spot.plan, device)
    part = lookup.part(owner, thing)
    low, high = part.low - 12 * octaves, part.high - 12 * octaves
    if part.kit is None and low >= 0 and high <= 127:
        yield let_answer(owner, part, low, high)


def _out_of_range(spot: Spot, zone: Zone, reason: Reason, silent: list[int]) -> Iterator[Remark]:
    for low, high in runs(silent):
        yield Remark(
            "outside part",
            (ref_to(spot.owner.id, zone.id), reason.subject, spot.ref),
            say(
                "{span} of {zone} on {owner} stay silent: {reason}",
                span=pitch.span(low, high, spot.owner.octaves),
                zone=zone.name,
                owner=spot.owner.name,
                reason=reason.sentence,
            ),
            tuple(_range_fixes(spot, zone, reason, low, high)),
            spot.scenes,
            (Span(spot.ref, low, high),),
            severity="fault" if reason.cause == "kit" else "caution",
        )


def _range_fixes(spot: Spot, zone: Zone, reason: Reason, low: int, high: int) -> Iterator[Edit]:
    device, thing = read_ref(reason.subject)
    owner = lookup.device(spot.plan, device)
    part = lookup.find(owner.parts, thing)
    if reason.cause == "note range" and part is not None and part.kit is None:
        shift = heard_shift(spot.owner, zone)
        first, last = min(part.low, low + shift), max(part.high, high + shift)
        yield let_answer(owner, part, first, last)
    if low == zone.low and high < zone.high:
        label = say(
            "Begin {zone} on {pitch}",
            zone=zone.name,
            pitch=pitch.name(high + 1, spot.owner.octaves),
        )
        yield _set(spot, zone, label, low=high + 1)
    elif high == zone.high and low > zone.low:
        label = say(
            "End {zone} on {pitch}", zone=zone.name, pitch=pitch.name(low - 1, spot.owner.octaves)
        )
        yield _set(spot, zone, label, high=low - 1)
