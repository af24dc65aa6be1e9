"""Filling pads with notes: in order, by shape, or from the receiver's kit."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit, edit_program
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import Answers
from vastzone.core.plan.model.parts import Kit
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability


class Fill(NamedTuple):
    """The note of each pad, by its id, and the note after the last one used."""

    notes: dict[str, int]
    following: int


def in_order(pads: tuple[Control, ...], start: int) -> Fill:
    """start, start + 1, … in the order of the pads.  Raises EditError beyond 127."""
    return _checked({pad.id: start + n for n, pad in enumerate(pads)})


def by_shape(pads: tuple[Control, ...], start: int, width: int) -> Fill:
    """start + row · width + column: the face keeps its shape on a grid ``width`` wide.

    Raises EditError when the face is wider than the grid, or beyond 127.
    """
    widest = max((pad.column for pad in pads), default=0) + 1
    if widest > width:
        raise EditError(f"The pads are {widest} wide and the grid only {width}: widen the grid.")
    return _checked({pad.id: start + pad.row * width + pad.column for pad in pads})


def from_kit(pads: tuple[Control, ...], kit: Kit) -> Fill:
    """The notes of a kit's sounds in their order; pads beyond the last sound stay as they are."""
    return _checked({p.id: s.note for p, s in zip(pads, kit.sounds, strict=False)})


def _checked(notes: dict[str, int]) -> Fill:
    top, bottom = max(notes.values(), default=0), min(notes.values(), default=0)
    if top > 127 or bottom < 0:
        over = sum(not 0 <= n <= 127 for n in notes.values())
        raise EditError(
            f"{over} of {len(notes)} pads would lie outside MIDI’s notes 0–127 (up to {top}): "
            f"begin {top - 127} lower."
            if top > 127
            else "Begin on note 0 or higher."
        )
    return Fill(notes, top + 1)


def unanswered(fill: Fill, receiver: Device) -> tuple[str, ...]:
    """The pads whose notes lie outside what a receiver answers at all."""
    low, high = 0, 127
    for limit in receiver.limits:
        if isinstance(limit, Answers):
            low, high = max(low, limit.low), min(high, limit.high)
    pads = []
    for pad, note in fill.notes.items():
        if not low <= note <= high:
            pads.append(pad)
    return tuple(pads)


def refuse_unanswered(fill: Fill, receiver: Device) -> None:
    """Raises EditError when some notes lie outside what a receiver answers."""
    gone = unanswered(fill, receiver)
    if gone:
        limit = next(x for x in receiver.limits if isinstance(x, Answers))
        raise EditError(
            f"{len(gone)} of {len(fill.notes)} pads would send notes that {receiver.name} does not "
            f"answer: it hears {pitch.span(limit.low, limit.high, receiver.octaves)}."
        )


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

    return edit_program(device, program, "Fill pads", change)


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
