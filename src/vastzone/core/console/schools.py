"""Keyboards that an encoder reads otherwise than they are wired, and what mends that."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.console.circuit import commons_needed, place_of, size_of
from vastzone.core.plan.edits.consoles import edit_console, set_block
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, Fault, School
from vastzone.core.plan.model.controls import Program, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import has_field
from vastzone.core.plan.queries.schools_of_wiring import reading_of, semitones_off
from vastzone.core.say import say

SCHOOL_WORDS: dict[School, str] = {
    "lowest key": say("its lowest key"),
    "note names": say("note names"),
}


class Rewiring(NamedTuple):
    """What wiring a keyboard the other way takes: lines changed over, contacts to other commons."""

    lines: int
    contacts: int

    @property
    def wires(self) -> int:
        """All wires that are moved."""
        return self.lines + self.contacts


def rewiring(owner: Device, console: Console, block: Block) -> Rewiring:
    """The wires that are moved where a keyboard is to be wired by the other school.

    The lines are changed over together at the encoder; contacts are moved whose common is another.
    """
    count, low = size_of(owner, block)
    lines = console.encoder.lines
    other: School = "lowest key" if block.counts == "note names" else "note names"
    contacts = 0
    for number in range(count):
        _, here = place_of(number, low, block.counts, lines)
        _, there = place_of(number, low, other, lines)
        contacts += here != there
    return Rewiring(lines if low % lines else 0, contacts)


def told_otherwise(owner: Device, console: Console) -> tuple[Fault, ...]:
    """What the encoder takes for other keys because of its school, as faults of the console."""
    faults = []
    for block in console.blocks:
        _, low = size_of(owner, block)
        off = semitones_off(console.encoder, block, low)
        zone = _zone_of(owner, block)
        if off and zone is not None and zone.shift != -off:
            faults.append(Fault(kind="wrong school", block=block.id, at=off))
    return tuple(faults)


def _zone_of(owner: Device, block: Block) -> Zone | None:
    for program in owner.programs:
        for zone in program.zones:
            if zone.keybed == block.keybed and zone.drawn_by is None:
                return zone
    return None


def mends(
    owner: Device, console: Console, program: Program, block: Block, zone: Zone
) -> Iterator[Edit]:
    """What mends a keyboard that is read otherwise than it is wired, the cheapest first."""
    _, low = size_of(owner, block)
    off = semitones_off(console.encoder, block, low)
    reads = reading_of(console.encoder, block)
    label = ""
    if off > 0:
        commons = commons_needed(size_of(owner, block)[0], low, "note names", console.encoder.lines)
        label = say(
            "Tell it the C below, with {commons} commons, and leave the wires", commons=commons
        )
    elif has_field(owner, "zone/transpose"):
        label = say(
            "Transpose {block} {off} semitones up in the encoder", block=block.name, off=-off
        )
    if label:
        yield set_zone(owner.id, program.number, zone.id, label, transpose=-off, octave=0)
    work = rewiring(owner, console, block)
    soldered = say(", soldered as it is") if block.soldered else ""
    words = say(
        "Rewire {block} by {school_words}: {wires} wires{soldered}",
        block=block.name,
        school_words=SCHOOL_WORDS[reads],
        wires=work.wires,
        soldered=soldered,
    )
    yield set_block(owner.id, block.id, words, school=reads, commons=(), soldered=False)
    label = say("Take an encoder whose lines are {lines}", lines=_lines(block.counts))
    yield edit_console(
        owner.id, label, lambda c: changed(c, encoder=changed(c.encoder, school=block.counts))
    )


def _lines(school: School) -> str:
    return say("counted from the lowest key") if school == "lowest key" else say("fixed note names")


def sentence(owner: Device, console: Console, block: Block) -> str:
    """What is wrong with a keyboard that is read otherwise than it is wired."""
    bed = lookup.find(owner.keybeds, block.keybed)
    off = semitones_off(console.encoder, block, bed.low if bed is not None else 0)
    counts = say("from the lowest key") if off > 0 else say("by note names")
    way = say("higher") if off > 0 else say("lower")
    return say(
        "{block} is wired by {school_words} and {owner} counts its lines {counts}: every key "
        "of it sounds {off} semitones {way}.",
        block=block.name,
        school_words=SCHOOL_WORDS[block.counts],
        owner=owner.name,
        counts=counts,
        off=abs(off),
        way=way,
    )
