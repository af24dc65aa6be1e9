"""A plan as it is while stops are drawn: what couples is on, everything else as it was."""

from vastzone.core.cache import derived
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.refs import ref_to


@derived(256)
def with_drawn(plan: Plan, drawn: frozenset[str]) -> Plan:
    """The plan with couplers on whose stop or target, as ``device:thing``, is among those drawn."""
    if not drawn:
        return plan
    devices = tuple(_device(device, drawn) for device in plan.devices)
    return changed(plan, devices=devices)


@derived(1024)
def _device(device: Device, drawn: frozenset[str]) -> Device:
    couplers = []
    for one in device.couplers:
        on = one.target is not None and ref_to(device.id, one.target) in drawn
        couplers.append(changed(one, on=True) if on else one)
    programs = tuple(_program(device.id, program, drawn) for program in device.programs)
    if tuple(couplers) == device.couplers and programs == device.programs:
        return device
    return changed(device, couplers=tuple(couplers), programs=programs)


def _program(device: str, program: Program, drawn: frozenset[str]) -> Program:
    zones = []
    for zone in program.zones:
        pulled = zone.drawn_by is not None and ref_to(device, zone.drawn_by) in drawn
        zones.append(changed(zone, drawn_by=None) if pulled else zone)
    if all(new is old for new, old in zip(zones, program.zones, strict=True)):
        return program
    return changed(program, zones=tuple(zones))
