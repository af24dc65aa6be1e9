"""Power sources: what they feed, that it is there, what is left of them without it."""

from collections import Counter
from collections.abc import Iterator

import msgspec

from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say


def power_problems(plan: Plan) -> Iterator[str]:
    """What power sources name that is not there, or what two of them feed."""
    devices, sources = lookup.ids_of(plan.devices), lookup.ids_of(plan.power)
    for ident in sorted(devices & sources):
        yield say(
            "A power source and a device are both called “{ident}”: give each its own id.",
            ident=ident,
        )
    for ident, count in Counter(source.id for source in plan.power).items():
        if count > 1:
            yield say(
                "The power source id “{ident}” is used {count} times: give each its own.",
                ident=ident,
                count=count,
            )
    fed = Counter(ident for source in plan.power for ident in source.feeds)
    for source in plan.power:
        for ident in source.feeds:
            if ident not in devices | sources - {source.id}:
                yield say(
                    "{source} feeds “{ident}”, which is not there: take that out.",
                    source=source.name,
                    ident=ident,
                )
            if fed[ident] > 1:
                yield say(
                    "“{ident}” is fed by {fed} sources: leave it at one.",
                    ident=ident,
                    fed=fed[ident],
                )


def tidy_power(plan: Plan) -> Plan:
    """A plan whose power sources feed only what is there."""
    if not plan.power:
        return plan
    there = lookup.ids_of(plan.devices) | lookup.ids_of(plan.power)
    sources = []
    for source in plan.power:
        feeds = tuple(ident for ident in source.feeds if ident in there)
        sources.append(changed(source, feeds=feeds))
    return msgspec.structs.replace(plan, power=tuple(sources))
