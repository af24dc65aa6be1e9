"""What the contacts of a console really report, as far as its wiring changes that.

A key that is struck alone may be dead, or be taken for others: the tables of a device with a
console are read through this.
"""

from collections.abc import Mapping

from vastzone.core.cache import derived
from vastzone.core.console.circuit import circuit
from vastzone.core.console.scan import scan, state_of
from vastzone.core.engine.tables import KeyId
from vastzone.core.plan.model.console import Block, Console, Encoder, Fault
from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to

Reports = Mapping[KeyId, tuple[KeyId, ...]]
"""Keys as («device:keybed», note) and controls as («device:control», 0), and what is reported
instead: nothing for a dead one.  What is not in it reports itself."""
STRAIGHT: Reports = {}


def reports(owner: Device) -> Reports:
    """What each contact of a device reports when it is struck alone, where that is not itself."""
    console = owner.console
    if console is None:
        return STRAIGHT
    return _reports(owner.id, owner.keybeds, console.encoder, console.blocks, console.faults)


@derived(64)
def _reports(
    owner: str,
    keybeds: tuple[Keybed, ...],
    encoder: Encoder,
    blocks: tuple[Block, ...],
    faults: tuple[Fault, ...],
) -> Reports:
    if not faults and all(block.facing == block.declared for block in blocks):
        return STRAIGHT
    wiring = circuit(keybeds, encoder, blocks)
    state = state_of(wiring, faults)
    # What sounds with nothing pressed (a stuck contact) is no doing of any key.
    idle = scan(wiring, state, ())
    reported: dict[KeyId, tuple[KeyId, ...]] = {}
    for index, contact in enumerate(wiring.contacts):
        if not wiring.parts[contact.block].commons:
            continue
        hits = scan(wiring, state, (index,)) - idle
        if hits == {(contact.block, contact.number)}:
            continue
        heard = (_key(owner, keybeds, blocks[b], n) for b, n in sorted(hits))
        own = _key(owner, keybeds, blocks[contact.block], contact.number)
        reported[own or (owner, contact.number)] = tuple(key for key in heard if key is not None)
    return reported


@derived(64)
def blame(owner: Device) -> Mapping[KeyId, int]:
    """Which known fault spoils each contact, by its place in the console’s list; −1 for a sense."""
    console = owner.console
    if console is None or not reports(owner):
        return {}
    blamed = dict.fromkeys(reports(owner), -1)
    for n, fault in enumerate(console.faults):
        for key in _with_only(owner, console, fault):
            if blamed.get(key) == -1:
                blamed[key] = n
    return blamed


def _with_only(owner: Device, console: Console, fault: Fault) -> Reports:
    return _reports(owner.id, owner.keybeds, console.encoder, console.blocks, (fault,))


def _key(owner: str, keybeds: tuple[Keybed, ...], block: Block, number: int) -> KeyId | None:
    """A contact as a key or a control; None for a key that a wrong lowest note puts off the end."""
    bed = lookup.find(keybeds, block.keybed)
    if bed is not None:
        note = bed.low + number
        return (ref_to(owner, bed.id), note) if bed.low <= note <= bed.high else None
    return ref_to(owner, block.controls[number]), 0
