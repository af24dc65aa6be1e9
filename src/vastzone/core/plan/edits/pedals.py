"""Edits of pedals and their plugs."""

from collections.abc import Callable, Mapping

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, add_item, set_item, set_thing
from vastzone.core.plan.edits.functions import told_as_wished
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.pedals import FootWish, Pedal, PedalJack, PedalPlug, meeting, suited
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.mixed import may_share, shared_plugs
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say, say_many


def pedal_jack(plan: Plan, ref: str) -> tuple[Device, PedalJack]:
    """The device and jack of ``device:jack``.  Raises EditError."""
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    return owner, lookup.by_id(owner.jacks, ident, say("jack of {owner} called", owner=owner.name))


def plug_in(plan: Plan, pedal: str, ref: str) -> Edit:
    """Put a pedal into a jack; what was in it is pulled out, unless both may share it.

    Sources of voltage share a jack by a mixing lead.  Raises EditError where it must never be
    connected.
    """
    known = lookup.by_id(plan.pedals, pedal, "pedal")
    owner, jack = pedal_jack(plan, ref)
    met = meeting(known, jack)
    if met.works == "never":
        raise EditError(
            say(
                "{known} must not go into {jack} of {owner}: {feel}. Bring its voltage down first.",
                known=known.name,
                jack=jack.name,
                owner=owner.name,
                feel=met.feel,
            )
        )

    def apply(old: Plan) -> Plan:
        pedals, kept = lookup.by_ids(old.pedals), []
        for plug in old.pedal_plugs:
            shares = may_share((pedals[plug.pedal], pedals[pedal]), jack)
            if plug.pedal != pedal and (plug.jack != ref or shares):
                kept.append(plug)
        new = PedalPlug(pedal=pedal, jack=ref)
        return msgspec.structs.replace(old, pedal_plugs=(*kept, new))

    return Edit(say("Plug {known} in", known=known.name), apply)


def pull_out(pedal: str) -> Edit:
    """Take a pedal out of its jack."""
    return Edit(
        say("Pull plug"),
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
        say("Remove pedal"),
        lambda plan: msgspec.structs.replace(
            plan,
            pedals=tuple(p for p in plan.pedals if p.id != pedal),
            pedal_plugs=tuple(plug for plug in plan.pedal_plugs if plug.pedal != pedal),
        ),
    )


def _edit_pedal(pedal: str, label: str, change: Callable[[Pedal], Pedal]) -> Edit:
    def apply(plan: Plan) -> Plan:
        old = lookup.by_id(plan.pedals, pedal, "pedal")
        return msgspec.structs.replace(plan, pedals=swapped(plan.pedals, old, change(old)))

    return Edit(label, apply)


def wish_also(pedal: str, wish: FootWish) -> Edit:
    """Want one thing more of a pedal."""

    def change(old: Pedal) -> Pedal:
        return changed(old, also=(*old.also, wish))

    return _edit_pedal(pedal, say("Want one thing more of a pedal"), change)


def set_wish(pedal: str, place: int, label: str, **changes: object) -> Edit:
    """Change one wish of a pedal: its first at 0, the others after it.  Raises EditError."""

    def change(old: Pedal) -> Pedal:
        wishes = list(old.wishes)
        if place >= len(wishes):
            count = say_many("{count} wish", "{count} wishes", len(wishes))
            raise EditError(
                say("{old} has {count}: choose one of them.", old=old.name, count=count)
            )
        wishes[place] = changed(wishes[place], **changes)
        return with_wishes(old, tuple(wishes))

    return _edit_pedal(pedal, label, change)


def drop_wish(pedal: str, place: int) -> Edit:
    """Take one wish of a pedal away; the only one stays.  Raises EditError."""

    def change(old: Pedal) -> Pedal:
        wishes = list(old.wishes)
        if place >= len(wishes) or len(wishes) == 1:
            raise EditError(
                say(
                    "{old} is wanted for one thing only: change that, or remove the pedal.",
                    old=old.name,
                )
            )
        del wishes[place]
        return with_wishes(old, tuple(wishes))

    return _edit_pedal(pedal, say("Want one thing less of a pedal"), change)


def with_wishes(pedal: Pedal, wishes: tuple[FootWish, ...]) -> Pedal:
    """A pedal with other wishes, at least one."""
    first = wishes[0]
    return changed(
        pedal,
        function=first.function,
        importance=first.importance,
        device=first.device,
        tied=first.tied,
        also=wishes[1:],
    )


def take_over(
    plugs: tuple[PedalPlug, ...], given: Mapping[str, tuple[FootWish, ...]] | None = None
) -> Edit:
    """A whole plugging as one step, each jack set to its pedal and told what is wished of it.

    ``given`` are the pedals that get other wishes, with these.  Sources that share a jack stay.
    """

    def apply(plan: Plan) -> Plan:
        pedals = []
        for pedal in plan.pedals:
            wishes = (given or {}).get(pedal.id)
            pedals.append(pedal if wishes is None else with_wishes(pedal, wishes))
        plan = msgspec.structs.replace(plan, pedals=tuple(pedals))
        known = lookup.by_ids(plan.pedals)
        for plug in plugs:
            owner, jack = pedal_jack(plan, plug.jack)
            new = suited(known[plug.pedal], jack)
            if new is not jack:
                plan = set_jack(plug.jack, "", sense=new.sense, wiper=new.wiper).change(plan)
            plan = told_as_wished(plan, owner, jack, known[plug.pedal])
        moved = {plug.pedal for plug in plugs}
        shared = [plug for plug in shared_plugs(plan) if plug.pedal not in moved]
        return msgspec.structs.replace(plan, pedal_plugs=(*plugs, *shared))

    return Edit(say("Fit pedals to jacks"), apply)
