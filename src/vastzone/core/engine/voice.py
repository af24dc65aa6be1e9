"""What sounds because of a strike, with the time it took to get there."""

from collections.abc import Sequence
from typing import NamedTuple

from vastzone.core.engine.tables import Emission, KeyId, Landing


class Strike:
    """One emission of one strike and the landings that still sound because of it.

    ``at`` is when the key was struck and ``times`` how much later the message had arrived after
    each step of the emission's tree, in milliseconds.  A pad that is ``muted_by`` a group ends when
    another pad mutes it.
    """

    __slots__ = ("at", "emission", "key", "landings", "muted_by", "times", "velocity")

    def __init__(
        self, key: KeyId, emission: Emission, velocity: int, at: float, muted_by: str | None = None
    ) -> None:
        self.key = key
        self.emission = emission
        self.velocity = velocity
        self.at = at
        self.times: Sequence[float] = ()
        self.landings: Sequence[Landing] = emission.landings
        self.muted_by = muted_by

    @property
    def voices(self) -> list["Voice"]:
        """What sounds, one part at a time."""
        return [Voice(self, landing) for landing in self.landings]


class Voice(NamedTuple):
    """One part sounding one note because of one strike."""

    strike: Strike
    landing: Landing

    @property
    def key(self) -> KeyId:
        """The key or control that was struck."""
        return self.strike.key

    @property
    def emission(self) -> Emission:
        """What was sent."""
        return self.strike.emission

    @property
    def velocity(self) -> int:
        """How hard, 1–127."""
        return self.strike.velocity

    @property
    def arrives(self) -> float:
        """When the message is at the part's device, in milliseconds."""
        step = self.landing.step
        return self.strike.at + (self.strike.times[step] if step >= 0 else 0.0)

    @property
    def delay_ms(self) -> float:
        """Milliseconds from the strike until the part sounds."""
        step = self.landing.step
        return (self.strike.times[step] if step >= 0 else 0.0) + self.landing.after_ms
