"""Edits of set lists, of how songs begin, and of where programs are stored for them."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, set_item, with_device
from vastzone.core.plan.edits.scenes import own_program
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.plan import Device, Plan, ProgramChoice, Scene
from vastzone.core.plan.model.setlists import (
    Arrival,
    PlayerNote,
    ProgramSent,
    SetList,
    SetStep,
    StartValue,
    Way,
)
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many


def add_setlist(name: str, songs: Iterable[str] | None = None) -> Edit:
    """Add a set list of some songs, of all of them where none are named."""

    def apply(plan: Plan) -> Plan:
        every = [scene.id for scene in plan.scenes] if songs is None else list(songs)
        steps = tuple(SetStep(scene=lookup.scene(plan, ident).id) for ident in every)
        ident = lookup.free_id(lookup.ids_of(plan.setlists), name)
        new = changed(SetList(id=ident, name=say("New"), steps=steps), name=name)
        return msgspec.structs.replace(plan, setlists=(*plan.setlists, new))

    return Edit(say("Add set list"), apply)


def remove_setlist(ident: str) -> Edit:
    """Take a set list away; its songs stay."""

    def apply(plan: Plan) -> Plan:
        gone = lookup.by_id(plan.setlists, ident, "set list")
        return msgspec.structs.replace(plan, setlists=swapped(plan.setlists, gone))

    return Edit(say("Remove set list"), apply)


def set_setlist(ident: str, label: str, **changes: Any) -> Edit:
    """Change fields of a set list, such as its name."""
    return set_item("setlists", ident, "set list", label, **changes)


def set_steps(ident: str, label: str, steps: Sequence[SetStep]) -> Edit:
    """Give a set list other steps.  Raises EditError for a song that is not there."""

    def apply(plan: Plan) -> Plan:
        old = lookup.by_id(plan.setlists, ident, "set list")
        for step in steps:
            if step.scene is not None:
                lookup.scene(plan, step.scene)
        new = changed(old, steps=tuple(steps))
        return msgspec.structs.replace(plan, setlists=swapped(plan.setlists, old, new))

    return Edit(label, apply)


def move_step(ident: str, place: int, to: int) -> Edit:
    """Put a step of a set list at another place.  Raises EditError outside the list."""

    def apply(plan: Plan) -> Plan:
        steps = list(lookup.by_id(plan.setlists, ident, "set list").steps)
        if not (0 <= place < len(steps) and 0 <= to < len(steps)):
            raise EditError(
                say(
                    "The set list has {places}: choose one of them.",
                    places=say_many("{count} place", "{count} places", len(steps)),
                )
            )
        steps.insert(to, steps.pop(place))
        return set_steps(ident, "", steps).change(plan)

    return Edit(say("Reorder the set list"), apply)


def put_step(ident: str, place: int, step: SetStep) -> Edit:
    """Put a song or a break into a set list before a place, at the end where that is beyond."""

    def apply(plan: Plan) -> Plan:
        steps = list(lookup.by_id(plan.setlists, ident, "set list").steps)
        steps.insert(max(0, place), step)
        return set_steps(ident, "", steps).change(plan)

    return Edit(say("Add to the set list"), apply)


def drop_step(ident: str, place: int) -> Edit:
    """Take a step out of a set list.  Raises EditError outside the list."""

    def apply(plan: Plan) -> Plan:
        steps = list(lookup.by_id(plan.setlists, ident, "set list").steps)
        if not 0 <= place < len(steps):
            raise EditError(
                say(
                    "The set list has {places}: choose one of them.",
                    places=say_many("{count} place", "{count} places", len(steps)),
                )
            )
        del steps[place]
        return set_steps(ident, "", steps).change(plan)

    return Edit(say("Take out of the set list"), apply)


def set_scene(scene: str, label: str, **changes: Any) -> Edit:
    """Change fields of a song: its tempo, key, notes, transposition."""
    return set_item("scenes", scene, "scene", label, **changes)


def set_arrival(scene: str, device: str, way: Way | None) -> Edit:
    """Say how a device gets to its program in one song; None is as usual."""

    def change(plan: Plan, old: Scene) -> Scene:
        lookup.device(plan, device)
        kept = tuple(each for each in old.arrivals if each.device != device)
        new = () if way is None else (Arrival(device=device, way=way),)
        return changed(old, arrivals=(*kept, *new))

    return _edit_song(scene, say("Change how a device gets there"), change)


def set_start(scene: str, target: str, value: float | None) -> Edit:
    """Say what a song puts a target to at its beginning; None leaves it as it is."""

    def change(plan: Plan, old: Scene) -> Scene:
        kept = tuple(each for each in old.starts if each.target != target)
        new = () if value is None else (begins_at(plan, target, value),)
        return changed(old, starts=(*kept, *new))

    return _edit_song(scene, say("Change what a song begins with"), change)


def begins_at(plan: Plan, ref: str, value: float) -> StartValue:
    """A value to begin with.  Raises EditError where the target cannot stand there."""
    target = lookup.target(plan, ref)
    low, high = sorted(target.reach)
    if not low <= value <= high:
        unit = f" {target.unit}" if target.unit else ""
        raise EditError(
            say(
                "{target} goes from {low:g} to {high:g}{unit}, not to {value:g}: write a value "
                "between these.",
                target=target.name,
                low=low,
                high=high,
                unit=unit,
                value=value,
            )
        )
    return StartValue(target=ref, value=value)


def set_note(scene: str, player: str, **changes: Any) -> Edit:
    """Change what a player has to think of in a song, and hears; nothing takes the note away."""

    def change(_: Plan, old: Scene) -> Scene:
        said = {note.player: note for note in old.players}
        empty = changed(PlayerNote(player="x"), player=player)
        note = changed(said.get(player, empty), **changes)
        kept = tuple(each for each in old.players if each.player != player)
        new = () if note == empty else (note,)
        return changed(old, players=(*kept, *new))

    return _edit_song(scene, say("Change a note"), change)


def _edit_song(scene: str, label: str, change: Callable[[Plan, Scene], Scene]) -> Edit:
    """An edit of one song, which may look at the plan."""

    def apply(plan: Plan) -> Plan:
        old = lookup.scene(plan, scene)
        scenes = swapped(plan.scenes, old, change(plan, old))
        return msgspec.structs.replace(plan, scenes=scenes)

    return Edit(label, apply)


def fill_program(scenes: Iterable[str], device: str, number: int) -> Edit:
    """Put a device on one program in several songs.  Raises EditError for none such."""
    songs = tuple(scenes)

    def apply(plan: Plan) -> Plan:
        lookup.program(lookup.device(plan, device), number)
        after = []
        for scene in plan.scenes:
            if scene.id in songs:
                kept = tuple(c for c in scene.programs if c.device != device)
                choice = ProgramChoice(device=device, program=number)
                scene = changed(scene, programs=(*kept, choice))
            after.append(scene)
        return msgspec.structs.replace(plan, scenes=tuple(after))

    return Edit(say("Choose program"), apply)


def own_programs(scenes: Iterable[str], device: str) -> Edit:
    """Give each of some songs a program of its own; one that has it to itself keeps it.

    Raises EditError where the device has no free program left.
    """
    songs = tuple(scenes)

    def apply(plan: Plan) -> Plan:
        for scene in songs:
            owner = lookup.device(plan, device)
            number = lookup.program_number(lookup.scene(plan, scene), owner)
            if number is not None and len(lookup.scenes_with(plan, owner, number)) > 1:
                plan = own_program(scene, device).change(plan)
        return plan

    return Edit(say("Give songs programs of their own"), apply)


def store_as(device: str, slots: Mapping[int, Sequence[int]]) -> Edit:
    """Store programs of a device in other slots, by their numbers now; scenes follow them.

    The first slot is a program's own, the others are copies.  Raises EditError where two would
    stand in one slot, or one beyond the device.
    """

    def apply(plan: Plan) -> Plan:
        owner = lookup.device(plan, device)
        taken = [slot for found in slots.values() for slot in found]
        if len(set(taken)) < len(taken) or any(not 0 <= slot < 128 for slot in taken):
            raise EditError(
                say(
                    "Two programs of {owner} would stand in one slot: choose others.",
                    owner=owner.name,
                )
            )
        programs = [_stored(program, slots.get(program.number)) for program in owner.programs]
        programs.sort(key=_number)
        own = {number: found[0] for number, found in slots.items()}
        first = _after_copies(owner, own)
        scenes = tuple(_follow(scene, owner, first) for scene in plan.scenes)
        new = changed(owner, programs=tuple(programs))
        return msgspec.structs.replace(with_device(plan, owner, new), scenes=scenes)

    return Edit(say("Store programs for the evening"), apply)


def _number(program: Program) -> int:
    return program.number


def _stored(program: Program, slots: Sequence[int] | None) -> Program:
    if not slots:
        return program
    elsewhere = tuple(slot for slot in program.also if slot.bank)
    copies = tuple(Slot(number=slot) for slot in slots[1:])
    return changed(program, number=slots[0], also=(*copies, *elsewhere))


def _after_copies(owner: Device, own: Mapping[int, int]) -> dict[int, int]:
    """The own slot, now, of what each slot of the device held before."""
    moved = {}
    for program in owner.programs:
        new = own.get(program.number, program.number)
        for number in (program.number, *(s.number for s in program.also if not s.bank)):
            moved[number] = new
    return moved


def _follow(scene: Scene, owner: Device, moved: Mapping[int, int]) -> Scene:
    choices = []
    for choice in scene.programs:
        if choice.device == owner.id and choice.program in moved:
            choice = changed(choice, program=moved[choice.program])
        choices.append(choice)
    # What stays on the first program by saying nothing has to name it, once others come first.
    named = any(choice.device == owner.id for choice in choices)
    if not named and owner.programs:
        first = owner.programs[0].number
        choices.append(ProgramChoice(device=owner.id, program=moved.get(first, first)))
    return changed(scene, programs=tuple(choices))


def lead(plan: Plan, leader: str, follower: str, channel: int) -> Edit:
    """Have a device select the programs of another: every program sends the follower's number.

    Raises EditError where one program of the leader would have to select two.
    """
    front, behind = lookup.device(plan, leader), lookup.device(plan, follower)
    if leader == follower:
        raise EditError(say("{front} cannot lead itself: choose another device.", front=front.name))
    wanted = _wanted(plan, front, behind)

    def apply(old: Plan) -> Plan:
        owner = lookup.device(old, leader)
        programs = []
        for program in owner.programs:
            kept = tuple(sent for sent in program.selects if sent.channel != channel)
            number = wanted.get(program.number)
            sent = () if number is None else (ProgramSent(channel=channel, number=number),)
            programs.append(changed(program, selects=(*kept, *sent)))
        left = with_device(old, owner, changed(owner, programs=tuple(programs)))
        led = lookup.device(left, follower)
        after = changed(led, changes_by="by message", led_by=leader, hears_programs=channel)
        return with_device(left, led, after)

    return Edit(say("Let {front} lead {behind}", front=front.name, behind=behind.name), apply)


def _wanted(plan: Plan, front: Device, behind: Device) -> dict[int, int]:
    """The follower's program for each of the leader's; of all songs."""
    wanted: dict[int, int] = {}
    for scene in plan.scenes:
        mine = lookup.program_number(scene, front)
        number = lookup.program_number(scene, behind)
        if mine is None or number is None:
            continue
        if wanted.setdefault(mine, number) != number:
            name = lookup.program(front, mine).name
            raise EditError(
                say(
                    "{name} of {front} is used in two songs that want other programs of "
                    "{behind}: give "
                    "one song a program of its own first.",
                    name=name,
                    front=front.name,
                    behind=behind.name,
                )
            )
    return wanted


def lead_no_longer(follower: str) -> Edit:
    """Let a device be led by none: its own buttons select programs."""

    def apply(plan: Plan) -> Plan:
        led = lookup.device(plan, follower)
        after = changed(led, changes_by="own buttons", led_by=None, hears_programs=None)
        return with_device(plan, led, after)

    return Edit(say("Lead a device no longer"), apply)
