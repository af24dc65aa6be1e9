"""Which common pins each block gets: in keyboard order, soldered ones kept, room left to grow."""

from typing import NamedTuple

from vastzone.core.console.built import needed, size_of
from vastzone.core.plan import edits
from vastzone.core.plan.console import Block, Console
from vastzone.core.plan.consoles import edit_console
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device


class Mend(NamedTuple):
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
    mends: tuple[Mend, ...]

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
        found = _placed(owner, console, room)
        if not found.left_out:
            return found
    return found._replace(mends=tuple(_mends(owner, console, found)))


def _placed(owner: Device, console: Console, room: int) -> Pinning:
    encoder = console.encoder
    held = {
        b.id: b.commons
        for b in console.blocks
        if b.soldered and b.commons and max(b.commons) <= encoder.commons
    }
    free = [p for p in range(1, encoder.commons + 1) if all(p not in h for h in held.values())]
    pins: dict[str, tuple[int, ...]] = {}
    left_out: list[str] = []
    after = 0
    for block in console.blocks:
        wanted = needed(owner, block, encoder.lines)
        if block.id in held:
            pins[block.id] = held[block.id]
            after = max(after, max(held[block.id]) + room)
            continue
        run = _run(free, wanted, after) or _run(free, wanted, 0) or free[:wanted]
        if len(run) < wanted:
            left_out.append(block.id)
            continue
        pins[block.id] = tuple(run)
        if run:
            after = run[-1] + room
        free = [p for p in free if p not in run and not 0 < p - (run or [p])[-1] <= room]
    short = sum(needed(owner, b, encoder.lines) for b in console.blocks if b.id in left_out)
    return Pinning(pins, tuple(left_out), max(0, short - len(free)), room, ())


def _run(free: list[int], wanted: int, after: int) -> list[int]:
    """The first neighbouring pins above ``after``."""
    for n in range(len(free) - wanted + 1):
        run = free[n : n + wanted]
        if run and run[0] > after and run[-1] - run[0] == wanted - 1:
            return run
    return []


def _mends(owner: Device, console: Console, found: Pinning) -> list[Mend]:
    """What would mend a shortage, the smallest change first."""
    encoder, mends = console.encoder, []
    for block in console.blocks:
        other = "lowest key" if block.school == "note names" else "note names"
        turned = edits.changed(block, school=other)
        gain = needed(owner, block, encoder.lines) - needed(owner, turned, encoder.lines)
        if block.keybed and gain > 0 and not block.soldered:
            mends.append(
                Mend(
                    f"Wire {block.name} by {_school(turned)}: it then needs "
                    f"{needed(owner, turned, encoder.lines)} commons",
                    gain,
                )
            )
    loose = [b for b in console.blocks if not b.keybed]
    together = sum(size_of(owner, b)[0] for b in loose)
    apart = sum(needed(owner, b, encoder.lines) for b in loose)
    gain = apart - -(-together // encoder.lines)
    if len(loose) > 1 and gain > 0:
        mends.append(Mend("Put stops and pistons together on shared commons", gain))
    names = " and ".join(b.name for b in console.blocks if b.id in found.left_out)
    mends.append(Mend(f"A second encoder for {names}", found.short))
    mends.append(Mend(f"An encoder with {encoder.commons + found.short} common pins", found.short))
    return mends


def _school(block: Block) -> str:
    return "its lowest key" if block.school == "lowest key" else "note names"


def take_pins(owner: Device, found: Pinning) -> Edit:
    """The pins as worked out, as one step."""
    return edit_console(
        owner.id,
        "Assign pins",
        lambda c: edits.changed(
            c, blocks=tuple(edits.changed(b, commons=found.pins.get(b.id, ())) for b in c.blocks)
        ),
    )
