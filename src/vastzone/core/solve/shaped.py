"""What carries the wishes, and what keeps them from being carried."""

from typing import NamedTuple

from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish


class Binding(NamedTuple):
    """A wish carried by a zone or send (``thing``) of a program."""

    wish: Wish
    source: str
    device: str
    program: int
    thing: str
    is_zone: bool


class Obstacle(NamedTuple):
    """Why wishes cannot be carried at all: their ids, the locks concerned, a sentence."""

    wishes: tuple[str, ...]
    locks: tuple[str, ...]
    sentence: str


class Shaped(NamedTuple):
    """The plan with its zones and sends in place, and which of them carries which wish."""

    plan: Plan
    bindings: tuple[Binding, ...]
    obstacles: tuple[Obstacle, ...]
