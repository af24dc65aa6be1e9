"""Edits of power sources, places on the stage, and what is packed."""

from collections.abc import Iterable
from typing import Any

import msgspec

from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import Edit, set_item, set_plan
from vastzone.core.plan.model.bodies import PackedTick, Place, PowerSource
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say


def add_source(source: PowerSource) -> Edit:
    """Add a brick, strip, charger or battery; what it feeds is fed by it alone."""

    def apply(plan: Plan) -> Plan:
        taken = lookup.ids_of(plan.power) | lookup.ids_of(plan.devices)
        new = changed(source, id=lookup.free_id(taken, source.id))
        sources = (*_without(plan, new.feeds), new)
        return msgspec.structs.replace(plan, power=sources)

    return Edit(say("Add {source}", source=source.name), apply)


def set_source(ident: str, label: str, **changes: Any) -> Edit:
    """Change a power source."""
    return set_item("power", ident, say("power source"), label, **changes)


def remove_source(ident: str) -> Edit:
    """Take a power source out."""

    def apply(plan: Plan) -> Plan:
        left = tuple(source for source in _without(plan, (ident,)) if source.id != ident)
        return msgspec.structs.replace(plan, power=left)

    return Edit(say("Remove power source"), apply)


def feed(source: str, fed: Iterable[str]) -> Edit:
    """Hang devices, or sources, on a source and nothing else; on nothing where it is empty."""
    wanted = tuple(fed)

    def apply(plan: Plan) -> Plan:
        sources = []
        for one in _without(plan, wanted):
            more = (*one.feeds, *wanted) if one.id == source else one.feeds
            sources.append(changed(one, feeds=tuple(ident for ident in more if ident != one.id)))
        return msgspec.structs.replace(plan, power=tuple(sources))

    return Edit(say("Change what feeds it"), apply)


def _without(plan: Plan, fed: Iterable[str]) -> tuple[PowerSource, ...]:
    """The sources, none of which feeds certain things."""
    gone = frozenset(fed)
    sources = []
    for source in plan.power:
        feeds = tuple(ident for ident in source.feeds if ident not in gone)
        sources.append(changed(source, feeds=feeds))
    return tuple(sources)


def set_hours(hours: float) -> Edit:
    """How long batteries have to last."""
    return set_plan(say("Change the hours"), hours=hours)


def put_at(device: str, x: float, y: float) -> Edit:
    """Put a device somewhere on the stage, in metres."""
    return set_device(device, say("Move on the stage"), place=Place(x=x, y=y))


def tick(what: str, on: str, by: str = "") -> Edit:
    """Tick something that is packed, put up or tested; ticking it again takes that back."""

    def apply(plan: Plan) -> Plan:
        left = tuple(one for one in plan.packed if one.what != what)
        if len(left) == len(plan.packed):
            left = (*left, PackedTick(what=what[:300], on=on, by=by))
        return changed(plan, packed=left)

    return Edit(say("Tick {what}", what=what[:60]), apply)


def untick_all() -> Edit:
    """Take every tick back, before another evening."""
    return set_plan(say("Take all ticks back"), packed=())
