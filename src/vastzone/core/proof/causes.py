"""What falls short, by cause: one line for one wrong number, however much it spoils."""

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.compile import compile_scene
from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY, Touched, touched_in
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.spans import runs
from vastzone.core.plan.refs import device_of
from vastzone.core.proof.cause_words import remark_of
from vastzone.core.proof.check import check
from vastzone.core.proof.diagnose import Case, Clue, clues
from vastzone.core.proof.finding import SEVERITIES, Finding, Span
from vastzone.core.proof.group import Group
from vastzone.core.proof.marking import Proof, scene_marks
from vastzone.core.proof.rules import BY_ID, finding_of
from vastzone.core.proof.verdict import Mark, Marks


class Cause(NamedTuple):
    """A line of what falls short: the finding, and how many keys and controls it spoils.

    ``marks`` are the spoilt ones with their scenes; a rule's finding that spoils nothing wished
    has none.
    """

    finding: Finding
    keys: int
    controls: int
    marks: tuple[tuple[str, Mark], ...]

    @property
    def weight(self) -> int:
        """How many keys and controls, over all scenes."""
        return self.keys + self.controls


def causes(plan: Plan, memory: Memory = NO_MEMORY) -> tuple[Cause, ...]:
    """Everything that falls short, by cause, faults first and the widest first.

    By the ``memory`` it is known what still stands as it left its box.
    """
    return _causes(plan, touched_in(plan, memory))


@derived(8, whole=True)
def spoilt_by(lines: tuple[Cause, ...]) -> Mapping[tuple[str, str], frozenset[int]]:
    """The lines, by their places, that spoil each keybed or control (scene, ``device:thing``)."""
    places: dict[tuple[str, str], set[int]] = {}
    for place, line in enumerate(lines):
        for scene, mark in line.marks:
            places.setdefault((scene, mark.source), set()).add(place)
    return {spot: frozenset(found) for spot, found in places.items()}


def everything(plan: Plan, memory: Memory = NO_MEMORY) -> tuple[Finding, ...]:
    """All that the rules and the proof find, each thing once, faults first."""
    return tuple(cause.finding for cause in causes(plan, memory))


@derived(16)
def _causes(plan: Plan, touched: Touched) -> tuple[Cause, ...]:
    findings = check(plan)
    if not plan.wishes:
        listed = []
        for f in findings:
            listed.append(Cause(f, 0, 0, ()))
        return tuple(listed)
    groups = grouped(plan, touched)
    told = []
    for group in groups:
        told.append((group, finding_of(remark_of(plan, group))))
    used: set[int] = set()
    lines = []
    for group, finding in told:
        lines.append(_line(plan, group, finding, findings, used))
    for n, f in enumerate(findings):
        if n not in used:
            lines.append(Cause(f, 0, 0, ()))
    return tuple(sorted(_merged(lines), key=_order))


def _order(cause: Cause) -> tuple[int, int]:
    return SEVERITIES.index(cause.finding.severity), -cause.weight


def _merged(lines: list[Cause]) -> Iterator[Cause]:
    """Lines that turned out to be the same finding, as one."""
    merged: dict[tuple[str, str], Cause] = {}
    for line in lines:
        key = (line.finding.rule, line.finding.sentence)
        old = merged.get(key)
        if old is not None:
            marks = tuple(dict.fromkeys((*old.marks, *line.marks)))
            line = Cause(old.finding, *_counts(marks), marks)
        merged[key] = line
    yield from merged.values()


def grouped(plan: Plan, touched: Touched) -> tuple[Group, ...]:
    """Every mark that is not as meant, put to its causes."""
    groups: dict[tuple[str, tuple[str, ...]], Group] = {}
    for scene in plan.scenes or (None,):
        for mark, clue in scene_clues(plan, scene, touched):
            key = (clue.kind, clue.about)
            group = groups.setdefault(key, Group(clue.kind, clue.about, [], []))
            group.marks.append((scene.id if scene else "", mark))
            if clue.program not in group.programs:
                group.programs.append(clue.program)
    return tuple(groups.values())


def scene_clues(plan: Plan, scene: Scene | None, touched: Touched) -> tuple[tuple[Mark, Clue], ...]:
    """Every mark of a scene that is not as meant, with each of its causes."""
    return _clued(plan, scene, scene_marks(plan, scene, touched))


@derived(320)
def _clued(
    plan: Plan, scene: Scene | None, proved: tuple[Marks, ...]
) -> tuple[tuple[Mark, Clue], ...]:
    clued = []
    compiled = compile_scene(plan, scene)
    for marks in proved:
        for mark in marks:
            owner = lookup.device(plan, device_of(mark.source))
            program = lookup.program_in(scene, owner)
            if mark.verdict != "as meant" and program is not None:
                for clue in clues(Case(compiled, owner, program, mark)):
                    clued.append((mark, clue))
    return tuple(clued)


def _line(
    plan: Plan, group: Group, own: Finding, findings: tuple[Finding, ...], used: set[int]
) -> Cause:
    """The line of a group: told by a rule where one has found the same, else in its own words."""
    marks = tuple(dict.fromkeys(group.marks))
    scenes = tuple(dict.fromkeys(name for name, _ in marks if name))
    if len(scenes) == len(plan.scenes):
        scenes = ()
    finding = own._replace(scenes=scenes, spans=tuple(_spans(marks)))
    # A rule that found the same knows more: its words stand, with the fixes of both.  Those come
    # first that know what is wished.
    for number, rule in enumerate(findings):
        same = group.kind in BY_ID[rule.rule].causes and _meets(rule, own, scenes)
        if same:
            used.add(number)
            labels = {fix.label for fix in own.fixes}
            fixes = (*own.fixes, *(fix for fix in rule.fixes if fix.label not in labels))
            finding = rule._replace(fixes=fixes, scenes=scenes)
            break
    return Cause(finding, *_counts(marks), marks)


def _meets(rule: Finding, own: Finding, scenes: tuple[str, ...]) -> bool:
    together = not rule.scenes or not scenes or set(rule.scenes) & set(scenes)
    return bool(together) and rule.subjects[0] in own.subjects


def _counts(marks: tuple[tuple[str, Mark], ...]) -> tuple[int, int]:
    keys = set()
    for n, m in marks:
        if m.high:
            for k in range(m.low, m.high + 1):
                keys.add((n, m.source, k))
    controls = set()
    for n, m in marks:
        if not m.high:
            controls.add((n, m.source, m.bank))
    return len(keys), len(controls)


def _spans(marks: tuple[tuple[str, Mark], ...]) -> Iterator[Span]:
    beds = dict.fromkeys(m.source for _, m in marks if m.high)
    for bed in beds:
        keys = set()
        for _, m in marks:
            if m.source == bed:
                for k in range(m.low, m.high + 1):
                    keys.add(k)
        for low, high in runs(sorted(keys)):
            yield Span(bed, low, high)


def spoilt(proof: Proof) -> int:
    """How many keys and controls are not as meant, over all scenes."""
    return sum(max(1, m.high - m.low + 1) if m.high else 1 for _, m in proof.faults())
