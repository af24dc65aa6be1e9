"""Facts of controls and of wishes."""

from functools import partial
from typing import Any

from vastzone.app.frame.sheet import Make, Press, Row, Sheet
from vastzone.app.frame.sheets_console import shoe_rows
from vastzone.app.frame.sheets_feel import feel_presses, feel_rows
from vastzone.app.frame.sheets_pedals import jack_rows, sweep_rows
from vastzone.app.frame.sheets_sweep import MESSAGE_WORDS, drive_rows, number_rows, range_rows
from vastzone.core.midi.wide import WIDE
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.layers import hat_without_pedal, layers_of
from vastzone.core.plan.model import Device
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Control, Program, Send
from vastzone.core.plan.wish import Intent
from vastzone.core.plan.wishes import change, is_bed, remove
from vastzone.core.proof.words import end_name, listed
from vastzone.desk.session import Desk

WISH = "wish "
MESSAGES = ("none", "note", "controller", "pair", "rpn", "nrpn", "program", "bend", "pressure")
MODES = ("momentary", "toggle", "trigger")


def control_sheet(desk: Desk, owner: Device, control: Control) -> Sheet:
    """What a control sends in the program that its device is on here, bank by bank."""
    number = lookup.program_number(desk.scene, owner)
    rows = [Row("Kind", "fixed", control.kind), *drive_rows(owner, control)]
    if number is not None:
        held = lookup.program(owner, number)
        if control.kind == "pad":
            return _pad_sheet(desk, owner, held, control)
        for bank in range(1, control.banks + 1):
            send = next(
                (s for s in held.sends if (s.control, s.bank) == (control.id, bank)),
                Send(control=control.id, bank=bank, message="none"),
            )
            rows += _send_rows(owner, number, control, send)
    ref = ref_to(owner.id, control.id)
    for send, target in _swept(desk, ref):
        rows += sweep_rows(send, target)
    rows += jack_rows(desk.plan, owner, control.id)
    rows += shoe_rows(owner, control.id)
    remark = _shared(desk, owner, number)
    return Sheet(ref, control.name, f"Control of {owner.name}", tuple(rows), (), remark)


def _swept(desk: Desk, ref: str) -> list[tuple[Send, Target]]:
    """The targets that a control moves here."""
    return [
        (sending.send, hearing.target)
        for sending in desk.compiled.controls.get((ref, 1), ())
        for motion in sending.motions
        for hearing in motion.hearings
        if hearing.target is not None
    ]


def _shared(desk: Desk, owner: Device, number: int | None) -> str:
    scenes = lookup.scenes_with(desk.plan, owner, number) if number is not None else ()
    if len(scenes) < 2:
        return ""
    return f"Program {(number or 0) + owner.first_program} is shared by {len(scenes)} scenes."


def _pad_sheet(desk: Desk, owner: Device, held: Program, control: Control) -> Sheet:
    """A pad in the bank that is shown: its message, how it feels, its layers."""
    bank = min(desk.bank, control.banks)
    sends = layers_of(held, control.id, bank)
    sends = sends or [Send(control=control.id, bank=bank, message="none")]
    rows = _send_rows(owner, held.number, control, sends[0])
    presses: list[Press] = []
    if sends[0].message == "note":
        rows += feel_rows(desk.plan, owner, held.number, sends)
        presses = feel_presses(owner, held.number, sends)
    zones = {c.zone for c in owner.controls if control.input and c.input == control.input}
    if control.input and control.zone in ("head", "bow") and zones & {"rim", "edge"}:
        hat = partial(hat_without_pedal, desk.plan, owner.id, held.number, control.input)
        presses.append(Press("Hi-hat without a pedal", "plus", hat))
    more = f", {control.zone}" if control.zone else ""
    more += f", bank {bank}" if control.banks > 1 else ""
    kind = f"Pad of {owner.name}{more}"
    rows.append(
        Row(
            "Shape",
            "choice",
            control.shape,
            lambda v: edits.set_thing(
                owner.id, "controls", control.id, "control", "Change shape", shape=v
            ),
            choices=tuple((s, s) for s in ("square", "round", "bar")),
        )
    )
    ref = ref_to(owner.id, control.id)
    return Sheet(
        ref, control.name, kind, tuple(rows), tuple(presses), _shared(desk, owner, held.number)
    )


def _send_rows(owner: Device, number: int, control: Control, send: Send) -> list[Row]:
    def setter(words: str, field: str) -> Make:
        return lambda v: edits.set_send(
            owner.id, number, control.id, send.bank, words, **{field: v}
        )

    several = control.banks > 1 and control.kind != "pad"
    bank = f"Bank {send.bank}: " if several else ""

    def named(word: str) -> str:
        return f"{bank}{word}" if bank else f"{word[0].upper()}{word[1:]}"

    rows = [
        Row(
            named("sends"),
            "choice",
            send.message,
            setter("Change message", "message"),
            choices=tuple((MESSAGE_WORDS.get(m, m), m) for m in MESSAGES),
        )
    ]
    if send.message == "none":
        return rows
    channels: tuple[tuple[str, Any], ...] = (
        ("as the zones", None),
        *((str(c), c) for c in range(1, 17)),
    )
    rows.append(
        Row(
            named("channel"),
            "choice",
            send.channel,
            setter("Change channel", "channel"),
            choices=channels,
        )
    )
    if send.message == "note":
        rows.append(
            Row(
                named("note"),
                "note",
                send.number,
                setter("Change note", "number"),
                naming=owner.octaves,
            )
        )
    elif send.message in WIDE:
        rows += number_rows(send.message, send.number, send.page, named, setter, "number")
    elif send.message == "program":
        rows.append(
            Row(named("program"), "number", send.number, setter("Change program", "number"), 0, 127)
        )
    if send.message in WIDE:
        rows += range_rows(send, named, setter)
    if send.message != "program":
        rows.append(
            Row(
                named("mode"),
                "choice",
                send.mode,
                setter("Change mode", "mode"),
                choices=tuple((m, m) for m in MODES),
            )
        )
    return rows


def wish_sheet(desk: Desk, ref: str) -> Sheet:
    """A wish: from where, to what, when."""
    ident = ref.removeprefix(WISH)
    intent = lookup.find(desk.plan.intents, ident)
    if intent is None:
        return Sheet("", "Wish", "Wish", (), remark="This wish has been taken back.")
    end = intent.plays or intent.moves or ""
    there = lookup.device(desk.plan, device_of(end))
    rows = [
        Row("Name", "text", intent.name, _setter(intent, "Rename wish", "name")),
        Row(
            "Moves" if intent.moves else "Plays",
            "fixed",
            f"{end_name(desk.plan, end)} in {there.name}",
        ),
        *_from(desk, intent),
        *_how(desk, intent, there),
        _when(desk, intent),
    ]
    if intent.plays:
        rows.append(
            Row("Own channel", "check", intent.alone, _setter(intent, "Wish own channel", "alone"))
        )
    press = Press("Take back", "trash-2", lambda: remove(intent.id))
    return Sheet(ref, intent.name, "Wish", tuple(rows), (press,), _scenes(desk, intent))


def _setter(intent: Intent, words: str, field: str) -> Make:
    return lambda v: change(intent.id, words, **{field: v})


def _from(desk: Desk, intent: Intent) -> list[Row]:
    source = intent.sources[0]
    owner = lookup.device(desk.plan, device_of(source))
    if not is_bed(desk.plan, source):
        known = {c.id: c for c in owner.controls}
        held = [known[thing_of(s)] for s in intent.sources]
        bank = f", bank {intent.bank}" if any(c.banks > 1 for c in held) else ""
        names = listed((c.name for c in held), 12)
        return [Row("From", "fixed", f"{names} of {owner.name}{bank}")]
    bed = lookup.keybed(owner, thing_of(source))
    low = bed.low if intent.low is None else intent.low
    high = bed.high if intent.high is None else intent.high
    return [
        Row("From", "fixed", owner.name),
        Row(
            "Lowest key",
            "note",
            low,
            _setter(intent, "Move wish end", "low"),
            bed.low,
            bed.high,
            naming=owner.octaves,
        ),
        Row(
            "Highest key",
            "note",
            high,
            _setter(intent, "Move wish end", "high"),
            bed.low,
            bed.high,
            naming=owner.octaves,
        ),
        Row(
            "Sounds shifted by",
            "number",
            intent.shift,
            _setter(intent, "Shift wish", "shift"),
            -60,
            60,
        ),
        Row(
            "Softest",
            "number",
            intent.vel_low,
            _setter(intent, "Change wish velocity", "vel_low"),
            1,
            127,
        ),
        Row(
            "Loudest",
            "number",
            intent.vel_high,
            _setter(intent, "Change wish velocity", "vel_high"),
            1,
            127,
        ),
    ]


def _how(desk: Desk, intent: Intent, there: Device) -> list[Row]:
    """Which sounds of a kit, or which pitch, controls play."""
    if intent.moves or is_bed(desk.plan, intent.sources[0]):
        return []
    part = lookup.find(there.parts, thing_of(intent.plays or ""))
    kit = next((k for k in there.kits if part and k.id == part.kit), None)
    if kit is None:
        note = 60 if intent.note is None else intent.note
        return [
            Row(
                "Sounds",
                "note",
                note,
                _setter(intent, "Change wished note", "note"),
                naming=there.octaves,
            )
        ]
    choices = tuple((s.name, s.id) for s in kit.sounds)
    rows = []
    for n, source in enumerate(intent.sources):
        sound = intent.sounds[n] if n < len(intent.sounds) else ""
        held = lookup.device(desk.plan, device_of(source)).controls
        name = lookup.by_id(held, thing_of(source), "control").name

        def setter(v: str, n: int = n) -> Any:
            sounds = list(intent.sounds) + [""] * (len(intent.sources) - len(intent.sounds))
            sounds[n] = v
            return change(intent.id, "Change sound", sounds=tuple(s for s in sounds if s))

        label_ = "Sound" if len(intent.sources) == 1 else name
        rows.append(Row(label_, "choice", sound, setter, choices=choices))
    return rows


def _when(desk: Desk, intent: Intent) -> Row:
    scene = desk.scene
    choices: list[tuple[str, Any]] = [("all scenes", ())]
    if scene is not None:
        choices.append((f"only {scene.name}", (scene.id,)))
    if intent.scenes and intent.scenes not in [c for _, c in choices]:
        choices.append((f"{len(intent.scenes)} scenes", intent.scenes))
    return Row(
        "In",
        "choice",
        intent.scenes,
        _setter(intent, "Change scenes of wish", "scenes"),
        choices=tuple(choices),
    )


def _scenes(desk: Desk, intent: Intent) -> str:
    names = [s.name for s in desk.plan.scenes if s.id in intent.scenes]
    return f"It holds in {listed(names, 8)}." if len(names) > 1 else ""
