"""Edits of the programs of a device: named, copied, moved to another number, cleared, removed."""

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_program, with_device
from vastzone.core.plan.edits.scenes import free_program, program_copy
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import KitChoice, Program
from vastzone.core.plan.model.plan import Device, Plan, ProgramChoice, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_setting_ref
from vastzone.core.say import say


def rename_program(device: str, number: int, name: str) -> Edit:
    """Give a program another name.  Raises EditError where it has none or too long a one."""
    return edit_program(
        device, number, say("Rename program"), lambda program, _: changed(program, name=name)
    )


def clear_program(device: str, number: int) -> Edit:
    """Let a program send nothing and put no part on a kit; one zone lies over each keybed."""

    def clear(program: Program, owner: Device) -> Program:
        zones = []
        for bed in owner.keybeds:
            mine = [zone for zone in program.zones if zone.keybed == bed.id]
            if mine:
                zones.append(changed(mine[0], low=bed.low, high=bed.high))
        return changed(program, zones=tuple(zones), sends=(), kits=())

    return edit_program(device, number, say("Clear program"), clear)


def copy_program(device: str, number: int, name: str = "") -> Edit:
    """Put a copy of a program on the lowest free number.  Raises EditError where none is free."""

    def apply(plan: Plan) -> Plan:
        owner = lookup.device(plan, device)
        old = lookup.program(owner, number)
        free = free_program(owner)
        if free is None:
            raise EditError(say("{owner} has no free program: remove one first.", owner=owner.name))
        copy = program_copy(owner, old, free, name or f"{old.name} 2")
        return with_device(plan, owner, changed(owner, programs=(*owner.programs, copy)))

    return Edit(say("Copy program"), apply)


def move_program(device: str, number: int, to: int) -> Edit:
    """Store a program on another number, in exchange with what stands there; scenes follow it.

    Raises EditError for a number that the device has not got.
    """

    def apply(plan: Plan) -> Plan:
        owner = lookup.device(plan, device)
        lookup.program(owner, number)
        if not 0 <= to < max(1, owner.storage.slots):
            first = owner.first_program
            raise EditError(
                say(
                    "{owner} has programs {first} to {slots}: choose one of these.",
                    owner=owner.name,
                    first=first,
                    slots=owner.storage.slots - 1 + first,
                )
            )
        moved = {number: to, to: number}
        programs = []
        for program in owner.programs:
            also = tuple(
                changed(slot, number=moved.get(slot.number, slot.number)) if not slot.bank else slot
                for slot in program.also
            )
            place = moved.get(program.number, program.number)
            programs.append(changed(program, number=place, also=also))
        programs.sort(key=lambda program: program.number)
        plan = with_device(plan, owner, changed(owner, programs=tuple(programs)))
        scenes = tuple(_with_number(scene, device, moved) for scene in plan.scenes)
        return msgspec.structs.replace(plan, scenes=scenes)

    return Edit(say("Move program"), apply)


def _with_number(scene: Scene, device: str, moved: dict[int, int]) -> Scene:
    choices = []
    for choice in scene.programs:
        if choice.device == device and choice.program in moved:
            choice = changed(choice, program=moved[choice.program])
        choices.append(choice)
    return changed(scene, programs=tuple(choices))


def remove_program(device: str, number: int) -> Edit:
    """Take a program out; scenes that were on it are on the first one left.

    Raises EditError for the last program.
    """

    def apply(plan: Plan) -> Plan:
        owner = lookup.device(plan, device)
        gone = lookup.program(owner, number)
        left = tuple(program for program in owner.programs if program is not gone)
        if not left:
            raise EditError(
                say("{owner} keeps one program at least: clear this one instead.", owner=owner.name)
            )
        plan = with_device(plan, owner, changed(owner, programs=left))
        numbers = {slot.number for slot in slots_of(gone)}
        scenes = tuple(_without(scene, device, numbers, left[0].number) for scene in plan.scenes)
        settings = []
        for record in plan.settings:
            read = read_setting_ref(record.ref)
            if (read.device, read.program) != (device, gone.id):
                settings.append(record)
        return msgspec.structs.replace(plan, scenes=scenes, settings=tuple(settings))

    return Edit(say("Remove program"), apply)


def _without(scene: Scene, device: str, numbers: set[int], first: int) -> Scene:
    choices = []
    for choice in scene.programs:
        if choice.device == device and choice.program in numbers:
            choice = ProgramChoice(device=device, program=first)
        choices.append(choice)
    return changed(scene, programs=tuple(choices))


def choose_kit(device: str, number: int, part: str, kit: str | None) -> Edit:
    """Put a part on a kit in one program; None leaves it on the kit that it is on everywhere."""

    def choose(program: Program, _owner: Device) -> Program:
        kept = tuple(choice for choice in program.kits if choice.part != part)
        new = () if kit is None else (KitChoice(part=part, kit=kit),)
        return changed(program, kits=(*kept, *new))

    return edit_program(device, number, say("Choose kit"), choose)
