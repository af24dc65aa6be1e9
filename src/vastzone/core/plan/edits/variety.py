"""Two schools of variety: many kits in a controller and fixed sounds in the receiver, or one kit in
the controller and presets in the receiver.  What pads sound stays, whichever is chosen.
"""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, with_device
from vastzone.core.plan.edits.scenes import free_program
from vastzone.core.plan.edits.setlists import fill_program, own_programs
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import KitChoice, Program, Send
from vastzone.core.plan.model.parts import Kit, Part, Sound
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say

PadKey = tuple[str, int, int]
"""A control, its bank and the layer of what it sends there."""


class Heard(NamedTuple):
    """A controller, the receiver that sounds it, and the part there, with its kit."""

    controller: Device
    receiver: Device
    part: Part
    kit: Kit


def heard_by(plan: Plan, controller: str, part: str, receiver: str) -> Heard:
    """The pads of a controller and the kit that they play.  Raises EditError without a kit."""
    front, behind = lookup.device(plan, controller), lookup.device(plan, receiver)
    played = lookup.part(behind, part)
    if played.kit is None:
        raise EditError(
            say(
                "{played} of {behind} has no kit: choose one that sounds a kit.",
                played=played.name,
                behind=behind.name,
            )
        )
    return Heard(front, behind, played, lookup.kit(behind, played.kit))


def presets_in_receiver(plan: Plan, controller: str, receiver: str, part: str) -> Edit:
    """One kit in the controller: every song’s sounds come from a preset of the receiver.

    Raises EditError where the kit cannot be rearranged, or a device has no room.
    """
    here = heard_by(plan, controller, part, receiver)
    if here.kit.fixed:
        raise EditError(
            say(
                "{kit} of {receiver} cannot be rearranged: leave the kits in {controller}.",
                kit=here.kit.name,
                receiver=here.receiver.name,
                controller=here.controller.name,
            )
        )
    used = _programs_used(plan, here.controller)
    if len(used) < 2:
        raise EditError(
            say(
                "{controller} is on one program in every song already.",
                controller=here.controller.name,
            )
        )
    base = lookup.program(here.controller, used[0])

    def apply(old: Plan) -> Plan:
        for number in used:
            old = _with_preset(old, here, base, number)
        songs = [scene.id for scene in old.scenes]
        return fill_program(songs, controller, base.number).change(old)

    return Edit(say("Presets in {receiver}", receiver=here.receiver.name), apply)


def _programs_used(plan: Plan, device: Device) -> list[int]:
    used: dict[int, None] = {}
    for scene in plan.scenes:
        number = lookup.program_number(scene, device)
        if number is not None:
            used[number] = None
    return list(used)


def _with_preset(plan: Plan, here: Heard, base: Program, number: int) -> Plan:
    """A preset of the receiver in which the base program sounds what another one does now."""
    behind = lookup.device(plan, here.receiver.id)
    songs = []
    for scene in plan.scenes:
        if lookup.program_number(scene, here.controller) == number:
            songs.append(scene.id)
    name = lookup.program(here.controller, number).name
    kit = here.kit
    if number != base.number:
        moved = _moves(base, lookup.program(here.controller, number), here.part)
        ident = lookup.free_id(lookup.ids_of(behind.kits), f"{kit.id}-{name}")
        kit = changed(kit, id=ident, name=f"{kit.name}, {name}"[:80], sounds=_moved(kit, moved))
        behind = changed(behind, kits=(*behind.kits, kit))
    free = free_program(behind)
    if free is None or free >= max(1, behind.storage.slots):
        raise EditError(
            say(
                "{behind} has no free program for {name}: free one first.",
                behind=behind.name,
                name=name,
            )
        )
    choice = KitChoice(part=here.part.id, kit=kit.id)
    preset = Program(number=free, name=name, kits=(choice,))
    behind = changed(behind, programs=(*behind.programs, preset))
    plan = with_device(plan, lookup.device(plan, behind.id), behind)
    return fill_program(songs, behind.id, free).change(plan)


def _notes(program: Program, part: Part) -> dict[PadKey, int]:
    """The notes that pads send to a part, by pad."""
    notes = {}
    for send in program.sends:
        if _plays(send, part):
            notes[send.control, send.bank, send.layer] = send.number
    return notes


def _plays(send: Send, part: Part) -> bool:
    return send.message == "note" and send.channel in (part.channel, None)


def _moves(base: Program, other: Program, part: Part) -> dict[int, int]:
    """Where the sounds that another program calls have to lie for the base program’s notes."""
    wanted = _notes(other, part)
    moves: dict[int, int] = {}
    for key, note in _notes(base, part).items():
        if key in wanted:
            moves.setdefault(wanted[key], note)
    return moves


def _moved(kit: Kit, moves: Mapping[int, int]) -> tuple[Sound, ...]:
    """Sounds on their new notes; what lay there goes where there is room again."""
    taken = {moves[sound.note] for sound in kit.sounds if sound.note in moves}
    free = [s.note for s in kit.sounds if s.note in moves and s.note not in taken]
    sounds = []
    for sound in kit.sounds:
        if sound.note in moves:
            sounds.append(changed(sound, note=moves[sound.note]))
        elif sound.note in taken:
            sounds.append(changed(sound, note=free.pop(0)))
        else:
            sounds.append(sound)
    return tuple(sounds)


def kits_in_controller(plan: Plan, controller: str, receiver: str, part: str) -> Edit:
    """Fixed sounds in the receiver: every song’s kit is a program of the controller.

    The receiver stays on its first program with the part’s own kit.  Raises EditError where a
    device has no room.
    """
    here = heard_by(plan, controller, part, receiver)
    kits = lookup.by_ids(here.receiver.kits)
    songs = [scene.id for scene in plan.scenes]

    def apply(old: Plan) -> Plan:
        kit_in = {}
        for scene in old.scenes:
            program = lookup.program_in(scene, here.receiver)
            chosen = {c.part: c.kit for c in program.kits} if program is not None else {}
            kit_in[scene.id] = kits.get(chosen.get(here.part.id, here.kit.id), here.kit)
        old = own_programs(songs, controller).change(old)
        done: set[int] = set()
        for scene in old.scenes:
            front = lookup.device(old, controller)
            program = lookup.program_in(scene, front)
            if program is None or program.number in done:
                continue
            done.add(program.number)
            new = _follow(program, here, kit_in[scene.id])
            programs = tuple(new if p is program else p for p in front.programs)
            old = with_device(old, front, changed(front, programs=programs))
        return _on_own_kit(old, here, songs)

    return Edit(say("Kits in {controller}", controller=here.controller.name), apply)


def _follow(program: Program, here: Heard, kit: Kit) -> Program:
    """A program whose pads call on the part’s own kit what they call on another now."""
    sound_at = {sound.note: sound.id for sound in kit.sounds}
    note_of = {sound.id: sound.note for sound in here.kit.sounds}
    sends = []
    for send in program.sends:
        sound = sound_at.get(send.number, "")
        if _plays(send, here.part) and sound in note_of:
            send = changed(send, number=note_of[sound])
        sends.append(send)
    return changed(program, sends=tuple(sends))


def _on_own_kit(plan: Plan, here: Heard, songs: Iterable[str]) -> Plan:
    """The receiver on one program, whose part is on its own kit, in every song."""
    behind = lookup.device(plan, here.receiver.id)
    if not behind.programs:
        return plan
    first = behind.programs[0]
    kept = tuple(choice for choice in first.kits if choice.part != here.part.id)
    programs = (changed(first, kits=kept), *behind.programs[1:])
    plan = with_device(plan, behind, changed(behind, programs=programs))
    return fill_program(songs, behind.id, first.number).change(plan)
