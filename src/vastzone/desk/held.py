"""What the devices of the open plan are known to hold, and what was done to it one by one.

What is done at devices is taken back here, the newest first; undoing an edit of the plan passes
over it, and what is done here is no edit.
"""

from collections.abc import Callable, Sequence
from datetime import date
from typing import NamedTuple

from vastzone.core.memory.beginnings import out_of_the_box
from vastzone.core.memory.described import Telling, with_tellings
from vastzone.core.memory.model import DeviceMemory, How, Known, Memory
from vastzone.core.memory.rig import memory_of, met, with_memory
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup

LONGEST = 200
Doing = Callable[[DeviceMemory, Known], DeviceMemory]


class Done(NamedTuple):
    """A memory, and what was done that led to it."""

    label: str
    memory: Memory


class Held:
    """The memory now, and those before it."""

    def __init__(self, memory: Memory) -> None:
        self._entries = [Done("", memory)]
        self.initials = ""

    @property
    def memory(self) -> Memory:
        """What the devices hold now."""
        return self._entries[-1].memory

    @property
    def label(self) -> str:
        """What would be taken back; nothing where nothing was done."""
        return self._entries[-1].label

    def known(self, how: How) -> Known:
        """Today, by this person."""
        return Known(on=date.today().isoformat(), how=how, by=self.initials)

    def do(self, device: Device, label: str, how: How, doing: Doing) -> bool:
        """Do something at a device.  Whether anything changed."""
        before = memory_of(self.memory, device)
        after = doing(before, self.known(how))
        if after is before:
            return False
        self._entries.append(Done(label, with_memory(self.memory, after)))
        del self._entries[:-LONGEST]
        return True

    def take_back(self) -> bool:
        """Take the newest back.  Whether there was anything."""
        if len(self._entries) == 1:
            return False
        self._entries.pop()
        return True

    def tell(self, tellings: Sequence[Telling]) -> None:
        """How devices are was told: they have always been so, in what was before too."""
        known = self.known("typed in")
        told: dict[int, Memory] = {}
        entries = []
        for done in self._entries:
            memory = told.get(id(done.memory))
            if memory is None:
                memory = with_tellings(done.memory, tellings, known)
                told[id(done.memory)] = memory
            entries.append(Done(done.label, memory))
        self._entries = entries

    def unbox(self, device: Device) -> None:
        """Another device stands in the place of one: it holds what it left its box with."""
        fresh = out_of_the_box(device, date.today().isoformat())
        entries = []
        for done in self._entries:
            entries.append(Done(done.label, with_memory(done.memory, fresh)))
        self._entries = entries

    def entries(self) -> tuple[Done, ...]:
        """Everything that was done, as it stands now: to come back to."""
        return tuple(self._entries)

    def come_back(self, entries: tuple[Done, ...]) -> None:
        """As everything stood then."""
        self._entries = list(entries)

    def meet(self, before: Plan, after: Plan, boxed: bool) -> None:
        """Devices that an edit adds are out of their boxes or not known, in what was before too."""
        if lookup.ids_of(after.devices) <= lookup.ids_of(before.devices):
            return
        today = date.today().isoformat()
        entries = []
        for done in self._entries:
            entries.append(Done(done.label, met(done.memory, before, after, boxed, today)))
        self._entries = entries
