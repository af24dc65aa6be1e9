"""Edits of couplers that are wished, of where they are held, of pistons and crescendos."""

from collections.abc import Iterable
from typing import Any

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, add_item, edit_device, set_item, with_device
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.organ import Combination, Coupler, Coupling, Crescendo
from vastzone.core.plan.model.parts import Part, Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability, has_field
from vastzone.core.plan.refs import device_of, read_ref, ref_to, thing_of
from vastzone.core.say import say


def wish_coupler(coupling: Coupling) -> Edit:
    """Wish that some keys also play a part while a stop is drawn; under an id of its own."""
    return add_item("couplings", coupling)


def change_coupler(ident: str, label: str, **changes: Any) -> Edit:
    """Change fields of a wished coupler.  Raises EditError for none such."""
    return set_item("couplings", ident, "coupler", label, **changes)


def drop_coupler(ident: str) -> Edit:
    """Wish a coupler no longer; what held it goes too."""

    def apply(plan: Plan) -> Plan:
        one = lookup.by_id(plan.couplings, ident, "coupler")
        plan = without_holding(one).change(plan)
        return msgspec.structs.replace(plan, couplings=swapped(plan.couplings, one))

    return Edit(say("Take a coupler back"), apply)


def hold_in_console(plan: Plan, coupling: Coupling) -> Edit:
    """Have the console's encoder send the keys on the part's channel too, while it is drawn.

    Raises EditError where the stop is another device's, or the encoder cannot.
    """
    device, bed = read_ref(coupling.keys)
    owner, part = lookup.device(plan, device), _part(plan, coupling.plays)
    if device_of(coupling.stop) != device:
        raise EditError(
            say(
                "{coupling} is drawn at another device than its keys: let the organ hold it.",
                coupling=coupling.name,
            )
        )
    if not has_field(owner, "zone/drawn_by"):
        raise EditError(say("{owner} holds no couplers: let the organ hold it.", owner=owner.name))
    keybed = lookup.keybed(owner, bed)

    def apply(old: Plan) -> Plan:
        programs = []
        for program in lookup.device(old, device).programs:
            programs.append(_with_zone(program, coupling, keybed, part))
        now = lookup.device(old, device)
        return with_device(old, now, changed(now, programs=tuple(programs)))

    return Edit(say("Let {owner} hold {coupling}", owner=owner.name, coupling=coupling.name), apply)


def _with_zone(program: Program, coupling: Coupling, bed: Keybed, part: Part) -> Program:
    stop = thing_of(coupling.stop)
    zone = Zone(
        id=lookup.free_id(lookup.ids_of(program.zones), coupling.id),
        name=coupling.name,
        keybed=bed.id,
        low=bed.low,
        high=bed.high,
        channel=part.channel or 1,
        transpose=coupling.shift - part.transpose,
        drawn_by=stop,
    )
    others = tuple(other for other in program.zones if not _couples(other, coupling, zone))
    return changed(program, zones=(*others, zone))


def _couples(zone: Zone, coupling: Coupling, like: Zone) -> bool:
    """Whether a zone holds the same coupler: it gives way to a better one."""
    same = (zone.drawn_by, zone.keybed) == (like.drawn_by, like.keybed)
    return same and zone.name == coupling.name


def hold_in_organ(plan: Plan, coupling: Coupling, played: Iterable[str]) -> Edit:
    """Have the organ let a part play with those that the keys play, while it is drawn.

    ``played`` are the parts ``device:part`` that the keys sound by themselves.  What the stop is
    wished to move there draws it; without such a thing there is a new target.  Raises EditError
    where the keys sound nothing in that device.
    """
    device, plays = read_ref(coupling.plays)
    owner = lookup.device(plan, device)
    played_here = [read_ref(ref).thing for ref in played if device_of(ref) == device]
    sounded = [ident for ident in played_here if ident != plays or coupling.shift]
    if not sounded:
        raise EditError(
            say(
                "The keys sound nothing else in {owner}: let the console hold {coupling}.",
                owner=owner.name,
                coupling=coupling.name,
            )
        )
    moved = _moved_by(plan, coupling.stop, owner)

    def apply(old: Plan) -> Plan:
        now = lookup.device(old, device)
        target = moved or lookup.free_id(lookup.ids_of(now.targets), coupling.id)
        new = now if moved else _with_target(old, now, target, coupling)
        couplers = [one for one in new.couplers if one.target != target or one.plays != plays]
        for part in sounded:
            taken = {one.id for one in couplers}
            couplers.append(
                Coupler(
                    id=lookup.free_id(taken, coupling.id),
                    name=coupling.name,
                    target=target,
                    of=part,
                    plays=plays,
                    shift=coupling.shift,
                )
            )
        left = with_device(old, now, changed(new, couplers=tuple(couplers)))
        return left if moved else _with_wish(left, coupling, ref_to(device, target))

    return Edit(say("Let {owner} hold {coupling}", owner=owner.name, coupling=coupling.name), apply)


def _moved_by(plan: Plan, stop: str, owner: Device) -> str | None:
    """The target of a device that a stop is wished to move."""
    for wish in plan.wishes:
        if stop in wish.sources and wish.moves and device_of(wish.moves) == owner.id:
            return thing_of(wish.moves)
    return None


def _with_target(plan: Plan, owner: Device, ident: str, coupling: Coupling) -> Device:
    at, control = read_ref(coupling.stop)
    stop = lookup.by_id(lookup.device(plan, at).controls, control, "control")
    mode = "momentary" if control_ability(stop).stays else "toggle"
    target = changed(
        Target(id=ident, name=coupling.name, receives="learns"),
        mode=mode,
    )
    return changed(owner, targets=(*owner.targets, target))


def _with_wish(plan: Plan, coupling: Coupling, target: str) -> Plan:
    """The stop is wished to move the new target, so that a number is found for it."""
    ident = lookup.free_id(lookup.ids_of(plan.wishes), f"{coupling.id}-stop")
    wish = Wish(
        id=ident,
        name=coupling.name,
        sources=(coupling.stop,),
        moves=target,
        scenes=coupling.scenes,
    )
    return msgspec.structs.replace(plan, wishes=(*plan.wishes, wish))


def without_holding(coupling: Coupling) -> Edit:
    """Nothing holds a coupler any longer, neither the console nor the organ."""
    keys, stop = coupling.keys, thing_of(coupling.stop)

    def apply(plan: Plan) -> Plan:
        for device in plan.devices:
            new = device
            if device.id == device_of(keys):
                new = _without_zones(new, stop, thing_of(keys), coupling.name)
            if device.id == device_of(coupling.plays):
                plays = thing_of(coupling.plays)
                target = _moved_by(plan, coupling.stop, device)
                kept = [c for c in new.couplers if (c.plays, c.target) != (plays, target)]
                new = changed(new, couplers=tuple(kept))
            plan = with_device(plan, device, new) if new != device else plan
        return plan

    return Edit(say("Hold {coupling} nowhere", coupling=coupling.name), apply)


def _without_zones(device: Device, stop: str, bed: str, name: str) -> Device:
    programs = []
    for program in device.programs:
        kept = []
        for zone in program.zones:
            if (zone.drawn_by, zone.keybed, zone.name) != (stop, bed, name):
                kept.append(zone)
        programs.append(changed(program, zones=tuple(kept)))
    return changed(device, programs=tuple(programs))


def _part(plan: Plan, ref: str) -> Part:
    device, ident = read_ref(ref)
    return lookup.part(lookup.device(plan, device), ident)


def add_combination(device: str, one: Combination) -> Edit:
    """Add what a piston draws, under an id of its own."""

    def change(owner: Device) -> Device:
        ident = lookup.free_id(lookup.ids_of(owner.combinations), one.id)
        return changed(owner, combinations=(*owner.combinations, changed(one, id=ident)))

    return edit_device(device, say("Add {one}", one=one.name), change)


def set_draws(device: str, combination: str, ident: str, draws: bool) -> Edit:
    """Have a piston draw something, or draw it no longer."""

    def change(owner: Device) -> Device:
        old = lookup.by_id(owner.combinations, combination, "combination")
        kept = tuple(other for other in old.draws if other != ident)
        governs = old.governs
        if draws and governs and ident not in governs:
            governs = (*governs, ident)
        new = changed(old, draws=(*kept, ident) if draws else kept, governs=governs)
        return changed(owner, combinations=swapped(owner.combinations, old, new))

    return edit_device(device, say("Change what a piston draws"), change)


def capture(device: str, combination: str, drawn: Iterable[str]) -> Edit:
    """Have a piston draw exactly what is drawn now, of what it may draw."""

    def change(owner: Device) -> Device:
        old = lookup.by_id(owner.combinations, combination, "combination")
        known = lookup.ids_of(owner.controls if _is_control(owner, old.by) else owner.targets)
        now = tuple(ident for ident in drawn if ident in known and ident != old.by)
        if old.governs:
            now = tuple(ident for ident in now if ident in old.governs)
        return changed(
            owner, combinations=swapped(owner.combinations, old, changed(old, draws=now))
        )

    return edit_device(device, say("Set a piston to what is drawn"), change)


def _is_control(owner: Device, ident: str) -> bool:
    return ident in lookup.controls_by_id(owner)


def remove_combination(device: str, ident: str) -> Edit:
    """A piston draws nothing any longer."""

    def change(owner: Device) -> Device:
        old = lookup.by_id(owner.combinations, ident, "combination")
        return changed(owner, combinations=swapped(owner.combinations, old))

    return edit_device(device, say("Remove a combination"), change)


def add_crescendo(device: str, one: Crescendo) -> Edit:
    """Add what a shoe draws stage by stage, under an id of its own."""

    def change(owner: Device) -> Device:
        ident = lookup.free_id(lookup.ids_of(owner.crescendos), one.id)
        return changed(owner, crescendos=(*owner.crescendos, changed(one, id=ident)))

    return edit_device(device, say("Add {one}", one=one.name), change)


def set_stage(device: str, crescendo: str, ident: str, stage: int | None) -> Edit:
    """Have something drawn from a stage on, from 1; or not at all.

    Raises EditError beyond the stage after the last.
    """

    def change(owner: Device) -> Device:
        old = lookup.by_id(owner.crescendos, crescendo, "crescendo")
        stages = [tuple(one for one in held if one != ident) for held in old.stages]
        if stage is not None:
            if not 1 <= stage <= len(stages) + 1:
                raise EditError(
                    say(
                        "{old} has stages 1–{count}: choose one, or the next.",
                        old=old.name,
                        count=len(stages),
                    )
                )
            if stage > len(stages):
                stages.append(())
            stages[stage - 1] = (*stages[stage - 1], ident)
        while stages and not stages[-1]:
            stages.pop()
        return changed(
            owner,
            crescendos=swapped(owner.crescendos, old, changed(old, stages=tuple(stages))),
        )

    return edit_device(device, say("Change a stage of the crescendo"), change)


def remove_crescendo(device: str, ident: str) -> Edit:
    """A shoe draws nothing any longer."""

    def change(owner: Device) -> Device:
        old = lookup.by_id(owner.crescendos, ident, "crescendo")
        return changed(owner, crescendos=swapped(owner.crescendos, old))

    return edit_device(device, say("Remove a crescendo"), change)
