"""The proof: every control of every scene simulated and compared with the wishes.

Each piece is kept by the identity of the tables and wishes that it was proved from, so that after
an edit only what it touched is proved again.
"""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from itertools import chain, pairwise
from typing import Any, NamedTuple

from vastzone.core.cache import derived, no_collecting
from vastzone.core.engine.compile import runs_of
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.listen import DeviceListeners, Listener
from vastzone.core.engine.outside_programs import Shell
from vastzone.core.engine.receivers import Outsides, Receivers, outsides, programs_at, world_on
from vastzone.core.engine.tables import Controls, Emission, Landing, Motion, Run, Sending
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries.wishes_in_scenes import WishesOfSources, wishes_of
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.proof.modes import pair_remark
from vastzone.core.proof.verdict import Effect, Mark, Verdict, judge
from vastzone.core.response.wished import covers, reached, step_of, wished_ends

Marks = tuple[Mark, ...]


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


@derived(8)
def prove(plan: Plan) -> Proof:
    """Prove a whole plan; parts that did not change since an earlier proof are reused."""
    with no_collecting():
        return Proof(
            {
                scene.id if scene else "": prove_scene(plan, scene)
                for scene in plan.scenes or (None,)
            }
        )


@derived(320)
def prove_scene(plan: Plan, scene: Scene | None) -> tuple[Marks, ...]:
    """Prove one scene."""
    wishes = wishes_of(plan)[scene.id if scene else ""]
    return _scene(outsides(plan), programs_at(plan, scene), wishes)


@derived(1024)
def _scene(
    outside: Outsides, programs: tuple[Program | None, ...], wishes: WishesOfSources
) -> tuple[Marks, ...]:
    world = world_on(outside, programs)
    groups = []
    for owner, program in zip(outside.shells, programs, strict=True):
        if program is None:
            continue
        beds = runs_of(owner, program, world)
        for bed, does in zip(owner.keybeds, beds, strict=True):
            ref = ref_to(owner.id, bed.id)
            groups.append(_prove_bed(bed, does, wishes.get(ref, ()), ref))
        if owner.controls:
            here = wishes.get(owner.id, ())
            listening = tuple([outside.of(device) for device in _parties(here)])
            groups.append(_controls(owner, program, world, here, listening))
    return tuple(groups)


@derived(32768, whole=True)
def _prove_bed(bed: Keybed, does: tuple[Run, ...], wishes: tuple[Wish, ...], ref: str) -> Marks:
    wished = []
    for wish in wishes:
        if wish.plays:
            wished.append((wish.lowest, wish.highest, wish))
    runs: list[list[Any]] = []
    for low, after in pairwise(_edges(bed, wished, does)):
        here = []
        for first, last, wish in wished:
            if first <= low <= last:
                here.append(wish)
        landings = _landings(does, low)
        if here or landings:
            for mark in _prove_keys(ref, here, landings):
                _join(runs, mark, low, after - 1)
    return tuple(mark._replace(low=low, high=high) for mark, low, high in runs)


def _landings(does: tuple[Run, ...], key: int) -> list[Landing]:
    """Everything that a key sounds."""
    landings: list[Landing] = []
    for run in does:
        if run.low <= key <= run.high:
            landings += run.emission.landings
    return landings


def _edges(bed: Keybed, wished: list[tuple[int, int, Wish]], does: tuple[Run, ...]) -> list[int]:
    """Where what keys do or should do changes, from the lowest key to past the highest."""
    edges = {bed.low, bed.high + 1}
    for low, high, _ in wished:
        edges |= {low, high + 1}
    for run in does:
        edges |= {run.low, run.high + 1}
    return sorted(edge for edge in edges if bed.low <= edge <= bed.high + 1)


def _wished_at(velocity: int, wishes: list[Wish]) -> list[Wish]:
    wished = []
    for wish in wishes:
        if wish.vel_low <= velocity <= wish.vel_high:
            wished.append(wish)
    return wished


def _sounding_at(velocity: int, landings: list[Landing]) -> list[Landing]:
    sounding = []
    for landing in landings:
        if landing.low <= velocity <= landing.high:
            sounding.append(landing)
    return sounding


def _effects(landings: list[Landing]) -> list[Effect]:
    effects = []
    for landing in landings:
        effects.append(Effect(landing.ref, landing.note))
    return effects


def _prove_keys(ref: str, wishes: list[Wish], landings: list[Landing]) -> Iterator[Mark]:
    """Keys that do the same and are meant to; the notes of the landings count from the key."""
    for low, after in _bands(wishes, landings):
        here = _wished_at(low, wishes)
        meant = []
        for wish in here:
            meant.append(Effect(wish.plays or "", wish.shift))
        heard = _effects(_sounding_at(low, landings))
        if meant or heard:
            verdict, missing, extra = judge(meant, heard)
            yield Mark(
                ref,
                1,
                0,
                0,
                low,
                after - 1,
                verdict,
                tuple(meant),
                missing,
                extra,
                tuple(i.id for i in here),
            )


def _bands(wishes: Sequence[Wish], landings: list[Landing]) -> Iterator[tuple[int, int]]:
    """Velocities 1–127 cut wherever a wish or a landing begins or ends."""
    edges = {1, 128}
    edges |= {edge for wish in wishes for edge in (wish.vel_low, wish.vel_high + 1)}
    edges |= {edge for la in landings for edge in (la.low, la.high + 1)}
    return pairwise(sorted(edges))


def _join(runs: list[list[Any]], mark: Mark, low: int, high: int) -> None:
    """Begin a run of keys, or lengthen the one that ends on the key before and says the same.

    A run is a mark with its lowest and highest key.
    """
    for run in reversed(runs[-8:]):
        if run[2] == low - 1 and run[0][4:] == mark[4:]:
            run[2] = high
            return
    runs.append([mark, low, high])


@derived(4096)
def _controls(
    owner: Shell,
    program: Program,
    world: Receivers,
    here: tuple[Wish, ...],
    listening: tuple[Shell, ...],
) -> Marks:
    kits = tuple(_kits_of(world.of(shell.id)) for shell in listening)
    aims = tuple(_aims_of(shell.id, shell.targets) for shell in listening)
    table = control_table(owner, program, world)
    return _prove_controls(owner.id, owner.controls, table, here, aims, kits)


@derived(4096)
def _parties(wishes: tuple[Wish, ...]) -> tuple[str, ...]:
    """The devices that wishes end at."""
    return tuple(dict.fromkeys(device_of(wish.plays or wish.moves or "") for wish in wishes))


Aims = Mapping[str, Target]
"""The targets of a device by ``device:target``."""


@derived(1024)
def _aims_of(device: str, targets: tuple[Target, ...]) -> Aims:
    aims = {}
    for target in targets:
        aims[ref_to(device, target.id)] = target
    return aims


@derived(4096)
def _kits_of(heard: DeviceListeners) -> tuple[Listener, ...]:
    return tuple(dict.fromkeys(li for ch in heard.by_channel for li in ch if li.kit))


@derived(16384)
def _prove_controls(
    owner: str,
    controls: tuple[Control, ...],
    table: Controls,
    wishes: tuple[Wish, ...],
    aims: tuple[Aims, ...],
    kits: tuple[tuple[Listener, ...], ...],
) -> Marks:
    marks: list[Mark] = []
    listeners = tuple(li for kit in kits for li in kit)
    wished = _by_control(wishes)
    for control in controls:
        for bank in range(1, control.banks + 1):
            key = (ref_to(owner, control.id), bank)
            here, sendings = wished.get(key, ()), table.get(key, ())
            if here or sendings:
                marks += _prove_control(key, here, sendings, aims, listeners)
    return tuple(marks)


@derived(2048)
def _by_control(wishes: tuple[Wish, ...]) -> Mapping[tuple[str, int], tuple[Wish, ...]]:
    """Wishes by the control and the bank that they begin at."""
    by_control: dict[tuple[str, int], list[Wish]] = {}
    for wish in wishes:
        for source in dict.fromkeys(wish.sources):
            by_control.setdefault((source, wish.bank), []).append(wish)
    return {key: tuple(wishes_there) for key, wishes_there in by_control.items()}


@derived(65536)
def _prove_control(
    key: tuple[str, int],
    here: tuple[Wish, ...],
    sendings: tuple[Sending, ...],
    aims: tuple[Aims, ...],
    listeners: tuple[Listener, ...],
) -> Marks:
    marks: list[Mark] = []
    notes = []
    for sending in sendings:
        for note in sending.notes:
            notes.append((sending.send, note))
    if any(i.plays for i in here) or any(e.landings for _, e in notes):
        marks.extend(_prove_pad(key, here, notes, listeners))
    motions = []
    for sending in sendings:
        for motion in sending.motions:
            motions.append((sending.send, motion))
    marks.extend(_prove_moves(key, here, motions, aims))
    return tuple(marks)


class _LayerLanding(NamedTuple):
    """Where a layer of a pad sounds, and the mode in which that layer sends."""

    mode: str
    landing: Landing


def _prove_pad(
    key: tuple[str, int],
    wishes: tuple[Wish, ...],
    notes: list[tuple[Send, Emission]],
    kits: tuple[Listener, ...],
) -> Iterator[Mark]:
    played = []
    for wish in wishes:
        if wish.plays:
            played.append(wish)
    layers = []
    for send, emission in notes:
        for landing in emission.landings:
            layers.append(_LayerLanding(send.mode, landing))
    for low, after in _bands(played, [layer.landing for layer in layers]):
        here = _wished_at(low, played)
        sounding = []
        for layer in layers:
            if layer.landing.low <= low <= layer.landing.high:
                sounding.append(layer)
        if here or sounding:
            meant = []
            for wish in here:
                meant.append(Effect(wish.plays or "", wished_note(wish, key[0], kits)))
            heard = _effects([layer.landing for layer in sounding])
            yield _mark(key, low, after - 1, meant, heard, here, _mode_remark(sounding))


def _mode_remark(sounding: list[_LayerLanding]) -> str:
    """What is wrong with how the layers of a pad and what they sound work together."""
    for layer in sounding:
        remark = pair_remark(layer.mode, layer.landing.part.trigger)
        if remark:
            return remark
    return ""


def _mark(
    key: tuple[str, int],
    low: int,
    high: int,
    meant: list[Effect],
    heard: list[Effect],
    wishes: Sequence[Wish],
    remark: str,
) -> Mark:
    """The verdict on a control at velocities; a remark makes what is as meant wrong after all."""
    verdict, missing, extra = judge(meant, heard)
    if verdict != "as meant":
        remark = ""
    elif remark:
        verdict = "wrong"
    wished = tuple(wish.id for wish in wishes)
    return Mark(*key, 0, 0, low, high, verdict, tuple(meant), missing, extra, wished, remark)


def wished_note(wish: Wish, source: str, kits: tuple[Listener, ...]) -> int:
    """The note that a control is meant to sound; −1 where the kit does not hold the sound."""
    if wish.sounds:
        wanted = wish.sound(wish.sources.index(source))
        for listener in kits:
            if listener.ref == wish.plays and listener.kit is not None:
                return next((sound.note for sound in listener.kit.sounds if sound.id == wanted), -1)
        return -1
    return -1 if wish.note is None else wish.note


def _prove_moves(
    key: tuple[str, int],
    wishes: tuple[Wish, ...],
    motions: list[tuple[Send, Motion]],
    aims: tuple[Aims, ...],
) -> Iterator[Mark]:
    moving = []
    for wish in wishes:
        if wish.moves:
            moving.append(wish)
    meant = []
    for wish in moving:
        meant.append(Effect(wish.moves or "", 0))
    heard = list(_moved(motions))
    if meant or heard:
        remark = ""
        if judge(meant, heard)[0] == "as meant":
            remarks = (_range_remark(wish, motions, aims) for wish in moving)
            remark = next(filter(None, remarks), "")
        yield _mark(key, 1, 127, meant, heard, moving, remark)


def _moved(motions: list[tuple[Send, Motion]]) -> Iterator[Effect]:
    """The targets that a control moves; half of a pair is not what was meant."""
    for _, motion in motions:
        for hearing in motion.hearings:
            if not hearing.is_part:
                yield Effect(hearing.ref, int(hearing.reads == "fine"))


def _range_remark(wish: Wish, motions: list[tuple[Send, Motion]], aims: tuple[Aims, ...]) -> str:
    moved = wish.moves or ""
    target = next(held[moved] for held in aims if moved in held)
    for send, motion in motions:
        if any(hearing.ref == moved for hearing in motion.hearings):
            remark = _travel_remark(wish, send, target)
            if remark:
                return remark
    return ""


def _travel_remark(wish: Wish, send: Send, target: Target) -> str:
    """What is wrong with how far a control moves a target, or with how it switches it."""
    if target.mode != "continuous":
        return pair_remark(send.mode, target.mode)
    travel = reached(send, target)
    wanted = wished_ends(wish, target)
    if covers(travel, wanted, step_of(send, target)):
        return ""
    whole = wish.from_value is None and wish.to_value is None
    if whole and covers(travel[::-1], wanted, step_of(send, target)):
        return ""
    unit = f" {target.unit}" if target.unit else ""
    return (
        f"{target.name} goes {travel[0]:.4g} … {travel[1]:.4g}{unit}, not "
        f"{wanted[0]:.4g} … {wanted[1]:.4g}."
    )
