"""Facts of things of a device as they *are*: one of them, or several at once."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any, Literal

from vastzone.app.frame.field_rows import field_rows
from vastzone.app.frame.sheet import FactRow, Press, Sheet
from vastzone.app.frame.sheets_body import body_rows
from vastzone.app.frame.sheets_memory import storage_rows
from vastzone.core.describe.arranging import duplicate, line_up
from vastzone.core.describe.counted import counted
from vastzone.core.describe.face import face_of
from vastzone.core.describe.numbering import (
    channel_parts,
    name_things,
    number_controls,
    number_targets,
    send_controls,
)
from vastzone.core.describe.removing import remove_things
from vastzone.core.describe.things import SEVERAL, WORDS, Thing, choice_of, chosen_in, item_of
from vastzone.core.describe.traits import Trait, set_trait, traits_of
from vastzone.core.describe.words import send_of
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.fields.owners import (
    Owner,
    device_owner,
    input_owner,
    jack_owner,
    part_owner,
    target_owner,
)
from vastzone.core.plan.model.bodies import Spot
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import messages_of
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say, say_many
from vastzone.core.text import capital
from vastzone.desk.session import Desk

Entered = Literal["note", "number"]
MIXED = "several"
"""What stands where chosen things differ."""
LAID = frozenset(("row", "column", "span"))
"""Traits that are seen on the face, and moved there."""
OWNERS: dict[str, Callable[[Device, Any], Owner]] = {
    "parts": part_owner,
    "targets": target_owner,
    "inputs": input_owner,
    "jacks": jack_owner,
}
"""Whose settings stand below what the thing is."""


def workshop_sheet(desk: Desk, selection: str) -> Sheet | None:
    """The facts of what is chosen in the workshop; None where that is no device."""
    words = selection.removeprefix(SEVERAL).split(" ")[0]
    device = lookup.find(desk.dialled_plan.devices, device_of(words))
    if device is None:
        return None
    things = chosen_in(device, selection)
    if not things:
        return _device_sheet(device)
    groups = {thing.group for thing in things}
    if len(groups) > 1:
        return _mixed_sheet(device, things)
    return _things_sheet(desk, device, things)


def _presses(device: Device, things: Sequence[Thing]) -> list[Press]:
    presses = [
        Press(say("Duplicate"), "plus", lambda: duplicate(device, things)),
        Press(say("Remove"), "trash-2", lambda: remove_things(device.id, things)),
    ]
    if len(things) > 1 and things[0].group == "controls":
        row = Press(say("In a row"), "move-horizontal", lambda: line_up(device.id, things, "row"))
        presses.insert(0, row)
    return presses


def _mixed_sheet(device: Device, things: Sequence[Thing]) -> Sheet:
    title = say("{count} things", count=len(things))
    presses = tuple(_presses(device, things))
    return Sheet(
        choice_of(device.id, things), title, say("Of {device}", device=device.name), (), presses
    )


def _things_sheet(desk: Desk, device: Device, things: Sequence[Thing]) -> Sheet:
    group = things[0].group
    items = [item_of(device, thing) for thing in things]
    rows = []
    for trait in traits_of(group):
        if trait.id not in LAID and all(trait.belongs_to(item) for item in items):
            rows.append(_trait_row(device, things, items, trait))
    if group == "controls":
        rows += _send_rows(desk, device, things, items)
    if len(items) > 1:
        rows += _run_rows(device, things, items)
    if len(items) == 1 and group in OWNERS:
        known = {row.label for row in rows}
        owner = OWNERS[group](device, items[0])
        told = {trait.id for trait in traits_of(group)}
        rows += [row for row in field_rows(owner, without=told) if row.label not in known]
    if group in ("controls", "keybeds"):
        rows += _spot_rows(device, things)
    kinds = {item.kind for item in items} if group == "controls" else set()
    word = kinds.pop() if len(kinds) == 1 else WORDS[group]
    title = items[0].name if len(items) == 1 else counted(len(items), word)
    kind = say(
        "{word} of {device}, as it is",
        word=capital(say(word)),
        device=device.name,
    )
    return Sheet(
        choice_of(device.id, things), title, kind, tuple(rows), tuple(_presses(device, things))
    )


def _run_rows(device: Device, things: Sequence[Thing], items: Sequence[Any]) -> list[FactRow]:
    """Channels and controllers that run on from one to the next of several."""
    if things[0].group == "parts":
        make = partial(channel_parts, device, things)
        return [FactRow(say("Channels from"), "number", items[0].channel or 1, make, 1, 16)]
    if things[0].group == "targets":
        make = partial(number_targets, device, things)
        return [FactRow(say("Controllers from"), "number", items[0].controller or 0, make, 0, 119)]
    return []


def _trait_row(
    device: Device, things: Sequence[Thing], items: Sequence[Any], trait: Trait
) -> FactRow:
    held = [trait.held(item) for item in items]
    several = any(value != held[0] for value in held)
    make = partial(set_trait, device.id, things, trait)
    if trait.id == "name":
        pattern = f"{items[0].name.rstrip('0123456789 ')} {{n}}" if len(items) > 1 else held[0]
        return FactRow(say("Name"), "text", pattern, partial(name_things, device, things))
    if trait.entry == "choice" and trait.choices is not None:
        choices = trait.choices(device)
        if several or held[0] not in [value for _, value in choices]:
            words = MIXED if several else _words(held[0])
            return FactRow(trait.label, "choice", MIXED, make, choices=((words, MIXED), *choices))
        return FactRow(trait.label, "choice", held[0], make, choices=choices)
    if several or trait.entry in ("text", "decimal"):
        words = MIXED if several else trait.words(device, held[0])
        return FactRow(trait.label, "text", words, partial(_entered, device, make, trait))
    kind: Any = trait.entry
    return FactRow(trait.label, kind, held[0], make, trait.low, trait.high, naming=device.octaves)


def _words(value: Any) -> str:
    """A value that is not among those offered."""
    return " or ".join(value) if isinstance(value, tuple) else str(value)


def _entered(device: Device, make: Any, trait: Trait, words: str) -> Edit:
    edit: Edit = make(trait.read(device, words))
    return edit


def _number_label(notes: bool, run: bool) -> str:
    """What the number of a message is called, and the first of a run of them."""
    if notes:
        return say("Notes from") if run else say("Note")
    return say("Numbers from") if run else say("Number")


def _send_rows(
    desk: Desk, device: Device, things: Sequence[Thing], items: Sequence[Any]
) -> list[FactRow]:
    """What controls send in the bank that is shown: the first number of several."""
    bank = min(desk.bank, min(item.banks for item in items))
    sends = []
    for item in items:
        none = Send(control=item.id, bank=bank, message="none")
        sends.append(send_of(device, item.id, bank) or none)
    first = sends[0]
    offered = messages_of(items[0])
    before = say("Bank {bank}: ", bank=bank) if any(item.banks > 1 for item in items) else ""

    def row(label: str, kind: Any, field: str, **more: Any) -> FactRow:
        name = f"{before}{label.lower()}" if before else label
        change = partial(_sending, device, things, bank, field)
        return FactRow(name, kind, getattr(first, field), change, **more)

    messages = tuple((_message(kind), kind) for kind in offered)
    rows = [row(say("Sends"), "choice", "message", choices=messages)]
    if first.message in ("none", "bend", "pressure"):
        return rows if first.message == "none" else [*rows, _channel_row(row)]
    label = _number_label(first.message == "note", len(items) > 1)
    kind: Entered = "note" if first.message == "note" else "number"
    numbers = partial(_number, device, things, first, bank)
    name = f"{before}{label.lower()}" if before else label
    rows.append(FactRow(name, kind, first.number, numbers, naming=device.octaves))
    rows.append(_channel_row(row))
    if first.message == "controller":
        rows += [row(say("Least"), "number", "low"), row(say("Most"), "number", "high")]
    modes = tuple((mode, mode) for mode in ("momentary", "toggle", "trigger"))
    rows.append(row(say("Mode"), "choice", "mode", choices=modes))
    return rows


def _message(kind: str) -> str:
    return {"none": say("nothing"), "pair": say("14-bit pair")}.get(kind) or say(kind)


def _channel_row(row: Any) -> FactRow:
    channels = ((say("of the zones"), None), *((str(number), number) for number in range(1, 17)))
    made: FactRow = row(say("Channel"), "choice", "channel", choices=channels)
    return made


def _sending(device: Device, things: Sequence[Thing], bank: int, field: str, value: Any) -> Edit:
    return send_controls(device, things, bank, **{field: value})


def _number(device: Device, things: Sequence[Thing], first: Send, bank: int, value: int) -> Edit:
    return number_controls(device, things, first.message, value, first.channel, bank)


def _spot_rows(device: Device, things: Sequence[Thing]) -> list[FactRow]:
    """How large things are on the face, and where one lies, in millimetres."""
    spots = face_of(device).spots
    known = [spots[thing.id] for thing in things if thing.id in spots]
    if not known:
        return []
    fields = [("wide", say("Wide, mm")), ("high", say("Deep, mm"))]
    if len(things) == 1:
        fields += [("x", say("From the left, mm")), ("y", say("From the back, mm"))]
    rows = []
    for field, label in fields:
        make = partial(_resize, device, things, field)
        rows.append(FactRow(label, "number", round(getattr(known[0], field)), make, 0, 3900))
    return rows


def _resize(device: Device, things: Sequence[Thing], field: str, value: int) -> Edit:
    spots = face_of(device).spots

    def change(owner: Device) -> Device:
        for thing in things:
            item = item_of(owner, thing)
            spot: Spot | None = spots.get(thing.id)
            if item is not None and spot is not None:
                new = changed(item, at=changed(spot, **{field: float(value)}))
                items = swapped(getattr(owner, thing.group), item, new)
                owner = changed(owner, **{thing.group: items})
        return owner

    return edit_device(
        device.id,
        say("Resize {things}", things=say_many("{count} thing", "{count} things", len(things))),
        change,
    )


def _device_sheet(device: Device) -> Sheet:
    rows = [
        *field_rows(device_owner(device)),
        *body_rows(device),
        *storage_rows(device),
    ]
    return Sheet(device.id, device.name, say("Device, as it is"), tuple(rows), (), device.notes)
