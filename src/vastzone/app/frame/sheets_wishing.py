"""Rows of facts by which something is wished: what a control moves or selects."""

from collections.abc import Iterator
from functools import partial
from typing import Any

from vastzone.app.frame.sheet import FactRow
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.movables import (
    MOVABLES,
    add_standard_target,
    wish_for_scene,
    wish_to_move,
    wish_to_select,
    wish_to_step,
)
from vastzone.core.plan.edits.schools import choose_school, school_of
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import ControllerSchool
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.desk.session import Desk

Offer = tuple[str, Any]
"""What a choice says, and what it stands for."""
NOT_YET: Offer = (say("choose …"), None)
STEPS = ("next", "previous")
SCHOOLS: tuple[Offer, ...] = (
    (say("as the plan likes"), None),
    (say("by standard roles"), "standard"),
    (say("by undefined numbers"), "undefined"),
    (say("in a run"), "run"),
)
"""Ways to choose controllers."""


def wishing_rows(desk: Desk, owner: Device, control: Control) -> list[FactRow]:
    """What a control can be wished to move in parts, or to select in other devices.

    Choosing makes the wish, for all scenes.
    """
    place = WishPlace(ref_to(owner.id, control.id), min(desk.bank, control.banks))
    can = control_ability(control)
    rows = []
    if can.swept or can.pressed:
        offers = (NOT_YET, *_moving(desk.plan))
        make = partial(_wish_to_move, place)
        rows.append(FactRow(say("Wish to move"), "choice", None, make, choices=offers))
    if can.pressed:
        offers = (NOT_YET, *_selecting(desk.plan, owner))
        make = partial(_wish_to_select, place)
        rows.append(FactRow(say("Wish to select"), "choice", None, make, choices=offers))
    return [row for row in rows if len(row.choices) > 1]


def school_rows(desk: Desk, owner: Device, control: Control) -> list[FactRow]:
    """How the controllers of a control are to be chosen, where not as all others."""
    ref = ref_to(owner.id, control.id)
    own = school_of(desk.plan, ref)
    run_from = desk.plan.schools.run_from if own is None else own.run_from

    def choose(school: ControllerSchool | None) -> Edit:
        return choose_school((ref,), school, run_from)

    now = None if own is None else own.controllers
    rows = [FactRow(say("Numbered"), "choice", now, choose, choices=SCHOOLS)]
    if now == "run":
        begin = partial(choose_school, (ref,), "run")
        rows.append(FactRow(say("Run from"), "number", run_from, begin, 1, 119))
    return rows


def _moving(plan: Plan) -> Iterator[Offer]:
    """What parts answer by standard."""
    for device, part in lookup.parts(plan):
        for movable in MOVABLES:
            named = say(
                "{movable} of {part}, {device}",
                movable=movable.name,
                part=part.name,
                device=device.name,
            )
            yield named, (ref_to(device.id, part.id), movable.id)


def _wish_to_move(place: WishPlace, chosen: tuple[str, str]) -> Edit:
    part, movable = chosen
    return wish_to_move(place, part, movable, ())


def _selecting(plan: Plan, owner: Device) -> Iterator[Offer]:
    """Scenes, and the programs of other devices."""
    for scene in plan.scenes:
        yield say("Scene {scene}", scene=scene.name), ("scene", scene.id, 0)
    for device in plan.devices:
        if device.id == owner.id or not device.programs:
            continue
        for step in STEPS:
            yield (
                (
                    say("Next program of {device}", device=device.name)
                    if step == "next"
                    else say("Previous program of {device}", device=device.name)
                ),
                (step, device.id, 0),
            )
        for program in device.programs:
            shown = program_words(device, program.number)
            yield f"{device.name}: {shown} {program.name}", ("program", device.id, program.number)


def _wish_to_select(place: WishPlace, chosen: tuple[str, str, int]) -> Edit:
    how, ident, program = chosen
    if how == "scene":
        return wish_for_scene(place, ident)
    if how == "next":
        return wish_to_step(place, ident, "next", ())
    if how == "previous":
        return wish_to_step(place, ident, "previous", ())
    return wish_to_select(place, ident, program, ())


def standard_row(owner: Device, part: Part) -> FactRow:
    """What a part answers by standard, to be made a target that can be wished in Plays."""
    there = lookup.ids_of(owner.targets)
    offers = [NOT_YET]
    for movable in MOVABLES:
        if f"{part.id}-{movable.id}" not in there:
            offers.append((movable.name, movable.id))
    make = partial(add_standard_target, owner.id, part.id)
    return FactRow(say("Let be wished"), "choice", None, make, choices=tuple(offers))
