"""Edits: each is a name for the undo list and a pure function from plan to plan.

Every edit that comes out of here is checked, so a plan never holds a number out of range or a
reference to nothing; what would break that raises EditError and changes nothing.
"""

import math
from collections.abc import Callable
from typing import Any, NamedTuple, TypeVar

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan import lookup
from vastzone.core.plan.consistency import problems
from vastzone.core.plan.model import Cable, Device, Plan, ProgramChoice, Scene
from vastzone.core.plan.refs import device_of, device_of_setting
from vastzone.core.plan.touch import Program, Send, Zone
from vastzone.core.plan.values import Value
from vastzone.core.text import quoted

V = TypeVar("V", bound=Value)


class Edit(NamedTuple):
    """One undo step: what it is called and what it does."""

    label: str
    change: Callable[[Plan], Plan]

    def __call__(self, plan: Plan) -> Plan:
        """The changed plan, checked.  Raises EditError and leaves the old plan as it was."""
        changed = self.change(plan)
        if changed is not plan:
            for problem in problems(changed):
                raise EditError(problem)
        return changed


def changed(value: V, **changes: Any) -> V:
    """A copy with fields replaced and every limit checked.  Raises EditError."""
    if all(getattr(value, name) == new for name, new in changes.items()):
        return value
    for new in changes.values():
        _refuse_unwritable(new)
    copy = msgspec.structs.replace(value, **changes)
    if all(_whole(new) for new in changes.values()):
        return copy
    try:
        msgspec.convert(msgspec.to_builtins(copy), type(value))
    except msgspec.ValidationError as error:
        what = getattr(value, "name", type(value).__name__)
        raise EditError(f"{quoted(what)} cannot take that: {error}.") from None
    return copy


def _refuse_unwritable(new: object) -> None:
    """Refuse what no file could hold: numbers without end, and halves of characters."""
    if isinstance(new, float) and not math.isfinite(new):
        raise EditError("That number is too large: write a smaller one.")
    if isinstance(new, str):
        try:
            new.encode()
        except UnicodeEncodeError:
            raise EditError("That text holds half a character: type it again.") from None


def _whole(new: object) -> bool:
    """Whether this is a tuple of values that were checked when they were made."""
    return isinstance(new, tuple) and all(isinstance(item, Value) for item in new)


def swapped(items: tuple[V, ...], old: V, *new: V) -> tuple[V, ...]:
    """The tuple with one item replaced by none, one or several."""
    result: list[V] = []
    for item in items:
        result.extend(new if item is old else (item,))
    return tuple(result)


def _with_device(plan: Plan, old: Device, new: Device) -> Plan:
    return msgspec.structs.replace(plan, devices=swapped(plan.devices, old, new))


def edit_device(device: str, label: str, change: Callable[[Device], Device]) -> Edit:
    """An edit of one device."""

    def apply(plan: Plan) -> Plan:
        old = lookup.device(plan, device)
        new = change(old)
        return plan if new is old else _with_device(plan, old, new)

    return Edit(label, apply)


def edit_program(
    device: str, number: int, label: str, change: Callable[[Program, Device], Program]
) -> Edit:
    """An edit of one program of a device."""

    def inside(owner: Device) -> Device:
        old = lookup.program(owner, number)
        return changed(owner, programs=swapped(owner.programs, old, change(old, owner)))

    return edit_device(device, label, inside)


def set_device(device: str, label: str, **changes: Any) -> Edit:
    """Change fields of a device: its naming, local control, delay, name."""
    return edit_device(device, label, lambda owner: changed(owner, **changes))


def set_part(device: str, part: str, label: str, **changes: Any) -> Edit:
    """Change fields of a part: its channel, ranges, transposition, modes."""

    def change(owner: Device) -> Device:
        old = lookup.part(owner, part)
        return changed(owner, parts=swapped(owner.parts, old, changed(old, **changes)))

    return edit_device(device, label, change)


def set_zone(device: str, program: int, zone: str, label: str, **changes: Any) -> Edit:
    """Change fields of a zone: its ends, channel, shifts, velocities, whether it is on."""

    def change(held: Program, owner: Device) -> Program:
        old = lookup.by_id(held.zones, zone, "zone")
        return changed(held, zones=swapped(held.zones, old, changed(old, **changes)))

    return edit_program(device, program, label, change)


def split_zone(device: str, program: int, zone: str, key: int) -> Edit:
    """Cut a zone in two so that the upper half begins on ``key``.

    Raises EditError when the key is not inside the zone.
    """

    def change(held: Program, owner: Device) -> Program:
        old = lookup.by_id(held.zones, zone, "zone")
        if not old.low < key <= old.high:
            raise EditError(f"{old.name} cannot be split there: choose a key inside it.")
        upper = changed(
            old,
            id=lookup.free_id((z.id for z in held.zones), f"{old.id}-upper"),
            name=f"{old.name} upper"[:80],
            low=key,
        )
        return changed(held, zones=swapped(held.zones, old, changed(old, high=key - 1), upper))

    return edit_program(device, program, "Split zone", change)


def layer_zone(device: str, program: int, zone: str) -> Edit:
    """Lay a copy over a zone, both marked as a layer, on the next channel."""

    def change(held: Program, owner: Device) -> Program:
        old = lookup.by_id(held.zones, zone, "zone")
        used = {z.channel for z in held.zones}
        channel = next((c for c in range(1, 17) if c not in used), old.channel)
        copy = changed(
            old,
            id=lookup.free_id((z.id for z in held.zones), f"{old.id}-layer"),
            name=f"{old.name} layer"[:80],
            channel=channel,
            layer=True,
        )
        return changed(held, zones=swapped(held.zones, old, changed(old, layer=True), copy))

    return edit_program(device, program, "Layer zone", change)


def add_zone(device: str, program: int, zone: Zone) -> Edit:
    """Add a zone to a program."""
    return edit_program(
        device, program, "Add zone", lambda held, _: changed(held, zones=(*held.zones, zone))
    )


def remove_zone(device: str, program: int, zone: str) -> Edit:
    """Take a zone out of a program."""

    def change(held: Program, owner: Device) -> Program:
        old = lookup.by_id(held.zones, zone, "zone")
        return changed(held, zones=swapped(held.zones, old))

    return edit_program(device, program, "Remove zone", change)


def move_edge(device: str, program: int, zone: str, side: str, key: int) -> Edit:
    """Move the ``low`` or ``high`` end of a zone, within its keybed and short of its other end."""

    def change(held: Program, owner: Device) -> Program:
        old = lookup.by_id(held.zones, zone, "zone")
        bed = lookup.keybed(owner, old.keybed)
        if side == "low":
            new = changed(old, low=max(bed.low, min(key, old.high)))
        else:
            new = changed(old, high=min(bed.high, max(key, old.low)))
        return changed(held, zones=swapped(held.zones, old, new))

    return edit_program(device, program, "Move zone end", change)


def add_device(device: Device) -> Edit:
    """Add a device, from the library say, under an id and name of its own."""

    def apply(plan: Plan) -> Plan:
        ident = lookup.free_id((d.id for d in plan.devices), device.id)
        names, name, number = {d.name for d in plan.devices}, device.name, 2
        while name in names:
            name, number = f"{device.name} {number}", number + 1
        new = changed(device, id=ident, name=name)
        return msgspec.structs.replace(plan, devices=(*plan.devices, new))

    return Edit(f"Add {device.name}", apply)


def remove_device(ident: str) -> Edit:
    """Take a device out with its cables, and with the wishes that begin or end at it."""

    def apply(plan: Plan) -> Plan:
        lookup.device(plan, ident)

        def mine(ref: str | None) -> bool:
            return device_of(ref or "") == ident

        intents = []
        for intent in plan.intents:
            kept = [n for n, s in enumerate(intent.sources) if not mine(s)]
            if mine(intent.plays) or mine(intent.moves) or not kept:
                continue
            if len(kept) < len(intent.sources):
                intent = msgspec.structs.replace(
                    intent,
                    sources=tuple(intent.sources[n] for n in kept),
                    sounds=tuple(intent.sounds[n] for n in kept if n < len(intent.sounds)),
                )
            intents.append(intent)
        return msgspec.structs.replace(
            plan,
            devices=tuple(d for d in plan.devices if d.id != ident),
            cables=tuple(c for c in plan.cables if not (mine(c.source) or mine(c.dest))),
            intents=tuple(intents),
            scenes=tuple(
                changed(s, programs=tuple(c for c in s.programs if c.device != ident))
                for s in plan.scenes
            ),
            settings=tuple(s for s in plan.settings if device_of_setting(s.ref) != ident),
            plugs=tuple(g for g in plan.plugs if not mine(g.input)),
            pedal_plugs=tuple(g for g in plan.pedal_plugs if not mine(g.jack)),
            log=tuple(e for e in plan.log if not mine(e.source)),
        )

    return Edit("Remove device", apply)


def set_limit(device: str, index: int, label: str, **changes: Any) -> Edit:
    """Change fields of one of a device's limits."""

    def change(owner: Device) -> Device:
        old = owner.limits[index]
        return changed(owner, limits=swapped(owner.limits, old, changed(old, **changes)))

    return edit_device(device, label, change)


def add_cable(source: str, dest: str) -> Edit:
    """Connect two ports."""

    def apply(plan: Plan) -> Plan:
        return msgspec.structs.replace(plan, cables=(*plan.cables, Cable(source=source, dest=dest)))

    return Edit("Connect cable", apply)


def remove_cable(cable: Cable) -> Edit:
    """Pull a cable out."""
    return Edit(
        "Remove cable",
        lambda plan: msgspec.structs.replace(
            plan, cables=tuple(c for c in plan.cables if c != cable)
        ),
    )


def choose_program(scene: str, device: str, number: int) -> Edit:
    """Put a device on another program in one scene."""

    def apply(plan: Plan) -> Plan:
        old = lookup.scene(plan, scene)
        kept = tuple(c for c in old.programs if c.device != device)
        new = changed(old, programs=(*kept, ProgramChoice(device=device, program=number)))
        return msgspec.structs.replace(plan, scenes=swapped(plan.scenes, old, new))

    return Edit("Choose program", apply)


def own_program(scene: str, device: str) -> Edit:
    """Give a scene a program of its own, copied from the one that it shares.

    Raises EditError when the device has no free program number.
    """

    def apply(plan: Plan) -> Plan:
        at, owner = lookup.scene(plan, scene), lookup.device(plan, device)
        old = lookup.program_in(at, owner)
        used = {p.number for p in owner.programs}
        number = next((n for n in range(128) if n not in used), None)
        if old is None or number is None:
            raise EditError(f"{owner.name} has no free program for {at.name}: free one first.")
        copy = changed(old, number=number, name=at.name)
        plan = _with_device(plan, owner, changed(owner, programs=(*owner.programs, copy)))
        return choose_program(scene, device, number).change(plan)

    return Edit("Give scene its own program", apply)


def set_plan(label: str, **changes: Any) -> Edit:
    """Change fields of the plan itself, such as its name."""
    return Edit(label, lambda plan: changed(plan, **changes))


def rename_scene(scene: str, name: str) -> Edit:
    """Give a scene another name."""

    def apply(plan: Plan) -> Plan:
        old = lookup.scene(plan, scene)
        return msgspec.structs.replace(
            plan, scenes=swapped(plan.scenes, old, changed(old, name=name))
        )

    return Edit("Rename scene", apply)


def set_item(held: str, ident: str, what: str, label: str, **changes: Any) -> Edit:
    """Change fields of one item of a plan’s list ``held``.  Raises EditError for none such."""
    return Edit(label, lambda plan: _with_item(plan, held, ident, what, changes))


def set_thing(device: str, held: str, ident: str, what: str, label: str, **changes: Any) -> Edit:
    """Change fields of one item of a device’s list ``held``.  Raises EditError for none such."""
    return edit_device(
        device,
        label,
        lambda owner: _with_item(owner, held, ident, f"{what} of {owner.name} called", changes),
    )


def _with_item(value: V, held: str, ident: str, what: str, changes: dict[str, Any]) -> V:
    items = getattr(value, held)
    old = lookup.by_id(items, ident, what)
    return changed(value, **{held: swapped(items, old, changed(old, **changes))})


def edit_sends(device: str, label: str, change: Callable[[Send], Send]) -> Edit:
    """An edit of everything that a device sends, in every program."""

    def inside(owner: Device) -> Device:
        programs = tuple(
            changed(p, sends=tuple(change(s) for s in p.sends)) for p in owner.programs
        )
        return changed(owner, programs=programs)

    return edit_device(device, label, inside)


def set_send(
    device: str,
    program: int,
    control: str,
    bank: int,
    label: str,
    layer: int = 0,
    **changes: Any,
) -> Edit:
    """Change fields of what a control sends in a program; it begins to send where it did not."""

    def change(held: Program, owner: Device) -> Program:
        lookup.by_id(owner.controls, control, "control")
        key = (control, bank, layer)
        mine = [s for s in held.sends if (s.control, s.bank, s.layer) == key]
        if not mine:
            fresh = Send(control=control, bank=bank, layer=layer, message="none")
            return changed(held, sends=(*held.sends, changed(fresh, **changes)))
        return changed(held, sends=swapped(held.sends, mine[0], changed(mine[0], **changes)))

    return edit_program(device, program, label, change)


def add_scene(name: str) -> Edit:
    """Add a scene at the end, with the programs of the last one."""

    def apply(plan: Plan) -> Plan:
        programs = plan.scenes[-1].programs if plan.scenes else ()
        new = Scene(
            id=lookup.free_id((s.id for s in plan.scenes), name), name=name, programs=programs
        )
        return msgspec.structs.replace(plan, scenes=(*plan.scenes, new))

    return Edit("Add scene", apply)
