"""The wire list in the order of work, materials, joints and hours, and ways to a console."""

from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.console.circuit import needed, place_of, size_of
from vastzone.core.midi import pitch
from vastzone.core.plan.model.console import COMMON, Block, Console, Way
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.schools_of_wiring import reading_of
from vastzone.core.say import say

SLACK, TAIL = 1.15, 0.12
"""Wire is cut 15 % longer than the way it runs; each contact has a tail of 12 cm."""


class WireRow(NamedTuple):
    """One wire: its id, group of work, from, to, colour, its number on the sheet, length in metres.

    ``block`` and ``place`` say which it is, ``place`` −1 for a contact with its diode, whose number
    is ``key``.
    """

    id: str
    group: str
    source: str
    dest: str
    colour: str
    number: int
    metres: float
    block: str
    place: int
    key: int = -1


@derived(32)
def wire_list(owner: Device, console: Console) -> tuple[WireRow, ...]:
    """Every wire: block by block its lines, its commons, then its contacts with their diodes."""
    rows: list[WireRow] = []
    for block in console.blocks:
        count, _ = size_of(owner, block)
        long = block.distance * SLACK
        across = block.pitch * max(0, count - 1) * SLACK
        for n in _lines_used(owner, console, block):
            colour = colour_of(console, n)
            rows.append(
                WireRow(
                    f"{block.id}/line/{n + 1}",
                    say("{block}: lines", block=block.name),
                    say("encoder L{n}", n=n + 1),
                    say("{block} line {n}", block=block.name, n=n + 1),
                    colour,
                    0,
                    long + across,
                    block.id,
                    n,
                )
            )
        for k in range(needed(owner, block, console.encoder.lines)):
            pin = (
                say("encoder C{commons}", commons=block.commons[k])
                if k < len(block.commons)
                else say("no pin yet")
            )
            colour = colour_of(console, k, ringed=True)
            rows.append(
                WireRow(
                    f"{block.id}/common/{k + 1}",
                    say("{block}: commons", block=block.name),
                    pin,
                    say("{block} common {k}", block=block.name, k=k + 1),
                    colour,
                    0,
                    long + block.pitch * console.encoder.lines * SLACK,
                    block.id,
                    COMMON + k,
                )
            )
        rows += _contacts(owner, console, block)
    numbered = enumerate(rows, 1)
    return tuple(row._replace(number=number) for number, row in numbered)


def _lines_used(owner: Device, console: Console, block: Block) -> list[int]:
    """The lines that any contact of a block is on: one contact needs one line."""
    count, low = size_of(owner, block)
    lines = set()
    for number in range(count):
        line, _ = place_of(number, low, block.counts, console.encoder.lines)
        lines.add(line)
    return sorted(lines)


def _contacts(owner: Device, console: Console, block: Block) -> list[WireRow]:
    count, low = size_of(owner, block)
    rows = []
    for n in range(count):
        line, common = place_of(n, low, block.counts, console.encoder.lines)
        colour = colour_of(console, line)
        rows.append(
            WireRow(
                f"{block.id}/key/{n + 1}",
                say("{block}: contacts", block=block.name),
                contact_name(owner, console, block.id, n),
                say(
                    "line {line}, common {common}, diode {facing}",
                    line=line + 1,
                    common=common + 1,
                    facing=facing_words(block.facing),
                ),
                colour,
                0,
                TAIL,
                block.id,
                -1,
                n,
            )
        )
    return rows


def facing_words(facing: str) -> str:
    """Where the ring of a diode lies: the end towards which current flows."""
    return say("ring to the line") if facing == "common to line" else say("ring to the common")


def colour_of(console: Console, n: int, ringed: bool = False) -> str:
    """The colour of the ``n``th wire of a cable; commons are ``ringed``, so that none are alike."""
    colours = console.colours or ("plain",)
    colour = colours[n % len(colours)]
    return f"{colour}{RINGED}" if ringed else colour


RINGED = say(" with a ring")
"""What tells the wire of a common from that of a line."""


def contact_name(owner: Device, console: Console, block: str, number: int) -> str:
    """A contact by its key or control: ``C♯4 of Great``, ``Principal 8``."""
    wired = next(b for b in console.blocks if b.id == block)
    bed = lookup.find(owner.keybeds, wired.keybed)
    if bed is not None:
        note = bed.low + number
        named = pitch.name(note, owner.octaves) if 0 <= note <= 127 else str(note)
        return say("{named} of {wired}", named=named, wired=wired.name)
    if 0 <= number < len(wired.controls):
        return lookup.by_id(owner.controls, wired.controls[number], "control").name
    return say("contact {number} of {wired}", number=number + 1, wired=wired.name)


class Material(NamedTuple):
    """Something to buy: what, how many or how much, in which unit, and what it costs.

    Connectors have twelve poles; each colour of wire is a material.
    """

    name: str
    amount: float
    unit: str
    price: float


class Labour(NamedTuple):
    """Solder joints, and hours for joints and tests at the person’s own pace."""

    joints: int
    hours: float
    price: float


def _diodes(owner: Device, console: Console) -> int:
    return sum(size_of(owner, block)[0] for block in console.blocks if block.diodes)


def materials(owner: Device, console: Console) -> tuple[Material, ...]:
    """Diodes, connectors of twelve poles, wire by colour, the encoder."""
    rows, rates = wire_list(owner, console), console.rates
    diodes = _diodes(owner, console)
    plugs = sum(1 + -(-needed(owner, block) // 12) for block in console.blocks)
    by_colour: dict[str, float] = {}
    for row in rows:
        by_colour[row.colour] = by_colour.get(row.colour, 0.0) + row.metres
    wire = []
    for colour, metres in by_colour.items():
        wire.append(
            Material(
                f"wire, {colour}",
                round(metres, 1),
                "m",
                round(metres * rates.metre, 2),
            )
        )
    return (
        Material("encoder", 1, "", rates.encoder),
        Material("diodes", diodes, "", round(diodes * rates.diode, 2)),
        Material("connectors", plugs, "", round(plugs * rates.connector, 2)),
        *wire,
    )


def labour(owner: Device, console: Console) -> Labour:
    """Two joints a wire, two more a diode; each wire is tested once."""
    rows, rates = wire_list(owner, console), console.rates
    diodes = _diodes(owner, console)
    joints = 2 * len(rows) + 2 * diodes
    hours = (joints * rates.joint_minutes + len(rows) * rates.test_minutes) / 60
    return Labour(joints, round(hours, 1), round(hours * rates.hour, 2))


class Total(NamedTuple):
    """A way to a console with everything that it still needs: money, hours, what is missing."""

    name: str
    price: float
    hours: float
    floor: float
    skill: str
    missing: str


def compare(owner: Device, console: Console) -> tuple[Total, ...]:
    """The ways, cheapest first; those to be wired have this console’s materials and hours in."""
    bought = sum(material.price for material in materials(owner, console))
    work = labour(owner, console)
    totals = []
    for way in console.ways:
        totals.append(_total(way, bought, work, console.rates.hour))
    return tuple(sorted(totals, key=lambda t: (t.price, t.hours)))


def _total(way: Way, bought: float, work: Labour, hour: float) -> Total:
    price = way.price + sum(hit.price for hit in way.missing) + way.hours * hour
    hours = way.hours
    if way.wired:
        price, hours = price + bought + work.price, hours + work.hours
    missing = ", ".join(hit.name for hit in way.missing)
    return Total(way.name, round(price, 2), round(hours, 1), way.floor, way.skill, missing)


class Setup(NamedTuple):
    """What an encoder asks for a keyboard, in its order.

    How many common pins it has, the octave of its lowest note and that note’s index in it (None
    where its lines carry note names), which way its diodes lead, the channel, the pins.
    """

    block: str
    commons: int
    octave: int
    note_index: int | None
    name: str
    sense: str
    channel: int | None
    pins: str


def pins_words(pins: tuple[int, ...]) -> str:
    """Common pins in their order, neighbours by their ends: «C1–C5, C9»."""
    said: list[str] = []
    first = last = None
    for pin in (*pins, None):
        if last is not None and first is not None and pin != last + 1:
            said.append(f"C{first}" if first == last else f"C{first}–C{last}")
            first = None
        first = pin if first is None else first
        last = pin
    return ", ".join(said) or say("none")


LEADS = {
    "common to line": say("away from the commons"),
    "line to common": say("towards the commons"),
}
"""Which way diodes lead, as encoders ask for it."""


def setup(owner: Device, console: Console, program: int) -> tuple[Setup, ...]:
    """The settings as the encoder asks for them, in its own octave naming.

    The octave number is that in which it puts the lowest note, the index counts from C.
    """
    at_start = lookup.program(owner, program)
    setups = []
    for block in console.blocks:
        bed = lookup.find(owner.keybeds, block.keybed)
        zone = next((z for z in at_start.zones if z.keybed == block.keybed and z.sends), None)
        if bed is None or zone is None:
            continue
        low = bed.low + zone.shift
        octave, index = pitch.octave_and_index(low, owner.octaves, console.encoder.first_index)
        names = reading_of(console.encoder, block) == "note names"
        pins = pins_words(block.commons)
        setups.append(
            Setup(
                block.name,
                needed(owner, block, console.encoder.lines),
                octave,
                None if names else index,
                pitch.label(low, owner.octaves) if 0 <= low <= 127 else str(low),
                LEADS[block.declared],
                zone.channel,
                pins,
            )
        )
    return tuple(setups)
