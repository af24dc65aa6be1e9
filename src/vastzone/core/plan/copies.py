"""Copying pads: one, all zones of one, a whole kit, or one kit over many."""

from collections.abc import Collection, Iterable
from typing import Literal, NamedTuple

import msgspec

from vastzone.core.plan import edits, lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.fills import pads_of
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import ref_to
from vastzone.core.plan.touch import Program, Send
from vastzone.core.plan.wish import Intent

What = Literal["message", "sound", "both"]
Whole = Literal["zone", "pad", "kit"]

BY_HAND, BY_COPY = 4, 5
"""Button presses: to find and set one number of a pad; to copy and store one kit."""


class Spot(NamedTuple):
    """A pad in one bank of one program of a device."""

    program: int
    control: str
    bank: int


def copy(plan: Plan, device: str, source: Spot, dest: Spot, what: What, whole: Whole) -> Edit:
    """Copy a zone, a pad with all its zones, or the kit that it is in, to another.

    Copied is the ``message``, the ``sound`` that wishes say it plays, or ``both``.
    """
    owner = lookup.device(plan, device)
    pairs = list(_pairs(owner, source, dest, whole))
    names = {c.id: c.name for c in owner.controls}
    label = (
        "Copy kit" if whole == "kit" else (f"Copy {names[source.control]} to {names[dest.control]}")
    )

    def apply(old: Plan) -> Plan:
        if what in ("message", "both"):
            old = _copy_messages(device, pairs).change(old)
        if what in ("sound", "both"):
            for one, other in pairs:
                old = _copy_sound(old, device, one, other)
        return old

    return Edit(label, apply)


def _pairs(owner: Device, source: Spot, dest: Spot, whole: Whole) -> Iterable[tuple[Spot, Spot]]:
    known = {c.id: c for c in owner.controls}
    one, other = known[source.control], known[dest.control]
    if whole == "kit":
        for pad in pads_of(owner):
            if max(source.bank, dest.bank) <= pad.banks:
                yield source._replace(control=pad.id), dest._replace(control=pad.id)
    elif whole == "pad" and one.input is not None and other.input is not None:
        zones = {c.zone: c.id for c in owner.controls if c.input == other.input}
        for pad in owner.controls:
            if pad.input == one.input and pad.zone in zones:
                yield source._replace(control=pad.id), dest._replace(control=zones[pad.zone])
    else:
        yield source, dest


def _copy_messages(device: str, pairs: list[tuple[Spot, Spot]]) -> Edit:
    def change(owner: Device) -> Device:
        for source, dest in pairs:
            models = [s for s in lookup.program(owner, source.program).sends if _at(s, source)]
            program = lookup.program(owner, dest.program)
            kept = tuple(s for s in program.sends if not _at(s, dest))
            copies = [edits.changed(m, control=dest.control, bank=dest.bank) for m in models]
            new = edits.changed(program, sends=(*kept, *copies))
            owner = edits.changed(owner, programs=edits.swapped(owner.programs, program, new))
        return owner

    return edits.edit_device(device, "Copy pad", change)


def _at(send: Send, spot: Spot) -> bool:
    return (send.control, send.bank) == (spot.control, spot.bank)


def _copy_sound(plan: Plan, device: str, source: Spot, dest: Spot) -> Plan:
    """The wishes of one pad for another as well; what that one played is dropped."""
    from vastzone.core.plan.wishes import Place, take_back

    here, there = ref_to(device, source.control), ref_to(device, dest.control)
    model = [i for i in plan.intents if _plays(i, here, source.bank)]
    owner = lookup.device(plan, device)
    moved = source.program != dest.program
    scenes = tuple(s.id for s in lookup.scenes_with(plan, owner, dest.program)) if moved else ()
    before = {s.id for s in lookup.scenes_with(plan, owner, source.program)}
    for intent in tuple(plan.intents):
        if _plays(intent, there, dest.bank):
            where = scenes or intent.scenes
            plan = take_back(Place(there, dest.bank), intent.plays or "", where).change(plan)
    taken, new = {i.id for i in plan.intents}, []
    for intent in model:
        if moved and intent.scenes and not before & set(intent.scenes):
            continue
        at = intent.sources.index(here)
        sounds = intent.sounds[at : at + 1] or intent.sounds[-1:]
        ident = lookup.free_id(taken, f"{intent.id}-copy")
        taken.add(ident)
        new.append(
            edits.changed(
                intent,
                id=ident,
                sources=(there,),
                bank=dest.bank,
                sounds=sounds,
                scenes=scenes if moved else intent.scenes,
            )
        )
    return msgspec.structs.replace(plan, intents=(*plan.intents, *new))


def _plays(intent: Intent, source: str, bank: int) -> bool:
    return bool(intent.plays) and source in intent.sources and intent.bank == bank


def exceptions(owner: Device, template: int, bank: int, program: int) -> tuple[str, ...]:
    """The pads of a program that send something else than the template does in that bank."""
    model, held = (_bank(lookup.program(owner, n), bank) for n in (template, program))
    return tuple(p.id for p in pads_of(owner) if model.get(p.id) != held.get(p.id))


def _bank(program: Program, bank: int) -> dict[str, list[Send]]:
    found: dict[str, list[Send]] = {}
    for send in sorted(program.sends, key=lambda s: s.layer):
        if send.bank == bank:
            found.setdefault(send.control, []).append(send)
    return found


def spread(
    owner: Device,
    template: int,
    bank: int,
    programs: Collection[int],
    kept: Collection[tuple[int, str]] = (),
) -> Edit:
    """Give many programs the pads of one, except those to be ``kept``, as one step."""
    pairs = [
        (Spot(template, pad.id, bank), Spot(program, pad.id, bank))
        for program in programs
        if program != template
        for pad in pads_of(owner)
        if bank <= pad.banks and (program, pad.id) not in kept
    ]
    return Edit("Spread kit", _copy_messages(owner.id, pairs).change)


class Saving(NamedTuple):
    """Button presses for the same result by hand and by copying."""

    by_hand: int
    by_copy: int


def saving(
    owner: Device,
    template: int,
    bank: int,
    programs: Collection[int],
    kept: Collection[tuple[int, str]] = (),
) -> Saving:
    """What spreading saves: every differing number by hand, against a copy and its exceptions."""
    hand = by_copy = 0
    for program in (p for p in programs if p != template):
        model, held = (_bank(lookup.program(owner, n), bank) for n in (template, program))
        changed = 0
        for pad in exceptions(owner, template, bank, program):
            count = BY_HAND * max(1, _numbers(model.get(pad, []), held.get(pad, [])))
            if (program, pad) in kept:
                by_copy += count
            else:
                changed += count
        hand += changed
        by_copy += BY_COPY if changed else 0
    return Saving(hand, by_copy)


def _numbers(one: list[Send], other: list[Send]) -> int:
    """How many numbers of two pads differ."""
    count = 0
    for n in range(max(len(one), len(other))):
        a = one[n] if n < len(one) else None
        b = other[n] if n < len(other) else None
        fields = (
            "message",
            "channel",
            "number",
            "low",
            "high",
            "mode",
            "fixed",
            "curve",
            "mutes",
            "muted_by",
            "repeat",
            "vel_low",
            "vel_high",
        )
        count += sum(getattr(a, f, None) != getattr(b, f, None) for f in fields)
    return count
