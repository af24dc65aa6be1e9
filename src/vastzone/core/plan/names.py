"""Parameters known only by their number, named as they are found."""

from vastzone.core.errors import EditError
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device
from vastzone.core.plan.sound import Target


def name_number(owner: Device, number: int, words: str) -> Edit:
    """Say what a controller 0–119 moves in a device; nothing takes the number from it.

    A new name makes a target on the channel of the device’s other targets, on any without some.
    Raises EditError for a name that is too long.
    """
    name = words.strip()
    if len(name) > 80:
        raise EditError(f"“{name[:20]}…” is too long a name: use at most 80 letters.")
    held = [t for t in owner.targets if (t.controller, t.answers) == (number, "controller")]
    if held and not name:
        return edits.set_thing(
            owner.id,
            "targets",
            held[0].id,
            "target",
            f"Take controller {number} back",
            controller=None,
        )
    if held:
        return edits.set_thing(
            owner.id, "targets", held[0].id, "target", f"Name controller {number}", name=name
        )
    if not name:
        return Edit(f"Leave controller {number}", lambda plan: plan)
    channel = next((t.channel for t in owner.targets if t.part is None), None)
    ident = lookup.free_id((t.id for t in owner.targets), name)
    target = Target(id=ident, name=name, channel=channel, controller=number)
    return edits.edit_device(
        owner.id,
        f"Name controller {number}",
        lambda d: edits.changed(d, targets=(*d.targets, target)),
    )
