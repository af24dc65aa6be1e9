"""Every setting of the devices of a plan, by reference, as a number; what is known of each.

The table of fields says what there is to set; here each is found, read, and set.
"""

from collections.abc import Mapping
from typing import Any, NamedTuple

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan import edits
from vastzone.core.plan.cache import derived
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.fields.owners import Owner, owners, with_owners
from vastzone.core.plan.fields.table import KINDS, Field, FieldKind, fields_for
from vastzone.core.plan.limits import ScopeLimit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import device_of_setting
from vastzone.core.plan.wish import Setting


class Dial(NamedTuple):
    """One number: where it is, its value (−1 for none), how far it reaches, whose field it is.

    Numbers with the same ``slot`` are one number in the device, as its scope says.
    """

    ref: str
    value: int
    slot: tuple[str, ...]
    scope: str
    owner: Owner
    field: Field

    @property
    def kind(self) -> FieldKind:
        """What kind of number it is."""
        return self.field.kind

    @property
    def program(self) -> int | None:
        """The program that it is in; None for what is set once for all of them."""
        return None if self.owner.program is None else self.owner.program.number


@derived(64)
def dials(plan: Plan) -> Mapping[str, Dial]:
    """Every number of every device, by reference, in the plan's order."""
    return {dial.ref: dial for device in plan.devices for dial in device_dials(device)}


@derived(1024)
def device_dials(device: Device) -> tuple[Dial, ...]:
    """Every number of one device."""
    return dials_of_kinds(device, frozenset(KINDS))


def dials_of_kinds(device: Device, kinds: frozenset[FieldKind]) -> tuple[Dial, ...]:
    """The numbers of one device that are of some kinds."""
    scopes = {kind: scope_of(device, kind) for kind in kinds}
    found: list[Dial] = []
    for owner in owners(device):
        held = owner.kit is not None and owner.kit.fixed
        for field in fields_for(owner.kind):
            value = field.read(owner) if field.kind in kinds else None
            if value is None:
                continue
            ref = owner.ref(field.id)
            scope = "fixed" if held else scopes[field.kind]
            slot = (ref,) if scope == "control" else _slot(owner, field, scope, ref)
            found.append(Dial(ref, value, slot, scope, owner, field))
    return tuple(found)


def scope_of(device: Device, kind: FieldKind) -> str:
    """How far one kind of number reaches in a device; its own everywhere unless it says so."""
    for limit in device.limits:
        if isinstance(limit, ScopeLimit) and limit.setting == kind:
            return limit.scope
    if kind == "device-switch":
        return "global"
    return "fixed" if kind == "kit-notes" and all(k.fixed for k in device.kits) else "control"


def _slot(owner: Owner, field: Field, scope: str, ref: str) -> tuple[str, ...]:
    """What a setting is kept in: those that share it are one number in the device."""
    if scope == "global":
        return _one_in_device(owner, field) or (ref,)
    device, kind = owner.device.id, field.kind
    program = "" if owner.program is None else str(owner.program.number)
    if kind in ("zone-channel", "send-channel") and scope == "program":
        return device, kind, program
    if kind in ("zone-channel", "send-channel") and scope == "bank":
        bank = str(owner.held.bank) if owner.kind == "send" else ""
        return device, kind, program, bank
    return (ref,)


def _one_in_device(owner: Owner, field: Field) -> tuple[str, ...]:
    """What a setting is kept in that the device has once; empty where it is one by itself."""
    device, kind = owner.device, field.kind
    if kind == "send-number":
        return device.id, kind, owner.held.thing
    if kind == "send-channel" and device.keybeds:  # the keys' own channel is used for controls too
        return device.id, "zone-channel"
    if kind in ("zone-channel", "send-channel"):
        return device.id, kind
    return (device.id, kind, field.id) if owner.kind == "part" else ()


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
    new: dict[str, Any] = {}
    for owner in owners(device):
        changes = _taken(owner, left)
        if changes:
            new[owner.ref("") if owner.alone else owner.place] = edits.changed(
                owner.held, **changes
            )
    if left:
        raise EditError(f"There is no setting “{min(left)}” in this plan.")
    return with_owners(device, new)


def _taken(owner: Owner, left: dict[str, int]) -> dict[str, Any]:
    """What changes in an owner; the values that are used are taken out of those that are left."""
    changes: dict[str, Any] = {}
    for field in fields_for(owner.kind):
        value = left.get(owner.ref(field.id)) if field.write is not None else None
        if value is None or field.write is None:
            continue
        del left[owner.ref(field.id)]
        if value != field.read(owner):
            changes[field.id] = field.write(value)
    return changes
