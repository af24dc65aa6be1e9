"""What controls send for their wishes: in layers where one message cannot carry them all."""

from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.values import Mode, Sending
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.modes import pair_remark
from vastzone.core.solve.shaped import Binding


def on_sends(
    plan: Plan, owner: Device, program: Program, wishes: tuple[Wish, ...]
) -> tuple[Program, list[Binding]]:
    """A send for each wish of a control, in layers where one cannot carry them all."""
    sends = {(send.control, send.bank, send.layer): send for send in program.sends}
    bindings: list[Binding] = []
    for control in owner.controls:
        ref = ref_to(owner.id, control.id)
        mine = []
        for wish in wishes:
            if ref in wish.sources:
                mine.append(wish)
        for bank in dict.fromkeys(wish.bank for wish in mine):
            layers = _layers(plan, [wish for wish in mine if wish.bank == bank], ref)
            for layer, group in enumerate(layers):
                key = (control.id, bank, layer)
                send = sends[key] = _carrying(plan, sends.get(key), key, group, len(layers) > 1)
                for wish in group:
                    bound = Binding(wish, ref, owner.id, program.number, send.thing, False)
                    bindings.append(bound)
    return changed(program, sends=tuple(map(_on_a_channel, sends.values()))), bindings


def _suited(plan: Plan, send: Send, wish: Wish) -> Send:
    """A send whose mode works with its receiver's, and whose ends are those of the wish."""
    device, thing = read_ref(wish.plays or wish.moves or "")
    party = lookup.device(plan, device)
    if wish.plays:
        receiver: str = lookup.part(party, thing).trigger
        mode: Mode = "momentary" if pair_remark(send.mode, receiver) else send.mode
        return changed(send, mode=mode)
    target = lookup.by_id(party.targets, thing, "target")
    mode = "momentary" if pair_remark(send.mode, target.mode) else send.mode
    low = _end_for(wish.from_value, target, send.low)
    high = _end_for(wish.to_value, target, send.high)
    return changed(send, mode=mode, low=low, high=high)


def _end_for(wanted: float | None, target: Target, now: float) -> float:
    """The value 0–127 that brings a target where it is wanted; as it is where none is wanted."""
    span = target.high - target.low
    if wanted is None or not span:
        return now
    share = (wanted - target.low) / span
    return max(0, min(127, round(share * 127)))


def _on_a_channel(send: Send) -> Send:
    """A note has to go on some channel: it cannot follow the zones."""
    return changed(send, channel=1) if send.message == "note" and send.channel is None else send


def _carrying(
    plan: Plan, old: Send | None, key: tuple[str, int, int], group: list[Wish], several: bool
) -> Send:
    """What a control sends in one layer so that it can carry a group of wishes."""
    target = _target(plan, group[0])
    message: Sending = "note" if target is None else target.answers
    channel = 1 if group[0].plays else None
    control, bank, layer = key
    send = old or Send(control=control, bank=bank, layer=layer, message=message)
    send = changed(
        send,
        message=message,
        channel=send.channel or channel,
        page=send.page if target is None else target.page,
    )
    soft, loud = group[0].vel_low, group[0].vel_high
    if group[0].plays and (several or (soft, loud) != (1, 127)):
        send = changed(send, vel_low=soft, vel_high=loud)
    for wish in group:
        send = _suited(plan, send, wish)
    return send


def _target(plan: Plan, wish: Wish) -> Target | None:
    device, ident = read_ref(wish.moves or "")
    return lookup.by_id(lookup.device(plan, device).targets, ident, "target") if ident else None


def _layers(plan: Plan, wishes: list[Wish], ref: str) -> list[list[Wish]]:
    """Wishes of one control in one bank, those together that one message can carry."""
    groups: list[list[Wish]] = []
    for wish in wishes:
        fits = (g for g in groups if all(_shares(plan, wish, other, ref) for other in g))
        group = next(fits, None)
        if group is None:
            groups.append([wish])
        else:
            group.append(wish)
    return groups


def _shares(plan: Plan, wish: Wish, other: Wish, ref: str) -> bool:
    """Whether one message can carry two wishes: one kind, one window, no two sounds of a part."""
    if bool(wish.plays) is not bool(other.plays):
        return False
    target, beside = _target(plan, wish), _target(plan, other)
    if target is not None and beside is not None:
        if "rpn" in target.answers:
            return (target.answers, target.wide) == (beside.answers, beside.wide)
        return target.answers == beside.answers
    if (wish.vel_low, wish.vel_high) != (other.vel_low, other.vel_high):
        return False
    return wish.plays != other.plays or _sound_of(wish, ref) == _sound_of(other, ref)


def _sound_of(wish: Wish, ref: str) -> str | int | None:
    if wish.sounds:
        return wish.sound(wish.sources.index(ref))
    return wish.note
