"""A proposal of kits made true: a program for each kit, scenes on their programs, wishes moved."""

from collections.abc import Sequence

import msgspec

from vastzone.core.engine.named_sounds import wished_name
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.programs import copy_program
from vastzone.core.plan.edits.scenes import choose_program
from vastzone.core.plan.edits.wishes import WishPlace, take_back
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.core.solve.kits import Kits, own_pads
from vastzone.core.text import listed


def apply_kits(device: str, kits: Kits, pads: Sequence[Control]) -> Edit:
    """Make kits true as one step; the numbers that pads send are worked out afterwards.

    ``pads`` are those that the kits count.  Raises EditError where a scene needs two kits.
    """

    def apply(plan: Plan) -> Plan:
        if kits.split:
            names = lookup.names_of(plan.scenes)
            raise EditError(
                say(
                    "{names} cannot be played in one kit: make two scenes of it, or wish fewer "
                    "sounds "
                    "there.",
                    names=listed(names.get(s, s) for s in kits.split),
                )
            )
        numbers: list[int] = []
        for _ in kits.kits:
            plan = _with_program(plan, device, len(numbers) + 1)
            numbers.append(lookup.device(plan, device).programs[len(numbers)].number)
        plan = _without_wishes(plan, device)
        for number in range(len(kits.kits)):
            scenes = tuple(scene for scene, kit in kits.scenes.items() if kit == number)
            for scene in scenes:
                if scene:
                    plan = choose_program(scene, device, numbers[number]).change(plan)
            plan = _with_kit(plan, device, kits, number, scenes, pads)
        return plan

    return Edit(say("Lay sounds out over programs"), apply)


def _with_program(plan: Plan, device: str, count: int) -> Plan:
    """A plan in which a device has so many programs at least."""
    owner = lookup.device(plan, device)
    if len(owner.programs) >= count or not owner.programs:
        return plan
    last = owner.programs[-1]
    return copy_program(device, last.number, say("Kit {count}", count=count)).change(plan)


def _without_wishes(plan: Plan, device: str) -> Plan:
    """A plan in which the pads of a device are wished to play nothing."""
    for pad in own_pads(lookup.device(plan, device)):
        ref = ref_to(device, pad.id)
        for wish in tuple(plan.wishes):
            if wish.plays and ref in wish.sources:
                plan = take_back(WishPlace(ref, wish.bank), wish.plays, ()).change(plan)
    return plan


def _with_kit(
    plan: Plan,
    device: str,
    kits: Kits,
    number: int,
    scenes: tuple[str, ...],
    pads: Sequence[Control],
) -> Plan:
    """A plan with the wishes of one kit, in the scenes that are played in it."""
    taken = lookup.ids_of(plan.wishes)
    wishes: list[Wish] = []
    for name in sorted(kits.kits[number], key=lambda sound: kits.pad(number, sound)):
        part, _, sound = name.partition("/")
        ident = lookup.free_id(taken, f"{sound}-{number + 1}")
        taken.add(ident)
        pitch = {"note": int(sound)} if sound.isdigit() else {"sounds": (sound,)}
        wishes.append(
            Wish(
                id=ident,
                name=wished_name(plan, part, sound),
                sources=(ref_to(device, pads[kits.pad(number, name)].id),),
                plays=part,
                scenes=tuple(scene for scene in scenes if scene),
                **pitch,
            )
        )
    return msgspec.structs.replace(plan, wishes=(*plan.wishes, *wishes))
