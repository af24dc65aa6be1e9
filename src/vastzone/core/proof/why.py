"""Why something does what it does: the verdict of the proof on one strike, and what is behind it.

Checks, proof, facts and strip say the same of it, because they read the same mark.
"""

from typing import NamedTuple

from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.proof.causes import Cause, causes
from vastzone.core.proof.finding import Finding
from vastzone.core.proof.marking import prove_scene
from vastzone.core.proof.silence import Silence, why_is_it_silent
from vastzone.core.proof.verdict import Mark, worst


class Why(NamedTuple):
    """The mark of a strike (None where nothing is meant and nothing sounds), and its causes.

    ``silence`` is what a walk from hand to ear comes to where nothing sounds.
    """

    mark: Mark | None
    causes: tuple[Finding, ...]
    silence: Silence

    @property
    def verdict(self) -> str:
        """The verdict; nothing where the proof has none."""
        return self.mark.verdict if self.mark else ""

    @property
    def is_wrong(self) -> bool:
        """Whether anything is known to be amiss."""
        if self.verdict == "as meant":
            return False
        return bool(self.mark or self.causes or self.silence.cause)


def why(
    plan: Plan,
    scene: Scene | None,
    source: str,
    number: int,
    velocity: int = 96,
    memory: Memory = NO_MEMORY,
) -> Why:
    """Look at key ``number`` of a keybed, or at a control in bank ``number``, in a scene."""
    mark = mark_at(plan, scene, source, number, velocity, memory)
    silence = why_is_it_silent(plan, scene, source, number, velocity)
    if mark is not None and mark.verdict == "as meant":
        return Why(mark, (), silence._replace(cause=None))
    at = scene.id if scene else ""
    found = []
    for cause in causes(plan, memory):
        if (at, mark) in cause.marks or (mark is None and _is_about(plan, cause, source, at)):
            found.append(cause.finding)
    return Why(mark, tuple(found), silence)


def mark_at(
    plan: Plan,
    scene: Scene | None,
    source: str,
    number: int,
    velocity: int,
    memory: Memory = NO_MEMORY,
) -> Mark | None:
    """The verdict on one strike: the worst where several things are meant by it."""
    is_bed = source in _beds(plan, source)
    here = []
    for marks in prove_scene(plan, scene, memory):
        for mark in marks:
            struck = mark.low <= number <= mark.high if is_bed else mark.bank == number
            if mark.source == source and struck and mark.vel_low <= velocity <= mark.vel_high:
                here.append(mark)
    return worst(here)


def _beds(plan: Plan, source: str) -> list[str]:
    """The keybeds of the device of a source, as ``device:keybed``."""
    owner = lookup.device(plan, device_of(source))
    return [ref_to(owner.id, bed.id) for bed in owner.keybeds]


def _is_about(plan: Plan, cause: Cause, source: str, at: str) -> bool:
    """Whether what a rule found is about something of which the proof says nothing."""
    finding = cause.finding
    here = not finding.scenes or at in finding.scenes
    return here and finding.severity == "fault" and source in finding.subjects and not plan.wishes
