"""A note that sounds, with the time it took to get there."""

from vastzone.core.engine.tables import Emission, KeyId, Landing


class Voice:
    """One part sounding one note because of one strike.

    ``at`` is when the key was struck, in milliseconds; ``times`` is when the message had arrived
    after each step of the emission's tree.
    """

    __slots__ = ("at", "emission", "key", "landing", "times", "velocity")

    def __init__(
        self, key: KeyId, emission: Emission, landing: Landing, velocity: int, at: float,
        times: list[float],
    ) -> None:  # fmt: skip
        self.key = key
        self.emission = emission
        self.landing = landing
        self.velocity = velocity
        self.at = at
        self.times = times

    @property
    def delay_ms(self) -> float:
        """Milliseconds from the strike until the message has arrived."""
        step = self.landing.step
        return self.times[step] - self.at if step >= 0 else 0.0

    @property
    def way(self) -> tuple[int, ...]:
        """The steps that the message took."""
        return self.emission.tree.way(self.landing.step)

    def __repr__(self) -> str:
        return f"Voice({self.landing.ref} note {self.landing.note}, {self.delay_ms:.2f} ms)"
