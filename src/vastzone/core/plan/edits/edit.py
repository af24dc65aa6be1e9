"""What an edit is: a name for the undo list and a pure function from plan to plan.

Every edit that comes out of here is checked, so a plan never holds a number out of range or a
reference to nothing; what would break that raises EditError and changes nothing.
"""

from collections.abc import Callable
from typing import Any, NamedTuple

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.model.checked import V, changed, swapped
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.consistency import problems
from vastzone.core.say import say


class Edit(NamedTuple):
    """One undo step: what it is called and what it does.

    Devices that it adds ``out_of_the_box`` hold what they left the factory with; of any others that
    it adds it is not known what they hold.
    """

    label: str
    change: Callable[[Plan], Plan]
    out_of_the_box: bool = False

    def __call__(self, plan: Plan) -> Plan:
        """The changed plan, checked.  Raises EditError and leaves the old plan as it was."""
        changed = self.change(plan)
        if changed is not plan:
            for problem in problems(changed):
                raise EditError(problem)
        return changed


def with_device(plan: Plan, old: Device, new: Device) -> Plan:
    """The plan with a device in place of another."""
    return msgspec.structs.replace(plan, devices=swapped(plan.devices, old, new))


def edit_device(device: str, label: str, change: Callable[[Device], Device]) -> Edit:
    """An edit of one device."""

    def apply(plan: Plan) -> Plan:
        old = lookup.device(plan, device)
        new = change(old)
        return plan if new is old else with_device(plan, old, new)

    return Edit(label, apply)


def edit_program(
    device: str, number: int, label: str, change: Callable[[Program, Device], Program]
) -> Edit:
    """An edit of one program of a device."""

    def inside(owner: Device) -> Device:
        old = lookup.program(owner, number)
        return changed(owner, programs=swapped(owner.programs, old, change(old, owner)))

    return edit_device(device, label, inside)


def set_plan(label: str, **changes: Any) -> Edit:
    """Change fields of the plan itself, such as its name."""
    return Edit(label, lambda plan: changed(plan, **changes))


def set_item(group: str, ident: str, what: str, label: str, **changes: Any) -> Edit:
    """Change fields of one item of a plan’s list ``held``.  Raises EditError for none such."""
    return Edit(label, lambda plan: _with_item(plan, group, ident, what, changes))


def add_item(group: str, item: Any) -> Edit:
    """Add an item to a plan’s list ``held``, under an id of its own."""

    def apply(plan: Plan) -> Plan:
        items = getattr(plan, group)
        new = changed(item, id=lookup.free_id(lookup.ids_of(items), item.id))
        return msgspec.structs.replace(plan, **{group: (*items, new)})

    return Edit(say("Add {item}", item=item.name), apply)


def set_thing(device: str, group: str, ident: str, what: str, label: str, **changes: Any) -> Edit:
    """Change fields of one item of a device’s list ``held``.  Raises EditError for none such."""
    return edit_device(
        device,
        label,
        lambda owner: _with_item(
            owner,
            group,
            ident,
            say("{what} of {owner} called", what=say(what), owner=owner.name),
            changes,
        ),
    )


def _with_item(value: V, group: str, ident: str, what: str, changes: dict[str, Any]) -> V:
    items = getattr(value, group)
    old = lookup.by_id(items, ident, what)
    return changed(value, **{group: swapped(items, old, changed(old, **changes))})
