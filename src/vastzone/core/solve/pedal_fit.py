"""A plugging of pedals into jacks: what it does, what it leaves undone, what it is worth."""

from collections.abc import Mapping
from typing import NamedTuple

from vastzone.core.plan.model.pedals import FootWish, Meeting, PedalJack, PedalPlug
from vastzone.core.plan.refs import device_of, ref_to

WORKS, HALF = 1000.0, 400.0
MOVE, GIVEN_AWAY = 1.0, 1.5
CARE = {"must": 1000.0, "wanted": 30.0, "spare": 1.0}


class DeviceJack(NamedTuple):
    """A jack with the device that it is on."""

    device: str
    jack: PedalJack

    @property
    def ref(self) -> str:
        """The jack as ``device:jack``."""
        return ref_to(self.device, self.jack.id)


class Done(NamedTuple):
    """A wish as a plugging does it: whose it was, who does it in which jack, how well."""

    wish: FootWish
    owner: str
    pedal: str
    jack: str
    meeting: Meeting


class PedalFit(NamedTuple):
    """A plugging, what it does, what it leaves undone, and what it is worth.

    ``undone`` are wishes with the pedals that they belong to; ``given`` the wishes of each pedal
    that gets others than it had.  It is ``proved`` where nothing can be better; else it is the best
    that was found in time.
    """

    plugs: tuple[PedalPlug, ...]
    done: tuple[Done, ...]
    undone: tuple[tuple[str, FootWish], ...]
    given: Mapping[str, tuple[FootWish, ...]]
    worth: float
    moves: int
    proved: bool = True

    @property
    def effort(self) -> float:
        """What it takes to get there: plugs moved, and wishes that another pedal gets."""
        given_away = sum(done.pedal != done.owner for done in self.done)
        return MOVE * self.moves + GIVEN_AWAY * given_away

    @property
    def left_out(self) -> tuple[str, ...]:
        """The pedals of which something is left undone."""
        return tuple(dict.fromkeys(pedal for pedal, _ in self.undone))


Service = tuple[str, str, str, str]
"""A kind of service: the function, how much it matters, the device that does it, how well."""


def service_of(done: Done) -> Service:
    """The kind of service that something done is."""
    wish = done.wish
    return (wish.function, wish.importance, device_of(done.jack), done.meeting.works)
