"""Finding things in a plan by their ids."""

from collections.abc import Iterable, Iterator, Mapping
from typing import Protocol, TypeVar

from vastzone.core.cache import derived
from vastzone.core.errors import EditError
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send, Zone
from vastzone.core.plan.model.parts import Kit, Part, Target
from vastzone.core.plan.model.plan import Device, Plan, Port, Scene
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say


class _WithId(Protocol):
    @property
    def id(self) -> str: ...


class _Identified(Protocol):
    @property
    def id(self) -> str: ...

    @property
    def name(self) -> str: ...


T = TypeVar("T", bound=_Identified)
Thing = TypeVar("Thing", bound=_WithId)


def find(items: Iterable[T], wanted: str | None) -> T | None:
    """The item with this id; None when there is none."""
    for item in items:
        if item.id == wanted:
            return item
    return None


def names_of(items: Iterable[_Identified]) -> dict[str, str]:
    """The names of things by their ids."""
    names = {}
    for item in items:
        names[item.id] = item.name
    return names


def by_ids(items: Iterable[Thing]) -> dict[str, Thing]:
    """Things by their ids."""
    by_id = {}
    for item in items:
        by_id[item.id] = item
    return by_id


def ids_of(items: Iterable[_WithId]) -> set[str]:
    """The ids of things."""
    return {item.id for item in items}


def by_id(items: Iterable[T], wanted: str, what: str) -> T:
    """The item with id ``wanted``.  Raises EditError when there is none."""
    for item in items:
        if item.id == wanted:
            return item
    raise EditError(
        say(
            "There is no {what} “{wanted}” in this plan: it may have been removed.",
            what=what,
            wanted=wanted,
        )
    )


def device(plan: Plan, wanted: str) -> Device:
    """The device with that id.  Raises EditError."""
    return _devices(plan).get(wanted) or by_id(plan.devices, wanted, "device")


def target(plan: Plan, ref: str) -> Target:
    """The target ``device:target``.  Raises EditError."""
    owner, thing = read_ref(ref)
    return by_id(device(plan, owner).targets, thing, "target")


@derived(16)
def _devices(plan: Plan) -> Mapping[str, Device]:
    by_id = {}
    for device in plan.devices:
        by_id[device.id] = device
    return by_id


@derived(512)
def _programs(owner: Device) -> Mapping[int, Program]:
    """The programs in the first bank by the numbers that they are stored in."""
    also = {}
    for program in owner.programs:
        for slot in program.also:
            if slot.bank == 0:
                also[slot.number] = program
    return also | {program.number: program for program in owner.programs}


@derived(512)
def _controls(controls: tuple[Control, ...]) -> Mapping[str, Control]:
    by_id = {}
    for control in controls:
        by_id[control.id] = control
    return by_id


def controls_by_id(owner: Device) -> Mapping[str, Control]:
    """The controls of a device by their ids."""
    return _controls(owner.controls)


def has_program(owner: Device, number: int) -> bool:
    """Whether some program stands in that slot of the first bank."""
    return number in _programs(owner)


def program_id(owner: Device, number: int) -> str:
    """The id of the program with that number.  Raises EditError."""
    return program(owner, number).id


def scene(plan: Plan, wanted: str) -> Scene:
    """The scene with that id.  Raises EditError."""
    return by_id(plan.scenes, wanted, "scene")


def endpoint(plan: Plan, ref: str) -> tuple[Device, Port]:
    """The device and port of a ``device:port`` reference.  Raises EditError."""
    owner, port = read_ref(ref)
    owner_device = device(plan, owner)
    return owner_device, by_id(
        owner_device.ports,
        port,
        say("port of {owner_device} called", owner_device=owner_device.name),
    )


def keybed(owner: Device, wanted: str) -> Keybed:
    """A keybed of a device.  Raises EditError."""
    return by_id(owner.keybeds, wanted, say("keybed of {owner} called", owner=owner.name))


def part(owner: Device, wanted: str) -> Part:
    """A part of a device.  Raises EditError."""
    return by_id(owner.parts, wanted, say("part of {owner} called", owner=owner.name))


def kit(owner: Device, wanted: str) -> Kit:
    """A kit of a device.  Raises EditError."""
    return by_id(owner.kits, wanted, say("kit of {owner} called", owner=owner.name))


def program(owner: Device, number: int) -> Program:
    """The program with that number.  Raises EditError."""
    known = _programs(owner).get(number)
    if known is not None:
        return known
    shown = number + owner.first_program
    raise EditError(
        say(
            "{owner} has no program {shown} in this plan: add it or choose another.",
            owner=owner.name,
            shown=shown,
        )
    )


def zone(owner: Device, number: int, wanted: str) -> Zone:
    """A zone of a program.  Raises EditError."""
    return by_id(
        program(owner, number).zones, wanted, say("zone of {owner} called", owner=owner.name)
    )


def program_number(at: Scene | None, owner: Device) -> int | None:
    """The program that a device is on in a scene: its first one unless the scene says another.

    One that stands in several slots is known by its own number, whichever of them is chosen.
    """
    for choice in at.programs if at else ():
        if choice.device == owner.id:
            return _own_number(owner, choice.program)
    return owner.programs[0].number if owner.programs else None


def _own_number(owner: Device, slot: int) -> int:
    """The number of the program that stands in a slot; that of the slot where none does."""
    program = _programs(owner).get(slot)
    return slot if program is None else program.number


@derived(512)
def program_numbers(plan: Plan, at: Scene | None) -> Mapping[str, int]:
    """The program that each device is on in a scene, by the device’s id, as ``program_number``."""
    chosen = {choice.device: choice.program for choice in at.programs} if at is not None else {}
    numbers = {}
    for owner in plan.devices:
        if owner.id in chosen:
            numbers[owner.id] = _own_number(owner, chosen[owner.id])
        elif owner.programs:
            numbers[owner.id] = owner.programs[0].number
    return numbers


def program_in(at: Scene | None, owner: Device) -> Program | None:
    """The program itself; None for a device without programs."""
    number = program_number(at, owner)
    return None if number is None else program(owner, number)


def scenes_by_program(plan: Plan, owner: Device) -> dict[int, tuple[str, ...]]:
    """The programs that a device is on in some scene, with those scenes.

    A plan without scenes stays on the first program, in no scene.
    """
    by_program: dict[int, list[str]] = {}
    for at in plan.scenes or (None,):
        number = program_number(at, owner)
        if number is not None:
            by_program.setdefault(number, []).extend([at.id] if at else [])
    return {number: tuple(names) for number, names in by_program.items()}


def scenes_with(plan: Plan, owner: Device, number: int) -> tuple[Scene, ...]:
    """The scenes in which a device is on that program."""
    scenes = []
    for scene in plan.scenes:
        if program_number(scene, owner) == number:
            scenes.append(scene)
    return tuple(scenes)


def ends(owner: Device) -> tuple[Part | Target, ...]:
    """Everything in a device that wishes can end at: its parts, then its targets."""
    all_ends: list[Part | Target] = [*owner.parts, *owner.targets]
    return tuple(all_ends)


def parts(plan: Plan) -> Iterator[tuple[Device, Part]]:
    """Every part with its device, in the plan's order."""
    for owner in plan.devices:
        for owned in owner.parts:
            yield owner, owned


@derived()
def keybeds(plan: Plan) -> tuple[tuple[Device, Keybed], ...]:
    """Every keybed with its device, in the plan's order."""
    beds = []
    for owner in plan.devices:
        for bed in owner.keybeds:
            beds.append((owner, bed))
    return tuple(beds)


@derived(256)
def mute_groups(owner: Device) -> tuple[str, ...]:
    """The mute groups of a device's pads, in the order of their names."""
    sends: list[Send] = []
    for program in owner.programs:
        sends.extend(program.sends)
    groups = set()
    for send in sends:
        for group in (send.mutes, send.muted_by):
            groups.add(group)
    return tuple(sorted(group for group in groups if group))


def free_id(taken: Iterable[str], wish: str) -> str:
    """An id made from a name that is not among ``taken``."""
    base = "".join(c if c.isascii() and c.isalnum() else "-" for c in wish.lower()).strip("-")
    base = base[:40] or "item"
    used, number, free = set(taken), 2, base
    while free in used:
        free, number = f"{base}-{number}", number + 1
    return free
