"""What plays without a wish: fills, kits and what was made by hand, which are meant to go on, and
noise that nobody meant.

Each such sound stands in as a wish of its own while numbers are worked out: what is meant is kept
by the same demands, and noise that cannot be silenced is let be.
"""

from collections import Counter
from collections.abc import Iterator
from typing import NamedTuple

import msgspec

from vastzone.core.cache import derived
from vastzone.core.engine.compile import runs_of
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.outside_programs import Shell
from vastzone.core.engine.receivers import Outsides, Receivers, outsides, programs_at, world_on
from vastzone.core.engine.tables import Landing, Run, Sending
from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import Names, touched_in
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Keybed, Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.wishes_in_scenes import WishesOfSources, wishes_of
from vastzone.core.plan.refs import owner_place, read_ref, ref_to, send_place, thing_of
from vastzone.core.progress import Progress, go_on
from vastzone.core.proof.unwished import is_heard, spots_of, welcome_in
from vastzone.core.say import say
from vastzone.core.solve.shaped import Binding

MEANT, NOISE = "standing!", "noise!"
"""How the names of stand-ins begin: no wish of a plan has such a name."""


def is_standing(wish: str) -> bool:
    """Whether a wish, by its name, only stands in for what is meant without one."""
    return wish.startswith(MEANT)


def is_noise(wish: str) -> bool:
    """Whether a wish, by its name, only stands in for what nobody meant."""
    return wish.startswith(NOISE)


def standing(plan: Plan, memory: Memory, progress: Progress | None = None) -> tuple[Binding, ...]:
    """Every sound and movement without a wish, in each program that a scene is on.

    What sounds twice is not as meant: it is noise.  Raises Cancelled.
    """
    found: dict[Binding, None] = {}
    for here in _places(plan, memory):
        go_on(progress, say("What plays today"), 0.01)
        found.update(dict.fromkeys(here.movements()))
        # Where nothing at all was told or set, nothing sounds that is not wished.
        if here.spots or here.welcome:
            found.update(dict.fromkeys(here.sounds()))
            found.update(dict.fromkeys(here.keybeds()))
    return tuple(found)


class _Place(NamedTuple):
    """A device in one of its programs, in one scene."""

    device: Device
    shell: Shell
    program: Program
    world: Receivers
    wishes: WishesOfSources
    spots: Names
    welcome: Names
    ends: frozenset[str]

    def sounds(self) -> Iterator[Binding]:
        """What its controls play."""
        for ref, bank, sendings in self._unwished():
            landings: list[tuple[str, Landing]] = []
            for sending in sendings:
                for note in sending.notes:
                    landings.extend((sending.send.thing, landing) for landing in note.landings)
            every = [landing for _, landing in landings]
            for thing, landing in landings:
                alone = not any(_doubles(landing, other) for other in every)
                if is_heard(landing, ()):
                    meant = alone and self._is_meant(thing, landing.ref)
                    yield self._binding(self._sounding(ref, bank, landing, meant), ref, thing)

    def movements(self) -> Iterator[Binding]:
        """What its controls move."""
        for ref, bank, sendings in self._unwished():
            hearings: list[tuple[str, str]] = []
            for sending in sendings:
                for motion in sending.motions:
                    targets = [hearing.ref for hearing in motion.hearings if hearing.target]
                    hearings.extend((sending.send.thing, target) for target in targets)
            moved = Counter(target for _, target in hearings)
            for thing, target in hearings:
                meant = moved[target] == 1 and self._is_meant(thing, target)
                wish = self._stand_in(ref, f"{bank}.{target}", bank, meant)
                moving = msgspec.structs.replace(wish, moves=target)
                yield self._binding(moving, ref, thing)

    def _unwished(self) -> Iterator[tuple[str, int, tuple[Sending, ...]]]:
        """What is sent by controls without a wish: one takes a control over whole."""
        own = self.wishes.get(self.device.id, ())
        wished = {(source, wish.bank) for wish in own for source in wish.sources}
        table = control_table(self.shell, self.program, self.world)
        for (ref, bank), sendings in table.items():
            if (ref, bank) not in wished:
                yield ref, bank, sendings

    def _is_meant(self, spot: str, ref: str) -> bool:
        return spot in self.spots or ref in self.welcome

    def _sounding(self, ref: str, bank: int, landing: Landing, meant: bool) -> Wish:
        sound = _sound_of(self.world, landing)
        wish = self._stand_in(ref, f"{bank}.{landing.ref}.{landing.note}", bank, meant)
        return _playing(wish, landing, sound)

    def _stand_in(self, ref: str, what: str, bank: int, meant: bool) -> Wish:
        ident = f"{MEANT if meant else NOISE}{ref}.{self.program.id}.{what}"
        return Wish(id=ident, name=_name_of(self.device, ref), sources=(ref,), bank=bank)

    def _binding(self, wish: Wish, ref: str, thing: str, is_zone: bool = False) -> Binding:
        spot = f"zone.{thing}" if is_zone else thing
        number, end = self.program.number, wish.plays or wish.moves
        set_by_hand = (spot in self.spots, end in self.ends)
        return Binding(wish, ref, self.device.id, number, thing, is_zone, "kept", *set_by_hand)

    def keybeds(self) -> Iterator[Binding]:
        """What its zones play on keys that nobody wished for anything."""
        beds = runs_of(self.shell, self.program, self.world)
        for bed, runs in zip(self.shell.keybeds, beds, strict=True):
            ref = ref_to(self.device.id, bed.id)
            wishes = [wish for wish in self.wishes.get(ref, ()) if wish.plays]
            for run in runs:
                zone = run.emission.origin
                if any(w.lowest <= run.high and run.low <= w.highest for w in wishes):
                    continue
                if not any(zone == there.id for there in self.program.zones):
                    continue
                touched = f"zone.{zone}" in self.spots
                if wishes and not touched:
                    continue  # what else its keys do is for their wishes to settle
                for landing in run.emission.landings:
                    meant = self._is_meant(f"zone.{zone}", landing.ref)
                    wish = self._of_keys(bed, ref, run, landing, meant)
                    yield self._binding(wish, ref, zone, True)

    def _of_keys(self, bed: Keybed, ref: str, run: Run, landing: Landing, meant: bool) -> Wish:
        low, high = run.low, run.high
        what = f"{low}.{landing.ref}.{landing.note}"
        ident = f"{MEANT if meant else NOISE}{ref}.{self.program.id}.{what}"
        return Wish(
            id=ident,
            name=bed.name,
            sources=(ref,),
            plays=landing.ref,
            low=low,
            high=high,
            shift=landing.note,
            vel_low=landing.low,
            vel_high=landing.high,
        )


@derived(16)
def untransposed(plan: Plan) -> Plan:
    """The plan with no song transposed: keys are set as they play without it."""
    if not any(scene.transpose for scene in plan.scenes):
        return plan
    scenes = tuple(changed(scene, transpose=0) for scene in plan.scenes)
    return changed(plan, scenes=scenes)


def _places(plan: Plan, memory: Memory) -> Iterator[_Place]:
    """Every device in each program and surroundings that occur in a scene, once."""
    touched = touched_in(plan, memory)
    plan = untransposed(plan)
    outside: Outsides = outsides(plan)
    seen: set[tuple[int, int, int]] = set()
    for scene in plan.scenes or (None,):
        wishes = wishes_of(plan)[scene.id if scene else ""]
        programs = programs_at(plan, scene)
        world = world_on(outside, programs)
        welcome = welcome_in(world, touched.ends)
        for place, program in enumerate(programs):
            device, shell = plan.devices[place], outside.shells[place]
            own = wishes.get(device.id, ())
            if program is None or (id(program), id(world), id(own)) in seen:
                continue
            seen.add((id(program), id(world), id(own)))
            spots = spots_of(device.programs, program, touched.devices[place])
            yield _Place(device, shell, program, world, wishes, spots, welcome, touched.ends)


def _doubles(landing: Landing, other: Landing) -> bool:
    """Whether another landing sounds the same at some velocity."""
    same = (landing.ref, landing.note) == (other.ref, other.note)
    return other is not landing and same and landing.low <= other.high and other.low <= landing.high


@derived(1024)
def _kit_sounds(world: Receivers, ref: str) -> tuple[tuple[int, str], ...]:
    """The sounds of the kit that a part is on, by note."""
    for heard in world.by_device.values():
        for channel in heard.by_channel:
            for listener in channel:
                if listener.ref == ref and listener.kit is not None:
                    return tuple((sound.note, sound.id) for sound in listener.kit.sounds)
    return ()


def _sound_of(world: Receivers, landing: Landing) -> str:
    """The sound of a kit that a landing calls; nothing where the part is on none."""
    return dict(_kit_sounds(world, landing.ref)).get(landing.note, "")


def _playing(wish: Wish, landing: Landing, sound: str) -> Wish:
    return msgspec.structs.replace(
        wish,
        plays=landing.ref,
        sounds=(sound,) if sound else (),
        note=None if sound else landing.note,
        vel_low=landing.low,
        vel_high=landing.high,
    )


def _name_of(device: Device, ref: str) -> str:
    control = lookup.find(device.controls, thing_of(ref))
    return control.name if control else read_ref(ref).thing


def place_of_sender(plan: Plan, binding: Binding) -> str:
    """What the settings of the zone or send of a binding are named after."""
    program = lookup.program_id(lookup.device(plan, binding.device), binding.program)
    if binding.is_zone:
        return owner_place(binding.device, "zone", binding.thing, program)
    return send_place(binding.device, program, binding.thing)


def place_of_end(wish: Wish) -> str:
    """What the settings of the part or target that a wish ends at are named after."""
    device, thing = read_ref(wish.plays or wish.moves or "")
    return owner_place(device, "part" if wish.plays else "target", thing)
