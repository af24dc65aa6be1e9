"""What a rule says, and where rules look."""

from collections.abc import Callable, Iterator
from typing import Literal, NamedTuple

from vastzone.core.engine.compile import Compiled, runs_of
from vastzone.core.engine.receivers import Receivers, outsides
from vastzone.core.engine.tables import Emission
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.refs import ref_to

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
        zones = []
        for zone in self.program.zones:
            if zone.keybed == self.bed.id and zone.sends:
                zones.append(zone)
        return tuple(zones)

    @property
    def world(self) -> Receivers:
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
