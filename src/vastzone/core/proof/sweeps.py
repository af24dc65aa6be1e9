"""Rules about values on their way: halves of pairs, ceilings, slots, pedals held across scenes."""

from collections.abc import Iterator
from itertools import pairwise

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled, playing
from vastzone.core.engine.tables import Sending
from vastzone.core.midi.controllers import SUSTAIN
from vastzone.core.midi.wide import name, sent_numbers
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.sends import edit_sends
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.limits import CountLimit
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.pedals import moved
from vastzone.core.proof.words import end_name
from vastzone.core.response.sweep import end_values, target_value
from vastzone.core.say import say, say_many
from vastzone.core.text import listed


def split_pairs(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """A target that hears one half of what is sent: coarse bits alone, or low bits for a value."""
    for owner, send, _, target, reads in moved(plan, compiled):
        if reads == "whole":
            continue
        control = lookup.by_id(owner.controls, send.control, "control").name
        sent = name(send.message, send.wide)
        heard = name(target.answers, target.wide or 0)
        if reads == "coarse":
            yield Remark(
                "half of a pair",
                (ref_to(owner.id, send.control), owner.id),
                say(
                    "{control} of {owner} sends {sent} and {target} listens to {heard}: only 7 "
                    "of 14 "
                    "bits arrive, so it moves in 128 steps.",
                    control=control,
                    owner=owner.name,
                    sent=sent,
                    target=target.name,
                    heard=heard,
                ),
            )
        else:
            used = ", ".join(str(n) for n, _ in sent_numbers(send.message, send.wide))
            yield Remark(
                "low bits used elsewhere",
                (ref_to(owner.id, send.control), owner.id),
                say(
                    "{control} of {owner} sends {sent} (controllers {used}), and {target} on "
                    "{heard} "
                    "takes the low bits of it for a value: give one of them another number.",
                    control=control,
                    owner=owner.name,
                    sent=sent,
                    used=used,
                    target=target.name,
                    heard=heard,
                ),
            )


def above_ceiling(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Controls that can take a target above the ceiling set for it."""
    for owner, send, _, target, reads in moved(plan, compiled):
        if target.ceiling is None or reads == "fine":
            continue
        top = max(end_values(send, target))
        step = abs(target.reach[1] - target.reach[0]) / 127
        if top > target.ceiling + step / 2:
            control = lookup.by_id(owner.controls, send.control, "control").name
            unit = f" {target.unit}" if target.unit else ""
            yield Remark(
                "above its ceiling",
                (ref_to(owner.id, send.control), owner.id),
                say(
                    "{control} of {owner} takes {target} to {top:.4g}{unit}, above its ceiling of "
                    "{ceiling:.4g}{unit}.",
                    control=control,
                    owner=owner.name,
                    target=target.name,
                    top=top,
                    unit=unit,
                    ceiling=target.ceiling,
                ),
                tuple(_caps(plan, owner, send, target)),
            )


def _caps(plan: Plan, owner: Device, send: Send, target: Target) -> Iterator[Edit]:
    """Mends: less from the sender, or less in the receiver, in whole steps."""
    value = value_below(target, target.ceiling)
    if value is None:
        return
    rises = target.reach[1] >= target.reach[0]
    held_to = min if rises else max

    def less(one: Send) -> Send:
        same = (one.control, one.bank, one.message, one.wide) == (
            send.control,
            send.bank,
            send.message,
            send.wide,
        )
        ends = {"low": held_to(value, one.low), "high": held_to(value, one.high)}
        return changed(one, **ends) if same else one

    yield edit_sends(
        owner.id,
        (
            say("Send at most {value}", value=value)
            if rises
            else say("Send at least {value}", value=value)
        ),
        less,
    )
    holder = next(device for device in plan.devices if any(t is target for t in device.targets))
    end = "most" if rises else "least"
    yield set_thing(
        holder.id,
        "targets",
        target.id,
        "target",
        say("Let {target} end at its ceiling", target=target.name),
        **{end: target.ceiling},
    )


def value_below(target: Target, limit: float | None) -> int | None:
    """The value 0–127 nearest to a limit in the target’s unit that is not above it."""
    if limit is None:
        return None
    allowed = []
    for value in range(128):
        if target_value(target, value) <= limit + 1e-9:
            allowed.append(value)
    if not allowed:
        return None
    return max(allowed) if target.reach[1] >= target.reach[0] else min(allowed)


def too_many_targets(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """More targets with a controller than a device has assign slots."""
    for owner in plan.devices:
        targets = []
        for target in owner.targets:
            if target.controller is not None:
                targets.append(target)
        for limit in owner.limits:
            if isinstance(limit, CountLimit) and limit.what == "assign-slots":
                free = limit.most - len(limit.taken)
                if len(targets) > free:
                    out = listed(t.name for t in targets[free:])
                    yield Remark(
                        "more targets than slots",
                        (owner.id,),
                        say(
                            "{owner} has {slots} free and {count} targets that are moved: "
                            "there is no room for "
                            "{out}.",
                            owner=owner.name,
                            slots=say_many("{count} assign slot", "{count} assign slots", free),
                            count=len(targets),
                            out=out,
                        ),
                    )


def held_over_scenes(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Sustain pedals that, held while the scene changes, can no longer let go what they hold."""
    for (ref, left), changes in _left_behind(plan, compiled).items():
        owner = lookup.device(plan, device_of(ref))
        control = lookup.by_id(owner.controls, thing_of(ref), "control").name
        parts = listed(end_name(plan, part) for part in left)
        first, then = (lookup.scene(plan, ident).name for ident in changes[0])
        more = (
            say(
                ", and at {changes}",
                changes=say_many("{count} other change", "{count} other changes", len(changes) - 1),
            )
            if len(changes) > 1
            else ""
        )
        yield Remark(
            "held across a scene",
            (ref, *left),
            say(
                "Held while {first} becomes {then}{more}, {control} of {owner} no longer reaches "
                "{parts}, which may sound on: lift the pedal first.",
                first=first,
                then=then,
                more=more,
                control=control,
                owner=owner.name,
                parts=parts,
            ),
            scenes=tuple(dict.fromkeys(before for before, _ in changes)),
        )


def _left_behind(
    plan: Plan, compiled: tuple[Compiled, ...]
) -> dict[tuple[str, tuple[str, ...]], list[tuple[str, str]]]:
    """Each pedal with the parts that it no longer reaches after a change, and those changes."""
    told: dict[tuple[str, tuple[str, ...]], list[tuple[str, str]]] = {}
    for before, after in pairwise(compiled):
        if before.controls is after.controls or before.scene is None or after.scene is None:
            continue
        for key in _pedals_in(plan, before.scene):
            sustained = _sustained(before.controls.get(key, ()))
            left = tuple(sorted(sustained - _sustained(after.controls.get(key, ()))))
            if left:
                told.setdefault((key[0], left), []).append((before.scene.id, after.scene.id))
    return told


def _pedals_in(plan: Plan, scene: Scene | None) -> Iterator[tuple[str, int]]:
    """The controls that send sustain in a scene, each with its bank."""
    for owner, program in playing(plan, scene):
        for control, bank in _pedals_of(program):
            yield (ref_to(owner.id, control), bank)


@derived(8192)
def _pedals_of(program: Program) -> tuple[tuple[str, int], ...]:
    sends = (
        send for send in program.sends if send.message == "controller" and send.number == SUSTAIN
    )
    return tuple(dict.fromkeys((item.control, item.bank) for item in sends))


def _sustained(sendings: tuple[Sending, ...]) -> frozenset[str]:
    """The parts that hear a sustain pedal."""
    refs = set()
    for sending in sendings:
        for motion in sending.motions:
            if motion.message == "controller" and motion.number == SUSTAIN:
                for hearing in motion.hearings:
                    if hearing.is_part:
                        refs.add(hearing.ref)
    return frozenset(refs)
