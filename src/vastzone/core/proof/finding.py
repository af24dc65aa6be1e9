"""What a rule says, and where rules look."""

from collections.abc import Callable, Iterator
from typing import Literal, NamedTuple

from vastzone.core.engine.compile import Compiled, runs_of
from vastzone.core.engine.tables import Emission
from vastzone.core.engine.world import World, outsides
from vastzone.core.plan.cache import derived
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import ref_to
from vastzone.core.plan.touch import Keybed, Program, Zone

Severity = Literal["fault", "caution", "hint"]
SEVERITIES: tuple[Severity, ...] = ("fault", "caution", "hint")


class Span(NamedTuple):
    """Keys ``low``–``high`` of the keybed ``device:keybed`` that a finding is about."""

    bed: str
    low: int
    high: int


class Remark(NamedTuple):
    """What a rule says.  ``subjects`` are ``device:thing``, the first being where to go.

    ``severity`` is said where it is not the usual one of the rule.
    """

    rule: str
    subjects: tuple[str, ...]
    sentence: str
    fixes: tuple[Edit, ...] = ()
    scenes: tuple[str, ...] = ()
    spans: tuple[Span, ...] = ()
    severity: Severity | None = None


class Finding(NamedTuple):
    """A rule's result.  ``subjects`` are ``device:thing``, the first being where to go."""

    rule: str
    severity: Severity
    subjects: tuple[str, ...]
    sentence: str
    fixes: tuple[Edit, ...] = ()
    scenes: tuple[str, ...] = ()
    spans: tuple[Span, ...] = ()


class Spot(NamedTuple):
    """One keybed in one program, in the scenes in which all that it can reach is the same."""

    plan: Plan
    compiled: Compiled
    owner: Device
    program: Program
    bed: Keybed
    scenes: tuple[str, ...]

    @property
    def ref(self) -> str:
        """The keybed as ``device:keybed``."""
        return ref_to(self.owner.id, self.bed.id)

    @property
    def zones(self) -> tuple[Zone, ...]:
        """The zones of this keybed that are on."""
        return tuple(z for z in self.program.zones if z.keybed == self.bed.id and z.on)

    @property
    def world(self) -> World:
        """What its messages can run into."""
        return self.compiled.world

    def runs(self, zone: Zone) -> Iterator[tuple[range, Emission]]:
        """The keys of a zone in runs that do the same; an emission is told for key 0."""
        beds = runs_of(outsides(self.plan).of(self.owner.id), self.program, self.world)
        for run in beds[self.owner.keybeds.index(self.bed)]:
            low, high = max(run.low, zone.low), min(run.high, zone.high)
            if run.emission.origin == zone.id and low <= high:
                yield range(low, high + 1), run.emission


SpotRule = Callable[[Spot], Iterator[Remark]]
PlanRule = Callable[[Plan, tuple[Compiled, ...]], Iterator[Remark]]


def channel_free(plan: Plan, device: Device) -> int | None:
    """The lowest channel that no zone, control or part of the plan uses."""
    kept = {c for limit in device.limits for c in getattr(limit, "channels", ())}
    return next((c for c in range(1, 17) if c not in _used(plan) | kept), None)


@derived(16)
def _used(plan: Plan) -> frozenset[int | None]:
    used = {p.channel for d in plan.devices for p in d.parts}
    for owner in plan.devices:
        for program in owner.programs:
            used |= {z.channel for z in program.zones} | {s.channel for s in program.sends}
    return frozenset(used)
