"""Causes behind keys, told in a sentence with what would mend them: one function a kind."""

from collections.abc import Callable, Iterator

from vastzone.core.midi import pitch
from vastzone.core.plan.edits.devices import let_answer
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.controls import Program, Zone
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import has_field
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.refs import device_of, owner_place, read_ref, ref_to, setting_in
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.group import Group, numbers_edit, part_of
from vastzone.core.proof.words import end_name
from vastzone.core.say import say, say_many
from vastzone.core.text import listed


def _zones(plan: Plan, group: Group, ident: str) -> Iterator[tuple[int, Zone]]:
    """The zone of that id in each program of the group."""
    owner = lookup.device(plan, group.about[0])
    for number in group.programs:
        for zone in lookup.program(owner, number).zones:
            if zone.id == ident:
                yield number, zone


def _dead(plan: Plan, group: Group) -> Remark:
    ref = group.about[0]
    owner = lookup.device(plan, device_of(ref))
    marks = [mark for _, mark in group.marks]
    wanted = listed(end_name(plan, hit.ref) for mark in marks for hit in mark.missing)
    low, high = min(mark.low for mark in marks), max(mark.high for mark in marks)
    keys = pitch.span(low, high, owner.octaves)
    programs = []
    for number in group.programs[:1]:
        programs.append(lookup.program(owner, number))
    fixes = tuple(fix for program in programs for fix in _extended(ref, program, low, high, keys))
    return Remark(
        "dead keys",
        (ref, owner.id),
        say(
            "No zone of {owner} covers {keys}, where {wanted} is wished.",
            owner=owner.name,
            keys=keys,
            wanted=wanted,
        ),
        fixes,
    )


def _extended(ref: str, program: Program, low: int, high: int, keys: str) -> Iterator[Edit]:
    """Zones of a keybed extended over dead keys that they border on."""
    device, bed = read_ref(ref)
    for zone in program.zones:
        if zone.keybed == bed and (zone.high == low - 1 or zone.low == high + 1):
            ends = {"high": high} if zone.high == low - 1 else {"low": low}
            label = say("Extend {zone} over {keys}", zone=zone.name, keys=keys)
            yield set_zone(device, program.number, zone.id, label, **ends)


def _zone_refs(owner: Device, zone: str, zones: list[tuple[int, Zone]], field: str) -> list[str]:
    """The settings of a zone in each of some programs."""
    programs = []
    for number, _ in zones:
        programs.append(lookup.program_id(owner, number))
    refs = []
    for program in programs:
        refs.append(setting_in(owner_place(owner.id, "zone", zone, program), field))
    return refs


def _off(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner = lookup.device(plan, device)
    zones = list(_zones(plan, group, ident))
    label = say("Switch {zones} on", zones=zones[0][1].name)
    values = dict.fromkeys(_zone_refs(owner, ident, zones, "on"), 1)
    return Remark(
        "zone off",
        (ref_to(device, ident), ref),
        say(
            "{zones} of {owner} is off, and {end} is wished there.",
            zones=zones[0][1].name,
            owner=owner.name,
            end=end_name(plan, ref),
        ),
        (numbers_edit(plan, values, label),),
    )


def _channel(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, (there, part) = lookup.device(plan, device), part_of(plan, ref)
    zones = list(_zones(plan, group, ident))
    zone = zones[0][1]
    subjects = (ref_to(device, ident), ref)
    sentence = say(
        "{zone} of {owner} sends on channel {channel}; {part} in {there} listens on "
        "{part_channel}.",
        zone=zone.name,
        owner=owner.name,
        channel=zone.channel,
        part=part.name,
        there=there.name,
        part_channel=part.channel,
    )
    values = dict.fromkeys(_zone_refs(owner, ident, zones, "channel"), part.channel or 1)
    fixes = [
        numbers_edit(
            plan,
            values,
            say("Send {zone} on channel {channel}", zone=zone.name, channel=part.channel),
        )
    ]
    free = _silent_channel(plan, ref, zone.channel)
    if free:
        label = say("Let {part} listen on channel {channel}", part=part.name, channel=zone.channel)
        number = {setting_in(owner_place(there.id, "part", part.id), "channel"): zone.channel}
        fixes.append(numbers_edit(plan, number, label))
    return Remark("wrong channel", subjects, sentence, tuple(fixes))


def _silent_channel(plan: Plan, ref: str, channel: int) -> bool:
    """Whether no other part of the same device listens on a channel."""
    owner, part = part_of(plan, ref)
    return all(p.channel not in (None, channel) for p in owner.parts if p is not part)


def _shift(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, (_, part) = lookup.device(plan, device), part_of(plan, ref)
    zones = list(_zones(plan, group, ident))
    zone, mark = zones[0][1], group.marks[0][1]
    meant = next(hit.shift for hit in mark.meant if hit.ref == ref)
    sounding = heard_shift(owner, zone) + part.transpose
    heard = next((hit.shift for hit in mark.extra if hit.ref == ref), sounding)
    off = heard - meant
    rule, much = _how_far(abs(off))
    values: dict[str, int] = {}
    for number, here in zones:
        octave, transpose = _split(owner, here, -off)
        place = owner_place(device, "zone", ident, lookup.program_id(owner, number))
        if octave != here.octave:
            values[setting_in(place, "octave")] = octave
        values[setting_in(place, "transpose")] = transpose
    places = {"part": part.name, "zone": zone.name, "owner": owner.name, "much": much}
    if off > 0:
        label = say("Shift {zone} {much} down", zone=zone.name, much=much)
        told = say("{part} sounds {much} too high where {zone} of {owner} plays it.", **places)
    else:
        label = say("Shift {zone} {much} up", zone=zone.name, much=much)
        told = say("{part} sounds {much} too low where {zone} of {owner} plays it.", **places)
    return Remark(
        rule,
        (ref_to(device, ident), ref),
        told,
        (numbers_edit(plan, values, label),) if off else (),
    )


def _how_far(semitones: int) -> tuple[str, str]:
    """The rule that a shift belongs to, and the shift in words."""
    if semitones % 12:
        return "wrong pitch", say_many("{count} semitone", "{count} semitones", semitones)
    octaves = semitones // 12
    return "octave naming", say("one octave") if octaves == 1 else say(
        "{octaves} octaves", octaves=octaves
    )


def _split(owner: Device, zone: Zone, more: int) -> tuple[int, int]:
    """Octaves and semitones after a further shift; whole octaves stay whole octaves."""
    if more % 12 == 0 and has_field(owner, "zone/octave"):
        return zone.octave + more // 12, zone.transpose
    return zone.octave, zone.transpose + more


def _range(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, (there, part) = lookup.device(plan, device), part_of(plan, ref)
    zones = list(_zones(plan, group, ident))
    zone = zones[0][1]
    low, high = min(m.low for _, m in group.marks), max(m.high for _, m in group.marks)
    shift = heard_shift(owner, zone)
    first, last = min(part.low, low + shift), max(part.high, high + shift)
    fixes: tuple[Edit, ...] = ()
    if part.kit is None and first >= 0 and last <= 127:
        fixes = (let_answer(there, part, first, last),)
    return Remark(
        "outside part",
        (ref_to(device, ident), ref),
        say(
            "{span} of {zone} on {owner} lie outside what {part} answers, {pitch_span}.",
            span=pitch.span(low, high, owner.octaves),
            zone=zone.name,
            owner=owner.name,
            part=part.name,
            pitch_span=pitch.span(part.low, part.high, there.octaves),
        ),
        fixes,
    )


def _velocity(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, zone = lookup.device(plan, device), next(_zones(plan, group, ident))[1]
    mark = group.marks[0][1]
    return Remark(
        "velocity hole",
        (ref_to(device, ident), ref),
        say(
            "{zone} of {owner} does not play {end} at velocities {vel_low}–{vel_high}.",
            zone=zone.name,
            owner=owner.name,
            end=end_name(plan, ref),
            vel_low=mark.vel_low,
            vel_high=mark.vel_high,
        ),
        tuple(
            set_zone(
                device,
                number,
                ident,
                say("Let {zone} send every velocity", zone=zone.name),
                vel_low=1,
                vel_high=127,
            )
            for number, _ in list(_zones(plan, group, ident))[:1]
        ),
    )


def _reach(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, zones = lookup.device(plan, device), list(_zones(plan, group, ident))
    zone = zones[0][1]
    low, high = min(m.low for _, m in group.marks), max(m.high for _, m in group.marks)
    fixes = []
    for number, here in zones[:1]:
        if high == here.high and low > here.low:
            label = say(
                "End {here} on {pitch}", here=here.name, pitch=pitch.name(low - 1, owner.octaves)
            )
            fixes.append(set_zone(device, number, ident, label, high=low - 1))
        elif low == here.low and high < here.high:
            label = say(
                "Begin {here} on {pitch}", here=here.name, pitch=pitch.name(high + 1, owner.octaves)
            )
            fixes.append(set_zone(device, number, ident, label, low=high + 1))
    return Remark(
        "zone too wide",
        (ref_to(device, ident), ref),
        say(
            "{zone} of {owner} plays {end} on {span} too, where it is not wished.",
            zone=zone.name,
            owner=owner.name,
            end=end_name(plan, ref),
            span=pitch.span(low, high, owner.octaves),
        ),
        tuple(fixes),
    )


def _stray(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, zones = lookup.device(plan, device), list(_zones(plan, group, ident))
    zone = zones[0][1]
    values = dict.fromkeys(_zone_refs(owner, ident, zones, "on"), 0)
    return Remark(
        "plays unwished",
        (ref_to(device, ident), ref),
        say(
            "{zone} of {owner} plays {end}, which no wish asks for.",
            zone=zone.name,
            owner=owner.name,
            end=end_name(plan, ref),
        ),
        (numbers_edit(plan, values, say("Switch {zone} off", zone=zone.name)),),
    )


TELLERS: dict[str, Callable[[Plan, Group], Remark]] = {
    "dead": _dead,
    "off": _off,
    "channel": _channel,
    "shift": _shift,
    "range": _range,
    "velocity": _velocity,
    "reach": _reach,
    "stray": _stray,
}
