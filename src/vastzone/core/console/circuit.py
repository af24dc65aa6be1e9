"""A console as a circuit: pins, wires and contacts as numbered nodes.

Nodes are the encoder’s line pins, its common pins, and in each block the bus of each line and of
each common.  A contact joins a common bus to a line bus.
"""

from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.console import COMMON, Block, Console, Encoder, School
from vastzone.core.plan.model.controls import Keybed
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup


class Contact(NamedTuple):
    """One contact: its block and number from 0, its buses as nodes, whether its diode faces out.

    ``out`` is True when current may flow from the common to the line.
    """

    block: int
    number: int
    common: int
    line: int
    out: bool


class Wire(NamedTuple):
    """A wire between a pin of the encoder and a bus, as nodes; ``place`` is as in a fault."""

    block: int
    place: int
    pin: int
    bus: int


class CircuitBlock(NamedTuple):
    """A block in the circuit: its contacts, lowest note, number of commons, sense as declared."""

    block: Block
    size: int
    low: int
    commons: tuple[int, ...]
    out: bool
    first: int

    def number(self, common: int, line: int, lines: int) -> int:
        """The contact on the block’s ``common``th common and a line, from 0; it may not exist."""
        if self.block.counts == "lowest key":
            return common * lines + line
        return (common + self.low // lines) * lines + line - self.low


class Circuit(NamedTuple):
    """The whole circuit without faults.  ``lines`` and ``commons`` count pins."""

    lines: int
    commons: int
    parts: tuple[CircuitBlock, ...]
    wires: tuple[Wire, ...]
    contacts: tuple[Contact, ...]
    nodes: int
    owner_of: dict[int, tuple[int, int]]

    def contact(self, block: int, number: int) -> int:
        """A contact of a block by its number, as an index into ``contacts``."""
        return self.parts[block].first + number

    def hit(self, pin: int, line: int) -> tuple[int, int] | None:
        """The block and number of the contact on a common pin and a line; None where none is."""
        if pin not in self.owner_of:
            return None
        block, common = self.owner_of[pin]
        number = self.parts[block].number(common, line, self.lines)
        return (block, number) if 0 <= number < self.parts[block].size else None

    def block(self, ident: str | None) -> int:
        """A block by its id, as an index into ``parts``; the first for what is in none."""
        return next((n for n, p in enumerate(self.parts) if p.block.id == ident), 0)

    def wire(self, block: int, place: int) -> Wire | None:
        """The wire of a block at a place."""
        return next(
            (wire for wire in self.wires if (wire.block, wire.place) == (block, place)), None
        )

    def place(self, index: int) -> tuple[int, int]:
        """The line and the common of a contact, both from 0."""
        contact = self.contacts[index]
        part = self.parts[contact.block]
        return place_of(contact.number, part.low, part.block.counts, self.lines)

    def has_pin(self, place: int) -> bool:
        """Whether the encoder has a pin at a place."""
        return 0 <= place < self.lines or COMMON <= place < COMMON + self.commons

    def pin(self, place: int) -> int:
        """A pin as a node: a line below ``COMMON``, else a common."""
        return self.lines + place - COMMON if place >= COMMON else place


def commons_needed(keys: int, low: int, school: School, lines: int = 12) -> int:
    """How many commons a keyboard of ``keys`` keys from MIDI note ``low`` needs.

    ceil(K / 12) when lines count from its lowest key; floor((p + K − 1) / 12) + 1 when they carry
    note names and the lowest key has pitch class p (0 = C).
    """
    if school == "lowest key":
        return -(-keys // lines)
    return (low % lines + keys - 1) // lines + 1


def place_of(number: int, low: int, school: School, lines: int = 12) -> tuple[int, int]:
    """The line and the common, both from 0, of key ``number`` from 0 of a keyboard from ``low``."""
    if school == "lowest key":
        return number % lines, number // lines
    note = low + number
    return note % lines, note // lines - low // lines


def size_of(owner: Device, block: Block) -> tuple[int, int]:
    """How many contacts a block has, and its lowest MIDI note (0 for stops)."""
    return _size(owner.keybeds, block)


def _size(keybeds: tuple[Keybed, ...], block: Block) -> tuple[int, int]:
    bed = lookup.find(keybeds, block.keybed)
    return (bed.keys, bed.low) if bed else (len(block.controls), 0)


def needed(owner: Device, block: Block, lines: int = 12) -> int:
    """How many commons a block needs."""
    return _needed(owner.keybeds, block, lines)


def _needed(keybeds: tuple[Keybed, ...], block: Block, lines: int) -> int:
    count, low = _size(keybeds, block)
    return commons_needed(count, low, block.counts, lines) if count else 0


def built(owner: Device, console: Console) -> Circuit:
    """The circuit of a console; blocks without pins hang on none."""
    return circuit(owner.keybeds, console.encoder, console.blocks)


@derived(64)
def circuit(keybeds: tuple[Keybed, ...], encoder: Encoder, blocks: tuple[Block, ...]) -> Circuit:
    """The circuit of an encoder and its blocks; keys are those of the keyboards of its device."""
    lines, commons = encoder.lines, encoder.commons
    nodes = lines + commons
    parts: list[CircuitBlock] = []
    wires: list[Wire] = []
    contacts: list[Contact] = []
    owner_of: dict[int, tuple[int, int]] = {}
    for index, block in enumerate(blocks):
        count, low = _size(keybeds, block)
        wanted = _needed(keybeds, block, lines)
        pins = tuple(p - 1 for p in block.commons[:wanted] if p <= commons)
        parts.append(
            CircuitBlock(block, count, low, pins, block.declared == "common to line", len(contacts))
        )
        line_bus, common_bus = nodes, nodes + lines
        nodes += lines + wanted
        if pins:
            for n in range(lines):
                wires.append(Wire(index, n, n, line_bus + n))
        for k, pin in enumerate(pins):
            wires.append(Wire(index, COMMON + k, lines + pin, common_bus + k))
            owner_of.setdefault(pin, (index, k))
        for n in range(count):
            line, common = place_of(n, low, block.counts, lines)
            contacts.append(
                Contact(
                    index, n, common_bus + common, line_bus + line, block.facing == "common to line"
                )
            )
    return Circuit(lines, commons, tuple(parts), tuple(wires), tuple(contacts), nodes, owner_of)
