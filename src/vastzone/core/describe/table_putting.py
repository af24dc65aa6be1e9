"""How a row of a table is put into a device: a new thing, or the one of its name changed."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from vastzone.core.describe.making_sounds import COLOURS, tag_of
from vastzone.core.describe.table_columns import COLUMNS, SENT, What
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Part, Sound, Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.triggers import TriggerInput
from vastzone.core.plan.model.values import ControlKind
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say


def _same(items: Sequence[Any], name: str) -> Any:
    for item in items:
        if item.name.lower() == name.lower():
            return item
    return None


def _traits(what: What, item: Any, values: Mapping[str, Any]) -> Any:
    """A thing with all that its row says of it."""
    for column in COLUMNS[what]:
        if column.trait is not None and column.id in values and column.trait.belongs_to(item):
            item = changed(item, **column.trait.changes(item, values[column.id]))
    return item


def _put(owner: Device, group: str, old: Any, new: Any) -> Device:
    items = getattr(owner, group)
    if old is None:
        return changed(owner, **{group: (*items, new)})
    swapped = tuple(new if item is old else item for item in items)
    return changed(owner, **{group: swapped})


def _put_control(owner: Device, values: Mapping[str, Any], kind: ControlKind = "knob") -> Device:
    old = _same(owner.controls, values["name"])
    taken = lookup.ids_of(owner.controls) | lookup.ids_of(owner.keybeds)
    fresh = old
    if fresh is None:
        alike = sum(c.kind == values.get("kind", kind) for c in owner.controls)
        ident = lookup.free_id(taken, values["name"])
        row, column = divmod(alike, 10)
        fresh = Control(id=ident, name=values["name"], kind=kind, row=row, column=column)
    bank = values.get("bank", 1)
    new = _traits("controls", fresh, values)
    new = changed(new, banks=max(new.banks, bank))
    owner = _put(owner, "controls", old, new)
    sent = {column.id for column in SENT} & set(values) - {"bank", "program"}
    return _with_send(owner, new, bank, values) if sent else owner


def _with_send(owner: Device, control: Control, bank: int, values: Mapping[str, Any]) -> Device:
    changes = {}
    for field in ("message", "number", "channel", "low", "high", "mode"):
        if field in values:
            changes[field] = values[field]
    if "number" in changes and "message" not in changes:
        changes["message"] = "note" if control.kind == "pad" else "controller"
    programs = []
    for program in owner.programs or (Program(number=0, name=say("First")),):
        if values.get("program") not in (None, program.number + owner.first_program):
            programs.append(program)
            continue
        sends = list(program.sends)
        place = -1
        for at, send in enumerate(sends):
            if (send.control, send.bank, send.layer) == (control.id, bank, 0):
                place = at
        if place < 0:
            sends.append(Send(control=control.id, bank=bank, message="none"))
        sends[place] = changed(sends[place], **changes)
        programs.append(changed(program, sends=tuple(sends)))
    return changed(owner, programs=tuple(programs))


def _put_stop(owner: Device, values: Mapping[str, Any]) -> Device:
    return _put_control(owner, values, "stop")


def _ends(owner: Device) -> set[str]:
    return lookup.ids_of(owner.parts) | lookup.ids_of(owner.targets)


def _put_part(owner: Device, values: Mapping[str, Any]) -> Device:
    old = _same(owner.parts, values["name"])
    fresh = old or Part(
        id=lookup.free_id(_ends(owner), values["name"]),
        name=values["name"],
        tag=tag_of(values["name"], owner),
        colour=len(owner.parts) % COLOURS,
    )
    plain = {field: values[field] for field in ("channel", "low", "high") if field in values}
    return _put(owner, "parts", old, changed(_traits("parts", fresh, values), **plain))


def _put_target(owner: Device, values: Mapping[str, Any]) -> Device:
    old = _same(owner.targets, values["name"])
    ident = lookup.free_id(_ends(owner), values["name"])
    fresh = old or Target(id=ident, name=values["name"])
    plain = {field: values[field] for field in ("controller", "channel") if field in values}
    return _put(owner, "targets", old, changed(_traits("targets", fresh, values), **plain))


def _put_sound(owner: Device, values: Mapping[str, Any]) -> Device:
    """A sound of the kit that is named, else of the first."""
    if not owner.kits:
        owner = _with_rhythm(owner, values.get("kit", "Kit 1"))
    name = values.get("kit", owner.kits[0].name)
    kit = _same(owner.kits, name)
    old = None if kit is None else _same(kit.sounds, values["name"])
    grown = kit or Kit(id=lookup.free_id(lookup.ids_of(owner.kits), name), name=name, sounds=())
    after = max((sound.note + 1 for sound in grown.sounds), default=36)
    ident = lookup.free_id(lookup.ids_of(grown.sounds), values["name"])
    fresh = old or Sound(id=ident, name=values["name"], note=min(127, after))
    plain = {field: values[field] for field in ("note", "loud") if field in values}
    new = changed(fresh, **plain)
    kept = tuple(new if sound is old else sound for sound in grown.sounds)
    sounds = kept if old is not None else (*kept, new)
    return _put(owner, "kits", kit, changed(grown, sounds=sounds))


def _with_rhythm(owner: Device, name: str) -> Device:
    """A device with a kit on a part of its own."""
    rhythm = Part(
        id=lookup.free_id(_ends(owner), say("Rhythm")),
        name=say("Rhythm"),
        tag=tag_of("Rhythm", owner),
        channel=10,
        rhythm=True,
        kit="kit",
        trigger="one-shot",
    )
    kit = Kit(id="kit", name=name, sounds=())
    return changed(owner, kits=(kit,), parts=(*owner.parts, rhythm))


def _put_input(owner: Device, values: Mapping[str, Any]) -> Device:
    old = _same(owner.inputs, values["name"])
    ident = lookup.free_id(lookup.ids_of(owner.inputs), values["name"])
    fresh = old or TriggerInput(id=ident, name=values["name"], types=("dual",), type="dual")
    return _put(owner, "inputs", old, _traits("inputs", fresh, values))


PUT: dict[What, Callable[[Device, Mapping[str, Any]], Device]] = {
    "controls": _put_control,
    "stops": _put_stop,
    "parts": _put_part,
    "targets": _put_target,
    "sounds": _put_sound,
    "inputs": _put_input,
}
"""How a row of each kind is put into a device."""
