"""What a device is set to, made to fit what it has become: zones on keys, sends in banks."""

from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.organ import tidy_device


def fitted(before: Device, after: Device) -> Device:
    """A device without zones beyond its keys and sends beyond its banks.

    A zone over all keys of a keybed stays over all of them.
    """
    if before.keybeds is after.keybeds and before.controls is after.controls:
        return after
    programs = tuple(_fitting(before, after, program) for program in after.programs)
    return tidy_device(changed(after, programs=programs))


def _fitting(before: Device, after: Device, program: Program) -> Program:
    beds_before, beds = lookup.by_ids(before.keybeds), lookup.by_ids(after.keybeds)
    zones = []
    for zone in program.zones:
        bed = beds.get(zone.keybed)
        fitting = None if bed is None else _on_keys(zone, beds_before.get(zone.keybed), bed)
        if fitting is not None:
            zones.append(fitting)
    controls = lookup.controls_by_id(after)
    sends = []
    for send in program.sends:
        control = controls.get(send.control)
        if control is not None and send.bank <= control.banks:
            sends.append(send)
    return changed(program, zones=tuple(zones), sends=tuple(sends))


def _on_keys(zone: Zone, before: Keybed | None, bed: Keybed) -> Zone | None:
    if before is not None and (zone.low, zone.high) == (before.low, before.high):
        return changed(zone, low=bed.low, high=bed.high)
    low, high = max(zone.low, bed.low), min(zone.high, bed.high)
    return changed(zone, low=low, high=high) if low <= high else None
