"""Ceilings written into a plan: into what controls send, or into what receivers take."""

from typing import Literal, NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import LOUD
from vastzone.core.plan import edits
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Send
from vastzone.core.response.loudness import Capped
from vastzone.core.response.sweep import target_value
from vastzone.core.response.together import evening

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
    tops = {c.name.casefold(): c for c in caps}
    if where == "receivers":
        held = [(d, t) for d in plan.devices for t in d.targets if t.name.casefold() in tops]
        written = {t.name.casefold() for _, t in held}
        edit = Edit("Cap receivers", lambda p: _in_receivers(p, held, tops))
    else:
        sends = _senders(plan, compiled, tops)
        written = set(sends.values())
        edit = Edit("Cap senders", lambda p: _in_senders(p, sends, tops))
    if not written:
        raise EditError(
            "None of these names is a target or a part whose volume is sent here: use the names "
            "of the plan."
        )
    known = tuple(c.name for c in caps if c.name.casefold() in written)
    return Capping(edit, known, tuple(c.name for c in caps if c.name not in known))


Key = tuple[str, str, int, int]


def _senders(plan: Plan, compiled: tuple[Compiled, ...], tops: dict[str, Capped]) -> dict[Key, str]:
    """Each send (device, control, bank, layer) that moves something capped, and its name."""
    names = {ref_to(d.id, p.id): p.name for d in plan.devices for p in d.parts}
    found: dict[Key, str] = {}
    for scene in compiled:
        for (ref, _), sendings in scene.controls.items():
            device, control = read_ref(ref)
            for sending in sendings:
                for motion in sending.motions:
                    loud = motion.message == "controller" and motion.number in LOUD
                    for h in motion.hearings:
                        name = h.target.name if h.target else names[h.ref] if loud else ""
                        if name.casefold() in tops:
                            send = sending.send
                            key = (device, control, send.bank, send.layer)
                            found[key] = name.casefold()
    return found


def _in_senders(plan: Plan, sends: dict[Key, str], tops: dict[str, Capped]) -> Plan:
    def capped(device: Device, send: Send) -> Send:
        name = sends.get((device.id, send.control, send.bank, send.layer))
        if name is None:
            return send
        top = tops[name].top
        return edits.changed(send, low=min(send.low, top), high=min(send.high, top))

    return edits.changed(
        plan,
        devices=tuple(
            edits.changed(
                d,
                programs=tuple(
                    edits.changed(p, sends=tuple(capped(d, s) for s in p.sends)) for p in d.programs
                ),
            )
            for d in plan.devices
        ),
    )


def _in_receivers(plan: Plan, held: list[tuple[Device, Target]], tops: dict[str, Capped]) -> Plan:
    owners = {(d.id, t.id) for d, t in held}

    def capped(device: Device, target: Target) -> Target:
        if (device.id, target.id) not in owners:
            return target
        top = tops[target.name.casefold()].top
        return edits.changed(target, high=target_value(target, top))

    return edits.changed(
        plan,
        devices=tuple(
            edits.changed(d, targets=tuple(capped(d, t) for t in d.targets)) for d in plan.devices
        ),
    )


def keep_even(plan: Plan, compiled: Compiled, ref: str, within_db: float) -> Edit:
    """A second message of a control that takes a volume down as its target gets louder.

    Raises EditError where the control moves nothing whose loudness is known, or no volume is near.
    """
    device = device_of(ref)
    sendings = compiled.controls.get((ref, 1), ())
    moved = ((s.send, h) for s in sendings for m in s.motions for h in m.hearings if h.target)
    first = next(((s, h) for s, h in moved if h.target and h.target.louder), None)
    if first is None:
        raise EditError(
            "The chosen control moves no target whose loudness is known: choose the control, and "
            "type in its target’s facts how much louder it gets."
        )
    send, hearing = first
    owner = next(d for d in plan.devices if d.id == device_of(hearing.ref))
    volume = next(
        (
            t
            for t in owner.targets
            if t.controller is not None
            and t is not hearing.target
            and (t.role in LOUD or t.controller in LOUD)
        ),
        None,
    )
    if volume is None or hearing.target is None:
        raise EditError(f"{owner.name} has no volume target that a controller moves: name one.")
    extra = evening(send, hearing.target, volume, within_db)

    def inside(giver: Device) -> Device:
        return edits.changed(
            giver,
            programs=tuple(
                edits.changed(
                    p, sends=(*p.sends, edits.changed(extra, layer=_layer(p.sends, extra)))
                )
                if any(s == send for s in p.sends)
                else p
                for p in giver.programs
            ),
        )

    return edits.edit_device(device, f"Keep {hearing.target.name} even by {volume.name}", inside)


def _layer(sends: tuple[Send, ...], extra: Send) -> int:
    used = [s.layer for s in sends if (s.control, s.bank) == (extra.control, extra.bank)]
    if max(used, default=0) >= 7:
        raise EditError("This control already sends eight messages: take one away first.")
    return max(used, default=-1) + 1
