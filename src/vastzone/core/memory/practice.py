"""A simulated device to dial, for practice: its panel does what it is told, with faults hidden.

What it truly holds is one memory; what the person believes is another.  Reading back tells them.
"""

from typing import Literal, NamedTuple

import msgspec

from vastzone.core.memory.model import DeviceMemory, Known
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device

HiddenFault = Literal[
    "stores to the neighbour", "forgets a setting", "counts from 0", "loses power"
]
HIDDEN: tuple[HiddenFault, ...] = (
    "stores to the neighbour",
    "forgets a setting",
    "counts from 0",
    "loses power",
)
"""What may be wrong with a simulated device: it stores one slot too far, leaves one setting of what
is dialled as it was, shows its slots one lower than they are, or is switched off before it stores
for the first time."""


class SimulatedPanel(NamedTuple):
    """A device as it truly is, and what is wrong with it; ``stored`` counts how often it stored."""

    device: Device
    truth: DeviceMemory
    faults: frozenset[HiddenFault] = frozenset()
    stored: int = 0

    def do(self, operation: Operation, known: Known) -> "SimulatedPanel":
        """The device after it was told to do something."""
        truth = self.truth
        if operation.kind == "store" and "loses power" in self.faults and not self.stored:
            truth = perform(truth, self.device, Operation("power"), known)
        truth = perform(truth, self.device, self._spoilt(operation), known)
        stored = self.stored + (operation.kind == "store")
        return self._replace(truth=truth, stored=stored)

    def _spoilt(self, operation: Operation) -> Operation:
        if operation.kind == "store" and "stores to the neighbour" in self.faults:
            return operation._replace(slot=self._neighbour(operation.slot))
        if operation.kind == "dial" and "forgets a setting" in self.faults:
            return operation._replace(refs=operation.refs[:-1])
        return operation

    def _neighbour(self, slot: Slot | None) -> Slot | None:
        if slot is None:
            return None
        most = max(1, self.device.storage.slots)
        return msgspec.structs.replace(slot, number=(slot.number + 1) % most)

    @property
    def shows(self) -> Slot | None:
        """The slot that its display shows as the one that is on."""
        slot = self.truth.selected
        if slot is None or "counts from 0" not in self.faults:
            return slot
        return msgspec.structs.replace(slot, number=max(0, slot.number - 1))
