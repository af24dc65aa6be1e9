"""What carries the wishes, and what keeps them from being carried."""

from typing import Literal, NamedTuple

from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish

Bond = Literal["wished", "kept", "soft", "free", "none"]
"""How a sound is bound: by a wish; or as what plays today, which must go on, is to go on if it can,
may do as it likes, or is to fall silent."""


class Binding(NamedTuple):
    """A wish carried by a zone or send (``thing``) of a program.

    What plays without a wish has a stand-in for one, and another ``bond``.  What plays so because
    somebody set the sender, or what it ends at, says which.
    """

    wish: Wish
    source: str
    device: str
    program: int
    thing: str
    is_zone: bool
    bond: Bond = "wished"
    sender_set: bool = False
    end_set: bool = False

    @property
    def is_wished(self) -> bool:
        """Whether somebody wished it."""
        return self.bond == "wished"


class Obstacle(NamedTuple):
    """Why wishes cannot be carried at all: their ids, the locks concerned, a sentence.

    ``keys`` are the lowest and the highest key that the one wish could be for instead.
    """

    wishes: tuple[str, ...]
    locks: tuple[str, ...]
    sentence: str
    keys: tuple[int, int] | None = None


class Shaped(NamedTuple):
    """The plan with its zones and sends in place, and which of them carries which wish."""

    plan: Plan
    bindings: tuple[Binding, ...]
    obstacles: tuple[Obstacle, ...]
