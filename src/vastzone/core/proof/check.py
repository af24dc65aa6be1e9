"""The table of rules, and running them over a plan."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled, compile_scene
from vastzone.core.plan import lookup
from vastzone.core.plan.cache import derived
from vastzone.core.plan.model import Plan
from vastzone.core.proof import (
    console,
    coverage,
    doubles,
    endings,
    feel,
    inputs,
    numbers,
    pads,
    pedals,
    scopes,
    sweeps,
    wiring,
)
from vastzone.core.proof.finding import SEVERITIES, Finding, PlanRule, Spot, SpotRule

SPOT_RULES: tuple[SpotRule, ...] = (
    coverage.dead_keys,
    coverage.outside_midi,
    coverage.unanswered,
    doubles.overlapping_zones,
    doubles.shared_channel,
    doubles.double_ways,
)
PLAN_RULES: tuple[PlanRule, ...] = (
    doubles.thru_rings,
    numbers.reserved_controllers,
    inputs.unplugged_pads,
    inputs.lost_zones,
    inputs.broken_splitters,
    pads.two_on_one_note,
    pads.silent_pads,
    pads.pads_double_keys,
    pads.lonely_mute_groups,
    pads.rhythm_elsewhere,
    pads.others_on_10,
    pads.more_sounds_than_pads,
    pedals.pedals_in_jacks,
    pedals.unplugged_pedals,
    pedals.two_on_one_controller,
    pedals.coarse_steps,
    pedals.ends_only,
    pedals.fights,
    pedals.bend_ranges,
    pedals.dead_slots,
    pedals.misused_standards,
    sweeps.split_pairs,
    sweeps.above_ceiling,
    sweeps.too_many_targets,
    sweeps.held_over_scenes,
    endings.notes_without_end,
    endings.pedals_that_hold,
    console.pins,
    console.diodes,
    console.lowest_notes,
    console.shared_channels,
    console.shoes,
    console.scanning,
    console.held_tabs,
    wiring.known_faults,
    wiring.seen_otherwise,
    feel.layer_holes,
    feel.layers_meet,
    feel.one_sided_mutes,
    feel.linked_zones,
    feel.hat_thresholds,
    scopes.one_for_all,
    scopes.moved_sounds,
    scopes.too_many_channels,
    numbers.unreached_parts,
)

SPOTS = 64
"""How many spots a rule looks at in one piece."""


class Tally(NamedTuple):
    """How many findings of each severity."""

    faults: int
    cautions: int
    hints: int


def scenes_compiled(plan: Plan) -> tuple[Compiled, ...]:
    """Every scene compiled; a plan without scenes as it is when switched on."""
    return tuple(compile_scene(plan, s) for s in plan.scenes or (None,))


@derived(16)
def check(plan: Plan) -> tuple[Finding, ...]:
    """All findings, faults first, otherwise in the order of the rules and of the plan."""
    found = [f for piece in pieces(plan) for f in found_by(plan, *piece)]
    merged: dict[tuple[str, tuple[str, ...], str], Finding] = {}
    for one in found:
        key = (one.rule, one.subjects, one.sentence)
        if key in merged:
            scenes = (*merged[key].scenes, *one.scenes)
            one = merged[key]._replace(scenes=tuple(dict.fromkeys(scenes)))
        merged[key] = one
    return tuple(sorted(merged.values(), key=lambda f: SEVERITIES.index(f.severity)))


def pieces(plan: Plan) -> Iterator[tuple[int, int]]:
    """The work of a check in pieces: each rule by its place in the table, from a first spot."""
    for number in range(len(SPOT_RULES)):
        yield from ((number, first) for first in range(0, len(_spots(plan)), SPOTS))
    yield from ((len(SPOT_RULES) + number, 0) for number in range(len(PLAN_RULES)))


@derived(1024)
def found_by(plan: Plan, number: int, first: int) -> tuple[Finding, ...]:
    """What one rule finds in some of the spots, or in the plan as a whole."""
    if number >= len(SPOT_RULES):
        return tuple(PLAN_RULES[number - len(SPOT_RULES)](plan, scenes_compiled(plan)))
    held = _spots(plan)[first : first + SPOTS]
    return tuple(f for spot in held for f in SPOT_RULES[number](spot))


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
    kinds = [f.severity for f in findings]
    return Tally(kinds.count("fault"), kinds.count("caution"), kinds.count("hint"))
