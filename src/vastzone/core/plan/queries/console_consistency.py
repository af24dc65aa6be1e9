"""What must hold inside a console: blocks of what is there, faults at places that exist."""

from collections import Counter
from collections.abc import Iterator

from vastzone.core.plan.model.console import COMMON, CONTACTS, Block, Console, Fault
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say

PLACED = frozenset(("open pin", "short"))


def console_problems(device: Device, console: Console) -> Iterator[str]:
    """Every contradiction as a sentence: what is wrong, where, what to do."""
    where = say("The console of {device}", device=device.name)
    beds = {}
    for bed in device.keybeds:
        beds[bed.id] = bed.keys
    controls = lookup.ids_of(device.controls)
    sizes: dict[str, int] = {}
    for block in console.blocks:
        yield from _block(where, block, beds, controls)
        if block.id in sizes:
            yield say(
                "{where} has two blocks called “{block}”: rename one.", where=where, block=block.id
            )
        sizes[block.id] = beds.get(block.keybed or "", len(block.controls))
    yield from _used_once(where, console)
    for shoe in console.shoes:
        if shoe.control not in controls:
            yield say(
                "{where} has the shoe “{control}”, which is no control: remove it.",
                where=where,
                control=shoe.control,
            )
    for fault in (*console.faults, *console.hidden):
        yield from _fault(where, console, fault, sizes)


def _used_once(where: str, console: Console) -> Iterator[str]:
    used: Counter[str] = Counter()
    for block in console.blocks:
        used.update((block.keybed,) if block.keybed else block.controls)
    for thing, count in used.items():
        if count > 1:
            yield say(
                "{where} has “{thing}” in {count} blocks: leave it in one.",
                where=where,
                thing=thing,
                count=count,
            )


def _block(where: str, block: Block, beds: dict[str, int], controls: set[str]) -> Iterator[str]:
    if block.keybed is not None and block.keybed not in beds:
        yield say(
            "{where} wires the keybed “{keybed}”, which is not there: choose another.",
            where=where,
            keybed=block.keybed,
        )
    if block.keybed is None and not block.controls:
        yield say(
            "{where} has the block {block} with nothing in it: remove it.",
            where=where,
            block=block.name,
        )
    if block.keybed is not None and block.controls:
        yield say(
            "{where} has keys and controls in the block {block}: make two of it.",
            where=where,
            block=block.name,
        )
    for control in block.controls:
        if control not in controls:
            yield say(
                "{where} wires the control “{control}”, which is not there: remove it.",
                where=where,
                control=control,
            )


def _fault(where: str, console: Console, fault: Fault, sizes: dict[str, int]) -> Iterator[str]:
    if fault.kind in PLACED:
        lines, commons = console.encoder.lines, console.encoder.commons
        places = (fault.at,) if fault.kind == "open pin" else (fault.at, fault.to)
        if not all(0 <= place < lines or COMMON <= place < COMMON + commons for place in places):
            yield say("{where} has a fault at a pin that is not there: remove it.", where=where)
    elif fault.block not in sizes:
        yield say(
            "{where} has a fault in the block “{block}”, which is not there: remove it.",
            where=where,
            block=fault.block,
        )
    elif fault.kind in CONTACTS and not 0 <= fault.at < sizes[fault.block or ""]:
        yield say("{where} has a fault at a contact that is not there: remove it.", where=where)
