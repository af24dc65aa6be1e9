"""Filling pads with notes: in order, by shape, or from the receiver's kit."""

from collections.abc import Collection, Iterator
from typing import Literal, NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_program
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.say import say

Corner = Literal["top left", "top right", "bottom left", "bottom right"]
CORNERS: tuple[Corner, ...] = ("top left", "top right", "bottom left", "bottom right")


class Fill(NamedTuple):
    """The note of each pad, by its id, and the note on which the next bank begins."""

    notes: dict[str, int]
    following: int


class Way(NamedTuple):
    """How a face is gone through: from which corner, along its rows or its columns, notes going up
    or down."""

    corner: Corner = "top left"
    by: Literal["rows", "columns"] = "rows"
    up: bool = True

    @property
    def step(self) -> int:
        """From one note to the next."""
        return 1 if self.up else -1


USUAL = Way()


def in_way(pads: tuple[Control, ...], way: Way) -> tuple[Control, ...]:
    """Pads in the order in which they are gone through."""
    down = 1 if way.corner.startswith("top") else -1
    across = 1 if way.corner.endswith("left") else -1

    def place(pad: Control) -> tuple[int, int]:
        row, column = down * pad.row, across * pad.column
        return (row, column) if way.by == "rows" else (column, row)

    return tuple(sorted(pads, key=place))


def in_order(pads: tuple[Control, ...], start: int, way: Way = USUAL) -> Fill:
    """start, start + 1, … in the order of the pads.  Raises EditError beyond 0–127."""
    notes = {}
    for number, pad in enumerate(in_way(pads, way)):
        notes[pad.id] = start + way.step * number
    return _checked(notes, start + way.step * len(pads))


def by_shape(pads: tuple[Control, ...], start: int, width: int, way: Way = USUAL) -> Fill:
    """start + row · width + column: the face keeps its shape on a grid ``width`` wide.

    Rows and columns count from the corner where one begins; by columns the grid is filled column
    by column.  The next bank begins on the next whole row of the grid.  Raises EditError when the
    face is wider than the grid, or beyond 0–127.
    """
    rows, columns = _from_corner(pads, way)
    if way.by == "columns":
        rows, columns = columns, rows
    widest = max(columns.values(), default=0) + 1
    if widest > width:
        raise EditError(
            say(
                "The pads are {widest} wide and the grid only {width}: widen the grid.",
                widest=widest,
                width=width,
            )
        )
    notes = {}
    for pad in pads:
        notes[pad.id] = start + way.step * (rows[pad.id] * width + columns[pad.id])
    deep = max(rows.values(), default=-1) + 1
    return _checked(notes, start + way.step * deep * width)


def _from_corner(pads: tuple[Control, ...], way: Way) -> tuple[dict[str, int], dict[str, int]]:
    """The row and the column of each pad, counted from the corner where one begins."""
    last_row = max((pad.row for pad in pads), default=0)
    last_column = max((pad.column for pad in pads), default=0)
    first_row = min((pad.row for pad in pads), default=0)
    first_column = min((pad.column for pad in pads), default=0)
    rows: dict[str, int] = {}
    columns: dict[str, int] = {}
    for pad in pads:
        from_top = way.corner.startswith("top")
        from_left = way.corner.endswith("left")
        rows[pad.id] = pad.row - first_row if from_top else last_row - pad.row
        columns[pad.id] = pad.column - first_column if from_left else last_column - pad.column
    return rows, columns


def from_kit(pads: tuple[Control, ...], kit: Kit, way: Way = USUAL, first: int = 0) -> Fill:
    """The notes of a kit’s sounds in their order, from the sound at place ``first`` on.

    Pads beyond the last sound stay as they are.
    """
    sounds = kit.sounds[first:] if way.up else kit.sounds[::-1][first:]
    notes = {}
    for pad, sound in zip(in_way(pads, way), sounds, strict=False):
        notes[pad.id] = sound.note
    return _checked(notes, max(notes.values(), default=0) + 1)


def _checked(notes: dict[str, int], following: int) -> Fill:
    top, bottom = max(notes.values(), default=0), min(notes.values(), default=0)
    if top > 127 or bottom < 0:
        over = sum(not 0 <= n <= 127 for n in notes.values())
        reach = say("up to {top}", top=top) if top > 127 else say("down to {bottom}", bottom=bottom)
        begin = (
            say("begin {top} lower", top=top - 127)
            if top > 127
            else say("begin {bottom} higher", bottom=-bottom)
        )
        raise EditError(
            say(
                "{over} of {count} pads would lie outside MIDI’s notes 0–127 ({reach}): {begin}.",
                over=over,
                count=len(notes),
                reach=reach,
                begin=begin,
            )
        )
    return Fill(notes, following)


def silent(fills: dict[int, Fill], answered: Collection[int]) -> tuple[tuple[int, str], ...]:
    """The pads, with their bank, whose notes nothing answers."""
    gone = []
    for bank, fill in fills.items():
        for pad, note in fill.notes.items():
            if note not in answered:
                gone.append((bank, pad))
    return tuple(gone)


def nearest_start(
    fills: dict[int, Fill], start: int, answered: Collection[int]
) -> tuple[int, int] | None:
    """The start nearest to ``start`` with which the fewest pads are silent, and how many are.

    None where no other start is better.
    """
    notes = [note for fill in fills.values() for note in fill.notes.values()]
    if not notes:
        return None

    def price(by: int) -> tuple[int, int]:
        return sum(note + by not in answered for note in notes), abs(by)

    best = min(range(-min(notes), 128 - max(notes)), key=price)
    if price(best)[0] >= price(0)[0]:
        return None
    return start + best, price(best)[0]


def apply(device: str, program: int, fills: dict[int, Fill], channel: int | None = None) -> Edit:
    """Fill banks as one step: the notes of each bank, and a channel where one is given."""

    def change(program: Program, owner: Device) -> Program:
        wanted = {}
        for bank, f in fills.items():
            for pad, note in f.notes.items():
                wanted[(pad, bank)] = note
        sends = []
        for send in program.sends:
            sends.append(_filled(send, wanted, channel))
        there = set()
        for send in program.sends:
            if not send.layer:
                there.add((send.control, send.bank))
        for (pad, bank), note in wanted.items():
            if (pad, bank) not in there:
                fresh = Send(control=pad, bank=bank, message="note", number=note)
                sends.append(changed(fresh, channel=channel or 1))
        return changed(program, sends=tuple(sends))

    return edit_program(device, program, say("Fill pads"), change)


def _filled(send: Send, wanted: dict[tuple[str, int], int], channel: int | None) -> Send:
    note = None if send.layer else wanted.get((send.control, send.bank))
    if note is None:
        return send
    more = {} if channel is None else {"channel": channel}
    return changed(send, message="note", number=note, **more)


def kits_needed(sounds: int, pads: int) -> int:
    """How many kits or banks hold so many sounds on so many pads: ceil(S / P)."""
    return -(-sounds // pads) if pads else 0


def pads_of(owner: Device) -> tuple[Control, ...]:
    """The pads of a device in the order in which they lie: row by row."""
    pads = []
    for control in owner.controls:
        if control_ability(control).laid:
            pads.append(control)
    return tuple(sorted(pads, key=lambda c: (c.row, c.column)))


def banks_of(owner: Device) -> Iterator[int]:
    """The banks that its pads have."""
    yield from range(1, max((control.banks for control in pads_of(owner)), default=0) + 1)
