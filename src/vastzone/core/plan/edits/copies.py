"""Copying pads: one, all zones of one, a whole bank, or one bank over many programs."""

from collections.abc import Collection, Iterable
from typing import Literal, NamedTuple

import msgspec

from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.model.checked import changed as edit_changed
from vastzone.core.plan.model.checked import swapped
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say

What = Literal["message", "sound", "both"]
Whole = Literal["zone", "pad", "bank"]

BY_HAND, BY_COPY = 4, 5
"""Button presses: to find and set one number of a pad; to copy and store one bank."""


class PadSpot(NamedTuple):
    """A pad in one bank of one program of a device."""

    program: int
    control: str
    bank: int


def copy(plan: Plan, device: str, source: PadSpot, dest: PadSpot, what: What, whole: Whole) -> Edit:
    """Copy a zone, a pad with all its zones, or the bank that it is in, to another.

    Copied is the ``message``, the ``sound`` that wishes say it plays, or ``both``.
    """
    owner = lookup.device(plan, device)
    pairs = list(_pairs(owner, source, dest, whole))
    names = lookup.names_of(owner.controls)
    label = (
        say("Copy bank")
        if whole == "bank"
        else (
            say(
                "Copy {names} to {names_dest}",
                names=names[source.control],
                names_dest=names[dest.control],
            )
        )
    )

    def apply(old: Plan) -> Plan:
        if what in ("message", "both"):
            old = _copy_messages(device, pairs).change(old)
        if what in ("sound", "both"):
            for one, other in pairs:
                old = _copy_sound(old, device, one, other)
        return old

    return Edit(label, apply)


def _pairs(
    owner: Device, source: PadSpot, dest: PadSpot, whole: Whole
) -> Iterable[tuple[PadSpot, PadSpot]]:
    known = lookup.by_ids(owner.controls)
    one, other = known[source.control], known[dest.control]
    if whole == "bank":
        for pad in pads_of(owner):
            if max(source.bank, dest.bank) <= pad.banks:
                yield source._replace(control=pad.id), dest._replace(control=pad.id)
    elif whole == "pad" and one.input is not None and other.input is not None:
        zones = {}
        for pad in _in_input(owner, other.input):
            zones[pad.zone] = pad.id
        for pad in _in_input(owner, one.input):
            if pad.zone in zones:
                yield source._replace(control=pad.id), dest._replace(control=zones[pad.zone])
    else:
        yield source, dest


def _in_input(owner: Device, ident: str) -> list[Control]:
    """The zones of whatever is plugged into an input."""
    controls = []
    for control in owner.controls:
        if control.input == ident:
            controls.append(control)
    return controls


def _copy_messages(device: str, pairs: list[tuple[PadSpot, PadSpot]]) -> Edit:
    def change(owner: Device) -> Device:
        for source, dest in pairs:
            models = []
            for send in lookup.program(owner, source.program).sends:
                if _at(send, source):
                    models.append(send)
            program = lookup.program(owner, dest.program)
            kept = tuple(send for send in program.sends if not _at(send, dest))
            copies = []
            for m in models:
                copies.append(edit_changed(m, control=dest.control, bank=dest.bank))
            new = edit_changed(program, sends=(*kept, *copies))
            owner = edit_changed(owner, programs=swapped(owner.programs, program, new))
        return owner

    return edit_device(device, say("Copy pad"), change)


def _at(send: Send, spot: PadSpot) -> bool:
    return (send.control, send.bank) == (spot.control, spot.bank)


def _copy_sound(plan: Plan, device: str, source: PadSpot, dest: PadSpot) -> Plan:
    """The wishes of one pad for another as well; what that one played is dropped."""
    here, there = ref_to(device, source.control), ref_to(device, dest.control)
    owner = lookup.device(plan, device)
    model = []
    for wish in plan.wishes:
        if _plays(wish, here, source.bank):
            model.append(wish)
    scenes: tuple[str, ...] = ()
    if source.program != dest.program:
        before = lookup.ids_of(lookup.scenes_with(plan, owner, source.program))
        model = [wish for wish in model if not wish.scenes or before & set(wish.scenes)]
        scenes = tuple(scene.id for scene in lookup.scenes_with(plan, owner, dest.program))
        model = [edit_changed(wish, scenes=scenes) for wish in model]
    # One pad sounds one thing: what the other played goes before the copies come.
    plan = _silenced(plan, there, dest.bank, scenes)
    taken, new = lookup.ids_of(plan.wishes), []
    for wish in model:
        place = wish.sources.index(here)
        # A wish of several pads names a sound for each, or the last for all that are left.
        sounds = wish.sounds[place : place + 1] or wish.sounds[-1:]
        ident = lookup.free_id(taken, f"{wish.id}-copy")
        taken.add(ident)
        copy = edit_changed(wish, id=ident, sources=(there,), bank=dest.bank, sounds=sounds)
        new.append(copy)
    return msgspec.structs.replace(plan, wishes=(*plan.wishes, *new))


def _silenced(plan: Plan, pad: str, bank: int, scenes: tuple[str, ...]) -> Plan:
    """A plan in which nothing is wished of a pad in some scenes, in those of each wish if none."""
    from vastzone.core.plan.edits.wishes import WishPlace, take_back

    for wish in tuple(plan.wishes):
        if _plays(wish, pad, bank):
            where = scenes or wish.scenes
            plan = take_back(WishPlace(pad, bank), wish.plays or "", where).change(plan)
    return plan


def _plays(wish: Wish, source: str, bank: int) -> bool:
    return bool(wish.plays) and source in wish.sources and wish.bank == bank


def exceptions(owner: Device, template: int, bank: int, program: int) -> tuple[str, ...]:
    """The pads of a program that send something else than the template does in that bank."""
    model, own = (_bank(lookup.program(owner, n), bank) for n in (template, program))
    pads = []
    for pad in pads_of(owner):
        if model.get(pad.id) != own.get(pad.id):
            pads.append(pad.id)
    return tuple(pads)


def _bank(program: Program, bank: int) -> dict[str, list[Send]]:
    by_pad: dict[str, list[Send]] = {}
    for send in sorted(program.sends, key=lambda s: s.layer):
        if send.bank == bank:
            by_pad.setdefault(send.control, []).append(send)
    return by_pad


def spread(
    owner: Device,
    template: int,
    bank: int,
    programs: Collection[int],
    kept: Collection[tuple[int, str]] = (),
) -> Edit:
    """Give many programs the pads of one, except those to be ``kept``, as one step."""
    pairs = []
    for program in programs:
        if program != template:
            for pad in pads_of(owner):
                if bank <= pad.banks and (program, pad.id) not in kept:
                    pairs.append((PadSpot(template, pad.id, bank), PadSpot(program, pad.id, bank)))
    return Edit(say("Spread bank"), _copy_messages(owner.id, pairs).change)


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
        model, own = (_bank(lookup.program(owner, n), bank) for n in (template, program))
        changed = 0
        for pad in exceptions(owner, template, bank, program):
            count = BY_HAND * max(1, _numbers(model.get(pad, []), own.get(pad, [])))
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
        count += sum(getattr(a, field, None) != getattr(b, field, None) for field in fields)
    return count
