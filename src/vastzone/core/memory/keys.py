"""What settings are known by in the memory of a device.

Outside programs that is their reference without the device, «part.viol/channel»; in a program,
«zone.viol/channel»; what a device has once for all its programs is «once/send-number/pad-3».
"""

from collections.abc import Iterable
from typing import NamedTuple

import msgspec

from vastzone.core.cache import derived
from vastzone.core.plan.fields.dials import Dial, dials_of_kinds, owner_dials, scope_of
from vastzone.core.plan.fields.field import KINDS, FieldKind
from vastzone.core.plan.fields.owners import Owner, owners_in
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.controls import KitChoice, Program, Send, Slot, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.refs import field_of_setting, setting_in, spot_in

PROGRAM = "program"
"""Where a program's own name stands."""
ONCE = "once"
Thing = Zone | Send | KitChoice


def slot_key(slot: Slot) -> str:
    """A slot: «0-4» is number 4 of the first bank, as on the wire."""
    return f"{slot.bank}-{slot.number}"


def spot(owner: Owner) -> str:
    """What something in a program is known by: «zone.viol», «pad-3.2»."""
    return PROGRAM if owner.kind == "program" else spot_in(owner.place)


def spot_of(thing: Thing) -> str:
    """The same, of the thing itself."""
    if isinstance(thing, Zone):
        return f"zone.{thing.id}"
    return thing.thing if isinstance(thing, Send) else f"choice.{thing.part}"


def things(program: Program) -> dict[str, Thing]:
    """What stands in a program, by what it is known by."""
    by_spot: dict[str, Thing] = {}
    every: list[Thing] = [*program.zones, *program.sends, *program.kits]
    for thing in every:
        by_spot[spot_of(thing)] = thing
    return by_spot


def with_only(program: Program, kept: Iterable[Thing]) -> Program:
    """A program with just these things in it."""
    zones: list[Zone] = []
    sends: list[Send] = []
    kits: list[KitChoice] = []
    for thing in kept:
        if isinstance(thing, Zone):
            zones.append(thing)
        elif isinstance(thing, Send):
            sends.append(thing)
        else:
            kits.append(thing)
    return msgspec.structs.replace(
        program, zones=tuple(zones), sends=tuple(sends), kits=tuple(kits)
    )


def program_values(device: Device, program: Program) -> dict[str, Stored]:
    """Every setting of a program, by what it is known by there."""
    values = {}
    for owner in owners_in(device, program):
        for dial in owner_dials(owner):
            values[key_of(dial)] = dial.value
    return values


def is_once(dial: Dial) -> bool:
    """Whether a setting of a program is one for the whole device."""
    return dial.program is not None and dial.scope == "global" and len(dial.slot) > 1


class PlacesIn(NamedTuple):
    """What there is in a device for things in its programs to belong to."""

    keybeds: frozenset[str]
    controls: frozenset[str]
    parts: frozenset[str]
    kits: frozenset[str]

    def has(self, thing: Thing) -> bool:
        """Whether what a thing belongs to is there."""
        if isinstance(thing, Zone):
            return thing.keybed in self.keybeds
        if isinstance(thing, Send):
            return thing.control in self.controls
        return thing.part in self.parts and thing.kit in self.kits


@derived(512)
def places_in(device: Device) -> PlacesIn:
    """What there is in a device for things in its programs to belong to."""
    return PlacesIn(
        frozenset(bed.id for bed in device.keybeds),
        frozenset(control.id for control in device.controls),
        frozenset(part.id for part in device.parts),
        frozenset(kit.id for kit in device.kits),
    )


def key_of(dial: Dial) -> str:
    """What a setting is known by, in the device or within its program."""
    if is_once(dial):
        return "/".join((ONCE, *dial.slot[1:]))
    if dial.owner.program is None:
        return dial.ref.partition("/")[2]
    return setting_in(spot(dial.owner), field_of_setting(dial.ref))


def keeps(dial: Dial) -> bool:
    """Whether a device keeps a setting that can be changed in it."""
    return dial.scope != "fixed"


@derived(1024)
def once_dials(device: Device) -> tuple[Dial, ...]:
    """What a device has once for all its programs: the first setting of each."""
    kinds: set[FieldKind] = {kind for kind in KINDS if scope_of(device, kind) == "global"}
    by_key: dict[str, Dial] = {}
    for dial in dials_of_kinds(device, frozenset(kinds)) if kinds else ():
        if is_once(dial):
            by_key.setdefault(key_of(dial), dial)
    return tuple(by_key.values())
