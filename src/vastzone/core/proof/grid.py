"""What is touched against what sounds, with the proof's verdict in each crossing."""

from collections.abc import Iterable, Iterator
from itertools import pairwise
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.marking import Proof
from vastzone.core.proof.verdict import Effect, Mark, Verdict

WORST: tuple[Verdict, ...] = (
    "wrong",
    "silent",
    "double",
    "extra",
    "not known",
    "as meant",
)


class Crossing(NamedTuple):
    """The verdict where a row meets a column: the worst one, in how many scenes, by which wishes.

    ``partly`` says that not every key of the row or not every velocity is concerned.
    """

    verdict: Verdict
    scenes: tuple[str, ...]
    wishes: tuple[str, ...]
    partly: bool = False


class Grid(NamedTuple):
    """Rows are keys and controls, columns parts and targets ``device:thing``."""

    rows: tuple[WishPlace, ...]
    columns: tuple[str, ...]
    cells: dict[tuple[int, int], Crossing]

    def worst(self, row: int) -> Verdict | None:
        """The worst verdict in a row; None where nothing is wished and nothing sounds."""
        seen = set()
        for (r, _), c in self.cells.items():
            if r == row:
                seen.add(c.verdict)
        return next((v for v in WORST if v in seen), None)


@derived(16)
def grid(plan: Plan, proof: Proof, scene: str | None, ranges: tuple[WishPlace, ...] = ()) -> Grid:
    """The grid of one scene; of all scenes together when ``scene`` is None.

    ``ranges`` are keys of one's own choosing, shown as rows of their own.
    """
    marks = _marks(proof, tuple(proof.scenes) if scene is None else (scene,))
    rows: list[WishPlace] = []
    columns: list[str] = []
    for owner in plan.devices:
        rows += _rows(owner, marks, ranges)
        for end in lookup.ends(owner):
            columns.append(ref_to(owner.id, end.id))
    met: dict[tuple[int, int], list[_MarkMet]] = {}
    at = {}
    for number, ref in enumerate(columns):
        at[ref] = number
    for number, scenes, mark in _marks_in_rows(rows, marks):
        for ref, verdict in verdicts(mark):
            if ref in at:
                met.setdefault((number, at[ref]), []).append(_MarkMet(verdict, scenes, mark))
    cells = {}
    for key, met_here in met.items():
        cells[key] = _cell(rows[key[0]], met_here)
    return Grid(tuple(rows), tuple(columns), cells)


def _marks_in_rows(
    rows: list[WishPlace], marks: list[tuple[tuple[str, ...], Mark]]
) -> Iterator[tuple[int, tuple[str, ...], Mark]]:
    """Each mark with the number of every row that it concerns."""
    numbers: dict[tuple[str, int], list[int]] = {}
    for number, row in enumerate(rows):
        numbers.setdefault((row.source, row.bank), []).append(number)
    for scenes, mark in marks:
        for number in numbers.get((mark.source, mark.bank), ()):
            row = rows[number]
            if row.low <= mark.high and mark.low <= row.high:
                yield number, scenes, mark


def _marks(proof: Proof, names: tuple[str, ...]) -> list[tuple[tuple[str, ...], Mark]]:
    """Every mark with its scenes; scenes that share a device's program share its marks."""
    groups: dict[int, tuple[tuple[Mark, ...], list[str]]] = {}
    for name in names:
        for group in proof.scenes.get(name, ()):
            groups.setdefault(id(group), (group, []))[1].append(name)
    return [(tuple(scenes), mark) for group, scenes in groups.values() for mark in group]


class _MarkMet(NamedTuple):
    verdict: Verdict
    scenes: tuple[str, ...]
    mark: Mark


def _cell(row: WishPlace, marks: list[_MarkMet]) -> Crossing:
    """What a row and a column come to: the worst verdict, and whether it holds for all of it."""
    if len(marks) == 1:  # as nearly everywhere
        verdict, only_scenes, mark = marks[0]
        all_keys = mark.low <= row.low and row.high <= mark.high
        every = all_keys and (mark.vel_low, mark.vel_high) == (1, 127)
        return Crossing(verdict, only_scenes, tuple(dict.fromkeys(mark.wishes)), not every)
    worst = min((item.verdict for item in marks), key=WORST.index)
    scenes = tuple(dict.fromkeys(scene for item in marks for scene in item.scenes))
    wishes = tuple(dict.fromkeys(wish for item in marks for wish in item.mark.wishes))
    here = []
    for item in marks:
        if item.verdict == worst:
            here.append(item)
    return Crossing(worst, scenes, wishes, _is_partly(row, here, len(scenes)))


def _is_partly(row: WishPlace, marks: list[_MarkMet], scenes: int) -> bool:
    """Whether some key, velocity or scene of a row is left out."""
    if any((item.mark.vel_low, item.mark.vel_high) != (1, 127) for item in marks):
        return True
    keys: dict[tuple[str, ...], int] = {}
    for _, where, mark in marks:
        shared = min(row.high, mark.high) - max(row.low, mark.low) + 1
        keys[where] = keys.get(where, 0) + shared
    whole = row.high - row.low + 1
    return sum(map(len, keys)) < scenes or any(n < whole for n in keys.values())


def _rows(
    owner: Device, marks: list[tuple[tuple[str, ...], Mark]], ranges: tuple[WishPlace, ...]
) -> Iterable[WishPlace]:
    """The keys of each keybed, cut where what they do or should do changes; then the controls."""
    for bed in owner.keybeds:
        ref = ref_to(owner.id, bed.id)
        cuts = _cuts(bed, [mark for _, mark in marks if mark.source == ref])
        rows = []
        for low, after in pairwise(cuts):
            rows.append(WishPlace(ref, 1, low, after - 1))
        own = []
        for place in ranges:
            if place.source == ref:
                own.append(place)
        yield from dict.fromkeys((*rows, *own))
    banks = max((control.banks for control in owner.controls), default=0)
    for bank in range(1, banks + 1):
        for control in owner.controls:
            if bank <= control.banks:
                yield WishPlace(ref_to(owner.id, control.id), bank)


def _cuts(bed: Keybed, marks: list[Mark]) -> list[int]:
    """Where rows of keys begin, and the end of the last."""
    cuts = {bed.low, bed.high + 1}
    for mark in marks:
        cuts |= {mark.low, mark.high + 1}
    return sorted(cut for cut in cuts if bed.low <= cut <= bed.high + 1)


def verdicts(mark: Mark) -> Iterable[tuple[str, Verdict]]:
    """The verdict of a mark on each part or target that it concerns."""
    meant, missing, extra = map(_refs, (mark.meant, mark.missing, mark.extra))
    if mark.verdict == "not known":
        for ref in dict.fromkeys((*meant, *extra)):
            yield ref, "not known"
        return
    twice = _refs(tuple(hit for hit in mark.extra if hit in mark.meant))
    for ref in meant:
        if ref in missing:
            yield ref, "wrong" if ref in extra else "silent"
        elif ref in twice:
            yield ref, "double"
        else:
            yield ref, "wrong" if mark.remark else "as meant"
    for ref in extra:
        if ref not in twice and ref not in missing:
            yield ref, "extra"


def _refs(effects: tuple[Effect, ...]) -> dict[str, None]:
    """What is reached, each once and in order."""
    return dict.fromkeys(effect.ref for effect in effects)
