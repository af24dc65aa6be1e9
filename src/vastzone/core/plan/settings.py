"""Every number that is dialled into a device, by a reference that reads like its place.

heron/0/zone.viol/channel        a zone's number in program 0
dipper/0/pad-3.2/number          what a control sends in bank 2 of program 0
dovecote/part.viol/channel       a part's number
curlew/kit.rock/kick             the note of a sound
echo-pool/target.mix/controller  the controller that moves a target
"""

from collections.abc import Iterator, Mapping
from typing import Any, NamedTuple, get_args

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.midi.wide import SELECT
from vastzone.core.plan import edits
from vastzone.core.plan.cache import derived
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.limits import ScopeLimit
from vastzone.core.plan.limits import Setting as Kind
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.pedal import Sense, Wiper
from vastzone.core.plan.refs import (
    device_of_setting,
    device_place,
    input_place,
    jack_place,
    kit_place,
    part_place,
    read_setting_ref,
    send_place,
    setting_in,
    target_place,
    zone_place,
)
from vastzone.core.plan.touch import Curve, Division, Program, Send, Zone
from vastzone.core.plan.values import Value
from vastzone.core.plan.wish import Setting

ZONE_FIELDS: dict[str, Kind] = {
    "channel": "zone-channel",
    "low": "zone-range",
    "high": "zone-range",
    "vel_low": "zone-range",
    "vel_high": "zone-range",
    "transpose": "zone-shift",
    "octave": "zone-shift",
    "on": "zone-range",
}
SEND_FIELDS: dict[str, Kind] = {
    "channel": "send-channel",
    "number": "send-number",
    "low": "send-mode",
    "high": "send-mode",
}
PART_FIELDS: dict[str, Kind] = {
    "channel": "part-channel",
    "low": "part-range",
    "high": "part-range",
    "transpose": "part-shift",
}
MODES = ("momentary", "toggle", "trigger")
CURVES: tuple[Curve, ...] = get_args(Curve)
SENSES: tuple[Sense, ...] = get_args(Sense)
WIPERS: tuple[Wiper, ...] = get_args(Wiper)
DIVISIONS: tuple[Division, ...] = get_args(Division)
MISSING = -1
"""Stands for «none» where a channel follows the zones, is omni, or a target has no controller."""


class Dial(NamedTuple):
    """One number: where it is, what kind it is, its value (−1 for none), how it may be set.

    Numbers with the same ``slot`` are one number in the device, as its scope says.
    """

    ref: str
    kind: Kind
    value: int
    slot: tuple[str, ...]
    scope: str


@derived(64)
def dials(plan: Plan) -> Mapping[str, Dial]:
    """Every number of every device, by reference, in the plan's order."""
    return {dial.ref: dial for device in plan.devices for dial in device_dials(device)}


@derived(1024)
def device_dials(device: Device) -> tuple[Dial, ...]:
    """Every number of one device."""
    return tuple(_of(device))


def scope_of(device: Device, kind: Kind) -> str:
    """How far one kind of number reaches in a device; its own everywhere unless it says so."""
    for limit in device.limits:
        if isinstance(limit, ScopeLimit) and limit.setting == kind:
            return limit.scope
    return "fixed" if kind == "kit-notes" and all(k.fixed for k in device.kits) else "control"


def _of(device: Device) -> Iterator[Dial]:
    scopes = {
        kind: scope_of(device, kind)
        for kind in (
            *ZONE_FIELDS.values(),
            *SEND_FIELDS.values(),
            *PART_FIELDS.values(),
            "kit-notes",
            "target-controller",
        )
    }
    if device.keybeds and device.parts:
        ref = setting_in(device_place(device.id, "panel"), "local")
        yield Dial(ref, "zone-range", int(device.local), (ref,), "global")
    yield from _passing_on(device)
    yield from _inputs(device)
    yield from _jacks(device)
    for program in device.programs:
        for zone in program.zones:
            yield from _zone(device, program, zone, scopes)
            yield _outputs(device, zone_place(device.id, program.number, zone.id), zone.ports)
        for send in program.sends:
            yield from _send(device, program, send, scopes)
    for part in device.parts:
        for field, kind in PART_FIELDS.items():
            ref = setting_in(part_place(device.id, part.id), field)
            slot = (device.id, kind) if scopes[kind] == "global" else (ref,)
            yield Dial(ref, kind, _number(getattr(part, field)), slot, scopes[kind])
    for kit in device.kits:
        for sound in kit.sounds:
            ref = setting_in(kit_place(device.id, kit.id), sound.id)
            scope = "fixed" if kit.fixed else scopes["kit-notes"]
            yield Dial(ref, "kit-notes", sound.note, (ref,), scope)
    for target in device.targets:
        ref = setting_in(target_place(device.id, target.id), "controller")
        scope = scopes["target-controller"]
        yield Dial(ref, "target-controller", _number(target.controller), (ref,), scope)


def _passing_on(device: Device) -> Iterator[Dial]:
    """What a computer passes on from each input to each output: 1 or 0."""
    if device.kind != "computer":
        return
    on = {(t.source, t.dest) for t in device.thrus}
    for source in (p for p in device.ports if p.flow != "out"):
        for dest in (p for p in device.ports if p.flow != "in" and p is not source):
            ref = setting_in(device_place(device.id, "thru"), f"{source.id}.{dest.id}")
            yield Dial(ref, "zone-range", int((source.id, dest.id) in on), (ref,), "global")


def _inputs(device: Device) -> Iterator[Dial]:
    """What the trigger inputs of a drum module are set to, where there is a choice."""
    for jack in device.inputs:
        held = {
            "type": jack.types.index(jack.type) if len(jack.types) > 1 else None,
            "linked": 1 if jack.linked else None,
            "half": jack.half if jack.type == "hi-hat" else None,
            "closed": jack.closed if jack.type == "hi-hat" else None,
        }
        for field, value in held.items():
            if value is not None:
                ref = setting_in(input_place(device.id, jack.id), field)
                yield Dial(ref, "zone-range", value, (ref,), "control")


def _jacks(device: Device) -> Iterator[Dial]:
    """What the pedal jacks of a device are set to, where there is a choice."""
    for jack in device.jacks:
        held = {
            "sense": SENSES.index(jack.sense) if len(jack.senses) > 1 else None,
            "wiper": WIPERS.index(jack.wiper) if len(jack.wipers) > 1 else None,
            "heel": jack.heel if jack.calibrated else None,
            "toe": jack.toe if jack.calibrated else None,
            "hysteresis": jack.hysteresis if jack.calibrated else None,
        }
        for field, value in held.items():
            if value is not None:
                ref = setting_in(jack_place(device.id, jack.id), field)
                yield Dial(ref, "zone-range", value, (ref,), "control")


def _outputs(device: Device, base: str, ports: tuple[str, ...]) -> Dial:
    """The outputs in use as bits, in the order of the device's ports; 0 is all of them."""
    bits = sum(1 << n for n, port in enumerate(device.ports) if port.id in ports)
    return Dial(setting_in(base, "outputs"), "zone-range", bits, (base, "outputs"), "control")


def _number(value: int | bool | None) -> int:
    return MISSING if value is None else int(value)


def _zone(device: Device, program: Program, zone: Zone, scopes: dict[Kind, str]) -> Iterator[Dial]:
    for field, kind in ZONE_FIELDS.items():
        ref = setting_in(zone_place(device.id, program.number, zone.id), field)
        slot = _slot(device, program, ref, kind, scopes[kind], "")
        yield Dial(ref, kind, _number(getattr(zone, field)), slot, scopes[kind])


def _send(device: Device, program: Program, send: Send, scopes: dict[Kind, str]) -> Iterator[Dial]:
    base = send_place(device.id, program.number, send.thing)
    yield Dial(
        setting_in(base, "mode"), "send-mode", MODES.index(send.mode), (base, "mode"), "control"
    )
    yield _outputs(device, base, send.ports)
    for field, kind in SEND_FIELDS.items():
        ref = setting_in(base, field)
        slot = _slot(device, program, ref, kind, scopes[kind], str(send.bank))
        if kind == "send-channel" and scopes[kind] == "global":
            slot = (device.id, "zone-channel") if device.keybeds else slot
        yield Dial(ref, kind, _number(getattr(send, field)), slot, scopes[kind])
    yield from _feel(device, base, send)


def _feel(device: Device, base: str, send: Send) -> Iterator[Dial]:
    """What a pad has besides its message, where that is not as in a new pad."""
    held = {
        "vel_low": send.vel_low if send.vel_low > 1 else None,
        "vel_high": send.vel_high if send.vel_high < 127 else None,
        "velocity": send.fixed,
        "curve": CURVES.index(send.curve) or None,
        "fade": 1 if send.fade else None,
        "mutes": _group(device, send.mutes),
        "muted_by": _group(device, send.muted_by),
        "starts": send.starts or None,
        "ends": send.ends if send.ends < 127 else None,
        "threshold": send.threshold or None,
        "page": send.page if send.message in SELECT else None,
        "repeat": None if send.repeat is None else DIVISIONS.index(send.repeat.division),
        "swing": None if send.repeat is None else send.repeat.swing,
    }
    for field, value in held.items():
        if value is not None:
            yield Dial(setting_in(base, field), "send-mode", value, (base, field), "control")


@derived(256)
def mute_groups(device: Device) -> tuple[str, ...]:
    """The mute groups of a device's pads, in the order of their names."""
    sends = [s for p in device.programs for s in p.sends]
    return tuple(sorted({g for s in sends for g in (s.mutes, s.muted_by) if g}))


def _group(device: Device, group: str | None) -> int | None:
    return None if group is None else mute_groups(device).index(group)


def _slot(
    device: Device, program: Program, ref: str, kind: str, scope: str, bank: str
) -> tuple[str, ...]:
    if kind == "send-number" and scope == "global":
        return (device.id, kind, read_setting_ref(ref).ident)
    if kind not in ("zone-channel", "send-channel"):
        return (ref,)
    return {
        "global": (device.id, kind),
        "program": (device.id, kind, str(program.number)),
        "bank": (device.id, kind, str(program.number), bank),
    }.get(scope, (ref,))


def record(plan: Plan, ref: str) -> Setting:
    """What is known of a number; free and held as it stands when nothing is recorded."""
    return records(plan).get(ref) or Setting(ref=ref)


@derived(16)
def records(plan: Plan) -> Mapping[str, Setting]:
    """The records of a plan by reference."""
    return {setting.ref: setting for setting in plan.settings}


def held_value(plan: Plan, dial: Dial) -> int | None:
    """What the device is known to hold; None when it holds nothing yet."""
    known = records(plan).get(dial.ref)
    return dial.value if known is None or known.state in ("stored", "checked") else known.held


def set_numbers(values: dict[str, int], label: str) -> Edit:
    """Set many numbers as one step.  Raises EditError for a reference to nothing."""

    def apply(plan: Plan) -> Plan:
        by_device: dict[str, dict[str, int]] = {}
        for ref, value in values.items():
            by_device.setdefault(device_of_setting(ref), {})[ref] = value
        unknown = set(by_device) - {d.id for d in plan.devices}
        if unknown:
            raise EditError(f"There is no device “{min(unknown)}” in this plan.")
        devices = tuple(
            _with(device, by_device[device.id]) if device.id in by_device else device
            for device in plan.devices
        )
        return msgspec.structs.replace(plan, devices=devices)

    return Edit(label, apply)


def _with(device: Device, values: dict[str, int]) -> Device:
    left = dict(values)

    def fields(
        prefix: str, value: Value, names: dict[str, Kind] | tuple[str, ...]
    ) -> dict[str, Any]:
        found = {}
        for name in names:
            new = left.pop(setting_in(prefix, name), None)
            if new is not None and new != _number(getattr(value, name)):
                plain = bool(new) if isinstance(getattr(value, name), bool) else new
                found[name] = (
                    None if new == MISSING and name in ("channel", "controller") else plain
                )
        return found

    programs = tuple(
        edits.changed(
            program,
            zones=tuple(
                edits.changed(
                    z, **fields(zone_place(device.id, program.number, z.id), z, ZONE_FIELDS)
                )
                for z in program.zones
            ),
            sends=tuple(
                edits.changed(
                    s,
                    **fields(send_place(device.id, program.number, s.thing), s, SEND_FIELDS),
                )
                for s in program.sends
            ),
        )
        for program in device.programs
    )
    parts = tuple(
        edits.changed(p, **fields(part_place(device.id, p.id), p, PART_FIELDS))
        for p in device.parts
    )
    targets = tuple(
        edits.changed(t, **fields(target_place(device.id, t.id), t, ("controller",)))
        for t in device.targets
    )
    kits = tuple(
        edits.changed(
            kit,
            sounds=tuple(
                edits.changed(
                    s, note=left.pop(setting_in(kit_place(device.id, kit.id), s.id), s.note)
                )
                for s in kit.sounds
            ),
        )
        for kit in device.kits
    )
    if left:
        raise EditError(f"There is no setting “{min(left)}” in this plan.")
    return edits.changed(device, programs=programs, parts=parts, targets=targets, kits=kits)
