"""What the facts show of each kind of thing: rows of exact values and the edits they make.

No widgets here: a sheet is data, so that every kind of thing is edited in the same way.
"""

from collections.abc import Callable
from datetime import date
from typing import Any

from vastzone.app.frame.sheet import Make, Press, Row, Sheet
from vastzone.app.frame.sheets_console import BLOCK, ENCODER, block_sheet, encoder_sheet
from vastzone.app.frame.sheets_pads import PAD, input_sheet, pad_sheet
from vastzone.app.frame.sheets_pedals import PEDAL, pedal_sheet, target_sheet
from vastzone.app.frame.sheets_rig import CABLE, cable_sheet, limit_rows
from vastzone.app.frame.sheets_touch import WISH, control_sheet, wish_sheet
from vastzone.core.midi import pitch
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import part_place, read_ref, ref_to, setting_in, zone_place
from vastzone.core.plan.settings import record
from vastzone.core.plan.sound import Part
from vastzone.core.plan.touch import Keybed, Zone
from vastzone.desk.session import Desk

BY_KIND: tuple[tuple[str, Callable[[Desk, str], Sheet]], ...] = (
    (CABLE, cable_sheet),
    (WISH, wish_sheet),
    (PAD, pad_sheet),
    (PEDAL, lambda desk, ref: pedal_sheet(desk.plan, ref)),
    (BLOCK, lambda desk, ref: block_sheet(desk.plan, ref)),
    (ENCODER, lambda desk, ref: encoder_sheet(desk.plan, ref)),
)
"""How the sheet of each kind of thing is made that is no thing of a device."""


def sheet_for(desk: Desk, ref: str) -> Sheet:
    """The sheet of a selected thing; the plan's own when nothing is selected or it is gone."""
    for kind, make in BY_KIND:
        if ref.startswith(kind):
            return make(desk, ref)
    device, thing = read_ref(ref)
    owner = lookup.find(desk.plan.devices, device)
    if owner is None:
        return _plan(desk)
    return _of_thing(desk, owner, thing) or _device(desk, owner, None)


def _of_thing(desk: Desk, owner: Device, thing: str) -> Sheet | None:
    """The sheet of something that a device has; None where there is nothing of that name."""
    if zone := lookup.find(_zones(desk, owner), thing):
        return _zone(desk, owner, zone)
    if part := lookup.find(owner.parts, thing):
        return _part(desk, owner, part)
    if control := lookup.find(owner.controls, thing):
        return control_sheet(desk, owner, control)
    if target := lookup.find(owner.targets, thing):
        return target_sheet(owner, target)
    if one := lookup.find(owner.inputs, thing):
        return input_sheet(desk, owner, one)
    if bed := lookup.find(owner.keybeds, thing):
        return _device(desk, owner, bed)
    return None


def _zones(desk: Desk, owner: Device) -> tuple[Zone, ...]:
    program = lookup.program_in(desk.scene, owner)
    return program.zones if program else ()


def _plan(desk: Desk) -> Sheet:
    plan = desk.plan
    rows: tuple[Row, ...] = (
        Row("Name", "text", plan.name, lambda v: edits.set_plan("Rename plan", name=v)),
        Row("Devices", "fixed", str(len(plan.devices))),
        Row("Scenes", "fixed", str(len(plan.scenes))),
    )
    rows = (*rows, *_taste(plan))
    scene = desk.scene
    if scene is not None:
        rename = Row("This scene", "text", scene.name, lambda v: edits.rename_scene(scene.id, v))
        rows = (*rows, rename)
    return Sheet("", plan.name, "Plan", rows, remark=plan.notes)


def _taste(plan: Plan) -> tuple[Row, ...]:
    """How the person likes numbers to be chosen."""

    def set_(field: str) -> Make:
        return lambda v: edits.set_plan(
            "Change how numbers are chosen", schools=edits.changed(plan.schools, **{field: v})
        )

    held = plan.schools
    return (
        Row(
            "Channels",
            "choice",
            held.channels,
            set_("channels"),
            choices=(
                ("one a device", "device"),
                ("one a sound", "sound"),
                ("one a program", "program"),
                ("as few as possible", "shared"),
            ),
        ),
        Row(
            "Controllers",
            "choice",
            held.controllers,
            set_("controllers"),
            choices=(
                ("standard roles", "standard"),
                ("undefined numbers", "undefined"),
                ("a memorable run", "run"),
            ),
        ),
        Row("Run from", "number", held.run_from, set_("run_from"), 1, 119),
        Row("Rhythm on 10", "check", held.rhythm_on_10, set_("rhythm_on_10")),
    )


def _zone(desk: Desk, owner: Device, zone: Zone) -> Sheet:
    number = lookup.program_number(desk.scene, owner) or 0
    bed = lookup.keybed(owner, zone.keybed)

    def setter(label: str, field: str) -> Make:
        return lambda v: edits.set_zone(owner.id, number, zone.id, label, **{field: v})

    naming = owner.octaves
    rows = (
        Row("Name", "text", zone.name, setter("Rename zone", "name")),
        Row(
            "Lowest key",
            "note",
            zone.low,
            setter("Move zone end", "low"),
            bed.low,
            bed.high,
            naming=naming,
        ),
        Row(
            "Highest key",
            "note",
            zone.high,
            setter("Move zone end", "high"),
            bed.low,
            bed.high,
            naming=naming,
        ),
        Row("Channel", "number", zone.channel, setter("Change zone channel", "channel"), 1, 16),
        Row("Transpose", "number", zone.transpose, setter("Transpose zone", "transpose"), -60, 60),
        Row("Octave shift", "number", zone.octave, setter("Shift zone", "octave"), -5, 5),
        Row("Softest", "number", zone.vel_low, setter("Change zone velocity", "vel_low"), 1, 127),
        Row("Loudest", "number", zone.vel_high, setter("Change zone velocity", "vel_high"), 1, 127),
        Row("On", "check", zone.on, setter("Switch zone", "on")),
        Row("Part of a layer", "check", zone.layer, setter("Mark zone as layer", "layer")),
    )
    return Sheet(
        ref_to(owner.id, zone.id),
        zone.name,
        f"Zone of {owner.name}",
        rows,
        (
            Press(
                "Split",
                "scissors",
                lambda: edits.split_zone(owner.id, number, zone.id, split_key(desk, owner, zone)),
            ),
            Press("Layer", "layers", lambda: edits.layer_zone(owner.id, number, zone.id)),
            Press("Remove", "trash-2", lambda: edits.remove_zone(owner.id, number, zone.id)),
        ),
        join(
            _shared(desk, owner, number),
            why(desk, setting_in(zone_place(owner.id, number, zone.id), "channel"), zone.channel),
        ),
    )


def join(*sentences: str) -> str:
    """Sentences one under the other, the empty ones left out."""
    return "\n".join(s for s in sentences if s)


def why(desk: Desk, ref: str, channel: int | None) -> str:
    """Why a channel is what it is, where the solver has said so."""
    reason = record(desk.plan, ref).why
    return f"Why channel {channel}: {reason}" if reason else ""


def split_key(desk: Desk, owner: Device, zone: Zone) -> int:
    """Where to split a zone: the key struck last when it lies inside, else the middle."""
    last = desk.stage.last
    key = last.key if last and last.subject == ref_to(owner.id, zone.keybed) else None
    if key is not None and zone.low < key <= zone.high:
        return key
    return (zone.low + zone.high + 1) // 2


def _shared(desk: Desk, owner: Device, number: int) -> str:
    scenes = lookup.scenes_with(desk.plan, owner, number)
    if len(scenes) < 2:
        return ""
    names = ", ".join(s.name for s in scenes)
    return f"Program {number + owner.first_program} is shared by {len(scenes)} scenes: {names}."


def _part(desk: Desk, owner: Device, part: Part) -> Sheet:
    def setter(label: str, field: str) -> Make:
        return lambda v: edits.set_part(owner.id, part.id, label, **{field: v})

    naming = owner.octaves
    channels: tuple[tuple[str, Any], ...] = (
        ("all (omni)", None),
        *((str(c), c) for c in range(1, 17)),
    )
    triggers = tuple((t, t) for t in ("gate", "one-shot", "toggle"))
    rows = (
        Row("Name", "text", part.name, setter("Rename part", "name")),
        Row("Tag", "text", part.tag, setter("Change tag", "tag")),
        Row(
            "Channel",
            "choice",
            part.channel,
            setter("Change part channel", "channel"),
            choices=channels,
        ),
        Row("Lowest note", "note", part.low, setter("Change part range", "low"), naming=naming),
        Row("Highest note", "note", part.high, setter("Change part range", "high"), naming=naming),
        Row("Softest", "number", part.vel_low, setter("Change part velocity", "vel_low"), 1, 127),
        Row("Loudest", "number", part.vel_high, setter("Change part velocity", "vel_high"), 1, 127),
        Row("Transpose", "number", part.transpose, setter("Transpose part", "transpose"), -60, 60),
        Row("Root key", "note", part.root, setter("Change root key", "root"), naming=naming),
        Row(
            "Trigger", "choice", part.trigger, setter("Change trigger", "trigger"), choices=triggers
        ),
        Row("Mono", "check", part.mono, setter("Switch mono", "mono")),
        Row("Part of a layer", "check", part.layer, setter("Mark part as layer", "layer")),
        Row("Bends by, semitones", "number", part.bend, setter("Change bend range", "bend"), 0, 48),
        Row("Loud or risky", "check", part.loud, setter("Mark part as loud", "loud")),
        Row("Output", "text", part.output, setter("Change output", "output")),
    )
    reason = why(desk, setting_in(part_place(owner.id, part.id), "channel"), part.channel)
    return Sheet(ref_to(owner.id, part.id), part.name, f"Part of {owner.name}", rows, remark=reason)


def _device(desk: Desk, owner: Device, bed: Keybed | None) -> Sheet:
    def setter(label: str, field: str) -> Make:
        return lambda v: edits.set_device(owner.id, label, **{field: v})

    rows = [
        Row("Name", "text", owner.name, setter("Rename device", "name")),
        Row("Kind", "fixed", owner.kind),
        Row(
            "Middle C is",
            "choice",
            owner.octaves,
            setter("Change octave naming", "octaves"),
            choices=tuple((f"C{n}", n) for n in pitch.NAMINGS),
        ),
        Row(
            "Programs from",
            "choice",
            owner.first_program,
            setter("Change program numbering", "first_program"),
            choices=(("0", 0), ("1", 1)),
        ),
    ]
    if owner.parts and owner.keybeds:
        rows.append(Row("Local control", "check", owner.local, setter("Local control", "local")))
    presses: list[Press] = []
    scene, number = desk.scene, lookup.program_number(desk.scene, owner)
    if scene is not None and number is not None:
        choices = tuple(
            (f"{p.number + owner.first_program} {p.name}", p.number) for p in owner.programs
        )
        rows.append(
            Row(
                "Program here",
                "choice",
                number,
                lambda v: edits.choose_program(scene.id, owner.id, v),
                choices=choices,
            )
        )
        if len(lookup.scenes_with(desk.plan, owner, number)) > 1:
            presses.append(
                Press(
                    "Own program for this scene",
                    "plus",
                    lambda: edits.own_program(scene.id, owner.id),
                )
            )
    if bed is not None:
        keys = pitch.span(bed.low, bed.high, owner.octaves)
        rows.append(Row("Keys", "fixed", f"{bed.keys}, {keys}"))
        if number is not None:
            presses.insert(0, Press("New zone", "plus", lambda: _new_zone(owner, number, bed)))
    if bed is None:
        rows += limit_rows(owner, date.today().isoformat())
        presses.append(Press("Remove", "trash-2", lambda: edits.remove_device(owner.id)))
    ref = ref_to(owner.id, bed.id) if bed else owner.id
    remark = owner.notes if number is None else _shared(desk, owner, number) or owner.notes
    return Sheet(ref, owner.name, "Device", tuple(rows), tuple(presses), remark)


def _new_zone(owner: Device, number: int, bed: Keybed) -> Edit:
    """A zone over the first dead run of a keybed, or over all of it."""
    program = lookup.program(owner, number)
    held = [z for z in program.zones if z.keybed == bed.id]
    free = [k for k in range(bed.low, bed.high + 1) if not any(z.low <= k <= z.high for z in held)]
    low = free[0] if free else bed.low
    high = next((k - 1 for k in range(low, bed.high + 1) if free and k not in free), bed.high)
    ident = lookup.free_id((z.id for z in program.zones), "zone")
    name = f"Zone {len(held) + 1}"
    return edits.add_zone(
        owner.id, number, Zone(id=ident, name=name, keybed=bed.id, low=low, high=high)
    )
