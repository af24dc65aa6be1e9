"""The track list for a recorder: a line for every zone of every pad in every kit."""

from collections.abc import Iterable, Iterator, Mapping
from typing import NamedTuple

from vastzone.core.cards.csv_text import csv_text
from vastzone.core.engine.compile import Compiled, compile_scene
from vastzone.core.engine.named_sounds import named_sounds, wished_name
from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.edit import Edit, edit_program
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.fields.dials import records, scope_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.limits import kept_channels, most
from vastzone.core.plan.queries.plugged import pad_of
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import device_of, ref_to, send_place, setting_in
from vastzone.core.say import say

CHANNELS = 16
COLUMNS = ("track", "drum", "zone", "kit", "channel", "message", "sound")


class Track(NamedTuple):
    """What is recorded of one zone of a drum in one kit.

    ``number`` is that of the drum; ``channel`` 1–16, None where it follows zones of keys; ``note``
    0–127, None for another message; ``sound`` what it sounds, by name, or the drum’s own name where
    it is ``silent``.
    """

    number: int
    drum: str
    zone: str
    kit: str
    channel: int | None
    note: int | None
    words: str
    sound: str
    silent: bool = False


def drums(plan: Plan, owner: Device) -> dict[str, list[Control]]:
    """The pads of a device by drum: all zones of one pad together, else each by itself.

    A drum is called after the pad that is plugged in, or its input, or its control.  Once pads are
    plugged in, inputs that nothing is in are no drums.
    """
    jacks = lookup.names_of(owner.inputs)
    is_plugged = any(device_of(plug.input) == owner.id for plug in plan.plugs)
    by_drum: dict[str, tuple[str, list[Control]]] = {}
    for control in pads_of(owner):
        pad = _played_by(plan, owner, control)
        if pad is not None:
            key, name = f"pad {pad[0]}", pad[1]
        elif is_plugged and control.input is not None:
            continue
        else:
            key = control.input or control.id
            name = jacks.get(control.input or "", control.name)
        by_drum.setdefault(key, (name, []))[1].append(control)
    listed: dict[str, list[Control]] = {}
    for name, controls in by_drum.values():
        listed.setdefault(name, []).extend(controls)
    return listed


def _played_by(plan: Plan, owner: Device, control: Control) -> tuple[str, str] | None:
    """The pad that plays a control, by id and name: what the foot plays on a hat belongs to it."""
    pad = pad_of(plan, owner, control)
    if pad is not None and pad.sensor == "hi-hat":
        for other in owner.controls:
            hat = pad_of(plan, owner, other) if other.input == control.input else None
            if hat is not None and hat is not pad:
                pad = hat
                break
    return None if pad is None else (pad.id, pad.name)


def tracks(plan: Plan, owner: Device, programs: Iterable[Program] = ()) -> tuple[Track, ...]:
    """The track list of a device in some programs, all of them where none are said."""
    by_drum = drums(plan, owner)
    listed: list[Track] = []
    for program in tuple(programs) or owner.programs:
        listed.extend(_in_program(plan, owner, program, by_drum))
    numbers: dict[str, int] = {}
    for track in listed:
        numbers.setdefault(track.drum, len(numbers) + 1)
    return tuple(track._replace(number=numbers[track.drum]) for track in listed)


def _in_program(
    plan: Plan, owner: Device, program: Program, by_drum: Mapping[str, list[Control]]
) -> Iterator[Track]:
    compiled = compiled_on(plan, owner, program)
    kit = f"{program_words(owner, program.number)} {program.name}"
    for drum, controls in by_drum.items():
        if not any(_sends(program, control) for control in controls):
            zone = controls[0].zone or controls[0].name
            yield Track(0, drum, zone, kit, None, None, "sends nothing", "")
        for control in controls:
            for send in program.sends:
                if send.control != control.id or send.message == "none":
                    continue
                key = (ref_to(owner.id, control.id), send.bank)
                names = named_sounds(compiled, key, send.layer) if compiled is not None else ()
                sound = " / ".join(names) or _wished_sound(plan, key)
                note = send.number if send.message == "note" else None
                words = message_words(owner, send)
                zone = control.zone or control.name
                told = (send.channel, note, words, sound or drum, not sound)
                yield Track(0, drum, zone, kit, *told)


def compiled_on(plan: Plan, owner: Device, program: Program) -> Compiled | None:
    """The first scene in which a device is on a program; None where no scene is."""
    scenes = lookup.scenes_with(plan, owner, program.number)
    if plan.scenes and not scenes:
        return None
    return compile_scene(plan, scenes[0] if scenes else None)


def _sends(program: Program, control: Control) -> bool:
    """Whether a control sends anything in a program."""
    return any(s.control == control.id and s.message != "none" for s in program.sends)


def _wished_sound(plan: Plan, key: tuple[str, int]) -> str:
    """What a pad is wished to play, by name."""
    ref, bank = key
    for wish in plan.wishes:
        if wish.plays and ref in wish.sources and wish.bank == bank:
            return wished_name(plan, wish.plays, wish.sound(wish.sources.index(ref)))
    return ""


def message_words(owner: Device, send: Send) -> str:
    """What is sent: the note as the device numbers octaves, else the message with its number."""
    if send.message == "note":
        return pitch.label(send.number, owner.octaves)
    return f"{send.message} {send.number}"


def own_channels(plan: Plan, device: str, program: int) -> Edit:
    """Give each drum a channel of its own, the lowest first, as far as its module can.

    A channel that is locked stays, and no other drum gets it.  Raises EditError where the module
    sends all pads on one, or has too few.
    """
    owner = lookup.device(plan, device)
    number = lookup.program(owner, program)
    by_drum = drums(plan, owner)
    scope = scope_of(owner, "send-channel")
    if scope in ("fixed", "global", "program", "bank"):
        one = (
            say("one channel for all of them")
            if scope != "fixed"
            else say("channels that cannot be set")
        )
        raise EditError(
            say(
                "The pads of {owner} have {one}: a recorder tells its drums apart by their notes.",
                owner=owner.name,
                one=one,
            )
        )
    locked = _locked(plan, owner, number, by_drum)
    free = [c for c in _channels(owner) if c not in locked.values()]
    waiting = [name for name in by_drum if name not in locked]
    if len(waiting) > len(free):
        have = len(free) + len(set(locked.values()))
        raise EditError(
            say(
                "{count} drums want channels of their own and {owner} has {have}: let "
                "{waiting_free} "
                "of them share one, or send some by a second port.",
                count=len(by_drum),
                owner=owner.name,
                have=have,
                waiting_free=len(waiting) - len(free),
            )
        )
    channels = {**locked, **dict(zip(waiting, free, strict=False))}
    channel = {}
    for name, controls in by_drum.items():
        for control in controls:
            channel[control.id] = channels[name]

    def change(old: Program, _: Device) -> Program:
        sends = tuple(
            changed(send, channel=channel[send.control])
            if send.control in channel and send.message == "note"
            else send
            for send in old.sends
        )
        return changed(old, sends=sends)

    return edit_program(device, program, say("A channel for each drum"), change)


def _channels(owner: Device) -> list[int]:
    """The channels that a device can send on, the lowest first."""
    limit, kept = most(owner, "channels"), kept_channels(owner)
    channels = [channel for channel in range(1, CHANNELS + 1) if channel not in kept]
    return channels if limit is None else channels[: limit.most]


def _locked(
    plan: Plan, owner: Device, program: Program, by_drum: Mapping[str, list[Control]]
) -> dict[str, int]:
    """The drums whose channel is locked, with it."""
    held = records(plan)
    locked: dict[str, int] = {}
    for name, controls in by_drum.items():
        for send in program.sends:
            if send.channel is None or not any(send.control == c.id for c in controls):
                continue
            record = held.get(setting_in(send_place(owner.id, program.id, send.thing), "channel"))
            if record is not None and record.hold == "locked":
                locked.setdefault(name, send.channel)
    return locked


def to_csv(held: tuple[Track, ...]) -> str:
    """The track list as CSV, a line for every zone of every pad in every kit."""
    rows = []
    for track in held:
        channel = "" if track.channel is None else str(track.channel)
        rows.append(
            (track.number, track.drum, track.zone, track.kit, channel, track.words, track.sound)
        )
    return csv_text(COLUMNS, rows)
