"""What the contacts of a console really report, as far as its wiring changes that.

A key that is struck alone may be dead, or be taken for others: the tables of a device with a
console are read through this.
"""

from collections.abc import Mapping

from msgspec.structs import replace

from vastzone.core.console.built import built
from vastzone.core.console.scan import scan, state_of
from vastzone.core.engine.tables import KeyId
from vastzone.core.plan.cache import derived
from vastzone.core.plan.console import Block, Console, Encoder, Fault
from vastzone.core.plan.model import Device
from vastzone.core.plan.touch import Control, Keybed

Reports = Mapping[KeyId, tuple[KeyId, ...]]
"""Keys as («device:keybed», note) and controls as («device:control», 0), and what is reported
instead: nothing for a dead one.  What is not in it reports itself."""
STRAIGHT: Reports = {}


def reports(owner: Device) -> Reports:
    """What each contact of a device reports when it is struck alone, where that is not itself."""
    held = owner.console
    if held is None:
        return STRAIGHT
    return _reports(
        owner.keybeds, owner.controls, held.encoder, held.blocks, held.faults, owner, held
    )


@derived(64, hidden=2)
def _reports(
    keybeds: tuple[Keybed, ...],
    controls: tuple[Control, ...],
    encoder: Encoder,
    blocks: tuple[Block, ...],
    faults: tuple[Fault, ...],
    owner: Device,
    console: Console,
) -> Reports:
    if not faults and all(b.facing == b.declared for b in blocks):
        return STRAIGHT
    made = built(owner, console)
    state = state_of(made, faults)
    idle = scan(made, state, ())
    found: dict[KeyId, tuple[KeyId, ...]] = {}
    for index, contact in enumerate(made.contacts):
        if not made.parts[contact.block].commons:
            continue
        hits = scan(made, state, (index,)) - idle
        own = (contact.block, contact.number)
        if hits != {own}:
            heard = (_key(owner, blocks[b], n) for b, n in sorted(hits))
            found[_must(owner, blocks[contact.block], contact.number)] = tuple(
                key for key in heard if key is not None
            )
    return found


@derived(64)
def blame(owner: Device) -> dict[KeyId, int]:
    """Which known fault spoils each contact, by its place in the console’s list; −1 for a sense."""
    console = owner.console
    if console is None or not reports(owner):
        return {}
    found = dict.fromkeys(reports(owner), -1)
    for n, fault in enumerate(console.faults):
        for key in _with_only(owner, console, fault):
            if found.get(key) == -1:
                found[key] = n
    return found


def _with_only(owner: Device, console: Console, fault: Fault) -> Reports:
    alone = replace(console, faults=(fault,))
    return _reports(
        owner.keybeds, owner.controls, alone.encoder, alone.blocks, alone.faults, owner, alone
    )


def _must(owner: Device, block: Block, number: int) -> KeyId:
    return _key(owner, block, number) or (owner.id, number)


def _key(owner: Device, block: Block, number: int) -> KeyId | None:
    """A contact as a key or a control; None where none is there."""
    bed = next((b for b in owner.keybeds if b.id == block.keybed), None)
    if bed is not None:
        note = bed.low + number
        return (f"{owner.id}:{bed.id}", note) if bed.low <= note <= bed.high else None
    inside = 0 <= number < len(block.controls)
    return (f"{owner.id}:{block.controls[number]}", 0) if inside else None
