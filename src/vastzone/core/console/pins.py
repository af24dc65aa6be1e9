"""Which common pins each block gets: in keyboard order, soldered ones kept, room left to grow."""

from collections.abc import Iterable, Iterator
from itertools import chain
from typing import NamedTuple

from vastzone.core.console.circuit import needed, size_of
from vastzone.core.plan.edits.consoles import edit_console
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say
from vastzone.core.text import ALL, listed


class PinMend(NamedTuple):
    """What would make it fit, in a sentence, and how many common pins it gains."""

    sentence: str
    gain: int


class Pinning(NamedTuple):
    """The common pins of each block by id, from 1; the blocks left without; how many are short.

    ``room`` is how many free commons could be left after each block.
    """

    pins: dict[str, tuple[int, ...]]
    left_out: tuple[str, ...]
    short: int
    room: int
    mends: tuple[PinMend, ...]

    @property
    def used(self) -> int:
        """How many common pins are taken."""
        return sum(map(len, self.pins.values()))


def pin_out(owner: Device, console: Console) -> Pinning:
    """Work the common pins out.

    Blocks stand in their order, each on neighbouring pins where that can be; soldered blocks keep
    their own.  As much of the wished room as fits is left after each.  When there are too few pins
    the last blocks are left out, and it is told how many are short and what would mend it.
    """
    for room in range(console.room, -1, -1):
        placed = _placed(owner, console, room)
        if not placed.left_out:
            return placed
    return placed._replace(mends=tuple(_mends(owner, console, placed)))


def _placed(owner: Device, console: Console, room: int) -> Pinning:
    encoder = console.encoder
    pins = _soldered(console)
    taken = set(chain.from_iterable(pins.values()))
    free = _without(range(1, encoder.commons + 1), taken)
    short, after = 0, 0
    left_out: list[str] = []
    for block in console.blocks:
        wanted = needed(owner, block, encoder.lines)
        if block.id in pins:
            after = max(after, max(pins[block.id]) + room)
            continue
        # Behind its neighbour with room to grow; else anywhere in a row; else on whatever is free.
        run = _run(free, wanted, after) or _run(free, wanted, 0) or free[:wanted]
        if len(run) < wanted:
            left_out.append(block.id)
            short += wanted
            continue
        pins[block.id] = tuple(run)
        if run:
            after = run[-1] + room
            free = _without(free, {*run, *range(run[-1] + 1, after + 1)})
    ordered = {}
    for block in console.blocks:
        if block.id in pins:
            ordered[block.id] = pins[block.id]
    return Pinning(ordered, tuple(left_out), max(0, short - len(free)), room, ())


def _without(pins: Iterable[int], gone: set[int]) -> list[int]:
    left = []
    for pin in pins:
        if pin not in gone:
            left.append(pin)
    return left


def _soldered(console: Console) -> dict[str, tuple[int, ...]]:
    """The pins of blocks that keep them, where the encoder has such pins."""
    kept = {}
    for block in console.blocks:
        if block.soldered and block.commons and max(block.commons) <= console.encoder.commons:
            kept[block.id] = block.commons
    return kept


def _run(free: list[int], wanted: int, after: int) -> list[int]:
    """The first neighbouring pins above ``after``."""
    for n in range(len(free) - wanted + 1):
        run = free[n : n + wanted]
        if run and run[0] > after and run[-1] - run[0] == wanted - 1:
            return run
    return []


def _mends(owner: Device, console: Console, pinning: Pinning) -> list[PinMend]:
    """What would mend a shortage, the smallest change first."""
    mends = [*_other_schools(owner, console), *_together(owner, console)]
    names = listed((block.name for block in console.blocks if block.id in pinning.left_out), ALL)
    mends.append(PinMend(say("A second encoder for {names}", names=names), pinning.short))
    larger = console.encoder.commons + pinning.short
    mends.append(PinMend(say("An encoder with {larger} common pins", larger=larger), pinning.short))
    return mends


def _other_schools(owner: Device, console: Console) -> Iterator[PinMend]:
    """Keyboards that need fewer commons when their lines count the other way."""
    lines = console.encoder.lines
    for block in console.blocks:
        other = "lowest key" if block.school == "note names" else "note names"
        turned = changed(block, school=other)
        then = needed(owner, turned, lines)
        gain = needed(owner, block, lines) - then
        if block.keybed and gain > 0 and not block.soldered:
            words = say(
                "Wire {block} by {school}: it then needs {then} commons",
                block=block.name,
                school=_school(turned),
                then=then,
            )
            yield PinMend(words, gain)


def _together(owner: Device, console: Console) -> Iterator[PinMend]:
    """Stops and pistons that need fewer commons when they share them."""
    lines = console.encoder.lines
    loose = []
    for block in console.blocks:
        if not block.keybed:
            loose.append(block)
    contacts = sum(size_of(owner, block)[0] for block in loose)
    apart = sum(needed(owner, block, lines) for block in loose)
    gain = apart - -(-contacts // lines)
    if len(loose) > 1 and gain > 0:
        yield PinMend(say("Put stops and pistons together on shared commons"), gain)


def _school(block: Block) -> str:
    return say("its lowest key") if block.school == "lowest key" else say("note names")


def take_pins(owner: Device, pinning: Pinning) -> Edit:
    """The pins as worked out, as one step."""
    return edit_console(
        owner.id,
        say("Assign pins"),
        lambda c: changed(
            c,
            blocks=tuple(
                changed(block, commons=pinning.pins.get(block.id, ())) for block in c.blocks
            ),
        ),
    )
