"""The walk-through: each control in turn is to be struck; what is asked, and how it is judged."""

from typing import NamedTuple

from vastzone.core.midi import pitch
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import thing_of
from vastzone.core.proof.marking import Proof
from vastzone.core.proof.verdict import Effect, Mark
from vastzone.core.proof.words import end_name, owner_of
from vastzone.core.response.wished import wished_ends
from vastzone.core.say import say
from vastzone.core.text import ALL, listed


class Ask(NamedTuple):
    """Something to strike in a scene, and what it is meant to do."""

    scene: str
    place: WishPlace
    vel_low: int
    vel_high: int
    expected: str


def asks(plan: Plan, proof: Proof, scenes: tuple[str, ...]) -> tuple[Ask, ...]:
    """What there is to strike, scene by scene (all of them when empty), in the plan's order.

    Keys that are meant to do the same are asked for once; a strike at any of them counts.
    """
    listed: dict[Ask, None] = {}
    for scene in scenes or tuple(proof.scenes):
        for group in proof.scenes.get(scene, ()):
            for mark in _joined([m for m in group if m.meant]):
                place = WishPlace(mark.source, mark.bank, mark.low, mark.high)
                expected = meant_words(plan, mark)
                listed[Ask(scene, place, mark.vel_low, mark.vel_high, expected)] = None
    return tuple(listed)


def _joined(marks: list[Mark]) -> list[Mark]:
    """Neighbouring keys that are meant to do the same, whatever the proof says of each."""
    joined: list[Mark] = []
    for mark in marks:
        at = next((n for n, old in enumerate(joined) if _follows(old, mark)), None)
        if at is None:
            joined.append(mark)
        else:
            joined[at] = joined[at]._replace(high=mark.high)
    return joined


def _follows(old: Mark, new: Mark) -> bool:
    same = (old.source, old.bank, old.vel_low, old.vel_high, old.meant)
    return (
        bool(new.high)
        and old.high == new.low - 1
        and same == (new.source, new.bank, new.vel_low, new.vel_high, new.meant)
    )


def meant_words(plan: Plan, mark: Mark) -> str:
    """What a mark is meant to do, in words: the parts with their notes, or what moves."""
    return listed(dict.fromkeys(_hit_words(plan, mark, hit) for hit in mark.meant), ALL)


def _move_words(plan: Plan, mark: Mark, ref: str, target: Target) -> str:
    """What is to happen to a target: it is selected, switches, or goes from one end to another."""
    if target.answers == "program":
        return say("{target} is selected", target=target.name)
    if not target.sweeps:
        return say("{target} switches", target=target.name)
    wishes = (wish for wish in plan.wishes if wish.id in mark.wishes and wish.moves == ref)
    wish = next(wishes, None)
    begins, ends = (0.0, 127.0) if wish is None else wished_ends(wish, target)
    if not target.unit and (begins, ends) == (0.0, 127.0):
        return say("{target} moves", target=target.name)
    unit = f" {target.unit}" if target.unit else ""
    return say(
        "{target} goes from {begins:.4g} to {ends:.4g}{unit}",
        target=target.name,
        begins=begins,
        ends=ends,
        unit=unit,
    )


def _hit_words(plan: Plan, mark: Mark, hit: Effect) -> str:
    name = end_name(plan, hit.ref)
    owner = owner_of(plan, hit.ref)
    ident = thing_of(hit.ref)
    target = lookup.find(owner.targets, ident)
    if target is not None:
        return _move_words(plan, mark, hit.ref, target)
    part = lookup.part(owner, ident)
    # Keys have a range and sound shifted; a pad sounds one note.
    if mark.high:
        shift = (
            "" if not hit.shift else say(", {shift:+} semitones", shift=hit.shift).replace("-", "−")
        )
        return f"{name}{shift}"
    kit = lookup.find(owner.kits, part.kit)
    sound = next((s.name for s in kit.sounds if s.note == hit.shift), "") if kit else ""
    if sound or hit.shift < 0:
        return f"{name}: {sound or 'a sound that its kit does not hold'}"
    return f"{name} {pitch.label(hit.shift, owner.octaves)}"
