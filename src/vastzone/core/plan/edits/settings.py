"""Settings put in place by their references: many as one step, or one as it was entered."""

from collections.abc import Callable, Iterable, Mapping
from functools import partial
from typing import Any, TypeVar

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import (
    Owner,
    block_owner,
    choice_owner,
    device_owner,
    encoder_owner,
    input_owner,
    jack_owner,
    owners,
    part_owner,
    program_owner,
    route_owner,
    send_owner,
    shoe_owner,
    sound_owner,
    switch_owner,
    target_owner,
    zone_owner,
)
from vastzone.core.plan.fields.table import fields_for
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.parts import Kit
from vastzone.core.plan.model.plan import Device, Plan, Thru
from vastzone.core.plan.model.values import Value
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of_setting, owner_place
from vastzone.core.say import say

V = TypeVar("V", bound=Value)
New = dict[str, Any]
"""Things that have changed, by what their settings are named after; a sound by its reference."""


def set_numbers(values: Mapping[str, Stored], label: str) -> Edit:
    """Set many settings as one step.  Raises EditError for a reference to nothing."""

    def apply(plan: Plan) -> Plan:
        by_device: dict[str, dict[str, Stored]] = {}
        for ref, value in values.items():
            by_device.setdefault(device_of_setting(ref), {})[ref] = value
        unknown = set(by_device) - lookup.ids_of(plan.devices)
        if unknown:
            raise EditError(
                say("There is no device “{unknown}” in this plan.", unknown=min(unknown))
            )
        devices = tuple(
            with_settings(device, by_device[device.id]) if device.id in by_device else device
            for device in plan.devices
        )
        return msgspec.structs.replace(plan, devices=devices)

    return Edit(label, apply)


def set_field(owner: Owner, field: Field, value: Any) -> Edit:
    """Give one thing another value of the plan; what sends nothing yet begins to.

    Raises EditError where the thing is gone or cannot take the value.
    """
    name = field.asked_on(owner)

    def change(device: Device) -> Device:
        for here in owners(device):
            if here.place == owner.place and here.alone == owner.alone:
                return _with_owners(device, _new_thing(here, field.changes(here, value)))
        if owner.kind != "send":
            raise EditError(
                say("That is not in {device} any more: choose something else.", device=device.name)
            )
        return _with_send(device, owner, field.changes(owner, value))

    return edit_device(
        owner.device.id, say("Change {name}{what}", name=name[0].lower(), what=name[1:]), change
    )


def _new_thing(owner: Owner, changes: Mapping[str, Any]) -> New:
    if owner.kind == "passed on":
        return {owner.own_name: owner.thing._replace(**changes)}
    return {owner.own_name: changed(owner.thing, **changes)}


def _with_send(device: Device, owner: Owner, changes: Mapping[str, Any]) -> Device:
    """A device in which a control begins to send in a program."""
    if owner.program is None:
        return device
    wanted = owner.program.id
    programs = tuple(
        changed(program, sends=(*program.sends, changed(owner.thing, **changes)))
        if program.id == wanted
        else program
        for program in device.programs
    )
    return changed(device, programs=programs)


def with_settings(device: Device, values: Mapping[str, Stored]) -> Device:
    """A device with some settings put in place.  Raises EditError for a reference to nothing."""
    left = dict(values)
    new: New = {}
    for owner in owners(device):
        changes = _changes_of(owner, left)
        if changes:
            new |= _new_thing(owner, changes)
    if left:
        raise EditError(say("There is no setting “{left}” in this plan.", left=min(left)))
    return _with_owners(device, new)


def _changes_of(owner: Owner, left: dict[str, Stored]) -> dict[str, Any]:
    """What changes in an owner; the values that are used are taken out of those that are left."""
    changes: dict[str, Any] = {}
    for field in fields_for(owner.kind):
        value = left.get(owner.ref(field.id))
        if value is None or not field.is_dialled:
            continue
        del left[owner.ref(field.id)]
        if value != field.read(owner):
            changes |= field.changes(owner, field.values.held(owner, value))
    return changes


def _with_owners(device: Device, new: New) -> Device:
    """A device with some of its things put in place of the old ones."""
    if not new:
        return device
    renewed: Device = new.get(device_owner(device).own_name, device)
    return changed(
        renewed,
        switches=_put_in(renewed.switches, partial(switch_owner, device), new),
        thrus=_with_thrus(renewed, new),
        console=_with_console(renewed, renewed.console, new) if renewed.console else None,
        inputs=_put_in(renewed.inputs, partial(input_owner, device), new),
        jacks=_put_in(renewed.jacks, partial(jack_owner, device), new),
        programs=tuple(_with_program(device, program, new) for program in renewed.programs),
        parts=_put_in(renewed.parts, partial(part_owner, device), new),
        routes=_put_in(renewed.routes, partial(route_owner, device), new),
        targets=_put_in(renewed.targets, partial(target_owner, device), new),
        kits=tuple(_with_sounds(device, kit, new) for kit in renewed.kits),
    )


def _put_in(items: Iterable[V], owner_of: Callable[[V], Owner], new: New) -> tuple[V, ...]:
    """Things, with the changed ones put in place of the old."""
    items_now = []
    for item in items:
        items_now.append(new.get(owner_of(item).own_name, item))
    return tuple(items_now)


def _with_thrus(device: Device, new: New) -> tuple[Thru, ...]:
    place = owner_place(device.id, "device", "thru")
    wanted = {}
    for ref, passed in new.items():
        if ref.startswith(f"{place}/"):
            wanted[ref] = passed
    if not wanted:
        return device.thrus
    thrus = {}
    for thru in device.thrus:
        thrus[(thru.source, thru.dest)] = thru
    for passed in wanted.values():
        ends = (passed.source.id, passed.dest.id)
        thrus.pop(ends, None)
        if passed.on:
            thrus[ends] = Thru(source=ends[0], dest=ends[1])
    return tuple(thrus.values())


def _with_console(device: Device, console: Console, new: New) -> Console:
    return changed(
        console,
        encoder=new.get(encoder_owner(device).own_name, console.encoder),
        blocks=_put_in(console.blocks, partial(block_owner, device), new),
        shoes=_put_in(console.shoes, partial(shoe_owner, device), new),
    )


def _with_program(device: Device, old: Program, new: New) -> Program:
    program: Program = new.get(program_owner(device, old).own_name, old)
    return changed(
        program,
        zones=_put_in(program.zones, partial(zone_owner, device, old), new),
        sends=_put_in(program.sends, partial(send_owner, device, old, control=None), new),
        kits=_put_in(program.kits, partial(choice_owner, device, old), new),
    )


def _with_sounds(device: Device, kit: Kit, new: New) -> Kit:
    return changed(kit, sounds=_put_in(kit.sounds, partial(sound_owner, device, kit), new))
