"""A control moved: what it sent, when it arrived, who waits for it."""

from collections.abc import Sequence

from vastzone.core.engine.tables import KeyId, Motion
from vastzone.core.midi.wide import FINE_KINDS, TOP, Reading, bent_share, fine_of


class Movement:
    """A control moved: the motion it sent, its value, and when each step had it.

    ``fine`` is the value in 14 bits; ``waiting`` are targets that its value has not met yet, and
    ``shares`` says of those that read turns where they stand since then, 0–1 of their range.
    """

    __slots__ = ("at", "fine", "key", "motion", "shares", "times", "value", "waiting")

    def __init__(
        self, key: KeyId, motion: Motion, value: int, at: float, fine: int | None = None
    ) -> None:
        self.key, self.motion, self.value, self.at = key, motion, value, at
        self.times: Sequence[float] = ()
        self.fine = fine_of(value) if fine is None else fine
        self.waiting: frozenset[str] = frozenset()
        self.shares: dict[str, float] = {}

    def share_of(self, ref: str, reads: Reading) -> float:
        """Where a target stands because of it, as a share 0–1 of its range."""
        stands = self.shares.get(ref)
        return self.reaches(reads) if stands is None else stands

    def reaches(self, reads: Reading) -> float:
        """The value that a listener to these bits takes, as a share 0–1 of its range."""
        if reads == "fine":
            return (self.fine & 0x7F) / 127
        if self.motion.message == "bend":
            return bent_share(self.fine)
        wide = self.motion.message in FINE_KINDS
        return self.fine / TOP if wide and reads == "whole" else self.value / 127
