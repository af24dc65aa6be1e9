"""Running the rules over a plan."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled, compile_scene
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.finding import SEVERITIES, Finding, Spot
from vastzone.core.proof.rules import PLAN_RULES, SPOT_RULES, finding_of

SPOTS = 64
"""How many spots a rule looks at in one piece."""


class Tally(NamedTuple):
    """How many findings of each severity."""

    faults: int
    cautions: int
    hints: int


def scenes_compiled(plan: Plan) -> tuple[Compiled, ...]:
    """Every scene compiled; a plan without scenes as it is when switched on."""
    compiled = []
    for scene in plan.scenes or (None,):
        compiled.append(compile_scene(plan, scene))
    return tuple(compiled)


@derived(16)
def check(plan: Plan) -> tuple[Finding, ...]:
    """All findings, faults first, otherwise in the order of the rules and of the plan."""
    findings = [f for piece in pieces(plan) for f in found_by(plan, *piece)]
    merged: dict[tuple[str, tuple[str, ...], str], Finding] = {}
    for one in findings:
        key = (one.rule, one.subjects, one.sentence)
        if key in merged:
            scenes = (*merged[key].scenes, *one.scenes)
            one = merged[key]._replace(scenes=tuple(dict.fromkeys(scenes)))
        merged[key] = one
    return tuple(sorted(merged.values(), key=lambda f: SEVERITIES.index(f.severity)))


def pieces(plan: Plan) -> Iterator[tuple[int, int]]:
    """The work of a check in pieces: each rule by its place in the table, from a first spot."""
    for number in range(len(SPOT_RULES)):
        for first in range(0, len(_spots(plan)), SPOTS):
            yield (number, first)
    for number in range(len(PLAN_RULES)):
        yield (len(SPOT_RULES) + number, 0)


@derived(1024)
def found_by(plan: Plan, number: int, first: int) -> tuple[Finding, ...]:
    """What one rule finds in some of the spots, or in the plan as a whole."""
    if number >= len(SPOT_RULES):
        rule = PLAN_RULES[number - len(SPOT_RULES)]
        return tuple(map(finding_of, rule(plan, scenes_compiled(plan))))
    looked_at = _spots(plan)[first : first + SPOTS]
    look = SPOT_RULES[number]
    findings = []
    for spot in looked_at:
        for remark in look(spot):
            findings.append(finding_of(remark))
    return tuple(findings)


@derived(16)
def _spots(plan: Plan) -> tuple[Spot, ...]:
    return tuple(spots(plan, scenes_compiled(plan)))


def spots(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Spot]:
    """Each keybed in each program and surroundings that occur in a scene, once."""
    seen: dict[tuple[str, str, int, int], Spot] = {}
    for scene in compiled:
        for owner, bed in lookup.keybeds(plan):
            program = lookup.program_in(scene.scene, owner)
            if program is None:
                continue
            key = (owner.id, bed.id, program.number, id(scene.world))
            names = (scene.scene.id,) if scene.scene else ()
            before = seen.get(key)
            seen[key] = (
                before._replace(scenes=(*before.scenes, *names))
                if before
                else Spot(plan, scene, owner, program, bed, names)
            )
    yield from seen.values()


def tally(findings: tuple[Finding, ...]) -> Tally:
    """The findings counted."""
    kinds = []
    for finding in findings:
        kinds.append(finding.severity)
    return Tally(kinds.count("fault"), kinds.count("caution"), kinds.count("hint"))
