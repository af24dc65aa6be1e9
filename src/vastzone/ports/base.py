"""The one small interface that every source and destination of MIDI has.

Everything is polled: nothing here calls back from a thread of its own, so whoever reads decides
when, and a test needs no waiting.
"""

from typing import NamedTuple, Protocol

from vastzone.core.midi.messages import Message


class PortName(NamedTuple):
    """A port as the system knows it and as it is shown; ``shown`` stays the same when plugged
    in again, whatever number the system gives it then."""

    system: str
    raw: str
    shown: str


class Input(Protocol):
    """An open input.

    ``lost`` says that more came before the last read than could be kept.
    """

    name: PortName
    lost: bool

    def read(self) -> list[Message]:
        """The channel messages that came since the last read, oldest first."""

    def close(self) -> None:
        """Stop listening."""


class Listing(NamedTuple):
    """The inputs there are now, and one sentence for each MIDI system that is not there."""

    inputs: tuple[PortName, ...]
    missing: tuple[str, ...] = ()


class System(Protocol):
    """A maker of ports: the stand-in, ALSA, JACK."""

    def inputs(self) -> Listing:
        """What can be listened to now; never raises."""

    def open_input(self, name: PortName) -> Input:
        """Open an input.  Raises PortError."""
