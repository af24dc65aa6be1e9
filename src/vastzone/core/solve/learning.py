"""What receivers that learn are taught: the kind of message that a control sends already.

A lever that bends goes on bending; only what cannot be learned makes a control send otherwise.
"""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from vastzone.core.midi.wide import MOVING, SELECT
from vastzone.core.plan.edits.edit import with_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import messages_of
from vastzone.core.plan.refs import read_ref, ref_to

LEARNED = MOVING - {"program"}
"""The kinds of message that can be learned for a target."""


class _Taught(NamedTuple):
    """A kind of message, with the number of a parameter 0–16383."""

    message: str
    number: int = 0


def with_learned_messages(plan: Plan) -> Plan:
    """A plan whose learning targets go by what the controls wished for them send."""
    wishes: dict[str, list[Wish]] = {}
    for wish in plan.wishes:
        if wish.moves:
            wishes.setdefault(wish.moves, []).append(wish)
    for device in plan.devices:
        targets = []
        for target in device.targets:
            wished = wishes.get(ref_to(device.id, target.id), [])
            learns = target.receives == "learns" and target.answers != "program"
            targets.append(_learned(plan, target, wished) if learns and wished else target)
        if tuple(targets) != device.targets:
            plan = with_device(plan, device, changed(device, targets=tuple(targets)))
    return plan


def _learned(plan: Plan, target: Target, wishes: list[Wish]) -> Target:
    """A target that goes by what all of its controls send, or can send."""
    ends = [end for wish in wishes for end in _controls(plan, wish)]
    if not ends:
        return target
    sent = frozenset.intersection(*(taught for _, taught in ends))
    if any(taught.message == target.answers for taught in sent):
        return target
    now = min(sent) if sent else _common(target, [messages_of(control) for control, _ in ends])
    if now is None or now.message == target.answers:
        return target
    if now.message in SELECT:
        page, number = now.number >> 7, now.number & 0x7F
        return changed(target, answers=now.message, page=page, controller=number)
    known = target.controller if target.answers == "controller" else None
    return changed(target, answers=now.message, controller=known, page=0)


def _common(target: Target, able: Sequence[Sequence[str]]) -> _Taught | None:
    """A message that every control can send: what is learned already, if it can be."""
    for message in (target.answers, "controller", "pair", "bend", "pressure"):
        if all(message in messages for messages in able):
            return _Taught(message)
    return None


def _controls(plan: Plan, wish: Wish) -> Iterator[tuple[Control, frozenset[_Taught]]]:
    """The controls of a wish, with what a receiver could learn of each, in every program in use."""
    for source in wish.sources:
        device, ident = read_ref(source)
        owner = lookup.device(plan, device)
        control = lookup.find(owner.controls, ident)
        if control is None:
            continue  # keys play parts: they move nothing
        for number in lookup.scenes_by_program(plan, owner):
            taught = set()
            for send in lookup.program(owner, number).sends:
                if (send.control, send.bank) == (ident, wish.bank) and send.message in LEARNED:
                    wide = send.wide if send.message in SELECT else 0
                    taught.add(_Taught(send.message, wide))
            yield control, frozenset(taught)
