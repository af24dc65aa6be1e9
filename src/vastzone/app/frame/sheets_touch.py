"""Facts of controls and of wishes."""

from functools import partial
from typing import Any

from vastzone.app.frame.field_rows import field_rows
from vastzone.app.frame.sheet import FactRow, Make, Press, Sheet
from vastzone.app.frame.sheets_console import shoe_rows
from vastzone.app.frame.sheets_pedals import jack_rows, sweep_rows
from vastzone.app.frame.sheets_sources import drive_rows
from vastzone.app.frame.sheets_velocity import WINDOW, layer_presses, send_rows
from vastzone.app.frame.sheets_wishing import school_rows, wishing_rows
from vastzone.core.describe.words import sent_as
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.layers import half_open_hat, hat_without_pedal, layers_of
from vastzone.core.plan.edits.wishes import change, is_bed, remove
from vastzone.core.plan.fields.owners import send_owner
from vastzone.core.plan.fields.values import optional_words, read_optional
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.proof.verdict import worst
from vastzone.core.proof.words import end_name
from vastzone.core.response.wished import wished_ends
from vastzone.core.say import say, say_many
from vastzone.core.text import listed
from vastzone.desk.session import Desk

WISH = "wish "


def control_sheet(desk: Desk, owner: Device, control: Control) -> Sheet:
    """What a control sends in the program that its device is on here, bank by bank."""
    number = lookup.program_number(desk.scene, owner)
    rows = [FactRow(say("Kind"), "fixed", say(control.kind)), *drive_rows(owner, control)]
    rows += now_rows(desk, owner, control)
    rows += proof_rows(desk, ref_to(owner.id, control.id), control.banks)
    if number is not None:
        program = lookup.program(owner, number)
        if control_ability(control).laid:
            return _pad_sheet(desk, owner, program, control)
        for bank in range(1, control.banks + 1):
            send = next(
                (s for s in program.sends if (s.control, s.bank) == (control.id, bank)),
                Send(control=control.id, bank=bank, message="none"),
            )
            before = say("Bank {bank}: ", bank=bank) if control.banks > 1 else ""
            rows += field_rows(send_owner(owner, program, send, control), before, without=WINDOW)
    ref = ref_to(owner.id, control.id)
    for send, target in _swept(desk, ref):
        rows += sweep_rows(send, target)
    rows += school_rows(desk, owner, control)
    rows += wishing_rows(desk, owner, control)
    rows += jack_rows(desk.plan, owner, control.id)
    rows += shoe_rows(owner, control.id)
    remark = _shared(desk, owner, number)
    return Sheet(
        ref, control.name, say("Control of {owner}", owner=owner.name), tuple(rows), (), remark
    )


def now_rows(desk: Desk, owner: Device, control: Control) -> list[FactRow]:
    """What a control does here in one line: what it sends, and what that moves or plays."""
    bank = min(desk.bank, control.banks)
    told = []
    for sending in desk.compiled.controls.get((ref_to(owner.id, control.id), bank), ()):
        heard = []
        for motion in sending.motions:
            for hearing in motion.hearings:
                target = hearing.target
                heard.append(target.name if target else end_name(desk.plan, hearing.ref))
        words = sent_as(owner, sending.send)
        told.append(f"{words} → {listed(heard)}" if heard else words)
    return [FactRow(say("Now"), "fixed", "; ".join(told))] if told else []


def proof_rows(desk: Desk, ref: str, banks: int) -> list[FactRow]:
    """What the proof says of a control here, in the bank that is shown."""
    bank = min(desk.bank, banks)
    mark = worst(mark for mark in desk.marks(ref) if mark.bank == bank)
    if mark is None:
        return []
    return [
        FactRow(say("Proved"), "fixed", f"{say(mark.verdict)}: {mark.remark}".removesuffix(": "))
    ]


def _swept(desk: Desk, ref: str) -> list[tuple[Send, Target]]:
    """The targets that a control moves here."""
    swept = []
    for sending in desk.compiled.controls.get((ref, 1), ()):
        for motion in sending.motions:
            for hearing in motion.hearings:
                if hearing.target is not None:
                    swept.append((sending.send, hearing.target))
    return swept


def _shared(desk: Desk, owner: Device, number: int | None) -> str:
    scenes = lookup.scenes_with(desk.plan, owner, number) if number is not None else ()
    if len(scenes) < 2:
        return ""
    return say(
        "Program {program} is shared by {scenes}.",
        program=program_words(owner, number or 0),
        scenes=say_many("{count} scene", "{count} scenes", len(scenes)),
    )


def _pad_sheet(desk: Desk, owner: Device, program: Program, control: Control) -> Sheet:
    """A pad in the bank that is shown: its message, how it feels, its layers."""
    bank = min(desk.bank, control.banks)
    sends = layers_of(program, control.id, bank)
    sends = sends or [Send(control=control.id, bank=bank, message="none")]
    rows = proof_rows(desk, ref_to(owner.id, control.id), control.banks)
    rows += send_rows(desk.plan, owner, program, control, sends)
    presses: list[Press] = []
    if sends[0].message == "note":
        presses = layer_presses(owner, program.number, sends)
    zones = set()
    for c in owner.controls:
        if control.input and c.input == control.input:
            zones.add(c.zone)
    if control.input and control.zone in ("head", "bow") and zones & {"rim", "edge"}:
        hat = partial(hat_without_pedal, desk.plan, owner.id, program.number, control.input)
        presses.append(Press(say("Hi-hat without a pedal"), "plus", hat))
    muted = any(send.muted_by == "hi-hat" for send in program.sends)
    if muted and all(send.muted_by is None and send.mutes is None for send in sends):
        half = partial(half_open_hat, desk.plan, owner.id, program.number, control.id, bank)
        presses.append(Press(say("Half-open hat here"), "plus", half))
    more = f", {say(control.zone)}" if control.zone else ""
    more += say(", bank {bank}", bank=bank) if control.banks > 1 else ""
    kind = say("Pad of {owner}{more}", owner=owner.name, more=more)
    rows += school_rows(desk, owner, control)
    rows += wishing_rows(desk, owner, control)
    rows.append(
        FactRow(
            say("Shape"),
            "choice",
            control.shape,
            lambda v: set_thing(
                owner.id, "controls", control.id, "control", say("Change shape"), shape=v
            ),
            choices=tuple((say(s), s) for s in ("square", "round", "bar")),
        )
    )
    ref = ref_to(owner.id, control.id)
    return Sheet(
        ref, control.name, kind, tuple(rows), tuple(presses), _shared(desk, owner, program.number)
    )


def wish_sheet(desk: Desk, ref: str) -> Sheet:
    """A wish: from where, to what, when."""
    ident = ref.removeprefix(WISH)
    wish = lookup.find(desk.plan.wishes, ident)
    if wish is None:
        return Sheet("", say("Wish"), say("Wish"), (), remark=say("This wish has been taken back."))
    end = wish.plays or wish.moves or ""
    there = lookup.device(desk.plan, device_of(end))
    rows = [
        FactRow(say("Name"), "text", wish.name, _setter(wish, say("Rename wish"), "name")),
        FactRow(
            say("Moves") if wish.moves else say("Plays"),
            "fixed",
            say("{end} in {there}", end=end_name(desk.plan, end), there=there.name),
        ),
        *_from(desk, wish),
        *_how(desk, wish, there),
        _when(desk, wish),
    ]
    if wish.plays:
        rows.append(
            FactRow(
                say("Own channel"),
                "check",
                wish.alone,
                _setter(wish, say("Wish own channel"), "alone"),
            )
        )
    matters = _setter(wish, say("Change how much it matters"), "matters")
    rows.append(FactRow(say("Matters, 1 to 5"), "number", wish.matters, matters, 1, 5))
    presses = (*_here(desk, wish), Press(say("Take back"), "trash-2", lambda: remove(wish.id)))
    return Sheet(ref, wish.name, say("Wish"), tuple(rows), presses, _scenes(desk, wish))


def _setter(wish: Wish, words: str, field: str) -> Make:
    return lambda v: change(wish.id, words, **{field: v})


def _from(desk: Desk, wish: Wish) -> list[FactRow]:
    source = wish.sources[0]
    owner = lookup.device(desk.plan, device_of(source))
    if not is_bed(desk.plan, source):
        known = lookup.by_ids(owner.controls)
        sources = [known[thing_of(s)] for s in wish.sources]
        bank = (
            say(", bank {bank}", bank=wish.bank) if any(item.banks > 1 for item in sources) else ""
        )
        names = listed((item.name for item in sources), 12)
        rows = [
            FactRow(
                say("From"),
                "fixed",
                say("{names} of {owner}{bank}", names=names, owner=owner.name, bank=bank),
            )
        ]
        hard = any(control_ability(item).hard for item in sources)
        return [*rows, *_velocity_rows(wish)] if hard and wish.plays else rows
    bed = lookup.keybed(owner, thing_of(source))
    low = bed.low if wish.low is None else wish.low
    high = bed.high if wish.high is None else wish.high
    return [
        FactRow(say("From"), "fixed", owner.name),
        FactRow(
            say("Lowest key"),
            "note",
            low,
            _setter(wish, say("Move wish end"), "low"),
            bed.low,
            bed.high,
            naming=owner.octaves,
        ),
        FactRow(
            say("Highest key"),
            "note",
            high,
            _setter(wish, say("Move wish end"), "high"),
            bed.low,
            bed.high,
            naming=owner.octaves,
        ),
        FactRow(
            say("Sounds shifted by"),
            "number",
            wish.shift,
            _setter(wish, say("Shift wish"), "shift"),
            -60,
            60,
        ),
        *_velocity_rows(wish),
    ]


def _velocity_rows(wish: Wish) -> list[FactRow]:
    """The velocities that a wish holds at."""
    words = say("Change wish velocity")
    soft, loud = _setter(wish, words, "vel_low"), _setter(wish, words, "vel_high")
    return [
        FactRow(say("Softest"), "number", wish.vel_low, soft, 1, 127),
        FactRow(say("Loudest"), "number", wish.vel_high, loud, 1, 127),
    ]


def _how(desk: Desk, wish: Wish, there: Device) -> list[FactRow]:
    """Which sounds of a kit, or which pitch, controls play; how far they move a target."""
    target = lookup.find(there.targets, thing_of(wish.moves or ""))
    if target is not None:
        return _range_rows(wish, target) if target.sweeps else []
    if is_bed(desk.plan, wish.sources[0]):
        return []
    part = lookup.find(there.parts, thing_of(wish.plays or ""))
    kit = lookup.find(there.kits, part.kit) if part else None
    if kit is not None:
        return _sound_rows(desk, wish, kit)
    note = 60 if wish.note is None else wish.note
    change_note = _setter(wish, say("Change wished note"), "note")
    return [FactRow(say("Sounds"), "note", note, change_note, naming=there.octaves)]


def _range_rows(wish: Wish, target: Target) -> list[FactRow]:
    """From where to where a target is wished to go; its own ends where nothing is typed."""
    unit = f", {target.unit}" if target.unit else ""

    def ends(field: str) -> Make:
        return lambda words: change(
            wish.id, say("Change wished range"), **{field: read_optional(words)}
        )

    begins, full = optional_words(wish.from_value), optional_words(wish.to_value)
    whole = wished_ends(wish, target)
    return [
        FactRow(say("At rest{unit}", unit=unit), "text", begins, ends("from_value")),
        FactRow(say("At full travel{unit}", unit=unit), "text", full, ends("to_value")),
        FactRow(
            say("That is"),
            "fixed",
            say(
                "from {first:.4g} to {last:.4g}{unit}",
                first=whole[0],
                last=whole[1],
                unit=unit[1:],
            ),
        ),
    ]


def _sound_rows(desk: Desk, wish: Wish, kit: Kit) -> list[FactRow]:
    """The sound that each control plays."""
    choices = tuple((sound.name, sound.id) for sound in kit.sounds)
    if len(wish.sources) == 1:
        return [
            FactRow(
                say("Sound"), "choice", wish.sound(0), partial(_choose, wish, 0), choices=choices
            )
        ]
    rows = []
    for place, source in enumerate(wish.sources):
        controls = lookup.device(desk.plan, device_of(source)).controls
        name = lookup.by_id(controls, thing_of(source), "control").name
        sound = wish.sounds[place] if place < len(wish.sounds) else ""
        rows.append(FactRow(name, "choice", sound, partial(_choose, wish, place), choices=choices))
    return rows


def _choose(wish: Wish, place: int, sound: str) -> Edit:
    """Another sound for the control at a place."""
    sounds = list(wish.sounds) + [""] * (len(wish.sources) - len(wish.sounds))
    sounds[place] = sound
    return change(wish.id, say("Change sound"), sounds=tuple(filter(None, sounds)))


def _when(desk: Desk, wish: Wish) -> FactRow:
    choices: list[tuple[str, Any]] = [(say("all scenes"), ())]
    for scene in desk.plan.scenes:
        choices.append((say("only {scene}", scene=scene.name), (scene.id,)))
    if wish.scenes and wish.scenes not in [c for _, c in choices]:
        choices.append((say_many("{count} scene", "{count} scenes", len(wish.scenes)), wish.scenes))
    return FactRow(
        say("In"),
        "choice",
        wish.scenes,
        _setter(wish, say("Change scenes of wish"), "scenes"),
        choices=tuple(choices),
    )


def _here(desk: Desk, wish: Wish) -> tuple[Press, ...]:
    """The scene that is played, to be added to those of a wish, or taken from them."""
    scene, every = desk.scene, [scene.id for scene in desk.plan.scenes]
    if scene is None or len(every) < 2:
        return ()
    now = wish.scenes or tuple(every)
    if scene.id not in now:
        more = tuple(ident for ident in every if ident in now or ident == scene.id)
        label, scenes = (
            say("Also in {scene}", scene=scene.name),
            () if more == tuple(every) else more,
        )
    else:
        label, scenes = (
            say("Not in {scene}", scene=scene.name),
            tuple(i for i in now if i != scene.id),
        )
    sign = "plus" if scene.id not in now else "x"
    return (Press(label, sign, partial(_in_scenes, wish, scenes, scene.id in now)),)


def _in_scenes(wish: Wish, scenes: tuple[str, ...], fewer: bool) -> Edit:
    """Another set of scenes.  Raises EditError where none would be left."""
    if fewer and not scenes:
        raise EditError(say("It holds in no other scene: take the wish back instead."))
    return change(wish.id, say("Change scenes of wish"), scenes=scenes)


def _scenes(desk: Desk, wish: Wish) -> str:
    names = []
    for scene in desk.plan.scenes:
        if scene.id in wish.scenes:
            names.append(scene.name)
    return say("It holds in {names}.", names=listed(names, 8)) if len(names) > 1 else ""
