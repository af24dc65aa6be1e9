"""Every single fault that a console can have, how likely it is beside others, and its words."""

from collections.abc import Iterator
from itertools import combinations

from vastzone.core.cache import derived
from vastzone.core.console.circuit import Circuit, CircuitBlock, place_of, size_of
from vastzone.core.console.wires import RINGED, colour_of, contact_name, wire_list
from vastzone.core.plan.model.console import (
    COMMON,
    CONTACTS,
    Block,
    Console,
    Fault,
    FaultKind,
)
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.text import ALL, listed, uncapital

SHIFTS = tuple(n for n in range(-12, 13) if n)
WEIGHTS = {
    "open wire": 4.0,
    "open pin": 2.0,
    "open contact": 1.0,
    "reversed diode": 0.8,
    "shorted diode": 0.8,
    "stuck contact": 0.8,
    "swapped wires": 0.5,
    "wrong sense": 3.0,
    "wrong lowest note": 0.6,
    "wrong school": 2.0,
    "short": 0.5,
}
"""How often each kind is met beside the others: loose wires first, settings, then solder."""
NEIGHBOURS = 3.0
"""Neighbouring pins are shorted or swapped more often, by this factor."""


@derived(32)
def all_single(circuit: Circuit) -> tuple[Fault, ...]:
    """Every single fault of a circuit, wires and settings first."""
    return tuple(_faults_of(circuit))


def _faults_of(circuit: Circuit) -> Iterator[Fault]:
    for part in circuit.parts:
        if part.commons:
            yield from _wire_faults(circuit, part)
            yield from _told_wrongly(part, circuit.lines)
            for number in range(part.size):
                yield from _contact_faults(part, number)
    pins = [*range(circuit.lines), *(COMMON + pin for pin in sorted(circuit.owner_of))]
    for line in range(circuit.lines):
        yield Fault(kind="open pin", at=line)
    for a, b in combinations(pins, 2):
        yield Fault(kind="short", at=a, to=b)


def _wire_faults(circuit: Circuit, part: CircuitBlock) -> Iterator[Fault]:
    """Wires of a block that are open, and pairs of lines or of commons that are swapped."""
    ident = part.block.id
    places = [*range(circuit.lines), *(COMMON + k for k in range(len(part.commons)))]
    used = []
    for place in places:
        if _is_used(circuit, part.first, part.size, place):
            used.append(place)
    for place in used:
        yield Fault(kind="open wire", block=ident, at=place)
    for a, b in combinations(used, 2):
        if (a < COMMON) is (b < COMMON):
            yield Fault(kind="swapped wires", block=ident, at=a, to=b)


def _told_wrongly(part: CircuitBlock, lines: int) -> Iterator[Fault]:
    """What the encoder may have been told wrongly of a block."""
    yield Fault(kind="wrong sense", block=part.block.id)
    if not part.block.keybed:
        return
    high = part.low + part.size - 1
    school = other_school(part.block, part.low, lines)
    if school:
        yield Fault(kind="wrong school", block=part.block.id, at=school)
    for shift in SHIFTS:
        if shift != school and part.low + shift >= 0 and high + shift <= 127:
            yield Fault(kind="wrong lowest note", block=part.block.id, at=shift)


def other_school(block: Block, low: int, lines: int) -> int:
    """The semitones that a keyboard is off on an encoder which counts lines the other way."""
    pitch_class = low % lines
    return pitch_class if block.counts == "note names" else -pitch_class


def _contact_faults(part: CircuitBlock, number: int) -> Iterator[Fault]:
    ident = part.block.id
    yield Fault(kind="open contact", block=ident, at=number)
    yield Fault(kind="stuck contact", block=ident, at=number)
    if part.block.diodes:
        yield Fault(kind="reversed diode", block=ident, at=number)
        yield Fault(kind="shorted diode", block=ident, at=number)


def _is_used(circuit: Circuit, first: int, count: int, place: int) -> bool:
    """Whether any contact of a block hangs on a bus."""
    if place >= COMMON:
        return True
    buses = set()
    for n in range(count):
        buses.add(circuit.contacts[first + n].line)
    wire = circuit.wire(circuit.contacts[first].block, place)
    return wire is not None and wire.bus in buses


def likelihood(fault: Fault) -> float:
    """How likely a fault is beside others, before anything was seen."""
    near = fault.kind in ("short", "swapped wires") and abs(fault.at - fault.to) == 1
    return WEIGHTS[fault.kind] * (NEIGHBOURS if near else 1.0)


def fault_words(owner: Device, console: Console, fault: Fault) -> str:
    """What is wrong, with the wire as it stands in the wire list."""
    block = fault.block or ""
    if fault.kind in CONTACTS:
        return CONTACT_WORDS[fault.kind].format(contact_name(owner, console, block, fault.at))
    if fault.kind == "open wire":
        return say("{wire} is open", wire=wire_words(owner, console, block, fault.at))
    if fault.kind == "open pin":
        return say("Pin {pin} of the encoder has no contact", pin=pin_name(fault.at))
    if fault.kind == "short":
        return say(
            "Pins {pin} and {pin_name_fault} of the encoder, or wires on them, are bridged",
            pin=pin_name(fault.at),
            pin_name_fault=pin_name(fault.to),
        )
    if fault.kind == "swapped wires":
        one = wire_words(owner, console, block, fault.at)
        other = wire_words(owner, console, block, fault.to)
        return say(
            "{one} and {other} are swapped",
            one=one,
            other=uncapital(other),
        )
    wired = lookup.find(console.blocks, fault.block)
    name = wired.name if wired else ""
    if fault.kind == "wrong sense":
        return say("The encoder is told the wrong diode sense for {name}", name=name)
    if fault.kind == "wrong school":
        wired_by = say("note names") if fault.at > 0 else say("its lowest key")
        counts = say("from the lowest key") if fault.at > 0 else say("by note names")
        return say(
            "{name} is wired by {wired_by} and the encoder counts its lines {counts}",
            name=name,
            wired_by=wired_by,
            counts=counts,
        )
    shift = f"{fault.at:+}".replace("-", "−")
    return say(
        "The encoder is told a lowest note {shift} semitones off for {name}", shift=shift, name=name
    )


CONTACT_WORDS: dict[FaultKind, str] = {
    "open contact": say("The contact or diode of {} is open"),
    "reversed diode": say("The diode of {} is the wrong way round"),
    "shorted diode": say("The diode of {} is missing or shorted"),
    "stuck contact": say("The contact of {} is stuck closed"),
}
"""What is wrong with a single contact."""


def mend_words(fault: Fault) -> str:
    """What to do about it."""
    return {
        "open contact": say("Solder its diode and clean or bend its contact."),
        "reversed diode": say("Turn the diode round."),
        "shorted diode": say("Put a new diode in."),
        "stuck contact": say("Free the contact."),
        "open wire": say("Solder the wire at both ends."),
        "open pin": say("Solder the pin, or move the wire to a pin that works."),
        "short": say("Look for a bridge of solder or a strand of wire, and clear it."),
        "swapped wires": say("Change the two over at one end."),
        "wrong sense": say("Set the sense again in the encoder."),
        "wrong lowest note": say("Set the lowest note again in the encoder."),
        "wrong school": say(
            "Tell the encoder the C below with as many commons as note names need, or "
            "transpose it; Pins has every mend."
        ),
    }[fault.kind]


def wire_words(owner: Device, console: Console, block: str, place: int) -> str:
    """A wire as it stands in the wire list: ``The red wire 17 of Great, line 3``."""
    wired = lookup.find(console.blocks, block)
    common = place >= COMMON
    n = place - COMMON if common else place
    colour = colour_of(console, n, ringed=common)
    number = ""
    for row in wire_list(owner, console):
        if (row.block, row.place) == (block, place):
            number = f" {row.number}"
    named = wired.name if wired else block
    if common:
        plain = colour.removesuffix(RINGED)
        return say(
            "The {plain} wire{number}{ringed} of {named}, common {n}",
            plain=say(plain),
            number=number,
            ringed=RINGED,
            named=named,
            n=n + 1,
        )
    return say(
        "The {colour} wire{number} of {named}, line {n}",
        colour=say(colour),
        number=number,
        named=named,
        n=n + 1,
    )


def short_words(owner: Device, console: Console, group: tuple[int, ...]) -> str:
    """Pins that are shorted together: each with its wires, by colour and number, and their keys."""
    told = []
    for place in group:
        wires = []
        for block in console.blocks:
            there = _place_in(block, place)
            if there is not None:
                words = wire_words(owner, console, block.id, there)
                wires.append(
                    f"{words[0].lower()}{words[1:]}{_keys_on(owner, console, block, there)}"
                )
        told.append(f"{pin_name(place)} ({'; '.join(wires) or 'no wire'})")
    return say("{told} are shorted together.", told=listed(told, ALL))


def _place_in(block: Block, pin: int) -> int | None:
    """The place of a block's wire on a pin of the encoder; None where it has none there."""
    if pin < COMMON:
        return pin if block.commons else None
    number = pin - COMMON + 1
    return COMMON + block.commons.index(number) if number in block.commons else None


def _keys_on(owner: Device, console: Console, block: Block, place: int) -> str:
    """The first and last key on a wire of a block, in words."""
    count, low = size_of(owner, block)
    here = []
    for number in range(count):
        line, common = place_of(number, low, block.counts, console.encoder.lines)
        if (COMMON + common if place >= COMMON else line) == place:
            here.append(contact_name(owner, console, block.id, number))
    if not here:
        return ""
    return f": {here[0]}" if len(here) == 1 else f": {here[0]} … {here[-1]}"


def pin_name(place: int) -> str:
    """A pin of the encoder: ``L3`` for a line, ``C7`` for a common."""
    return f"C{place - COMMON + 1}" if place >= COMMON else f"L{place + 1}"
