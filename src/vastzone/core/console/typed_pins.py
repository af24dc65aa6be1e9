"""Pins of an old console as they are read off it: per common or per wire, in any order.

«6-11» or «6, 9, 7, 8» are the commons of a keyboard from its lowest octave on; «common 2: C9» says
it wire by wire.  Several keyboards stand each with its name and a colon: «Manual 2: 6-11».
"""

import re
from collections.abc import Iterator

from vastzone.core.console.circuit import needed
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.consoles import edit_console
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say, say_many
from vastzone.core.text import listed, quoted

Pins = dict[str, tuple[int, ...]]
"""The common pins of blocks by id, from 1, the lowest octave first."""
_WIRE = re.compile(
    r"(?:common|wire|octave)?\s*(\d+)\s*(?::|=|→|->|on|to)\s*c?\s*(\d+)", re.IGNORECASE
)
_RANGE = re.compile(r"c?\s*(\d+)\s*[-–]\s*c?\s*(\d+)", re.IGNORECASE)
_ONE = re.compile(r"c?\s*(\d+)", re.IGNORECASE)


def read_pins(owner: Device, console: Console, text: str, block: Block | None = None) -> Pins:
    """The pins that a text tells, of one block or of all that it names.

    Raises EditError: which piece is not understood, or which pins are too few, too many, or twice.
    """
    found: Pins = {}
    for named, told in _by_block(console, text, block):
        pins = _pins_of(told)
        wanted = needed(owner, named, console.encoder.lines)
        if len(pins) != wanted:
            raise EditError(
                say(
                    "{named} needs {commons} and {pins} are told: say {wanted}.",
                    named=named.name,
                    commons=say_many("{count} common", "{count} commons", wanted),
                    pins=say_many("{count} pin", "{count} pins", len(pins)),
                    wanted=wanted,
                )
            )
        found[named.id] = pins
    if not found:
        raise EditError(say("No pins are told: write such as “6-11”, or “Manual 2: 6-11”."))
    _refuse_doubled(console, found)
    return found


def _by_block(console: Console, text: str, block: Block | None) -> Iterator[tuple[Block, str]]:
    """The text of each block that is named."""
    names = {each.name.casefold(): each for each in console.blocks}
    pattern = "|".join(re.escape(each.name) for each in sorted(console.blocks, key=_longest_first))
    heads = list(re.finditer(rf"(?<!\w)({pattern})\s*:", text, re.IGNORECASE)) if names else []
    if not heads:
        if block is None:
            raise EditError(
                say(
                    "“{text}” names no keyboard: write its name and a colon first, such as "
                    "“{blocks}: 1-5”.",
                    text=quoted(text.strip()),
                    blocks=console.blocks[0].name,
                )
                if console.blocks
                else say(
                    "“{text}” names no keyboard: write its name and a colon first, such as "
                    "“Manual: 1-5”.",
                    text=quoted(text.strip()),
                )
            )
        yield block, text
        return
    if text[: heads[0].start()].strip(" ;,\n"):
        raise EditError(
            say("“{text}” belongs to no keyboard.", text=quoted(text[: heads[0].start()].strip()))
        )
    for number, head in enumerate(heads):
        end = heads[number + 1].start() if number + 1 < len(heads) else len(text)
        yield names[head[1].casefold()], text[head.end() : end]


def _longest_first(block: Block) -> int:
    return -len(block.name)


def _pins_of(text: str) -> tuple[int, ...]:
    """Pins in their order, or by the number of the common that each is for."""
    by_wire: dict[int, int] = {}
    in_order: list[int] = []
    for piece in (piece.strip() for piece in re.split(r"[,;\n]", text) if piece.strip()):
        wire = _WIRE.fullmatch(piece)
        if wire is not None:
            by_wire[int(wire[1])] = int(wire[2])
            continue
        left = piece
        for span in _RANGE.finditer(piece):
            first, last = int(span[1]), int(span[2])
            step = 1 if last >= first else -1
            in_order.extend(range(first, last + step, step))
            left = left.replace(span[0], " ", 1)
        for word in left.split():
            one = _ONE.fullmatch(word)
            if one is None:
                raise EditError(
                    say("“{piece}” is no pin: write numbers, such as 6 or C6.", piece=quoted(piece))
                )
            in_order.append(int(one[1]))
    if by_wire and in_order:
        raise EditError(say("Some pins are told by wire and some in order: tell them in one way."))
    if by_wire and sorted(by_wire) != list(range(1, len(by_wire) + 1)):
        missing = [n for n in range(1, max(by_wire) + 1) if n not in by_wire]
        raise EditError(
            say("Common {map} is not told: say on which pin it is.", map=listed(map(str, missing)))
        )
    return tuple(by_wire[n] for n in sorted(by_wire)) if by_wire else tuple(in_order)


def _refuse_doubled(console: Console, found: Pins) -> None:
    """No pin may be told twice, be none of the encoder, or be that of what is soldered."""
    users: dict[int, str] = {}
    for block in console.blocks:
        if block.id not in found and block.soldered:
            for pin in block.commons:
                users[pin] = block.name
    for block in console.blocks:
        for pin in found.get(block.id, ()):
            if not 1 <= pin <= console.encoder.commons:
                raise EditError(
                    say(
                        "The encoder has no pin C{pin}: it has {commons} commons.",
                        pin=pin,
                        commons=console.encoder.commons,
                    )
                )
            if pin in users:
                raise EditError(
                    say(
                        "C{pin} is told for {users} and for {block}: which?",
                        pin=pin,
                        users=users[pin],
                        block=block.name,
                    )
                )
            users[pin] = block.name


def as_wired(device: str, pins: Pins) -> Edit:
    """Blocks with the pins that they were found on, soldered; others that were there are freed."""

    def change(console: Console) -> Console:
        taken = {pin for told in pins.values() for pin in told}
        blocks = []
        for block in console.blocks:
            if block.id in pins:
                blocks.append(changed(block, commons=pins[block.id], soldered=True))
            elif taken & set(block.commons) and not block.soldered:
                blocks.append(changed(block, commons=()))
            else:
                blocks.append(block)
        return changed(console, blocks=tuple(blocks))

    return edit_console(device, say("Pins as they are wired"), change)
