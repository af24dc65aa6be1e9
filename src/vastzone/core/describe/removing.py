"""Taking things out of a device that may be in use, and what goes with them."""

from collections.abc import Collection, Iterable, Iterator

import msgspec

from vastzone.core.describe.things import GROUPS, Thing, ids_in
from vastzone.core.plan.edits.devices import wishes_left
from vastzone.core.plan.edits.edit import Edit, with_device
from vastzone.core.plan.edits.schools import without
from vastzone.core.plan.fields.dials import device_dials
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.audio_consistency import tidy_audio_device
from vastzone.core.plan.queries.evening import tidy
from vastzone.core.plan.queries.organ import tidy_device
from vastzone.core.plan.refs import device_of, device_of_setting, read_ref, ref_to, thing_of
from vastzone.core.say import say, say_many
from vastzone.core.text import listed


def remove_things(device: str, things: Collection[Thing]) -> Edit:
    """Take things out of a device with everything of the plan that begins, ends or is in them."""

    def apply(plan: Plan) -> Plan:
        owner = lookup.device(plan, device)
        return replaced(plan, owner, stripped(owner, things))

    return Edit(
        say("Remove {things}", things=say_many("{count} thing", "{count} things", len(things))),
        apply,
    )


def replaced(plan: Plan, old: Device, new: Device) -> Plan:
    """A plan with a device in place of another, without what that other had and this has not."""
    plan = with_device(plan, old, new)
    ends = _refs(new, ("keybeds", "controls", "parts", "targets"))
    played = ends | _refs(new, ("ports", "inputs", "jacks"))

    def gone(ref: str | None) -> bool:
        return device_of(ref or "") == new.id and bool(thing_of(ref or "")) and ref not in played

    settings = {dial.ref for dial in device_dials(new)}
    numbers = {program.number for program in new.programs}
    kept = []
    for record in plan.settings:
        if device_of_setting(record.ref) != new.id or record.ref in settings:
            kept.append(record)
    scenes = []
    for scene in plan.scenes:
        choices = []
        for choice in scene.programs:
            if choice.device != new.id or choice.program in numbers or _also(new, choice.program):
                choices.append(choice)
        scenes.append(changed(scene, programs=tuple(choices)))
    lost = [ref for own in plan.schools.own for ref in own.of if gone(ref)]
    left = msgspec.structs.replace(
        plan,
        cables=tuple(c for c in plan.cables if not (gone(c.source) or gone(c.dest))),
        plugs=tuple(plug for plug in plan.plugs if not gone(plug.input)),
        pedal_plugs=tuple(plug for plug in plan.pedal_plugs if not gone(plug.jack)),
        wishes=tuple(wishes_left(plan, gone)),
        settings=tuple(kept),
        scenes=tuple(scenes),
        schools=without(plan.schools, lost),
        log=tuple(entry for entry in plan.log if not gone(entry.source)),
    )
    return tidy(left)


def _also(device: Device, number: int) -> bool:
    """Whether a program stands in a slot beside its own."""
    return lookup.has_program(device, number)


def _refs(device: Device, groups: Iterable[str]) -> set[str]:
    refs = set()
    for group in groups:
        for item in getattr(device, group):
            refs.add(ref_to(device.id, item.id))
    return refs


def stripped(owner: Device, things: Collection[Thing]) -> Device:
    """A device without some things, and without what is nothing without them."""
    gone = _with_dependants(owner, things)
    lists = {}
    for group in GROUPS:
        ids = ids_in(gone, group)
        items = getattr(owner, group)
        lists[group] = tuple(item for item in items if item.id not in ids)
    controls, kits = ids_in(gone, "controls"), ids_in(gone, "kits")
    lists["jacks"] = tuple(
        changed(jack, control=None) if jack.control in controls else jack for jack in lists["jacks"]
    )
    lists["parts"] = tuple(
        changed(part, kit=None) if part.kit in kits else part for part in lists["parts"]
    )
    ports = ids_in(gone, "ports")
    thrus = tuple(t for t in owner.thrus if t.source not in ports and t.dest not in ports)
    programs = tuple(_program_without(program, gone) for program in owner.programs)
    console = _console_without(owner.console, gone) if owner.console else None
    bare = changed(owner, **lists, thrus=thrus, programs=programs, console=console)
    bare = tidy_audio_device(tidy_device(bare))
    return _without_ports(bare, ports) if ports else bare


def _with_dependants(owner: Device, things: Collection[Thing]) -> frozenset[Thing]:
    """Things, what is struck at inputs among them, what jacks move, and targets of parts."""
    gone = set(things)
    inputs, jacks, parts = (ids_in(things, group) for group in ("inputs", "jacks", "parts"))
    for control in owner.controls:
        if control.input in inputs:
            gone.add(Thing("controls", control.id))
    for jack in owner.jacks:
        if jack.id in jacks and jack.control is not None:
            gone.add(Thing("controls", jack.control))
    for target in owner.targets:
        if target.part in parts:
            gone.add(Thing("targets", target.id))
    return frozenset(gone)


def _program_without(program: Program, gone: Collection[Thing]) -> Program:
    beds, controls = ids_in(gone, "keybeds"), ids_in(gone, "controls")
    parts, kits = ids_in(gone, "parts"), ids_in(gone, "kits")
    choices = []
    for choice in program.kits:
        if choice.part not in parts and choice.kit not in kits:
            choices.append(choice)
    return changed(
        program,
        zones=tuple(zone for zone in program.zones if zone.keybed not in beds),
        sends=tuple(send for send in program.sends if send.control not in controls),
        kits=tuple(choices),
    )


def _console_without(console: Console, gone: Collection[Thing]) -> Console:
    beds, controls = ids_in(gone, "keybeds"), ids_in(gone, "controls")
    blocks = []
    for block in console.blocks:
        left = tuple(control for control in block.controls if control not in controls)
        if block.keybed in beds or (block.controls and not left):
            continue
        blocks.append(changed(block, controls=left))
    shoes = tuple(shoe for shoe in console.shoes if shoe.control not in controls)
    known = {block.id for block in blocks} | {None}
    faults = tuple(fault for fault in console.faults if fault.block in known)
    hidden = tuple(fault for fault in console.hidden if fault.block in known)
    return changed(console, blocks=tuple(blocks), shoes=shoes, faults=faults, hidden=hidden)


def _without_ports(device: Device, ports: frozenset[str]) -> Device:
    """A device whose zones, sends and parts name no port that is gone."""

    def left(named: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(port for port in named if port not in ports)

    programs = []
    for program in device.programs:
        zones = tuple(changed(zone, ports=left(zone.ports)) for zone in program.zones)
        sends = tuple(changed(send, ports=left(send.ports)) for send in program.sends)
        programs.append(changed(program, zones=zones, sends=sends))
    parts = tuple(changed(part, ports=left(part.ports)) for part in device.parts)
    return changed(device, programs=tuple(programs), parts=parts)


def losses(before: Plan, after: Plan) -> list[str]:
    """What of a plan is lost by an edit, a sentence each: wishes and sounds, joints, choices."""
    lost = [*_wishes_lost(before, after), *_joints_lost(before, after)]
    scenes = {scene.id: scene for scene in after.scenes}
    for was in before.scenes:
        now = scenes.get(was.id)
        if now is not None and len(now.programs) < len(was.programs):
            lost.append(say("{was} chooses no program there any more.", was=was.name))
    return lost


def _wishes_lost(before: Plan, after: Plan) -> Iterator[str]:
    left = {wish.id: wish for wish in after.wishes}
    for wish in before.wishes:
        now = left.get(wish.id)
        if now is None:
            yield say("The wish {wish} goes.", wish=wish.name)
        elif len(now.sources) < len(wish.sources):
            gone = [_name(before, ref) for ref in wish.sources if ref not in now.sources]
            yield say("The wish {wish} goes on without {gone}.", wish=wish.name, gone=listed(gone))
        else:
            left_of_kits = _sounds(after, now)
            for ident, name in _sounds(before, now).items():
                if ident not in left_of_kits:
                    yield say(
                        "The wish {wish} is for {name}, which no kit has any more.",
                        wish=wish.name,
                        name=name,
                    )


def _sounds(plan: Plan, wish: Wish) -> dict[str, str]:
    """The sounds that a wish is for, as far as a kit has them: their names by id."""
    device = lookup.find(plan.devices, device_of(wish.plays or ""))
    names = {}
    for kit in device.kits if device is not None else ():
        for sound in kit.sounds:
            if sound.id in wish.sounds:
                names[sound.id] = sound.name
    return names


def _joints_lost(before: Plan, after: Plan) -> Iterator[str]:
    """Cables and plugs that are pulled out."""
    for cable in before.cables:
        if cable not in after.cables:
            ends = say(
                "{name} to {name_before}",
                name=_name(before, cable.source),
                name_before=_name(before, cable.dest),
            )
            yield say("The cable from {ends} is pulled out.", ends=ends)
    names = lookup.names_of(before.pads) | lookup.names_of(before.pedals)
    plugged = [(plug.pad, plug.input) for plug in before.plugs if plug not in after.plugs]
    for pedal in before.pedal_plugs:
        if pedal not in after.pedal_plugs:
            plugged.append((pedal.pedal, pedal.jack))
    for ident, where in plugged:
        yield say("{names} is pulled out of {name}.", names=names[ident], name=_name(before, where))


def _name(plan: Plan, ref: str) -> str:
    """A thing of a device by name, with its device."""
    owner, ident = read_ref(ref)
    device = lookup.find(plan.devices, owner)
    if device is None:
        return ref
    for group in GROUPS:
        for item in getattr(device, group):
            if item.id == ident:
                return say("{item} of {device}", item=item.name, device=device.name)
    return device.name
