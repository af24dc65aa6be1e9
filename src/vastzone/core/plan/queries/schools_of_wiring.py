"""How an encoder reads a keyboard against how it is wired, and by how much that puts it off.

An encoder whose lines count from the lowest key takes line and common of a keyboard wired by note
names for p semitones more than they are; one whose lines have note names takes a keyboard wired
from its lowest key for p semitones less: p is the pitch class of the lowest key, 0 for C.
"""

from vastzone.core.cache import derived
from vastzone.core.plan.model.console import Block, Console, Encoder, School
from vastzone.core.plan.model.controls import Keybed, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup

Offsets = tuple[tuple[str, int], ...]
"""Keybeds and the semitones by which their keys come out too high."""


def reading_of(encoder: Encoder, block: Block) -> School:
    """How an encoder reads a block: one that can do either is told how the block is wired."""
    return block.counts if encoder.school == "either" else encoder.school


def semitones_off(encoder: Encoder, block: Block, low: int) -> int:
    """How many semitones too high a keyboard from MIDI note ``low`` comes out; 0 for none."""
    if block.keybed is None or reading_of(encoder, block) == block.counts:
        return 0
    pitch_class = low % encoder.lines
    return pitch_class if block.counts == "note names" else -pitch_class


def offsets_of(owner: Device) -> Offsets:
    """The keybeds of a device that its encoder reads otherwise than they are wired."""
    if owner.console is None or owner.console.encoder.school == "either":
        return ()
    return _offsets(owner.keybeds, owner.console)


@derived(256)
def _offsets(keybeds: tuple[Keybed, ...], console: Console) -> Offsets:
    offsets = []
    for block in console.blocks:
        bed = lookup.find(keybeds, block.keybed)
        off = semitones_off(console.encoder, block, bed.low) if bed is not None else 0
        if bed is not None and off:
            offsets.append((bed.id, off))
    return tuple(offsets)


def heard_shift(owner: Device, zone: Zone) -> int:
    """Semitones from a key to the note that is sent: the zone’s own, and what the wiring adds."""
    return zone.shift + dict(offsets_of(owner)).get(zone.keybed, 0)
