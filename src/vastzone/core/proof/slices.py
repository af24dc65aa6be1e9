"""All that is derived from a plan, a piece at a time, so that no window has to wait for it.

A generator here does a bounded piece of work between two yields; what it returns in the end is
the result.  The pieces are kept, so asking for the whole afterwards costs little.
"""

from collections import Counter
from collections.abc import Callable, Generator
from typing import NamedTuple

from vastzone.core.engine.compile import compile_scene
from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY, Touched, touched_in
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.proof.causes import Cause, causes, everything, scene_clues
from vastzone.core.proof.check import check, found_by, pieces
from vastzone.core.proof.finding import Finding
from vastzone.core.proof.marking import Proof, prove, prove_scene, scene_marks

Steps = Generator[float, None, "Derived"]


class Derived(NamedTuple):
    """What the rules, the proof and the search for causes say of a plan.

    The findings are those of the causes: what rules and proof find, each thing once.
    """

    plan: Plan
    findings: tuple[Finding, ...]
    proof: Proof | None
    causes: tuple[Cause, ...]


def derive(plan: Plan, memory: Memory = NO_MEMORY) -> Steps:
    """Check and prove a plan; yields how far it has come, 0–1.

    By the ``memory`` it is known what still stands as it left its box.
    """
    scenes = plan.scenes or (None,)
    for n, scene in enumerate(scenes):
        compile_scene(plan, scene)
        yield 0.3 * n / len(scenes)
    work = tuple(pieces(plan))
    for n, piece in enumerate(work):
        found_by(plan, *piece)
        yield 0.3 + 0.2 * n / len(work)
    touched = touched_in(plan, memory)
    stages: tuple[Callable[[Plan, Scene | None, Touched], object], ...] = ()
    if plan.wishes:
        stages = (scene_marks, scene_clues)
    for stage, prove_or_ask in enumerate(stages):
        for n, scene in enumerate(scenes):
            prove_or_ask(plan, scene, touched)
            yield 0.5 + 0.2 * (stage + n / len(scenes))
    check(plan)
    yield 0.9
    proof = prove(plan, memory) if plan.wishes else None
    yield 0.95
    if proof is not None:
        proof.count("as meant")
        yield 0.97
    found = causes(plan, memory)
    return Derived(plan, everything(plan, memory), proof, found)


def finish(steps: Generator[float, None, "Derived"]) -> "Derived":
    """Do all of it now."""
    while True:
        try:
            next(steps)
        except StopIteration as stop:
            derived: Derived = stop.value
            return derived


class Weighed(NamedTuple):
    """A fix, and how many keys and controls it mends and spoils over all scenes.

    ``closer`` is how many of them, though not as meant yet, miss less or sound less too much.
    """

    edit: Edit
    mended: int
    spoilt: int
    closer: int = 0

    @property
    def gain(self) -> int:
        """What it mends less what it spoils."""
        return self.mended - self.spoilt


def weigh(
    plan: Plan, fixes: tuple[Edit, ...], memory: Memory = NO_MEMORY
) -> Generator[float, None, tuple[Weighed, ...]]:
    """Prove the plan after each fix: the best first, those that do the same only once."""
    if not plan.wishes:
        return tuple(Weighed(edit, 0, 0) for edit in fixes)
    before = _faulty(prove(plan, memory))
    seen: list[Plan] = []
    weighed: list[Weighed] = []
    for n, edit in enumerate(fixes):
        changed = edit(plan)
        yield n / len(fixes)
        if changed in seen:
            continue
        seen.append(changed)
        for scene in changed.scenes or (None,):
            prove_scene(changed, scene, memory)
            yield n / len(fixes)
        after = _faulty(prove(changed, memory))
        closer = sum(after[p] < before[p] for p in before.keys() & after.keys())
        mended, spoilt = len(before.keys() - after.keys()), len(after.keys() - before.keys())
        weighed.append(Weighed(edit, mended, spoilt, closer))
        yield n / len(fixes)
    return tuple(sorted(weighed, key=lambda w: (-w.gain, -w.closer)))


def _faulty(proof: Proof) -> Counter[tuple[str, str, int, int]]:
    """Every key and control that is not as meant, in every scene, with how much is amiss."""
    faulty: Counter[tuple[str, str, int, int]] = Counter()
    for scene, mark in proof.faults():
        amiss = 2 * len(mark.missing) + len(mark.extra) + bool(mark.remark)
        for key in range(mark.low, mark.high + 1):
            faulty[scene, mark.source, mark.bank, key] += amiss
    return faulty
