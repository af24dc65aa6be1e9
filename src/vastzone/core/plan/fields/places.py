"""Where a program is in the memory of its device."""

from vastzone.core.cache import derived
from vastzone.core.plan.model.controls import Program, Slot


@derived(4096)
def slots_of(program: Program) -> tuple[Slot, ...]:
    """The slots that a program stands in, its own first."""
    return (Slot(number=program.number), *program.also)
