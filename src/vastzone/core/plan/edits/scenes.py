"""Edits of scenes and of the programs that they are on."""

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, with_device
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan, ProgramChoice, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.evening import tidy
from vastzone.core.plan.queries.limits import most
from vastzone.core.say import say


def choose_program(scene: str, device: str, number: int) -> Edit:
    """Put a device on another program in one scene."""

    def apply(plan: Plan) -> Plan:
        old = lookup.scene(plan, scene)
        kept = tuple(program for program in old.programs if program.device != device)
        new = changed(old, programs=(*kept, ProgramChoice(device=device, program=number)))
        return msgspec.structs.replace(plan, scenes=swapped(plan.scenes, old, new))

    return Edit(say("Choose program"), apply)


def own_program(scene: str, device: str) -> Edit:
    """Give a scene a program of its own, copied from the one that it shares.

    Raises EditError when the device has no free program number.
    """

    def apply(plan: Plan) -> Plan:
        at, owner = lookup.scene(plan, scene), lookup.device(plan, device)
        old = lookup.program_in(at, owner)
        number = free_program(owner)
        if old is None or number is None:
            raise EditError(
                say(
                    "{owner} has no free program for {at}: free one first.",
                    owner=owner.name,
                    at=at.name,
                )
            )
        copy = program_copy(owner, old, number, at.name)
        plan = with_device(plan, owner, changed(owner, programs=(*owner.programs, copy)))
        return choose_program(scene, device, number).change(plan)

    return Edit(say("Give scene its own program"), apply)


def free_program(owner: Device) -> int | None:
    """The lowest number of a slot in which no program stands; None when every slot is taken."""
    limit = most(owner, "memory-slots")
    count = limit.most if limit else 128
    used = set(limit.taken) if limit else set()
    for program in owner.programs:
        for slot in slots_of(program):
            used.add(slot.number)
    return next((number for number in range(count) if number not in used), None)


def program_copy(owner: Device, program: Program, number: int, name: str) -> Program:
    """A program again under another number, with an id of its own."""
    ident = str(number)
    if any(other.id == ident for other in owner.programs):
        ident = lookup.free_id(lookup.ids_of(owner.programs), name)
    return changed(program, id=ident, number=number, name=name, also=())


def rename_scene(scene: str, name: str) -> Edit:
    """Give a scene another name."""

    def apply(plan: Plan) -> Plan:
        old = lookup.scene(plan, scene)
        return msgspec.structs.replace(
            plan, scenes=swapped(plan.scenes, old, changed(old, name=name))
        )

    return Edit(say("Rename scene"), apply)


def add_scene(name: str) -> Edit:
    """Add a scene at the end, with the programs of the last one."""

    def apply(plan: Plan) -> Plan:
        programs = plan.scenes[-1].programs if plan.scenes else ()
        new = Scene(
            id=lookup.free_id(lookup.ids_of(plan.scenes), name),
            name=name,
            programs=programs,
        )
        return msgspec.structs.replace(plan, scenes=(*plan.scenes, new))

    return Edit(say("Add scene"), apply)


def move_scene(scene: str, steps: int) -> Edit:
    """Put a scene some places on or back in their order; it stays at the ends."""

    def apply(plan: Plan) -> Plan:
        moved = lookup.scene(plan, scene)
        scenes = [other for other in plan.scenes if other is not moved]
        place = max(0, min(len(scenes), plan.scenes.index(moved) + steps))
        scenes.insert(place, moved)
        return msgspec.structs.replace(plan, scenes=tuple(scenes))

    return Edit(say("Move scene"), apply)


def copy_scene(scene: str) -> Edit:
    """Put a copy of a scene behind it, with the wishes that hold in it."""

    def apply(plan: Plan) -> Plan:
        old = lookup.scene(plan, scene)
        ident = lookup.free_id(lookup.ids_of(plan.scenes), old.name)
        names = {other.name for other in plan.scenes}
        name, number = f"{old.name} 2", 3
        while name in names:
            name, number = f"{old.name} {number}", number + 1
        copy = changed(old, id=ident, name=name)
        scenes = list(plan.scenes)
        scenes.insert(scenes.index(old) + 1, copy)
        wishes = []
        for wish in plan.wishes:
            if scene in wish.scenes:
                wish = msgspec.structs.replace(wish, scenes=(*wish.scenes, ident))
            wishes.append(wish)
        couplings = []
        for one in plan.couplings:
            if scene in one.scenes:
                one = msgspec.structs.replace(one, scenes=(*one.scenes, ident))
            couplings.append(one)
        return msgspec.structs.replace(
            plan, scenes=tuple(scenes), wishes=tuple(wishes), couplings=tuple(couplings)
        )

    return Edit(say("Copy scene"), apply)


def remove_scene(scene: str) -> Edit:
    """Take a scene out; wishes that held only in it go with it."""

    def apply(plan: Plan) -> Plan:
        gone = lookup.scene(plan, scene)
        wishes = []
        for wish in plan.wishes:
            left = tuple(ident for ident in wish.scenes if ident != scene)
            if left or not wish.scenes:
                wishes.append(msgspec.structs.replace(wish, scenes=left))
        rest = msgspec.structs.replace(
            plan,
            scenes=tuple(other for other in plan.scenes if other is not gone),
            wishes=tuple(wishes),
            log=tuple(entry for entry in plan.log if entry.scene != scene),
        )
        return tidy(rest)

    return Edit(say("Remove scene"), apply)
