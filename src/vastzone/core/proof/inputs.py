"""Rules about trigger pads and the inputs that they are plugged into."""

from collections.abc import Iterator
from itertools import combinations

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.edits import plugs
from vastzone.core.plan.edits.plugs import with_model
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.triggers import (
    Importance,
    TriggerPad,
    can_split,
    pedal_of,
    share_sockets,
    surviving,
)
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import sockets_of
from vastzone.core.proof.finding import Remark, Severity
from vastzone.core.say import say, say_each, say_many
from vastzone.core.text import in_none, listed


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
        told += say(
            ": {pads} want {inputs}",
            pads=say_many("{count} pad", "{count} pads", len(plan.pads)),
            inputs=say_many("{count} input", "{count} inputs", count),
        )
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
        what = listed(say_each(lost)) if kept else say("everything")
        yield Remark(
            "zone lost",
            (plug.input, owner.id),
            say(
                "{pad} loses its {what} in {trigger_input} of {owner}, which is set to {type}.",
                pad=pad.name,
                what=what,
                trigger_input=trigger_input.name,
                owner=owner.name,
                type=say(trigger_input.type),
            ),
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
        if share_sockets(pads, socket.type):
            continue
        names = listed(pad.name for pad in pads)
        why = say("a splitter takes two single-zone pads of one make and model on a dual input.")
        if socket.type == "hi-hat":
            why = say("that of a hi-hat has a socket for one pad and one for a pedal.")
        elif all(can_split(a, b, socket.type) for a, b in combinations(map(with_model, pads), 2)):
            why = say(
                "nobody said that they are of one model, and only then a splitter serves them."
            )
        yield Remark(
            "splitter broken",
            (ref, owner.id),
            say(
                "{names} cannot share {socket} of {owner}: {why}",
                names=names,
                socket=socket.name,
                owner=owner.name,
                why=why,
            ),
            tuple(plugs.pull_out(p.id) for p in pads[1:]),
        )


def pads_on_a_hat_pedal(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Other pads than a hat in the input of a hi-hat: the foot changes what they sound."""
    for ref, held in sockets_of(plan.pads, plan.plugs).items():
        pad, pedal = held.pad, held.pedal
        if pad is None or pedal is None or pedal_of(pad, plan.pads) == pedal.id:
            continue
        owner, socket = plugs.trigger_input(plan, ref)
        yield Remark(
            "pad on a hat pedal",
            (ref, owner.id),
            say(
                "{pad} is in {socket} of {owner}, which follows {pedal}: what it sounds "
                "changes with "
                "the foot.",
                pad=pad.name,
                socket=socket.name,
                owner=owner.name,
                pedal=pedal.name,
            ),
            (
                plugs.set_pad(
                    pad.id,
                    say("{pad} is played with {pedal}", pad=pad.name, pedal=pedal.name),
                    pedal=pedal.id,
                ),
                plugs.pull_out(pad.id),
            ),
        )


def hats_without_their_pedal(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """A hat’s pad and its pedal that are not in the same input."""
    inputs = {plug.pad: plug.input for plug in plan.plugs}
    names = lookup.names_of(plan.pads)
    for pad in plan.pads:
        pedal = pedal_of(pad, plan.pads)
        here, there = inputs.get(pad.id), inputs.get(pedal or "")
        if here is None or here == there or pedal not in names:
            continue
        owner, socket = plugs.trigger_input(plan, here)
        where = say("in no input")
        if there is not None:
            other, jack = plugs.trigger_input(plan, there)
            where = say("in {jack} of {other}", jack=jack.name, other=other.name)
        yield Remark(
            "hat without its pedal",
            (here, owner.id),
            say(
                "{pad} is in {socket} of {owner} and {names} {where}: no stroke follows the pedal.",
                pad=pad.name,
                socket=socket.name,
                owner=owner.name,
                names=names[pedal],
                where=where,
            ),
            (),
        )
