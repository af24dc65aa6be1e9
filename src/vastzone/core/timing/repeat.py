"""Note repeat: when a held pad strikes again, and the tempo that somebody taps."""

from collections.abc import Sequence

from vastzone.core.plan.model.controls import Division, Repeat

QUARTERS: dict[Division, float] = {
    "1/4": 1.0,
    "1/4t": 2 / 3,
    "1/8": 1 / 2,
    "1/8t": 1 / 3,
    "1/16": 1 / 4,
    "1/16t": 1 / 6,
    "1/32": 1 / 8,
    "1/32t": 1 / 12,
}
"""How many quarter notes a division lasts; «t» is a triplet."""

LATEST_TAP = 2000.0
"""A pause longer than this many milliseconds begins a new count."""


def gap_ms(repeat: Repeat, bpm: float, index: int) -> float:
    """Milliseconds from strike ``index`` (0-based) to the next.

    A division lasts 60 / bpm · quarters seconds; of each pair of them the off-beat lies at
    ``swing`` per cent, 50 being straight.
    """
    pair = 2 * 60_000 / bpm * QUARTERS[repeat.division]
    share = repeat.swing / 100
    return pair * (1 - share if index % 2 else share)


def strikes_ms(repeat: Repeat, bpm: float, count: int) -> list[float]:
    """When the first ``count`` strikes of a held pad are, in milliseconds after the first."""
    times = [0.0]
    for index in range(count - 1):
        times.append(times[-1] + gap_ms(repeat, bpm, index))
    return times[:count]


def tapped_bpm(taps_ms: Sequence[float]) -> float | None:
    """The tempo of taps, averaged over those since the last pause; None for fewer than two."""
    run = list(taps_ms[-1:])
    for tap in reversed(taps_ms[:-1]):
        if run[-1] - tap > LATEST_TAP:
            break
        run.append(tap)
    if len(run) < 2 or run[0] <= run[-1]:
        return None
    return max(30.0, min(300.0, 60_000 * (len(run) - 1) / (run[0] - run[-1])))
