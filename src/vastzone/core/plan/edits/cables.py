"""Edits of cables, and why no cable can join two ports."""

from collections.abc import Iterator
from typing import Any

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.plan import Cable, Device, Plan, Port
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say

LINKS = {"din": "DIN", "usb": "USB", "bluetooth": "Bluetooth"}


def add_cable(source: str, dest: str) -> Edit:
    """Connect two ports."""

    def apply(plan: Plan) -> Plan:
        return msgspec.structs.replace(plan, cables=(*plan.cables, Cable(source=source, dest=dest)))

    return Edit(say("Connect cable"), apply)


def remove_cable(cable: Cable) -> Edit:
    """Pull a cable out."""
    return Edit(
        say("Remove cable"),
        lambda plan: msgspec.structs.replace(
            plan, cables=tuple(c for c in plan.cables if c != cable)
        ),
    )


def set_cable(cable: Cable, label: str, **changes: Any) -> Edit:
    """Change a cable: whether it is crossed, and how long it is."""

    def apply(plan: Plan) -> Plan:
        if cable not in plan.cables:
            raise EditError(say("That cable is not there any more: choose another."))
        new = changed(cable, **changes)
        return msgspec.structs.replace(plan, cables=swapped(plan.cables, cable, new))

    return Edit(label, apply)


def refusal(plan: Plan, one: str, other: str) -> str:
    """Why no cable can join two ports ``device:port``; nothing when one can."""
    ends = (lookup.endpoint(plan, one), lookup.endpoint(plan, other))
    return next(_reasons(plan, *ends), "")


def _reasons(plan: Plan, one: tuple[Device, Port], other: tuple[Device, Port]) -> Iterator[str]:
    (here, a), (there, b) = one, other
    if here is there:
        yield say("Both ends are at {here}: a cable joins two devices.", here=here.name)
        return
    names = say(
        "{a} of {here} and {b} of {there}", a=a.name, here=here.name, b=b.name, there=there.name
    )
    if a.flow == b.flow != "both":
        if a.flow == "out":
            yield say("{names} are both outputs: join an output to an input.", names=names)
        else:
            yield say("{names} are both inputs: join an output to an input.", names=names)
    if a.link != b.link:
        yield (
            say(
                "{names} are of different kinds, {links} and {links_b}: put a computer or an "
                "interface between them.",
                names=names,
                links=LINKS[a.link],
                links_b=LINKS[b.link],
            )
        )
    host = hosts(here, a) or hosts(there, b)
    if a.link == "usb" and not host:
        yield say(
            "{names} are both USB devices: each needs a computer at the other end.", names=names
        )
    yield from _taken(plan, here, a)
    yield from _taken(plan, there, b)


def hosts(device: Device, port: Port) -> bool:
    """Whether a USB port is one that devices are put into: of a computer, or of a hub.

    The first port of a hub leads to the computer.
    """
    if device_ability(device).usb_host:
        return True
    return is_hub(device) and port.id != device.ports[0].id


def is_hub(device: Device) -> bool:
    """Whether a device is nothing but USB ports, one to a computer and several for devices."""
    joins = device_ability(device).only_joins and len(device.ports) > 2
    return joins and all(port.link == "usb" for port in device.ports)


def _taken(plan: Plan, owner: Device, port: Port) -> Iterator[str]:
    """A socket holds one plug; radio links hold as many as they like."""
    if port.link == "bluetooth":
        return
    ref = ref_to(owner.id, port.id)
    if any(ref in (cable.source, cable.dest) for cable in plan.cables):
        mend = say("use a thru or a second output") if port.flow == "out" else say("use a merger")
        yield say(
            "{port} of {owner} has a cable already: {mend}, or pull that cable first.",
            port=port.name,
            owner=owner.name,
            mend=mend,
        )


def connect(plan: Plan, one: str, other: str) -> Edit:
    """The edit that joins two ports, from output to input.  Raises EditError when it cannot be."""
    why = refusal(plan, one, other)
    if why:
        raise EditError(why)
    ports = []
    for ref in (one, other):
        ports.append(lookup.endpoint(plan, ref)[1])
    back = ports[0].flow == "in" or ports[1].flow == "out"
    return add_cable(other, one) if back else add_cable(one, other)
