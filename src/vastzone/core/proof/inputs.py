"""Rules about trigger pads and the inputs that they are plugged into."""

from collections.abc import Iterator
from itertools import combinations

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.edits import plugs
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.triggers import Importance, TriggerPad, can_split, surviving
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.finding import Remark, Severity
from vastzone.core.text import in_none, listed, many


def unplugged_pads(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pads that are in no input, told together; a fault where one of them must be heard."""
    plugged = set()
    for plug in plan.plugs:
        plugged.add(plug.pad)
    out = []
    for pad in plan.pads:
        if pad.id not in plugged:
            out.append(pad)
    modules = []
    for device in plan.devices:
        if device.inputs:
            modules.append(device)
    if not out or not modules:
        return
    count = sum(len(device.inputs) for device in modules)
    told = in_none(lookup.names_of(out).values(), "input")
    rule = "pad in no input"
    if len(plan.pads) > count:
        rule = "more pads than inputs"
        told += f": {many(len(plan.pads), 'pad')} want {many(count, 'input')}"
    severity = _gravest({pad.importance for pad in out})
    yield Remark(rule, (modules[0].id,), f"{told}.", severity=severity)


def _gravest(importance: set[Importance]) -> Severity:
    """How grave it is that pads of such importance are not heard."""
    if "must" in importance:
        return "fault"
    return "hint" if importance == {"spare"} else "caution"


def lost_zones(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Zones that the type of an input cannot hear, with the type that could."""
    known = lookup.by_ids(plan.pads)
    for plug in plan.plugs:
        pad = known[plug.pad]
        owner, trigger_input = plugs.trigger_input(plan, plug.input)
        kept = surviving(pad, trigger_input.type)
        lost = []
        for zone in pad.zones:
            if zone not in kept:
                lost.append(zone)
        if not lost:
            continue
        better = []
        for t in trigger_input.types:
            if len(surviving(pad, t)) > len(kept):
                better.append(t)
        what = listed(lost) if kept else "everything"
        yield Remark(
            "zone lost",
            (plug.input, owner.id),
            f"{pad.name} loses its {what} in {trigger_input.name} of {owner.name}, which is set to "
            f"{trigger_input.type}.",
            tuple(plugs.set_input(plug.input, t) for t in better[:2]),
            severity="caution" if kept else "fault",
        )


def broken_splitters(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pads that share an input and may not."""
    known = lookup.by_ids(plan.pads)
    shared: dict[str, list[TriggerPad]] = {}
    for plug in plan.plugs:
        shared.setdefault(plug.input, []).append(known[plug.pad])
    for ref, pads in shared.items():
        owner, socket = plugs.trigger_input(plan, ref)
        if len(pads) > 2 or any(not can_split(a, b, socket.type) for a, b in combinations(pads, 2)):
            yield Remark(
                "splitter broken",
                (ref, owner.id),
                f"{listed(pad.name for pad in pads)} cannot share {socket.name} of {owner.name}: a "
                "splitter takes two single-zone pads of one make and model on a dual input.",
                tuple(plugs.pull_out(p.id) for p in pads[1:]),
            )
