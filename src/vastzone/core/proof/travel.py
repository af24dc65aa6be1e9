"""How far a control moves a target, or how it switches it, against what is wished."""

from collections.abc import Iterable

from vastzone.core.engine.tables import Motion
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof.modes import pair_remark
from vastzone.core.response.wished import covers, is_whole, reached, step_of, wished_ends
from vastzone.core.say import say

SentMotion = tuple[Send, Motion]
"""A movement, and what the control sends that makes it."""


def mode_remark(motions: Iterable[SentMotion]) -> str:
    """What is wrong with how a control that nobody wished switches what it moves."""
    for send, motion in motions:
        for hearing in motion.hearings:
            target = hearing.target
            if target is not None and not target.sweeps and target.answers != "program":
                remark = pair_remark(send.mode, target.mode)
                if remark:
                    return remark
    return ""


def movement_remark(wish: Wish, motions: Iterable[SentMotion], target: Target) -> str:
    """What is wrong with how movements bring a target where a wish has it; nothing if all is."""
    for send, motion in motions:
        if any(hearing.ref == wish.moves for hearing in motion.hearings):
            remark = _remark(wish, send, target)
            if remark:
                return remark
    return ""


def _remark(wish: Wish, send: Send, target: Target) -> str:
    """What is wrong with one control that moves or switches a target."""
    if target.answers == "program":
        return ""
    if not target.sweeps:
        return pair_remark(send.mode, target.mode)
    if moves_as_wished(wish, send, target):
        return ""
    travel, wanted = reached(send, target), wished_ends(wish, target)
    unit = f" {target.unit}" if target.unit else ""
    return say(
        "{target} goes {heel:.4g} … {toe:.4g}{unit}, not {wished_heel:.4g} … {wished_toe:.4g}.",
        target=target.name,
        heel=travel[0],
        toe=travel[1],
        unit=unit,
        wished_heel=wanted[0],
        wished_toe=wanted[1],
    )


def moves_as_wished(wish: Wish, send: Send, target: Target) -> bool:
    """Whether a control moves a target over the range of a wish: a whole one either way round."""
    travel, wanted = reached(send, target), wished_ends(wish, target)
    step = step_of(send, target)
    if covers(travel, wanted, step):
        return True
    return is_whole(wish) and covers(travel[::-1], wanted, step)
