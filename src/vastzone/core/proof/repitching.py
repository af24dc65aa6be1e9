"""Samples that are played farther from their root than they bear."""

from collections.abc import Iterator

from vastzone.core.engine.compile import Compiled, runs_of
from vastzone.core.engine.receivers import outsides, programs_at
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.devices import set_part
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.response.repitch import ratio_words, strays
from vastzone.core.say import say


def far_from_root(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Parts that are one sample, played farther from their root than their facts allow."""
    samples = {}
    for owner, part in lookup.parts(plan):
        if part.repitch is not None:
            samples[ref_to(owner.id, part.id)] = (owner, part)
    if not samples:
        return
    played: dict[str, set[int]] = {}
    for scene in compiled:
        for ref, low, high in sounded_notes(scene):
            if ref in samples:
                played.setdefault(ref, set()).update((low, high))
    for ref, notes in played.items():
        far = sorted(note for note in notes if strays(samples[ref][1], note))
        if far:
            yield _remark(ref, *samples[ref], far)


def sounded_notes(scene: Compiled) -> Iterator[tuple[str, int, int]]:
    """The parts that sound in a scene, each with the lowest and highest note of a run."""
    programs = programs_at(scene.plan, scene.scene)
    for shell, program in zip(outsides(scene.plan).shells, programs, strict=True):
        if program is None:
            continue
        for runs in runs_of(shell, program, scene.world):
            for run in runs:
                for landing in run.emission.landings:
                    yield landing.ref, run.low + landing.note, run.high + landing.note
    for sendings in scene.controls.values():
        for sending in sendings:
            for note in sending.notes:
                for landing in note.landings:
                    yield landing.ref, landing.note, landing.note


def _remark(ref: str, owner: Device, part: Part, far: list[int]) -> Remark:
    ends = dict.fromkeys((far[0], far[-1]))
    told = " and ".join(
        say(
            "{pitch} at {ratio}",
            pitch=pitch.label(note, owner.octaves),
            ratio=ratio_words(part, note),
        )
        for note in ends
    )
    reach = max(abs(note - part.root) for note in far)
    label = say("Take {part} for right up to {reach} semitones", part=part.name, reach=reach)
    return Remark(
        "far from its root",
        (ref,),
        say(
            "{part} in {owner} plays {told} the speed of its root, {pitch}: more than {repitch} "
            "semitones away.",
            part=part.name,
            owner=owner.name,
            told=told,
            pitch=pitch.label(part.root, owner.octaves),
            repitch=part.repitch,
        ),
        (set_part(owner.id, part.id, label, repitch=reach),) if reach <= 60 else (),
    )
