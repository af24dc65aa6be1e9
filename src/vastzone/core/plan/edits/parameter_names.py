"""Parameters known only by their number, named as they are found."""

from collections.abc import Sequence

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_device, set_thing
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many

LAST = 119
"""Above it are channel modes (MIDI 1.0)."""


def name_number(
    owner: Device, number: int, words: str, part: str | None = None, channel: int | None = None
) -> Edit:
    """Say what a controller 0–119 moves in a device; nothing takes the number from it.

    A new name makes a target of a ``part``, else on ``channel``; without both on the channel of the
    device’s other targets, on any without some.  Raises EditError for a name that is too long.
    """
    name = words.strip()
    if len(name) > 80:
        raise EditError(
            say("“{name}…” is too long a name: use at most 80 letters.", name=name[:20])
        )
    label = say("Name controller {number}", number=number)
    for target in owner.targets:
        if (target.controller, target.answers) == (number, "controller"):
            where = (owner.id, "targets", target.id, "target")
            if name:
                return set_thing(*where, label, name=name)
            return set_thing(
                *where, say("Take controller {number} back", number=number), controller=None
            )
    if not name:
        return Edit(say("Leave controller {number}", number=number), lambda plan: plan)
    target = _new_target(owner, number, name, part, channel)
    return edit_device(owner.id, label, lambda d: changed(d, targets=(*d.targets, target)))


def _new_target(
    owner: Device, number: int, name: str, part: str | None, channel: int | None
) -> Target:
    if part is None and channel is None:
        channel = next((target.channel for target in owner.targets if target.part is None), None)
    taken = lookup.ids_of(owner.targets) | lookup.ids_of(owner.parts)
    ident = lookup.free_id(taken, name)
    heard = None if part is not None else channel
    return Target(id=ident, name=name, part=part, channel=heard, controller=number)


def name_numbers(
    owner: Device,
    numbers: Sequence[int],
    pattern: str,
    part: str | None = None,
    channel: int | None = None,
) -> Edit:
    """Name many controllers 0–119 in one go, the gaps between them kept; named ones stay.

    ``pattern`` has «{n}» for the controller, or names between strokes, one after another.  Raises
    EditError where there are too few names, or none of the numbers is free.
    """
    given = [name.strip() for name in pattern.split("/") if name.strip()]
    known = {target.controller for target in owner.targets if target.answers == "controller"}
    free = [number for number in numbers if number not in known]
    if not free or not given:
        raise EditError(
            say("Give numbers that are not named yet, such as 70–77, and a name for them.")
        )
    if any(number > LAST for number in free):
        raise EditError(
            say("Controllers for targets end at {last}: leave the higher ones out.", last=LAST)
        )
    if 1 < len(given) < len(free):
        raise EditError(
            say(
                "{count} numbers want {count} names, and {given} are given.",
                count=len(free),
                given=len(given),
            )
        )

    def change(device: Device) -> Device:
        for place, number in enumerate(free):
            name = given[place] if len(given) > 1 else _by_number(given[0], number, len(free))
            target = _new_target(device, number, name, part, channel)
            device = changed(device, targets=(*device.targets, target))
        return device

    return edit_device(
        owner.id,
        say(
            "Name {controllers}",
            controllers=say_many("{count} controller", "{count} controllers", len(free)),
        ),
        change,
    )


def _by_number(pattern: str, number: int, how_many: int) -> str:
    if "{n}" in pattern:
        return pattern.replace("{n}", str(number))
    return pattern if how_many == 1 else f"{pattern} {number}"
