"""What zones have to send: keys and velocities in pieces, each with the wishes that want it."""

from collections.abc import Iterable, Iterator
from itertools import pairwise
from typing import NamedTuple

from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.wishes import Wish

Velocities = tuple[tuple[int, int], ...]


class KeyWindow(NamedTuple):
    """Keys and velocities, both ends in."""

    low: int
    high: int
    soft: int
    loud: int

    def meets(self, other: "KeyWindow") -> bool:
        """Whether some key struck at some velocity is in both."""
        keys = self.low <= other.high and other.low <= self.high
        return keys and self.soft <= other.loud and other.soft <= self.loud


class Piece(NamedTuple):
    """What one zone has to send: a window, shifted, and the wishes that it carries."""

    window: KeyWindow
    shift: int
    wishes: tuple[Wish, ...]


def wished_window(wish: Wish, bed: Keybed) -> KeyWindow:
    """The keys of a keybed that a wish is for; where there are none its ends are crossed."""
    low, high = max(bed.low, wish.lowest), min(bed.high, wish.highest)
    return KeyWindow(low, high, wish.vel_low, wish.vel_high)


def pieces_of(wishes: Iterable[Wish], bed: Keybed) -> list[Piece]:
    """One piece for each wish; wishes that say the same of some keys share pieces, so that no key
    sounds twice.
    """
    alike: dict[object, list[Wish]] = {}
    for wish in wishes:
        alike.setdefault((wish.plays, wish.shift), []).append(wish)
    pieces = []
    for group in alike.values():
        windows = [wished_window(wish, bed) for wish in group]
        for window, carried in carried_in(group, windows):
            pieces.append(Piece(window, group[0].shift, carried))
    return pieces


def carried_in(
    wishes: list[Wish], windows: list[KeyWindow]
) -> Iterator[tuple[KeyWindow, tuple[Wish, ...]]]:
    """Windows without overlap, each with the wishes whose own windows meet it."""
    for window in without_overlap(windows):
        carried = []
        for wish, own in zip(wishes, windows, strict=True):
            if window.meets(own):
                carried.append(wish)
        yield window, tuple(carried)


def without_overlap(windows: list[KeyWindow]) -> list[KeyWindow]:
    """Windows that cover the same keys at the same velocities, each of them once."""
    if not any(one.meets(other) for n, one in enumerate(windows) for other in windows[:n]):
        return windows
    edges = set()
    for window in windows:
        edges |= {window.low, window.high + 1}
    strips: list[tuple[int, int, Velocities]] = []
    for low, after in pairwise(sorted(edges)):
        velocities = _joined([w for w in windows if w.low <= low <= w.high])
        if strips and strips[-1][1] == low - 1 and strips[-1][2] == velocities:
            strips[-1] = (strips[-1][0], after - 1, velocities)
        else:
            strips.append((low, after - 1, velocities))
    apart = []
    for low, high, velocities in strips:
        for soft, loud in velocities:
            apart.append(KeyWindow(low, high, soft, loud))
    return apart


def _joined(windows: list[KeyWindow]) -> Velocities:
    """The velocities of some windows together, in runs."""
    runs: list[tuple[int, int]] = []
    for soft, loud in sorted((window.soft, window.loud) for window in windows):
        if runs and soft <= runs[-1][1] + 1:
            runs[-1] = (runs[-1][0], max(loud, runs[-1][1]))
        else:
            runs.append((soft, loud))
    return tuple(runs)


def sharing(pieces: list[Piece]) -> Iterable[list[Piece]]:
    """Ways to do with fewer zones: none shared; the same keys shared; neighbours in wider zones."""
    yield pieces
    same: dict[object, list[Piece]] = {}
    for piece in pieces:
        same.setdefault((piece.window, piece.shift), []).append(piece)
    yield [_as_one(group) for group in same.values()]
    like: dict[object, list[Piece]] = {}
    for piece in pieces:
        like.setdefault((piece.shift, piece.window.soft, piece.window.loud), []).append(piece)
    yield [_as_one(group) for group in like.values()]


def _as_one(group: list[Piece]) -> Piece:
    """The smallest piece around some."""
    low = min(piece.window.low for piece in group)
    high = max(piece.window.high for piece in group)
    first = group[0]
    wishes: dict[str, Wish] = {}
    for piece in group:
        for wish in piece.wishes:
            wishes[wish.id] = wish
    window = KeyWindow(low, high, first.window.soft, first.window.loud)
    return Piece(window, first.shift, tuple(wishes.values()))
