"""What a line of a card would spoil in a wrong order: said first, done all the same."""

from vastzone.core.cards.card import Card, CardLine
from vastzone.core.memory.contents import has_buffer, same_slot
from vastzone.core.memory.model import DeviceMemory
from vastzone.core.memory.operations import Operation
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.slots import slot_words
from vastzone.core.say import say, say_many


def cautions(device: Device, memory: DeviceMemory, card: Card) -> dict[Operation, str]:
    """What each line that waits would spoil or leave undone if it were done now.

    Lines with which all is well are left out.
    """
    told: dict[Operation, str] = {}
    for section in card.sections:
        for line in section.lines:
            said = _caution(device, memory, section.lines, line) if line.waits else ""
            if said:
                told[line.operation] = said
    return told


def _caution(
    device: Device, memory: DeviceMemory, section: tuple[CardLine, ...], line: CardLine
) -> str:
    if line.kind == "select":
        return _select(device, memory, line)
    if line.kind in ("dial", "rest") and line.operation.slot is None:
        return _dial(device, memory, section)
    if line.kind == "store":
        return _store(device, memory, section, line)
    if line.kind == "write":
        return _write(section)
    return ""


def _waiting(section: tuple[CardLine, ...]) -> int:
    """How many lines of a section are still to be dialled."""
    return sum(line.kind == "dial" and line.waits for line in section)


def _select(device: Device, memory: DeviceMemory, line: CardLine) -> str:
    slot = line.operation.slot
    if memory.buffer is None or memory.selected is None or slot is None:
        return ""
    shown = slot_words(device, memory.selected)
    return say("What was sent to slot {shown} is not stored: it would be lost.", shown=shown)


def _begin(section: tuple[CardLine, ...]) -> Slot | None:
    """The slot that a section begins by selecting."""
    for line in section:
        if line.kind == "select":
            return line.operation.slot
    return None


def _dial(device: Device, memory: DeviceMemory, section: tuple[CardLine, ...]) -> str:
    wanted = _begin(section)
    if wanted is None or same_slot(wanted, memory.selected):
        return ""
    if memory.selected is None:
        return say(
            "Select slot {slot} first: it is not known which one is on.",
            slot=slot_words(device, wanted),
        )
    shown = slot_words(device, memory.selected)
    where = say("the buffer of ") if has_buffer(device) else ""
    return say(
        "Slot {shown} is on: this would go into {where}slot {shown}.", shown=shown, where=where
    )


def _store(
    device: Device, memory: DeviceMemory, section: tuple[CardLine, ...], line: CardLine
) -> str:
    slot = line.operation.slot
    waiting = _waiting(section)
    wanted = _begin(section)
    if slot is None:
        return ""
    shown = slot_words(device, slot)
    if wanted is not None and not same_slot(wanted, memory.selected):
        on = say("nobody knows what") if memory.selected is None else say("what is")
        there = (
            ""
            if memory.selected is None
            else say(" in slot {slot}", slot=slot_words(device, memory.selected))
        )
        return say(
            "Slot {shown} would hold {on}{there}: select slot {slot}.",
            shown=shown,
            on=on,
            there=there,
            slot=slot_words(device, wanted),
        )
    if not waiting:
        return ""
    if memory.buffer is None:
        return say("Nothing has been sent: slot {shown} would keep the old values.", shown=shown)
    return say(
        "{lines} not sent yet: slot {shown} would keep old values there.",
        lines=say_many("{count} line", "{count} lines", waiting),
        shown=shown,
    )


def _write(section: tuple[CardLine, ...]) -> str:
    waiting = _waiting(section)
    if not waiting:
        return ""
    return say(
        "{lines} not set yet: the old values would be written.",
        lines=say_many("{count} line", "{count} lines", waiting),
    )
