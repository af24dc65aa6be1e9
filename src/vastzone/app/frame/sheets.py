"""What the facts show of each kind of thing: rows of exact values and the edits they make.

No widgets here: a sheet is data, so that every kind of thing is edited in the same way.
"""

from collections.abc import Callable
from datetime import date

from vastzone.app.frame.field_rows import field_rows
from vastzone.app.frame.sheet import FactRow, Make, Press, Sheet
from vastzone.app.frame.sheets_console import BLOCK, ENCODER, block_sheet, encoder_sheet
from vastzone.app.frame.sheets_memory import storage_rows
from vastzone.app.frame.sheets_organ import COUPLER, PISTON, coupler_sheet, piston_sheet
from vastzone.app.frame.sheets_pads import PAD, input_sheet, pad_sheet
from vastzone.app.frame.sheets_pedals import PEDAL, pedal_sheet, target_sheet
from vastzone.app.frame.sheets_rig import CABLE, cable_sheet, limit_rows
from vastzone.app.frame.sheets_song import SONG, song_sheet
from vastzone.app.frame.sheets_touch import WISH, control_sheet, wish_sheet
from vastzone.app.frame.sheets_wishing import standard_row
from vastzone.app.frame.sheets_workshop import workshop_sheet
from vastzone.core.cards.standing import standing, standing_in_short, standing_words
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.devices import remove_device
from vastzone.core.plan.edits.edit import Edit, set_plan
from vastzone.core.plan.edits.programs import choose_kit
from vastzone.core.plan.edits.scenes import choose_program, own_program, rename_scene
from vastzone.core.plan.edits.zones import add_zone, layer_zone, remove_zone, split_zone
from vastzone.core.plan.fields.dials import record
from vastzone.core.plan.fields.owners import device_owner, part_owner, switch_owner, zone_owner
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Keybed, Zone
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import device_of, owner_place, read_ref, ref_to, setting_in
from vastzone.core.proof.repitching import sounded_notes
from vastzone.core.response.repitch import ratio_words
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk

BY_KIND: tuple[tuple[str, Callable[[Desk, str], Sheet]], ...] = (
    (CABLE, cable_sheet),
    (WISH, wish_sheet),
    (PAD, pad_sheet),
    (PEDAL, lambda desk, ref: pedal_sheet(desk.plan, ref)),
    (BLOCK, lambda desk, ref: block_sheet(desk.plan, ref)),
    (ENCODER, lambda desk, ref: encoder_sheet(desk.plan, ref)),
    (COUPLER, coupler_sheet),
    (PISTON, piston_sheet),
    (SONG, song_sheet),
)
"""How the sheet of each kind of thing is made that is no thing of a device."""


def sheet_for(desk: Desk, ref: str) -> Sheet:
    """The sheet of a selected thing; the plan's own when nothing is selected or it is gone."""
    if desk.describing:
        described = workshop_sheet(desk, ref)
        if described is not None:
            return described
    for kind, make in BY_KIND:
        if ref.startswith(kind):
            return make(desk, ref)
    device, thing = read_ref(ref)
    owner = lookup.find(desk.plan.devices, device)
    if owner is None:
        return _plan(desk)
    sheet = _of_thing(desk, owner, thing)
    if sheet is None:
        return _device(desk, owner, None)
    return _with_standing(desk, sheet)


def _with_standing(desk: Desk, sheet: Sheet) -> Sheet:
    """A sheet that says where the settings of the thing stand on their way into its device."""
    plan, ref = desk.planned, sheet.ref
    device = lookup.find(plan.devices, device_of(ref))
    if device is None or not ref:
        return sheet
    lines = standing(plan, desk.memory, device, lookup.program_in(desk.scene, device), ref)
    if not lines:
        return sheet
    row = FactRow(say("In the device"), "fixed", standing_in_short(lines))
    told = dict.fromkeys(standing_words(lines))
    return sheet._replace(rows=(row, *sheet.rows), remark=join(sheet.remark, *told))


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
    rows: tuple[FactRow, ...] = (
        FactRow(say("Name"), "text", plan.name, lambda v: set_plan(say("Rename plan"), name=v)),
        FactRow(say("Devices"), "fixed", str(len(plan.devices))),
        FactRow(say("Scenes"), "fixed", str(len(plan.scenes))),
    )
    rows = (*rows, *_taste(plan))
    scene = desk.scene
    if scene is not None:
        rename = FactRow(say("This scene"), "text", scene.name, lambda v: rename_scene(scene.id, v))
        rows = (*rows, rename)
    return Sheet("", plan.name, say("Plan"), rows, remark=plan.notes)


def _taste(plan: Plan) -> tuple[FactRow, ...]:
    """How the person likes numbers to be chosen."""

    def set_(field: str) -> Make:
        return lambda v: set_plan(
            say("Change how numbers are chosen"), schools=changed(plan.schools, **{field: v})
        )

    schools = plan.schools
    return (
        FactRow(
            say("Channels"),
            "choice",
            schools.channels,
            set_("channels"),
            choices=(
                (say("one a device"), "device"),
                (say("one a sound"), "sound"),
                (say("one a program"), "program"),
                (say("as few as possible"), "shared"),
            ),
        ),
        FactRow(
            say("Controllers"),
            "choice",
            schools.controllers,
            set_("controllers"),
            choices=(
                (say("standard roles"), "standard"),
                (say("undefined numbers"), "undefined"),
                (say("a memorable run"), "run"),
            ),
        ),
        FactRow(say("Run from"), "number", schools.run_from, set_("run_from"), 1, 119),
        FactRow(say("Rhythm on 10"), "check", schools.rhythm_on_10, set_("rhythm_on_10")),
    )


def _zone(desk: Desk, owner: Device, zone: Zone) -> Sheet:
    number = lookup.program_number(desk.scene, owner) or 0
    program = lookup.program(owner, number)
    rows = tuple(field_rows(zone_owner(owner, program, zone)))
    return Sheet(
        ref_to(owner.id, zone.id),
        zone.name,
        say("Zone of {owner}", owner=owner.name),
        rows,
        (
            Press(
                say("Split"),
                "scissors",
                lambda: split_zone(owner.id, number, zone.id, split_key(desk, owner, zone)),
            ),
            Press(say("Layer"), "layers", lambda: layer_zone(owner.id, number, zone.id)),
            Press(say("Remove"), "trash-2", lambda: remove_zone(owner.id, number, zone.id)),
        ),
        join(
            _shared(desk, owner, number),
            why(
                desk,
                setting_in(
                    owner_place(owner.id, "zone", zone.id, lookup.program_id(owner, number)),
                    "channel",
                ),
                zone.channel,
            ),
        ),
    )


def join(*sentences: str) -> str:
    """Sentences one under the other, the empty ones left out."""
    return "\n".join(sentence for sentence in sentences if sentence)


def why(desk: Desk, ref: str, channel: int | None) -> str:
    """Why a channel is what it is, where the solver has said so."""
    reason = record(desk.plan, ref).why
    return say("Why channel {channel}: {reason}", channel=channel, reason=reason) if reason else ""


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
    names = ", ".join(scene.name for scene in scenes)
    shared = say(
        "is shared by {scenes}: {names}.",
        scenes=say_many("{count} scene", "{count} scenes", len(scenes)),
        names=names,
    )
    return say("Program {program} {shared}", program=program_words(owner, number), shared=shared)


def _part(desk: Desk, owner: Device, part: Part) -> Sheet:
    rows = (
        *field_rows(part_owner(owner, part)),
        *_kit_rows(desk, owner, part),
        standard_row(owner, part),
    )
    reason = why(desk, setting_in(owner_place(owner.id, "part", part.id), "channel"), part.channel)
    ref = ref_to(owner.id, part.id)
    rows = (*rows, *_speed_rows(desk, owner, part, ref))
    return Sheet(ref, part.name, say("Part of {owner}", owner=owner.name), rows, remark=reason)


def _kit_rows(desk: Desk, owner: Device, part: Part) -> list[FactRow]:
    """The kit that a part is on in the program that its device is on here."""
    program = lookup.program_in(desk.scene, owner)
    if program is None or len(owner.kits) < 2:
        return []
    here = next((choice.kit for choice in program.kits if choice.part == part.id), None)
    choices = ((say("as everywhere"), None), *((kit.name, kit.id) for kit in owner.kits))
    number = program.number
    return [
        FactRow(
            say("Kit in this program"),
            "choice",
            here,
            lambda kit: choose_kit(owner.id, number, part.id, kit),
            choices=choices,
        )
    ]


def _speed_rows(desk: Desk, owner: Device, part: Part, ref: str) -> list[FactRow]:
    """How fast a part that is one sample plays the lowest and the highest note asked of it."""
    notes: set[int] = set()
    for sounded, low, high in sounded_notes(desk.compiled) if part.repitch is not None else ():
        if sounded == ref:
            notes.update((low, high))
    if not notes:
        return []
    told = []
    for note in (min(notes), max(notes)):
        told.append(
            say(
                "{pitch} at {ratio}",
                pitch=pitch.label(note, owner.octaves),
                ratio=ratio_words(part, note),
            )
        )
    return [FactRow(say("Plays here"), "fixed", ", ".join(dict.fromkeys(told)))]


def _device(desk: Desk, owner: Device, bed: Keybed | None) -> Sheet:
    name, *more = field_rows(device_owner(owner))
    rows = [name, FactRow(say("Kind"), "fixed", say(owner.kind)), *more, *_switches(owner)]
    presses: list[Press] = []
    scene, number = desk.scene, lookup.program_number(desk.scene, owner)
    if scene is not None and number is not None:
        choices = tuple(
            (f"{program_words(owner, program.number)} {program.name}", program.number)
            for program in owner.programs
        )
        rows.append(
            FactRow(
                say("Program here"),
                "choice",
                number,
                lambda v: choose_program(scene.id, owner.id, v),
                choices=choices,
            )
        )
        if len(lookup.scenes_with(desk.plan, owner, number)) > 1:
            presses.append(
                Press(
                    say("Own program for this scene"),
                    "plus",
                    lambda: own_program(scene.id, owner.id),
                )
            )
    if bed is not None:
        keys = pitch.span(bed.low, bed.high, owner.octaves)
        rows.append(FactRow(say("Keys"), "fixed", f"{bed.keys}, {keys}"))
        if number is not None:
            presses.insert(0, Press(say("New zone"), "plus", lambda: _new_zone(owner, number, bed)))
    if bed is None:
        rows += storage_rows(owner)
        rows += limit_rows(owner, date.today().isoformat())
        presses.append(Press(say("Remove"), "trash-2", lambda: remove_device(owner.id)))
    ref = ref_to(owner.id, bed.id) if bed else owner.id
    remark = owner.notes if number is None else _shared(desk, owner, number) or owner.notes
    return Sheet(ref, owner.name, say("Device"), tuple(rows), tuple(presses), remark)


def _switches(owner: Device) -> list[FactRow]:
    """What else is set in a device as a whole."""
    rows: list[FactRow] = []
    for switch in owner.switches:
        rows += [row._replace(label=switch.name) for row in field_rows(switch_owner(owner, switch))]
    return rows


def _new_zone(owner: Device, number: int, bed: Keybed) -> Edit:
    """A zone over the first dead run of a keybed, or over all of it."""
    program = lookup.program(owner, number)
    zones = []
    for zone in program.zones:
        if zone.keybed == bed.id:
            zones.append(zone)
    free = []
    for k in range(bed.low, bed.high + 1):
        if not any(item.low <= k <= item.high for item in zones):
            free.append(k)
    low = free[0] if free else bed.low
    high = next((k - 1 for k in range(low, bed.high + 1) if free and k not in free), bed.high)
    ident = lookup.free_id(lookup.ids_of(program.zones), "zone")
    name = say("Zone {count}", count=len(zones) + 1)
    return add_zone(owner.id, number, Zone(id=ident, name=name, keybed=bed.id, low=low, high=high))
