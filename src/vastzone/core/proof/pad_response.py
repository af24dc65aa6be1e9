"""Rules about how pads feel: layers by velocity, mute groups, linked zones, hi-hat pedals."""

from collections.abc import Iterable, Iterator
from itertools import pairwise

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.plugs import change_input, trigger_input
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import HatState, states_reached
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import has_pads
from vastzone.core.plan.queries.spans import runs
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say
from vastzone.core.text import listed

ALL = range(1, 128)


def _used(plan: Plan) -> Iterator[tuple[Device, Program, tuple[str, ...]]]:
    """Programs with pads that scenes are on, with those scenes (none for all of them)."""
    for owner in plan.devices:
        if not has_pads(owner):
            continue
        for number, names in lookup.scenes_by_program(plan, owner).items():
            scenes = () if len(names) == len(plan.scenes) else names
            yield owner, lookup.program(owner, number), scenes


def _layered(program: Program) -> Iterator[list[Send]]:
    """The notes of each pad and bank, where there are several or only for some velocities."""
    by_pad: dict[tuple[str, int], list[Send]] = {}
    for send in program.sends:
        if send.message == "note":
            by_pad.setdefault((send.control, send.bank), []).append(send)
    for sends in by_pad.values():
        if len(sends) > 1 or (sends[0].vel_low, sends[0].vel_high) != (1, 127):
            yield sends


def layer_holes(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Velocities at which a layered pad sends nothing."""
    for owner, program, scenes in _used(plan):
        names = lookup.names_of(owner.controls)
        for sends in _layered(program):
            covered = set()
            for send in sends:
                for v in range(send.vel_low, send.vel_high + 1):
                    covered.add(v)
            for low, high in runs([v for v in ALL if v not in covered]):
                first = sends[0]
                near = nearest_layer(sends, first.control, first.bank, low) or first
                yield Remark(
                    "layer hole",
                    (ref_to(owner.id, first.control), owner.id),
                    say(
                        "{names} of {owner} sends nothing when struck at {low}–{high}: none of "
                        "its layers is "
                        "for these velocities.",
                        names=names[first.control],
                        owner=owner.name,
                        low=low,
                        high=high,
                    ),
                    (widened(owner, program.number, near, low, high),),
                    scenes,
                    severity="caution",
                )


def nearest_layer(sends: Iterable[Send], control: str, bank: int, velocity: int) -> Send | None:
    """The layer of a pad whose velocities are nearest."""
    mine = []
    for send in sends:
        if (send.control, send.bank, send.message) == (control, bank, "note"):
            mine.append(send)
    return min(
        mine, key=lambda s: min(abs(s.vel_low - velocity), abs(s.vel_high - velocity)), default=None
    )


def widened(owner: Device, program: int, layer: Send, low: int, high: int) -> Edit:
    """Let a layer sound at these velocities too."""
    label = say(
        "Let layer {layer} sound at {low}–{high} too", layer=layer.layer + 1, low=low, high=high
    )
    return set_send(
        owner.id,
        program,
        layer.control,
        layer.bank,
        label,
        layer.layer,
        vel_low=min(layer.vel_low, low),
        vel_high=max(layer.vel_high, high),
    )


def layers_meet(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Layers that sound together though neither is meant to blend into the other."""
    for owner, program, scenes in _used(plan):
        names = lookup.names_of(owner.controls)
        for sends in _layered(program):
            order = sorted(sends, key=lambda s: (s.vel_low, s.layer))
            for one, other in pairwise(order):
                if other.vel_low > one.vel_high or one.fade or other.fade:
                    continue
                ref = (owner.id, program.number, other.control, other.bank)
                fixes = [set_send(*ref, say("Blend them there"), other.layer, fade=True)]
                if other.vel_low > one.vel_low:
                    label = say("End the softer one at {vel_low}", vel_low=other.vel_low - 1)
                    fixes.insert(0, set_send(*ref, label, one.layer, vel_high=other.vel_low - 1))
                yield Remark(
                    "layers together",
                    (ref_to(owner.id, one.control), owner.id),
                    say(
                        "Two layers of {names} of {owner} both sound at {vel_low}–{vel_high}.",
                        names=names[one.control],
                        owner=owner.name,
                        vel_low=other.vel_low,
                        vel_high=min(one.vel_high, other.vel_high),
                    ),
                    tuple(fixes),
                    scenes,
                )


def one_sided_mutes(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Mute groups of pads that nothing sends or nothing receives."""
    for owner, program, scenes in _used(plan):
        names = lookup.names_of(owner.controls)
        for side, other, says in (
            ("mutes", "muted_by", say("silences nothing: no pad is muted by it")),
            ("muted_by", "mutes", say("is never silenced: no pad mutes it")),
        ):
            answered = set()
            for s in program.sends:
                answered.add(getattr(s, other))
            groups: dict[str, list[Send]] = {}
            for send in program.sends:
                group = getattr(send, side)
                if group and group not in answered:
                    groups.setdefault(group, []).append(send)
            for group, sends in groups.items():
                pads = listed(dict.fromkeys(names[item.control] for item in sends))
                first = sends[0]
                fix = set_send(
                    owner.id,
                    program.number,
                    first.control,
                    first.bank,
                    say("Take {names} out of the group", names=names[first.control]),
                    first.layer,
                    **{side: None},
                )
                yield Remark(
                    "mute group one-sided",
                    (ref_to(owner.id, first.control), owner.id),
                    say(
                        "The mute group “{group}” of {pads} of {owner} {says}.",
                        group=group,
                        pads=pads,
                        owner=owner.name,
                        says=says,
                    ),
                    (fix,),
                    scenes,
                )


def linked_zones(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Linked inputs: all zones sound as the main one; what the others had is kept."""
    known = lookup.by_ids(plan.pads)
    for plug in plan.plugs:
        pad, (owner, jack) = known[plug.pad], trigger_input(plan, plug.input)
        if not jack.linked or len(pad.zones) < 2:
            continue
        yield Remark(
            "zones linked",
            (plug.input, owner.id),
            say(
                "{jack} of {owner} is linked: {zones} of {pad} sound as its {pad_zones}. What they "
                "had of their own is kept for when the link is undone.",
                jack=jack.name,
                owner=owner.name,
                zones=listed(pad.zones[1:]),
                pad=pad.name,
                pad_zones=pad.zones[0],
            ),
            (change_input(plug.input, say("Unlink the zones"), linked=False),),
        )


def hat_thresholds(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """A hi-hat pedal that never opens, is never half open, or is never closed."""
    for owner in plan.devices:
        for jack in owner.inputs:
            reached = states_reached(jack)
            if jack.type != "hi-hat" or len(reached) == 3:
                continue
            states: tuple[HatState, ...] = ("open", "half", "closed")
            never = listed(
                say("half open") if s == "half" else s for s in states if s not in reached
            )
            ref = ref_to(owner.id, jack.id)
            half, closed = (40, 96) if jack.closed_end == "high" else (87, 31)
            yield Remark(
                "hi-hat thresholds",
                (ref, owner.id),
                (
                    say(
                        "{jack} of {owner} is never {never}: half begins at {half} and closed "
                        "at {closed}, "
                        "and its pedal counts up as it closes.",
                        jack=jack.name,
                        owner=owner.name,
                        never=never,
                        half=jack.half,
                        closed=jack.closed,
                    )
                    if jack.closed_end == "high"
                    else say(
                        "{jack} of {owner} is never {never}: half begins at {half} and closed "
                        "at {closed}, "
                        "and its pedal counts down as it closes.",
                        jack=jack.name,
                        owner=owner.name,
                        never=never,
                        half=jack.half,
                        closed=jack.closed,
                    )
                ),
                (
                    change_input(
                        ref,
                        say("Use {half} and {closed}", half=half, closed=closed),
                        half=half,
                        closed=closed,
                    ),
                ),
            )
