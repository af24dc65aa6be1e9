"""Arranging what lies on a face: moved, put in line, named and numbered in order, copied."""

from collections.abc import Collection, Iterable, Sequence
from typing import Any, Literal

import msgspec

from vastzone.core.describe.face import face_of
from vastzone.core.describe.things import Group, Thing, ids_in, item_of
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.bodies import Spot
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.say import say, say_many

Line = Literal["row", "column"]
FARTHEST = 3900.0
"""Millimetres: nothing lies farther from the corner."""


def move_things(device: str, things: Collection[Thing], right: float, down: float) -> Edit:
    """Move keybeds and controls over the face by millimetres; pads find their rows anew."""

    def change(owner: Device) -> Device:
        spots = {}
        for ident, spot in face_of(owner).spots.items():
            if ident in ids_in(things, "controls", "keybeds"):
                x = min(FARTHEST, max(0.0, spot.x + right))
                y = min(FARTHEST, max(0.0, spot.y + down))
                spots[ident] = changed(spot, x=round(x, 1), y=round(y, 1))
        return _placed(owner, spots)

    return edit_device(
        device,
        say("Move {things}", things=say_many("{count} thing", "{count} things", len(things))),
        change,
    )


def reorder(device: str, things: Collection[Thing], before: Thing) -> Edit:
    """Put things of one list in front of another of it: sockets of the back, parts, targets."""
    ids = ids_in(things, before.group)

    def change(owner: Device) -> Device:
        items = getattr(owner, before.group)
        if before.id in ids or not ids:
            return owner
        moved = [item for item in items if item.id in ids]
        ordered = []
        for item in items:
            if item.id == before.id:
                ordered += moved
            if item.id not in ids:
                ordered.append(item)
        return changed(owner, **{before.group: tuple(ordered)})

    return edit_device(
        device,
        say("Move {things}", things=say_many("{count} thing", "{count} things", len(ids))),
        change,
    )


def line_up(device: str, things: Collection[Thing], line: Line) -> Edit:
    """Put controls into one row or column, evenly apart between the first and the last."""

    def change(owner: Device) -> Device:
        spots = face_of(owner).spots
        chosen = [(ident, spots[ident]) for ident in ids_in(things, "controls") if ident in spots]
        if len(chosen) < 2:
            raise EditError(say("Choose two controls or more to line up."))
        along, across = ("x", "y") if line == "row" else ("y", "x")
        return _placed(owner, _evenly(chosen, along, across))

    return edit_device(device, say("Line up in a {line}", line=line), change)


def _evenly(chosen: list[tuple[str, Spot]], along: str, across: str) -> dict[str, Spot]:
    """Spots evenly apart ``along`` one axis, level with the first on the one ``across``."""
    ordered = sorted(chosen, key=lambda each: float(getattr(each[1], along)))
    first, last = ordered[0][1], ordered[-1][1]
    begin, level = getattr(first, along), getattr(first, across)
    step = (getattr(last, along) - begin) / (len(ordered) - 1)
    spots = {}
    for place, (ident, spot) in enumerate(ordered):
        spots[ident] = changed(spot, **{along: round(begin + place * step, 1), across: level})
    return spots


def _placed(owner: Device, spots: dict[str, Spot]) -> Device:
    controls = []
    for control in owner.controls:
        controls.append(changed(control, at=spots[control.id]) if control.id in spots else control)
    beds = []
    for bed in owner.keybeds:
        beds.append(changed(bed, at=spots[bed.id]) if bed.id in spots else bed)
    placed = changed(owner, controls=tuple(controls), keybeds=tuple(beds))
    moved = [c for c in placed.controls if c.id in spots and control_ability(c).laid]
    return _with_rows(placed) if moved else placed


def _with_rows(owner: Device) -> Device:
    """Pads in the rows and columns in which they lie now."""
    spots = face_of(owner).spots
    pads = [c for c in owner.controls if control_ability(c).laid and c.id in spots]
    rows = _ranks([(pad.id, spots[pad.id].y, spots[pad.id].high) for pad in pads])
    columns = _ranks([(pad.id, spots[pad.id].x, spots[pad.id].wide / pad.span) for pad in pads])
    controls = []
    for control in owner.controls:
        if control.id in rows:
            control = changed(control, row=rows[control.id], column=columns[control.id])
        controls.append(control)
    return changed(owner, controls=tuple(controls))


def _ranks(places: Iterable[tuple[str, float, float]]) -> dict[str, int]:
    """Which row or column each is in: what begins less than half its length later is beside it."""
    ranks: dict[str, int] = {}
    rank, begun = -1, float("-inf")
    for ident, begin, length in sorted(places, key=lambda place: place[1]):
        if begin - begun > length / 2:
            rank, begun = rank + 1, begin
        ranks[ident] = rank
    return ranks


def as_they_lie(owner: Device, things: Collection[Thing]) -> tuple[Thing, ...]:
    """Things in the order in which one reads them: controls by row and place, others as listed."""
    spots = face_of(owner).spots
    places: list[tuple[float, float, int, Thing]] = []
    for thing in things:
        items = [item.id for item in getattr(owner, thing.group)]
        number = items.index(thing.id) if thing.id in items else 0
        spot = spots.get(thing.id)
        top = 0.0 if spot is None else round((spot.y + spot.high / 2) / 20.0)
        left = 0.0 if spot is None else spot.x
        places.append((top, left, number, thing))
    return tuple(place[-1] for place in sorted(places))


def duplicate(owner: Device, things: Collection[Thing]) -> Edit:
    """Put a copy of things beside them."""
    edit = paste(owner, owner, things)
    return edit._replace(
        label=say(
            "Duplicate {things}", things=say_many("{count} thing", "{count} things", len(things))
        )
    )


def paste(owner: Device, source: Device, things: Collection[Thing]) -> Edit:
    """Put copies of things of a device, with what they send, into this one or another."""

    def change(device: Device) -> Device:
        ids: dict[Thing, str] = {}
        for thing in as_they_lie(source, things):
            item = item_of(source, thing)
            if item is not None:
                device, ids[thing] = _with_copy(device, thing.group, item, ids)
        return _with_sends(device, source, ids)

    return edit_device(
        owner.id,
        say("Paste {things}", things=say_many("{count} thing", "{count} things", len(things))),
        change,
    )


def _with_copy(
    device: Device, group: Group, item: Any, ids: dict[Thing, str]
) -> tuple[Device, str]:
    """A device with a copy of a thing, under an id and name of its own."""
    items = getattr(device, group)
    ident = lookup.free_id(_taken(device, group), item.id)
    names = {other.name for other in items}
    name, number = item.name, 2
    while name in names:
        name, number = f"{item.name} {number}", number + 1
    more: dict[str, Any] = {}
    if isinstance(item, Control):
        more = {"at": None, "input": None, "zone": None, "row": _free_row(device, item)}
    elif group == "targets" and item.part is not None:
        known = lookup.ids_of(device.parts)
        part = ids.get(Thing("parts", item.part), item.part)
        more = {"part": part if part in known else None}
    elif group == "parts":
        more = {"kit": item.kit if item.kit in lookup.ids_of(device.kits) else None, "ports": ()}
    elif group == "jacks":
        more = {"control": None}
    copy = msgspec.structs.replace(item, id=ident, name=name, **more)
    return changed(device, **{group: (*items, copy)}), ident


def _free_row(device: Device, control: Control) -> int:
    """A copy lies in the next row of its kind, where its place in its own is taken."""
    mine = [other for other in device.controls if other.kind == control.kind]
    if not any((o.row, o.column) == (control.row, control.column) for o in mine):
        return control.row
    below = max(other.row for other in mine)
    free = {(other.row, other.column) for other in mine}
    row = control.row
    while (row, control.column) in free and row <= below:
        row += 1
    return row


def _taken(device: Device, group: Group) -> set[str]:
    """Ids that a new thing must not have: keys and controls, parts and targets share theirs."""
    together: Sequence[Group] = (group,)
    for shared in (("keybeds", "controls"), ("parts", "targets")):
        if group in shared:
            together = shared
    taken: set[str] = set()
    for each in together:
        taken |= lookup.ids_of(getattr(device, each))
    return taken


def _with_sends(device: Device, source: Device, ids: dict[Thing, str]) -> Device:
    """What the copied controls send in the source's first program, in every one of a device."""
    copied = {thing.id: ident for thing, ident in ids.items() if thing.group == "controls"}
    sends = []
    for send in source.programs[0].sends if source.programs else ():
        if send.control in copied:
            sends.append(msgspec.structs.replace(send, control=copied[send.control], ports=()))
    if not sends:
        return device
    programs = []
    for program in device.programs or (Program(number=0, name=say("First")),):
        programs.append(changed(program, sends=(*program.sends, *sends)))
    return changed(device, programs=tuple(programs))
