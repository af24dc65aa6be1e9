"""Ceilings written into a plan: into what controls send, or into what receivers take."""

from collections.abc import Iterator
from typing import Literal, NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.tables import Sending
from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import LOUD
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.response.loudness import Capped
from vastzone.core.response.sweep import target_value
from vastzone.core.response.together import evening, is_level
from vastzone.core.say import say

Where = Literal["senders", "receivers"]


class Capping(NamedTuple):
    """An edit, the names that it writes, and those that it found nowhere in the plan."""

    edit: Edit
    written: tuple[str, ...]
    unknown: tuple[str, ...]


def write_caps(
    plan: Plan, compiled: tuple[Compiled, ...], caps: tuple[Capped, ...], where: Where
) -> Capping:
    """Caps by the names of targets or parts, in whole steps.

    In senders: whatever moves such a target, or the volume of such a part, sends no more.  In
    receivers: the target’s own range ends there.  Raises EditError where nothing is found.
    """
    tops = {}
    for cap in caps:
        tops[cap.name.casefold()] = cap
    if where == "receivers":
        written, edit = _cap_receivers(plan, tops)
    else:
        sends = _senders(plan, compiled, tops)
        written = set(sends.values())
        edit = Edit(say("Cap senders"), lambda old: _in_senders(old, sends, tops))
    if not written:
        raise EditError(
            say(
                "None of these names is a target or a part whose volume is sent here: use the "
                "names "
                "of the plan."
            )
        )
    known = tuple(cap.name for cap in caps if cap.name.casefold() in written)
    return Capping(edit, known, tuple(cap.name for cap in caps if cap.name not in known))


def _cap_receivers(plan: Plan, tops: dict[str, Capped]) -> tuple[set[str], Edit]:
    """The names of targets that are capped, and the edit that does it."""
    written = set()
    for device in plan.devices:
        for target in device.targets:
            if target.name.casefold() in tops:
                written.add(target.name.casefold())
    return written, Edit(say("Cap receivers"), lambda old: _in_receivers(old, tops))


Key = tuple[str, str, int, int]


def _senders(plan: Plan, compiled: tuple[Compiled, ...], tops: dict[str, Capped]) -> dict[Key, str]:
    """Each send (device, control, bank, layer) that moves something capped, and its name."""
    names = {}
    for owner, part in lookup.parts(plan):
        names[ref_to(owner.id, part.id)] = part.name
    senders: dict[Key, str] = {}
    for scene in compiled:
        for (ref, _), sendings in scene.controls.items():
            device, control = read_ref(ref)
            for sending in sendings:
                send = sending.send
                for name in _moved_names(sending, names):
                    if name in tops:
                        senders[device, control, send.bank, send.layer] = name
    return senders


def _moved_names(sending: Sending, names: dict[str, str]) -> Iterator[str]:
    """The names, in small letters, of the targets and of the parts’ volumes that it moves."""
    for motion in sending.motions:
        loud = motion.message == "controller" and motion.number in LOUD
        for hearing in motion.hearings:
            if hearing.target:
                yield hearing.target.name.casefold()
            elif loud:
                yield names[hearing.ref].casefold()


def _in_senders(plan: Plan, sends: dict[Key, str], tops: dict[str, Capped]) -> Plan:
    def capped(device: Device, send: Send) -> Send:
        name = sends.get((device.id, send.control, send.bank, send.layer))
        if name is None:
            return send
        top = tops[name].top
        return changed(send, low=min(send.low, top), high=min(send.high, top))

    return changed(
        plan,
        devices=tuple(
            changed(
                d,
                programs=tuple(
                    changed(program, sends=tuple(capped(d, s) for s in program.sends))
                    for program in d.programs
                ),
            )
            for d in plan.devices
        ),
    )


def _in_receivers(plan: Plan, tops: dict[str, Capped]) -> Plan:
    def capped(target: Target) -> Target:
        cap = tops.get(target.name.casefold())
        return target if cap is None else changed(target, high=target_value(target, cap.top))

    devices = tuple(
        changed(device, targets=tuple(map(capped, device.targets))) for device in plan.devices
    )
    return changed(plan, devices=devices)


def keep_even(plan: Plan, compiled: Compiled, key: tuple[str, int], within_db: float) -> Edit:
    """A second message of a control in a bank that takes a volume down as its target gets louder.

    Raises EditError where the control moves nothing whose loudness is known, or no volume is near.
    """
    send, ear, target = _louder(compiled, key)
    owner = lookup.device(plan, device_of(ear))
    volume = _volume(owner, target)
    if volume is None:
        raise EditError(
            say(
                "{owner} has no volume that a controller moves, and nothing in dB.",
                owner=owner.name,
            )
        )
    extra = evening(send, target, volume, within_db)

    def beside(program: Program) -> Program:
        if send not in program.sends:
            return program
        more = changed(extra, layer=_layer(program.sends, extra))
        return changed(program, sends=(*program.sends, more))

    return edit_device(
        device_of(key[0]),
        say("Keep {target} even by {volume}", target=target.name, volume=volume.name),
        lambda giver: changed(giver, programs=tuple(map(beside, giver.programs))),
    )


def _louder(compiled: Compiled, key: tuple[str, int]) -> tuple[Send, str, Target]:
    """What a control sends that moves a target whose loudness is known, and that target."""
    for sending in compiled.controls.get(key, ()):
        for motion in sending.motions:
            for hearing in motion.hearings:
                if hearing.target and hearing.target.louder:
                    return sending.send, hearing.ref, hearing.target
    raise EditError(
        say(
            "The chosen control moves no target whose loudness is known: choose the control, and "
            "type in its target’s facts how much louder it gets."
        )
    )


def _volume(owner: Device, other: Target) -> Target | None:
    """A level of a device that a controller moves: a standard volume first, else one in dB."""
    levels = []
    for target in owner.targets:
        if target.controller is not None and target is not other and is_level(target):
            levels.append(target)
    return min(levels, key=lambda level: level.unit == "dB", default=None)


def _layer(sends: tuple[Send, ...], extra: Send) -> int:
    used = []
    for send in sends:
        if (send.control, send.bank) == (extra.control, extra.bank):
            used.append(send.layer)
    if max(used, default=0) >= 7:
        raise EditError(say("This control already sends eight messages: take one away first."))
    return max(used, default=-1) + 1
