"""Parameters known only by their number, named as they are found."""

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_device, set_thing
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup


def name_number(owner: Device, number: int, words: str) -> Edit:
    """Say what a controller 0–119 moves in a device; nothing takes the number from it.

    A new name makes a target on the channel of the device’s other targets, on any without some.
    Raises EditError for a name that is too long.
    """
    name = words.strip()
    if len(name) > 80:
        raise EditError(f"“{name[:20]}…” is too long a name: use at most 80 letters.")
    label = f"Name controller {number}"
    for target in owner.targets:
        if (target.controller, target.answers) == (number, "controller"):
            where = (owner.id, "targets", target.id, "target")
            if name:
                return set_thing(*where, label, name=name)
            return set_thing(*where, f"Take controller {number} back", controller=None)
    if not name:
        return Edit(f"Leave controller {number}", lambda plan: plan)
    target = _new_target(owner, number, name)
    return edit_device(owner.id, label, lambda d: changed(d, targets=(*d.targets, target)))


def _new_target(owner: Device, number: int, name: str) -> Target:
    channel = next((target.channel for target in owner.targets if target.part is None), None)
    ident = lookup.free_id(lookup.ids_of(owner.targets), name)
    return Target(id=ident, name=name, channel=channel, controller=number)
