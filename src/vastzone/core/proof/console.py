"""Rules about consoles: pins, diodes, lowest notes, shoes, scanning."""

from collections.abc import Iterator

from vastzone.core.console.circuit import Circuit, built, needed
from vastzone.core.console.finder import corners_of
from vastzone.core.console.pins import pin_out, take_pins
from vastzone.core.console.scan import worst_delay_ms
from vastzone.core.console.shoes import steps_of
from vastzone.core.console.wires import contact_name
from vastzone.core.engine.compile import Compiled
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.consoles import set_block, set_shoe
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.console import Block, Console, Encoder, Shoe
from vastzone.core.plan.model.controls import Program, Zone
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.channels import channel_free
from vastzone.core.plan.queries.schools_of_wiring import heard_shift
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.response.voltage import Level, divider, ohms_words
from vastzone.core.say import say, say_many
from vastzone.core.text import listed

SLOW_MS, FEW_STEPS = 5.0, 20
Held = tuple[Device, Console]


def consoles_of(plan: Plan) -> Iterator[Held]:
    """Devices with what is wired behind them."""
    for device in plan.devices:
        if device.console is not None:
            yield (device, device.console)


def pins(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Too few pins, pins used twice, blocks without pins, keyboards over the limit."""
    for owner, console in consoles_of(plan):
        pin_plan = pin_out(owner, console)
        if pin_plan.left_out:
            names = listed(block.name for block in console.blocks if block.id in pin_plan.left_out)
            yield Remark(
                "too few pins",
                (owner.id,),
                say(
                    "{owner} has {commons} common pins and is {short} short: there are none "
                    "for {names}. ",
                    owner=owner.name,
                    commons=console.encoder.commons,
                    short=pin_plan.short,
                    names=names,
                )
                + " ".join(f"{mend.sentence}." for mend in pin_plan.mends),
            )
        yield from _pins_of(owner, console)
        beds = []
        for block in console.blocks:
            if block.keybed:
                beds.append(block)
        if len(beds) > console.encoder.keyboards:
            yield Remark(
                "too many keyboards",
                (owner.id,),
                say(
                    "{owner} knows {keyboards} and {count} are wired to it: a second encoder "
                    "is needed.",
                    owner=owner.name,
                    keyboards=say_many(
                        "{count} keyboard", "{count} keyboards", console.encoder.keyboards
                    ),
                    count=len(beds),
                ),
            )


def _pins_of(owner: Device, console: Console) -> Iterator[Remark]:
    by_pin: dict[int, list[str]] = {}
    wanting = []
    for block in console.blocks:
        for pin in block.commons:
            by_pin.setdefault(pin, []).append(block.name)
        if len(block.commons) != needed(owner, block, console.encoder.lines):
            wanting.append(block.name)
    for pin, names in by_pin.items():
        if len(names) > 1 or pin > console.encoder.commons:
            what = (
                say("is used by {names}", names=listed(names))
                if len(names) > 1
                else say("is not there")
            )
            yield Remark(
                "pin used twice",
                (owner.id,),
                say("Pin C{pin} of {owner} {what}.", pin=pin, owner=owner.name, what=what),
                _assign(owner, console),
            )
    if wanting:
        yield Remark(
            "pins not assigned",
            (owner.id,),
            (
                say(
                    "{wanting} of {owner} has not the pins needed.",
                    wanting=listed(wanting),
                    owner=owner.name,
                )
                if len(wanting) == 1
                else say(
                    "{wanting} of {owner} have not the pins needed.",
                    wanting=listed(wanting),
                    owner=owner.name,
                )
            ),
            _assign(owner, console),
        )


def _assign(owner: Device, console: Console) -> tuple[Edit, ...]:
    """Pins as they are worked out, where that gives any block others than it has."""
    pinning = pin_out(owner, console)
    has = {block.id: block.commons for block in console.blocks if block.commons}
    return () if pinning.pins == has else (take_pins(owner, pinning),)


def diodes(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Keyboards without diodes, of mixed sense, or whose sense the encoder is told wrongly."""
    for owner, console in consoles_of(plan):
        circuit = built(owner, console)
        for index, block in enumerate(console.blocks):
            where = (ref_to(owner.id, block.keybed or block.controls[0]), owner.id)
            if not block.diodes:
                yield Remark("no diodes", where, _ghost(owner, console, circuit, index))
            names = _turned(owner, console, block)
            if names and len(names) < circuit.parts[index].size:
                told = say(
                    "In {block} the diodes of {names} face the other way.",
                    block=block.name,
                    names=listed(names),
                )
                yield Remark("mixed diode sense", where, told)
            if block.facing != block.declared:
                way = FACING_WORDS[block.facing]
                yield Remark(
                    "wrong diode sense",
                    where,
                    say(
                        "The diodes of {block} face from {way}, and {owner} is told the other "
                        "way: all of it "
                        "is dead.",
                        block=block.name,
                        way=way,
                        owner=owner.name,
                    ),
                    (tell_sense(owner, block),),
                )


def _turned(owner: Device, console: Console, block: Block) -> list[str]:
    """The contacts of a block whose diodes are known to be the wrong way round."""
    turned = (fault for fault in console.faults if fault.kind == "reversed diode")
    places = []
    for fault in turned:
        if fault.block == block.id:
            places.append(fault.at)
    names = []
    for place in places:
        names.append(contact_name(owner, console, block.id, place))
    return names


def tell_sense(owner: Device, block: Block) -> Edit:
    """Tell the encoder how the diodes of a block really face."""
    label = say("Tell {owner} the sense of {block}", owner=owner.name, block=block.name)
    return set_block(owner.id, block.id, label, declared=block.facing)


def _ghost(owner: Device, console: Console, circuit: Circuit, index: int) -> str:
    """The smallest chord that sounds a key nobody holds."""
    part, block = circuit.parts[index], circuit.parts[index].block
    corners = next(
        filter(None, (corners_of(circuit, part.first + n) for n in range(part.size))), ()
    )
    names = []
    for corner in corners:
        names.append(contact_name(owner, console, block.id, circuit.contacts[corner].number))
    if not names:
        return say("{block} has no diodes; it is too small to ghost.", block=block.name)
    keys = listed(name.removesuffix(say(" of {block}", block=block.name)) for name in names)
    return say(
        "{block} has no diodes: {keys} held together already make a fourth key sound. Put a "
        "diode at every contact.",
        block=block.name,
        keys=keys,
    )


def lowest_notes(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Declared lowest notes: outside 0–127, or not those that the keyboards begin with."""
    for owner, console in consoles_of(plan):
        for program, block, zone in zones_of_blocks(owner, console):
            bed = lookup.keybed(owner, block.keybed or "")
            ref = ref_to(owner.id, bed.id)
            wished = set()
            for wish in plan.wishes:
                if ref in wish.sources:
                    wished.add(wish.shift)
            shift = heard_shift(owner, zone)
            low, high = bed.low + zone.shift, bed.high + zone.shift
            if low < 0 or high > 127:
                yield Remark(
                    "lowest note outside",
                    (ref, owner.id),
                    say(
                        "{block} would reach from {low} to {high}: MIDI has 0–127.",
                        block=block.name,
                        low=low,
                        high=high,
                    ),
                    (_tell_low(owner, program, zone, 0, block.name),),
                )
            elif shift not in (wished or {0}) and shift == zone.shift:
                said = pitch.label(low, owner.octaves)
                true = pitch.label(bed.low, owner.octaves)
                way = say("higher") if zone.shift > 0 else say("lower")
                yield Remark(
                    "declared from the wrong note",
                    (ref, owner.id),
                    say(
                        "{block} begins on {true} and {owner} is told {said}: every key of it "
                        "sounds {shift} "
                        "semitones {way}.",
                        block=block.name,
                        true=true,
                        owner=owner.name,
                        said=said,
                        shift=abs(zone.shift),
                        way=way,
                    ),
                    (_tell_low(owner, program, zone, min(wished, default=0), block.name),),
                )


def zones_of_blocks(owner: Device, console: Console) -> Iterator[tuple[Program, Block, Zone]]:
    """The zones that are on of each keyboard of a console, in each program."""
    for program in owner.programs:
        for block in (b for b in console.blocks if b.keybed):
            for zone in program.zones:
                if zone.keybed == block.keybed and zone.sends:
                    yield program, block, zone


def _tell_low(owner: Device, program: Program, zone: Zone, shift: int, name: str) -> Edit:
    return set_zone(
        owner.id,
        program.number,
        zone.id,
        say("Tell the lowest note of {name}", name=name),
        transpose=shift,
        octave=0,
    )


def shared_channels(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Two keyboards that send the same notes on one channel: the receiver takes them for one."""
    for owner, console in consoles_of(plan):
        zones = list(zones_of_blocks(owner, console))
        for n, (program, block, zone) in enumerate(zones):
            for other_program, other, beside in zones[:n]:
                here, there = heard_shift(owner, zone), heard_shift(owner, beside)
                low = max(zone.low + here, beside.low + there)
                high = min(zone.high + here, beside.high + there)
                same = program is other_program and zone.channel == beside.channel
                if same and block is not other and low <= high:
                    free = channel_free(plan, owner)
                    fixes = (
                        ()
                        if free is None
                        else (
                            set_zone(
                                owner.id,
                                program.number,
                                zone.id,
                                say("Send {block} on channel {free}", block=block.name, free=free),
                                channel=free,
                            ),
                        )
                    )
                    yield Remark(
                        "keyboards on one channel",
                        (ref_to(owner.id, zone.keybed), ref_to(owner.id, beside.keybed)),
                        say(
                            "{other} and {block} both send {span} on channel {channel}: a note "
                            "held on one is "
                            "ended by the other.",
                            other=other.name,
                            block=block.name,
                            span=pitch.span(low, high, owner.octaves),
                            channel=zone.channel,
                        ),
                        fixes,
                    )


def shoes(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Shoes with too narrow a range, that chatter, over the input’s rating, or without an input."""
    for owner, console in consoles_of(plan):
        used: set[int] = set()
        for shoe in console.shoes:
            name = lookup.by_id(owner.controls, shoe.control, "control").name
            where = (ref_to(owner.id, shoe.control), owner.id)
            yield from _shoe_range(owner, console.encoder, shoe, name)
            if shoe.track in TRACKS:
                yield Remark("shoe track", where, f"{name} {TRACKS[shoe.track]}.")
            if shoe.noise > shoe.hysteresis:
                yield _chatters(owner, shoe, name)
            inputs = console.encoder.analogue
            if shoe.input is None or shoe.input > inputs or shoe.input in used:
                told = say(
                    "{name} has no analogue input of its own: {owner} has {inputs}.",
                    name=name,
                    owner=owner.name,
                    inputs=inputs,
                )
                yield Remark("shoe without input", where, told)
            used.add(shoe.input or 0)


FACING_WORDS = {
    "common to line": say("common to the line"),
    "line to common": say("line to the common"),
}
TRACKS = {
    "reversed": say("runs backwards: change its two ends over, or its calibration"),
    "worn": say("loses contact in the middle of its travel: clean or change its track"),
}
"""What is wrong with a shoe whose track is not whole."""


def _shoe_range(owner: Device, encoder: Encoder, shoe: Shoe, name: str) -> Iterator[Remark]:
    """A shoe whose volts the input cannot take, or that moves over too few of its steps."""
    where = (ref_to(owner.id, shoe.control), owner.id)
    low, high = sorted((shoe.heel, shoe.toe))
    if low < encoder.low or high > encoder.high:
        yield Remark(
            "over-range voltage",
            where,
            say(
                "{name} gives {low:g} to {high:g} V, and the inputs of {owner} stand "
                "{encoder_low:g} "
                "to {encoder_high:g} V: do not connect it.",
                name=name,
                low=low,
                high=high,
                owner=owner.name,
                encoder_low=encoder.low,
                encoder_high=encoder.high,
            )
            + _divided(Level(low, high), Level(encoder.low, encoder.high)),
        )
    elif steps_of(shoe, encoder) < FEW_STEPS:
        yield Remark(
            "shoe range narrow",
            where,
            say(
                "{name} moves over {steps_of} steps of 128: calibrate it, or turn its track "
                "further.",
                name=name,
                steps_of=steps_of(shoe, encoder),
            ),
        )


def _divided(given: Level, taken: Level) -> str:
    """The resistors that bring a voltage within an input's range; nothing where none do."""
    ladder = divider(given, taken)
    if not ladder:
        return ""
    shunt = say(" and {ohms} to ground", ohms=ohms_words(ladder.shunt)) if ladder.shunt else ""
    return say(
        " With {ohms} in series{shunt} it would be within.",
        ohms=ohms_words(ladder.series),
        shunt=shunt,
    )


def _chatters(owner: Device, shoe: Shoe, name: str) -> Remark:
    """A shoe that jitters by more than is ignored."""
    wanted = min(127, int(shoe.noise) + 1)
    label = say("Ignore {wanted} steps of {name}", wanted=wanted, name=name)
    return Remark(
        "shoe chatters",
        (ref_to(owner.id, shoe.control), owner.id),
        say(
            "{name} jitters by {noise:g} steps and {hysteresis} are ignored: it sends without end.",
            name=name,
            noise=shoe.noise,
            hysteresis=shoe.hysteresis,
        ),
        (set_shoe(owner.id, shoe.control, label, hysteresis=wanted),),
    )


def scanning(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Scans so slow that they are felt."""
    for owner, console in consoles_of(plan):
        delay = worst_delay_ms(built(owner, console), console.encoder)
        if delay > SLOW_MS:
            yield Remark(
                "scan slow",
                (owner.id,),
                say(
                    "{owner} needs up to {delay:.1f} ms to notice a key: shorten its settling or "
                    "debouncing, or share the keyboards between two encoders.",
                    owner=owner.name,
                    delay=delay,
                ),
            )
