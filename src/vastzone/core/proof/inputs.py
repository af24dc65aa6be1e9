"""Rules about trigger pads and the inputs that they are plugged into."""

from collections.abc import Iterator
from itertools import combinations

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan import drums
from vastzone.core.plan.model import Plan
from vastzone.core.plan.trigger import TriggerPad, can_split, surviving
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.words import listed, many


def unplugged_pads(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pads that are in no input, told together; a fault where one of them must be heard."""
    plugged = {g.pad for g in plan.plugs}
    out = [p for p in plan.pads if p.id not in plugged]
    count = sum(len(d.inputs) for d in plan.devices)
    if not out or not count:
        return
    must = any(p.importance == "must" for p in out)
    spare = all(p.importance == "spare" for p in out)
    owner = next(d for d in plan.devices if d.inputs)
    short = max(0, len(plan.pads) - count)
    why = f": {many(len(plan.pads), 'pad')} want {many(count, 'input')}" if short else ""
    yield Remark(
        "more pads than inputs" if short else "pad in no input",
        (owner.id,),
        f"{listed(p.name for p in out)} {'is' if len(out) == 1 else 'are'} in no input{why}.",
        severity="fault" if must else "hint" if spare else "caution",
    )


def lost_zones(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Zones that the type of an input cannot hear, with the type that could."""
    known = {p.id: p for p in plan.pads}
    for plug in plan.plugs:
        pad = known[plug.pad]
        owner, held = drums.trigger_input(plan, plug.input)
        kept = surviving(pad, held.type)
        lost = [z for z in pad.zones if z not in kept]
        if not lost:
            continue
        better = [t for t in held.types if len(surviving(pad, t)) > len(kept)]
        what = listed(lost) if kept else "everything"
        yield Remark(
            "zone lost",
            (plug.input, owner.id),
            f"{pad.name} loses its {what} in {held.name} of {owner.name}, which is set to "
            f"{held.type}.",
            tuple(drums.set_input(plug.input, t) for t in better[:2]),
            severity="caution" if kept else "fault",
        )


def broken_splitters(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pads that share an input and may not."""
    known = {p.id: p for p in plan.pads}
    shared: dict[str, list[TriggerPad]] = {}
    for plug in plan.plugs:
        shared.setdefault(plug.input, []).append(known[plug.pad])
    for ref, pads in shared.items():
        owner, held = drums.trigger_input(plan, ref)
        if len(pads) > 2 or any(not can_split(a, b, held.type) for a, b in combinations(pads, 2)):
            yield Remark(
                "splitter broken",
                (ref, owner.id),
                f"{listed(p.name for p in pads)} cannot share {held.name} of {owner.name}: a "
                "splitter takes two single-zone pads of one make and model on a dual input.",
                tuple(drums.pull_out(p.id) for p in pads[1:]),
            )
