"""Locks: numbers that stay as they are while others are worked out, and whose they are."""

from collections.abc import Iterable
from typing import Literal, NamedTuple

import msgspec

from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.fields.dials import open_dials, records
from vastzone.core.plan.fields.owners import OwnerKind
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import SettingRecord
from vastzone.core.plan.refs import device_of_setting, place_of_setting
from vastzone.core.say import say, say_many

Held = Literal["locked", "free"]


def lock(ref: str, hold: Held = "locked", by: str = "") -> Edit:
    """Lock a number as it is, or free it again; ``by`` are the initials of who does."""
    return lock_all((ref,), hold, by)


def lock_all(refs: Iterable[str], hold: Held = "locked", by: str = "") -> Edit:
    """Lock numbers as they are, or free them again, as one step."""
    wanted = tuple(dict.fromkeys(refs))

    def apply(plan: Plan) -> Plan:
        by_ref = dict(records(plan))
        for ref in wanted:
            old = by_ref.get(ref) or SettingRecord(ref=ref)
            by_ref[ref] = changed(old, hold=hold, by=by if hold == "locked" else "")
        kept = tuple(by_ref[ref] for ref in sorted(by_ref))
        return msgspec.structs.replace(plan, settings=kept)

    what = (
        "number" if len(wanted) == 1 else say_many("{count} number", "{count} numbers", len(wanted))
    )
    return Edit(
        (say("Lock {what}", what=what) if hold == "locked" else say("Free {what}", what=what)),
        apply,
    )


THINGS: dict[OwnerKind, str] = {"send": "control"}
"""What things are called that are no owners to a musician."""


class Locking(NamedTuple):
    """Numbers that are locked or freed together, and what they are called."""

    name: str
    refs: tuple[str, ...]


def lockings(plan: Plan, ref: str) -> tuple[Locking, ...]:
    """What can be locked with a number: all of its thing, of its kind in its device, all of both.

    Nothing for a setting that is not worked out.
    """
    there = open_dials(plan)
    dial = there.get(ref)
    if dial is None:
        return ()
    device, place = dial.owner.device, place_of_setting(ref)
    of_thing, of_kind, of_device, everywhere = [], [], [], []
    for other, beside in there.items():
        alike = beside.field.full_name == dial.field.full_name
        inside = device_of_setting(other) == device.id
        if place_of_setting(other) == place:
            of_thing.append(other)
        if inside:
            of_device.append(other)
        if alike:
            everywhere.append(other)
            if inside:
                of_kind.append(other)
    thing = THINGS.get(dial.owner.kind, dial.owner.kind)
    kind = say("the {field} of every {thing}", field=dial.field.name.lower(), thing=thing)
    found = (
        Locking(say("all numbers of this {thing}", thing=thing), tuple(of_thing)),
        Locking(say("{kind} of {device}", kind=kind, device=device.name), tuple(of_kind)),
        Locking(say("all numbers of {device}", device=device.name), tuple(of_device)),
        Locking(say("{kind} in the plan", kind=kind), tuple(everywhere)),
    )
    return tuple(locking for locking in found if len(locking.refs) > 1)
