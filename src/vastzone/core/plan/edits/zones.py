"""Edits of the zones of a keybed."""

from typing import Any

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_program
from vastzone.core.plan.fields.dials import scope_of
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.controls import Program, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say


def set_zone(device: str, program: int, zone: str, label: str, **changes: Any) -> Edit:
    """Change fields of a zone: its ends, channel, shifts, velocities, whether it is on."""

    def change(program: Program, owner: Device) -> Program:
        old = lookup.by_id(program.zones, zone, "zone")
        return changed(program, zones=swapped(program.zones, old, changed(old, **changes)))

    return edit_program(device, program, label, change)


def split_zone(device: str, program: int, zone: str, key: int) -> Edit:
    """Cut a zone in two so that the upper half begins on ``key``.

    Raises EditError when the key is not inside the zone.
    """

    def change(program: Program, owner: Device) -> Program:
        old = lookup.by_id(program.zones, zone, "zone")
        if not old.low < key <= old.high:
            raise EditError(
                say("{old} cannot be split there: choose a key inside it.", old=old.name)
            )
        upper = changed(
            old,
            id=lookup.free_id(lookup.ids_of(program.zones), f"{old.id}-upper"),
            name=say("{old} upper", old=old.name)[:80],
            low=key,
        )
        return changed(
            program, zones=swapped(program.zones, old, changed(old, high=key - 1), upper)
        )

    return edit_program(device, program, say("Split zone"), change)


def layer_zone(device: str, program: int, zone: str) -> Edit:
    """Lay a copy over a zone, both marked as a layer, on the next channel.

    A device with one channel for all its zones has no next one.
    """

    def change(program: Program, owner: Device) -> Program:
        old = lookup.by_id(program.zones, zone, "zone")
        used = set()
        for z in program.zones:
            used.add(z.channel)
        one_for_all = scope_of(owner, "zone-channel") in ("global", "program", "bank")
        free = [channel for channel in range(1, 17) if channel not in used]
        channel = free[0] if free and not one_for_all else old.channel
        copy = changed(
            old,
            id=lookup.free_id(lookup.ids_of(program.zones), f"{old.id}-layer"),
            name=say("{old} layer", old=old.name)[:80],
            channel=channel,
            layer=True,
        )
        return changed(program, zones=swapped(program.zones, old, changed(old, layer=True), copy))

    return edit_program(device, program, say("Layer zone"), change)


def add_zone(device: str, program: int, zone: Zone) -> Edit:
    """Add a zone to a program."""
    return edit_program(
        device, program, say("Add zone"), lambda held, _: changed(held, zones=(*held.zones, zone))
    )


def remove_zone(device: str, program: int, zone: str) -> Edit:
    """Take a zone out of a program."""

    def change(program: Program, owner: Device) -> Program:
        old = lookup.by_id(program.zones, zone, "zone")
        return changed(program, zones=swapped(program.zones, old))

    return edit_program(device, program, say("Remove zone"), change)


def move_edge(device: str, program: int, zone: str, side: str, key: int) -> Edit:
    """Move the ``low`` or ``high`` end of a zone, within its keybed and short of its other end."""

    def change(program: Program, owner: Device) -> Program:
        old = lookup.by_id(program.zones, zone, "zone")
        bed = lookup.keybed(owner, old.keybed)
        if side == "low":
            new = changed(old, low=max(bed.low, min(key, old.high)))
        else:
            new = changed(old, high=min(bed.high, max(key, old.low)))
        return changed(program, zones=swapped(program.zones, old, new))

    return edit_program(device, program, say("Move zone end"), change)
