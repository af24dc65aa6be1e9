"""Names of a device's programs, of the sounds on its notes and of its controllers, as a list."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

from vastzone.core.describe.making_sounds import tag_of
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.parts import Kit, Part, Sound, Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many

ControlType = Literal["7bit", "14bit", "RPN", "NRPN"]
ANSWERS: dict[ControlType, Literal["controller", "pair", "rpn", "nrpn"]] = {
    "7bit": "controller",
    "14bit": "pair",
    "RPN": "rpn",
    "NRPN": "nrpn",
}


class NamedKit(NamedTuple):
    """A list of names for notes 0–127."""

    name: str
    notes: tuple[tuple[int, str], ...]


class NamedProgram(NamedTuple):
    """A name for program 0–127 of bank 0–16383."""

    bank: int
    number: int
    name: str


class NamedControl(NamedTuple):
    """A name for a controller: of 7 or 14 bits 0–127, of a parameter 0–16383."""

    type: ControlType
    number: int
    name: str


class Names(NamedTuple):
    """All the names that a device is known to have."""

    kits: tuple[NamedKit, ...] = ()
    programs: tuple[NamedProgram, ...] = ()
    controls: tuple[NamedControl, ...] = ()

    @property
    def words(self) -> str:
        """How many of each."""
        notes = sum(len(kit.notes) for kit in self.kits)
        return ", ".join(
            (
                say_many("{count} program", "{count} programs", len(self.programs)),
                say(
                    "{kits} with {sounds}",
                    kits=say_many("{count} kit", "{count} kits", len(self.kits)),
                    sounds=say_many("{count} sound", "{count} sounds", notes),
                ),
                say_many("{count} controller", "{count} controllers", len(self.controls)),
            )
        )


def names_in(device: Device) -> Names:
    """The names of a device as it is."""
    kits = []
    for kit in device.kits:
        notes = tuple((sound.note, sound.name) for sound in kit.sounds)
        kits.append(NamedKit(kit.name, notes))
    programs = []
    for program in device.programs:
        programs.append(NamedProgram(0, program.number, program.name))
        for slot in program.also:
            programs.append(NamedProgram(slot.bank, slot.number, program.name))
    types = {answers: kind for kind, answers in ANSWERS.items()}
    controls = []
    for target in device.targets:
        if target.answers in types and target.wide is not None:
            controls.append(NamedControl(types[target.answers], target.wide, target.name))
    return Names(tuple(kits), tuple(programs), tuple(controls))


def take_names(device: str, names: Names) -> Edit:
    """Give a device these names: programs and controllers by number, kits by their own name.

    What is not there yet is added.
    """

    def change(owner: Device) -> Device:
        owner = changed(owner, programs=_programs(owner, names.programs))
        owner = changed(owner, targets=_targets(owner, names.controls))
        return _with_kits(owner, names.kits)

    return edit_device(device, say("Take names: {names}", names=names.words), change)


def _programs(owner: Device, named: Sequence[NamedProgram]) -> tuple[Program, ...]:
    programs = list(owner.programs)
    model = programs[0] if programs else Program(number=0, name=say("First"))
    for bank, number, name in named:
        slot = Slot(number=number, bank=bank)
        place = next((at for at, each in enumerate(programs) if _stands_in(each, slot)), None)
        if place is not None:
            programs[place] = changed(programs[place], name=name)
        elif not bank:
            ident = lookup.free_id(lookup.ids_of(programs), str(number))
            programs.append(changed(model, id=ident, number=number, name=name, also=()))
    return tuple(programs)


def _stands_in(program: Program, slot: Slot) -> bool:
    own = program.number == slot.number and not slot.bank
    return own or slot in program.also


def _targets(owner: Device, named: Sequence[NamedControl]) -> tuple[Target, ...]:
    targets = list(owner.targets)
    for kind, number, name in named:
        answers = ANSWERS[kind]
        place = None
        for at, target in enumerate(targets):
            if (target.answers, target.wide) == (answers, number):
                place = at
        if place is not None:
            targets[place] = changed(targets[place], name=name)
            continue
        ident = lookup.free_id(lookup.ids_of(targets) | lookup.ids_of(owner.parts), name)
        page, low = (number >> 7, number & 0x7F) if number > 127 else (0, number)
        fresh = Target(id=ident, name=name, answers=answers, controller=low, page=page)
        targets.append(fresh)
    return tuple(targets)


def _with_kits(owner: Device, named: Sequence[NamedKit]) -> Device:
    for name, notes in named:
        old = next((kit for kit in owner.kits if kit.name == name), None)
        sounds: list[Sound] = []
        for note, words in notes:
            known = None if old is None else _on_note(old, note)
            ident = known.id if known is not None else words
            ident = lookup.free_id(lookup.ids_of(sounds), ident)
            fresh = known or Sound(id=ident, name=words, note=note)
            sounds.append(changed(fresh, id=ident, name=words))
        if old is not None:
            kits = tuple(
                changed(kit, sounds=tuple(sounds)) if kit is old else kit for kit in owner.kits
            )
            owner = changed(owner, kits=kits)
            continue
        ident = lookup.free_id(lookup.ids_of(owner.kits), name)
        owner = changed(owner, kits=(*owner.kits, Kit(id=ident, name=name, sounds=tuple(sounds))))
        owner = _with_rhythm(owner, ident)
    return owner


def _on_note(kit: Kit, note: int) -> Sound | None:
    return next((sound for sound in kit.sounds if sound.note == note), None)


def _with_rhythm(owner: Device, kit: str) -> Device:
    """A part that plays the first kit of a device, where none plays any."""
    if any(part.kit is not None for part in owner.parts):
        return owner
    taken = lookup.ids_of(owner.parts) | lookup.ids_of(owner.targets)
    rhythm = Part(
        id=lookup.free_id(taken, say("Rhythm")),
        name=say("Rhythm"),
        tag=tag_of("Rhythm", owner),
        channel=10,
        rhythm=True,
        kit=kit,
        trigger="one-shot",
    )
    return changed(owner, parts=(*owner.parts, rhythm))
