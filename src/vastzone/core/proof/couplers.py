"""Rules about couplers: proved with each of them drawn alone, and with all of them drawn.

Stops are drawn by moving them in the simulation, so that a coupler that the organ holds is on only
where what its stop sends really arrives.
"""

from collections.abc import Iterator, Mapping
from contextlib import suppress
from functools import partial
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled, played
from vastzone.core.engine.performance import Performance
from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.couplers import hold_in_console, hold_in_organ, without_holding
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.zones import remove_zone
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.organ import Coupling
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.organ import rings
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.marking import prove_scene
from vastzone.core.proof.verdict import Effect, Mark
from vastzone.core.proof.words import end_name
from vastzone.core.say import say
from vastzone.core.text import listed

SPOILT = ("silent", "wrong", "double", "extra")


class Drawn(NamedTuple):
    """Couplers that are drawn together in a scene, and what keys do then that is not as wished."""

    scene: Compiled
    couplings: tuple[Coupling, ...]
    marks: tuple[Mark, ...]


def wished_while(coupling: Coupling, plan: Plan) -> Wish | None:
    """What a drawn coupler wishes besides; None where no key reaches the part."""
    device, bed_name = read_ref(coupling.keys)
    bed = lookup.keybed(lookup.device(plan, device), bed_name)
    owner, ident = read_ref(coupling.plays)
    part = lookup.part(lookup.device(plan, owner), ident)
    shift = coupling.shift - part.transpose
    low, high = max(bed.low, part.low - shift), min(bed.high, part.high - shift)
    if low > high:
        return None
    return Wish(
        id=f"coupler-{coupling.id}"[:48],
        name=coupling.name,
        sources=(coupling.keys,),
        plays=coupling.plays,
        low=low,
        high=high,
        shift=coupling.shift,
    )


def while_drawn(plan: Plan, scene: Compiled, couplings: tuple[Coupling, ...]) -> Plan:
    """The plan as it is while the stops of couplers are drawn, with all that is wished then."""
    player = Performance(scene)
    for stop in dict.fromkeys(one.stop for one in couplings):
        player.move((stop, 1), 127)
    drawn = player.compiled.plan
    more = []
    for one in couplings:
        wish = wished_while(one, plan)
        if wish is not None:
            more.append(wish)
    return changed(drawn, wishes=(*drawn.wishes, *more))


def _holding(plan: Plan, scene: Compiled) -> tuple[Coupling, ...]:
    here = scene.scene.id if scene.scene else ""
    return tuple(one for one in plan.couplings if not one.scenes or here in one.scenes)


def proved(plan: Plan, scene: Compiled) -> Iterator[Drawn]:
    """Each coupler drawn alone, then all of them together."""
    couplings = _holding(plan, scene)
    stops = tuple(dict.fromkeys(one.stop for one in couplings))
    by_stop = [tuple(one for one in couplings if one.stop == stop) for stop in stops]
    together = [*by_stop, couplings] if len(by_stop) > 1 else by_stop
    before = _spoilt(plan, scene, {one.keys for one in couplings})
    known = {(mark.source, mark.low, mark.high, mark.verdict) for mark in before}
    for drawn in together:
        there = while_drawn(plan, scene, drawn)
        marks = []
        for mark in _spoilt(there, scene, {one.keys for one in drawn}):
            if (mark.source, mark.low, mark.high, mark.verdict) not in known:
                marks.append(mark)
        yield Drawn(scene, drawn, tuple(marks))


def _spoilt(plan: Plan, scene: Compiled, beds: set[str]) -> list[Mark]:
    marks = []
    for group in prove_scene(plan, scene.scene):
        for mark in group:
            if mark.source in beds and mark.verdict in SPOILT:
                marks.append(mark)
    return marks


def couplers_as_wished(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Couplers that do not play what is wished while they are drawn, or play it twice."""
    for scene in compiled if plan.couplings else ():
        alone: set[tuple[str, str, tuple[Effect, ...], tuple[Effect, ...]]] = set()
        for drawn in proved(plan, scene):
            by_kind: dict[tuple[str, str], list[Mark]] = {}
            for mark in drawn.marks:
                told = (mark.source, mark.verdict, mark.missing, mark.extra)
                if told not in alone:
                    by_kind.setdefault((mark.source, mark.verdict), []).append(mark)
                alone.add(told)
            for (source, _), marks in by_kind.items():
                yield _otherwise(plan, drawn, source, marks)


def _otherwise(plan: Plan, drawn: Drawn, source: str, marks: list[Mark]) -> Remark:
    device, bed = read_ref(source)
    owner = lookup.device(plan, device)
    names = listed((one.name for one in drawn.couplings), 4)
    low, high = min(mark.low for mark in marks), max(mark.high for mark in marks)
    keys = pitch.span(low, high, owner.octaves)
    bed_name = lookup.keybed(owner, bed).name
    scene = drawn.scene.scene
    verdict = marks[0].verdict
    rule = "coupler sounds twice" if verdict == "double" else "coupler not as wished"
    stops = {one.stop for one in drawn.couplings}
    return Remark(
        rule,
        (source, owner.id, *(stops if len(stops) == 1 else ())),
        say(
            "While {names} is drawn, {bed_name} of {owner} ({keys}): {heard}.",
            names=names,
            bed_name=bed_name,
            owner=owner.name,
            keys=keys,
            heard=_heard(plan, marks),
        ),
        tuple(_mends(plan, drawn)),
        (scene.id,) if scene is not None and len(plan.scenes) > 1 else (),
    )


def _heard(plan: Plan, marks: list[Mark]) -> str:
    missing = dict.fromkeys(end_name(plan, hit.ref) for mark in marks for hit in mark.missing)
    extra = dict.fromkeys(end_name(plan, hit.ref) for mark in marks for hit in mark.extra)
    if marks[0].verdict == "double":
        return say("{extra} sounds twice", extra=listed(extra))
    said = [say("{missing} is silent", missing=listed(missing))] if missing else []
    return " and ".join(
        [*said, say("{extra} sounds besides", extra=listed(extra))] if extra else said
    )


def _mends(plan: Plan, drawn: Drawn) -> Iterator[Edit]:
    """One coupler held in one place: in the console, or in the organ, as far as they can."""
    if len({one.stop for one in drawn.couplings}) > 1:
        yield from _all_in_one(plan, drawn)
        return
    for one in drawn.couplings:
        fresh = without_holding(one).change(plan)
        sounded = sorted(played(drawn.scene).get(one.keys, frozenset()))
        # Not every console and not every organ can hold it.
        with suppress(EditError):
            yield _instead(one, hold_in_console(fresh, one))
        with suppress(EditError):
            yield _instead(one, hold_in_organ(fresh, one, sounded))


def _all_in_one(plan: Plan, drawn: Drawn) -> Iterator[Edit]:
    """All couplers held in the console, or all in the organ: one would couple on the other's."""
    sounded = played(drawn.scene)
    for label, in_organ in (
        (say("Let the console hold all couplers"), False),
        (say("Let the organ hold all couplers"), True),
    ):
        hold = partial(_all_held, couplings=drawn.couplings, sounded=sounded, in_organ=in_organ)
        with suppress(EditError):
            hold(plan)
            yield Edit(label, hold)


def _all_held(
    plan: Plan,
    couplings: tuple[Coupling, ...],
    sounded: Mapping[str, frozenset[str]],
    in_organ: bool,
) -> Plan:
    """The plan with couplers held in one place.  Raises EditError where one cannot be."""
    for one in couplings:
        plan = without_holding(one).change(plan)
        parts = sorted(sounded.get(one.keys, frozenset()))
        held = hold_in_organ(plan, one, parts) if in_organ else hold_in_console(plan, one)
        plan = held.change(plan)
    return plan


def _instead(coupling: Coupling, held: Edit) -> Edit:
    """A coupler held in one place, and in no other."""
    bare = without_holding(coupling)
    return Edit(held.label, lambda plan: held.change(bare.change(plan)))


def couplers_in_rings(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Couplers of an organ that hand on what comes from one another, round and round."""
    for owner in plan.devices:
        names = lookup.names_of(owner.couplers)
        for ring in rings(owner.couplers):
            last = ring[-1]
            mend = set_thing(
                owner.id,
                "couplers",
                last,
                "coupler",
                say("Let {names} not hand on", names=names[last]),
                through=False,
            )
            yield Remark(
                "couplers in a ring",
                (owner.id,),
                say(
                    "{names} of {owner} hand on to one another in a ring.",
                    names=listed(names[ident] for ident in ring),
                    owner=owner.name,
                ),
                (mend,),
            )


def couplers_unwished(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Zones that a stop draws, where no coupler is wished from that stop and those keys."""
    wished = {(one.stop, one.keys) for one in plan.couplings}
    for owner in plan.devices:
        used = lookup.scenes_by_program(plan, owner)
        for program in owner.programs:
            for zone in program.zones if program.number in used else ():
                if zone.drawn_by is None:
                    continue
                ends = (ref_to(owner.id, zone.drawn_by), ref_to(owner.id, zone.keybed))
                if ends not in wished:
                    yield Remark(
                        "coupler nobody wished",
                        (ref_to(owner.id, zone.id), owner.id),
                        say(
                            "{zone} of {owner} sends while a stop is drawn, and no coupler is "
                            "wished there.",
                            zone=zone.name,
                            owner=owner.name,
                        ),
                        (remove_zone(owner.id, program.number, zone.id),),
                    )
