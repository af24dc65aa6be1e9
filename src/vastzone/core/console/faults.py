"""Every single fault that a console can have, how likely it is beside others, and its words."""

from collections.abc import Iterator
from itertools import combinations

from vastzone.core.console.built import Built
from vastzone.core.console.wires import colour_of, contact_name
from vastzone.core.plan import lookup
from vastzone.core.plan.cache import derived
from vastzone.core.plan.console import COMMON, CONTACTS, Console, Fault
from vastzone.core.plan.model import Device

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
    "short": 0.5,
}
"""How often each kind is met beside the others: loose wires first, settings, then solder."""
NEIGHBOURS = 3.0
"""Neighbouring pins are shorted or swapped more often, by this factor."""


@derived(32)
def all_single(made: Built) -> tuple[Fault, ...]:
    """Every single fault of a circuit, wires and settings first."""
    return tuple(_of(made))


def _of(made: Built) -> Iterator[Fault]:
    for part in (p for p in made.parts if p.commons):
        ident = part.block.id
        places = [*range(made.lines), *(COMMON + k for k in range(len(part.commons)))]
        used = [p for p in places if _is_used(made, part.first, part.size, p)]
        yield from (Fault(kind="open wire", block=ident, at=p) for p in used)
        for a, b in combinations(used, 2):
            if (a < COMMON) is (b < COMMON):
                yield Fault(kind="swapped wires", block=ident, at=a, to=b)
        yield Fault(kind="wrong sense", block=ident)
        if part.block.keybed:
            for n in SHIFTS:
                if part.low + n >= 0 and part.low + part.size - 1 + n <= 127:
                    yield Fault(kind="wrong lowest note", block=ident, at=n)
        for n in range(part.size):
            yield Fault(kind="open contact", block=ident, at=n)
            yield Fault(kind="stuck contact", block=ident, at=n)
            if part.block.diodes:
                yield Fault(kind="reversed diode", block=ident, at=n)
                yield Fault(kind="shorted diode", block=ident, at=n)
    pins = [*range(made.lines), *(COMMON + p for p in sorted(made.owner_of))]
    yield from (Fault(kind="open pin", at=line) for line in range(made.lines))
    yield from (Fault(kind="short", at=a, to=b) for a, b in combinations(pins, 2))


def _is_used(made: Built, first: int, count: int, place: int) -> bool:
    """Whether any contact of a block hangs on a bus."""
    if place >= COMMON:
        return True
    buses = {made.contacts[first + n].line for n in range(count)}
    wire = made.wire(made.contacts[first].block, place)
    return wire is not None and wire.bus in buses


def likelihood(fault: Fault) -> float:
    """How likely a fault is beside others, before anything was seen."""
    near = fault.kind in ("short", "swapped wires") and abs(fault.at - fault.to) == 1
    return WEIGHTS[fault.kind] * (NEIGHBOURS if near else 1.0)


def fault_words(owner: Device, console: Console, fault: Fault) -> str:
    """What is wrong, with the wire as it stands in the wire list."""
    held = lookup.find(console.blocks, fault.block)
    name = held.name if held else ""
    if fault.kind in CONTACTS:
        contact = contact_name(owner, console, fault.block or "", fault.at)
        return {
            "open contact": f"The contact or diode of {contact} is open",
            "reversed diode": f"The diode of {contact} is the wrong way round",
            "shorted diode": f"The diode of {contact} is missing or shorted",
            "stuck contact": f"The contact of {contact} is stuck closed",
        }[fault.kind]
    if fault.kind == "open wire":
        return f"{wire_words(console, fault.block or '', fault.at)} is open"
    if fault.kind == "open pin":
        return f"Pin {pin_name(fault.at)} of the encoder has no contact"
    if fault.kind == "short":
        return (
            f"Pins {pin_name(fault.at)} and {pin_name(fault.to)} of the "
            "encoder, or wires on them, are bridged"
        )
    if fault.kind == "swapped wires":
        one = wire_words(console, fault.block or "", fault.at)
        other = wire_words(console, fault.block or "", fault.to)
        return f"{one} and {other[0].lower()}{other[1:]} are swapped"
    if fault.kind == "wrong sense":
        return f"The encoder is told the wrong diode sense for {name}"
    return f"The encoder is told a lowest note {fault.at:+} semitones off for {name}".replace(
        "-", "−"
    )


def mend_words(fault: Fault) -> str:
    """What to do about it."""
    return {
        "open contact": "Solder its diode and clean or bend its contact.",
        "reversed diode": "Turn the diode round.",
        "shorted diode": "Put a new diode in.",
        "stuck contact": "Free the contact.",
        "open wire": "Solder the wire at both ends.",
        "open pin": "Solder the pin, or move the wire to a pin that works.",
        "short": "Look for a bridge of solder or a strand of wire, and clear it.",
        "swapped wires": "Change the two over at one end.",
        "wrong sense": "Set the sense again in the encoder.",
        "wrong lowest note": "Set the lowest note again in the encoder.",
    }[fault.kind]


def wire_words(console: Console, block: str, place: int) -> str:
    """A wire as it stands in the wire list: ``The red wire 3 of Great, line 3``."""
    held = lookup.find(console.blocks, block)
    n = place - COMMON if place >= COMMON else place
    colour, number = colour_of(console, n)
    kind = "common" if place >= COMMON else "line"
    return f"The {colour} wire {number} of {held.name if held else block}, {kind} {n + 1}"


def pin_name(place: int) -> str:
    """A pin of the encoder: ``L3`` for a line, ``C7`` for a common."""
    return f"C{place - COMMON + 1}" if place >= COMMON else f"L{place + 1}"
