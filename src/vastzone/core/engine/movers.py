"""Targets as controls leave them: where they stand, who moved them, who must be met."""

from vastzone.core.engine.movement import Movement
from vastzone.core.engine.tables import Hearing, KeyId
from vastzone.core.midi.turns import steps_of
from vastzone.core.plan.model.parts import Target

NOBODY: KeyId = ("", 0)


class MovedTargets:
    """Where targets stand that remember it: those with pick-up, and those that read turns.

    One that reads turns begins at its lowest.
    """

    def __init__(self) -> None:
        self._stands: dict[str, tuple[float, KeyId]] = {}
        self._before: dict[tuple[str, KeyId], float] = {}
        self._turned: dict[str, float] = {}

    def clear(self) -> None:
        """Nobody has moved anything."""
        self._stands.clear()
        self._before.clear()
        self._turned.clear()

    def put(self, ref: str, share: float) -> None:
        """A target is put somewhere by no control: whichever moves it has to meet it."""
        self._stands[ref] = share, NOBODY
        self._turned[ref] = share

    def take(self, moved: Movement, key: KeyId) -> None:
        """Targets take a movement, or wait until it meets the value that stands."""
        for hearing in moved.motion.hearings:
            target = hearing.target
            if target is None:
                continue
            if target.turning != "absolute" and target.sweeps:
                moved.shares[hearing.ref] = self._turn(hearing.ref, target, moved.value)
            elif target.takeover == "pick-up":
                self._meet(moved, hearing, key)

    def _turn(self, ref: str, target: Target, value: int) -> float:
        steps = steps_of(target.turning, value)
        share = min(1.0, max(0.0, self._turned.get(ref, 0.0) + steps / 127))
        self._turned[ref] = share
        return share

    def _meet(self, moved: Movement, hearing: Hearing, key: KeyId) -> None:
        share = moved.reaches(hearing.reads)
        if self._catches(hearing, key, share):
            self._stands[hearing.ref] = share, key
        else:
            moved.waiting |= {hearing.ref}
        self._before[hearing.ref, key] = share

    def _catches(self, hearing: Hearing, key: KeyId, share: float) -> bool:
        """Whether a control moves a target with pick-up: it did last, or meets what stands."""
        stands, mover = self._stands.get(hearing.ref, (share, key))
        before = self._before.get((hearing.ref, key), share)
        return mover == key or min(before, share) <= stands <= max(before, share)
