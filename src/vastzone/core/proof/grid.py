"""What is touched against what sounds, with the proof's verdict in each crossing."""

from collections.abc import Iterable
from itertools import pairwise
from typing import NamedTuple

from vastzone.core.plan import lookup
from vastzone.core.plan.cache import derived
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import ref_to
from vastzone.core.plan.wishes import Place
from vastzone.core.proof.intended import Proof
from vastzone.core.proof.verdict import Mark, Verdict

WORST: tuple[Verdict, ...] = ("wrong", "silent", "double", "extra", "as meant")


class Cell(NamedTuple):
    """The verdict where a row meets a column: the worst one, in how many scenes, by which wishes.

    ``partly`` says that not every key of the row or not every velocity is concerned.
    """

    verdict: Verdict
    scenes: tuple[str, ...]
    intents: tuple[str, ...]
    partly: bool = False


class Grid(NamedTuple):
    """Rows are keys and controls, columns parts and targets ``device:thing``."""

    rows: tuple[Place, ...]
    columns: tuple[str, ...]
    cells: dict[tuple[int, int], Cell]

    def worst(self, row: int) -> Verdict | None:
        """The worst verdict in a row; None where nothing is wished and nothing sounds."""
        held = {c.verdict for (r, _), c in self.cells.items() if r == row}
        return next((v for v in WORST if v in held), None)


@derived(16)
def grid(plan: Plan, proof: Proof, scene: str | None, ranges: tuple[Place, ...] = ()) -> Grid:
    """The grid of one scene; of all scenes together when ``scene`` is None.

    ``ranges`` are keys of one's own choosing, shown as rows of their own.
    """
    names = tuple(proof.scenes) if scene is None else (scene,)
    marks = _marks(proof, names)
    rows = tuple(row for owner in plan.devices for row in _rows(owner, marks, ranges))
    columns = tuple(ref_to(d.id, x.id) for d in plan.devices for x in lookup.ends(d))
    at = {ref: n for n, ref in enumerate(columns)}
    lines: dict[tuple[str, int], list[int]] = {}
    for n, row in enumerate(rows):
        lines.setdefault((row.source, row.bank), []).append(n)
    met: dict[tuple[int, int], list[_Meeting]] = {}
    for scenes, mark in marks:
        for n in lines.get((mark.source, mark.bank), ()):
            row = rows[n]
            if row.low <= mark.high and mark.low <= row.high:
                for ref, verdict in verdicts(mark):
                    if ref in at:
                        met.setdefault((n, at[ref]), []).append(_Meeting(verdict, scenes, mark))
    cells = {key: _cell(rows[key[0]], held) for key, held in met.items()}
    return Grid(rows, columns, cells)


def _marks(proof: Proof, names: tuple[str, ...]) -> list[tuple[tuple[str, ...], Mark]]:
    """Every mark with its scenes; scenes that share a device's program share its marks."""
    groups: dict[int, tuple[tuple[Mark, ...], list[str]]] = {}
    for name in names:
        for group in proof.scenes.get(name, ()):
            groups.setdefault(id(group), (group, []))[1].append(name)
    return [(tuple(scenes), mark) for group, scenes in groups.values() for mark in group]


class _Meeting(NamedTuple):
    verdict: Verdict
    scenes: tuple[str, ...]
    mark: Mark


def _cell(row: Place, held: list[_Meeting]) -> Cell:
    """What a row and a column come to: the worst verdict, and whether it holds for all of it."""
    worst = min((m.verdict for m in held), key=WORST.index)
    scenes = tuple(dict.fromkeys(s for m in held for s in m.scenes))
    intents = tuple(dict.fromkeys(i for m in held for i in m.mark.intents))
    here = [m for m in held if m.verdict == worst]
    return Cell(worst, scenes, intents, _is_partly(row, here, len(scenes)))


def _is_partly(row: Place, held: list[_Meeting], scenes: int) -> bool:
    """Whether some key, velocity or scene of a row is left out."""
    if any((m.mark.vel_low, m.mark.vel_high) != (1, 127) for m in held):
        return True
    keys: dict[tuple[str, ...], int] = {}
    for _, where, mark in held:
        shared = min(row.high, mark.high) - max(row.low, mark.low) + 1
        keys[where] = keys.get(where, 0) + shared
    whole = row.high - row.low + 1
    return sum(map(len, keys)) < scenes or any(n < whole for n in keys.values())


def _rows(
    owner: Device, marks: list[tuple[tuple[str, ...], Mark]], ranges: tuple[Place, ...]
) -> Iterable[Place]:
    """The keys of each keybed, cut where what they do or should do changes; then the controls."""
    for bed in owner.keybeds:
        ref = ref_to(owner.id, bed.id)
        cuts = {bed.low, bed.high + 1}
        cuts |= {edge for _, m in marks if m.source == ref for edge in (m.low, m.high + 1)}
        edges = sorted(c for c in cuts if bed.low <= c <= bed.high + 1)
        rows = [Place(ref, 1, low, after - 1) for low, after in pairwise(edges)]
        yield from dict.fromkeys((*rows, *(r for r in ranges if r.source == ref)))
    for bank in range(1, max((c.banks for c in owner.controls), default=0) + 1):
        for control in owner.controls:
            if bank <= control.banks:
                yield Place(ref_to(owner.id, control.id), bank)


def verdicts(mark: Mark) -> Iterable[tuple[str, Verdict]]:
    """The verdict of a mark on each part or target that it concerns."""
    missing, extra = {h.ref for h in mark.missing}, {h.ref for h in mark.extra}
    for ref in dict.fromkeys(h.ref for h in mark.meant):
        if ref in missing:
            yield ref, "wrong" if ref in extra else "silent"
        elif mark.verdict == "double" and ref in extra:
            yield ref, "double"
        else:
            yield ref, "wrong" if mark.remark else "as meant"
    for ref in extra - {h.ref for h in mark.meant}:
        yield ref, "extra"
