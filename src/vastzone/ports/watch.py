"""The list of inputs as it changes while the program runs."""

from typing import NamedTuple

from vastzone.ports.base import Input, Listing, PortName, System
from vastzone.ports.real import SYSTEM_NAMES, RealSystem
from vastzone.ports.standin import StandIn


class Change(NamedTuple):
    """What was plugged in and what was unplugged since the last look."""

    added: tuple[PortName, ...]
    removed: tuple[PortName, ...]


class Inputs:
    """All systems' inputs in one list."""

    def __init__(self, stand_in: StandIn, real: tuple[RealSystem, ...]) -> None:
        self.stand_in, self.real = stand_in, real
        self.listing = stand_in.inputs()

    def refresh(self) -> Change:
        """Look again; a few milliseconds, more where a MIDI system has just gone away."""
        systems: tuple[System, ...] = (self.stand_in, *self.real)
        lists = [system.inputs() for system in systems]
        now = tuple(name for listing in lists for name in listing.inputs)
        before = self.listing.inputs
        missing: list[str] = []
        for listing in lists:
            missing.extend(listing.missing)
        self.listing = Listing(now, tuple(dict.fromkeys(missing)))
        return Change(
            tuple(n for n in now if n not in before), tuple(n for n in before if n not in now)
        )

    def open(self, name: PortName) -> Input:
        """Open an input of whichever system has it.  Raises PortError."""
        return self._system(name).open_input(name)

    def _system(self, name: PortName) -> System:
        for system in self.real:
            if SYSTEM_NAMES[system.api] == name.system:
                return system
        return self.stand_in

    def close(self) -> None:
        """Let every system go."""
        for system in self.real:
            system.close()


def all_inputs() -> Inputs:
    """The stand-in and every real system that this machine may have."""
    return Inputs(StandIn(), (RealSystem("LINUX_ALSA"), RealSystem("UNIX_JACK")))
