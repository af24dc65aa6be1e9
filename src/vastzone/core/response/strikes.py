"""Recorded strikes: which are true, which are double triggers or crosstalk, and what to set.

A pad goes on vibrating and dies away within some tens of milliseconds: a second hit that lies on
such a decline, e^(−t/τ) of the stroke before, is its echo; a stroke is stronger than that.  A
neighbour is shaken through the stand, never before the stroke that shakes it: a much weaker hit on
it comes within a few milliseconds.  Where the borders lie is read off the recording: the decline in
the widest empty space of its time constants τ, crosstalk in that of its ratios, for each pair of
pads that tell enough by themselves above nearly all of their own.  What a module is to be set to is
told apart from that: a mask time, one ratio, thresholds.
"""

import math
from collections.abc import Callable, Iterable, Iterator
from itertools import pairwise
from typing import Literal, NamedTuple

Kind = Literal["true", "double", "crosstalk"]
LONGEST_MASK_MS, SHORTEST_MASK_MS, USUAL_MASK_MS = 120.0, 6.0, 50.0
CROSS_MS, USUAL_RATIO, HIGHEST_RATIO = 8.0, 0.38, 0.5
SHORTEST_TAU, LONGEST_TAU, USUAL_TAU = 24.0, 75.0, 42.0
"""Milliseconds in which an echo falls to 37 %: pads are quicker than the lowest, hands slower."""
ECHO_MS = 160.0
BEFORE_MS = 0.5
"""How much earlier than its cause a hit may come in, because of the clock."""
ENOUGH = 6
"""Hits of a pair of pads that tell their own crosstalk."""


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
    crossed = _crossed(hits)
    doubles = _doubles(hits, crossed)
    kinds: list[Kind] = []
    for n in range(len(hits)):
        kinds.append("crosstalk" if n in crossed else "double" if n in doubles else "true")
    ratio = _border(_ratios(hits), 0.08, HIGHEST_RATIO, USUAL_RATIO)
    mask = _mask(_gaps(hits, crossed, doubles))
    proposed = Settings(_thresholds(hits, tuple(kinds)), round(mask), round(ratio, 2))
    return Analysis(hits, tuple(kinds), proposed)


def _crossed(hits: tuple[Hit, ...]) -> set[int]:
    """The hits that a stronger one on another pad made, by the ratios of each pair of pads."""
    causes: dict[int, tuple[str, float]] = {}
    by_pair: dict[tuple[str, str], list[float]] = {}
    for n, hit in enumerate(hits):
        cause = _cause(hits, n)
        if cause is not None:
            ratio = hit.peak / cause.peak
            causes[n] = (cause.pad, ratio)
            by_pair.setdefault((cause.pad, hit.pad), []).append(ratio)
    every = [ratio for ratios in by_pair.values() for ratio in ratios]
    general = _border(every, 0.08, HIGHEST_RATIO, USUAL_RATIO)
    borders = {}
    for pair, ratios in by_pair.items():
        borders[pair] = _own_border(ratios, general)
    return {n for n, (pad, ratio) in causes.items() if ratio < borders[pad, hits[n].pad]}


def _cause(hits: tuple[Hit, ...], n: int) -> Hit | None:
    """The strongest hit on another pad that may have shaken the one at ``n``."""
    here = hits[n]
    strongest = None
    for step in (-1, 1):
        m = n + step
        while 0 <= m < len(hits) and abs(hits[m].at_ms - here.at_ms) <= CROSS_MS:
            other = hits[m]
            late_enough = other.at_ms <= here.at_ms + BEFORE_MS
            loudest = here.peak if strongest is None else strongest.peak
            if other.pad != here.pad and late_enough and other.peak > loudest:
                strongest = other
            m += step
    return strongest


def _own_border(ratios: list[float], general: float) -> float:
    """The border of one pair of pads: above most of its weak hits, where it has enough of them."""
    weak = sorted(math.log(ratio) for ratio in ratios if ratio < general)
    if len(weak) < ENOUGH:
        return general
    middle = weak[len(weak) // 2]
    spread = sorted(abs(value - middle) for value in weak)[len(weak) // 2]
    own = math.exp(middle + 3 * 1.4826 * max(spread, 0.1))
    return min(max(own, 0.5 * general), 1.2 * general)


def _doubles(hits: tuple[Hit, ...], crossed: set[int]) -> set[int]:
    """The hits that lie on the decline of the stroke before them on their pad."""
    taus = [tau for _, tau in _declines(hits, crossed, set())]
    border = _border(taus, SHORTEST_TAU, LONGEST_TAU, USUAL_TAU)
    doubles: set[int] = set()
    # Echoes count from the stroke, not from the echo before them: that is found on the way.
    for n, _ in _declines(hits, crossed, doubles, border):
        doubles.add(n)
    return doubles


def _declines(
    hits: tuple[Hit, ...], crossed: set[int], doubles: set[int], border: float = math.inf
) -> Iterator[tuple[int, float]]:
    """Weaker hits soon after a stroke on their pad, and the time constant that this would be.

    Those above the border are strokes from which the next ones count.
    """
    last: dict[str, Hit] = {}
    for n, hit in enumerate(hits):
        if n in crossed:
            continue
        before = last.get(hit.pad)
        if before is not None and hit.peak < before.peak:
            gap = hit.at_ms - before.at_ms
            tau = gap / math.log(before.peak / hit.peak)
            if 0 < gap < ECHO_MS and (border == math.inf or tau < border):
                yield n, tau
                if border != math.inf:
                    continue
        if n not in doubles:
            last[hit.pad] = hit


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


def _gaps(hits: tuple[Hit, ...], left_out: set[int], doubles: set[int]) -> list[tuple[float, bool]]:
    """The times from each stroke to the next hit of its pad, in ms, and whether that is an echo."""
    last: dict[str, Hit] = {}
    gaps = []
    for n, hit in enumerate(hits):
        if n in left_out:
            continue
        before = last.get(hit.pad)
        if before is not None:
            gaps.append((hit.at_ms - before.at_ms, n in doubles))
        if n not in doubles:
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
