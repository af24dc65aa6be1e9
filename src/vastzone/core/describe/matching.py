"""Which thing of one device is which of another: by id, by name, by kind and order."""

from collections.abc import Callable, Hashable, Sequence
from functools import partial
from typing import Any

from vastzone.core.describe.things import GROUPS, Group, Thing
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability

Match = dict[Thing, str]
"""The id in the other device of each thing that has a match there."""
Likeness = Callable[[Any], Hashable]


def _control_kind(item: Control) -> Hashable:
    return item.kind, item.zone


def _touch(item: Control) -> Hashable:
    ability = control_ability(item)
    return ability.hard, ability.pressed, ability.swept


def _same(_item: Any) -> Hashable:
    return None


LIKENESS: dict[Group, tuple[Likeness, ...]] = {
    "keybeds": (lambda item: item.keys, _same),
    "controls": (_control_kind, _touch),
    "parts": (lambda item: (item.rhythm, item.kit is None), lambda item: item.rhythm),
    "targets": (lambda item: (item.mode, item.answers, item.role), lambda item: item.mode),
    "kits": (lambda item: len(item.sounds), _same),
    "ports": (lambda item: (item.flow, item.link), lambda item: item.flow),
    "inputs": (lambda item: item.types, lambda item: item.type),
    "jacks": (lambda item: (item.accepts, item.functions), lambda item: item.accepts),
    "outputs": (lambda item: item.kind, _same),
    "audio_inputs": (lambda item: item.kind, _same),
    "switches": (lambda item: item.choices,),
}
"""What must be alike for two things to stand for each other, the closest likeness first."""


def match(old: Device, new: Device) -> Match:
    """The best match of every thing of a device in another, each taken once."""
    matched: Match = {}
    for group in GROUPS:
        pairs = _pairs(getattr(old, group), getattr(new, group), LIKENESS[group])
        for here, there in pairs.items():
            matched[Thing(group, here)] = there
    return matched


def _pairs(
    old: Sequence[Any], new: Sequence[Any], likenesses: Sequence[Likeness]
) -> dict[str, str]:
    pairs: dict[str, str] = {}
    left = {item.id: item for item in new}
    closest = likenesses[0]

    def pair(alike: Callable[[Any, Any], bool]) -> None:
        for item in old:
            if item.id in pairs:
                continue
            for other in left.values():
                if alike(item, other):
                    pairs[item.id] = other.id
                    del left[other.id]
                    break

    pair(lambda item, other: bool(item == other))
    pair(lambda item, other: item.id == other.id and closest(item) == closest(other))
    pair(lambda item, other: item.name == other.name and closest(item) == closest(other))
    for likeness in likenesses:
        pair(partial(_alike, likeness))
    return pairs


def _alike(likeness: Likeness, item: Any, other: Any) -> bool:
    return likeness(item) == likeness(other)
