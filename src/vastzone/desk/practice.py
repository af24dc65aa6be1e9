"""Practice: a simulated device is dialled by its card, on a copy of what is known of it.

Nothing of it is kept: the copy is thrown away with the practice.
"""

from datetime import date

from vastzone.core.cards.card import Card, CardLine, card
from vastzone.core.cards.diff import Differing, held_otherwise
from vastzone.core.memory.beginnings import wanted_program
from vastzone.core.memory.differences import left_to_dial
from vastzone.core.memory.display import Shown, readable
from vastzone.core.memory.model import DeviceMemory, Known, Memory
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.practice import HiddenFault, SimulatedPanel
from vastzone.core.memory.rig import memory_of, with_memory
from vastzone.core.plan.model.plan import Device, Plan


class Practice:
    """What a person believes of a device, and the simulated device as it truly is."""

    def __init__(
        self,
        plan: Plan,
        memory: Memory,
        device: Device,
        faults: frozenset[HiddenFault] = frozenset(),
    ) -> None:
        self.plan, self.device = plan, device
        self._memory = memory
        held = memory_of(memory, device)
        self.panel = SimulatedPanel(device, held, faults)
        self.believed = held

    @property
    def known(self) -> Known:
        """Today, by dialling."""
        return Known(on=date.today().isoformat(), how="dialled")

    def card(self, also: frozenset[str] = frozenset()) -> Card:
        """What is believed to be left."""
        memory = with_memory(self._memory, self.believed)
        return card(self.plan, memory, self.device, also=also)

    def do(self, line: CardLine) -> None:
        """Do what a line says, at the simulated device."""
        self.operate(line.operation)

    def operate(self, operation: Operation) -> None:
        """Press something on the simulated panel."""
        self.panel = self.panel.do(operation, self.known)
        self.believed = perform(self.believed, self.device, operation, self.known)

    def read_back(self) -> tuple[Differing, ...]:
        """What the device holds otherwise than was believed; it is known from then on."""
        before = with_memory(self._memory, self.believed)
        after = with_memory(self._memory, self.panel.truth)
        told = held_otherwise(self.plan, before, after)
        self.believed = self.panel.truth
        return told

    @property
    def is_over(self) -> bool:
        """Whether the simulated device truly holds the plan."""
        left = left_to_dial(self.device, self.panel.truth, wanted_program(self.plan, self.device))
        return left.nothing


def shown_for(device: Device, truth: DeviceMemory, line: CardLine | None) -> tuple[Shown, ...]:
    """What the display of a device shows of what a line is about."""
    if line is None or not line.operation.refs:
        return ()
    program = None
    for planned in device.programs:
        if truth.selected is not None and planned.number == truth.selected.number:
            program = planned
    wanted = {ref.rpartition("/")[0].rpartition("/")[2] for ref in line.operation.refs}
    fields = {ref.rpartition("/")[2] for ref in line.operation.refs}
    shown = []
    for one in readable(device, truth, program):
        place, _, field = one.ref.rpartition("/")
        if place.rpartition("/")[2] in wanted and field in fields:
            shown.append(one)
    return tuple(shown[:4])
