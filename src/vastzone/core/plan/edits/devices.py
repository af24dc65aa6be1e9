"""Edits of devices: added, removed, their own values, their parts and limits."""

from collections.abc import Callable, Iterator
from typing import Any

import msgspec

from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.edits.schools import without
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.pedals import Pedal
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.evening import tidy
from vastzone.core.plan.queries.wish_sources import with_sources
from vastzone.core.plan.refs import device_of, device_of_setting, ref_to
from vastzone.core.say import say


def set_device(device: str, label: str, **changes: Any) -> Edit:
    """Change fields of a device: its naming, local control, delay, name."""
    return edit_device(device, label, lambda owner: changed(owner, **changes))


def set_part(device: str, part: str, label: str, **changes: Any) -> Edit:
    """Change fields of a part: its channel, ranges, transposition, modes."""

    def change(owner: Device) -> Device:
        old = lookup.part(owner, part)
        return changed(owner, parts=swapped(owner.parts, old, changed(old, **changes)))

    return edit_device(device, label, change)


def let_answer(owner: Device, part: Part, low: int, high: int) -> Edit:
    """Let a part answer the notes ``low``–``high``, named as its device names them."""
    label = say(
        "Let {part} answer {span}", part=part.name, span=pitch.span(low, high, owner.octaves)
    )
    return set_part(owner.id, part.id, label, low=low, high=high)


def add_device(device: Device) -> Edit:
    """Add a device, from the library say, under an id and name of its own."""

    def apply(plan: Plan) -> Plan:
        ident = lookup.free_id(lookup.ids_of(plan.devices), device.id)
        names, name, number = {d.name for d in plan.devices}, device.name, 2
        while name in names:
            name, number = f"{device.name} {number}", number + 1
        new = changed(device, id=ident, name=name)
        return msgspec.structs.replace(plan, devices=(*plan.devices, new))

    return Edit(say("Add {device}", device=device.name), apply, out_of_the_box=True)


def remove_device(ident: str) -> Edit:
    """Take a device out with its cables, and with the wishes that begin or end at it."""

    def gone(ref: str | None) -> bool:
        return device_of(ref or "") == ident

    def apply(plan: Plan) -> Plan:
        lookup.device(plan, ident)
        left = msgspec.structs.replace(
            _without_plugs(plan, gone),
            devices=tuple(device for device in plan.devices if device.id != ident),
            pedals=tuple(_wanted_anywhere(pedal, ident) for pedal in plan.pedals),
            wishes=tuple(wishes_left(plan, gone)),
            scenes=tuple(_without_choice(scene, ident) for scene in plan.scenes),
            settings=tuple(
                setting for setting in plan.settings if device_of_setting(setting.ref) != ident
            ),
            log=tuple(entry for entry in plan.log if not gone(entry.source)),
            schools=without(plan.schools, _controls_of(plan, ident)),
        )
        return tidy(left)

    return Edit(say("Remove device"), apply)


def _controls_of(plan: Plan, ident: str) -> list[str]:
    """The controls of a device, as ``device:control``."""
    return [ref_to(ident, control.id) for control in lookup.device(plan, ident).controls]


Gone = Callable[[str | None], bool]


def _without_plugs(plan: Plan, gone: Gone) -> Plan:
    """A plan without the cables and plugs at what is gone."""
    cables = (cable for cable in plan.cables if not (gone(cable.source) or gone(cable.dest)))
    return msgspec.structs.replace(
        plan,
        cables=tuple(cables),
        plugs=tuple(plug for plug in plan.plugs if not gone(plug.input)),
        pedal_plugs=tuple(plug for plug in plan.pedal_plugs if not gone(plug.jack)),
    )


def _wanted_anywhere(pedal: Pedal, ident: str) -> Pedal:
    """A pedal whose wishes no longer name a device that is gone."""
    also = []
    for wish in pedal.also:
        also.append(changed(wish, device=None) if wish.device == ident else wish)
    own = None if pedal.device == ident else pedal.device
    return changed(pedal, device=own, also=tuple(also))


def _without_choice(scene: Scene, ident: str) -> Scene:
    kept = tuple(choice for choice in scene.programs if choice.device != ident)
    return changed(scene, programs=kept)


def wishes_left(plan: Plan, gone: Gone) -> Iterator[Wish]:
    """Wishes that still begin and end somewhere, without the sources that are gone."""
    for wish in plan.wishes:
        kept = []
        for place, source in enumerate(wish.sources):
            if not gone(source):
                kept.append(place)
        if kept and not gone(wish.plays) and not gone(wish.moves):
            yield with_sources(wish, kept)


def set_limit(device: str, index: int, label: str, **changes: Any) -> Edit:
    """Change fields of one of a device's limits."""

    def change(owner: Device) -> Device:
        old = owner.limits[index]
        return changed(owner, limits=swapped(owner.limits, old, changed(old, **changes)))

    return edit_device(device, label, change)
