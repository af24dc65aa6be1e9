"""What can be moved or selected by standard: bend, aftertouch, sustain, programs, whole scenes.

Each becomes a target of what answers it, so that it is wished, worked out, proved and tried like
anything else.
"""

from typing import Literal, NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import SUSTAIN
from vastzone.core.midi.wide import Moving
from vastzone.core.plan.edits import wishes
from vastzone.core.plan.edits.edit import Edit, with_device
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.parts import Part, Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.values import Mode
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.say import say

Step = Literal["next", "previous"]


class Movable(NamedTuple):
    """Something that every part answers by standard: by which message, and how."""

    id: str
    name: str
    answers: Moving = "controller"
    role: int | None = None
    mode: Mode | Literal["continuous"] = "continuous"


MOVABLES: tuple[Movable, ...] = (
    Movable("bend", say("Pitch bend"), "bend"),
    Movable("pressure", say("Aftertouch"), "pressure"),
    Movable("modulation", say("Modulation"), role=1),
    Movable("breath", say("Breath"), role=2),
    Movable("volume", say("Volume"), role=7),
    Movable("expression", say("Expression"), role=11),
    Movable("sustain", say("Sustain"), role=SUSTAIN, mode="momentary"),
)
"""What parts answer by standard (MIDI 1.0, table of controller numbers)."""
BY_ID = lookup.by_ids(MOVABLES)


def standard_target(part: Part, movable: Movable) -> Target:
    """A part's answer to a standard message; a bend in semitones, as far as the part bends."""
    bends = movable.answers == "bend"
    return Target(
        id=f"{part.id}-{movable.id}",
        name=f"{part.name} {movable.name.lower()}",
        part=part.id,
        controller=movable.role,
        role=movable.role,
        unit="st" if bends else "",
        low=-float(part.bend) if bends else 0.0,
        high=float(part.bend) if bends else 127.0,
        mode=movable.mode,
        answers=movable.answers,
        receives="fixed",
    )


def add_standard_target(device: str, part: str, movable: str) -> Edit:
    """Let something that a part answers by standard be wished."""
    what = BY_ID[movable]

    def apply(plan: Plan) -> Plan:
        owner = lookup.device(plan, device)
        return _with_target(plan, owner, standard_target(lookup.part(owner, part), what))[0]

    return Edit(say("Let {what} be wished", what=what.name.lower()), apply)


def wish_to_move(place: WishPlace, part: str, movable: str, scenes: tuple[str, ...]) -> Edit:
    """Wish that a control moves what a part (``device:part``) answers by standard."""
    what = BY_ID[movable]

    def apply(plan: Plan) -> Plan:
        device, ident = read_ref(part)
        owner = lookup.device(plan, device)
        target = standard_target(lookup.part(owner, ident), what)
        return _wished(plan, place, owner, target, scenes)

    return Edit(say("Wish {what}", what=what.name.lower()), apply)


def wish_to_select(place: WishPlace, device: str, program: int, scenes: tuple[str, ...]) -> Edit:
    """Wish that a control selects a program 0–127 of a device."""

    def apply(plan: Plan) -> Plan:
        owner = lookup.device(plan, device)
        return _wished(plan, place, owner, _program_target(owner, program), scenes)

    return Edit(say("Wish a program"), apply)


def wish_to_step(place: WishPlace, device: str, step: Step, scenes: tuple[str, ...]) -> Edit:
    """Wish that a control takes a device to its next or its previous program."""
    target = Target(
        id=f"{step}-program",
        name=say("Next program") if step == "next" else say("Previous program"),
        mode="trigger",
        receives="set",
    )

    def apply(plan: Plan) -> Plan:
        return _wished(plan, place, lookup.device(plan, device), target, scenes)

    return Edit(say("Wish the {step} program", step=step), apply)


def wish_for_scene(place: WishPlace, scene: str) -> Edit:
    """Wish that a control selects what a scene has every other device on.

    Raises EditError where no other device has a program for it.
    """

    def apply(plan: Plan) -> Plan:
        wanted = lookup.scene(plan, scene)
        led = []
        for device in plan.devices:
            if device.id != device_of(place.source) and len(device.programs) > 1:
                led.append(device)
        if not led:
            raise EditError(
                say(
                    "No other device has programs that {wanted} could select: add them first.",
                    wanted=wanted.name,
                )
            )
        for device in led:
            number = lookup.program_number(wanted, device) or 0
            owner = lookup.device(plan, device.id)
            plan = _wished(plan, place, owner, _program_target(owner, number), ())
        return plan

    return Edit(say("Wish a scene"), apply)


def _program_target(owner: Device, program: int) -> Target:
    named = ""
    if lookup.has_program(owner, program):
        named = f" {lookup.program(owner, program).name}"
    return Target(
        id=f"program-{program}",
        name=say("Program {program}{named}", program=program_words(owner, program), named=named)[
            :80
        ],
        controller=program,
        mode="trigger",
        answers="program",
        receives="fixed",
    )


def _wished(
    plan: Plan, place: WishPlace, owner: Device, target: Target, scenes: tuple[str, ...]
) -> Plan:
    plan, ident = _with_target(plan, owner, target)
    end = ref_to(owner.id, ident)
    if wishes.held_at(plan, place, end, scenes):
        return plan
    return wishes.make(plan, place, end, scenes).change(plan)


def _with_target(plan: Plan, owner: Device, target: Target) -> tuple[Plan, str]:
    """A plan in which a device has a target, and what it is called there."""
    for there in owner.targets:
        if _is_the_same(there, target):
            return plan, there.id
    taken: set[str] = set()
    for things in (owner.keybeds, owner.controls, owner.parts, owner.targets, owner.inputs):
        taken |= lookup.ids_of(things)
    new = changed(target, id=lookup.free_id(taken, target.id))
    more = changed(owner, targets=(*owner.targets, new))
    return with_device(plan, owner, more), new.id


def _is_the_same(there: Target, target: Target) -> bool:
    """Whether a device has a target already that does what another would."""
    if there.id == target.id:
        return True
    heard = (there.part, there.answers) == (target.part, target.answers)
    return heard and there.wide is not None and there.wide == target.wide
