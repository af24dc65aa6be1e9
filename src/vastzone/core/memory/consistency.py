"""What must hold between the pieces of a memory, beyond the limits of each value."""

from collections import Counter
from collections.abc import Iterator

from vastzone.core.memory.keys import slot_key
from vastzone.core.memory.model import DeviceMemory, Memory
from vastzone.core.say import say


def contradictions(memory: Memory) -> Iterator[str]:
    """Every contradiction as a sentence."""
    for device, count in Counter(held.device for held in memory.devices).items():
        if count > 1:
            yield say(
                "The memory of “{device}” stands there {count} times: keep one of them.",
                device=device,
                count=count,
            )
    for held in memory.devices:
        yield from memory_problems(held)


def memory_problems(held: DeviceMemory) -> Iterator[str]:
    """The contradictions in the memory of one device."""
    slots = Counter(slot_key(each.slot) for each in held.slots)
    for slot, count in slots.items():
        if count > 1:
            yield (
                say(
                    "Slot {slot} of “{device}” stands {count} times in its memory: keep one "
                    "of them.",
                    slot=slot,
                    device=held.device,
                    count=count,
                )
            )
    entries = [*held.since.values(), *(check.known for check in held.checks)]
    if any(not 0 <= entry < len(held.known) for entry in entries):
        yield say(
            "The memory of “{device}” names somebody who is not told of: correct it.",
            device=held.device,
        )
