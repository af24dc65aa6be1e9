"""Causes behind keys, told in a sentence with what would mend them: one function a kind."""

from collections.abc import Callable, Iterator

from vastzone.core.midi import pitch
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Plan
from vastzone.core.plan.refs import part_place, read_ref, ref_to, setting_in, zone_place
from vastzone.core.plan.touch import Zone
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.group import Group, numbers_edit, part_of
from vastzone.core.proof.words import end_name, listed, many


def _zones(plan: Plan, group: Group, ident: str) -> Iterator[tuple[int, Zone]]:
    """The zone of that id in each program of the group."""
    owner = lookup.device(plan, group.about[0])
    for number in group.programs:
        for zone in lookup.program(owner, number).zones:
            if zone.id == ident:
                yield number, zone


def _dead(plan: Plan, group: Group) -> Remark:
    ref = group.about[0]
    device, bed = read_ref(ref)
    owner = lookup.device(plan, device)
    wanted = listed(end_name(plan, h.ref) for _, m in group.marks for h in m.missing)
    low, high = min(m.low for _, m in group.marks), max(m.high for _, m in group.marks)
    keys = pitch.span(low, high, owner.octaves)
    fixes = []
    for number in group.programs[:1]:
        for zone in lookup.program(owner, number).zones:
            if zone.keybed == bed and (zone.high == low - 1 or zone.low == high + 1):
                ends = {"high": high} if zone.high == low - 1 else {"low": low}
                label = f"Extend {zone.name} over {keys}"
                fixes.append(edits.set_zone(device, number, zone.id, label, **ends))
    return Remark(
        "dead keys",
        (ref, device),
        f"No zone of {owner.name} covers {keys}, where {wanted} is wished.",
        tuple(fixes),
    )


def _off(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner = lookup.device(plan, device)
    held = list(_zones(plan, group, ident))
    label = f"Switch {held[0][1].name} on"
    values = {setting_in(zone_place(device, n, ident), "on"): 1 for n, _ in held}
    return Remark(
        "zone off",
        (ref_to(device, ident), ref),
        f"{held[0][1].name} of {owner.name} is off, and {end_name(plan, ref)} is wished there.",
        (numbers_edit(plan, values, label),),
    )


def _channel(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, (there, part) = lookup.device(plan, device), part_of(plan, ref)
    held = list(_zones(plan, group, ident))
    zone = held[0][1]
    subjects = (ref_to(device, ident), ref)
    sentence = (
        f"{zone.name} of {owner.name} sends on channel {zone.channel}; {part.name} in "
        f"{there.name} listens on {part.channel}."
    )
    values = {
        setting_in(zone_place(device, n, ident), "channel"): part.channel or 1 for n, _ in held
    }
    fixes = [numbers_edit(plan, values, f"Send {zone.name} on channel {part.channel}")]
    free = _silent_channel(plan, ref, zone.channel)
    if free:
        label = f"Let {part.name} listen on channel {zone.channel}"
        number = {setting_in(part_place(there.id, part.id), "channel"): zone.channel}
        fixes.append(numbers_edit(plan, number, label))
    return Remark("wrong channel", subjects, sentence, tuple(fixes))


def _silent_channel(plan: Plan, ref: str, channel: int) -> bool:
    """Whether no other part of the same device listens on a channel."""
    owner, part = part_of(plan, ref)
    return all(p.channel not in (None, channel) for p in owner.parts if p is not part)


def _shift(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, (_, part) = lookup.device(plan, device), part_of(plan, ref)
    held = list(_zones(plan, group, ident))
    zone, mark = held[0][1], group.marks[0][1]
    meant = next(h.shift for h in mark.meant if h.ref == ref)
    heard = next((h.shift for h in mark.extra if h.ref == ref), zone.shift + part.transpose)
    off = heard - meant
    way = "high" if off > 0 else "low"
    if off % 12 == 0:
        much = "one octave" if abs(off) == 12 else f"{abs(off) // 12} octaves"
        rule = "octave naming"
    else:
        much, rule = many(abs(off), "semitone"), "wrong pitch"
    values: dict[str, int] = {}
    for number, here in held:
        octave, transpose = _split(here, -off)
        values[setting_in(zone_place(device, number, ident), "octave")] = octave
        values[setting_in(zone_place(device, number, ident), "transpose")] = transpose
    label = f"Shift {zone.name} {much} {'down' if off > 0 else 'up'}"
    return Remark(
        rule,
        (ref_to(device, ident), ref),
        f"{part.name} sounds {much} too {way} where {zone.name} of {owner.name} plays it.",
        (numbers_edit(plan, values, label),) if off else (),
    )


def _split(zone: Zone, more: int) -> tuple[int, int]:
    """Octaves and semitones after a further shift; whole octaves stay whole octaves."""
    if more % 12 == 0:
        return zone.octave + more // 12, zone.transpose
    return zone.octave, zone.transpose + more


def _range(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, (there, part) = lookup.device(plan, device), part_of(plan, ref)
    held = list(_zones(plan, group, ident))
    zone = held[0][1]
    low, high = min(m.low for _, m in group.marks), max(m.high for _, m in group.marks)
    first, last = min(part.low, low + zone.shift), max(part.high, high + zone.shift)
    fixes: tuple[Edit, ...] = ()
    if part.kit is None and first >= 0 and last <= 127:
        label = f"Let {part.name} answer {pitch.span(first, last, there.octaves)}"
        fixes = (edits.set_part(there.id, part.id, label, low=first, high=last),)
    return Remark(
        "outside part",
        (ref_to(device, ident), ref),
        f"{pitch.span(low, high, owner.octaves)} of {zone.name} on {owner.name} lie outside what "
        f"{part.name} answers, {pitch.span(part.low, part.high, there.octaves)}.",
        fixes,
    )


def _velocity(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, zone = lookup.device(plan, device), next(_zones(plan, group, ident))[1]
    mark = group.marks[0][1]
    return Remark(
        "velocity hole",
        (ref_to(device, ident), ref),
        f"{zone.name} of {owner.name} does not play {end_name(plan, ref)} at velocities "
        f"{mark.vel_low}–{mark.vel_high}.",
        tuple(
            edits.set_zone(
                device,
                number,
                ident,
                f"Let {zone.name} send every velocity",
                vel_low=1,
                vel_high=127,
            )
            for number, _ in list(_zones(plan, group, ident))[:1]
        ),
    )


def _reach(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, held = lookup.device(plan, device), list(_zones(plan, group, ident))
    zone = held[0][1]
    low, high = min(m.low for _, m in group.marks), max(m.high for _, m in group.marks)
    fixes = []
    for number, here in held[:1]:
        if high == here.high and low > here.low:
            label = f"End {here.name} on {pitch.name(low - 1, owner.octaves)}"
            fixes.append(edits.set_zone(device, number, ident, label, high=low - 1))
        elif low == here.low and high < here.high:
            label = f"Begin {here.name} on {pitch.name(high + 1, owner.octaves)}"
            fixes.append(edits.set_zone(device, number, ident, label, low=high + 1))
    return Remark(
        "zone too wide",
        (ref_to(device, ident), ref),
        f"{zone.name} of {owner.name} plays {end_name(plan, ref)} on "
        f"{pitch.span(low, high, owner.octaves)} too, where it is not wished.",
        tuple(fixes),
    )


def _stray(plan: Plan, group: Group) -> Remark:
    device, ident, ref = group.about
    owner, held = lookup.device(plan, device), list(_zones(plan, group, ident))
    zone = held[0][1]
    values = {setting_in(zone_place(device, n, ident), "on"): 0 for n, _ in held}
    return Remark(
        "plays unwished",
        (ref_to(device, ident), ref),
        f"{zone.name} of {owner.name} plays {end_name(plan, ref)}, which no wish asks for.",
        (numbers_edit(plan, values, f"Switch {zone.name} off"),),
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
