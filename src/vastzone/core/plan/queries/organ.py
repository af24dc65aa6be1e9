"""Couplers, combinations and crescendos: what they name, where it is, what is left without it."""

from collections.abc import Collection, Iterable, Iterator

import msgspec

from vastzone.core.cache import derived
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.organ import Combination, Coupler, Coupling, Crescendo
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say


def drawable(device: Device) -> dict[str, str]:
    """What pistons and shoes of a device can draw, by id, with its name: controls and targets."""
    return lookup.names_of(device.controls) | lookup.names_of(device.targets)


def governed(device: Device, one: Combination) -> tuple[str, ...]:
    """What a combination governs: what it says, or all that any combination there draws."""
    if one.governs:
        return one.governs
    every: dict[str, None] = {}
    for other in device.combinations:
        every.update(dict.fromkeys(other.draws))
    return tuple(every)


def couplers_on(device: Device) -> tuple[Coupler, ...]:
    """The couplers that a device holds and that are on."""
    return _on(device.couplers)


@derived(256, whole=True)
def _on(couplers: tuple[Coupler, ...]) -> tuple[Coupler, ...]:
    return tuple([coupler for coupler in couplers if coupler.on])


def coupled_to(part: str, couplers: Iterable[Coupler]) -> tuple[tuple[str, int], ...]:
    """The parts that couplers let play with one, and how many semitones away.

    What comes through a coupler goes on through those that hand it on, never twice through one.
    """
    found: list[tuple[str, int]] = []
    ways: list[tuple[str, int, tuple[str, ...]]] = [(part, 0, ())]
    while ways:
        here, shift, gone = ways.pop(0)
        for one in couplers:
            if one.of != here or one.id in gone or (gone and not one.through):
                continue
            found.append((one.plays, shift + one.shift))
            ways.append((one.plays, shift + one.shift, (*gone, one.id)))
    return tuple(found)


def rings(couplers: Iterable[Coupler]) -> tuple[tuple[str, ...], ...]:
    """Couplers that hand on in a ring, by id: what is played comes back to where it began."""
    through = [one for one in couplers if one.through]
    found: dict[frozenset[str], tuple[str, ...]] = {}
    ways: list[tuple[tuple[str, ...], str, str]] = []
    for one in through:
        ways.append(((one.id,), one.of, one.plays))
    while ways:
        gone, begun, here = ways.pop(0)
        if here == begun:
            found.setdefault(frozenset(gone), gone)
            continue
        for one in through:
            if one.of == here and one.id not in gone:
                ways.append(((*gone, one.id), begun, one.plays))
    return tuple(found.values())


def couples(device: Device) -> bool:
    """Whether a device holds anything that draws something else."""
    if device.couplers or device.combinations or device.crescendos:
        return True
    for program in device.programs:
        for zone in program.zones:
            if zone.drawn_by is not None:
                return True
    return False


def organ_problems(device: Device) -> Iterator[str]:
    """What couplers, combinations and crescendos name that is not there, or name twice."""
    yield from _coupler_problems(device)
    controls, targets = lookup.ids_of(device.controls), lookup.ids_of(device.targets)
    for one in device.combinations:
        named = (one.by, *one.draws, *one.governs)
        own = controls if one.by in controls else targets
        yield from _not_there(
            say("combination {one} of {device}", one=one.name, device=device.name), named, own
        )
        if one.governs and not set(one.draws) <= set(one.governs):
            yield (
                say(
                    "The combination {one} of {device} draws what it does not govern: let it "
                    "govern that "
                    "too.",
                    one=one.name,
                    device=device.name,
                )
            )
    for shoe in device.crescendos:
        drawn = [ident for stage in shoe.stages for ident in stage]
        own = controls if shoe.by in controls else targets
        yield from _not_there(
            say("crescendo {shoe} of {device}", shoe=shoe.name, device=device.name),
            (shoe.by, *drawn),
            own,
        )
        if len(set(drawn)) < len(drawn):
            yield (
                say(
                    "The crescendo {shoe} of {device} draws something in two stages: leave it "
                    "in the first.",
                    shoe=shoe.name,
                    device=device.name,
                )
            )


def _coupler_problems(device: Device) -> Iterator[str]:
    parts, targets = lookup.ids_of(device.parts), lookup.ids_of(device.targets)
    for one in device.couplers:
        where = say("coupler {one} of {device}", one=one.name, device=device.name)
        yield from _not_there(where, (one.of, one.plays), parts)
        if one.target is not None:
            yield from _not_there(where, (one.target,), targets)
    controls = lookup.ids_of(device.controls)
    for program in device.programs:
        for zone in program.zones:
            if zone.drawn_by is not None:
                yield from _not_there(
                    say("zone {zone} of {device}", zone=zone.name, device=device.name),
                    (zone.drawn_by,),
                    controls,
                )


def _not_there(where: str, named: Iterable[str], there: Collection[str]) -> Iterator[str]:
    for ident in dict.fromkeys(named):
        if ident not in there:
            yield say(
                "The {where} names “{ident}”, which is not there: leave it out.",
                where=where,
                ident=ident,
            )


def coupling_problems(plan: Plan) -> Iterator[str]:
    """Wishes for couplers that begin or end at what is not there."""
    scenes = lookup.ids_of(plan.scenes)
    for one in plan.couplings:
        if not _is_there(plan, one) or not scenes.issuperset(one.scenes):
            yield say(
                "The coupler {one} is wished from or to what is not there: take it back.",
                one=one.name,
            )


def tidy_device(device: Device) -> Device:
    """A device whose couplers, combinations and crescendos name only what is there."""
    if not couples(device):
        return device
    controls, targets = lookup.ids_of(device.controls), lookup.ids_of(device.targets)
    programs = []
    for program in device.programs:
        zones = tuple(z for z in program.zones if z.drawn_by is None or z.drawn_by in controls)
        programs.append(changed(program, zones=zones))
    return changed(
        device,
        programs=tuple(programs),
        couplers=tuple(_tidy_couplers(device)),
        combinations=tuple(_tidy_combinations(device, controls, targets)),
        crescendos=tuple(_tidy_crescendos(device, controls, targets)),
    )


def tidy_couplings(plan: Plan) -> Plan:
    """A plan whose couplers are wished from and to what is there."""
    scenes = lookup.ids_of(plan.scenes)
    kept = []
    for one in plan.couplings:
        here = tuple(scene for scene in one.scenes if scene in scenes)
        if _is_there(plan, one) and (here or not one.scenes):
            kept.append(changed(one, scenes=here))
    return msgspec.structs.replace(plan, couplings=tuple(kept))


def _is_there(plan: Plan, one: Coupling) -> bool:
    for ref, group in ((one.stop, "controls"), (one.keys, "keybeds"), (one.plays, "parts")):
        device, thing = read_ref(ref)
        owner = lookup.find(plan.devices, device)
        if owner is None or thing not in lookup.ids_of(getattr(owner, group)):
            return False
    return True


def _tidy_couplers(device: Device) -> Iterator[Coupler]:
    parts, targets = lookup.ids_of(device.parts), lookup.ids_of(device.targets)
    for one in device.couplers:
        if {one.of, one.plays} <= parts:
            yield one if one.target in targets else changed(one, target=None)


def _tidy_combinations(
    device: Device, controls: set[str], targets: set[str]
) -> Iterator[Combination]:
    for one in device.combinations:
        own = controls if one.by in controls else targets
        if one.by in own:
            draws = tuple(ident for ident in one.draws if ident in own)
            governs = tuple(ident for ident in one.governs if ident in own)
            yield changed(one, draws=draws, governs=governs)


def _tidy_crescendos(device: Device, controls: set[str], targets: set[str]) -> Iterator[Crescendo]:
    for one in device.crescendos:
        own = controls if one.by in controls else targets
        if one.by in own:
            stages = []
            for stage in one.stages:
                stages.append(tuple(ident for ident in stage if ident in own))
            yield changed(one, stages=tuple(stages))
