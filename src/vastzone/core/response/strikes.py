"""Recorded strikes: which are true, which are double triggers or crosstalk, and what to set.

A pad goes on vibrating, so a second, weaker hit on the same pad follows within some 10–50 ms; a
neighbour is shaken through the stand, so a much weaker hit on it comes within a few milliseconds.
True strokes are further apart or nearly as strong.  The border for crosstalk is put into the widest
empty space of the recording itself, on a logarithmic scale; the mask time where it parts hits that
die away from those that do not with the fewest mistakes.
"""

import math
from collections.abc import Callable, Iterable
from itertools import pairwise
from typing import Literal, NamedTuple

Kind = Literal["true", "double", "crosstalk"]
LONGEST_MASK_MS, SHORTEST_MASK_MS, USUAL_MASK_MS = 120.0, 6.0, 50.0
CROSS_MS, USUAL_RATIO, DYING = 8.0, 0.38, 0.62


class Hit(NamedTuple):
    """One strike as it was recorded: when in ms, on which pad, how strong (1–127)."""

    at_ms: float
    pad: str
    peak: float


class Settings(NamedTuple):
    """What a module is set to: thresholds by pad, mask time, and crosstalk suppression.

    A hit within ``cross_ms`` of a stronger one elsewhere, weaker than ``ratio`` of it, is dropped.
    """

    thresholds: dict[str, float]
    mask_ms: float
    ratio: float
    cross_ms: float = CROSS_MS


class StrikesKept(NamedTuple):
    """How many true and false hits a setting keeps, of how many."""

    true: int
    false: int
    all_true: int
    all_false: int


class Analysis(NamedTuple):
    """What each hit is, in the order of the recording, and the settings proposed."""

    hits: tuple[Hit, ...]
    kinds: tuple[Kind, ...]
    proposed: Settings

    def of(self, kind: Kind) -> tuple[Hit, ...]:
        """The hits of a kind."""
        strikes = []
        for h, k in zip(self.hits, self.kinds, strict=True):
            if k == kind:
                strikes.append(h)
        return tuple(strikes)


def analyse(recorded: Iterable[Hit]) -> Analysis:
    """Tell true strokes from false ones, and propose what keeps the first and drops the others."""
    hits = tuple(sorted(recorded))
    ratio = _border(_ratios(hits), 0.08, 0.75, USUAL_RATIO)
    crossed = set()
    for n in range(len(hits)):
        if _is_crosstalk(hits, n, ratio, CROSS_MS):
            crossed.add(n)
    mask = _mask(_gaps(hits, crossed))
    kinds = _kinds(hits, crossed, mask)
    proposed = Settings(_thresholds(hits, kinds), round(mask), round(ratio, 2))
    return Analysis(hits, kinds, proposed)


def _ratios(hits: tuple[Hit, ...]) -> list[float]:
    """How strong each hit is against the strongest one elsewhere within a few milliseconds."""
    ratios = []
    for n in range(len(hits)):
        loud = _loudest_near(hits, n, CROSS_MS)
        if loud > hits[n].peak:
            ratios.append(hits[n].peak / loud)
    return ratios


def _loudest_near(hits: tuple[Hit, ...], n: int, window: float) -> float:
    """The strongest hit on another pad within a window before or after."""
    here, loud = hits[n], 0.0
    for step in (-1, 1):
        m = n + step
        while 0 <= m < len(hits) and abs(hits[m].at_ms - here.at_ms) <= window:
            if hits[m].pad != here.pad:
                loud = max(loud, hits[m].peak)
            m += step
    return loud


def _is_crosstalk(hits: tuple[Hit, ...], n: int, ratio: float, window: float) -> bool:
    loud = _loudest_near(hits, n, window)
    return loud > 0 and hits[n].peak < ratio * loud


def _gaps(hits: tuple[Hit, ...], left_out: set[int]) -> list[tuple[float, bool]]:
    """The times between neighbouring hits of one pad, in ms, and whether the second died away."""
    last: dict[str, Hit] = {}
    gaps = []
    for n, hit in enumerate(hits):
        if n in left_out:
            continue
        before = last.get(hit.pad)
        if before is not None:
            gaps.append((hit.at_ms - before.at_ms, hit.peak < DYING * before.peak))
        last[hit.pad] = hit
    return gaps


def _mask(gaps: list[tuple[float, bool]]) -> float:
    """The time that parts dying hits from strokes with the fewest mistakes."""
    near = sorted(gap for gap in gaps if SHORTEST_MASK_MS < gap[0] < LONGEST_MASK_MS)
    strokes = []
    for gap, dying in near:
        if not dying:
            strokes.append(gap)
    # Nothing died here: the mask only has to be shorter than the quickest stroke.
    if len(strokes) == len(near):
        return min(USUAL_MASK_MS, 0.7 * min(strokes, default=USUAL_MASK_MS / 0.7))
    edges = [SHORTEST_MASK_MS, *(gap for gap, _ in near), LONGEST_MASK_MS]
    cuts = []
    for a, b in pairwise(edges):
        if b > a:
            cuts.append((math.sqrt(a * b), b / a))

    def worth(cut: tuple[float, float]) -> tuple[int, float]:
        mistakes = sum(dying is (gap > cut[0]) for gap, dying in near)
        return -mistakes, cut[1]

    return max(cuts, key=worth)[0]


def _border(values: list[float], low: float, high: float, usual: float) -> float:
    """The middle of the widest empty space between ``low`` and ``high``, on a logarithmic scale.

    Values outside take part as neighbours; without any inside, the usual border stands.
    """
    inside = sorted(value for value in values if low < value < high)
    if not inside:
        return usual
    above = min((value for value in values if value >= high), default=high)
    # A lone peak far above would drag the border up with it: it counts as half as far again at
    # most.
    ends = [max(low, 1e-3), *inside, min(above, high * 1.5)]
    spaces = []
    for a, b in pairwise(ends):
        if b > a:
            spaces.append((math.log(b / a), math.sqrt(a * b)))
    wide = max(width for width, _ in spaces)
    near = []
    for width, middle in spaces:
        if width > 0.8 * wide:
            near.append(middle)
    return min(near, key=lambda m: abs(math.log(m / usual)))


def _kinds(hits: tuple[Hit, ...], crossed: set[int], mask: float) -> tuple[Kind, ...]:
    kinds: list[Kind] = []
    last: dict[str, Hit] = {}
    for n, hit in enumerate(hits):
        before = last.get(hit.pad)
        if n in crossed:
            kinds.append("crosstalk")
        elif before is not None and hit.at_ms - before.at_ms <= mask and hit.peak <= before.peak:
            kinds.append("double")
        else:
            kinds.append("true")
            last[hit.pad] = hit
    return tuple(kinds)


def _thresholds(hits: tuple[Hit, ...], kinds: tuple[Kind, ...]) -> dict[str, float]:
    """For each pad the largest threshold that costs no true stroke: 0.8 of the weakest."""
    weakest: dict[str, float] = {}
    for hit, kind in zip(hits, kinds, strict=True):
        if kind == "true":
            weakest[hit.pad] = min(weakest.get(hit.pad, 127.0), hit.peak)
    thresholds = {}
    for pad, peak in sorted(weakest.items()):
        thresholds[pad] = round(0.8 * peak, 1)
    return thresholds


def keep(hits: tuple[Hit, ...], settings: Settings) -> tuple[bool, ...]:
    """Which hits a module set like this would let through."""
    kept: list[bool] = []
    last: dict[str, float] = {}
    for n, hit in enumerate(hits):
        weak = hit.peak < settings.thresholds.get(hit.pad, 0.0)
        masked = hit.at_ms - last.get(hit.pad, -math.inf) <= settings.mask_ms
        crossed = _is_crosstalk(hits, n, settings.ratio, settings.cross_ms)
        good = not (weak or masked or crossed)
        if good:
            last[hit.pad] = hit.at_ms
        kept.append(good)
    return tuple(kept)


def count(hits: tuple[Hit, ...], true: tuple[bool, ...], settings: Settings) -> StrikesKept:
    """How many true and false hits a setting keeps."""
    kept = keep(hits, settings)
    return StrikesKept(
        sum(k and t for k, t in zip(kept, true, strict=True)),
        sum(k and not t for k, t in zip(kept, true, strict=True)),
        sum(true),
        len(true) - sum(true),
    )


def sweep(
    analysis: Analysis, values: Iterable[float], change: Callable[[Settings, float], Settings]
) -> list[tuple[float, StrikesKept]]:
    """What each value of a setting keeps, for the plot; ``change`` says what the others are."""
    true = tuple(k == "true" for k in analysis.kinds)
    rows = []
    for value in values:
        rows.append((value, count(analysis.hits, true, change(analysis.proposed, value))))
    return rows
