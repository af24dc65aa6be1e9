"""The proof of what is dialled: the same proof, of the plan with what the devices hold.

Where what is struck, or what should sound, is set to something that nobody knows, the verdict is
*not known*.
"""

from vastzone.core.cache import derived
from vastzone.core.memory.model import Memory
from vastzone.core.memory.rig import as_dialled
from vastzone.core.memory.unknown import unknown_things
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.causes import Cause
from vastzone.core.proof.marking import Proof, prove
from vastzone.core.proof.verdict import Mark, Marks


def prove_dialled(plan: Plan, memory: Memory) -> Proof:
    """Prove a plan as its devices hold it."""
    return with_unknown(prove(as_dialled(plan, memory), memory), plan, memory)


@derived(16)
def with_unknown(proof: Proof, plan: Plan, memory: Memory) -> Proof:
    """A proof in which what nobody knows is told apart."""
    scenes: dict[str, tuple[Marks, ...]] = {}
    for scene, groups in proof.scenes.items():
        unknown = unknown_things(plan, memory, lookup.find(plan.scenes, scene))
        scenes[scene] = tuple(_told(marks, unknown) for marks in groups) if unknown else groups
    if all(scenes[scene] is groups for scene, groups in proof.scenes.items()):
        return proof
    return Proof(scenes)


@derived(16, whole=True)
def without_fixes(causes: tuple[Cause, ...]) -> tuple[Cause, ...]:
    """What falls short as dialled: the cards mend it, and no edit of the plan."""
    bare = []
    for cause in causes:
        bare.append(cause._replace(finding=cause.finding._replace(fixes=())))
    return tuple(bare)


def _told(marks: Marks, unknown: frozenset[str]) -> Marks:
    if not any(_depends(mark, unknown) for mark in marks):
        return marks
    told = []
    for mark in marks:
        told.append(mark._replace(verdict="not known") if _depends(mark, unknown) else mark)
    return tuple(told)


def _depends(mark: Mark, unknown: frozenset[str]) -> bool:
    if mark.source in unknown:
        return True
    return any(hit.ref in unknown for hit in (*mark.meant, *mark.extra))
