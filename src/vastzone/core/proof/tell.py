"""Causes told in a sentence, with what would mend them: one small function a kind."""

from collections.abc import Callable, Iterator
from typing import NamedTuple

from vastzone.core.midi import pitch
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.settings import MODES, device_dials, set_numbers
from vastzone.core.plan.sound import Part
from vastzone.core.plan.touch import Send, Zone
from vastzone.core.proof.diagnose import sent_note
from vastzone.core.proof.doubles import separate, together
from vastzone.core.proof.finding import Finding
from vastzone.core.proof.modes import pair_remark
from vastzone.core.proof.verdict import Mark
from vastzone.core.proof.words import end_name, listed, many


class Group(NamedTuple):
    """The marks of one cause with their scenes, and the programs it was met in."""

    kind: str
    about: tuple[str, ...]
    marks: list[tuple[str, Mark]]
    programs: list[int]


def tell(plan: Plan, group: Group) -> Finding:
    """The finding of a group, without its scenes and spans."""
    return TELLERS[group.kind](plan, group)


def _numbers(plan: Plan, values: dict[str, int], label: str) -> Edit:
    """Set numbers together with those that are one number with them in the device."""
    wanted = dict(values)
    for owner in {ref.partition("/")[0] for ref in values}:
        dials = device_dials(lookup.device(plan, owner))
        slots = {d.slot: values[d.ref] for d in dials if d.ref in values}
        wanted |= {d.ref: slots[d.slot] for d in dials if d.slot in slots}
    return set_numbers(wanted, label)


def _zones(plan: Plan, group: Group, ident: str) -> Iterator[tuple[int, Zone]]:
    """The zone of that id in each program of the group."""
    owner = lookup.device(plan, group.about[0])
    for number in group.programs:
        for zone in lookup.program(owner, number).zones:
            if zone.id == ident:
                yield number, zone


def _part(plan: Plan, ref: str) -> tuple[Device, Part]:
    device, _, ident = ref.partition(":")
    owner = lookup.device(plan, device)
    return owner, lookup.part(owner, ident)


def _dead(plan: Plan, group: Group) -> Finding:
    ref = group.about[0]
    device, _, bed = ref.partition(":")
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
    return Finding(
        "dead keys", "fault", (ref, device),
        f"No zone of {owner.name} covers {keys}, where {wanted} is wished.", tuple(fixes),
    )  # fmt: skip


def _off(plan: Plan, group: Group) -> Finding:
    device, ident, ref = group.about
    owner = lookup.device(plan, device)
    held = list(_zones(plan, group, ident))
    label = f"Switch {held[0][1].name} on"
    values = {f"{device}/{n}/zone.{ident}/on": 1 for n, _ in held}
    return Finding(
        "zone off", "fault", (f"{device}:{ident}", ref),
        f"{held[0][1].name} of {owner.name} is off, and {end_name(plan, ref)} is wished there.",
        (_numbers(plan, values, label),),
    )  # fmt: skip


def _channel(plan: Plan, group: Group) -> Finding:
    device, ident, ref = group.about
    owner, (there, part) = lookup.device(plan, device), _part(plan, ref)
    held = list(_zones(plan, group, ident))
    zone = held[0][1]
    subjects = (f"{device}:{ident}", ref)
    sentence = (
        f"{zone.name} of {owner.name} sends on channel {zone.channel}; {part.name} in "
        f"{there.name} listens on {part.channel}."
    )
    values = {f"{device}/{n}/zone.{ident}/channel": part.channel or 1 for n, _ in held}
    fixes = [_numbers(plan, values, f"Send {zone.name} on channel {part.channel}")]
    free = _silent_channel(plan, ref, zone.channel)
    if free:
        label = f"Let {part.name} listen on channel {zone.channel}"
        number = {f"{there.id}/part.{part.id}/channel": zone.channel}
        fixes.append(_numbers(plan, number, label))
    return Finding("wrong channel", "fault", subjects, sentence, tuple(fixes))


def _silent_channel(plan: Plan, ref: str, channel: int) -> bool:
    """Whether no other part of the same device listens on a channel."""
    owner, part = _part(plan, ref)
    return all(p.channel not in (None, channel) for p in owner.parts if p is not part)


def _shift(plan: Plan, group: Group) -> Finding:
    device, ident, ref = group.about
    owner, (_, part) = lookup.device(plan, device), _part(plan, ref)
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
        values[f"{device}/{number}/zone.{ident}/octave"] = octave
        values[f"{device}/{number}/zone.{ident}/transpose"] = transpose
    label = f"Shift {zone.name} {much} {'down' if off > 0 else 'up'}"
    return Finding(
        rule, "fault", (f"{device}:{ident}", ref),
        f"{part.name} sounds {much} too {way} where {zone.name} of {owner.name} plays it.",
        (_numbers(plan, values, label),) if off else (),
    )  # fmt: skip


def _split(zone: Zone, more: int) -> tuple[int, int]:
    """Octaves and semitones after a further shift; whole octaves stay whole octaves."""
    if more % 12 == 0:
        return zone.octave + more // 12, zone.transpose
    return zone.octave, zone.transpose + more


def _range(plan: Plan, group: Group) -> Finding:
    device, ident, ref = group.about
    owner, (there, part) = lookup.device(plan, device), _part(plan, ref)
    held = list(_zones(plan, group, ident))
    zone = held[0][1]
    low, high = min(m.low for _, m in group.marks), max(m.high for _, m in group.marks)
    first, last = min(part.low, low + zone.shift), max(part.high, high + zone.shift)
    fixes: tuple[Edit, ...] = ()
    if part.kit is None and first >= 0 and last <= 127:
        label = f"Let {part.name} answer {pitch.span(first, last, there.octaves)}"
        fixes = (edits.set_part(there.id, part.id, label, low=first, high=last),)
    return Finding(
        "outside part", "fault", (f"{device}:{ident}", ref),
        f"{pitch.span(low, high, owner.octaves)} of {zone.name} on {owner.name} lie outside what "
        f"{part.name} answers, {pitch.span(part.low, part.high, there.octaves)}.", fixes,
    )  # fmt: skip


def _velocity(plan: Plan, group: Group) -> Finding:
    device, ident, ref = group.about
    owner, zone = lookup.device(plan, device), next(_zones(plan, group, ident))[1]
    mark = group.marks[0][1]
    return Finding(
        "velocity hole", "fault", (f"{device}:{ident}", ref),
        f"{zone.name} of {owner.name} does not play {end_name(plan, ref)} at velocities "
        f"{mark.vel_low}–{mark.vel_high}.",
        tuple(
            edits.set_zone(device, number, ident, f"Let {zone.name} send every velocity",
                           vel_low=1, vel_high=127)
            for number, _ in list(_zones(plan, group, ident))[:1]
        ),
    )  # fmt: skip


def _path(plan: Plan, group: Group) -> Finding:
    one, other = (lookup.device(plan, ident) for ident in group.about)
    return Finding(
        "no way there", "fault", (one.id, other.id),
        f"No cable leads from {one.name} to {other.name}: connect them.",
    )  # fmt: skip


def _shared(plan: Plan, group: Group) -> Finding:
    owner = lookup.device(plan, group.about[0])
    channel = int(group.about[1]) if group.about[1] else None
    hits = {h.ref for _, m in group.marks for h in (*m.meant, *m.extra)}
    parts = [(f"{d.id}:{p.id}", p) for d, p in lookup.parts(plan)]
    held = [(r, p) for r, p in parts if r in hits and p.channel in (None, channel)]
    return Finding(
        "parts on one channel", "fault", (*(r for r, _ in held), owner.id),
        f"{together([p for _, p in held])}: they sound together where only one is meant.",
        tuple(separate(plan, tuple(r for r, _ in held))),
    )  # fmt: skip


def _twice(plan: Plan, group: Group) -> Finding:
    device, ref = group.about
    owner = lookup.device(plan, device)
    there = lookup.device(plan, ref.partition(":")[0])
    beds = tuple(f"{device}:{bed.id}" for bed in owner.keybeds)
    return Finding(
        "connected twice", "fault", (*beds, device, there.id),
        f"What {owner.name} sends reaches {there.name} by two ways: it sounds twice.",
    )  # fmt: skip


def _reach(plan: Plan, group: Group) -> Finding:
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
    return Finding(
        "zone too wide", "fault", (f"{device}:{ident}", ref),
        f"{zone.name} of {owner.name} plays {end_name(plan, ref)} on "
        f"{pitch.span(low, high, owner.octaves)} too, where it is not wished.", tuple(fixes),
    )  # fmt: skip


def _stray(plan: Plan, group: Group) -> Finding:
    device, ident, ref = group.about
    owner, held = lookup.device(plan, device), list(_zones(plan, group, ident))
    zone = held[0][1]
    values = {f"{device}/{n}/zone.{ident}/on": 0 for n, _ in held}
    return Finding(
        "plays unwished", "fault", (f"{device}:{ident}", ref),
        f"{zone.name} of {owner.name} plays {end_name(plan, ref)}, which no wish asks for.",
        (_numbers(plan, values, f"Switch {zone.name} off"),),
    )  # fmt: skip


def _controls(plan: Plan, group: Group) -> list[str]:
    owner = lookup.device(plan, group.about[0])
    names = {c.id: c.name for c in owner.controls}
    return list(dict.fromkeys(names[m.source.partition(":")[2]] for _, m in group.marks))


def _sends(plan: Plan, group: Group) -> Iterator[tuple[str, Send, Mark]]:
    """What the group's controls send, each with its base reference."""
    owner = lookup.device(plan, group.about[0])
    struck = {(m.source.partition(":")[2], m.bank): m for _, m in group.marks}
    for number in group.programs:
        for send in lookup.program(owner, number).sends:
            if (send.control, send.bank) in struck and send.message != "none":
                base = f"{owner.id}/{number}/{send.control}.{send.bank}"
                yield base, send, struck[send.control, send.bank]


def _wanted(plan: Plan, group: Group) -> Iterator[tuple[str, Send, Part, int]]:
    """What the group's controls send, the part each is meant to play, and the note for it."""
    owner = lookup.device(plan, group.about[1])
    parts = {f"{owner.id}:{p.id}": p for p in owner.parts}
    for base, send, mark in _sends(plan, group):
        hit = next(h for h in mark.missing if h.ref in parts)
        yield base, send, parts[hit.ref], sent_note(parts[hit.ref], hit.shift)


def _send_channel(plan: Plan, group: Group) -> Finding:
    owner, there = (lookup.device(plan, ident) for ident in group.about)
    held = [w for w in _wanted(plan, group) if w[2].channel not in (None, w[1].channel)]
    names = _controls(plan, group)
    channels = listed(str(c) for c in sorted({s.channel or 0 for _, s, _, _ in held}))
    parts = listed(f"{p.name} on {p.channel}" for _, _, p, _ in held)
    values = {f"{base}/channel": part.channel or 1 for base, _, part, _ in held}
    wanted = {part.channel for _, _, part, _ in held}
    ends = f"on channel {wanted.pop()}" if len(wanted) == 1 else "on their parts’ channels"
    verb, listen = ("sends", "listens") if len(names) == 1 else ("send", "listen")
    listen = "listens" if len({p.id for _, _, p, _ in held}) == 1 else listen
    return Finding(
        "wrong channel", "fault", (f"{owner.id}:{_first(group)}", owner.id, there.id),
        f"{listed(names)} of {owner.name} {verb} on channel {channels}; in {there.name} {parts} "
        f"{listen}.", (_numbers(plan, values, f"Send {_these(names)} {ends}"),),
    )  # fmt: skip


def _these(names: list[str]) -> str:
    return names[0] if len(names) == 1 else f"these {len(names)}"


def _send_note(plan: Plan, group: Group) -> Finding:
    owner, there = (lookup.device(plan, ident) for ident in group.about)
    held = [w for w in _wanted(plan, group) if w[1].number != w[3]]
    names = _controls(plan, group)
    parts = listed(part.name for _, _, part, _ in held)
    _, send, _, wanted = held[0]
    first = (
        f"{pitch.label(send.number, owner.octaves)} instead of {pitch.label(wanted, owner.octaves)}"
    )
    verb, what = ("sends", "another note") if len(names) == 1 else ("send", "other notes")
    values = {f"{base}/number": note for base, _, _, note in held}
    return Finding(
        "wrong note", "fault", (f"{owner.id}:{_first(group)}", owner.id, there.id),
        f"{listed(names)} of {owner.name} {verb} {what} than {parts} in {there.name} "
        f"answer: {first}{', and so on' if len(names) > 1 else ''}.",
        (_numbers(plan, values, f"Send the notes that {parts} answer"),),
    )  # fmt: skip


def _first(group: Group) -> str:
    return group.marks[0][1].source.partition(":")[2]


def _control_strays(plan: Plan, group: Group) -> Finding:
    owner, ref = lookup.device(plan, group.about[0]), group.about[1]
    names = _controls(plan, group)
    verb = "plays" if len(names) == 1 else "play"
    held = list(_sends(plan, group))
    silent = Edit(f"Let {_these(names)} send nothing", _muted(owner.id, held))
    return Finding(
        "plays unwished", "fault", (f"{owner.id}:{_first(group)}", owner.id, ref),
        f"{listed(names)} of {owner.name} {verb} {end_name(plan, ref)}, which no wish asks for.",
        (silent,),
    )  # fmt: skip


def _muted(device: str, held: list[tuple[str, Send, Mark]]) -> Callable[[Plan], Plan]:
    gone = {(s.control, s.bank) for _, s, _ in held}

    def change(owner: Device) -> Device:
        programs = tuple(
            edits.changed(p, sends=tuple(
                edits.changed(s, message="none") if (s.control, s.bank) in gone else s
                for s in p.sends
            ))
            for p in owner.programs
        )  # fmt: skip
        return edits.changed(owner, programs=programs)

    return edits.edit_device(device, "", change).change


def _sends_nothing(plan: Plan, group: Group) -> Finding:
    device, control, _, ref = group.about
    owner = lookup.device(plan, device)
    named = lookup.by_id(owner.controls, control, "control").name
    return Finding(
        "sends nothing", "fault", (f"{device}:{control}", device, ref),
        f"{named} of {owner.name} sends nothing that {end_name(plan, ref)} could hear: work the "
        "numbers out, or set what it sends.",
    )  # fmt: skip


def _no_sound(plan: Plan, group: Group) -> Finding:
    ref = group.about[0]
    owner, part = _part(plan, ref)
    return Finding(
        "sound not in kit", "fault", (ref,),
        f"{part.name} in {owner.name} has no such sound in the kit it is on: choose another sound "
        "or kit.",
    )  # fmt: skip


def _controller(plan: Plan, group: Group) -> Finding:
    device, control, _, ref = group.about
    owner = lookup.device(plan, device)
    there, _, ident = ref.partition(":")
    receiver = lookup.device(plan, there)
    target = lookup.by_id(receiver.targets, ident, "target")
    named = lookup.by_id(owner.controls, control, "control").name
    held = list(_sends(plan, group))
    number = held[0][1].number
    listens = "nothing yet" if target.controller is None else f"controller {target.controller}"
    kept = {n for lim in receiver.limits for n in getattr(lim, "controllers", ())}
    fixes = []
    if target.controller is not None:
        values = {f"{base}/number": target.controller for base, _, _ in held}
        fixes.append(_numbers(plan, values, f"Send controller {target.controller} from {named}"))
    if number not in kept and all(t.controller != number for t in receiver.targets):
        label = f"Let {target.name} listen to controller {number}"
        fixes.append(_numbers(plan, {f"{there}/target.{ident}/controller": number}, label))
    return Finding(
        "wrong controller", "fault", (f"{device}:{control}", ref),
        f"{named} of {owner.name} sends controller {number}; {target.name} in {receiver.name} "
        f"listens to {listens}.", tuple(fixes),
    )  # fmt: skip


def _controller_channel(plan: Plan, group: Group) -> Finding:
    device, control, _, ref = group.about
    owner = lookup.device(plan, device)
    there, _, ident = ref.partition(":")
    receiver = lookup.device(plan, there)
    target = lookup.by_id(receiver.targets, ident, "target")
    named = lookup.by_id(owner.controls, control, "control").name
    part = next((p for p in receiver.parts if p.id == target.part), None)
    channel = part.channel if part else target.channel
    values = {f"{base}/channel": channel or 1 for base, _, _ in _sends(plan, group)}
    return Finding(
        "wrong channel", "fault", (f"{device}:{control}", ref),
        f"{named} of {owner.name} does not send on channel {channel}, where {target.name} in "
        f"{receiver.name} listens.",
        (_numbers(plan, values, f"Send {named} on channel {channel}"),) if channel else (),
    )  # fmt: skip


def _mode(plan: Plan, group: Group) -> Finding:
    device, control, bank, remark = group.about
    owner = lookup.device(plan, device)
    named = lookup.by_id(owner.controls, control, "control").name
    mark = group.marks[0][1]
    receiver = _receiver_mode(plan, mark.meant[0].ref)
    held = list(_sends(plan, group))
    fixes = []
    for number, mode in enumerate(MODES):
        if receiver and mode != held[0][1].mode and not pair_remark(mode, receiver):
            values = {f"{base}/mode": number for base, _, _ in held}
            fixes.append(_modes(plan, values, f"Set {named} to {mode}"))
    where = f", bank {bank}" if lookup.by_id(owner.controls, control, "control").banks > 1 else ""
    return Finding(
        "modes that do not fit", "fault", (f"{device}:{control}", mark.meant[0].ref),
        f"{named} of {owner.name}{where}: {remark[0].lower()}{remark[1:]}", tuple(fixes),
    )  # fmt: skip


def _receiver_mode(plan: Plan, ref: str) -> str:
    device, _, ident = ref.partition(":")
    owner = lookup.device(plan, device)
    for part in owner.parts:
        if part.id == ident:
            return part.trigger
    mode = next((t.mode for t in owner.targets if t.id == ident), "")
    return "" if mode == "continuous" else mode


def _modes(plan: Plan, values: dict[str, int], label: str) -> Edit:
    """Set sender modes, which are words in the plan."""
    wanted = {tuple(ref.split("/")[:3]): MODES[n] for ref, n in values.items()}
    device = next(iter(wanted))[0]

    def change(owner: Device) -> Device:
        programs = tuple(
            edits.changed(p, sends=tuple(
                edits.changed(s, mode=wanted.get(
                    (device, str(p.number), f"{s.control}.{s.bank}"), s.mode))
                for s in p.sends
            ))
            for p in owner.programs
        )  # fmt: skip
        return edits.changed(owner, programs=programs)

    return edits.edit_device(device, label, change)


TELLERS: dict[str, Callable[[Plan, Group], Finding]] = {
    "dead": _dead, "off": _off, "channel": _channel, "shift": _shift, "range": _range,
    "velocity": _velocity, "path": _path, "shared": _shared, "twice": _twice, "reach": _reach,
    "stray": _stray, "send channel": _send_channel, "send note": _send_note,
    "control strays": _control_strays, "sends nothing": _sends_nothing, "no sound": _no_sound,
    "controller": _controller, "controller channel": _controller_channel, "mode": _mode,
}  # fmt: skip
