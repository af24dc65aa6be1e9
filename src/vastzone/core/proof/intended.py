"""The proof: every control of every scene simulated and compared with the wishes.

Each piece is kept by the identity of the tables and wishes that it was proved from, so that after
an edit only what it touched is proved again.
"""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from itertools import chain, pairwise
from typing import Any, NamedTuple

from vastzone.core.engine.compile import runs_of
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.listen import Ears, Listener
from vastzone.core.engine.shell import Shell
from vastzone.core.engine.tables import Controls, Emission, Landing, Motion, Run, Sending
from vastzone.core.engine.world import Outsides, World, outsides, programs_at, world_on
from vastzone.core.plan.cache import alike, derived, no_collecting
from vastzone.core.plan.model import Plan, Scene
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Control, Keybed, Program, Send
from vastzone.core.plan.wish import Intent
from vastzone.core.proof.modes import pair_remark
from vastzone.core.proof.verdict import Hit, Mark, Verdict, judge
from vastzone.core.response.sweep import target_value

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
            yield from ((scene, m) for m in self.marks(scene) if m.verdict != "as meant")


@derived(16, whole=True)
def _tally(proof: Proof) -> Mapping[str, int]:
    groups = chain.from_iterable(proof.scenes.values())
    found: Counter[str] = Counter()
    for marks in groups:
        for verdict, count in _counted(marks).items():
            found[verdict] += count
    return found


@derived(32768, whole=True)
def _counted(marks: Marks) -> Mapping[str, int]:
    return Counter(m.verdict for m in marks)


Wishes = Mapping[str, tuple[Intent, ...]]


@derived(8)
def prove(plan: Plan) -> Proof:
    """Prove a whole plan; parts that did not change since an earlier proof are reused."""
    with no_collecting():
        return Proof({s.id if s else "": prove_scene(plan, s) for s in plan.scenes or (None,)})


@derived(320)
def prove_scene(plan: Plan, scene: Scene | None) -> tuple[Marks, ...]:
    """Prove one scene."""
    wishes = wishes_of(plan)[scene.id if scene else ""]
    return _scene(outsides(plan), programs_at(plan, scene), wishes)


@derived(16)
def wishes_of(plan: Plan) -> Mapping[str, Wishes]:
    """The wishes of a plan by scene and by where they begin."""
    return wishes_by_scene(plan.intents, tuple(s.id for s in plan.scenes) or ("",))


@derived(8)
def wishes_by_scene(intents: tuple[Intent, ...], scenes: tuple[str, ...]) -> Mapping[str, Wishes]:
    """The wishes that hold in each scene, by where they begin: a source, or its device."""
    found: dict[str, list[Intent]] = {scene: [] for scene in scenes}
    for intent in intents:
        for scene in intent.scenes or scenes:
            if scene in found:
                found[scene].append(intent)
    return {scene: _by_place(tuple(held)) for scene, held in found.items()}


@derived(1024)
def _by_place(intents: tuple[Intent, ...]) -> Wishes:
    found: dict[str, list[Intent]] = {}
    for intent in intents:
        owners = dict.fromkeys(device_of(source) for source in intent.sources)
        for place in (*intent.sources, *owners):
            found.setdefault(place, []).append(intent)
    return {place: alike(tuple(held)) for place, held in found.items()}


@derived(1024)
def _scene(
    outside: Outsides, programs: tuple[Program | None, ...], wishes: Wishes
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
def _prove_bed(bed: Keybed, does: tuple[Run, ...], wishes: tuple[Intent, ...], ref: str) -> Marks:
    wished = [i for i in wishes if i.plays]
    spans = [(i.lowest, i.highest) for i in wished]
    held = [*spans, *((run.low, run.high) for run in does)]
    edges = {bed.low, bed.high + 1, *(e for low, high in held for e in (low, high + 1))}
    runs: list[list[Any]] = []
    for low, after in pairwise(sorted(e for e in edges if bed.low <= e <= bed.high + 1)):
        here = [i for i, (a, b) in zip(wished, spans, strict=True) if a <= low <= b]
        landings = [la for r in does if r.low <= low <= r.high for la in r.emission.landings]
        if here or landings:
            for mark in _prove_keys(ref, here, landings):
                _join(runs, mark, low, after - 1)
    return tuple(mark._replace(low=low, high=high) for mark, low, high in runs)


def _prove_keys(ref: str, wishes: list[Intent], landings: list[Landing]) -> Iterator[Mark]:
    """Keys that do the same and are meant to; the notes of the landings count from the key."""
    for low, after in _bands(wishes, landings):
        here = [i for i in wishes if i.vel_low <= low <= i.vel_high]
        meant = [Hit(i.plays or "", i.shift) for i in here]
        heard = [Hit(la.ref, la.note) for la in landings if la.low <= low <= la.high]
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


def _bands(wishes: Sequence[Intent], landings: list[Landing]) -> Iterator[tuple[int, int]]:
    """Velocities 1–127 cut wherever a wish or a landing begins or ends."""
    edges = {1, 128}
    edges |= {edge for i in wishes for edge in (i.vel_low, i.vel_high + 1)}
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
    world: World,
    here: tuple[Intent, ...],
    listening: tuple[Shell, ...],
) -> Marks:
    kits = tuple(_kits_of(world.of(shell.id)) for shell in listening)
    aims = tuple(_aims_of(shell.id, shell.targets) for shell in listening)
    table = control_table(owner, program, world)
    return _prove_controls(owner.id, owner.controls, table, here, aims, kits)


@derived(4096)
def _parties(wishes: tuple[Intent, ...]) -> tuple[str, ...]:
    """The devices that wishes end at."""
    return tuple(dict.fromkeys(device_of(i.plays or i.moves or "") for i in wishes))


Aims = Mapping[str, Target]
"""The targets of a device by ``device:target``."""


@derived(1024)
def _aims_of(device: str, targets: tuple[Target, ...]) -> Aims:
    return {ref_to(device, target.id): target for target in targets}


@derived(4096)
def _kits_of(heard: Ears) -> tuple[Listener, ...]:
    return tuple(dict.fromkeys(li for ch in heard.by_channel for li in ch if li.kit))


@derived(16384)
def _prove_controls(
    owner: str,
    controls: tuple[Control, ...],
    table: Controls,
    wishes: tuple[Intent, ...],
    aims: tuple[Aims, ...],
    kits: tuple[tuple[Listener, ...], ...],
) -> Marks:
    marks: list[Mark] = []
    listeners = tuple(li for held in kits for li in held)
    wished = _by_control(wishes)
    for control in controls:
        for bank in range(1, control.banks + 1):
            key = (ref_to(owner, control.id), bank)
            here, sendings = wished.get(key, ()), table.get(key, ())
            if here or sendings:
                marks += _prove_control(key, here, sendings, aims, listeners)
    return tuple(marks)


@derived(2048)
def _by_control(wishes: tuple[Intent, ...]) -> Mapping[tuple[str, int], tuple[Intent, ...]]:
    """Wishes by the control and the bank that they begin at."""
    found: dict[tuple[str, int], list[Intent]] = {}
    for intent in wishes:
        for source in dict.fromkeys(intent.sources):
            found.setdefault((source, intent.bank), []).append(intent)
    return {key: tuple(held) for key, held in found.items()}


@derived(65536)
def _prove_control(
    key: tuple[str, int],
    here: tuple[Intent, ...],
    sendings: tuple[Sending, ...],
    aims: tuple[Aims, ...],
    listeners: tuple[Listener, ...],
) -> Marks:
    marks: list[Mark] = []
    notes = [(s.send, e) for s in sendings for e in s.notes]
    if any(i.plays for i in here) or any(e.landings for _, e in notes):
        marks.extend(_prove_pad(key, here, notes, listeners))
    motions = [(s.send, m) for s in sendings for m in s.motions]
    marks.extend(_prove_moves(key, here, motions, aims))
    return tuple(marks)


def _prove_pad(
    key: tuple[str, int],
    wishes: tuple[Intent, ...],
    notes: list[tuple[Send, Emission]],
    kits: tuple[Listener, ...],
) -> Iterator[Mark]:
    played = [i for i in wishes if i.plays]
    landings = [la for _, e in notes for la in e.landings]
    for low, after in _bands(played, landings):
        here = [i for i in played if i.vel_low <= low <= i.vel_high]
        meant = [Hit(i.plays or "", wished_note(i, key[0], kits)) for i in here]
        sounding = [la for la in landings if la.low <= low <= la.high]
        heard = [Hit(la.ref, la.note) for la in sounding]
        if not meant and not heard:
            continue
        verdict, missing, extra = judge(meant, heard)
        remark = ""
        if verdict == "as meant":
            remark = pair_remark(notes[0][0].mode, sounding[0].part.trigger)
            verdict = "wrong" if remark else verdict
        yield Mark(
            key[0],
            key[1],
            0,
            0,
            low,
            after - 1,
            verdict,
            tuple(meant),
            missing,
            extra,
            tuple(i.id for i in here),
            remark,
        )


def wished_note(intent: Intent, source: str, kits: tuple[Listener, ...]) -> int:
    """The note that a control is meant to sound; −1 where the kit does not hold the sound."""
    if intent.sounds:
        wanted = intent.sound(intent.sources.index(source))
        for listener in kits:
            if listener.ref == intent.plays and listener.kit is not None:
                return next((s.note for s in listener.kit.sounds if s.id == wanted), -1)
        return -1
    return -1 if intent.note is None else intent.note


def _prove_moves(
    key: tuple[str, int],
    wishes: tuple[Intent, ...],
    motions: list[tuple[Send, Motion]],
    aims: tuple[Aims, ...],
) -> Iterator[Mark]:
    meant = [Hit(i.moves or "", 0) for i in wishes if i.moves]
    heard = [
        Hit(h.ref, int(h.reads == "fine")) for _, m in motions for h in m.hearings if not h.is_part
    ]
    if not meant and not heard:
        return
    verdict, missing, extra = judge(meant, heard)
    remark = ""
    if verdict == "as meant":
        for intent in (i for i in wishes if i.moves):
            remark = remark or _range_remark(intent, motions, aims)
        verdict = "wrong" if remark else verdict
    yield Mark(
        key[0],
        key[1],
        0,
        0,
        1,
        127,
        verdict,
        tuple(meant),
        missing,
        extra,
        tuple(i.id for i in wishes if i.moves),
        remark,
    )


def _range_remark(
    intent: Intent, motions: list[tuple[Send, Motion]], aims: tuple[Aims, ...]
) -> str:
    moved = intent.moves or ""
    target = next(held[moved] for held in aims if moved in held)
    send = next(s for s, m in motions if any(h.ref == intent.moves for h in m.hearings))
    if target.mode != "continuous":
        return pair_remark(send.mode, target.mode)
    step = abs(target.high - target.low) / 127
    for wanted, value in ((intent.from_value, send.low), (intent.to_value, send.high)):
        reached = target_value(target, value)
        if wanted is not None and abs(reached - wanted) > step:
            return f"{target.name} goes to {reached:.4g} {target.unit}, not {wanted:.4g}."
    return ""
