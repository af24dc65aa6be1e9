"""Every setting of the devices of a plan, by reference, as it is kept; what is known of each.

A setting is a whole number (a choice by its place, on as 1, none as ``MISSING``) or text.  The
table of fields (``table.py``) says what there is; limits say how far each kind reaches, so that
settings which are one in the device are known to be.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from operator import itemgetter
from typing import Any, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.fields.field import KINDS, Field, FieldKind
from vastzone.core.plan.fields.owners import Owner, OwnerKind, owners
from vastzone.core.plan.fields.table import fields_for, place_in_table
from vastzone.core.plan.fields.values import Stored, as_number
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import SettingRecord
from vastzone.core.plan.refs import field_of_setting, place_of_setting


class Dial(NamedTuple):
    """One setting: where it is, its value (−1 for none), how far it reaches, whose field it is.

    Settings with the same ``slot`` are one in the device, as its scope says.
    """

    ref: str
    value: Stored
    slot: tuple[str, ...]
    scope: str
    owner: Owner
    field: Field

    @property
    def kind(self) -> FieldKind:
        """What kind of setting it is."""
        return self.field.kind

    @property
    def number(self) -> int:
        """The value of one that is a number.  Raises EditError for text."""
        return as_number(self.value)

    @property
    def program(self) -> int | None:
        """The program that it is in; None for what is set once for all of them."""
        return None if self.owner.program is None else self.owner.program.number

    @property
    def is_usual(self) -> bool:
        """Whether it is as a device shows it out of its box."""
        return self.field.is_usual(self.owner)


@derived(64)
def dials(plan: Plan) -> Mapping[str, Dial]:
    """Every setting of every device, by reference, in the plan's order."""
    return _by_ref(plan, device_dials)


@derived(64)
def open_dials(plan: Plan) -> Mapping[str, Dial]:
    """Every setting that a solver may choose, by reference, in the plan's order."""
    return _by_ref(plan, _open_dials)


def reading(plan: Plan) -> Iterator[None]:
    """Read the settings of one device after the other: asked for afterwards they are known."""
    for device in plan.devices:
        _open_dials(device)
        yield
        device_dials(device)
        yield


def _by_ref(plan: Plan, dials_in: Callable[[Device], tuple[Dial, ...]]) -> dict[str, Dial]:
    by_ref = {}
    for device in plan.devices:
        for dial in dials_in(device):
            by_ref[dial.ref] = dial
    return by_ref


@derived(1024)
def device_dials(device: Device) -> tuple[Dial, ...]:
    """Every setting of one device."""
    return dials_of_kinds(device, frozenset(KINDS))


@derived(1024)
def _open_dials(device: Device) -> tuple[Dial, ...]:
    return _dials(device, lambda field: field.solved)


@derived(1024)
def whole_dials(device: Device) -> tuple[Dial, ...]:
    """The settings of one device outside its programs."""
    return device_dials(outside_programs(device))


def outside_programs(device: Device) -> Device:
    """A device without its programs: the same value while nothing but its programs changes."""
    values = []
    for name in Device.__struct_fields__:
        values.append(() if name == "programs" else getattr(device, name))
    return _shell(*values)


@derived(1024, whole=True)
def _shell(*values: Any) -> Device:
    return Device(**dict(zip(Device.__struct_fields__, values, strict=True)))


def dial_of(owner: Owner, field: Field) -> Dial | None:
    """One setting of a thing; None where it has no such field."""
    value = field.read(owner)
    if value is None:
        return None
    return _dial(owner, field, value, _scopes(owner.device)[field.kind])


def owner_dials(owner: Owner) -> tuple[Dial, ...]:
    """The settings of one thing."""
    return tuple(_read(owner, (f for f in fields_for(owner.kind) if f.is_dialled)))


def dials_of_kinds(device: Device, kinds: frozenset[FieldKind]) -> tuple[Dial, ...]:
    """The settings of one device that are of some kinds."""
    return _dials(device, lambda field: field.kind in kinds)


@derived(64)
def dials_named(device: Device, refs: frozenset[str]) -> tuple[Dial, ...]:
    """The settings of one device that are among some references; nothing else is read."""
    by_name = _owners_by_name(device)
    found: list[tuple[int, int, Dial]] = []
    for ref in refs:
        there = by_name.get(ref) or by_name.get(place_of_setting(ref))
        if there is None:
            continue
        rank, owner = there
        place, field = _field_named(owner, field_of_setting(ref))
        if field is not None and field.is_dialled:
            for dial in _read(owner, (field,)):
                found.append((rank, place, dial))
    found.sort(key=itemgetter(0, 1))
    return tuple([dial for _, _, dial in found])


def _field_named(owner: Owner, name: str) -> tuple[int, Field | None]:
    """The field of an owner by the last piece of a reference, and its place in the table."""
    if owner.alone:
        return 0, fields_for(owner.kind)[0]
    return place_in_table(owner.kind, name)


@derived(256)
def _owners_by_name(device: Device) -> Mapping[str, tuple[int, Owner]]:
    """Owners with their places in the order of the device: by their name, one alone by its own."""
    by_name = {}
    for rank, owner in enumerate(owners(device)):
        by_name[owner.own_name] = (rank, owner)
    return by_name


def _dials(device: Device, wanted: Callable[[Field], bool]) -> tuple[Dial, ...]:
    asked: dict[OwnerKind, tuple[Field, ...]] = {}
    listed: list[Dial] = []
    for owner in owners(device):
        fields = asked.get(owner.kind)
        if fields is None:
            fields = tuple(f for f in fields_for(owner.kind) if f.is_dialled and wanted(f))
            asked[owner.kind] = fields
        listed.extend(_read(owner, fields))
    return tuple(listed)


def _read(owner: Owner, fields: Iterable[Field]) -> Iterator[Dial]:
    """The settings of an owner in some fields, those that it has."""
    scopes = _scopes(owner.device)
    for field in fields:
        value = field.read(owner)
        if value is not None:
            yield _dial(owner, field, value, scopes[field.kind])


@derived(1024)
def _scopes(device: Device) -> Mapping[FieldKind, str]:
    """How far each kind of setting reaches in a device."""
    scopes = {}
    for kind in KINDS:
        scopes[kind] = scope_of(device, kind)
    return scopes


def _dial(owner: Owner, field: Field, value: Stored, scope: str) -> Dial:
    ref = owner.ref(field.id)
    scope = "fixed" if _cannot_change(owner, field) else scope
    slot = (ref,) if scope == "control" else _slot(owner, field, scope, ref)
    return Dial(ref, value, slot, scope, owner, field)


def _cannot_change(owner: Owner, field: Field) -> bool:
    """Whether it is as it was made: the notes of a fixed kit, a receiver that is never told."""
    if owner.kit is not None:
        return owner.kit.fixed
    if field.kind in ("part-channel", "target-controller"):
        return owner.thing.receives in ("fixed", "takes all")
    return False


def scope_of(device: Device, kind: FieldKind) -> str:
    """How far one kind of setting reaches in a device; its own everywhere unless it says so."""
    for limit in device.limits:
        if isinstance(limit, ScopeLimit) and limit.setting == kind:
            return limit.scope
    if kind == "device-switch":
        return "global"
    return "fixed" if kind == "kit-notes" and all(kit.fixed for kit in device.kits) else "control"


def shares_settings(device: Device) -> bool:
    """Whether some settings of a device are one with others of it."""
    scopes = []
    for limit in device.limits:
        if isinstance(limit, ScopeLimit):
            scopes.append(limit.scope)
    return any(scope in ("global", "program", "bank") for scope in scopes)


def _slot(owner: Owner, field: Field, scope: str, ref: str) -> tuple[str, ...]:
    """What a setting is kept in: those that share it are one in the device."""
    if scope == "global":
        return _one_in_device(owner, field) or (ref,)
    device, kind = owner.device.id, field.kind
    program = "" if owner.program is None else owner.program.id
    if kind in ("zone-channel", "send-channel") and scope == "program":
        return device, kind, program
    if kind in ("zone-channel", "send-channel") and scope == "bank":
        bank = str(owner.thing.bank) if owner.kind == "send" else ""
        return device, kind, program, bank
    return (ref,)


def _one_in_device(owner: Owner, field: Field) -> tuple[str, ...]:
    """What a setting is kept in that the device has once; empty where it is one by itself."""
    device, kind = owner.device, field.kind
    if kind in ("send-number", "send-function"):
        return device.id, kind, owner.thing.thing
    if kind == "send-channel" and device.keybeds:  # the keys' own channel is used for controls too
        return device.id, "zone-channel"
    if kind in ("zone-channel", "send-channel"):
        return device.id, kind
    return (device.id, kind, field.id) if owner.kind == "part" else ()


def record(plan: Plan, ref: str) -> SettingRecord:
    """Who decides a setting; free when nothing is recorded."""
    return records(plan).get(ref) or SettingRecord(ref=ref)


@derived(16)
def records(plan: Plan) -> Mapping[str, SettingRecord]:
    """The records of a plan by reference."""
    by_ref = {}
    for setting in plan.settings:
        by_ref[setting.ref] = setting
    return by_ref
