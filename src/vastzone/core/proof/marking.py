"""The proof: every control of every scene simulated and compared with the wishes.

Each piece is kept by the identity of the tables and wishes that it was proved from, so that after
an edit only what it touched is proved again.
"""

from collections import Counter
from collections.abc import Iterator, Mapping
from itertools import chain
from typing import NamedTuple

from vastzone.core.cache import derived, no_collecting
from vastzone.core.engine.compile import runs_of
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.outside_programs import Shell
from vastzone.core.engine.receivers import Outsides, Receivers, outsides, programs_at, world_on
from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY, Names, Touched, touched_in
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries.wishes_in_scenes import WishesOfSources, wishes_of
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.proof.control_marks import aims_of, kits_of, prove_controls
from vastzone.core.proof.key_marks import prove_bed
from vastzone.core.proof.unwished import Unwished, spots_of, welcome_in
from vastzone.core.proof.verdict import Mark, Marks, Verdict


class Proof(NamedTuple):
    """The marks of every scene (a plan without scenes has one, called «»)."""

    scenes: dict[str, tuple[Marks, ...]]

    def marks(self, scene: str) -> Iterator[Mark]:
        """The marks of one scene."""
        for group in self.scenes.get(scene, ()):
            yield from group

    def count(self, verdict: Verdict) -> int:
        """How many marks have a verdict, over all scenes."""
        return _tally(self)[verdict]

    @property
    def good(self) -> bool:
        """Whether everything is as meant."""
        return set(_tally(self)) <= {"as meant"}

    def faults(self) -> Iterator[tuple[str, Mark]]:
        """Everything that is not as meant, with its scene."""
        for scene in self.scenes:
            for mark in self.marks(scene):
                if mark.verdict != "as meant":
                    yield (scene, mark)


@derived(16, whole=True)
def _tally(proof: Proof) -> Mapping[str, int]:
    groups = chain.from_iterable(proof.scenes.values())
    counts: Counter[str] = Counter()
    for marks in groups:
        for verdict, count in _counted(marks).items():
            counts[verdict] += count
    return counts


@derived(32768, whole=True)
def _counted(marks: Marks) -> Mapping[str, int]:
    return Counter(mark.verdict for mark in marks)


def prove(plan: Plan, memory: Memory = NO_MEMORY) -> Proof:
    """Prove a whole plan; parts that did not change since an earlier proof are reused.

    By the ``memory`` it is known what still stands as it left its box.
    """
    return _prove(plan, touched_in(plan, memory))


@derived(8)
def _prove(plan: Plan, touched: Touched) -> Proof:
    with no_collecting():
        scenes = {}
        for scene in plan.scenes or (None,):
            scenes[scene.id if scene else ""] = scene_marks(plan, scene, touched)
        return Proof(scenes)


def prove_scene(plan: Plan, scene: Scene | None, memory: Memory = NO_MEMORY) -> tuple[Marks, ...]:
    """Prove one scene."""
    return scene_marks(plan, scene, touched_in(plan, memory))


@derived(320)
def scene_marks(plan: Plan, scene: Scene | None, touched: Touched) -> tuple[Marks, ...]:
    """The marks of one scene, where it is known what somebody set."""
    wishes = wishes_of(plan)[scene.id if scene else ""]
    programs = programs_at(plan, scene)
    spots = []
    for device, program, known in zip(plan.devices, programs, touched.devices, strict=True):
        spots.append(spots_of(device.programs, program, known))
    return _scene(outsides(plan), programs, wishes, tuple(spots), touched.ends)


@derived(1024)
def _scene(
    outside: Outsides,
    programs: tuple[Program | None, ...],
    wishes: WishesOfSources,
    spots: tuple[Names, ...],
    ends: frozenset[str],
) -> tuple[Marks, ...]:
    world = world_on(outside, programs)
    welcome = welcome_in(world, ends)
    groups = []
    for owner, program, touched in zip(outside.shells, programs, spots, strict=True):
        if program is None:
            continue
        beds = runs_of(owner, program, world)
        for bed, does in zip(owner.keybeds, beds, strict=True):
            ref = ref_to(owner.id, bed.id)
            wished = wishes.get(ref, ())
            # Where keys are wished, what else a kit answers of them is a leak.
            groups.append(prove_bed(bed, does, wished, ref, touched, () if wished else welcome))
        if owner.controls:
            here = wishes.get(owner.id, ())
            groups.append(
                _controls(owner, program, world, here, outside, Unwished(touched, welcome))
            )
    return tuple(groups)


def _controls(
    owner: Shell,
    program: Program,
    world: Receivers,
    here: tuple[Wish, ...],
    outside: Outsides,
    unwished: Unwished,
) -> Marks:
    listening = tuple([outside.of(device) for device in _parties(here)])
    kits = tuple(kits_of(world.of(shell.id)) for shell in listening)
    aims = tuple(aims_of(shell.id, shell.targets) for shell in listening)
    table = control_table(owner, program, world)
    return prove_controls(owner.id, owner.controls, table, here, aims, kits, *unwished)


@derived(4096)
def _parties(wishes: tuple[Wish, ...]) -> tuple[str, ...]:
    """The devices that wishes end at."""
    return tuple(dict.fromkeys(device_of(wish.plays or wish.moves or "") for wish in wishes))
