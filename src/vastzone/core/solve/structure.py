"""First step: zones, sends and programs that can carry the wishes; only their numbers are open.

Every wish of a keybed gets a zone in each program that its scenes are on, every wish of a control
a send; what no wish wants is switched off.  What is there already is used where it fits.
"""

from collections.abc import Callable

import msgspec

from vastzone.core.cache import derived
from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY
from vastzone.core.plan.edits.edit import with_device
from vastzone.core.plan.edits.scenes import choose_program, free_program, program_copy
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.queries.wishes_in_scenes import wishes_by_scene
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.holds import Holds
from vastzone.core.solve.learning import with_learned_messages
from vastzone.core.solve.ranges import with_ranges
from vastzone.core.solve.sends_for_wishes import on_sends
from vastzone.core.solve.shaped import Binding, Bond, Obstacle, Shaped
from vastzone.core.solve.standing import standing
from vastzone.core.solve.zones_for_wishes import on_zones


def shape(
    plan: Plan,
    exempt: frozenset[str] = frozenset(),
    memory: Memory = NO_MEMORY,
    bond_of: Callable[[Binding], Bond] = lambda _: "free",
    progress: Progress | None = None,
    learns: bool = True,
) -> Shaped:
    """Put zones, sends and programs in place for every wish.

    ``exempt`` are the sources and parts of wishes that are left out while causes are sought:
    what they do meanwhile does not matter.  By the ``memory`` it is known what plays and is meant
    without a wish; ``bond_of`` says of each such sound how it is bound.  Receivers that learn are
    taught what controls send already, unless ``learns`` says otherwise.
    """
    bindings: list[Binding] = []
    obstacles: list[Obstacle] = []
    wanted, holds = _Wanted(plan), Holds(plan)
    for ident in [device.id for device in plan.devices if device.programs]:
        go_on(progress, say("Programs for the scenes"), 0.01)
        plan, blocked = _programs(plan, ident, exempt, wanted)
        obstacles += blocked
    kept = []
    for binding in standing(plan, memory, progress):
        bond = bond_of(binding)
        if bond != "none":
            kept.append(binding._replace(bond=bond))
    plan = with_ranges(with_learned_messages(plan) if learns else plan, holds)
    for ident in [device.id for device in plan.devices if device.programs]:
        go_on(progress, say("Zones and sends for the wishes"), 0.02)
        plan, bound, blocked = _fill(plan, ident, wanted, holds, kept)
        bindings += bound
        obstacles += blocked
    bindings += (binding for binding in kept if _still_there(plan, binding))
    return Shaped(plan, tuple(bindings), tuple(obstacles))


def _still_there(plan: Plan, binding: Binding) -> bool:
    """Whether what plays without a wish was not taken over by one."""
    if not binding.is_zone:
        return True
    zone = lookup.zone(lookup.device(plan, binding.device), binding.program, binding.thing)
    wish = binding.wish
    return zone.sends and zone.low <= wish.lowest and wish.highest <= zone.high


class _Wanted:
    """What each scene wants of a device."""

    def __init__(self, plan: Plan) -> None:
        names = tuple(scene.id for scene in plan.scenes) or ("",)
        self._found = wishes_by_scene(plan.wishes, names)

    def of(self, device: str, scene: Scene | None) -> tuple[Wish, ...]:
        """The wishes that begin at a device and hold in a scene."""
        return self._found[scene.id if scene else ""].get(device, ())


def _programs(
    plan: Plan, ident: str, exempt: frozenset[str], wanted_of: _Wanted
) -> tuple[Plan, list[Obstacle]]:
    """Give scenes that want different things of a device programs of their own."""
    spared = any(device_of(ref) == ident for ref in exempt)
    owner = lookup.device(plan, ident)
    wanted: dict[int, tuple[Wish, ...]] = {}
    obstacles: list[Obstacle] = []
    for scene in plan.scenes:
        number = lookup.program_number(scene, owner)
        wishes = wanted_of.of(ident, scene)
        if number is None or (spared and not wishes):
            continue
        if _say_the_same(wanted.setdefault(number, wishes), wishes):
            continue
        same = _program_for(wanted, wishes)
        free = free_program(owner) if same is None else same
        if free is None:
            obstacles.append(_no_program(owner, scene, number, wishes, wanted[number]))
            continue
        if same is None:
            plan, owner = _copy_program(plan, owner, number, free, scene)
        plan = choose_program(scene.id, owner.id, free).change(plan)
        wanted[free] = wishes
    return plan, obstacles


def _program_for(wanted: dict[int, tuple[Wish, ...]], wishes: tuple[Wish, ...]) -> int | None:
    """A program of which the same is wanted already."""
    for number, wished in wanted.items():
        if _say_the_same(wished, wishes):
            return number
    return None


def _say_the_same(one: tuple[Wish, ...], other: tuple[Wish, ...]) -> bool:
    """Whether two scenes want the same, whatever their wishes are called."""
    return one is other or _said(one) == _said(other)


@derived(1024)
def _said(wishes: tuple[Wish, ...]) -> frozenset[Wish]:
    """What some wishes say, without their names and scenes."""
    bare = []
    for wish in wishes:
        bare.append(msgspec.structs.replace(wish, id="", name="", scenes=()))
    return frozenset(bare)


def _no_program(
    owner: Device, scene: Scene, number: int, wishes: tuple[Wish, ...], others: tuple[Wish, ...]
) -> Obstacle:
    """A scene that wants something else of a device which has no program left for it."""
    ours, theirs = lookup.ids_of(wishes), lookup.ids_of(others)
    return Obstacle(
        tuple(sorted(ours ^ theirs)),
        (),
        say(
            "{owner} has no free program for {scene}, which wants something else of it than the "
            "other scenes on program {program}.",
            owner=owner.name,
            scene=scene.name,
            program=program_words(owner, number),
        ),
    )


def _copy_program(
    plan: Plan, owner: Device, number: int, free: int, scene: Scene
) -> tuple[Plan, Device]:
    copy = program_copy(owner, lookup.program(owner, number), free, scene.name)
    new = changed(owner, programs=(*owner.programs, copy))
    return with_device(plan, owner, new), new


def _fill(
    plan: Plan, ident: str, wanted_of: _Wanted, holds: Holds, kept: list[Binding]
) -> tuple[Plan, list[Binding], list[Obstacle]]:
    """Zones and sends for each program of a device that a scene is on."""
    owner = lookup.device(plan, ident)
    bindings: list[Binding] = []
    obstacles: list[Obstacle] = []
    programs = {}
    for p in owner.programs:
        programs[p.number] = p
    done: set[int] = set()
    parts = {ref_to(device.id, part.id): part for device, part in lookup.parts(plan)}
    if not any(device_of(source) == ident for wish in plan.wishes for source in wish.sources):
        return plan, bindings, obstacles
    for scene in plan.scenes or (None,):
        number = lookup.program_number(scene, owner)
        if number is None or number in done:
            continue
        done.add(number)
        wishes = wanted_of.of(ident, scene)
        playing = _zones_playing(kept, ident, number)
        program, held = on_zones(owner, programs[number], wishes, obstacles, holds, playing, parts)
        program, more = on_sends(plan, owner, program, wishes, obstacles, holds, held)
        programs[number] = program
        bindings += held + more
    new = changed(owner, programs=tuple(programs.values()))
    return with_device(plan, owner, new), bindings, obstacles


def _zones_playing(kept: list[Binding], device: str, program: int) -> frozenset[str]:
    """The zones of a program that play without a wish and are to go on."""
    zones = set()
    for binding in kept:
        here = (binding.device, binding.program) == (device, program)
        if here and binding.is_zone and binding.bond != "free":
            zones.add(binding.thing)
    return frozenset(zones)
