"""The marks of one cause, and what its tellers share."""

from typing import NamedTuple

from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields.dials import device_dials, shares_settings
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of_setting, read_ref
from vastzone.core.proof.verdict import Mark


class Group(NamedTuple):
    """The marks of one cause with their scenes, and the programs it was met in."""

    kind: str
    about: tuple[str, ...]
    marks: list[tuple[str, Mark]]
    programs: list[int]


def numbers_edit(plan: Plan, values: dict[str, int], label: str) -> Edit:
    """Set numbers together with those that are one number with them in the device."""
    wanted = dict(values)
    for ident in {device_of_setting(ref) for ref in values}:
        owner = lookup.device(plan, ident)
        if not shares_settings(owner):
            continue
        dials = device_dials(owner)
        slots = {}
        for dial in dials:
            if dial.ref in values:
                slots[dial.slot] = values[dial.ref]
        wanted |= {dial.ref: slots[dial.slot] for dial in dials if dial.slot in slots}
    return set_numbers(wanted, label)


def part_of(plan: Plan, ref: str) -> tuple[Device, Part]:
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    return owner, lookup.part(owner, ident)
