"""The marks of one cause, and what its tellers share."""

from typing import NamedTuple

from vastzone.core.plan import lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import device_of_setting, read_ref
from vastzone.core.plan.settings import device_dials, set_numbers
from vastzone.core.plan.sound import Part
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
    for owner in {device_of_setting(ref) for ref in values}:
        dials = device_dials(lookup.device(plan, owner))
        slots = {d.slot: values[d.ref] for d in dials if d.ref in values}
        wanted |= {d.ref: slots[d.slot] for d in dials if d.slot in slots}
    return set_numbers(wanted, label)


def part_of(plan: Plan, ref: str) -> tuple[Device, Part]:
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    return owner, lookup.part(owner, ident)
