"""Edits of pedals and their plugs."""

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, add_item, set_item, set_thing
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug, meeting, suited
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref


def pedal_jack(plan: Plan, ref: str) -> tuple[Device, PedalJack]:
    """The device and jack of ``device:jack``.  Raises EditError."""
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    return owner, lookup.by_id(owner.jacks, ident, f"jack of {owner.name} called")


def plug_in(plan: Plan, pedal: str, ref: str) -> Edit:
    """Put a pedal into a jack; what was in it is pulled out.

    Raises EditError where it must never be connected.
    """
    known = lookup.by_id(plan.pedals, pedal, "pedal")
    owner, jack = pedal_jack(plan, ref)
    met = meeting(known, jack)
    if met.works == "never":
        raise EditError(
            f"{known.name} must not go into {jack.name} of {owner.name}: {met.feel}. Bring its "
            "voltage down first."
        )

    def apply(old: Plan) -> Plan:
        kept = tuple(plug for plug in old.pedal_plugs if pedal != plug.pedal and ref != plug.jack)
        return msgspec.structs.replace(old, pedal_plugs=(*kept, PedalPlug(pedal=pedal, jack=ref)))

    return Edit(f"Plug {known.name} in", apply)


def pull_out(pedal: str) -> Edit:
    """Take a pedal out of its jack."""
    return Edit(
        "Pull plug",
        lambda plan: msgspec.structs.replace(
            plan, pedal_plugs=tuple(plug for plug in plan.pedal_plugs if plug.pedal != pedal)
        ),
    )


def set_pedal(pedal: str, label: str, **changes: object) -> Edit:
    """Change fields of a pedal."""

    return set_item("pedals", pedal, "pedal", label, **changes)


def set_jack(ref: str, label: str, **changes: object) -> Edit:
    """Change fields of a jack: the sense or the wiper that it is set to."""
    device, ident = read_ref(ref)
    return set_thing(device, "jacks", ident, "jack", label, **changes)


def add_pedal(pedal: Pedal) -> Edit:
    """Add a pedal, under an id of its own."""
    return add_item("pedals", pedal)


def remove_pedal(pedal: str) -> Edit:
    """Take a pedal away, its plug with it."""
    return Edit(
        "Remove pedal",
        lambda plan: msgspec.structs.replace(
            plan,
            pedals=tuple(p for p in plan.pedals if p.id != pedal),
            pedal_plugs=tuple(plug for plug in plan.pedal_plugs if plug.pedal != pedal),
        ),
    )


def take_over(plugs: tuple[PedalPlug, ...]) -> Edit:
    """A whole plugging as one step, each jack set to its pedal as far as it can be."""

    def apply(plan: Plan) -> Plan:
        known = lookup.by_ids(plan.pedals)
        for plug in plugs:
            _, jack = pedal_jack(plan, plug.jack)
            new = suited(known[plug.pedal], jack)
            if new is not jack:
                plan = set_jack(plug.jack, "", sense=new.sense, wiper=new.wiper).change(plan)
        return msgspec.structs.replace(plan, pedal_plugs=plugs)

    return Edit("Fit pedals to jacks", apply)
